#include "app/shell/side_sheet.h"

#include "app/shell/guide.h"

#include <QKeyEvent>

#include <cmath>

#include "app/look/theme.h"
#include "app/shell/datum_sheet.h"
#include "app/shell/import_sheet.h"
#include "app/shell/photo_sheet.h"
#include "app/shell/practice_sheet.h"

namespace bevelsmith::app {

SideSheet::SideSheet(Document& document, const QString& title) : document_(document) {
    setObjectName("sheet");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(sheet_width);
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, size::gap, 0, 0);
    column->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(size::pad, 0, size::pad, 0);
    auto* name = new QLabel(title);
    name->setObjectName("title");
    auto* close = new QPushButton("Close");
    close->setObjectName("quiet");
    row->addWidget(name, 1);
    row->addWidget(close);
    column->addLayout(row);
    panel_ = new Panel;
    column->addWidget(panel_, 1);
    connect(close, &QPushButton::clicked, this, &SideSheet::close_asked);
}

void SideSheet::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) emit close_asked();
    else QWidget::keyPressEvent(event);
}

SideSheet* make_sheet(Document& document, const QString& name) {
    if (name == "findings") return new FindingsSheet(document);
    if (name == "papers") return new PapersSheet(document);
    if (name == "new set") return new NewSetSheet(document);
    if (name == "guide") return new GuideSheet(document);
    if (name == "import") return new ImportSheet(document);
    if (name == "datum") return new DatumSheet(document);
    if (name == "photo") return new PhotoSheet(document);
    if (name == "practice") return new PracticeSheet(document);
    if (name == "keys") return new ShortcutsSheet(document);
    if (!name.startsWith("new piece")) return nullptr;
    if (name.startsWith("new piece at ")) return new NewPieceSheet(document, name.mid(13).toDouble());
    return new NewPieceSheet(document, std::nullopt);
}

}  // namespace bevelsmith::app

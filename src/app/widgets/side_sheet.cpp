#include "app/widgets/side_sheet.h"

#include <QKeyEvent>

#include "app/look/theme.h"

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

}  // namespace bevelsmith::app

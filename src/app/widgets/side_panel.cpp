#include "app/widgets/side_panel.h"

#include <QKeyEvent>

#include "app/look/theme.h"

namespace bevelsmith::app {

SidePanel::SidePanel(Document& document, const QString& title) : document_(document) {
    setObjectName("side");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(panel_width);
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
    connect(close, &QPushButton::clicked, this, &SidePanel::close_asked);
}

void SidePanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) emit close_asked();
    else QWidget::keyPressEvent(event);
}

}  // namespace bevelsmith::app

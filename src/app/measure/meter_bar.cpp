#include "app/measure/meter_bar.h"

#include <QLineEdit>
#include <QShortcut>
#include <QStyle>
#include <QVBoxLayout>

#include "app/look/theme.h"

namespace bevelsmith::app {

MeterBar::MeterBar(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(size::unit);
    auto* row = new QHBoxLayout;
    port_ = new QComboBox;
    port_->setEditable(true);
    port_->setAccessibleName("meter's port");
    port_->lineEdit()->setPlaceholderText("port of the meter");
    connect_ = new QPushButton("Connect");
    connect_->setObjectName("quiet");
    row->addWidget(port_, 1);
    row->addWidget(connect_);
    column->addLayout(row);
    auto* below = new QHBoxLayout;
    ask_ = new QPushButton("Measure (F7)");
    state_ = new QLabel;
    state_->setObjectName("small");
    state_->setWordWrap(true);
    below->addWidget(ask_);
    below->addWidget(state_, 1);
    column->addLayout(below);
    auto* key = new QShortcut(Qt::Key_F7, this);
    connect(key, &QShortcut::activated, &link_, &MeterLink::ask);
    connect(ask_, &QPushButton::clicked, &link_, &MeterLink::ask);
    const auto turn = [this] {
        link_.connected() ? link_.close() : link_.open(port_->currentText().trimmed());
        if (!link_.connected() && state_->objectName() == "small") state_->setText("Not connected.");
        refresh();
    };
    connect(connect_, &QPushButton::clicked, this, turn);
    connect(port_->lineEdit(), &QLineEdit::returnPressed, this, turn);
    connect(&link_, &MeterLink::measured, this, &MeterBar::measured);
    connect(&link_, &MeterLink::said, this, [this](const QString& words, bool fault) {
        state_->setText(words);
        state_->setObjectName(fault ? "fault" : "small");
        state_->style()->unpolish(state_);
        state_->style()->polish(state_);
        refresh();
    });
    refresh();
}

void MeterBar::showEvent(QShowEvent* event) {
    const QString typed = port_->currentText();
    port_->clear();
    port_->addItems(MeterLink::ports());
    if (!typed.isEmpty()) port_->setEditText(typed);
    QWidget::showEvent(event);
}

void MeterBar::refresh() {
    connect_->setText(link_.connected() ? "Disconnect" : "Connect");
    ask_->setEnabled(link_.connected());
}

}  // namespace bevelsmith::app

#include "app/widgets/manners.h"

#include <QAbstractButton>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QFocusEvent>
#include <QKeyEvent>
#include <QLineEdit>
#include <QScrollBar>
#include <utility>

#include "app/widgets/panel.h"

namespace bevelsmith::app {
namespace {

bool holds_a_value(QObject* watched) {
    if (qobject_cast<QComboBox*>(watched) || qobject_cast<QAbstractSpinBox*>(watched)) return true;
    return qobject_cast<QAbstractSlider*>(watched) && !qobject_cast<QScrollBar*>(watched);
}

bool press(QObject* watched, const QKeyEvent& key) {
    auto* button = qobject_cast<QAbstractButton*>(watched);
    if (!button || (key.key() != Qt::Key_Return && key.key() != Qt::Key_Enter)) return false;
    if (button->property(takes_enter).toBool()) return false;
    button->click();
    return true;
}

bool leave_undo_to_the_job(QObject* watched, QKeyEvent& key) {
    auto* edit = qobject_cast<QLineEdit*>(watched);
    const bool undo = key.matches(QKeySequence::Undo), redo = key.matches(QKeySequence::Redo);
    if (!edit || !((undo && !edit->isUndoAvailable()) || (redo && !edit->isRedoAvailable()))) return false;
    key.ignore();
    return true;
}

}  // namespace

void Manners::focus_came(QObject* watched, Qt::FocusReason reason) {
    if (qobject_cast<QLineEdit*>(watched)) entered_ = reason == Qt::MouseFocusReason ? watched : nullptr;
    auto* widget = qobject_cast<QWidget*>(watched);
    if (!widget) return;
    const QPointer<QWidget> before = std::exchange(last_, widget);
    if (reason != Qt::TabFocusReason && reason != Qt::BacktabFocusReason) return;
    QWidget* up = widget;
    while (up && !qobject_cast<Panel*>(up)) up = up->parentWidget();
    auto* panel = qobject_cast<Panel*>(up);
    if (panel && (!before || !panel->isAncestorOf(before))) panel->enter(reason == Qt::TabFocusReason);
}

bool Manners::eventFilter(QObject* watched, QEvent* event) {
    switch (event->type()) {
        case QEvent::Wheel:
            if (!holds_a_value(watched)) break;
            event->ignore();  // and so it comes to what scrolls around it
            return true;
        case QEvent::KeyPress:
            if (press(watched, *static_cast<QKeyEvent*>(event))) return true;
            break;
        case QEvent::ShortcutOverride:
            if (leave_undo_to_the_job(watched, *static_cast<QKeyEvent*>(event))) return true;
            break;
        case QEvent::FocusIn: focus_came(watched, static_cast<QFocusEvent*>(event)->reason()); break;
        case QEvent::MouseButtonRelease:
            if (watched != entered_) break;
            entered_ = nullptr;
            if (auto* edit = qobject_cast<QLineEdit*>(watched); edit && !edit->hasSelectedText()) edit->selectAll();
            break;
        default: break;
    }
    return QObject::eventFilter(watched, event);
}

}  // namespace bevelsmith::app

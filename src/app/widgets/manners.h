// How every field and button of the window behaves, whichever screen it stands on.
#pragma once

#include <QObject>
#include <QPointer>
#include <QWidget>

namespace bevelsmith::app {

/// A property of buttons that mean something of their own by Enter.
inline constexpr char takes_enter[] = "takes enter";

/// An event filter for the application. Enter presses the button that has the focus. The wheel scrolls and never
/// changes a value. A field that is entered offers its value selected, so that typing replaces it. A field takes
/// Ctrl+Z only while it has typing of its own to undo; else the job's undo gets it. Tab enters a panel at its first
/// field.
class Manners : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void focus_came(QObject* watched, Qt::FocusReason reason);
    /// Entered by the mouse: selected when the button comes up, unless a part of it was chosen with it.
    QObject* entered_ = nullptr;
    QPointer<QWidget> last_;  ///< what had the keys before
};

}  // namespace bevelsmith::app

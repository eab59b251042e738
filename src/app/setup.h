// What the program and its window tests need before the first widget.
#pragma once

#include <QApplication>
#include <functional>

namespace bevelsmith::app {

/// An exception in a slot or a painting ends no program: it is told to `on_fault`, and the event loop goes on.
class Application : public QApplication {
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override;
    /// What could not be done, and why, in plain words.
    std::function<void(const QString& what, const QString& why)> on_fault;
};

/// Name and version alone, which need no screen.
void name_program();
/// Name, style, typeface, icons and the demo job as resources.
void set_up(QApplication& application);

}  // namespace bevelsmith::app

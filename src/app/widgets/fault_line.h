// What is wrong with what was typed, where, and what to do; takes no room while nothing is.
#pragma once

#include <QLabel>

namespace bevelsmith::app {

class FaultLine : public QLabel {
    Q_OBJECT
  public:
    explicit FaultLine(QWidget* parent = nullptr);
    /// Shows `fault`, or hides when it is empty.
    void say(const QString& fault);
    void clear() { say({}); }
};

}  // namespace bevelsmith::app

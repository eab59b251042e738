// A line of text that is acted upon when it is entered.
#pragma once

#include <QLineEdit>
#include <functional>

namespace bevelsmith::app {

/// Calls `act` on Enter, and when the field is left with another text than it was entered with: Tab does as much.
void when_entered(QLineEdit& edit, const std::function<void()>& act);

}  // namespace bevelsmith::app

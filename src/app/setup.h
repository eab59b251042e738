// What the program and its window tests need before the first widget.
#pragma once

class QApplication;

namespace bevelsmith::app {

/// Name, style, typeface, icons and the demo job as resources.
void set_up(QApplication& application);

}  // namespace bevelsmith::app

// What the program and its window tests need before the first widget.
#pragma once

class QApplication;

namespace bevelsmith::app {

/// Name and version alone, which need no screen.
void name_program();
/// Name, style, typeface, icons and the demo job as resources.
void set_up(QApplication& application);

}  // namespace bevelsmith::app

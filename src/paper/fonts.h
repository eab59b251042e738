// The typeface that ships with the program.
#pragma once

#include <QString>

namespace bevelsmith::paper {

/// Makes the bundled typeface known to Qt, once; gives its family name. Needs a QGuiApplication.
QString bundled_family();

}  // namespace bevelsmith::paper

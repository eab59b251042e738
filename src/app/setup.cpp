#include "app/setup.h"

#include <QApplication>
#include <QStyleFactory>

#include "app/look/theme.h"

// Resources in a static library are linked in only when they are named, and only outside of namespaces.
static void init_resources() {
    Q_INIT_RESOURCE(icons);
    Q_INIT_RESOURCE(demo);
}

namespace bevelsmith::app {

void name_program() {
    QCoreApplication::setApplicationName("bevelsmith");
    QCoreApplication::setApplicationVersion(BEVELSMITH_VERSION);
}

void set_up(QApplication& application) {
    init_resources();
    name_program();
    application.setApplicationDisplayName("Bevelsmith");
    application.setStyle(QStyleFactory::create("Fusion"));
    application.setFont(Theme::font(size::text));
    theme().set_night(false);
}

}  // namespace bevelsmith::app

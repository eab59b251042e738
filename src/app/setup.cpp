#include "app/setup.h"

#include <QApplication>
#include <QStyleFactory>
#include <clocale>
#include <new>

#include "app/look/theme.h"

// Resources in a static library are linked in only when they are named, and only outside of namespaces.
static void init_resources() {
    Q_INIT_RESOURCE(icons);
    Q_INIT_RESOURCE(demo);
}

namespace bevelsmith::app {

bool Application::notify(QObject* receiver, QEvent* event) {
    const auto tell = [this](const QString& why) {
        if (on_fault) on_fault("what was done last in the window", why);
        return false;
    };
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::bad_alloc&) {
        return tell("there is not enough memory for it");
    } catch (const std::exception&) {
        return tell("a fault of the program; the job itself is as it was");
    }
}

void name_program() {
    QCoreApplication::setApplicationName("bevelsmith");
    QCoreApplication::setApplicationVersion(BEVELSMITH_VERSION);
}

void set_up(QApplication& application) {
    init_resources();
    name_program();
    // The application takes up the person's locale; figures in files and in what is computed have a point.
    std::setlocale(LC_NUMERIC, "C");
    application.setApplicationDisplayName("Bevelsmith");
    application.setStyle(QStyleFactory::create("Fusion"));
    application.setFont(Theme::font(size::text));
    theme().set_night(false);
}

}  // namespace bevelsmith::app

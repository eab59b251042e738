// Makes docs/screenshots/ from the demo: one picture of each main view. Run under Xvfb:
//   xvfb-run -a -s "-screen 0 1280x800x24" build/ci/tests/bevelsmith_pictures docs/screenshots
#include <QDir>

#include "app/look/theme.h"
#include "window/driver.h"

int main(int argc, char** argv) {
    const QDir folder(argc > 1 ? argv[1] : ".");
    folder.mkpath(".");
    driver::Window w;
    w.main.resize(1280, 800);
    int failed = 0;
    const auto shoot = [&](const QString& name) {
        w.settle();
        QTest::qWait(200);
        if (!w.main.grab().save(folder.filePath(name + ".png"))) ++failed;
    };
    shoot("welcome");
    w.main.open_demo();
    w.settle();
    w.document.select_piece("B1");
    for (const char* step : {"Measure", "Shape", "Pieces", "Cut", "Weigh"}) {
        w.main.show_step(step);
        shoot(QString(step).toLower());
    }
    w.document.select_piece("B2");
    w.main.show_step("Fix");
    shoot("fix");
    w.document.select_piece("B1");
    w.main.show_step("Pieces");
    w.main.show_sheet("papers");
    shoot("papers");
    w.main.show_sheet("findings");
    shoot("attention");
    bevelsmith::app::theme().set_night(true);
    w.key(Qt::Key_Escape);
    shoot("night");
    return failed;
}

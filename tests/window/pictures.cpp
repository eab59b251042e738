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
    if (argc > 2) {  // more, for looking only
        for (const char* sheet : {"new set", "new piece", "import", "keys"}) {
            w.main.show_sheet(sheet);
            shoot(QString(sheet).replace(' ', '-'));
        }
        w.key(Qt::Key_Escape);
        w.main.show_step("Fix");
        shoot("fix-tabbing");
        w.document.edit("unit",
                        [](bevelsmith::job::Job& job) { job.unit = bevelsmith::units::LengthUnit::feet_inches; });
        w.main.show_step("Pieces");
        shoot("pieces-feet");
        w.main.resize(1024, 640);
        shoot("pieces-small");
        w.main.resize(1280, 800);
        w.main.begin_new();
        for (const char* step : {"Measure", "Shape", "Pieces", "Cut"}) {
            w.main.show_step(step);
            w.key(Qt::Key_Escape);
            shoot(QString("empty-") + QString(step).toLower());
        }
        return failed;
    }
    bevelsmith::app::theme().set_night(true);
    w.key(Qt::Key_Escape);
    shoot("night");
    return failed;
}

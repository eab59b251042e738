// Makes docs/screenshots/ from the demo: one picture of each main view. Run under Xvfb:
//   xvfb-run -a -s "-screen 0 1280x800x24" build/ci/tests/bevelsmith_pictures docs/screenshots
#include <QDir>

#include <QFile>
#include <QProcess>
#include <QToolButton>

#include "app/cut/sheet_drawing.h"
#include "app/keeping/journal.h"
#include "app/look/theme.h"
#include "app/measure/photo_view.h"
#include "app/measure/school_sketch.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/pipeline.h"
#include "job/starting_unit.h"
#include "paper/boat_pages.h"
#include "practice/instruments.h"
#include "support/jobs.h"
#include "support/photo.h"
#include "support/practice_jobs.h"
#include "survey/instruments.h"
#include "window/driver.h"

namespace {

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

/// The demo's hull as a scanner would see it, in metres.
void show_scan(Window& w) {
    QDir::setCurrent(QDir::tempPath());
    const QString path = "cabin.xyz";
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly)) return;
    const practice::VirtualBoat boat({});
    for (int i = 0; i < 40000; ++i) {
        const Vec3 p = boat.at((i % 200) * 15.0, -3.05 + (i / 200) * 2.95 / 200) / 1000;
        file.write(QString("%1 %2 %3\n").arg(p.x()).arg(p.y()).arg(p.z()).toUtf8());
    }
    file.close();
    w.main.show_panel(panel::Import{});
    w.named<QLineEdit>("points file")->setText(path);
    QTest::qWait(500);
    w.fill("fwd to", "2200");
    QTest::qWait(500);
    file.remove();
}

/// Of the paper that tells how the demo stood, the page of the part that goes back; by poppler.
bool old_state(const QDir& folder) {
    const job::Job job = job::in_full(jobs::demo("ternlight"));
    const jobs::Folder work;
    const std::string pdf = work.file("old.pdf");
    const auto done = paper::write_old_state(job, job::Pipeline().compute(job), pdf);
    return done && QProcess::execute("pdftoppm", {"-r", "90", "-png", "-singlefile", "-f", "2", "-l", "2",
                                                  QString::fromStdString(pdf), folder.filePath("old-state")}) == 0;
}

void show_photo(Window& w) {
    w.main.show_panel(panel::Photo{});
    w.click("Sample, aslant");
    auto* view = w.named<app::PhotoView>("photo");
    // Where the sample's marks lie, found once by eye.
    const double scale = std::min(view->width() / 1600.0, view->height() / 1200.0);
    const QPointF corner((view->width() - 1600 * scale) / 2, (view->height() - 1200 * scale) / 2);
    const photos::Template card;
    photos::Shot shot{28, 250, 0.02, 0, 0, 160, 120};
    const auto small = photos::rendered(card, shot);
    for (const Vec2& mark : small.marks_px)
        QTest::mouseClick(view, Qt::LeftButton, Qt::NoModifier,
                          (corner + scale * 10 * QPointF(mark.x(), mark.y())).toPoint());
    w.click("Find the edge");
    QTest::qWait(1500);
}

void show_ridge(Window& w) {
    w.main.begin_practice(7);
    w.key(Qt::Key_Escape);
    w.document.edit("A chined boat", [](job::Job& job) { job = practice_jobs::unsaid_chine(); });
    w.main.show_step(StepId::shape);
}

void show_practice(Window& w) {
    w.main.begin_practice(7);
    w.click("Leave it kept");  // what stood before it is kept, as the strip says
    w.document.edit("This boat", [](job::Job& job) { job.practice->boat.seed = 5; });
    for (const char* at : {"900", "1300", "1700", "2100"}) {
        w.fill("at, fwd", at);
        w.click("Take these readings");
    }
    w.settle();
    w.click("Cut it and offer it up");
}

/// How each school is held, all on one sheet.
void show_schools(const QString& folder) {
    QWidget sheet;
    auto* grid = new QGridLayout(&sheet);
    for (int k = 0; k < survey::school_count; ++k) {
        auto* sketch = new app::SchoolSketch;
        sketch->show_school(static_cast<survey::School>(k));
        sketch->setMinimumWidth(330);
        grid->addWidget(sketch, k / 3, k % 3);
    }
    sheet.resize(1040, 920);
    sheet.grab().save(folder + "/schools.png");
}

/// One set of each instrument that leaves something to be seen on the drawing: half a circle of a metre's radius.
void show_instruments(Window& w, const std::function<void(const QString&)>& shoot) {
    using survey::School;
    for (const School school : {School::tick_stick, School::fixed_points, School::compass_scribe, School::strip_edges,
                                School::laser_meter, School::bevel_gauge}) {
        w.main.begin_new();
        w.key(Qt::Key_Escape);
        w.document.edit("A set", [&](job::Job& job) {
            job::JobReadingSet set;
            static_cast<survey::ReadingSet&>(set) = survey::usual_set(school);
            set.id = "R1";
            set.name = "Set";
            set.surface_id = job.surfaces.front().id;
            set.fixed_points = {{-400, 0}, {400, 0}};
            set.left_of_pins = false;
            for (int k = 1; k < 12; ++k) {
                const double a = -0.26 * k;
                const Vec2 p(1000 * std::cos(a), 1000 * std::sin(a)), in = -p.normalized();
                const Vec2 next(1000 * std::cos(a - 0.26), 1000 * std::sin(a - 0.26));
                auto& v = set.readings.emplace_back().values;
                const Vec2 mark = p + 300 * in, back = p + 700 * in;
                const double degrees = a * 180 / M_PI;
                if (school == School::tick_stick) v = {mark.x(), mark.y(), back.x(), back.y(), 3};
                if (school == School::fixed_points)
                    v = {(p - set.fixed_points[0]).norm(), (p - set.fixed_points[1]).norm()};
                if (school == School::compass_scribe) v = {p.x() + 50 * in.x(), p.y() + 50 * in.y(), degrees};
                if (school == School::strip_edges)
                    v = {0.9 * p.x() + 0.1 * next.x(), 0.9 * p.y() + 0.1 * next.y(), 0.3 * p.x() + 0.7 * next.x(),
                         0.3 * p.y() + 0.7 * next.y()};
                if (school == School::laser_meter) v = {1000, degrees + 90, 8};
                if (school == School::bevel_gauge) v = {p.x(), p.y(), 2.0 * k};
            }
            job.readings = {set};
        });
        w.main.show_step(StepId::measure);
        shoot("set-" + QString(survey::school_id(school)).replace(' ', '_'));
    }
}

/// A press on a part of the first sheet.
void choose_part(driver::Window& w) {
    auto* view = static_cast<app::SheetDrawing*>(w.step_drawing(StepId::cut));
    const auto& sheets = w.document.computed()->results.sheets.front();
    const auto& at = sheets.layout->placements.front();
    const auto shape = sheets::placed(*sheets.problem, at);
    QTest::mouseClick(view, Qt::LeftButton, {}, view->to_widget(geometry::centroid(shape)).toPoint());
}

void show_outlines(driver::Window& w, const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly)) return;
    file.write(
        "0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nPANELS\n90\n6\n70\n1\n10\n0\n20\n0\n10\n900\n20\n0\n10\n900\n20\n"
        "300\n"
        "10\n400\n20\n300\n10\n400\n20\n700\n10\n0\n20\n700\n0\nCIRCLE\n8\nHOLES\n10\n200\n20\n200\n40\n60\n0\nENDSEC"
        "\n0\n"
        "EOF\n");
    file.close();
    w.main.show_panel(panel::Outlines{});
    w.fill("drawing file", path);
    w.choose("openings", 2);
}

/// Two jobs that were left without saving, as the next start finds them.
void leave_work() {
    for (const char* name : {"Fit-out of Ternlight", "Saloon lockers"}) {
        app::Document document;
        app::Journal journal(document);
        document.replace(*job::load_job(std::string(BEVELSMITH_SOURCE_DIR) + "/demo/ternlight.job.json"), {});
        document.edit("A reading", [](job::Job& job) { job.readings[1].readings[2].values[0] += 4; });
        document.edit("A name", [&](job::Job& job) { job.name = name; });
        document.edit("A piece", [](job::Job& job) { job.pieces[1].plane.d_mm += 35; });
        document.edit("An opening", [](job::Job& job) { job.pieces[0].openings.clear(); });
        (void)journal.flush();
    }
}

}  // namespace

int main(int argc, char** argv) {
    const QDir folder(QDir(argc > 1 ? argv[1] : ".").absolutePath());
    folder.mkpath(".");
    driver::Window w;
    w.main.resize(1280, 800);
    int failed = 0;
    leave_work();
    w.main.offer_kept_work();
    const auto shoot = [&](const QString& name) {
        w.settle();
        QTest::qWait(200);
        if (!w.main.grab().save(folder.filePath(name + ".png"))) ++failed;
    };
    if (argc > 2) shoot("kept");
    w.click("Look at it");
    if (argc > 2) shoot("compare");
    w.click("Later");
    for (const auto& work : app::kept_work(app::kept_folder())) app::throw_away(work.file);
    if (argc > 2) {
        const QDir away(QDir::temp().filePath("bevelsmith-pictures"));
        away.mkpath(".");
        const QString path = away.filePath("t.job.json");
        w.main.begin(jobs::ternlight());
        w.main.keeper().save_to(path);
        for (int k = 0; k < 3; ++k) {
            w.document.edit("x", [](job::Job& job) { job.name += "."; });
            w.key(Qt::Key_S, Qt::ControlModifier);
        }
        w.main.show_versions();
        shoot("versions");
        job::Job other = w.document.job();
        other.pieces.pop_back();
        (void)job::save_job(other, path.toStdString());
        QTest::qWait(800);
        shoot("outside");
        w.document.edit("too deep", [](job::Job& job) {
            job.pieces[0].limbers = {{std::nullopt, 900, 1000}};
            job.pieces[0].openings.clear();
        });
        w.click("Later");
        w.main.show_step(StepId::pieces);
        w.document.select_piece("B1");
        shoot("sketch");
        w.document.undo_stack().undo();
        w.document.edit("too large", [](job::Job& job) { job.pieces[0].openings[0].width_mm = 3000; });
        shoot("sketch-opening");
    }
    w.main.show_first_page();
    shoot("welcome");
    w.main.open_demo();
    w.settle();
    w.document.select_piece("B1");
    for (const StepId step : {StepId::measure, StepId::shape, StepId::pieces, StepId::cut, StepId::weigh}) {
        w.main.show_step(step);
        shoot(QString(step_word(step)).toLower());
    }
    w.document.select_piece("B2");
    w.main.show_step(StepId::fix);
    shoot("fix");
    w.document.select_piece("U2.top");
    w.main.show_boat();
    w.settle();
    shoot("boat");
    for (auto* turn : w.main.findChildren<QToolButton*>())
        if (turn->isVisible() && turn->text() == "in 3-D") turn->click();
    QTest::qWait(300);
    shoot("solid");
    w.main.show_boat();
    w.main.show_panel(panel::NewPiece{});
    w.named<QToolButton>("shelves")->click();
    shoot("adding");
    w.main.side_panel()->setFocus();
    w.key(Qt::Key_Escape);
    w.main.step_of(StepId::pieces)->show_in_boat(false);
    w.settle();
    w.document.select_piece("B1");
    w.main.show_step(StepId::pieces);
    w.main.show_panel(panel::Papers{});
    shoot("papers");
    w.main.show_step(StepId::cut);
    w.main.show_panel(panel::Cost{});
    QTest::qWait(6000);  // every choice is laid out
    shoot("cost");
    w.main.show_step(StepId::pieces);
    w.main.show_panel(panel::Findings{});
    shoot("attention");
    if (argc > 2) {  // more, for looking only
        w.main.show_step(StepId::cut);
        w.main.show_panel(panel::Stock{});
        w.choose("of what", 2);
        shoot("stock");
        w.choose("of what", 0);
        shoot("stock-panels");
        w.key(Qt::Key_Escape);
        choose_part(w);
        shoot("cut-part");
        w.click("Layouts");
        QTest::qWait(50);
        w.click("Keep the one in use");
        shoot("layouts");
        show_outlines(w, folder.filePath("yard.dxf"));
        shoot("outlines");
        w.key(Qt::Key_Escape);
        w.main.show_step(StepId::pieces);
        show_schools(folder.path());
        show_instruments(w, shoot);
        w.click("Meter");
        shoot("meter");
        show_ridge(w);
        shoot("ridge");
        show_practice(w);
        w.settle();
        w.main.show_step(StepId::pieces);
        shoot("tried");
        w.key(Qt::Key_Escape);
        w.main.resize(1024, 640);
        w.main.show_panel(panel::Photo{});
        shoot("photo-small");
        w.main.resize(1280, 800);
        w.main.begin(jobs::ternlight());
        for (const auto& sheet :
             std::vector<PanelRequest>{panel::NewSet{}, panel::NewPiece{}, panel::Import{}, panel::Keys{}}) {
            w.main.show_panel(sheet);
            shoot(panel_id(sheet));
        }
        w.key(Qt::Key_Escape);
        w.main.show_step(StepId::fix);
        shoot("fix-tabbing");
        w.document.edit("unit",
                        [](bevelsmith::job::Job& job) { job.unit = bevelsmith::units::LengthUnit::feet_inches; });
        w.main.show_step(StepId::pieces);
        shoot("pieces-feet");
        w.main.resize(1024, 640);
        shoot("pieces-small");
        w.main.resize(1280, 800);
        w.main.begin_new();
        for (const StepId step : {StepId::measure, StepId::shape, StepId::pieces, StepId::cut}) {
            w.main.show_step(step);
            w.key(Qt::Key_Escape);
            shoot(QString("empty-") + QString(step_word(step)).toLower());
        }
        return failed;
    }
    w.key(Qt::Key_Escape);
    w.main.show_step(StepId::pieces);
    w.document.select_piece("B2");
    w.main.show_panel(panel::OfferUp{});
    shoot("offer-up");
    w.document.select_piece("B3");
    w.main.show_panel(panel::SetOut{});
    shoot("set-out");
    show_scan(w);
    shoot("scan");
    show_photo(w);
    shoot("photo");
    show_practice(w);
    w.settle();
    w.main.show_step(StepId::pieces);
    shoot("practice");
    return failed + !old_state(folder);
}

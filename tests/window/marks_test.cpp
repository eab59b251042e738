// Sets in frames of their own through the real window: marks picked and typed, doubts told, the surface as
// refinement.
#include <fmt/format.h>

#include <QCheckBox>
#include <QLineEdit>
#include <QWheelEvent>
#include <catch2/catch.hpp>
#include <cmath>

#include "app/measure/cloud_picture.h"
#include "app/measure/marks_panel.h"
#include "job/own_frames.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// The scanner looks to starboard, 300 high, 500 forward of the zero: its axes are aft, to starboard, up.
Vec3 own_of(const Vec3& at) {
    return {-(at.x() - 500), -at.y(), at.z() - 300};
}

const Vec3 places[] = {{200, 150, 100}, {2700, -250, 150}, {1400, 300, -350}, {900, -320, 300}};

/// The lower half of a tube of 1 m, in the scanner's frame and in metres, its four marks a step before it.
std::string scan_text() {
    std::string out;
    const auto add = [&](const Vec3& at) {
        const Vec3 p = own_of(at) / 1000;
        out += fmt::format("{:.5f} {:.5f} {:.5f}\n", p.x(), p.y(), p.z());
    };
    for (int i = 0; i < 9000; ++i) {
        const double x = (i % 100) * 30, angle = -3.1 + (i / 100) * 3.0 / 90;
        add({x, 1000 * std::cos(angle), 1000 * std::sin(angle)});
    }
    for (const Vec3& mark : places)
        for (int k = 0; k < 60; ++k) add(mark + Vec3(k % 8 - 4, k / 8 - 4, 0));
    return out;
}

/// A job with a tube read in the boat's frame, and four marks; shown at Measure.
void begin(Window& w) {
    w.main.begin(jobs::tube_job());
    w.document.edit("Marks", [](job::Job& job) {
        for (const Vec3& at : places) {
            job::JobMark mark;
            mark.id = "M" + std::to_string(job.marks.size() + 1);
            mark.position = at;
            job.marks.push_back(mark);
        }
    });
    w.main.show_step(StepId::measure);
    if (w.main.side_panel()) QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
}

bool holds(Window& w, const QString& words) {
    return QTest::qWaitFor([&] { return w.panel_words().contains(words); }, 20000);
}

void turn_wheel(QWidget* picture, const QPointF& at, int notches) {
    for (int k = 0; k < std::abs(notches); ++k) {
        QWheelEvent event(at, picture->mapToGlobal(at), {}, {0, notches > 0 ? 120 : -120}, {}, {}, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(picture, &event);
    }
}

}  // namespace

TEST_CASE("marks picked in a scan place it, and it makes the surface with the others", "[marks]") {
    const jobs::Folder folder;
    jobs::write(folder.file("scan.xyz"), scan_text());
    Window w;
    begin(w);
    REQUIRE(w.click("Import"));
    QTest::keyClicks(w.named<QLineEdit>("points file"), QString::fromStdString(folder.file("scan.xyz")));
    const auto ready = [&] {
        QTest::qWait(1);
        return QTest::qWaitFor([&] { return w.button("Take the points over")->isEnabled(); }, 10000);
    };
    REQUIRE(ready());
    CHECK(!w.button("Pick marks"));
    REQUIRE(w.choose("measured", 1));
    REQUIRE(ready());
    REQUIRE(w.choose("they lie on", 1));
    REQUIRE(ready());
    REQUIRE(w.click("Pick marks"));
    auto* picture = w.main.findChild<CloudPicture*>();
    for (const Vec3& mark : places) {
        // From above, near enough that a pixel is a millimetre or two: its highest point is the mark's.
        QTest::mouseDClick(picture, Qt::LeftButton, {}, picture->place_of(own_of(mark), 0).toPoint());
        turn_wheel(picture, picture->place_of(own_of(mark), 0), 12);
        QTest::mouseClick(picture, Qt::LeftButton, {}, picture->place_of(own_of(mark), 0).toPoint());
        turn_wheel(picture, picture->place_of(own_of(mark), 0), -20);
    }
    CHECK(w.panel_words().contains("M4 at"));
    REQUIRE(w.click("Take the points over"));
    REQUIRE(QTest::qWaitFor([&] { return w.main.findChild<MarksPanel*>() != nullptr; }, 5000));
    CHECK(holds(w, "marks, "));
    const auto& set = w.document.job().readings.back();
    REQUIRE(set.own_frame);
    CHECK(set.own_frame->marks.size() >= 4);
    const auto placed = job::placed_set(w.document.job(), set.id);
    REQUIRE(placed);
    for (const auto& mark : placed->placement->value().marks) CHECK(mark.off.norm() < 12);
    REQUIRE(w.settle());
    const auto computed = w.document.computed();
    const auto* fit = computed->results.surface(set.surface_id)->fitted();
    REQUIRE(fit);
    CHECK(fit->report.stray_sets.empty());
}

TEST_CASE("typed marks place a set; a wrong one is named, left out, and all of it undone", "[marks]") {
    Window w;
    begin(w);
    w.document.edit("A set", [](job::Job& job) {
        survey::ReadingSet set = survey::usual_set(survey::School::direct);
        set.name = "Station set-up 2";
        set.surface_id = job.surfaces[0].id;
        for (double a = -2.8; a < -0.3; a += 0.1) {
            const Vec3 at = own_of({1300, 1000 * std::cos(a), 1000 * std::sin(a)});
            set.readings.emplace_back().values = {at.x(), at.y(), at.z()};
        }
        job::add_readings(job, set);
    });
    REQUIRE(w.settle());
    const auto set = [&]() -> const job::JobReadingSet& { return w.document.job().readings.back(); };
    REQUIRE(w.click("Placing"));
    REQUIRE(w.choose("its places are", 1));
    REQUIRE(set().own_frame);
    REQUIRE(w.settle());
    // Not placed, it lies on no surface: nothing of it may drag the hull.
    CHECK(w.document.computed()->results.surface(set().surface_id)->points.back().set !=
          static_cast<int>(w.document.job().readings.size()) - 1);
    REQUIRE(w.click("See its marks"));
    CHECK(holds(w, "three marks or more"));
    REQUIRE(w.click("Add all marks of the boat"));
    for (int k = 0; k < 4; ++k) {
        const Vec3 at = own_of(places[k]);
        REQUIRE(w.fill(QString("%1. seen at (x, y, z)").arg(k + 1),
                       QString("%1, %2, %3").arg(at.x()).arg(at.y()).arg(at.z())));
    }
    CHECK(holds(w, "4 marks, 0.0"));
    REQUIRE(job::placed_set(w.document.job(), set().id));
    const auto first = job::placed_set(w.document.job(), set().id)->set.readings[0].values;
    CHECK(Vec2(first[1], first[2]).norm() == Approx(1000).margin(0.01));
    CHECK(first[0] == Approx(1300).margin(0.01));

    REQUIRE(w.fill("2. seen at (x, y, z)", "-2200, 250, -80"));
    CHECK(holds(w, "Worst is M2"));
    REQUIRE(w.fill("2. in the boat (fwd, port, up)", "2700, 100"));
    CHECK(holds(w, "a place is: fwd, port, up"));
    auto* field = w.named<QLineEdit>("2. in the boat (fwd, port, up)");
    REQUIRE(field);
    QTest::keyClick(field, Qt::Key_Escape);
    for (auto* counts : w.main.side_panel()->findChildren<QCheckBox*>())
        if (counts->text() == "2. counts") {
            counts->click();
            break;
        }
    CHECK(holds(w, "3 marks, 0.0"));
    CHECK(holds(w, "A fourth mark"));
    while (w.document.undo_stack().canUndo() && set().own_frame) w.document.undo_stack().undo();
    CHECK(!set().own_frame);
    CHECK(holds(w, "no frame of its own any more"));
}

TEST_CASE("laying a set on the surface is offered with its gain, taken, and taken back", "[marks]") {
    Window w;
    begin(w);
    w.document.edit("A scan", [](job::Job& job) {
        survey::ReadingSet set = survey::usual_set(survey::School::scan);
        set.surface_id = job.surfaces[0].id;
        for (double x = 300; x < 2700; x += 120)
            for (double a = -2.7; a < -0.4; a += 0.12) {
                const Vec3 at = own_of({x, 1000 * std::cos(a), 1000 * std::sin(a)});
                set.readings.emplace_back().values = {at.x(), at.y(), at.z()};
            }
        set.own_frame.emplace();
        // Its marks were seen 8 mm too high.
        for (std::size_t k = 0; k < 4; ++k)
            set.own_frame->marks.push_back({job.marks[k].id, own_of(places[k]) - Vec3(0, 0, 8), std::nullopt, false});
        job::add_readings(job, set);
    });
    REQUIRE(w.settle());
    REQUIRE(w.click("Placing"));
    REQUIRE(w.click("See its marks"));
    CHECK(!w.button("Lay it on the surface so"));
    REQUIRE(w.click("See what the surface would change"));
    REQUIRE(holds(w, "laid on it"));
    const auto height = [&] {
        const auto placed = job::placed_set(w.document.job(), w.document.job().readings.back().id);
        const auto& v = placed->set.readings[0].values;
        return Vec2(v[1], v[2]).norm();
    };
    CHECK(std::abs(height() - 1000) > 1);
    REQUIRE(w.click("Lay it on the surface so"));
    CHECK(height() == Approx(1000).margin(1));
    CHECK(holds(w, "was laid on the surface"));
    REQUIRE(w.click("By the marks alone again"));
    CHECK(!w.document.job().readings.back().own_frame->nudge);
    w.document.undo_stack().undo();
    CHECK(w.document.job().readings.back().own_frame->nudge);
    // What the surface added goes when a mark is changed.
    REQUIRE(w.fill("1. mark", "M1 "));
    CHECK(w.document.job().readings.back().own_frame->nudge);
    REQUIRE(w.fill("1. in the boat (fwd, port, up)", "200, 151, 100"));
    CHECK(!w.document.job().readings.back().own_frame->nudge);
}

TEST_CASE("rows of a table that name marks are marks, and place the table", "[marks]") {
    const jobs::Folder folder;
    std::string text = "x,y,z,note\n";
    for (std::size_t k = 0; k < 4; ++k) {
        const Vec3 at = own_of(places[k]);
        text += fmt::format("{:.1f},{:.1f},{:.1f},M{}\n", at.x(), at.y(), at.z(), k + 1);
    }
    text += "100,-900,-700,a point\n";
    jobs::write(folder.file("station.csv"), text);
    Window w;
    begin(w);
    REQUIRE(w.click("Import"));
    REQUIRE(w.fill("points file", QString::fromStdString(folder.file("station.csv"))));
    REQUIRE(w.choose("measured", 2));
    REQUIRE(w.click("Take the points over"));
    CHECK(holds(w, "4 marks, 0.0"));
    const auto& set = w.document.job().readings.back();
    CHECK(set.readings[0].mark == "M1");
    CHECK(set.readings[4].mark.empty());
    const auto placed = job::placed_set(w.document.job(), set.id);
    REQUIRE(placed);
    CHECK((Vec3(placed->set.readings[4].values[0], placed->set.readings[4].values[1],
                placed->set.readings[4].values[2]) -
           Vec3(400, 900, -400))
              .norm() < 0.1);
}

TEST_CASE("turning points noted in two tables are marks: a moved instrument joins the survey", "[marks]") {
    const jobs::Folder folder;
    const auto table = [&](const char* file, const std::vector<std::pair<std::string, Vec3>>& rows) {
        std::string text = "x;y;z;note\n";
        for (const auto& [note, at] : rows)
            text += fmt::format("{:.1f};{:.1f};{:.1f};{}\n", at.x(), at.y(), at.z(), note);
        jobs::write(folder.file(file), text);
    };
    // The second position looks forward from 1000 farther on.
    const auto second = [](const Vec3& at) { return Vec3(at - Vec3(1500, 200, 100)); };
    const Vec3 turning[] = {{1700, 500, 200}, {1500, -500, 150}, {1200, 100, -300}};
    std::vector<std::pair<std::string, Vec3>> first, then;
    for (std::size_t k = 0; k < 4; ++k) first.emplace_back("M" + std::to_string(k + 1), own_of(places[k]));
    for (std::size_t k = 0; k < 3; ++k) {
        first.emplace_back("T" + std::to_string(k + 1), own_of(turning[k]));
        then.emplace_back("T" + std::to_string(k + 1), second(turning[k]));
    }
    for (const Vec3& chine : {Vec3(300, 800, -600), Vec3(900, 800, -600)}) {
        first.emplace_back("chine", own_of(chine));
        then.emplace_back("chine", second(chine));
    }
    table("first.csv", first), table("then.csv", then);
    Window w;
    begin(w);
    const auto import = [&](const char* file) {
        REQUIRE(w.click("Import"));
        // The keys go where the file is typed.
        CHECK(w.main.focusWidget()->accessibleName() == "points file");
        REQUIRE(w.fill("points file", QString::fromStdString(folder.file(file))));
        // The job has readings: what more lies on nobody has said.
        CHECK(w.named<QComboBox>("they lie on")->currentText() == "not said yet");
        REQUIRE(w.choose("measured", 2));
        REQUIRE(w.click("Take the points over"));
    };
    import("first.csv");
    REQUIRE(holds(w, "4 marks, 0.0"));
    CHECK(w.document.job().readings.back().readings[4].mark.empty());
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    import("then.csv");
    REQUIRE(holds(w, "3 marks"));
    const auto& sets = w.document.job().readings;
    CHECK(sets.back().readings[0].mark == "T1");
    CHECK(sets.back().readings[3].mark.empty());  // what is noted twice is no mark
    CHECK(sets[sets.size() - 2].readings[6].mark == "T3");
    const auto placed = job::placed_set(w.document.job(), sets.back().id);
    REQUIRE(placed);
    const auto& chine = placed->set.readings[4].values;
    CHECK((Vec3(chine[0], chine[1], chine[2]) - Vec3(900, 800, -600)).norm() < 0.3);
    // One step, taken back as one.
    w.document.undo_stack().undo();
    CHECK(w.document.job().readings.back().readings[4].mark.empty());
}

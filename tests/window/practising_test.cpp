// The practice hull, the datum and the marks through the real window.
#include <catch2/catch.hpp>

#include <QComboBox>

#include "app/shape/scene.h"
#include "practice/instruments.h"
#include "support/jobs.h"
#include "support/practice_jobs.h"
#include "survey/instruments.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

constexpr unsigned seed = 7;  // the same boat in every run

/// Whether a label that is to be seen holds these words.
bool shown(const Window& w, const QString& words) {
    const auto labels = w.main.findChildren<QLabel*>();
    return std::any_of(labels.begin(), labels.end(),
                       [&](const QLabel* l) { return l->isVisible() && l->text().contains(words); });
}

}  // namespace

TEST_CASE("a practice hull is measured, a bulkhead cut and offered up, and its true fit shown", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    REQUIRE(w.main.side_panel());
    w.document.edit("This boat", [](job::Job& job) { job.practice->boat.seed = 5; });
    CHECK(w.click("Cut it and offer it up"));
    CHECK(w.panel_words().contains("nothing to cut yet"));
    REQUIRE(w.fill("a point every", "500"));
    for (const char* at : {"900", "1250", "1500", "1750", "2100"}) {
        REQUIRE(w.fill("at, fwd", at));
        REQUIRE(w.click("Take these readings"));
    }
    REQUIRE(w.document.job().readings.size() == 5);
    REQUIRE(w.settle());
    CHECK(w.panel_words().contains("expects a largest misfit"));
    REQUIRE(w.document.computed()->results.pieces[0].shape());
    CHECK_FALSE(w.named<QWidget>("gaps along the edge"));
    REQUIRE(w.click("Cut it and offer it up"));
    REQUIRE(w.settle());
    CHECK(w.named<QWidget>("gaps along the edge"));
    const auto words = w.panel_words();
    CHECK(words.contains("trip"));
    CHECK(words.contains("of 100"));
    const auto computed = w.document.computed();
    const auto& piece = computed->results.pieces[0];
    REQUIRE((piece.trial && piece.best && *piece.best));
    CHECK(piece.trial->largest_mm < 25);
    // In Pieces the true hull is drawn beside the edge: something is there that was not before.
    w.main.show_step(StepId::pieces);
    const QImage tried = w.step_drawing(StepId::pieces)->grab().toImage();
    w.document.edit("Not tried", [](job::Job& job) { job.practice->tried.clear(); });
    REQUIRE(w.settle());
    CHECK(w.step_drawing(StepId::pieces)->grab().toImage() != tried);
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(w.step_drawing(StepId::pieces)->grab().toImage() == tried);
    w.main.show_step(StepId::measure);
    // Better measured, it fits better or as well; the score follows.
    REQUIRE(w.choose("instrument", 3));
    REQUIRE(w.click("Take these readings"));
    REQUIRE(w.settle());
    CHECK(w.document.job().readings.size() == 6);
    CHECK(w.document.job().readings.back().readings.size() >= 1);
    w.document.undo_stack().undo();
    CHECK(w.document.job().readings.size() == 5);
}

TEST_CASE("another boat has nothing measured, and undo brings the first one back", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    REQUIRE(w.choose("instrument", 1));
    REQUIRE(w.click("Take these readings"));
    const auto before = w.document.job();
    REQUIRE(before.readings.size() == 1);
    REQUIRE(w.click("Another boat, nothing measured"));
    CHECK(w.document.job().readings.empty());
    CHECK(w.document.job().practice->boat.seed != before.practice->boat.seed);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
    REQUIRE(w.choose("form", 1));
    CHECK(w.document.job().practice->boat.form == practice::HullForm::hard_chine);
    CHECK(w.document.job().readings.empty());
}

TEST_CASE("the first page leads to the practice hull", "[practising]") {
    Window w;
    REQUIRE(w.click("Practise on a virtual hull"));
    CHECK(w.document.job().practice);
    CHECK(w.main.step() == StepId::measure);
    CHECK(w.main.side_panel());
}

TEST_CASE("a datum is typed, refused where it cannot be, and moves what was held by gravity", "[practising]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    QTest::keyClick(&w.main, Qt::Key_L, Qt::ControlModifier);
    REQUIRE(w.main.side_panel());
    REQUIRE(w.choose("known from", 1));
    REQUIRE(w.fill("port end high", "2.5"));
    REQUIRE(w.fill("bow end high", "-1"));
    CHECK(w.document.job().datum.port_high_deg == 2.5);
    REQUIRE(w.choose("known from", 2));
    REQUIRE(w.fill("point 3, fwd", "0"));
    CHECK(w.panel_words().contains("one line"));
    CHECK(w.document.job().datum.points[2].x() == 2000);
    REQUIRE(w.choose("known from", 1));
    const auto before = w.document.computed()->results.surfaces[0].points;
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.click("Placing"));
    REQUIRE(w.choose("level and plumb", 1));
    REQUIRE(w.settle());
    CHECK(w.document.job().readings[0].by_gravity);
    CHECK_FALSE(w.document.computed()->results.surfaces[0].points == before);
}

TEST_CASE("marks are recorded, tie a piece, and are printed", "[practising]") {
    const jobs::Folder folder;
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    w.main.show_panel(panel::Datum{});
    REQUIRE(w.click("Write the page of marks"));
    CHECK(w.panel_words().contains("no reference marks"));
    REQUIRE(w.click("Add a mark"));
    // The keys are in the new mark's first field, and a place to starboard is told so.
    CHECK(w.main.focusWidget()->accessibleName() == "M1 is");
    REQUIRE(w.fill("M1 port", "420 stbd"));
    CHECK(w.document.job().marks[0].position.y() == Approx(-420));
    bool told = false;
    for (const auto* edit : w.main.side_panel()->findChildren<QLineEdit*>())
        told = told || edit->text() == "420.0 mm stbd";
    CHECK(told);
    REQUIRE(w.fill("M1 measured from", "after face of frame 4"));
    REQUIRE(w.fill("M1 fwd", "2.4 m"));
    const auto& mark = w.document.job().marks.at(0);
    CHECK(mark.measured_from == "after face of frame 4");
    CHECK(mark.position.x() == 2400);
    REQUIRE(w.settle());
    CHECK(w.panel_words().contains("goes back where these places are"));
    CHECK(w.panel_words().contains("from M1"));
    REQUIRE(w.fill("page of marks", QString::fromStdString(folder.file("marks.pdf"))));
    CHECK(jobs::read(folder.file("marks.pdf")).substr(0, 4) == "%PDF");
    REQUIRE(w.click("Remove M1"));
    CHECK(w.document.job().marks.empty());
}

TEST_CASE("a mirrored side that was checked shows how unequal the sides are", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    w.document.edit("Two sides", [](job::Job& job) { job = practice_jobs::two_sides(20); });
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
    QString words;
    for (auto* label : w.main.step_of(StepId::measure)->facts()->findChildren<QLabel*>())
        if (label->isVisible()) words += label->text();
    CHECK(words.contains("This side against the other"));
    REQUIRE(w.document.computed()->results.surfaces[1].sides.size() >= 5);
    for (const auto& s : w.document.computed()->results.surfaces[1].sides) CHECK(s.mean_mm < -2);
}

TEST_CASE("a scan of a chined hull: strays counted, the chine proposed and taken, and the surface is true",
          "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    w.document.edit("A scan", [](job::Job& job) { job = practice_jobs::scanned(true, 100); });
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    const auto said = [&](const QString& words) { return shown(w, words); };
    CHECK(said("of 2100 points do not lie on the surface"));
    CHECK_FALSE(said("misread"));
    const auto left_out = [&] { return w.document.computed()->results.surfaces[0].fitted()->report.suspects(); };
    CHECK(left_out() > 90);
    w.main.show_step(StepId::shape);
    REQUIRE(w.settle());
    CHECK(said("Readings along a line lie beyond any smooth surface"));
    REQUIRE(QTest::qWaitFor([&] { return w.button("Let the line drawn be a chine") != nullptr; }, 10000));
    REQUIRE(w.click("Let the line drawn be a chine"));
    REQUIRE(w.settle());
    CHECK_FALSE(said("Readings along a line lie beyond"));
    CHECK(left_out() >= 95);
    CHECK(left_out() <= 105);
    const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, 4});
    const auto& surface = w.document.computed()->results.surfaces[0].fitted()->surface;
    for (double x : {400.0, 1500.0, 2600.0}) CHECK(std::abs(surface.distance_mm(boat.chine(x))) < 2.5);
    const app::Scene scene = app::scene_of(*w.document.computed(), {}, {Vec3::UnitX(), 1500});
    CHECK(scene.lines.size() == 2);  // the chine and the section's plane
}

TEST_CASE("a proposed chine is shown in Shape and taken with one button", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    w.document.edit("A chined boat", [](job::Job& job) { job = practice_jobs::unsaid_chine(); });
    w.main.show_step(StepId::shape);
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
    w.main.show_step(StepId::measure);
    CHECK(shown(w, "The readings show a chine that was not entered (see Shape)"));
    // The finding leads to the button, whatever is shown: also where its own panel stands over it.
    w.main.show_step(StepId::shape);
    w.main.show_panel(panel::Findings{});
    CHECK_FALSE(w.button("Let the line drawn be a chine"));
    REQUIRE(w.click("See the shape"));
    REQUIRE(w.button("Let the line drawn be a chine"));
    REQUIRE(w.click("Let the line drawn be a chine"));
    CHECK(w.document.job().readings.back().hard_line);
    REQUIRE(w.settle());
    const auto* fit = w.document.computed()->results.surfaces[0].fitted();
    REQUIRE(fit);
    CHECK(fit->surface.chart().hard_lines.size() == 1);
    CHECK_FALSE(w.button("Let the line drawn be a chine"));
}

TEST_CASE("without a piece, readings are proposed over the whole surface", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    w.document.edit("A surface alone", [](job::Job& job) {
        const practice::VirtualBoat boat({});
        practice::Hand hand;
        job::JobReadingSet set;
        static_cast<survey::ReadingSet&>(set) =
            practice::read_points(boat, practice::random_spots(40, {100, -1.35}, {2900, 0.25}, hand.random), hand);
        set.id = "R1";
        job.surfaces[0].id = "hull";
        job.readings = {set};
        job.pieces.clear();
    });
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
    QString words;
    for (auto* label : w.main.step_of(StepId::measure)->facts()->findChildren<QLabel*>())
        if (label->isVisible()) words += label->text();
    CHECK(words.contains("Measure next for Inside of the hull"));
}

TEST_CASE("one to five readings are proposed, as many as are wanted", "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    w.document.edit("Few readings", [](job::Job& job) {
        job.practice->boat.seed = 5;
        const practice::VirtualBoat boat(job.practice->boat);
        practice::Hand hand;
        job::JobReadingSet set;
        // Nothing near the bulkhead itself, so that readings there help.
        std::vector<practice::Spot> spots = practice::random_spots(20, {300, -3.4}, {1000, 0.25}, hand.random);
        for (const auto& spot : practice::random_spots(20, {2000, -3.4}, {2700, 0.25}, hand.random))
            spots.push_back(spot);
        static_cast<survey::ReadingSet&>(set) = practice::read_points(boat, spots, hand);
        set.id = "R1";
        set.surface_id = job.surfaces[0].id;
        job.readings = {set};
    });
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto proposed = [&] {
        const auto computed = w.document.computed();
        const auto& piece = computed->results.pieces[0];
        UNSCOPED_INFO((piece.outline->ok() ? "" : piece.outline->error().message));
        return piece.forecast ? piece.forecast->suggestions.size() : 0;
    };
    REQUIRE(proposed() == 3);
    REQUIRE(w.fill("readings proposed", "5"));
    REQUIRE(w.settle());
    CHECK(proposed() == 5);
    CHECK(w.document.job().readings_next == 5);
}

TEST_CASE("on a chined practice hull the chines and the keel are read as lines, and the score knows it",
          "[practising]") {
    Window w;
    w.main.begin_practice(seed);
    REQUIRE(w.choose("form", 1));
    const auto take = [&](int instrument) {
        REQUIRE(w.choose("instrument", instrument));
        REQUIRE(w.click("Take these readings"));
    };
    for (int station : {200, 900, 1500, 2100, 2800}) {
        REQUIRE(w.choose("instrument", 0));
        REQUIRE(w.fill("at, fwd", QString::number(station)));
        REQUIRE(w.click("Take these readings"));
    }
    for (int line : {4, 5, 6}) take(line);
    const auto& sets = w.document.job().readings;
    REQUIRE(sets.size() == 8);
    CHECK(std::count_if(sets.begin(), sets.end(), [](const auto& s) { return s.hard_line; }) == 3);
    CHECK(sets.back().name == "Keel");
    REQUIRE(w.settle());
    const auto* fit = w.document.computed()->results.surfaces[0].fitted();
    REQUIRE(fit);
    CHECK(fit->surface.chart().hard_lines.size() == 3);
    REQUIRE(w.click("Cut it and offer it up"));
    REQUIRE(w.settle());
    const auto* piece = w.document.computed()->results.piece(w.document.job().pieces[0].id);
    REQUIRE(piece->trial);
    CHECK(piece->trial->largest_mm < 8);  // 36 mm where the corners are rounded off
}

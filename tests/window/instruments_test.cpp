// Every instrument entered by keyboard alone through the real window, and what can be done to a reading afterwards.
#include <catch2/catch.hpp>

#include <QClipboard>
#include <QComboBox>
#include <QTableView>
#include <QTableWidget>

#include "job/job_file.h"
#include "support/jobs.h"
#include "survey/instruments.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;
using survey::School;

namespace {

/// Presses Tab until `widget` has the focus.
bool tab_to(const Window& w, QWidget* widget) {
    for (int k = 0; widget && k < 200; ++k) {
        if (QApplication::focusWidget() == widget) return true;
        w.key(Qt::Key_Tab);
    }
    return false;
}

bool press(const Window& w, const QString& button) {
    if (!tab_to(w, w.button(button))) return false;
    w.key(Qt::Key_Space);
    return true;
}

/// A new set of `school` in the demo, made with keys; ends at Measure with the set shown.
void make_set(Window& w, School school) {
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    REQUIRE(press(w, "New set"));
    auto* how = w.named<QComboBox>("how it is read");
    REQUIRE(tab_to(w, how));
    for (int k = how->currentIndex(); k < static_cast<int>(school); ++k) {
        w.key(Qt::Key_Down);
        QTest::qWait(1);
        how = w.named<QComboBox>("how it is read");  // another school has other fields
        REQUIRE(tab_to(w, how));
    }
    REQUIRE(how->currentIndex() == static_cast<int>(school));
    REQUIRE(press(w, "Make this set"));
    REQUIRE(w.settle());
    REQUIRE(w.document.job().readings.back().school == school);
}

const std::vector<survey::Reading>& last_readings(const Window& w) {
    return w.document.job().readings.back().readings;
}

void enter(Window& w, const QStringList& numbers) {
    auto* first = w.main.findChild<QLineEdit*>("next0");
    REQUIRE(first);
    first->setFocus();
    for (const QString& number : numbers) {
        w.type(number);
        w.key(Qt::Key_Return);
    }
}

QString fault_words(const Window& w) {
    for (auto* label : w.main.findChildren<QLabel*>("fault"))
        if (label->isVisible() && !label->text().isEmpty()) return label->text();
    return {};
}

}  // namespace

TEST_CASE("each instrument is entered by keyboard alone", "[instruments]") {
    const std::vector<std::pair<School, QStringList>> all{
        {School::ordinates, {"300", "812"}},
        {School::strip_pattern, {"820", "1'"}},
        {School::direct, {"2400", "0.9 m", "-15"}},
        {School::strip_edges, {"0", "0", "300", "20"}},
        {School::tick_stick, {"200", "300", "60", "250", "4"}},
        {School::tick_stick_angle, {"200", "300", "-35", "2"}},
        {School::fixed_points, {"650", "700"}},
        {School::compass_scribe, {"400", "250", "-20"}},
        {School::traced, {"12.5", "880"}},
        {School::laser_meter, {"1412", "62", "-18.5"}},
        {School::bevel_gauge, {"700", "150", "7.5"}},
    };
    for (const auto& [school, numbers] : all) {
        Window w;
        make_set(w, school);
        enter(w, numbers);
        INFO(survey::school_name(school));
        REQUIRE(last_readings(w).size() == 1);
        const auto& set = w.document.job().readings.back();
        CHECK(survey::locate(set, set.readings[0]).ok());
        const auto columns = survey::columns_of(set);
        for (std::size_t k = 0; k < columns.size(); ++k)
            if (columns[k].kind != survey::Column::Kind::length)
                CHECK(set.readings[0].values[k] == numbers[static_cast<int>(k)].toDouble());
        // One step of undo for one reading.
        w.main.setFocus();
        w.document.undo_stack().undo();
        CHECK(last_readings(w).empty());
    }
}

TEST_CASE("distances that cannot meet are refused in plain words, and nothing is taken", "[instruments]") {
    Window w;
    make_set(w, School::fixed_points);
    enter(w, {"100", "200"});
    CHECK(last_readings(w).empty());
    CHECK(fault_words(w).contains("do not reach"));
    CHECK(w.main.findChild<QLineEdit*>("next1")->text() == "200");
}

TEST_CASE("a reading is taken again, noted, made a named mark and set aside, with keys", "[instruments]") {
    Window w;
    make_set(w, School::ordinates);
    enter(w, {"300", "812"});
    auto* table = w.named<QTableView>("readings");
    REQUIRE(table);
    const auto choose = [&] {
        table->setFocus();
        table->setCurrentIndex(table->model()->index(0, 0));
    };
    choose();
    w.key(Qt::Key_R);
    w.main.findChild<QLineEdit*>("next0")->selectAll();
    w.type("300");
    w.key(Qt::Key_Return);
    w.type("814");
    w.key(Qt::Key_Return);
    REQUIRE(last_readings(w).size() == 1);
    REQUIRE(last_readings(w)[0].again.size() == 1);
    CHECK(table->model()->index(0, 1).data().toString() == "813.0");
    choose();
    w.key(Qt::Key_N);
    w.type("at the beam");
    w.key(Qt::Key_Return);
    CHECK(last_readings(w)[0].note == "at the beam");
    choose();
    w.key(Qt::Key_M);
    CHECK(last_readings(w)[0].mark == "at the beam");
    choose();
    w.key(Qt::Key_Space);
    CHECK(last_readings(w)[0].disabled);
}

TEST_CASE("rows pasted from a spreadsheet are seen first and come in one step; a bad row is named", "[instruments]") {
    Window w;
    make_set(w, School::ordinates);
    auto* table = w.named<QTableView>("readings");
    table->setFocus();
    QGuiApplication::clipboard()->setText("station\tdistance\n0\t812,5\n100\t820\tnear the frame\n200\t829\n");
    w.key(Qt::Key_V, Qt::ControlModifier);
    QTest::qWait(20);
    CHECK(last_readings(w).empty());
    auto* rows = w.named<QTableWidget>("first rows");
    REQUIRE(rows);
    CHECK(rows->horizontalHeaderItem(0)->text() == "station\nis along");
    REQUIRE(w.choose("note is", 3));
    CHECK(rows->horizontalHeaderItem(2)->text().endsWith("is note"));
    REQUIRE(w.click("Take the points over"));
    REQUIRE(last_readings(w).size() == 3);
    CHECK(last_readings(w)[0].values[1] == Approx(812.5));
    CHECK(last_readings(w)[1].note == "near the frame");
    w.document.undo_stack().undo();
    CHECK(last_readings(w).empty());
    // Columns are columns, in whatever order they come.
    QGuiApplication::clipboard()->setText("offset\tstation\n812\t0\n820\t100\n");
    table->setFocus();
    w.key(Qt::Key_V, Qt::ControlModifier);
    QTest::qWait(20);
    REQUIRE(w.click("Take the points over"));
    REQUIRE(last_readings(w).size() == 2);
    CHECK(last_readings(w)[1].values[0] == 100);
    CHECK(last_readings(w)[1].values[1] == 820);
    w.document.undo_stack().undo();
    QGuiApplication::clipboard()->setText("0\t812\n100\tabout 82O\n");
    table->setFocus();
    w.key(Qt::Key_V, Qt::ControlModifier);
    QTest::qWait(20);
    CHECK(w.panel_words().contains("What was copied, line 2"));
    CHECK_FALSE(w.button("Take the points over")->isEnabled());
    CHECK(last_readings(w).empty());
    // One line is as good as typed.
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    QGuiApplication::clipboard()->setText("300");
    table->setFocus();
    w.key(Qt::Key_V, Qt::ControlModifier);
    CHECK(last_readings(w).empty());
    CHECK_FALSE(fault_words(w).isEmpty());
    QGuiApplication::clipboard()->setText("300\t840\n");
    table->setFocus();
    w.key(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(last_readings(w).size() == 1);
    CHECK(last_readings(w)[0].values[1] == 840);
}

TEST_CASE("a second surface is made, named and given a layer; undo takes each back", "[instruments]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::shape);
    REQUIRE(w.settle());
    const auto before = w.document.job();
    REQUIRE(press(w, "Add a layer"));
    REQUIRE(w.settle());
    REQUIRE(w.document.job().surfaces[0].layers.size() == 1);
    REQUIRE(w.fill("layer 1 thick", "12"));
    REQUIRE(w.settle());
    const auto* with = w.document.computed()->results.pieces[0].shape();
    REQUIRE(with);
    const double area = geometry::area_mm2(with->face_a);
    REQUIRE(w.choose("layers at chines", 2));
    REQUIRE(w.settle());
    REQUIRE(w.fill("filled to, beside the mitre", "45"));
    CHECK(w.document.job().surfaces[0].corners == hull::Corners{hull::CornerKind::filled, 45});
    REQUIRE(press(w, "New surface"));
    REQUIRE(w.settle());
    REQUIRE(w.document.job().surfaces.size() == 2);
    REQUIRE(w.fill("called", "Deckhead"));
    CHECK(w.document.job().surfaces[1].name == "Deckhead");
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(w.document.job() == before);
    CHECK(geometry::area_mm2(w.document.computed()->results.pieces[0].shape()->face_a) > area + 12 * 3000);
}

TEST_CASE("nonsense for the stick's marks or the pins is explained and changes nothing", "[instruments]") {
    for (const auto& [school, field, nonsense] : {std::tuple{School::tick_stick, "marks at", "100, two hundred"},
                                                  std::tuple{School::tick_stick, "marks at", "-5"},
                                                  std::tuple{School::fixed_points, "fixed points", "0, 0, 600"},
                                                  std::tuple{School::fixed_points, "fixed points", "0, 0, 0, 0"}}) {
        Window w;
        make_set(w, school);
        REQUIRE(w.click("Placing"));
        const auto before = w.document.job();
        REQUIRE(w.fill(field, nonsense));
        INFO(nonsense);
        CHECK(w.document.job() == before);
        CHECK_FALSE(fault_words(w).isEmpty());
        CHECK(w.named<QLineEdit>(field)->text() == nonsense);
    }
}

TEST_CASE("a stick's marks and pins are typed in the job's unit, and with decimal commas", "[instruments]") {
    Window w;
    make_set(w, School::tick_stick);
    REQUIRE(w.click("Placing"));
    const auto marks = [&] { return w.document.job().readings.back().stick_marks_mm; };
    REQUIRE(w.fill("marks at", "100,5; 200"));
    CHECK(marks() == std::vector<double>{100.5, 200});
    w.document.edit("In inches", [](job::Job& job) { job.unit = units::LengthUnit::inch_sixteenths; });
    REQUIRE(w.fill("marks at", "4, 8 1/2"));
    REQUIRE(marks().size() == 2);
    CHECK(marks()[0] == Approx(101.6));
    CHECK(marks()[1] == Approx(215.9));
}

TEST_CASE("readings of a new instrument survive saving and opening", "[instruments]") {
    Window w;
    make_set(w, School::tick_stick);
    enter(w, {"200", "300", "60", "250", "4"});
    REQUIRE(w.settle());
    const auto job = w.document.job();
    const auto again = job::job_from_text(job::job_to_text(job));
    REQUIRE(again.ok());
    CHECK(*again == job);
}

TEST_CASE("where little is known, Measure and Pieces say where to read next", "[instruments]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.edit("Lose most readings", [](job::Job& job) {
        for (auto& set : job.readings)
            for (std::size_t k = 0; k < set.readings.size(); ++k) set.readings[k].disabled = k % 4 != 0;
    });
    w.document.select_piece("B1");
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    const auto* piece = w.document.computed()->results.piece("B1");
    REQUIRE(piece->forecast);
    REQUIRE(piece->forecast->suggestions.size() == 3);
    const auto says = [&](const QString& words) {
        for (auto* label : w.main.findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words)) return true;
        return false;
    };
    CHECK(says("Measure next for B1"));
    w.main.show_step(StepId::pieces);
    QTest::qWait(20);
    CHECK(says("largest gap to expect"));
    CHECK(says("within"));
}

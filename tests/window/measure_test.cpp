// Measure through the real window: entry, correction, refusals, setting aside, importing.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QHeaderView>
#include <QTableView>

#include "app/widgets/drawing_view.h"
#include "support/jobs.h"
#include "support/shapes.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// A window on the demo at Measure with one set shown.
void open_set(Window& w, int set) {
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    auto* sets = w.named<QComboBox>("set of readings");
    REQUIRE(sets);
    sets->setFocus();
    for (int k = 0; k < set; ++k) w.key(Qt::Key_Down);
    QTest::qWait(1);
    REQUIRE(sets->currentIndex() == set);
}

QString fault_words(const Window& w) {
    for (auto* label : w.main.findChildren<QLabel*>("fault"))
        if (label->isVisible() && !label->text().isEmpty()) return label->text();
    return {};
}

/// Opens the editor of a cell with Enter, types, and presses Enter again.
void correct(Window& w, int row, int column, const QString& text) {
    auto* table = w.named<QTableView>("readings");
    REQUIRE(table);
    table->setFocus();
    table->setCurrentIndex(table->model()->index(row, column));
    QTest::keyClick(table, Qt::Key_Return);
    auto* editor = table->viewport()->findChild<QLineEdit*>();
    REQUIRE(editor);
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
    QTest::qWait(1);  // the table commits through the event loop
}

}  // namespace

TEST_CASE("Enter takes a reading and waits for the next, at equal steps", "[measure]") {
    Window w;
    open_set(w, 2);  // ordinates
    const auto before = w.document.job().readings[2].readings.size();
    auto* station = w.named<QLineEdit>("next along");
    REQUIRE(station);
    station->setFocus();
    w.type("1185");
    w.key(Qt::Key_Return);
    CHECK(QApplication::focusWidget() == w.named<QLineEdit>("next distance"));
    w.type("1/2 m + 3");
    w.key(Qt::Key_Return);
    const auto& set = w.document.job().readings[2].readings;
    REQUIRE(set.size() == before + 1);
    CHECK(set.back().values[0] == 1185);
    CHECK(set.back().values[1] == Approx(503));
    // The next station, 105 farther, stands ready and selected.
    CHECK(QApplication::focusWidget() == station);
    CHECK(station->text() == "1290.0 mm");
    CHECK(station->hasSelectedText());
}

TEST_CASE("a wrong entry stays in the field, is marked and explained; Escape gives it up", "[measure]") {
    Window w;
    open_set(w, 2);
    const auto before = w.document.job();
    auto* station = w.named<QLineEdit>("next along");
    station->setFocus();
    w.type("12 ells");
    w.key(Qt::Key_Return);
    CHECK(station->text() == "12 ells");
    CHECK(station->property("wrong").toBool());
    CHECK_FALSE(fault_words(w).isEmpty());
    CHECK(w.document.job() == before);
    w.key(Qt::Key_Escape);
    CHECK(station->text().isEmpty());
    CHECK(fault_words(w).isEmpty());
    w.type("2000000000");
    w.key(Qt::Key_Return);
    CHECK(fault_words(w).contains("out of range"));
    CHECK(w.document.job() == before);
}

TEST_CASE("a suspect is corrected in the table and is a suspect no more", "[measure]") {
    Window w;
    open_set(w, 0);
    auto* measure = w.main.step_of(StepId::measure);
    CHECK(measure->count() == "2 doubtful");
    bool said = false;
    for (auto* label : w.main.findChildren<QLabel*>())
        said = said || (label->isVisible() && label->text().contains("50 mm misread"));
    CHECK(said);
    const double typed = w.document.job().readings[0].readings[10].values[1];
    correct(w, 10, 1, QString::number(typed - 50));
    CHECK(w.document.job().readings[0].readings[10].values[1] == typed - 50);
    REQUIRE(w.settle());
    CHECK(measure->count() == "1 doubtful");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document.job().readings[0].readings[10].values[1] == typed);
}

TEST_CASE("a wrong correction keeps its editor open until it is right", "[measure]") {
    Window w;
    open_set(w, 0);
    const auto before = w.document.job();
    correct(w, 3, 0, "12 12");
    auto* table = w.named<QTableView>("readings");
    auto* editor = table->viewport()->findChild<QLineEdit*>();
    REQUIRE(editor);
    CHECK(editor->text() == "12 12");
    CHECK_FALSE(fault_words(w).isEmpty());
    CHECK(w.document.job() == before);
    QTest::keyClick(editor, Qt::Key_Escape);
    QTest::qWait(1);
    CHECK(fault_words(w).isEmpty());
    CHECK(w.document.job() == before);
}

TEST_CASE("looking at a number and confirming it unchanged makes no undo step", "[measure]") {
    Window w;
    open_set(w, 0);
    auto* table = w.named<QTableView>("readings");
    table->setFocus();
    table->setCurrentIndex(table->model()->index(4, 1));
    QTest::keyClick(table, Qt::Key_Return);
    auto* editor = table->viewport()->findChild<QLineEdit*>();
    REQUIRE(editor);
    QTest::keyClick(editor, Qt::Key_Return);
    QTest::qWait(1);
    CHECK(w.document.undo_stack().count() == 0);
}

TEST_CASE("Space sets readings aside and takes them in again; Delete removes; undo brings back", "[measure]") {
    Window w;
    open_set(w, 0);
    const auto before = w.document.job();
    auto* table = w.named<QTableView>("readings");
    table->setFocus();
    table->selectRow(10);
    QTest::keyClick(table, Qt::Key_Space);
    CHECK(w.document.job().readings[0].readings[10].disabled);
    REQUIRE(w.settle());
    CHECK(w.main.step_of(StepId::measure)->count() == "1 doubtful");
    QTest::keyClick(table, Qt::Key_Space);
    CHECK(w.document.job() == before);
    table->selectRow(2);
    QTest::keyClick(table, Qt::Key_Delete);
    CHECK(w.document.job().readings[0].readings.size() == before.readings[0].readings.size() - 1);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document.job() == before);
}

TEST_CASE("a set's placing is edited in its fields, and its directions stay square", "[measure]") {
    Window w;
    open_set(w, 2);
    REQUIRE(w.click("Placing"));
    REQUIRE(w.fill("zero mark at, fwd", "2401.5"));
    CHECK(w.document.job().readings[2].origin.x() == 2401.5);
    REQUIRE(w.fill("one reading ±", "2"));
    CHECK(w.document.job().readings[2].sigma_mm == 2);
    REQUIRE(w.fill("one reading ±", "-2"));
    CHECK(w.document.job().readings[2].sigma_mm == 2);
    CHECK(fault_words(w).contains("at least"));
    auto* runs = w.named<QComboBox>("line runs");
    REQUIRE(runs);
    runs->setFocus();
    QTest::keyClicks(runs, "port");  // where distances were measured to
    const auto& set = w.document.job().readings[2];
    CHECK(std::abs(set.along.dot(set.toward)) < 1e-9);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.surfaces[0].fit->ok());
}

TEST_CASE("points are imported from a file, and a damaged file changes nothing and names its line", "[measure]") {
    const jobs::Folder folder;
    Window w;
    open_set(w, 0);
    const auto before = w.document.job();
    jobs::write(folder.file("bad.csv"), "1,2,3\n4,5,6\n7,8\n");
    REQUIRE(w.click("Import"));
    REQUIRE(w.fill("points file", QString::fromStdString(folder.file("bad.csv"))));
    CHECK(fault_words(w).contains("line 3"));
    CHECK_FALSE(w.button("Take the points over")->isEnabled());
    CHECK(w.document.job() == before);
    jobs::write(folder.file("good.csv"), "3000,100,-360\n3000,200,-355,4\n");
    REQUIRE(w.fill("points file", QString::fromStdString(folder.file("good.csv"))));
    // Enter in the path loads; nothing is taken over before it was seen.
    CHECK(w.document.job() == before);
    REQUIRE(w.click("Take the points over"));
    REQUIRE(w.document.job().readings.size() == before.readings.size() + 1);
    const auto& set = w.document.job().readings.back();
    CHECK(set.school == survey::School::direct);
    REQUIRE(set.readings.size() == 2);
    CHECK(set.readings[1].sigma_mm == 4.0);
    // Nobody has said yet what they met: no surface moves.
    CHECK(set.surface_id.empty());
    REQUIRE(w.settle());
    for (const auto& surface : w.document.computed()->results.surfaces)
        for (const auto& p : surface.points)
            CHECK(static_cast<std::size_t>(p.set) + 1 < w.document.job().readings.size());
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("a table's first rows are shown with what each column is taken for; side and frame are chosen",
          "[measure]") {
    const jobs::Folder folder;
    Window w;
    open_set(w, 0);
    w.document.edit("Inches", [](job::Job& job) { job.unit = units::LengthUnit::inch; });
    jobs::write(folder.file("book.csv"),
                "Height,Half breadth,Station,Remark\n12 1/2,30 1/4,40,chine\n14,31,40,\n16,31 3/8,40,\n");
    REQUIRE(w.click("Import"));
    REQUIRE(w.fill("points file", QString::fromStdString(folder.file("book.csv"))));
    auto* rows = w.named<QTableWidget>("first rows");
    REQUIRE(rows);
    CHECK(rows->horizontalHeaderItem(0)->text() == "Height\nis up");
    CHECK(rows->horizontalHeaderItem(1)->text() == "Half breadth\nis port");
    CHECK(rows->horizontalHeaderItem(2)->text() == "Station\nis fwd");
    CHECK(rows->horizontalHeaderItem(3)->text() == "Remark\nis note");
    CHECK(rows->item(0, 1)->text() == "30 1/4");
    REQUIRE(w.choose("out is to", 1));
    REQUIRE(w.choose("measured", 1));
    REQUIRE(w.click("Take the points over"));
    const auto& set = w.document.job().readings.back();
    REQUIRE(set.readings.size() == 3);
    CHECK(set.by_gravity);
    CHECK(set.readings[0].values[0] == Approx(40 * 25.4));
    CHECK(set.readings[0].values[1] == Approx(-30.25 * 25.4));
    CHECK(set.readings[0].values[2] == Approx(12.5 * 25.4));
    CHECK(set.readings[0].note == "chine");
    CHECK(set.readings[2].values[1] == Approx(-31.375 * 25.4));
}

TEST_CASE("points of a file lie on the surface that a person names", "[measure]") {
    const jobs::Folder folder;
    Window w;
    open_set(w, 0);
    jobs::write(folder.file("points.csv"), "3000,100,-360\n3000,200,-355\n");
    REQUIRE(w.click("Import"));
    auto* path = w.named<QLineEdit>("points file");
    REQUIRE(path);
    path->setText(QString::fromStdString(folder.file("points.csv")));
    emit path->textEdited(path->text());
    REQUIRE(w.button("Take the points over")->isEnabled());
    REQUIRE(w.choose("they lie on", 1));
    REQUIRE(w.click("Take the points over"));
    CHECK(w.document.job().readings.back().surface_id == w.document.job().surfaces[0].id);
}

TEST_CASE("a set is removed whole and comes back whole", "[measure]") {
    Window w;
    open_set(w, 1);
    const auto before = w.document.job();
    REQUIRE(w.click("Placing"));
    REQUIRE(w.click("Remove this set"));
    CHECK(w.document.job().readings.size() == before.readings.size() - 1);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("hovering a reading on the ribbon points at it on the drawing", "[measure]") {
    Window w;
    open_set(w, 0);
    auto* ribbon = w.main.step_of(StepId::measure)->ribbon();
    auto* drawing = w.step_drawing(StepId::measure);
    const QImage calm = drawing->grab().toImage();
    QTest::mouseMove(ribbon, QPoint(ribbon->width() / 2, ribbon->height() / 2));
    QTest::qWait(30);
    CHECK(drawing->grab().toImage() != calm);
}

TEST_CASE("fewer readings than a surface needs are said in words where the drawing is", "[measure]") {
    Window w;
    w.main.begin_new();
    REQUIRE(w.click("Make this set"));
    auto* station = w.named<QLineEdit>("next along");
    REQUIRE(station);
    station->setFocus();
    for (const char* text : {"0", "500", "100", "520"}) {
        w.type(text);
        w.key(Qt::Key_Return);
    }
    CHECK(w.document.job().readings[0].readings.size() == 2);
    REQUIRE(w.settle());
    CHECK_FALSE(w.document.computed()->results.surfaces[0].fitted());
    CHECK(w.document.computed()->results.surfaces[0].fit->error().message.find("12") != std::string::npos);
    CHECK(w.button("See the shape"));
}

TEST_CASE("a loop drawn with Control chooses what it encloses: set aside, taken in, removed in one step each",
          "[measure]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    auto* drawing = static_cast<app::DrawingView*>(w.step_drawing(StepId::measure));
    REQUIRE(drawing);
    const auto before = w.document.job();
    const int middle = drawing->width() / 2;
    const auto drag = [&](const QPoint& to) {
        QMouseEvent move(QEvent::MouseMove, to, drawing->mapToGlobal(to), Qt::NoButton, Qt::LeftButton,
                         Qt::ControlModifier);
        QApplication::sendEvent(drawing, &move);
    };
    // All of the left half.
    QTest::keyPress(drawing, Qt::Key_Control);
    QTest::mousePress(drawing, Qt::LeftButton, Qt::ControlModifier, {2, 2});
    for (const QPoint& at :
         {QPoint(middle, 2), QPoint(middle, drawing->height() - 2), QPoint(2, drawing->height() - 2), QPoint(2, 10)})
        drag(at);
    QTest::mouseRelease(drawing, Qt::LeftButton, Qt::ControlModifier, {2, 10});
    QTest::keyRelease(drawing, Qt::Key_Control);
    auto* table = w.named<QTableView>("readings");
    const auto chosen = static_cast<std::size_t>(table->selectionModel()->selectedRows().size());
    const auto readings = [&] { return w.document.job().readings[0].readings; };
    REQUIRE(chosen > 0);
    REQUIRE(chosen < readings().size());
    w.key(Qt::Key_Space);
    const auto aside = [&] {
        const auto now = readings();
        return static_cast<std::size_t>(
            std::count_if(now.begin(), now.end(), [](const auto& r) { return r.disabled; }));
    };
    CHECK(aside() == chosen);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
    w.key(Qt::Key_Delete);
    CHECK(readings().size() == before.readings[0].readings.size() - chosen);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

// Furniture through the real window: a settee by mouse and by keyboard, panels dragged in the boat, numbers typed.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QMenu>
#include <QPushButton>

#include "app/pieces/boat_view.h"
#include "job/in_full.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// The demo with the sheet for a new piece at its side; its choice of kinds.
QComboBox* ask_for_kind(Window& w) {
    w.main.open_demo();
    w.main.show_step("Pieces");
    REQUIRE(w.settle());
    w.main.show_sheet("new piece");
    auto* kind = w.named<QComboBox>("kind");
    REQUIRE(kind);
    return kind;
}

void add_settee(Window& w) {
    REQUIRE(w.choose("kind", ask_for_kind(w)->findText("furniture: settee")));
    REQUIRE(w.click("Add it"));
    REQUIRE(w.settle());
}

BoatView* boat(const Window& w) {
    return w.named<BoatView>("in the boat");
}

void drag(Window& w, const QPointF& from, const QPointF& to) {
    auto* view = boat(w);
    const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButtons held) {
        QMouseEvent event(type, at, view->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          held, Qt::NoModifier);
        QApplication::sendEvent(view, &event);
    };
    send(QEvent::MouseMove, from, Qt::NoButton);
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 8; ++k) send(QEvent::MouseMove, from + (to - from) * k / 8.0, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, to, Qt::NoButton);
}

const piece::Outline& shape(const Window& w, const std::string& id) {
    const auto* r = w.document.computed()->results.piece(id);
    INFO(id);
    REQUIRE(r);
    INFO((r->outline && !r->outline->ok() ? r->outline->error().message : std::string()));
    REQUIRE(r->shape());
    return *r->shape();
}

}  // namespace

TEST_CASE("a settee stands between the bulkheads at the first click, all its panels sound", "[furniture]") {
    Window w;
    add_settee(w);
    REQUIRE(w.document.job().units.size() == 1);
    const auto& unit = w.document.job().units[0];
    CHECK(unit.from_piece_id == "B2");
    CHECK(unit.to_piece_id == "B1");
    CHECK(boat(w)->isVisible());
    for (const char* part : {"top", "front", "toe board", "divider 1"}) shape(w, unit.id + "." + part);
    for (const auto& f : w.document.computed()->findings) {
        INFO(f.title << ": " << f.evidence);
        CHECK((f.severity != review::Severity::stop || f.piece_id.rfind(unit.id, 0) != 0));
    }
    // The column holds the panels, folded under the unit's name; the facts show the unit.
    CHECK(w.document.selected_piece().startsWith("U1."));
    REQUIRE(w.fill("height", "400"));
    CHECK(w.document.job().units[0].height_mm == 400);
    w.document.undo_stack().undo();
    w.document.undo_stack().undo();
    CHECK(w.document.job() == jobs::ternlight());
}

TEST_CASE("a settee by keyboard alone", "[furniture]") {
    Window w;
    auto* kind = ask_for_kind(w);
    kind->setFocus();
    while (kind->currentText() != "furniture: settee") {
        const int before = kind->currentIndex();
        w.key(Qt::Key_Down);
        kind = w.named<QComboBox>("kind");
        REQUIRE(kind->currentIndex() != before);
    }
    const auto at_button = [] {
        auto* button = qobject_cast<QPushButton*>(QApplication::focusWidget());
        return button && button->text() == "Add it";
    };
    for (int k = 0; k < 40 && !at_button(); ++k) w.key(Qt::Key_Tab);
    REQUIRE(at_button());
    w.key(Qt::Key_Return);
    REQUIRE(w.settle());
    CHECK(w.document.job().units.size() == 1);
}

TEST_CASE("in the boat a front is dragged by its wood, whole centimetres snap, and it is undone", "[furniture]") {
    Window w;
    add_settee(w);
    auto* view = boat(w);
    const auto unit = w.document.job().units[0];
    const auto& front = shape(w, unit.id + ".front");
    // Where the front is cut by the section: half-way up, in the middle of its thickness.
    const auto box = geometry::bounding_box(front.face_a.outer);
    const Vec3 in_front = front.frame.to_space(box.centre()) + front.thickness_mm / 2 * front.frame.normal;
    view->move_cut(exchange::Cut::section, in_front.x());
    const QPointF at = view->to_widget(exchange::Cut::section, in_front);
    const double away = unit.side == furniture::Side::port ? 60 : -60;
    const QPointF to = view->to_widget(exchange::Cut::section, in_front + Vec3(0, away, 0));
    drag(w, at, to);
    CHECK(w.document.selected_piece().toStdString() == unit.id + ".front");
    const double out = w.document.job().units[0].front_mm;
    CHECK(out == Approx(unit.front_mm + 60).margin(6));
    CHECK(std::fmod(out, 5) == Approx(0).margin(1e-9));
    REQUIRE(w.settle());
    CHECK(shape(w, unit.id + ".front").frame.origin.norm() == Approx(out).margin(1e-6));
    w.document.undo_stack().undo();
    CHECK(w.document.job().units[0] == unit);
}

TEST_CASE("the cuts are linked: a grip moves one, a field types one, keys step and show one alone", "[furniture]") {
    Window w;
    add_settee(w);
    auto* view = boat(w);
    using exchange::Cut;
    REQUIRE(w.fill("section at, fwd", "2500"));
    CHECK(view->at_mm(Cut::section) == 2500);
    view->setFocus();
    w.key(Qt::Key_Right);
    CHECK(view->at_mm(Cut::section) == 2510);
    w.key(Qt::Key_Down, Qt::ShiftModifier);
    const double plan = view->at_mm(Cut::plan);
    w.key(Qt::Key_Up, Qt::ShiftModifier);
    CHECK(view->at_mm(Cut::plan) == Approx(plan + 100));
    const QImage all = view->grab().toImage();
    w.key(Qt::Key_1);
    CHECK(view->shown_alone() == Cut::section);
    CHECK(view->grab().toImage() != all);
    w.key(Qt::Key_0);
    CHECK_FALSE(view->shown_alone());
    CHECK(view->grab().toImage() == all);
    w.key(Qt::Key_B);
    CHECK_FALSE(view->isVisible());
    w.step_drawing("Pieces")->setFocus();
    w.key(Qt::Key_B);
    CHECK(view->isVisible());
}

TEST_CASE("a panel's own change is kept beside its unit, and a bulkhead takes what ends at it along", "[furniture]") {
    Window w;
    add_settee(w);
    const std::string front = w.document.job().units[0].id + ".front";
    w.document.select_piece(QString::fromStdString(front));
    REQUIRE(w.settle());
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(showing);
    REQUIRE(w.choose("showing", showing->findText("add to it")));
    REQUIRE(w.click("Add an opening"));
    CHECK(w.document.job().units[0].adjusted.count("front") == 1);
    const double before = geometry::bounding_box(shape(w, front).face_a.outer).width();
    w.document.select_piece("B1");
    REQUIRE(w.choose("showing", 0));
    REQUIRE(w.fill("face A at, fwd", "3150"));
    REQUIRE(w.settle());
    const auto* now = w.document.computed()->results.piece(front);
    // The opening at its usual place may lie beside this front; its limits follow all the same.
    w.document.edit("Clear", [](job::Job& job) { job.units[0].adjusted.clear(); });
    REQUIRE(w.settle());
    CHECK(now);
    CHECK(geometry::bounding_box(shape(w, front).face_a.outer).width() == Approx(before - 50).margin(1e-3));
}

TEST_CASE("its like on the other side is scribed there, not copied, and one step undoes it", "[furniture]") {
    Window w;
    add_settee(w);
    REQUIRE(w.click("Its like on the other side"));
    REQUIRE(w.document.job().units.size() == 2);
    const auto &one = w.document.job().units[0], &other = w.document.job().units[1];
    CHECK(one.side != other.side);
    CHECK(one.id != other.id);
    CHECK(one.front_mm == other.front_mm);
    REQUIRE(w.settle());
    const auto& a = shape(w, one.id + ".top");
    const auto& b = shape(w, other.id + ".top");
    // Its hull edge follows the other side's own readings: not the same to the hundredth, and no farther off than
    // hulls are.
    const double area_a = geometry::area_mm2(a.face_a), area_b = geometry::area_mm2(b.face_a);
    CHECK(area_a != Approx(area_b).epsilon(1e-6));
    CHECK(area_a == Approx(area_b).epsilon(0.05));
    w.document.undo_stack().undo();
    CHECK(w.document.job().units.size() == 1);
}

TEST_CASE("an edge is made to stop at another piece, and a circle is refused by name", "[furniture]") {
    Window w;
    w.main.open_demo();
    w.document.select_piece("S1");
    w.main.show_step("Pieces");
    REQUIRE(w.settle());
    const auto stop_at = [&](const char* piece, const QString& other) {
        w.document.select_piece(piece);
        REQUIRE(w.settle());
        auto* showing = w.named<QComboBox>("showing");
        REQUIRE(w.choose("showing", showing->findText("add to it")));
        auto* button = w.button("Stop at another piece");
        REQUIRE(button);
        const auto actions = button->menu()->actions();
        const auto at = std::find_if(actions.begin(), actions.end(), [&](auto* a) { return a->text() == other; });
        REQUIRE(at != actions.end());
        (*at)->trigger();
        REQUIRE(w.settle());
    };
    stop_at("S1", "Main bulkhead");
    CHECK(w.document.job().pieces[2].edges.back().piece_id == "B1");
    shape(w, "S1");
    stop_at("B1", "Locker shelf, port");
    const auto* ring = w.document.computed()->results.piece("B1");
    REQUIRE_FALSE(ring->shape());
    CHECK(ring->outline->error().message.find("'Main bulkhead' stops at 'Locker shelf, port'") != std::string::npos);
    CHECK(ring->sketch);
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    shape(w, "B1");
}

TEST_CASE("nothing stands beyond the window at 1280 x 800, whatever sheet is open and however Pieces looks",
          "[furniture]") {
    Window w;
    add_settee(w);
    const QRect window(w.main.mapToGlobal(QPoint(0, 0)), w.main.size());
    REQUIRE(window.width() == 1280);
    for (const bool in_boat : {true, false})
        for (const char* step : {"Pieces", "Measure"})
            for (const char* name : {"new piece", "photo", "import", "papers", "findings", "new set"}) {
                w.main.step_named("Pieces")->show_in_boat(in_boat);
                w.main.show_step(step);
                w.main.show_sheet(name);
                QApplication::processEvents();
                INFO(name << " beside " << step);
                REQUIRE(w.main.sheet());
                const auto* sheet = w.main.sheet();
                CHECK(sheet->mapToGlobal(QPoint(sheet->width(), 0)).x() <= window.right() + 1);
            }
}

TEST_CASE("an edge's lipping shows what is cut from the sheet beside what is finished", "[furniture]") {
    Window w;
    w.main.open_demo();
    w.document.select_piece("S1");
    w.main.show_step("Pieces");
    REQUIRE(w.settle());
    const QImage plain = w.step_drawing("Pieces")->grab().toImage();
    const double blank = shape(w, "S1").parts[0].blank_across_mm,
                 finished = geometry::area_mm2(shape(w, "S1").face_a);
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(w.choose("showing", showing->findText("edge: front")));
    REQUIRE(w.fill("lipping (front)", "12"));
    REQUIRE(w.settle());
    CHECK(shape(w, "S1").parts[0].blank_across_mm == Approx(blank - 12).margin(1e-3));
    CHECK(geometry::area_mm2(shape(w, "S1").face_a) == Approx(finished));
    CHECK(w.step_drawing("Pieces")->grab().toImage() != plain);
}

// Furniture through the real window: a settee by mouse and by keyboard, panels dragged in the boat, numbers typed.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QMenu>
#include <QPainterPath>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>

#include "app/pieces/boat_view.h"
#include "app/widgets/form.h"
#include "app/widgets/free_places.h"
#include "job/in_full.h"
#include "support/jobs.h"
#include "window/furniture_window.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;
using namespace fitting;

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
    ask_for_kind(w, "bulkhead")->setFocus();
    auto* settee = w.named<QToolButton>("settee");
    for (int k = 0; k < 20 && !settee->isChecked(); ++k) w.key(Qt::Key_Right);
    REQUIRE(settee->isChecked());
    CHECK(QApplication::focusWidget() == settee);
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
    w.step_drawing(StepId::pieces)->setFocus();
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
    w.main.begin(jobs::ternlight());
    w.document.select_piece("S1");
    w.main.show_step(StepId::pieces);
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
        for (const StepId step : {StepId::pieces, StepId::measure})
            for (const auto& name : std::vector<PanelRequest>{panel::NewPiece{}, panel::Photo{}, panel::Import{},
                                                              panel::Papers{}, panel::Findings{}, panel::NewSet{}}) {
                w.main.step_of(StepId::pieces)->show_in_boat(in_boat);
                w.main.show_step(step);
                w.main.show_panel(name);
                QApplication::processEvents();
                INFO(panel_id(name) << " beside " << step_word(step));
                REQUIRE(w.main.side_panel());
                const auto* sheet = w.main.side_panel();
                CHECK(sheet->mapToGlobal(QPoint(sheet->width(), 0)).x() <= window.right() + 1);
            }
}

TEST_CASE("an edge's lipping shows what is cut from the sheet beside what is finished", "[furniture]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("S1");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const QImage plain = w.step_drawing(StepId::pieces)->grab().toImage();
    const double blank = shape(w, "S1").parts[0].blank_across_mm,
                 finished = geometry::area_mm2(shape(w, "S1").face_a);
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(w.choose("showing", showing->findText("edge: front")));
    REQUIRE(w.fill("lipping (front)", "12"));
    REQUIRE(w.settle());
    CHECK(shape(w, "S1").parts[0].blank_across_mm == Approx(blank - 12).margin(1e-3));
    CHECK(geometry::area_mm2(shape(w, "S1").face_a) == Approx(finished));
    CHECK(w.step_drawing(StepId::pieces)->grab().toImage() != plain);
}

TEST_CASE("what is added stands in the boat as a ghost, is moved by hand and goes when the sheet does",
          "[furniture]") {
    Window w;
    QTest::mouseClick(ask_for_kind(w, "shelves"), Qt::LeftButton);
    const auto before = w.document.job();
    auto* view = boat(w);
    CHECK(view->isVisible());
    REQUIRE(w.document.ghost());
    REQUIRE(w.document.ghost()->pieces.size() >= 2);
    const auto* shelf = w.document.ghost()->pieces.front().shape();
    REQUIRE(shelf);
    // Upwards by 100: its foot goes with it.
    const double up = shelf->frame.origin.z();
    const auto box = geometry::bounding_box(shelf->face_a.outer);
    const Vec3 within = shelf->frame.to_space(box.centre()) + shelf->thickness_mm / 2 * shelf->frame.normal;
    view->move_cut(exchange::Cut::section, within.x());
    drag(w, view->to_widget(exchange::Cut::section, within),
         view->to_widget(exchange::Cut::section, within + Vec3(0, 0, 100)));
    REQUIRE(w.document.ghost());
    REQUIRE(w.document.ghost()->pieces.front().shape());
    const double moved = w.document.ghost()->pieces.front().shape()->frame.origin.z();
    CHECK(moved == Approx(up + 100).margin(11));
    CHECK(w.document.job() == before);
    REQUIRE(w.click("Add it"));
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    CHECK_FALSE(w.document.ghost());
    REQUIRE(w.settle());
    CHECK(shape(w, w.document.job().units[0].id + ".shelf 1").frame.origin.z() == Approx(moved).margin(1e-6));
    w.main.show_panel(panel::NewPiece{});
    CHECK(w.document.ghost());
    w.key(Qt::Key_Escape);
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    CHECK_FALSE(w.document.ghost());
}

TEST_CASE("units are folded, letters find a piece, and what is hidden comes back", "[furniture]") {
    Window w;
    add_settee(w);
    auto* list = w.named<QListView>("pieces");
    REQUIRE(list);
    const auto rows = [&] { return list->model()->rowCount(); };
    // What was just added is unfolded, for its first panel is chosen.
    const int open = rows();
    list->setFocus();
    w.key(Qt::Key_Left);
    CHECK(rows() < open);
    w.key(Qt::Key_Right);
    CHECK(rows() == open);
    // The demo's three pieces and a settee's seven are under a dozen: nothing to find yet.
    w.document.edit("more", [](job::Job& job) {
        for (int k = 0; k < 6; ++k) {
            job.pieces.push_back(job.pieces[2]);
            job.pieces.back().id = "S9" + std::to_string(k);
            job.pieces.back().name = "Bookshelf " + std::to_string(k);
        }
    });
    REQUIRE(w.settle());
    auto* find = w.named<QLineEdit>("find a piece");
    REQUIRE(find);
    REQUIRE(find->isVisible());
    list->setFocus();
    w.type("b");
    CHECK(QApplication::focusWidget() == find);
    w.type("ookshelf 4");
    CHECK(rows() == 2);
    w.key(Qt::Key_Return);
    CHECK(w.document.selected_piece() == "S94");
    find->clear();
    w.document.select_piece("B1");
    auto* view = boat(w);
    w.main.show_boat();
    const QImage all = view->grab().toImage();
    view->setFocus();
    w.key(Qt::Key_H);
    CHECK(view->hidden() == 1);
    CHECK(view->grab().toImage() != all);
    w.key(Qt::Key_H, Qt::ShiftModifier);
    CHECK(view->hidden() == 0);
    w.key(Qt::Key_4);
    CHECK(w.named<QWidget>("in 3-D")->isVisible());
}

TEST_CASE("a pipe in the way is entered, the pieces are cut around it, and one step undoes it", "[furniture]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto holes = shape(w, "B1").face_a.holes.size();
    REQUIRE(w.click("in the way"));
    REQUIRE(w.click("Add another"));
    REQUIRE(w.fill("path (fwd, port, up; …)", "2000, 600, 0; 3600, 600, 0"));
    REQUIRE(w.fill("diameter", "60"));
    REQUIRE(w.settle());
    CHECK(shape(w, "B1").face_a.holes.size() == holes + 1);
    // Told and typed by the side it is on, never by a minus.
    auto* path = w.named<QLineEdit>("path (fwd, port, up; …)");
    CHECK(path->text() == "2000.0 mm, 600.0 mm port, 0.0 mm; 3600.0 mm, 600.0 mm port, 0.0 mm");
    REQUIRE(w.fill("path (fwd, port, up; …)", "2000, 600 stbd, 0; 3600, 600 stbd, 0"));
    CHECK(w.document.job().obstacles.back().path[1] == Vec3(3600, -600, 0));
    CHECK(path->text().contains("600 stbd"));
    REQUIRE(w.fill("path (fwd, port, up; …)", "2000, 600, 0; 3600, 600, 0"));
    REQUIRE(w.settle());
    CHECK(w.panel_words().contains("It meets:"));
    // What cannot be is said, and nothing is changed.
    const auto before = w.document.job();
    REQUIRE(w.fill("path (fwd, port, up; …)", "2000, 600"));
    CHECK(w.document.job() == before);
    w.named<QLineEdit>("path (fwd, port, up; …)")->setFocus();
    w.key(Qt::Key_Escape);
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(shape(w, "B1").face_a.holes.size() == holes);
}

TEST_CASE("holes, drains, free edges, planes and crossings are added in the facts, and what is wrong is told",
          "[furniture]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("B2");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto before = w.document.job();
    const auto piece = [&]() -> const job::JobPiece& { return *job::find_piece(w.document.job(), "B2"); };
    const auto show = [&](const QString& start) { REQUIRE(w.choose_starting("showing", start)); };
    show("add to it");
    REQUIRE(w.click("Add holes in rows"));
    REQUIRE(piece().rows.size() == 1);
    REQUIRE(w.fill("free area wanted, cm² (vent holes)", "21"));
    REQUIRE(w.settle());
    CHECK(shape(w, "B2").face_a.holes.size() == 3);
    REQUIRE(w.fill("free area wanted, cm² (vent holes)", "900"));
    REQUIRE(w.settle());
    CHECK_FALSE(w.document.computed()->results.piece("B2")->shape());
    REQUIRE(w.click("Remove holes vent holes"));
    show("limber notch");
    REQUIRE(w.choose("what it is (limber)", 1));
    REQUIRE(w.settle());
    CHECK(shape(w, "B2").face_a.holes.size() == 1);
    show("what it is made of");
    REQUIRE(w.fill("identical copies", "3"));
    CHECK(piece().copies == 3);
    show("add to it");
    REQUIRE(w.click("Cut out a corner"));
    REQUIRE(piece().notches.size() == 1);
    REQUIRE(w.click("Remove notch cut-out"));
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("a free edge is added, a pin of it dragged on the bench, a piece copied and mirrored", "[furniture]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("S1");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto before = w.document.job();
    w.document.edit("A free front", [](job::Job& job) {
        auto& e = job.pieces[2].edges[3];
        e.kind = piece::EdgeKind::free;
        // v runs forward, the piece lies to port, at smaller u: on the left of a line that goes forward.
        e.line = {{{-700, 2000}, 0, false}, {{-760, 2600}, 0, true}, {{-700, 3250}, 0, false}};
    });
    REQUIRE(w.settle());
    const double area = geometry::area_mm2(shape(w, "S1").face_a);
    auto* view = static_cast<DrawingView*>(w.step_drawing(StepId::pieces));
    const auto to = [&](double u, double v) { return view->to_widget({u, v}).toPoint(); };
    QTest::mousePress(view, Qt::LeftButton, Qt::NoModifier, to(-760, 2600));
    for (int k = 1; k <= 6; ++k) QTest::mouseMove(view, to(-760 - 10 * k, 2600));
    QMouseEvent move(QEvent::MouseMove, to(-820, 2600), view->mapToGlobal(to(-820, 2600)), Qt::NoButton,
                     Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(view, &move);
    QTest::mouseRelease(view, Qt::LeftButton, Qt::NoModifier, to(-820, 2600));
    REQUIRE(w.settle());
    CHECK(w.document.job().pieces[2].edges[3].line[1].at.x() == Approx(-820).margin(8));
    CHECK(geometry::area_mm2(shape(w, "S1").face_a) < area - 10'000);
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(showing);
    REQUIRE(w.choose("showing", 0));
    REQUIRE(w.click("Its like on the other side"));
    REQUIRE(w.settle());
    const auto& made = w.document.job().pieces.back();
    CHECK(w.document.selected_piece().toStdString() == made.id);
    CHECK(shape(w, made.id).frame.to_space(geometry::centroid(shape(w, made.id).face_a)).y() < 0);
    REQUIRE(w.click("Copy it"));
    CHECK(w.document.job().pieces.size() == before.pieces.size() + 2);
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("the sheet for a new piece shows every number of each kind at once at 1280 x 800", "[furniture]") {
    Window w;
    ask_for_kind(w, "bulkhead");
    auto* scroll = w.main.side_panel()->findChild<QScrollArea*>();
    REQUIRE(scroll);
    const auto shown_at_once = [&] {
        QApplication::processEvents();
        auto* form = scroll->findChild<Form*>();
        REQUIRE(form);
        const QPoint foot = form->mapTo(scroll->viewport(), QPoint(0, form->height()));
        CHECK(foot.y() <= scroll->viewport()->height());
    };
    for (auto* kind : w.main.side_panel()->findChildren<QToolButton*>("kind")) {
        INFO(kind->text().toStdString());
        QTest::mouseClick(kind, Qt::LeftButton);
        shown_at_once();
        // With ends at places of its own it has two more.
        for (const char* end : {"aft end at", "fwd end at"})
            if (w.main.side_panel()->findChild<Form*>()->editor(end)) w.choose(end, 0);
        shown_at_once();
    }
}

TEST_CASE("asked for by key, the silhouettes have the keys: an arrow chooses, Enter adds it, Escape leaves",
          "[furniture]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const std::size_t pieces = w.document.job().pieces.size();
    const auto ask = [&] {
        auto* add = w.button("Add a piece");
        REQUIRE(add);
        add->setFocus();
        w.key(Qt::Key_Space);
        REQUIRE(w.main.side_panel());
    };
    ask();
    w.key(Qt::Key_Right);
    auto* now = qobject_cast<QToolButton*>(QApplication::focusWidget());
    REQUIRE(now);
    CHECK(now->text() == "half-bulkhead");
    w.key(Qt::Key_Escape);
    CHECK_FALSE(w.main.side_panel());
    CHECK(w.document.job().pieces.size() == pieces);
    ask();
    w.key(Qt::Key_Right);
    w.key(Qt::Key_Return);
    REQUIRE(w.settle());
    CHECK_FALSE(w.main.side_panel());
    REQUIRE(w.document.job().pieces.size() == pieces + 1);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == jobs::ternlight());
}

TEST_CASE("arrows go over the silhouettes as they stand, up and down in their columns", "[furniture]") {
    Window w;
    auto* first = ask_for_kind(w, "bulkhead");
    first->setFocus();
    const auto now = [] { return qobject_cast<QToolButton*>(QApplication::focusWidget()); };
    const auto kinds = w.main.side_panel()->findChildren<QToolButton*>("kind");
    for (const Qt::Key key : {Qt::Key_Down, Qt::Key_Down, Qt::Key_Right, Qt::Key_Up, Qt::Key_Up, Qt::Key_Left}) {
        auto* before = now();
        REQUIRE(before);
        w.key(key);
        auto* after = now();
        REQUIRE(after);
        CHECK(after->isChecked());
        const QPoint by = after->pos() - before->pos();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            CHECK(by.x() == 0);
            CHECK((key == Qt::Key_Down ? by.y() : -by.y()) > 0);
        } else {
            CHECK(by.y() == 0);
            CHECK((key == Qt::Key_Right ? by.x() : -by.x()) > 0);
        }
        // Nothing of them is passed over between two rows.
        if (by.x() == 0)
            CHECK(std::none_of(kinds.begin(), kinds.end(), [&](auto* k) {
                return k->y() > std::min(before->y(), after->y()) && k->y() < std::max(before->y(), after->y());
            }));
    }
    CHECK(now() == first);
    w.key(Qt::Key_Up);
    CHECK(now() == first);
}

TEST_CASE("a name stands within its shape on the screen, or nowhere", "[furniture]") {
    QPainterPath shape;
    shape.addRect(0, 0, 200, 100);
    const QSizeF words(40, 12);
    CHECK(*place_within(shape, {100, 50}, words) == QPointF(100, 50));
    // Its middle is a doorway: beside it, the nearest place that has wood all around.
    shape.addRect(60, 0, 80, 80);
    const auto at = place_within(shape, {100, 50}, words);
    REQUIRE(at);
    CHECK(shape.contains(QRectF(*at - QPointF(20, 6), words)));
    CHECK(std::abs(at->x() - 100) < 60);
    CHECK_FALSE(place_within(shape, {100, 50}, {70, 30}));
    CHECK_FALSE(place_within(shape, {100, 50}, {250, 12}));
}

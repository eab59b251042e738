// Several pieces chosen and acted on at once, obstacles taken hold of in the boat, a piece divided as proposed, a
// sole raised: through the real window.
#include <catch2/catch.hpp>

#include <QListView>
#include <QMenu>

#include "app/pieces/boat_view.h"
#include "furniture/unit.h"
#include "job/in_full.h"
#include "support/boards.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;
using exchange::Cut;

namespace {

/// A tube with a bulkhead at 1500, two boards across before it and a pipe along the port side.
job::Job boards_job() {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    for (const auto& [id, x] : {std::pair("A1", 600.0), std::pair("A2", 1000.0)}) {
        job::JobPiece p;
        static_cast<piece::PieceSpec&>(p) = boards::board(id, x);
        p.material_id = "ply18", p.place = "Galley";
        job.pieces.push_back(p);
    }
    job::JobObstacle pipe;
    pipe.id = "O1", pipe.name = "Exhaust", pipe.section = piece::Section::round;
    pipe.width_mm = 60, pipe.path = {{300, 450, -300}, {2600, 450, -300}};
    job.obstacles = {pipe};
    return job;
}

void begin(Window& w, job::Job job) {
    w.main.begin(std::move(job));
    w.main.show_boat();
    REQUIRE(w.settle());
}

BoatView* boat(const Window& w) {
    return w.named<BoatView>("in the boat");
}

void drag(const Window& w, const QPointF& from, const QPointF& by, Qt::KeyboardModifiers keys = Qt::NoModifier) {
    auto* view = boat(w);
    const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButtons held) {
        QMouseEvent event(type, at, view->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          held, keys);
        QApplication::sendEvent(view, &event);
    };
    send(QEvent::MouseMove, from, Qt::NoButton);
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 8 && !by.isNull(); ++k) send(QEvent::MouseMove, from + by * k / 8.0, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, from + by, Qt::NoButton);
}

double place(const Window& w, const std::string& id) {
    return geometry::place_mm(job::find_piece(w.document.built(), id)->plane);
}

}  // namespace

TEST_CASE("pieces chosen together are moved, copied, mirrored, grouped and hidden, and each is one step",
          "[together]") {
    Window w;
    begin(w, boards_job());
    const job::Job before = w.document.job();
    auto* list = w.named<QListView>("pieces");
    REQUIRE(list);
    // By the mouse: a click chooses one, with Control another as well, and takes it away again.
    const auto row_of = [&](const std::string& id) {
        for (int row = 0; row < list->model()->rowCount(); ++row)
            if (list->model()->index(row, 0).data(Qt::UserRole).toString().toStdString() == id)
                return list->model()->index(row, 0);
        return QModelIndex();
    };
    const auto press = [&](const std::string& id, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        QTest::mouseClick(list->viewport(), Qt::LeftButton, keys, list->visualRect(row_of(id)).center());
    };
    press("A2");
    CHECK(w.document.selected_piece().toStdString() == "A2");
    press("B1");
    CHECK(w.document.selected_piece().toStdString() == "B1");
    press("A1", Qt::ControlModifier);
    CHECK(w.document.together().size() == 2);
    CHECK(w.document.selected_piece().toStdString() == "A1");
    press("A2", Qt::ControlModifier);
    CHECK(w.document.together().size() == 3);
    press("A2", Qt::ControlModifier);
    CHECK(w.document.together().size() == 2);
    CHECK(w.document.selected_piece().toStdString() != "A2");
    press("A2");
    CHECK(w.document.together().empty());
    CHECK(w.document.selected_piece().toStdString() == "A2");
    // By the keys: from one row on to the next with Shift.
    w.document.select_piece("A1");
    list->setFocus();
    w.key(Qt::Key_Down, Qt::ShiftModifier);
    CHECK(w.document.together() == std::vector<std::string>{"A1", "A2"});
    CHECK(w.document.selected_piece().toStdString() == "A2");
    REQUIRE(w.button("2 pieces at once…"));
    // By the mouse, with Control, in the boat: one more, and one less.
    auto* view = boat(w);
    view->move_cut(Cut::profile, 0);
    drag(w, view->to_widget(Cut::profile, {1509, 0, -600}), {0, 0}, Qt::ControlModifier);
    CHECK(w.document.together().size() == 3);
    drag(w, view->to_widget(Cut::profile, {1509, 0, -600}), {0, 0}, Qt::ControlModifier);
    CHECK(w.document.together() == std::vector<std::string>{"A1", "A2"});

    REQUIRE(w.click("2 pieces at once…"));
    CHECK(w.panel_words().contains("2 chosen: Board A1; Board A2"));
    REQUIRE(w.fill("move by, fwd", "85"));
    REQUIRE(w.click("Move them"));
    CHECK(place(w, "A1") == 685);
    CHECK(place(w, "A2") == 1085);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);

    REQUIRE(w.click("Copy them, moved by that"));
    REQUIRE(w.settle());
    CHECK(w.document.job().pieces.size() == 5);
    CHECK(w.document.together().size() == 2);
    CHECK(place(w, w.document.together()[0]) == 685);
    REQUIRE(w.click("Their like on the other side"));
    CHECK(w.document.job().pieces.size() == 7);
    w.document.undo_stack().undo();
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);

    w.document.select_piece("A1");
    w.document.choose_together({"A1", "B1"});
    REQUIRE(w.fill("group, or place in the boat", "Aft cabin"));
    CHECK(job::find_piece(w.document.job(), "B1")->place == "Aft cabin");
    CHECK(job::find_piece(w.document.job(), "A2")->place == "Galley");
    // Pictures are compared of what is computed through: else the one is of the job half worked out.
    REQUIRE(w.settle());
    const QImage all = view->grab().toImage();
    REQUIRE(w.click("Hide them in the boat"));
    CHECK(w.document.is_hidden("A1"));
    CHECK(w.document.is_hidden("B1"));
    CHECK_FALSE(w.document.is_hidden("A2"));
    CHECK(view->grab().toImage() != all);
    REQUIRE(w.click("Show all again"));
    REQUIRE(w.settle());
    CHECK(view->grab().toImage() == all);
    // One alone stands for its group.
    w.document.select_piece("A2");
    CHECK(w.document.together().empty());
    CHECK(w.panel_words().contains("1 chosen: Board A2"));
    // What moves nothing says so, and leaves no step.
    const int steps = w.document.undo_stack().index();
    for (const char* way : {"move by, fwd", "move by, port", "move by, up"}) REQUIRE(w.fill(way, "0"));
    REQUIRE(w.click("Move them"));
    CHECK(w.document.undo_stack().index() == steps);
    // What could not be opened again is not done: places beyond all boats, more pieces than a job may hold.
    REQUIRE(w.fill("move by, fwd", "150 m"));
    REQUIRE(w.click("Move them"));
    CHECK(w.document.undo_stack().index() == steps + 1);
    REQUIRE(w.click("Move them"));
    CHECK(w.document.undo_stack().index() == steps + 1);
    w.document.undo_stack().undo();
    w.document.edit("many", [](job::Job& job) {
        while (job.pieces.size() < units::limit::pieces.most) {
            job.pieces.push_back(job.pieces.back());
            job.pieces.back().id = "N" + std::to_string(job.pieces.size());
        }
    });
    w.document.stop_computing();
    const auto full = w.document.job();
    REQUIRE(w.fill("move by, fwd", "0"));
    REQUIRE(w.click("Copy them, moved by that"));
    CHECK(w.document.job() == full);
}

TEST_CASE("what is chosen together is dragged together, and an obstacle as a whole", "[together]") {
    Window w;
    begin(w, boards_job());
    auto* view = boat(w);
    view->move_cut(Cut::profile, 0);
    w.document.select_piece("A1");
    w.document.choose_together({"A1", "A2"});
    const QPointF at = view->to_widget(Cut::profile, {609, 0, 50});
    const QPointF by = view->to_widget(Cut::profile, {809, 0, 50}) - at;
    const double from = place(w, "A1"), apart = place(w, "A2") - from;
    drag(w, at, by);
    CHECK(place(w, "A1") == Approx(from + 200).margin(11));
    CHECK(std::fmod(place(w, "A1"), 5) == Approx(0).margin(1e-9));
    CHECK(place(w, "A2") - place(w, "A1") == Approx(apart));
    w.document.undo_stack().undo();
    CHECK(place(w, "A1") == from);

    // The pipe, in the section: dragged, then only clicked, which shows it on its sheet.
    REQUIRE(w.settle());
    view->move_cut(Cut::section, 800);
    const QPointF pipe = view->to_widget(Cut::section, {800, 450, -300});
    const QPointF up = view->to_widget(Cut::section, {800, 450, -200}) - pipe;
    drag(w, pipe, up);
    for (const Vec3& p : w.document.job().obstacles[0].path) {
        CHECK(p.z() == Approx(-200).margin(11));
        CHECK(p.y() == 450);
    }
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(w.document.job().obstacles[0].path[0].z() == -300);
    drag(w, pipe, {0, 0});
    QCoreApplication::processEvents();
    REQUIRE(w.named<QLineEdit>("path (fwd, port, up; …)"));
    CHECK(w.named<QLineEdit>("name")->text() == "Exhaust");
}

TEST_CASE("a piece larger than its sheet is divided as proposed", "[together]") {
    job::Job job = boards_job();
    auto& top = job.pieces.emplace_back();
    static_cast<piece::PieceSpec&>(top) = boards::level("T", 218);
    top.material_id = "ply18", top.place = "Galley";
    top.edges[2].plane.d_mm = 2900, top.grain_deg = 90;
    job.pieces[2].plane.d_mm = 1300, job.pieces[2].at->x() = 1309;
    Window w;
    begin(w, job);
    w.document.select_piece("T");
    const auto show = [&](const QString& start) { REQUIRE(w.choose_starting("showing", start)); };
    show("add to it");
    bool told = false;
    for (auto* label : w.main.findChildren<QLabel*>())
        told = told ||
               (label->isVisible() && label->text().contains("is larger than its sheet. Proposed: on a divider"));
    CHECK(told);
    REQUIRE(w.click("Divide it as proposed"));
    REQUIRE(w.settle());
    const auto* piece = job::find_piece(w.document.job(), "T");
    REQUIRE(piece->joints.size() == 1);
    CHECK(piece->joints[0].kind == piece::JointKind::landing);
    CHECK(w.document.computed()->results.piece("T")->shape()->parts.size() == 2);
    CHECK(std::none_of(w.document.computed()->findings.begin(), w.document.computed()->findings.end(),
                       [](const auto& f) { return f.piece_id == "T" && f.check == review::CheckId::joint_in_air; }));
    w.document.undo_stack().undo();
    CHECK(job::find_piece(w.document.job(), "T")->joints.empty());
    // What fits is offered nothing.
    w.document.select_piece("A1");
    show("add to it");
    CHECK_FALSE(w.button("Divide it as proposed"));
}

TEST_CASE("a sole is raised over machinery, and lowered again", "[together]") {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job::JobUnit& sole = job.units.emplace_back();
    static_cast<furniture::UnitSpec&>(sole) = furniture::usual_unit(furniture::UnitKind::sole);
    sole.id = "U1", sole.name = "Sole", sole.surface_id = "hull", sole.material_id = sole.top_material_id = "ply18";
    sole.from_mm = 300, sole.to_mm = 1450, sole.foot_mm = -650, sole.dividers_mm = {500, 900, 1250};
    job::JobObstacle engine;
    engine.id = "O1", engine.name = "Engine";
    engine.path = {{700, 0, -700}, {1100, 0, -700}};
    engine.width_mm = 300, engine.height_mm = 400;
    job.obstacles = {engine};
    Window w;
    begin(w, job);
    w.document.select_piece("U1.sole");
    const auto before = w.document.job();
    REQUIRE(w.choose("showing", 1));
    auto* raise = w.button("Raise a part of it");
    REQUIRE(raise);
    REQUIRE(raise->menu());
    REQUIRE(raise->menu()->actions().size() == 2);
    CHECK(raise->menu()->actions()[1]->text() == "Over Engine");
    raise->menu()->actions()[1]->trigger();
    REQUIRE(w.settle());
    const auto* top = w.document.computed()->results.piece("U1.raised top");
    REQUIRE(top);
    REQUIRE(top->shape());
    CHECK(top->shape()->frame.origin.z() > -500 + 30);
    REQUIRE(w.fill("raised by", "260"));
    REQUIRE(w.settle());
    CHECK(w.document.job().units[0].raised_by_mm == 260);
    // Dragged by its wood it goes higher.
    auto* view = boat(w);
    view->move_cut(Cut::section, 900);
    const Vec3 within(900, 0, -650 + 260 - 9);
    const QPointF at = view->to_widget(Cut::section, within);
    drag(w, at, view->to_widget(Cut::section, within + Vec3(0, 0, 60)) - at);
    CHECK(w.document.job().units[0].raised_by_mm == Approx(320).margin(11));
    // Too low to stand, it says so.
    REQUIRE(w.fill("raised by", "30"));
    REQUIRE(w.settle());
    CHECK_FALSE(w.document.piece("U1.raised top"));
    bool told = false;
    for (auto* label : w.main.findChildren<QLabel*>())
        told = told || (label->isVisible() && label->text().startsWith("With these numbers it does not stand"));
    CHECK(told);
    REQUIRE(w.click("Take the raised part away"));
    CHECK(w.document.job().units[0].raised_by_mm == 0);
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

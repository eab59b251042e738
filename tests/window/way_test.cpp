// The whole way through the real window with mouse and keyboard: type readings, see the surface, place a bulkhead,
// nest, export, undo, save, reopen.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QFile>
#include <QFileDialog>
#include <QTableView>
#include <QTimer>
#include <QToolButton>
#include <cmath>

#include "job/job_file.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// Makes a strip set at `x` through the sheet, by keyboard, and types a half circle of `points` readings.
void type_station(Window& w, double x, int points) {
    w.main.show_step(StepId::measure);
    if (!w.main.side_panel()) REQUIRE(w.click("New set"));
    auto* how = w.named<QComboBox>("how it is read");
    REQUIRE(how);
    how->setFocus();
    w.key(Qt::Key_Down);  // ordinates to strip pattern
    QTest::qWait(1);
    REQUIRE(w.fill("pattern's 0, 0 at, fwd", QString::number(x)));
    REQUIRE(w.click("Make this set"));
    auto* across = w.named<QLineEdit>("next across");
    REQUIRE(across);
    across->setFocus();
    for (int k = 0; k < points; ++k) {
        const double a = -M_PI * (4 + 172.0 * k / (points - 1)) / 180;
        w.type(QString::number(1000 * std::cos(a), 'f', 1));
        w.key(Qt::Key_Return);
        w.type(QString::number(1000 * std::sin(a), 'f', 1));
        w.key(Qt::Key_Return);
    }
}

}  // namespace

TEST_CASE("from readings to papers through the real window", "[way]") {
    const jobs::Folder folder;
    Window w;
    w.main.begin_new();
    REQUIRE(w.main.side_panel());  // a first set is asked for at once
    const auto empty = w.document.job();
    for (double x : {0.0, 500.0, 1000.0, 1500.0}) type_station(w, x, 9);
    REQUIRE(w.document.job().readings.size() == 4);
    for (const auto& set : w.document.job().readings) CHECK(set.readings.size() == 9);
    CHECK(w.document.job().readings[2].origin.x() == 1000);
    REQUIRE(w.settle());
    REQUIRE(w.document.computed()->results.surfaces[0].fitted());

    // The next sensible act leads to the shape, and from there to a bulkhead.
    REQUIRE(w.click("See the shape"));
    CHECK(w.main.step() == StepId::shape);
    REQUIRE(w.fill("section at, fwd", "700"));
    REQUIRE(w.click("Place a bulkhead here"));
    CHECK(w.named<QLineEdit>("face A at, fwd")->text() == "700.0 mm");
    REQUIRE(w.click("Add it"));
    CHECK(w.main.step() == StepId::pieces);
    REQUIRE(w.settle());
    const auto* shape = w.document.computed()->results.piece("B1")->shape();
    REQUIRE(shape);
    CHECK(shape->largest_bevel_rad < 0.02);  // a cylinder cut square

    // It is laid on a sheet without being asked.
    w.key(Qt::Key_5, Qt::ControlModifier);
    CHECK(w.main.step() == StepId::cut);
    REQUIRE(w.document.computed()->results.sheets.size() == 1);
    CHECK(w.document.computed()->results.sheets[0].layout->unplaced.empty() ==
          (shape->parts[0].blank_across_mm < 1200));

    // Papers.
    REQUIRE(w.click("Papers to cut from"));
    auto* format = w.named<QComboBox>("written as");
    REQUIRE(format);
    format->setFocus();
    QTest::keyClicks(format, "DXF");
    REQUIRE(w.fill("file", QString::fromStdString(folder.file("B1.dxf"))));
    CHECK(QTest::qWaitFor([&] { return !w.main.side_panel(); }, driver::patience_ms));
    CHECK(QFile::exists(QString::fromStdString(folder.file("B1.dxf"))));
    CHECK(w.main.notice()->words().startsWith("Written"));
    CHECK_FALSE(w.main.side_panel());

    // Undo everything and do it again: the same values.
    const auto done = w.document.job();
    w.step_drawing(StepId::cut)->setFocus();
    const int steps = w.document.undo_stack().count();
    CHECK(steps == 4 + 36 + 1);
    for (int k = 0; k < steps; ++k) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document.job() == empty);
    for (int k = 0; k < steps; ++k) w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.document.job() == done);

    // Save through the dialog, and open again: equal.
    const QString path = QString::fromStdString(folder.file("first.job.json"));
    // The dialog is modal: whatever happens in here, it must come to an end.
    QTimer answer;
    int answers = 0;
    QObject::connect(&answer, &QTimer::timeout, &answer, [&] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        auto* name = dialog ? dialog->findChild<QLineEdit*>("fileNameEdit") : nullptr;
        if (!name || !name->isVisible()) return;
        if (++answers > 5) return dialog->reject();
        if (answers == 1) name->setText(path);
        QTest::keyClick(name, Qt::Key_Return);
    });
    answer.start(200);
    w.key(Qt::Key_S, Qt::ControlModifier);
    answer.stop();
    REQUIRE(answers > 0);
    REQUIRE(QFile::exists(path));
    CHECK_FALSE(w.document.modified());
    // Nobody has named it: its file does.
    job::Job named = done;
    named.name = QFileInfo(path).fileName().section('.', 0, 0).toStdString();
    CHECK(*job::load_job(path.toStdString()) == named);
    Window again;
    REQUIRE(again.main.open(path));
    CHECK(again.document.job() == named);
}

TEST_CASE("a piece with its fields changed by keyboard follows, step by step, and is undone", "[way]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("B2");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto before = w.document.job();
    const double area = geometry::area_mm2(w.document.computed()->results.piece("B2")->shape()->face_a);
    REQUIRE(w.choose("showing", 3));  // the piece, its making, then its edges
    REQUIRE(w.fill("upper edge at (top)", "500 + 2*30"));
    CHECK(w.document.job().pieces[1].edges[1].at_mm == 560);
    REQUIRE(w.settle());
    CHECK(geometry::area_mm2(w.document.computed()->results.piece("B2")->shape()->face_a) < area);
    REQUIRE(w.choose("showing", 4));
    REQUIRE(w.fill("right edge at (inboard)", "-18 in"));
    CHECK(w.document.job().pieces[1].edges[2].at_mm == Approx(-457.2));
    REQUIRE(w.choose("showing", 0));
    REQUIRE(w.fill("face A at, fwd", "2.1 m"));
    CHECK(w.document.job().pieces[1].plane.d_mm == Approx(2100));
    w.step_drawing(StepId::pieces)->setFocus();
    for (int k = 0; k < 3; ++k) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document.job() == before);
}

TEST_CASE("every kind of piece can be added and gets an outline", "[way]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    // As they are offered where both sides are known: bulkhead, half-bulkhead, shelf, face.
    const char* at[] = {"2600", "2300", "300", "500"};
    for (int kind = 0; kind < 4; ++kind) {
        w.main.show_panel(panel::NewPiece{});
        const char* names[] = {"bulkhead", "half-bulkhead", "shelf", "face"};
        auto* silhouette = w.named<QToolButton>(names[kind]);
        REQUIRE(silhouette);
        QTest::mouseClick(silhouette, Qt::LeftButton);
        REQUIRE(w.fill(kind < 2    ? "face A at, fwd"
                       : kind == 3 ? "face A at, off centre"
                                   : "face A at, up",
                       at[kind]));
        REQUIRE(w.click("Add it"));
        REQUIRE(w.settle());
        const auto& piece = w.document.job().pieces.back();
        INFO(piece.name);
        const auto* result = w.document.computed()->results.piece(piece.id);
        REQUIRE(result);
        INFO((result->outline->ok() ? std::string() : result->outline->error().message));
        CHECK(result->shape());
        CHECK(w.document.selected_piece().toStdString() == piece.id);
    }
}

TEST_CASE("openings, notches and joints are added, changed and removed in the facts", "[way]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("B2");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto before = w.document.job();
    const auto& piece = [&]() -> const job::JobPiece& { return w.document.job().pieces[1]; };
    const auto add = [&w, &piece] {
        const auto n =
            piece().edges.size() + piece().openings.size() + piece().limbers.size() + piece().joints.size();
        return w.choose("showing", static_cast<int>(3 + n));
    };
    REQUIRE(add());
    REQUIRE(w.click("Add an opening"));
    REQUIRE(piece().openings.size() == 1);
    REQUIRE(w.fill("left (door)", "-800"));
    REQUIRE(w.fill("width (door)", "25 cm"));
    CHECK(piece().openings[0].width_mm == 250);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.piece("B2")->shape()->face_a.holes.size() == 1);
    REQUIRE(add());
    REQUIRE(w.click("Add a joint"));
    REQUIRE(piece().joints.size() == 1);
    REQUIRE(w.click("Remove joint 1"));
    REQUIRE(w.choose("showing", 5));
    REQUIRE(w.click("Remove opening door"));
    CHECK(piece().openings.empty());
    REQUIRE(w.choose("showing", 5));
    REQUIRE(w.click("Remove limber"));
    REQUIRE(w.settle());
    bool missing = false;
    for (const auto& f : w.document.computed()->findings)
        missing = missing || (f.check == review::CheckId::no_limber && f.piece_id == "B2");
    CHECK(missing);
    while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("a job with nothing in it but a name can be worked on", "[way]") {
    const jobs::Folder folder;
    jobs::write(folder.file("bare.json"), "{\"bevelsmith\": 1, \"name\": \"Bare\"}");
    Window w;
    REQUIRE(w.main.open(QString::fromStdString(folder.file("bare.json"))));
    REQUIRE(w.settle());
    for (const StepId step : all_steps) {
        w.main.show_step(step);
        QApplication::processEvents();
    }
    w.main.show_step(StepId::cut);
    REQUIRE(w.click("Add a sheet"));
    CHECK(w.document.job().materials.size() == 1);
    w.document.undo_stack().undo();
    w.main.show_panel(panel::NewPiece{});
    REQUIRE(w.click("Add it"));
    CHECK(w.document.job().pieces.size() == 1);
    CHECK(w.document.job().materials.size() == 1);
    for (double x : {0.0, 500.0, 1000.0}) type_station(w, x, 7);
    CHECK(w.document.job().surfaces.size() == 1);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.surfaces[0].fitted());
    CHECK(w.document.job().pieces[0].edges[0].surface_id == w.document.job().surfaces[0].id);
}

TEST_CASE("a piece is removed and comes back with undo; the selection moves on", "[way]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.select_piece("S1");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    REQUIRE(w.click("Remove this piece"));
    CHECK(w.document.job().pieces.size() == 2);
    CHECK(w.document.selected_piece() == "B1");
    REQUIRE(w.settle());
    w.step_drawing(StepId::pieces)->setFocus();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document.job().pieces.size() == 3);
}

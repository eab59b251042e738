// What stands is taken down and what lifts out is made, through the window, by mouse and by keyboard.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QMenu>

#include "app/keeping/hand_kept.h"
#include "furniture_window.h"
#include "job/in_full.h"
#include "job/measured_places.h"

using namespace driver;
using fitting::ask_for_kind;

namespace {

/// Picks an entry of a menu that is offered among the fields, by keyboard.
bool pick(const Window& w, const QString& field, int entry) {
    auto* button = w.button(field);
    if (!button || !button->menu() || button->menu()->actions().size() <= entry) return false;
    button->menu()->actions()[entry]->trigger();
    return true;
}

void show_piece(Window& w, const job::Job& job, const QString& id, const QString& facet) {
    w.main.begin(job);
    w.document.select_piece(id);
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(showing);
    REQUIRE(w.choose("showing", showing->findText(facet)));
}

const job::JobPiece& piece_of(const Window& w, const std::string& id) {
    return *job::find_piece(w.document.job(), id);
}

}  // namespace

TEST_CASE("a face is told by two offsets from a mark, and stays where it stood until they are changed", "[taken]") {
    Window w;
    job::Job job = jobs::demo("ternlight");
    REQUIRE_FALSE(job.marks.empty());
    show_piece(w, job, "B1", "the piece");
    const auto before = job::in_full(w.document.job()).pieces[0].plane;
    REQUIRE(job::in_full(w.document.job()).pieces[0].id == "B1");
    REQUIRE(pick(w, "Tell it by two offsets from a mark", 0));
    REQUIRE(piece_of(w, "B1").from_mark);
    CHECK(job::in_full(w.document.job()).pieces[0].plane.d_mm == Approx(before.d_mm).margin(1e-6));
    const double first = piece_of(w, "B1").from_mark->first_mm;
    REQUIRE(w.fill("there it stands forward of it", QString::number(first + 12, 'f', 2)));
    REQUIRE(w.fill("here it stands forward of it", QString::number(first + 12, 'f', 2)));
    REQUIRE(w.settle());
    CHECK(job::in_full(w.document.job()).pieces[0].plane.d_mm == Approx(before.d_mm + 12).margin(0.02));
    REQUIRE(w.click("Tell its place otherwise"));
    CHECK_FALSE(piece_of(w, "B1").from_mark);
    CHECK(piece_of(w, "B1").plane.d_mm == Approx(before.d_mm + 12).margin(0.02));
    for (int k = 0; k < 4; ++k) w.document.undo_stack().undo();
    CHECK(w.document.job() == job);
}

TEST_CASE("the outline of what stands is typed corner by corner, and has its like on the other side", "[taken]") {
    Window w;
    job::Job job = jobs::ternlight();
    for (auto& p : job.pieces) p.openings.clear();
    show_piece(w, job, "B1", "what it is made of");
    CHECK_FALSE(w.named<QLineEdit>("corners: right, up"));
    REQUIRE(w.choose("it is", 1));
    // What is no corner is not taken.
    REQUIRE(w.fill("corners: right, up", "0, 0; 400"));
    CHECK(piece_of(w, "B1").edges.size() > 1);
    REQUIRE(w.fill("corners: right, up", "0, -300; 600, -200; 700, 400; 0, 400"));
    REQUIRE(w.settle());
    REQUIRE(piece_of(w, "B1").edges.size() == 1);
    const auto area = [&] {
        const auto& outline = *w.document.computed()->results.piece("B1")->outline;
        INFO((outline.ok() ? std::string() : outline.error().message));
        REQUIRE(outline.ok());
        return geometry::area_mm2(w.document.computed()->results.piece("B1")->shape()->face_a);
    };
    // Worked: the trapezoid's corners by the shoelace formula.
    CHECK(area() == Approx(420'000).epsilon(1e-6));
    REQUIRE(w.click("Add its like on the other side"));
    REQUIRE(w.settle());
    CHECK(area() == Approx(840'000).epsilon(1e-6));
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(area() == Approx(420'000).epsilon(1e-6));
}

TEST_CASE("a trial pattern is laid out in its thin sheet, and has its papers", "[taken]") {
    Window w;
    job::Job job = jobs::ternlight();
    job::JobMaterial thin = job.materials[0];
    thin.id = "thin", thin.name = "Thin ply", thin.thickness_mm = 4;
    job.materials.push_back(thin);
    show_piece(w, job, "B2", "what it is made of");
    REQUIRE(w.choose_starting("trial pattern out of", "Thin ply"));
    REQUIRE(w.settle());
    bool laid = false;
    for (const auto& sheet : w.document.computed()->results.sheets)
        for (const auto& part : sheet.problem->parts)
            if (part.id.ends_with("/pattern")) {
                laid = true;
                CHECK(sheet.material_id == "thin");
            }
    CHECK(laid);
    w.main.show_panel(panel::Papers{});
    auto* what = w.named<QComboBox>("piece or part");
    REQUIRE(what);
    CHECK(what->findText("    trial pattern of B2") >= 0);
}

TEST_CASE("a sole's beams are set in saddles, and a table on it, from nothing", "[taken]") {
    Window w;
    QTest::mouseClick(ask_for_kind(w, "sole"), Qt::LeftButton);
    REQUIRE(w.click("Add it"));
    REQUIRE(w.settle());
    const auto id = w.document.job().units.back().id;
    QCheckBox* toggle = nullptr;
    for (auto* box : w.main.findChildren<QCheckBox*>())
        if (box->isVisible() && box->text() == "beams lift out of saddles") toggle = box;
    REQUIRE(toggle);
    toggle->setFocus();
    w.key(Qt::Key_Space);
    REQUIRE(w.settle());
    const auto& sole = *std::find_if(w.document.job().units.begin(), w.document.job().units.end(),
                                     [&](const auto& u) { return u.id == id; });
    REQUIRE(sole.saddles);
    CHECK(sole.beam_depth_mm > 0);
    int seats = 0;
    for (const auto& p : w.document.computed()->results.pieces)
        if (p.id.find(".seat ") != std::string::npos) {
            ++seats;
            CHECK(p.shape());
        }
    CHECK(seats > 0);
    for (const auto& f : w.document.computed()->findings)
        CHECK(f.title.find("want the same place") == std::string::npos);

    // A table, by keyboard: to its tile with the arrows, Enter adds it.
    w.main.show_panel(panel::NewPiece{});
    auto* kind = w.named<QToolButton>("sole");
    REQUIRE(kind);
    QTest::mouseClick(kind, Qt::LeftButton);
    w.named<QToolButton>("sole")->setFocus();
    w.key(Qt::Key_Right), w.key(Qt::Key_Right);
    CHECK(w.named<QToolButton>("table")->isChecked());
    w.key(Qt::Key_Return);
    REQUIRE(w.settle());
    REQUIRE(w.document.job().units.back().kind == furniture::UnitKind::table);
    const auto& table = w.document.job().units.back();
    // It stands on the sole, within its ends.
    CHECK(table.foot_mm == w.document.job().units[w.document.job().units.size() - 2].foot_mm);
    CHECK(table.front_mm == 0);
    const auto& top = w.document.computed()->results.piece(table.id + ".top");
    REQUIRE(top);
    CHECK(top->shape());
}

TEST_CASE("what a hand scatters over all jobs is offered for a new set, and counted with the forecast", "[taken]") {
    job::HandRecord hand;
    hand.schools.push_back({survey::School::tick_stick, 50, 50 * 2.6 * 2.6});
    hand.offered = 19, hand.kept = 18;
    Window w;
    w.main.begin(jobs::ternlight());
    keep_hand("/elsewhere/another.job.json", hand);
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    w.main.show_panel(panel::NewSet{});
    REQUIRE(w.choose_starting("how it is read", "tick stick, two"));
    QPushButton* offer = nullptr;
    for (auto* b : w.main.findChildren<QPushButton*>())
        if (b->isVisible() && b->text().startsWith("Take ±")) offer = b;
    REQUIRE(offer);
    CHECK(offer->text().contains("2.6"));
    CHECK(offer->text().contains("50 readings"));
    QTest::mouseClick(offer, Qt::LeftButton);
    CHECK(w.named<QLineEdit>("one reading ±")->text().startsWith("2.6"));
    CHECK(kept_words(w.document) ==
          "Of your last 19 pieces that were offered up, in all jobs, 18 kept to the forecast.");
    // The same job again counts once; what is no record counts nothing.
    keep_hand("/elsewhere/another.job.json", hand);
    CHECK(hand_over_other_jobs({}).record.offered == 19);
    CHECK(hand_over_other_jobs("/elsewhere/another.job.json").record.offered == 0);
}

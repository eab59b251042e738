// At the boat, through the window: what stands already, offering up by keyboard alone, setting out.
#include <catch2/catch.hpp>

#include <QListWidget>
#include <QTableWidget>

#include "app/pieces/fitting_picture.h"
#include "driver.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/offering_up.h"
#include "support/jobs.h"

using namespace driver;

namespace {

/// Ternlight's half-bulkhead in Pieces.
void show_half_bulkhead(Window& w) {
    w.main.begin(jobs::ternlight());
    w.document.select_piece("B2");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
}

const job::JobPiece& half_bulkhead(const Window& w) {
    return *job::find_piece(w.document.job(), "B2");
}

bool open_offer_up(Window& w) {
    return w.click("Offer it up …") && w.named<QLineEdit>("daylight, − fouls");
}

}  // namespace

TEST_CASE("a piece is offered up by keyboard alone, and its outline follows", "[boat]") {
    Window w;
    show_half_bulkhead(w);
    const auto before = w.document.computed()->results.piece("B2")->shape()->face_a;
    auto* button = w.button("Offer it up …");
    REQUIRE(button);
    button->setFocus();
    w.key(Qt::Key_Return);
    auto* gap = w.named<QLineEdit>("daylight, − fouls");
    REQUIRE(gap);
    gap->setFocus();
    gap->selectAll();
    // One station after the other: Enter goes on to the next.
    for (const char* seen : {"2", "5", "6.5", "5", "1"}) {
        w.type(seen);
        w.key(Qt::Key_Return);
    }
    // One Enter too many notes nothing: the last gap is not taken for the next station's.
    w.key(Qt::Key_Return);
    CHECK(w.panel_words().contains("Type what is seen there"));
    // What is no length is said once.
    w.type("2x");
    w.key(Qt::Key_Return);
    CHECK(w.panel_words().count("is not a unit of length") == 1);
    w.key(Qt::Key_Escape);
    CHECK(gap->text().isEmpty());
    REQUIRE(half_bulkhead(w).fittings.size() == 1);
    const auto& draft = half_bulkhead(w).fittings[0];
    REQUIRE(job::is_draft(draft));
    REQUIRE(draft.readings.size() == 5);
    CHECK(draft.readings[0].along_mm == 0);
    CHECK(draft.readings[2].gap_mm == Approx(6.5));
    CHECK(draft.readings[4].along_mm > draft.readings[3].along_mm);
    // A draft is in the file, and nothing follows from it.
    const auto kept = job::job_from_text(job::job_to_text(w.document.job()));
    REQUIRE(kept.ok());
    CHECK(*kept == w.document.job());
    CHECK(w.named<QListWidget>("what was seen")->count() == 5);
    REQUIRE(w.click("Enter this fitting"));
    REQUIRE(w.settle());
    CHECK(half_bulkhead(w).stage == "tried");
    CHECK_FALSE(job::is_draft(half_bulkhead(w).fittings[0]));
    CHECK(w.document.job().readings.back().name == "Fitting 1 of Galley half-bulkhead: Hull side");
    const auto after = w.document.computed()->results.piece("B2")->shape()->face_a;
    CHECK(geometry::farthest_mm(before, after) > 1);
    auto* guide = w.named<QTableWidget>("shaving guide");
    REQUIRE(guide);
    CHECK(guide->rowCount() > 5);
    CHECK(w.panel_words().contains("Offered up once so far"));
    // Undo takes all of it back, in one step.
    w.document.undo_stack().undo();
    CHECK(job::is_draft(half_bulkhead(w).fittings[0]));
    w.document.undo_stack().redo();
    REQUIRE(w.settle());
    REQUIRE(w.click("Take the last fitting back"));
    CHECK(job::is_draft(half_bulkhead(w).fittings[0]));
    CHECK(half_bulkhead(w).fittings[0].readings.size() == 5);
}

TEST_CASE("where nothing can be seen is said at once, and a press on the edge says where one looks", "[boat]") {
    Window w;
    show_half_bulkhead(w);
    REQUIRE(open_offer_up(w));
    REQUIRE(w.fill("at, along it", "9000"));
    auto* gap = w.named<QLineEdit>("daylight, − fouls");
    gap->setFocus();
    gap->selectAll();
    w.type("1");
    w.key(Qt::Key_Return);
    CHECK(half_bulkhead(w).fittings.empty());
    CHECK(w.panel_words().contains("is not on the edge"));
    auto* picture = w.main.side_panel()->findChild<FittingPicture*>();
    REQUIRE(picture);
    const auto& marks = w.document.computed()->results.piece("B2")->shape()->marks;
    const auto mark =
        std::find_if(marks.begin(), marks.end(), [](const auto& m) { return m.kept && m.arc_mm > 500; });
    QTest::mouseClick(picture, Qt::LeftButton, {}, picture->to_widget(mark->a).toPoint());
    auto* along = w.named<QuantityEdit>("at, along it");
    CHECK(std::abs(along->value() - mark->arc_mm) < 20);
}

TEST_CASE("what is added as standing there has a group of its own among the pieces", "[boat]") {
    Window w;
    show_half_bulkhead(w);
    w.main.show_panel(panel::NewPiece{});
    REQUIRE(w.choose("it is", 1));
    REQUIRE(w.click("Add it"));
    CHECK(w.document.job().pieces.back().role == piece::Role::stays);
    CHECK(w.document.job().pieces.back().place == "There already");
}

TEST_CASE("what stands already is said so, is not laid out, and what is new is set out from it", "[boat]") {
    Window w;
    show_half_bulkhead(w);
    w.document.select_piece("B1");
    REQUIRE(w.settle());
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(showing);
    REQUIRE(w.choose("showing", showing->findText("what it is made of")));
    REQUIRE(w.choose("it is", 1));
    REQUIRE(w.fill("thickness measured, 0 not yet", "21.4"));
    REQUIRE(w.settle());
    const auto& b1 = *job::find_piece(w.document.job(), "B1");
    CHECK(b1.role == piece::Role::stays);
    CHECK(w.document.computed()->results.piece("B1")->shape()->thickness_mm == Approx(21.4));
    for (const auto& sheet : w.document.computed()->results.sheets)
        for (const auto& part : sheet.problem->parts) CHECK(part.id.rfind("B1", 0) != 0);
    // Nothing is cut for it.
    CHECK(w.button("Its papers"));
    CHECK_FALSE(w.button("Papers to cut from"));
    // It goes when the other is in.
    REQUIRE(w.choose("it is", 2));
    REQUIRE(w.choose_starting("stands until fixed is", QString::fromStdString(half_bulkhead(w).name)));
    CHECK(job::find_piece(w.document.job(), "B1")->until == "B2");
    w.document.select_piece("B2");
    REQUIRE(w.settle());
    REQUIRE(w.click("Set it out at the boat …"));
    auto* stations = w.named<QTableWidget>("stations");
    REQUIRE(stations);
    CHECK(stations->rowCount() > 8);
    CHECK(w.named<QComboBox>("measured from")->currentText().contains("stands already"));
    const double apart = b1.plane.d_mm - half_bulkhead(w).plane.d_mm;
    CHECK(stations->item(0, 2)->text().split(' ').first().toDouble() == Approx(apart).margin(0.06));
}

TEST_CASE("plies and a pattern of holes are put on a piece", "[boat]") {
    Window w;
    show_half_bulkhead(w);
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(w.choose("showing", showing->findText("plies and coverings")));
    REQUIRE(w.click("Add a cloth to face A"));
    REQUIRE(w.choose("face A, cloth", 1));
    REQUIRE(w.fill("face A, cloth, weight", "814"));
    REQUIRE(w.fill("face A, cloth, share of glass, 0 usual", "0.5"));
    REQUIRE(w.settle());
    const double sheet = job::find_material(w.document.job(), half_bulkhead(w).material_id)->thickness_mm;
    CHECK(w.document.computed()->results.piece("B2")->shape()->thickness_mm == Approx(sheet + 0.996).margin(0.001));
    REQUIRE(w.choose("showing", showing->findText("add to it")));
    auto* menu = w.button("Pattern of holes");
    REQUIRE(menu);
}

TEST_CASE("in practice the simulated feeler finds what is wrong, and the next cut fits", "[boat]") {
    Window w;
    job::Job job = jobs::demo("ternlight");
    job = job::empty_job();
    job.practice.emplace();
    job.practice->boat = {practice::HullForm::round_bilge, 0, 6, 11};
    job.surfaces[0].inside = Vec3(practice::VirtualBoat::length_mm / 2, 0, 0);
    practice::Hand hand;
    hand.sigma_mm = 3;
    hand.random.seed(4);
    const practice::VirtualBoat boat(job.practice->boat);
    auto set = practice::read_points(boat, practice::random_spots(60, {100, -1.35}, {2900, 0.25}, hand.random), hand);
    set.surface_id = job.surfaces[0].id;
    job::add_readings(job, set);
    job::JobPiece p;
    p.id = "B1", p.name = "Bulkhead", p.material_id = job.materials[0].id, p.plane = {Vec3::UnitX(), 1500};
    p.split_for_passage = false, p.wanted_fit_mm = 1.5;
    p.edges = {{piece::EdgeKind::scribed, "hull", job.surfaces[0].id},
               {piece::EdgeKind::straight, "top", {}, {0, 1}, 0},
               {piece::EdgeKind::straight, "inboard", {}, {1, 0}, -350}};
    job.pieces.push_back(p);
    job.practice->tried = {"B1"};
    w.main.begin(job);
    w.document.select_piece("B1");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    const auto& tried = *w.document.computed()->results.piece("B1");
    INFO((tried.outline->ok() ? std::string() : tried.outline->error().message));
    REQUIRE(tried.trial);
    const double before = tried.trial->largest_mm;
    REQUIRE(open_offer_up(w));
    REQUIRE(w.choose("offered up", 1));
    REQUIRE(w.click("Let the simulated feeler go along"));
    CHECK(job::find_piece(w.document.job(), "B1")->fittings.back().readings.size() > 8);
    REQUIRE(w.click("Enter this fitting"));
    REQUIRE(w.settle());
    CHECK(job::find_piece(w.document.job(), "B1")->stage == "pattern");
    const auto& trial = *w.document.computed()->results.piece("B1")->trial;
    CHECK(before > 1.5);
    CHECK(trial.largest_mm < 1.2);
    CHECK(trial.trips == 2);  // the pattern's, and the good sheet's
}

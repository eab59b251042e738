// What stands, as it is taken down: faces by offsets, outlines by ordinates and readings, holes by readings and
// through two pieces; panels built up of sheets, trial patterns, old lengths, what a hand scatters.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "exchange/cut_list.h"
#include "exchange/drawing.h"
#include "exchange/edge_marks.h"
#include "job/cut_sheets.h"
#include "job/hand_record.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/layup_work.h"
#include "job/length_plan.h"
#include "job/measured_places.h"
#include "job/offering_up.h"
#include "job/shopping.h"
#include "job/standing_outline.h"
#include "job/together.h"
#include "paper/piece_page.h"
#include "piece/levels.h"
#include "review/review.h"
#include "support/jobs.h"

using namespace bevelsmith;

namespace {

job::Job with_mark(const Vec3& at) {
    job::Job out = jobs::tube_job();
    job::JobMark mark;
    mark.id = "M1", mark.name = "nail", mark.position = at;
    out.marks.push_back(mark);
    return out;
}

job::JobReadingSet points(const std::string& id, const std::vector<Vec3>& places) {
    job::JobReadingSet set;
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::direct);
    set.id = id, set.name = "Old holes", set.surface_id.clear();
    for (const Vec3& p : places) set.readings.emplace_back().values = {p.x(), p.y(), p.z()};
    return set;
}

job::Job kept(const job::Job& job) {
    const auto read = job::job_from_text(job::job_to_text(job));
    REQUIRE(read.ok());
    return *read;
}

}  // namespace

TEST_CASE("an upright face is told by two offsets from a mark, and follows it", "[taken_down]") {
    job::Job job = with_mark({1000, 200, -300});
    auto& piece = job.pieces[0];
    piece.from_mark = piece::FromMark{"M1", false, -500, 300, 500, 400};
    // Worked: it goes through fwd 1300, 300 to starboard and fwd 1400, 700 to port, upright.
    const auto plane = job::in_full(job).pieces[0].plane;
    for (const Vec3& p : {Vec3(1300, -300, 0), Vec3(1400, 700, 900)})
        CHECK(plane.normal.dot(p) == Approx(plane.d_mm).margin(1e-9));
    CHECK(plane.normal.z() == Approx(0).margin(1e-12));
    CHECK(plane.normal.x() > 0);
    CHECK(kept(job) == job);
    job.marks[0].position.x() += 50;
    const auto moved = job::in_full(job).pieces[0].plane;
    CHECK(moved.normal.dot(Vec3(1350, -300, 0)) == Approx(moved.d_mm).margin(1e-9));
    // Along the boat: so far forward of the mark, so far to port of it.
    const auto along = job::plane_from_mark(job, {"M1", true, 0, 250, 1000, 150}, Vec3::UnitY());
    REQUIRE(along.ok());
    for (const Vec3& p : {Vec3(1050, 450, 0), Vec3(2050, 350, 10)})
        CHECK(along->normal.dot(p) == Approx(along->d_mm).margin(1e-9));
    // Told from where it stands, it stays there.
    const auto now = job::offsets_now(moved, job.marks[0], 250);
    const auto same = job::plane_from_mark(job, now, moved.normal);
    CHECK((same->normal - moved.normal).norm() < 1e-12);
    CHECK(same->d_mm == Approx(moved.d_mm).margin(1e-9));
    CHECK(now.second_mm - now.first_mm == Approx(50));
    CHECK(job::plane_from_mark(job, {"M9"}, Vec3::UnitX()).error().message == "there is no mark 'M9'");
    CHECK_FALSE(job::plane_from_mark(job, {"M1", false, 10, 0, 10.5, 9}, Vec3::UnitX()).ok());
}

TEST_CASE("copies, the other hand and moves leave what is told from a mark where they say", "[taken_down]") {
    job::Job job = with_mark({1000, 200, -300});
    job.pieces[0].from_mark = piece::FromMark{"M1", false, -500, 300, 500, 400};
    const auto before = job::in_full(job).pieces[0].plane;
    job::Job told = job;
    job::move_together(told, {"B1"}, {25, 10, 0});
    const auto moved = job::in_full(told).pieces[0].plane;
    CHECK((moved.normal - before.normal).norm() < 1e-12);
    CHECK(moved.d_mm == Approx(before.d_mm + before.normal.dot(Vec3(25, 10, 0))).margin(1e-9));
    const auto other = job::mirror_piece(job, "B1");
    const auto hand = job::find_piece(job::in_full(job), other)->plane;
    CHECK((hand.normal - before.normal.cwiseProduct(Vec3(1, -1, 1))).norm() < 1e-12);
    const auto copy = job::copy_piece(job, "B1", 100);
    CHECK(geometry::place_mm(job::find_piece(job::in_full(job), copy)->plane) ==
          Approx(geometry::place_mm(before) + 100).margin(1e-6));
    // Without its mark it has no plane, and says so.
    job.marks.clear();
    const auto results = job::Pipeline().compute_pieces(job::in_full(job));
    REQUIRE_FALSE(results.pieces[0].outline->ok());
    CHECK(results.pieces[0].outline->error().message.find("there is no mark 'M1'") != std::string::npos);
}

TEST_CASE("the outline of what stands is taken down by ordinates, by readings, and mirrored", "[taken_down]") {
    job::Job job = jobs::tube_job();
    auto& piece = job.pieces[0];
    piece.role = piece::Role::stays;
    const auto frame = geometry::upright_frame(piece.plane);
    const std::vector<Vec3> rim{{1500, 0, -500}, {1500, 600, -400}, {1500, 500, 100}, {1500, 0, 100}};
    std::vector<Vec2> corners;
    for (const Vec3& p : rim) corners.push_back(frame.to_plane(p));
    const auto half = job::standing_outline(piece, corners, false),
               whole = job::standing_outline(piece, corners, true);
    REQUIRE((half.ok() && whole.ok()));
    CHECK(half->line.size() == 4);
    CHECK(whole->line.size() == 6);  // those on the centre line stand once
    job::take_outline(piece, *whole);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    REQUIRE(results.pieces[0].shape());
    // Worked by the trapezoid's formula: two of (500 + 600) / 2 * 500 + 600 * 100 / 2.
    CHECK(geometry::area_mm2(results.pieces[0].shape()->face_a) == Approx(2 * (1100.0 / 2 * 500 + 600 * 100 / 2.0)));

    job.readings.push_back(points("R9", rim));
    const auto read = job::outline_by_readings(job, piece, "R9", true);
    REQUIRE(read.ok());
    for (std::size_t k = 0; k < read->line.size(); ++k) CHECK((read->line[k].at - whole->line[k].at).norm() < 1e-9);
    CHECK_FALSE(job::outline_by_readings(job, piece, "R77", false).ok());
    CHECK_FALSE(job::standing_outline(piece, {{0, 0}, {1, 0}}, false).ok());
    CHECK_FALSE(job::standing_outline(piece, {{0, 0}, {100, 0}, {200, 0}}, false).ok());
    piece::PieceSpec along = piece;
    along.plane = {Vec3::UnitY(), 100};
    CHECK_FALSE(job::standing_outline(along, corners, true).ok());
}

TEST_CASE("holes that were read become a pattern, which goes on into the piece behind", "[taken_down]") {
    job::Job job = jobs::tube_job();
    const std::vector<Vec3> holes{{1500, 120, -400}, {1500, 220, -380}, {1500, 330, -430}};
    job.readings.push_back(points("R9", holes));
    const auto read = job::pattern_by_readings(job, job.pieces[0], "R9");
    REQUIRE(read.ok());
    CHECK(read->holes[0].at.norm() < 1e-9);
    CHECK(read->holes[2].at.y() == Approx(0).margin(1e-9));  // the datum runs from the first to the last
    job::JobPattern pattern;
    pattern.id = "H1", pattern.name = "Old hinge", pattern.holes = read->holes;
    job.patterns.push_back(pattern);
    auto on = read->on;
    on.pattern_id = "H1", on.mate_id = "B2", on.mate_kind = piece::HoleKind::insert;
    job.pieces[0].patterns = {on};
    job::JobPiece behind = job.pieces[0];
    behind.id = behind.name = "B2", behind.patterns.clear();
    // It stands behind, and looks the other way.
    behind.plane = {-Vec3::UnitX(), -1536};
    job.pieces.push_back(behind);
    CHECK(kept(job) == job);
    const auto check = [&](const job::Job& told, const Vec2& moved) {
        const job::Job full = job::in_full(told);
        REQUIRE(full.pieces[0].holes.size() == 3);
        REQUIRE(full.pieces[1].holes.size() == 3);
        const auto a = geometry::upright_frame(full.pieces[0].plane),
                   b = geometry::upright_frame(full.pieces[1].plane);
        for (std::size_t k = 0; k < 3; ++k) {
            const Vec3 here = a.to_space(full.pieces[0].holes[k].at), there = b.to_space(full.pieces[1].holes[k].at);
            const Vec3 wanted = holes[k] + moved.x() * a.u + moved.y() * a.v;
            CHECK((here - wanted).norm() < 1e-9);
            CHECK((here - there).tail<2>().norm() < 1e-9);
            CHECK(full.pieces[1].holes[k].kind == piece::HoleKind::insert);
        }
    };
    check(job, {0, 0});
    // One record: both follow it.
    job.pieces[0].patterns[0].at += Vec2(7, -3);
    check(job, {7, -3});
    // A copy drills nothing twice; copied together, the copies go on into each other.
    const auto copy = job::copy_piece(job, "B1", 200);
    CHECK(job::find_piece(job, copy)->patterns[0].mate_id.empty());
    CHECK(job::in_full(job).pieces[1].holes.size() == 3);
    const auto both = job::copy_together(job, {"B1", "B2"}, {500, 0, 0});
    REQUIRE(both.size() == 2);
    CHECK(job::find_piece(job, both[0])->patterns[0].mate_id == both[1]);
    // What it goes on into is said, where it is nothing.
    const auto found = [](const job::Job& told) {
        const auto all = review::review(job::in_full(told), job::Pipeline().compute_pieces(job::in_full(told)));
        return std::any_of(all.begin(), all.end(), [](const auto& f) {
            return f.piece_id == "B1" && f.title.find("go on into nothing") != std::string::npos;
        });
    };
    CHECK_FALSE(found(job));
    // Not face to face: there is nothing to drill there.
    job.pieces[1].plane = {Vec3::UnitY(), 100};
    CHECK(job::in_full(job).pieces[1].holes.empty());
    CHECK(found(job));
    CHECK_FALSE(piece::pattern_from({{0, 0, 0}}, geometry::upright_frame(job.pieces[0].plane), 5).ok());
}

TEST_CASE("a panel built up of sheets is so thick, so heavy, and so many parts", "[taken_down]") {
    job::Job job = jobs::tube_job();
    const auto plain = job::Pipeline().compute(job);
    job.pieces[0].sheets_thick = 3;
    CHECK(kept(job) == job);
    const auto built = job::Pipeline().compute(job);
    REQUIRE(built.pieces[0].shape());
    CHECK(built.pieces[0].shape()->thickness_mm == Approx(3 * plain.pieces[0].shape()->thickness_mm));
    CHECK(built.sheets.at(0).problem->parts.size() == 3 * plain.sheets.at(0).problem->parts.size());
    const auto row = exchange::cut_list(job, built).at(0);
    CHECK(row.quantity == 3);
    CHECK(row.edges.find("glued up of 3 sheets") != std::string::npos);
    const auto drawn = exchange::drawing_of(job, built, "B1");
    REQUIRE(drawn.ok());
    CHECK(drawn->material.find("3 sheets of ") == 0);
}

TEST_CASE("a trial pattern has its part and its papers: face A out of thin sheet", "[taken_down]") {
    job::Job job = jobs::tube_job();
    job::JobMaterial thin = job.materials[0];
    thin.id = "ply4", thin.name = "Plywood 4 mm", thin.thickness_mm = 4;
    job.materials.push_back(thin);
    job.pieces[0].plane.normal = Vec3(0.98, 0.2, 0).normalized();  // bevelled all round
    CHECK_FALSE(exchange::drawing_of(job, job::Pipeline().compute(job), "B1/pattern").ok());
    job.pieces[0].pattern_material = "ply4";
    CHECK(kept(job) == job);
    job::Pipeline pipeline;
    auto results = pipeline.compute(job);
    const auto* shape = results.pieces[0].shape();
    REQUIRE(shape);
    REQUIRE(geometry::farthest_mm(shape->sheet_a, shape->sheet_b) > 2);
    const auto thin_sheets = std::find_if(results.sheets.begin(), results.sheets.end(),
                                          [](const auto& s) { return s.material_id == "ply4"; });
    REQUIRE(thin_sheets != results.sheets.end());
    REQUIRE(thin_sheets->problem->parts.size() == 1);
    CHECK(thin_sheets->problem->parts[0].id == "B1/pattern");
    CHECK(geometry::area_mm2(thin_sheets->problem->parts[0].shape) == Approx(geometry::area_mm2(shape->sheet_a)));
    const auto d = exchange::drawing_of(job, results, "B1/pattern"), whole = exchange::drawing_of(job, results, "B1");
    REQUIRE((d.ok() && whole.ok()));
    CHECK(geometry::farthest_mm(d->face_a, whole->face_a) < 1e-9);
    CHECK(geometry::farthest_mm(d->face_b, d->face_a) < 1e-9);
    CHECK(d->thickness_mm == 4);
    // No figure of face B is left that somebody could cut by; bevels are the piece's.
    const auto figures_of = [](const exchange::Drawing& drawing) {
        std::string out;
        for (const auto& line : paper::figure_lines(drawing))
            for (const auto& cell : line.cells) out += cell + "|";
        return out;
    };
    CHECK(figures_of(*whole).find("B across") != std::string::npos);
    CHECK(figures_of(*d).find("B across") == std::string::npos);
    CHECK(figures_of(*d).find("face B") == std::string::npos);
    CHECK(figures_of(*d).find("bevel|") != std::string::npos);
    REQUIRE(d->rows.size() == whole->rows.size());
    for (std::size_t k = 0; k < d->rows.size(); ++k) {
        CHECK(d->rows[k].across_b_mm == whole->rows[k].across_a_mm);
        CHECK(d->rows[k].bevel_deg == whole->rows[k].bevel_deg);
    }
    // An edge with a lipping is offered up with it: the pattern has it, the sheet has not.
    job::Job lipped = job;
    lipped.pieces[0].edges[0].lipping_mm = 7, lipped.pieces[0].edges[1].leave_on_mm = 3;
    const auto with = job::Pipeline().compute(lipped);
    const auto* both = with.pieces[0].shape();
    REQUIRE(both);
    const auto p = exchange::drawing_of(lipped, with, "B1/pattern");
    REQUIRE(p.ok());
    const geometry::Ring drawn = geometry::transformed(p->face_a, 0, p->corner).outer;
    REQUIRE(p->rows.size() > 20);
    for (const auto& m : both->marks)
        if (m.kept) CHECK(exchange::distance_to_ring_mm(m.a, drawn) < 0.01);
    CHECK(geometry::bounding_box(drawn).max.y() ==
          Approx(geometry::bounding_box(both->face_a.outer).max.y() + 3).margin(0.01));
    CHECK(geometry::area_mm2(p->face_a) > geometry::area_mm2(both->sheet_a) + 7 * 1000);
    for (const auto& note : p->notes) CHECK(note.lipping_mm == 0);
    // Every edge says what is allowed for along it, the lipped one too, and one without says so.
    CHECK(p->notes.size() == lipped.pieces[0].edges.size());
    CHECK(std::any_of(p->notes.begin(), p->notes.end(), [&](const auto& note) {
        return note.name == lipped.pieces[0].edges[0].name && note.gap_mm == lipped.pieces[0].edges[0].gap_mm;
    }));
    CHECK(figures_of(*p).find(": nothing|") != std::string::npos);
    for (const auto& s : with.sheets)
        if (s.material_id == "ply4")
            CHECK(geometry::area_mm2(s.problem->parts.at(0).shape) ==
                  Approx(geometry::area_mm2(p->face_a)).epsilon(1e-6));
    const auto rows = exchange::cut_list(job, results);
    const auto row = std::find_if(rows.begin(), rows.end(), [](const auto& r) { return r.part_id == "B1/pattern"; });
    REQUIRE(row != rows.end());
    CHECK(row->material == "Plywood 4 mm");

    // Its sheet is cut: the pattern is there, the piece is not, and there is no second pattern.
    REQUIRE_FALSE(job::mark_cut(job, *thin_sheets, 0).empty());
    CHECK(job.pieces[0].stage == "pattern");
    results = pipeline.compute(job);
    for (const auto& s : results.sheets)
        if (s.material_id == "ply4") CHECK(s.problem->parts.empty());
    CHECK(results.sheets[0].problem->parts.size() == 1);
    REQUIRE_FALSE(job::mark_cut(job, results.sheets[0], 0).empty());
    CHECK(job.pieces[0].stage == "cut");
}

TEST_CASE("laminating takes so many hours and days, and its cloth so many pieces", "[taken_down]") {
    job::Job job = jobs::tube_job();
    job.costs.laminating_h_m2 = 0.5, job.costs.cure_h = 20, job.fixing_rules.resin_waste = 0.1;
    auto& piece = job.pieces[0];
    piece.layup.face_a = {{{stock::GlassKind::woven, 300}, 2, 0.5}};
    piece.layup.face_b = {{{stock::GlassKind::woven, 300}, 1, 0.5}, {{stock::GlassKind::mat, 450}, 1, 0.25}};
    const auto results = job::Pipeline().compute_pieces(job);
    const auto& shape = *results.pieces[0].shape();
    const auto work = job::layup_work(job, piece, shape);
    const double m2 = (geometry::area_mm2(shape.face_a) + geometry::area_mm2(shape.face_b)) / 2e6;
    CHECK(work.plies == 4);
    CHECK(work.hours == Approx(4 * m2 * 0.5));
    CHECK(work.cure_h == 40);
    CHECK(work.glass_kg == Approx(m2 * (3 * 0.3 + 0.45)));
    // Resin by mass: as much as glass at a half, three times as much at a quarter; a tenth is lost.
    CHECK(work.resin_kg == Approx(1.1 * m2 * (3 * 0.3 + 3 * 0.45)));
    double count = 0, roll = 0;
    for (const auto& c : work.cuts) count += c.count, roll += c.count * c.long_mm;
    CHECK(work.roll_mm == Approx(roll));
    const auto box = geometry::bounding_box(shape.face_a.outer);
    CHECK(roll <= 4 * 2 * std::max(box.width(), box.height()) + 1e-9);
    CHECK(count >= 4);
    CHECK(job::layup_work(job, jobs::tube_job().pieces[0], shape).hours == 0);
}

TEST_CASE("old lengths are used before new ones are bought, prices known or not", "[taken_down]") {
    for (const double price : {0.0, 30.0}) {
        job::Job job = jobs::tube_job();
        job::JobBar fresh;
        fresh.id = "B1", fresh.name = "ash", fresh.width_mm = 30, fresh.depth_mm = 10, fresh.length_mm = 1000;
        fresh.price = price;
        job::JobBar old = fresh;
        old.id = "B2", old.length_mm = 1300, old.price = 0, old.count = 2, old.old = true;
        job.bars = {fresh, old};
        job::LengthWanted wanted;
        wanted.id = "L1", wanted.name = "trim", wanted.bar_id = "B1", wanted.length_mm = 900, wanted.quantity = 3;
        job.lengths = {wanted};
        CHECK(kept(job) == job);
        const auto results = job::Pipeline().compute(job);
        REQUIRE(results.lengths.size() == 1);
        int olds = 0, news = 0;
        for (const auto& bar : results.lengths[0].plan->bars)
            ++(results.lengths[0].bar_ids[static_cast<std::size_t>(bar.bar)] == "B2" ? olds : news);
        // A new bar would do for each, with less waste.
        CHECK(olds == 2);
        CHECK(news == 1);
        for (const auto& line : job::shopping_list(job, results))
            if (line.of_what == "bars") CHECK(line.price == price);
    }
}

TEST_CASE("what a hand scatters is told by its readings, whatever was declared", "[taken_down]") {
    std::mt19937 random(11);
    std::normal_distribution<double> off(0, 3);
    job::Job job = jobs::tube_job();
    job.pieces.clear();
    std::vector<Vec3> places;
    for (int i = 0; i <= 12; ++i)
        for (int k = 0; k <= 16; ++k) {
            const double angle = M_PI + M_PI * k / 16, radius = jobs::tube_radius_mm + off(random);
            places.emplace_back(i * 250, radius * std::cos(angle), radius * std::sin(angle));
        }
    auto set = points("R1", places);
    set.surface_id = "hull", set.sigma_mm = 1.5;
    job.readings = {set};
    const auto results = job::Pipeline().compute_pieces(job);
    const auto hand = job::hand_record(job, results);
    REQUIRE(hand.of(survey::School::direct));
    CHECK(hand.of(survey::School::direct)->readings > 200);
    CHECK(hand.of(survey::School::direct)->sigma_mm() == Approx(3).epsilon(0.2));
    CHECK_FALSE(hand.of(survey::School::tick_stick));
    job::HandRecord twice = hand;
    twice.add(hand);
    CHECK(twice.of(survey::School::direct)->readings == 2 * hand.of(survey::School::direct)->readings);
    CHECK(twice.of(survey::School::direct)->sigma_mm() == Approx(hand.of(survey::School::direct)->sigma_mm()));
    job.practice.emplace();
    CHECK(job::hand_record(job, results).schools.empty());
}

// What stands already, how wide panels lie on it, levels by their stack, how a panel is made, patterns of holes.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>
#include <set>

#include "exchange/cut_list.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/mending.h"
#include "job/packing.h"
#include "job/shopping.h"
#include "piece/levels.h"
#include "piece/lid.h"
#include "review/review.h"
#include "sheets/nearly.h"
#include "support/jobs.h"
#include "support/study.h"

using namespace bevelsmith;
using piece::Role;

namespace {

/// A level panel in the tube at a height, scribed to the hull on both sides, from x = 500 to 1500.
job::JobPiece level_panel(double upper_mm, double gap_mm = 0) {
    job::JobPiece out;
    out.id = "S1", out.name = "Sole", out.kind = "sole panel", out.material_id = "ply18";
    out.plane = {-Vec3::UnitZ(), -upper_mm};
    out.split_for_passage = false;
    out.edges = {{piece::EdgeKind::scribed, "hull", "hull"}};
    out.edges[0].gap_mm = gap_mm;
    for (const double x : {500.0, 1500.0}) {
        out.edges.push_back({piece::EdgeKind::plane, x < 1000 ? "aft" : "fwd", {}});
        out.edges.back().plane = {x < 1000 ? Vec3(-Vec3::UnitX()) : Vec3(Vec3::UnitX()), x < 1000 ? -x : x};
    }
    return out;
}

/// A ledge along the port side: its outer face stands against the hull there.
job::JobObstacle ledge(double top_mm, double wide_mm = 40) {
    job::JobObstacle out;
    out.id = "L1", out.name = "Ledge";
    out.width_mm = wide_mm, out.height_mm = 30;
    const double y = std::sqrt(jobs::tube_radius_mm * jobs::tube_radius_mm - top_mm * top_mm) - wide_mm / 2;
    out.path = {{400, y, top_mm - 15}, {1600, y, top_mm - 15}};
    out.carries = true;
    return out;
}

const piece::Bearing* bearing_on(const job::Results& results, const std::string& obstacle) {
    const auto* piece = results.piece("S1");
    if (!piece || !piece->bearing) return nullptr;
    for (const auto& line : piece->bearing->lines)
        if (line.obstacle_id == obstacle) return &line;
    return nullptr;
}

job::Results worked_out(const job::Job& job) {
    job::Pipeline pipeline;
    const job::Job full = job::in_full(job);
    auto out = pipeline.compute_pieces(full);
    pipeline.forecast(full, out);
    return out;
}

bool found(const job::Job& job, const job::Results& results, review::CheckId id) {
    const auto all = review::review(job::in_full(job), results);
    return std::any_of(all.begin(), all.end(), [&](const auto& f) { return f.check == id; });
}

}  // namespace

TEST_CASE("what is not new is in no cut list, sheet, length, weight or shopping", "[standing]") {
    std::mt19937 random(7);
    std::uniform_int_distribution<int> any_role(0, 4), any_place(300, 2700);
    for (int k = 0; k < cases(200, 12); ++k) {
        job::Job job = jobs::tube_job();
        const job::JobPiece like = job.pieces[0];
        job.pieces.clear();
        for (int i = 0; i < 4; ++i) {
            job::JobPiece p = like;
            p.id = "P" + std::to_string(i);
            p.plane.d_mm = any_place(random);
            p.role = static_cast<Role>(any_role(random));
            p.edges[0].lipping_mm = 6;
            job.pieces.push_back(p);
        }
        const auto results = job::Pipeline().compute(job);
        std::set<std::string> cut, laid, lengths;
        for (const auto& row : exchange::cut_list(job, results)) cut.insert(row.part_id);
        for (const auto& sheet : results.sheets)
            for (const auto& part : sheet.problem->parts) laid.insert(part.id);
        for (const auto& length : results.lengths_without_bar) lengths.insert(length.piece_id);
        double added = 0, removed = 0;
        for (std::size_t i = 0; i < job.pieces.size(); ++i) {
            const auto& p = job.pieces[i];
            REQUIRE(results.pieces[i].shape());
            CHECK(cut.count(p.id) == piece::is_made(p.role));
            CHECK(laid.count(p.id) == piece::is_made(p.role));
            CHECK(lengths.count(p.id) == piece::is_made(p.role));
            const double kg = results.pieces[i].mass.total.mass_kg;
            if (p.role == Role::made) added += kg;
            if (p.role == Role::comes_out || p.role == Role::replaced) removed += kg;
            if (p.role != Role::made) CHECK(results.pieces[i].mass.fixing.mass_kg == 0);
        }
        CHECK(results.added.mass_kg == Approx(added).margin(1e-9));
        CHECK(results.removed.mass_kg == Approx(removed).margin(1e-9));
        if (cut.empty()) CHECK(job::shopping_list(job, results).empty());
    }
}

TEST_CASE("what stands may be known as a face alone: it stops others, and is no stop in the review", "[standing]") {
    job::Job job = jobs::tube_job();
    job::JobPiece face = job.pieces[0];
    face.id = face.name = "OLD", face.plane.d_mm = 1200, face.joints.clear();
    face.edges = {{piece::EdgeKind::straight, "top", {}, {0, 1}, 0}};  // open on all other sides
    job.pieces.push_back(face);
    CHECK(found(job, worked_out(job), review::CheckId::outline));
    job.pieces[1].role = Role::stays;
    const auto results = worked_out(job);
    REQUIRE_FALSE(results.pieces[1].shape());
    for (const auto& f : review::review(job::in_full(job), results))
        if (f.piece_id == "OLD") CHECK(f.severity == review::Severity::note);
}

TEST_CASE("what comes out lists her the other way", "[standing]") {
    const weight::Hydrostatics boat{6000, 0.9, 0.07, 500};
    const weight::Mass mass{40, {2500, 1200, 0}};
    const auto out = weight::attitude({}, mass, boat);
    CHECK(std::tan(out.list_rad) == Approx(-40 * 1.2 / (5960 * 0.9)));
    CHECK(out.trim_cm == Approx(-0.040 * 2.0 / 0.07));
    // A part taken out and one as heavy put in its place change nothing.
    const auto same = weight::attitude(mass, mass, boat);
    CHECK(same.list_rad == Approx(0).margin(1e-12));
    CHECK(same.trim_cm == Approx(0).margin(1e-12));
    // One moved across does, though nothing is heavier.
    const auto across = weight::attitude({40, {2500, -1200, 0}}, mass, boat);
    CHECK(std::tan(across.list_rad) == Approx(-40 * 2.4 / (6000 * 0.9)));
}

TEST_CASE("what comes out is not in the way, and carries nothing; what leans on it is told", "[standing]") {
    job::Job job = jobs::tube_job();
    job.pieces[0].id = "OLD", job.pieces[0].name = "Old bulkhead", job.pieces[0].role = Role::comes_out;
    job::JobPiece fresh = job.pieces[0];
    fresh.id = "B2", fresh.name = "New bulkhead", fresh.role = Role::made;
    job.pieces.push_back(fresh);
    CHECK_FALSE(found(job, worked_out(job), review::CheckId::reaches_into_another));
    job.pieces[0].role = Role::stays;
    CHECK(found(job, worked_out(job), review::CheckId::reaches_into_another));
    // The plane follows the old one, which is the reference: it has to stand until the new one is in.
    job.pieces[0].role = Role::comes_out;
    job.pieces[1].beside = piece::Beside{"OLD", 20};
    CHECK(found(job, worked_out(job), review::CheckId::leans_on_what_goes));
    job.pieces[0].until = "B2";
    CHECK_FALSE(found(job, worked_out(job), review::CheckId::leans_on_what_goes));
    // To stop at it is another matter: it will be gone.
    job.pieces[1].edges.push_back({piece::EdgeKind::piece, "old one", {}});
    job.pieces[1].edges.back().piece_id = "OLD";
    CHECK(found(job, worked_out(job), review::CheckId::leans_on_what_goes));
}

TEST_CASE("a ledge carries as wide as it is, less lining and gap", "[standing]") {
    // Near the tube's widest its side stands upright, so that 8 mm of lining take 8 mm of the ledge.
    constexpr double upper = -60, under = upper - 18;
    job::Job job = jobs::tube_job();
    job.pieces = {level_panel(upper, 2)};
    job.obstacles = {ledge(under)};
    const auto bare = worked_out(job);
    REQUIRE(bearing_on(bare, "L1"));
    const double steep = std::sqrt(1 - std::pow(under / jobs::tube_radius_mm, 2));
    CHECK(bearing_on(bare, "L1")->width_mm == Approx(40 - 2 / steep).margin(0.3));
    CHECK(bearing_on(bare, "L1")->length_mm == Approx(1000).margin(25));
    job.surfaces[0].layers = {{"lining", 8, {}, {}, {}, {}}};
    const auto lined = worked_out(job);
    REQUIRE(bearing_on(lined, "L1"));
    CHECK(bearing_on(bare, "L1")->width_mm - bearing_on(lined, "L1")->width_mm == Approx(8 / steep).margin(0.2));
    // A panel is cut around a ledge that does not carry it, and not around one that does.
    CHECK(lined.piece("S1")->shape()->edges_a.size() == bare.piece("S1")->shape()->edges_a.size());
    // Too narrow for what is wanted: told.
    CHECK_FALSE(found(job, lined, review::CheckId::bearing_too_narrow));
    job.comfort.bearing_mm = 35;
    CHECK(found(job, worked_out(job), review::CheckId::bearing_too_narrow));
    // What comes out carries nothing.
    job.obstacles[0].role = Role::comes_out;
    CHECK_FALSE(bearing_on(worked_out(job), "L1"));
}

TEST_CASE("a cleat on the bare hull loses the lining before it and the gap", "[standing]") {
    job::Job job = jobs::tube_job();
    job.pieces = {level_panel(-60, 3)};
    job.fixing_rules.block_width_mm = 40;
    const auto width = [&] {
        const auto results = worked_out(job);
        for (const auto& line : results.piece("S1")->bearing->lines)
            if (line.edge == 0) return line.width_mm;
        return -1.0;
    };
    CHECK(width() == Approx(40 - 3).margin(0.1));
    job.surfaces[0].layers = {{"lining", 8, {}, {}, {}, {}}};
    CHECK(width() == Approx(40 - 8 - 3).margin(0.1));
}

TEST_CASE("levels follow from their stack, and what is packed from the stock", "[standing]") {
    job::Job job = jobs::tube_job();
    auto panel = level_panel(-300);
    panel.covering_a_mm = 5, panel.bedding_mm = 2;
    panel.layup.face_a = {{{stock::GlassKind::woven, 814}, 1, 0.5}};
    job.pieces = {panel};
    const auto results = worked_out(job);
    const auto* shape = results.piece("S1")->shape();
    REQUIRE(shape);
    const auto stack = piece::stack_of(job.pieces[0], *shape);
    REQUIRE(stack);
    // Worked example: carpet 5 on the panel's upper face at -300; 18 of ply and a ply of some 1.0; 2 of bedding.
    CHECK(stack->finished_up_mm == Approx(-295));
    CHECK(stack->skins_mm == Approx(0.996).margin(0.001));
    CHECK(stack->sheet_mm == Approx(18));
    CHECK(stack->bearer_up_mm == Approx(-295 - 5 - 0.996 - 18 - 2).margin(0.001));
    CHECK(stack->finished_up_mm - stack->covering_mm - stack->skins_mm - stack->sheet_mm - stack->under_mm -
              stack->bedding_mm ==
          Approx(stack->bearer_up_mm));
    // Seat 19 on bearers 19 under it, drop table of 19: a recess of 19 (common practice).
    CHECK(piece::recess_mm(19, 19, 19) == 19);
    CHECK(piece::recess_mm(19, 19, 12) == 26);
    const auto packed = piece::packing_for(23, {4, 6, 9, 12});
    CHECK(packed.left_mm == Approx(0).margin(1e-9));
    CHECK(packed.pieces_mm == std::vector<double>{9, 6, 4, 4});
    CHECK(piece::packing_for(23, {6, 9, 12}).pieces_mm == std::vector<double>{12, 9});  // 2 are left either way
    CHECK(piece::packing_for(18, {4, 6, 9, 12}).pieces_mm == std::vector<double>{12, 6});
    CHECK(piece::packing_for(18, {9, 6}).pieces_mm == std::vector<double>{9, 9});
    CHECK(piece::packing_for(3, {4}).pieces_mm.empty());
    CHECK(piece::packing_for(3, {4}).left_mm == Approx(3));
    CHECK(piece::packing_for(-2, {4}).left_mm == 0);
    // A ledge 20 lower than the panel wants to bear is packed up.
    job.obstacles = {ledge(stack->bearer_up_mm - 20, 60)};
    job.obstacles[0].path[0].y() -= 40, job.obstacles[0].path[1].y() -= 40;
    const auto to_pack = job::packing_under(job, job.pieces[0], *shape);
    REQUIRE(to_pack.size() == 1);
    CHECK(to_pack[0].gap_mm == Approx(20).margin(0.01));
}

TEST_CASE("a layup is as thick and heavy as its plies make it", "[standing]") {
    // ISO 12215-5 (from memory): 814 g/m² woven at psi 0.5 is about 1.0 mm; tests/fixing_test.cpp has the formula.
    const stock::Plies woven{{stock::GlassKind::woven, 814}, 1, 0.5};
    CHECK(stock::ply_thickness_mm(woven) == Approx(1.0).margin(0.01));
    stock::Layup layup;
    layup.face_a = {{{stock::GlassKind::woven, 814}, 2, 0.5}};
    layup.face_b = {woven, {{stock::GlassKind::mat, 300}, 1, 0.3}};
    // Mat at 0.30: 2.33 mm a kg/m² (from memory).
    CHECK(stock::thickness_mm(layup, 15) == Approx(15 + 3 * 0.996 + 0.3 * 2.33).margin(0.005));
    const auto b = stock::skin_of(layup.face_b);
    CHECK(b.glass_kg_m2 == Approx(1.114));
    CHECK(b.resin_kg_m2 == Approx(0.814 + 0.3 * 7 / 3));
    CHECK(stock::mass_kg_m2(layup, 15, 80) == Approx(15 * 0.08 + 2 * 2 * 0.814 + b.mass_kg_m2()));
    layup.covering_a.kg_m2 = 1.2;
    CHECK(stock::mass_kg_m2(layup, 15, 80) == Approx(15 * 0.08 + 2 * 2 * 0.814 + b.mass_kg_m2() + 1.2));
    CHECK_FALSE(stock::is_balanced(layup));
    layup.face_b = layup.face_a;
    CHECK(stock::is_balanced(layup));
    CHECK(stock::is_balanced({}));
}

TEST_CASE("the actual thickness enters the outline and the mass; a measured one replaces it", "[standing]") {
    job::Job job = jobs::tube_job();
    auto& piece = job.pieces[0];
    const double bare_kg = worked_out(job).piece("B1")->mass.panel.mass_kg;
    piece.layup.face_a = piece.layup.face_b = {{{stock::GlassKind::woven, 814}, 1, 0.5}};
    auto results = worked_out(job);
    CHECK(results.piece("B1")->shape()->thickness_mm == Approx(18 + 2 * 0.996).margin(0.001));
    const double m2 = geometry::area_mm2(results.piece("B1")->shape()->face_a) * 1e-6;
    CHECK(results.piece("B1")->mass.panel.mass_kg == Approx(bare_kg + 2 * 2 * 0.814 * m2).epsilon(1e-3));
    CHECK(exchange::cut_list(job, results)[0].thickness_mm == Approx(19.99).margin(0.01));
    CHECK_FALSE(found(job, results, review::CheckId::skins_unequal));
    piece.layup.face_b.clear();
    CHECK(found(job, worked_out(job), review::CheckId::skins_unequal));
    piece.measured_mm = 21.3;
    CHECK(worked_out(job).piece("B1")->shape()->thickness_mm == Approx(21.3));
}

TEST_CASE("a unit's top with plies is thicker, and what is under it ends at its lower face", "[standing]") {
    job::Job job = jobs::demo("ternlight");
    const auto front_top = [&] {
        const job::Job full = job::in_full(job);
        const auto* top = job::find_piece(full, "U3.top");
        REQUIRE(top);
        const auto results = job::Pipeline().compute_pieces(full);
        const auto* shape = results.piece("U3.front")->shape();
        REQUIRE(shape);
        double highest = -HUGE_VAL;
        for (const Vec2& p : shape->face_a.outer) highest = std::max(highest, shape->frame.to_space(p).z());
        return std::pair(highest, job::thickness_of(full, *top));
    };
    job::change_piece(job, "U3.top", [](job::JobPiece& p) { p.layup = {}; });
    const auto [bare_at, bare] = front_top();
    job::change_piece(job, "U3.top", [](job::JobPiece& p) {
        p.layup.face_a = p.layup.face_b = {{{stock::GlassKind::woven, 814}, 2, 0.5}};
    });
    const auto [at, thick] = front_top();
    CHECK(thick - bare == Approx(4 * 0.996).margin(0.01));
    CHECK(bare_at - at == Approx(thick - bare).margin(0.01));
}

TEST_CASE("a pattern of holes mirrored twice is itself, and lies where its datum line does", "[standing]") {
    piece::HolePattern hinge{"H1", "Hinge", "the part in the hand", {}};
    hinge.holes = {
        {{0, 10}, 4, piece::HoleKind::countersunk}, {{50, 10}, 4}, {{25, -12}, 6, piece::HoleKind::insert}};
    CHECK(piece::mirrored(piece::mirrored(hinge)) == hinge);
    CHECK_FALSE(piece::mirrored(hinge) == hinge);
    const auto laid = piece::drilled(hinge, {"H1", {100, 200}, 90, false, {}});
    REQUIRE(laid.size() == 3);
    CHECK((laid[0].at - Vec2(90, 200)).norm() < 1e-9);
    CHECK((laid[1].at - Vec2(90, 250)).norm() < 1e-9);
    CHECK((laid[2].at - Vec2(112, 225)).norm() < 1e-9);
    const auto other = piece::drilled(hinge, {"H1", {100, 200}, 90, true, {}});
    CHECK((other[0].at - Vec2(110, 200)).norm() < 1e-9);
    const auto by_hand = piece::drilled(piece::mirrored(hinge), {"H1", {100, 200}, 90, false, {}});
    for (std::size_t k = 0; k < 3; ++k) CHECK((by_hand[k].at - other[k].at).norm() < 1e-9);
}

TEST_CASE("a mirrored piece has its holes where the mirror puts them", "[standing]") {
    job::Job job = jobs::tube_job();
    job.patterns.emplace_back();
    job.patterns[0].id = "H1", job.patterns[0].name = "Hinge";
    job.patterns[0].holes = {{{0, 10}, 4}, {{50, 25}, 5}};
    job.pieces[0].patterns = {{"H1", {150, -500}, 30, false, {}}};
    const std::string other = job::mirror_piece(job, "B1", {});
    const job::Job full = job::in_full(job);
    const auto results = job::Pipeline().compute_pieces(full);
    const auto& holes = job::find_piece(full, "B1")->holes;
    const auto& mirrored = job::find_piece(full, other)->holes;
    REQUIRE(holes.size() == 2);
    REQUIRE(mirrored.size() == 2);
    for (std::size_t k = 0; k < 2; ++k) {
        Vec3 p = results.piece("B1")->shape()->frame.to_space(holes[k].at);
        p.y() = -p.y();
        CHECK((results.piece(other)->shape()->frame.to_space(mirrored[k].at) - p).norm() < 1e-6);
    }
}

TEST_CASE("a lid and its opening from one cut close with exactly the clearance", "[standing]") {
    for (const double clearance : {1.0, 2.5, 4.0})
        for (const double kerf : {1.2, 2.6, 3.2})
            for (const double film : {0.0, 0.25, 0.4}) {
                const auto lid = piece::own_lid(clearance, kerf, film);
                CHECK(lid.clearance_mm() == Approx(clearance));
                CHECK(lid.planed_mm == Approx(clearance + 2 * film - kerf));
            }
    // From the sheet: what is left open once both edges are coated is the clearance.
    job::Job job = jobs::tube_job();
    job.coating.film_mm = 0.3;
    auto& piece = job.pieces[0];
    piece.openings.push_back({"hatch", -200, -700, 400, 300, 60});
    piece.openings[0].lid = piece::LidFrom::the_sheet;
    piece.openings[0].lid_clearance_mm = 2;
    const auto results = job::Pipeline().compute(job);
    const auto* shape = results.piece("B1")->shape();
    REQUIRE(shape);
    REQUIRE(shape->lids.size() == 1);
    REQUIRE(shape->face_a.holes.size() == 1);
    double least = HUGE_VAL;
    for (const Vec2& p : shape->lids[0].shape.outer)
        for (std::size_t i = 0; i < shape->face_a.holes[0].size(); ++i)
            least = std::min(least, geometry::distance_to_segment_mm(
                                        p, shape->face_a.holes[0][i],
                                        shape->face_a.holes[0][(i + 1) % shape->face_a.holes[0].size()]));
    CHECK(least - 2 * 0.3 == Approx(2).margin(0.02));
    // It is laid out, listed, and weighs; one from its own opening weighs, and is laid out nowhere.
    const auto listed = [&] {
        int count = 0;
        const auto now = job::Pipeline().compute(job);
        for (const auto& row : exchange::cut_list(job, now)) count += row.part_id == "B1/lid 1";
        for (const auto& sheet : now.sheets)
            for (const auto& part : sheet.problem->parts) count += part.id == "B1/lid 1";
        return std::pair(count, now.piece("B1")->mass.panel.mass_kg);
    };
    // Its row says what it is: square, of its own size, whatever the piece's edges and lippings are.
    job.pieces[0].edges[0].lipping_mm = 8;
    for (const auto& row : exchange::cut_list(job, job::Pipeline().compute(job))) {
        if (row.part_id != "B1/lid 1") continue;
        CHECK(row.finished_along_mm > 200);
        CHECK(row.finished_along_mm == Approx(row.sheet_along_mm));
        CHECK(row.edges == "square all round");
        CHECK(row.largest_bevel_deg == 0);
    }
    job.pieces[0].edges[0].lipping_mm = 0;
    const auto [from_sheet, kg] = listed();
    CHECK(from_sheet == 2);
    piece.openings[0].lid = piece::LidFrom::own_opening;
    const auto [own, own_kg] = listed();
    CHECK(own == 0);
    CHECK(own_kg == Approx(kg));
    piece.openings[0].lid = piece::LidFrom::none;
    CHECK(kg - listed().second == Approx(geometry::area_mm2(shape->lids[0].shape) * 1e-9 * 18 * 600).epsilon(1e-3));
    // The saw that takes more than is wanted is told.
    piece.openings[0].lid = piece::LidFrom::own_opening;
    piece.openings[0].lid_clearance_mm = 1, job.cutting.kerf_mm = 3;
    CHECK(found(job, worked_out(job), review::CheckId::lid_too_loose));
    job.cutting.kerf_mm = 1.4;
    CHECK_FALSE(found(job, worked_out(job), review::CheckId::lid_too_loose));
    piece.openings[0].radius_mm = 150;  // nowhere straight
    CHECK(found(job, worked_out(job), review::CheckId::lid_too_loose));
}

TEST_CASE("lippings, trims and built-up edges are as wide as what is done to them asks for", "[standing]") {
    // Worked examples: a gap of 6 with screws 8 from the edge and heads of 4 radius wants 30; planed 2, rounded 3 and
    // 1 to spare want 6.
    CHECK(piece::trim_width_mm(6, 8, 4) == 30);
    piece::EdgeSpec edge;
    edge.planing_mm = 2, edge.round_mm = 3;
    CHECK(piece::least_lipping_mm(edge) == 6);
    job::Job job = jobs::tube_job();
    auto& hull = job.pieces[0].edges[0];
    hull.lipping_mm = 5, hull.planing_mm = 2, hull.round_mm = 3;
    CHECK(found(job, worked_out(job), review::CheckId::edge_too_thin));
    hull.lipping_mm = 6;
    CHECK_FALSE(found(job, worked_out(job), review::CheckId::edge_too_thin));
    hull.lipping_mm = hull.planing_mm = hull.round_mm = 0;
    hull.gap_mm = 6, hull.trim_mm = 20;
    CHECK(found(job, worked_out(job), review::CheckId::edge_too_thin));
    hull.trim_mm = 40;
    CHECK_FALSE(found(job, worked_out(job), review::CheckId::edge_too_thin));
    // A strip of 20 by 30 under the straight top edge: its length, its mass.
    const double bare = worked_out(job).piece("B1")->mass.panel.mass_kg;
    job.pieces[0].edges[1].build_up_mm = 20, job.pieces[0].edges[1].build_up_wide_mm = 30;
    const auto results = job::Pipeline().compute(job);
    double length = 0;
    for (const auto& e : results.piece("B1")->shape()->edges_a)
        if (e.name == "top") length += e.length_mm;
    CHECK(results.piece("B1")->mass.panel.mass_kg - bare == Approx(length * 20 * 30 * 1e-9 * 600).epsilon(1e-3));
    std::set<std::string> names;
    for (const auto& one : results.lengths_without_bar) names.insert(one.name);
    CHECK(names.count("strip under B1, top") == 1);
    CHECK(names.count("trim, to be bent, of B1, hull") == 1);
}

TEST_CASE("an offcut that nearly fits says what is lacking, and where", "[standing]") {
    const auto rectangle = [](double w, double h) {
        return geometry::Polygon{geometry::rectangle({{0, 0}, {w, h}}), {}};
    };
    sheets::Part part;
    part.shape = rectangle(500, 300);
    // Worked examples: 10 too short; with a margin of 5 all round 20; across it does not go at all.
    const auto lacking = sheets::nearly_fits(part, rectangle(490, 400), 0, 20);
    REQUIRE(lacking);
    CHECK(lacking->short_mm == Approx(10).margin(0.2));
    CHECK((lacking->side == sheets::SheetSide::left || lacking->side == sheets::SheetSide::right));
    CHECK(sheets::nearly_fits(part, rectangle(490, 400), 5, 25)->short_mm == Approx(20).margin(0.2));
    CHECK_FALSE(sheets::nearly_fits(part, rectangle(460, 400), 0, 20));
    CHECK(sheets::nearly_fits(part, rectangle(520, 400), 0, 20)->short_mm == 0);
    part.rotations_deg = {0, 90};
    CHECK(sheets::nearly_fits(part, rectangle(310, 495), 0, 20)->short_mm == Approx(5).margin(0.2));
    // A corner is cut out of the offcut where the part would lie.
    geometry::Polygon notched{{{0, 0}, {600, 0}, {600, 320}, {480, 320}, {480, 308}, {0, 308}}, {}};
    part.rotations_deg = {0};
    CHECK(sheets::nearly_fits(part, notched, 0, 20)->short_mm == 0);
    notched.outer = {{0, 0}, {600, 0}, {600, 300}, {480, 300}, {480, 288}, {0, 288}};
    CHECK(sheets::nearly_fits(part, notched, 0, 20)->short_mm == Approx(12).margin(0.3));
}

namespace {

/// The other choice: what is left comes out of the offcut, the patch is a part of its own that fills the piece up.
void patch_is_let_in(job::Job job, const job::Mending& patch) {
    CHECK(job::words(patch, job).find("a patch of ") != std::string::npos);
    REQUIRE(job::mend(job, patch));
    CHECK_FALSE(job::mend(job, patch));  // it is in parts now
    const auto after = job::Pipeline().compute(job);
    const auto* shape = after.pieces[0].shape();
    REQUIRE(shape);
    REQUIRE(shape->parts.size() == 2);
    const auto& sheets = after.sheets.at(0);
    CHECK(sheets.layout->unplaced.empty());
    const auto& parts = sheets.problem->parts;
    REQUIRE(parts.size() == 2);
    const int larger = geometry::area_mm2(parts[0].shape) > geometry::area_mm2(parts[1].shape) ? 0 : 1;
    for (const auto& placed : sheets.layout->placements) {
        const int stock = sheets.layout->sheet_stock[static_cast<std::size_t>(placed.sheet)];
        if (placed.part == larger) CHECK(sheets.stock_names[static_cast<std::size_t>(stock)] == "O1");
    }
    // The scarf's overlap is in both; else the two are the piece.
    double area = 0;
    for (const auto& part : shape->parts) area += geometry::area_mm2(part.face_a);
    CHECK(area > geometry::area_mm2(shape->sheet_a));
    const double scarf_mm = piece::JointSpec{}.slope * shape->thickness_mm;
    const double wide = geometry::bounding_box(shape->sheet_a.outer).width();
    CHECK(area < geometry::area_mm2(shape->sheet_a) + scarf_mm * wide + 1);
}

}  // namespace

TEST_CASE("a part that an offcut nearly gives is taken from it by choice, with a wider gap where it lacks",
          "[standing]") {
    for (const auto face : {piece::Face::a, piece::Face::b}) {
        job::Job job = jobs::tube_job();
        job.materials[0].has_grain = true;
        job.pieces[0].split_for_passage = false, job.pieces[0].good_face = face;
        job.pieces[0].edges[1].at_mm = -700;  // a low floor, that comes out of one sheet
        const auto before = job::Pipeline().compute(job);
        REQUIRE(before.pieces[0].shape());
        const auto box = geometry::bounding_box(before.sheets.at(0).problem->parts.at(0).shape.outer);
        const double margin = job.cutting.edge_margin_mm;
        job::JobOffcut offcut;
        offcut.id = "O1", offcut.material_id = job.materials[0].id;
        // It lacks 6 mm of height: at the round bottom, not at the straight top.
        offcut.shape.outer =
            geometry::rectangle({{0, 0}, {box.width() + 2 * margin + 50, box.height() + 2 * margin - 6}});
        job.offcuts.push_back(offcut);
        const auto results = job::Pipeline().compute(job);
        const auto findings = review::review(job::in_full(job), results);
        const auto at = std::find_if(findings.begin(), findings.end(),
                                     [](const auto& f) { return f.check == review::CheckId::offcut_nearly_fits; });
        REQUIRE(at != findings.end());
        INFO(at->evidence);
        CHECK(at->evidence.find("lacks 6.0 mm") != std::string::npos);
        CHECK(at->evidence.find("along its edge 'hull'") != std::string::npos);
        REQUIRE(at->mendings.size() == 2);
        patch_is_let_in(job, at->mendings[1]);
        REQUIRE(job::mend(job, at->mendings[0]));
        CHECK(job.pieces[0].edges[0].gap_mm == Approx(6.3).margin(0.3));
        const auto after = job::Pipeline().compute(job);
        const auto& sheets = after.sheets.at(0);
        REQUIRE(sheets.layout->sheet_stock.size() == 1);
        CHECK(sheets.stock_names[static_cast<std::size_t>(sheets.layout->sheet_stock[0])] == "O1");
    }
    // Between straight edges none bears a gap: a patch alone, along the edge that is named.
    job::Job straight = jobs::tube_job();
    straight.materials[0].has_grain = true;
    auto& panel = straight.pieces[0];
    panel.split_for_passage = false;
    panel.edges.clear();
    for (const auto& [name, way, at] : {std::tuple("upper", Vec3(0, 0, 1), -200.0),
                                        {"lower", Vec3(0, 0, -1), 600.0},
                                        {"port", Vec3(0, 1, 0), 400.0},
                                        {"starboard", Vec3(0, -1, 0), 400.0}}) {
        panel.edges.push_back({piece::EdgeKind::plane, name, {}});
        panel.edges.back().plane = {way, at};
    }
    const auto whole = job::Pipeline().compute(straight);
    REQUIRE(whole.pieces[0].shape());
    const auto size = geometry::bounding_box(whole.sheets.at(0).problem->parts.at(0).shape.outer).size();
    job::JobOffcut short_one;
    short_one.id = "O1", short_one.material_id = straight.materials[0].id;
    const Vec2 margins = Vec2::Constant(2 * straight.cutting.edge_margin_mm);
    short_one.shape.outer = geometry::rectangle({{0, 0}, size + margins + Vec2(50, -6)});
    straight.offcuts.push_back(short_one);
    const auto short_of = review::review(job::in_full(straight), job::Pipeline().compute(straight));
    const auto told = std::find_if(short_of.begin(), short_of.end(),
                                   [](const auto& f) { return f.check == review::CheckId::offcut_nearly_fits; });
    REQUIRE(told != short_of.end());
    INFO(told->evidence);
    CHECK((told->evidence.find("its edge 'upper'") != std::string::npos ||
           told->evidence.find("its edge 'lower'") != std::string::npos));
    REQUIRE(told->mendings.size() == 1);
    patch_is_let_in(straight, told->mendings[0]);
    job::Job job = jobs::tube_job();
    CHECK_FALSE(job::mend(job, {job::Mending::Kind::wider_gap, "B1", "O1", std::nullopt, 9, 5}));
    CHECK_FALSE(job::mend(job, {job::Mending::Kind::wider_gap, "B1", "O1", std::nullopt, 0, 9999}));
}

TEST_CASE("cloth comes off a roll in drops that overlap", "[standing]") {
    // Worked examples: 1200 across fits a roll of 1270; 1300 wants two drops; 2600 = 1270 + 1240 + 90 wants three.
    const std::vector<stock::Plies> two{{{stock::GlassKind::woven, 300}, 2, 0}};
    using Cuts = std::vector<stock::ClothCut>;
    const auto& cloth = two.front().glass;
    CHECK(stock::cloth_cuts(two, 1800, 1200, 1270) == Cuts{{cloth, 2, 1200, 1800}});
    // Side by side, 30 mm over each other: 1270 and 1300 - 1240.
    CHECK(stock::cloth_cuts(two, 1800, 1300, 1270) == Cuts{{cloth, 2, 1270, 1800}, {cloth, 2, 60, 1800}});
    CHECK(stock::cloth_cuts(two, 1800, 2510, 1270) == Cuts{{cloth, 4, 1270, 1800}});
    CHECK(stock::cloth_cuts(two, 1800, 2600, 1270) == Cuts{{cloth, 4, 1270, 1800}, {cloth, 2, 120, 1800}});
    CHECK(stock::cloth_cuts({}, 1800, 1200, 1270).empty());
}

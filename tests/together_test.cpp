// Several pieces and units at once: moved, copied, turned to the other side, put into one group.
#include <catch2/catch.hpp>

#include "furniture/unit.h"
#include "job/job_file.h"
#include "job/together.h"
#include "support/boards.h"
#include "support/fitted_out.h"

using namespace bevelsmith;
using namespace boards;
using namespace fitted_out;

namespace {

job::JobPiece plain(const piece::PieceSpec& spec) {
    job::JobPiece out;
    static_cast<piece::PieceSpec&>(out) = spec;
    out.material_id = "ply18";
    return out;
}

/// Two boards across, one along between them that stops at both and crosses nothing, a shelf scribed to the hull that
/// stops at one of them; a settee that ends at the first.
job::Job group_job() {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job.pieces.clear();
    job::JobPiece a = plain(board("A", 600)), b = plain(board("B", 1300)), q = plain(along());
    for (auto* p : {&a, &b}) {
        p->at->y() = 400;
        p->edges[0].plane.d_mm = 600, p->edges[1].plane.d_mm = -200;
        p->openings = {{"hole", -450, -50, 60, 60, 20}};
    }
    q.plane.d_mm = 350, q.at = Vec3(900, 359, 0);
    q.edges[3].plane.d_mm = 150, q.edges[2].plane.d_mm = 150;
    for (std::size_t k : {0u, 1u}) {
        q.edges[k].kind = piece::EdgeKind::piece;
        q.edges[k].piece_id = k == 0 ? "B" : "A";
    }
    q.notches = {{"corner", 600 + 18, 100, 50, 80, 0}};
    for (auto* p : {&a, &b, &q}) p->place = "Galley";
    job::JobPiece shelf = plain(level("S", -300));
    shelf.place = "Locker", shelf.at = Vec3(900, 500, -300);
    shelf.edges[0].kind = piece::EdgeKind::scribed, shelf.edges[0].surface_id = "hull", shelf.edges[0].gap_mm = 3;
    shelf.edges[1].plane.d_mm = -300;
    shelf.edges[2].plane.d_mm = 1250;
    shelf.edges[3].kind = piece::EdgeKind::piece, shelf.edges[3].piece_id = "A";
    job.pieces = {a, b, q, shelf};
    job::JobUnit u;
    static_cast<furniture::UnitSpec&>(u) = furniture::usual_unit(furniture::UnitKind::settee);
    u.id = "U1", u.name = "Settee", u.surface_id = "hull", u.material_id = u.top_material_id = "ply18";
    u.from_mm = 1600, u.to_mm = 2600, u.front_mm = 350, u.foot_mm = -650, u.dividers_mm = {2100}, u.height_mm = 300;
    job.units = {u};
    return job;
}

std::vector<Vec3> corners(const Built& b, const std::string& id) {
    std::vector<Vec3> out;
    const auto& o = b.shape(id);
    for (const Vec2& p : o.face_a.outer) out.push_back(o.frame.to_space(p));
    for (const auto& hole : o.face_a.holes)
        for (const Vec2& p : hole) out.push_back(o.frame.to_space(p));
    return out;
}

Vec3 middle(const Built& b, const std::string& id) {
    const auto& o = b.shape(id);
    return o.frame.to_space(geometry::centroid(o.face_a));
}

bool alike(std::vector<Vec3> a, const std::vector<Vec3>& b, const Vec3& by) {
    return a.size() == b.size() && std::all_of(a.begin(), a.end(), [&](const Vec3& p) {
               return std::any_of(b.begin(), b.end(), [&](const Vec3& q) { return (p + by - q).norm() < 1e-6; });
           });
}

}  // namespace

TEST_CASE("what stands together moves with all that is drawn on it", "[together]") {
    job::Job job = group_job();
    const Built before = built(job);
    const Vec3 by(130, -40, 25);
    job::move_together(job, {"A", "B", "Q"}, by);
    const Built after = built(job);
    for (const char* id : {"A", "B", "Q"}) {
        INFO(id);
        CHECK(alike(corners(before, id), corners(after, id), by));
    }
    // The shelf stays, and goes on ending at A where that stands now: at its forward face.
    double aft = 1e9;
    for (const Vec3& p : corners(after, "S")) aft = std::min(aft, p.x());
    CHECK(aft == Approx(600 + 130 + 18));
    CHECK(alike(corners(before, "U1.front"), corners(after, "U1.front"), Vec3::Zero()));
    // A unit goes by its numbers; a panel of it is enough to say so.
    job::move_together(job, {"U1.top"}, {50, 20, 10});
    CHECK(job.units[0].from_mm == 1650);
    CHECK(job.units[0].dividers_mm == std::vector<double>{2150});
    CHECK(job.units[0].front_mm == 370);
    CHECK(job.units[0].foot_mm == -640);
    // What is not there is nothing.
    const job::Job same = job;
    job::move_together(job, {"none", ""}, by);
    CHECK(job == same);
}

TEST_CASE("copies of a group meet each other, and others where these stand", "[together]") {
    job::Job job = group_job();
    const Built before = built(job);
    const Vec3 by(0, 0, -40);
    const auto made = job::copy_together(job, {"A", "B", "Q", "S", "U1.top"}, Vec3(0, 0, 0));
    REQUIRE(made.size() == 5);
    CHECK(job.pieces.size() == 8);
    REQUIRE(job.units.size() == 2);
    const auto* q = job::find_piece(job, made[2]);
    CHECK(q->edges[0].piece_id == made[1]);
    CHECK(q->edges[1].piece_id == made[0]);
    CHECK(job::find_piece(job, made[3])->edges[3].piece_id == made[0]);
    CHECK(made[4].find(job.units[1].id + ".") == 0);
    for (int k = 0; k < 4; ++k) CHECK(corners(built(job), made[static_cast<std::size_t>(k)]).size() > 3);
    // Alone it ends at the others' own.
    const auto alone = job::copy_together(job, {"S"}, by);
    CHECK(job::find_piece(job, alone[0])->edges[3].piece_id == "A");
    CHECK(middle(built(job), alone[0]).z() == Approx(middle(before, "S").z() - 40));
    CHECK(job::job_from_text(job::job_to_text(job)).ok());
}

TEST_CASE("a group turned to the other side is scribed anew there and meets its own", "[together]") {
    job::Job job = group_job();
    const Built before = built(job);
    const auto made = job::mirror_together(job, {"A", "B", "Q", "S", "U1.front"});
    REQUIRE(made.size() == 5);
    const Built after = built(job);
    const char* of[] = {"A", "B", "Q", "S"};
    for (std::size_t k = 0; k < 4; ++k) {
        INFO(of[k]);
        CHECK((middle(after, made[k]) - middle(before, of[k]).cwiseProduct(Vec3(1, -1, 1))).norm() < 0.3);
        CHECK(geometry::area_mm2(after.shape(made[k]).face_a) ==
              Approx(geometry::area_mm2(before.shape(of[k]).face_a)).epsilon(1e-3));
    }
    const auto* q = job::find_piece(job, made[2]);
    CHECK(q->edges[0].kind == piece::EdgeKind::piece);
    CHECK((q->edges[0].piece_id == made[1] || q->edges[0].piece_id == made[0]));
    CHECK(job.units[1].side == furniture::Side::starboard);
    solids::check_no_overlap(after.results, 0.01);
    // Alone it ends at planes where the others would be.
    const auto alone = job::mirror_together(job, {"Q"});
    CHECK(job::find_piece(job, alone[0])->edges[0].kind == piece::EdgeKind::plane);
    // What stands on both sides as it is has no like.
    job.units[0].kind = furniture::UnitKind::engine_box;
    CHECK(job::mirror_together(job, {"U1.top"}).empty());
    CHECK(job::mirror_unit(job, "none").empty());
}

TEST_CASE("halves that are turned to the other side together fit into each other there", "[together]") {
    // A level board through one across, to port: they meet in a line athwartships.
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job::JobPiece across = plain(board("A", 600)), flat = plain(level("L", 0));
    across.at->y() = 400, flat.at->y() = 400;
    across.edges[0].plane.d_mm = 600, across.edges[1].plane.d_mm = -200;
    flat.edges[0].plane.d_mm = 500, flat.edges[1].plane.d_mm = -100;
    across.crossings = {{"L", piece::Crossing::half_upper, 0.5}};
    flat.crossings = {{"A", piece::Crossing::half_lower, 0.5}};
    job.pieces = {across, flat};
    const Built before = built(job);
    solids::check_no_overlap(before.results, 0.01);
    const auto made = job::mirror_together(job, {"A", "L"});
    REQUIRE(made.size() == 2);
    const auto* like = job::find_piece(job, made[0]);
    REQUIRE(like->crossings.size() == 1);
    CHECK(like->crossings[0].piece_id == made[1]);
    CHECK(like->crossings[0].how == piece::Crossing::half_lower);
    const Built after = built(job);
    solids::check_no_overlap(after.results, 0.01);
    for (std::size_t k : {0u, 1u})
        CHECK(geometry::area_mm2(after.shape(made[k]).face_a) ==
              Approx(geometry::area_mm2(before.shape(k ? "L" : "A").face_a)).margin(0.1));
    // Alone it crosses nothing there.
    const auto alone = job::mirror_together(job, {"A"});
    CHECK(job::find_piece(job, alone[0])->crossings.empty());
}

TEST_CASE("a piece through marks stays where these are", "[together]") {
    job::Job job = group_job();
    job.pieces[0].through = {"M1", "M2", "M3"};
    const auto before = job.pieces[0];
    job::move_together(job, {"A", "B"}, {100, 0, 0});
    CHECK(job.pieces[0] == before);
    CHECK(job.pieces[1].plane.d_mm == 1400);
}

TEST_CASE("a group is a unit or what stands under one place", "[together]") {
    job::Job job = group_job();
    CHECK(job::group_of(job, "Q") == job::Ids{"A", "B", "Q"});
    CHECK(job::group_of(job, "S") == job::Ids{"S"});
    CHECK(job::group_of(job, "U1.front").size() == 8);
    CHECK(job::group_of(job, "none").empty());
    job::put_under(job, {"S", "Q", "U1.top"}, "Forepeak");
    CHECK(job::group_of(job, "S") == job::Ids{"Q", "S"});
    CHECK(job::group_of(job, "U1.front").size() == 8);
}

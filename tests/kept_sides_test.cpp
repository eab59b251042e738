// Which side of another piece is kept: a relation that is chosen once.
#include <catch2/catch.hpp>

#include <random>

#include "job/in_full.h"
#include "job/job_file.h"
#include "job/kept_sides.h"
#include "support/boards.h"
#include "support/jobs.h"
#include "support/study.h"

using namespace bevelsmith;

namespace {

/// A shelf between two bulkheads of a tube: after, forward.
job::Job shelf_between() {
    job::Job job = jobs::tube_job();
    const std::string material = job.materials[0].id;
    job.pieces.clear();
    for (const auto& [id, x] : {std::pair("AFT", 800.0), std::pair("FWD", 2200.0)}) {
        job::JobPiece bulkhead;
        bulkhead.id = bulkhead.name = id;
        bulkhead.plane = {Vec3::UnitX(), x};
        bulkhead.material_id = material;
        piece::EdgeSpec hull;
        hull.name = "hull", hull.surface_id = job.surfaces[0].id;
        piece::EdgeSpec top;
        top.kind = piece::EdgeKind::plane, top.name = "top", top.plane = {Vec3::UnitZ(), -200};
        bulkhead.edges = {hull, top};
        job.pieces.push_back(bulkhead);
    }
    job::JobPiece shelf;
    shelf.id = shelf.name = "SHELF";
    shelf.plane = {-Vec3::UnitZ(), 500};
    shelf.material_id = material;
    shelf.at = Vec3(1500, 0, -500);
    piece::EdgeSpec hull;
    hull.name = "hull", hull.surface_id = job.surfaces[0].id;
    shelf.edges = {hull};
    for (const char* id : {"AFT", "FWD"}) {
        piece::EdgeSpec stop;
        stop.kind = piece::EdgeKind::piece, stop.name = id, stop.piece_id = id;
        shelf.edges.push_back(stop);
    }
    job.pieces.push_back(shelf);
    return job;
}

}  // namespace

TEST_CASE("a shelf keeps its side of two bulkheads through hundreds of moves of these", "[kept_sides]") {
    job::Job job = shelf_between();
    job::settle_sides(job);
    const auto kept = job.pieces[2].edges;
    CHECK(kept[1].kept == piece::KeptSide::beyond_b);
    CHECK(kept[2].kept == piece::KeptSide::before_a);
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(200, 2800), lean(-0.15, 0.15);
    job::Pipeline pipeline;
    int between = 0;
    for (int k = 0; k < cases(500, 120); ++k) {
        auto& moved = job.pieces[static_cast<std::size_t>(k % 2)];
        moved.plane.normal = Vec3(1, 0, lean(random)).normalized();
        moved.plane.d_mm = place(random) * moved.plane.normal.x();
        job::settle_sides(job);
        REQUIRE(job.pieces[2].edges == kept);
        const auto results = pipeline.compute_pieces(job);
        const auto* shape = results.pieces[2].shape();
        const double t = job.materials[0].thickness_mm;
        const auto at = [&](std::size_t i, double behind) {
            const auto& plane = job.pieces[i].plane;
            return (plane.d_mm + behind - plane.normal.z() * -500) / plane.normal.x();
        };
        // Crossed bulkheads leave nothing between them; never is the shelf found on their far sides.
        if (!shape) continue;
        for (const Vec2& p : shape->face_a.outer) {
            const double x = shape->frame.to_space(p).x();
            REQUIRE(x > at(0, t) - 3);
            REQUIRE(x < at(1, 0) + 3);
        }
        ++between;
    }
    CHECK(between > cases(150, 35));
}

TEST_CASE("a job of before chooses its sides when it is read, and keeps them in its file", "[kept_sides]") {
    const auto read = job::job_from_text(job::job_to_text(shelf_between()));
    REQUIRE(read.ok());
    CHECK(read->pieces[2].edges[1].kept == piece::KeptSide::beyond_b);
    CHECK(read->pieces[2].edges[2].kept == piece::KeptSide::before_a);
    const auto again = job::job_from_text(job::job_to_text(*read));
    REQUIRE(again.ok());
    CHECK(*again == *read);
}

TEST_CASE("sides are told in the boat's words", "[kept_sides]") {
    using piece::KeptSide;
    CHECK(job::side_in_words(KeptSide::beyond_b, {Vec3::UnitX(), 0}) == "forward of it");
    CHECK(job::side_in_words(KeptSide::before_a, {Vec3::UnitX(), 0}) == "abaft it");
    CHECK(job::side_in_words(KeptSide::before_a, {-Vec3::UnitY(), 0}) == "to port of it");
    CHECK(job::side_in_words(KeptSide::beyond_b, {-Vec3::UnitZ(), 0}) == "under it");
}

TEST_CASE("a panel of a unit stays between its bulkheads when one is moved past the other's old place",
          "[kept_sides]") {
    job::Job job = jobs::demo("ternlight");
    const job::JobUnit* unit = nullptr;
    for (const auto& u : job.units)
        if (!u.from_piece_id.empty()) unit = &u;
    REQUIRE(unit);
    const auto full = job::in_full(job);
    int stops = 0;
    for (const auto& p : full.pieces)
        for (const auto& e : p.edges)
            if (job::is_of(p.id, unit->id) && e.piece_id == unit->from_piece_id) {
                CHECK(e.kept != piece::KeptSide::by_place);
                ++stops;
            }
    CHECK(stops > 0);
}

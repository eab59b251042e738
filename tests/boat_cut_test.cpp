// Cuts through the whole boat: the wood of a piece is where its two faces are cut, the hull where it is met.
#include <catch2/catch.hpp>

#include <cmath>

#include "exchange/boat_cut.h"
#include "support/jobs.h"

using namespace bevelsmith;
using namespace bevelsmith::exchange;

namespace {

/// The tube with its bulkhead at x = 1500 to 1518 below z = -200, and a shelf from z = -518 to -500.
const job::Results& results() {
    static const job::Results all = [] {
        job::Job job = jobs::tube_job();
        job::JobPiece shelf = job.pieces.front();
        shelf.id = shelf.name = "S1";
        shelf.plane = {-Vec3::UnitZ(), 500};
        shelf.edges[1] = {piece::EdgeKind::straight, "fwd end", {}, {0, 1}, 1400, 0, 0};
        shelf.edges.push_back({piece::EdgeKind::straight, "aft end", {}, {0, -1}, -600, 0, 0});
        shelf.openings.push_back({"hatch", -200, 900, 400, 200, 0});
        job.pieces.push_back(shelf);
        return job::Pipeline().compute_pieces(job);
    }();
    return all;
}

double wood_mm2(Cut cut, double at, std::size_t piece) {
    double out = 0;
    for (const auto& p : cut_pieces(results(), cut, at))
        if (p.piece == piece) out += geometry::total_area_mm2(p.wood);
    return out;
}

bool beyond(Cut cut, double at, std::size_t piece) {
    for (const auto& p : cut_pieces(results(), cut, at))
        if (p.piece == piece) return !p.beyond.empty();
    return false;
}

constexpr double t = 18;

}  // namespace

TEST_CASE("a piece is cut with its true thickness, openings left out", "[boat_cut]") {
    REQUIRE(results().pieces[1].shape());
    // The shelf in section: as wide as the tube at both faces.
    const double upper = 2 * std::sqrt(1e6 - 500.0 * 500), lower = 2 * std::sqrt(1e6 - 518.0 * 518);
    CHECK(wood_mm2(Cut::section, 700, 1) == Approx(t * (upper + lower) / 2).epsilon(1e-4));
    CHECK(wood_mm2(Cut::section, 1000, 1) == Approx(t * ((upper + lower) / 2 - 400)).epsilon(1e-4));
    CHECK(wood_mm2(Cut::section, 300, 1) == 0);
    // The bulkhead in profile, on the centre line and off it: from the hull up to z = -200.
    CHECK(wood_mm2(Cut::profile, 0, 0) == Approx(t * 800).epsilon(1e-4));
    CHECK(wood_mm2(Cut::profile, 600, 0) == Approx(t * (std::sqrt(1e6 - 360000) - 200)).epsilon(1e-4));
    // In plan at z = -400 across the boat; a cut along a piece shows all of it.
    CHECK(wood_mm2(Cut::plan, -400, 0) == Approx(t * 2 * std::sqrt(1e6 - 160000)).epsilon(1e-4));
    CHECK(wood_mm2(Cut::plan, -505, 1) ==
          Approx(geometry::area_mm2(results().pieces[1].shape()->face_a)).epsilon(1e-6));
    CHECK(wood_mm2(Cut::plan, -520, 1) == 0);
}

TEST_CASE("what lies beyond a cut is seen, what lies before it is not", "[boat_cut]") {
    CHECK(beyond(Cut::section, 1000, 0));  // looking forward, the bulkhead ahead
    CHECK_FALSE(beyond(Cut::section, 2000, 0));
    CHECK(beyond(Cut::plan, 0, 1));  // from above
    CHECK_FALSE(beyond(Cut::plan, -700, 1));
    CHECK(beyond(Cut::profile, -900, 1));  // from starboard, looking to port
}

TEST_CASE("a cut shows the hull where it is, as drawings here lie", "[boat_cut]") {
    for (Cut cut : {Cut::section, Cut::profile, Cut::plan}) {
        const double at = cut == Cut::section ? 1200 : cut == Cut::profile ? 300 : -300;
        const auto hull = cut_hull(results(), cut, at);
        REQUIRE(hull.size() == 1);
        for (const auto& run : hull[0].runs)
            for (const auto& p : run.points)
                if (p.in_survey) CHECK(std::hypot(p.a.y(), p.a.z()) == Approx(1000).margin(0.1));
    }
    CHECK(frame_of(Cut::section).to_drawing({0, 5, 7}) == Vec2(-5, 7));
    CHECK(frame_of(Cut::profile).to_drawing({3, 5, 7}) == Vec2(3, 7));
    CHECK(frame_of(Cut::plan).to_drawing({3, 5, 7}) == Vec2(3, 5));
    CHECK_FALSE(extent_of(results()).empty);
    CHECK(extent_of({}).empty);
    CHECK(cut_hull({}, Cut::plan, 0).empty());
}

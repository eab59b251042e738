// What is cut into pieces and how they go together: obstacles, crossings, rows of holes, drains, joints, reliefs;
// what carries level panels. Worked examples in closed form (derived here).
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "job/in_full.h"
#include "job/measured_places.h"
#include "job/pipeline.h"
#include "piece/crossing.h"
#include "piece/features.h"
#include "piece/hole_rows.h"
#include "piece/joints.h"
#include "piece/low_points.h"
#include "piece/obstacle.h"
#include "piece/relief.h"
#include "support/boards.h"
#include "support/jobs.h"
#include "survey/instruments.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::piece;
using namespace boards;

namespace {

Obstacle pipe(const Vec3& from, const Vec3& to, double diameter, double clearance) {
    Obstacle out;
    out.id = "O1", out.name = "Hose";
    out.section = Section::round;
    out.path = {from, to};
    out.width_mm = diameter, out.clearance_mm = clearance;
    return out;
}

}  // namespace

TEST_CASE("a pipe square through a panel leaves a round hole, aslant one as long as the panel is thick",
          "[features]") {
    const double r = 30;  // 50 mm and 5 mm clear
    const Outline square = outline_of(board("P", 1000), {{}, {pipe({0, 50, 20}, {2000, 50, 20}, 50, 5)}});
    REQUIRE(square.face_a.holes.size() == 1);
    CHECK(square.face_a.holes == square.face_b.holes);
    const double area = std::abs(geometry::area_mm2(square.face_a.holes[0]));
    // A polygon about the circle, no more than 0.05 mm outside of it.
    CHECK(area >= M_PI * r * r - 1e-3);
    CHECK(area <= M_PI * (r + 0.05) * (r + 0.05));

    // Going to port one in one: u runs to starboard, so the hole reaches from the middle by r / cos 45° at face A and
    // is drawn out by the thickness.
    const Outline aslant = outline_of(board("P", 1000), {{}, {pipe({0, -1000, 0}, {2000, 1000, 0}, 50, 5)}});
    REQUIRE(aslant.face_a.holes.size() == 1);
    const auto box = geometry::bounding_box(aslant.face_a.holes[0]);
    CHECK(box.height() == Approx(2 * r).margin(0.11));
    CHECK(box.width() == Approx(2 * r * std::sqrt(2) + t).margin(0.2));
    CHECK(box.min.x() == Approx(-r * std::sqrt(2) - t).margin(0.1));
}

TEST_CASE("what stands at the edge notches it, what passes by does not, what takes all is told", "[features]") {
    Obstacle stringer = pipe({0, 300, 0}, {2000, 300, 0}, 40, 2);
    stringer.section = Section::square, stringer.height_mm = 60, stringer.name = "Stringer";
    const Outline o = outline_of(board("P", 1000), {{}, {stringer}});
    CHECK(o.face_a.holes.empty());
    // Half of it lies within: 22 by 64 mm.
    CHECK(geometry::area_mm2(o.face_a) == Approx(600 * 400 - 22 * 64).margin(0.1));
    const auto notch = std::find_if(o.edges_a.begin(), o.edges_a.end(),
                                    [](const Edge& e) { return e.source == EdgeSource::obstacle; });
    REQUIRE(notch != o.edges_a.end());
    CHECK(notch->name == "Stringer");
    CHECK(notch->length_mm == Approx(22 + 64 + 22).margin(0.1));

    Obstacle beside = pipe({0, 0, 0}, {990, 0, 0}, 50, 5);  // ends 5 mm short of the panel with its clearance
    CHECK(outline_of(board("P", 1000), {{}, {beside}}).face_a.holes.empty());
    CHECK_FALSE(reaches(beside, {Vec3::UnitX(), 1100}, t));
    CHECK(reaches(beside, {Vec3::UnitX(), 900}, t));

    Obstacle tank = pipe({0, 0, 0}, {2000, 0, 0}, 700, 5);
    tank.section = Section::square, tank.height_mm = 600, tank.name = "Tank";
    const auto gone = computed(board("P", 1000), {{}, {tank}});
    REQUIRE_FALSE(gone.ok());
    CHECK(gone.error().message ==
          "'Board P': the room for 'Tank' leaves nothing of the piece; make it smaller or remove it");
}

TEST_CASE("no point of a panel lies nearer to a random run than its clearance", "[features]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> any(-1, 1);
    int met = 0;
    for (int k = 0; k < 60; ++k) {
        const Vec3 middle(1000 + 20 * any(random), 250 * any(random), 150 * any(random));
        const Vec3 way = Vec3(0.4 + std::abs(any(random)), any(random), any(random)).normalized();
        const Obstacle o = pipe(middle - 900 * way, middle + 900 * way, 40 + 20 * any(random), 4);
        const auto out = computed(board("P", 1000), {{}, {o}});
        if (!out) continue;
        const double least = o.width_mm / 2 + o.clearance_mm;
        for (double u = -299; u < 300; u += 7)
            for (double v = -199; v < 200; v += 7) {
                if (!geometry::contains(out->face_a, {u, v})) {
                    ++met;
                    continue;
                }
                for (const double behind : {0.0, t / 2, t}) {
                    const Vec3 p = out->frame.to_space({u, v}) + behind * out->frame.normal;
                    const Vec3 off = p - middle;
                    CHECK((off - off.dot(way) * way).norm() > least - 1e-3);
                }
            }
    }
    CHECK(met > 200);
}

TEST_CASE("a piece goes through another by a slot, or both are halved at the middle of what they share",
          "[features]") {
    constexpr double thin = 12, clear = 0.5;
    PieceSpec p = board("P", 1000);
    p.crossings = {{"Q", Crossing::slot, clear}};
    const Outline slotted = outline_of(p, crossed_by(along(), thin));
    // The other stands from z = -100 to over the top (200): an open slot, 12 and a millimetre wide.
    CHECK(slotted.face_a.holes.empty());
    CHECK(geometry::area_mm2(slotted.face_a) == Approx(600 * 400 - (thin + 1) * (300 + clear)).margin(0.1));

    PieceSpec low = along();
    low.edges[2].plane.d_mm = 100;
    const Outline within = outline_of(p, crossed_by(low, thin));
    REQUIRE(within.face_a.holes.size() == 1);
    CHECK(std::abs(geometry::area_mm2(within.face_a.holes[0])) == Approx((thin + 1) * (200 + 1)).margin(0.1));

    // Halved: they share z from -100 to 200, so each is cut to the middle at 50, and half the clearance beyond.
    p.crossings = {{"Q", Crossing::half_lower, clear}};
    PieceSpec q = along();
    q.crossings = {{"P", Crossing::half_upper, clear}};
    const Outline half_p = outline_of(p, crossed_by(along(), thin)),
                  half_q = outline_of(q, crossed_by(board("P", 1000), t), thin);
    CHECK(geometry::area_mm2(half_p.face_a) == Approx(600 * 400 - (thin + 1) * (150 + clear / 2 + 100)).margin(1300));
    double highest_cut = -1e9;
    for (double z = -199; z < 200; z += 0.25) {
        if (!geometry::contains(half_p.face_a, {-56, z})) highest_cut = std::max(highest_cut, z);
    }
    CHECK(highest_cut == Approx(50 + clear / 2).margin(0.3));
    double lowest_in_slot = 1e9;
    for (double z = -90; z < 200; z += 0.25)
        if (!geometry::contains(half_q.face_a, half_q.frame.to_plane(Vec3(1009, 50, z))))
            lowest_in_slot = std::min(lowest_in_slot, z);
    CHECK(lowest_in_slot == Approx(50 - clear / 2).margin(0.3));
}

TEST_CASE("where the planes lean a slot's walls are sawn at the lean, exact on both faces", "[features]") {
    constexpr double thin = 12, clear = 0.5;
    for (const double lean : {-0.5, 0.35, 0.9}) {
        INFO(lean);
        PieceSpec q = along();
        q.plane = {Vec3(std::sin(lean), std::cos(lean), 0), 1000 * std::sin(lean)};
        q.edges[2].plane.d_mm = 100;
        q.at = Vec3(1000, 0, 0) + 5 * q.plane.normal;
        PieceSpec p = board("P", 1000);
        p.crossings = {{"Q", Crossing::slot, clear}};
        Around around = crossed_by(q, thin);
        const Outline o = outline_of(p, around);
        REQUIRE(o.face_a.holes.size() == 1);
        REQUIRE(o.face_b.holes.size() == 1);
        // Worked: every corner of the slot, on both faces, lies the clearance off one of the other's faces, and the
        // clearance off its ends at z = -100 and 100.
        const auto check = [&](const geometry::Ring& hole, double behind, double covering) {
            for (const Vec2& corner : hole) {
                const Vec3 at = o.frame.to_space(corner) + behind * o.frame.normal;
                const double off = q.plane.normal.dot(at) - q.plane.d_mm;
                CHECK(std::min(std::abs(off + clear + covering), std::abs(off - thin - clear)) < 1e-4);
                CHECK(std::abs(std::abs(at.z()) - 100 - clear) < 1e-4);
            }
            const auto box = geometry::bounding_box(hole);
            CHECK(box.width() == Approx((thin + covering + 2 * clear) / std::cos(lean)).margin(1e-4));
        };
        check(o.face_a.holes[0], 0, 0), check(o.face_b.holes[0], t, 0);
        // Its walls lean with the other, one open and one closed.
        REQUIRE(o.slot_walls.size() == 2);
        CHECK(std::abs(o.slot_walls[0].bevel_rad) == Approx(std::abs(lean)));
        CHECK(o.slot_walls[0].bevel_rad == Approx(-o.slot_walls[1].bevel_rad));
        for (const SlotWall& wall : o.slot_walls) {
            CHECK(wall.length_mm() == Approx(200 + 2 * clear).margin(1e-3));
            // u runs to starboard, so from face A to face B the other moves by t tan(lean) in u: open is the wall
            // that follows it into the slot.
            const double middle = geometry::bounding_box(o.face_a.holes[0]).centre().x();
            const double into = wall.from.x() < middle ? 1 : -1;
            CHECK(wall.bevel_rad == Approx(into * lean));
        }
        // A covering on the other makes room for itself.
        const auto covered = std::make_shared<Neighbour>(*around.pieces("Q"));
        covered->covering_a_mm = 2;
        const Outline wide = outline_of(p, {[covered](const std::string&) { return covered.get(); }, {}});
        CHECK(geometry::bounding_box(wide.face_a.holes[0]).width() ==
              Approx((thin + 2 + 2 * clear) / std::cos(lean)).margin(1e-4));
        // Reaching over the top it shows at the outline, and its edges there have the bevel.
        q.edges[2].plane.d_mm = 300;
        const Outline open = outline_of(p, crossed_by(q, thin));
        CHECK(open.slot_walls.empty());
        int walls = 0;
        for (const Edge& e : open.edges_a)
            walls += e.source == EdgeSource::crossing && std::abs(std::abs(e.bevel_rad) - std::abs(lean)) < 1e-9;
        CHECK(walls == 2);
    }
}

TEST_CASE("leaning pieces halved into each other touch nowhere and share the bottoms of their slots", "[features]") {
    constexpr double thin = 12, clear = 0.5;
    PieceSpec p = board("P", 1000), q = along();
    q.plane = {Vec3(std::sin(0.4), std::cos(0.4), 0), 1000 * std::sin(0.4)};
    q.at = Vec3(1000, 0, 0) + 5 * q.plane.normal;
    const Around sees_q = crossed_by(q, thin), sees_p = crossed_by(p, t);
    p.crossings = {{"Q", Crossing::half_lower, clear}};
    q.crossings = {{"P", Crossing::half_upper, clear}};
    const Outline half_p = outline_of(p, sees_q), half_q = outline_of(q, sees_p, thin);
    // A body's section at a depth is that between its faces: by points of a grid, on three depths of each.
    const auto within = [](const Outline& o, const Vec3& at) {
        const double behind = o.frame.normal.dot(at - o.frame.origin) / o.thickness_mm;
        if (behind < 0 || behind > 1) return false;
        const Vec2 there = o.frame.to_plane(at);
        return geometry::contains(o.face_a, there) && geometry::contains(o.face_b, there);
    };
    int both = 0, one = 0;
    for (double z = -99; z < 199; z += 3)
        for (double x = 1000.5; x < 1018; x += 2.1)
            for (double y = -40; y < 40; y += 1.7) {
                const bool a = within(half_p, {x, y, z}), b = within(half_q, {x, y, z});
                both += a && b, one += a || b;
            }
    CHECK(both == 0);
    CHECK(one > 5000);
    // P is cut from below to the middle of what they share (z = -100 to 200), Q from above, the clearance between.
    const auto bottom = [](const Outline& o, bool from_below) {
        double out = from_below ? -1e9 : 1e9;
        for (const Edge& e : o.edges_a)
            if (e.source == EdgeSource::crossing)
                for (const int i : {e.first, e.last}) {
                    const double z = o.frame.to_space(o.face_a.outer[static_cast<std::size_t>(i)]).z();
                    out = from_below ? std::max(out, z) : std::min(out, z);
                }
        return out;
    };
    CHECK(bottom(half_p, true) == Approx(50 + clear / 2).margin(1e-6));
    CHECK(bottom(half_q, false) == Approx(50 - clear / 2).margin(1e-6));
}

TEST_CASE("two halved pieces of a job fit into each other without one waiting for the other", "[features]") {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job.pieces.resize(1);
    job::JobPiece a, b;
    static_cast<PieceSpec&>(a) = board("P", 1000);
    static_cast<PieceSpec&>(b) = along();
    a.material_id = b.material_id = "ply18";
    a.crossings = {{"Q", Crossing::half_lower, 0.5}};
    b.crossings = {{"P", Crossing::half_upper, 0.5}};
    job.pieces = {a, b};
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    REQUIRE(results.pieces[0].shape());
    REQUIRE(results.pieces[1].shape());
    const auto solid_at = [&](const Outline& o, const Vec3& p) {
        const double behind = o.frame.normal.dot(p - o.frame.origin);
        return behind > 0.01 && behind < o.thickness_mm - 0.01 && geometry::contains(o.face_a, o.frame.to_plane(p));
    };
    int both = 0, shared = 0;
    for (double z = -199; z < 299; z += 2)
        for (double x = 1000.5; x < 1018; x += 2)
            for (double y = 50.5; y < 68; y += 2) {
                const bool p = solid_at(*results.pieces[0].shape(), {x, y, z}),
                           q = solid_at(*results.pieces[1].shape(), {x, y, z});
                both += p && q, shared += p || q;
            }
    CHECK(both == 0);
    CHECK(shared > 1000);
    // A circle of stops is refused; crossings are none.
    job.pieces[1].plane = {Vec3::UnitX(), 1000};
    const auto apart = pipeline.compute_pieces(job);
    CHECK(apart.pieces[0].shape()->edges_a.size() == 4);  // parallel planes do not cross
}

TEST_CASE("vent holes: as many as the wanted free area takes, and the area that fits is told", "[features]") {
    // Worked: 30 mm holes have 7.07 cm² each; 50 cm² take 8 of them, four a row in 240 mm.
    HoleRow row{"vents", 100, 50, 240, 100, 30, 50};
    const auto layout = laid_out(row);
    REQUIRE(layout.ok());
    CHECK(layout->rows == 2);
    CHECK(layout->columns == 4);
    CHECK(layout->free_cm2 == Approx(8 * M_PI * 1.5 * 1.5));
    for (std::size_t i = 0; i < layout->centres.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) CHECK((layout->centres[i] - layout->centres[k]).norm() >= 60 - 1e-9);
    row.wanted_cm2 = 100;
    const auto full = laid_out(row);
    REQUIRE_FALSE(full.ok());
    CHECK(full.error().message ==
          "'vents': holes of 30 mm in 240 x 100 mm give 56.5 cm² of free area, 100.0 cm² is wanted; make the field "
          "or the "
          "holes larger");
    PieceSpec p = board("P", 1000);
    p.rows = {{"vents", -120, 0, 240, 100, 30, 50}};
    const Outline o = outline_of(p);
    CHECK(o.face_a.holes.size() == 8);
    double area = 0;
    for (const auto& hole : o.face_a.holes) area += std::abs(geometry::area_mm2(hole));
    CHECK(area / 100 == Approx(layout->free_cm2).epsilon(0.005));
    p.rows[0].left_mm = 200;
    CHECK_FALSE(computed(p).ok());
}

TEST_CASE("low points: each place where water stands, wherever along the outline", "[features]") {
    // A W with a level stretch: pools at (-200, -50) and about (150, -100).
    const geometry::Ring w{{-300, 0},   {-200, -50}, {-50, -20}, {100, -100},
                           {200, -100}, {300, 0},    {300, 100}, {-300, 100}};
    const auto lows = low_points(w);
    REQUIRE(lows.size() == 2);
    CHECK((lows[0] - Vec2(150, -100)).norm() < 1e-9);
    CHECK((lows[1] - Vec2(-200, -50)).norm() < 1e-9);
    // Ripples shallower than 5 mm hold no water.
    CHECK(low_points({{-300, 0}, {-200, -4}, {-100, 0}, {0, -100}, {300, 0}, {300, 100}, {-300, 100}}).size() == 1);
    PieceSpec p = board("P", 1000);
    p.edges[3] = edge_at(-Vec3(0, 0.1, 1).normalized(), 200, "bottom");  // falls to port
    p.limbers = {{std::nullopt, 40, 30}};
    const Outline o = outline_of(p);
    // The low corner is the port one, at u = -300.
    CHECK_FALSE(geometry::contains(o.face_a.outer, {-295, -225}));
    CHECK(geometry::contains(o.face_a.outer, {295, -160}));
    p.limbers[0].hole = true;
    p.limbers[0].at_mm = -100, p.limbers[0].height_mm = 60;
    const Outline drilled = outline_of(p);
    REQUIRE(drilled.face_a.holes.size() == 1);
    const auto box = geometry::bounding_box(drilled.face_a.holes[0]);
    const double low = lowest_at(outline_of(board("Q", 1000)).face_a.outer, 0).y();
    CHECK(low == Approx(-200));
    CHECK(box.centre().x() == Approx(-100));
    CHECK(box.width() == Approx(40).margin(0.01));
}

TEST_CASE("a boat that heels on the hard has her limber at her own low point, not at the hard's", "[features]") {
    // A round bilge whose middle lies 150 mm to port, 600 mm up: afloat its low point is at y = 150. On the hard she
    // heels 4°, and readings by the hard's plumb see it elsewhere.
    const double heel = units::radians(4), radius = 700;
    job::Job job = jobs::tube_job();
    job.datum.known = survey::Datum::Known::two_levels;
    job.datum.port_high_deg = 4;
    const auto up = survey::plumb_up(job.datum);
    REQUIRE(up.ok());
    const survey::Turn turn = survey::from_the_hard(*up);
    job::JobReadingSet set;
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::direct);
    set.id = "R1", set.surface_id = "hull", set.by_gravity = true;
    for (int i = 0; i <= 8; ++i)
        for (int k = 0; k <= 20; ++k) {
            const double around = M_PI * (0.05 + 0.9 * k / 20);
            const Vec3 boat(i * 350.0, 150 - radius * std::cos(around), 600 - radius * std::sin(around));
            const Vec3 hard = turn.transpose() * boat;
            set.readings.emplace_back().values = {hard.x(), hard.y(), hard.z()};
        }
    job.readings = {set};
    job.surfaces[0].inside = Vec3(1400, 150, 500);
    job.pieces.resize(1);
    auto& piece = job.pieces[0];
    piece.plane.d_mm = 1400;
    piece.edges.resize(1);
    piece.edges.push_back(edge_at(Vec3::UnitZ(), 500, "top"));
    piece.openings.clear(), piece.joints.clear();
    piece.limbers = {{std::nullopt, 40, 30}};
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    INFO((results.pieces[0].outline->ok() ? "" : results.pieces[0].outline->error().message));
    REQUIRE(results.pieces[0].shape());
    const auto& o = *results.pieces[0].shape();
    double left = 1e9, right = -1e9;
    for (const Edge& e : o.edges_a)
        if (e.source == EdgeSource::limber)
            for (int i : {e.first, e.last}) {
                const double u = o.face_a.outer[static_cast<std::size_t>(i)].x();
                left = std::min(left, u), right = std::max(right, u);
            }
    // u runs to starboard.
    CHECK((left + right) / 2 == Approx(-150).margin(2));
    CHECK(radius * std::sin(heel) > 40);  // as far off it would be by the hard's plumb
}

TEST_CASE("parts reach past a joint as it wants, and joints land over dividers", "[features]") {
    CHECK(reach_past_mm({JointKind::scarf, true, 0, 8}, 18) == std::pair(72.0, 72.0));
    CHECK(reach_past_mm({JointKind::half_lap, true, 0, 8, 60}, 18) == std::pair(30.0, 30.0));
    CHECK(reach_past_mm({JointKind::tongue_groove, true, 0, 8}, 18) == std::pair(9.0, 0.0));
    CHECK(reach_past_mm({JointKind::butt, true, 0, 8, 0, 5}, 18) == std::pair(-2.5, -2.5));
    CHECK(joint_width_mm({JointKind::loose_spline, true, 0, 8}, 18) == 18);
    CHECK(joint_width_mm({JointKind::butt_strap, true, 0, 8}, 12) == 120);

    // A top over a divider at x = 591 to 609: its drawing has v forward, the joint lies along u at v = 600.
    PieceSpec top = level("T", 200);
    JointSpec landing{JointKind::landing, true, 0, 8};
    landing.piece_id = "D", landing.clearance_mm = 5;
    top.joints = {landing};
    const auto held = std::make_shared<Neighbour>();
    held->plane = {Vec3::UnitX(), 591}, held->thickness_mm = 18;
    const Around around{[held](const std::string& id) { return id == "D" ? held.get() : nullptr; }, {}};
    const Outline o = outline_of(top, around);
    REQUIRE(o.parts.size() == 2);
    CHECK_FALSE(o.joints[0].upright);
    CHECK(o.joints[0].at_mm == Approx(600));
    const double whole = geometry::area_mm2(o.face_a);
    CHECK(geometry::area_mm2(o.parts[0].face_a) + geometry::area_mm2(o.parts[1].face_a) ==
          Approx(whole - 5 * 600).margin(0.5));
    top.joints[0].piece_id = "none";
    const auto lost = computed(top, around);
    REQUIRE_FALSE(lost.ok());
    CHECK(lost.error().message == "'Top T': joint 1 lands on the piece 'none', which there is not; choose another");
    top.joints[0].piece_id = "D";
    held->plane.normal = Vec3(1, 0.2, 0).normalized();
    CHECK_FALSE(computed(top, around).ok());
}

TEST_CASE("arris relief, rails around hatches, chafe guards", "[features]") {
    // Worked: the circle leaves the sides of a right corner at its radius; of one of 120° at r / tan 60°.
    CHECK(relief_mm(20, 0) == Approx(20));
    CHECK(relief_mm(20, units::radians(30)) == Approx(20 / std::sqrt(3)));
    CHECK(relief_mm(20, units::radians(-30)) == Approx(20 * std::sqrt(3)));

    // The line to which an arris comes off runs along the edge, so far in on each face.
    PieceSpec landed = board("L", 1000);
    landed.edges[0].plane = {Vec3(std::tan(units::radians(-30)), 1, 0).normalized(), 0};
    landed.edges[0].plane.d_mm = landed.edges[0].plane.normal.dot(Vec3(1000, 300, 0));
    landed.edges[0].fillet_mm = 20;
    const Outline leaning = outline_of(landed);
    const auto reliefs = reliefs_of(landed, leaning);
    REQUIRE(reliefs.size() == 2);
    for (const Relief& relief : reliefs) {
        const bool a = relief.face == Face::a;
        // Port of it face B reaches farther by t tan 30°: open on face A, closed on face B.
        CHECK(relief.most_mm == Approx(a ? 20 / std::sqrt(3) : 20 * std::sqrt(3)).margin(1e-6));
        const double port = 300 + (a ? 0 : t * std::tan(units::radians(30)));
        for (const Vec2& at : relief.line) CHECK(-at.x() == Approx(port - relief.most_mm).margin(1e-6));
    }

    PieceSpec p = board("P", 1000);
    OpeningSpec hatch{"hatch", -250, -150, 200, 200, 40};
    hatch.use = OpeningUse::hatch, hatch.rail_mm = 45;
    OpeningSpec wires{"wires", 100, 0, 40, 40, 20};
    wires.use = OpeningUse::wire_way, wires.guard_mm = 3;
    p.openings = {hatch, wires};
    const Outline o = outline_of(p);
    CHECK(rail_left_mm(p, 0, o) == Approx(50));  // to the left edge and to the bottom
    CHECK(rail_left_mm(p, 1, o) > 140);
    REQUIRE(o.face_a.holes.size() == 2);
    const auto box = geometry::bounding_box(opening_shape(wires).outer);
    CHECK(box.width() == Approx(46).margin(0.1));
    CHECK(guard_length_mm(wires) == Approx(M_PI * 46).epsilon(0.003));
    CHECK(guard_length_mm(hatch) == 0);
    OpeningSpec free;
    free.line = {{{0, 0}, 0, false}, {{100, 0}, 0, false}, {{0, 100}, 0, false}};
    CHECK(geometry::area_mm2(opening_shape(free)) == Approx(5000));
}

TEST_CASE("planes through marks and in a template's plane; a stringer's path from its readings", "[features]") {
    job::Job job = jobs::tube_job();
    const auto mark = [&](const std::string& id, const Vec3& at) {
        auto& m = job.marks.emplace_back();
        m.id = m.name = id, m.position = at;
    };
    mark("M1", {1000, 400, 0}), mark("M2", {1000, -400, 0}), mark("M3", {1100, 0, -500}), mark("M4", {1000, 0, 0});
    const auto plane = job::plane_through(job, {"M1", "M2", "M3"}, Vec3::UnitX());
    REQUIRE(plane.ok());
    CHECK(plane->normal.x() > 0);
    for (int i : {0, 1, 2})
        CHECK(plane->distance_mm(job.marks[static_cast<std::size_t>(i)].position) == Approx(0).margin(1e-9));
    CHECK(job::plane_through(job, {"M1", "M2", "M4"}, Vec3::UnitX()).error().message ==
          "the marks 'M1', 'M2' and 'M4' lie in one line");
    CHECK_FALSE(job::plane_through(job, {"M1", "M2", "M9"}, Vec3::UnitX()).ok());
    CHECK_FALSE(job::plane_through(job, {"M1", "M2"}, Vec3::UnitX()).ok());

    // The bulkhead follows its marks, and says so where it cannot.
    job.pieces[0].through = {"M1", "M2", "M3"};
    CHECK((job::in_full(job).pieces[0].plane.normal - plane->normal).norm() < 1e-12);
    job.pieces[0].through = {"M1", "M2", "M4"};
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job::in_full(job));
    REQUIRE_FALSE(results.pieces[0].outline->ok());
    CHECK(results.pieces[0].outline->error().message.find(
              "has no plane: the marks 'M1', 'M2' and 'M4' lie in one line") != std::string::npos);

    job::JobReadingSet set;
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::strip_pattern);
    set.id = "T1", set.origin = {800, 0, 0}, set.along = Vec3(0.1, 1, 0).normalized(), set.toward = Vec3::UnitZ();
    set.readings.emplace_back().values = {0, 0}, set.readings.emplace_back().values = {100, 50};
    job.readings.push_back(set);
    const auto flat = job::plane_through(job, {"T1"}, Vec3::UnitX());
    REQUIRE(flat.ok());
    CHECK(flat->distance_mm({800, 0, 0}) == Approx(0).margin(1e-9));
    CHECK(std::abs(flat->normal.dot(set.along)) < 1e-12);

    job::JobObstacle stringer;
    stringer.id = "O1", stringer.set_id = "T1";
    const auto path = job::path_of(job, stringer);
    REQUIRE(path.ok());
    REQUIRE(path->size() == 2);
    CHECK((path->at(1) - (set.origin + 100 * set.along + 50 * set.toward)).norm() < 1e-9);
    stringer.set_id = "none";
    CHECK_FALSE(job::path_of(job, stringer).ok());
}

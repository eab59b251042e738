// How pieces lie with one another: what carries level ones, which want the same place, what wood wants; copies and
// the other hand.
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "job/pipeline.h"
#include "piece/bearing.h"
#include "piece/clash.h"
#include "piece/joint_proposal.h"
#include "piece/limits.h"
#include "review/review.h"
#include "support/boards.h"
#include "support/jobs.h"

using namespace bevelsmith;
using namespace bevelsmith::piece;
using namespace boards;

TEST_CASE("what carries a top, how wide it spans, and which joint lies in the air", "[carried]") {
    PieceSpec top = level("T", 200);
    top.joints = {
        {JointKind::butt, false, 400, 8}, {JointKind::butt, false, 600, 8}, {JointKind::scarf, false, 200, 8}};
    const Outline shape = outline_of(top);
    // Dividers under it at x = 0, 591 and 1182, up to its under side.
    std::vector<PieceSpec> specs;
    for (double x : {0.0, 591.0, 1182.0}) {
        specs.push_back(board("D" + std::to_string(static_cast<int>(x)), x));
        specs.back().edges[2].plane.d_mm = 200 - t;
    }
    specs.push_back(board("short", 300));
    specs.back().edges[2].plane.d_mm = 150;  // ends 32 mm under it
    std::vector<Outline> shapes;
    for (const auto& s : specs) shapes.push_back(outline_of(s));
    std::vector<Carrier> others;
    for (std::size_t i = 0; i < specs.size(); ++i) others.push_back({&specs[i], &shapes[i]});
    const auto report = bearing_of(top, shape, others);
    REQUIRE(report.lines.size() == 3);
    for (const auto& b : report.lines) CHECK(b.length_mm == Approx(600).margin(0.1));
    // From the middle of one to that of the next: 591 mm.
    CHECK(report.span_mm == Approx(591).margin(3));
    CHECK(report.joints_in_air == std::vector{0});
    CHECK(report.free_edges.size() == 2);  // fore and aft ones lie on dividers

    const auto none = bearing_of(top, shape, {});
    CHECK(none.lines.empty());
    CHECK(none.span_mm == 0);
    // On one side only: what sticks out counts twice.
    const auto one = bearing_of(top, shape, {others[0]});
    CHECK(one.span_mm == Approx(2 * (1200 - 9)).margin(1));
}

TEST_CASE("a piece larger than its sheet, or than the way in, is divided where something carries it", "[carried]") {
    // 1200 by 600, with its grain along v; a sheet of 800 by 700.
    PieceSpec top = level("T", 200);
    top.grain_deg = 90, top.blank_margin_mm = 0;
    const Outline shape = outline_of(top);
    const Passage wide{5000, 5000};
    const SheetRoom sheet{800, 700, true};
    std::vector<PieceSpec> specs;
    for (double x : {300.0, 520.0, 900.0}) {
        specs.push_back(board("D" + std::to_string(static_cast<int>(x)), x));
        specs.back().edges[2].plane.d_mm = 200 - t;
    }
    std::vector<Outline> shapes;
    for (const auto& s : specs) shapes.push_back(outline_of(s));
    std::vector<Carrier> others;
    for (std::size_t i = 0; i < specs.size(); ++i) others.push_back({&specs[i], &shapes[i]});

    // The divider nearest to the middle carries the joint, over its own middle.
    const auto over = propose_joints(top, shape, wide, sheet, others);
    REQUIRE(over.joints.size() == 1);
    CHECK(over.joints[0].kind == JointKind::landing);
    CHECK(over.joints[0].piece_id == "D520");
    CHECK(over.joints[0].at_mm == Approx(529));
    CHECK(over.over == std::vector<std::string>{"Board D520"});
    CHECK(over.for_sheet);
    CHECK_FALSE(over.for_passage);
    // Put on, each part fits its sheet, and the joint lies on its bearing.
    PieceSpec divided = top;
    divided.joints = over.joints;
    const Outline parts = outline_of(divided, crossed_by(specs[1], t));
    REQUIRE(parts.parts.size() == 2);
    for (const Part& part : parts.parts) CHECK(part.blank_along_mm <= 800);
    CHECK(bearing_of(divided, parts, others).joints_in_air.empty());

    // With nothing under it a strap carries it; upright a scarf of the piece's slope; both clear of an opening's
    // side.
    const auto strapped = propose_joints(top, shape, wide, sheet, {});
    REQUIRE(strapped.joints.size() == 1);
    CHECK(strapped.joints[0].kind == JointKind::butt_strap);
    CHECK(strapped.joints[0].at_mm == 600);
    PieceSpec wall = board("W", 1000);
    wall.edges[0].plane.d_mm = 700, wall.blank_margin_mm = 0, wall.scarf_slope = 10;
    wall.openings = {{"door", -220, -100, 200, 200, 20}};
    const Outline upright = outline_of(wall);
    const auto scarfed = propose_joints(wall, upright, wide, {800, 700, true}, {});
    REQUIRE(scarfed.joints.size() == 1);
    CHECK(scarfed.joints[0].kind == JointKind::scarf);
    CHECK(scarfed.joints[0].slope == 10);
    CHECK(std::min(std::abs(scarfed.joints[0].at_mm + 220), std::abs(scarfed.joints[0].at_mm + 20)) >= 50);

    // A way in that is too narrow for it: 400 by 300 has no diagonal of 600; two joints make parts of 400 of it.
    const auto passing = propose_joints(top, shape, {400, 300}, {5000, 5000, true}, {});
    REQUIRE_FALSE(passing.joints.empty());
    CHECK(passing.for_passage);
    CHECK_FALSE(passing.for_sheet);
    PieceSpec through = top;
    through.joints = passing.joints;
    const auto narrow = compute_outline(through, t, [](const std::string&) { return nullptr; }, {400, 300});
    REQUIRE(narrow.ok());
    for (const Part& part : narrow->parts) CHECK(part.passes);

    // What fits as it is wants none, nor what no eight joints would help.
    CHECK(propose_joints(top, shape, wide, {1200, 600, true}, others).joints.empty());
    CHECK(propose_joints(top, shape, wide, {600, 1200, false}, others).joints.empty());
    CHECK_FALSE(propose_joints(top, shape, wide, {600, 1200, true}, others).joints.empty());
    CHECK(propose_joints(top, shape, wide, {30, 30, true}, others).joints.empty());
}

TEST_CASE("a lid lies on the lip of its opening", "[carried]") {
    PieceSpec top = level("T", 200);
    top.openings = {{"lid", -150, 300, 300, 400, 0}};
    const Outline shape = outline_of(top);
    PieceSpec lid = level("L", 200);
    lid.removable = true;
    lid.edges = {edge_at(Vec3::UnitY(), 147.5), edge_at(-Vec3::UnitY(), 147.5), edge_at(Vec3::UnitX(), 697.5),
                 edge_at(-Vec3::UnitX(), -302.5)};
    const Outline small = outline_of(lid);
    const auto report = bearing_of(lid, small, {{&top, &shape}});
    REQUIRE(report.lines.size() == 1);
    CHECK(report.lines[0].what == "landing lip under Top T");
    CHECK(report.lines[0].length_mm == Approx(2 * (295 + 395) - 1300 + 1300).margin(60));
    CHECK(report.span_mm == Approx(295).margin(12));
}

TEST_CASE("copies weigh and are cut each", "[carried]") {
    job::Job job = jobs::tube_job();
    job.pieces.resize(1);
    job::Pipeline pipeline;
    const auto one = pipeline.compute(job);
    job.pieces[0].copies = 3;
    const auto three = pipeline.compute(job);
    CHECK(three.added.mass_kg == Approx(3 * one.added.mass_kg));
    REQUIRE(three.sheets[0].problem->parts.size() == 3 * one.sheets[0].problem->parts.size());
    CHECK(three.sheets[0].problem->parts[1].id == one.sheets[0].problem->parts[0].id + "#2");
    CHECK(job::piece_of_part("B1#2") == "B1");
    CHECK(job::piece_of_part("B1/2#3") == "B1");
}

TEST_CASE("the review names what is not carried, in the way, too near an edge", "[carried]") {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job.pieces.resize(1);
    job::JobPiece top;
    static_cast<PieceSpec&>(top) = level("T", -300);
    top.material_id = "ply18";
    OpeningSpec hatch{"hatch", -280, 300, 300, 300, 60};
    hatch.rail_mm = 45;
    top.openings = {hatch};
    top.removable = true;
    top.rows = {{"holes", 150, 900, 100, 20, 15, 2}};
    job.pieces.push_back(top);
    job::JobObstacle pump;
    pump.id = "O1", pump.name = "Pump", pump.path = {{900, 0, -400}, {900, 0, -200}};
    pump.notches = false;
    job.obstacles = {pump};
    job::Pipeline pipeline;
    const auto results = pipeline.compute(job);
    const auto named = [&](review::CheckId check) {
        const auto all = review::review(job, results);
        return std::any_of(all.begin(), all.end(),
                           [&](const auto& f) { return f.check == check && f.piece_id == "T"; });
    };
    CHECK(named(review::CheckId::carried_by_nothing));
    CHECK(named(review::CheckId::in_the_way));
    CHECK(named(review::CheckId::rail_too_narrow));
    CHECK(named(review::CheckId::no_lift_hole));
    job.obstacles[0].notches = true;
    const auto cut = pipeline.compute(job);
    CHECK(cut.piece("T")->shape()->face_a.holes.size() == results.piece("T")->shape()->face_a.holes.size() + 1);
}

TEST_CASE("pieces that want the same place are told, those that meet, cover or cross by a slot are not",
          "[carried]") {
    const Outline p = outline_of(board("P", 1000));
    const Outline through = outline_of(along(), {}, 12);
    const auto clash = clash_of(p, through);
    REQUIRE(clash);
    // They share z from -100 to 200 on the line y = 56, x = 1009.
    CHECK(clash->length_mm == Approx(300));
    CHECK((clash->at - Vec3(1009, 56, 50)).norm() < 1e-6);
    PieceSpec slotted = board("P", 1000);
    slotted.crossings = {{"Q", Crossing::slot, 0.5}};
    CHECK_FALSE(clash_of(outline_of(slotted, crossed_by(along(), 12)), through));
    // Stopped at its face, and flush over its end.
    PieceSpec stopped = along();
    stopped.edges[0] = edge_at(Vec3::UnitX(), 1000);
    CHECK_FALSE(clash_of(p, outline_of(stopped, {}, 12)));
    // Flat in one another, beside one another, one on the other.
    PieceSpec other = board("R", 1006);
    CHECK(clash_of(p, outline_of(other)));
    other.plane.d_mm = 1000 + t;
    CHECK_FALSE(clash_of(p, outline_of(other)));
    other.plane.d_mm = 1000;
    other.edges[0].plane.d_mm = 900, other.edges[1].plane.d_mm = -300;
    CHECK_FALSE(clash_of(p, outline_of(other)));
}

TEST_CASE("solid wood wants room across its grain, half of its growth on each side", "[carried]") {
    // Worked: 600 mm at 0.3 % a percent from 12 to 16 percent: 7.2 mm, 3.6 a side.
    CHECK(swelling_mm(600, 0.003, 12, 16) == Approx(7.2));
    PieceSpec s = board("P", 1000);
    s.grain_deg = 90;  // upright: it grows to port and starboard
    const auto held = std::make_shared<Neighbour>();
    held->plane = {Vec3::UnitY(), 300}, held->thickness_mm = 18;
    EdgeSpec stop;
    stop.kind = EdgeKind::piece, stop.name = "port", stop.piece_id = "W", stop.gap_mm = 2;
    s.edges[0] = stop;
    const Around around{[held](const std::string& id) { return id == "W" ? held.get() : nullptr; }, {}};
    const auto tight = too_tight(s, outline_of(s, around), 7.2);
    REQUIRE(tight.size() == 1);
    CHECK(tight[0].edge == 0);
    CHECK(tight[0].wanted_mm == Approx(3.6));
    s.edges[0].gap_mm = 4;
    CHECK(too_tight(s, outline_of(s, around), 7.2).empty());
    s.edges[0].gap_mm = 2, s.grain_deg = 0;  // level: it grows up and down, where it is free
    CHECK(too_tight(s, outline_of(s, around), 7.2).empty());
}

TEST_CASE("the other hand of a piece is its mirror image, and mirrored twice it is the same again", "[carried]") {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job::JobPiece& p = job.pieces[0];
    p.edges.push_back(edge_at(-Vec3::UnitY(), -250, "inboard"));
    p.at = Vec3(1509, 500, -400);
    p.openings = {{"hole", -700, -450, 150, 100, 20}};
    p.limbers = {{-400.0, 40, 30}};
    p.joints = {{JointKind::scarf, true, -600, 8}};
    p.grain_deg = 30;
    job::JobPiece face, shelf;
    static_cast<PieceSpec&>(face) = along();
    face.material_id = "ply18";
    static_cast<PieceSpec&>(shelf) = level("S1", -300);
    shelf.material_id = "ply18";
    shelf.edges[0].plane.d_mm = 500, shelf.edges[1].plane.d_mm = -100;
    shelf.notches = {{"n", -550, 400, 100, 100, 0}};
    job.pieces.push_back(face);
    job.pieces.push_back(shelf);
    job::Pipeline pipeline;
    for (const std::string id : {"B1", "Q", "S1"}) {
        const std::string other = job::mirror_piece(job, id), again = job::mirror_piece(job, other);
        REQUIRE_FALSE(other.empty());
        const auto results = pipeline.compute_pieces(job);
        INFO(id << ": "
                << (results.piece(other)->outline->ok() ? "" : results.piece(other)->outline->error().message));
        REQUIRE(results.piece(id)->shape());
        REQUIRE(results.piece(other)->shape());
        const Outline &a = *results.piece(id)->shape(), &b = *results.piece(other)->shape(),
                      &c = *results.piece(again)->shape();
        CHECK(geometry::area_mm2(b.face_a) == Approx(geometry::area_mm2(a.face_a)).epsilon(2e-4));
        CHECK(geometry::area_mm2(c.face_a) == Approx(geometry::area_mm2(a.face_a)).epsilon(1e-9));
        const Vec3 ca = a.frame.to_space(geometry::centroid(a.face_a)),
                   cb = b.frame.to_space(geometry::centroid(b.face_a));
        CHECK((ca.cwiseProduct(Vec3(1, -1, 1)) - cb).norm() < 0.2);
        CHECK((c.frame.to_space(geometry::centroid(c.face_a)) - ca).norm() < 1e-6);
        CHECK(a.parts.size() == b.parts.size());
    }
    const std::string copy = job::copy_piece(job, "B1", 100);
    CHECK(job::find_piece(job, copy)->plane.d_mm == Approx(1600));
    CHECK(job::find_piece(job, copy)->at->x() == Approx(1609));
    CHECK(job::mirror_piece(job, "none").empty());
}

TEST_CASE("a sole beam is deep enough at mid-span, or the review says so", "[carried]") {
    // Worked: 600 mm of span want 40 mm of depth.
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job::JobPiece beam;
    static_cast<PieceSpec&>(beam) = board("beam", 1000);
    beam.kind = "sole beam", beam.material_id = "ply18";
    const auto shallow = [&](double depth) {
        beam.edges[2].plane.d_mm = depth - 200;
        job.pieces = {beam};
        job::Pipeline pipeline;
        const auto all = review::review(job, pipeline.compute(job));
        return std::any_of(all.begin(), all.end(),
                           [](const auto& f) { return f.check == review::CheckId::beam_too_shallow; });
    };
    CHECK(shallow(39));
    CHECK_FALSE(shallow(41));
}

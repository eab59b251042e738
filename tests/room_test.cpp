// Room for people, measured on the true shapes: to lie, sit, stand, pass and reach.
#include <catch2/catch.hpp>

#include <cmath>

#include "furniture/room.h"
#include "review/review.h"
#include "support/boards.h"
#include "support/fitted_out.h"
#include "support/jobs.h"

using namespace bevelsmith;
using namespace fitted_out;

TEST_CASE("room for people is measured on the true shapes", "[room]") {
    job::Job job = fitted(UnitKind::settee);
    job.units[0].front_mm = 350, job.units[0].foot_mm = -650, job.units[0].height_mm = 300;
    job.units[0].material_id = job.units[0].top_material_id = "ply18";
    // A deck 900 over the seat, and a settee over against it.
    job::JobPiece deck;
    static_cast<piece::PieceSpec&>(deck) = job.pieces[0];
    deck.id = deck.name = "deck";
    deck.plane = {-Vec3::UnitZ(), -550};
    deck.openings.clear(), deck.limbers.clear(), deck.joints.clear();
    deck.edges.clear();
    for (const auto& [n, d] : {std::pair(Vec3(1, 0, 0), 3000.0), std::pair(Vec3(-1, 0, 0), 0.0),
                               std::pair(Vec3(0, 1, 0), 900.0), std::pair(Vec3(0, -1, 0), 900.0)}) {
        piece::EdgeSpec e;
        e.kind = piece::EdgeKind::plane, e.name = "end", e.plane = {n, d};
        deck.edges.push_back(e);
    }
    job.pieces.push_back(deck);
    job::JobUnit other = job.units[0];
    other.id = "U2", other.side = furniture::Side::starboard, other.front_mm = 300;
    job.units.push_back(other);
    job::JobUnit sole = unit(UnitKind::sole);
    sole.id = "U3", sole.foot_mm = -650, sole.from_piece_id = "B1", sole.to_piece_id = "B2";
    job.units.push_back(sole);

    job.comfort.sitting_headroom_mm = 900;
    const auto figures = [&] {
        const job::Job full = job::in_full(job);
        static job::Pipeline pipeline;
        return pipeline.compute(full);
    };
    const auto named = [](const job::Results& r, const std::string& unit, const std::string& name) {
        for (const auto& room : r.unit(unit)->room)
            if (room.name == name) return room;
        FAIL("no figure " << name);
        return furniture::Room{};
    };
    const auto r = figures();
    // The deck's lower face lies at 550 - 18, the seat at -350.
    const auto sitting = named(r, "U1", "sitting headroom");
    CHECK(sitting.mm == Approx(550 - 18 + 350 - 1).margin(0.1));
    CHECK_FALSE(sitting.enough());
    // Knee high, 400 over the sole, the other seat is lower: the hull is over against it.
    CHECK(named(r, "U1", "knee room").mm == Approx(349 + std::sqrt(1e6 - 250.0 * 250)).margin(1));
    CHECK(named(r, "U3", "standing headroom").mm == Approx(550 - 18 + 650 - 1).margin(0.1));
    // Nobody stands under an engine box's lid, and on a raised part one stands higher.
    job::JobUnit box = unit(UnitKind::engine_box);
    box.id = "U4", box.from_mm = 700, box.to_mm = 1100, box.foot_mm = -650, box.height_mm = 500, box.front_mm = 250;
    job.units.push_back(box);
    const auto with_box = figures();
    REQUIRE(with_box.piece("U4.top"));
    REQUIRE(with_box.piece("U4.top")->shape());
    CHECK(named(with_box, "U3", "standing headroom").mm == Approx(550 - 18 + 650 - 1).margin(0.1));
    job.units[2].raised_from_mm = 1300, job.units[2].raised_to_mm = 1700, job.units[2].raised_by_mm = 120;
    const auto raised = figures();
    REQUIRE(raised.piece("U3.raised top"));
    CHECK(named(raised, "U3", "standing headroom").mm == Approx(550 - 18 + 650 - 120 - 1).margin(0.1));
    job.units.pop_back();
    job.units[2].raised_by_mm = 0;
    const auto findings = review::review(job::in_full(job), r);
    CHECK(std::any_of(findings.begin(), findings.end(),
                      [](const auto& f) { return f.check == review::CheckId::room_for_people; }));

    // A lower seat gives exactly as much more.
    job.units[0].height_mm = 250;
    CHECK(named(figures(), "U1", "sitting headroom").mm == Approx(sitting.mm + 50).margin(0.1));
}

TEST_CASE("at a table: over the seat, for the thighs, and the way in", "[room]") {
    job::Job job = fitted(UnitKind::settee);
    job.units[0].cushion_mm = 60, job.units[0].height_mm = 300;
    job::JobUnit table;
    static_cast<furniture::UnitSpec&>(table) = furniture::usual_unit(UnitKind::table);
    table.id = "U2", table.surface_id = "hull", table.material_id = table.top_material_id = "ply18";
    table.from_mm = 1000, table.to_mm = 2000, table.foot_mm = job.units[0].foot_mm;
    table.height_mm = 600, table.width_mm = 400;
    job.units.push_back(table);
    job::Pipeline pipeline;
    const auto figures = [&] { return pipeline.compute(job::in_full(job)).unit("U2")->room; };
    const auto named = [](const std::vector<furniture::Room>& all, const std::string& name) {
        const auto at = std::find_if(all.begin(), all.end(), [&](const auto& r) { return r.name == name; });
        INFO(name);
        REQUIRE(at != all.end());
        return *at;
    };
    auto all = figures();
    // Worked: 600 - 300 - 60 of the seat and its cushion; the top's 18 less; the hull at the table's height less the
    // table's half.
    CHECK(named(all, "table over the seat to port").mm == Approx(240));
    CHECK(named(all, "table over the seat to port").enough());
    CHECK(named(all, "room for the thighs to port").mm == Approx(222));
    const double up = table.foot_mm + 600 + 2, hull = std::sqrt(1e6 - up * up);
    CHECK(named(all, "way in at the table to port").mm == Approx(hull - 200).margin(1));
    CHECK(std::none_of(all.begin(), all.end(),
                       [](const auto& r) { return r.name.find("starboard") != std::string::npos; }));
    // A thicker cushion takes from both; a table farther out from the way in.
    job.units[0].cushion_mm = 110, job.units[1].front_mm = 500;
    all = figures();
    CHECK(named(all, "table over the seat to port").mm == Approx(190));
    CHECK(named(all, "room for the thighs to port").mm == Approx(172));
    CHECK_FALSE(named(all, "room for the thighs to port").enough());
    CHECK(named(all, "way in at the table to port").mm == Approx(hull - 700).margin(1));
    CHECK_FALSE(named(all, "way in at the table to port").enough());
    // On the seat itself: from bulkhead to bulkhead.
    const auto seat = pipeline.compute(job::in_full(job)).unit("U1")->room;
    CHECK(named(seat, "width at the hips").mm == Approx(2420 - 598).margin(1));
}

TEST_CASE("every passage is measured: before what stands along a side, beside an engine box, through a doorway",
          "[room]") {
    job::Pipeline pipeline;
    const auto named = [](const std::vector<furniture::Room>& all, const std::string& name) {
        const auto at = std::find_if(all.begin(), all.end(), [&](const auto& r) { return r.name == name; });
        INFO(name);
        REQUIRE(at != all.end());
        return *at;
    };
    // A counter to port and one to starboard, 250 and 130 out, a hip's height within their tops' thickness.
    job::Job job = fitted(UnitKind::counter);
    job.units[0].front_mm = 250, job.units[0].height_mm = 905, job.units[0].overhang_mm = 0;
    job.units[0].foot_mm = -850, job.units[0].shelves = 0;
    job::JobUnit other = job.units[0];
    other.id = "U2", other.side = furniture::Side::starboard, other.front_mm = 130;
    job.units.push_back(other);
    auto r = pipeline.compute(job::in_full(job));
    REQUIRE(r.piece("U1.top")->shape());
    REQUIRE(r.piece("U2.top")->shape());
    // Worked: from front to front, at the hips where the tops are.
    const auto hips = named(r.unit("U1")->room, "passage before it at the hips");
    CHECK(hips.mm == Approx(250 + 130 - 2).margin(1e-6));
    CHECK_FALSE(hips.enough());
    const auto findings = review::review(job::in_full(job), r);
    CHECK(std::any_of(findings.begin(), findings.end(), [](const auto& f) {
        return f.title.find("passage before it at the hips is small") != std::string::npos;
    }));
    // Beside a box 300 out to each side with a counter to starboard 500 out: to port the hull is farther.
    job::Job boxed = fitted(UnitKind::engine_box);
    job::JobUnit counter = job.units[1];
    counter.front_mm = 500;
    boxed.units.push_back(counter);
    r = pipeline.compute(job::in_full(boxed));
    REQUIRE(r.piece("U2.front")->shape());
    const auto beside = named(r.unit("U1")->room, "passage beside it");
    CHECK(beside.mm == Approx(std::sqrt(1e6 - 450.0 * 450) - 300 - 2).margin(1));

    // A doorway 420 wide, with a sill 50 up, where no sole is; one over a sole is counted there.
    job::Job door = fitted(UnitKind::settee);
    door.pieces[0].edges[1].at_mm = 900;
    door.pieces[0].edges.erase(door.pieces[0].edges.begin());
    door.pieces[0].edges.push_back(boards::edge_at(-Vec3::UnitZ(), 700));
    for (const double way : {1.0, -1.0}) door.pieces[0].edges.push_back(boards::edge_at(way * Vec3::UnitY(), 600));
    door.pieces[0].limbers.clear(), door.pieces[0].joints.clear();
    door.pieces[0].at = Vec3(590, 0, 0);
    door.pieces[0].openings = {{"door", -210, -650, 420, 1500, 80}};
    r = pipeline.compute(job::in_full(door));
    INFO((r.pieces[0].outline->ok() ? std::string() : r.pieces[0].outline->error().message));
    REQUIRE(r.pieces[0].shape());
    REQUIRE(r.doorways.size() == 2);
    CHECK(r.doorways[0].piece_id == "B1");
    CHECK(r.doorways[0].room.mm == Approx(420));
    CHECK(r.doorways[0].room.enough());
    CHECK_FALSE(r.doorways[1].room.enough());  // 500 are wanted at the shoulders
    const auto narrow = review::review(job::in_full(door), r);
    CHECK(std::count_if(narrow.begin(), narrow.end(),
                        [](const auto& f) { return f.title == "B1: doorway at the shoulders is small"; }) == 1);
    job::JobUnit sole = unit(UnitKind::sole);
    sole.id = "U9", sole.foot_mm = -650, sole.from_mm = 300, sole.to_mm = 900, sole.dividers_mm = {450};
    door.units = {sole};
    r = pipeline.compute(job::in_full(door));
    REQUIRE(r.piece("U9.sole")->shape());
    CHECK(r.doorways.empty());
    CHECK(named(r.unit("U9")->room, "passage at the hips").mm == Approx(420));
}

TEST_CASE("a way through the boat ends at the hull, at a panel, or is not known", "[room]") {
    const furniture::Inside inside{{&jobs::tube_surface()}, {}};
    const auto out = furniture::clear_mm(inside, {1500, 0, -300}, Vec3::UnitY());
    REQUIRE(out);
    CHECK(*out == Approx(std::sqrt(1000.0 * 1000 - 300 * 300)).margin(0.5));
    CHECK_FALSE(furniture::clear_mm(inside, {1500, 0, -300}, Vec3::UnitZ()));
    const Built b = built(fitted(UnitKind::settee));
    const furniture::Inside with{{&jobs::tube_surface()}, {{"B2", &b.shape("B2")}}};
    const auto ahead = furniture::clear_mm(with, {1500, 0, -600}, Vec3::UnitX());
    REQUIRE(ahead);
    CHECK(*ahead == Approx(2420 - 1500).margin(1e-6));
}

TEST_CASE("over the rim of what was read there is no wall to run into", "[room]") {
    // A flared V read from -600 to 600 up, known somewhat beyond; rays higher up came, far out, to where nothing is.
    job::Job job = jobs::tube_job();
    job.readings.resize(1);
    auto& set = job.readings[0];
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::direct);
    set.surface_id = job.surfaces[0].id;
    for (double x = 0; x <= 3000; x += 250)
        for (double z = -600; z <= 600; z += 100)
            for (double side : {1.0, -1.0}) set.readings.emplace_back().values = {x, side * (700 + 0.5 * z), z};
    const auto results = job::Pipeline().compute(job);
    REQUIRE(results.surfaces[0].fitted());
    const furniture::Inside inside{{&results.surfaces[0].fitted()->surface}, {}};
    const auto under = furniture::clear_mm(inside, {1500, 0, 500}, Vec3::UnitY());
    REQUIRE(under);
    CHECK(*under == Approx(950).margin(2));
    for (double z = 1000; z <= 1600; z += 50) {
        INFO(z);
        CHECK_FALSE(furniture::clear_mm(inside, {1500, 0, z}, Vec3::UnitY()));
    }
}

TEST_CASE("a berth's figures: length, shoulders, feet", "[room]") {
    job::Job job = fitted(UnitKind::berth);
    job.units[0].front_mm = 300;
    job.units[0].foot_mm = -650, job.units[0].height_mm = 300;
    job::Pipeline pipeline;
    const auto r = pipeline.compute(job::in_full(job));
    const auto& room = r.unit("U1")->room;
    REQUIRE(room.size() >= 3);
    CHECK(room[0].name == "lying length");
    // Between the bulkheads' faces, less a joint's gap at each.
    CHECK(room[0].mm == Approx(2420 - 598 - 2 * 0.5).margin(0.01));
    // The top's upper face at z = -350 reaches the hull at sqrt(1000² - 350²), less gap and film square to the hull.
    const double out = std::sqrt(1e6 - 350.0 * 350);
    CHECK(room[1].mm == Approx(out - 300).margin(6));
    CHECK(room[2].mm == Approx(room[1].mm).margin(0.5));  // the tube is as wide everywhere
}

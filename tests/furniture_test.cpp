// Units of furniture: a few numbers, their pieces against a hull, what they end at, what is kept of a person's
// changes.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>
#include <set>

#include "furniture/kinds.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/pipeline.h"
#include "job/raised_sole.h"
#include "job/starting_unit.h"
#include "job/together.h"
#include "job/unit_numbers.h"
#include "piece/beam_ends.h"
#include "practice/boat.h"
#include "review/review.h"
#include "support/fitted_out.h"
#include "support/jobs.h"
#include "support/study.h"

using namespace bevelsmith;
using namespace fitted_out;

TEST_CASE("every kind of unit has all its pieces, and none reaches into another", "[furniture]") {
    const std::map<UnitKind, std::size_t> expected{
        {UnitKind::settee, 6},     {UnitKind::berth, 6},   {UnitKind::counter, 6},
        {UnitKind::locker, 3},     {UnitKind::shelves, 4}, {UnitKind::sole, 8},
        {UnitKind::engine_box, 5}, {UnitKind::v_berth, 6}, {UnitKind::table, 4}};
    for (int k = 0; k < furniture::unit_kind_count; ++k)
        for (bool between : {true, false})
            for (auto side : {furniture::Side::port, furniture::Side::starboard}) {
                const auto kind = static_cast<UnitKind>(k);
                job::Job job = fitted(kind, between);
                job.units[0].side = side;
                const Built b = built(job);
                INFO(furniture::kind_of(kind).name << (between ? " between bulkheads" : " by itself"));
                const bool closes_ends = !between && kind != UnitKind::shelves && kind != UnitKind::sole &&
                                         kind != UnitKind::engine_box && kind != UnitKind::v_berth &&
                                         kind != UnitKind::table;
                CHECK(b.full.pieces.size() ==
                      2 + expected.at(kind) + (closes_ends || (!between && kind == UnitKind::v_berth) ? 2 : 0));
                check_sound(b);
            }
}

TEST_CASE("every kind has one record, and a file names it by its id", "[furniture]") {
    CHECK(furniture::kinds().size() == furniture::unit_kind_count);
    std::set<std::string> ids;
    for (int k = 0; k < furniture::unit_kind_count; ++k) {
        const auto kind = static_cast<UnitKind>(k);
        const auto& record = furniture::kind_of(kind);
        INFO(record.id);
        REQUIRE(record.kind == kind);
        CHECK(ids.insert(record.id).second);
        CHECK(record.build);
        CHECK(record.usual_numbers);
        CHECK_FALSE(record.picture.empty());
        CHECK(job::job_to_text(fitted(kind)).find("\"kind\": \"" + std::string(record.id) + "\"") !=
              std::string::npos);
        // Every panel by which a number is dragged is there, and that which people use.
        const auto full = job::in_full(fitted(kind));
        CHECK(job::find_piece(full, "U1." + std::string(record.level)));
        CHECK_FALSE(job::drags_in(fitted(kind), fitted(kind).units[0]).empty());
    }
}

TEST_CASE("a table stands as its numbers say, about the centre line or to a side", "[furniture]") {
    job::Job job = fitted(UnitKind::table, false);
    auto& u = job.units[0];
    u.from_mm = 800, u.to_mm = 1800, u.width_mm = 500;
    const Built b = built(job);
    CHECK(b.box("U1.top").width() == Approx(500).margin(1e-6));
    CHECK(b.box("U1.top").height() == Approx(1000).margin(1e-6));
    CHECK(b.box("U1.top").centre().x() == Approx(0).margin(1e-6));
    // From the sole to the top's lower face, less the joint.
    CHECK(b.box("U1.aft leg").height() == Approx(400 - 18 - 0.5).margin(1e-6));
    CHECK(furniture::stands_on_both(u));
    // Pushed 30 over to starboard it stands there, and has its like on the other side.
    job::move_together(job, {"U1.top"}, {0, -30, 0});
    CHECK(job.units[0].side == furniture::Side::starboard);
    CHECK(job.units[0].front_mm == 30);
    const auto moved = built(job).shape("U1.top");
    CHECK(moved.frame.to_space(geometry::centroid(moved.face_a)).y() == Approx(-30).margin(1e-6));
    CHECK_FALSE(job::mirror_unit(job, "U1").empty());
}

TEST_CASE("beams lift out of saddles: a slot so much wider than the beam, the beam's end on its seat",
          "[furniture]") {
    job::Job job = fitted(UnitKind::sole);
    auto& u = job.units[0];
    u.lids = false;
    CHECK(job::set_in_saddles(job, built(job).results, u));
    CHECK(u.saddles);
    CHECK(u.beam_depth_mm > 0);
    u.saddle_clearance_mm = 2;
    const Built b = built(job);
    check_sound(b);
    const double t = 18, under = u.foot_mm - t - u.beam_depth_mm, hull = std::sqrt(1e6 - under * under);
    for (const std::string end : {"", " far"}) {
        const auto &seat = b.shape("U1.seat 2" + end), &aft = b.shape("U1.cheek 2 aft" + end),
                   &fwd = b.shape("U1.cheek 2 fwd" + end);
        CHECK(fwd.frame.origin.x() - (aft.frame.origin.x() + t) == Approx(t + 2).margin(1e-9));
        double high = -1e9, in = 1e9, out = -1e9;
        for (const Vec2& p : seat.face_a.outer) {
            const Vec3 at = seat.frame.to_space(p);
            high = std::max(high, at.z()), in = std::min(in, std::abs(at.y())), out = std::max(out, std::abs(at.y()));
        }
        CHECK(high == Approx(under).margin(1e-6));
        // It reaches from the string to the hull, with 100 under the beam at the least.
        CHECK(in == Approx(u.saddle_aft_mm).margin(1e-6));
        CHECK(out == Approx(hull).margin(6));
        CHECK(out - in >= 94);
    }
    std::vector<piece::Carrier> others;
    for (std::size_t i = 0; i < b.full.pieces.size(); ++i)
        if (b.full.pieces[i].id != "U1.beam 2") others.push_back({&b.full.pieces[i], b.results.pieces[i].shape()});
    CHECK(piece::free_beam_ends(b.spec("U1.beam 2"), b.shape("U1.beam 2"), others).empty());
    std::erase_if(others, [](const auto& one) { return one.spec->kind == std::string("saddle"); });
    CHECK(piece::free_beam_ends(b.spec("U1.beam 2"), b.shape("U1.beam 2"), others).size() == 2);
    CHECK(b.spec("U1.beam 2").removable);
    // A hull that is not known gives no string.
    job::Job blank = fitted(UnitKind::sole);
    CHECK_FALSE(job::set_in_saddles(blank, {}, blank.units[0]));
    CHECK_FALSE(blank.units[0].saddles);
}

TEST_CASE("a settee is as its numbers say, and its two hands are alike", "[furniture]") {
    const Built b = built(fitted(UnitKind::settee));
    const double t = 18, gap = 0.5;
    // From B1's forward face at 598 to B2's after face at 2420.
    CHECK(b.box("U1.front").width() == Approx(2420 - 598 - 2 * gap).margin(1e-3));
    CHECK(b.box("U1.front").height() == Approx(430 - 75 - t - gap).margin(1e-3));
    CHECK(b.box("U1.toe board").height() == Approx(100).margin(1e-3));
    CHECK(b.spec("U1.toe board").plane.d_mm == 350 + 75);
    // The top reaches from the front's face to the hull, less its gap: sqrt(R² - z²) out at z = -220.
    const auto top = b.box("U1.top");
    const double taken = 3.25 / std::cos(std::asin(0.22));
    CHECK(top.width() == Approx(std::sqrt(1e6 - 220.0 * 220) - taken - 350).margin(0.05));
    CHECK(b.shape("U1.top").face_a.holes.size() == 2);
    // A lid is its opening less the clearance on each side.
    const auto& hole = b.spec("U1.top").openings[0];
    CHECK(b.box("U1.lid 1").width() == Approx(hole.width_mm - 5).margin(1e-3));
    CHECK(b.box("U1.lid 1").height() == Approx(hole.height_mm - 5).margin(1e-3));
    // The divider ends at the front's back and under the top, and stands on the sole.
    const auto divider = b.shape("U1.divider 1");
    double inboard = 1e9, high = -1e9, low = 1e9;
    for (const Vec2& p : divider.face_a.outer) {
        inboard = std::min(inboard, -p.x()), high = std::max(high, p.y()), low = std::min(low, p.y());
    }
    CHECK(inboard == Approx(350 + t + gap).margin(1e-3));
    CHECK(high == Approx(-220 - t - gap).margin(1e-3));
    CHECK(low == Approx(-650).margin(1e-3));
    job::Job other = fitted(UnitKind::settee);
    other.units[0].side = furniture::Side::starboard;
    const Built s = built(other);
    for (const auto& piece : b.full.pieces)
        CHECK(geometry::area_mm2(s.shape(piece.id).face_a) ==
              Approx(geometry::area_mm2(b.shape(piece.id).face_a)).epsilon(1e-3));
}

TEST_CASE("moving a bulkhead by d changes what ends at it by exactly d", "[furniture]") {
    job::Job job = fitted(UnitKind::counter);
    const Built before = built(job);
    const double d = 137.5;
    job.pieces[1].plane.d_mm += d;
    const Built after = built(job);
    for (const char* id : {"U1.front", "U1.toe board"})
        CHECK(after.box(id).width() == Approx(before.box(id).width() + d).margin(1e-4));
    for (const char* id : {"U1.top", "U1.shelf 2-1"})
        CHECK(after.box(id).height() == Approx(before.box(id).height() + d).margin(1e-4));
    CHECK(after.box("U1.shelf 1-1").height() == Approx(before.box("U1.shelf 1-1").height()).margin(1e-9));
    CHECK(after.box("U1.divider 1").width() == Approx(before.box("U1.divider 1").width()).margin(1e-9));
    check_sound(after);
    // Beyond the after end a divider is no more.
    job.pieces[0].plane.d_mm = 1500;
    CHECK_FALSE(job::find_piece(job::in_full(job), "U1.divider 1"));
}

TEST_CASE("what a person changes of a unit's piece is kept beside it and survives its numbers", "[furniture]") {
    job::Job job = fitted(UnitKind::settee);
    REQUIRE(job::change_piece(job, "U1.front", [](job::JobPiece& p) {
        p.openings.push_back({"vent", 900, -450, 200, 60, 30});
        p.stage = "cut";
    }));
    CHECK(job.units[0].adjusted.count("front") == 1);
    job.units[0].height_mm = 450;
    const Built b = built(job);
    CHECK(b.spec("U1.front").openings.size() == 1);
    CHECK(b.spec("U1.front").stage == "cut");
    CHECK(b.box("U1.front").height() == Approx(450 - 75 - 18.5).margin(1e-3));
    CHECK(b.shape("U1.front").face_a.holes.size() == 1);
    // The file keeps it, and the file of today opens as version 2.
    const auto again = job::job_from_text(job::job_to_text(job));
    INFO((again.ok() ? std::string() : again.error().message));
    REQUIRE(again.ok());
    CHECK(*again == job);
    CHECK(job::in_full(*again).pieces == b.full.pieces);
    // Undone by hand, nothing is left beside the unit.
    REQUIRE(job::change_piece(job, "U1.front", [](job::JobPiece& p) {
        p.openings.clear();
        p.stage = "planned";
    }));
    CHECK(job.units[0].adjusted.empty());
    CHECK_FALSE(job::change_piece(job, "U1.nothing", [](job::JobPiece&) {}));
    // What lies out of range or names what there is not is refused with its place, as in a piece of its own.
    for (const char* bad : {R"([{"op":"replace","path":"/plane/d_mm","value":1e300}])",
                            R"([{"op":"replace","path":"/material","value":"gone"}])",
                            R"([{"op":"replace","path":"/plane","value":"oops"}])",
                            R"([{"op":"replace","path":"/plane/normal","value":[0,0,0]}])"}) {
        job::Job wrong = job;
        wrong.units[0].adjusted["front"] = bad;
        const auto refused = job::job_from_text(job::job_to_text(wrong));
        INFO(bad);
        REQUIRE_FALSE(refused.ok());
        CHECK(refused.error().message.find("what was changed of 'U1.front'") != std::string::npos);
    }
    // What no longer holds is left out.
    job.units[0].adjusted["front"] = R"([{"op":"replace","path":"/edges/99/gap_mm","value":5}])";
    check_sound(built(job));
}

TEST_CASE("a unit taken apart is the same pieces without it", "[furniture]") {
    job::Job job = fitted(UnitKind::counter);
    const Built whole = built(job);
    job::take_apart(job, "U1");
    CHECK(job.units.empty());
    const Built apart = built(job);
    REQUIRE(apart.full.pieces == whole.full.pieces);
    for (const auto& p : whole.full.pieces) CHECK(apart.shape(p.id).face_a == whole.shape(p.id).face_a);
    // The next unit takes another name than theirs, and theirs is refused for a unit.
    CHECK(job::starting_unit(job, apart.results, UnitKind::settee).id == "U2");
    job.units = {unit(UnitKind::settee)};
    const auto refused = job::job_from_text(job::job_to_text(job));
    REQUIRE_FALSE(refused.ok());
    CHECK(refused.error().message.find("belongs to this unit") != std::string::npos);
}

TEST_CASE("a piece beside another follows it, and a circle is refused by name", "[furniture]") {
    job::Job job = fitted(UnitKind::settee);
    job::JobPiece p = bulkhead("B3", 0, -100);
    p.beside = piece::Beside{"B1", 300};
    job.pieces.push_back(p);
    CHECK(built(job).spec("B3").plane.d_mm == 580 + 18 + 300);
    job.pieces[0].plane.d_mm += 40;
    CHECK(built(job).spec("B3").plane.d_mm == 580 + 40 + 18 + 300);
    job.pieces[2].beside->distance_mm = -100;
    CHECK(built(job).spec("B3").plane.d_mm == 620 - 100 - 18);
    job.pieces[0].beside = piece::Beside{"B3", 100};
    const Built ring = built(job);
    for (const char* id : {"B1", "B3"}) {
        const auto* r = ring.results.piece(id);
        REQUIRE(r->outline);
        REQUIRE_FALSE(r->outline->ok());
        CHECK(r->outline->error().message.find("stands beside") != std::string::npos);
        CHECK(r->sketch);
    }
    CHECK(ring.results.piece("B2")->shape());
}

TEST_CASE("random units on practice hulls: all their pieces, none within another", "[furniture]") {
    std::mt19937 random(7);
    const auto any = [&](double low, double high) { return std::uniform_real_distribution<>(low, high)(random); };
    int open = 0;
    const int all = cases(200, 9);
    for (int k = 0; k < all; ++k) {
        practice::BoatSpec form;
        form.form = static_cast<practice::HullForm>(k % 3);
        form.seed = static_cast<unsigned>(k + 1);
        const practice::VirtualBoat boat(form);
        job::Job job = practice_job(boat, true);
        job::JobUnit u = unit(static_cast<UnitKind>(k % furniture::unit_kind_count));
        u.from_mm = any(500, 800), u.to_mm = any(1800, 2300);
        u.dividers_mm = {any(1200, 1500)};
        u.side = k % 2 ? furniture::Side::port : furniture::Side::starboard;
        // Within the hull: the foot where the boat is still wide, the front well inside of it.
        double half = 1e9;
        u.foot_mm = 0.45 * boat.at(1500, -M_PI / 2).z();
        for (double x : {u.from_mm, u.to_mm})
            for (int j = 0; j <= 60; ++j) {
                const Vec3 p = boat.at(x, -j * M_PI / 2 / 60);
                if (p.z() >= u.foot_mm) half = std::min(half, p.y());
            }
        if (u.kind != UnitKind::sole) u.height_mm = any(0.5, 0.8) * -u.foot_mm;
        u.front_mm = u.kind == UnitKind::engine_box ? any(0.3, 0.6) * half : half - any(0.35, 0.6) * half;
        u.toe_high_mm = std::min(75.0, u.height_mm / 4), u.rail_mm = 40, u.lid_depth_mm = 0.2 * half;
        u.toe_deep_mm = 40, u.shelf_step_mm = 0.2 * u.height_mm;
        job.units = {u};
        INFO("case " << k << ", a " << furniture::kind_of(u.kind).name);
        job::Pipeline pipeline;
        Built b{job::in_full(job), {}};
        b.results = pipeline.compute_pieces(b.full);
        const bool sound = std::all_of(b.results.pieces.begin(), b.results.pieces.end(),
                                       [](const auto& r) { return r.shape() != nullptr; });
        if (sound) solids::check_no_overlap(b.results, 0.01);
        open += !sound;
    }
    // Numbers taken at random may reach where this hull is not known: those pieces are said to be open.
    CHECK(open * 50 <= all);
}

TEST_CASE("dragging a panel changes the number behind it", "[furniture]") {
    job::Job job = fitted(UnitKind::settee, false);
    const auto number = [&](const std::string& id) {
        const auto n = job::number_of(job, id);
        INFO(id);
        REQUIRE(n);
        return *n;
    };
    job::set_value(job, number("U1.front"), 400);
    CHECK(job.units[0].front_mm == 400);
    job::set_value(job, number("U1.top"), 450);
    CHECK(job.units[0].height_mm == 450);
    CHECK(number("U1.top").base_mm == -650);
    job.units[0].dividers_mm = {1800, 1200};
    job::set_value(job, number("U1.divider 1"), 1250);
    CHECK(job.units[0].dividers_mm == std::vector<double>{1800, 1250});
    job::set_value(job, number("U1.aft end"), 620);
    CHECK(job.units[0].from_mm == 620);
    CHECK(job::value_of(job, number("U1.fwd end")) == 2400);
    job.units[0].side = furniture::Side::starboard;
    CHECK(number("U1.front").way == Vec3(-Vec3::UnitY()));
    CHECK_FALSE(job::number_of(job, "B1"));
    CHECK_FALSE(job::number_of(job, "U1.divider 9"));
}

TEST_CASE("an edge that stops where the other piece has no wood is a finding with its millimetres", "[furniture]") {
    job::Job job = fitted(UnitKind::settee);
    const auto found = [&] {
        const Built b = built(job);
        std::vector<review::Finding> out;
        for (const auto& f : review::review(b.full, b.results))
            if (f.check == review::CheckId::meets_nothing) out.push_back(f);
        return out;
    };
    CHECK(found().empty());
    // The bulkhead now ends at z = -300: the front, up to -238.5, and the top stop beside it.
    job.pieces[0].edges[1].at_mm = -300;
    const auto now = found();
    REQUIRE(now.size() == 2);
    for (const auto& f : now) {
        INFO(f.title << ": " << f.evidence);
        CHECK(f.severity == review::Severity::mind);
        CHECK((f.piece_id == "U1.front" || f.piece_id == "U1.top"));
        if (f.piece_id == "U1.front") CHECK(std::abs(jobs::number_in(f.evidence) - 61) < 6);
    }
}

TEST_CASE("a sole is raised over what reaches through it, and its beams end beside that", "[furniture]") {
    for (const bool half : {false, true}) {
        job::Job job = fitted(UnitKind::sole);
        job.units[0].half = half;
        job::JobObstacle engine;
        engine.id = "O1", engine.name = "Engine";
        engine.path = {{1200, 0, -700}, {1700, 0, -700}};
        engine.width_mm = 300, engine.height_mm = 400;
        job.obstacles = {engine};
        CHECK(job::reaching_through(job::in_full(job), job.units[0]) == std::vector<std::string>{"O1"});
        REQUIRE(job::raise_over(job, "U1", "O1"));
        const auto& u = job.units[0];
        // 30 mm clear and a panel beside it, in whole steps; above it 30 mm and the top.
        CHECK(u.raised_from_mm <= 1200 - 30 - 18);
        CHECK(u.raised_to_mm >= 1700 + 30 + 18);
        CHECK(u.raised_half_mm >= 150 + 30 + 18);
        CHECK(u.raised_by_mm >= -500 + 30 + 18 + 650);
        const Built b = built(job);
        check_sound(b);
        CHECK(b.spec("U1.raised top").kind == "raised sole");
        CHECK(b.box("U1.raised top").height() == Approx(u.raised_to_mm - u.raised_from_mm));
        CHECK(b.box("U1.raised top").width() == Approx((half ? 1 : 2) * u.raised_half_mm));
        // The sides stand on the sole, under the top, and the ends cover them.
        CHECK(b.box("U1.raised aft").height() == Approx(u.raised_by_mm - 18 - 0.5));
        CHECK(b.box("U1.raised near").width() == Approx(u.raised_to_mm - u.raised_from_mm - 2 * 18 - 2 * 0.5));
        // The beam at 1400 is in two, clear of the engine; those beside it are whole.
        CHECK((job::find_piece(b.full, "U1.beam 2 far") != nullptr) == !half);
        CHECK(job::find_piece(b.full, "U1.beam 1 far") == nullptr);
        for (const Vec2& p : b.shape("U1.beam 2").face_a.outer)
            CHECK(b.shape("U1.beam 2").frame.to_space(p).y() > u.raised_half_mm - 1e-6);
        // No lift-out reaches into the raised part.
        for (const auto& p : b.full.pieces)
            if (p.kind == "lift-out")
                CHECK((b.shape(p.id).frame.to_space(b.box(p.id).max).x() < u.raised_from_mm ||
                       b.shape(p.id).frame.to_space(b.box(p.id).min).x() > u.raised_to_mm));
        // No panel is cut for the engine any more.
        for (const auto& r : b.results.pieces)
            for (const auto& e : r.shape()->edges_a) CHECK(e.source != piece::EdgeSource::obstacle);
        // Its panels stand for its numbers.
        const auto number = job::number_of(job, "U1.raised fwd");
        REQUIRE(number);
        job::set_value(job, *number, 1900);
        CHECK(job.units[0].raised_to_mm == 1900);
        CHECK(job::number_of(job, "U1.beam 2 far").has_value());
        const auto again = job::job_from_text(job::job_to_text(job));
        REQUIRE(again.ok());
        CHECK(*again == job);
    }
    // One that does not stand within the sole, or is no box, is left out.
    job::Job job = fitted(UnitKind::sole);
    job::raise_middle(job, "U1");
    const Built raised = built(job);
    check_sound(raised);
    // What the program proposes is no fault of the person's: its opening's corners are round.
    for (const auto& f : review::review(raised.full, raised.results))
        CHECK(f.check != review::CheckId::sharp_opening);
    job.units[0].raised_from_mm = 100;
    CHECK_FALSE(job::find_piece(job::in_full(job), "U1.raised top"));
    CHECK_FALSE(job::raise_over(job, "U1", "none"));
    CHECK_FALSE(job::raise_over(job, "U7", "O1"));
}

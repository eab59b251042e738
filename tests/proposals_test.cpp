// What the program proposes of furniture: sound at the first click, where nothing stands yet, and no stop; what of it
// follows its ends afterwards.
#include <catch2/catch.hpp>

#include <cmath>

#include "furniture/kinds.h"
#include "job/in_full.h"
#include "job/pipeline.h"
#include "job/raised_sole.h"
#include "job/starting_unit.h"
#include "practice/boat.h"
#include "review/review.h"
#include "support/fitted_out.h"
#include "support/study.h"

using namespace bevelsmith;
using namespace fitted_out;

TEST_CASE("a unit starts right: at the first click all its pieces are sound", "[proposals]") {
    for (int k = 0; k < cases(120, 8); ++k) {
        const auto kind = static_cast<UnitKind>(k % furniture::unit_kind_count);
        practice::BoatSpec form;
        form.form = static_cast<practice::HullForm>(k % 3);
        form.seed = static_cast<unsigned>(k + 1);
        job::Job job = practice_job(practice::VirtualBoat(form), k % 2 != 0);
        job::Pipeline pipeline;
        job.units = {job::starting_unit(job, pipeline.compute_pieces(job), kind)};
        INFO("case " << k << ", a " << furniture::kind_of(kind).name);
        Built b{job::in_full(job), {}};
        b.results = pipeline.compute_pieces(b.full);
        CHECK(b.full.pieces.size() >= 4);
        check_sound(b);
    }
}

TEST_CASE("a unit starts right on one flared side that is not read down to the keel", "[proposals]") {
    // Hollow flare from 50 to 1120 up, nothing read within 430 of the centre line.
    std::vector<Vec3> places;
    for (int i = 0; i < 4; ++i)
        for (int k = 0; k < 8; ++k) {
            const double up = (2 + 6 * k) * units::mm_per_inch, t = (2 + 6 * k) / 48.0;
            const double out = (5 + 21 * std::pow(t, 0.7) + 9 * t * t * t) * (1 - 0.03 * i) - 0.4 * i;
            places.emplace_back(1000 + 500.0 * i, -300 - out * units::mm_per_inch, up);
        }
    job::Job job = read_at(places, Vec3(1700, 0, 600));
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    for (int k = 0; k < furniture::unit_kind_count; ++k) {
        const auto kind = static_cast<UnitKind>(k);
        job.units = {job::starting_unit(job, results, kind)};
        INFO(furniture::kind_of(kind).name);
        Built b{job::in_full(job), {}};
        b.results = pipeline.compute_pieces(b.full);
        check_sound(b);
    }
}

TEST_CASE("a unit starts no higher than the bulkheads that it ends at, under a name of its own", "[proposals]") {
    job::Job job = fitted(UnitKind::settee);
    job.units.clear();
    job.pieces[0].edges[1].at_mm = -330;
    const Built b = built(job);
    const job::JobUnit counter = job::starting_unit(job, b.results, UnitKind::counter);
    CHECK(counter.from_piece_id == "B1");
    CHECK(counter.to_piece_id == "B2");
    CHECK(counter.foot_mm + counter.height_mm <= -330);
    CHECK(counter.foot_mm + counter.height_mm > -330 - 150);
    job.units = {counter};
    const job::JobUnit next = job::starting_unit(job, b.results, UnitKind::counter);
    CHECK(next.id != counter.id);
    CHECK(next.name == "Counter 2");
}

TEST_CASE("dividers and front follow a unit's ends until a person has set them", "[proposals]") {
    job::Job job = practice_job(practice::VirtualBoat({practice::HullForm::flared_bow, 0, 0, 1}), true);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    job.units = {job::starting_unit(job, results, UnitKind::berth)};
    REQUIRE(job.units[0].dividers_mm.size() == 1);
    const auto edited = [&](const auto& change) {
        const job::Job before = job;
        change(job.units[0]);
        job::follow_ends(job, before, results);
    };
    const double front = job.units[0].front_mm;
    // Forward, where the flared bow is narrower: the front comes in as the hull does, the divider stays in the
    // middle.
    edited([](auto& u) { u.from_piece_id.clear(), u.from_mm += 600; });
    auto& u = job.units[0];
    const double forward =
        u.to_piece_id.empty() ? u.to_mm : geometry::place_mm(job::find_piece(job, u.to_piece_id)->plane);
    REQUIRE(u.dividers_mm.size() == 1);
    CHECK(u.dividers_mm[0] == Approx((u.from_mm + forward) / 2).margin(15));
    CHECK(u.front_mm < front);
    // A short one has none, and a long one again.
    edited([&](auto& one) { one.from_mm = forward - 700; });
    CHECK(u.dividers_mm.empty());
    edited([&](auto& one) { one.from_mm = forward - 1100; });
    REQUIRE(u.dividers_mm.size() == 1);
    // Set by hand they stay where they are, whatever the ends do; the front goes on following.
    edited([](auto& one) { one.dividers_mm[0] += 70; });
    CHECK(!u.dividers_follow);
    CHECK(u.front_follows);
    const auto set = u.dividers_mm;
    edited([](auto& one) { one.from_mm -= 150; });
    CHECK(u.dividers_mm == set);
    edited([](auto& one) { one.front_mm = 250; });
    edited([](auto& one) { one.from_mm += 200; });
    CHECK(u.front_mm == 250);
    // Asked to, they follow again.
    edited([](auto& one) { one.dividers_follow = true; });
    CHECK(u.dividers_mm != set);
}

TEST_CASE("a sole's beams follow a bulkhead that is dragged past them", "[proposals]") {
    job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    job.units.clear();
    job.units = {job::starting_unit(job, results, UnitKind::sole)};
    const std::string bulkhead =
        job.units[0].from_piece_id.empty() ? job.units[0].to_piece_id : job.units[0].from_piece_id;
    REQUIRE(!bulkhead.empty());
    const auto ends_of = [&] {
        double low = 1e9, high = -1e9;
        for (const auto* id : {&job.units[0].from_piece_id, &job.units[0].to_piece_id})
            if (const auto* p = job::find_piece(job, *id)) {
                low = std::min(low, geometry::place_mm(p->plane)),
                high = std::max(high, geometry::place_mm(p->plane));
            }
        if (job.units[0].from_piece_id.empty()) low = job.units[0].from_mm;
        if (job.units[0].to_piece_id.empty()) high = job.units[0].to_mm;
        return std::pair(low, high);
    };
    for (const double by : {-300.0, 250.0, 350.0}) {
        const job::Job before = job;
        for (auto& p : job.pieces)
            if (p.id == bulkhead) p.plane.d_mm += by * p.plane.normal.x();
        job::follow_ends(job, before, results);
        const auto [low, high] = ends_of();
        double last = low;
        for (double x : job.units[0].dividers_mm) {
            CHECK(x > low);
            CHECK(x < high);
            CHECK(x - last < 430);
            last = x;
        }
        CHECK(high - last < 430);
    }
}

TEST_CASE("a proposal looks for a bay in which nothing stands yet, and is no stop there", "[proposals]") {
    // Bulkheads part the boat into bays; a V-berth takes the foremost, and the usual place of all that follows.
    job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    const auto results_of = [&] { return pipeline.compute_pieces(job::in_full(job)); };
    auto results = results_of();
    const auto& points = results.surfaces[0].points;
    double low = 1e9, high = -1e9;
    for (const auto& p : points) low = std::min(low, p.position.x()), high = std::max(high, p.position.x());
    const double middle = (low + high) / 2;
    // A bracket is no bulkhead, though it stands across the boat.
    {
        const job::Job before = job;
        auto bracket = job.pieces[0];
        bracket.id = "K1", bracket.kind = "bracket", bracket.plane.d_mm = bracket.plane.normal.x() * (middle + 80);
        job.pieces.push_back(bracket);
        const auto beside = job::starting_unit(job, results_of(), UnitKind::settee, middle);
        CHECK(beside.from_piece_id != "K1");
        CHECK(beside.to_piece_id != "K1");
        job.pieces.back().kind = "bulkhead";
        CHECK(job::starting_unit(job, results_of(), UnitKind::settee, middle).to_piece_id == "K1");
        job = before;
    }
    job.units = {job::starting_unit(job, results, UnitKind::settee, middle)};
    const auto taken = job.units[0];
    const auto span = [&](const job::JobUnit& u) {
        const auto end = [&](const std::string& id, double at) {
            const auto* p = job::find_piece(job, id);
            return p ? geometry::place_mm(p->plane) : at;
        };
        return std::pair(end(u.from_piece_id, u.from_mm), end(u.to_piece_id, u.to_mm));
    };
    for (const auto kind : {UnitKind::counter, UnitKind::locker, UnitKind::berth}) {
        CAPTURE(furniture::kind_of(kind).name);
        results = results_of();
        const auto next = job::starting_unit(job, results, kind);
        const auto [from, to] = span(next);
        const auto [first, last] = span(taken);
        INFO(from << " to " << to << " beside " << first << " to " << last);
        const bool beside = next.side != taken.side || from > last - 30 || to < first + 30;
        CHECK(beside);
        // A person's own place is kept, whatever stands there.
        const auto asked = job::starting_unit(job, results, kind, middle, taken.side);
        CHECK(span(asked).first < last);
        CHECK(span(asked).second > first);
        job::Job with = job;
        with.units.push_back(next);
        const auto full = job::in_full(with);
        const auto found = review::review(full, pipeline.compute_pieces(full));
        for (const auto& f : found) {
            INFO(f.title << ": " << f.evidence);
            CHECK((f.severity != review::Severity::stop || !job::is_of(f.piece_id, next.id)));
        }
    }
}

TEST_CASE("shelves are proposed neither through a plain shelf nor close over a seat", "[proposals]") {
    job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    const auto built_now = [&] {
        Built b{job::in_full(job), {}};
        b.results = pipeline.compute_pieces(b.full);
        return b;
    };
    const auto first = job::starting_unit(job, built_now().results, UnitKind::shelves);
    // The same shelves as plain pieces: no unit says that they are there.
    job.units = {first};
    job::take_apart(job, first.id);
    REQUIRE(job.units.empty());
    job.units = {job::starting_unit(job, built_now().results, UnitKind::shelves)};
    for (const auto& f : review::review(built_now().full, built_now().results)) {
        INFO(f.title << ": " << f.evidence);
        CHECK(f.check != review::CheckId::reaches_into_another);
    }
    // Over a seat, at its own place: the next bay, or so high that one can sit there.
    job = jobs::ternlight();
    auto seat = job::starting_unit(job, built_now().results, UnitKind::settee);
    job.units = {seat};
    const auto shelves = job::starting_unit(job, built_now().results, UnitKind::shelves);
    const bool beside = shelves.from_piece_id != seat.from_piece_id || shelves.side != seat.side;
    CHECK((beside || shelves.foot_mm + shelves.height_mm >= seat.foot_mm + seat.height_mm + 230));
}

TEST_CASE("a settee is proposed beside a sole's raised part, and no longer than a sheet", "[proposals]") {
    const practice::VirtualBoat boat({});
    for (const bool settee_first : {false, true}) {
        INFO(settee_first);
        job::Job job = practice_job(boat, true);
        job::Pipeline pipeline;
        const auto results = [&] { return pipeline.compute_pieces(job::in_full(job)); };
        const auto add = [&](UnitKind kind) { job.units.push_back(job::starting_unit(job, results(), kind)); };
        if (settee_first) add(UnitKind::settee);
        add(UnitKind::sole);
        job::raise_middle(job, job.units.back().id);
        if (!settee_first) add(UnitKind::settee);
        const auto& settee = job.units[settee_first ? 0 : 1];
        CHECK(settee.to_mm - settee.from_mm <= 2420);
        CHECK(settee.to_mm - settee.from_mm > 2000);
        const auto full = job::in_full(job);
        for (const auto& f : review::review(full, pipeline.compute(full))) {
            INFO(f.title << ": " << f.evidence);
            CHECK(f.severity != review::Severity::stop);
        }
    }
}

TEST_CASE("a sole and what stands on it agree in height, whichever is there first", "[proposals]") {
    const practice::VirtualBoat boat({});
    for (const bool sole_first : {true, false}) {
        job::Job job = practice_job(boat, true);
        const auto results = job::Pipeline().compute(job);
        for (const auto kind : sole_first ? std::vector{UnitKind::sole, UnitKind::settee}
                                          : std::vector{UnitKind::settee, UnitKind::sole})
            job.units.push_back(job::starting_unit(job, results, kind, 1500));
        INFO(sole_first);
        CHECK(job.units[0].foot_mm == job.units[1].foot_mm);
    }
}

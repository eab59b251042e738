// Offering up: what is seen along an edge corrects it. The truth is a virtual boat's (tests/practice_test.cpp).
#include <catch2/catch.hpp>

#include <cmath>
#include <iostream>

#include "exchange/gaps_csv.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/offering_up.h"
#include "piece/best_move.h"
#include "practice/trial.h"
#include "support/jobs.h"
#include "support/study.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;
using piece::FitReading;
using piece::Noticed;

namespace {

constexpr double feeler_mm = 0.3;
constexpr double within_mm = 1;

/// A boat read in five stations or scattered, as numbered, with a bulkhead on the port side. Every other boat has
/// lumps between her readings, the others a wrong reading near the bulkhead that nobody has marked.
struct Case {
    practice::VirtualBoat boat;
    job::Job job;
};

Case numbered(int k) {
    const bool lumpy = k % 2 == 0;
    auto virtual_job = virtual_jobs::numbered(k, lumpy ? 6 : 0);
    job::Job job = job::empty_job();
    job.surfaces[0].inside = Vec3(practice::VirtualBoat::length_mm / 2, 0, 0);
    job.surfaces[0].id = "hull";
    survey::ReadingSet set;
    set.school = survey::School::direct;
    set.surface_id = "hull";
    set.sigma_mm = 1.5;
    for (const auto& p : virtual_job.points)
        set.readings.emplace_back().values = {p.position.x(), p.position.y(), p.position.z(), 0, 0, 0};
    constexpr double x = 1500;
    if (!lumpy) {
        auto nearest = std::min_element(set.readings.begin(), set.readings.end(), [&](const auto& a, const auto& b) {
            return std::abs(a.values[0] - x) < std::abs(b.values[0] - x);
        });
        nearest->values[1] += 10;
    }
    job::add_readings(job, set);
    if (!virtual_job.options.hard_lines.empty()) {
        practice::Hand hand;
        hand.random.seed(static_cast<unsigned>(k));
        auto chine = virtual_jobs::chine_of(virtual_job.boat, hand);
        chine.surface_id = "hull";
        job::add_readings(job, chine);
    }
    job::JobPiece piece;
    piece.id = "B1", piece.name = "Bulkhead", piece.material_id = job.materials[0].id;
    piece.plane = {Vec3::UnitX(), x};
    piece.split_for_passage = false;
    piece.edges = {{piece::EdgeKind::scribed, "hull", "hull"}};
    piece.edges.push_back({piece::EdgeKind::plane, "top", {}});
    piece.edges.back().plane = {Vec3::UnitZ(), 0};
    piece.edges.push_back({piece::EdgeKind::plane, "inboard", {}});
    piece.edges.back().plane = {-Vec3::UnitY(), -350};
    job.pieces.push_back(piece);
    return {virtual_job.boat, std::move(job)};
}

/// How far off each place of the edge is, along the hull's normal.
std::vector<double> errors_of(const piece::Outline& shape, const practice::VirtualBoat& boat) {
    std::vector<double> out;
    for (const auto& m : shape.marks)
        if (m.kept) out.push_back(boat.outside_mm(shape.frame.to_space(m.a)));
    return out;
}

double share_within(const std::vector<double>& errors, double mm) {
    double held = 0;
    for (double e : errors) held += std::abs(e) <= mm;
    return held / static_cast<double>(errors.size());
}

/// Shave what touches, the plain way: each time what fouls most goes, by the eye, to half of what is wrong there and
/// within 150 mm of it; the boat tells no more than that.
int plain_trips(std::vector<double> wood_too_much) {
    int trips = 0;
    while (trips < 40) {
        const double most = *std::max_element(wood_too_much.begin(), wood_too_much.end());
        if (most <= within_mm) break;
        ++trips;
        for (double& e : wood_too_much)
            if (e > most / 2) e -= most / 2;
    }
    return trips;
}

const piece::Outline& shape_of(const job::Results& results) {
    REQUIRE(results.piece("B1")->shape());
    return *results.piece("B1")->shape();
}

}  // namespace

TEST_CASE("a trial pattern's gaps give the edge that the good sheet is cut to", "[fitting]") {
    const int boats = cases(100, 8);
    int at_once = 0;
    double trips = 0, plain = 0, within_feeler = 0, worst_before = 0;
    for (int k = 0; k < boats; ++k) {
        Case one = numbered(k);
        job::Pipeline pipeline;
        const job::Job full = job::in_full(one.job);
        const job::Results before = pipeline.compute_pieces(full);
        const piece::Outline& offered = shape_of(before);
        practice::Hand hand;
        hand.sigma_mm = feeler_mm, hand.random.seed(static_cast<unsigned>(k) + 1000);
        const auto felt = practice::gaps_felt(offered, one.boat, 100, hand);
        const auto result = job::offered_up(one.job, "B1", felt, true, pipeline);
        REQUIRE(result.ok());
        const auto errors = errors_of(result->corrected, one.boat);
        within_feeler += share_within(errors, 2 * feeler_mm) / boats;
        const bool fits = share_within(errors, within_mm) >= 0.95;
        at_once += fits;
        std::vector<double> wood = errors_of(offered, one.boat);
        for (double e : wood) worst_before = std::max(worst_before, std::abs(e));
        // Wood left on all round, so that only shaving is asked for.
        const double least = *std::min_element(wood.begin(), wood.end());
        for (double& e : wood) e -= std::min(0.0, least);
        plain += static_cast<double>(plain_trips(wood)) / boats;
        // One trip for what the first fitting says; where it does not fit yet, the gaps are felt again.
        int own = 1;
        if (!fits) {
            const auto again = practice::gaps_felt(result->corrected, one.boat, 100, hand);
            const auto better = job::offered_up(result->job, "B1", again, false, pipeline);
            REQUIRE(better.ok());
            own += share_within(errors_of(better->corrected, one.boat), within_mm) >= 0.95 ? 1 : 3;
        }
        trips += static_cast<double>(own) / boats;
    }
    std::cout << boats << " pieces, up to " << worst_before
              << " mm off: with a trial pattern the good sheet fits at once in " << at_once << "; "
              << 100 * within_feeler << " % of the edge within twice the feeler; trips " << trips
              << ", shaving what touches " << plain << "\n";
    CHECK(at_once >= 0.97 * boats - (boats < 100 ? 1 : 0));
    CHECK(within_feeler > 0.95);
    CHECK(trips <= 1.3);
    CHECK(plain > 2 * trips);
}

TEST_CASE("what is read when it is offered up becomes part of the survey, and can be taken back", "[fitting]") {
    Case one = numbered(0);
    job::Pipeline pipeline;
    const auto before = pipeline.compute_pieces(job::in_full(one.job));
    const std::size_t sets = one.job.readings.size();
    const std::vector<FitReading> seen{{0, 100, Noticed::gap, 2.5},
                                       {0, 300, Noticed::touches},
                                       {0, 500, Noticed::rocks},
                                       {0, 700, Noticed::gap, -1, 0.5}};
    const auto entered = job::enter_fitting(one.job, one.job.pieces[0], shape_of(before), seen, false);
    REQUIRE(entered.ok());
    REQUIRE(one.job.readings.size() == sets + 1);
    const auto& set = one.job.readings.back();
    CHECK(set.surface_id == "hull");
    REQUIRE(set.readings.size() == 4);
    CHECK(set.readings[0].note == "gap 2.5 mm at 100 mm");
    CHECK(set.readings[3].sigma_mm == Approx(0.5));
    CHECK(one.job.pieces[0].stage == "tried");
    // The file keeps all of it, and the outline runs through what was seen.
    const auto again = job::job_from_text(job::job_to_text(one.job));
    REQUIRE(again.ok());
    CHECK(*again == one.job);
    const auto after = pipeline.compute_pieces(job::in_full(*again));
    for (const auto& r : set.readings) {
        const Vec3 p(r.values[0], r.values[1], r.values[2]);
        double nearest = HUGE_VAL;
        const auto& shape = shape_of(after);
        for (std::size_t i = 0; i + 1 < shape.marks.size(); ++i)
            nearest = std::min(nearest, geometry::distance_to_segment_mm(
                                            shape.frame.to_plane(p), shape.marks[i].met_a, shape.marks[i + 1].met_a));
        CHECK(nearest < 0.05);
    }
    job::take_back_fitting(one.job, "B1");
    CHECK(one.job.readings.size() == sets);
    REQUIRE(one.job.pieces[0].fittings.size() == 1);
    CHECK(job::is_draft(one.job.pieces[0].fittings[0]));
    CHECK(one.job.pieces[0].fittings[0].readings == seen);
}

TEST_CASE("an edge is offered up with its lipping on: what fits wants nothing off and no wood", "[fitting]") {
    for (const auto& [lipping, left] : {std::pair(0.0, 0.0), {8.0, 0.0}, {0.0, 3.0}, {8.0, 3.0}}) {
        Case one = numbered(0);
        auto& edge = one.job.pieces[0].edges[0];
        edge.lipping_mm = lipping, edge.leave_on_mm = left;
        const double stands = left > 0 && lipping == 0 ? left : 0;
        CHECK(piece::left_before_mm(edge) == stands);
        job::Pipeline pipeline;
        const auto& shape = shape_of(pipeline.compute_pieces(job::in_full(one.job)));
        // Daylight as it is drawn: the gap and the coat, less the wood that is left on.
        std::vector<FitReading> seen;
        for (double along = 100; along < 900; along += 100)
            seen.push_back({0, along, Noticed::gap, edge.taken_off_mm() - stands});
        const auto places = piece::true_places(one.job.pieces[0], shape, seen);
        REQUIRE(places.ok());
        for (const auto& place : *places) {
            double nearest = HUGE_VAL;
            for (std::size_t i = 0; i + 1 < shape.marks.size(); ++i)
                nearest = std::min(nearest, geometry::distance_to_segment_mm(place.at, shape.marks[i].met_a,
                                                                             shape.marks[i + 1].met_a));
            CHECK(nearest < 0.1);
        }
        const auto c = piece::correct(one.job.pieces[0], piece::as_offered(shape), shape, seen);
        REQUIRE(c.guide.size() > 10);
        for (const auto& s : c.guide) CHECK(s.off_a_mm == Approx(stands).margin(0.15));
        CHECK(c.missing.empty());
    }
}

TEST_CASE("readings that are on no scribed edge are refused, and nothing is changed", "[fitting]") {
    Case one = numbered(1);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job::in_full(one.job));
    const job::Job before = one.job;
    for (const FitReading& wrong : {FitReading{9, 100}, FitReading{1, 100}, FitReading{0, 90000}}) {
        const auto entered = job::enter_fitting(one.job, one.job.pieces[0], shape_of(results), {wrong}, false);
        REQUIRE_FALSE(entered.ok());
        CHECK(entered.error().message.find("reading 1") == 0);
        CHECK(one.job == before);
    }
    CHECK_FALSE(job::enter_fitting(one.job, one.job.pieces[0], shape_of(results), {}, false).ok());
}

TEST_CASE("a file whose fitting names an edge that the piece has no more is read, and nothing is said of that edge",
          "[fitting]") {
    Case one = numbered(1);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job::in_full(one.job));
    const auto& shape = shape_of(results);
    const auto c = piece::correct(one.job.pieces[0], piece::as_offered(shape), shape, {{39, 100, Noticed::rocks}});
    CHECK(c.rocks_on.empty());
    CHECK(c.guide.empty());
    CHECK(c.widest_mm == 0);
}

TEST_CASE("wood that is not there is not invented", "[fitting]") {
    Case one = numbered(2);
    job::Pipeline pipeline;
    std::vector<FitReading> seen;
    const auto before = pipeline.compute_pieces(job::in_full(one.job));
    const piece::Outline offered = shape_of(before);
    double end = 0;
    for (const auto& m : offered.marks)
        if (m.kept) end = m.arc_mm;
    // Daylight along the first half, fouling along the second.
    for (double s = 0; s <= end; s += 50) seen.push_back({0, s, Noticed::gap, s < end / 2 ? 4.0 : -3.0});
    const auto result = job::offered_up(one.job, "B1", seen, false, pipeline);
    REQUIRE(result.ok());
    const auto& c = result->correction;
    CHECK(geometry::total_area_mm2(geometry::subtract({c.trimmed_a}, {offered.face_a})) < 1);
    CHECK(geometry::area_mm2(c.trimmed_a) < geometry::area_mm2(offered.face_a));
    REQUIRE(c.missing.size() == 1);
    CHECK(c.missing[0].most_mm == Approx(4).margin(0.3));
    CHECK_FALSE(c.missing[0].fits_wanted);
    CHECK(c.widest_mm == Approx(4).margin(0.3));
    for (const auto& s : c.guide) {
        if (s.along_mm < end / 2 - 60) CHECK(s.off_a_mm < -3.5);
        if (s.along_mm > end / 2 + 60) CHECK(s.off_a_mm > 2.7);
    }
}

TEST_CASE("the best move closes daylight that a whole edge has, and none that is its shape", "[fitting]") {
    std::vector<piece::Contact> square;
    for (double t = 0; t <= 1000; t += 100) {
        square.push_back({{t, 0}, {0, -1}, 3});    // bottom: 3 mm of daylight
        square.push_back({{1000, t}, {1, 0}, 1});  // right: 1 mm
    }
    const auto moved = piece::best_move(square, {500, 500});
    CHECK(moved.left_mm == Approx(0).margin(1e-6));
    CHECK(moved.by.y() == Approx(-3).margin(0.05));
    CHECK(moved.by.x() >= 1 - 1e-6);
    // An edge that opens like a wedge is closed by a turn.
    std::vector<piece::Contact> wedge;
    for (double t = 0; t <= 1000; t += 100) wedge.push_back({{t, 0}, {0, -1}, t / 200});
    const auto turned = piece::best_move(wedge, {500, 500});
    CHECK(turned.left_mm == Approx(0).margin(1e-6));
    // Held between two walls it cannot move to either.
    std::vector<piece::Contact> held{
        {{0, 0}, {-1, 0}, 2}, {{1000, 0}, {1, 0}, 2}, {{0, 500}, {-1, 0}, 2}, {{1000, 500}, {1, 0}, 2}};
    CHECK(piece::best_move(held, {500, 250}).left_mm == Approx(2));
    CHECK(piece::best_move({}, {0, 0}).left_mm == 0);
}

TEST_CASE("gaps are read from text, and what is wrong is told with its line", "[fitting]") {
    piece::PieceSpec piece;
    piece.name = "Bulkhead";
    piece.edges = {{piece::EdgeKind::scribed, "hull", "hull"}, {piece::EdgeKind::scribed, "deckhead", "deck"}};
    const auto read = exchange::gaps_from_csv(
        "edge,along_mm,gap_mm,sigma_mm\nhull,0,1.5\nhull,200,-0.8,0.5\n# it "
        "sticks\ntouch,hull,400\ndeckhead,90,rocks\n1,100,2\n",
        piece);
    REQUIRE(read.ok());
    REQUIRE(read->size() == 5);
    CHECK((*read)[0] == FitReading{0, 0, Noticed::gap, 1.5});
    CHECK((*read)[1] == FitReading{0, 200, Noticed::gap, -0.8, 0.5});
    CHECK((*read)[2] == FitReading{0, 400, Noticed::touches});
    CHECK((*read)[3] == FitReading{1, 90, Noticed::rocks});
    CHECK((*read)[4] == FitReading{1, 100, Noticed::gap, 2});
    CHECK(exchange::gaps_from_csv("hull;0;1,5\nhull;100;2,25\n", piece)->back().gap_mm == Approx(2.25));
    const auto line_of = [&](const char* text) { return exchange::gaps_from_csv(text, piece).error().line; };
    CHECK(line_of("hull,0,1\nkeel,0,1\n") == 2);
    CHECK(line_of("hull,0,1\nhull,0\n") == 2);
    CHECK(line_of("hull,0,1\n\nhull,x,2\n") == 3);
    CHECK(line_of("hull,0,9999\n") == 1);
    CHECK(line_of("7,0,1\n") == 1);
    CHECK_FALSE(exchange::gaps_from_csv("", piece).ok());
    // What is no table at all is not thrown at the person whole.
    const std::string junk = exchange::gaps_from_csv(std::string(4000, '\x7f') + ",1,2\n", piece).error().message;
    CHECK(junk.size() < 200);
    CHECK(junk.find('\x7f') == std::string::npos);
}

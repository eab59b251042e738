// Sets in frames of their own: placed by marks, chained, doubted, and laid on a surface that is known.
#include <catch2/catch.hpp>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <random>

#include "job/job_file.h"
#include "job/own_frames.h"
#include "practice/instruments.h"
#include "review/review.h"
#include "support/jobs.h"
#include "support/study.h"
#include "survey/points.h"

using namespace bevelsmith;
using survey::KnownMark;
using survey::School;

namespace {

using Random = std::mt19937;

double between(Random& random, double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
}

/// Where an instrument's own frame lies in the boat.
struct Own {
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Vec3 move = Vec3::Zero();
    double scale = 1;
    Vec3 seen(const Vec3& at) const { return turn.transpose() * (at - move) / scale; }
};

Own anywhere(Random& random, double scale = 1) {
    const Vec3 axis(between(random, -1, 1), between(random, -1, 1), between(random, -1, 1));
    return {Eigen::AngleAxisd(between(random, -3, 3), axis.normalized()).toRotationMatrix(),
            Vec3(between(random, -9000, 9000), between(random, -9000, 9000), between(random, -3000, 3000)), scale};
}

std::vector<Vec3> some_places(Random& random, int count) {
    std::vector<Vec3> out;
    for (int k = 0; k < count; ++k)
        out.emplace_back(between(random, 0, 3000), between(random, -900, 900), between(random, -600, 500));
    return out;
}

std::vector<KnownMark> marks_seen(const std::vector<Vec3>& places, const Own& own, Random& random, double error_mm) {
    std::normal_distribution<double> error(0, error_mm);
    std::vector<KnownMark> out;
    for (std::size_t k = 0; k < places.size(); ++k)
        out.push_back({"M" + std::to_string(k + 1),
                       own.seen(places[k] + Vec3(error(random), error(random), error(random))), places[k]});
    return out;
}

double square_sum(const std::vector<KnownMark>& marks, const Eigen::Matrix3d& turn, const Vec3& move) {
    double out = 0;
    for (const auto& mark : marks) out += (turn * mark.seen + move - mark.at).squaredNorm();
    return out;
}

/// The practice boat read in the boat's frame: sets of points at stations, and marks that stand about her.
struct Boat {
    practice::VirtualBoat boat;
    job::Job job = job::empty_job();
    Random random;
    explicit Boat(unsigned seed) : boat({practice::HullForm::round_bilge, 0, 0, seed}), random(seed) {
        practice::Hand hand{1.0, 0, Random(seed)};
        for (double x = 250; x < 2900; x += 500) {
            std::vector<practice::Spot> spots;
            for (double a = -1.35; a < 0.2; a += 0.12) spots.push_back({x, a});
            auto set = practice::read_points(boat, spots, hand);
            set.name = "Station";
            set.surface_id = "hull";
            job::add_readings(job, set);
        }
        const Vec3 marks[] = {
            {100, 300, 200}, {2800, 250, 150}, {1500, -400, -300}, {700, -200, 350}, {2200, 100, -450}};
        for (const Vec3& at : marks) {
            job::JobMark mark;
            mark.id = "M" + std::to_string(job.marks.size() + 1);
            mark.name = "punch mark " + std::to_string(job.marks.size() + 1);
            mark.position = at;
            job.marks.push_back(mark);
        }
    }
    /// A dense scan of a part of the side in a frame of its own, its marks seen with this error.
    job::JobReadingSet& scan(const Own& own, double marks_error_mm, int marks = 5, double wild = 0) {
        practice::Hand hand{1.0, 0, Random(random())};
        auto spots = practice::random_spots(900, {300, -1.3}, {2700, 0.1}, random);
        survey::ReadingSet set = practice::read_points(boat, spots, hand);
        set.school = School::scan;
        set.name = "Scan";
        set.surface_id = "hull";
        set.stood.reset();
        std::normal_distribution<double> error(0, marks_error_mm);
        for (auto& r : set.readings) {
            Vec3 at(r.values[0], r.values[1], r.values[2]);
            if (between(random, 0, 1) < wild) at.y() -= between(random, 40, 200);  // a hose before the hull
            at = own.seen(at);
            r.values = {at.x(), at.y(), at.z()};
        }
        set.own_frame.emplace();
        for (int k = 0; k < marks; ++k) {
            const auto& mark = job.marks[static_cast<std::size_t>(k)];
            const Vec3 off(error(random), error(random), error(random));
            set.own_frame->marks.push_back({mark.id, own.seen(mark.position + off), std::nullopt, false});
        }
        return job::add_readings(job, set);
    }
    /// Root mean square distance of a set's points from the true hull.
    double off_truth(const std::string& id) const {
        const auto placed = job::placed_set(job, id);
        double sum = 0;
        for (const auto& r : placed->set.readings) {
            const double off = boat.outside_mm(Vec3(r.values[0], r.values[1], r.values[2]));
            sum += off * off;
        }
        return std::sqrt(sum / static_cast<double>(placed->set.readings.size()));
    }
};

const review::Finding* found(const std::vector<review::Finding>& all, review::CheckId check) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const auto& f) { return f.check == check; });
    return it == all.end() ? nullptr : &*it;
}

}  // namespace

TEST_CASE("marks without error give the frame back exactly, its scale where asked", "[placing]") {
    Random random(3);
    for (int k = 0; k < 300; ++k) {
        const bool scaled = k % 2;
        const Own own = anywhere(random, scaled ? between(random, 0.3, 3) : 1);
        const auto places = some_places(random, 4 + k % 4);
        const auto by = survey::place_by_marks(marks_seen(places, own, random, 0), scaled);
        REQUIRE(by);
        CHECK(by->rms_mm < 1e-6);
        CHECK(std::abs(by->scale - own.scale) < 1e-9);
        const Vec3 elsewhere(5000, -3000, 1000);
        CHECK(((*by)(own.seen(elsewhere)) - elsewhere).norm() < 1e-5);
    }
}

TEST_CASE("no small move lets marks with errors agree better, and chance explains their misfit", "[placing]") {
    Random random(4);
    double sum = 0;
    const int runs = 200, n = 5;
    for (int k = 0; k < runs; ++k) {
        const auto marks = marks_seen(some_places(random, n), anywhere(random), random, 2.0);
        const auto by = survey::place_by_marks(marks, false);
        REQUIRE(by);
        const double least = square_sum(marks, by->turn, by->move);
        for (int axis = 0; axis < 3; ++axis)
            for (const double sign : {-1.0, 1.0}) {
                const Eigen::Matrix3d turn(Eigen::AngleAxisd(sign * 1e-4, Vec3::Unit(axis)));
                CHECK(square_sum(marks, turn * by->turn, turn * by->move) >= least);
                CHECK(square_sum(marks, by->turn, by->move + sign * 0.1 * Vec3::Unit(axis)) >= least);
            }
        sum += by->rms_mm * by->rms_mm;
    }
    // Six numbers are found from 3 n: the mean square is sigma² (3 - 6 / n).
    CHECK(sum / runs == Approx(4.0 * (3 - 6.0 / n)).epsilon(0.15));
}

TEST_CASE("of several marks the wrong one is named, and told how far off it is", "[placing]") {
    Random random(5);
    int named = 0;
    const int runs = 100;
    for (int k = 0; k < runs; ++k) {
        auto marks = marks_seen(some_places(random, 6), anywhere(random), random, 1.0);
        const auto wrong = static_cast<std::size_t>(k % 6);
        marks[wrong].at += Vec3(0, 40, 0);
        const auto by = survey::place_by_marks(marks, false);
        REQUIRE(by);
        if (by->worst != static_cast<int>(wrong)) continue;
        ++named;
        const auto& worst = by->marks[wrong];
        CHECK(worst.others_rms_mm < 4);
        CHECK(worst.from_others_mm == Approx(40).margin(15));
    }
    CHECK(named >= 97);
}

TEST_CASE("marks that do not agree say what would let them: exchanged, another unit, a mirrored axis", "[placing]") {
    Random random(6);
    for (int k = 0; k < 40; ++k) {
        const Own own = anywhere(random);
        const auto good = marks_seen(some_places(random, 6), own, random, 0.5);
        CHECK(survey::place_by_marks(good, false)->doubt.empty());
        auto exchanged = good;
        std::swap(exchanged[1].seen, exchanged[4].seen);
        CHECK(survey::place_by_marks(exchanged, false)->doubt == "they agree when M2 and M5 are exchanged");
        auto inches = good;
        for (auto& mark : inches) mark.seen /= 25.4;
        CHECK(survey::place_by_marks(inches, false)->doubt.find("inches read as millimetres") != std::string::npos);
        CHECK(survey::place_by_marks(inches, true)->scale == Approx(25.4).epsilon(0.01));
        auto mirrored = good;
        for (auto& mark : mirrored) mark.seen.x() = -mark.seen.x();
        CHECK(survey::place_by_marks(mirrored, false)->doubt.find("mirror") != std::string::npos);
    }
}

TEST_CASE("two marks, or marks in a line, place nothing and say so", "[placing]") {
    Random random(7);
    const auto two = survey::place_by_marks(marks_seen(some_places(random, 2), Own{}, random, 0), false);
    REQUIRE(!two);
    CHECK(two.error().message.find("two are seen") != std::string::npos);
    const auto line = survey::place_by_marks(
        marks_seen({{0, 0, 0}, {1000, 10, 0}, {2000, 0, 5}, {3000, 0, 0}}, anywhere(random), random, 0), false);
    REQUIRE(!line);
    CHECK(line.error().message.find("in one line") != std::string::npos);
}

TEST_CASE("positions join the survey one after the other, whatever their order in the job", "[placing]") {
    Random random(8);
    Boat b(1);
    const auto places = some_places(random, 4);
    const Own first = anywhere(random), second = anywhere(random);
    const Vec3 spot(1200, 700, -100);
    // The second position sees three places that only readings of the first name, and comes before it in the job.
    const auto set_from = [&](const Own& own) {
        survey::ReadingSet set = survey::usual_set(School::direct);
        set.surface_id = "hull";
        set.own_frame.emplace();
        for (std::size_t k = 0; k < places.size(); ++k) {
            const Vec3 at = own.seen(places[k]);
            auto& r = set.readings.emplace_back();
            r.values = {at.x(), at.y(), at.z()};
            r.mark = "T" + std::to_string(k);
        }
        return set;
    };
    survey::ReadingSet later = set_from(second), sooner = set_from(first);
    const Vec3 seen = second.seen(spot);
    later.readings.emplace_back().values = {seen.x(), seen.y(), seen.z()};
    for (const auto& mark : b.job.marks)
        sooner.own_frame->marks.push_back({mark.name, first.seen(mark.position), std::nullopt, false});
    const std::string later_id = job::add_readings(b.job, later).id;
    const std::string sooner_id = job::add_readings(b.job, sooner).id;
    const auto placed = job::placed_set(b.job, later_id);
    REQUIRE(placed);
    const auto& at = placed->set.readings.back().values;
    CHECK((Vec3(at[0], at[1], at[2]) - spot).norm() < 1e-6);

    // Without the first neither is placed, nothing of them is on the hull, and each says why.
    for (auto& set : b.job.readings)
        if (set.id == sooner_id) set.own_frame->marks.resize(2);
    CHECK(!job::placed_set(b.job, later_id));
    const auto in_boat = job::readings_in_boat(b.job);
    REQUIRE(in_boat);
    CHECK((*in_boat)[in_boat->size() - 1].surface_id.empty());
    CHECK((*in_boat)[in_boat->size() - 2].surface_id.empty());
    job::Pipeline pipeline;
    const auto findings = review::review(b.job, pipeline.compute_pieces(b.job));
    REQUIRE(found(findings, review::CheckId::not_placed));
    CHECK(found(findings, review::CheckId::not_placed)->evidence.find("three marks") != std::string::npos);
}

TEST_CASE("a meter's position, a photo's plane and a scan lie where they were, by marks alone", "[placing]") {
    Random random(9);
    Boat b(2);
    const Own own = anywhere(random);
    const Vec3 spot(1400, 650, -250);
    const auto with_marks = [&](survey::ReadingSet set) {
        set.surface_id = "hull";
        set.own_frame.emplace();
        for (const auto& mark : b.job.marks)
            set.own_frame->marks.push_back({"", own.seen(mark.position), mark.position, false});
        return set;
    };
    const Vec3 seen = own.seen(spot);
    survey::ReadingSet meter = with_marks(survey::usual_set(School::laser_meter));
    meter.readings.emplace_back().values = {seen.norm(), std::atan2(seen.y(), seen.x()) * 180 / M_PI,
                                            std::asin(seen.z() / seen.norm()) * 180 / M_PI};
    survey::ReadingSet scan = with_marks(survey::usual_set(School::scan));
    scan.stood = Vec3::Zero();
    scan.readings.emplace_back().values = {seen.x(), seen.y(), seen.z()};
    for (const auto& set : {meter, scan}) {
        const std::string id = job::add_readings(b.job, set).id;
        const auto placed = job::placed_set(b.job, id);
        REQUIRE(placed);
        const auto at = survey::locate(placed->set, placed->set.readings[0]);
        CHECK((at->position - spot).norm() < 1e-6);
        if (set.stood) CHECK((*placed->set.stood - own.move).norm() < 1e-6);
    }
    // A photo's plane, its lengths a tenth too short.
    const Own flat{own.turn, own.move, 1.1};
    survey::ReadingSet photo = survey::usual_set(School::traced);
    photo.surface_id = "hull";
    photo.own_frame = survey::OwnFrame{{}, true, {}};
    for (const Vec3& at : {Vec3(0, 0, 0), Vec3(900, 0, 0), Vec3(0, 600, 0), Vec3(800, 500, 0)})
        photo.own_frame->marks.push_back({"", at, Vec3(1.1 * (flat.turn * at) + flat.move), false});
    photo.readings.emplace_back().values = {300, 200};
    const auto placed = job::placed_set(b.job, job::add_readings(b.job, photo).id);
    REQUIRE(placed);
    const auto at = survey::locate(placed->set, placed->set.readings[0]);
    CHECK((at->position - Vec3(1.1 * (flat.turn * Vec3(300, 200, 0)) + flat.move)).norm() < 1e-6);
    CHECK(at->sigma_mm == Approx(1.1 * photo.sigma_mm));
}

TEST_CASE("a job keeps its own frames, and a surface is the same in whatever frame it was read", "[placing]") {
    Random random(10);
    Boat b(3);
    const std::string id = b.scan(anywhere(random), 0).id;
    b.job.readings.back().own_frame->nudge =
        survey::Nudge{{Vec3(0, 0.001, 0), Vec3(1, 2, 3)}, {{Vec3(0.001, 0, 0), Vec3(4, 0, 0)}}};
    b.job.readings.back().own_frame->marks[1].disabled = true;
    b.job.readings.back().own_frame->marks[2].at = Vec3(1, 2, 3);
    const auto again = job::job_from_text(job::job_to_text(b.job));
    REQUIRE(again);
    CHECK(*again->readings.back().own_frame == *b.job.readings.back().own_frame);

    b.job.readings.back().own_frame->nudge.reset();
    b.job.readings.back().own_frame->marks[2].at.reset();
    job::Job plain = b.job;
    const auto placed = job::placed_set(b.job, id);
    REQUIRE(placed);
    static_cast<survey::ReadingSet&>(plain.readings.back()) = placed->set;
    job::Pipeline pipeline;
    const auto there = pipeline.compute_pieces(b.job), here = pipeline.compute_pieces(plain);
    REQUIRE(there.surface("hull")->fitted());
    for (const Vec3& p : {Vec3(800, 700, -200), Vec3(2000, 600, -350)})
        CHECK(std::abs(there.surface("hull")->fitted()->surface.distance_mm(p) -
                       here.surface("hull")->fitted()->surface.distance_mm(p)) < 1e-6);
}

TEST_CASE("marks that disagree are a finding that names the worst; good ones are none", "[placing]") {
    Random random(11);
    Boat b(4);
    b.scan(anywhere(random), 1.0);
    job::Pipeline pipeline;
    CHECK(!found(review::review(b.job, pipeline.compute_pieces(b.job)), review::CheckId::marks_disagree));
    b.job.readings.back().own_frame->marks[3].seen += Vec3(0, 0, 60);
    const auto findings = review::review(b.job, pipeline.compute_pieces(b.job));
    const auto* finding = found(findings, review::CheckId::marks_disagree);
    REQUIRE(finding);
    CHECK(finding->set_id == b.job.readings.back().id);
    CHECK(finding->evidence.starts_with("M4 lies"));
}

TEST_CASE("a set placed by poor marks is laid on the surface that the others make, hoses and all", "[placing]") {
    Random random(12);
    double worst_after = 0, sum_before = 0, sum_after = 0;
    const int runs = cases(30, 4);
    for (int k = 0; k < runs; ++k) {
        Boat b(static_cast<unsigned>(20 + k));
        const std::string id = b.scan(anywhere(random), 6.0, 4, k % 2 ? 0.1 : 0).id;
        const double before = b.off_truth(id);
        const auto by = job::alignment_of(b.job, id);
        REQUIRE(by);
        CHECK(by->after_mm <= by->before_mm + 1e-9);
        CHECK(by->ways == 6);
        auto& own = *b.job.readings.back().own_frame;
        own.nudge = job::nudged_on(own.nudge, *by);
        // With hoses the root mean square says nothing: only the clean ones are held against the truth.
        if (k % 2) {
            CHECK(by->used < by->over);
            CHECK(by->after_mm < 2.5);
            continue;
        }
        worst_after = std::max(worst_after, b.off_truth(id));
        sum_before += before, sum_after += b.off_truth(id);
        // Once laid on it, it stays: again there is next to nothing to gain.
        const auto twice = job::alignment_of(b.job, id);
        REQUIRE(twice);
        CHECK(twice->moved_mm < 0.5);
    }
    CHECK(worst_after < 2.2);
    CHECK(sum_after < 0.6 * sum_before);
}

TEST_CASE("a surface is no surer than the marks that placed its readings", "[placing]") {
    // All readings of a set lie 3 mm farther out: a surface of that set alone does too, and its band must say so.
    practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, 1});
    Random random(14);
    std::vector<survey::Point> points;
    for (const auto& spot : practice::random_spots(300, {300, -1.3}, {2700, 0.1}, random))
        points.push_back({boat.at(spot.x_mm, spot.angle), 1.0, 4, 0, Vec3::Zero()});
    hull::FitOptions options;
    const auto plain = hull::fit_surface(points, options);
    options.shared_errors = {{4, {Vec3::Zero(), Vec3(0, 3, 0)}},
                             {4, {Vec3(0.001, 0, 0), Vec3::Zero()}},
                             {5, {Vec3::Zero(), Vec3(0, 50, 0)}}};
    const auto open = hull::fit_surface(points, options);
    REQUIRE(plain);
    REQUIRE(open);
    for (const double x : {800.0, 1500.0, 2200.0})
        for (const double a : {-1.0, -0.6, -0.2}) {
            const Vec3 p = boat.at(x, a);
            const auto place = open->surface.locate(p);
            const Vec3 n = open->surface.fitted({place.s, place.v}).normal;
            const double added = std::hypot(3 * n.y(), n.dot(Vec3(0.001, 0, 0).cross(p)));
            const double was = plain->surface.sigma_mm({place.s, place.v});
            CHECK(open->surface.sigma_mm({place.s, place.v}) ==
                  Approx(std::hypot(was, added)).epsilon(0.06).margin(0.05));
            // What the readings say of the shape itself is not touched.
            CHECK(open->surface.height_m({place.s, place.v}) == plain->surface.height_m({place.s, place.v}));
        }

    // Scans alone, placed by poor marks: the true hull lies within the band as often as it says.
    int in = 0, all = 0;
    for (int k = 0; k < cases(60, 12); ++k) {
        Boat b(static_cast<unsigned>(60 + k));
        b.job.readings.clear();
        b.scan(anywhere(random), 4.0, 5);
        job::Pipeline pipeline;
        const auto results = pipeline.compute_pieces(b.job);
        const auto* fit = results.surface("hull")->fitted();
        REQUIRE(fit);
        for (const double x : {700.0, 1500.0, 2300.0})
            for (const double a : {-1.0, -0.5, -0.1}) {
                const auto place = fit->surface.locate(b.boat.at(x, a));
                const double off = b.boat.outside_mm(fit->surface.fitted({place.s, place.v}).position);
                ++all;
                in += std::abs(off) < 1.96 * fit->surface.sigma_mm({place.s, place.v});
            }
    }
    INFO(in << " of " << all);
    CHECK(in > 0.86 * all);
    CHECK(in < 0.995 * all);
}

TEST_CASE("what surface and marks do not tell stays, and too little to lay it on is said", "[placing]") {
    // Along a tube nothing tells where along it, and around it, a set lies.
    const auto& tube = jobs::tube_surface();
    std::vector<Vec3> points;
    for (double x = 600; x < 2400; x += 60)
        for (double a = -2.6; a < -0.5; a += 0.1)
            points.emplace_back(x, (jobs::tube_radius_mm + 9) * std::cos(a),
                                (jobs::tube_radius_mm + 9) * std::sin(a));
    const auto by = hull::align_to(tube, points, 1.0, {}, 500);
    REQUIRE(by);
    CHECK(by->ways < 6);
    CHECK(std::abs(by->move_mm.x()) < 1.0);
    const std::vector<Vec3> few(points.begin(), points.begin() + 20);
    CHECK(!hull::align_to(tube, few, 1.0, {}, 500));

    Random random(13);
    Boat b(5);
    const std::string id = b.scan(anywhere(random), 1.0).id;
    b.job.readings.erase(b.job.readings.begin(), b.job.readings.end() - 1);
    const auto alone = job::alignment_of(b.job, id);
    REQUIRE(!alone);
    CHECK(alone.error().message.find("nothing else was read") != std::string::npos);
    CHECK_THROWS_AS(job::alignment_of(Boat(6).job, "R1", [] { return false; }).ok() ||
                        hull::align_to(tube, points, 1, {}, 9, [] { return false; }).ok(),
                    Stopped);
}

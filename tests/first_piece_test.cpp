// The first piece of a survey of one side: it has an outline at once, inside the hull, known all along its edge.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "geometry/polygon.h"
#include "job/loose_piece.h"
#include "job/pipeline.h"
#include "job/starting_piece.h"
#include "practice/instruments.h"
#include "review/review.h"
#include "support/study.h"
#include "support/virtual_jobs.h"

namespace {

using namespace bevelsmith;
using job::StartingKind;
using practice::HullForm;

/// One side read at 3 to 6 stations, by ordinates from a plumb line or by a strip pattern.
struct Survey {
    practice::BoatSpec boat;
    double side = 1;
    int sets = 4;
    bool pattern = false, keel = false;
};

job::Job job_of(const Survey& s, unsigned seed) {
    const practice::VirtualBoat boat(s.boat);
    practice::Hand hand{1.5, 0, std::mt19937(seed)};
    job::Job job = job::empty_job();
    for (int k = 0; k < s.sets; ++k) {
        const double x = 500 + 1900.0 * k / (s.sets - 1);
        survey::ReadingSet set;
        if (s.pattern) {
            std::vector<double> angles;
            for (int i = 0; i < 12; ++i) {
                const double a = (s.keel ? -1.45 : -1.0) + i * ((s.keel ? 1.75 : 1.3) / 11);
                angles.push_back(s.side > 0 ? a : -M_PI - a);
            }
            set = practice::read_pattern(boat, x, angles, hand);
        } else {
            std::vector<double> stations;
            for (int i = 0; i < 11; ++i) stations.push_back(70.0 * i);
            set = practice::read_ordinates(boat, Vec3(x, s.side * 60, -520), Vec3::UnitZ(), s.side * Vec3::UnitY(),
                                           stations, hand);
        }
        set.surface_id = "hull";
        job::add_readings(job, set);
    }
    if (s.boat.form == HullForm::hard_chine) {
        auto chine = virtual_jobs::chine_of(boat, hand);
        for (auto& r : chine.readings) r.values[1] *= s.side;
        chine.surface_id = "hull";
        job::add_readings(job, chine);
    }
    return job;
}

Survey random_survey(int k, std::mt19937& random) {
    Survey out;
    out.boat.form = static_cast<HullForm>(k % 3);
    out.boat.seed = static_cast<unsigned>(random());
    out.side = random() % 2 ? 1 : -1;
    out.sets = 3 + static_cast<int>(random() % 4);
    out.pattern = random() % 2;
    // A chine has readings on both of its sides.
    out.keel = random() % 2 || out.boat.form == HullForm::hard_chine;
    return out;
}

/// The farthest that any corner of either face stands out of the true hull.
double farthest_out_mm(const piece::Outline& o, const practice::VirtualBoat& boat) {
    double out = -1e9;
    const auto frame_b = [&](const Vec2& q) { return Vec3(o.frame.to_space(q) + o.thickness_mm * o.frame.normal); };
    for (const Vec2& q : o.face_a.outer) out = std::max(out, boat.outside_mm(o.frame.to_space(q)));
    for (const Vec2& q : o.face_b.outer) out = std::max(out, boat.outside_mm(frame_b(q)));
    return out;
}

void check_first_piece(const Survey& s, const job::Job& surveyed, const job::Results& results, StartingKind kind) {
    job::Job job = surveyed;
    job.pieces.push_back(job::starting_piece(job, results, kind));
    INFO(job::starting_words(kind).name << " at " << job.pieces.back().plane.d_mm);
    job::Pipeline pipeline;
    const auto computed = pipeline.compute_pieces(job);
    const auto& piece = computed.pieces.back();
    REQUIRE(piece.outline);
    if (!piece.outline->ok()) FAIL(piece.outline->error().message);
    const auto& shape = *piece.shape();
    CHECK(shape.all_in_survey);
    CHECK(geometry::area_mm2(shape.face_a) > 20'000);
    CHECK(farthest_out_mm(shape, practice::VirtualBoat(s.boat)) < 12);
    const auto box = geometry::bounding_box(shape.face_a.outer);
    CHECK(job.pieces.back().grain_deg == (box.width() >= box.height() ? 0 : 90));
    for (const auto& f : review::review(job, computed)) {
        INFO(review::check_of(f.check).id << ": " << f.title << ": " << f.evidence);
        CHECK_FALSE(f.check == review::CheckId::outline);
        CHECK_FALSE(f.check == review::CheckId::wrong_side);
    }
}

}  // namespace

TEST_CASE("a first half-bulkhead, shelf and face have a sound outline on any survey of one side", "[first_piece]") {
    std::mt19937 random(10);
    for (int k = 0; k < cases(200, 12); ++k) {
        const Survey s = random_survey(k, random);
        const job::Job job = job_of(s, static_cast<unsigned>(k));
        INFO("case " << k << ": form " << k % 3 << ", side " << s.side << ", " << s.sets << " sets, pattern "
                     << s.pattern << ", from the keel " << s.keel << ", seed " << s.boat.seed);
        job::Pipeline pipeline;
        const auto results = pipeline.compute_pieces(job);
        REQUIRE(results.surfaces.front().fit);
        if (!results.surfaces.front().fitted()) FAIL(results.surfaces.front().fit->error().message);
        const auto offered = job::kinds_offered(job, results);
        CHECK(std::find(offered.begin(), offered.end(), StartingKind::bulkhead) == offered.end());
        for (StartingKind kind : {StartingKind::half_bulkhead, StartingKind::shelf, StartingKind::long_face})
            check_first_piece(s, job, results, kind);
    }
}

TEST_CASE("a full bulkhead is offered where both sides are known, and stands soundly", "[first_piece]") {
    Survey s;
    job::Job job = job_of(s, 1);
    s.side = -1;
    const auto other = job_of(s, 2);
    for (const auto& set : other.readings) job::add_readings(job, set);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    REQUIRE(results.surfaces.front().fitted());
    REQUIRE(job::kinds_offered(job, results).front() == StartingKind::bulkhead);
    for (StartingKind kind : job::kinds_offered(job, results))
        if (!job::is_loose(kind)) check_first_piece(s, job, results, kind);
}

TEST_CASE("without a surface a new piece is bounded by what was read", "[first_piece]") {
    const job::Job job = job::empty_job();
    for (int k = 0; k < job::starting_kind_count; ++k) {
        const auto piece = job::starting_piece(job, {}, static_cast<StartingKind>(k));
        if (job::is_loose(static_cast<StartingKind>(k))) continue;
        CHECK(piece.edges.size() >= 2);
        CHECK(piece.edges.front().kind == piece::EdgeKind::scribed);
    }
    CHECK(job::kinds_offered(job, {}).front() == StartingKind::half_bulkhead);
}

TEST_CASE("posts, brackets and wash boards are sound at once, with readings or without", "[first_piece]") {
    const Survey s;
    const job::Job surveyed = job_of(s, 3);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(surveyed);
    for (const bool read : {true, false})
        for (StartingKind kind : {StartingKind::corner_post, StartingKind::bracket, StartingKind::wash_board}) {
            job::Job job = read ? surveyed : job::empty_job();
            job.pieces.push_back(job::starting_piece(job, read ? results : job::Results{}, kind));
            const auto computed = pipeline.compute(job);
            INFO(job::starting_words(kind).name);
            REQUIRE(computed.pieces.back().shape());
            const auto box = geometry::bounding_box(computed.pieces.back().shape()->face_a.outer);
            if (kind == StartingKind::corner_post) {
                CHECK(box.width() == Approx(45));
                CHECK(box.height() == Approx(800));
            }
            if (kind == StartingKind::bracket) CHECK(job.pieces.back().copies == 4);
            if (kind == StartingKind::wash_board) CHECK(box.width() == Approx(job.boat.passage.width_mm));
        }
}

TEST_CASE("an added edge starts where the piece ends now", "[first_piece]") {
    const Survey s;
    job::Job job = job_of(s, 3);
    job::Pipeline pipeline;
    job.pieces.push_back(job::starting_piece(job, pipeline.compute_pieces(job), StartingKind::shelf));
    const auto computed = pipeline.compute_pieces(job);
    const auto box = geometry::bounding_box(computed.pieces[0].shape()->face_a.outer);
    CHECK(job::bounding_edge_mm(computed.pieces[0], {0, 1}) == Approx(box.max.y()));
    CHECK(job::bounding_edge_mm(computed.pieces[0], {-1, 0}) == Approx(-box.min.x()));
}

TEST_CASE("under a flare that is nearly upright below and lies out above, the first pieces close", "[first_piece]") {
    // Half breadths as a flared bow or a topside with much flare has them; starboard and port, in inches.
    int tried = 0;
    for (const double power : cases<double>({3.0, 1.6, 2.2}, 2))
        for (const double flare_mm : cases<double>({760, 500}, 1))
            for (const double side : {-1.0, 1.0}) {
                job::Job job = job::empty_job();
                job.unit = units::LengthUnit::inch;
                survey::ReadingSet set;
                set.school = survey::School::direct;
                set.surface_id = "hull";
                for (int i = 0; i < 13; ++i)
                    for (int k = 0; k < 9; ++k) {
                        const double x = 600 + 150.0 * i, z = 100 + 127.0 * k, t = k / 8.0;
                        const double y =
                            360 + flare_mm * std::pow(t, power) * (1 - 0.25 * i / 12) + 150 * (1 - i / 12.0);
                        set.readings.emplace_back().values = {x, side * y, z};
                    }
                job::add_readings(job, set);
                const auto results = job::Pipeline().compute(job);
                REQUIRE(results.surfaces.front().fitted());
                for (const auto kind : {StartingKind::half_bulkhead, StartingKind::shelf, StartingKind::long_face}) {
                    INFO("power " << power << " flare " << flare_mm << " side " << side << " kind "
                                  << static_cast<int>(kind));
                    job::Job with = job;
                    with.pieces.push_back(job::starting_piece(job, results, kind));
                    const auto again = job::Pipeline().compute(with);
                    const auto* shape = again.pieces.front().shape();
                    INFO((shape ? std::string() : again.pieces.front().outline->error().message));
                    REQUIRE(shape);
                    CHECK(shape->all_in_survey);
                    // On the inner side: every corner is nearer to the centre line than the hull is there.
                    for (const Vec2& corner : shape->face_a.outer) {
                        const Vec3 p = shape->frame.to_space(corner);
                        const double t = std::clamp((p.z() - 100) / 1016, 0.0, 1.0), i = (p.x() - 600) / 150;
                        const double hull =
                            360 + flare_mm * std::pow(t, power) * (1 - 0.25 * i / 12) + 150 * (1 - i / 12);
                        CHECK(side * p.y() < hull + 12);
                    }
                    ++tried;
                }
            }
    CHECK(tried == cases(36, 12));
}

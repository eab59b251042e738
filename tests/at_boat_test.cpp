// Setting out at the boat: lines on the hull and on the faces' planes, offsets, ties and diagonals.
#include <catch2/catch.hpp>

#include <cmath>

#include "job/in_full.h"
#include "job/reference.h"
#include "support/jobs.h"

using namespace bevelsmith;

namespace {

struct Set {
    job::Job job;
    job::Results results;
    const job::JobPiece& piece(const std::string& id) const { return *job::find_piece(job, id); }
    const piece::Outline& shape(const std::string& id) const { return *results.piece(id)->shape(); }
};

Set worked_out(const job::Job& job) {
    Set out{job::in_full(job), {}};
    job::Pipeline pipeline;
    out.results = pipeline.compute_pieces(out.job);
    pipeline.forecast(out.job, out.results);
    return out;
}

job::Job marked_tube() {
    job::Job job = jobs::tube_job();
    for (const Vec3& p : {Vec3(500, 900, -300), Vec3(500, -900, -300), Vec3(2500, 0, -900), Vec3(500, 0, -950)}) {
        job.marks.emplace_back();
        job.marks.back().id = "M" + std::to_string(job.marks.size());
        job.marks.back().name = "mark " + std::to_string(job.marks.size());
        job.marks.back().position = p;
    }
    return job;
}

}  // namespace

TEST_CASE("both faces' lines lie on the hull and on the faces' planes, with a gap or without", "[at_boat]") {
    for (const double gap : {0.0, 6.0})
        for (const double lean : {0.0, 0.25}) {
            job::Job job = marked_tube();
            auto& p = job.pieces[0];
            p.edges[0].gap_mm = gap;
            p.plane.normal = Vec3(std::cos(lean), 0, std::sin(lean));
            p.plane.d_mm = 1500 * std::cos(lean);
            p.edges[1].at_mm = -300;
            const Set all = worked_out(job);
            INFO((all.results.piece("B1")->outline->ok() ? "" : all.results.piece("B1")->outline->error().message));
            REQUIRE(all.results.piece("B1")->shape());
            const auto reference = job::reference_named(all.job, "M1,M2,M4", {1500, 0, -500});
            REQUIRE(reference.ok());
            const auto out =
                piece::at_boat(all.piece("B1"), all.shape("B1"), *reference, job::boat_marks(all.job), nullptr);
            const auto& frame = all.shape("B1").frame;
            int on_hull = 0;
            for (const auto& s : out.stations) {
                CHECK(std::abs(frame.normal.dot(s.a - frame.origin)) < 0.05);
                CHECK(std::abs(frame.normal.dot(s.b - frame.origin) - 18) < 0.05);
                if (s.edge_name != "hull") continue;
                ++on_hull;
                for (const Vec3& q : {s.a, s.b})
                    CHECK(std::hypot(q.y(), q.z()) == Approx(jobs::tube_radius_mm).margin(0.05));
                // The plane of the three marks stands at x = 500.
                CHECK(s.offset_a_mm == Approx(s.a.x() - 500).margin(1e-6));
                CHECK(s.offset_b_mm == Approx(s.b.x() - 500).margin(1e-6));
                CHECK(s.apart_mm >= 18 - 1e-6);
            }
            CHECK(on_hull > 10);
        }
}

TEST_CASE("ties and diagonals are tape lengths between places that are named", "[at_boat]") {
    const Set all = worked_out(marked_tube());
    const auto reference = job::reference_named(all.job, "M1, M2", {1500, 0, -500});
    REQUIRE(reference.ok());
    const auto out = piece::at_boat(all.piece("B1"), all.shape("B1"), *reference, job::boat_marks(all.job), nullptr);
    const auto station = [&](int number) { return out.stations[static_cast<std::size_t>(number) - 1]; };
    REQUIRE_FALSE(out.ties.empty());
    for (const auto& tie : out.ties) {
        const auto mark = std::find_if(all.job.marks.begin(), all.job.marks.end(),
                                       [&](const auto& m) { return m.id == tie.mark_id; });
        CHECK((mark->position - station(tie.station).a).norm() == Approx(tie.mm));
        CHECK(station(tie.station).is_corner);
    }
    REQUIRE_FALSE(out.diagonals.empty());
    for (const auto& d : out.diagonals) CHECK((station(d.from).a - station(d.to).a).norm() == Approx(d.mm));
    // The chord of the tube at z = -200.
    CHECK(out.diagonals.front().mm == Approx(2 * std::sqrt(1e6 - 200 * 200)).margin(0.5));
    // From a string athwart at x = 500, z = -300: Pythagoras.
    for (const auto& s : out.stations) {
        CHECK(s.offset_a_mm == Approx(std::hypot(s.a.x() - 500, s.a.z() + 300)).margin(1e-6));
        CHECK(s.string_a_mm == Approx(900 - s.a.y()).margin(1e-6));
    }
}

TEST_CASE("a bulkhead that stands is measured from its face that looks there", "[at_boat]") {
    job::Job job = marked_tube();
    job.pieces.push_back(job.pieces[0]);
    job.pieces[1].id = "OLD", job.pieces[1].name = "Old bulkhead", job.pieces[1].role = piece::Role::stays;
    job.pieces[1].plane.d_mm = 600, job.pieces[1].measured_mm = 22, job.pieces[1].covering_b_mm = 3;
    const Set all = worked_out(job);
    const auto from = job::reference_named(all.job, "OLD", {1500, 0, -500});
    REQUIRE(from.ok());
    CHECK(from->words == "face B of Old bulkhead");
    CHECK(from->offset_mm({1500, 0, 0}) == Approx(1500 - 600 - 22 - 3));
    CHECK(job::reference_named(all.job, "OLD", {100, 0, -500})->words == "face A of Old bulkhead");
    const auto choices = job::reference_choices(all.job, all.piece("B1"));
    REQUIRE_FALSE(choices.empty());
    CHECK(choices[0].text == "OLD");
    for (const auto& c : choices) CHECK(job::reference_named(all.job, c.text, {1500, 0, 0}).ok());
    for (const char* wrong : {"B9", "M1,M9", "M1", "M1,M1", "M1,M2,M3,M4", ""})
        CHECK_FALSE(job::reference_named(all.job, wrong, {0, 0, 0}).ok());
    auto row = all.job;
    row.marks[2].position = {500, 0, -300};
    CHECK(job::reference_named(row, "M1,M2,M3", {0, 0, 0}).error().message.find("in a row") != std::string::npos);
}

TEST_CASE("supports of a level panel are told at both ends, for a string between", "[at_boat]") {
    job::Job job = marked_tube();
    auto& p = job.pieces[0];
    p.plane = {-Vec3::UnitZ(), 400};
    p.kind = "sole panel";
    p.edges.resize(1);
    for (const double x : {800.0, 1600.0}) {
        p.edges.push_back({piece::EdgeKind::plane, x < 1000 ? "aft" : "fwd", {}});
        p.edges.back().plane = {x < 1000 ? Vec3(-Vec3::UnitX()) : Vec3(Vec3::UnitX()), x < 1000 ? -x : x};
    }
    const Set all = worked_out(job);
    const auto* bearing = all.results.piece("B1")->bearing.get();
    REQUIRE(bearing);
    REQUIRE_FALSE(bearing->lines.empty());
    const auto reference = job::reference_named(all.job, "M1,M2,M4", {1500, 0, -500});
    const auto out = piece::at_boat(all.piece("B1"), all.shape("B1"), *reference, job::boat_marks(all.job), bearing);
    REQUIRE(out.supports.size() == bearing->lines.size());
    for (const auto& s : out.supports) {
        CHECK(s.from.z() == Approx(-418));
        CHECK(s.offset_from_mm == Approx(s.from.x() - 500).margin(1e-6));
    }
}

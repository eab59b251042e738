// What a change takes away is told; what a finding offers mends it.
#include <catch2/catch.hpp>

#include "job/gone.h"
#include "job/job_file.h"
#include "piece/beam_ends.h"
#include "review/review.h"
#include "support/fitted_out.h"
#include "support/set_out.h"

using namespace bevelsmith;
using namespace fitted_out;

namespace {

const review::Finding* find(const std::vector<review::Finding>& findings, review::CheckId check) {
    const auto it = std::find_if(findings.begin(), findings.end(), [&](const auto& f) { return f.check == check; });
    return it == findings.end() ? nullptr : &*it;
}

std::vector<review::Finding> found(const job::Job& job) {
    const job::Job full = job::in_full(job);
    return review::review(full, job::Pipeline().compute(full));
}

/// A tube read on its port side only, and a shelf that is scribed to it there, drawn in to the centre line.
job::Job port_only() {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    for (auto& set : job.readings)
        std::erase_if(set.readings,
                      [&](const survey::Reading& r) { return survey::locate(set, r)->position.y() < -1; });
    job.surfaces[0].inside = Vec3(1500, 0, -100);
    job::JobPiece shelf;
    shelf.id = "S1", shelf.name = "Shelf";
    shelf.plane = {-Vec3::UnitZ(), 500};
    shelf.material_id = job.materials[0].id;
    shelf.at = Vec3(1500, 500, -500);
    piece::EdgeSpec hull;
    hull.name = "hull", hull.surface_id = job.surfaces[0].id;
    shelf.edges = {hull};
    for (const auto& [normal, d, name] :
         {std::tuple(Vec3(-Vec3::UnitX()), -800.0, "aft"), std::tuple(Vec3(Vec3::UnitX()), 2200.0, "fwd"),
          std::tuple(Vec3(-Vec3::UnitY()), -300.0, "front")}) {
        piece::EdgeSpec e;
        e.kind = piece::EdgeKind::plane, e.name = name, e.plane = {normal, d};
        shelf.edges.push_back(e);
    }
    job.pieces = {shelf};
    return job;
}

}  // namespace

TEST_CASE("a piece set up where nobody has read the hull says so, and starts with the mirrored readings",
          "[mending]") {
    job::Job job = port_only();
    REQUIRE(job::Pipeline().compute(job).pieces[0].shape());
    CHECK(job::unread_side(job, job.pieces[0]).empty());
    const std::string other = job::mirror_piece(job, "S1");
    CHECK(job::unread_side(job, *job::find_piece(job, other)) == "hull");
    auto findings = found(job);
    const auto* finding = find(findings, review::CheckId::other_side_unread);
    REQUIRE(finding);
    CHECK(finding->piece_id == other);
    CHECK(find(findings, review::CheckId::outline) == nullptr);
    REQUIRE(finding->mendings.size() == 1);
    const job::Mending start = finding->mendings[0];
    CHECK(job::words(start, job) == "Start with the other side mirrored");
    REQUIRE(job::mend(job, start));
    // It is the other's mirror image, and what is known of it is said, with spots to check.
    const auto results = job::Pipeline().compute(job);
    REQUIRE(results.piece(other)->shape());
    CHECK(geometry::area_mm2(results.piece(other)->shape()->face_a) ==
          Approx(geometry::area_mm2(results.piece("S1")->shape()->face_a)).epsilon(2e-3));
    set_out::check_all(job, results);
    findings = found(job);
    CHECK_FALSE(find(findings, review::CheckId::other_side_unread));
    const auto* mirrored = find(findings, review::CheckId::mirrored_unchecked);
    REQUIRE(mirrored);
    CHECK(mirrored->evidence.find("to starboard") != std::string::npos);
    CHECK(std::count(mirrored->evidence.begin(), mirrored->evidence.end(), ';') == 4);
    // A second piece there shares the surface; check readings end the finding.
    job::Job twice = job;
    REQUIRE(job::mend(twice, start));
    CHECK(twice.surfaces.size() == job.surfaces.size());
    survey::ReadingSet check = survey::usual_set(survey::School::direct);
    check.surface_id = job.surfaces.back().id;
    check.readings.emplace_back().values = {1500, -std::sqrt(1000.0 * 1000 - 500 * 500), -500};
    job::add_readings(job, check);
    CHECK_FALSE(find(found(job), review::CheckId::mirrored_unchecked));
    CHECK_FALSE(job::mend(job, {job::Mending::Kind::mirrored_start, "none", "hull"}));
}

TEST_CASE("where two want the same place the one that reaches over may stop at the other", "[mending]") {
    job::Job job = port_only();
    for (const auto& [id, x] : {std::pair("B8", 1000.0), std::pair("B9", 2100.0)}) {
        job::JobPiece b = job.pieces[0];
        b.id = b.name = id;
        b.plane = {Vec3::UnitX(), x};
        b.at.reset();
        b.edges.resize(1);
        piece::EdgeSpec top, side;
        top.kind = side.kind = piece::EdgeKind::plane;
        top.plane = {Vec3::UnitZ(), -100}, side.plane = {-Vec3::UnitY(), -100};
        b.edges.push_back(top), b.edges.push_back(side);
        job.pieces.push_back(b);
    }
    // The shelf runs from 800 to 2200: 200 mm beyond one, 100 beyond the other.
    int clashes = 0;
    for (int round = 0; round < 3; ++round) {
        const auto findings = found(job);
        const auto* clash = find(findings, review::CheckId::reaches_into_another);
        if (!clash) break;
        ++clashes;
        const auto mending = std::find_if(clash->mendings.begin(), clash->mendings.end(),
                                          [](const auto& m) { return m.piece_id == "S1"; });
        REQUIRE(mending != clash->mendings.end());
        CHECK(mending->kind == job::Mending::Kind::stop_at);
        CHECK(job::words(*mending, job) == "Let Shelf stop at " + mending->other);
        REQUIRE(job::mend(job, *mending));
    }
    CHECK(clashes == 2);
    const auto results = job::Pipeline().compute(job);
    const auto* shape = results.piece("S1")->shape();
    REQUIRE(shape);
    set_out::check_all(job, results);
    const auto box = geometry::bounding_box(shape->face_a.outer);
    CHECK(box.width() + box.height() == Approx(2100 - 1018 + (std::sqrt(1000.0 * 1000 - 500 * 500) - 300)).margin(3));
    CHECK(job::job_from_text(job::job_to_text(job)).value() == job);
}

TEST_CASE("a panel that a moved bulkhead leaves no place for is told, and that it was cut", "[mending]") {
    job::Job job = fitted(UnitKind::settee);
    const job::Job before = job::in_full(job);
    REQUIRE(job::find_piece(before, "U1.divider 1"));
    job::find_plain_piece(job, "B2")->plane.d_mm = 1350;
    const auto gone = job::gone_pieces(before, job::in_full(job));
    REQUIRE(gone.size() >= 1);
    const auto divider = std::find_if(gone.begin(), gone.end(), [](const auto& g) { return g.id == "U1.divider 1"; });
    REQUIRE(divider != gone.end());
    CHECK_FALSE(divider->cut);
    // Taken out by its own numbers it is the person's doing; once cut it is told all the same, and by the review.
    job::Job fewer = fitted(UnitKind::settee);
    fewer.units[0].dividers_mm.clear();
    CHECK(job::gone_pieces(before, job::in_full(fewer)).empty());
    job::CutSheet sheet;
    sheet.id = "C1", sheet.material_id = "ply18", sheet.name = "sheet";
    sheet.parts.push_back(
        {"U1.divider 1", "Divider 1", 0, 0, 0, false, {geometry::rectangle({{0, 0}, {100, 100}}), {}}});
    job::Job cut = fitted(UnitKind::settee);
    cut.cut_sheets.push_back(sheet);
    fewer.cut_sheets.push_back(sheet);
    CHECK_FALSE(find(found(cut), review::CheckId::cut_and_gone));
    const auto told = job::gone_pieces(job::in_full(cut), job::in_full(fewer));
    REQUIRE(told.size() == 1);
    CHECK(told[0].cut);
    REQUIRE(find(found(fewer), review::CheckId::cut_and_gone));
    CHECK(find(found(fewer), review::CheckId::cut_and_gone)->title == "Divider 1 is cut, and is part of nothing now");
}

TEST_CASE("a beam's end that rests on nothing is found; hull, bulkhead and bearer carry it", "[mending]") {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job::JobPiece beam = job.pieces[0];
    beam.id = "BM", beam.name = "Beam", beam.kind = "sole beam";
    beam.plane = {Vec3::UnitX(), 1500};
    const auto level = [](const Vec3& normal, double d, const char* name) {
        piece::EdgeSpec e;
        e.kind = piece::EdgeKind::plane, e.plane = {normal, d}, e.name = name;
        return e;
    };
    beam.edges.resize(1);
    beam.edges.push_back(level(Vec3::UnitZ(), -500, "top"));
    beam.edges.push_back(level(-Vec3::UnitZ(), 620, "under side"));
    job.pieces = {beam};
    CHECK_FALSE(find(found(job), review::CheckId::beam_end_in_air));
    // Cut short at 200 mm to starboard: that end hangs.
    job.pieces[0].edges.push_back(level(-Vec3::UnitY(), 200, "end"));
    const auto findings = found(job);
    const auto* hangs = find(findings, review::CheckId::beam_end_in_air);
    REQUIRE(hangs);
    CHECK(hangs->title == "Beam rests on nothing at its end to starboard");
    CHECK(hangs->severity == review::Severity::stop);
    // A bearer under it, and a panel that it ends at, both carry.
    for (const bool under : {true, false}) {
        job::Job held = job;
        job::JobPiece bearer = beam;
        bearer.id = "BR", bearer.name = "Bearer", bearer.kind = "bulkhead";
        bearer.plane = {Vec3::UnitY(), under ? -190.0 : -221.0};
        bearer.edges.resize(1);
        bearer.edges.push_back(level(Vec3::UnitZ(), under ? -622 : -300, "top"));
        bearer.edges.push_back(level(Vec3::UnitX(), 1800, "fwd"));
        bearer.edges.push_back(level(-Vec3::UnitX(), -1200, "aft"));
        held.pieces.push_back(bearer);
        INFO(under);
        CHECK_FALSE(find(found(held), review::CheckId::beam_end_in_air));
    }
}

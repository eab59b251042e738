// The checks: each finds the mistake it is for, with figures, and is content where there is none.
#include <catch2/catch.hpp>

#include <algorithm>
#include <random>
#include <set>

#include "practice/boat.h"
#include "review/review.h"
#include "support/jobs.h"
#include "support/practice_jobs.h"
#include "support/straight_bottoms.h"
#include "survey/instruments.h"

using namespace bevelsmith;
using namespace bevelsmith::review;

namespace {

std::vector<Finding> found(const job::Job& job) {
    return review::review(job, job::Pipeline().compute(job));
}

const Finding* find(const std::vector<Finding>& findings, CheckId check) {
    const auto it =
        std::find_if(findings.begin(), findings.end(), [&](const Finding& f) { return f.check == check; });
    return it == findings.end() ? nullptr : &*it;
}

/// A job in which all checks are content: a low, tabbed bulkhead with a limber notch.
job::Job sound_job() {
    auto job = jobs::tube_job();
    auto& piece = job.pieces[0];
    piece.edges[1].at_mm = -500;
    piece.structural = true;
    piece.limbers.push_back({});
    piece.openings.push_back({"hatch", -150, -850, 300, 250, 60});
    job.boat.passage = {700, 1800};
    return job;
}

void check_words(const Finding& f) {
    CHECK(f.severity <= check_of(f.check).worst);
    CHECK_FALSE(f.title.empty());
    CHECK_FALSE(f.evidence.empty());
    CHECK_FALSE(f.advice.empty());
}

}  // namespace

TEST_CASE("a sound job has no findings", "[review]") {
    const auto findings = found(sound_job());
    for (const auto& f : findings) UNSCOPED_INFO(check_of(f.check).id << ": " << f.evidence);
    CHECK(findings.empty());
}

TEST_CASE("a check is one record: its id, what it looks at, where it is mended; old files mean it by its words",
          "[review]") {
    std::set<std::string_view> ids;
    for (const Check& check : checks()) {
        CHECK(ids.insert(check.id).second);
        CHECK(check.id.find_first_not_of("abcdefghijklmnopqrstuvwxyz-") == std::string_view::npos);
        CHECK_FALSE(check.title.empty());
        CHECK(is_named(check, check.id));
    }
    CHECK(is_named(check_of(CheckId::in_the_way), "in the way"));
    CHECK_FALSE(is_named(check_of(CheckId::in_the_way), "in the"));
    CHECK(check_of(CheckId::chine_not_entered).step == MendedIn::shape);
    CHECK(severity_word(Severity::stop) == "stop");
    CHECK(jobs::read(std::string(BEVELSMITH_SOURCE_DIR) + "/docs/checks.md") == table_of_checks());
}

TEST_CASE("passage: a part that does not pass into the boat", "[review]") {
    auto job = sound_job();
    job.pieces[0].split_for_passage = false;
    job.boat.passage = {300, 350};
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::passage);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    CHECK(f->piece_id == "B1");
    CHECK(f->evidence.find("300 x 350") != std::string::npos);
    check_words(*f);
}

TEST_CASE("thin laminate: blocks too shallow for any stocked screw", "[review]") {
    auto job = sound_job();
    job.pieces[0].structural = false;
    job.pieces[0].removable = true;
    CHECK_FALSE(find(found(job), CheckId::thin_laminate_screws));
    job.fixing_rules.block_depth_mm = 4;
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::thin_laminate_screws);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    check_words(*f);
    job.boat.shell.laminate_mm = 20;
    CHECK(find(found(job), CheckId::screw_through));
}

TEST_CASE("blocks under a structural piece", "[review]") {
    auto job = sound_job();
    job.pieces[0].fixing = fixing::Method::bonded_blocks;
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::structural_on_blocks);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    check_words(*f);
    job.pieces[0].structural = false;
    CHECK_FALSE(find(found(job), CheckId::structural_on_blocks));
}

TEST_CASE("screw through: less than three millimetres behind the point", "[review]") {
    auto job = sound_job();
    job.pieces[0].structural = false;
    job.pieces[0].removable = true;
    job.fixing_rules.least_clearance_mm = 0;
    job.fixing_rules.block_depth_mm = 22;  // 18 + 22 = 40: a stocked length that ends at the block's back
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::screw_through);
    REQUIRE(f);
    CHECK(f->evidence.find("0.0 mm") != std::string::npos);
    check_words(*f);
    job.fixing_rules.least_clearance_mm = 3;
    CHECK_FALSE(find(found(job), CheckId::screw_through));
}

TEST_CASE("missing limber notch where the edge runs through the low point", "[review]") {
    auto job = sound_job();
    job.pieces[0].limbers.clear();
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::no_limber);
    REQUIRE(f);
    CHECK(f->severity == Severity::mind);
    check_words(*f);
    // A piece that ends above the low point dams nothing.
    job.pieces[0].edges.push_back({piece::EdgeKind::straight, "inboard", {}, {1, 0}, -500, 0, 0});
    job.pieces[0].openings.clear();
    CHECK_FALSE(find(found(job), CheckId::no_limber));
}

TEST_CASE("readings too sparse for the fit that is wanted", "[review]") {
    auto job = sound_job();
    job.pieces[0].wanted_fit_mm = 0.3;
    int k = 0;
    for (auto& set : job.readings) {
        set.sigma_mm = 3;
        for (auto& r : set.readings)
            for (double& value : r.values) value *= 1 + 0.003 * ((k++ * 7919) % 11 - 5) / 5.0;
    }
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::readings_too_sparse);
    REQUIRE(f);
    CHECK(f->evidence.find("wanted 0.3 mm") != std::string::npos);
    check_words(*f);
}

TEST_CASE("an edge that runs out of the readings", "[review]") {
    auto job = sound_job();
    // Beyond the last station: still within the fitted domain, but nothing surrounds it.
    job.pieces[0].plane.d_mm = 3040;
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::readings_too_sparse);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    CHECK(f->title.find("outside") != std::string::npos);
}

TEST_CASE("sheet too small for a part", "[review]") {
    auto job = sound_job();
    job.materials[0].sheet_width_mm = 1000;
    job.materials[0].sheet_height_mm = 400;
    job.pieces[0].split_for_passage = false;
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::sheet_too_small);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    CHECK(f->piece_id == "B1");
    check_words(*f);
}

TEST_CASE("opening corners: under 12 mm no cloth turns, under 50 a crack starts", "[review]") {
    auto job = sound_job();
    const auto severity = [&](double radius, bool structural) -> std::optional<Severity> {
        job.pieces[0].openings[0].radius_mm = radius;
        job.pieces[0].structural = structural;
        const auto findings = found(job);
        const auto* f = find(findings, CheckId::sharp_opening);
        if (!f) return std::nullopt;
        check_words(*f);
        return f->severity;
    };
    CHECK(severity(5, true) == Severity::stop);
    CHECK(severity(30, true) == Severity::mind);
    CHECK(severity(30, false) == Severity::note);
    CHECK_FALSE(severity(50, true));
}

TEST_CASE("a surface that cannot be fitted and a piece without an outline are found", "[review]") {
    auto job = sound_job();
    job.readings.resize(2);
    const auto findings = found(job);
    CHECK(find(findings, CheckId::surface));
    CHECK(find(findings, CheckId::outline));
}

TEST_CASE("suspect readings are named with their set, their number and by how much they are off", "[review]") {
    auto job = sound_job();
    job.readings[2].readings[9].values[1] -= 40;
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::suspect_readings);
    REQUIRE(f);
    CHECK(f->evidence.find("R3 reading 10 (") != std::string::npos);
    check_words(*f);
}

TEST_CASE("strays of a scan are noted as what stands before the hull, and nobody's slips", "[review]") {
    const auto findings = found(practice_jobs::scanned(false, 200));
    const auto* f = find(findings, CheckId::suspect_readings);
    REQUIRE(f);
    CHECK(f->severity == Severity::note);
    CHECK(f->title.find("of 2200 scanned points do not lie on") != std::string::npos);
    CHECK(f->evidence.find("reading 1") == std::string::npos);
    check_words(*f);
    CHECK_FALSE(find(found(practice_jobs::scanned(false, 0)), CheckId::suspect_readings));
    // So many are no hose: something is wrong with the surface.
    const auto many = found(practice_jobs::scanned(false, 600));
    REQUIRE(find(many, CheckId::suspect_readings));
    CHECK(find(many, CheckId::suspect_readings)->severity == Severity::mind);
}

TEST_CASE("what is set aside keeps its reason and goes to the end", "[review]") {
    auto job = sound_job();
    job.pieces[0].limbers.clear();
    job.pieces[0].openings[0].radius_mm = 5;
    job.set_aside.push_back({"opening corner too sharp", "B1", "a moulding covers it", {}, {}});
    const auto findings = found(job);
    REQUIRE(findings.size() == 2);
    CHECK(findings[0].check == CheckId::no_limber);
    CHECK(findings[1].set_aside);
    CHECK(findings[1].reason == "a moulding covers it");
}

TEST_CASE("one finding set aside leaves its like alone, and stays set aside when its figures change", "[review]") {
    auto job = sound_job();
    job.pieces[0].limbers.clear();
    const auto before = found(job);
    const auto* limber = find(before, CheckId::no_limber);
    REQUIRE(limber);
    CHECK_FALSE(limber->about.empty());
    CHECK(limber->about.find_first_of("0123456789") == std::string::npos);
    job.set_aside.push_back(
        {std::string(check_of(limber->check).id), limber->piece_id, "dry there", limber->about, {}});
    CHECK(find(found(job), CheckId::no_limber)->set_aside);
    // Another of the same check and piece is another finding.
    job.set_aside.back().about = "something else";
    CHECK_FALSE(find(found(job), CheckId::no_limber)->set_aside);
    // As files of before have it, of no one in particular.
    job.set_aside.back().about.clear();
    CHECK(find(found(job), CheckId::no_limber)->set_aside);
}

TEST_CASE("findings stand worst first", "[review]") {
    auto job = sound_job();
    job.pieces[0].limbers.clear();
    job.pieces[0].openings[0].radius_mm = 5;
    const auto findings = found(job);
    for (std::size_t i = 1; i < findings.size(); ++i) CHECK(findings[i - 1].severity >= findings[i].severity);
}

TEST_CASE("a mirrored reading that does not fit is named as what it is", "[review]") {
    auto job = sound_job();
    job.surfaces.push_back(job.surfaces[0]);
    job.surfaces[1].id = "twin";
    job.readings[2].readings[5].values[1] -= 120;  // across the whole job a single gross slip
    job::JobReadingSet mirrored;
    static_cast<survey::ReadingSet&>(mirrored) = survey::usual_set(survey::School::mirrored);
    mirrored.id = "M";
    mirrored.surface_id = "twin";
    mirrored.mirror_of = "hull";
    mirrored.sigma_mm = 1;
    job.readings.push_back(mirrored);
    bool named = false;
    for (const auto& f : found(job)) {
        named = named || f.evidence.find("M a mirrored reading of hull") != std::string::npos;
        CHECK(f.evidence.find("reading 0") == std::string::npos);
    }
    CHECK(named);
}

TEST_CASE("chine not entered: a hull with a corner that nobody said is a chine", "[review]") {
    job::Job job = practice_jobs::unsaid_chine();
    const auto findings = found(job);
    // Fitted as smooth it leaves good readings out beside the chine; nobody is told that these are wrong.
    CHECK_FALSE(find(findings, CheckId::suspect_readings));
    REQUIRE(find(findings, CheckId::chine_not_entered));
    CHECK(find(findings, CheckId::chine_not_entered)->evidence.find("as a smooth surface the readings leave") !=
          std::string::npos);
    // Said to be one, it is no longer missing.
    const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, 41});
    job::JobReadingSet chine;
    static_cast<survey::ReadingSet&>(chine) = survey::usual_set(survey::School::direct);
    chine.id = "R2";
    chine.surface_id = "hull";
    chine.hard_line = true;
    for (double x = 100; x < 2950; x += 350) {
        const Vec3 p = boat.chine(x);
        chine.readings.emplace_back().values = {p.x(), p.y(), p.z()};
    }
    job.readings.push_back(chine);
    CHECK_FALSE(find(found(job), CheckId::chine_not_entered));
}

TEST_CASE("readings scatter: no surface goes through them, and a hand only somewhat worse than it said is no finding",
          "[review]") {
    job::Job job = jobs::tube_job();
    CHECK_FALSE(find(found(job), CheckId::readings_scatter));
    const auto with_sigma = [&](double sigma_mm) {
        for (auto& set : job.readings) set.sigma_mm = sigma_mm;
        return found(job);
    };
    std::mt19937 random(3);
    std::normal_distribution<double> off(0, 3);
    for (auto& set : job.readings)
        for (auto& reading : set.readings) reading.values[1] += off(random);
    CHECK_FALSE(find(with_sigma(2), CheckId::readings_scatter));
    const auto findings = with_sigma(0.2);
    REQUIRE(find(findings, CheckId::readings_scatter));
    CHECK(find(findings, CheckId::readings_scatter)->title.find("times as much as was said") != std::string::npos);
}

TEST_CASE("keel unread: a bottom read on both sides that bends between its readings", "[review]") {
    job::Job job = jobs::tube_job();
    job.pieces.clear();
    auto set = job.readings.front();
    job.readings.clear();
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::direct);
    set.id = "R1", set.surface_id = job.surfaces.front().id;
    for (const auto& p : straight_bottoms(4))
        set.readings.emplace_back().values = {p.position.x(), p.position.y(), p.position.z()};
    job.readings.push_back(set);
    for (const double side : {1.0, -1.0}) {
        set.id += "c", set.hard_line = true;
        set.readings.clear();
        for (double x = 1200; x <= 3600; x += 240) {
            const Vec3 p = StraightBottoms::bottom(x, side, 1);
            set.readings.emplace_back().values = {p.x(), p.y(), p.z()};
        }
        job.readings.push_back(set);
    }
    const auto findings = found(job);
    REQUIRE(find(findings, CheckId::keel_unread));
    CHECK(find(findings, CheckId::keel_unread)->evidence.find("mm below the surface") != std::string::npos);
    job.surfaces.front().part = hull::SurfacePart::sole;
    CHECK_FALSE(find(found(job), CheckId::keel_unread));
}

TEST_CASE("sides unequal: check readings that lie off the mirrored side", "[review]") {
    for (double lopsided : {0.0, 20.0}) {
        INFO("lopsided by " << lopsided);
        CHECK((find(found(practice_jobs::two_sides(lopsided)), CheckId::sides_unequal) != nullptr) == (lopsided > 0));
    }
}

TEST_CASE("on the wrong side: a piece beyond the hull is a stop, and so is a hull read from outboard", "[review]") {
    const auto sound = sound_job();
    for (const auto& f : found(sound)) CHECK_FALSE(f.check == CheckId::wrong_side);
    auto turned = sound;
    const auto results = job::Pipeline().compute_pieces(sound);
    const auto& hull = results.surfaces.front();
    turned.surfaces.front().inside = hull::point_beyond(hull.fitted()->surface, hull.points);
    // Said to be outside by a person, the piece is whatever is left there: it may have no outline, never "all clear".
    bool stopped = false;
    for (const auto& f : found(turned)) stopped = stopped || f.severity == Severity::stop;
    CHECK(stopped);
}

TEST_CASE("a hull whose lines stood outboard of it is a stop", "[review]") {
    job::Job job = job::empty_job();
    for (int k = 0; k < 4; ++k) {
        survey::ReadingSet set = survey::usual_set(survey::School::ordinates);
        set.surface_id = "hull";
        // Lines 1500 off the centre, read back towards it.
        set.origin = Vec3(1000 + 400 * k, 1500, 0);
        set.toward = -Vec3::UnitY();
        for (int i = 0; i < 6; ++i) set.readings.emplace_back().values = {150.0 * i, 700.0 - 3 * i * i - 5 * k};
        job::add_readings(job, set);
    }
    const auto findings = found(job);
    const auto* f = find(findings, CheckId::inside);
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    CHECK(f->title.find("outboard") != std::string::npos);
}

// The examples that ship: everything in them is built, nothing is in the air or in anything else, and they say few
// things, each on purpose.
#include <catch2/catch.hpp>

#include <map>
#include <set>

#include "job/in_full.h"
#include "job/pipeline.h"
#include "review/review.h"
#include "support/jobs.h"
#include "support/solids.h"

using namespace bevelsmith;

namespace {

struct Shown {
    job::Job full;
    job::Results results;
    std::vector<review::Finding> findings;
};

/// Everything but the sheets, which are another step's.
Shown shown(const std::string& name) {
    Shown out{job::in_full(jobs::demo(name)), {}, {}};
    job::Pipeline pipeline;
    out.results = pipeline.compute_pieces(out.full);
    pipeline.forecast(out.full, out.results);
    out.findings = review::review(out.full, out.results);
    return out;
}

void check_built(const Shown& s) {
    CHECK(s.results.faults.empty());
    for (const auto& p : s.results.pieces) {
        INFO(p.id << (p.outline && !p.outline->ok() ? ": " + p.outline->error().message : std::string()));
        CHECK(p.shape());
    }
    for (const auto& f : s.findings) {
        INFO(f.piece_id << ": " << f.title << ": " << f.evidence);
        CHECK(f.severity != review::Severity::stop);
    }
    solids::check_no_overlap(s.results, 0.01);
}

std::multiset<std::string> checks_of(const Shown& s) {
    std::multiset<std::string> out;
    for (const auto& f : s.findings) out.insert(std::string(review::check_of(f.check).id));
    return out;
}

}  // namespace

TEST_CASE("Ternlight is a whole fit-out, and says only that two readings are wrong", "[demo]") {
    const Shown s = shown("ternlight");
    check_built(s);
    CHECK(s.full.units.size() >= 8);
    CHECK(s.full.pieces.size() >= 45);
    std::set<std::string> kinds;
    for (const auto& p : s.full.pieces) kinds.insert(p.kind);
    CHECK(kinds.size() >= 14);
    std::set<hull::SurfacePart> parts;
    for (const auto& surface : s.full.surfaces) parts.insert(surface.part);
    CHECK(parts == std::set{hull::SurfacePart::hull, hull::SurfacePart::deckhead, hull::SurfacePart::transom});
    CHECK(checks_of(s) == std::multiset<std::string>{"suspect-readings", "trial-pattern-advised"});
    // What stands in the way has been cut around, and two dividers are halved into each other.
    std::map<piece::EdgeSource, int> cut;
    for (const auto& p : s.results.pieces)
        for (const auto& e : p.shape()->edges_a) ++cut[e.source];
    CHECK(cut[piece::EdgeSource::obstacle] > 10);
    CHECK(cut[piece::EdgeSource::crossing] >= 2);
    // Everything level is carried.
    for (const auto& p : s.results.pieces)
        if (p.bearing) CHECK_FALSE(p.bearing->lines.empty());
    for (const auto& unit : s.results.units)
        for (const auto& room : unit.room) {
            INFO(unit.id << " " << room.name << " " << room.mm);
            CHECK(room.enough());
            // Over a half-bulkhead there is more air, and no more seat.
            if (unit.id == "U2" && room.name.find("width at the") == 0)
                CHECK(room.mm <=
                      geometry::bounding_box(s.results.piece("U2.top")->shape()->face_a.outer).height() + 2);
        }
}

TEST_CASE("the ketch's forecabin, read in inches, is built around her frames", "[demo]") {
    const Shown s = shown("ketch");
    check_built(s);
    CHECK(units::in_inches(s.full.unit));
    CHECK(s.full.boat.shell.construction == fixing::Construction::timber);
    CHECK(s.findings.empty());
}

TEST_CASE("the workboat's wheelhouse is built around her frames, over her insulation", "[demo]") {
    const Shown s = shown("workboat");
    check_built(s);
    CHECK(s.full.boat.shell.construction == fixing::Construction::metal);
    CHECK(s.full.surfaces[0].layers.size() == 1);
    CHECK(checks_of(s) == std::multiset<std::string>{"meets-nothing"});
}

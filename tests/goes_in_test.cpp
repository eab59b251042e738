// It goes in: pieces cut as the program says, offered up with their bevels in the true hull.
//
// The gap that is asked for is three times the edge's standard deviation, as a fitter would leave it who knows that.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "furniture/unit.h"
#include "job/in_full.h"
#include "job/pipeline.h"
#include "practice/boat.h"
#include "support/study.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;

namespace {

/// A virtual boat's port side, read; its fit with lumps taken into account.
struct Read {
    virtual_jobs::VirtualJob job;
    hull::Surface surface;
};

std::optional<Read> read(int number) {
    auto job = virtual_jobs::numbered(number, 0);
    auto fit = hull::fit_surface(job.points, job.options);
    if (!fit) return std::nullopt;
    return Read{std::move(job), fit->surface};
}

piece::EdgeSpec at_plane(const Vec3& normal, double d) {
    piece::EdgeSpec e;
    e.kind = piece::EdgeKind::plane, e.name = "end", e.plane = {normal, d};
    return e;
}

piece::EdgeSpec scribed(double gap_mm) {
    piece::EdgeSpec e;
    e.name = e.surface_id = "hull";
    e.gap_mm = gap_mm;
    return e;
}

/// Both faces' scribed edges at each mark, as places of the boat.
template <class Use>
void along_edges(const piece::Outline& o, Use use) {
    for (const auto& m : o.marks) {
        if (!m.kept || !m.in_survey) continue;
        use(m, o.frame.to_space(m.a));
        use(m, o.frame.to_space(m.b) + o.thickness_mm * o.frame.normal);
    }
}

struct Tally {
    int pieces = 0, without_overlap = 0;
    double edge = 0, within_band = 0;
    std::vector<std::string> refused{};
};

/// Cut once with no gap to know the edge, then with three times its standard deviation.
void offer_up(Tally& tally, const Read& r, piece::PieceSpec spec, double thickness_mm) {
    const auto lookup = [&](const std::string&) { return &r.surface; };
    const auto first = piece::compute_outline(spec, thickness_mm, lookup, {5000, 5000});
    if (!first || first->edge_length_mm < 100) {
        tally.refused.push_back(first ? "no edge" : first.error().message);
        return;
    }
    const double gap = 3 * first->largest_sigma_mm;
    for (auto& e : spec.edges)
        if (e.kind == piece::EdgeKind::scribed) e.gap_mm = gap;
    const auto cut = piece::compute_outline(spec, thickness_mm, lookup, {5000, 5000});
    if (!cut) {
        tally.refused.push_back(cut.error().message);
        return;
    }
    ++tally.pieces;
    bool clear = true;
    along_edges(*cut, [&](const piece::EdgeMark& m, const Vec3& p) {
        const double outside = r.job.boat.outside_mm(p);
        clear = clear && outside <= m.sigma_mm;
        tally.edge += 1;
        // The gap square to the hull, against the one asked for, in the edge's own 95 % band.
        tally.within_band += std::abs(-outside - gap) <= 1.96 * m.sigma_mm;
    });
    tally.without_overlap += clear;
}

/// Offers a piece up to each of the read hulls: `made` says it, with chances in 0..1 of its own.
template <class Make>
Tally offer_each(unsigned seed, const Make& made) {
    Tally t;
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    for (int k = 0; k < cases(200, 30); ++k)
        if (const auto r = read(k)) made(t, *r, [&] { return share(random); });
    return t;
}

void judge(const Tally& t, const std::string& what) {
    const std::string words = std::to_string(t.pieces) + " " + what + ": " + std::to_string(t.without_overlap) +
                              " without overlap by over one sigma, " + std::to_string(100 * t.within_band / t.edge) +
                              " % of their edges within the band; refused " + std::to_string(t.refused.size()) +
                              (t.refused.empty() ? "" : ": " + t.refused.front());
    INFO(words);
    CHECK(t.pieces >= cases(190, 28));
    CHECK(t.without_overlap >= 0.95 * t.pieces);
    // 95 % by its own words; errors along one edge go together, so that a sample strays by a percent or two.
    CHECK(t.within_band >= (std::getenv("BEVELSMITH_STUDY") ? 0.95 : 0.92) * t.edge);
    if (std::getenv("BEVELSMITH_STUDY")) WARN(words);
}

}  // namespace

TEST_CASE("half-bulkheads go into the true hull, and their gaps keep to the forecast band", "[goes_in]") {
    const Tally all = offer_each(5, [](Tally& t, const Read& r, const auto& any) {
        const double x = 700 + 1600 * any();
        piece::PieceSpec spec;
        spec.id = spec.name = "B1";
        spec.plane = {Vec3(std::cos(0.1), std::sin(0.1) * (any() - 0.5), 0).normalized(), 0};
        spec.plane.d_mm = spec.plane.normal.dot(Vec3(x, 600, 0));
        spec.split_for_passage = false;
        const double low = r.job.boat.at(x, -1.05).z(), high = r.job.boat.at(x, 0.0).z();
        spec.at = Vec3(x, 0.5 * r.job.boat.at(x, -0.5).y(), (low + high) / 2);
        spec.edges = {scribed(0), at_plane(Vec3::UnitZ(), high), at_plane(-Vec3::UnitZ(), -low),
                      at_plane(-Vec3::UnitY(), -0.3 * r.job.boat.at(x, -1.05).y())};
        offer_up(t, r, spec, 12 + 12 * any());
    });
    judge(all, "half-bulkheads");
}

TEST_CASE("settee tops go into the true hull as well", "[goes_in]") {
    const Tally all = offer_each(6, [](Tally& t, const Read& r, const auto& any) {
        const double x = 700 + 900 * any(), z = r.job.boat.at(1500, -0.55 + 0.3 * any()).z();
        piece::PieceSpec spec;
        spec.id = spec.name = "T1";
        spec.plane = {-Vec3::UnitZ(), -z};
        spec.split_for_passage = false;
        const double out = r.job.boat.at(1500, -0.5).y() - 450;
        spec.at = Vec3(x + 300, out + 100, z);
        spec.edges = {scribed(0), at_plane(Vec3::UnitX(), x + 800), at_plane(-Vec3::UnitX(), -x),
                      at_plane(-Vec3::UnitY(), -out)};
        offer_up(t, r, spec, 12);
    });
    judge(all, "settee tops");
}

TEST_CASE("settee fronts that stand on the hull go in as well", "[goes_in]") {
    const Tally all = offer_each(7, [](Tally& t, const Read& r, const auto& any) {
        const double x = 700 + 900 * any();
        const Vec3 foot = r.job.boat.at(x + 300, -0.8 + 0.25 * any());
        piece::PieceSpec spec;
        spec.id = spec.name = "F1";
        spec.plane = {Vec3::UnitY(), foot.y()};
        spec.split_for_passage = false;
        spec.at = Vec3(x + 300, foot.y(), foot.z() + 200);
        spec.edges = {scribed(0), at_plane(Vec3::UnitX(), x + 600), at_plane(-Vec3::UnitX(), -x),
                      at_plane(Vec3::UnitZ(), foot.z() + 350)};
        offer_up(t, r, spec, 18);
    });
    judge(all, "settee fronts");
}

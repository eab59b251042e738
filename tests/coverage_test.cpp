// Does the 95 % band hold the truth, and does the bevel's own uncertainty? Over hundreds of simulated jobs whose
// truth is known (derived: a band of 95 % holds 95 % of what it speaks of). The tests print the figures.
#include <catch2/catch.hpp>

#include <cmath>
#include <iostream>

#include "hull/section.h"
#include "support/study.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;

namespace {

const int jobs = cases(300, 50);

struct Tally {
    int points = 0, held = 0, bevels = 0, bevels_held = 0, rim = 0, rim_held = 0, alarms = 0;
    double share() const { return held / static_cast<double>(points); }
    double bevel_share() const { return bevels_held / static_cast<double>(bevels); }
    double rim_share() const { return rim_held / static_cast<double>(rim); }
};

/// At the chine itself two bevels are true.
bool at_the_chine(const practice::VirtualBoat& boat, const Vec3& p) {
    return boat.spec().form == practice::HullForm::hard_chine && (p - boat.chine(p.x())).norm() < 20;
}

void add(Tally& tally, const virtual_jobs::VirtualJob& job, const hull::Surface& surface) {
    for (double x : {700.0, 1500.0, 2300.0}) {
        const auto runs = hull::cut_section(surface, {Vec3::UnitX(), x}, 18);
        REQUIRE(runs.ok());
        for (const auto& run : *runs)
            for (std::size_t i = 0; i < run.points.size(); i += 5) {
                const auto& p = run.points[i];
                if (!p.in_survey) continue;
                ++tally.points;
                tally.held += std::abs(job.boat.outside_mm(p.a)) <= 1.96 * p.sigma_mm;
                if (at_the_chine(job.boat, p.a)) continue;
                const double truth = -std::asin(job.boat.normal(p.a).x());
                const bool held = std::abs(truth - p.bevel_rad) <= 1.96 * p.bevel_sigma_rad;
                ++tally.bevels;
                tally.bevels_held += held;
                const double angle = std::atan2(p.a.z(), p.a.y());
                if (angle < virtual_jobs::high.angle - 0.15 && angle > virtual_jobs::low.angle + 0.15) continue;
                ++tally.rim;
                tally.rim_held += held;
            }
    }
}

Tally tally_of(double lumpy_mm) {
    Tally out;
    for (int k = 0; k < jobs; ++k) {
        const auto job = virtual_jobs::numbered(k, lumpy_mm);
        const auto fit = hull::fit_surface(job.points, job.options);
        REQUIRE(fit.ok());
        out.alarms += fit->report.suspects() > 0;
        add(out, job, fit->surface);
    }
    std::cout << jobs << " jobs, lumps of " << lumpy_mm << " mm: the 95 % band holds " << 100 * out.share()
              << " %, that of the bevel " << 100 * out.bevel_share() << " % (at the rim " << 100 * out.rim_share()
              << " %); false alarms in " << out.alarms << " jobs\n";
    return out;
}

}  // namespace

TEST_CASE("on fair hulls the band holds the truth, the bevel's too, and alarms are rare", "[coverage]") {
    const Tally t = tally_of(0);
    CHECK(t.share() > 0.92);
    CHECK(t.share() < 0.99);
    // Bands that are too wide hold everything: there is a bound above as well.
    for (double share : {t.bevel_share(), t.rim_share()}) {
        CHECK(share > 0.92);
        CHECK(share < 0.995);
    }
    CHECK(t.alarms <= 0.03 * jobs + (jobs < 300 ? 2 : 0));  // of a sample two more
}

TEST_CASE("on lumpy hulls the band knows that it irons out lumps", "[coverage]") {
    const Tally t = tally_of(5);
    for (double share : {t.share(), t.bevel_share()}) {
        CHECK(share > 0.85);
        CHECK(share < 0.99);
    }
}

// The fit against an independent implementation of the same statistics: mgcv (S.N. Wood, Generalized Additive Models,
// 2nd ed.) on the same readings. tests/reference/mgcv.R made the figures.
#include <catch2/catch.hpp>

#include <cmath>
#include <map>

#include "exchange/table_text.h"
#include "hull/fit.h"
#include "support/jobs.h"

using namespace bevelsmith;

namespace {

struct Place {
    double x = 0, y = 0, z = 0, mgcv = 0;
};
struct Job {
    std::vector<survey::Point> read;
    std::vector<Place> truth;
};

std::map<int, Job> reference() {
    const std::string text = jobs::read(BEVELSMITH_SOURCE_DIR "/tests/reference/mgcv.csv");
    const exchange::TextTable table(text);
    std::map<int, Job> out;
    for (std::size_t i = 0; i < table.rows(); ++i) {
        const auto row = table.row(i);
        const auto number = [&](std::size_t k) { return exchange::number_in(row.cells[k]).value_or(0); };
        Job& job = out[static_cast<int>(number(0))];
        if (row.cells[1] == "read") job.read.push_back({{number(2), number(3), number(4)}, 1.5, 0, row.line});
        else job.truth.push_back({number(2), number(3), number(4), number(5)});
    }
    return out;
}

/// y of the surface over (x, z): along y to where it is met.
double height_at(const hull::Surface& surface, double x, double y, double z) {
    for (int k = 0; k < 20; ++k) {
        const Vec3 p(x, y, z);
        const auto c = surface.locate(p);
        const double off = surface.distance_mm(p) / surface.at({c.s, c.v}).normal.y();
        y -= off;
        if (std::abs(off) < 1e-6) break;
    }
    return y;
}

}  // namespace

TEST_CASE("readings are fitted at most 5 per cent worse than mgcv fits them", "[reference]") {
    double ours = 0, theirs = 0;
    int places = 0;
    for (const auto& [number, job] : reference()) {
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        options.chart = hull::ChartChoice::plane;
        const auto fit = hull::fit_surface(job.read, options);
        REQUIRE(fit.ok());
        double own = 0, other = 0;
        for (const Place& p : job.truth) {
            own += std::pow(height_at(fit->surface, p.x, p.y, p.z) - p.y, 2);
            other += std::pow(p.mgcv - p.y, 2);
        }
        const auto n = static_cast<double>(job.truth.size());
        WARN("job " << number << ", " << job.read.size() << " readings: " << std::sqrt(own / n) << " mm r.m.s., mgcv "
                    << std::sqrt(other / n));
        ours += own, theirs += other, places += static_cast<int>(n);
    }
    REQUIRE(places == 840);
    WARN("all: " << std::sqrt(ours / places) << " against " << std::sqrt(theirs / places));
    CHECK(std::sqrt(ours) <= 1.05 * std::sqrt(theirs));
}

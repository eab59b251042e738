// The same work by Bevelsmith and by OCCT, a general geometry library, in one run: a hull side read on a grid of 100
// by 100 with 1 mm of noise is fitted and cut. `rms_mm` is against the true surface.
#include <benchmark/benchmark.h>

#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Plane.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <cmath>
#include <gp_Pln.hxx>
#include <random>

#include "hull/fit.h"
#include "hull/fit_stages.h"
#include "hull/section.h"

namespace {

using namespace bevelsmith;

constexpr int side = 100;
constexpr double length_mm = 3000, height_mm = 1000, noise_mm = 1, tolerance_mm = 5;
const geometry::Plane cut{Vec3::UnitX(), 1700};

/// An invented topside: y over (x, z).
double truth(double x, double z) {
    return 1300 * (1 - std::pow((x - 400) / 5200, 2)) * (1 - 0.35 * std::pow((z - 900) / 1500, 2)) +
           40 * std::sin(x / 500) * std::cos(z / 300) + 0.1 * z * x / 3000;
}

double at(int k, double extent) {
    return extent * k / (side - 1);
}

const std::vector<Vec3>& grid() {
    static const std::vector<Vec3> points = [] {
        std::mt19937 random(11);
        std::normal_distribution<double> noise(0, noise_mm);
        std::vector<Vec3> out;
        for (int i = 0; i < side; ++i)
            for (int j = 0; j < side; ++j) {
                const double x = at(i, length_mm), z = at(j, height_mm);
                out.emplace_back(x, truth(x, z) + noise(random), z);
            }
        return out;
    }();
    return points;
}

std::vector<survey::Point> readings() {
    std::vector<survey::Point> out;
    for (const Vec3& p : grid()) out.push_back({p, noise_mm, 0, 0});
    return out;
}

template <class HeightAt>
double rms_mm(HeightAt height_at) {
    double squares = 0;
    int count = 0;
    for (double x = 30; x < length_mm; x += 90)
        for (double z = 20; z < height_mm; z += 60, ++count) squares += std::pow(height_at(x, z) - truth(x, z), 2);
    return std::sqrt(squares / count);
}

Result<hull::FittedSurface> own_fit() {
    hull::FitOptions options;
    options.inside = Vec3(1500, 0, 500);
    return hull::fit_surface(readings(), options);
}

TColgp_Array2OfPnt occt_grid() {
    TColgp_Array2OfPnt out(1, side, 1, side);
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            const Vec3& p = grid()[static_cast<std::size_t>(i * side + j)];
            out.SetValue(i + 1, j + 1, gp_Pnt(p.x(), p.y(), p.z()));
        }
    return out;
}

Handle(Geom_BSplineSurface) occt_fit() {
    return GeomAPI_PointsToBSplineSurface(occt_grid(), 3, 8, GeomAbs_C2, tolerance_mm).Surface();
}

void fit_of_a_grid_by_bevelsmith(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(own_fit());
    const auto fit = own_fit();
    state.counters["rms_mm"] = rms_mm([&](double x, double z) {
        double y = truth(x, z);
        for (int k = 0; k < 10; ++k) {
            const Vec3 p(x, y, z);
            const auto c = fit->surface.locate(p);
            y -= fit->surface.distance_mm(p) / fit->surface.at({c.s, c.v}).normal.y();
        }
        return y;
    });
}
BENCHMARK(fit_of_a_grid_by_bevelsmith)->Unit(benchmark::kMillisecond);

/// The least squares alone, chart and smoothing known, nothing judged: what OCCT's own fit does.
void fit_alone_of_a_grid_by_bevelsmith(benchmark::State& state) {
    const auto fit = own_fit();
    const auto points = readings();
    const hull::Smoothing smoothing{fit->report.log10_smoothing_s, fit->report.log10_smoothing_v};
    for (auto _ : state) {
        const auto data = hull::chart_data(fit->surface.chart(), points);
        hull::Smoother smoother(fit->surface.basis_s(), fit->surface.basis_v(), {});
        smoother.set_data(data);
        benchmark::DoNotOptimize(smoother.solve(smoothing));
    }
}
BENCHMARK(fit_alone_of_a_grid_by_bevelsmith)->Unit(benchmark::kMillisecond);

void fit_of_a_grid_by_occt(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(occt_fit());
    const auto surface = occt_fit();
    double u1 = 0, u2 = 0, v1 = 0, v2 = 0;
    surface->Bounds(u1, u2, v1, v2);
    // Newton on (x, z), from the place that the grid's proportions suggest.
    state.counters["rms_mm"] = rms_mm([&](double x, double z) {
        double u = u1 + (u2 - u1) * x / length_mm, v = v1 + (v2 - v1) * z / height_mm;
        gp_Pnt p;
        for (int k = 0; k < 20; ++k) {
            gp_Vec du, dv;
            surface->D1(u, v, p, du, dv);
            const double ex = x - p.X(), ez = z - p.Z(), det = du.X() * dv.Z() - dv.X() * du.Z();
            u = std::clamp(u + (ex * dv.Z() - ez * dv.X()) / det, u1, u2);
            v = std::clamp(v + (ez * du.X() - ex * du.Z()) / det, v1, v2);
        }
        return p.Y();
    });
}
BENCHMARK(fit_of_a_grid_by_occt)->Unit(benchmark::kMillisecond);

void section_with_200_bevels_by_bevelsmith(benchmark::State& state) {
    const auto fit = own_fit();
    hull::SectionOptions options;
    options.step_mm = 5.4;
    std::size_t points = 0;
    for (auto _ : state) {
        const auto runs = hull::cut_section(fit->surface, cut, 18, options);
        points = runs->front().points.size();
        benchmark::DoNotOptimize(runs);
    }
    state.counters["points"] = static_cast<double>(points);
}
BENCHMARK(section_with_200_bevels_by_bevelsmith)->Unit(benchmark::kMillisecond);

/// One face only, and no uncertainties: those OCCT does not know.
void section_with_200_bevels_by_occt(benchmark::State& state) {
    const auto surface = occt_fit();
    const Handle(Geom_Plane) plane = new Geom_Plane(gp_Pln(gp_Pnt(cut.d_mm, 0, 0), gp_Dir(1, 0, 0)));
    int lines = 0;
    for (auto _ : state) {
        const GeomAPI_IntSS both(surface, plane, 1e-6);
        lines = both.NbLines();
        for (int k = 1; k <= lines; ++k) {
            const Handle(Geom_Curve) curve = both.Line(k);
            const double from = curve->FirstParameter(), to = curve->LastParameter();
            double u1 = 0, u2 = 0, v1 = 0, v2 = 0;
            surface->Bounds(u1, u2, v1, v2);
            for (int i = 0; i < 200; ++i) {
                const gp_Pnt p = curve->Value(from + (to - from) * i / 199);
                GeomLProp_SLProps props(surface, u1 + (u2 - u1) * p.X() / length_mm,
                                        v1 + (v2 - v1) * p.Z() / height_mm, 1, 1e-9);
                benchmark::DoNotOptimize(-std::asin(props.Normal().X()));
            }
        }
    }
    state.counters["lines"] = lines;
}
BENCHMARK(section_with_200_bevels_by_occt)->Unit(benchmark::kMillisecond);

}  // namespace

// The same work by Bevelsmith and by OCCT, a general geometry library, in one run: hull sides read on a grid of 100
// by 100 with 1 mm of noise are fitted and cut. `rms_mm` is against the true surface; `times_bevelsmith` is how many
// times as long OCCT takes.
#include <benchmark/benchmark.h>

#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Plane.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <chrono>
#include <cmath>
#include <functional>
#include <gp_Pln.hxx>
#include <map>
#include <random>

#include "hull/fit.h"
#include "hull/fit_stages.h"
#include "hull/section.h"
#include "practice/boat.h"

namespace {

using namespace bevelsmith;

constexpr int side = 100;
constexpr double noise_mm = 1, tolerance_mm = 5;
const geometry::Plane cut{Vec3::UnitX(), 1700};

/// A true surface over two shares from 0 to 1, and what is known of it.
struct Truth {
    std::function<Vec3(double, double)> at;
    std::function<Vec3(const Vec3&)> normal;
    Vec3 inside;
    std::vector<Vec3> chine;
};

Truth boat_side(const practice::BoatSpec& spec) {
    const practice::VirtualBoat boat(spec);
    Truth out{[boat](double s, double v) { return boat.at(100 + 2800 * s, -1.35 + 1.6 * v); },
              [boat](const Vec3& p) { return boat.normal(p); },
              Vec3(1500, 0, 0),
              {}};
    if (spec.form == practice::HullForm::hard_chine)
        for (double x = 50; x < 3000; x += 290) out.chine.push_back(boat.chine(x));
    return out;
}

/// An invented topside, a few powers of x and z and a slight wave: nearly a polynomial.
Truth topside() {
    const auto y = [](double x, double z) {
        return 1300 * (1 - std::pow((x - 400) / 5200, 2)) * (1 - 0.35 * std::pow((z - 900) / 1500, 2)) +
               40 * std::sin(x / 500) * std::cos(z / 300) + 0.1 * z * x / 3000;
    };
    return {[y](double s, double v) { return Vec3(3000 * s, y(3000 * s, 1000 * v), 1000 * v); },
            [y](const Vec3& p) {
                const double y_x = (y(p.x() + 1, p.z()) - y(p.x() - 1, p.z())) / 2;
                const double y_z = (y(p.x(), p.z() + 1) - y(p.x(), p.z() - 1)) / 2;
                return Vec3(-y_x, 1, -y_z).normalized();
            },
            Vec3(1500, 0, 500),
            {}};
}

using practice::HullForm;
/// The forms of the practice hulls, and the topside that suits OCCT best.
const std::map<std::string, Truth>& truths() {
    static const std::map<std::string, Truth> all{{"round_bilge", boat_side({HullForm::round_bilge, 0, 0, 1})},
                                                  {"flared_bow", boat_side({HullForm::flared_bow, 0, 0, 1})},
                                                  {"chine_entered", boat_side({HullForm::hard_chine, 0, 0, 1})},
                                                  {"lumps_of_5_mm", boat_side({HullForm::round_bilge, 0, 5, 1})},
                                                  {"topside", topside()}};
    return all;
}

std::vector<Vec3> grid(const Truth& truth) {
    std::mt19937 random(11);
    std::normal_distribution<double> noise(0, noise_mm);
    std::vector<Vec3> out;
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            const Vec3 p = truth.at(i / (side - 1.0), j / (side - 1.0));
            out.push_back(p + noise(random) * truth.normal(p));
        }
    return out;
}

std::vector<survey::Point> readings(const Truth& truth) {
    std::vector<survey::Point> out;
    for (const Vec3& p : grid(truth)) out.push_back({p, noise_mm, 0, 0});
    return out;
}

template <class Off>
double rms_mm(const Truth& truth, Off off_mm) {
    double squares = 0;
    constexpr int places = 25;
    for (int i = 1; i < places; ++i)
        for (int j = 1; j < places; ++j) squares += std::pow(off_mm(truth.at(1.0 * i / places, 1.0 * j / places)), 2);
    return std::sqrt(squares) / (places - 1);
}

Result<hull::FittedSurface> own_fit(const Truth& truth, const std::vector<survey::Point>& points) {
    hull::FitOptions options;
    options.inside = truth.inside;
    if (!truth.chine.empty()) options.hard_lines = {truth.chine};
    return hull::fit_surface(points, options);
}

TColgp_Array2OfPnt occt_grid(const Truth& truth) {
    const std::vector<Vec3> points = grid(truth);
    TColgp_Array2OfPnt out(1, side, 1, side);
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            const Vec3& p = points[static_cast<std::size_t>(i * side + j)];
            out.SetValue(i + 1, j + 1, gp_Pnt(p.x(), p.y(), p.z()));
        }
    return out;
}

Handle(Geom_BSplineSurface) occt_fit(const TColgp_Array2OfPnt& points) {
    return GeomAPI_PointsToBSplineSurface(points, 3, 8, GeomAbs_C2, tolerance_mm).Surface();
}

/// Mean time of one run (s), of as many as fill a third of a second.
template <class Work>
double seconds(Work work) {
    using clock = std::chrono::steady_clock;
    const auto start = clock::now();
    int runs = 0;
    double spent = 0;
    while (spent < 0.3) {
        work();
        ++runs;
        spent = std::chrono::duration<double>(clock::now() - start).count();
    }
    return spent / runs;
}

void fit_by_bevelsmith(benchmark::State& state, const std::string& name) {
    const Truth& truth = truths().at(name);
    const auto points = readings(truth);
    for (auto _ : state) benchmark::DoNotOptimize(own_fit(truth, points));
    const auto fit = own_fit(truth, points);
    state.counters["rms_mm"] = rms_mm(truth, [&](const Vec3& p) { return fit->surface.distance_mm(p); });
}

void fit_by_occt(benchmark::State& state, const std::string& name) {
    const Truth& truth = truths().at(name);
    const auto points = readings(truth);
    const double own = seconds([&] { benchmark::DoNotOptimize(own_fit(truth, points)); });
    const TColgp_Array2OfPnt as_grid = occt_grid(truth);
    Handle(Geom_BSplineSurface) surface;
    const double theirs = seconds([&] { surface = occt_fit(as_grid); });
    for (auto _ : state) state.SetIterationTime(theirs);
    state.counters["times_bevelsmith"] = theirs / own;
    state.counters["rms_mm"] = rms_mm(truth, [&](const Vec3& p) {
        return GeomAPI_ProjectPointOnSurf(gp_Pnt(p.x(), p.y(), p.z()), surface).LowerDistance();
    });
}

/// The least squares alone, chart and smoothing known, nothing judged: what OCCT's approximation does.
void fit_alone_by_bevelsmith(benchmark::State& state, const std::string& name) {
    const Truth& truth = truths().at(name);
    const auto points = readings(truth);
    const auto fit = own_fit(truth, points);
    const hull::Smoothing smoothing{fit->report.log10_smoothing_s, fit->report.log10_smoothing_v};
    const auto alone = [&] {
        const auto data = hull::chart_data(fit->surface.chart(), points);
        hull::Smoother smoother(fit->surface.basis_s(), fit->surface.basis_v(), {});
        smoother.set_data(data);
        benchmark::DoNotOptimize(smoother.solve(smoothing));
    };
    for (auto _ : state) alone();
    const TColgp_Array2OfPnt as_grid = occt_grid(truth);
    state.counters["occt_takes_times"] = seconds([&] { occt_fit(as_grid); }) / seconds(alone);
}

hull::SectionOptions section_options() {
    hull::SectionOptions options;
    options.step_mm = 5.4;
    return options;
}

void section_by_bevelsmith(benchmark::State& state, const std::string& name) {
    const Truth& truth = truths().at(name);
    const auto fit = own_fit(truth, readings(truth));
    std::size_t points = 0;
    for (auto _ : state) {
        const auto runs = hull::cut_section(fit->surface, cut, 18, section_options());
        points = runs->front().points.size();
        benchmark::DoNotOptimize(runs);
    }
    state.counters["points"] = static_cast<double>(points);
}

/// One face only, and no uncertainties: those OCCT does not know.
int section_by_occt(const Handle(Geom_BSplineSurface) & surface) {
    const Handle(Geom_Plane) plane = new Geom_Plane(gp_Pln(gp_Pnt(cut.d_mm, 0, 0), gp_Dir(1, 0, 0)));
    const GeomAPI_IntSS both(surface, plane, 1e-6);
    double u1 = 0, u2 = 0, v1 = 0, v2 = 0;
    surface->Bounds(u1, u2, v1, v2);
    for (int k = 1; k <= both.NbLines(); ++k) {
        const Handle(Geom_Curve) curve = both.Line(k);
        const double from = curve->FirstParameter(), to = curve->LastParameter();
        for (int i = 0; i < 200; ++i) {
            benchmark::DoNotOptimize(curve->Value(from + (to - from) * i / 199));
            // Where on the surface does not matter to the time.
            GeomLProp_SLProps props(surface, (u1 + u2) / 2, v1 + (v2 - v1) * i / 199, 1, 1e-9);
            benchmark::DoNotOptimize(-std::asin(props.Normal().X()));
        }
    }
    return both.NbLines();
}

void section_by_occt_beside(benchmark::State& state, const std::string& name) {
    const Truth& truth = truths().at(name);
    const auto fit = own_fit(truth, readings(truth));
    const double own =
        seconds([&] { benchmark::DoNotOptimize(hull::cut_section(fit->surface, cut, 18, section_options())); });
    const auto surface = occt_fit(occt_grid(truth));
    int lines = 0;
    const double theirs = seconds([&] { lines = section_by_occt(surface); });
    for (auto _ : state) state.SetIterationTime(theirs);
    state.counters["times_bevelsmith"] = theirs / own;
    state.counters["lines"] = lines;
}

const bool registered = [] {
    for (const auto& [name, truth] : truths()) {
        benchmark::RegisterBenchmark(("fit_of_a_grid/" + name + "/by_bevelsmith").c_str(), fit_by_bevelsmith, name)
            ->Unit(benchmark::kMillisecond);
        benchmark::RegisterBenchmark(("fit_of_a_grid/" + name + "/alone_by_bevelsmith").c_str(),
                                     fit_alone_by_bevelsmith, name)
            ->Unit(benchmark::kMillisecond);
        benchmark::RegisterBenchmark(("fit_of_a_grid/" + name + "/by_occt").c_str(), fit_by_occt, name)
            ->Unit(benchmark::kMillisecond)
            ->UseManualTime()
            ->Iterations(1);
        benchmark::RegisterBenchmark(("section_200/" + name + "/by_bevelsmith").c_str(), section_by_bevelsmith, name)
            ->Unit(benchmark::kMillisecond);
        benchmark::RegisterBenchmark(("section_200/" + name + "/by_occt").c_str(), section_by_occt_beside, name)
            ->Unit(benchmark::kMillisecond)
            ->UseManualTime()
            ->Iterations(1);
    }
    return true;
}();

}  // namespace

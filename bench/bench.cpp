// Times of what a person waits for: fit, section, piece, whole job, loading. Run it from a release build.
#include <benchmark/benchmark.h>

#include <string_view>

#include "start.h"
#ifdef BEVELSMITH_NEST_TABLE
#include "nest_table.h"
#endif

#include <filesystem>
#include <fstream>
#include <map>
#include <sstream>

#include "exchange/boat_cut.h"
#include "exchange/cloud_file.h"
#include "hull/fit.h"
#include "hull/knowledge.h"
#include "hull/mesh.h"
#include "hull/section.h"
#include "job/file_io.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/pipeline.h"
#include "job/starting_unit.h"
#include "review/review.h"
#include "support/shapes.h"

namespace {

using namespace bevelsmith;

/// Noisy readings of a hull side, about `count` of them.
const std::vector<survey::Point>& readings(int count) {
    static std::map<int, std::vector<survey::Point>> kept;
    auto& out = kept[count];
    if (out.empty()) {
        const int side = static_cast<int>(std::lround(std::sqrt(count)));
        out = shapes::readings(shapes::wigley_side(4000, 2000, 1100), side, side, 1.5, 1.5);
    }
    return out;
}

const hull::Surface& surface() {
    static const auto fit = hull::fit_surface(readings(400));
    return fit->surface;
}

std::string ternlight_text() {
    std::ifstream in(BEVELSMITH_SOURCE_DIR "/demo/ternlight.job.json");
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

/// The demo with its pieces repeated at other stations, to `pieces` of them.
job::Job job_of(int pieces) {
    job::Job job = *job::job_from_text(ternlight_text());
    const auto originals = job.pieces;
    for (std::size_t k = originals.size(); static_cast<int>(k) < pieces; ++k) {
        auto piece = originals[1];
        piece.id = "X" + std::to_string(k);
        piece.plane.d_mm = 1900 + 1600.0 * static_cast<double>(k) / pieces;
        job.pieces.push_back(piece);
    }
    return job;
}

void fit_readings(benchmark::State& state) {
    const auto& points = readings(static_cast<int>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(hull::fit_surface(points));
}
BENCHMARK(fit_readings)
    ->Arg(36)
    ->Arg(144)
    ->Arg(400)
    ->Arg(2500)
    ->Arg(10000)
    ->Arg(100000)
    ->Arg(1000000)
    ->Unit(benchmark::kMillisecond);

void section_with_bevels(benchmark::State& state) {
    hull::SectionOptions options;
    options.step_mm = 1000.0 / static_cast<double>(state.range(0));
    std::size_t points = 0;
    (void)surface();  // fitted before the clock starts
    for (auto _ : state) {
        const auto runs = hull::cut_section(surface(), {Vec3::UnitX(), 300}, 18, options);
        points = runs->front().points.size();
        benchmark::DoNotOptimize(runs);
    }
    state.counters["points"] = static_cast<double>(points);
}
BENCHMARK(section_with_bevels)->Arg(100)->Arg(500)->Unit(benchmark::kMillisecond);

/// Where to measure next along a section, as asked after each reading.
void suggestions(benchmark::State& state) {
    std::vector<hull::Place> edge;
    const auto runs = hull::cut_section(surface(), {Vec3::UnitX(), 300}, 18);
    for (const auto& p : runs->front().points) edge.push_back(p.place);
    hull::SuggestionOptions how;
    how.how_many = static_cast<int>(state.range(0));
    for (auto _ : state) benchmark::DoNotOptimize(hull::suggest_readings(surface(), edge, how));
}
BENCHMARK(suggestions)->Arg(1)->Arg(5)->Unit(benchmark::kMillisecond);

void mesh_for_pictures(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(hull::sample_mesh(surface(), 41, 61));
}
BENCHMARK(mesh_for_pictures)->Unit(benchmark::kMillisecond);

/// The three cuts of a boat with many pieces, drawn anew: what is felt while a cut is dragged.
void three_cuts(benchmark::State& state) {
    const job::Job job = job_of(static_cast<int>(state.range(0)));
    job::Pipeline pipeline;
    const job::Results results = pipeline.compute_pieces(job);
    double at = 2000;
    for (auto _ : state) {
        at += 1;
        benchmark::DoNotOptimize(exchange::cut_hull(results, exchange::Cut::section, at));
        benchmark::DoNotOptimize(exchange::cut_pieces(results, exchange::Cut::section, at));
        benchmark::DoNotOptimize(exchange::cut_pieces(results, exchange::Cut::profile, 400));
        benchmark::DoNotOptimize(exchange::cut_pieces(results, exchange::Cut::plan, 200));
    }
}
BENCHMARK(three_cuts)->Arg(3)->Arg(200)->Unit(benchmark::kMillisecond)->Iterations(20);

/// The front of a settee dragged in a job of many pieces: the unit's panels follow.
void unit_dragged(benchmark::State& state) {
    job::Job job = job_of(static_cast<int>(state.range(0)));
    job::Pipeline pipeline;
    job.units.push_back(job::starting_unit(job, pipeline.compute_pieces(job), furniture::UnitKind::settee));
    for (auto _ : state) {
        job.units[0].front_mm += 0.37;
        benchmark::DoNotOptimize(pipeline.compute_pieces(job::in_full(job)));
    }
}
BENCHMARK(unit_dragged)->Arg(3)->Arg(200)->Unit(benchmark::kMillisecond)->Iterations(10);

/// One piece moved in a job of many: what is felt while dragging.
void one_piece_moved(benchmark::State& state) {
    job::Job job = job_of(static_cast<int>(state.range(0)));
    job::Pipeline pipeline;
    pipeline.compute_pieces(job);
    double at = 2050;
    for (auto _ : state) {
        job.pieces[1].plane.d_mm = at += 0.37;
        benchmark::DoNotOptimize(pipeline.compute_pieces(job));
    }
}
BENCHMARK(one_piece_moved)->Arg(3)->Arg(20)->Arg(200)->Unit(benchmark::kMillisecond)->Iterations(10);

void sheets_laid_out(benchmark::State& state) {
    const job::Job job = job_of(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        state.PauseTiming();
        job::Pipeline pipeline;
        job::Results results = pipeline.compute_pieces(job);
        state.ResumeTiming();
        pipeline.lay_out(job, results);
    }
}
BENCHMARK(sheets_laid_out)->Arg(3)->Arg(20)->Unit(benchmark::kMillisecond)->Iterations(1);

void outline_alone(benchmark::State& state) {
    job::Job job = job_of(3);
    const auto results = job::Pipeline().compute(job);
    const auto& fitted = results.surfaces[0].fitted()->surface;
    for (auto _ : state)
        benchmark::DoNotOptimize(piece::compute_outline(
            job.pieces[1], 12, [&](const std::string&) { return &fitted; }, job.boat.passage));
}
BENCHMARK(outline_alone)->Unit(benchmark::kMillisecond);

void whole_job_from_nothing(benchmark::State& state) {
    const job::Job job = job_of(3);
    for (auto _ : state) {
        const auto results = job::Pipeline().compute(job);
        benchmark::DoNotOptimize(review::review(job, results));
    }
}
BENCHMARK(whole_job_from_nothing)->Unit(benchmark::kMillisecond);

/// The demo with all panels of its units, to findings; her sheets are laid out behind the window.
void demo_from_nothing(benchmark::State& state) {
    const job::Job job = job::in_full(job_of(3));
    for (auto _ : state) {
        job::Pipeline pipeline;
        auto results = pipeline.compute_pieces(job);
        pipeline.forecast(job, results);
        benchmark::DoNotOptimize(review::review(job, results));
    }
}
BENCHMARK(demo_from_nothing)->Unit(benchmark::kMillisecond)->Iterations(2);

void job_load(benchmark::State& state) {
    const std::string text = ternlight_text();
    for (auto _ : state) benchmark::DoNotOptimize(job::job_from_text(text));
    state.SetBytesProcessed(static_cast<int64_t>(state.iterations()) * static_cast<int64_t>(text.size()));
}
BENCHMARK(job_load)->Unit(benchmark::kMillisecond);

void job_save_as_text(benchmark::State& state) {
    const job::Job job = job_of(3);
    for (auto _ : state) benchmark::DoNotOptimize(job::job_to_text(job));
}
BENCHMARK(job_save_as_text)->Unit(benchmark::kMillisecond);

/// A binary PLY of a million points, 12 MB, from the disk (and its cache): as bytes, and as points.
const std::string& scan_file() {
    static const std::string path = [] {
        const std::string out = (std::filesystem::temp_directory_path() / "bevelsmith-bench.ply").string();
        std::ofstream file(out, std::ios::binary);
        file << "ply\nformat binary_little_endian 1.0\nelement vertex 1000000\nproperty float x\nproperty float "
                "y\nproperty float z\nend_header\n";
        for (int i = 0; i < 1000000; ++i) {
            const float p[3] = {static_cast<float>(i % 1000), static_cast<float>(i / 1000), 0.5F};
            file.write(reinterpret_cast<const char*>(p), sizeof p);
        }
        return out;
    }();
    return path;
}

void scan_as_bytes(benchmark::State& state) {
    std::size_t bytes = 0;
    (void)scan_file();
    for (auto _ : state) bytes = job::read_file(scan_file())->size();
    state.SetBytesProcessed(state.iterations() * static_cast<int64_t>(bytes));
}
BENCHMARK(scan_as_bytes)->Unit(benchmark::kMillisecond);

void scan_as_points(benchmark::State& state) {
    std::size_t bytes = 0;
    for (auto _ : state) {
        const auto text = job::read_file(scan_file());
        bytes = text->size();
        benchmark::DoNotOptimize(exchange::cloud_from_text(*text));
    }
    state.SetBytesProcessed(state.iterations() * static_cast<int64_t>(bytes));
}
BENCHMARK(scan_as_points)->Unit(benchmark::kMillisecond);

void scan_thinned(benchmark::State& state) {
    const auto cloud = exchange::cloud_from_text(*job::read_file(scan_file()));
    for (auto _ : state) benchmark::DoNotOptimize(survey::thinned(*cloud, 12));
}
BENCHMARK(scan_thinned)->Unit(benchmark::kMillisecond);

}  // namespace

int main(int argc, char** argv) {
    if (argc > 1 && std::string_view(argv[1]) == "start") return bench_start();
#ifdef BEVELSMITH_NEST_TABLE
    if (argc > 1 && std::string_view(argv[1]) == "nest") return bench_nest({argv + 2, argv + argc});
#endif
    benchmark::Initialize(&argc, argv);
    if (benchmark::ReportUnrecognizedArguments(argc, argv)) return 1;
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}

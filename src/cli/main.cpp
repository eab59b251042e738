// bevelsmith-cli: the computation without the window.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <QGuiApplication>
#include <algorithm>
#include <chrono>
#include <clocale>
#include <cmath>
#include <cstdio>
#include <functional>
#include <new>
#include <optional>

#include "cli/guard.h"
#include "exchange/boat_json.h"
#include "exchange/cloud_file.h"
#include "exchange/cut_list.h"
#include "exchange/drawing.h"
#include "exchange/dxf_outlines.h"
#include "exchange/gaps_csv.h"
#include "exchange/importers.h"
#include "exchange/outlines_json.h"
#include "exchange/parts_json.h"
#include "exchange/plain_text.h"
#include "exchange/points_csv.h"
#include "exchange/report.h"
#include "exchange/sheet_plan.h"
#include "exchange/step_file.h"
#include "job/file_io.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/offering_up.h"
#include "job/reference.h"
#include "paper/boat_pages.h"
#include "paper/cut_papers.h"
#include "paper/labels.h"
#include "paper/marks_page.h"
#include "paper/pdf.h"
#include "survey/lonely.h"

namespace {

using namespace bevelsmith;
using Clock = std::chrono::steady_clock;

/// Commands that compute take at most this long, and this much memory, or refuse: a file that asks for more is
/// hostile, or is better split.
// Under sanitizers everything takes ten to twenty times as long and as much.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
cli::Bounds bounds{600, std::size_t{16000} << 20};
#else
cli::Bounds bounds{30, 1000u << 20};  // what people make takes some seconds
#endif

/// What went wrong, and in which file; becomes `file:line: reason` and exit code 2.
struct Failure {
    std::string where;
    Error error;
};

/// Named where memory runs out.
std::string file_at_work = "bevelsmith-cli";

[[noreturn]] void fail(const std::string& where, const Error& error) {
    throw Failure{where, error};
}

template <class T>
T value_or_fail(Result<T> result, const std::string& where) {
    if (!result) fail(where, result.error());
    return std::move(result.value());
}

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(' ');
    return first == std::string::npos ? std::string() : text.substr(first, text.find_last_not_of(' ') - first + 1);
}

std::vector<double> numbers(const std::string& text, std::size_t count, const std::string& option,
                            const std::string& file) {
    std::vector<double> out;
    std::string rest = text;
    while (true) {
        const auto comma = rest.find(',');
        const std::string cell = rest.substr(0, comma);
        double value = 0;
        if (!exchange::is_number(trimmed(cell), value) || !std::isfinite(value))
            fail(file, {fmt::format("{} {}: '{}' is not a number", option, text, cell)});
        if (!units::range::place.holds(value))
            fail(file, {fmt::format("{} {}: {}", option, text, units::out_of_range(units::range::place, value))});
        out.push_back(value);
        if (comma == std::string::npos) break;
        rest.erase(0, comma + 1);
    }
    if (out.size() != count)
        fail(file, {fmt::format("{} {}: {} numbers wanted, separated by commas", option, text, count)});
    return out;
}

geometry::Plane plane_of(const std::string& text, const std::string& file) {
    const auto n = numbers(text, 4, "--plane", file);
    const Vec3 normal(n[0], n[1], n[2]);
    if (normal.norm() < 1e-12)
        fail(file, {fmt::format("--plane {}: the normal is zero, so the plane has no direction", text)});
    return {normal.normalized(), n[3] / normal.norm()};
}

/// What a surface is of the boat, as in job files.
constexpr const char* parts[] = {"hull", "deckhead", "sole", "transom", "bulkhead"};

struct SectionArguments {
    std::string points, plane, chart = "auto", inside, part = "hull";
    double thickness_mm = 0;
};

void section(const SectionArguments& arguments) {
    const std::string& file = file_at_work = arguments.points;
    const cli::Guard guard(file, bounds);
    const auto plane = plane_of(arguments.plane, file);
    if (!units::range::thickness.holds(arguments.thickness_mm))
        fail(file, {"--thickness " + units::out_of_range(units::range::thickness, arguments.thickness_mm)});
    hull::FitOptions options;
    options.chart = arguments.chart == "axis"    ? hull::ChartChoice::axis
                    : arguments.chart == "plane" ? hull::ChartChoice::plane
                                                 : hull::ChartChoice::automatic;
    options.part = static_cast<hull::SurfacePart>(std::find(std::begin(parts), std::end(parts), arguments.part) -
                                                  std::begin(parts));
    if (!arguments.inside.empty()) {
        const auto p = numbers(arguments.inside, 3, "--inside", file);
        options.inside = Vec3(p[0], p[1], p[2]);
    }
    const auto points = value_or_fail(
        exchange::points_from_csv(value_or_fail(job::read_file(file, units::limit::table_bytes), file)), file);
    const auto fit = value_or_fail(hull::fit_surface(points, options), file);
    const auto runs = value_or_fail(hull::cut_section(fit.surface, plane, arguments.thickness_mm), file);
    std::fputs(exchange::section_to_json(runs, fit, points).c_str(), stdout);
}

struct Computed {
    job::Job job;
    job::Results results;
};

/// How much of it is asked for: pieces with their outlines, fixings and masses, or everything, layouts among it.
enum class Wanted { pieces, everything };

Computed computed(const std::string& path, Wanted wanted = Wanted::everything) {
    file_at_work = path;
    const cli::Guard guard(path, bounds);
    Computed out{job::in_full(value_or_fail(job::load_job(path), path)), {}};
    cli::Guard::at("its results");
    job::Pipeline pipeline;
    pipeline.watch([](const std::string& what) { cli::Guard::at(what); });
    out.results = wanted == Wanted::pieces ? pipeline.compute_pieces(out.job) : pipeline.compute(out.job);
    return out;
}

void report(const std::string& path) {
    const cli::Guard guard(path, bounds);
    const Computed c = computed(path);
    std::fputs(exchange::report_to_json(c.job, c.results, review::review(c.job, c.results)).c_str(), stdout);
}

void check(const std::string& path) {
    const cli::Guard guard(path, bounds);
    const Computed c = computed(path);
    std::fputs(exchange::findings_to_json(review::review(c.job, c.results)).c_str(), stdout);
}

void outlines(const std::string& path) {
    const cli::Guard guard(path, bounds);
    const std::string text = value_or_fail(job::read_file(path), path);
    std::fputs(exchange::outlines_to_json(value_or_fail(exchange::read_dxf_outlines(text), path)).c_str(), stdout);
}

/// What a file is, by its contents, and whether it can be read.
void inspect(const std::string& path) {
    const cli::Guard guard(path, bounds);
    const std::string text = value_or_fail(job::read_file(path, units::limit::cloud_bytes), path);
    const auto* importer = exchange::importer_for(text);
    if (!importer) fail(path, {"it is none of the files that are read (docs/files-in.md)"});
    if (text.size() > importer->limit.most) fail(path, {units::too_many(importer->limit, text.size())});
    if (importer->fault)
        if (const auto fault = importer->fault(text)) fail(path, *fault);
    fmt::print("{}: {}; {} takes it\n", importer->id, importer->title, importer->where);
}

/// No screen is needed to write a page.
void with_pages(int argc, char** argv, const std::function<void()>& write) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    // Qt's own remarks about the session do not belong in front of ours.
    qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {});
    QGuiApplication application(argc, argv);
    // It takes up the locale; figures in files have a point.
    std::setlocale(LC_NUMERIC, "C");
    write();
}

struct ExportArguments {
    std::string job, piece, format, out, paper = "a4";
    double roll_mm = paper::PdfOptions().roll_width_mm, step_mm = 0;  ///< 0: as is usual in the job's unit
};

void export_piece(const ExportArguments& a, int argc, char** argv) {
    const Computed c = computed(a.job, Wanted::pieces);
    const double step = a.step_mm > 0 ? a.step_mm : exchange::usual_row_spacing_mm(c.job.unit);
    const auto drawing = value_or_fail(exchange::drawing_of(c.job, c.results, a.piece, step), a.job);
    if (a.format == "pdf") {
        const paper::PdfOptions options{paper::size_by_name(a.paper).value_or(paper::Size::a4), 10, a.roll_mm};
        return with_pages(argc, argv, [&] { value_or_fail(paper::write_pdf(drawing, options, a.out), a.out); });
    }
    const auto format = a.format == "dxf"         ? exchange::Format::dxf
                        : a.format == "svg"       ? exchange::Format::svg
                        : a.format == "ordinates" ? exchange::Format::ordinates
                                                  : exchange::Format::csv;
    value_or_fail(exchange::write_drawing(drawing, format, a.out), a.out);
}

struct CloudArguments {
    std::string cloud, out, unit = "auto", box, slab, cell;
    bool keep_lonely = false;
};

void cloud(const CloudArguments& a) {
    file_at_work = a.cloud;
    const cli::Guard guard(a.cloud, bounds);
    auto points = value_or_fail(
        exchange::cloud_from_text(value_or_fail(job::read_file(a.cloud, units::limit::cloud_bytes), a.cloud)),
        a.cloud);
    const double unit_mm = a.unit == "mm"   ? 1
                           : a.unit == "m"  ? 1000
                           : a.unit == "in" ? 25.4
                                            : exchange::likely_unit_mm(points);
    points = value_or_fail(exchange::in_millimetres(std::move(points), unit_mm), a.cloud);
    const std::size_t read = points.size();
    if (!a.keep_lonely) points = survey::sorted_by_company(points).dense;
    survey::CloudCut cut;
    if (!a.box.empty()) {
        const auto n = numbers(a.box, 6, "--box", a.cloud);
        cut.low = Vec3(n[0], n[1], n[2]);
        cut.high = Vec3(n[3], n[4], n[5]);
    }
    if (!a.slab.empty()) {
        const auto n = numbers(a.slab, 5, "--slab", a.cloud);
        if (Vec3(n[0], n[1], n[2]).norm() < 1e-12)
            fail(a.cloud, {fmt::format("--slab {}: the normal is zero, so the plane has no direction", a.slab)});
        const double length = Vec3(n[0], n[1], n[2]).norm();
        cut.plane = geometry::Plane{Vec3(n[0], n[1], n[2]) / length, n[3] / length};
        cut.slab_mm = n[4];
    }
    constexpr std::size_t points_wanted = 6000;
    cut.cell_mm = a.cell.empty() ? survey::cell_for(survey::cropped(points, cut), points_wanted)
                                 : numbers(a.cell, 1, "--cell", a.cloud)[0];
    if (cut.cell_mm != 0 && !units::range::cell.holds(cut.cell_mm))
        fail(a.cloud, {"--cell " + units::out_of_range(units::range::cell, cut.cell_mm)});
    const auto kept = survey::cut_cloud(points, cut);
    if (kept.empty()) fail(a.cloud, {"nothing lies in the box and the slab"});
    std::string text = fmt::format("# {} of {} points ({} lay alone and are left out), one each {} mm\nx,y,z\n",
                                   kept.size(), read, read - points.size(), cut.cell_mm);
    for (const Vec3& p : kept) text += fmt::format("{:.2f},{:.2f},{:.2f}\n", p.x(), p.y(), p.z());
    value_or_fail(job::write_file_atomically(a.out, text), a.out);
}

void marks(const std::string& path, const std::string& out, int argc, char** argv) {
    const Computed c = computed(path, Wanted::pieces);
    if (c.job.marks.empty()) fail(path, {"there are no reference marks in this job"});
    with_pages(argc, argv, [&] { value_or_fail(paper::write_marks(c.job, c.results, out), out); });
}

struct PapersArguments {
    std::string job, what, out, material, format = "dxf", paper = "a4", labels;
    int number = 1;
};

void papers(const PapersArguments& a, int argc, char** argv) {
    const bool of_sheets =
        a.what == "cut-papers" || a.what == "shopping" || a.what == "lengths" || a.what == "workbook";
    const Computed c = computed(a.job, of_sheets ? Wanted::everything : Wanted::pieces);
    const auto text = [&](const std::string& table) {
        value_or_fail(job::write_file_atomically(a.out, table), a.out);
    };
    if (a.what == "cut-list") return text(exchange::cut_list_csv(exchange::cut_list(c.job, c.results), c.job.unit));
    if (a.what == "shopping") return text(exchange::shopping_csv(c.job, c.results));
    if (a.what == "lengths") return text(exchange::lengths_csv(c.results, c.job.unit));
    if (a.what == "saw-cuts") return text(exchange::edge_cuts_csv(c.job, c.results));
    if (a.what == "workbook") {
        value_or_fail(exchange::write_workbook(c.job, c.results, a.out), a.out);
    } else if (a.what == "old-state") {
        with_pages(argc, argv, [&] { value_or_fail(paper::write_old_state(c.job, c.results, a.out), a.out); });
    } else if (a.what == "step") {
        std::vector<std::string> all;
        for (const auto& piece : c.job.pieces) all.push_back(piece.id);
        value_or_fail(exchange::write_step(c.job, c.results, all, a.out), a.out);
    } else {
        const paper::CutPaperOptions options{paper::size_by_name(a.paper).value_or(paper::Size::a4), a.labels};
        const auto* sheet = paper::label_sheet(a.labels.empty() ? paper::label_sheets().front().id : a.labels);
        with_pages(argc, argv, [&] {
            value_or_fail(a.what == "labels" ? paper::write_labels(c.job, c.results, *sheet, a.out)
                                             : paper::write_cut_papers(c.job, c.results, options, a.out),
                          a.out);
        });
    }
}

void sheet(const PapersArguments& a) {
    const Computed c = computed(a.job);
    for (const auto& sheets : c.results.sheets) {
        if (sheets.material_id != a.material) continue;
        value_or_fail(a.format == "dxf" ? exchange::write_sheet_dxf(c.job, sheets, a.number - 1, a.out)
                                        : exchange::write_sheet_svg(c.job, sheets, a.number - 1, a.out),
                      a.out);
        return;
    }
    fail(a.job, {fmt::format("nothing is laid out on sheets of '{}'", a.material)});
}

struct BoatArguments {
    std::string job, piece, gaps, from, out, pdf;
    bool pattern = false;
};

void dry_fit(const BoatArguments& a, int argc, char** argv) {
    file_at_work = a.job;
    const cli::Guard guard(a.job, bounds);
    const job::Job job = value_or_fail(job::load_job(a.job), a.job);
    const job::Job full = job::in_full(job);
    const auto* piece = job::find_piece(full, a.piece);
    if (!piece) fail(a.job, {fmt::format("there is no piece '{}'", a.piece)});
    const auto readings = value_or_fail(
        exchange::gaps_from_csv(value_or_fail(job::read_file(a.gaps, units::limit::table_bytes), a.gaps), *piece),
        a.gaps);
    job::Pipeline pipeline;
    pipeline.watch([](const std::string& what) { cli::Guard::at(what); });
    const auto offered = value_or_fail(job::offered_up(job, a.piece, readings, a.pattern, pipeline), a.gaps);
    const auto finish = [&] {
        if (!a.out.empty()) value_or_fail(job::save_job(offered.job, a.out), a.out);
        std::fputs(exchange::fitting_to_json(*piece, offered).c_str(), stdout);
    };
    if (a.pdf.empty()) return finish();
    const job::Job after = job::in_full(offered.job);
    const auto results = pipeline.compute_pieces(after);
    with_pages(argc, argv, [&] {
        value_or_fail(
            paper::write_shaving_guide(after, *job::find_piece(after, a.piece), *results.piece(a.piece), a.pdf),
            a.pdf);
    });
    finish();
}

void setting_out(const BoatArguments& a, int argc, char** argv) {
    const cli::Guard guard(a.job, bounds);
    Computed c = computed(a.job, Wanted::pieces);
    const auto* piece = job::find_piece(c.job, a.piece);
    if (!piece) fail(a.job, {fmt::format("there is no piece '{}'", a.piece)});
    const auto& result = *c.results.piece(a.piece);
    // What carries it is worked out later than outlines are.
    if (result.shape() && piece::lies_level(*result.shape())) job::Pipeline().forecast(c.job, c.results);
    if (!result.shape())
        fail(a.job, {fmt::format("piece '{}' has no outline: {}", a.piece, result.outline->error().message)});
    const auto reference = value_or_fail(job::reference_named(c.job, a.from, *result.middle()), a.job);
    const auto lines =
        piece::at_boat(*piece, *result.shape(), reference, job::boat_marks(c.job), result.bearing.get());
    if (!a.pdf.empty())
        with_pages(argc, argv,
                   [&] { value_or_fail(paper::write_setting_out(c.job, *piece, result, lines, a.pdf), a.pdf); });
    std::fputs(exchange::setting_out_to_json(*piece, lines).c_str(), stdout);
}

struct NestArguments {
    std::string parts, out;
    double seconds = 5;
    unsigned seed = 1;
};

void nest(const NestArguments& a) {
    const auto start = Clock::now();
    file_at_work = a.parts;
    if (!units::range::seconds.holds(a.seconds))
        fail(a.parts, {"--seconds " + units::out_of_range(units::range::seconds, a.seconds)});
    const auto problem = value_or_fail(
        exchange::problem_from_json(value_or_fail(job::read_file(a.parts, units::limit::parts_bytes), a.parts)),
        a.parts);
    sheets::NestOptions options;
    // Reading the parts is a share of the time that was given.
    options.seconds = std::max(0.0, a.seconds - std::chrono::duration<double>(Clock::now() - start).count());
    options.seed = a.seed;
    const auto layout = sheets::nest(problem, options);
    if (const auto wrong = sheets::violations(problem, layout); !wrong.empty()) fail(a.parts, {wrong.front()});
    value_or_fail(job::write_file_atomically(a.out, exchange::layout_to_json(problem, layout)), a.out);
}

// The options of each command; what they are read into outlives the parsing.
void add_section(CLI::App& app, SectionArguments& s) {
    auto* section_command =
        app.add_subcommand("section", "fit a surface to points and cut it by a plane; prints JSON");
    section_command->add_option("points", s.points, "x,y,z[,sigma] a line, mm")->required();
    section_command->add_option("--plane", s.plane, "nx,ny,nz,d: face A lies on n·p = d")->required();
    section_command->add_option("--thickness", s.thickness_mm, "mm; face B lies that much farther along n")
        ->required();
    section_command->add_option("--chart", s.chart)->check(CLI::IsMember({"auto", "axis", "plane"}));
    section_command->add_option("--inside", s.inside,
                                "x,y,z: a point inside the boat; by default towards the centre line y = 0");
    section_command->add_option("--part", s.part, "what it is of the boat, where the centre line does not tell")
        ->check(CLI::IsMember({"hull", "deckhead", "sole", "transom", "bulkhead"}));
    section_command->callback([&s] { section(s); });
}

void add_export(CLI::App& app, ExportArguments& e, int argc, char** argv) {
    auto* export_command = app.add_subcommand("export", "papers and files of one piece or part");
    export_command->add_option("job", e.job, "job file")->required();
    export_command->add_option("--piece", e.piece, "id of a piece, or of a part such as B1/2")->required();
    export_command->add_option("--format", e.format)
        ->required()
        ->check(CLI::IsMember({"dxf", "svg", "pdf", "csv", "ordinates"}));
    export_command->add_option("--paper", e.paper, "tiles of the PDF")
        ->check(CLI::IsMember({"a4", "a3", "letter", "tabloid", "roll"}));
    export_command->add_option("--roll", e.roll_mm, "width of the roll (mm)")
        ->check(CLI::Range(paper::least_roll_mm, paper::most_roll_mm));
    export_command->add_option("--step", e.step_mm, "between rows of the tables (mm)")
        ->check(CLI::Range(10.0, 2000.0));
    export_command->add_option("-o,--output", e.out, "file to write")->required();
    export_command->callback([&e, argc, argv] { export_piece(e, argc, argv); });
}

void add_papers(CLI::App& app, PapersArguments& p, int argc, char** argv) {
    auto* papers_command = app.add_subcommand("papers", "tables, plans and solids of the whole job");
    papers_command->add_option("job", p.job, "job file")->required();
    papers_command->add_option("--what", p.what)
        ->required()
        ->check(CLI::IsMember({"cut-list", "workbook", "cut-papers", "labels", "shopping", "lengths", "saw-cuts",
                               "step", "old-state"}));
    std::vector<std::string> labels;
    for (const auto& sheet : paper::label_sheets()) labels.push_back(sheet.id);
    papers_command->add_option("--labels", p.labels, "label sheets; with cut-papers they are added at the end")
        ->check(CLI::IsMember(labels));
    papers_command->add_option("--paper", p.paper, "of the cut papers")
        ->check(CLI::IsMember({"a4", "a3", "letter", "tabloid"}));
    papers_command->add_option("-o,--output", p.out, "file to write")->required();
    papers_command->callback([&p, argc, argv] { papers(p, argc, argv); });
    auto* sheet_command = app.add_subcommand("sheet", "one sheet of a material as a drawing");
    sheet_command->add_option("job", p.job, "job file")->required();
    sheet_command->add_option("--material", p.material, "id of a material")->required();
    sheet_command->add_option("--number", p.number, "of its sheets, from 1 on");
    sheet_command->add_option("--format", p.format)->check(CLI::IsMember({"dxf", "svg"}));
    sheet_command->add_option("-o,--output", p.out, "file to write")->required();
    sheet_command->callback([&p] { sheet(p); });
}

void add_cloud(CLI::App& app, CloudArguments& c) {
    auto* cloud_command = app.add_subcommand("cloud", "crop and thin a scan; writes x,y,z a line, mm");
    cloud_command->add_option("cloud", c.cloud, "XYZ, CSV or PLY file")->required();
    cloud_command->add_option("-o,--output", c.out, "file to write")->required();
    cloud_command->add_option("--unit", c.unit, "of the file")->check(CLI::IsMember({"auto", "mm", "m", "in"}));
    cloud_command->add_option("--box", c.box, "x0,y0,z0,x1,y1,z1: keep what lies in it, mm");
    cloud_command->add_option("--slab", c.slab, "nx,ny,nz,d,half: keep what lies within half of the plane n·p = d");
    cloud_command->add_option("--cell", c.cell, "one point each so many mm; 0 keeps all; about 6000 when absent");
    cloud_command->add_flag("--keep-lonely", c.keep_lonely, "keep points that lie alone, far from all others");
    cloud_command->callback([&c] { cloud(c); });
}

void add_nest(CLI::App& app, NestArguments& n) {
    auto* nest_command = app.add_subcommand("nest", "lay parts on sheets");
    nest_command->add_option("parts", n.parts, "parts file (docs/nesting-format.md)")->required();
    nest_command->add_option("-o,--output", n.out, "layout file to write")->required();
    nest_command->add_option("--seconds", n.seconds, "time to look for better layouts");
    nest_command->add_option("--seed", n.seed);
    nest_command->callback([&n] { nest(n); });
}

void add_boat(CLI::App& app, BoatArguments& b, int argc, char** argv) {
    auto* dry = app.add_subcommand("dry-fit", "what was seen when a piece was offered up, and what is to be done");
    dry->add_option("job", b.job, "job file")->required();
    dry->add_option("--piece", b.piece, "id of a piece")->required();
    dry->add_option("--gaps", b.gaps, "edge,along_mm,gap_mm[,sigma_mm] a line; touch or rocks in place of a gap")
        ->required();
    dry->add_flag("--pattern", b.pattern, "it was a trial pattern, not the piece itself");
    dry->add_option("-o,--output", b.out, "job file to write, with the fitting in it");
    dry->add_option("--guide", b.pdf, "PDF to write: the shaving guide");
    dry->callback([&b, argc, argv] { dry_fit(b, argc, argv); });
    auto* set = app.add_subcommand("setting-out", "a piece's lines at the boat, as offsets and ties; prints JSON");
    set->add_option("job", b.job, "job file")->required();
    set->add_option("--piece", b.piece, "id of a piece")->required();
    set->add_option("--from", b.from, "a piece; two marks (M1,M2) for a string; three for a plane")->required();
    set->add_option("--pdf", b.pdf, "PDF to write: the page for the boat");
    set->callback([&b, argc, argv] { setting_out(b, argc, argv); });
}

int run(int argc, char** argv) {
    CLI::App app{"Bevelsmith: the computation without the window"};
    app.require_subcommand(1);
    constexpr double longest_limit_s = 86'400;
    app.add_option("--limit", bounds.seconds, "seconds of processor time that a command may take")
        ->check(CLI::Range(1.0, longest_limit_s));

    SectionArguments s;
    add_section(app, s);

    std::string path;
    const auto file_command = [&](const char* name, const char* option, const char* file, const char* what,
                                  auto action) {
        auto* command = app.add_subcommand(name, what);
        command->add_option(option, path, file)->required();
        command->callback([&path, action] { action(path); });
    };
    file_command("report", "job", "job file", "all results of a job as JSON", report);
    file_command("check", "job", "job file", "what a second pair of eyes finds, as JSON", check);
    file_command("validate", "job", "job file", "whether a file is a job", [](const std::string& job_path) {
        file_at_work = job_path;
        value_or_fail(job::load_job(job_path), job_path);
    });
    file_command("inspect", "file", "any file", "what a file is, by its contents, and whether it can be read",
                 inspect);
    file_command("outlines", "drawing", "DXF file", "closed outlines of a drawing (DXF) as JSON, mm", outlines);

    ExportArguments e;
    add_export(app, e, argc, argv);

    PapersArguments p;
    add_papers(app, p, argc, argv);

    CloudArguments c;
    add_cloud(app, c);

    std::string marks_job, marks_out;
    auto* marks_command = app.add_subcommand("marks", "the page of reference marks as a PDF");
    marks_command->add_option("job", marks_job, "job file")->required();
    marks_command->add_option("-o,--output", marks_out, "file to write")->required();
    marks_command->callback([&] { marks(marks_job, marks_out, argc, argv); });

    NestArguments n;
    add_nest(app, n);
    BoatArguments b;
    add_boat(app, b, argc, argv);

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& fault) {
        if (fault.get_exit_code() == 0) return app.exit(fault);
        fmt::print(stderr, "command line:1: {}\n", fault.what());
        return 2;
    }
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const Failure& f) {
        fmt::print(stderr, "{}:{}: {}\n", exchange::without_controls(f.where), std::max(1, f.error.line),
                   exchange::without_controls(f.error.message));
    } catch (const std::bad_alloc&) {
        fmt::print(stderr, "{}:1: there is not enough memory for it\n", file_at_work);
    } catch (const std::exception&) {
        fmt::print(stderr, "{}:1: this could not be computed: a fault of the program; please keep the file\n",
                   file_at_work);
    }
    return 2;
}

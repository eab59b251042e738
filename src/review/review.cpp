#include "review/review.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace bevelsmith::review {
namespace {

using job::Job;
using job::JobPiece;
using job::PieceResult;
using job::Results;

/// What a check of one piece looks at.
struct Subject {
    const Job& job;
    const Results& results;
    const JobPiece& piece;
    const PieceResult& result;
    const piece::Outline& shape;
};

using Findings = std::vector<Finding>;

void add(Findings& out, std::string_view check, Severity severity, const std::string& piece, std::string title,
         std::string evidence, std::string advice) {
    out.push_back(
        {std::string(check), severity, piece, std::move(title), std::move(evidence), std::move(advice), false, {}});
}

void passage(const Subject& s, Findings& out) {
    const auto& p = s.job.boat.passage;
    for (const auto& part : s.shape.parts)
        if (!part.passes)
            add(out, "passage", Severity::stop, s.piece.id, fmt::format("{} will not pass into the boat", part.name),
                fmt::format("narrowest width {:.0f} mm, {:.0f} mm thick; the passage is {:.0f} x {:.0f} mm",
                            part.passing_width_mm, s.shape.thickness_mm, p.width_mm, p.height_mm),
                "Let it be split with a scarf, or add a joint where structure will carry it.");
}

/// Screws reach the shell where blocks are left out or too thin for them.
void thin_laminate_screws(const Subject& s, Findings& out) {
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    const double laminate = s.job.boat.shell.laminate_mm, least = s.job.fixing_rules.least_laminate_for_screws_mm;
    if (laminate >= least || b.penetration_mm + 1e-9 < b.block_depth_mm) {
        if (b.screw_length_mm > 0) return;
        add(out, "thin laminate screws", Severity::stop, s.piece.id, "No stocked screw holds in these blocks",
            fmt::format("panel {:.1f} mm, block {:.0f} mm deep, laminate behind it {:.1f} mm", b.panel_mm,
                        b.block_depth_mm, laminate),
            "Use deeper blocks: a longer screw would end in the laminate, which is too thin for it.");
        return;
    }
    add(out, "thin laminate screws", Severity::stop, s.piece.id, "Screws would end in thin laminate",
        fmt::format("laminate {:.1f} mm, screws want {:.0f} mm at least", laminate, least),
        "Bond deeper blocks and use shorter screws.");
}

void block_under_structural(const Subject& s, Findings& out) {
    if (!s.piece.structural || s.result.fixing.method != fixing::Method::bonded_blocks) return;
    add(out, "block under a structural piece", Severity::stop, s.piece.id,
        "A removable fixing under a structural piece",
        fmt::format("{} bonded blocks carry a piece marked structural", s.result.fixing.blocks.positions.size()),
        "Tab it on both sides; have a designer, class or the builder confirm the laminate.");
}

void blocks_overloaded(const Subject& s, Findings& out) {
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    if (!b.overloaded || b.screw_length_mm <= 0) return;
    add(out, "blocks do not carry it", Severity::stop, s.piece.id, "The blocks do not carry the piece",
        fmt::format("{} blocks, the most that have room, for {:.0f} N", b.positions.size(), b.load_n),
        "Use larger blocks or a stronger bond, or hold it some other way.");
}

void screw_through(const Subject& s, Findings& out) {
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    const double least = s.job.fixing_rules.least_clearance_mm;
    if (b.screw_length_mm > 0 && b.clearance_mm >= std::max(least, 3.0) - 1e-9) return;
    add(out, "screw through", Severity::stop, s.piece.id, "A screw comes too near to what lies behind its block",
        fmt::format("{:.1f} mm clear behind the point, {:.0f} mm wanted", b.clearance_mm, std::max(least, 3.0)),
        "Use a shorter screw or a deeper block.");
}

/// A scribed edge that reaches the lowest point of the section dams the bilge.
void missing_limber(const Subject& s, Findings& out) {
    if (!s.piece.limbers.empty()) return;
    double lowest = HUGE_VAL, lowest_kept = HUGE_VAL;
    for (const auto& m : s.shape.marks) {
        lowest = std::min(lowest, m.a.y());
        if (m.kept) lowest_kept = std::min(lowest_kept, m.a.y());
    }
    if (lowest_kept > lowest + 50) return;
    add(out, "missing limber notch", Severity::mind, s.piece.id, "No limber notch at the low point",
        "the edge runs through the lowest point of the section, where water gathers",
        "Add a notch at the low point, or say why none is wanted.");
}

void sparse_readings(const Subject& s, Findings& out) {
    const double band = 1.96 * s.shape.largest_sigma_mm;
    int outside = 0, kept = 0;
    for (const auto& m : s.shape.marks) {
        kept += m.kept;
        outside += m.kept && !m.in_survey;
    }
    if (outside > 0)
        add(out, "readings too sparse", outside * 10 > kept ? Severity::stop : Severity::mind, s.piece.id,
            "Part of the edge lies outside the readings",
            fmt::format("{:.0f} % of the scribed edge is not surrounded by readings",
                        100.0 * outside / std::max(kept, 1)),
            "Take readings beyond the ends of the edge and on both sides of it.");
    if (band <= s.piece.wanted_fit_mm) return;
    add(out, "readings too sparse", band > 2 * s.piece.wanted_fit_mm ? Severity::stop : Severity::mind, s.piece.id,
        "The edge is not known well enough for the fit wanted",
        fmt::format("95 % band up to ±{:.1f} mm, wanted {:.1f} mm", band, s.piece.wanted_fit_mm),
        "Take more readings near the edge, or leave wood on for shaving.");
}

void opening_corner(const Subject& s, Findings& out) {
    constexpr double least_radius_mm = 50;  // common practice for doorways in bulkheads: a crack starts in a corner
    for (const auto& o : s.piece.openings) {
        const double radius = std::min({o.radius_mm, o.width_mm / 2, o.height_mm / 2});
        if (radius >= least_radius_mm) continue;
        const auto severity = radius < 12 ? Severity::stop : s.piece.structural ? Severity::mind : Severity::note;
        add(out, "opening corner too sharp", severity, s.piece.id,
            fmt::format("The corners of '{}' are sharp", o.name),
            fmt::format("radius {:.0f} mm; {:.0f} mm is usual, and cloth turns no less than 12 mm", radius,
                        least_radius_mm),
            "Round the corners more.");
    }
}

void outline_fault(const JobPiece& piece, const PieceResult& result, Findings& out) {
    if (!result.outline || result.outline->ok()) return;
    add(out, "outline", Severity::stop, piece.id, fmt::format("{} has no outline yet", piece.name),
        result.outline->error().message, "Settle this first; nothing can be cut before.");
}

void sheet_too_small(const Job& job, const Results& results, Findings& out) {
    if (results.sheets_pending) return;
    for (const auto& sheet : results.sheets)
        for (const auto& left : sheet.layout->unplaced) {
            const auto& part = sheet.problem->parts[static_cast<std::size_t>(left.part)];
            const auto box = geometry::bounding_box(part.shape.outer);
            const auto* material = job::find_material(job, sheet.material_id);
            const std::string piece = part.id.substr(0, part.id.find('/'));
            add(out, "sheet too small", Severity::stop, piece,
                fmt::format("{} does not fit on a sheet", sheet.part_names[static_cast<std::size_t>(left.part)]),
                fmt::format("part {:.0f} x {:.0f} mm with its grain, sheet {:.0f} x {:.0f} mm: {}", box.width(),
                            box.height(), material->sheet_width_mm, material->sheet_height_mm, left.reason),
                "Add a joint, turn the grain, or get more or larger sheets.");
        }
}

/// "R1 reading 11 by -36 mm, R3 reading 7 by +98 mm"; of very many the first few.
std::string suspects_in_words(const Job& job, const job::SurfaceResult& surface, const hull::FitReport& report) {
    constexpr int named = 8;
    std::string out;
    int told = 0;
    for (std::size_t k = 0; k < surface.points.size(); ++k) {
        const auto& at = surface.points[k];
        if (!report.readings[k].suspect || job::is_scanned(job, at)) continue;
        if (++told > named) continue;
        const auto& set = job.readings[static_cast<std::size_t>(at.set)];
        const std::string which = at.reading < 0 ? fmt::format("a mirrored reading of {}", set.mirror_of)
                                                 : fmt::format("reading {}", at.reading + 1);
        out += fmt::format("{}{} {} by {:+.0f} mm", out.empty() ? "" : ", ", set.id, which,
                           report.readings[k].residual_mm);
    }
    return told > named ? fmt::format("{} and {} more", out, told - named) : out;
}

/// Readings left out of a surface. Those of a scan are nobody's slips: hoses and frames, unless there are very many.
void readings_left_out(const Job& job, std::size_t which, const job::SurfaceResult& s, Findings& out) {
    constexpr double many = 0.15;
    const auto [doubtful, strays, scanned] = job::left_out(job, s);
    const std::string& name = job.surfaces[which].name;
    if (doubtful > 0)
        add(out, "suspect readings", Severity::mind, {},
            fmt::format("{} of {} readings of {} do not fit the others", doubtful,
                        static_cast<int>(s.points.size()) - scanned, name),
            suspects_in_words(job, s, s.fitted()->report) + "; left out of the surface until corrected",
            s.ridge && *s.ridge
                ? "See to the chine that was not entered first: without it good readings near it look "
                  "wrong. Then look at what is left in Measure."
                : "Look at them in Measure; read those spots again.");
    if (strays > 0)
        add(out, "suspect readings", strays > many * scanned ? Severity::mind : Severity::note, {},
            fmt::format("{} of {} scanned points do not lie on {}", strays, scanned, name),
            "left out of the surface, as hoses, frames and other things before the hull are",
            "See in Shape where they lie, in red: crop what is not the hull, and enter a chine if there is one.");
}

/// What the sides of the boat differ by where they were compared, and chines that nobody entered.
void shape_faults(const Job& job, const Results& results, Findings& out) {
    constexpr double unequal_mm = 5;  // common practice: sides differ by 5 to 30 mm and more
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        const auto& s = results.surfaces[i];
        if (s.ridge && *s.ridge)
            add(out, "chine not entered", Severity::mind, {},
                fmt::format("{} seems to have a chine that was not entered", job.surfaces[i].name),
                fmt::format(
                    "its readings turn by {:.0f} degrees along a line; fitted as a fair surface the corner is "
                    "rounded off",
                    std::abs((*s.ridge)->kink_deg)),
                "Take readings along it as a chine; Shape shows where it runs.");
        double largest = 0;
        for (const auto& side : s.sides)
            if (std::abs(side.mean_mm) > std::abs(largest)) largest = side.mean_mm;
        if (std::abs(largest) > unequal_mm)
            add(out, "sides unequal", Severity::mind, {},
                fmt::format("the sides of the boat are not alike where {} is mirrored", job.surfaces[i].name),
                fmt::format("check readings lie {:+.0f} mm off the other side's shape", largest),
                "Measure the edges that matter on this side too, and do not cut the mirrored part from the other's "
                "pattern.");
    }
}

void surface_faults(const Job& job, const Results& results, Findings& out) {
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        const auto& s = results.surfaces[i];
        if (!s.points.empty() && s.fit && !s.fit->ok())
            add(out, "surface", Severity::stop, {}, fmt::format("{} cannot be fitted", job.surfaces[i].name),
                s.fit->error().message, "See the readings in Measure.");
        if (s.fitted()) readings_left_out(job, i, s, out);
    }
}

/// Stages that failed. The rest stands, and the job can be saved.
void not_computed(const Results& results, Findings& out) {
    for (const job::Fault& fault : results.faults)
        add(out, "not computed", Severity::stop, fault.piece_id,
            fmt::format("This could not be computed: {}", fault.what), fault.why,
            "Undo what was changed last, or go on with the rest; the job can be saved as it is.");
}

void apply_set_aside(const Job& job, Findings& out) {
    for (Finding& f : out)
        for (const auto& aside : job.set_aside)
            if (aside.check == f.check && aside.piece_id == f.piece_id) {
                f.set_aside = true;
                f.reason = aside.reason;
            }
}

using PieceCheck = void (*)(const Subject&, Findings&);
constexpr PieceCheck piece_checks[] = {passage,       thin_laminate_screws, block_under_structural, blocks_overloaded,
                                       screw_through, missing_limber,       sparse_readings,        opening_corner};

}  // namespace

std::string_view severity_word(Severity s) {
    return s == Severity::stop ? "stop" : s == Severity::mind ? "mind" : "note";
}

const std::vector<std::string_view>& check_names() {
    static const std::vector<std::string_view> names{"passage",
                                                     "thin laminate screws",
                                                     "block under a structural piece",
                                                     "blocks do not carry it",
                                                     "screw through",
                                                     "missing limber notch",
                                                     "readings too sparse",
                                                     "opening corner too sharp",
                                                     "sheet too small",
                                                     "chine not entered",
                                                     "sides unequal",
                                                     "not computed"};
    return names;
}

std::vector<Finding> review(const Job& job, const Results& results) {
    Findings out;
    surface_faults(job, results, out);
    shape_faults(job, results, out);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const PieceResult& result = results.pieces[i];
        outline_fault(job.pieces[i], result, out);
        if (const auto* shape = result.shape())
            for (PieceCheck check : piece_checks) check({job, results, job.pieces[i], result, *shape}, out);
    }
    sheet_too_small(job, results, out);
    apply_set_aside(job, out);
    not_computed(results, out);
    std::stable_sort(out.begin(), out.end(), [](const Finding& a, const Finding& b) {
        if (a.set_aside != b.set_aside) return b.set_aside;
        return a.severity > b.severity;
    });
    return out;
}

}  // namespace bevelsmith::review

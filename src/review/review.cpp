#include "review/review.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "hull/inside.h"
#include "hull/keel.h"
#include "job/in_full.h"
#include "job/slip_hint.h"
#include "job/stray_cause.h"
#include "piece/reach.h"
#include "review/checks.h"

namespace bevelsmith::review {
namespace {

using job::Job;
using job::JobPiece;
using job::PieceResult;
using job::Results;

/// What is not scribed is not fixed to the hull but to other pieces.
bool is_scribed(const Subject& s) {
    return s.shape.edge_length_mm > 0;
}

void passage(const Subject& s, Findings& out) {
    const auto& p = s.job.boat.passage;
    for (const auto& part : s.shape.parts)
        if (!part.passes)
            add(out, CheckId::passage, Severity::stop, s.piece.id,
                fmt::format("{} will not pass into the boat", part.name),
                fmt::format("narrowest width {:.0f} mm, {:.0f} mm thick; the passage is {:.0f} x {:.0f} mm{}{}",
                            part.passing_width_mm, s.shape.thickness_mm, p.width_mm, p.height_mm,
                            p.corner_mm > 0 ? fmt::format(", its corners of {:.0f} mm radius", p.corner_mm) : "",
                            p.hands_mm > 0 ? fmt::format(", {:.0f} mm a side kept for hands", p.hands_mm) : ""),
                "Let it be split with a scarf, or add a joint where structure will carry it.");
}

/// Screws reach the shell where blocks are left out or too thin for them.
void thin_laminate_screws(const Subject& s, Findings& out) {
    if (!is_scribed(s)) return;
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    const double laminate = s.job.boat.shell.laminate_mm, least = s.job.fixing_rules.least_laminate_for_screws_mm;
    if (laminate >= least || b.penetration_mm + 1e-9 < b.block_depth_mm) {
        if (b.screw_length_mm > 0) return;
        add(out, CheckId::thin_laminate_screws, Severity::stop, s.piece.id, "No stocked screw holds in these blocks",
            fmt::format("panel {:.1f} mm, block {:.0f} mm deep, laminate behind it {:.1f} mm", b.panel_mm,
                        b.block_depth_mm, laminate),
            "Use deeper blocks: a longer screw would end in the laminate, which is too thin for it.");
        return;
    }
    add(out, CheckId::thin_laminate_screws, Severity::stop, s.piece.id, "Screws would end in thin laminate",
        fmt::format("laminate {:.1f} mm, screws want {:.0f} mm at least", laminate, least),
        "Bond deeper blocks and use shorter screws.");
}

void block_under_structural(const Subject& s, Findings& out) {
    if (!is_scribed(s)) return;
    if (!s.piece.structural || s.result.fixing.method != fixing::Method::bonded_blocks) return;
    add(out, CheckId::structural_on_blocks, Severity::stop, s.piece.id, "A removable fixing under a structural piece",
        fmt::format("{} bonded blocks carry a piece marked structural", s.result.fixing.blocks.positions.size()),
        "Tab it on both sides; have a designer, class or the builder confirm the laminate.");
}

void blocks_overloaded(const Subject& s, Findings& out) {
    if (!is_scribed(s)) return;
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    if (!b.overloaded || b.screw_length_mm <= 0) return;
    add(out, CheckId::blocks_too_weak, Severity::stop, s.piece.id, "The blocks do not carry the piece",
        fmt::format("{} blocks, the most that have room, for {:.0f} N", b.positions.size(), b.load_n),
        "Use larger blocks or a stronger bond, or hold it some other way.");
}

void screw_through(const Subject& s, Findings& out) {
    if (!is_scribed(s)) return;
    if (s.result.fixing.method != fixing::Method::bonded_blocks) return;
    const auto& b = s.result.fixing.blocks;
    const double least = s.job.fixing_rules.least_clearance_mm;
    if (b.screw_length_mm > 0 && b.clearance_mm >= std::max(least, 3.0) - 1e-9) return;
    add(out, CheckId::screw_through, Severity::stop, s.piece.id,
        "A screw comes too near to what lies behind its block",
        fmt::format("{:.1f} mm clear behind the point, {:.0f} mm wanted", b.clearance_mm, std::max(least, 3.0)),
        "Use a shorter screw or a deeper block.");
}

/// A scribed edge that reaches the lowest point of the section dams the bilge.
void missing_limber(const Subject& s, Findings& out) {
    // A level piece has no low point, and what is not scribed drains over its own edge.
    if (!s.piece.limbers.empty() || s.shape.edge_length_mm <= 0 || std::abs(s.shape.frame.normal.z()) > 0.9) return;
    double lowest = HUGE_VAL, lowest_kept = HUGE_VAL;
    for (const auto& m : s.shape.marks) {
        lowest = std::min(lowest, m.a.y());
        if (m.kept) lowest_kept = std::min(lowest_kept, m.a.y());
    }
    if (lowest_kept > lowest + 50) return;
    add(out, CheckId::no_limber, Severity::mind, s.piece.id, "No limber notch at the low point",
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
        add(out, CheckId::readings_too_sparse, outside * 10 > kept ? Severity::stop : Severity::mind, s.piece.id,
            "Part of the edge lies outside the readings",
            fmt::format("{:.0f} % of the scribed edge is not surrounded by readings",
                        100.0 * outside / std::max(kept, 1)),
            "Take readings beyond the ends of the edge and on both sides of it.");
    if (band <= s.piece.wanted_fit_mm) return;
    add(out, CheckId::readings_too_sparse, band > 2 * s.piece.wanted_fit_mm ? Severity::stop : Severity::mind,
        s.piece.id, "The edge is not known well enough for the fit wanted",
        fmt::format("95 % band up to ±{:.1f} mm, wanted {:.1f} mm", band, s.piece.wanted_fit_mm),
        "Take more readings near the edge, or leave wood on for shaving.");
}

/// An edge that is cut to stop at another piece, where that has no wood.
void nothing_to_meet(const Subject& s, Findings& out) {
    constexpr double worth_saying_mm = 10;
    for (std::size_t k = 0; k < s.piece.edges.size(); ++k) {
        const auto& edge = s.piece.edges[k];
        if (edge.kind != piece::EdgeKind::piece || edge.meeting != piece::Meeting::stops) continue;
        const auto* other = s.results.piece(edge.piece_id);
        if (!other || !other->shape()) continue;
        const double unmet = piece::without_support_mm(s.shape, static_cast<int>(k), *other->shape());
        if (unmet < worth_saying_mm) continue;
        const auto* named = job::find_piece(s.job, edge.piece_id);
        add(out, CheckId::meets_nothing, Severity::mind, s.piece.id,
            fmt::format("{}: its edge '{}' meets {} only in part", s.piece.name, edge.name, named->name),
            fmt::format("{:.0f} mm of it stop where that piece has no wood", unmet),
            "Make the other piece reach so far, move this one, or end the edge at a line.");
    }
}

/// A piece that stands outside of the hull it is scribed to, or on the other side of the readings from where they
/// were taken: whatever the surface says.
void wrong_side(const Subject& s, Findings& out) {
    constexpr std::size_t asked = 15;
    const Vec3 centre = s.shape.frame.to_space(geometry::centroid(s.shape.face_a));
    for (const auto& edge : s.piece.edges) {
        if (edge.kind != piece::EdgeKind::scribed) continue;
        const auto* surface = s.results.surface(edge.surface_id);
        const auto spec = std::find_if(s.job.surfaces.begin(), s.job.surfaces.end(),
                                       [&](const auto& one) { return one.id == edge.surface_id; });
        if (!surface || !surface->fitted() || spec == s.job.surfaces.end()) continue;
        std::vector<std::pair<double, double>> near;  // distance, and whether the piece lies the way in
        for (std::size_t k = 0; k < surface->points.size(); ++k) {
            const auto& p = surface->points[k];
            if (surface->fitted()->report.readings[k].suspect) continue;
            const Vec3 way = centre - p.position;
            if (way.norm() > 1)
                near.emplace_back(way.norm(), hull::way_in(p, {spec->inside, spec->part, {}}).dot(way));
        }
        std::sort(near.begin(), near.end());
        near.resize(std::min(near.size(), asked));
        int in = 0, outside = 0;
        for (const auto& [distance, cosine] : near) (cosine > 0 ? in : outside) += cosine != 0;
        const double beyond = surface->face->distance_mm(centre);
        if (beyond <= 0 && outside <= 2 * in) continue;
        add(out, CheckId::wrong_side, Severity::stop, s.piece.id,
            fmt::format("{} lies outside of {}", s.piece.name, spec->name),
            beyond > 0
                ? fmt::format("its middle is {:.0f} mm beyond the surface", beyond)
                : fmt::format("{} of the {} nearest readings were taken from the other side", outside, in + outside),
            "See in Shape which side is the boat's inside, and turn it round if it is not so.");
    }
}

void opening_corner(const Subject& s, Findings& out) {
    constexpr double least_radius_mm = 50;  // common practice for doorways in bulkheads: a crack starts in a corner
    for (const auto& o : s.piece.openings) {
        const double radius = std::min({o.radius_mm, o.width_mm / 2, o.height_mm / 2});
        const bool round = o.line.empty() && o.radius_mm >= std::min(o.width_mm, o.height_mm) / 2 - 0.01;
        if (radius >= least_radius_mm || round) continue;
        const auto severity = radius < 12 ? Severity::stop : s.piece.structural ? Severity::mind : Severity::note;
        add(out, CheckId::sharp_opening, severity, s.piece.id, fmt::format("The corners of '{}' are sharp", o.name),
            fmt::format("radius {:.0f} mm; {:.0f} mm is usual, and cloth turns no less than 12 mm", radius,
                        least_radius_mm),
            "Round the corners more.");
    }
}

/// Its surface is being measured: nothing is wrong.
bool waits_for_readings(const Results& results, const JobPiece& piece) {
    return std::any_of(piece.edges.begin(), piece.edges.end(), [&](const auto& edge) {
        if (edge.kind != piece::EdgeKind::scribed) return false;
        const auto* surface = results.surface(edge.surface_id);
        return surface && !surface->fitted() && hull::too_few_yet(surface->points);
    });
}

std::string surface_name(const Job& job, const std::string& id) {
    for (const auto& s : job.surfaces)
        if (s.id == id) return s.name;
    return "no surface";
}

void outline_fault(const Job& job, const Results& results, const JobPiece& piece, const PieceResult& result,
                   Findings& out) {
    if (!result.outline || result.outline->ok()) return;
    if (const std::string surface = job::unread_side(job, piece); !surface.empty()) {
        add(out, CheckId::other_side_unread, Severity::stop, piece.id,
            fmt::format("nobody has read {} on the side where {} stands", surface_name(job, surface), piece.name),
            result.outline->error().message,
            "Read it there, or start with the other side's readings mirrored and check them at the spots that are "
            "then named.");
        out.back().mendings.push_back({job::Mending::Kind::mirrored_start, piece.id, surface});
        return;
    }
    if (!piece::is_made(piece.role)) {
        add(out, CheckId::outline, Severity::note, piece.id, fmt::format("{} stands as a face alone", piece.name),
            result.outline->error().message,
            "What ends at it ends at its plane. Take its outline down in Pieces where it is to carry or to be seen.");
        return;
    }
    const bool unfinished = waits_for_readings(results, piece);
    add(out, CheckId::outline, unfinished ? Severity::note : Severity::stop, piece.id,
        fmt::format("{} has no outline yet", piece.name), result.outline->error().message,
        unfinished ? "It will have one as soon as its surface is measured."
                   : "Settle this first; nothing can be cut before.");
}

/// The first suspects in their sets' own terms; of very many a few.
struct Suspects {
    std::string words, first_set;
    int first_reading = -1;
};
Suspects suspects_of(const Job& job, const job::SurfaceResult& surface) {
    constexpr int named = 6;
    Suspects out;
    int told = 0;
    const auto& fit = *surface.fitted();
    const auto in_boat = job::readings_in_boat(job);
    for (std::size_t k = 0; k < surface.points.size(); ++k) {
        const auto& at = surface.points[k];
        const auto& judged = fit.report.readings[k];
        if (!surface.doubts(k) || job::is_scanned(job, at) || job::is_stray(fit, at)) continue;
        if (++told > named) continue;
        const auto s = static_cast<std::size_t>(at.set);
        const auto& set = job.readings[s];
        const std::string which =
            at.reading < 0 || !in_boat
                ? fmt::format("a mirrored reading of {} {:.0f} mm {}", set.mirror_of, std::abs(judged.residual_mm),
                              judged.residual_mm > 0 ? "outside" : "inside")
                : job::suspect_words((*in_boat)[s], at.reading, judged.residual_mm, fit.surface);
        out.words += fmt::format("{}{} {}", out.words.empty() ? "" : "; ", set.id, which);
        if (told > 1) continue;
        out.first_set = set.id;
        out.first_reading = at.reading;
    }
    if (told > named) out.words += fmt::format("; and {} more", told - named);
    return out;
}

/// Readings left out of a surface. Those of a scan are nobody's slips: hoses and frames, unless there are very many.
void readings_left_out(const Job& job, std::size_t which, const job::SurfaceResult& s, Findings& out) {
    constexpr double many = 0.15;
    const auto [doubtful, strays, scanned] = job::left_out(job, s);
    const std::string& name = job.surfaces[which].name;
    if (doubtful > 0) {
        const Suspects suspects = suspects_of(job, s);
        add(out, CheckId::suspect_readings, Severity::mind, {},
            fmt::format("{} of {} readings of {} do not fit the others", doubtful,
                        static_cast<int>(s.points.size()) - scanned, name),
            suspects.words + "; left out of the surface until corrected",
            "Look at them in Measure; read those spots again.");
        out.back().set_id = suspects.first_set;
        out.back().reading = suspects.first_reading;
    }
    if (strays > 0)
        add(out, CheckId::suspect_readings, strays > many * scanned ? Severity::mind : Severity::note, {},
            fmt::format("{} of {} scanned points do not lie on {}", strays, scanned, name),
            "left out of the surface, as hoses, frames and other things before the hull are",
            "See in Shape where they lie, in red: crop what is not the hull, and enter a chine if there is one.");
}

void chine_not_entered(const std::string& surface, const hull::Ridges& ridges, Findings& out) {
    std::string turns;
    for (const auto& ridge : ridges.lines)
        turns += fmt::format("{}{:.0f}",
                             turns.empty()                    ? ""
                             : &ridge == &ridges.lines.back() ? " and "
                                                              : ", ",
                             std::abs(ridge.kink_deg));
    const bool one = ridges.lines.size() == 1;
    add(out, CheckId::chine_not_entered, Severity::mind, {},
        one ? fmt::format("{} has a chine or keel that was not entered", surface)
            : fmt::format("{} has {} chines or keels that were not entered", surface, ridges.lines.size()),
        fmt::format("it turns by {} degrees: {}; without {} the corner is rounded off", turns, ridges.evidence(),
                    one ? "it" : "them"),
        "Shape shows where, and takes it over at a press; readings along it make it exact.");
}

/// No smooth surface goes through them, and no kink that was tried makes it go.
void readings_scatter(const std::string& surface, const hull::FitReport& report, Findings& out) {
    constexpr double far_more = 4;  // common practice: a hand that reads twice as badly as it thinks is usual
    if (report.scatter < far_more) return;
    add(out, CheckId::readings_scatter, Severity::mind, {},
        fmt::format("the readings of {} scatter {:.0f} times as much as was said of them", surface, report.scatter),
        fmt::format("the surface leaves {:.1f} mm (r.m.s.); every piece that meets it is as uncertain as that",
                    report.rms_mm),
        "Look in Shape where they lie off it: a corner that was not entered, a line that was set up elsewhere than "
        "it "
        "says, another unit. If the hand is no better, say so where the set says what one reading is good to.");
}

/// Between the readings on both sides of it a smooth surface rounds a keel off, and its band does not know.
void keel_unread(const job::SurfaceSpec& spec, const job::SurfaceResult& s, Findings& out) {
    if (!s.fitted() || spec.part != hull::SurfacePart::hull) return;
    const auto keel = hull::keel_unread(*s.fitted(), s.points);
    if (!keel) return;
    add(out, CheckId::keel_unread, Severity::mind, {},
        fmt::format("{} may turn at a keel that was not read", spec.name),
        fmt::format(
            "at {:.0f} mm fwd the nearest readings lie {:.0f} mm to port and {:.0f} mm to starboard of the "
            "centre line, and the bottom turns by {:.0f} degrees between them; carried on straight both sides "
            "meet {:.0f} mm below the surface",
            keel->x_mm, keel->port_mm, keel->starboard_mm, keel->turn_deg, keel->lower_mm),
        "Read the keel at every station; where it is a corner, enter those readings as a line that is hard.");
}

/// What the sides of the boat differ by where they were compared, and chines that nobody entered.
void shape_faults(const Job& job, const Results& results, Findings& out) {
    constexpr double unequal_mm = 5;  // common practice: sides differ by 5 to 30 mm and more
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        const auto& s = results.surfaces[i];
        if (s.ridges && s.ridges->any()) chine_not_entered(job.surfaces[i].name, *s.ridges, out);
        else if (s.ridges && s.fitted()) readings_scatter(job.surfaces[i].name, s.fitted()->report, out);
        if (!s.ridges || !s.ridges->any()) keel_unread(job.surfaces[i], s, out);
        double largest = 0;
        for (const auto& side : s.sides)
            if (std::abs(side.mean_mm) > std::abs(largest)) largest = side.mean_mm;
        if (std::abs(largest) > unequal_mm)
            add(out, CheckId::sides_unequal, Severity::mind, {},
                fmt::format("the sides of the boat are not alike where {} is mirrored", job.surfaces[i].name),
                fmt::format("check readings lie {:+.0f} mm off the other side's shape", largest),
                "Measure the edges that matter on this side too, and do not cut the mirrored part from the other's "
                "pattern.");
    }
}

/// Sets that as a whole do not lie where the others do.
void stray_sets(const Job& job, const hull::FittedSurface& fit, Findings& out) {
    const auto in_boat = job::readings_in_boat(job);
    for (int which : fit.report.stray_sets) {
        const auto k = static_cast<std::size_t>(which);
        add(out, CheckId::stray_set, Severity::mind, {},
            fmt::format("'{}' as a whole does not lie where the others do", job.readings[k].name),
            fmt::format("its {} readings are left out of {}; {}", job.readings[k].readings.size(),
                        surface_name(job, job.readings[k].surface_id),
                        in_boat ? job::stray_cause((*in_boat)[k], fit.surface) : "the datum is not known"),
            "See in Measure where it stood, which side it faces and what it lies on.");
        out.back().set_id = job.readings[k].id;
    }
}

/// Instruments that, as they were entered, stood outside; and an inside that nobody told.
void inside_faults(const Job& job, std::size_t which, const job::SurfaceResult& surface, Findings& out) {
    const hull::FittedSurface& fit = *surface.fitted();
    const auto& inside = fit.report.inside;
    for (int set : inside.against) {
        if (std::count(fit.report.stray_sets.begin(), fit.report.stray_sets.end(), set)) continue;
        add(out, CheckId::inside, Severity::mind, {},
            fmt::format("'{}' was read from outside {}, as it stands",
                        job.readings[static_cast<std::size_t>(set)].name, job.surfaces[which].name),
            fmt::format("the boat is taken to be {}, {}", hull::direction_words(inside.toward),
                        hull::from_words(inside.from)),
            "See in Measure where it stood and which way it was read.");
        out.back().set_id = job.readings[static_cast<std::size_t>(set)].id;
    }
    // A hull's side has the boat on the side of the centre line, wherever the lines are said to have stood.
    double y = 0, count = 0;
    for (const auto& p : surface.points) y += p.position.y(), ++count;
    constexpr double clearly = 0.5, off_centre_mm = 100;
    const bool outboard = std::abs(y / count) > off_centre_mm && inside.toward.y() * y / std::abs(y) > clearly;
    if (job.surfaces[which].part == hull::SurfacePart::hull && outboard &&
        inside.from == hull::Inside::From::instrument)
        add(out, CheckId::inside, Severity::stop, {},
            fmt::format("By where the instruments stood the boat lies outboard of {}", job.surfaces[which].name),
            fmt::format("its readings lie {:.0f} mm off the centre line in the mean, and were taken from beyond it",
                        std::abs(y / count)),
            "See in Measure where the lines stood and which way they were read, or turn the surface round in Shape.");
    if (inside.from == hull::Inside::From::assumed)
        add(out, CheckId::inside, Severity::note, {},
            fmt::format("which side of {} is the boat's inside is assumed", job.surfaces[which].name),
            fmt::format("the boat is taken to be {}", hull::direction_words(inside.toward)),
            "Say in Shape what it is of the boat, or turn it round there.");
}

void surface_faults(const Job& job, const Results& results, Findings& out) {
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        const auto& s = results.surfaces[i];
        if (!s.points.empty() && s.fit && !s.fit->ok()) {
            const bool unfinished = hull::too_few_yet(s.points).has_value();
            add(out, CheckId::surface, unfinished ? Severity::note : Severity::stop, {},
                job.surfaces[i].name + (unfinished ? " is being measured" : " cannot be fitted"),
                s.fit->error().message, unfinished ? "Go on in Measure." : "See the readings in Measure.");
        }
        if (!s.fitted()) continue;
        readings_left_out(job, i, s, out);
        stray_sets(job, *s.fitted(), out);
        inside_faults(job, i, s, out);
    }
}

/// Stages that failed. The rest stands, and the job can be saved.
void not_computed(const Results& results, Findings& out) {
    for (const job::Fault& fault : results.faults)
        add(out, CheckId::not_computed, Severity::stop, fault.piece_id,
            fmt::format("This could not be computed: {}", fault.what), fault.why,
            "Undo what was changed last, or go on with the rest; the job can be saved as it is.");
}

/// Checks speak in millimetres; a person reads the job's unit.
void tell_in_unit(const Job& job, Findings& out) {
    for (Finding& f : out)
        for (std::string* text : {&f.title, &f.evidence, &f.advice}) *text = units::in_unit(*text, job.unit);
}

/// The set that it is about and what it says, without figures: these change with every move of a piece.
void say_what_they_are_about(Findings& out) {
    for (Finding& f : out) {
        f.about = f.set_id + (f.set_id.empty() ? "" : ": ");
        for (char c : f.title)
            if (!std::isdigit(static_cast<unsigned char>(c)) && c != '.') f.about += c;
    }
}

void apply_set_aside(const Job& job, Findings& out) {
    for (Finding& f : out)
        for (const auto& aside : job.set_aside)
            if (is_named(check_of(f.check), aside.check) && aside.piece_id == f.piece_id &&
                (aside.about.empty() || aside.about == f.about)) {
                f.set_aside = true;
                f.reason = aside.reason;
            }
}

constexpr PieceCheck piece_checks[] = {passage,
                                       thin_laminate_screws,
                                       block_under_structural,
                                       blocks_overloaded,
                                       screw_through,
                                       missing_limber,
                                       sparse_readings,
                                       opening_corner,
                                       wrong_side,
                                       nothing_to_meet,
                                       carried,
                                       joint_in_air,
                                       in_the_way,
                                       rail_too_narrow,
                                       lift_hole_too_small,
                                       no_room_to_swell,
                                       beam_too_shallow,
                                       beam_end_in_air,
                                       mirrored_only,
                                       bearing_too_narrow,
                                       skins_unequal,
                                       holes_placed_badly,
                                       edges_too_thin,
                                       lids_too_loose,
                                       pattern_advised};

}  // namespace

void add(Findings& out, CheckId check, Severity severity, const std::string& piece, std::string title,
         std::string evidence, std::string advice) {
    out.push_back({check,
                   severity,
                   piece,
                   std::move(title),
                   std::move(evidence),
                   std::move(advice),
                   false,
                   {},
                   {},
                   -1,
                   {},
                   {}});
}

MendedIn mended_in(const Finding& finding) {
    if (!finding.set_id.empty()) return MendedIn::measure;
    const MendedIn step = check_of(finding.check).step;
    // Of no piece is what hinders them all: the surface.
    return step == MendedIn::pieces && finding.piece_id.empty() ? MendedIn::measure : step;
}

std::vector<Finding> review(const Job& job, const Results& results) {
    Findings out;
    surface_faults(job, results, out);
    placing_faults(job, out);
    shape_faults(job, results, out);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const PieceResult& result = results.pieces[i];
        outline_fault(job, results, job.pieces[i], result, out);
        leans_on_what_goes(job, job.pieces[i], out);
        if (const auto* shape = job::made_shape(job.pieces[i], result))
            for (PieceCheck check : piece_checks) check({job, results, job.pieces[i], result, *shape}, out);
    }
    clashes(job, results, out);
    room_for_people(job, results, out);
    sheet_too_small(job, results, out);
    changed_since_cut(job, results, out);
    cut_and_gone(job, results, out);
    offcut_nearly_fits(job, results, out);
    bar_too_short(job, results, out);
    say_what_they_are_about(out);
    tell_in_unit(job, out);
    apply_set_aside(job, out);
    not_computed(results, out);
    std::stable_sort(out.begin(), out.end(), [](const Finding& a, const Finding& b) {
        if (a.set_aside != b.set_aside) return b.set_aside;
        return a.severity > b.severity;
    });
    return out;
}

}  // namespace bevelsmith::review

#include "job/starting_piece.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "job/loose_piece.h"

namespace bevelsmith::job {
namespace {

/// Clear distances inboard of what is known, where the boat gives no place (common practice): a half-bulkhead to a
/// passage, a shelf's depth, a face's height.
constexpr double clear_inboard_mm[] = {0, 600, 400, 300, 0, 0, 0};
constexpr double film_mm = 0.25, gap_mm = 3;

/// A stretch of the section that readings surround, on face A, in order along the edge.
struct Stretch {
    std::vector<Vec2> points;
    Vec2 inward{0, 0};  ///< towards the boat's inside, in the mean (unit)
    double length_mm = 0;
    Vec2 direction_at(std::size_t i) const {
        const std::size_t a = i > 0 ? i - 1 : 0, b = std::min(points.size() - 1, i + 1);
        return (points[b] - points[a]).normalized();
    }
    geometry::Box box() const { return geometry::bounding_box(points); }
};

/// A place of face A and all of face B next to it are surrounded by readings.
bool known(const hull::SectionPoint& p) {
    return p.in_survey;
}

void close_stretch(std::vector<Stretch>& out, Stretch& now, const Vec2& normals) {
    if (now.points.size() >= 8) {
        for (std::size_t i = 1; i < now.points.size(); ++i)
            now.length_mm += (now.points[i] - now.points[i - 1]).norm();
        if (normals.norm() > 1e-9) now.inward = -normals.normalized();
        out.push_back(now);
    }
    now = {};
}

/// The longest stretch along which the plane meets the surface within its survey.
std::optional<Stretch> known_stretch(const hull::Surface& surface, const geometry::Plane& plane, double thickness) {
    hull::SectionOptions options;
    options.step_mm = 20;
    const auto runs = hull::cut_section(surface, plane, thickness, options);
    if (!runs) return std::nullopt;
    const auto frame = geometry::upright_frame(plane);
    std::vector<Stretch> found;
    for (const auto& run : *runs) {
        Stretch now;
        Vec2 normals = Vec2::Zero();
        for (const auto& p : run.points) {
            if (!known(p)) {
                close_stretch(found, now, normals);
                normals.setZero();
                continue;
            }
            now.points.push_back(frame.to_plane(p.a));
            normals += Vec2(frame.u.dot(p.normal), frame.v.dot(p.normal));
        }
        close_stretch(found, now, normals);
    }
    if (found.empty()) return std::nullopt;
    return *std::max_element(found.begin(), found.end(),
                             [](const Stretch& a, const Stretch& b) { return a.length_mm < b.length_mm; });
}

Vec3 normal_of(StartingKind kind) {
    return kind == StartingKind::long_face ? Vec3(Vec3::UnitY())
           : kind == StartingKind::shelf   ? Vec3(-Vec3::UnitZ())  // face A is the upper one
                                           : Vec3(Vec3::UnitX());
}

double share_of(std::vector<double> values, double share) {
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

/// A place of the plane and the longest edge that is known there.
struct Standing {
    double at_mm = 0;
    Stretch edge;
    double worth = 0;
};

/// A half of the boat's section, where the edge runs from side to side.
Stretch one_side(const Stretch& edge) {
    Stretch halves[2];
    for (const Vec2& p : edge.points) {
        const int k = p.x() < 0 ? 0 : 1;
        if (!halves[k].points.empty()) halves[k].length_mm += (p - halves[k].points.back()).norm();
        halves[k].points.push_back(p);
    }
    Stretch& out = halves[halves[1].length_mm > halves[0].length_mm];
    out.inward = edge.inward + Vec2(out.points[out.points.size() / 2].x() < 0 ? 0.5 : -0.5, 0);
    return out;
}

/// Places where an edge is known, the longest first; those near the middle are preferred.
std::vector<Standing> places(const SurfaceResult& surface, StartingKind kind, double thickness,
                             std::optional<double> wanted, double step) {
    const Vec3 normal = normal_of(kind);
    std::vector<double> along;
    for (const auto& p : surface.points) along.push_back(normal.dot(p.position));
    std::vector<Standing> out;
    for (double share : {0.5, 0.45, 0.55, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8, 0.1, 0.9}) {
        const double at = wanted.value_or(std::round(share_of(along, share) / step) * step);
        auto edge = known_stretch(*surface.face, {normal, at}, thickness);
        if (edge && kind == StartingKind::half_bulkhead) edge = one_side(*edge);
        if (edge && edge->points.size() >= 8)
            out.push_back({at, *edge, edge->length_mm * (1 - 0.6 * std::abs(share - 0.5))});
        if (wanted) break;
    }
    std::stable_sort(out.begin(), out.end(), [](const Standing& a, const Standing& b) { return a.worth > b.worth; });
    return out;
}

/// The middle of what was read.
double middle_of(const SurfaceResult& surface, StartingKind kind) {
    std::vector<double> along;
    for (const auto& p : surface.points) along.push_back(normal_of(kind).dot(p.position));
    return std::round(share_of(along, 0.5) / 10) * 10;
}

/// Upright or level, whichever cuts the edge more squarely there; the piece lies on the side it comes from.
Vec2 end_side(const Vec2& leaving) {
    return std::abs(leaving.x()) > std::abs(leaving.y()) ? Vec2(leaving.x() > 0 ? 1 : -1, 0)
                                                         : Vec2(0, leaving.y() > 0 ? 1 : -1);
}

struct Limit {
    Vec2 side{0, 1};
    double at_mm = 0;
};

/// Rounded on the inner side, so that no rounding leaves the survey.
double rounded(double at_mm, double step) {
    return std::floor(at_mm / step) * step;
}

/// The two ends of the edge, `share` of its length in from where it stops being known.
std::vector<Limit> end_limits(const Stretch& edge, double share, double step) {
    const std::size_t n = edge.points.size();
    const auto in = std::min(n / 2 - 1, static_cast<std::size_t>(share * static_cast<double>(n)) + 1);
    Vec2 first = end_side(-edge.direction_at(in)), last = end_side(edge.direction_at(n - 1 - in));
    // One upright and one level end close an outline only where both lie towards the inside, as at a round bilge.
    // Under a hollow flare they open away from it: then both are cut the way that the edge as a whole runs.
    const bool square = std::abs(first.dot(last)) < 0.5;
    if (square && (first.dot(edge.inward) <= 0 || last.dot(edge.inward) <= 0)) {
        last = end_side(edge.points[n - 1 - in] - edge.points[in]);
        first = -last;
    }
    Limit a{first, rounded(first.dot(edge.points[in]), step)},
        b{last, rounded(last.dot(edge.points[n - 1 - in]), step)};
    if (a.side != b.side) return {a, b};
    return {{a.side, std::min(a.at_mm, b.at_mm)}};
}

/// Two ends that face each other leave the side away from the hull open. Across the boat it is closed on the centre
/// line where that is a sensible distance away, else a clear distance from the hull's innermost place.
std::optional<Limit> inboard_limit(const Stretch& edge, const std::vector<Limit>& ends, StartingKind kind,
                                   double step) {
    if (ends.size() != 2 || (ends[0].side + ends[1].side).norm() > 1e-9) return std::nullopt;
    const Vec2 across(-ends[0].side.y(), ends[0].side.x());
    const Vec2 side = across.dot(edge.inward) > 0 ? across : Vec2(-across);
    double innermost = -1e9;
    for (const Vec2& p : edge.points) innermost = std::max(innermost, side.dot(p));
    const bool upright_across = kind == StartingKind::half_bulkhead && std::abs(side.x()) > 0.5;
    if (upright_across && innermost < -250 && innermost > -1500) return Limit{side, 0};
    double at = innermost + std::max(clear_inboard_mm[static_cast<int>(kind)], 300.0);
    // A shelf or a half-bulkhead ends at the centre line at the latest.
    if (kind != StartingKind::long_face && std::abs(side.x()) > 0.5 && innermost < -60) at = std::min(at, 0.0);
    return Limit{side, rounded(at, step)};
}

std::string limit_name(StartingKind kind, const Vec2& side) {
    const bool right = side.x() > 0.5, left = side.x()<-0.5, up = side.y()> 0.5;
    if (kind == StartingKind::shelf) return right || left ? "front" : up ? "fwd end" : "aft end";
    return right || left ? "inboard" : up ? "top" : "bottom";
}

void add_limits(JobPiece& piece, StartingKind kind, const std::vector<Limit>& limits) {
    const auto frame = geometry::upright_frame(piece.plane);
    for (const Limit& limit : limits) {
        std::string name = limit_name(kind, limit.side);
        // A profile may be drawn with the bow at either hand.
        if (kind == StartingKind::long_face && std::abs(limit.side.x()) > 0.5)
            name = frame.u.x() * limit.side.x() > 0 ? "fwd end" : "aft end";
        std::vector<std::string> taken;
        for (const auto& e : piece.edges) taken.push_back(e.name);
        if (std::find(taken.begin(), taken.end(), name) != taken.end()) name = free_id(name + " ", taken);
        piece.edges.push_back({piece::EdgeKind::straight, name, {}, limit.side, limit.at_mm, 0, film_mm});
    }
}

/// What an outline must hold to be offered: closed, surrounded by readings, on the inner side of the hull.
bool sound(const piece::Outline& outline, const hull::Surface& surface) {
    const Vec2 c = geometry::centroid(outline.face_a);
    return outline.all_in_survey && surface.distance_mm(outline.frame.to_space(c)) < 0;
}

struct Fit {
    bool on_sheet = false;
    double across_over_mm = 0;
};
Fit fits_sheet(const piece::Outline& outline, const JobMaterial& m, double margin_mm) {
    Fit out{true, 0};
    for (const auto& part : outline.parts) {
        const bool fits = part.blank_along_mm <= m.sheet_width_mm - 2 * margin_mm &&
                          part.blank_across_mm <= m.sheet_height_mm - 2 * margin_mm;
        out.on_sheet = out.on_sheet && fits;
        out.across_over_mm = std::max(out.across_over_mm, part.blank_across_mm - (m.sheet_height_mm - 2 * margin_mm));
    }
    return out;
}

/// Grain along the longer side, or the other way where only that fits the sheet.
void turn_grain(JobPiece& piece, const piece::Outline& outline) {
    const auto box = geometry::bounding_box(outline.face_a.outer);
    piece.grain_deg = box.width() >= box.height() ? 0 : 90;
}

const SurfaceResult* main_surface(const Results& results) {
    const SurfaceResult* best = nullptr;
    for (const auto& s : results.surfaces)
        if (s.face && (!best || s.points.size() > best->points.size())) best = &s;
    return best;
}

geometry::Box box_of(const Results& results, const geometry::PlaneFrame& frame) {
    std::vector<Vec2> places;
    for (const auto& s : results.surfaces)
        for (const auto& p : s.points) places.push_back(frame.to_plane(p.position));
    if (places.size() < 2) return {{-500, 0}, {500, 1000}};
    return geometry::bounding_box(places);
}

/// Where nothing is known to be met, the readings' box a little inside: an outline that can be mended by hand.
void bound_by_readings(JobPiece& piece, StartingKind kind, const Results& results, double step) {
    const auto box = box_of(results, geometry::upright_frame(piece.plane));
    const Vec2 in = box.size() / 10;
    std::vector<Limit> limits{{{0, 1}, rounded(box.max.y() - in.y(), step)}};
    if (kind == StartingKind::half_bulkhead) limits.push_back({{1, 0}, rounded(box.max.x() - in.x(), step)});
    if (kind == StartingKind::shelf || kind == StartingKind::long_face) {
        limits.push_back({{0, -1}, rounded(-box.min.y() - in.y(), step)});
        limits.push_back({{1, 0}, rounded(box.max.x() - in.x(), step)});
    }
    add_limits(piece, kind, limits);
}

JobPiece named_piece(const Job& job, StartingKind kind) {
    JobPiece p;
    std::vector<std::string> ids;
    for (const auto& other : job.pieces) ids.push_back(other.id);
    const bool across = kind == StartingKind::bulkhead || kind == StartingKind::half_bulkhead;
    p.id = free_id(across ? "B" : kind == StartingKind::shelf ? "S" : "P", ids);
    std::vector<std::string> names;
    for (const auto& other : job.pieces) names.push_back(other.name);
    p.name = free_name(starting_words(kind).name, names);
    p.kind = starting_words(kind).kind;
    p.place = "New";
    p.plane.normal = normal_of(kind);
    p.material_id = job.materials.empty() ? "" : job.materials.front().id;
    p.structural = kind == StartingKind::bulkhead;
    p.removable = !p.structural;
    p.grain_deg = across ? 90 : 0;
    return p;
}

bool reaches_low_point(const Stretch& edge) {
    const auto lowest = std::min_element(edge.points.begin(), edge.points.end(),
                                         [](const Vec2& a, const Vec2& b) { return a.y() < b.y(); });
    const auto at = lowest - edge.points.begin();
    return at > 2 && at + 3 < static_cast<std::ptrdiff_t>(edge.points.size());
}

/// Straight edges at the ends of what is known, drawn in until the outline is sound and, where it can be, fits its
/// sheet. False where no such piece was found.
bool bound_by_edge(JobPiece& piece, StartingKind kind, const Stretch& edge, const SurfaceResult& surface,
                   const JobMaterial& material, const Job& job) {
    const auto lookup = [&](const std::string&) { return surface.face.get(); };
    std::optional<JobPiece> sound_one;
    for (double share : {0.04, 0.07, 0.11, 0.16, 0.22, 0.3, 0.38}) {
        std::vector<Limit> limits = end_limits(edge, share, step_mm(job));
        const auto inboard = inboard_limit(edge, limits, kind, step_mm(job));
        if (inboard) limits.push_back(*inboard);
        JobPiece tried = piece;
        add_limits(tried, kind, limits);
        auto outline = piece::compute_outline(tried, material.thickness_mm, lookup, job.boat.passage);
        if (!outline || !sound(*outline, *surface.face)) continue;
        turn_grain(tried, *outline);
        outline = piece::compute_outline(tried, material.thickness_mm, lookup, job.boat.passage);
        if (!outline) continue;
        const Fit fit = fits_sheet(*outline, material, job.cutting.edge_margin_mm);
        if (fit.on_sheet) {
            piece = tried;
            return true;
        }
        if (!sound_one) sound_one = tried;
        if (!inboard || fit.across_over_mm <= 0) continue;
        // Narrower, where the open side may come in.
        tried.edges.back().at_mm = rounded(tried.edges.back().at_mm - fit.across_over_mm, step_mm(job));
        outline = piece::compute_outline(tried, material.thickness_mm, lookup, job.boat.passage);
        if (!outline || !sound(*outline, *surface.face) ||
            !fits_sheet(*outline, material, job.cutting.edge_margin_mm).on_sheet)
            continue;
        piece = tried;
        return true;
    }
    if (sound_one) piece = *sound_one;
    return sound_one.has_value();
}

bool both_sides_known(const SurfaceResult& surface) {
    double least = 1e9, most = -1e9;
    for (const auto& p : surface.points) {
        least = std::min(least, p.position.y());
        most = std::max(most, p.position.y());
    }
    return least < -100 && most > 100 && std::min(-least, most) > 0.3 * std::max(-least, most);
}

}  // namespace

double step_mm(const Job& job) {
    return units::in_inches(job.unit) ? units::mm_per_inch / 2 : 10;
}

const StartingWords& starting_words(StartingKind kind) {
    static constexpr StartingWords all[] = {
        {"Bulkhead", "bulkhead",
         "Across the boat from side to side: structure, tabbed on both sides. Halves meet at a joint that you set.",
         "face A at, fwd"},
        {"Half-bulkhead", "half-bulkhead", "Across the boat, from the hull to an inboard edge.", "face A at, fwd"},
        {"Face", "panel", "Along the boat: a furniture face, a settee front.", "face A at, off centre"},
        {"Shelf", "shelf", "Level: a shelf, a counter, a sole or berth panel.", "face A at, up"},
        {"Corner post", "corner post", "Upright, where two faces meet: solid wood, its grain along it.",
         "face A at, fwd"},
        {"Brackets", "bracket", "Small gussets, all alike: say how many.", "face A at, fwd"},
        {"Wash board", "wash board", "Closes the companionway: slides in from above, narrower at its foot.",
         "face A at, fwd"},
    };
    return all[static_cast<int>(kind)];
}

std::vector<StartingKind> kinds_offered(const Job&, const Results& results) {
    const SurfaceResult* surface = main_surface(results);
    if (surface && both_sides_known(*surface))
        return {StartingKind::bulkhead,  StartingKind::half_bulkhead, StartingKind::shelf,
                StartingKind::long_face, StartingKind::corner_post,   StartingKind::bracket,
                StartingKind::wash_board};
    return {StartingKind::half_bulkhead, StartingKind::shelf,   StartingKind::long_face,
            StartingKind::corner_post,   StartingKind::bracket, StartingKind::wash_board};
}

JobPiece starting_piece(const Job& job, const Results& results, StartingKind kind, std::optional<double> at_mm) {
    JobPiece p = named_piece(job, kind);
    if (is_loose(kind)) {
        fill_loose_piece(p, job, results, kind, at_mm);
        return p;
    }
    const SurfaceResult* surface = main_surface(results);
    const JobMaterial* material = find_material(job, p.material_id);
    const std::string id = surface ? surface->id : job.surfaces.empty() ? "" : job.surfaces.front().id;
    p.edges.push_back({piece::EdgeKind::scribed, "hull", id, {0, 1}, 0, gap_mm, film_mm});
    p.plane = geometry::placed_at(p.plane, at_mm.value_or(0));
    const std::optional<double> wanted = at_mm ? std::optional(p.plane.d_mm) : std::nullopt;
    if (!surface || !material) {
        bound_by_readings(p, kind, results, step_mm(job));
        return p;
    }
    for (const Standing& placed : places(*surface, kind, material->thickness_mm, wanted, step_mm(job))) {
        p.plane.d_mm = placed.at_mm;
        if (!bound_by_edge(p, kind, placed.edge, *surface, *material, job)) continue;
        if (kind == StartingKind::bulkhead && reaches_low_point(placed.edge)) p.limbers.push_back({});
        return p;
    }
    p.plane.d_mm = wanted.value_or(middle_of(*surface, kind));
    bound_by_readings(p, kind, results, step_mm(job));
    return p;
}

double bounding_edge_mm(const PieceResult& piece, const Vec2& side) {
    double most = -1e9;
    if (const auto* shape = piece.shape())
        for (const Vec2& q : shape->face_a.outer) most = std::max(most, side.dot(q));
    else if (piece.sketch)
        for (const auto& line : piece.sketch->lines)
            if (line.source == piece::EdgeSource::scribed)
                for (const Vec2& q : line.points) most = std::max(most, side.dot(q));
    return most > -1e8 ? most : 0;
}

}  // namespace bevelsmith::job

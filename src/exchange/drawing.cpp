#include "exchange/drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exchange/edge_marks.h"
#include "exchange/plain_text.h"
#include "exchange/stands_in_words.h"
#include "job/file_io.h"
#include "piece/features.h"
#include "piece/fitting.h"
#include "piece/hole_rows.h"
#include "piece/joints.h"
#include "piece/lid.h"
#include "piece/relief.h"
#include "units/figures.h"
#include "units/places.h"

namespace bevelsmith::exchange {
namespace {

bool on_rim(const Vec2& p, const geometry::Polygon& face) {
    return on_ring(p, face.outer) ||
           std::any_of(face.holes.begin(), face.holes.end(), [&](const auto& hole) { return on_ring(p, hole); });
}

/// How much of this stretch of edge is left behind mark `i`.
double left_mm(const std::vector<piece::EdgeMark>& marks, std::size_t i) {
    std::size_t k = i;
    while (k + 1 < marks.size() && marks[k + 1].arc_mm - marks[k].arc_mm <= 60) ++k;
    return marks[k].arc_mm - marks[i].arc_mm;
}

/// Every `spacing` along the edge, with both ends of each stretch.
template <class Take>
void every(const std::vector<piece::EdgeMark>& marks, double spacing_mm, Take take) {
    double next = -1;
    for (std::size_t i = 0; i < marks.size(); ++i) {
        const bool starts = i == 0 || marks[i].arc_mm - marks[i - 1].arc_mm > 60;
        const bool ends = i + 1 == marks.size() || marks[i + 1].arc_mm - marks[i].arc_mm > 60;
        if (starts) next = marks[i].arc_mm;
        if (!ends && marks[i].arc_mm < next) continue;
        if (!starts && !ends && left_mm(marks, i) < spacing_mm / 3) continue;
        take(i);
        while (next <= marks[i].arc_mm) next += spacing_mm;
    }
}

Vec2 outward_at(const std::vector<piece::EdgeMark>& marks, std::size_t i) {
    const Vec2 a = marks[i > 0 ? i - 1 : i].a, b = marks[i + 1 < marks.size() ? i + 1 : i].a;
    const Vec2 along = b - a;
    return along.norm() > 1e-9 ? Vec2(along.y(), -along.x()) / along.norm() : Vec2(0, -1);
}

void add_ticks(Drawing& d, const std::vector<piece::EdgeMark>& marks, const Vec2& corner) {
    every(marks, tick_spacing_mm, [&](std::size_t i) {
        d.ticks.push_back({marks[i].a - corner, outward_at(marks, i), units::degrees(marks[i].bevel_rad)});
    });
}

void add_tables(Drawing& d, std::vector<piece::EdgeMark> marks, const Vec2& corner, double step_mm) {
    for (auto& m : marks) m.a -= corner, m.b -= corner;
    every(marks, step_mm, [&](std::size_t i) {
        const auto& m = marks[i];
        d.rows.push_back(
            {m.arc_mm, m.a.x(), m.a.y(), m.b.x(), m.b.y(), units::degrees(m.bevel_rad), m.sigma_mm, m.in_survey});
    });
    d.bases = base_lines(marks, step_mm);
}

/// Walls of slots that are sawn at a bevel, at the outline and within.
void add_slot_ticks(Drawing& d, const piece::Outline& outline, const geometry::Polygon& face_a, const Vec2& corner) {
    constexpr double square_rad = 0.001;
    const auto tick = [&](const Vec2& from, const Vec2& to, double bevel_rad) {
        const Vec2 along = to - from, middle = (from + to) / 2;
        if (std::abs(bevel_rad) < square_rad || along.norm() < 1 || !on_rim(middle, face_a)) return;
        d.ticks.push_back({middle - corner, Vec2(along.y(), -along.x()).normalized(), units::degrees(bevel_rad)});
    };
    const auto& ring = outline.sheet_a.outer;
    for (const auto& edge : outline.cut_edges())
        if (edge.source == piece::EdgeSource::crossing)
            tick(ring[static_cast<std::size_t>(edge.first)], ring[static_cast<std::size_t>(edge.last)],
                 edge.bevel_rad);
    for (const auto& wall : outline.slot_walls) tick(wall.from, wall.to, wall.bevel_rad);
}

/// Of a part only what lies on it.
void add_reliefs(Drawing& d, const piece::PieceSpec& spec, const piece::Outline& outline, const geometry::Polygon& a,
                 const geometry::Polygon& b, const Vec2& corner) {
    for (const auto& relief : piece::reliefs_of(spec, outline)) {
        ReliefLine next{relief.face, relief.most_mm, {}};
        const auto close = [&] {
            if (next.line.size() > 1) d.reliefs.push_back(next);
            next.line.clear();
        };
        for (const Vec2& p : relief.line) {
            if (geometry::contains((relief.face == piece::Face::a ? a : b).outer, p)) next.line.push_back(p - corner);
            else close();
        }
        close();
    }
}

void add_joints(Drawing& d, const piece::Outline& outline, const Vec2& corner) {
    for (const auto& j : outline.joints) {
        const double at = j.at_mm - (j.upright ? corner.x() : corner.y());
        const double reach = j.upright ? d.box.width() : d.box.height();
        if (at <= 0 || at >= reach) continue;
        d.joint_lines.push_back({j.upright ? Vec2(at, 0) : Vec2(0, at),
                                 j.upright ? Vec2(at, d.box.height()) : Vec2(d.box.width(), at),
                                 piece::joint_word(j.kind), j.upright, at});
    }
}

/// Which edge of the outline that is cut a place lies on, its name and bevel there.
class EdgeFinder {
  public:
    EdgeFinder(const job::JobPiece& piece, const piece::Outline& outline) : piece_(piece), outline_(outline) {}

    EdgeThere at(const Vec2& p) const {
        const auto& ring = outline_.sheet_a.outer;
        const piece::Edge* nearest = nullptr;
        double best = HUGE_VAL;
        for (const auto& edge : outline_.cut_edges()) {
            int i = edge.first;
            do {
                const int next = (i + 1) % static_cast<int>(ring.size());
                const double off = geometry::distance_to_segment_mm(p, ring[static_cast<std::size_t>(i)],
                                                                    ring[static_cast<std::size_t>(next)]);
                if (off < best) best = off, nearest = &edge;
                i = next;
            } while (i != edge.last);
        }
        if (best > on_edge_mm) {
            // Not on face A: within the panel, or on its face B, behind the nearest edge.
            const EdgeThere there = within(p);
            constexpr double behind = 4;
            if (!there.name.empty() || best > behind * outline_.thickness_mm) return there;
        }
        const bool scribed = nearest->source == piece::EdgeSource::scribed;
        return {nearest->name, units::degrees(scribed ? mark_bevel(p) : nearest->bevel_rad)};
    }

  private:
    static constexpr double on_edge_mm = 1;

    /// Not on the outline: a slot's wall, an opening's edge, or where a joint divides the piece.
    EdgeThere within(const Vec2& p) const {
        for (const auto& wall : outline_.slot_walls)
            if (geometry::distance_to_segment_mm(p, wall.from, wall.to) < on_edge_mm)
                return {"slot for " + wall.name, units::degrees(wall.bevel_rad)};
        for (const auto& j : outline_.joints) {
            const auto [lower, upper] = piece::reach_past_mm(j, outline_.thickness_mm);
            const double off = std::abs((j.upright ? p.x() : p.y()) - j.at_mm);
            if (off < std::max(lower, upper) + on_edge_mm) return {piece::joint_word(j.kind), 0};
        }
        for (const auto& o : piece_.openings)
            if (distance_to_ring_mm(p, piece::opening_shape(o).outer) < on_edge_mm) return {o.name, 0};
        return {};
    }
    double mark_bevel(const Vec2& p) const {
        const piece::EdgeMark* best = nullptr;
        for (const auto& m : outline_.cut_marks())
            if (m.kept && (!best || (m.a - p).squaredNorm() < (best->a - p).squaredNorm())) best = &m;
        return best ? best->bevel_rad : 0;
    }

    const job::JobPiece& piece_;
    const piece::Outline& outline_;
};

/// At the middle of each edge's longest stretch that this part has.
/// The notes of those of a ring's edges that lie on face A as drawn, each at the longest stretch of its edge.
void note_edges(std::vector<std::pair<double, EdgeNote>>& notes, const job::JobPiece& piece,
                const geometry::Ring& ring, const std::vector<piece::Edge>& edges, const geometry::Polygon& face_a,
                const Vec2& corner) {
    const int n = static_cast<int>(ring.size());
    for (const auto& edge : edges) {
        const bool own = edge.source == piece::EdgeSource::scribed || edge.source == piece::EdgeSource::straight ||
                         edge.source == piece::EdgeSource::free;
        if (!own || edge.spec < 0 || edge.length_mm <= notes[static_cast<std::size_t>(edge.spec)].first) continue;
        // Its middle by length, and the way out there.
        double left = edge.length_mm / 2;
        int i = edge.first;
        const auto at = [&](int k) -> const Vec2& { return ring[static_cast<std::size_t>((k + n) % n)]; };
        while (left > (at(i + 1) - at(i)).norm() && (i + 1) % n != edge.last)
            left -= (at(i + 1) - at(i)).norm(), i = (i + 1) % n;
        const Vec2 along = (at(i + 1) - at(i)).normalized();
        const Vec2 middle = at(i) + left * along;
        if (!on_ring(middle, face_a.outer)) continue;
        const auto k = static_cast<std::size_t>(edge.spec);
        const auto& e = piece.edges[k];
        notes[k] = {edge.length_mm,
                    {middle - corner, Vec2(along.y(), -along.x()), e.name, e.gap_mm, e.coating_mm, e.covering_mm,
                     e.overhang_mm, e.lipping_mm, e.leave_on_mm}};
    }
}

/// Of a trial pattern some edges are those that are cut, and those with a lipping the finished ones.
void add_notes(Drawing& d, const job::JobPiece& piece, const piece::Outline& outline, const geometry::Polygon& face_a,
               const Vec2& corner) {
    std::vector<std::pair<double, EdgeNote>> notes(piece.edges.size());
    note_edges(notes, piece, outline.sheet_a.outer, outline.cut_edges(), face_a, corner);
    if (outline.cut_differs()) note_edges(notes, piece, outline.face_a.outer, outline.edges_a, face_a, corner);
    for (const auto& [length_mm, note] : notes)
        if (length_mm > 0) d.notes.push_back(note);
}

std::vector<PlainOpening> plain_openings(const job::JobPiece& piece, const Vec2& corner) {
    std::vector<PlainOpening> out;
    const auto add = [&](const piece::OpeningSpec& o, bool round) {
        if (!o.line.empty()) return;
        const Vec2 low = Vec2(o.left_mm, o.bottom_mm) - Vec2::Constant(o.guard_mm) - corner;
        const double w = o.width_mm + 2 * o.guard_mm, h = o.height_mm + 2 * o.guard_mm;
        const double r = std::min(o.radius_mm + (o.radius_mm > 0 ? o.guard_mm : 0), std::min(w, h) / 2);
        round = round || (std::abs(w - h) < 1e-9 && r >= w / 2 - 1e-9);
        if (round) out.push_back({o.name, true, low + Vec2::Constant(w / 2), w, h, r});
        else out.push_back({o.name, false, low, w, h, r});
    };
    for (const auto& o : piece.openings) add(o, false);
    for (const auto& row : piece.rows)
        if (const auto layout = piece::laid_out(row))
            for (const auto& hole : piece::holes_of(row, *layout)) add(hole, true);
    return out;
}

Ways ways_of(const geometry::PlaneFrame& frame) {
    return {{frame.u.z(), frame.v.z()}, {frame.u.x(), frame.v.x()}, {frame.u.y(), frame.v.y()}};
}

std::string path_of(const geometry::Polygon& p, double height) {
    std::string out;
    const auto ring = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i)
            out += fmt::format("{}{:.4f} {:.4f} ", i ? "L" : "M", r[i].x(), height - r[i].y());
        out += "Z ";
    };
    ring(p.outer);
    for (const auto& h : p.holes) ring(h);
    return out;
}

}  // namespace

namespace {

std::string made_of(const job::Job& job, const job::JobPiece& piece) {
    const auto* material = job::find_material(job, piece.material_id);
    const bool plies = !piece.layup.face_a.empty() || !piece.layup.face_b.empty();
    const std::string stack = piece.sheets_thick > 1 ? fmt::format("{} sheets of ", piece.sheets_thick) : "";
    return stack + (material ? material->name : std::string()) + (plies ? " with its plies" : "");
}

/// Of lids that are what is cut out of their openings: how they are cut.
void say_lids(Drawing& d, const job::Job& job, const job::JobPiece& piece) {
    const double kerf = job.cutting.tool == job::Tool::router ? job.cutting.cutter_mm : job.cutting.kerf_mm;
    for (const auto& o : piece.openings) {
        if (o.lid != piece::LidFrom::own_opening) continue;
        const auto lid = piece::own_lid(o.lid_clearance_mm, kerf, job.coating.film_mm);
        constexpr double worth_planing_mm = 0.05;
        const std::string plane =
            lid.planed_mm < worth_planing_mm
                ? std::string()
                : fmt::format(", plane {} a side off it", units::figure_with_unit(lid.planed_mm, job.unit));
        d.making.push_back(fmt::format("Lid of '{}': what is cut out; plunge on the line{}.", o.name, plane));
    }
}

/// Sheets that are glued up, and plies on the faces.
void say_sheets_and_plies(Drawing& d, const job::JobPiece& piece) {
    if (piece.sheets_thick > 1)
        d.making.push_back(
            fmt::format("Cut {} sheets to the blank, glue them up flat, then cut the whole.", piece.sheets_thick));
    const auto say = [&](const char* face, const std::vector<stock::Plies>& plies) {
        std::vector<std::string> cloths;
        for (const auto& one : plies)
            cloths.push_back(
                fmt::format("{} x {} {:g} g/m²", one.count, stock::glass_name(one.glass.kind), one.glass.mass_g_m2));
        if (!cloths.empty())
            d.making.push_back(fmt::format("{}, from the core out: {}.", face, fmt::join(cloths, ", ")));
    };
    say("Face A", piece.layup.face_a);
    say("Face B", piece.layup.face_b);
    static constexpr const char* closed[] = {"", "Close the core's edges with solid wood.",
                                             "Dig out the core at the edges, and fill.",
                                             "Lead the plies round the edges."};
    if (piece.layup.edges != stock::EdgeClosing::open)
        d.making.push_back(closed[static_cast<std::size_t>(piece.layup.edges)]);
}

/// Both faces as cut, and as they stand where that is another shape; moved so that their box begins at (0, 0), which
/// is given back. `part` is null of a whole piece.
Vec2 add_faces(Drawing& d, const piece::Outline& shape, const geometry::Polygon& a, const geometry::Polygon& b,
               const piece::Part* part) {
    const auto box_a = geometry::bounding_box(a.outer), box_b = geometry::bounding_box(b.outer);
    const Vec2 corner = box_a.min.cwiseMin(box_b.min);
    d.box = {{0, 0}, box_a.max.cwiseMax(box_b.max) - corner};
    d.face_a = geometry::transformed(a, 0, -corner);
    d.face_b = geometry::transformed(b, 0, -corner);
    if (!shape.cut_differs()) return corner;
    d.finished_a = geometry::transformed(part ? part->finished_a : shape.face_a, 0, -corner);
    d.finished_b = geometry::transformed(part ? part->finished_b : shape.face_b, 0, -corner);
    // What is to come lies at edges that this piece or part does not have.
    constexpr double same_mm = 0.05;
    if (geometry::farthest_mm(d.finished_a, d.face_a) < same_mm &&
        geometry::farthest_mm(d.finished_b, d.face_b) < same_mm)
        d.finished_a = d.finished_b = {};
    return corner;
}

/// Of a trial pattern both faces are face A as it is offered up.
enum class Of { piece, pattern };

/// With tables where there is a step for their rows.
Result<Drawing> drawn(const job::Job& job, const job::Results& results, const std::string& id,
                      std::optional<double> step_mm, Of of = Of::piece) {
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto& piece = job.pieces[i];
        const bool whole = piece.id == id;
        if (!whole && !id.starts_with(piece.id + "/")) continue;
        const auto* shape = results.pieces[i].shape();
        if (!shape)
            return Error{
                fmt::format("piece '{}' has no outline: {}", piece.id, results.pieces[i].outline->error().message)};
        const piece::Part* part = nullptr;
        for (const auto& p : shape->parts)
            if (p.id == id) part = &p;
        if (!whole && !part) continue;
        geometry::Polygon a = whole ? shape->sheet_a : part->face_a, b = whole ? shape->sheet_b : part->face_b;
        if (of == Of::pattern) a = b = piece::offered_face(a, whole ? shape->face_a : part->finished_a);
        const auto marks = of == Of::pattern ? pattern_marks(piece, *shape, a) : marks_on(shape->cut_marks(), a);
        Drawing d;
        d.id = id;
        d.title = whole ? piece.name : part->name;
        d.unit = job.unit;
        d.thickness_mm = shape->thickness_mm;
        d.grain_deg = piece.grain_deg;
        d.good_face = piece.good_face, d.copies = piece.copies, d.sheets_thick = piece.sheets_thick;
        d.material = made_of(job, piece);
        const Vec2 corner = add_faces(d, *shape, a, b, whole ? nullptr : part);
        for (const auto& edge : piece.edges) d.edges.push_back(edge.name);
        d.ways = ways_of(shape->frame);
        d.stands = stands_in_words(piece, *shape, a, job.unit);
        if (whole) say_lids(d, job, piece);
        say_sheets_and_plies(d, piece);
        d.corner = corner;
        add_ticks(d, marks, corner);
        add_slot_ticks(d, *shape, a, corner);
        add_reliefs(d, piece, *shape, a, b, corner);
        for (piece::Drilled hole : piece.holes)
            if (geometry::contains(a.outer, hole.at)) hole.at -= corner, d.drilled.push_back(hole);
        add_notes(d, piece, *shape, a, corner);
        if (whole) add_joints(d, *shape, corner);
        if (!step_mm) return d;
        add_tables(d, marks, corner, *step_mm);
        const EdgeFinder finder(piece, *shape);
        d.setting_out = setting_out(
            d.face_a, d.face_b, d.thickness_mm, plain_openings(piece, corner),
            [&](const Vec2& p) { return finder.at(p + corner); }, *step_mm, job.unit);
        return d;
    }
    return Error{fmt::format("there is no piece '{}' in this job", id)};
}

}  // namespace

namespace {

/// Of a piece or part: its trial pattern, out of thin sheet, square-edged as face A is cut. The bevels stay in the
/// tables.
Result<Drawing> pattern_drawing(const job::Job& job, const job::Results& results, const std::string& id,
                                std::optional<double> step_mm) {
    const auto piece_drawing = drawn(job, results, id, step_mm, Of::pattern);
    if (!piece_drawing) return piece_drawing.error();
    Drawing d = *piece_drawing;
    const auto* piece = job::find_piece(job, job::piece_of_part(id));
    const auto* thin = piece ? job::find_material(job, piece->pattern_material) : nullptr;
    if (!thin) return Error{fmt::format("nobody has said what the trial pattern of '{}' is cut from", id)};
    d.id += job::pattern_suffix, d.title += ", trial pattern";
    d.material = thin->name, d.thickness_mm = thin->thickness_mm;
    d.finished_a = d.finished_b = {};
    for (auto& note : d.notes) note.lipping_mm = 0;
    d.copies = d.sheets_thick = 1;
    d.drilled.clear();
    d.making = {
        "Trial pattern: face A alone, its lippings included, cut with its edges square. Stand it with the side drawn "
        "here where face A is to be. Bevels in the tables are those that the piece itself will have."};
    return d;
}

bool is_pattern(const std::string& id) {
    return id.ends_with(job::pattern_suffix);
}

std::string without_suffix(const std::string& id) {
    return id.substr(0, id.size() - std::string(job::pattern_suffix).size());
}

}  // namespace

Result<Drawing> drawing_of(const job::Job& job, const job::Results& results, const std::string& id, double step_mm) {
    constexpr double least_step_mm = 10;
    const double step = std::max(least_step_mm, step_mm);
    if (is_pattern(id)) return pattern_drawing(job, results, without_suffix(id), step);
    return drawn(job, results, id, step);
}

Result<Drawing> bare_drawing_of(const job::Job& job, const job::Results& results, const std::string& id) {
    if (is_pattern(id)) return pattern_drawing(job, results, without_suffix(id), std::nullopt);
    return drawn(job, results, id, std::nullopt);
}

std::string words_of(const EdgeNote& note, units::LengthUnit unit) {
    std::vector<std::string> out;
    const auto say = [&](double mm, const char* what) {
        if (std::abs(mm) > 1e-9) out.push_back(fmt::format(fmt::runtime(what), units::figure_with_unit(mm, unit)));
    };
    say(note.lipping_mm, "lipping {} to come");
    say(note.leave_on_mm, "{} left on for shaving");
    say(note.covering_mm, "covering {} to come");
    say(note.overhang_mm, "overhang {}");
    say(note.gap_mm, "gap {}");
    if (out.empty()) return note.name;
    return fmt::format("{}: {}", note.name, fmt::join(out, "; "));
}

std::string words_of(const piece::Drilled& hole, units::LengthUnit unit) {
    return fmt::format("{}: {}{}", hole.number, units::figure_with_unit(hole.diameter_mm, unit),
                       hole.kind == piece::HoleKind::plain ? "" : fmt::format(", {}", piece::word_of(hole.kind)));
}

double usual_row_spacing_mm(units::LengthUnit unit) {
    return units::in_inches(unit) ? 4 * units::mm_per_inch : row_spacing_mm;
}

Drawing turned(Drawing d) {
    const double height = d.box.height();
    const auto at = [height](const Vec2& p) -> Vec2 { return {height - p.y(), p.x()}; };
    for (auto* face : {&d.face_a, &d.face_b, &d.finished_a, &d.finished_b}) {
        for (Vec2& p : face->outer) p = at(p);
        for (auto& hole : face->holes)
            for (Vec2& p : hole) p = at(p);
    }
    for (auto& t : d.ticks) t.at = at(t.at), t.outward = Vec2(-t.outward.y(), t.outward.x());
    for (auto& n : d.notes) n.at = at(n.at), n.outward = Vec2(-n.outward.y(), n.outward.x());
    for (auto& hole : d.drilled) hole.at = at(hole.at);
    for (auto& joint : d.joint_lines) joint.from = at(joint.from), joint.to = at(joint.to);
    for (Vec2* way : {&d.ways.up, &d.ways.fwd, &d.ways.port}) *way = Vec2(-way->y(), way->x());
    for (auto& relief : d.reliefs)
        for (Vec2& p : relief.line) p = at(p);
    for (auto& base : d.bases) base.from = at(base.from), base.to = at(base.to);
    d.box = {{0, 0}, {height, d.box.width()}};
    d.grain_deg += 90;
    d.on_its_side = true;
    return d;
}

Vec2 place_in(const Drawing& d, const Vec2& p) {
    const Vec2 at = d.setting_out.place_of(p);
    return d.on_its_side ? Vec2(d.box.width() - at.y(), at.x()) : at;
}

namespace {

std::string svg_path(const char* id, const geometry::Polygon& shape, double height, const char* style) {
    return fmt::format("<path id=\"{}\" fill=\"none\" stroke=\"#222\" {} d=\"{}\"/>\n", id, style,
                       path_of(shape, height));
}

std::string svg_words(const Vec2& at, double height, double size, const std::string& words) {
    return fmt::format(
        "<text stroke=\"none\" text-anchor=\"middle\" font-size=\"{}\" x=\"{:.2f}\" y=\"{:.2f}\">{}</text>\n", size,
        at.x(), height - at.y() + 2.5, xml_escaped(words));
}

std::string svg_marks(const Drawing& d) {
    const double height = d.box.height();
    std::string out =
        "<g id=\"marks\" stroke=\"#444\" stroke-width=\"0.2\" font-family=\"sans-serif\" font-size=\"7\">\n";
    constexpr double figures_mm = 7;
    for (const auto& t : d.ticks) {
        const Vec2 end = t.at + 8 * t.outward;
        out += fmt::format("<path d=\"M{:.4f} {:.4f} L{:.4f} {:.4f}\"/>", t.at.x(), height - t.at.y(), end.x(),
                           height - end.y());
        out += svg_words(t.at - 24 * t.outward, height, figures_mm, fmt::format("{:+.1f}°", t.bevel_deg));
    }
    for (const auto& joint : d.joint_lines) {
        out += fmt::format("<path stroke-dasharray=\"12 3 2 3\" d=\"M{:.4f} {:.4f} L{:.4f} {:.4f}\"/>\n",
                           joint.from.x(), height - joint.from.y(), joint.to.x(), height - joint.to.y());
        out += svg_words((joint.from + joint.to) / 2, height, figures_mm, joint.kind);
    }
    for (const auto& relief : d.reliefs) {
        std::string points;
        for (const Vec2& p : relief.line) points += fmt::format("{:.4f},{:.4f} ", p.x(), height - p.y());
        out += fmt::format("<polyline class=\"relief-{}\" fill=\"none\" stroke-dasharray=\"2 2\" points=\"{}\"/>\n",
                           relief.face == piece::Face::a ? "a" : "b", points);
    }
    for (const auto& hole : d.drilled) {
        out += fmt::format("<circle class=\"drill\" fill=\"none\" cx=\"{:.4f}\" cy=\"{:.4f}\" r=\"{:.4f}\"/>\n",
                           hole.at.x(), height - hole.at.y(), hole.diameter_mm / 2);
        out +=
            svg_words(hole.at + Vec2(0, hole.diameter_mm), height, figures_mm / 2, exchange::words_of(hole, d.unit));
    }
    for (const auto& note : d.notes)
        out += svg_words(note.at - 40 * note.outward, height, figures_mm, words_of(note, d.unit));
    out += svg_words(d.box.centre(), height, 2 * figures_mm, d.id);
    return out + "</g>\n";
}

}  // namespace

std::string what_lines_are(const Drawing& d) {
    constexpr double alike_mm = 0.05;
    if (!d.cut_differs() && geometry::farthest_mm(d.face_a, d.face_b) < alike_mm)
        return "Heavy: both faces, for edges are square. Cut as it is drawn: nothing is added later.";
    return d.cut_differs()
               ? "Heavy: face A as cut from the sheet. Thin: face B as cut. Dashed: finished, with lippings and "
                 "shaved."
               : "Heavy: face A. Thin: face B. Cut as it is drawn: nothing is added later.";
}

std::string svg_of(const Drawing& d) {
    const double pad = 40, w = d.box.width() + 2 * pad, h = d.box.height() + 2 * pad, height = d.box.height();
    std::string out = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" viewBox=\"{2} {2} "
        "{0:.3f} {1:.3f}\">\n"
        "<title>{3}</title>\n<desc>Millimetres, 1:1, as face A is seen. {4}</desc>\n",
        w, h, -pad, xml_escaped(d.title), what_lines_are(d));
    out += svg_path("face-a", d.face_a, height, "stroke-width=\"0.5\"");
    out += svg_path("face-b", d.face_b, height, "stroke-width=\"0.2\"");
    if (d.cut_differs()) {
        constexpr const char* dashed = "stroke-width=\"0.25\" stroke-dasharray=\"4 2\"";
        out += svg_path("finished-a", d.finished_a, height, dashed);
        out += svg_path("finished-b", d.finished_b, height, dashed);
    }
    return out + svg_marks(d) + "</svg>\n";
}

std::string csv_of(const Drawing& d) {
    std::string out =
        fmt::format("# {}; {} mm; the outline {}; across from the left, up from the bottom of the larger face\n",
                    csv_cell(d.title), d.thickness_mm,
                    d.cut_differs() ? "as cut from the sheet, lippings not yet on" : "as cut and finished");
    out += "along_mm,across_a_mm,up_a_mm,across_b_mm,up_b_mm,bevel_deg,sigma_mm,in_survey\n";
    for (const auto& r : d.rows)
        out += fmt::format("{:.1f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{}\n", r.arc_mm, r.across_a_mm,
                           r.up_a_mm, r.across_b_mm, r.up_b_mm, r.bevel_deg, r.sigma_mm, r.in_survey ? "yes" : "no");
    return out;
}

std::string ordinates_csv(const Drawing& d) {
    std::string out = fmt::format(
        "# {}; {} mm; the outline {}; stations along straight lines between the ends of an edge on face A, "
        "ordinates square to them, positive out of the piece\n",
        csv_cell(d.title), d.thickness_mm,
        d.cut_differs() ? "as cut from the sheet, lippings not yet on" : "as cut and finished");
    out +=
        "line,edge,from_across_mm,from_up_mm,to_across_mm,to_up_mm,batten_error_mm,along_mm,out_a_mm,out_b_mm,"
        "bevel_deg,sigma_mm,in_survey\n";
    for (std::size_t k = 0; k < d.bases.size(); ++k) {
        const BaseLine& line = d.bases[k];
        const std::string& edge = d.edges[static_cast<std::size_t>(line.edge)];
        for (const Station& s : line.stations)
            out += fmt::format("{},{},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{},{:.2f},{:.2f},{}\n", k + 1,
                               csv_cell(edge), line.from.x(), line.from.y(), line.to.x(), line.to.y(),
                               line.batten_error_mm, s.along_mm, s.out_a_mm,
                               s.out_b_mm ? fmt::format("{:.2f}", *s.out_b_mm) : std::string(), s.bevel_deg,
                               s.sigma_mm, s.in_survey ? "yes" : "no");
    }
    return out;
}

Result<bool> write_dxf(const Drawing& drawing, const std::string& path);  // in dxf.cpp

Result<bool> write_drawing(const Drawing& d, Format format, const std::string& path) {
    if (format == Format::dxf) return write_dxf(d, path);
    return job::write_file_atomically(path, format == Format::svg   ? svg_of(d)
                                            : format == Format::csv ? csv_of(d)
                                                                    : ordinates_csv(d));
}

}  // namespace bevelsmith::exchange

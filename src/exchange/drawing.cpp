#include "exchange/drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "job/file_io.h"
#include "piece/relief.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {
namespace {

bool on_ring(const Vec2& p, const geometry::Ring& ring) {
    constexpr double on_mm = 0.01;
    for (std::size_t i = 0; i < ring.size(); ++i)
        if (geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]) < on_mm) return true;
    return false;
}

bool on_rim(const Vec2& p, const geometry::Polygon& face) {
    return on_ring(p, face.outer) ||
           std::any_of(face.holes.begin(), face.holes.end(), [&](const auto& hole) { return on_ring(p, hole); });
}

/// Marks of the piece that lie on this part's outline.
std::vector<piece::EdgeMark> marks_on(const piece::Outline& outline, const geometry::Polygon& face_a) {
    std::vector<piece::EdgeMark> out;
    for (const auto& mark : outline.marks)
        if (mark.kept && on_ring(mark.a, face_a.outer)) out.push_back(mark);
    return out;
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

void add_edge_marks(Drawing& d, std::vector<piece::EdgeMark> marks, const Vec2& corner, double step_mm) {
    for (auto& m : marks) m.a -= corner, m.b -= corner;
    every(marks, tick_spacing_mm, [&](std::size_t i) {
        d.ticks.push_back({marks[i].a, outward_at(marks, i), units::degrees(marks[i].bevel_rad)});
    });
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
    const auto& ring = outline.face_a.outer;
    for (const auto& edge : outline.edges_a)
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
        d.joint_lines.emplace_back(j.upright ? Vec2(at, 0) : Vec2(0, at),
                                   j.upright ? Vec2(at, d.box.height()) : Vec2(d.box.width(), at));
    }
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

std::string escaped(const std::string& text) {
    std::string out;
    for (char c : text) {
        if (c == '&') out += "&amp;";
        else if (c == '<') out += "&lt;";
        else if (c == '>') out += "&gt;";
        else if (c == '"') out += "&quot;";
        else out += c;
    }
    return out;
}

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

}  // namespace

Result<Drawing> drawing_of(const job::Job& job, const job::Results& results, const std::string& id, double step_mm) {
    constexpr double least_step_mm = 10;
    step_mm = std::max(least_step_mm, step_mm);
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
        Drawing d;
        d.id = id;
        d.title = whole ? piece.name : part->name;
        d.unit = job.unit;
        d.thickness_mm = shape->thickness_mm;
        d.grain_deg = piece.grain_deg;
        if (const auto* m = job::find_material(job, piece.material_id)) d.material = m->name;
        const auto& a = whole ? shape->face_a : part->face_a;
        const auto& b = whole ? shape->face_b : part->face_b;
        const auto box_a = geometry::bounding_box(a.outer), box_b = geometry::bounding_box(b.outer);
        const Vec2 corner = box_a.min.cwiseMin(box_b.min);
        d.box = {{0, 0}, box_a.max.cwiseMax(box_b.max) - corner};
        d.face_a = geometry::transformed(a, 0, -corner);
        d.face_b = geometry::transformed(b, 0, -corner);
        for (const auto& edge : piece.edges) d.edges.push_back(edge.name);
        add_edge_marks(d, marks_on(*shape, a), corner, step_mm);
        add_slot_ticks(d, *shape, a, corner);
        add_reliefs(d, piece, *shape, a, b, corner);
        if (whole) add_joints(d, *shape, corner);
        return d;
    }
    return Error{fmt::format("there is no piece '{}' in this job", id)};
}

Drawing turned(Drawing d) {
    const double height = d.box.height();
    const auto at = [height](const Vec2& p) -> Vec2 { return {height - p.y(), p.x()}; };
    for (auto* face : {&d.face_a, &d.face_b}) {
        for (Vec2& p : face->outer) p = at(p);
        for (auto& hole : face->holes)
            for (Vec2& p : hole) p = at(p);
    }
    for (auto& t : d.ticks) t.at = at(t.at), t.outward = Vec2(-t.outward.y(), t.outward.x());
    for (auto& [a, b] : d.joint_lines) a = at(a), b = at(b);
    for (auto& relief : d.reliefs)
        for (Vec2& p : relief.line) p = at(p);
    for (auto& base : d.bases) base.from = at(base.from), base.to = at(base.to);
    d.box = {{0, 0}, {height, d.box.width()}};
    d.grain_deg += 90;
    return d;
}

std::string svg_of(const Drawing& d) {
    const double pad = 40, w = d.box.width() + 2 * pad, h = d.box.height() + 2 * pad;
    std::string out = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" viewBox=\"{2} {2} "
        "{0:.3f} {1:.3f}\">\n"
        "<title>{3}</title>\n<desc>Millimetres, 1:1. Face A solid, face B dashed.</desc>\n",
        w, h, -pad, escaped(d.title));
    const double height = d.box.height();
    out += fmt::format("<path id=\"face-a\" fill=\"none\" stroke=\"#222\" stroke-width=\"0.3\" d=\"{}\"/>\n",
                       path_of(d.face_a, height));
    out += fmt::format(
        "<path id=\"face-b\" fill=\"none\" stroke=\"#222\" stroke-width=\"0.2\" stroke-dasharray=\"4 2\" "
        "d=\"{}\"/>\n",
        path_of(d.face_b, height));
    out += "<g id=\"marks\" stroke=\"#444\" stroke-width=\"0.2\" font-family=\"sans-serif\" font-size=\"7\">\n";
    for (const auto& t : d.ticks) {
        const Vec2 end = t.at + 8 * t.outward, text = t.at - 24 * t.outward;
        out += fmt::format(
            "<path d=\"M{:.4f} {:.4f} L{:.4f} {:.4f}\"/><text stroke=\"none\" text-anchor=\"middle\" x=\"{:.2f}\" "
            "y=\"{:.2f}\">{:+.1f}°</text>\n",
            t.at.x(), height - t.at.y(), end.x(), height - end.y(), text.x(), height - text.y() + 2.5, t.bevel_deg);
    }
    for (const auto& [a, b] : d.joint_lines)
        out += fmt::format("<path stroke-dasharray=\"12 3 2 3\" d=\"M{:.4f} {:.4f} L{:.4f} {:.4f}\"/>\n", a.x(),
                           height - a.y(), b.x(), height - b.y());
    for (const auto& relief : d.reliefs) {
        std::string points;
        for (const Vec2& p : relief.line) points += fmt::format("{:.4f},{:.4f} ", p.x(), height - p.y());
        out += fmt::format("<polyline class=\"relief-{}\" fill=\"none\" stroke-dasharray=\"2 2\" points=\"{}\"/>\n",
                           relief.face == piece::Face::a ? "a" : "b", points);
    }
    return out + "</g>\n</svg>\n";
}

std::string csv_of(const Drawing& d) {
    std::string out = fmt::format("# {}; {} mm; across from the left, up from the bottom of the larger outline\n",
                                  quoted(d.title), d.thickness_mm);
    out += "along_mm,across_a_mm,up_a_mm,across_b_mm,up_b_mm,bevel_deg,sigma_mm,in_survey\n";
    for (const auto& r : d.rows)
        out += fmt::format("{:.1f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{}\n", r.arc_mm, r.across_a_mm,
                           r.up_a_mm, r.across_b_mm, r.up_b_mm, r.bevel_deg, r.sigma_mm, r.in_survey ? "yes" : "no");
    return out;
}

std::string ordinates_csv(const Drawing& d) {
    std::string out = fmt::format(
        "# {}; {} mm; stations along straight lines between the ends of an edge on face A, "
        "ordinates square to them, positive out of the piece\n",
        quoted(d.title), d.thickness_mm);
    out +=
        "line,edge,from_across_mm,from_up_mm,to_across_mm,to_up_mm,batten_error_mm,along_mm,out_a_mm,out_b_mm,"
        "bevel_deg,sigma_mm,in_survey\n";
    for (std::size_t k = 0; k < d.bases.size(); ++k) {
        const BaseLine& line = d.bases[k];
        const std::string& edge = d.edges[static_cast<std::size_t>(line.edge)];
        for (const Station& s : line.stations)
            out += fmt::format("{},{},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{:.2f},{},{:.2f},{:.2f},{}\n", k + 1,
                               quoted(edge), line.from.x(), line.from.y(), line.to.x(), line.to.y(),
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

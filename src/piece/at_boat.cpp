#include "piece/at_boat.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "piece/levels.h"

namespace bevelsmith::piece {
namespace {

/// Shorter edges are told by their ends alone.
constexpr double worth_ties_mm = 20;
constexpr std::size_t most_diagonals = 6, ties_a_corner = 3;

/// Both lines of one edge, from end to end (boat, mm), beside each other.
struct Pair {
    std::vector<Vec3> a, b;
};

Vec3 on_b(const Outline& shape, const Vec2& p) {
    return shape.frame.to_space(p) + shape.thickness_mm * shape.frame.normal;
}

/// The corner of a face in which an edge begins, or ends, next to one of its marks: nothing where none is near.
std::optional<Vec2> corner_by(const geometry::Ring& ring, const std::vector<Edge>& edges, int spec, const Vec2& mark,
                              bool begins) {
    constexpr double next_to_mm = 40;
    std::optional<Vec2> out;
    double nearest = next_to_mm;
    for (const Edge& edge : edges) {
        if (edge.source != EdgeSource::scribed || edge.spec != spec) continue;
        const Vec2 corner = ring[static_cast<std::size_t>(begins ? edge.first : edge.last)];
        if ((corner - mark).norm() < nearest) nearest = (corner - mark).norm(), out = corner;
    }
    return out;
}

/// Marks stand a step apart: the corner at either end lies up to a step beyond the first and the last.
void add_corner(Pair& lines, const Outline& shape, const EdgeMark& mark, int spec, bool begins) {
    const auto a = corner_by(shape.face_a.outer, shape.edges_a, spec, mark.a, begins),
               b = corner_by(shape.face_b.outer, shape.edges_b, spec, mark.b, begins);
    if (!a || !b || (*a - mark.a).norm() < 1e-6) return;
    // What was taken off at the mark was taken off here.
    const Vec3 at_a = shape.frame.to_space(*a + mark.met_a - mark.a), at_b = on_b(shape, *b + mark.met_b - mark.b);
    lines.a.insert(begins ? lines.a.begin() : lines.a.end(), at_a);
    lines.b.insert(begins ? lines.b.begin() : lines.b.end(), at_b);
}

/// Of an edge that is scribed to a surface: where its planes meet that, from corner to corner.
std::vector<Pair> scribed_lines(const Outline& shape, const Edge& edge) {
    std::vector<Pair> out;
    const EdgeMark* last = nullptr;
    const auto close = [&] {
        if (last) add_corner(out.back(), shape, *last, edge.spec, false);
        last = nullptr;
    };
    for (const EdgeMark& m : shape.marks) {
        if (m.edge != edge.spec || !m.kept) {
            close();
            continue;
        }
        const bool begins = !last;
        if (begins) out.emplace_back();
        out.back().a.push_back(shape.frame.to_space(m.met_a));
        out.back().b.push_back(on_b(shape, m.met_b));
        if (begins) add_corner(out.back(), shape, m, edge.spec, true);
        last = &m;
    }
    close();
    std::erase_if(out, [](const Pair& p) { return p.a.size() < 2; });
    return out;
}

/// Of a straight edge: what it meets lies a gap outside of it.
Pair straight_line(const PieceSpec& spec, const Outline& shape, const Edge& edge) {
    const auto& ring = shape.face_a.outer;
    const Vec2 from = ring[static_cast<std::size_t>(edge.first)], to = ring[static_cast<std::size_t>(edge.last)];
    const Vec2 along = (to - from).normalized(), out(along.y(), -along.x());
    const double gap = spec.edges[static_cast<std::size_t>(edge.spec)].taken_off_mm() / std::cos(edge.bevel_rad);
    const Vec2 more = (gap + shape.thickness_mm * std::tan(edge.bevel_rad)) * out;
    return {{shape.frame.to_space(from + gap * out), shape.frame.to_space(to + gap * out)},
            {on_b(shape, from + more), on_b(shape, to + more)}};
}

std::vector<double> lengths_along(const std::vector<Vec3>& line) {
    std::vector<double> out{0};
    for (std::size_t i = 1; i < line.size(); ++i) out.push_back(out.back() + (line[i] - line[i - 1]).norm());
    return out;
}

/// The places of both lines at a length along face A's.
std::pair<Vec3, Vec3> at_length(const Pair& lines, const std::vector<double>& lengths, double mm) {
    const auto next =
        std::clamp<std::ptrdiff_t>(std::lower_bound(lengths.begin(), lengths.end(), mm) - lengths.begin(), 1,
                                   static_cast<std::ptrdiff_t>(lengths.size()) - 1);
    const auto i = static_cast<std::size_t>(next);
    const double step = lengths[i] - lengths[i - 1];
    const double share = step > 0 ? (mm - lengths[i - 1]) / step : 0;
    return {lines.a[i - 1] + share * (lines.a[i] - lines.a[i - 1]),
            lines.b[i - 1] + share * (lines.b[i] - lines.b[i - 1])};
}

void add_stations(AtBoat& out, const Edge& edge, const Pair& lines, double step_mm) {
    const auto lengths = lengths_along(lines.a);
    const double length = lengths.back();
    const int steps = std::max(1, static_cast<int>(std::ceil(length / step_mm)));
    for (int k = 0; k <= steps; ++k) {
        const auto [a, b] = at_length(lines, lengths, length * k / steps);
        BoatStation s;
        s.number = static_cast<int>(out.stations.size()) + 1;
        s.edge = edge.spec, s.edge_name = edge.name;
        s.is_corner = (k == 0 || k == steps) && length > worth_ties_mm;
        s.a = a, s.b = b;
        s.offset_a_mm = out.reference.offset_mm(a), s.offset_b_mm = out.reference.offset_mm(b);
        s.string_a_mm = out.reference.along_mm(a), s.string_b_mm = out.reference.along_mm(b);
        s.apart_mm = (a - b).norm();
        out.stations.push_back(std::move(s));
    }
}

void add_ties(AtBoat& out, const std::vector<BoatMark>& marks) {
    for (const BoatStation& s : out.stations) {
        if (!s.is_corner) continue;
        std::vector<BoatTie> all;
        for (const BoatMark& m : marks) all.push_back({s.number, m.id, (m.at - s.a).norm()});
        std::sort(all.begin(), all.end(), [](const BoatTie& a, const BoatTie& b) { return a.mm < b.mm; });
        all.resize(std::min(all.size(), ties_a_corner));
        out.ties.insert(out.ties.end(), all.begin(), all.end());
    }
}

void add_diagonals(AtBoat& out) {
    constexpr double same_corner_mm = 20;
    std::vector<const BoatStation*> corners;
    for (const BoatStation& s : out.stations)
        if (s.is_corner && std::none_of(corners.begin(), corners.end(),
                                        [&](const auto* c) { return (c->a - s.a).norm() < same_corner_mm; }))
            corners.push_back(&s);
    for (std::size_t i = 0; i < corners.size(); ++i)
        for (std::size_t k = i + 1; k < corners.size(); ++k)
            out.diagonals.push_back({corners[i]->number, corners[k]->number, (corners[i]->a - corners[k]->a).norm()});
    std::sort(out.diagonals.begin(), out.diagonals.end(),
              [](const Diagonal& a, const Diagonal& b) { return a.mm > b.mm; });
    out.diagonals.resize(std::min(out.diagonals.size(), most_diagonals));
}

void add_supports(AtBoat& out, const PieceSpec& spec, const Outline& shape, const BearingReport* bearing) {
    const auto stack = stack_of(spec, shape);
    if (!stack || !bearing) return;
    const auto under = [&](const Vec2& p) {
        Vec3 at = shape.frame.to_space(p);
        at.z() += stack->bearer_up_mm - shape.frame.to_space(geometry::centroid(shape.face_a)).z();
        return at;
    };
    for (const Bearing& line : bearing->lines) {
        const Vec3 from = under(line.line.front()), to = under(line.line.back());
        out.supports.push_back({line.what, from, to, out.reference.offset_mm(from), out.reference.offset_mm(to)});
    }
}

}  // namespace

double Reference::offset_mm(const Vec3& p) const {
    if (kind == Kind::face) return std::abs(plane.distance_mm(p));
    const Vec3 way = (to - from).normalized();
    return ((p - from) - way.dot(p - from) * way).norm();
}

double Reference::along_mm(const Vec3& p) const {
    return kind == Kind::face ? 0 : (to - from).normalized().dot(p - from);
}

AtBoat at_boat(const PieceSpec& spec, const Outline& shape, const Reference& reference,
               const std::vector<BoatMark>& marks, const BearingReport* bearing, double step_mm) {
    AtBoat out;
    out.reference = reference;
    std::vector<int> done;
    for (const Edge& edge : shape.edges_a) {
        if (edge.spec < 0 || edge.first == edge.last) continue;
        if (edge.source == EdgeSource::scribed) {
            // Its marks are all stretches at once.
            if (std::find(done.begin(), done.end(), edge.spec) != done.end()) continue;
            done.push_back(edge.spec);
            for (const Pair& lines : scribed_lines(shape, edge)) add_stations(out, edge, lines, step_mm);
        } else if (edge.source == EdgeSource::straight && edge.length_mm > 1 &&
                   spec.edges[static_cast<std::size_t>(edge.spec)].kind == EdgeKind::piece) {
            add_stations(out, edge, straight_line(spec, shape, edge), step_mm);
        }
    }
    add_ties(out, marks);
    add_diagonals(out);
    add_supports(out, spec, shape, bearing);
    return out;
}

}  // namespace bevelsmith::piece

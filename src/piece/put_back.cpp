#include "piece/put_back.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace bevelsmith::piece {

std::vector<Corner> corners_of(const Outline& outline) {
    std::vector<Corner> out;
    const auto& edges = outline.edges_a;
    const auto& ring = outline.face_a.outer;
    const auto bounds = [](const Edge& e) {
        return e.source == EdgeSource::scribed || e.source == EdgeSource::straight;
    };
    for (std::size_t i = 0; i < edges.size(); ++i) {
        const Edge &one = edges[i], &next = edges[(i + 1) % edges.size()];
        // The two sides of a limber hole are one edge of the piece.
        if (!bounds(one) || !bounds(next) || one.spec == next.spec) continue;
        const Vec2 at = ring[static_cast<std::size_t>(one.last)];
        out.push_back({one.name + " / " + next.name, at, outline.frame.to_space(at)});
    }
    return out;
}

namespace {

/// By how much a line turns at a point, looked at so far to both sides, or to its ends.
double turn_rad(const std::vector<Vec2>& line, std::size_t at, double look_mm) {
    const auto direction = [&](int step) -> Vec2 {
        Vec2 away = Vec2::Zero();
        for (auto k = static_cast<std::ptrdiff_t>(at) + step;
             k >= 0 && k < static_cast<std::ptrdiff_t>(line.size()) && away.norm() < look_mm; k += step)
            away = line[static_cast<std::size_t>(k)] - line[at];
        return away.normalized();
    };
    const Vec2 in = -direction(-1), out = direction(1);
    return std::abs(std::atan2(in.x() * out.y() - in.y() * out.x(), in.dot(out)));
}

/// Found by eye: what turns there at once, and not over the length of a rounding.
bool is_sharp(const std::vector<Vec2>& line, std::size_t at) {
    constexpr double close_mm = 6, around_mm = 40, least_rad = 0.35, most_of_it = 0.7;  // 20 degrees
    const double close = turn_rad(line, at, close_mm);
    return close > least_rad && close > most_of_it * turn_rad(line, at, around_mm);
}

/// Where one edge turns sharply on its way: at a chine, at a corner of a typed outline.
void add_turns(std::vector<Corner>& places, const Outline& outline, const Edge& edge, std::map<int, int>& numbers) {
    constexpr double apart_mm = 50;
    const auto& ring = outline.face_a.outer;
    std::vector<Vec2> line;
    const auto last = static_cast<std::size_t>(edge.last);
    for (std::size_t i = static_cast<std::size_t>(edge.first);; i = (i + 1) % ring.size()) {
        line.push_back(ring[i]);
        if (i == last && line.size() > 1) break;
    }
    for (std::size_t i = 1; i + 1 < line.size(); ++i) {
        if (!is_sharp(line, i)) continue;
        const bool near = std::any_of(places.begin(), places.end(),
                                      [&](const auto& c) { return (c.drawn - line[i]).norm() < apart_mm; });
        if (!near)
            places.push_back({fmt::format("{}, corner {}", edge.name, ++numbers[edge.spec]), line[i],
                              outline.frame.to_space(line[i])});
    }
}

/// Of the places that lie farthest that way the one between the outermost two.
Vec2 outermost(const geometry::Ring& ring, const Vec2& way) {
    constexpr double as_far_mm = 0.5;
    const auto before = [](const Vec2& axis) {
        return [axis](const Vec2& p, const Vec2& q) { return axis.dot(p) < axis.dot(q); };
    };
    const double far = way.dot(*std::max_element(ring.begin(), ring.end(), before(way)));
    geometry::Ring there;
    for (const Vec2& p : ring)
        if (way.dot(p) > far - as_far_mm) there.push_back(p);
    const auto [first, last] = std::minmax_element(there.begin(), there.end(), before({-way.y(), way.x()}));
    return (*first + *last) / 2;
}

}  // namespace

std::vector<Corner> taped_places(const Outline& outline) {
    std::vector<Corner> out = corners_of(outline);
    constexpr std::size_t enough = 3;
    constexpr double apart_mm = 50;
    if (out.size() >= enough || outline.face_a.outer.empty()) return out;
    std::map<int, int> numbers;  // of an edge in several stretches
    for (const Edge& edge : outline.edges_a)
        if (edge.source == EdgeSource::scribed || edge.source == EdgeSource::free)
            add_turns(out, outline, edge, numbers);
    if (out.size() >= enough) return out;
    const std::pair<const char*, Vec2> ways[] = {
        {"lowest", {0, -1}}, {"highest", {0, 1}}, {"farthest left", {-1, 0}}, {"farthest right", {1, 0}}};
    for (const auto& [word, way] : ways) {
        const Vec2 at = outermost(outline.face_a.outer, way);
        const bool new_place =
            std::none_of(out.begin(), out.end(), [&](const auto& c) { return (c.drawn - at).norm() < apart_mm; });
        if (new_place) out.push_back({std::string(word) + ", as drawn", at, outline.frame.to_space(at)});
    }
    return out;
}

std::vector<Tie> ties(std::span<const Vec3> marks, std::span<const Corner> corners) {
    std::vector<Tie> out;
    for (std::size_t m = 0; m < marks.size(); ++m)
        for (std::size_t c = 0; c < corners.size(); ++c)
            out.push_back({static_cast<int>(m), static_cast<int>(c), (corners[c].at - marks[m]).norm()});
    return out;
}

}  // namespace bevelsmith::piece

#include "exchange/ordinates.h"

#include <algorithm>
#include <cmath>
#include <span>

#include "geometry/batten.h"
#include "geometry/polygon.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {
namespace {

using Marks = std::span<const piece::EdgeMark>;

/// A base line's own axes: along it, and out of the piece.
struct Axes {
    Vec2 from, along;
    Axes(const Vec2& a, const Vec2& b) : from(a), along((b - a).normalized()) {}
    Vec2 of(const Vec2& p) const {
        const Vec2 d = p - from;
        return {d.dot(along), d.dot(Vec2(along.y(), -along.x()))};
    }
    Vec2 at(double x, double y) const { return from + x * along + y * Vec2(along.y(), -along.x()); }
};

/// How far out a face's edge lies at `x`, and between which marks; nothing where it is not there.
struct Found {
    double out = 0, share = 0;
    std::size_t before = 0;
};
std::optional<Found> out_at(const Axes& axes, Marks marks, Vec2 piece::EdgeMark::*face, double x) {
    for (std::size_t i = 0; i + 1 < marks.size(); ++i) {
        const Vec2 a = axes.of(marks[i].*face), b = axes.of(marks[i + 1].*face);
        constexpr double hair_mm = 1e-6;
        if (x < std::min(a.x(), b.x()) - hair_mm || x > std::max(a.x(), b.x()) + hair_mm) continue;
        const double t = std::abs(b.x() - a.x()) < hair_mm ? 0 : std::clamp((x - a.x()) / (b.x() - a.x()), 0.0, 1.0);
        return Found{a.y() + t * (b.y() - a.y()), t, i};
    }
    return std::nullopt;
}

Station station_at(const Axes& axes, Marks marks, double x) {
    Station out;
    out.along_mm = x;
    if (const auto b = out_at(axes, marks, &piece::EdgeMark::b, x)) out.out_b_mm = b->out;
    const auto a = out_at(axes, marks, &piece::EdgeMark::a, x);
    if (!a) return out;
    const auto &m = marks[a->before], &n = marks[a->before + 1];
    out.out_a_mm = a->out;
    out.bevel_deg = units::degrees(m.bevel_rad + a->share * (n.bevel_rad - m.bevel_rad));
    out.sigma_mm = std::max(m.sigma_mm, n.sigma_mm);
    out.in_survey = m.in_survey && n.in_survey;
    return out;
}

double batten_error(const BaseLine& line, const Axes& axes, Marks marks) {
    std::vector<Vec2> pins;
    for (const Station& s : line.stations) pins.push_back(axes.at(s.along_mm, s.out_a_mm));
    const auto sprung = geometry::batten(pins);
    double worst = 0;
    for (const auto& mark : marks) {
        double nearest = HUGE_VAL;
        for (std::size_t i = 0; i + 1 < sprung.size(); ++i)
            nearest = std::min(nearest, geometry::distance_to_segment_mm(mark.a, sprung[i], sprung[i + 1]));
        worst = std::max(worst, nearest);
    }
    return worst;
}

/// One stretch of edge, divided until it nowhere turns back over its base line.
void add_stretch(Marks marks, double step_mm, std::vector<BaseLine>& out) {
    constexpr double least_mm = 1;
    if (marks.size() < 2 || (marks.back().a - marks.front().a).norm() < least_mm) {
        // A line that comes back to where it began has no base line of its own.
        if (marks.size() < 4) return;
        add_stretch(marks.first(marks.size() / 2 + 1), step_mm, out);
        return add_stretch(marks.subspan(marks.size() / 2), step_mm, out);
    }
    const Axes axes(marks.front().a, marks.back().a);
    std::size_t farthest = 0;
    double far = 0;
    bool turns_back = false;
    for (std::size_t i = 0; i + 1 < marks.size(); ++i) {
        const Vec2 here = axes.of(marks[i].a);
        turns_back = turns_back || axes.of(marks[i + 1].a).x() <= here.x();
        if (i > 0 && std::abs(here.y()) > far) far = std::abs(here.y()), farthest = i;
    }
    if (turns_back && farthest > 0) {
        add_stretch(marks.first(farthest + 1), step_mm, out);
        return add_stretch(marks.subspan(farthest), step_mm, out);
    }
    BaseLine line;
    line.edge = marks.front().edge;
    line.from = marks.front().a, line.to = marks.back().a;
    const double length = (line.to - line.from).norm();
    // A station that all but stands on the end says nothing.
    const double near_end = step_mm / 5;
    for (double x = 0; x < length - near_end; x += step_mm) line.stations.push_back(station_at(axes, marks, x));
    line.stations.push_back(station_at(axes, marks, length));
    line.batten_error_mm = batten_error(line, axes, marks);
    out.push_back(std::move(line));
}

}  // namespace

std::vector<BaseLine> base_lines(const std::vector<piece::EdgeMark>& marks, double step_mm) {
    constexpr double least_step_mm = 10, stretch_ends_mm = 60;
    std::vector<BaseLine> out;
    for (std::size_t first = 0; first < marks.size();) {
        std::size_t last = first;
        while (last + 1 < marks.size() && marks[last + 1].edge == marks[first].edge &&
               marks[last + 1].arc_mm - marks[last].arc_mm <= stretch_ends_mm)
            ++last;
        add_stretch(Marks(marks).subspan(first, last - first + 1), std::max(least_step_mm, step_mm), out);
        first = last + 1;
    }
    return out;
}

}  // namespace bevelsmith::exchange

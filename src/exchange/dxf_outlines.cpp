#include "exchange/dxf_outlines.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "exchange/dxf_paths.h"
#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

using geometry::Ring;

constexpr double joined_mm = 0.1;

using Path = DxfPath;

/// Ends that meet become one: paths of a layer chained until none can be.
void join(std::vector<Path>& paths) {
    // Ends by place, in cells so large that what meets lies in neighbouring ones.
    using Cell = std::pair<long long, long long>;
    const auto cell = [](const Vec2& p) {
        return Cell(static_cast<long long>(std::floor(p.x() / joined_mm)),
                    static_cast<long long>(std::floor(p.y() / joined_mm)));
    };
    std::map<std::pair<std::string, Cell>, std::vector<std::size_t>> ends;
    const auto enter = [&](std::size_t i) {
        for (const Vec2& end : {paths[i].points.front(), paths[i].points.back()})
            ends[{paths[i].layer, cell(end)}].push_back(i);
    };
    std::vector<char> gone(paths.size(), 0);
    for (std::size_t i = 0; i < paths.size(); ++i)
        if (!paths[i].closed) enter(i);
    const auto next_to = [&](std::size_t own, const Vec2& end) -> std::optional<std::size_t> {
        const auto [x, y] = cell(end);
        for (long long dx = -1; dx <= 1; ++dx)
            for (long long dy = -1; dy <= 1; ++dy) {
                const auto it = ends.find({paths[own].layer, Cell(x + dx, y + dy)});
                if (it == ends.end()) continue;
                for (std::size_t k : it->second)
                    if (k != own && !gone[k] && !paths[k].closed &&
                        ((paths[k].points.front() - end).norm() < joined_mm ||
                         (paths[k].points.back() - end).norm() < joined_mm))
                        return k;
            }
        return std::nullopt;
    };
    for (std::size_t i = 0; i < paths.size(); ++i) {
        if (gone[i] || paths[i].closed) continue;
        Path& own = paths[i];
        for (bool turned = false;;) {
            if (own.points.size() > 3 && (own.points.front() - own.points.back()).norm() < joined_mm) break;
            const auto k = next_to(i, own.points.back());
            if (!k) {
                if (std::exchange(turned, true)) break;
                std::reverse(own.points.begin(), own.points.end());
                continue;
            }
            Ring more = paths[*k].points;
            if ((more.front() - own.points.back()).norm() >= joined_mm) std::reverse(more.begin(), more.end());
            own.points.insert(own.points.end(), more.begin() + 1, more.end());
            gone[*k] = 1;
        }
        own.closed = own.points.size() > 3 && (own.points.front() - own.points.back()).norm() < joined_mm;
    }
    std::size_t kept = 0;
    for (std::size_t i = 0; i < paths.size(); ++i)
        if (!gone[i]) {
            if (kept != i) paths[kept] = std::move(paths[i]);
            ++kept;
        }
    paths.resize(kept);
}

/// Without corners that stand on one another, counter-clockwise.
Ring cleaned(Ring ring) {
    constexpr double same_mm = 1e-6;
    Ring out;
    for (const Vec2& p : ring)
        if (out.empty() || (p - out.back()).norm() > same_mm) out.push_back(p);
    while (out.size() > 1 && (out.front() - out.back()).norm() < joined_mm) out.pop_back();
    if (geometry::area_mm2(out) < 0) std::reverse(out.begin(), out.end());
    return out;
}

/// Every corner of one within the other.
bool within(const Ring& inner, const Ring& outer) {
    return std::all_of(inner.begin(), inner.end(), [&](const Vec2& p) { return geometry::contains(outer, p); });
}

DxfOutlines rings_of(DxfPaths drawn) {
    DxfOutlines out;
    out.mm_per_unit = drawn.mm_per_unit;
    out.unit_stated = drawn.unit_stated;
    join(drawn.paths);
    constexpr double least_area_mm2 = 1;
    int open = 0;
    for (Path& path : drawn.paths) {
        if (!path.closed) {
            constexpr int most_said = 5;
            const double gap = (path.points.front() - path.points.back()).norm();
            if (++open <= most_said)
                out.notes.push_back(fmt::format("a line on layer '{}' is open by {:.1f} mm at {:.1f}, {:.1f}",
                                                path.layer, gap, path.points.back().x(), path.points.back().y()));
            continue;
        }
        Ring ring = cleaned(std::move(path.points));
        if (ring.size() < 3 || geometry::area_mm2(ring) < least_area_mm2) continue;
        out.rings.push_back({path.layer, std::move(ring)});
    }
    for (const auto& [what, count] : drawn.left_out)
        out.notes.push_back(fmt::format("{} {}{} left out: turn {} into lines and arcs before saving", count, what,
                                        count == 1 ? " is" : "s are", count == 1 ? "it" : "them"));
    std::stable_sort(out.rings.begin(), out.rings.end(), [](const DxfRing& a, const DxfRing& b) {
        return geometry::area_mm2(a.ring) > geometry::area_mm2(b.ring);
    });
    return out;
}

}  // namespace

Result<DxfOutlines> read_dxf_outlines(std::string_view text) {
    if (text.size() > units::limit::parts_bytes.most)
        return Error{units::too_many(units::limit::parts_bytes, text.size())};
    auto drawn = read_dxf_paths(text);
    if (!drawn) return drawn.error();
    DxfOutlines out = rings_of(std::move(*drawn));
    if (out.rings.empty())
        return Error{out.notes.empty() ? "there is no closed outline in this drawing"
                                       : "there is no closed outline in this drawing: " + out.notes.front()};
    for (const auto& ring : out.rings)
        if (ring.ring.size() > units::limit::ring_corners.most)
            return Error{units::too_many(units::limit::ring_corners, ring.ring.size())};
    return out;
}

std::vector<std::string> layers_of(const DxfOutlines& outlines) {
    std::vector<std::string> out;
    for (const auto& ring : outlines.rings)
        if (std::find(out.begin(), out.end(), ring.layer) == out.end()) out.push_back(ring.layer);
    return out;
}

std::vector<geometry::Polygon> shapes_on(const DxfOutlines& outlines, const std::string& layer,
                                         const std::string& openings) {
    std::vector<const Ring*> own, cuts;
    for (const auto& ring : outlines.rings) {
        if (ring.layer == layer) own.push_back(&ring.ring);
        else if (!openings.empty() && ring.layer == openings) cuts.push_back(&ring.ring);
    }
    // The largest come first: what holds a ring stands before it.
    std::vector<geometry::Polygon> out;
    std::vector<int> depth(own.size(), 0);
    std::vector<std::size_t> shape(own.size(), 0);
    const auto hole = [](Ring ring) {
        std::reverse(ring.begin(), ring.end());
        return ring;
    };
    for (std::size_t i = 0; i < own.size(); ++i) {
        std::size_t holder = i;
        for (std::size_t k = 0; k < i; ++k)
            if (within(*own[i], *own[k])) ++depth[i], holder = k;
        if (depth[i] % 2 == 0) {
            shape[i] = out.size();
            out.push_back({*own[i], {}});
        } else {
            shape[i] = shape[holder];
            out[shape[i]].holes.push_back(hole(*own[i]));
        }
    }
    for (const Ring* cut : cuts)
        for (auto& one : out)
            if (within(*cut, one.outer)) {
                one.holes.push_back(hole(*cut));
                break;
            }
    return out;
}

}  // namespace bevelsmith::exchange

#include "exchange/dxf_outlines.h"

#include <dl_creationadapter.h>
#include <dl_dxf.h>
#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <optional>
#include <sstream>

#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

using geometry::Ring;

constexpr double chord_mm = 0.02, joined_mm = 0.1;

/// Corners behind `from` on an arc to `to`, `to` included; the bulge is tan of a quarter of its angle.
void add_arc(Ring& out, const Vec2& from, const Vec2& to, double bulge, double mm_per_unit) {
    const double angle = 4 * std::atan(bulge);
    const Vec2 chord = to - from;
    // What is no number is no arc either; where it lies is judged with the other corners.
    if (!(std::abs(angle) >= 1e-9) || !(chord.norm() >= 1e-12)) return out.push_back(to);
    const Vec2 left(-chord.y(), chord.x());
    const Vec2 centre = (from + to) / 2 + left * (1 - bulge * bulge) / (4 * bulge);
    const double radius = (from - centre).norm(), hair = chord_mm / mm_per_unit;
    // Of an arc a world wide the step is too small to be told from nothing.
    constexpr double least_step = 1e-4, most_chords = 2000;
    const double step = radius > hair ? std::max(least_step, 2 * std::acos(1 - hair / radius)) : M_PI / 2;
    const int count = static_cast<int>(std::clamp(std::ceil(std::abs(angle) / step), 1.0, most_chords));
    const double start = std::atan2(from.y() - centre.y(), from.x() - centre.x());
    for (int k = 1; k < count; ++k) {
        const double a = start + angle * k / count;
        out.push_back(centre + radius * Vec2(std::cos(a), std::sin(a)));
    }
    out.push_back(to);
}

/// Lines of the file that make up whole pairs of a code and a value, before anything is built from them: the library
/// takes room for as many corners as the file says.
Result<bool> looked_over(std::string_view text) {
    std::size_t at = 0;
    int line = 0, code = 0;
    bool any = false;
    while (at < text.size()) {
        const auto end = std::min(text.find('\n', at), text.size());
        auto words = text.substr(at, end - at);
        at = end + 1;
        ++line;
        if (words.size() > units::limit::text.most)
            return Error{units::too_many(units::limit::text, words.size()), line};
        while (!words.empty() && (words.front() == ' ' || words.front() == '\t')) words.remove_prefix(1);
        while (!words.empty() && (words.back() == ' ' || words.back() == '\r')) words.remove_suffix(1);
        if (line % 2 == 1) {
            if (words.empty() && at >= text.size()) break;
            const auto [stop, fault] = std::from_chars(words.data(), words.data() + words.size(), code);
            if (fault != std::errc() || stop != words.data() + words.size() || code < -5 || code > 1071)
                return Error{
                    "this is no DXF in text: a group code (a whole number) is wanted here; save the drawing "
                    "as DXF, not binary and not DWG",
                    line};
            continue;
        }
        any = true;
        const bool counts = (code >= 60 && code <= 99) || (code >= 170 && code <= 179);
        if (!counts || words.empty()) continue;
        long long value = 0;
        const auto [stop, fault] = std::from_chars(words.data(), words.data() + words.size(), value);
        if (fault != std::errc()) continue;  // the library passes over it
        if (code == 90 && value > static_cast<long long>(units::limit::ring_corners.most))
            return Error{units::too_many(units::limit::ring_corners, static_cast<std::size_t>(value)), line};
        if (code != 90 && std::abs(value) > 1'000'000)
            return Error{fmt::format("{} is no number that stands in a drawing here", value), line};
    }
    if (!any) return Error{"there is nothing in this file"};
    return true;
}

struct Path {
    std::string layer;
    Ring points;
    bool closed = false;
};

/// Takes the entities as the library finds them.
class Reader : public DL_CreationAdapter {
  public:
    std::vector<Path> paths;
    std::map<std::string, int> left_out;
    double mm_per_unit = 1;
    bool unit_stated = false, wild = false;
    std::size_t corners = 0;

    void setVariableInt(const std::string& key, int value, int) override {
        if (key != "$INSUNITS") return;
        static const std::map<int, double> known{{1, 25.4}, {2, 304.8}, {4, 1}, {5, 10}, {6, 1000}, {14, 100}};
        if (const auto it = known.find(value); it != known.end()) mm_per_unit = it->second, unit_stated = true;
    }
    void addBlock(const DL_BlockData&) override { in_block_ = true; }
    void endBlock() override { in_block_ = false; }
    void addInsert(const DL_InsertData&) override { note("block"); }
    void addSpline(const DL_SplineData&) override { note("spline"); }
    void addEllipse(const DL_EllipseData&) override { note("ellipse"); }

    void addLine(const DL_LineData& d) override { add({{d.x1, d.y1}, {d.x2, d.y2}}, false); }
    void addArc(const DL_ArcData& d) override {
        double from = d.angle1 * M_PI / 180, to = d.angle2 * M_PI / 180;
        if (!std::isfinite(from) || !std::isfinite(to)) return void(wild = true);
        from = std::remainder(from, 2 * M_PI), to = std::remainder(to, 2 * M_PI);
        if (to <= from) to += 2 * M_PI;
        const auto at = [&](double a) -> Vec2 {
            return {d.cx + d.radius * std::cos(a), d.cy + d.radius * std::sin(a)};
        };
        Ring out{at(from)};
        const double middle = (from + to) / 2, bulge = std::tan((to - from) / 8);
        add_arc(out, at(from), at(middle), bulge, mm_per_unit);
        add_arc(out, at(middle), at(to), bulge, mm_per_unit);
        add(std::move(out), false);
    }
    void addCircle(const DL_CircleData& d) override {
        const Vec2 right(d.cx + d.radius, d.cy), left(d.cx - d.radius, d.cy);
        Ring out{right};
        add_arc(out, right, left, 1, mm_per_unit);
        add_arc(out, left, right, 1, mm_per_unit);
        add(std::move(out), true);
    }
    void addPolyline(const DL_PolylineData& d) override {
        finish();
        open_ = Polyline{layer(), (d.flags & 1) != 0, {}};
    }
    void addVertex(const DL_VertexData& d) override {
        if (open_) open_->corners.push_back({{d.x, d.y}, d.bulge});
    }
    void endSequence() override { finish(); }
    void endEntity() override {}
    /// A polyline's corners may end with the next entity.
    void finish() {
        if (!open_) return;
        const Polyline line = *std::exchange(open_, std::nullopt);
        const std::size_t n = line.corners.size();
        if (n < 2) return;
        Ring out{line.corners[0].at};
        for (std::size_t k = 0; k + 1 < n + (line.closed ? 1 : 0); ++k)
            add_arc(out, line.corners[k].at, line.corners[(k + 1) % n].at, line.corners[k].bulge, mm_per_unit);
        add(std::move(out), line.closed, line.layer);
    }

  private:
    struct Corner {
        Vec2 at{0, 0};
        double bulge = 0;
    };
    struct Polyline {
        std::string layer;
        bool closed = false;
        std::vector<Corner> corners;
    };
    std::string layer() { return attributes.getLayer(); }
    void note(const std::string& what) {
        if (!in_block_) ++left_out[what];
    }
    void add(Ring points, bool closed) { add(std::move(points), closed, layer()); }
    void add(Ring points, bool closed, const std::string& on) {
        if (in_block_) return;
        for (Vec2& p : points) {
            p *= mm_per_unit;
            wild = wild || !units::range::place.holds(p.x()) || !units::range::place.holds(p.y());
        }
        if (wild) return;
        corners += points.size();
        if (corners > units::limit::nest_corners.most) return;
        paths.push_back({on, std::move(points), closed});
    }
    std::optional<Polyline> open_;
    bool in_block_ = false;
};

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

DxfOutlines rings_of(Reader& reader) {
    DxfOutlines out;
    out.mm_per_unit = reader.mm_per_unit;
    out.unit_stated = reader.unit_stated;
    join(reader.paths);
    constexpr double least_area_mm2 = 1;
    int open = 0;
    for (Path& path : reader.paths) {
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
    for (const auto& [what, count] : reader.left_out)
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
    if (auto good = looked_over(text); !good) return good.error();
    Reader reader;
    std::istringstream stream{std::string(text)};
    DL_Dxf().in(stream, &reader);
    reader.finish();
    if (reader.wild)
        return Error{"a place in this drawing lies outside the range: " + std::string(units::range::place.why) +
                     " (its unit may be another than it says)"};
    if (reader.corners > units::limit::nest_corners.most)
        return Error{units::too_many(units::limit::nest_corners, reader.corners)};
    DxfOutlines out = rings_of(reader);
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

// A section led through places where the surface was seen to run when the piece was offered up.
// pchip.hpp asks for isnan without a namespace.
#include <math.h>

#include <algorithm>
#include <boost/math/interpolators/pchip.hpp>
#include <cmath>

#include "piece/scribe.h"

namespace bevelsmith::piece {
namespace {

constexpr double most_off_mm = 80, fades_over_mm = 200, same_place_mm = 1;

/// Square to the line at a point, to its right: outwards of a section that runs counter-clockwise.
Vec2 outward_at(const std::vector<Vec2>& line, std::size_t i) {
    const Vec2 along = line[std::min(i + 1, line.size() - 1)] - line[i > 0 ? i - 1 : 0];
    return along.norm() > 0 ? Vec2(along.y(), -along.x()).normalized() : Vec2(0, 0);
}

struct Offset {
    double arc_mm = 0, off_mm = 0;
};

/// How far, and where along the line, each place lies beside it.
std::vector<Offset> offsets_of(const std::vector<Vec2>& line, const std::vector<double>& arcs,
                               const std::vector<Vec2>& places) {
    std::vector<Offset> out;
    for (const Vec2& place : places) {
        double nearest = most_off_mm;
        Offset found;
        for (std::size_t i = 0; i + 1 < line.size(); ++i) {
            const Vec2 way = line[i + 1] - line[i];
            const double length = way.norm();
            if (length < 1e-9) continue;
            const double share = std::clamp(way.dot(place - line[i]) / (length * length), 0.0, 1.0);
            const Vec2 off = place - (line[i] + share * way);
            if (off.norm() >= nearest) continue;
            nearest = off.norm();
            const double side = way.y() * off.x() - way.x() * off.y();
            found = {arcs[i] + share * length, side >= 0 ? nearest : -nearest};
        }
        if (nearest < most_off_mm) out.push_back(found);
    }
    std::sort(out.begin(), out.end(), [](const Offset& a, const Offset& b) { return a.arc_mm < b.arc_mm; });
    // Of one place read again the mean.
    std::vector<Offset> single;
    std::vector<int> count;
    for (const Offset& o : out)
        if (!single.empty() && o.arc_mm - single.back().arc_mm < same_place_mm) {
            auto& mean = single.back().off_mm;
            mean += (o.off_mm - mean) / ++count.back();
        } else {
            single.push_back(o), count.push_back(1);
        }
    return single;
}

/// Along the line: through all, constant and fading beyond the ends.
class OffsetCurve {
  public:
    explicit OffsetCurve(const std::vector<Offset>& through) : through_(through) {
        constexpr std::size_t fewest = 4;
        if (through.size() < fewest) return;
        std::vector<double> x, y;
        for (const Offset& o : through) x.push_back(o.arc_mm), y.push_back(o.off_mm);
        curve_.emplace(std::move(x), std::move(y));
    }
    double at(double arc_mm) const {
        const Offset &first = through_.front(), &last = through_.back();
        if (arc_mm <= first.arc_mm) return first.off_mm * fading(first.arc_mm - arc_mm);
        if (arc_mm >= last.arc_mm) return last.off_mm * fading(arc_mm - last.arc_mm);
        if (curve_) return (*curve_)(arc_mm);
        const auto next = std::upper_bound(through_.begin(), through_.end(), arc_mm,
                                           [](double arc, const Offset& o) { return arc < o.arc_mm; });
        const auto before = next - 1;
        const double share = (arc_mm - before->arc_mm) / (next->arc_mm - before->arc_mm);
        return before->off_mm + share * (next->off_mm - before->off_mm);
    }

  private:
    static double fading(double beyond_mm) { return std::max(0.0, 1 - beyond_mm / fades_over_mm); }
    const std::vector<Offset>& through_;
    std::optional<boost::math::interpolators::pchip<std::vector<double>>> curve_;
};

}  // namespace

void lead_through(std::vector<Vec2>& line_a, std::vector<Vec2>& line_b, bool closed,
                  const std::vector<Vec2>& places) {
    if (places.empty() || line_a.size() < 2) return;
    std::vector<double> arcs{0};
    for (std::size_t i = 1; i < line_a.size(); ++i) arcs.push_back(arcs.back() + (line_a[i] - line_a[i - 1]).norm());
    const auto offsets = offsets_of(line_a, arcs, places);
    if (offsets.empty()) return;
    const OffsetCurve curve(offsets);
    std::vector<Vec2> a = line_a, b = line_b;
    for (std::size_t i = 0; i < line_a.size(); ++i) {
        const double off = curve.at(arcs[i]);
        a[i] += off * outward_at(line_a, i), b[i] += off * outward_at(line_b, i);
    }
    if (closed) a.back() = a.front(), b.back() = b.front();
    line_a = std::move(a), line_b = std::move(b);
}

}  // namespace bevelsmith::piece

#include "job/standing_outline.h"

#include <fmt/format.h>

#include <algorithm>

#include "job/measured_places.h"
#include "units/ranges.h"

namespace bevelsmith::job {

Result<piece::EdgeSpec> standing_outline(const piece::PieceSpec& piece, const std::vector<Vec2>& corners,
                                         bool mirrored) {
    const auto frame = geometry::upright_frame(piece.plane);
    piece::EdgeSpec out;
    out.kind = piece::EdgeKind::free, out.name = "outline", out.closed = true;
    for (const Vec2& c : corners) out.line.push_back({c, 0, false});
    if (mirrored) {
        constexpr double on_the_line_mm = 0.5;
        if (std::abs(piece.plane.normal.y()) > 1e-6)
            return Error{
                "only what stands square across the boat, or level, is alike on both sides of the centre line"};
        for (auto at = corners.rbegin(); at != corners.rend(); ++at) {
            Vec3 p = frame.to_space(*at);
            if (std::abs(p.y()) < on_the_line_mm) continue;
            p.y() = -p.y();
            out.line.push_back({frame.to_plane(p), 0, false});
        }
    }
    if (out.line.size() < 3) return Error{"an outline wants three corners at least"};
    if (out.line.size() > units::limit::free_points.most)
        return Error{units::too_many(units::limit::free_points, out.line.size())};
    geometry::Ring ring;
    for (const auto& p : out.line) ring.push_back(p.at);
    constexpr double least_mm2 = 100;
    if (std::abs(geometry::area_mm2(ring)) < least_mm2) return Error{"these corners lie in one line"};
    return out;
}

Result<piece::EdgeSpec> outline_by_readings(const Job& job, const piece::PieceSpec& piece, const std::string& set_id,
                                            bool mirrored) {
    const auto places = places_of_set(job, set_id);
    if (!places) return places.error();
    const auto frame = geometry::upright_frame(piece.plane);
    std::vector<Vec2> corners;
    for (const auto& p : *places) corners.push_back(frame.to_plane(p));
    return standing_outline(piece, corners, mirrored);
}

Result<piece::ReadPattern> pattern_by_readings(const Job& job, const piece::PieceSpec& piece,
                                               const std::string& set_id) {
    constexpr double usual_hole_mm = 5;
    const auto places = places_of_set(job, set_id);
    if (!places) return places.error();
    return piece::pattern_from(*places, geometry::upright_frame(piece.plane), usual_hole_mm);
}

void take_outline(piece::PieceSpec& piece, const piece::EdgeSpec& outline) {
    piece.edges = {outline};
    // What was cut into the outline before is in the new one, or nowhere.
    piece.joints.clear(), piece.limbers.clear(), piece.notches.clear();
}

}  // namespace bevelsmith::job

#include "furniture/builder.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::furniture {
namespace {

using piece::EdgeKind;
using piece::EdgeSpec;

constexpr double film_mm = 0.25;

EdgeSpec at_plane(const std::string& name, const Vec3& normal, double d_mm) {
    EdgeSpec out;
    out.kind = EdgeKind::plane;
    out.name = name;
    out.plane = {normal, d_mm};
    return out;
}

piece::OpeningSpec box(const std::string& name, const Vec2& a, const Vec2& b, double radius_mm) {
    const Vec2 low = a.cwiseMin(b), size = a.cwiseMax(b) - low;
    return {name, low.x(), low.y(), size.x(), size.y(), radius_mm};
}

/// Of lids and open fronts (common practice: 50 or more, so that no crack starts there).
constexpr double corner_radius_mm = 50;

}  // namespace

Ends ends_of(const UnitSpec& unit, const piece::PieceLookup& pieces) {
    using piece::KeptSide;
    Ends out{unit.from_mm, unit.to_mm};
    const auto faces = [&](const std::string& id, double& low, double& high, bool& faces_fwd) {
        const piece::Neighbour* p = id.empty() || !pieces ? nullptr : pieces(id);
        if (!p || std::abs(p->plane.normal.x()) < 0.5) return false;
        const double a = (p->plane.d_mm - p->covering_a_mm) / p->plane.normal.x(),
                     b = (p->plane.d_mm + p->thickness_mm + p->covering_b_mm) / p->plane.normal.x();
        low = std::min(a, b), high = std::max(a, b);
        faces_fwd = p->plane.normal.x() > 0;
        return true;
    };
    double low = 0, high = 0;
    bool faces_fwd = false;
    if (faces(unit.from_piece_id, low, high, faces_fwd))
        out.from_mm = high, out.from_kept = faces_fwd ? KeptSide::beyond_b : KeptSide::before_a;
    if (faces(unit.to_piece_id, low, high, faces_fwd))
        out.to_mm = low, out.to_kept = faces_fwd ? KeptSide::before_a : KeptSide::beyond_b;
    return out;
}

Builder::Builder(const UnitSpec& u, const Thickness& thickness, const piece::PieceLookup& pieces)
    : unit(u),
      ends(ends_of(u, pieces)),
      panel_mm(thickness(u.material_id)),
      top_mm(thickness(u.top_material_id)),
      side_(u.side == Side::port ? 1 : -1) {}

std::vector<std::pair<double, std::size_t>> Builder::dividers() const {
    std::vector<std::pair<double, std::size_t>> out;
    for (std::size_t k = 0; k < unit.dividers_mm.size(); ++k) out.emplace_back(unit.dividers_mm[k], k);
    std::sort(out.begin(), out.end());
    return out;
}

piece::PieceSpec& Builder::add(const std::string& part, const std::string& name, const std::string& kind,
                               const geometry::Plane& plane, const std::string& material) {
    piece::PieceSpec& p = panels.emplace_back();
    p.id = id(part);
    p.name = name;
    p.kind = kind;
    p.place = unit.name;
    p.plane = plane;
    p.material_id = material;
    return p;
}

piece::PieceSpec& Builder::level(const std::string& part, const std::string& name, double upper_mm) {
    auto& p = add(part, name, "shelf", {-Vec3::UnitZ(), -upper_mm}, unit.top_material_id);
    p.grain_deg = 90;
    p.at = point(middle(), unit.front_mm + 100, upper_mm);
    return p;
}

piece::PieceSpec& Builder::across(const std::string& part, const std::string& name, double aft_mm) {
    auto& p = add(part, name, "divider", {Vec3::UnitX(), aft_mm}, unit.material_id);
    p.grain_deg = 90;
    p.at = point(aft_mm + panel_mm / 2, unit.front_mm + 100, unit.foot_mm + unit.height_mm / 2);
    return p;
}

piece::PieceSpec& Builder::along(const std::string& part, const std::string& name, double out_mm) {
    auto& p = add(part, name, "face", {side_ * Vec3::UnitY(), out_mm}, unit.material_id);
    p.at = point(middle(), out_mm + panel_mm / 2, unit.foot_mm + unit.height_mm / 2);
    return p;
}

EdgeSpec Builder::hull(bool where_met) const {
    EdgeSpec out;
    out.name = "hull";
    out.surface_id = unit.surface_id;
    out.gap_mm = unit.hull_gap_mm;
    out.coating_mm = film_mm;
    out.where_met = where_met;
    return out;
}

EdgeSpec Builder::end(const std::string& name, const std::string& piece_id, double way, double at_mm) const {
    if (piece_id.empty()) return at_plane(name, way * Vec3::UnitX(), way * at_mm);
    EdgeSpec out;
    out.kind = EdgeKind::piece;
    out.name = name;
    out.piece_id = piece_id;
    out.gap_mm = unit.joint_gap_mm;
    out.kept = way < 0 ? ends.from_kept : ends.to_kept;
    return out;
}

EdgeSpec Builder::aft() const {
    return end("aft end", unit.from_piece_id, -1, unit.from_mm);
}
EdgeSpec Builder::fwd() const {
    return end("fwd end", unit.to_piece_id, 1, unit.to_mm);
}
EdgeSpec Builder::below(double up_mm) const {
    return at_plane("top", Vec3::UnitZ(), up_mm);
}
EdgeSpec Builder::above(double up_mm) const {
    return at_plane("bottom", -Vec3::UnitZ(), -up_mm);
}
EdgeSpec Builder::outboard_of(double out_mm) const {
    return at_plane("front", -side_ * Vec3::UnitY(), -out_mm);
}
EdgeSpec Builder::inboard_of(double out_mm) const {
    return at_plane("outboard", side_ * Vec3::UnitY(), out_mm);
}
EdgeSpec Builder::aft_of(double fwd_mm) const {
    return at_plane("fwd", Vec3::UnitX(), fwd_mm);
}
EdgeSpec Builder::forward_of(double fwd_mm) const {
    return at_plane("aft", -Vec3::UnitX(), -fwd_mm);
}

EdgeSpec Builder::stops_at(const std::string& name, const std::string& part) const {
    EdgeSpec out;
    out.kind = EdgeKind::piece;
    out.name = name;
    out.piece_id = id(part);
    out.gap_mm = unit.joint_gap_mm;
    return out;
}

EdgeSpec Builder::covers(const std::string& name, const std::string& part, double overhang_mm) const {
    EdgeSpec out = stops_at(name, part);
    out.meeting = piece::Meeting::covers;
    out.gap_mm = 0;
    out.overhang_mm = overhang_mm;
    return out;
}

piece::OpeningSpec Builder::level_box(const std::string& name, double aft, double fwd, double in, double o) const {
    return box(name, {-side_ * in, aft}, {-side_ * o, fwd}, corner_radius_mm);
}
piece::OpeningSpec Builder::across_box(const std::string& name, double in, double o, double low, double high) const {
    return box(name, {-side_ * in, low}, {-side_ * o, high}, 0);
}
piece::OpeningSpec Builder::along_box(const std::string& name, double aft, double fwd, double low,
                                      double high) const {
    return box(name, {side_ * aft, low}, {side_ * fwd, high}, corner_radius_mm);
}

}  // namespace bevelsmith::furniture

#include "step_writer/smooth_body.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <Eigen/Geometry>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>
#include <numeric>
#include <utility>
#include <vector>

namespace bevelsmith::step_writer {
namespace {

using Loop = piece::Solid::Loop;
using Numbers = std::vector<double>;

constexpr double sewn_mm = 1e-3, straight_mm = 2e-3, level_mm = 1e-5, apart_mm = 0.01;
gp_Pnt point(const Vec3& p) {
    return {p.x(), p.y(), p.z()};
}

/// Without corners that lie on one another, whose directions say nothing.
Loop cleaned(const Loop& ring) {
    Loop out;
    for (const Vec3& p : ring)
        if (out.empty() || (p - out.back()).norm() > apart_mm) out.push_back(p);
    while (out.size() > 1 && (out.front() - out.back()).norm() <= apart_mm) out.pop_back();
    return out;
}

double turn_between(const Vec3& in, const Vec3& on) {
    return std::atan2(in.cross(on).norm(), in.dot(on));
}

/// By how much a ring turns at each of its places (rad).
Numbers turns_of(const Loop& ring) {
    Numbers out;
    const std::size_t n = ring.size();
    for (std::size_t i = 0; i < n; ++i)
        out.push_back(turn_between(ring[i] - ring[(i + n - 1) % n], ring[(i + 1) % n] - ring[i]));
    return out;
}

/// Where it turns much, or by more than it does before and after (a curve turns by about the same all along), and
/// where an arc's short steps go over into a line.
std::vector<std::size_t> corners_of(const Loop& ring) {
    constexpr double sharp = 0.35, slight = 0.05, more = 3, longer = 5;
    const Numbers turns = turns_of(ring);
    std::vector<std::size_t> out;
    const std::size_t n = ring.size();
    for (std::size_t i = 0; i < n; ++i) {
        const double beside = std::max(turns[(i + n - 1) % n], turns[(i + 1) % n]);
        const double in = (ring[i] - ring[(i + n - 1) % n]).norm(), on = (ring[(i + 1) % n] - ring[i]).norm();
        if (turns[i] > sharp || (turns[i] > slight && turns[i] > more * beside) ||
            std::max(in, on) > longer * std::min(in, on))
            out.push_back(i);
    }
    return out;
}

/// A place of each ring, one over the other.
struct Meeting {
    std::size_t a = 0, b = 0;
};

double off(const Loop& ring, std::size_t i, const Vec3& from) {
    return (ring[i] - from).norm();
}

/// The place of a ring next to a point: a corner, if one is not much farther than the nearest of all.
std::size_t over_against(const Loop& ring, const std::vector<std::size_t>& corners, const Vec3& from) {
    constexpr double not_much_mm = 2;
    std::vector<std::size_t> all(ring.size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    const auto nearest = [&](const std::vector<std::size_t>& among) {
        return *std::min_element(among.begin(), among.end(),
                                 [&](auto i, auto j) { return off(ring, i, from) < off(ring, j, from); });
    };
    const std::size_t any = nearest(all), corner = corners.empty() ? any : nearest(corners);
    return off(ring, corner, from) < off(ring, any, from) + not_much_mm ? corner : any;
}

/// Where either ring has a corner, in their order; empty where that is not the same on both.
std::vector<Meeting> meetings_of(const Loop& a, const Loop& b) {
    auto at_a = corners_of(a);
    const auto at_b = corners_of(b);
    if (at_a.size() + at_b.size() < 2) at_a = {0, a.size() / 2};  // a round hole: two halves
    std::vector<Meeting> out;
    for (std::size_t i : at_a) out.push_back({i, over_against(b, at_b, a[i])});
    for (std::size_t j : at_b)
        if (std::none_of(out.begin(), out.end(), [&](const Meeting& m) { return m.b == j; }))
            out.push_back({over_against(a, at_a, b[j]), j});
    // From one that shares its place of A with no other.
    const auto alone = std::find_if(out.begin(), out.end(), [&](const Meeting& m) {
        return std::count_if(out.begin(), out.end(), [&](const Meeting& other) { return other.a == m.a; }) == 1;
    });
    if (alone == out.end()) return {};
    const Meeting first = *alone;
    const auto on_a = [&](const Meeting& m) { return (m.a + a.size() - first.a) % a.size(); };
    const auto on_b = [&](const Meeting& m) { return (m.b + b.size() - first.b) % b.size(); };
    std::sort(out.begin(), out.end(), [&](const Meeting& m, const Meeting& n) {
        return std::pair(on_a(m), on_b(m)) < std::pair(on_a(n), on_b(n));
    });
    for (std::size_t k = 1; k < out.size(); ++k)
        if (on_b(out[k]) < on_b(out[k - 1])) return {};
    return out.size() < 2 ? std::vector<Meeting>() : out;
}

/// From one meeting to the next, the same stretch of both rings; one place where a ring has no such stretch.
struct Run {
    Loop a, b;
};

Loop stretch(const Loop& ring, std::size_t from, std::size_t to) {
    Loop out{ring[from]};
    for (std::size_t i = from; i != to; out.push_back(ring[i])) i = (i + 1) % ring.size();
    return out;
}

std::vector<Run> runs_of(const Loop& a, const Loop& b) {
    const auto meetings = meetings_of(a, b);
    std::vector<Run> out;
    for (std::size_t i = 0; i < meetings.size(); ++i) {
        const Meeting &from = meetings[i], &to = meetings[(i + 1) % meetings.size()];
        out.push_back({stretch(a, from.a, to.a), stretch(b, from.b, to.b)});
    }
    return out;
}

/// How far along a line its corners lie, 0 to 1.
Numbers shares_of(const Loop& line) {
    Numbers out{0};
    for (std::size_t i = 1; i < line.size(); ++i) out.push_back(out.back() + (line[i] - line[i - 1]).norm());
    for (double& s : out) s /= out.back();
    out.back() = 1;
    return out;
}

Vec3 at_share(const Loop& line, const Numbers& shares, double share) {
    const auto next =
        std::clamp<std::ptrdiff_t>(std::upper_bound(shares.begin(), shares.end(), share) - shares.begin(), 1,
                                   static_cast<std::ptrdiff_t>(shares.size()) - 1);
    const auto i = static_cast<std::size_t>(next);
    const double part = (share - shares[i - 1]) / std::max(shares[i] - shares[i - 1], 1e-300);
    return line[i - 1] + part * (line[i] - line[i - 1]);
}

bool straight(const Loop& line) {
    const Vec3 way = (line.back() - line.front()).normalized();
    return std::all_of(line.begin(), line.end(), [&](const Vec3& p) {
        const Vec3 off = p - line.front();
        return (off - way.dot(off) * way).norm() < straight_mm;
    });
}

Handle(Geom_BSplineCurve) through(const Loop& places, const Numbers& shares) {
    const int n = static_cast<int>(places.size());
    Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, n);
    Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, n);
    for (int k = 0; k < n; ++k) {
        points->SetValue(k + 1, point(places[static_cast<std::size_t>(k)]));
        parameters->SetValue(k + 1, shares[static_cast<std::size_t>(k)]);
    }
    GeomAPI_Interpolate made(points, parameters, false, 1e-7);
    made.Perform();
    return made.IsDone() ? made.Curve() : Handle(Geom_BSplineCurve)();
}

/// Whether a curve follows a line: its places closely, and between them as an arc does that turns so.
bool follows(const Geom_BSplineCurve& curve, const Loop& line, const Numbers& shares) {
    const auto off = [&](double share, const Vec3& from) {
        gp_Pnt p;
        gp_Vec way;
        curve.D1(share, p, way);
        const Vec3 along = Vec3(way.X(), way.Y(), way.Z()).normalized(), d = Vec3(p.X(), p.Y(), p.Z()) - from;
        return (d - along.dot(d) * along).norm();
    };
    const auto turn = [&](std::size_t i) {
        return i == 0 || i + 1 == line.size() ? 0 : turn_between(line[i] - line[i - 1], line[i + 1] - line[i]);
    };
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (off(shares[i], line[i]) > spline_within_mm) return false;
        if (i + 1 == line.size()) break;
        const Vec3& next = line[i + 1];
        const double sag = (next - line[i]).norm() * std::max(turn(i), turn(i + 1)) / 8;
        if (off((shares[i] + shares[i + 1]) / 2, (line[i] + next) / 2) > spline_within_mm + 1.5 * sag) return false;
    }
    return true;
}

/// As many places on one line as on the other, at the same shares of it.
void pair_up(Run& run) {
    if (run.a.size() == run.b.size()) return;
    const bool more_a = run.a.size() > run.b.size();
    const Numbers a = shares_of(run.a), b = shares_of(run.b);
    Loop other;
    for (double share : more_a ? a : b)
        other.push_back(more_a ? at_share(run.b, b, share) : at_share(run.a, a, share));
    (more_a ? run.b : run.a) = other;
}

struct Curves {
    Handle(Geom_BSplineCurve) a, b;
};

/// Both with the same parameters, so that a ruled surface lies between them as it is; through as few places as do.
Curves curves_of(Run run) {
    if (straight(run.a) && straight(run.b))
        return {through({run.a.front(), run.a.back()}, {0, 1}), through({run.b.front(), run.b.back()}, {0, 1})};
    pair_up(run);
    Numbers shares = shares_of(run.a);
    const Numbers of_b = shares_of(run.b);
    for (std::size_t i = 0; i < shares.size(); ++i) shares[i] = (shares[i] + of_b[i]) / 2;
    const std::size_t last = shares.size() - 1;
    for (std::size_t stride : {16, 8, 4, 2, 1}) {
        Loop a, b;
        Numbers at;
        const auto take = [&](std::size_t i) {
            a.push_back(run.a[i]), b.push_back(run.b[i]), at.push_back(shares[i]);
        };
        for (std::size_t i = 0; i == 0 || i + stride / 2 < last; i += stride) take(i);
        take(last);
        if (at.size() < 3) continue;
        const Curves made{through(a, at), through(b, at)};
        if (!made.a.IsNull() && !made.b.IsNull() && made.a->NbPoles() == made.b->NbPoles() &&
            follows(*made.a, run.a, shares) && follows(*made.b, run.b, shares))
            return made;
    }
    return {};
}

/// In one plane where both are lines and it is one.
TopoDS_Shape face_between(const Curves& curves) {
    const gp_Pnt corners[] = {curves.a->StartPoint(), curves.a->EndPoint(), curves.b->EndPoint(),
                              curves.b->StartPoint()};
    if (curves.a->NbPoles() == 2) {
        const gp_Vec u(corners[0], corners[1]), v(corners[0], corners[3]), across = u.Crossed(v);
        if (across.Magnitude() < level_mm) return {};
        const gp_Pln plane(corners[0], gp_Dir(across));
        if (plane.Distance(corners[2]) < level_mm)
            return BRepBuilderAPI_MakeFace(
                       plane, BRepBuilderAPI_MakePolygon(corners[0], corners[1], corners[2], corners[3], true).Wire(),
                       true)
                .Face();
    }
    TColgp_Array2OfPnt poles(1, curves.a->NbPoles(), 1, 2);
    for (int k = 1; k <= curves.a->NbPoles(); ++k) {
        poles.SetValue(k, 1, curves.a->Pole(k));
        poles.SetValue(k, 2, curves.b->Pole(k));
    }
    TColStd_Array1OfReal across(1, 2);
    across.SetValue(1, 0), across.SetValue(2, 1);
    TColStd_Array1OfInteger twice(1, 2);
    twice.Init(2);
    const Handle(Geom_BSplineSurface) surface = new Geom_BSplineSurface(
        poles, curves.a->Knots(), across, curves.a->Multiplicities(), twice, curves.a->Degree(), 1);
    return BRepBuilderAPI_MakeFace(surface, 1e-6).Face();
}

/// One ring's stretch over against a single place of the other: a triangle.
bool add_tip(const Vec3& tip, const Loop& line, BRepBuilderAPI_Sewing& sewing, BRepBuilderAPI_MakeWire& wire) {
    if (!straight(line)) return false;
    const gp_Pnt from = point(line.front()), to = point(line.back());
    const BRepBuilderAPI_MakeFace made(BRepBuilderAPI_MakePolygon(point(tip), from, to, true).Wire(), true);
    if (!made.IsDone()) return false;
    sewing.Add(made.Face());
    wire.Add(BRepBuilderAPI_MakeEdge(from, to).Edge());
    return true;
}

/// The side between two stretches, and what of the faces' outlines they are.
bool add_side(const Run& run, BRepBuilderAPI_Sewing& sewing, BRepBuilderAPI_MakeWire& wire_a,
              BRepBuilderAPI_MakeWire& wire_b) {
    if (run.a.size() < 2) return run.b.size() < 2 || add_tip(run.a[0], run.b, sewing, wire_b);
    if (run.b.size() < 2) return add_tip(run.b[0], run.a, sewing, wire_a);
    const Curves curves = curves_of(run);
    if (curves.a.IsNull() || curves.b.IsNull()) return false;
    const TopoDS_Shape side = face_between(curves);
    if (side.IsNull()) return false;
    sewing.Add(side);
    wire_a.Add(BRepBuilderAPI_MakeEdge(curves.a).Edge());
    wire_b.Add(BRepBuilderAPI_MakeEdge(curves.b).Edge());
    return true;
}

Vec3 normal_of(const Loop& loop) {
    Vec3 out = Vec3::Zero();
    for (std::size_t i = 0; i < loop.size(); ++i)
        out += (loop[i] - loop[0]).cross(loop[(i + 1) % loop.size()] - loop[0]);
    return out.normalized();
}

/// A plane face within wires that run as its rings do.
TopoDS_Shape face_within(const Loop& outer, const std::vector<TopoDS_Wire>& wires) {
    const Vec3 n = normal_of(outer);
    BRepBuilderAPI_MakeFace made(gp_Pln(point(outer[0]), gp_Dir(n.x(), n.y(), n.z())), wires[0], true);
    for (std::size_t k = 1; k < wires.size(); ++k) made.Add(wires[k]);
    return made.IsDone() ? TopoDS_Shape(made.Face()) : TopoDS_Shape();
}

}  // namespace

TopoDS_Shape smooth_body(const piece::Solid& solid) {
    BRepBuilderAPI_Sewing sewing(sewn_mm);
    std::vector<TopoDS_Wire> of_a, of_b;
    for (const auto& band : solid.bands) {
        const Loop a = cleaned(band.a), b = cleaned(band.b);
        if (a.size() < 3 || b.size() < 3) return {};
        BRepBuilderAPI_MakeWire wire_a, wire_b;
        for (const Run& run : runs_of(a, b))
            if (!add_side(run, sewing, wire_a, wire_b)) return {};
        if (!wire_a.IsDone() || !wire_b.IsDone()) return {};
        of_a.push_back(wire_a.Wire());
        of_b.push_back(wire_b.Wire());
    }
    if (of_a.empty()) return {};
    for (const auto& face : {face_within(solid.bands[0].a, of_a), face_within(solid.bands[0].b, of_b)}) {
        if (face.IsNull()) return {};
        sewing.Add(face);
    }
    sewing.Perform();
    const TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
    if (!shells.More() || !BRep_Tool::IsClosed(shells.Current())) return {};
    TopoDS_Solid body = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
    BRepLib::OrientClosedSolid(body);
    return body;
}

}  // namespace bevelsmith::step_writer

#include "step_writer/step_writer.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <Eigen/Geometry>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_Printer.hxx>
#include <STEPControl_Writer.hxx>
#include <ShapeFix_ShapeTolerance.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <gp_Pln.hxx>
#include <map>
#include <utility>
#include <vector>

#include "step_writer/smooth_body.h"

namespace {

using bevelsmith::Vec3;
using bevelsmith::piece::Solid;

TopoDS_Wire wire_of(const Solid::Loop& loop) {
    BRepBuilderAPI_MakePolygon out;
    for (const Vec3& p : loop) out.Add({p.x(), p.y(), p.z()});
    out.Close();
    return out.Wire();
}

/// A wall in one plane: triangles that follow one another in it, as one loop. Unifying the faces of the finished body
/// instead takes a hundred times as long.
struct Wall {
    Solid::Loop loop;
    Vec3 origin = Vec3::Zero(), normal = Vec3::UnitZ();
    double twice_area = 0;  ///< of the largest triangle, whose plane it is
};

constexpr double in_plane_mm = 1e-3, least_area_mm2 = 1e-6;

Wall wall_of(const std::array<Vec3, 3>& t) {
    const Vec3 across = (t[1] - t[0]).cross(t[2] - t[0]);
    return {{t[0], t[1], t[2]}, t[0], across.normalized(), across.norm()};
}

/// Takes a triangle in where it goes on along one side of the wall, in its plane.
bool taken_in(Wall& wall, const std::array<Vec3, 3>& t) {
    auto& loop = wall.loop;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Vec3 &from = loop[i], &to = loop[(i + 1) % loop.size()];
        for (std::size_t k = 0; k < 3; ++k) {
            // The shared side runs the other way in the neighbour.
            if (!(t[k] == to && t[(k + 1) % 3] == from)) continue;
            const Vec3& tip = t[(k + 2) % 3];
            const Wall alone = wall_of(t);
            // A sliver's plane tells nothing: the larger triangle's is kept.
            const bool larger = alone.twice_area > wall.twice_area;
            const Wall& plane = larger ? alone : wall;
            const auto off = [&](const Vec3& p) { return std::abs(plane.normal.dot(p - plane.origin)); };
            if (off(tip) > in_plane_mm ||
                std::any_of(loop.begin(), loop.end(), [&](const Vec3& p) { return off(p) > in_plane_mm; }))
                return false;
            if (larger) wall.origin = alone.origin, wall.normal = alone.normal, wall.twice_area = alone.twice_area;
            loop.insert(loop.begin() + static_cast<std::ptrdiff_t>(i) + 1, tip);
            return true;
        }
    }
    return false;
}

std::vector<Wall> walls_of(const Solid& solid) {
    std::vector<Wall> out;
    for (const auto& side : solid.sides)
        if (out.empty() || !taken_in(out.back(), side)) out.push_back(wall_of(side));
    return out;
}

TopoDS_Shape face_of(const Wall& wall) {
    const TopoDS_Wire wire = wire_of(wall.loop);
    if (wall.loop.size() == 3) {
        const BRepBuilderAPI_MakeFace made(wire, true);
        return made.IsDone() ? TopoDS_Shape(made.Face()) : TopoDS_Shape();
    }
    ShapeFix_ShapeTolerance().SetTolerance(wire, in_plane_mm);
    const gp_Pln plane({wall.origin.x(), wall.origin.y(), wall.origin.z()},
                       {wall.normal.x(), wall.normal.y(), wall.normal.z()});
    const BRepBuilderAPI_MakeFace made(plane, wire, true);
    return made.IsDone() ? TopoDS_Shape(made.Face()) : TopoDS_Shape();
}

/// A shell whose faces share their corners and sides, so that nothing has to be sewn.
class Shell {
  public:
    Shell() { builder_.MakeShell(shell_); }

    void add(const Solid::Loop& outer, const std::vector<Solid::Loop>& holes, const gp_Pln& plane) {
        BRepBuilderAPI_MakeFace made(plane, wire(outer), true);
        for (const auto& hole : holes) made.Add(wire(hole));
        if (!made.IsDone()) return void(whole_ = false);
        builder_.Add(shell_, made.Face());
    }
    /// Nothing where a side belongs to one face alone.
    TopoDS_Shape body() {
        const bool closed =
            std::all_of(sides_.begin(), sides_.end(), [](const auto& s) { return s.second.used == 2; });
        if (!whole_ || !closed) return {};
        shell_.Closed(true);
        TopoDS_Solid out;
        builder_.MakeSolid(out);
        // Every loop turns left as seen from outside, so that the shell needs no orienting, which would ask every
        // face about every other.
        builder_.Add(out, shell_);
        return out;
    }

  private:
    struct Side {
        TopoDS_Edge edge;
        int used = 0;
    };
    int corner(const Vec3& p) {
        constexpr double same_mm = 1e-6;
        const std::array<long long, 3> key{std::llround(p.x() / same_mm), std::llround(p.y() / same_mm),
                                           std::llround(p.z() / same_mm)};
        const auto [at, fresh] = numbers_.emplace(key, static_cast<int>(corners_.size()));
        if (fresh) {
            TopoDS_Vertex vertex;
            builder_.MakeVertex(vertex, {p.x(), p.y(), p.z()}, in_plane_mm);
            corners_.push_back(vertex);
        }
        return at->second;
    }
    TopoDS_Wire wire(const Solid::Loop& loop) {
        TopoDS_Wire out;
        builder_.MakeWire(out);
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const int from = corner(loop[i]), to = corner(loop[(i + 1) % loop.size()]);
            if (from == to) continue;
            Side& side = sides_[{std::min(from, to), std::max(from, to)}];
            if (side.used++ == 0)
                side.edge = BRepBuilderAPI_MakeEdge(corners_[static_cast<std::size_t>(std::min(from, to))],
                                                    corners_[static_cast<std::size_t>(std::max(from, to))]);
            builder_.Add(out, side.edge.Oriented(from < to ? TopAbs_FORWARD : TopAbs_REVERSED));
        }
        out.Closed(true);
        return out;
    }

    BRep_Builder builder_;
    TopoDS_Shell shell_;
    std::map<std::array<long long, 3>, int> numbers_;
    std::vector<TopoDS_Vertex> corners_;
    std::map<std::pair<int, int>, Side> sides_;
    bool whole_ = true;
};

gp_Pln plane_of(const Vec3& at, const Vec3& normal) {
    return {{at.x(), at.y(), at.z()}, {normal.x(), normal.y(), normal.z()}};
}

/// Of a loop that turns left as seen from where its normal points to (M. Newell's sum over its sides).
Vec3 normal_of(const Solid::Loop& loop) {
    Vec3 out = Vec3::Zero();
    for (std::size_t i = 0; i < loop.size(); ++i)
        out += (loop[i] - loop[0]).cross(loop[(i + 1) % loop.size()] - loop[0]);
    return out.normalized();
}

TopoDS_Shape shared_body(const Solid& solid, const std::vector<Wall>& walls) {
    Shell shell;
    // Walls first: a side is written with the first face that has it, and asks all of that face's sides.
    for (const Wall& wall : walls) shell.add(wall.loop, {}, plane_of(wall.origin, normal_of(wall.loop)));
    for (const auto& face : solid.faces)
        shell.add(face.outer, face.holes, plane_of(face.outer[0], normal_of(face.outer)));
    return shell.body();
}

/// Where corners do not meet one another exactly.
TopoDS_Shape sewn_body(const Solid& solid, const std::vector<Wall>& walls) {
    BRepBuilderAPI_Sewing sewing(in_plane_mm);
    for (const auto& face : solid.faces) {
        BRepBuilderAPI_MakeFace made(wire_of(face.outer), true);
        for (const auto& hole : face.holes) made.Add(wire_of(hole));
        if (made.IsDone()) sewing.Add(made.Face());
    }
    for (const Wall& wall : walls)
        if (wall.twice_area > least_area_mm2)
            if (const TopoDS_Shape face = face_of(wall); !face.IsNull()) sewing.Add(face);
    sewing.Perform();
    const TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
    if (!shells.More()) return {};
    TopoDS_Solid body = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
    BRepLib::OrientClosedSolid(body);
    return body;
}

TopoDS_Shape body_of(const Solid& solid) {
    if (const TopoDS_Shape smooth = bevelsmith::step_writer::smooth_body(solid); !smooth.IsNull()) return smooth;
    const auto walls = walls_of(solid);
    const bool slivers =
        std::any_of(walls.begin(), walls.end(), [](const Wall& w) { return w.twice_area < least_area_mm2; });
    const TopoDS_Shape shared = slivers ? TopoDS_Shape() : shared_body(solid, walls);
    return shared.IsNull() ? sewn_body(solid, walls) : shared;
}

}  // namespace

extern "C" __attribute__((visibility("default"))) std::string bevelsmith_write_step(
    const std::vector<bevelsmith::step_writer::NamedSolid>& solids, const std::string& path,
    const bevelsmith::KeepGoing& keep_going) {
    try {
        Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_Printer));
        STEPControl_Writer writer;
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetCVal("write.step.unit", "MM");
        // All faces are plane: curves within them say nothing that the sides do not.
        Interface_Static::SetIVal("write.surfacecurve.mode", 0);
        for (const auto& one : solids) {
            bevelsmith::ask(keep_going);
            Interface_Static::SetCVal("write.step.product.name", one.name.c_str());
            const TopoDS_Shape body = body_of(one.solid);
            // The whole file's graph once, with the last: anew with every solid it takes the square of their number.
            const bool last = &one == &solids.back();
            if (body.IsNull() || writer.Transfer(body, STEPControl_AsIs, last) != IFSelect_RetDone)
                return "'" + one.name + "' does not close to a solid";
        }
        if (writer.Write(path.c_str()) != IFSelect_RetDone) return "the folder is missing or closed to you";
        return {};
    } catch (const bevelsmith::Stopped&) {
        throw;
    } catch (const Standard_Failure&) {
        return "the solid could not be made";
    } catch (const std::exception&) {
        return "the solid could not be made";
    }
}

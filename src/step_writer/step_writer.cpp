#include "step_writer/step_writer.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <Eigen/Geometry>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_Printer.hxx>
#include <STEPControl_Writer.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

namespace {

using bevelsmith::Vec3;
using bevelsmith::piece::Solid;

TopoDS_Wire wire_of(const Solid::Loop& loop) {
    BRepBuilderAPI_MakePolygon out;
    for (const Vec3& p : loop) out.Add({p.x(), p.y(), p.z()});
    out.Close();
    return out.Wire();
}

TopoDS_Shape body_of(const Solid& solid) {
    BRepBuilderAPI_Sewing sewing(1e-4);
    for (const auto& face : solid.faces) {
        BRepBuilderAPI_MakeFace made(wire_of(face.outer), true);
        for (const auto& hole : face.holes) made.Add(wire_of(hole));
        if (made.IsDone()) sewing.Add(made.Face());
    }
    for (const auto& side : solid.sides) {
        const double area = (side[1] - side[0]).cross(side[2] - side[0]).norm();
        if (area < 1e-6) continue;
        const BRepBuilderAPI_MakeFace made(wire_of({side[0], side[1], side[2]}), true);
        if (made.IsDone()) sewing.Add(made.Face());
    }
    sewing.Perform();
    const TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
    if (!shells.More()) return {};
    TopoDS_Solid body = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
    BRepLib::OrientClosedSolid(body);
    // Triangles of a straight edge lie in one plane: they become one face.
    ShapeUpgrade_UnifySameDomain unify(body, true, true, false);
    unify.SetLinearTolerance(1e-3);
    unify.Build();
    return unify.Shape();
}

}  // namespace

extern "C" __attribute__((visibility("default"))) std::string bevelsmith_write_step(
    const std::vector<bevelsmith::step_writer::NamedSolid>& solids, const std::string& path) {
    try {
        Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_Printer));
        STEPControl_Writer writer;
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetCVal("write.step.unit", "MM");
        for (const auto& one : solids) {
            Interface_Static::SetCVal("write.step.product.name", one.name.c_str());
            const TopoDS_Shape body = body_of(one.solid);
            if (body.IsNull() || writer.Transfer(body, STEPControl_AsIs) != IFSelect_RetDone)
                return "'" + one.name + "' does not close to a solid";
        }
        if (writer.Write(path.c_str()) != IFSelect_RetDone) return "the folder is missing or closed to you";
        return {};
    } catch (const Standard_Failure&) {
        return "the solid could not be made";
    } catch (const std::exception&) {
        return "the solid could not be made";
    }
}

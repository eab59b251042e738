// DXF by dxflib: closed polylines a layer, bevels as lines and text.
#include <dl_creationadapter.h>
#include <dl_dxf.h>
#include <fmt/format.h>

#include <cstdio>
#include <memory>

#include "exchange/drawing.h"

namespace bevelsmith::exchange {
namespace {

void write_layers(DL_Dxf& dxf, DL_WriterA& out) {
    out.sectionTables();
    out.tableLinetypes(2);
    dxf.writeLinetype(out, DL_LinetypeData("CONTINUOUS", "Continuous", 0, 0, 0.0));
    dxf.writeLinetype(out, DL_LinetypeData("DASHED", "Dashed", 0, 0, 0.0));
    out.tableEnd();
    out.tableLayers(4);
    const auto layer = [&](const char* name, int colour) {
        dxf.writeLayer(out, DL_LayerData(name, 0), DL_Attributes("", colour, 0x000000, 100, "CONTINUOUS"));
    };
    layer("0", DL_Codes::black);
    layer("FACE_A", DL_Codes::black);
    layer("FACE_B", DL_Codes::blue);
    layer("MARKS", DL_Codes::red);
    out.tableEnd();
    out.sectionEnd();
}

void write_ring(DL_Dxf& dxf, DL_WriterA& out, const geometry::Ring& ring, const DL_Attributes& attributes) {
    dxf.writePolyline(out, DL_PolylineData(static_cast<int>(ring.size()), 0, 0, 1), attributes);
    for (const Vec2& p : ring) dxf.writeVertex(out, DL_VertexData(p.x(), p.y(), 0.0));
    dxf.writePolylineEnd(out);
}

void write_face(DL_Dxf& dxf, DL_WriterA& out, const geometry::Polygon& face, const char* layer) {
    const DL_Attributes attributes(layer, 256, -1, "BYLAYER", 1.0);
    write_ring(dxf, out, face.outer, attributes);
    for (const auto& hole : face.holes) write_ring(dxf, out, hole, attributes);
}

void write_line(DL_Dxf& dxf, DL_WriterA& out, const Vec2& a, const Vec2& b, const DL_Attributes& attributes) {
    dxf.writeLine(out, DL_LineData(a.x(), a.y(), 0, b.x(), b.y(), 0), attributes);
}

}  // namespace

Result<bool> write_dxf(const Drawing& d, const std::string& path) {
    DL_Dxf dxf;
    const std::string beside = path + ".part";
    std::unique_ptr<DL_WriterA> out(dxf.out(beside.c_str(), DL_Codes::AC1009));
    if (!out || out->openFailed()) return Error{"cannot be written: the folder is missing or closed to you"};
    dxf.writeHeader(*out);
    out->sectionEnd();
    write_layers(dxf, *out);
    out->sectionEntities();
    write_face(dxf, *out, d.face_a, "FACE_A");
    write_face(dxf, *out, d.face_b, "FACE_B");
    const DL_Attributes marks("MARKS", 256, -1, "BYLAYER", 1.0);
    for (const auto& t : d.ticks) {
        write_line(dxf, *out, t.at, t.at + 8 * t.outward, marks);
        const Vec2 text = t.at - 24 * t.outward;
        dxf.writeText(*out,
                      DL_TextData(text.x(), text.y(), 0, text.x(), text.y(), 0, 7, 1, 0, 0, 0,
                                  fmt::format("{:+.1f}%%d", t.bevel_deg), "STANDARD", 0),
                      marks);
    }
    for (const auto& [a, b] : d.joint_lines) write_line(dxf, *out, a, b, marks);
    out->sectionEnd();
    out->dxfEOF();
    out->close();
    if (std::rename(beside.c_str(), path.c_str()) != 0) {
        std::remove(beside.c_str());
        return Error{"cannot be written; the file before is untouched"};
    }
    return true;
}

}  // namespace bevelsmith::exchange

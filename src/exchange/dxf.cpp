// A piece or part as DXF: both faces with their openings, bevels as lines and figures.
#include <fmt/format.h>

#include "exchange/drawing.h"
#include "exchange/dxf_writer.h"

namespace bevelsmith::exchange {

Result<bool> write_dxf(const Drawing& d, const std::string& path) {
    std::vector<DxfWriter::Layer> layers{{"OUTER_A", 7}, {"INNER_A", 8}, {"OUTER_B", 5},
                                         {"INNER_B", 4}, {"MARK", 1},    {"TEXT", 3}};
    if (d.cut_differs()) layers.insert(layers.end(), {{"FINISHED_A", 9}, {"FINISHED_B", 9}});
    if (!d.reliefs.empty()) layers.insert(layers.end(), {{"RELIEF_A", 6}, {"RELIEF_B", 6}});
    if (!d.drilled.empty()) layers.push_back({"DRILL", 2});
    auto out = DxfWriter::open(path, layers, d.unit);
    if (!out) return out.error();
    DxfWriter& dxf = **out;
    dxf.shape(d.face_a, "OUTER_A", "INNER_A");
    dxf.shape(d.face_b, "OUTER_B", "INNER_B");
    if (d.cut_differs()) {
        dxf.shape(d.finished_a, "FINISHED_A", "FINISHED_A");
        dxf.shape(d.finished_b, "FINISHED_B", "FINISHED_B");
    }
    constexpr double figures_mm = 7;
    for (const auto& t : d.ticks) {
        dxf.line(t.at, t.at + 8 * t.outward, "MARK");
        // The format's own sign for degrees.
        dxf.text(t.at - 24 * t.outward, figures_mm, fmt::format("{:+.1f}%%d", t.bevel_deg), DxfWriter::Lies::left,
                 "TEXT");
    }
    for (const auto& joint : d.joint_lines) {
        dxf.line(joint.from, joint.to, "MARK");
        dxf.text((joint.from + joint.to) / 2, figures_mm, joint.kind, DxfWriter::Lies::middle, "TEXT");
    }
    for (const auto& note : d.notes)
        dxf.text(note.at - 40 * note.outward, figures_mm, words_of(note, d.unit), DxfWriter::Lies::middle, "TEXT");
    for (const auto& relief : d.reliefs)
        for (std::size_t i = 0; i + 1 < relief.line.size(); ++i)
            dxf.line(relief.line[i], relief.line[i + 1], relief.face == piece::Face::a ? "RELIEF_A" : "RELIEF_B");
    for (const auto& hole : d.drilled) {
        dxf.circle(hole.at, hole.diameter_mm / 2, "DRILL");
        dxf.text(hole.at + Vec2(hole.diameter_mm, hole.diameter_mm), figures_mm, exchange::words_of(hole, d.unit),
                 DxfWriter::Lies::left, "TEXT");
    }
    dxf.text(d.box.centre(), 2 * figures_mm, d.id, DxfWriter::Lies::middle, "TEXT");
    dxf.text({0, -2 * figures_mm}, figures_mm,
             units::in_inches(d.unit) ? "Inches, 1:1, face A seen." : "Millimetres, 1:1, face A seen.",
             DxfWriter::Lies::left, "TEXT");
    if (d.cut_differs())
        dxf.text({0, d.box.max.y() + 2 * figures_mm}, figures_mm,
                 "OUTER: as cut from the sheet. FINISHED: with lippings, shaved.", DxfWriter::Lies::left, "TEXT");
    return dxf.finish();
}

}  // namespace bevelsmith::exchange

#include "exchange/sheet_plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exchange/dxf_writer.h"
#include "exchange/plain_text.h"
#include "job/file_io.h"

namespace bevelsmith::exchange {
namespace {

constexpr double text_mm = 25;

struct Laid {
    std::string id, name;
    geometry::Polygon shape;
};

/// What lies on a sheet; an error where there is no such sheet.
struct Plan {
    geometry::Polygon sheet;
    std::vector<Laid> parts;
    std::vector<ReliefHole> relief;
};

Result<Plan> plan_of(const job::Job& job, const job::SheetResult& sheets, int sheet) {
    if (!sheets.layout || sheet < 0 || sheet >= static_cast<int>(sheets.layout->sheet_stock.size()))
        return Error{fmt::format("there is no sheet {}", sheet + 1)};
    Plan out;
    out.sheet =
        sheets.problem->stock[static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)])]
            .shape;
    for (const auto& at : sheets.layout->placements) {
        if (at.sheet != sheet) continue;
        const auto k = static_cast<std::size_t>(at.part);
        out.parts.push_back({sheets.problem->parts[k].id, sheets.part_names[k], sheets::placed(*sheets.problem, at)});
        if (job.cutting.tool != job::Tool::router) continue;
        for (const auto& hole : relief_holes(out.parts.back().shape, job.cutting.cutter_mm))
            out.relief.push_back(hole);
    }
    return out;
}

void relief_of(const geometry::Ring& ring, double radius, std::vector<ReliefHole>& out) {
    // Wood lies at the left of every ring: a corner that turns right is an inside one.
    const std::size_t n = ring.size();
    for (std::size_t i = 0; i < n; ++i) {
        const Vec2 in = ring[i] - ring[(i + n - 1) % n], on = ring[(i + 1) % n] - ring[i];
        if (in.norm() < radius / 2 || on.norm() < radius / 2) continue;  // a curve in chords
        const double turn = std::atan2(in.x() * on.y() - in.y() * on.x(), in.dot(on));
        constexpr double least_turn = 30 * M_PI / 180;
        if (turn > -least_turn) continue;
        const Vec2 away = on.normalized() - in.normalized();  // into the wood's outside, where the cutter is
        out.push_back({ring[i] + radius * away.normalized(), radius});
    }
}

void write_entities(DxfWriter& dxf, const Plan& plan) {
    dxf.shape(plan.sheet, "SHEET", "SHEET");
    for (const Laid& part : plan.parts) {
        dxf.shape(part.shape, "OUTER", "INNER");
        const Vec2 at = geometry::centroid(part.shape);
        dxf.text(at, text_mm, part.id, DxfWriter::Lies::middle, "TEXT");
        dxf.text(at - Vec2(0, 2 * text_mm), text_mm / 2, part.name, DxfWriter::Lies::middle, "TEXT");
        const Vec2 half(0.1 * geometry::bounding_box(part.shape.outer).width(), 0), below(0, text_mm);
        dxf.line(at - half - below, at + half - below, "MARK");
    }
    for (const auto& hole : plan.relief) dxf.circle(hole.centre, hole.radius_mm, "RELIEF");
}

std::string path_of(const geometry::Ring& ring, double height) {
    std::string out;
    for (std::size_t i = 0; i < ring.size(); ++i)
        out += fmt::format("{}{:.4f} {:.4f} ", i ? "L" : "M", ring[i].x(), height - ring[i].y());
    return out + "Z ";
}

}  // namespace

std::vector<ReliefHole> relief_holes(const geometry::Polygon& shape, double cutter_mm) {
    std::vector<ReliefHole> out;
    if (cutter_mm <= 0) return out;
    const auto turned = geometry::oriented(shape);
    relief_of(turned.outer, cutter_mm / 2, out);
    for (const auto& hole : turned.holes) relief_of(hole, cutter_mm / 2, out);
    return out;
}

Result<bool> write_sheet_dxf(const job::Job& job, const job::SheetResult& sheets, int sheet,
                             const std::string& path) {
    const auto plan = plan_of(job, sheets, sheet);
    if (!plan) return plan.error();
    auto out = DxfWriter::open(
        path, {{"SHEET", 8}, {"OUTER", 7}, {"INNER", 5}, {"RELIEF", 6}, {"MARK", 1}, {"TEXT", 3}}, job.unit);
    if (!out) return out.error();
    write_entities(**out, *plan);
    return (*out)->finish();
}

Result<bool> write_sheet_svg(const job::Job& job, const job::SheetResult& sheets, int sheet,
                             const std::string& path) {
    const auto plan = plan_of(job, sheets, sheet);
    if (!plan) return plan.error();
    const auto box = geometry::bounding_box(plan->sheet.outer);
    const double height = box.max.y();
    std::string out = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" viewBox=\"{2:.3f} 0 "
        "{0:.3f} "
        "{1:.3f}\">\n<desc>Millimetres, 1:1.</desc>\n<g fill=\"none\" stroke=\"#222\" stroke-width=\"0.4\">\n",
        box.width(), box.height(), box.min.x());
    const auto add = [&](const char* kind, const std::string& id, const geometry::Polygon& shape) {
        std::string d = path_of(shape.outer, height);
        for (const auto& hole : shape.holes) d += path_of(hole, height);
        out += fmt::format("<path class=\"{}\" id=\"{}\" d=\"{}\"/>\n", kind, xml_escaped(id), d);
    };
    add("sheet", "sheet", plan->sheet);
    for (const Laid& part : plan->parts) add("part", part.id, part.shape);
    for (const auto& hole : plan->relief)
        out += fmt::format("<circle class=\"relief\" cx=\"{:.4f}\" cy=\"{:.4f}\" r=\"{:.3f}\"/>\n", hole.centre.x(),
                           height - hole.centre.y(), hole.radius_mm);
    out += "</g>\n";
    for (const Laid& part : plan->parts) {
        const Vec2 at = geometry::centroid(part.shape);
        out += fmt::format("<text x=\"{:.2f}\" y=\"{:.2f}\" font-size=\"{}\" text-anchor=\"middle\">{}</text>\n",
                           at.x(), height - at.y(), text_mm, xml_escaped(part.id));
        out += fmt::format("<text x=\"{:.2f}\" y=\"{:.2f}\" font-size=\"{}\" text-anchor=\"middle\">{}</text>\n",
                           at.x(), height - at.y() + text_mm, text_mm / 2, xml_escaped(part.name));
    }
    return job::write_file_atomically(path, out + "</svg>\n");
}

}  // namespace bevelsmith::exchange

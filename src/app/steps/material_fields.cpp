#include "app/steps/material_fields.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobMaterial;

bool is_used(const job::Job& job, const std::string& id) {
    return std::any_of(job.pieces.begin(), job.pieces.end(), [&](const auto& p) { return p.material_id == id; });
}

std::string add_like(job::Job& job, const std::string& id) {
    JobMaterial made = *job::find_material(job, id);
    std::vector<std::string> ids;
    for (const auto& m : job.materials) ids.push_back(m.id);
    made.id = job::free_id("sheet", ids);
    made.name += ", another";
    job.materials.push_back(made);
    return made.id;
}

}  // namespace

std::vector<FormField> material_fields(Document& document, const std::string& id,
                                       const std::function<void(const std::string&)>& show) {
    const auto* material = job::find_material(document.job(), id);
    if (!material) return {};
    std::vector<FormField> out;
    const auto add = [&](Kind kind, const QString& label, const QVariant& value, auto change, double least,
                         double most, const QString& unit = {}) {
        out.push_back({kind,
                       label,
                       value,
                       [&document, id, change](const QVariant& v) {
                           document.edit("Change a sheet", [&](job::Job& job) {
                               for (auto& m : job.materials)
                                   if (m.id == id) change(m, v);
                           });
                       },
                       {},
                       unit,
                       least,
                       most});
    };
    const auto number = [&](Kind kind, const QString& label, double stock::SheetMaterial::*member, double least,
                            double most, const QString& unit = {}) {
        add(
            kind, label, material->*member, [member](JobMaterial& m, const QVariant& v) { m.*member = v.toDouble(); },
            least, most, unit);
    };
    out.push_back({Kind::heading, "The sheet", {}, {}, {}, {}});
    add(
        Kind::text, "sheet's name", QString::fromStdString(material->name),
        [](JobMaterial& m, const QVariant& v) { m.name = v.toString().toStdString(); }, 0, 0);
    number(Kind::length, "thickness, measured", &stock::SheetMaterial::thickness_mm, 0.5, 200);
    number(Kind::length, "along the grain", &stock::SheetMaterial::sheet_width_mm, 10, 1e5);
    number(Kind::length, "across the grain", &stock::SheetMaterial::sheet_height_mm, 10, 1e5);
    number(Kind::number, "density", &stock::SheetMaterial::density_kg_m3, 10, 12000, "kg/m³");
    add(
        Kind::toggle, "as many as needed", material->sheets_in_stock < 0,
        [](JobMaterial& m, const QVariant& v) { m.sheets_in_stock = v.toBool() ? -1 : 1; }, 0, 0);
    if (material->sheets_in_stock >= 0)
        add(
            Kind::number, "in stock", material->sheets_in_stock,
            [](JobMaterial& m, const QVariant& v) {
                m.sheets_in_stock = static_cast<int>(std::lround(v.toDouble()));
            },
            0, 10000);
    add(
        Kind::toggle, "has a grain to keep to", material->has_grain,
        [](JobMaterial& m, const QVariant& v) { m.has_grain = v.toBool(); }, 0, 0);
    add(
        Kind::toggle, "both faces are good", material->two_good_faces,
        [](JobMaterial& m, const QVariant& v) { m.two_good_faces = v.toBool(); }, 0, 0);
    out.push_back({Kind::button,
                   "Add another sheet",
                   {},
                   [&document, id, show](const QVariant&) {
                       std::string made;
                       document.edit("Add a sheet", [&](job::Job& job) { made = add_like(job, id); });
                       show(made);
                   },
                   {},
                   {}});
    if (!is_used(document.job(), id) && document.job().materials.size() > 1)
        out.push_back({Kind::button,
                       "Remove this sheet",
                       {},
                       [&document, id](const QVariant&) {
                           document.edit("Remove a sheet", [&](job::Job& job) {
                               std::erase_if(job.materials, [&](const auto& m) { return m.id == id; });
                               std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == id; });
                           });
                       },
                       {},
                       {}});
    return out;
}

}  // namespace bevelsmith::app

#include "app/cut/material_fields.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::app {
namespace {

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

void add_material_fields(FieldList& fields, Document& document, const std::string& id,
                         const std::function<void(const std::string&)>& show) {
    const auto* material = job::find_material(document.job(), id);
    if (!material) {
        // A job from elsewhere may have no sheet at all.
        if (document.job().materials.empty())
            fields.button("Add a sheet", [&document] {
                document.edit("Add a sheet", [](job::Job& job) { job.materials = job::empty_job().materials; });
            });
        return;
    }
    const auto set = [&document, id](auto change) {
        return [&document, id, change](const QVariant& v) {
            document.edit("Change a sheet", [&](job::Job& job) {
                for (auto& m : job.materials)
                    if (m.id == id) change(m, v);
            });
        };
    };
    const auto quantity = [&](double stock::SheetMaterial::*member) {
        return set([member](JobMaterial& m, const QVariant& v) { m.*member = v.toDouble(); });
    };
    using M = stock::SheetMaterial;
    fields.heading("The sheet")
        .text("sheet's name", material->name,
              set([](JobMaterial& m, const QVariant& v) { m.name = v.toString().toStdString(); }))
        .length("thickness, measured", material->thickness_mm, quantity(&M::thickness_mm),
                units::range::thickness.least, units::range::thickness.most)
        .length("along the grain", material->sheet_width_mm, quantity(&M::sheet_width_mm), 10,
                units::range::sheet.most)
        .length("across the grain", material->sheet_height_mm, quantity(&M::sheet_height_mm), 10,
                units::range::sheet.most)
        .number("density", "kg/m³", material->density_kg_m3, quantity(&M::density_kg_m3), 10, 12000)
        .toggle("as many as needed", material->sheets_in_stock < 0,
                set([](JobMaterial& m, const QVariant& v) { m.sheets_in_stock = v.toBool() ? -1 : 1; }));
    if (material->sheets_in_stock >= 0)
        fields.number("in stock", "", material->sheets_in_stock, set([](JobMaterial& m, const QVariant& v) {
                          m.sheets_in_stock = static_cast<int>(std::lround(v.toDouble()));
                      }),
                      0, 10000);
    fields
        .toggle("has a grain to keep to", material->has_grain,
                set([](JobMaterial& m, const QVariant& v) { m.has_grain = v.toBool(); }))
        .toggle("both faces are good", material->two_good_faces,
                set([](JobMaterial& m, const QVariant& v) { m.two_good_faces = v.toBool(); }))
        .button("Add another sheet", [&document, id, show] {
            std::string made;
            document.edit("Add a sheet", [&](job::Job& job) { made = add_like(job, id); });
            show(made);
        });
    if (is_used(document.job(), id) || document.job().materials.size() < 2) return;
    fields.button("Remove this sheet", [&document, id] {
        document.edit("Remove a sheet", [&](job::Job& job) {
            std::erase_if(job.materials, [&](const auto& m) { return m.id == id; });
            std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == id; });
        });
    });
}

}  // namespace bevelsmith::app

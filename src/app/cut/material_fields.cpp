#include "app/cut/material_fields.h"

#include "app/cut/catalogue.h"

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

/// Wires the fields of one sheet to undo steps.
class SheetSetter {
  public:
    SheetSetter(Document& document, std::string id) : document_(document), id_(std::move(id)) {}
    template <class Change>
    FieldList::Set by(Change change) const {
        return [&document = document_, id = id_, change](const QVariant& v) {
            document.edit("Change a sheet", [&](job::Job& job) {
                for (auto& m : job.materials)
                    if (m.id == id) change(m, v);
            });
        };
    }
    FieldList::Set quantity(double stock::SheetMaterial::*member) const {
        return by([member](JobMaterial& m, const QVariant& v) { m.*member = v.toDouble(); });
    }
    FieldList::Set flag(bool stock::SheetMaterial::*member) const {
        return by([member](JobMaterial& m, const QVariant& v) { m.*member = v.toBool(); });
    }

  private:
    Document& document_;
    std::string id_;
};

using M = stock::SheetMaterial;

void add_sizes(FieldList& fields, const JobMaterial& material, const SheetSetter& set, const QString& currency) {
    using namespace units::range;
    fields.heading("The sheet")
        .text("sheet's name", material.name,
              set.by([](JobMaterial& m, const QVariant& v) { m.name = v.toString().toStdString(); }))
        .length("thickness, measured", material.thickness_mm, set.quantity(&M::thickness_mm), thickness.least,
                thickness.most)
        .length("along the grain", material.sheet_width_mm, set.quantity(&M::sheet_width_mm), 10, sheet.most)
        .length("across the grain", material.sheet_height_mm, set.quantity(&M::sheet_height_mm), 10, sheet.most)
        .number("density", "kg/m³", material.density_kg_m3, set.quantity(&M::density_kg_m3), 10, 12000)
        .number("price of a sheet", currency, material.price, set.quantity(&M::price), price.least, price.most);
}

std::string add_known(job::Job& job, JobMaterial made) {
    std::vector<std::string> ids;
    for (const auto& m : job.materials) ids.push_back(m.id);
    if (std::find(ids.begin(), ids.end(), made.id) != ids.end()) made.id = job::free_id("sheet", ids);
    job.materials.push_back(made);
    return made.id;
}

/// Generic materials with their figures; prices are the user's to change.
void add_from_catalogue(FieldList& fields, Document& document, const std::function<void(const std::string&)>& show) {
    const auto known = catalogue();
    if (!known) {
        fields.heading("The catalogue cannot be read: " + QString::fromStdString(known.error().message));
        return;
    }
    QStringList names;
    for (const auto& m : known->materials) names << QString::fromStdString(m.name);
    fields.menu("Add one from the catalogue", names, [&document, show, all = known->materials](const QVariant& v) {
        const int k = v.toInt();
        if (k < 0 || k >= static_cast<int>(all.size())) return;
        std::string made;
        document.edit("Add a sheet", [&](job::Job& job) { made = add_known(job, all[static_cast<std::size_t>(k)]); });
        show(made);
    });
}

void add_stock(FieldList& fields, const JobMaterial& material, const SheetSetter& set) {
    fields.toggle("as many as needed", material.sheets_in_stock < 0,
                  set.by([](JobMaterial& m, const QVariant& v) { m.sheets_in_stock = v.toBool() ? -1 : 1; }));
    if (material.sheets_in_stock < 0) return;
    fields.number("in stock", "", material.sheets_in_stock, set.by([](JobMaterial& m, const QVariant& v) {
        m.sheets_in_stock = static_cast<int>(std::lround(v.toDouble()));
    }),
                  0, 10000);
}

void add_wood(FieldList& fields, const JobMaterial& material, const SheetSetter& set) {
    using namespace units::range;
    fields.toggle("has a grain to keep to", material.has_grain, set.flag(&M::has_grain))
        .toggle("both faces are good", material.two_good_faces, set.flag(&M::two_good_faces))
        .number("swells across the grain, % for each % of damp", "", material.swelling_percent,
                set.quantity(&M::swelling_percent), swelling.least, swelling.most);
    if (material.swelling_percent <= 0) return;
    fields
        .number("moisture when cut", "%", material.moisture_cut_percent, set.quantity(&M::moisture_cut_percent),
                moisture.least, moisture.most)
        .number("moisture afloat", "%", material.moisture_afloat_percent, set.quantity(&M::moisture_afloat_percent),
                moisture.least, moisture.most);
}

}  // namespace

void add_material_fields(FieldList& fields, Document& document, const std::string& id,
                         const std::function<void(const std::string&)>& show,
                         const std::function<void(const QString&)>& say) {
    const auto* material = job::find_material(document.job(), id);
    if (!material) {
        // A job from elsewhere may have no sheet at all.
        if (document.job().materials.empty())
            fields.button("Add a sheet", [&document] {
                document.edit("Add a sheet", [](job::Job& job) { job.materials = job::empty_job().materials; });
            });
        return;
    }
    const SheetSetter set(document, id);
    add_sizes(fields, *material, set, QString::fromStdString(document.job().costs.currency));
    add_stock(fields, *material, set);
    add_wood(fields, *material, set);
    fields.button("Add another sheet", [&document, id, show] {
        std::string made;
        document.edit("Add a sheet", [&](job::Job& job) { made = add_like(job, id); });
        show(made);
    });
    add_from_catalogue(fields, document, show);
    fields.button("Keep it in my catalogue", [&document, id, say] {
        const auto* now = job::find_material(document.job(), id);
        if (!now) return;
        const auto kept = keep_in_catalogue(*now);
        say(kept ? "Kept in your catalogue: " + own_catalogue_path()
                 : "Not kept: " + QString::fromStdString(kept.error().message));
    });
    if (is_used(document.job(), id) || document.job().materials.size() < 2) return;
    fields.button("Remove this sheet", [&document, id] {
        document.edit("Remove a sheet", [&](job::Job& job) {
            std::erase_if(job.materials, [&](const auto& m) { return m.id == id; });
            std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == id; });
            std::erase_if(job.offcuts, [&](const auto& o) { return o.material_id == id; });
            std::erase_if(job.choices, [&](const auto& c) { return c.material_id == id; });
        });
    });
}

}  // namespace bevelsmith::app

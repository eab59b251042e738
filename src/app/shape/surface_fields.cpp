#include "app/shape/surface_fields.h"

#include <algorithm>

#include "hull/inside.h"

namespace bevelsmith::app {
namespace {

using Change = std::function<void(const QString& what, const std::function<void(job::SurfaceSpec&)>& change)>;

const job::SurfaceSpec* find(const job::Job& job, const std::string& id) {
    const auto it = std::find_if(job.surfaces.begin(), job.surfaces.end(), [&](const auto& s) { return s.id == id; });
    return it == job.surfaces.end() ? nullptr : &*it;
}

/// Where a layer's heights begin before they are said: a metre below and above the boat's zero.
constexpr double usual_height_mm = 1000;

void add_layer(FieldList& fields, const hull::Layer& layer, std::size_t k, double length_mm, const Change& change) {
    fields.text(QString("layer %1").arg(k + 1), layer.name, [=](const QVariant& v) {
        change("Rename a layer", [&](job::SurfaceSpec& s) { s.layers[k].name = v.toString().toStdString(); });
    });
    fields.length(
        QString("layer %1 thick").arg(k + 1), layer.thickness_mm,
        [=](const QVariant& v) {
            change("Change a layer", [&](job::SurfaceSpec& s) { s.layers[k].thickness_mm = v.toDouble(); });
        },
        0.1, 500);
    const bool everywhere = !layer.from_x_mm && !layer.to_x_mm;
    fields.toggle(QString("layer %1 all along").arg(k + 1), everywhere, [=](const QVariant& v) {
        change("Change a layer's extent", [&](job::SurfaceSpec& s) {
            hull::Layer& l = s.layers[k];
            l.from_x_mm = v.toBool() ? std::optional<double>() : 0;
            l.to_x_mm = v.toBool() ? std::optional<double>() : length_mm;
        });
    });
    const auto limit = [&](const char* label, std::optional<double> hull::Layer::*which) {
        fields.length(QString(label).arg(k + 1), *(layer.*which), [=](const QVariant& v) {
            change("Change a layer's extent", [&](job::SurfaceSpec& s) { s.layers[k].*which = v.toDouble(); });
        });
    };
    if (layer.from_x_mm) limit("from, fwd (layer %1)", &hull::Layer::from_x_mm);
    if (layer.to_x_mm) limit("to, fwd (layer %1)", &hull::Layer::to_x_mm);
    const bool all_heights = !layer.from_z_mm && !layer.to_z_mm;
    fields.toggle(QString("layer %1 at all heights").arg(k + 1), all_heights, [=](const QVariant& v) {
        change("Change a layer's extent", [&](job::SurfaceSpec& s) {
            hull::Layer& l = s.layers[k];
            l.from_z_mm = v.toBool() ? std::optional<double>() : -usual_height_mm;
            l.to_z_mm = v.toBool() ? std::optional<double>() : usual_height_mm;
        });
    });
    if (layer.from_z_mm) limit("from, up (layer %1)", &hull::Layer::from_z_mm);
    if (layer.to_z_mm) limit("to, up (layer %1)", &hull::Layer::to_z_mm);
    fields.button(QString("Remove layer %1").arg(k + 1), [=] {
        change("Remove a layer",
               [&](job::SurfaceSpec& s) { s.layers.erase(s.layers.begin() + static_cast<std::ptrdiff_t>(k)); });
    });
}

/// How the layers turn at chines and the keel.
void add_corners(FieldList& fields, const hull::Corners& corners, const Change& change) {
    fields.choice("layers at chines", static_cast<int>(corners.kind),
                  {"meet in a mitre", "go round a corner that stands in", "have their corner filled"},
                  [=](const QVariant& v) {
                      change("Say how layers meet at chines",
                             [&](job::SurfaceSpec& s) { s.corners.kind = static_cast<hull::CornerKind>(v.toInt()); });
                  });
    if (corners.kind != hull::CornerKind::filled) return;
    fields.length(
        "filled to, beside the mitre", corners.fill_mm,
        [=](const QVariant& v) {
            change("Change the filling", [&](job::SurfaceSpec& s) { s.corners.fill_mm = v.toDouble(); });
        },
        0.1, 500);
}

/// An old lining that was read may come out.
void add_role(FieldList& fields, piece::Role role, const Change& change) {
    fields.choice("in the finished boat it", piece::is_in_finished(role) ? 0 : 1, {"stays", "has come out"},
                  [=](const QVariant& v) {
                      change("Say what becomes of a surface", [&](job::SurfaceSpec& s) {
                          s.role = v.toInt() == 0 ? piece::Role::made : piece::Role::comes_out;
                      });
                  });
}

void add_layers(FieldList& fields, const job::SurfaceSpec& spec, double length_mm, const Change& change) {
    for (std::size_t k = 0; k < spec.layers.size(); ++k) add_layer(fields, spec.layers[k], k, length_mm, change);
    if (!spec.layers.empty()) add_corners(fields, spec.corners, change);
    fields.button("Add a layer", [=] {
        change("Add a layer", [](job::SurfaceSpec& s) { s.layers.push_back({"lining", 9, {}, {}, {}, {}}); });
    });
}

void add_fit(FieldList& fields, const job::SurfaceSpec& spec, const Change& change) {
    fields.choice("laid out", static_cast<int>(spec.chart), {"as suits best", "around an axis", "over a plane"},
                  [=](const QVariant& v) {
                      change("Lay the surface out otherwise",
                             [&](job::SurfaceSpec& s) { s.chart = static_cast<hull::ChartChoice>(v.toInt()); });
                  });
    fields.toggle("fairness by hand", spec.allowed_residual_mm.has_value(), [=](const QVariant& v) {
        change("Fairer or closer", [&](job::SurfaceSpec& s) {
            if (v.toBool()) s.allowed_residual_mm = 1.5;
            else s.allowed_residual_mm.reset();
        });
    });
    if (!spec.allowed_residual_mm) return;
    fields.length(
        "readings may be off", *spec.allowed_residual_mm,
        [=](const QVariant& v) {
            change("Fairer or closer", [&](job::SurfaceSpec& s) { s.allowed_residual_mm = v.toDouble(); });
        },
        0.05, 100);
}

/// What it is of the boat, and which side is inside: said in Shape's words, turned round here.
void add_inside(FieldList& fields, Document& document, const job::SurfaceSpec& spec, const Change& change) {
    QStringList parts;
    for (int k = 0; k < hull::surface_part_count; ++k) {
        const auto name = hull::part_name(static_cast<hull::SurfacePart>(k));
        parts << QString::fromUtf8(name.data(), static_cast<int>(name.size()));
    }
    fields.choice("it is", static_cast<int>(spec.part), parts, [=](const QVariant& v) {
        change("Say what a surface is", [&](job::SurfaceSpec& s) {
            s.part = static_cast<hull::SurfacePart>(v.toInt());
            s.inside.reset();
        });
    });
    const auto* result = document.computed()->results.surface(spec.id);
    if (!result || !result->fitted()) return;
    fields.button("Turn it round: the boat is on the other side", [=, computed = document.computed()] {
        const auto* turned = computed->results.surface(spec.id);
        const Vec3 beyond = hull::point_beyond(turned->fitted()->surface, turned->points);
        change("Turn a surface round", [&](job::SurfaceSpec& s) { s.inside = beyond; });
    });
    if (spec.inside)
        fields.button("Tell the inside from the readings again", [=] {
            change("Tell the inside from the readings", [](job::SurfaceSpec& s) { s.inside.reset(); });
        });
}

}  // namespace

void add_surface_fields(FieldList& fields, Document& document, const std::string& id,
                        const std::function<void(const std::string&)>& show) {
    const job::SurfaceSpec* spec = find(document.job(), id);
    if (!spec) return;
    const Change change = [&document, id](const QString& what, const auto& how) {
        document.edit(what, [&](job::Job& job) {
            for (auto& s : job.surfaces)
                if (s.id == id) how(s);
        });
    };
    QStringList names;
    int now = 0;
    for (const auto& s : document.job().surfaces) {
        if (s.id == id) now = static_cast<int>(names.size());
        names << QString::fromStdString(s.name);
    }
    fields.choice("surface", now, names, [&document, show](const QVariant& v) {
        const auto k = static_cast<std::size_t>(v.toInt());
        if (k < document.job().surfaces.size()) show(document.job().surfaces[k].id);
    });
    fields.text("called", spec->name, [=](const QVariant& v) {
        change("Rename a surface", [&](job::SurfaceSpec& s) { s.name = v.toString().toStdString(); });
    });
    add_inside(fields, document, *spec, change);
    add_role(fields, spec->role, change);
    add_fit(fields, *spec, change);
    add_layers(fields, *spec, std::max(1000.0, document.job().boat.length_mm), change);
    fields.button("New surface", [&document, show] {
        std::string made;
        document.edit("Make a surface", [&](job::Job& job) {
            std::vector<std::string> ids;
            for (const auto& s : job.surfaces) ids.push_back(s.id);
            job::SurfaceSpec fresh;
            fresh.id = made = job::free_id("S", ids);
            fresh.name = "Surface " + fresh.id.substr(1);
            job.surfaces.push_back(fresh);
        });
        show(made);
    });
}

}  // namespace bevelsmith::app

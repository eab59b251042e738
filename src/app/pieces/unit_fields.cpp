#include "app/pieces/unit_fields.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/place_text.h"
#include "job/in_full.h"
#include "job/raised_sole.h"
#include "job/together.h"

namespace bevelsmith::app {
namespace {

using furniture::UnitKind;
using job::JobUnit;

/// The bulkheads that a unit may end at, with "a place of its own" before them.
void add_end(FieldList& fields, const job::Job& job, const QString& label, const std::string& now,
             const ChangeUnit& change, std::string JobUnit::*member) {
    QStringList names{"nothing"};
    std::vector<std::string> ids{{}};
    int at = 0;
    for (const auto& p : job.pieces) {
        if (std::abs(p.plane.normal.x()) < 0.99) continue;
        if (p.id == now) at = static_cast<int>(ids.size());
        names << QString::fromStdString(p.name);
        ids.push_back(p.id);
    }
    fields.choice(label, at, names, [=](const QVariant& v) {
        change("End a unit elsewhere",
               [&](JobUnit& u) { u.*member = ids[static_cast<std::size_t>(std::max(0, v.toInt()))]; });
    });
}

Result<std::vector<double>> places_in(const QString& text, units::LengthUnit unit, const std::vector<double>& shown) {
    auto out = lengths_in(text, unit, shown);
    if (out && out->size() > units::limit::dividers.most)
        return Error{units::too_many(units::limit::dividers, out->size())};
    return out;
}

ChangeUnit changer_of(Document& document, const std::string& id) {
    return [&document, id](const QString& what, const std::function<void(JobUnit&)>& apply) {
        document.edit(what, [&](job::Job& job) {
            for (auto& u : job.units)
                if (u.id == id) apply(u);
        });
    };
}

/// What goes along when the unit's ends are changed.
void add_following(FieldList& fields, const JobUnit& unit, const ChangeUnit& change) {
    using U = furniture::UnitSpec;
    const bool sole = unit.kind == UnitKind::sole, box = unit.kind == UnitKind::engine_box;
    const auto follows = [&](const QString& label, bool on, bool U::*member) {
        fields.toggle(label, on, [change, member](const QVariant& v) {
            change("Let a unit follow its ends", [&](JobUnit& u) { u.*member = v.toBool(); });
        });
    };
    if (unit.kind != UnitKind::shelves && !box)
        follows(sole ? "beams spread with the ends" : "dividers spread with the ends", unit.dividers_follow,
                &U::dividers_follow);
    if (!sole && !box && unit.kind != UnitKind::v_berth)
        follows("front follows the hull", unit.front_follows, &U::front_follows);
}

}  // namespace

void add_unit_numbers(FieldList& fields, const job::Job& job, const JobUnit& unit, const ChangeUnit& change) {
    const auto length = [&](const QString& label, double value, double furniture::UnitSpec::*member, double least,
                            double most) {
        fields.length(
            label, value,
            [change, member, label](const QVariant& v) {
                change("Change " + label, [&](JobUnit& u) { u.*member = v.toDouble(); });
            },
            least, most);
    };
    using U = furniture::UnitSpec;
    const double far = units::range::place.most;
    const bool sole = unit.kind == UnitKind::sole, box = unit.kind == UnitKind::engine_box,
               bow = unit.kind == UnitKind::v_berth;
    if (!box && ((!sole && !bow) || unit.half))
        fields.choice("side", static_cast<int>(unit.side), {"port", "starboard"}, [change](const QVariant& v) {
            change("Change the side", [&](JobUnit& u) { u.side = static_cast<furniture::Side>(v.toInt()); });
        });
    add_end(fields, job, "aft end at", unit.from_piece_id, change, &JobUnit::from_piece_id);
    if (unit.from_piece_id.empty()) length("aft end, fwd", unit.from_mm, &U::from_mm, -far, far);
    add_end(fields, job, "fwd end at", unit.to_piece_id, change, &JobUnit::to_piece_id);
    if (unit.to_piece_id.empty()) length("fwd end, fwd", unit.to_mm, &U::to_mm, -far, far);
    length(sole ? "sole at, up" : "foot at, up", unit.foot_mm, &U::foot_mm, -far, far);
    if (!sole) length("height", unit.height_mm, &U::height_mm, 10, far);
    if (!sole) length(bow ? "infill, half its width" : "front from centre line", unit.front_mm, &U::front_mm, 0, far);
    if (bow) length("infill reaches forward", unit.infill_mm, &U::infill_mm, 0, far);
    if (unit.kind == UnitKind::shelves) {
        fields.number(
            "shelves", "", unit.shelves,
            [change](const QVariant& v) {
                change("Change the shelves",
                       [&](JobUnit& u) { u.shelves = static_cast<int>(std::lround(v.toDouble())); });
            },
            1, units::range::shelf_count.most);
        length("from shelf to shelf", unit.shelf_step_mm, &U::shelf_step_mm, 20, far);
        length("fiddle over it", unit.fiddle_mm, &U::fiddle_mm, 0, 500);
    } else if (!box) {
        fields.text(
            sole ? "beams at, fwd" : "dividers at, fwd", lengths_words(unit.dividers_mm, job.unit).toStdString(),
            [change, in = job.unit, shown = unit.dividers_mm](const QVariant& v) {
                if (auto places = places_in(v.toString(), in, shown))
                    change("Move dividers", [&](JobUnit& u) { u.dividers_mm = *places; });
            },
            [in = job.unit, shown = unit.dividers_mm](const QString& text) {
                const auto places = places_in(text, in, shown);
                return places ? QString()
                              : QString::fromStdString(places.error().message) + " (places with ; between)";
            });
    }
    if (unit.kind == UnitKind::settee || unit.kind == UnitKind::berth || bow)
        length("cushion, loaded", unit.cushion_mm, &U::cushion_mm, 0, units::range::gap.most);
    if (sole) length("beams deep, 0 to the hull", unit.beam_depth_mm, &U::beam_depth_mm, 0, units::range::gap.most);
    if (unit.kind == UnitKind::settee || unit.kind == UnitKind::berth || sole)
        fields.toggle("lift-outs", unit.lids, [change](const QVariant& v) {
            change("Change lift-outs", [&](JobUnit& u) { u.lids = v.toBool(); });
        });
}

std::vector<FormField> unit_fields(Document& document, const JobUnit* unit) {
    if (!unit) return {};
    FieldList fields;
    const std::string id = unit->id;
    const auto change = changer_of(document, id);
    fields.text("unit", unit->name, [change](const QVariant& v) {
        change("Rename a unit", [&](JobUnit& u) { u.name = v.toString().toStdString(); });
    });
    add_unit_numbers(fields, document.job(), *unit, change);
    add_following(fields, *unit, change);
    const bool both_sides = unit->kind == UnitKind::engine_box ||
                            ((unit->kind == UnitKind::sole || unit->kind == UnitKind::v_berth) && !unit->half);
    if (!both_sides)
        fields.button("Its like on the other side", [&document, id] {
            document.edit("Mirror a unit", [&](job::Job& job) { job::mirror_unit(job, id); });
        });
    fields.button("Take it apart into plain pieces", [&document, id] {
        document.edit("Take a unit apart", [&](job::Job& job) { job::take_apart(job, id); });
    });
    fields.button("Remove the unit", [&document, id] {
        document.edit("Remove a unit",
                      [&](job::Job& job) { std::erase_if(job.units, [&](const JobUnit& u) { return u.id == id; }); });
    });
    return fields.take();
}

std::vector<FormField> raised_fields(Document& document, const JobUnit* unit) {
    if (!unit) return {};
    FieldList fields;
    const std::string id = unit->id;
    const auto change = changer_of(document, id);
    if (unit->raised_by_mm <= 0) {
        QStringList over{"Its middle, to be moved"};
        std::vector<std::string> ids{{}};
        for (const auto& obstacle : job::reaching_through(document.built(), *unit)) {
            const auto& all = document.job().obstacles;
            const auto named = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.id == obstacle; });
            if (named == all.end()) continue;
            ids.push_back(obstacle);
            over << "Over " + QString::fromStdString(named->name);
        }
        fields.menu("Raise a part of it", over, [&document, id, ids](const QVariant& v) {
            const auto& obstacle = ids[static_cast<std::size_t>(v.toInt())];
            document.edit("Raise a part of the sole", [&](job::Job& job) {
                if (obstacle.empty()) job::raise_middle(job, id);
                else job::raise_over(job, id, obstacle);
            });
        });
        return fields.take();
    }
    using U = furniture::UnitSpec;
    const auto length = [&](const QString& label, double value, double U::*member, double least) {
        fields.length(
            label, value,
            [change, member](const QVariant& v) {
                change("Change the raised part", [&](JobUnit& u) { u.*member = v.toDouble(); });
            },
            least, units::range::place.most);
    };
    length("raised by", unit->raised_by_mm, &U::raised_by_mm, 0);
    length("aft end, fwd", unit->raised_from_mm, &U::raised_from_mm, units::range::place.least);
    length("fwd end, fwd", unit->raised_to_mm, &U::raised_to_mm, units::range::place.least);
    length("half its width", unit->raised_half_mm, &U::raised_half_mm, 0);
    fields.button("Take the raised part away",
                  [change] { change("Lower the sole again", [](JobUnit& u) { u.raised_by_mm = 0; }); });
    return fields.take();
}

}  // namespace bevelsmith::app

#include "app/pieces/unit_fields.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/place_text.h"
#include "furniture/kinds.h"
#include "job/in_full.h"
#include "job/raised_sole.h"
#include "job/starting_unit.h"
#include "job/together.h"

namespace bevelsmith::app {
namespace {

using furniture::Across;
using job::JobUnit;

/// What a person calls what is set across it.
const char* set_across(const furniture::Kind& kind) {
    return kind.across == Across::beams ? "beams" : "dividers";
}

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
    const furniture::Kind& kind = furniture::kind_of(unit);
    const auto follows = [&](const QString& label, bool on, bool U::*member) {
        fields.toggle(label, on, [change, member](const QVariant& v) {
            change("Let a unit follow its ends", [&](JobUnit& u) { u.*member = v.toBool(); });
        });
    };
    if (kind.across != Across::nothing)
        follows(QString(set_across(kind)) + " spread with the ends", unit.dividers_follow, &U::dividers_follow);
    if (kind.stands == furniture::Stands::along_a_side)
        follows("front follows the hull", unit.front_follows, &U::front_follows);
}

/// Dividers or beams.
void add_across(FieldList& fields, const job::Job& job, const JobUnit& unit, const ChangeUnit& change) {
    fields.text(
        QString(set_across(furniture::kind_of(unit))) + " at, fwd",
        lengths_words(unit.dividers_mm, job.unit).toStdString(),
        [change, in = job.unit, shown = unit.dividers_mm](const QVariant& v) {
            if (auto places = places_in(v.toString(), in, shown))
                change("Move dividers", [&](JobUnit& u) { u.dividers_mm = *places; });
        },
        [in = job.unit, shown = unit.dividers_mm](const QString& text) {
            const auto places = places_in(text, in, shown);
            return places ? QString() : QString::fromStdString(places.error().message) + " (places with ; between)";
        });
}

/// What only soles have: beams that lie in saddles.
void add_saddles(FieldList& fields, const JobUnit& unit, const ChangeUnit& change, const SetInSaddles& set) {
    using U = furniture::UnitSpec;
    fields.toggle("beams lift out of saddles", unit.saddles, [change, set](const QVariant& v) {
        change(v.toBool() ? "Set beams in saddles" : "Take beams out of saddles", [&](JobUnit& u) {
            u.saddles = v.toBool();
            if (u.saddles && set) set(u);
        });
    });
    if (!unit.saddles) return;
    const auto length = [&](const QString& label, double value, double U::*member, double most) {
        fields.length(
            label, value,
            [change, member, label](const QVariant& v) {
                change("Change " + label, [&](JobUnit& u) { u.*member = v.toDouble(); });
            },
            0, most);
    };
    length("string of the saddles, aft", unit.saddle_aft_mm, &U::saddle_aft_mm, units::range::place.most);
    length("string of the saddles, fwd", unit.saddle_fwd_mm, &U::saddle_fwd_mm, units::range::place.most);
    length("slot wider than the beam by", unit.saddle_clearance_mm, &U::saddle_clearance_mm, units::range::film.most);
}

}  // namespace

void add_unit_numbers(FieldList& fields, const job::Job& job, const JobUnit& unit, const ChangeUnit& change,
                      const SetInSaddles& set) {
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
    const furniture::Kind& kind = furniture::kind_of(unit);
    const double far = units::range::place.most;
    if (!furniture::stands_on_both(unit))
        fields.choice("side", static_cast<int>(unit.side), {"port", "starboard"}, [change](const QVariant& v) {
            change("Change the side", [&](JobUnit& u) { u.side = static_cast<furniture::Side>(v.toInt()); });
        });
    if (kind.stands != furniture::Stands::free_standing)
        add_end(fields, job, "aft end at", unit.from_piece_id, change, &JobUnit::from_piece_id);
    if (unit.from_piece_id.empty()) length("aft end, fwd", unit.from_mm, &U::from_mm, -far, far);
    if (kind.stands != furniture::Stands::free_standing)
        add_end(fields, job, "fwd end at", unit.to_piece_id, change, &JobUnit::to_piece_id);
    if (unit.to_piece_id.empty()) length("fwd end, fwd", unit.to_mm, &U::to_mm, -far, far);
    for (const auto& n : kind.numbers) {
        const bool anywhere = n.least == 0 && n.most == 0;
        length(n.label, unit.*n.member, n.member, anywhere ? -far : n.least, anywhere ? far : n.most);
    }
    if (kind.fits == furniture::Fits::on_the_hull_above)
        fields.number(
            "shelves", "", unit.shelves,
            [change](const QVariant& v) {
                change("Change the shelves",
                       [&](JobUnit& u) { u.shelves = static_cast<int>(std::lround(v.toDouble())); });
            },
            1, units::range::shelf_count.most);
    if (kind.across != Across::nothing) add_across(fields, job, unit, change);
    if (kind.lids)
        fields.toggle("lift-outs", unit.lids, [change](const QVariant& v) {
            change("Change lift-outs", [&](JobUnit& u) { u.lids = v.toBool(); });
        });
    // Where it is proposed, beams are as they usually are.
    if (kind.across == Across::beams && set) add_saddles(fields, unit, change, set);
}

std::vector<FormField> unit_fields(Document& document, const JobUnit* unit) {
    if (!unit) return {};
    FieldList fields;
    const std::string id = unit->id;
    const auto change = changer_of(document, id);
    fields.text("unit", unit->name, [change](const QVariant& v) {
        change("Rename a unit", [&](JobUnit& u) { u.name = v.toString().toStdString(); });
    });
    add_unit_numbers(fields, document.job(), *unit, change, [&document](JobUnit& u) {
        job::set_in_saddles(document.job(), document.computed()->results, u);
    });
    add_following(fields, *unit, change);
    if (!furniture::stands_on_both(*unit))
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

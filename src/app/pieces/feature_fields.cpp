#include <algorithm>
#include <cmath>

#include "app/pieces/field_maker.h"
#include "job/in_full.h"
#include "job/joints_wanted.h"

namespace bevelsmith::app {
namespace {

using job::JobPiece;
using Kind = FormField::Kind;

template <class List>
auto eraser(List piece::PieceSpec::*list, std::size_t i) {
    return [list, i](JobPiece& p, const QVariant&) {
        (p.*list).erase((p.*list).begin() + static_cast<std::ptrdiff_t>(i));
    };
}

template <class List>
std::string free_name(const List& list, const std::string& first) {
    std::vector<std::string> taken;
    for (const auto& one : list) taken.push_back(one.name);
    return std::find(taken.begin(), taken.end(), first) == taken.end() ? first : job::free_id(first + " ", taken);
}

/// The sides of a rectangle in the drawing.
template <class Box>
void add_box(PieceFields& f, const QString& name, const Box& box, std::vector<Box> piece::PieceSpec::*list,
             std::size_t i, const QString& what) {
    const auto number = [&](const QString& label, double value, double Box::*member, double least) {
        f.add(
            Kind::length, label + " (" + name + ")", value, what,
            [i, list, member](JobPiece& p, const QVariant& v) { (p.*list)[i].*member = v.toDouble(); }, {}, least,
            units::range::opening.most);
    };
    number("left", box.left_mm, &Box::left_mm, -20'000);
    number("bottom", box.bottom_mm, &Box::bottom_mm, -20'000);
    number("width", box.width_mm, &Box::width_mm, 1);
    number("height", box.height_mm, &Box::height_mm, 1);
}

/// The same with its corners rounded.
void add_rounded_box(PieceFields& f, const QString& name, const piece::OpeningSpec& box,
                     std::vector<piece::OpeningSpec> piece::PieceSpec::*list, std::size_t i, const QString& what) {
    add_box(f, name, box, list, i, what);
    f.add(
        Kind::length, "corner radius (" + name + ")", box.radius_mm, "Round corners",
        [i, list](JobPiece& p, const QVariant& v) { (p.*list)[i].radius_mm = v.toDouble(); }, {}, 0,
        units::range::opening.most);
}

/// Changes the like of a crossing on the other piece with it: what one keeps the other gives.
void set_crossing(job::Job& job, const std::string& own, std::size_t i, piece::Crossing how) {
    using piece::Crossing;
    std::string other;
    job::change_piece(job, own, [&](JobPiece& p) {
        if (i >= p.crossings.size()) return;
        p.crossings[i].how = how;
        other = p.crossings[i].piece_id;
    });
    const Crossing back = how == Crossing::half_upper ? Crossing::half_lower : Crossing::half_upper;
    job::change_piece(job, other, [&](JobPiece& p) {
        const auto at =
            std::find_if(p.crossings.begin(), p.crossings.end(), [&](const auto& c) { return c.piece_id == own; });
        if (how == Crossing::slot) {
            if (at != p.crossings.end()) p.crossings.erase(at);
        } else if (at != p.crossings.end()) {
            at->how = back;
        } else {
            p.crossings.push_back({own, back, 0.5});
        }
    });
}

/// Where something new is put: about the middle of the piece.
Vec2 middle_of(const job::PieceResult* result) {
    if (!result || !result->shape()) return {0, 0};
    const auto box = geometry::bounding_box(result->shape()->face_a.outer);
    return {std::round(box.centre().x() / 10) * 10, std::round(box.centre().y() / 10) * 10};
}

}  // namespace

void add_opening(PieceFields& f, const JobPiece& piece, std::size_t i) {
    const auto& o = piece.openings[i];
    const QString name = QString::fromStdString(o.name);
    f.heading("Opening: " + name);
    f.add(Kind::text, "name (" + name + ")", name, "Rename an opening", [i](JobPiece& p, const QVariant& v) {
        if (!v.toString().trimmed().isEmpty()) p.openings[i].name = v.toString().trimmed().toStdString();
    });
    f.add(Kind::choice, "what it is (" + name + ")", static_cast<int>(o.use), "Change an opening",
          [i](JobPiece& p, const QVariant& v) {
              auto& opening = p.openings[i];
              opening.use = static_cast<piece::OpeningUse>(v.toInt());
              // A hatch's frame wants some 45 mm of wood (common practice; the maker's sheet says it); wires chafe.
              opening.rail_mm = opening.use == piece::OpeningUse::hatch ? 45 : 0;
              opening.guard_mm = opening.use == piece::OpeningUse::wire_way ? 3 : 0;
          },
          {"an opening", "a hatch, by its maker's cut-out", "a way for wires, guarded"});
    if (o.line.empty()) {
        add_rounded_box(f, name, o, &JobPiece::openings, i, "Change an opening");
    } else {
        add_pins(f, o.line, [i](JobPiece& p) -> std::vector<piece::FreePoint>& { return p.openings[i].line; });
    }
    f.add(
        Kind::length, "wood left around (" + name + ")", o.rail_mm, "Change a rail",
        [i](JobPiece& p, const QVariant& v) { p.openings[i].rail_mm = v.toDouble(); }, {}, 0, units::range::gap.most);
    f.add(Kind::choice, "its lid (" + name + ")", static_cast<int>(o.lid), "Say where a lid comes from",
          [i](JobPiece& p, const QVariant& v) { p.openings[i].lid = static_cast<piece::LidFrom>(v.toInt()); },
          {"none", "what is cut out of it", "cut from the sheet"});
    if (o.lid != piece::LidFrom::none)
        f.add(
            Kind::length, "clearance of the lid (" + name + ")", o.lid_clearance_mm, "Change a lid's clearance",
            [i](JobPiece& p, const QVariant& v) { p.openings[i].lid_clearance_mm = v.toDouble(); }, {}, 0,
            units::range::film.most);
    if (o.use == piece::OpeningUse::wire_way)
        f.add(
            Kind::length, "chafe guard (" + name + ")", o.guard_mm, "Change a guard",
            [i](JobPiece& p, const QVariant& v) { p.openings[i].guard_mm = v.toDouble(); }, {}, 0,
            units::range::film.most);
    if (o.line.empty())
        f.add(Kind::button, "Make it a free shape", {}, "Free an opening's shape", [i](JobPiece& p, const QVariant&) {
            auto& opening = p.openings[i];
            for (const Vec2& share : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)})
                opening.line.push_back({{opening.left_mm + share.x() * opening.width_mm,
                                         opening.bottom_mm + share.y() * opening.height_mm},
                                        opening.radius_mm,
                                        false});
        });
    f.add(Kind::button, "Remove opening " + name, {}, "Remove an opening", eraser(&JobPiece::openings, i));
}

void add_notch(PieceFields& f, const JobPiece& piece, std::size_t i) {
    const auto& o = piece.notches[i];
    const QString name = QString::fromStdString(o.name);
    f.heading("Cut out of its edge: " + name);
    f.add(Kind::text, "name (" + name + ")", name, "Rename a notch", [i](JobPiece& p, const QVariant& v) {
        if (!v.toString().trimmed().isEmpty()) p.notches[i].name = v.toString().trimmed().toStdString();
    });
    add_rounded_box(f, name, o, &JobPiece::notches, i, "Change a notch");
    f.add(Kind::button, "Remove notch " + name, {}, "Remove a notch", eraser(&JobPiece::notches, i));
}

void add_row(PieceFields& f, const JobPiece& piece, std::size_t i) {
    const auto& row = piece.rows[i];
    const QString name = QString::fromStdString(row.name);
    const double per_cm2 = f.document().cm2_shown(1);
    f.heading("Holes in rows: " + name);
    f.add(Kind::text, "name (" + name + ")", name, "Rename holes", [i](JobPiece& p, const QVariant& v) {
        if (!v.toString().trimmed().isEmpty()) p.rows[i].name = v.toString().trimmed().toStdString();
    });
    add_box(f, name, row, &JobPiece::rows, i, "Change holes");
    f.add(
        Kind::length, "hole, across (" + name + ")", row.diameter_mm, "Change holes",
        [i](JobPiece& p, const QVariant& v) { p.rows[i].diameter_mm = v.toDouble(); }, {}, units::range::notch.least,
        units::range::notch.most);
    f.add(
        Kind::number, "free area wanted, " + f.document().small_area_unit() + " (" + name + ")",
        row.wanted_cm2 * per_cm2, "Change holes",
        [i, per_cm2](JobPiece& p, const QVariant& v) { p.rows[i].wanted_cm2 = v.toDouble() / per_cm2; }, {},
        units::range::vent_area.least, units::range::vent_area.most * per_cm2);
    f.add(Kind::button, "Remove holes " + name, {}, "Remove holes", eraser(&JobPiece::rows, i));
}

void add_crossing(PieceFields& f, const JobPiece& piece, std::size_t i, const job::Job& job) {
    const auto& cross = piece.crossings[i];
    const auto* other = job::find_piece(job, cross.piece_id);
    const QString name = QString::fromStdString(other ? other->name : cross.piece_id);
    f.heading(name + " goes through it");
    Document& document = f.document();
    const std::string id = piece.id;
    f.add_own({Kind::choice,
               "how (" + name + ")",
               static_cast<int>(cross.how),
               [&document, id, i](const QVariant& v) {
                   document.edit("Change a crossing", [&](job::Job& j) {
                       set_crossing(j, id, i, static_cast<piece::Crossing>(v.toInt()));
                   });
               },
               {"through a slot", "both halved, this one from above", "both halved, this one from below"},
               {}});
    f.add(
        Kind::length, "clearance (" + name + ")", cross.clearance_mm, "Change a clearance",
        [i](JobPiece& p, const QVariant& v) { p.crossings[i].clearance_mm = v.toDouble(); }, {}, 0,
        units::range::gap.most);
    f.add_own({Kind::button,
               "Let it through no more",
               {},
               [&document, id, i](const QVariant&) {
                   document.edit("Remove a crossing", [&](job::Job& j) {
                       set_crossing(j, id, i, piece::Crossing::slot);
                       job::change_piece(j, id, [i](JobPiece& p) {
                           p.crossings.erase(p.crossings.begin() + static_cast<std::ptrdiff_t>(i));
                       });
                   });
               },
               {},
               {}});
}

void add_limber(PieceFields& f, const JobPiece& piece, std::size_t i) {
    const auto& limber = piece.limbers[i];
    const QString name = piece.limbers.size() == 1 ? "limber" : QString("limber %1").arg(i + 1);
    f.heading(limber.hole ? "Drain hole" : "Limber notch");
    f.add(Kind::choice, "what it is (" + name + ")", limber.hole ? 1 : 0, "Change a limber notch",
          [i](JobPiece& p, const QVariant& v) { p.limbers[i].hole = v.toInt() == 1; },
          {"a notch in the edge", "a hole over the low point"});
    f.add(Kind::toggle, QString("at the lowest point (%1)").arg(name), !limber.at_mm.has_value(),
          "Move a limber notch", [i](JobPiece& p, const QVariant& v) {
              if (v.toBool()) p.limbers[i].at_mm.reset();
              else p.limbers[i].at_mm = 0;
          });
    if (limber.at_mm)
        f.add(Kind::length, "middle at (" + name + ")", *limber.at_mm, "Move a limber notch",
              [i](JobPiece& p, const QVariant& v) { p.limbers[i].at_mm = v.toDouble(); });
    const auto length = [&](const QString& label, double value, double piece::LimberSpec::*member) {
        f.add(
            Kind::length, label + " (" + name + ")", value, "Change a limber notch",
            [i, member](JobPiece& p, const QVariant& v) { p.limbers[i].*member = v.toDouble(); }, {}, 5, 500);
    };
    length("width", limber.width_mm, &piece::LimberSpec::width_mm);
    length("height", limber.height_mm, &piece::LimberSpec::height_mm);
    f.add(Kind::button, "Remove " + name, {}, "Remove a limber notch", eraser(&JobPiece::limbers, i));
}

void add_joint(PieceFields& f, const JobPiece& piece, std::size_t i, const job::Job& job) {
    using piece::JointKind;
    const auto& j = piece.joints[i];
    const QString name = QString("joint %1").arg(i + 1);
    f.heading("Joint " + QString::number(i + 1));
    f.add(Kind::choice, "kind (" + name + ")", static_cast<int>(j.kind), "Change a joint",
          [i](JobPiece& p, const QVariant& v) { p.joints[i].kind = static_cast<JointKind>(v.toInt()); },
          {"butt", "butt strap", "scarf", "half lap", "tongue and groove", "loose spline", "on a divider"});
    if (j.kind == JointKind::landing) {
        QStringList names{"not said yet"};
        std::vector<std::string> ids{{}};
        int now = 0;
        for (const auto& other : job.pieces) {
            if (other.id == piece.id || std::abs(other.plane.normal.dot(piece.plane.normal)) > 0.5) continue;
            if (other.id == j.piece_id) now = static_cast<int>(ids.size());
            names << QString::fromStdString(other.name);
            ids.push_back(other.id);
        }
        f.add(
            Kind::choice, "over (" + name + ")", now, "Land a joint",
            [i, ids](JobPiece& p, const QVariant& v) {
                p.joints[i].piece_id = ids[static_cast<std::size_t>(std::max(0, v.toInt()))];
            },
            names);
    } else {
        f.add(Kind::choice, "runs (" + name + ")", j.upright ? 0 : 1, "Turn a joint",
              [i](JobPiece& p, const QVariant& v) { p.joints[i].upright = v.toInt() == 0; }, {"upright", "level"});
        f.add(Kind::length, "at (" + name + ")", j.at_mm, "Move a joint",
              [i](JobPiece& p, const QVariant& v) { p.joints[i].at_mm = v.toDouble(); });
    }
    if (j.kind == JointKind::scarf)
        f.add(
            Kind::number, "slope : 1 (" + name + ")", j.slope, "Change a scarf",
            [i](JobPiece& p, const QVariant& v) { p.joints[i].slope = v.toDouble(); }, {}, 1, 50);
    if (j.kind == JointKind::half_lap || j.kind == JointKind::tongue_groove || j.kind == JointKind::loose_spline ||
        j.kind == JointKind::butt_strap)
        f.add(
            Kind::length, "width, 0 as usual (" + name + ")", j.width_mm, "Change a joint",
            [i](JobPiece& p, const QVariant& v) { p.joints[i].width_mm = v.toDouble(); }, {}, 0,
            units::range::gap.most);
    f.add(
        Kind::length, "left open (" + name + ")", j.clearance_mm, "Change a joint",
        [i](JobPiece& p, const QVariant& v) { p.joints[i].clearance_mm = v.toDouble(); }, {}, 0,
        units::range::gap.most);
    f.add(Kind::button, "Remove " + name, {}, "Remove a joint", eraser(&JobPiece::joints, i));
}

void add_new_features(PieceFields& f, const JobPiece& piece, const job::PieceResult* result) {
    const Vec2 at = middle_of(result);
    f.add(Kind::button, "Add an opening", {}, "Add an opening", [at](JobPiece& p, const QVariant&) {
        p.openings.push_back({free_name(p.openings, "door"), at.x() - 200, at.y() - 150, 400, 300, 60});
    });
    f.add(Kind::button, "Add holes in rows", {}, "Add holes", [at](JobPiece& p, const QVariant&) {
        p.rows.push_back({free_name(p.rows, "vent holes"), at.x() - 150, at.y() - 30, 300, 60, 30, 28});
    });
    geometry::Box box{at - Vec2(100, 100), at + Vec2(100, 100)};
    if (result && result->shape()) box = geometry::bounding_box(result->shape()->face_a.outer);
    f.add(Kind::button, "Cut out a corner", {}, "Cut out a corner", [box](JobPiece& p, const QVariant&) {
        const Vec2 size = 0.25 * box.size(), low(box.max.x() - size.x(), box.max.y() - size.y());
        p.notches.push_back({free_name(p.notches, "cut-out"), std::round(low.x()), std::round(low.y()),
                             std::round(size.x() + 20), std::round(size.y() + 20), 0});
    });
    f.add(Kind::button, "Add a limber notch", {}, "Add a limber notch",
          [](JobPiece& p, const QVariant&) { p.limbers.push_back({}); });
    f.add(Kind::button, "Add a joint", {}, "Add a joint", [at](JobPiece& p, const QVariant&) {
        p.joints.push_back({piece::JointKind::butt, true, at.x(), p.scarf_slope});
    });
    const auto computed = f.document().computed();
    if (const auto wanted = job::joints_wanted(computed->job, computed->results, piece.id); !wanted.joints.empty())
        f.add(Kind::button, "Divide it as proposed", {}, "Divide a piece",
              [joints = wanted.joints](JobPiece& p, const QVariant&) { p.joints = joints; });
    QStringList names;
    std::vector<std::string> ids;
    for (const auto& other : f.document().built().pieces) {
        if (other.id == piece.id || std::abs(other.plane.normal.dot(piece.plane.normal)) > 0.9) continue;
        names << QString::fromStdString(other.name);
        ids.push_back(other.id);
    }
    f.add(
        Kind::menu, "Let another piece through", {}, "Let a piece through",
        [ids](JobPiece& p, const QVariant& v) {
            p.crossings.push_back({ids[v.toUInt()], piece::Crossing::slot, 0.5});
        },
        names);
}

}  // namespace bevelsmith::app

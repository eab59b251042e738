#include <algorithm>
#include <cmath>

#include "app/pieces/field_maker.h"
#include "job/kept_sides.h"
#include "job/starting_piece.h"

namespace bevelsmith::app {
namespace {

using job::JobPiece;
using Kind = FormField::Kind;

/// A straight edge's place is shown as a coordinate of the drawing whichever way it faces.
QString edge_place(const piece::EdgeSpec& e) {
    if (std::abs(e.side.x()) < 1e-9) return e.side.y() > 0 ? "upper edge at" : "lower edge at";
    if (std::abs(e.side.y()) < 1e-9) return e.side.x() > 0 ? "right edge at" : "left edge at";
    return "line at";
}

double edge_sign(const piece::EdgeSpec& e) {
    return e.side.x() + e.side.y() < 0 ? -1 : 1;
}

/// The boat's axis that an edge's plane stands on: 0 fwd, 1 port, 2 up; -1 aslant.
int axis_of(const geometry::Plane& plane) {
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(plane.normal[axis]) > 1 - 1e-9) return axis;
    return -1;
}

/// What an edge meets, in words.
QString meets_words(const piece::EdgeSpec& e, const JobPiece* met) {
    using piece::EdgeKind;
    QString other = QString::fromStdString(e.piece_id);
    if (met && e.kept != piece::KeptSide::by_place)
        other += ", " + QString::fromStdString(job::side_in_words(e.kept, met->plane));
    switch (e.kind) {
        case EdgeKind::scribed: return "scribed to " + QString::fromStdString(e.surface_id);
        case EdgeKind::straight: return "straight";
        case EdgeKind::plane: return "ends at a plane of the boat";
        case EdgeKind::piece:
            return (e.meeting == piece::Meeting::stops ? "stops at " : "covers the end of ") + other;
        case EdgeKind::free: break;
    }
    return "meets nothing";
}

void add_place(PieceFields& f, const piece::EdgeSpec& e, std::size_t i, const QString& name) {
    if (e.kind == piece::EdgeKind::straight)
        f.add(Kind::length, edge_place(e) + QString(" (%1)").arg(name), e.at_mm * edge_sign(e), "Move an edge",
              [i, sign = edge_sign(e)](JobPiece& p, const QVariant& v) { p.edges[i].at_mm = v.toDouble() * sign; });
    if (e.kind != piece::EdgeKind::plane) return;
    constexpr const char* places[] = {"fwd", "port", "up"};
    const int axis = axis_of(e.plane);
    const double sign = axis >= 0 && e.plane.normal[axis] < 0 ? -1 : 1;
    f.add(Kind::length, QString("at, %1 (%2)").arg(axis < 0 ? "aslant" : places[axis], name), e.plane.d_mm * sign,
          "Move an edge", [i, sign](JobPiece& p, const QVariant& v) { p.edges[i].plane.d_mm = v.toDouble() * sign; });
    if (axis >= 0) f.out.back().way = units::boat_ways[axis];
}

std::string free_edge_name(const JobPiece& p, const std::string& wanted) {
    std::vector<std::string> taken;
    for (const auto& e : p.edges) taken.push_back(e.name);
    if (std::find(taken.begin(), taken.end(), wanted) == taken.end()) return wanted;
    return job::free_id(wanted + " ", taken);
}

/// A plane of the boat where the piece ends now, the piece on its inner side.
void add_plane_edges(PieceFields& f, const job::PieceResult* result) {
    const struct {
        const char* words;
        Vec3 normal;
    } ways[] = {{"level, over it", Vec3::UnitZ()},      {"level, under it", -Vec3::UnitZ()},
                {"plumb, to port", Vec3::UnitY()},      {"plumb, to starboard", -Vec3::UnitY()},
                {"across, ahead of it", Vec3::UnitX()}, {"across, abaft it", -Vec3::UnitX()}};
    QStringList words;
    std::vector<geometry::Plane> planes;
    std::vector<std::string> names;
    const auto* shape = result ? result->shape() : nullptr;
    for (const auto& way : ways) {
        geometry::Plane plane{way.normal, 0};
        double most = -1e9, least = 1e9;
        for (const Vec2& q : shape ? shape->face_a.outer : geometry::Ring{}) {
            const double at = way.normal.dot(shape->frame.to_space(q));
            most = std::max(most, at), least = std::min(least, at);
        }
        // Not a plane that the piece itself lies along.
        if (shape && std::abs(way.normal.dot(shape->frame.normal)) > 0.98) continue;
        if (shape) plane.d_mm = std::round((least + 0.9 * (most - least)) / 5) * 5;
        words << way.words;
        planes.push_back(plane);
        names.push_back(QString(way.words).section(',', 0, 0).toStdString() + " end");
    }
    f.add(
        Kind::menu, "End at a plane of the boat", {}, "Add an edge",
        [planes, names, middle = result ? result->middle() : std::nullopt](JobPiece& p, const QVariant& v) {
            const auto k = v.toUInt();
            piece::EdgeSpec e;
            e.kind = piece::EdgeKind::plane;
            e.plane = planes[k];
            e.name = free_edge_name(p, names[k]);
            if (!p.at) p.at = middle;
            p.edges.push_back(e);
        },
        words);
}

/// Three pins across the piece a little within its bounding box, the piece on the left.
void add_free_edges(PieceFields& f, const job::PieceResult* result) {
    geometry::Box box{{-300, -300}, {300, 300}};
    if (result && result->shape()) box = geometry::bounding_box(result->shape()->face_a.outer);
    const Vec2 in = 0.1 * box.size();
    const Vec2 low = box.min + in, high = box.max - in;
    const Vec2 middle = box.centre();
    const std::vector<std::vector<Vec2>> lines{
        {{box.max.x(), high.y()}, {middle.x(), high.y()}, {box.min.x(), high.y()}},  // top: leftward
        {{box.min.x(), low.y()}, {middle.x(), low.y()}, {box.max.x(), low.y()}},
        {{high.x(), box.min.y()}, {high.x(), middle.y()}, {high.x(), box.max.y()}},
        {{low.x(), box.max.y()}, {low.x(), middle.y()}, {low.x(), box.min.y()}}};
    const QStringList words{"top", "bottom", "right", "left"};
    f.add(
        Kind::menu, "Add a free edge", {}, "Add a free edge",
        [lines, words](JobPiece& p, const QVariant& v) {
            piece::EdgeSpec e;
            e.kind = piece::EdgeKind::free;
            e.name = free_edge_name(p, "free " + words[v.toInt()].toStdString());
            for (const Vec2& at : lines[v.toUInt()])
                e.line.push_back({{std::round(at.x()), std::round(at.y())}, 0, false});
            e.line[1].smooth = true;
            p.edges.push_back(e);
        },
        words);
}

void add_straight_edges(PieceFields& f, const job::PieceResult* result) {
    // It starts where the piece ends on that side now.
    const std::vector<Vec2> sides{{0, 1}, {0, -1}, {1, 0}, {-1, 0}};
    std::vector<double> bounds;
    for (const Vec2& side : sides) bounds.push_back(result ? job::bounding_edge_mm(*result, side) : 0);
    const QStringList words{"top", "bottom", "right end", "left end"};
    f.add(
        Kind::menu, "Add a straight edge", {}, "Add a straight edge",
        [sides, bounds, words](JobPiece& p, const QVariant& v) {
            const auto k = v.toUInt();
            p.edges.push_back({piece::EdgeKind::straight,
                               free_edge_name(p, words[v.toInt()].toStdString()),
                               {},
                               sides[k],
                               bounds[k],
                               0,
                               0});
        },
        words);
}

void add_stops(PieceFields& f, const JobPiece& piece, const job::PieceResult* result, const job::Job& job) {
    QStringList names;
    std::vector<std::string> ids;
    for (const auto& other : job.pieces) {
        if (other.id == piece.id || std::abs(other.plane.normal.dot(piece.plane.normal)) > 0.999) continue;
        names << QString::fromStdString(other.name);
        ids.push_back(other.id);
    }
    f.add(
        Kind::menu, "Stop at another piece", {}, "Stop at a piece",
        [ids, names, middle = result ? result->middle() : std::nullopt](JobPiece& p, const QVariant& v) {
            piece::EdgeSpec e;
            e.kind = piece::EdgeKind::piece;
            e.piece_id = ids[v.toUInt()];
            e.name = "at " + names[v.toInt()].toStdString();
            // Today's side is kept, whatever is moved later.
            if (middle) p.at = middle;
            p.edges.push_back(e);
        },
        names);
}

}  // namespace

void add_pins(PieceFields& f, const std::vector<piece::FreePoint>& pins,
              const std::function<std::vector<piece::FreePoint>&(JobPiece&)>& line_of) {
    // As numbers in a row: few enough to see, and Enter takes them all.
    QStringList rows;
    const auto unit = f.document().unit();
    const auto told = [unit](double mm) { return QString::fromStdString(units::format_length_field(mm, unit)); };
    for (const auto& pin : pins) {
        QString row = told(pin.at.x()) + ", " + told(pin.at.y());
        if (pin.smooth) row += " ~";
        else if (pin.radius_mm > 0) row += " r " + told(pin.radius_mm);
        rows << row;
    }
    using Pins = std::vector<piece::FreePoint>;
    std::vector<double> shown;
    for (const auto& pin : pins) shown.insert(shown.end(), {pin.at.x(), pin.at.y(), pin.radius_mm});
    const auto read = [unit, shown](const QString& text) -> Result<Pins> {
        Pins out;
        for (QString row : text.split(';', Qt::SkipEmptyParts)) {
            piece::FreePoint pin;
            pin.smooth = row.contains('~');
            row.remove('~');
            const QStringList corner = row.split(" r ");
            const QStringList at = corner.front().split(',');
            if (at.size() != 2 || corner.size() > 2)
                return Error{"a pin is: right, up; with ~ a batten runs through it, with r a corner has a radius"};
            const auto x = units::parse_listed_mm(at[0].trimmed().toStdString(), unit, shown),
                       y = units::parse_listed_mm(at[1].trimmed().toStdString(), unit, shown);
            if (!x) return x.error();
            if (!y) return y.error();
            for (double mm : {*x, *y})
                if (!units::range::place.holds(mm)) return Error{units::out_of_range(units::range::place, mm)};
            pin.at = {*x, *y};
            if (corner.size() == 2) {
                const auto r = units::parse_listed_mm(corner[1].trimmed().toStdString(), unit, shown);
                if (!r) return r.error();
                if (!units::range::distance.holds(*r)) return Error{units::out_of_range(units::range::distance, *r)};
                pin.radius_mm = *r;
            }
            out.push_back(pin);
        }
        if (out.size() < 2) return Error{"a free line has two pins at least"};
        if (out.size() > units::limit::free_points.most)
            return Error{units::too_many(units::limit::free_points, out.size())};
        return out;
    };
    f.add_text<Pins>("pins (right, up; ~ batten, r corner)", rows.join("; "), "Move a free edge", read,
                     [line_of](JobPiece& p, const Pins& line) { line_of(p) = line; });
}

void add_edge(PieceFields& f, const JobPiece& piece, std::size_t i) {
    const auto& e = piece.edges[i];
    const QString name = QString::fromStdString(e.name);
    const auto* met = f.document().piece(QString::fromStdString(e.piece_id));
    f.heading("Edge: " + name + ", " + meets_words(e, met));
    add_place(f, e, i, name);
    if (e.kind == piece::EdgeKind::free)
        add_pins(f, e.line, [i](JobPiece& p) -> std::vector<piece::FreePoint>& { return p.edges[i].line; });
    const auto length = [&](const QString& label, double value, double piece::EdgeSpec::*member, const QString& what,
                            double most) {
        f.add(
            Kind::length, label + " (" + name + ")", value, what,
            [i, member](JobPiece& p, const QVariant& v) { p.edges[i].*member = v.toDouble(); }, {}, 0, most);
    };
    const double gap = units::range::gap.most, film = units::range::film.most;
    length("gap", e.gap_mm, &piece::EdgeSpec::gap_mm, "Change a gap", gap);
    length("coating", e.coating_mm, &piece::EdgeSpec::coating_mm, "Change a coating", film);
    length("covering to come", e.covering_mm, &piece::EdgeSpec::covering_mm, "Change a covering", film);
    length("overhang", e.overhang_mm, &piece::EdgeSpec::overhang_mm, "Change an overhang", gap);
    length("lipping", e.lipping_mm, &piece::EdgeSpec::lipping_mm, "Change a lipping", gap);
    length("left on for shaving", e.leave_on_mm, &piece::EdgeSpec::leave_on_mm, "Leave wood on", gap);
    if (e.lipping_mm > 0) {
        length("lipping planed to fit", e.planing_mm, &piece::EdgeSpec::planing_mm, "Plane a lipping", film);
        length("arris rounded later", e.round_mm, &piece::EdgeSpec::round_mm, "Round an arris", film);
    }
    length("strip under it, deep", e.build_up_mm, &piece::EdgeSpec::build_up_mm, "Build up an edge", gap);
    if (e.build_up_mm > 0)
        length("strip under it, wide", e.build_up_wide_mm, &piece::EdgeSpec::build_up_wide_mm, "Build up an edge",
               gap);
    length("trim over its gap, wide", e.trim_mm, &piece::EdgeSpec::trim_mm, "Cover a gap", gap);
    if (e.kind == piece::EdgeKind::scribed || e.kind == piece::EdgeKind::piece)
        length("fillet in its corner", e.fillet_mm, &piece::EdgeSpec::fillet_mm, "Change a fillet", gap);
    if (e.kind == piece::EdgeKind::piece)
        f.add(Kind::choice, "there (" + name + ")", static_cast<int>(e.meeting), "Change how an edge meets",
              [i](JobPiece& p, const QVariant& v) { p.edges[i].meeting = static_cast<piece::Meeting>(v.toInt()); },
              {"stops at it", "covers its end"});
    if (e.kind == piece::EdgeKind::piece && met) {
        using piece::KeptSide;
        const auto words = [&](KeptSide k) { return QString::fromStdString(job::side_in_words(k, met->plane)); };
        f.add(Kind::choice, "keeps to (" + name + ")", e.kept == KeptSide::beyond_b ? 1 : 0,
              "Change which side of a piece is kept",
              [i](JobPiece& p, const QVariant& v) {
                  p.edges[i].kept = v.toInt() == 0 ? KeptSide::before_a : KeptSide::beyond_b;
              },
              {words(KeptSide::before_a), words(KeptSide::beyond_b)});
    }
    if (e.kind != piece::EdgeKind::scribed)
        f.add(Kind::button, QString("Remove edge %1").arg(name), {}, "Remove an edge",
              [i](JobPiece& p, const QVariant&) { p.edges.erase(p.edges.begin() + static_cast<std::ptrdiff_t>(i)); });
}

void add_new_edges(PieceFields& f, const JobPiece& piece, const job::PieceResult* result, const job::Job& job) {
    add_straight_edges(f, result);
    add_plane_edges(f, result);
    add_free_edges(f, result);
    add_stops(f, piece, result, job);
}

}  // namespace bevelsmith::app

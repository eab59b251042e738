#include "app/pieces/piece_fields.h"

#include <algorithm>
#include <cmath>

#include "app/pieces/unit_fields.h"
#include "app/widgets/step.h"
#include "job/in_full.h"
#include "job/starting_piece.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobPiece;

/// Collects fields for one piece, wiring each to an undo step.
class Fields {
  public:
    Fields(Document& document, QString id) : document_(document), id_(std::move(id)) {}

    template <class Change>
    void add(Kind kind, const QString& label, const QVariant& value, const QString& what, Change change,
             QStringList choices = {}, double least = units::range::place.least,
             double most = units::range::place.most) {
        Document& document = document_;
        const QString id = id_;
        out.push_back({kind,
                       label,
                       value,
                       [&document, id, what, change](const QVariant& v) {
                           edit_piece(document, id, what, [&](JobPiece& p) { change(p, v); });
                       },
                       std::move(choices),
                       {},
                       least,
                       most});
    }
    void heading(const QString& text) { out.push_back({Kind::heading, text, {}, {}, {}, {}}); }

    std::vector<FormField> out;

  private:
    Document& document_;
    QString id_;
};

/// Where a piece stands, as a family of planes turned by a lean.
struct Stand {
    int family = 3;  ///< across the boat, along it, level, aslant
    double lean_deg = 0;
    bool turned = false;  ///< its face B is on the usual side of face A
};

/// Face A looks aft, to starboard or up; turned round, the other way.
Vec3 normal_of(int family, double lean_deg, bool turned) {
    const double k = units::radians(lean_deg), way = turned ? -1 : 1;
    if (family == 0) return way * Vec3(std::cos(k), 0, std::sin(k));
    if (family == 1) return way * Vec3(0, std::cos(k), std::sin(k));
    return way * Vec3(-std::sin(k), 0, -std::cos(k));
}

Stand stand_of(const Vec3& n) {
    for (const bool turned : {false, true})
        for (int family = 0; family < 3; ++family) {
            const Vec3 m = turned ? Vec3(-n) : n;
            const double lean = units::degrees(family == 0   ? std::atan2(m.z(), m.x())
                                               : family == 1 ? std::atan2(m.z(), m.y())
                                                             : std::atan2(-m.x(), -m.z()));
            if (std::abs(lean) <= 45 && (normal_of(family, lean, turned) - n).norm() < 1e-9)
                return {family, lean, turned};
        }
    return {};
}

void add_stand(Fields& f, const JobPiece& piece) {
    const Stand stand = stand_of(piece.plane.normal);
    f.heading("Where it stands");
    QStringList words{"across the boat", "along the boat", "level"};
    if (stand.family == 3) words << "aslant";
    f.add(
        Kind::choice, "plane", stand.family, "Turn a piece",
        [](JobPiece& p, const QVariant& v) {
            if (v.toInt() < 3) p.plane.normal = normal_of(v.toInt(), 0, false);
        },
        words);
    const char* at[] = {"face A at, fwd", "face A at, port", "face A at, up", "face A at"};
    f.add(Kind::length, at[stand.family], geometry::place_mm(piece.plane), "Move a piece",
          [](JobPiece& p, const QVariant& v) { p.plane = geometry::placed_at(p.plane, v.toDouble()); });
    if (stand.family < 3)
        f.add(
            Kind::degrees, "leans", stand.lean_deg, "Lean a piece",
            [stand](JobPiece& p, const QVariant& v) {
                p.plane.normal = normal_of(stand.family, v.toDouble(), stand.turned);
            },
            {}, -45, 45);
}

void add_making(Fields& f, const JobPiece& piece, const job::Job& job) {
    f.heading("What it is made of");
    QStringList materials;
    int now = -1;
    for (std::size_t i = 0; i < job.materials.size(); ++i) {
        materials << QString::fromStdString(job.materials[i].name);
        if (job.materials[i].id == piece.material_id) now = static_cast<int>(i);
    }
    std::vector<std::string> ids;
    for (const auto& m : job.materials) ids.push_back(m.id);
    f.add(
        Kind::choice, "sheet", now, "Choose a sheet",
        [ids](JobPiece& p, const QVariant& v) { p.material_id = ids[static_cast<std::size_t>(v.toInt())]; },
        materials);
    f.add(Kind::choice, "good face", piece.good_face == piece::Face::a ? 0 : 1, "Choose the good face",
          [](JobPiece& p, const QVariant& v) { p.good_face = v.toInt() == 0 ? piece::Face::a : piece::Face::b; },
          {"face A", "face B"});
    f.add(
        Kind::degrees, std::abs(piece.plane.normal.z()) > 0.9 ? "grain, from across" : "grain, from right",
        piece.grain_deg, "Turn the grain", [](JobPiece& p, const QVariant& v) { p.grain_deg = v.toDouble(); }, {},
        -360, 360);
    f.add(Kind::toggle, "carries structure", piece.structural, "Change what it carries",
          [](JobPiece& p, const QVariant& v) { p.structural = v.toBool(); });
    f.add(Kind::toggle, "comes out again", piece.removable, "Change whether it comes out",
          [](JobPiece& p, const QVariant& v) { p.removable = v.toBool(); });
    f.add(
        Kind::length, "largest gap wanted", piece.wanted_fit_mm, "Change the fit wanted",
        [](JobPiece& p, const QVariant& v) { p.wanted_fit_mm = v.toDouble(); }, {}, 0.1, 100);
}

void add_state(Fields& f, const JobPiece& piece) {
    f.add(Kind::choice, "state",
          static_cast<int>(std::find(std::begin(job::piece_stages), std::end(job::piece_stages), piece.stage) -
                           std::begin(job::piece_stages)),
          "Change a piece's state", [](JobPiece& p, const QVariant& v) { p.stage = job::piece_stages[v.toInt()]; },
          {"planned", "measured", "cut", "tried", "finished", "fixed"});
}

void add_removal(Fields& f, Document& document, const QString& id) {
    f.out.push_back({Kind::button,
                     "Remove this piece",
                     {},
                     [&document, id](const QVariant&) {
                         document.edit("Remove a piece", [&](job::Job& job) {
                             std::erase_if(job.pieces, [&](const JobPiece& p) { return p.id == id.toStdString(); });
                         });
                     },
                     {},
                     {}});
}

/// A straight edge's place is shown as a coordinate of the drawing whichever way it faces.
QString edge_place(const piece::EdgeSpec& e) {
    if (std::abs(e.side.x()) < 1e-9) return e.side.y() > 0 ? "at or below" : "at or above";
    if (std::abs(e.side.y()) < 1e-9) return e.side.x() > 0 ? "left of" : "right of";
    return "line at";
}

double edge_sign(const piece::EdgeSpec& e) {
    return e.side.x() + e.side.y() < 0 ? -1 : 1;
}

/// What an edge meets, in words.
QString meets_words(const piece::EdgeSpec& e) {
    using piece::EdgeKind;
    const QString other = QString::fromStdString(e.piece_id);
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

void add_edge(Fields& f, const JobPiece& piece, std::size_t i) {
    const auto& e = piece.edges[i];
    const QString name = QString::fromStdString(e.name);
    f.heading("Edge: " + name + ", " + meets_words(e));
    if (e.kind == piece::EdgeKind::straight)
        f.add(Kind::length, edge_place(e) + QString(" (%1)").arg(name), e.at_mm * edge_sign(e), "Move an edge",
              [i, sign = edge_sign(e)](JobPiece& p, const QVariant& v) { p.edges[i].at_mm = v.toDouble() * sign; });
    const auto length = [&](const QString& label, double value, double piece::EdgeSpec::*member, const QString& what,
                            double most) {
        f.add(
            Kind::length, label + " (" + name + ")", value, what,
            [i, member](JobPiece& p, const QVariant& v) { p.edges[i].*member = v.toDouble(); }, {}, 0, most);
    };
    length("gap", e.gap_mm, &piece::EdgeSpec::gap_mm, "Change a gap", units::range::gap.most);
    length("coating", e.coating_mm, &piece::EdgeSpec::coating_mm, "Change a coating", units::range::film.most);
    length("covering to come", e.covering_mm, &piece::EdgeSpec::covering_mm, "Change a covering",
           units::range::film.most);
    length("overhang", e.overhang_mm, &piece::EdgeSpec::overhang_mm, "Change an overhang", units::range::gap.most);
    length("lipping", e.lipping_mm, &piece::EdgeSpec::lipping_mm, "Change a lipping", units::range::gap.most);
    length("left on for shaving", e.leave_on_mm, &piece::EdgeSpec::leave_on_mm, "Leave wood on",
           units::range::gap.most);
    if (e.kind == piece::EdgeKind::piece)
        f.add(Kind::choice, "there (" + name + ")", static_cast<int>(e.meeting), "Change how an edge meets",
              [i](JobPiece& p, const QVariant& v) { p.edges[i].meeting = static_cast<piece::Meeting>(v.toInt()); },
              {"stops at it", "covers its end"});
    if (e.kind != piece::EdgeKind::scribed)
        f.add(Kind::button, QString("Remove edge %1").arg(name), {}, "Remove an edge",
              [i](JobPiece& p, const QVariant&) { p.edges.erase(p.edges.begin() + static_cast<std::ptrdiff_t>(i)); });
}

void add_new_edge(Fields& f, const JobPiece& piece, const job::PieceResult* result, const job::Job& job) {
    // It starts where the piece ends on that side now.
    const Vec2 sides[] = {{0, 1}, {0, -1}, {1, 0}, {-1, 0}};
    std::vector<double> bounds;
    for (const Vec2& side : sides) bounds.push_back(result ? job::bounding_edge_mm(*result, side) : 0);
    const QStringList words{"top", "bottom", "right end", "left end"};
    f.add(
        Kind::menu, "Add a straight edge", {}, "Add a straight edge",
        [sides = std::vector<Vec2>(std::begin(sides), std::end(sides)), bounds, words](JobPiece& p,
                                                                                       const QVariant& v) {
            const int k = v.toInt();
            std::vector<std::string> taken;
            for (const auto& e : p.edges) taken.push_back(e.name);
            std::string name = words[k].toStdString();
            if (std::find(taken.begin(), taken.end(), name) != taken.end()) name = job::free_id(name + " ", taken);
            const auto at = static_cast<std::size_t>(k);
            p.edges.push_back({piece::EdgeKind::straight, name, {}, sides[at], bounds[at], 0, 0});
        },
        words);
    // On the side of the other on which this one is now.
    QStringList names;
    std::vector<std::string> ids;
    for (const auto& other : job.pieces) {
        if (other.id == piece.id || std::abs(other.plane.normal.dot(piece.plane.normal)) > 0.999) continue;
        names << QString::fromStdString(other.name);
        ids.push_back(other.id);
    }
    std::optional<Vec3> middle;
    if (result && result->shape())
        middle = result->shape()->frame.to_space(geometry::centroid(result->shape()->face_a));
    f.add(
        Kind::menu, "Stop at another piece", {}, "Stop at a piece",
        [ids, names, middle](JobPiece& p, const QVariant& v) {
            piece::EdgeSpec e;
            e.kind = piece::EdgeKind::piece;
            e.piece_id = ids[static_cast<std::size_t>(v.toInt())];
            e.name = "at " + names[v.toInt()].toStdString();
            if (!p.at) p.at = middle;
            p.edges.push_back(e);
        },
        names);
}

void add_opening(Fields& f, const JobPiece& piece, std::size_t i) {
    const auto& o = piece.openings[i];
    const QString name = QString::fromStdString(o.name);
    f.heading("Opening: " + name);
    const auto number = [&](const QString& label, double value, double piece::OpeningSpec::*member, double least) {
        f.add(
            Kind::length, label + " (" + name + ")", value, "Change an opening",
            [i, member](JobPiece& p, const QVariant& v) { p.openings[i].*member = v.toDouble(); }, {}, least,
            units::range::opening.most);
    };
    number("left", o.left_mm, &piece::OpeningSpec::left_mm, -20'000);
    number("bottom", o.bottom_mm, &piece::OpeningSpec::bottom_mm, -20'000);
    number("width", o.width_mm, &piece::OpeningSpec::width_mm, 1);
    number("height", o.height_mm, &piece::OpeningSpec::height_mm, 1);
    number("corner radius", o.radius_mm, &piece::OpeningSpec::radius_mm, 0);
    f.add(Kind::button, "Remove opening " + name, {}, "Remove an opening", [i](JobPiece& p, const QVariant&) {
        p.openings.erase(p.openings.begin() + static_cast<std::ptrdiff_t>(i));
    });
}

void add_new_features(Fields& f, const JobPiece& piece) {
    f.add(Kind::button, "Add an opening", {}, "Add an opening", [](JobPiece& p, const QVariant&) {
        std::vector<std::string> taken;
        for (const auto& o : p.openings) taken.push_back(o.name);
        const std::string name =
            std::find(taken.begin(), taken.end(), "door") == taken.end() ? "door" : job::free_id("opening ", taken);
        p.openings.push_back({name, -200, 200, 400, 300, 60});
    });
    f.add(Kind::button, "Add a limber notch", {}, "Add a limber notch",
          [](JobPiece& p, const QVariant&) { p.limbers.push_back({}); });
    f.add(Kind::button, "Add a joint", {}, "Add a joint", [](JobPiece& p, const QVariant&) {
        p.joints.push_back({piece::JointKind::butt, true, 0, p.scarf_slope});
    });
    f.add(Kind::toggle, "scarf it where it will not pass in", piece.split_for_passage, "Change splitting",
          [](JobPiece& p, const QVariant& v) { p.split_for_passage = v.toBool(); });
}

void add_limber(Fields& f, const JobPiece& piece, std::size_t i) {
    const QString name = piece.limbers.size() == 1 ? "limber" : QString("limber %1").arg(i + 1);
    f.heading("Limber notch");
    f.add(Kind::toggle, QString("at the lowest point (%1)").arg(name), !piece.limbers[i].at_mm.has_value(),
          "Move a limber notch", [i](JobPiece& p, const QVariant& v) {
              if (v.toBool()) p.limbers[i].at_mm.reset();
              else p.limbers[i].at_mm = 0;
          });
    if (piece.limbers[i].at_mm)
        f.add(Kind::length, "middle at (" + name + ")", *piece.limbers[i].at_mm, "Move a limber notch",
              [i](JobPiece& p, const QVariant& v) { p.limbers[i].at_mm = v.toDouble(); });
    f.add(
        Kind::length, "width (" + name + ")", piece.limbers[i].width_mm, "Change a limber notch",
        [i](JobPiece& p, const QVariant& v) { p.limbers[i].width_mm = v.toDouble(); }, {}, 5, 500);
    f.add(
        Kind::length, "height (" + name + ")", piece.limbers[i].height_mm, "Change a limber notch",
        [i](JobPiece& p, const QVariant& v) { p.limbers[i].height_mm = v.toDouble(); }, {}, 5, 500);
    f.add(Kind::button, "Remove " + name, {}, "Remove a limber notch",
          [i](JobPiece& p, const QVariant&) { p.limbers.erase(p.limbers.begin() + static_cast<std::ptrdiff_t>(i)); });
}

void add_joint(Fields& f, const JobPiece& piece, std::size_t i) {
    const auto& j = piece.joints[i];
    const QString name = QString("joint %1").arg(i + 1);
    f.heading("Joint " + QString::number(i + 1));
    f.add(Kind::choice, "kind (" + name + ")", static_cast<int>(j.kind), "Change a joint",
          [i](JobPiece& p, const QVariant& v) { p.joints[i].kind = static_cast<piece::JointKind>(v.toInt()); },
          {"butt", "butt strap", "scarf"});
    f.add(Kind::choice, "runs (" + name + ")", j.upright ? 0 : 1, "Turn a joint",
          [i](JobPiece& p, const QVariant& v) { p.joints[i].upright = v.toInt() == 0; }, {"upright", "level"});
    f.add(Kind::length, "at (" + name + ")", j.at_mm, "Move a joint",
          [i](JobPiece& p, const QVariant& v) { p.joints[i].at_mm = v.toDouble(); });
    if (j.kind == piece::JointKind::scarf)
        f.add(
            Kind::number, "slope : 1 (" + name + ")", j.slope, "Change a scarf",
            [i](JobPiece& p, const QVariant& v) { p.joints[i].slope = v.toDouble(); }, {}, 1, 50);
    f.add(Kind::button, "Remove " + name, {}, "Remove a joint",
          [i](JobPiece& p, const QVariant&) { p.joints.erase(p.joints.begin() + static_cast<std::ptrdiff_t>(i)); });
}

}  // namespace

std::vector<FormField> piece_fields(Document& document, const QString& id, const Facet& facet) {
    const auto* piece = document.piece(id);
    if (!piece) return {};
    using K = Facet::Kind;
    Fields f(document, id);
    const bool of_unit = job::unit_of(document.job(), piece->id) != nullptr;
    switch (facet.kind) {
        case K::unit: return unit_fields(document, job::unit_of(document.job(), piece->id));
        case K::piece:
            f.add(Kind::text, "name", QString::fromStdString(piece->name), "Rename a piece",
                  [](JobPiece& p, const QVariant& v) { p.name = v.toString().toStdString(); });
            f.add(Kind::text, "place in the boat", QString::fromStdString(piece->place),
                  "Move a piece to another place",
                  [](JobPiece& p, const QVariant& v) { p.place = v.toString().toStdString(); });
            // Where a unit's panel stands follows from the unit.
            if (!of_unit) add_stand(f, *piece);
            add_state(f, *piece);
            if (!of_unit) add_removal(f, document, id);
            break;
        case K::making: add_making(f, *piece, document.built()); break;
        case K::edge: add_edge(f, *piece, facet.index); break;
        case K::opening: add_opening(f, *piece, facet.index); break;
        case K::limber: add_limber(f, *piece, facet.index); break;
        case K::joint: add_joint(f, *piece, facet.index); break;
        case K::more:
            add_new_features(f, *piece);
            add_new_edge(f, *piece, document.computed()->results.piece(piece->id), document.built());
            break;
    }
    return f.out;
}

}  // namespace bevelsmith::app

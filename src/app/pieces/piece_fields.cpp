#include "app/pieces/piece_fields.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/step.h"
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
};

Vec3 normal_of(int family, double lean_deg) {
    const double k = units::radians(lean_deg);
    if (family == 0) return {std::cos(k), 0, std::sin(k)};
    if (family == 1) return {0, std::cos(k), std::sin(k)};
    return {std::sin(k), 0, std::cos(k)};
}

Stand stand_of(const Vec3& n) {
    for (int family = 0; family < 3; ++family) {
        const double lean = units::degrees(family == 0   ? std::atan2(n.z(), n.x())
                                           : family == 1 ? std::atan2(n.z(), n.y())
                                                         : std::atan2(n.x(), n.z()));
        if (std::abs(lean) <= 45 && (normal_of(family, lean) - n).norm() < 1e-9) return {family, lean};
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
            if (v.toInt() < 3) p.plane.normal = normal_of(v.toInt(), 0);
        },
        words);
    const char* at[] = {"face A at, fwd", "face A at, port", "face A at, up", "face A at"};
    f.add(Kind::length, at[stand.family], piece.plane.d_mm, "Move a piece",
          [](JobPiece& p, const QVariant& v) { p.plane.d_mm = v.toDouble(); });
    if (stand.family < 3)
        f.add(
            Kind::degrees, "leans", stand.lean_deg, "Lean a piece",
            [family = stand.family](JobPiece& p, const QVariant& v) {
                p.plane.normal = normal_of(family, v.toDouble());
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
        Kind::degrees, "grain, from right", piece.grain_deg, "Turn the grain",
        [](JobPiece& p, const QVariant& v) { p.grain_deg = v.toDouble(); }, {}, -360, 360);
    f.add(Kind::toggle, "carries structure", piece.structural, "Change what it carries",
          [](JobPiece& p, const QVariant& v) { p.structural = v.toBool(); });
    f.add(Kind::toggle, "comes out again", piece.removable, "Change whether it comes out",
          [](JobPiece& p, const QVariant& v) { p.removable = v.toBool(); });
    f.add(
        Kind::length, "largest gap wanted", piece.wanted_fit_mm, "Change the fit wanted",
        [](JobPiece& p, const QVariant& v) { p.wanted_fit_mm = v.toDouble(); }, {}, 0.1, 100);
    f.add(Kind::choice, "state",
          static_cast<int>(std::find(std::begin(job::piece_stages), std::end(job::piece_stages), piece.stage) -
                           std::begin(job::piece_stages)),
          "Change a piece's state", [](JobPiece& p, const QVariant& v) { p.stage = job::piece_stages[v.toInt()]; },
          {"planned", "measured", "cut", "tried", "finished", "fixed"});
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

void add_edges(Fields& f, const JobPiece& piece, const job::PieceResult* result) {
    for (std::size_t i = 0; i < piece.edges.size(); ++i) {
        const auto& e = piece.edges[i];
        const QString name = QString::fromStdString(e.name);
        f.heading("Edge: " + name);
        if (e.kind == piece::EdgeKind::straight)
            f.add(
                Kind::length, edge_place(e) + QString(" (%1)").arg(name), e.at_mm * edge_sign(e), "Move an edge",
                [i, sign = edge_sign(e)](JobPiece& p, const QVariant& v) { p.edges[i].at_mm = v.toDouble() * sign; });
        f.add(
            Kind::length, "gap (" + name + ")", e.gap_mm, "Change a gap",
            [i](JobPiece& p, const QVariant& v) { p.edges[i].gap_mm = v.toDouble(); }, {}, 0, 500);
        f.add(
            Kind::length, "coating (" + name + ")", e.coating_mm, "Change a coating",
            [i](JobPiece& p, const QVariant& v) { p.edges[i].coating_mm = v.toDouble(); }, {}, 0, 50);
        if (e.kind == piece::EdgeKind::straight)
            f.add(Kind::button, QString("Remove edge %1").arg(name), {}, "Remove an edge",
                  [i](JobPiece& p, const QVariant&) {
                      p.edges.erase(p.edges.begin() + static_cast<std::ptrdiff_t>(i));
                  });
    }
    // It starts where the piece ends on that side now.
    const Vec2 sides[] = {{0, 0}, {0, 1}, {0, -1}, {1, 0}, {-1, 0}};
    std::vector<double> bounds;
    for (const Vec2& side : sides) bounds.push_back(result ? job::bounding_edge_mm(*result, side) : 0);
    f.add(Kind::choice, "add an edge", 0, "Add a straight edge",
          [sides = std::vector<Vec2>(std::begin(sides), std::end(sides)), bounds](JobPiece& p, const QVariant& v) {
              if (v.toInt() < 1) return;
              const char* names[] = {"", "top", "bottom", "right end", "left end"};
              std::vector<std::string> taken;
              for (const auto& e : p.edges) taken.push_back(e.name);
              std::string name = names[v.toInt()];
              if (std::find(taken.begin(), taken.end(), name) != taken.end()) name = job::free_id(name + " ", taken);
              const auto k = static_cast<std::size_t>(v.toInt());
              p.edges.push_back({piece::EdgeKind::straight, name, {}, sides[k], bounds[k], 0, 0});
          },
          {"choose a side", "top", "bottom", "right end", "left end"});
}

void add_openings(Fields& f, const JobPiece& piece) {
    for (std::size_t i = 0; i < piece.openings.size(); ++i) {
        const auto& o = piece.openings[i];
        const QString name = QString::fromStdString(o.name);
        f.heading("Opening: " + name);
        const auto number = [&](const QString& label, double value, double piece::OpeningSpec::*member,
                                double least) {
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
    f.add(Kind::button, "Add an opening", {}, "Add an opening", [](JobPiece& p, const QVariant&) {
        std::vector<std::string> taken;
        for (const auto& o : p.openings) taken.push_back(o.name);
        const std::string name =
            std::find(taken.begin(), taken.end(), "door") == taken.end() ? "door" : job::free_id("opening ", taken);
        p.openings.push_back({name, -200, 200, 400, 300, 60});
    });
}

void add_limbers(Fields& f, const JobPiece& piece) {
    for (std::size_t i = 0; i < piece.limbers.size(); ++i) {
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
        f.add(Kind::button, "Remove " + name, {}, "Remove a limber notch", [i](JobPiece& p, const QVariant&) {
            p.limbers.erase(p.limbers.begin() + static_cast<std::ptrdiff_t>(i));
        });
    }
    f.add(Kind::button, "Add a limber notch", {}, "Add a limber notch",
          [](JobPiece& p, const QVariant&) { p.limbers.push_back({}); });
}

void add_joints(Fields& f, const JobPiece& piece) {
    for (std::size_t i = 0; i < piece.joints.size(); ++i) {
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
        f.add(Kind::button, "Remove " + name, {}, "Remove a joint", [i](JobPiece& p, const QVariant&) {
            p.joints.erase(p.joints.begin() + static_cast<std::ptrdiff_t>(i));
        });
    }
    f.add(Kind::button, "Add a joint", {}, "Add a joint", [](JobPiece& p, const QVariant&) {
        p.joints.push_back({piece::JointKind::butt, true, 0, p.scarf_slope});
    });
    f.add(Kind::toggle, "scarf it where it will not pass in", piece.split_for_passage, "Change splitting",
          [](JobPiece& p, const QVariant& v) { p.split_for_passage = v.toBool(); });
}

}  // namespace

std::vector<FormField> piece_fields(Document& document, const QString& id) {
    const auto* piece = job::find_piece(document.job(), id.toStdString());
    if (!piece) return {};
    Fields f(document, id);
    f.add(Kind::text, "name", QString::fromStdString(piece->name), "Rename a piece",
          [](JobPiece& p, const QVariant& v) { p.name = v.toString().toStdString(); });
    f.add(Kind::text, "place in the boat", QString::fromStdString(piece->place), "Move a piece to another place",
          [](JobPiece& p, const QVariant& v) { p.place = v.toString().toStdString(); });
    add_stand(f, *piece);
    add_making(f, *piece, document.job());
    add_edges(f, *piece, document.computed()->results.piece(piece->id));
    f.heading("Openings, notches, joints");
    add_openings(f, *piece);
    add_limbers(f, *piece);
    add_joints(f, *piece);
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
    return f.out;
}

}  // namespace bevelsmith::app

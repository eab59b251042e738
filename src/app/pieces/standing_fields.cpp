// What becomes of a piece, how what stands is taken down, how a panel is made up.
#include <algorithm>
#include <cmath>

#include "app/pieces/field_maker.h"
#include "app/widgets/place_text.h"
#include "job/in_full.h"
#include "job/measured_places.h"
#include "job/standing_outline.h"
#include "piece/role_words.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobPiece;
using Face = std::vector<stock::Plies> stock::Layup::*;

void add_plies(PieceFields& f, const QString& face, const std::vector<stock::Plies>& plies, Face which) {
    for (std::size_t k = 0; k < plies.size(); ++k) {
        const QString name = plies.size() > 1 ? QString("%1, cloth %2").arg(face).arg(k + 1) : face + ", cloth";
        const auto change = [&](Kind kind, const QString& label, const QVariant& value, auto set,
                                QStringList words = {}, const units::Range& range = units::range::distance) {
            f.add(
                kind, label, value, "Change a layup",
                [which, k, set](JobPiece& p, const QVariant& v) {
                    if (k < (p.layup.*which).size()) set((p.layup.*which)[k], v);
                },
                std::move(words), range.least, range.most);
        };
        change(
            Kind::choice, name, static_cast<int>(plies[k].glass.kind),
            [](stock::Plies& one, const QVariant& v) { one.glass.kind = static_cast<stock::GlassKind>(v.toInt()); },
            {"mat", "woven", "biaxial"});
        change(
            Kind::number, name + ", weight", plies[k].glass.mass_g_m2,
            [](stock::Plies& one, const QVariant& v) { one.glass.mass_g_m2 = v.toDouble(); }, {},
            units::range::glass);
        f.out.back().unit = "g/m²";
        change(
            Kind::number, name + ", plies", plies[k].count,
            [](stock::Plies& one, const QVariant& v) { one.count = static_cast<int>(std::lround(v.toDouble())); }, {},
            units::range::plies_count);
        change(
            Kind::number, name + ", share of glass, 0 usual", plies[k].fraction,
            [](stock::Plies& one, const QVariant& v) {
                one.fraction = v.toDouble() > 0 ? std::max(0.1, v.toDouble()) : 0;
            },
            {}, units::range::glass_share);
        f.add(Kind::button, "Remove " + name, {}, "Remove a cloth", [which, k](JobPiece& p, const QVariant&) {
            auto& all = p.layup.*which;
            if (k < all.size()) all.erase(all.begin() + static_cast<std::ptrdiff_t>(k));
        });
    }
    f.add(Kind::button, "Add a cloth to " + face, {}, "Add a cloth", [which](JobPiece& p, const QVariant&) {
        if ((p.layup.*which).size() < units::limit::plies.most) (p.layup.*which).emplace_back();
    });
}

void add_covering(PieceFields& f, const QString& face, double thick_mm, double JobPiece::*thick,
                  const stock::Covering& covering, stock::Covering stock::Layup::*which) {
    f.add(
        Kind::length, face + ", covering thick", thick_mm, "Change a covering",
        [thick](JobPiece& p, const QVariant& v) { p.*thick = v.toDouble(); }, {}, units::range::film.least,
        units::range::film.most);
    f.add(
        Kind::number, face + ", covering weighs", covering.kg_m2, "Change a covering",
        [which](JobPiece& p, const QVariant& v) { (p.layup.*which).kg_m2 = v.toDouble(); }, {},
        units::range::area_mass.least, units::range::area_mass.most);
    f.out.back().unit = "kg/m²";
    f.add(
        Kind::number, face + ", covering costs", covering.price_m2, "Change a covering",
        [which](JobPiece& p, const QVariant& v) { (p.layup.*which).price_m2 = v.toDouble(); }, {},
        units::range::price.least, units::range::price.most);
    f.out.back().unit = "per m²";
}

/// Corners of an outline as a person writes them: "0, 0; 600, 0; 600, 400".
QString corners_words(const piece::EdgeSpec& outline, units::LengthUnit unit) {
    QStringList out;
    for (const auto& p : outline.line) out << lengths_words({p.at.x(), p.at.y()}, unit).replace("; ", ", ");
    return out.join("; ");
}

Result<std::vector<Vec2>> corners_in(const QString& text, units::LengthUnit unit, const piece::EdgeSpec* shown) {
    std::vector<Vec3> before;
    if (shown)
        for (const auto& p : shown->line) before.emplace_back(p.at.x(), p.at.y(), 0);
    std::vector<Vec2> out;
    for (const QString& one : text.split(';', Qt::SkipEmptyParts)) {
        const auto place = place_in(one.trimmed() + ", 0", unit, before, PlaceIn::own_frame);
        if (!place) return Error{"a corner is told by right and up, with ; before the next: 0, 0; 600, 0; 600, 400"};
        out.emplace_back(place->x(), place->y());
    }
    return out;
}

/// The outline of what stands there: by ordinates, by readings, and by its like on the other side.
void add_outline(PieceFields& f, const JobPiece& piece, const job::Job& job) {
    const auto* outline =
        piece.edges.size() == 1 && piece.edges[0].kind == piece::EdgeKind::free && piece.edges[0].closed
            ? &piece.edges[0]
            : nullptr;
    const auto unit = f.document().unit();
    const std::optional<piece::EdgeSpec> shown = outline ? std::optional(*outline) : std::nullopt;
    f.add_text<piece::EdgeSpec>(
        "corners: right, up", outline ? corners_words(*outline, unit) : QString(), "Take down an outline",
        [unit, shown, piece](const QString& text) -> Result<piece::EdgeSpec> {
            const auto corners = corners_in(text, unit, shown ? &*shown : nullptr);
            if (!corners) return corners.error();
            return job::standing_outline(piece, *corners, false);
        },
        [](JobPiece& p, const piece::EdgeSpec& edge) { job::take_outline(p, edge); });
    Document& document = f.document();
    const QString id = f.id();
    QStringList words;
    std::vector<std::pair<std::string, bool>> ways;
    for (const auto& set : job.readings)
        for (const bool mirrored : {false, true}) {
            if (set.readings.size() < 2) continue;
            words << QString::fromStdString(set.name) + (mirrored ? ", and their like on the other side" : "");
            ways.emplace_back(set.id, mirrored);
        }
    if (!words.isEmpty())
        f.add_own({Kind::menu,
                   "Its outline by readings",
                   {},
                   [&document, id, ways](const QVariant& v) {
                       const auto& [set, mirrored] = ways[static_cast<std::size_t>(v.toInt())];
                       const auto* now = document.piece(id);
                       if (!now) return;
                       const auto edge = job::outline_by_readings(document.built(), *now, set, mirrored);
                       if (!edge) return document.note(QString::fromStdString(edge.error().message), {}, true);
                       edit_piece(document, id, "Take down an outline",
                                  [&](JobPiece& p) { job::take_outline(p, *edge); });
                   },
                   words,
                   {}});
    if (!outline) return;
    f.add_own({Kind::button,
               "Add its like on the other side",
               {},
               [&document, id](const QVariant&) {
                   const auto* now = document.piece(id);
                   if (!now || now->edges.size() != 1) return;
                   std::vector<Vec2> corners;
                   for (const auto& p : now->edges[0].line) corners.push_back(p.at);
                   const auto edge = job::standing_outline(*now, corners, true);
                   if (!edge) return document.note(QString::fromStdString(edge.error().message), {}, true);
                   edit_piece(document, id, "Mirror an outline", [&](JobPiece& p) { job::take_outline(p, *edge); });
               },
               {},
               {}});
}

/// The thin sheet that a trial pattern is cut from.
void add_trial_pattern(PieceFields& f, const JobPiece& piece, const job::Job& job) {
    QStringList names{"none"};
    std::vector<std::string> ids{{}};
    int now = 0;
    for (const auto& m : job.materials) {
        if (m.id == piece.pattern_material) now = static_cast<int>(ids.size());
        ids.push_back(m.id);
        names << QString::fromStdString(m.name);
    }
    f.add(
        Kind::choice, "trial pattern out of", now, "Say what a trial pattern is cut from",
        [ids](JobPiece& p, const QVariant& v) {
            p.pattern_material = ids[static_cast<std::size_t>(std::max(0, v.toInt()))];
        },
        names);
}

}  // namespace

/// "there: stays" for what is not new.
QStringList role_choices() {
    QStringList out;
    for (const auto& words : piece::role_words)
        out << (out.isEmpty() ? QString("new: to be made") : QString("there: %1").arg(words.brief));
    return out;
}

void add_from_mark(PieceFields& f, const JobPiece& piece, const job::Job& job) {
    if (!piece.from_mark) {
        QStringList words;
        for (const auto& m : job.marks) words << QString::fromStdString(m.id + "  " + m.name);
        if (words.isEmpty() || std::abs(piece.plane.normal.z()) > 0.7) return;
        const double apart = units::in_inches(job.unit) ? 12 * units::mm_per_inch : 300;
        f.add(
            Kind::menu, "Tell it by two offsets from a mark", {}, "Tell a face by two offsets",
            [marks = job.marks, plane = piece.plane, apart](JobPiece& p, const QVariant& v) {
                p.from_mark = job::offsets_now(plane, marks[static_cast<std::size_t>(v.toInt())], apart);
                p.beside.reset(), p.through.clear();
            },
            words);
        return;
    }
    const piece::FromMark& from = *piece.from_mark;
    f.heading("By two offsets from mark " + QString::fromStdString(from.mark_id));
    const auto length = [&](const QString& label, double value, double piece::FromMark::*member) {
        f.add(Kind::length, label, value, "Change an offset", [member](JobPiece& p, const QVariant& v) {
            if (p.from_mark) (*p.from_mark).*member = v.toDouble();
        });
    };
    const QString aside = from.along ? "forward of the mark" : "to port of the mark",
                  off = from.along ? "to port of it" : "forward of it";
    length("first, " + aside, from.first_aside_mm, &piece::FromMark::first_aside_mm);
    length("there it stands " + off, from.first_mm, &piece::FromMark::first_mm);
    length("second, " + aside, from.second_aside_mm, &piece::FromMark::second_aside_mm);
    length("here it stands " + off, from.second_mm, &piece::FromMark::second_mm);
    f.add(Kind::button, "Tell its place otherwise", {}, "Tell a face's place otherwise",
          [plane = piece.plane](JobPiece& p, const QVariant&) { p.from_mark.reset(), p.plane = plane; });
}

void add_role(PieceFields& f, const JobPiece& piece, const job::Job& job) {
    f.heading("What becomes of it");
    f.add(
        Kind::choice, "it is", static_cast<int>(piece.role), "Say what becomes of a piece",
        [](JobPiece& p, const QVariant& v) { p.role = static_cast<piece::Role>(v.toInt()); }, role_choices());
    if (!piece::is_in_finished(piece.role)) {
        QStringList names{"nothing: it comes out first"};
        std::vector<std::string> ids{{}};
        int now = 0;
        for (const auto& other : job.pieces) {
            if (!piece::is_made(other.role)) continue;
            if (other.id == piece.until) now = static_cast<int>(ids.size());
            ids.push_back(other.id);
            names << QString::fromStdString(other.name);
        }
        f.add(
            Kind::choice, "stands until fixed is", now, "Say how long a piece stands",
            [ids](JobPiece& p, const QVariant& v) {
                p.until = ids[static_cast<std::size_t>(std::max(0, v.toInt()))];
            },
            names);
    }
    if (piece.role == piece::Role::goes_back)
        f.add(Kind::text, "before it goes back", QString::fromStdString(piece.finishing), "Say what a piece needs",
              [](JobPiece& p, const QVariant& v) { p.finishing = v.toString().toStdString(); });
    if (piece::is_made(piece.role)) add_trial_pattern(f, piece, job);
    else if (!job::unit_of(f.document().job(), piece.id)) add_outline(f, piece, job);
    f.add(
        Kind::length, "thickness measured, 0 not yet", piece.measured_mm, "Measure a piece's thickness",
        [](JobPiece& p, const QVariant& v) { p.measured_mm = v.toDouble(); }, {}, units::range::core.least,
        units::range::core.most);
    if (std::abs(piece.plane.normal.z()) > 0.9)
        f.add(
            Kind::length, "bedding under it", piece.bedding_mm, "Change the bedding",
            [](JobPiece& p, const QVariant& v) { p.bedding_mm = v.toDouble(); }, {}, units::range::film.least,
            units::range::film.most);
}

void add_layup(PieceFields& f, const JobPiece& piece) {
    f.add(
        Kind::number, "sheets glued on each other", piece.sheets_thick, "Build a piece up of sheets",
        [](JobPiece& p, const QVariant& v) { p.sheets_thick = static_cast<int>(std::lround(v.toDouble())); }, {},
        units::range::sheets_thick.least, units::range::sheets_thick.most);
    add_plies(f, "face A", piece.layup.face_a, &stock::Layup::face_a);
    add_plies(f, "face B", piece.layup.face_b, &stock::Layup::face_b);
    f.add(Kind::choice, "its core at the edges", static_cast<int>(piece.layup.edges), "Say how edges are closed",
          [](JobPiece& p, const QVariant& v) { p.layup.edges = static_cast<stock::EdgeClosing>(v.toInt()); },
          {"left as cut", "closed with solid wood", "dug out and filled", "wrapped by the plies"});
    f.heading("Coverings, still to come or there");
    add_covering(f, "face A", piece.covering_a_mm, &JobPiece::covering_a_mm, piece.layup.covering_a,
                 &stock::Layup::covering_a);
    add_covering(f, "face B", piece.covering_b_mm, &JobPiece::covering_b_mm, piece.layup.covering_b,
                 &stock::Layup::covering_b);
}

}  // namespace bevelsmith::app

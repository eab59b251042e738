// What becomes of a piece, how it is made up, and the patterns of holes that lie on it.
#include <algorithm>
#include <cmath>
#include <string_view>

#include "app/pieces/field_maker.h"
#include "app/widgets/place_text.h"
#include "job/in_full.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobPiece;
using Face = std::vector<stock::Plies> stock::Layup::*;

const QStringList role_words{"new: to be made", "stands there, stays", "stands there, comes out",
                             "taken out, goes back", "stands there, is replaced"};
constexpr const char* hole_kinds[] = {"plain", "countersunk", "tapped", "insert"};

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

QString holes_words(const std::vector<piece::Hole>& holes, units::LengthUnit unit) {
    QStringList out;
    for (const auto& h : holes)
        out << place_words({h.at.x(), h.at.y(), h.diameter_mm}, unit, PlaceIn::own_frame) +
                   (h.kind == piece::HoleKind::plain ? QString()
                                                     : QString(" ") + hole_kinds[static_cast<int>(h.kind)]);
    return out.join("; ");
}

Result<piece::Hole> hole_in(QString text, units::LengthUnit unit, const std::vector<Vec3>& before) {
    piece::Hole out;
    text = text.trimmed();
    for (int k = 0; k < 4; ++k)
        if (text.endsWith(hole_kinds[k])) {
            out.kind = static_cast<piece::HoleKind>(k);
            text.chop(static_cast<int>(std::string_view(hole_kinds[k]).size()));
        }
    const auto three = place_in(text.trimmed(), unit, before, PlaceIn::own_frame);
    if (!three)
        return Error{"a hole is told by along, beside and its diameter, then plain, countersunk, tapped or insert: " +
                     three.error().message};
    if (!units::range::drill.holds(three->z())) return Error{units::out_of_range(units::range::drill, three->z())};
    out.at = {three->x(), three->y()};
    out.diameter_mm = three->z();
    return out;
}

Result<std::vector<piece::Hole>> holes_in(const QString& text, units::LengthUnit unit,
                                          const std::vector<piece::Hole>& shown) {
    std::vector<Vec3> before;
    for (const auto& h : shown) before.emplace_back(h.at.x(), h.at.y(), h.diameter_mm);
    std::vector<piece::Hole> out;
    for (const QString& one : text.split(';', Qt::SkipEmptyParts)) {
        const auto hole = hole_in(one, unit, before);
        if (!hole) return Error{hole.error().message};
        out.push_back(*hole);
    }
    if (out.empty()) return Error{"a pattern has one hole at least"};
    if (out.size() > units::limit::pattern_holes.most)
        return Error{units::too_many(units::limit::pattern_holes, out.size())};
    return out;
}

void change_pattern(Document& document, const std::string& id, const QString& what,
                    const std::function<void(job::JobPattern&)>& change) {
    document.edit(what, [&](job::Job& job) {
        for (auto& one : job.patterns)
            if (one.id == id) change(one);
    });
}

/// The pattern itself, wherever it lies.
void add_holes(PieceFields& f, const job::JobPattern& named) {
    Document& document = f.document();
    const std::string id = named.id;
    f.add_own({Kind::text,
               "pattern",
               QString::fromStdString(named.name),
               [&document, id](const QVariant& v) {
                   change_pattern(document, id, "Rename a pattern",
                                  [&](auto& one) { one.name = v.toString().toStdString(); });
               },
               {},
               {}});
    f.add_own({Kind::text,
               "known from",
               QString::fromStdString(named.from),
               [&document, id](const QVariant& v) {
                   change_pattern(document, id, "Say where a pattern is known from",
                                  [&](auto& one) { one.from = v.toString().toStdString(); });
               },
               {},
               {}});
    const auto unit = document.unit();
    FormField holes{Kind::text,
                    "holes (along, beside, wide; …)",
                    holes_words(named.holes, unit),
                    [&document, id, unit, shown = named.holes](const QVariant& v) {
                        if (const auto read = holes_in(v.toString(), unit, shown))
                            change_pattern(document, id, "Change a pattern", [&](auto& one) { one.holes = *read; });
                    },
                    {},
                    {}};
    holes.check = [unit, shown = named.holes](const QString& text) {
        const auto read = holes_in(text, unit, shown);
        return read ? QString() : QString::fromStdString(read.error().message);
    };
    f.add_own(std::move(holes));
}

}  // namespace

void add_role(PieceFields& f, const JobPiece& piece, const job::Job& job) {
    f.heading("What becomes of it");
    f.add(
        Kind::choice, "it is", static_cast<int>(piece.role), "Say what becomes of a piece",
        [](JobPiece& p, const QVariant& v) { p.role = static_cast<piece::Role>(v.toInt()); }, role_words);
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

void add_pattern(PieceFields& f, const JobPiece& piece, std::size_t i, const job::Job& job) {
    if (i >= piece.patterns.size()) return;
    const auto& on = piece.patterns[i];
    const auto named =
        std::find_if(job.patterns.begin(), job.patterns.end(), [&](const auto& p) { return p.id == on.pattern_id; });
    if (named != job.patterns.end()) add_holes(f, *named);
    const auto change = [&](Kind kind, const QString& label, const QVariant& value, auto set,
                            double least = units::range::place.least, double most = units::range::place.most) {
        f.add(
            kind, label, value, "Move a pattern",
            [i, set](JobPiece& p, const QVariant& v) {
                if (i < p.patterns.size()) set(p.patterns[i], v);
            },
            {}, least, most);
    };
    change(Kind::length, "its datum begins, right", on.at.x(),
           [](piece::PatternOn& one, const QVariant& v) { one.at.x() = v.toDouble(); });
    change(Kind::length, "its datum begins, up", on.at.y(),
           [](piece::PatternOn& one, const QVariant& v) { one.at.y() = v.toDouble(); });
    change(
        Kind::degrees, "turned", on.turn_deg,
        [](piece::PatternOn& one, const QVariant& v) { one.turn_deg = v.toDouble(); }, -360, 360);
    change(Kind::toggle, "the other hand", on.mirrored,
           [](piece::PatternOn& one, const QVariant& v) { one.mirrored = v.toBool(); });
    f.add(Kind::button, "Remove it from this piece", {}, "Remove a pattern", [i](JobPiece& p, const QVariant&) {
        if (i < p.patterns.size()) p.patterns.erase(p.patterns.begin() + static_cast<std::ptrdiff_t>(i));
    });
}

void add_new_pattern(PieceFields& f, const JobPiece&, const job::PieceResult* result, const job::Job& job) {
    QStringList words;
    std::vector<std::string> ids;
    for (const auto& p : job.patterns) words << QString::fromStdString(p.name), ids.push_back(p.id);
    words << "A new one, two holes to begin with";
    ids.emplace_back();
    const Vec2 middle = result && result->shape() ? geometry::centroid(result->shape()->face_a) : Vec2(0, 0);
    Document& document = f.document();
    const QString piece_id = f.id();
    f.add_own({Kind::menu,
               "Pattern of holes",
               {},
               [&document, piece_id, ids, middle](const QVariant& v) {
                   std::string id = ids[static_cast<std::size_t>(v.toInt())];
                   document.edit("Lay a pattern of holes on a piece", [&](job::Job& one) {
                       if (id.empty()) {
                           std::vector<std::string> taken;
                           for (const auto& p : one.patterns) taken.push_back(p.id);
                           id = job::free_id("H", taken);
                           auto& made = one.patterns.emplace_back();
                           made.id = id, made.name = "Holes " + id, made.from = "typed";
                           made.holes = {{{0, 0}, 5, piece::HoleKind::plain}, {{100, 0}, 5, piece::HoleKind::plain}};
                       }
                       job::change_piece(one, piece_id.toStdString(), [&](JobPiece& p) {
                           if (p.patterns.size() < units::limit::piece_patterns.most)
                               p.patterns.push_back({id, {std::round(middle.x()), std::round(middle.y())}, 0, false});
                       });
                   });
               },
               words,
               {}});
}

}  // namespace bevelsmith::app

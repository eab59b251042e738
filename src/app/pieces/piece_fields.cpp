#include "app/pieces/piece_fields.h"

#include <QRegularExpression>
#include <algorithm>
#include <cmath>
#include <optional>

#include "app/pieces/field_maker.h"
#include "app/pieces/unit_fields.h"
#include "app/widgets/step.h"
#include "job/in_full.h"
#include "job/measured_places.h"
#include "job/starting_piece.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobPiece;

using Fields = PieceFields;

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
    const char* at[] = {"face A at, fwd", "face A at, off centre", "face A at, up", "face A at"};
    f.add(Kind::length, at[stand.family], geometry::place_mm(piece.plane), "Move a piece",
          [](JobPiece& p, const QVariant& v) { p.plane = geometry::placed_at(p.plane, v.toDouble()); });
    if (stand.family < 3) f.out.back().way = units::boat_ways[stand.family];
    if (stand.family < 3)
        f.add(
            Kind::degrees, "leans", stand.lean_deg, "Lean a piece",
            [stand](JobPiece& p, const QVariant& v) {
                p.plane.normal = normal_of(stand.family, v.toDouble(), stand.turned);
            },
            {}, -45, 45);
}

/// Parallel to another piece, face to face at a distance: as far as it stands from it now, where it is parallel.
void add_beside(Fields& f, const JobPiece& piece, const job::Job& job) {
    QStringList words{"nothing"};
    std::vector<piece::Beside> choices{{}};
    int now = 0;
    const double own = job::thickness_of(job, piece);
    for (const auto& other : job.pieces) {
        if (other.id == piece.id || (other.beside && other.beside->piece_id == piece.id)) continue;
        const auto n = job::neighbour_of(job, other);
        constexpr double usual_mm = 300;
        double distance = usual_mm;
        if (std::abs(n.plane.normal.dot(piece.plane.normal)) > 0.999) {
            const double at = n.plane.normal.dot(piece.plane.normal) * piece.plane.d_mm - n.plane.d_mm;
            distance = at >= 0 ? at - n.thickness_mm - n.covering_b_mm : at + n.covering_a_mm + own;
        }
        if (piece.beside && piece.beside->piece_id == other.id) now = static_cast<int>(choices.size());
        choices.push_back({other.id, distance});
        words << QString::fromStdString(other.name);
    }
    f.add(
        Kind::choice, "parallel to", now, "Stand a piece beside another",
        [choices](JobPiece& p, const QVariant& v) {
            const auto k = static_cast<std::size_t>(std::max(0, v.toInt()));
            if (k == 0) p.beside.reset();
            else p.beside = choices[k];
        },
        words);
    if (piece.beside)
        f.add(Kind::length, "from face to face", piece.beside->distance_mm, "Move a piece beside another",
              [](JobPiece& p, const QVariant& v) {
                  if (p.beside) p.beside->distance_mm = v.toDouble();
              });
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
    f.add(
        Kind::number, "identical copies", piece.copies, "Change the copies",
        [](JobPiece& p, const QVariant& v) { p.copies = static_cast<int>(std::lround(v.toDouble())); }, {},
        units::range::copies.least, units::range::copies.most);
    f.add(Kind::toggle, "scarf it for the way in and the sheet", piece.split_for_passage, "Change splitting",
          [](JobPiece& p, const QVariant& v) { p.split_for_passage = v.toBool(); });
}

/// Ids of three marks, or of a set of readings, that the plane goes through.
void add_through(Fields& f, const JobPiece& piece) {
    QStringList ids;
    for (const auto& id : piece.through) ids << QString::fromStdString(id);
    struct Through {
        std::vector<std::string> ids;
        std::optional<geometry::Plane> plane;  ///< none where the ids are taken away
    };
    const auto read = [&document = f.document(),
                       normal = piece.plane.normal](const QString& text) -> Result<Through> {
        Through out;
        for (const QString& id : text.split(QRegularExpression("[;, ]+"), Qt::SkipEmptyParts))
            out.ids.push_back(id.toStdString());
        if (out.ids.empty()) return out;
        const auto plane = job::plane_through(document.job(), out.ids, normal);
        if (!plane) return Error{plane.error().message + " (ids with ; between: M1; M2; M3)"};
        out.plane = *plane;
        return out;
    };
    f.add_text<Through>("through marks or set", ids.join("; "), "Put a plane through marks", read,
                        [](JobPiece& p, const Through& through) {
                            p.through = through.ids;
                            if (through.plane) p.plane = *through.plane;
                        });
}

void add_state(Fields& f, const JobPiece& piece) {
    f.add(Kind::choice, "state",
          static_cast<int>(std::find(std::begin(job::piece_stages), std::end(job::piece_stages), piece.stage) -
                           std::begin(job::piece_stages)),
          "Change a piece's state", [](JobPiece& p, const QVariant& v) { p.stage = job::piece_stages[v.toInt()]; },
          {"planned", "measured", "trial pattern cut", "cut", "tried", "finished", "fixed"});
}

/// A piece set up where nobody has read the hull says so at once.
void offer_mirrored_start(Document& document, const std::string& id) {
    const auto* piece = job::find_piece(document.built(), id);
    const std::string surface = piece ? job::unread_side(document.built(), *piece) : std::string();
    if (surface.empty()) return;
    const job::Mending start{job::Mending::Kind::mirrored_start, id, surface};
    document.note(
        QString("Nobody has read the hull on the side where %1 stands. The other side's readings, mirrored, "
                "will do for a start; its facts then name the spots to check.")
            .arg(QString::fromStdString(piece->name)),
        {{QString::fromStdString(job::words(start, document.built())), [&document, start] { document.mend(start); }}},
        true);
}

/// Another one along the boat, and the other hand.
void add_copies(Fields& f, Document& document, const QString& id) {
    const auto button = [&](const QString& label, const QString& what, auto make) {
        f.add_own({Kind::button,
                   label,
                   {},
                   [&document, id, what, make](const QVariant&) {
                       std::string made;
                       document.edit(what, [&](job::Job& job) { made = make(job, id.toStdString()); });
                       if (made.empty()) return;
                       document.select_piece(QString::fromStdString(made));
                       offer_mirrored_start(document, made);
                   },
                   {},
                   {}});
    };
    button("Copy it", "Copy a piece", [](job::Job& job, const std::string& one) {
        constexpr double steps = 10;
        return job::copy_piece(job, one, steps * job::step_mm(job));
    });
    const auto* result = document.computed()->results.piece(id.toStdString());
    const auto middle = result ? result->middle() : std::nullopt;
    button("Its like on the other side", "Mirror a piece", [middle](job::Job& job, const std::string& one) {
        const std::string made = job::mirror_piece(job, one);
        // Where it stands is told by its original, until it has an outline of its own.
        if (auto* piece = job::find_plain_piece(job, made); piece && middle && !piece->at)
            piece->at = middle->cwiseProduct(Vec3(1, -1, 1));
        return made;
    });
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

}  // namespace

std::vector<FormField> piece_fields(Document& document, const QString& id, const Facet& facet) {
    const auto* piece = document.piece(id);
    if (!piece) return {};
    using K = Facet::Kind;
    Fields f(document, id);
    const bool of_unit = job::unit_of(document.job(), piece->id) != nullptr;
    switch (facet.kind) {
        case K::unit: return unit_fields(document, job::unit_of(document.job(), piece->id));
        case K::raised: return raised_fields(document, job::unit_of(document.job(), piece->id));
        case K::piece:
            f.add(Kind::text, "name", QString::fromStdString(piece->name), "Rename a piece",
                  [](JobPiece& p, const QVariant& v) { p.name = v.toString().toStdString(); });
            f.add(Kind::text, "place in the boat", QString::fromStdString(piece->place),
                  "Move a piece to another place",
                  [](JobPiece& p, const QVariant& v) { p.place = v.toString().toStdString(); });
            // Where a unit's panel stands follows from the unit.
            if (!of_unit) {
                const bool own = piece->through.empty() && !piece->from_mark;
                if (own && !piece->beside) add_stand(f, *piece);
                if (own && document.built().pieces.size() > 1) add_beside(f, *piece, document.built());
                // Offered where there is something to go through.
                const auto& job = document.job();
                if (piece->through.empty() && !piece->beside) add_from_mark(f, *piece, job);
                if (piece->from_mark) {
                } else if (!piece->through.empty() || job.marks.size() >= 3 ||
                           std::any_of(job.readings.begin(), job.readings.end(),
                                       [](const auto& set) { return set.school == survey::School::traced; }))
                    add_through(f, *piece);
            }
            add_state(f, *piece);
            if (!of_unit) {
                add_copies(f, document, id);
                add_removal(f, document, id);
            }
            break;
        case K::making:
            add_making(f, *piece, document.built());
            add_role(f, *piece, document.built());
            break;
        case K::layup: add_layup(f, *piece); break;
        case K::pattern: add_pattern(f, *piece, facet.index, document.built()); break;
        case K::edge: add_edge(f, *piece, facet.index); break;
        case K::opening: add_opening(f, *piece, facet.index); break;
        case K::limber: add_limber(f, *piece, facet.index); break;
        case K::notch: add_notch(f, *piece, facet.index); break;
        case K::row: add_row(f, *piece, facet.index); break;
        case K::crossing: add_crossing(f, *piece, facet.index, document.built()); break;
        case K::joint: add_joint(f, *piece, facet.index, document.built()); break;
        case K::more: {
            const auto* result = document.computed()->results.piece(piece->id);
            add_new_features(f, *piece, result);
            add_new_pattern(f, *piece, result, document.built());
            add_new_edges(f, *piece, result, document.built());
            break;
        }
    }
    return f.out;
}

}  // namespace bevelsmith::app

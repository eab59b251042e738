// The patterns of holes that lie on a piece.
#include <algorithm>
#include <cmath>
#include <string_view>

#include "app/pieces/field_maker.h"
#include "app/widgets/place_text.h"
#include "job/in_full.h"
#include "job/standing_outline.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;
using job::JobPiece;

constexpr const char* hole_kinds[] = {"plain", "countersunk", "tapped", "insert"};

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

/// The piece that the holes go on into.
void add_mate(PieceFields& f, const piece::PatternOn& on, std::size_t i, const JobPiece& piece, const job::Job& job) {
    QStringList names{"none: through this piece alone"};
    std::vector<std::string> ids{{}};
    int now = 0;
    for (const auto& other : job.pieces) {
        if (other.id == piece.id || std::abs(other.plane.normal.dot(piece.plane.normal)) < 0.999) continue;
        if (other.id == on.mate_id) now = static_cast<int>(ids.size());
        ids.push_back(other.id);
        names << QString::fromStdString(other.name);
    }
    f.add(
        Kind::choice, "they go on into", now, "Let holes go on into another piece",
        [i, ids](JobPiece& p, const QVariant& v) {
            if (i < p.patterns.size()) p.patterns[i].mate_id = ids[static_cast<std::size_t>(std::max(0, v.toInt()))];
        },
        names);
    if (on.mate_id.empty()) return;
    f.add(Kind::choice, "there they are", static_cast<int>(on.mate_kind), "Say how a hole is made in the other piece",
          [i](JobPiece& p, const QVariant& v) {
              if (i < p.patterns.size()) p.patterns[i].mate_kind = static_cast<piece::HoleKind>(v.toInt());
          },
          {"plain", "countersunk", "tapped", "for an insert"});
}

/// A pattern out of a set of readings: the middles of old holes.
void lay_read_pattern(Document& document, const std::string& piece_id, const std::string& set_id) {
    const auto* piece = job::find_piece(document.built(), piece_id);
    if (!piece) return;
    const auto read = job::pattern_by_readings(document.built(), *piece, set_id);
    if (!read) return document.note(QString::fromStdString(read.error().message), {}, true);
    document.edit("Make a pattern of what was read", [&](job::Job& job) {
        std::vector<std::string> taken;
        for (const auto& p : job.patterns) taken.push_back(p.id);
        auto& made = job.patterns.emplace_back();
        made.id = job::free_id("H", taken), made.name = "Holes " + made.id, made.holes = read->holes;
        for (const auto& set : job.readings)
            if (set.id == set_id) made.from = "readings: " + set.name;
        piece::PatternOn on = read->on;
        on.pattern_id = made.id;
        job::change_piece(job, piece_id, [&](JobPiece& p) {
            if (p.patterns.size() < units::limit::piece_patterns.most) p.patterns.push_back(on);
        });
    });
}

}  // namespace

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
    add_mate(f, on, i, piece, job);
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
    const std::size_t own = ids.size();
    for (const auto& set : job.readings) {
        // Of what was read of the hull nobody makes holes.
        if (!set.surface_id.empty() || set.readings.size() < 2 ||
            set.readings.size() > units::limit::pattern_holes.most)
            continue;
        words << "From the readings " + QString::fromStdString(set.name);
        ids.push_back(set.id);
    }
    const Vec2 middle = result && result->shape() ? geometry::centroid(result->shape()->face_a) : Vec2(0, 0);
    Document& document = f.document();
    const QString piece_id = f.id();
    f.add_own(
        {Kind::menu,
         "Pattern of holes",
         {},
         [&document, piece_id, ids, middle, own](const QVariant& v) {
             const auto which = static_cast<std::size_t>(v.toInt());
             std::string id = ids[which];
             if (which >= own) return lay_read_pattern(document, piece_id.toStdString(), id);
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
                         p.patterns.push_back({id, {std::round(middle.x()), std::round(middle.y())}, 0, false, {}});
                 });
             });
         },
         words,
         {}});
}

}  // namespace bevelsmith::app

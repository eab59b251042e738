#include "app/pieces/piece_words.h"

#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "job/joints_wanted.h"
#include "job/layup_work.h"
#include "job/packing.h"
#include "piece/joints.h"
#include "piece/lid.h"
#include "piece/relief.h"

namespace bevelsmith::app {

QString PieceWords::raised_words() const {
    const auto* unit = job::unit_of(document_.job(), document_.selected_piece().toStdString());
    const bool stands = unit && document_.piece(QString::fromStdString(unit->id + ".raised top"));
    if (unit && unit->raised_by_mm > 0 && !stands)
        return "With these numbers it does not stand: it lies between the sole's ends, is longer and wider "
               "than its sides are thick together, and rises by more than its top and " +
               document_.length(furniture::least_raised_side_mm) + ".";
    return "Where machinery stands higher than the sole, a part of it is raised: sides on the sole, a top that "
           "lifts off, beams that end beside it.";
}

QString PieceWords::carried_words(const piece::BearingReport& bearing) const {
    if (bearing.lines.empty()) return "Nothing carries it.";
    QStringList by;
    for (const auto& line : bearing.lines)
        if (const QString what =
                QString("%1 (%2 wide)").arg(QString::fromStdString(line.what), document_.length(line.width_mm));
            !by.contains(what))
            by << what;
    const double least = document_.job().comfort.bearing_mm;
    for (const auto& line : bearing.lines)
        if (line.edge >= 0 && line.width_mm < least - 0.05)
            by << QString("%1 want to be %2 wide")
                      .arg(QString::fromStdString(line.what),
                           document_.length(document_.job().fixing_rules.block_width_mm + least - line.width_mm));
    constexpr int named = 3;
    const QString more = by.size() > named ? QString(" and %1 more").arg(by.size() - named) : QString();
    return QString("carried by %1%2; clear span %3")
        .arg(QStringList(by.mid(0, named)).join(", "), more, document_.length(bearing.span_mm));
}

QStringList PieceWords::level_words(const job::JobPiece& piece, const piece::Outline& shape) const {
    const auto stack = piece::stack_of(piece, shape);
    if (!stack) return {};
    QString out = QString("finished level %1 up; top of its bearers %2 up")
                      .arg(document_.length(stack->finished_up_mm), document_.length(stack->bearer_up_mm));
    const auto& marks = document_.job().marks;
    const auto near = std::min_element(marks.begin(), marks.end(), [&](const auto& a, const auto& b) {
        return std::abs(a.position.z() - stack->bearer_up_mm) < std::abs(b.position.z() - stack->bearer_up_mm);
    });
    if (near != marks.end()) {
        const double over = stack->bearer_up_mm - near->position.z();
        out += QString(", %1 %2 mark %3")
                   .arg(document_.length(std::abs(over)), over >= 0 ? "over" : "under",
                        QString::fromStdString(near->id));
    }
    QStringList all{out};
    for (const auto& p : job::packing_under(document_.computed()->job, piece, shape)) {
        QStringList packers;
        for (const double t : p.packing.pieces_mm) packers << document_.length(t);
        all << QString("on %1: pack %2 with %3, %4 left")
                   .arg(QString::fromStdString(p.name), document_.length(p.gap_mm),
                        packers.isEmpty() ? QString("nothing in stock") : packers.join(" + "),
                        document_.length(p.packing.left_mm));
    }
    return all;
}

QStringList PieceWords::layup_words(const job::JobPiece& piece, const piece::Outline& shape) const {
    const double m2 = (geometry::area_mm2(shape.face_a) + geometry::area_mm2(shape.face_b)) / 2e6;
    const double kg_m2 = job::mass_kg_m2(document_.computed()->job, piece);
    const auto a = stock::skin_of(piece.layup.face_a), b = stock::skin_of(piece.layup.face_b);
    QStringList out{QString("%1 thick%2; %3 bare, coats and fixing on top")
                        .arg(document_.length(shape.thickness_mm),
                             piece.measured_mm > 0 ? QString(", as measured") : QString(),
                             document_.mass(kg_m2 * m2))};
    const auto work = job::layup_work(document_.computed()->job, piece, shape);
    if (work.plies > 0) {
        out << QString("cloth %1, resin %2 with waste")
                   .arg(document_.mass(work.glass_kg), document_.mass(work.resin_kg));
        QStringList cuts;
        for (const auto& c : work.cuts)
            cuts << QString("%1 of %2 g/m² %3, %4 × %5")
                        .arg(c.count)
                        .arg(c.glass.mass_g_m2, 0, 'f', 0)
                        .arg(stock::glass_name(c.glass.kind), document_.length(c.wide_mm),
                             document_.length(c.long_mm));
        out << "cut off the roll: " + cuts.join("; ");
        out << QString("about %1 h of hands; %2 h of cure, %3, before it is cut")
                   .arg(work.hours, 0, 'f', 1)
                   .arg(work.cure_h, 0, 'f', 0)
                   .arg(work.faces == 2 ? "one face after the other" : "one face");
    }
    if (piece.sheets_thick > 1) out << QString("glued up of %1 sheets, then cut as one").arg(piece.sheets_thick);
    if (a.mass_kg_m2() + b.mass_kg_m2() > 0)
        out << "It takes the shape of the bench it is made on: that has to be flat, and both skins alike.";
    return out;
}

QString PieceWords::relief_words(const job::JobPiece& piece, const piece::Outline& shape, std::size_t index) const {
    double most_a = 0, most_b = 0;
    for (const auto& relief : piece::reliefs_of(piece, shape))
        if (relief.edge == static_cast<int>(index)) {
            double& most = relief.face == piece::Face::a ? most_a : most_b;
            most = std::max(most, relief.most_mm);
        }
    if (most_a <= 0 && most_b <= 0) return {};
    return QString(
               "for the fillet take %1 off the arris of face A, %2 off that of face B, as far as the dotted "
               "lines")
        .arg(document_.length(most_a), document_.length(most_b));
}

QString PieceWords::division_words(const std::string& id) const {
    const auto computed = document_.computed();
    const auto wanted = job::joints_wanted(computed->job, computed->results, id);
    if (wanted.joints.empty()) return {};
    QStringList at;
    for (const auto& joint : wanted.joints)
        at << QString("%1 at %2").arg(piece::joint_word(joint.kind), document_.length(joint.at_mm));
    QStringList over;
    for (const auto& name : wanted.over) over << QString::fromStdString(name);
    return QString("Whole it %1. Proposed: %2%3.")
        .arg(!wanted.for_passage ? "is larger than its sheet"
             : !wanted.for_sheet ? "will not pass into the boat"
                                 : "is larger than its sheet, and will not pass into the boat",
             at.join(", "), over.isEmpty() ? QString() : " (" + over.join(", ") + ")");
}

QString PieceWords::crossing_words(const piece::Outline& shape, std::size_t index) const {
    double bevel = 0;
    bool cut = false;
    const auto take = [&](double rad) { bevel = std::max(bevel, std::abs(rad)), cut = true; };
    for (const auto& wall : shape.slot_walls)
        if (wall.crossing == static_cast<int>(index)) take(wall.bevel_rad);
    for (const auto& edge : shape.edges_a)
        if (edge.source == piece::EdgeSource::crossing && edge.spec == static_cast<int>(index)) take(edge.bevel_rad);
    if (!cut) return "The two do not meet: nothing is cut.";
    return bevel < units::radians(0.05)
               ? QString("Its walls are sawn square.")
               : QString("Its walls are sawn at %1, both leaning the same way; both faces are exact.")
                     .arg(QString::fromStdString(units::format_angle(bevel)));
}

QStringList PieceWords::doorway_words(const std::string& id) const {
    QStringList out;
    for (const auto& [piece, room] : document_.computed()->results.doorways)
        if (piece == id)
            out << QString("%1 %2%3").arg(QString::fromStdString(room.name), document_.length(room.mm),
                                          room.enough() ? QString() : ", wanted " + document_.length(room.wanted_mm));
    return out;
}

QString PieceWords::lid_words(const job::JobPiece& piece, std::size_t opening) const {
    if (opening >= piece.openings.size()) return {};
    const auto& o = piece.openings[opening];
    const auto& job = document_.job();
    if (o.lid == piece::LidFrom::the_sheet)
        return "Its lid is laid out on the sheets as a part of its own, smaller by clearance and coats.";
    if (o.lid != piece::LidFrom::own_opening) return {};
    const double kerf = job.cutting.tool == job::Tool::router ? job.cutting.cutter_mm : job.cutting.kerf_mm;
    const auto lid = piece::own_lid(o.lid_clearance_mm, kerf, job.coating.film_mm);
    return QString(
               "Cut along the line: the saw takes %1, coats on both edges give back %2; plane %3 a side off the lid.")
        .arg(document_.fine(lid.saw_mm), document_.fine(lid.coats_mm), document_.fine(std::max(0.0, lid.planed_mm)));
}

}  // namespace bevelsmith::app

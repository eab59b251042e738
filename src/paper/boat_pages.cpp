#include "paper/boat_pages.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>

#include "job/offering_up.h"
#include "paper/fonts.h"
#include "paper/html_page.h"
#include "paper/ties_table.h"
#include "piece/fitting.h"
#include "piece/put_back.h"
#include "piece/role_words.h"
#include "units/places.h"

namespace bevelsmith::paper {
namespace {

constexpr int sketch_w = 1500, sketch_h = 900;
constexpr double sketch_pad = 90;

/// A picture of the piece's face A with numbered places on it, as an image within the page.
class Sketch {
  public:
    /// `beside` is left at either side: for words.
    explicit Sketch(const piece::Outline& shape, double beside = sketch_pad)
        : shape_(shape), image_(sketch_w, sketch_h, QImage::Format_RGB32) {
        image_.fill(Qt::white);
        const auto box = geometry::bounding_box(shape.face_a.outer);
        scale_ = std::min((sketch_w - 2 * beside) / box.width(), (sketch_h - 2 * sketch_pad) / box.height());
        middle_ = box.centre();
        painter_.begin(&image_);
        painter_.setRenderHint(QPainter::Antialiasing);
        QFont font(bundled_family());
        font.setPixelSize(24);
        painter_.setFont(font);
        QPainterPath path;
        for (const auto* ring : {&shape.face_a.outer}) {
            QPolygonF polygon;
            for (const Vec2& p : *ring) polygon << at(p);
            path.addPolygon(polygon);
            path.closeSubpath();
        }
        painter_.setPen(QPen(Qt::black, 3));
        painter_.drawPath(path);
    }
    QPointF at(const Vec2& p) const {
        return {sketch_w / 2.0 + (p.x() - middle_.x()) * scale_, sketch_h / 2.0 - (p.y() - middle_.y()) * scale_};
    }
    /// Away from the piece's middle; a number that would lie over the one before is left out.
    void number(const Vec3& place, int number) {
        const Vec2 p = shape_.frame.to_plane(place);
        const Vec2 away = (p - middle_).normalized();
        const QPointF where = at(p) + QPointF(34 * away.x(), -34 * away.y());
        painter_.setPen(QPen(Qt::black, 2));
        painter_.drawEllipse(at(p), 4, 4);
        for (const QPointF& other : taken_)
            if (std::hypot(where.x() - other.x(), where.y() - other.y()) < 34) return;
        taken_.push_back(where);
        painter_.drawText(QRectF(where.x() - 40, where.y() - 18, 80, 36), Qt::AlignCenter, QString::number(number));
    }
    /// A word for a place, away from the middle.
    void name(const Vec3& place, const QString& word) {
        const Vec2 p = shape_.frame.to_plane(place), away = (p - middle_).normalized();
        painter_.setPen(QPen(Qt::black, 2));
        painter_.setBrush(Qt::black);
        painter_.drawEllipse(at(p), 4, 4);
        painter_.setBrush(Qt::NoBrush);
        // Beside the place or over it, off the outline, whole, and never over the sketch's rim.
        const double wide = painter_.fontMetrics().horizontalAdvance(word) + 8;
        const double aside = std::abs(away.x()) > 0.35 ? std::copysign(12 + wide / 2, away.x()) : 0;
        const double x = std::clamp(at(p).x() + aside, wide / 2, std::max(wide / 2, sketch_w - wide / 2));
        const double up = aside == 0 ? std::copysign(30.0, away.y()) : 18 * away.y();
        painter_.drawText(QRectF(x - wide / 2, at(p).y() - up - 18, wide, 36), Qt::AlignCenter, word);
    }
    void hole(const Vec2& p, double wide_mm, int number) {
        const double radius = std::max(4.0, wide_mm / 2 * scale_);
        painter_.setPen(QPen(Qt::black, 2));
        painter_.drawEllipse(at(p), radius, radius);
        painter_.drawText(QRectF(at(p).x() + radius + 2, at(p).y() - 30, 60, 30), Qt::AlignLeft | Qt::AlignVCenter,
                          QString::number(number));
    }
    QString html() {
        painter_.end();
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        image_.save(&buffer, "PNG");
        return QString("<p align='center'><img width='520' src='data:image/png;base64,%1'></p>")
            .arg(QString::fromLatin1(bytes.toBase64()));
    }

  private:
    const piece::Outline& shape_;
    QImage image_;
    QPainter painter_;
    double scale_ = 1;
    Vec2 middle_{0, 0};
    std::vector<QPointF> taken_;
};

QString stations_table(const job::Job& job, const piece::AtBoat& at) {
    const bool string = at.reference.kind == piece::Reference::Kind::string;
    QStringList heads{"station", "along what", "face A", "face B", "apart"};
    if (string)
        heads << "along the string, A"
              << "B";
    QString rows = html_row(heads, "th");
    for (const auto& s : at.stations) {
        QStringList cells{QString::number(s.number) + (s.is_corner ? " ●" : ""), html_text(s.edge_name),
                          html_length(job, s.offset_a_mm), html_length(job, s.offset_b_mm),
                          html_length(job, s.apart_mm)};
        if (string) cells << html_length(job, s.string_a_mm) << html_length(job, s.string_b_mm);
        rows += html_row(cells);
    }
    return html_table(rows);
}

QString ties_table(const job::Job& job, const piece::AtBoat& at) {
    QString rows = html_row({"corner, face A", "from mark", "tape"}, "th");
    for (const auto& t : at.ties)
        rows += html_row({"station " + QString::number(t.station), html_text(t.mark_id), html_length(job, t.mm)});
    return html_table(rows);
}

QString diagonals_table(const job::Job& job, const piece::AtBoat& at) {
    QString rows = html_row({"from station", "to station", "tape, face A"}, "th");
    for (const auto& d : at.diagonals)
        rows += html_row({QString::number(d.from), QString::number(d.to), html_length(job, d.mm)});
    return html_table(rows);
}

QString supports_table(const job::Job& job, const piece::AtBoat& at) {
    QString rows = html_row({"top of", "at one end: up", "offset", "at the other: up", "offset"}, "th");
    for (const auto& s : at.supports)
        rows += html_row({html_text(s.what), html_length(job, s.from.z()), html_length(job, s.offset_from_mm),
                          html_length(job, s.to.z()), html_length(job, s.offset_to_mm)});
    return html_table(rows);
}

/// Whose face is which, by the way that they look.
QString faces_words(const piece::Outline& shape) {
    const Vec3 n = shape.frame.normal;
    const auto way = units::way_in_words(n.x(), n.y(), n.z());
    return QString(
               "Face B is the line that lies farther %1; face A the other. Draw both, and mark the side on which "
               "the panel stands with a cross between them.")
        .arg(QString::fromUtf8(way.data(), static_cast<qsizetype>(way.size())));
}

QString title_of(const char* what, const job::Job& job, const job::JobPiece& piece) {
    return QString("<h2>%1 · %2 %3</h2><p>%4</p>")
        .arg(what, html_text(piece.id), html_text(piece.name), html_text(job.name));
}

}  // namespace

Result<bool> write_setting_out(const job::Job& job, const job::JobPiece& piece, const job::PieceResult& result,
                               const piece::AtBoat& at, const std::string& path) {
    const auto* shape = result.shape();
    if (!shape) return Error{"it has no outline yet"};
    QString html = title_of("Set out at the boat", job, piece);
    html += QString("<p>Offsets are taken from <b>%1</b>, square to it. %2</p>")
                .arg(html_text(at.reference.words), faces_words(*shape));
    Sketch sketch(*shape);
    for (const auto& s : at.stations) sketch.number(s.a, s.number);
    html += sketch.html() + stations_table(job, at);
    if (!at.ties.empty()) html += "<h3>Ties</h3>" + ties_table(job, at);
    if (!at.diagonals.empty()) html += "<h3>Diagonals</h3>" + diagonals_table(job, at);
    if (!at.supports.empty())
        html += "<h3>Supports</h3><p>Set both ends, pull a string between them, and bring all others to it.</p>" +
                supports_table(job, at);
    html +=
        "<h3>Prove it before anything is fixed</h3><p>Two people, one tape, no program: the diagonals above agree "
        "within the reading of the tape; both faces' lines are apart by rule what stands under “apart”; each corner "
        "comes out the same from two marks.</p>";
    return write_html(html, "Set out at the boat", path);
}

Result<bool> write_shaving_guide(const job::Job& job, const job::JobPiece& piece, const job::PieceResult& result,
                                 const std::string& path) {
    const auto* shape = result.shape();
    if (!shape) return Error{"it has no outline yet"};
    const auto* entered = job::last_fitting(piece);
    if (!entered) return Error{"it was not offered up yet: say in Pieces what was seen"};
    const auto& last = *entered;
    const auto c = piece::correct(piece, last.offered, *shape, last.readings);
    QString html = title_of(last.of_pattern ? "What the trial pattern told" : "Shaving guide", job, piece);
    for (const auto& words : c.advice) html += "<p>" + html_text(units::in_unit(words, job.unit)) + "</p>";
    if (last.of_pattern)
        html += "<p>The good sheet is cut to the piece's own papers: they are made to the corrected outline.</p>";
    Sketch sketch(*shape);
    QString rows = html_row({"mark", "along the edge", "face A", "face B"}, "th");
    for (const auto& s : c.guide) {
        sketch.number(shape->frame.to_space(s.at), s.number);
        const auto off = [&](double mm) {
            return mm >= 0.05    ? "take off " + html_length(job, mm)
                   : mm <= -0.05 ? "daylight " + html_length(job, -mm)
                                 : QString("fits");
        };
        rows += html_row(
            {QString::number(s.number),
             html_text(piece.edges[static_cast<std::size_t>(s.edge)].name) + " " + html_length(job, s.along_mm),
             off(s.off_a_mm), off(s.off_b_mm)});
    }
    html += sketch.html() + html_table(rows);
    html +=
        "<p>Square to the edge, in the plane of each face; what both faces say together is the new bevel. Dust: "
        "mask and eyes.</p>";
    return write_html(html, "Shaving guide", path);
}

namespace {

/// Its face A with its taped places named and its holes numbered, as it stood.
QString picture_of(const job::JobPiece& piece, const piece::Outline& shape) {
    constexpr double for_words = 270;
    Sketch sketch(shape, for_words);
    for (const auto& corner : piece::taped_places(shape)) sketch.name(corner.at, html_text(corner.name));
    for (const auto& hole : piece.holes) sketch.hole(hole.at, hole.diameter_mm, hole.number);
    return sketch.html();
}

/// "M1: mast step; M2: frame bolt."
QString marks_in_words(const job::Job& job) {
    QStringList out;
    for (const auto& m : job.marks) out << html_text(m.id) + ": " + html_text(m.name);
    return out.isEmpty() ? QString() : "<p>The marks: " + out.join("; ") + ".</p>";
}

QString holes_from_marks(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape) {
    QStringList heads{"hole", "wide"};
    for (const auto& m : job.marks) heads << "from " + html_text(m.id);
    QString rows = html_row(heads, "th");
    for (const auto& hole : piece.holes) {
        QStringList cells{html_text(hole.pattern) + " " + QString::number(hole.number),
                          html_length(job, hole.diameter_mm)};
        for (const auto& m : job.marks)
            cells << html_length(job, (m.position - shape.frame.to_space(hole.at)).norm());
        rows += html_row(cells);
    }
    return html_table(rows);
}

}  // namespace

Result<bool> write_old_state(const job::Job& job, const job::Results& results, const std::string& path) {
    QString html = QString(
                       "<h2>How it stood · %1</h2><p>Taken down before anything is taken out. Distances are by "
                       "tape, from marks that stay.</p>")
                       .arg(html_text(job.name)) +
                   marks_in_words(job);
    bool any = false;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto& piece = job.pieces[i];
        if (piece::is_made(piece.role)) continue;
        // A page each: its heading, picture and figures stay together.
        html += QString("<h3%1>%2 · %3</h3><p>It %4.")
                    .arg(any ? " style=\"page-break-before:always\"" : "", html_text(piece.id), html_text(piece.name),
                         piece::words_of(piece.role).sentence);
        any = true;
        if (const auto* until = job::find_piece(job, piece.until))
            html += QString(" It stands until %1 is fixed.").arg(html_text(until->name));
        if (!piece.finishing.empty()) html += QString(" Before it goes back: %1.").arg(html_text(piece.finishing));
        html += "</p>";
        const auto* shape = results.pieces[i].shape();
        if (!shape) {
            html += "<p>Its outline is not known.</p>";
            continue;
        }
        html += picture_of(piece, *shape);
        if (job.marks.empty()) html += "<p>No marks yet: set three that will survive, in Measure.</p>";
        else html += ties_table(job, *shape);
        if (!piece.holes.empty() && !job.marks.empty())
            html += "<p>Its holes:</p>" + holes_from_marks(job, piece, *shape);
    }
    QString rows = html_row({"what", "becomes", "from", "to", "section"}, "th");
    bool runs = false;
    for (const auto& o : job.obstacles) {
        if (o.path.empty()) continue;
        runs = true;
        const auto place = [&](const Vec3& p) {
            return QString("fwd %1, port %2, up %3")
                .arg(html_length(job, p.x()), html_length(job, p.y()), html_length(job, p.z()));
        };
        rows += html_row({html_text(o.name), o.role == piece::Role::made ? "stays" : piece::words_of(o.role).sentence,
                          place(o.path.front()), place(o.path.back()),
                          html_length(job, o.width_mm) + " × " + html_length(job, o.height_mm)});
    }
    if (runs)
        html += QString("<h3%1>Ledges, rails, pipes</h3>").arg(any ? " style=\"page-break-before:always\"" : "") +
                html_table(rows);
    if (!any && !runs)
        return Error{"nothing is said to stand there yet: say in Pieces what stays, comes out or goes back"};
    return write_html(html, "How it stood", path);
}

}  // namespace bevelsmith::paper

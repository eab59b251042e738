#include "paper/piece_page.h"

#include <algorithm>
#include <cmath>

#include "paper/page.h"
#include "paper/ways.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

using exchange::Drawing;
using geometry::RunKind;

constexpr double edge_mm = 10, head_mm = 15, foot_mm = 27, gutter_mm = 5;
constexpr double row_mm = 4.1, letters_mm = 2.7;

/// 1 to so many.
double scale_for(const geometry::Box& box, const QSizeF& room) {
    const double least = std::max(box.width() / room.width(), box.height() / room.height());
    // The page is filled: nobody scales off a drawing whose figures are written beside it.
    constexpr double fine = 4;
    return std::ceil(std::max(1.0, least) * fine) / fine;
}

/// The drawing on the page, to scale.
class PageDrawing {
  public:
    PageDrawing(Paper& paper, const Drawing& d, const QRectF& within)
        : paper_(paper), d_(d), within_(within), room_(within) {
        geometry::Box box = d.box;
        if (d.cut_differs())
            for (const auto* face : {&d.finished_a, &d.finished_b}) {
                const auto b = geometry::bounding_box(face->outer);
                box = {box.min.cwiseMin(b.min), box.max.cwiseMax(b.max)};
            }
        constexpr double around_w = 25, around_h = 17;
        scale_ = scale_for(box, QSizeF(within.width() - 2 * around_w, within.height() - 2 * around_h));
        const Vec2 middle = box.centre();
        origin_ = within.center() - QPointF(middle.x(), -middle.y()) / scale_;
    }
    double scale() const { return scale_; }

    void draw() {
        draw_grain();
        draw_rows();
        draw_shapes();
        draw_bases();
        take_lines();
        draw_corners();
        draw_sizes();
        draw_openings();
        draw_drilled();
        draw_joints();
        draw_notes();
        draw_names();
        draw_row_figures();
        draw_compass();
    }

  private:
    QPointF at(const Vec2& p) const { return origin_ + QPointF(p.x(), -p.y()) / scale_; }
    Vec2 from_bases(const Vec2& figures) const { return d_.setting_out.place_of(figures); }

    void path(const geometry::Polygon& shape) {
        auto& p = paper_.painter();
        p.save();
        p.translate(origin_);
        QPen pen = p.pen();
        QTransform shrink;
        shrink.scale(1 / scale_, 1 / scale_);
        p.setPen(pen);
        p.drawPath(shrink.map(path_of(shape)));
        p.restore();
    }

    void draw_grain() {
        auto& p = paper_.painter();
        p.save();
        QTransform place;
        place.translate(origin_.x(), origin_.y());
        place.scale(1 / scale_, 1 / scale_);
        p.setClipPath(place.map(path_of(d_.face_a)));
        paper_.pen(0.05, Qt::SolidLine, QColor(200, 200, 200));
        const double k = units::radians(d_.grain_deg), reach = std::hypot(within_.width(), within_.height());
        const QPointF way(std::cos(k), -std::sin(k)), side(way.y(), -way.x());
        constexpr double apart = 9;
        for (double off = -reach; off < reach; off += apart) {
            const QPointF middle = within_.center() + off * side;
            paper_.line(middle - reach * way, middle + reach * way);
        }
        p.restore();
    }

    /// Hairlines at round heights and distances, from the base line to the edge.
    void draw_rows() {
        paper_.pen(0.1, Qt::SolidLine, QColor(130, 130, 130));
        for (const auto& ring : d_.setting_out.rings)
            for (const auto& run : ring.runs)
                for (const auto& row : run.rows)
                    if (row.a) {
                        const bool steep = run.kind == RunKind::steep;
                        const Vec2 to = steep ? Vec2(*row.a, row.at_mm) : Vec2(row.at_mm, *row.a);
                        const Vec2 from = steep ? Vec2(0, row.at_mm) : Vec2(row.at_mm, 0);
                        paper_.line(at(from_bases(from)), at(from_bases(to)));
                    }
    }

    void draw_shapes() {
        if (d_.cut_differs()) {
            paper_.pen(0.2, Qt::DashLine);
            path(d_.finished_a);
        }
        paper_.pen(0.18);
        path(d_.face_b);
        paper_.pen(0.55);
        path(d_.face_a);
        for (const auto& relief : d_.reliefs) {
            paper_.pen(0.15, relief.face == piece::Face::a ? Qt::DotLine : Qt::DashDotDotLine);
            for (std::size_t i = 0; i + 1 < relief.line.size(); ++i)
                paper_.line(at(relief.line[i]), at(relief.line[i + 1]));
        }
    }

    void draw_bases() {
        constexpr double beyond = 6;
        const auto& s = d_.setting_out;
        for (const auto* base : {&s.level, &s.upright}) {
            QPointF a = at(base->from), b = at(base->to);
            const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
            const QPointF way = length > 1e-6 ? (b - a) / length : base == &s.level ? QPointF(1, 0) : QPointF(0, 1);
            // A line that is struck at an edge's end is shown beyond it both ways.
            const double reach = length > 20 ? beyond : 25;
            paper_.pen(0.3, Qt::DashDotLine);
            paper_.line(a - reach * way, b + reach * way);
        }
    }

    void take_lines() {
        const auto take = [&](const geometry::Ring& ring) {
            for (std::size_t i = 0; i < ring.size(); ++i)
                room_.take_line(at(ring[i]), at(ring[(i + 1) % ring.size()]));
        };
        for (const auto* face : {&d_.face_a, &d_.face_b, &d_.finished_a}) {
            take(face->outer);
            for (const auto& hole : face->holes) take(hole);
        }
    }

    /// Words near a place on the side that `outward` names, with a leader where they stand off.
    bool say(const Vec2& near, const Vec2& outward, const QString& words, double size_mm = letters_mm,
             const std::vector<double>& reaches = {3, 6, 10, 15, -4, -8, -13}) {
        const QSizeF size = paper_.extent(size_mm, words) + QSizeF(0.8, 0.2);
        const QPointF out(outward.x(), -outward.y()), along(-out.y(), out.x());
        std::vector<QPointF> places;
        for (double reach : reaches)
            for (double side : {0.0, 5.0, -5.0, 11.0, -11.0, 18.0, -18.0}) {
                const double half = (std::abs(out.x()) * size.width() + std::abs(out.y()) * size.height()) / 2;
                places.push_back(at(near) + (reach + (reach > 0 ? half : -half)) * out + side * along);
            }
        const auto where = room_.find(places, size);
        if (!where) return false;
        paper_.label(*where, size_mm, words);
        paper_.leader(at(near), *where, size, 2.5);
        room_.take_line(at(near), *where);
        return true;
    }

    void draw_corners() {
        for (const auto& ring : d_.setting_out.rings) {
            Vec2 middle(0, 0);
            for (const auto& c : ring.corners)
                middle += (c.a ? *c.a : *c.b) / static_cast<double>(ring.corners.size());
            for (const auto& c : ring.corners) {
                const Vec2 p = from_bases(c.a ? *c.a : *c.b);
                const QPointF here = at(p);
                paper_.painter().setBrush(Qt::black);
                paper_.painter().setPen(Qt::NoPen);
                paper_.painter().drawEllipse(here, 0.6, 0.6);
                Vec2 out = p - from_bases(middle);
                if (&ring != &d_.setting_out.rings.front()) out = -out;
                say(p, out.norm() > 1e-6 ? Vec2(out.normalized()) : Vec2(1, 0), QString::number(c.number), letters_mm,
                    {1.2, 2.5, 4, 6, -1.5, -3});
            }
        }
    }

    void dimension(const QPointF& a, const QPointF& b, double mm) {
        paper_.pen(0.12);
        const QPointF middle = (a + b) / 2;
        paper_.arrow(middle, a);
        paper_.arrow(middle, b);
        const bool upright = std::abs(a.x() - b.x()) < 1e-6;
        const QString words = length(mm, d_.unit);
        paper_.label(middle, letters_mm, words, upright ? -90 : 0, true);
        const QSizeF size = paper_.extent(letters_mm, words, true);
        const QSizeF box = upright ? QSizeF(size.height(), size.width()) : size;
        room_.take(QRectF(middle - QPointF(box.width() / 2, box.height() / 2), box));
        room_.take_line(a, b);
    }

    /// Over all of what is cut: over the drawing, and at its left.
    void draw_sizes() {
        const QPointF low = at(d_.box.min), high = at(d_.box.max);
        const double up = high.y() - 13, left = low.x() - 20;
        paper_.pen(0.1);
        paper_.line({low.x(), up - 1.5}, {low.x(), high.y()});
        paper_.line({high.x(), up - 1.5}, {high.x(), high.y()});
        paper_.line({left - 1.5, low.y()}, {low.x(), low.y()});
        paper_.line({left - 1.5, high.y()}, {low.x(), high.y()});
        dimension({low.x(), up}, {high.x(), up}, d_.box.width());
        dimension({left, low.y()}, {left, high.y()}, d_.box.height());
    }

    /// At round heights or distances what face A measures there and the bevel, and along the base line which they
    /// are: as many as have room beside their line. All of them are in the table.
    void draw_row_figures() {
        constexpr double size_mm = 2.4;
        for (const auto& ring : d_.setting_out.rings)
            for (const auto& run : ring.runs) {
                const bool steep = run.kind == RunKind::steep;
                for (const auto& row : run.rows) {
                    if (!row.a) continue;
                    const Vec2 figures = steep ? Vec2(*row.a, row.at_mm) : Vec2(row.at_mm, *row.a);
                    const Vec2 base = from_bases(steep ? Vec2(0, row.at_mm) : Vec2(row.at_mm, 0)),
                               p = from_bases(figures);
                    const Vec2 out = (p - base).normalized();
                    const QString words =
                        length(*row.a, d_.unit) + (steep ? "  " + bevel_figure(row.bevel_deg) : QString());
                    say_beside(p, out, words, size_mm);
                    say_beside(base, -out, length(row.at_mm, d_.unit), size_mm);
                }
            }
    }

    /// Right beside a place, or not at all.
    void say_beside(const Vec2& near, const Vec2& outward, const QString& words, double size_mm) {
        const QSizeF size = paper_.extent(size_mm, words) + QSizeF(1, 0);
        const QPointF out(outward.x(), -outward.y());
        const double half = (std::abs(out.x()) * size.width() + std::abs(out.y()) * size.height()) / 2;
        if (const auto where = room_.find({at(near) + (1.2 + half) * out}, size))
            paper_.label(*where, size_mm, words);
    }

    void draw_openings() {
        for (const auto& o : d_.setting_out.openings) {
            const Vec2 middle = from_bases(exchange::middle_of(o));
            const double half_w = o.width_mm / 2 / scale_, half_h = (o.round ? o.width_mm : o.height_mm) / 2 / scale_;
            paper_.pen(0.1, Qt::DashDotLine);
            paper_.line(at(middle) - QPointF(half_w + 1.5, 0), at(middle) + QPointF(half_w + 1.5, 0));
            paper_.line(at(middle) - QPointF(0, half_h + 1.5), at(middle) + QPointF(0, half_h + 1.5));
            if (o.round) continue;
            say(middle, {0, 1}, text_of(o.name), letters_mm, {2, 5, 9, 14});
            const std::vector<double> below{2, 5, 8, 11, 14, 18};
            say(middle, {0, -1}, length(o.width_mm, d_.unit) + " wide", letters_mm, below);
            say(middle, {0, -1}, length(o.height_mm, d_.unit) + " high", letters_mm, below);
            if (o.radius_mm > 0) say(middle, {0, -1}, "radius " + length(o.radius_mm, d_.unit), letters_mm, below);
        }
        std::string last;
        for (const auto& o : d_.setting_out.openings)
            if (o.round && o.name != last) {
                const auto n = std::count_if(d_.setting_out.openings.begin(), d_.setting_out.openings.end(),
                                             [&](const auto& other) { return other.name == o.name && other.round; });
                say(from_bases({o.across_mm, o.up_mm}), {0, -1},
                    QString("%1: %2, %3 across").arg(text_of(o.name)).arg(n).arg(length(o.width_mm, d_.unit)));
                last = o.name;
            }
    }

    void draw_drilled() {
        for (const auto& hole : d_.drilled) {
            const double r = std::max(0.5, hole.diameter_mm / 2 / scale_);
            paper_.pen(0.15);
            paper_.painter().drawEllipse(at(hole.at), r, r);
            paper_.line(at(hole.at) - QPointF(r + 0.8, 0), at(hole.at) + QPointF(r + 0.8, 0));
            paper_.line(at(hole.at) - QPointF(0, r + 0.8), at(hole.at) + QPointF(0, r + 0.8));
            say(hole.at, {0, 1}, QString::number(hole.number), letters_mm, {2, 3.5, 5});
        }
    }

    void draw_joints() {
        for (const auto& joint : d_.joint_lines) {
            paper_.pen(0.25, Qt::DashDotDotLine);
            paper_.line(at(joint.from), at(joint.to));
            const Vec2 figures = d_.setting_out.figures_of(joint.from);
            const double from_base = joint.upright ? figures.x() : figures.y();
            say(joint.to, joint.upright ? Vec2(0, 1) : Vec2(1, 0),
                QString("%1 at %2").arg(text_of(joint.kind), length(from_base, d_.unit)));
        }
    }

    void draw_notes() {
        for (const auto& note : d_.notes)
            say(note.at, note.outward, text_of(exchange::words_of(note, d_.unit)), letters_mm,
                {5, 9, 14, 20, -5, -9, -14, -20});
    }

    /// On the side away from the other lines, so that no leader crosses one.
    void name(const geometry::Ring& ring, double share, const std::vector<const geometry::Ring*>& others,
              const QString& words) {
        const auto i = static_cast<std::size_t>(share * static_cast<double>(ring.size() - 1));
        const Vec2 middle = (ring[i] + ring[(i + 1) % ring.size()]) / 2,
                   along = (ring[(i + 1) % ring.size()] - ring[i]).normalized();
        say(middle, side_away(middle, {along.y(), -along.x()}, others), words, 2.5, {6, 10, 15, 22, 30});
    }
    /// Where a ring lies farthest from another, as a share of its points.
    static double farthest_share(const geometry::Ring& ring, geometry::Ring other) {
        other.push_back(other.front());
        std::vector<Vec2> middles;
        for (std::size_t i = 0; i + 1 < ring.size(); ++i) middles.push_back((ring[i] + ring[i + 1]) / 2);
        const auto far = geometry::farthest_from_line(middles, other);
        return static_cast<double>(far.at) / static_cast<double>(std::max<std::size_t>(1, ring.size() - 1));
    }
    void draw_names() {
        const bool apart = geometry::farthest_mm({d_.face_a.outer, {}}, {d_.face_b.outer, {}}) > 0.1;
        const auto *a = &d_.face_a.outer, *b = &d_.face_b.outer, *finished = &d_.finished_a.outer;
        name(*a, 0.3, {b, finished}, d_.cut_differs() ? "face A as cut" : "face A");
        if (apart) name(*b, 0.6, {a, finished}, d_.cut_differs() ? "face B as cut" : "face B");
        if (d_.cut_differs()) name(*finished, farthest_share(*finished, *a), {a, b}, "finished");
    }

    void draw_compass() {
        constexpr double arm = 8, half = 13;
        std::vector<QPointF> places;
        for (double inset : {half + 1, half + 8, half + 20})
            for (const QPointF& corner :
                 {within_.bottomLeft() + QPointF(inset, -inset), within_.bottomRight() + QPointF(-inset, -inset),
                  within_.topRight() + QPointF(-inset, inset), within_.topLeft() + QPointF(inset, inset)})
                places.push_back(corner);
        for (double x : {0.5, 0.3, 0.7})
            for (double y : {0.5, 0.3, 0.7})
                places.emplace_back(within_.left() + x * within_.width(), within_.top() + y * within_.height());
        const auto where = room_.find(places, QSizeF(2 * half, 2 * half));
        draw_ways(paper_, d_, where ? *where : places.front(), arm);
        // Grain beside it, as a double arrow.
        std::vector<QPointF> near = places;
        const double k = units::radians(d_.grain_deg);
        const QPointF way(std::cos(k), -std::sin(k));
        if (const auto grain = room_.find(near, QSizeF(18, 18))) {
            paper_.pen(0.25);
            paper_.arrow(*grain - 9 * way, *grain + 9 * way);
            paper_.arrow(*grain + 9 * way, *grain - 9 * way);
            paper_.label(*grain, letters_mm, "grain");
        }
    }

    Paper& paper_;
    const Drawing& d_;
    const QRectF within_;
    Room room_;
    double scale_ = 1;
    QPointF origin_;
};

/// Figures flow down columns, from the first page's last one on to pages of their own.
class Columns {
  public:
    Columns(Paper& paper, const Drawing& d) : paper_(paper), d_(d) {
        const QSizeF page = paper.size();
        column_ = {page.width() - edge_mm - figures_w_mm, edge_mm + head_mm, figures_w_mm,
                   page.height() - 2 * edge_mm - head_mm - foot_mm};
        y_ = column_.top();
    }
    void draw() {
        const auto lines = figure_lines(d_);
        for (std::size_t i = 0; i < lines.size(); ++i) {
            // A heading is not left alone at a column's foot, nor heads of a table.
            const double wanted = height_of(lines[i]) + (lines[i].kind == FigureLine::Kind::heading ? 3 * row_mm
                                                         : lines[i].kind == FigureLine::Kind::heads ? row_mm
                                                                                                    : 0);
            if (y_ + wanted > column_.bottom()) {
                next_column();
                if (lines[i].kind == FigureLine::Kind::cells && last_heads_) draw_line(*last_heads_);
            }
            if (lines[i].kind == FigureLine::Kind::heads) last_heads_ = &lines[i];
            if (lines[i].kind == FigureLine::Kind::heading || lines[i].kind == FigureLine::Kind::words)
                last_heads_ = nullptr;
            draw_line(lines[i]);
        }
    }

  private:
    double height_of(const FigureLine& line) const {
        if (line.kind == FigureLine::Kind::heading) return row_mm + 2.5;
        if (line.kind != FigureLine::Kind::words) return row_mm;
        const double wide = paper_.extent(letters_mm, text_of(line.cells[0])).width();
        return row_mm * std::ceil(wide * 1.08 / figures_w_mm);
    }
    void next_column() {
        const double next = column_.right() + gutter_mm;
        if (own_page_ && next + figures_w_mm <= paper_.size().width() - edge_mm + 0.1) {
            column_.moveLeft(next);
        } else {
            paper_.next_page();
            own_page_ = true;
            paper_.text({edge_mm, edge_mm, paper_.size().width() - 2 * edge_mm, 6}, 4.2,
                        text_of(d_.title + ", " + d_.id) + ": figures to mark out by, continued", true);
            column_ = {edge_mm, edge_mm + 10, figures_w_mm, paper_.size().height() - 2 * edge_mm - 10};
        }
        y_ = column_.top();
    }
    void draw_line(const FigureLine& line) {
        using Kind = FigureLine::Kind;
        const double x = column_.left(), h = height_of(line);
        if (line.kind == Kind::heading) {
            paper_.text({x, y_ + 2, figures_w_mm, row_mm}, 3.1, text_of(line.cells[0]), true);
            paper_.pen(0.15);
            paper_.line({x, y_ + h - 0.2}, {x + figures_w_mm, y_ + h - 0.2});
        } else if (line.kind == Kind::words) {
            paper_.lines({x, y_ + 0.4, figures_w_mm, h}, letters_mm, text_of(line.cells[0]));
        } else {
            const double w = figures_w_mm / 5;
            for (std::size_t k = 0; k < line.cells.size(); ++k)
                paper_.text({x + static_cast<double>(k) * w, y_, w - 1, row_mm}, letters_mm, text_of(line.cells[k]),
                            line.kind == Kind::heads, Qt::AlignRight | Qt::AlignVCenter);
        }
        y_ += h;
    }

    Paper& paper_;
    const Drawing& d_;
    QRectF column_;
    double y_ = 0;
    bool own_page_ = false;
    const FigureLine* last_heads_ = nullptr;
};

void draw_head(Paper& paper, const Drawing& d) {
    const double wide = paper.size().width() - 2 * edge_mm;
    paper.text({edge_mm, edge_mm - 1, wide * 0.6, 8}, 6, text_of(d.title), true);
    const QString copies = d.copies > 1 ? QString(", %1 alike").arg(d.copies) : QString();
    paper.text({edge_mm, edge_mm + 7, wide, 5}, 3.2,
               QString("%1 · %2, %3 thick%4 · cut %5 x %6 · good face %7 · drawn as face A is seen")
                   .arg(text_of(d.id), text_of(d.material), length_with_unit(d.thickness_mm, d.unit), copies,
                        length(d.box.width(), d.unit), length_with_unit(d.box.height(), d.unit),
                        d.good_face == piece::Face::a ? "A" : "B, behind"));
    paper.pen(0.3);
    paper.line({edge_mm, edge_mm + head_mm - 2}, {edge_mm + wide, edge_mm + head_mm - 2});
}

void draw_foot(Paper& paper, const Drawing& d, double scale) {
    const double wide = paper.size().width() - 2 * edge_mm, top = paper.size().height() - edge_mm - foot_mm + 3;
    paper.pen(0.3);
    paper.line({edge_mm, top - 2}, {edge_mm + wide, top - 2});
    QStringList stands;
    for (const auto& words : d.stands) stands << text_of(words);
    paper.text({edge_mm, top, wide, 4.4}, 3, stands.join(" "), true);
    paper.text({edge_mm, top + 5, wide, 4}, letters_mm,
               text_of(exchange::what_lines_are(d)) +
                   " Hairlines: heights and distances of the table. Chain lines: base lines.");
    paper.text({edge_mm, top + 9.4, wide, 4}, letters_mm,
               "Bevels: + open, face B reaches farther than face A; − under. Draw curves with a batten through the "
               "figures. Cut outside the line and fit.");
    paper.text({edge_mm, top + 13.8, wide, 4}, letters_mm,
               "Guard, push stick, eyes and dust mask at the saw; bevels past 45° are cut square and dressed; local "
               "codes come first.");
    check_line(paper, {edge_mm, top + 21.5}, false, d.unit);
    paper.text({edge_mm + 108, top + 19, wide - 108, 5}, letters_mm,
               QString("The drawing above is 1:%1; do not scale it off. Print at 100 %.").arg(scale));
}

}  // namespace

void draw_piece_pages(Paper& paper, const Drawing& d) {
    const QSizeF page = paper.size();
    draw_head(paper, d);
    PageDrawing drawing(paper, d,
                        QRectF(edge_mm, edge_mm + head_mm, page.width() - 2 * edge_mm - figures_w_mm - gutter_mm,
                               page.height() - 2 * edge_mm - head_mm - foot_mm));
    drawing.draw();
    draw_foot(paper, d, drawing.scale());
    Columns(paper, d).draw();
}

}  // namespace bevelsmith::paper

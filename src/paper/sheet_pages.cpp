#include "paper/sheet_pages.h"

#include <algorithm>
#include <cmath>

#include "geometry/contour.h"
#include "job/in_full.h"
#include "sheets/guillotine.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

/// One sheet to draw: what is laid out, or what was cut.
struct SheetPlan {
    QString title, size;
    geometry::Polygon shape;
    std::vector<LaidPart> parts;
    std::vector<sheets::SheetCut> cuts;
    double spacing_mm = 0;
    bool done = false;
};

void set_corners(LaidPart& part, const Vec2& corner) {
    for (const auto& run : geometry::runs_of(part.shape.outer)) {
        part.corners.push_back(run.points.front() - corner);
        part.curved = part.curved || run.kind != geometry::RunKind::straight;
    }
}

/// From the left, so that what is cut off is carried away; numbered so.
void set_order(std::vector<LaidPart>& parts) {
    const auto left = [](const LaidPart& p) { return geometry::bounding_box(p.shape.outer).min; };
    std::stable_sort(parts.begin(), parts.end(), [&](const auto& a, const auto& b) {
        return std::pair(left(a).x(), left(a).y()) < std::pair(left(b).x(), left(b).y());
    });
    for (std::size_t k = 0; k < parts.size(); ++k) parts[k].number = static_cast<int>(k) + 1;
}

std::string face_up(const job::Job& job, const std::string& part_id, bool turned_over) {
    const auto* piece = job::find_piece(job, job::piece_of_part(part_id));
    const bool good_is_a = !piece || piece->good_face == piece::Face::a;
    return good_is_a != turned_over ? "A" : "B";
}

SheetPlan plan_of(const job::Job& job, const job::SheetResult& sheets, int sheet) {
    SheetPlan out;
    const auto stock = static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)]);
    const auto* material = job::find_material(job, sheets.material_id);
    const auto& offcut = sheets.stock_names[stock];
    out.title = (offcut.empty() ? QString("Sheet %1").arg(sheet + 1) : "Offcut " + text_of(offcut)) + " of " +
                (material ? text_of(material->name) : QString());
    out.shape = sheets.problem->stock[stock].shape;
    out.parts = laid_parts(job, sheets, sheet);
    out.cuts = sheets::cuts_of(*sheets.problem, *sheets.layout, sheet);
    out.spacing_mm = sheets.problem->spacing_mm;
    return out;
}

SheetPlan plan_of(const job::Job& job, const job::CutSheet& sheet) {
    SheetPlan out;
    const auto* material = job::find_material(job, sheet.material_id);
    out.title = text_of(sheet.name) + " of " + (material ? text_of(material->name) : QString()) + ": cut already";
    out.shape = sheet.shape, out.done = true;
    const Vec2 corner = geometry::bounding_box(sheet.shape.outer).min;
    for (const auto& cut : sheet.parts) {
        LaidPart part{0, cut.part_id, cut.name, cut.outline, {}, false, face_up(job, cut.part_id, cut.turned_over)};
        set_corners(part, corner);
        out.parts.push_back(std::move(part));
    }
    set_order(out.parts);
    return out;
}

class SheetPage {
  public:
    SheetPage(Paper& paper, const job::Job& job, const SheetPlan& plan, const QSizeF& upright)
        : paper_(paper), job_(job), plan_(plan), box_(geometry::bounding_box(plan.shape.outer)) {
        const bool lies = box_.width() > box_.height();
        page_ = lies ? QSizeF(upright.height(), upright.width()) : upright;
    }
    void draw() {
        draw_plan();
        draw_figures();
    }

  private:
    static constexpr double head_mm = 15, foot_mm = 17;

    QPointF at(const Vec2& p) const {
        return corner_ + QPointF(p.x() - box_.min.x(), -(p.y() - box_.min.y())) * scale_;
    }
    QString figure(double mm) const { return length(mm, job_.unit); }

    void draw_plan() {
        paper_.begin_page(page_);
        const QRectF room(margin, margin + head_mm, page_.width() - 2 * margin,
                          page_.height() - 2 * margin - head_mm - foot_mm);
        scale_ = std::min(room.width() / box_.width(), room.height() / box_.height());
        corner_ =
            QPointF(room.left() + (room.width() - box_.width() * scale_) / 2, room.top() + box_.height() * scale_);
        paper_.text({margin, margin, room.width(), 7}, 5.5, plan_.title, true);
        QString under = QString("%1 x %2; grain along; 1:%3")
                            .arg(figure(box_.width()), length_with_unit(box_.height(), job_.unit))
                            .arg(1 / scale_, 0, 'f', 1);
        if (!plan_.done)
            under += QString("; %1 between parts; cut in the order of the numbers, outside the line")
                         .arg(length_with_unit(plan_.spacing_mm, job_.unit));
        paper_.text({margin, margin + 8, room.width(), 5}, 3, under);
        draw_shapes();
        draw_cuts();
        draw_names();
        draw_foot();
    }

    void draw_shapes() {
        QTransform place;
        place.translate(corner_.x() - box_.min.x() * scale_, corner_.y() + box_.min.y() * scale_);
        place.scale(scale_, scale_);
        paper_.pen(0.25);
        paper_.painter().drawPath(place.map(path_of(plan_.shape)));
        paper_.pen(0.45);
        for (const auto& part : plan_.parts) paper_.painter().drawPath(place.map(path_of(part.shape)));
    }

    /// From edge to edge, numbered where each begins.
    void draw_cuts() {
        int number = 0;
        for (const auto& cut : plan_.cuts) {
            const Vec2 a = cut.upright ? Vec2(cut.at_mm, cut.panel.min.y()) : Vec2(cut.panel.min.x(), cut.at_mm);
            const Vec2 b = cut.upright ? Vec2(cut.at_mm, cut.panel.max.y()) : Vec2(cut.panel.max.x(), cut.at_mm);
            paper_.pen(0.2, Qt::DashLine);
            paper_.line(at(a), at(b));
            const QPointF where = at(a) + (cut.upright ? QPointF(0, -2.4) : QPointF(2.4, 0));
            paper_.pen(0.15);
            paper_.painter().setBrush(Qt::white);
            paper_.painter().drawEllipse(where, 2.2, 2.2);
            paper_.text({where.x() - 2, where.y() - 2, 4, 4}, 2.4, QString::number(++number), true, Qt::AlignCenter);
        }
    }

    void draw_names() {
        Room room(QRectF(at({box_.min.x(), box_.max.y()}), at({box_.max.x(), box_.min.y()})));
        const auto take = [&](const geometry::Ring& ring) {
            for (std::size_t i = 0; i < ring.size(); ++i)
                room.take_line(at(ring[i]), at(ring[(i + 1) % ring.size()]));
        };
        for (const auto& part : plan_.parts) {
            take(part.shape.outer);
            for (const auto& hole : part.shape.holes) take(hole);
        }
        for (const auto& part : plan_.parts) draw_name(part, room);
    }

    /// Id, name and size in the wood of the part, as large as there is room for, level or upright.
    void draw_name(const LaidPart& part, Room& room) {
        const auto box = geometry::bounding_box(part.shape.outer);
        const QStringList lines{(plan_.done ? QString() : QString("%1  ").arg(part.number)) + text_of(part.id),
                                text_of(part.name), figure(box.width()) + " x " + figure(box.height())};
        const auto places = inner_places(part.shape);
        for (double size_mm : {3.0, 2.4, 1.8, 1.3})
            for (const bool upright : {box.height() > 1.6 * box.width(), box.height() <= 1.6 * box.width()}) {
                double wide = 0;
                for (int k = 0; k < lines.size(); ++k)
                    wide = std::max(wide, paper_.extent(size_mm, lines[k], k == 0).width());
                const double row = 1.35 * size_mm;
                const QSizeF block(wide + 0.6, row * static_cast<double>(lines.size()));
                const auto middle = room.find(places, upright ? block.transposed() : block);
                if (!middle) continue;
                for (int k = 0; k < lines.size(); ++k) {
                    const double off = (k - static_cast<double>(lines.size() - 1) / 2) * row;
                    paper_.label(*middle + (upright ? QPointF(off, 0) : QPointF(0, off)), size_mm, lines[k],
                                 upright ? -90 : 0, k == 0);
                }
                return;
            }
        // Too small for its name: the number leads to the next page.
        if (!places.empty()) paper_.label(places.front(), 1.6, QString::number(part.number), 0, true);
    }

    /// Places in the wood, the nearest to its middle first (page).
    std::vector<QPointF> inner_places(const geometry::Polygon& shape) const {
        const auto box = geometry::bounding_box(shape.outer);
        const Vec2 middle = geometry::centroid(shape);
        std::vector<Vec2> inside;
        if (geometry::contains(shape, middle)) inside.push_back(middle);
        constexpr int n = 24;
        for (int i = 1; i < n; ++i)
            for (int k = 1; k < n; ++k)
                if (const Vec2 p = box.min + Vec2(box.width() * i / n, box.height() * k / n);
                    geometry::contains(shape, p))
                    inside.push_back(p);
        std::stable_sort(inside.begin(), inside.end(), [&](const Vec2& a, const Vec2& b) {
            return (a - middle).squaredNorm() < (b - middle).squaredNorm();
        });
        std::vector<QPointF> out;
        for (const Vec2& p : inside) out.push_back(at(p));
        return out;
    }

    void draw_foot() {
        const double top = page_.height() - margin - foot_mm + 3;
        QString order = plan_.done ? "Kept as it was cut."
                                   : "Part by part in the order of the numbers; what is left may be kept.";
        if (!plan_.cuts.empty()) {
            order = "From edge to edge, the rings' numbers: ";
            for (std::size_t k = 0; k < plan_.cuts.size(); ++k) {
                const auto& cut = plan_.cuts[k];
                order +=
                    QString("%1%2 %3 at %4")
                        .arg(k ? "; " : "")
                        .arg(k + 1)
                        .arg(cut.upright ? "across" : "along",
                             figure(cut.upright ? cut.at_mm - cut.panel.min.x() : cut.at_mm - cut.panel.min.y()));
            }
        }
        paper_.lines({margin, top, page_.width() - 2 * margin, 9}, 2.8, order);
        paper_.text({margin, top + 9.5, page_.width() - 2 * margin, 4}, 2.8,
                    "Guard, push stick, eyes and dust mask at the saw; local codes come first.");
    }

    void figures_head() {
        paper_.begin_page(page_);
        paper_.text({margin, margin, page_.width() - 2 * margin, 7}, 5, plan_.title + ": where the parts lie", true);
        paper_.lines(
            {margin, margin + 8, page_.width() - 2 * margin, 9}, 3,
            QString("Corners of what is cut, along and up from the sheet's lower left corner as drawn, in %1, "
                    "going round against the clock. %2 Curves between them are marked out by the part's own paper.")
                .arg(text_of(units::unit_in_words(job_.unit)), text_of(units::figure_note(job_.unit))));
        y_ = margin + 20;
    }

    void draw_figures() {
        figures_head();
        constexpr double row = 4.6, first_w = 74, corner_w = 31;
        const int across = std::max(1, static_cast<int>((page_.width() - 2 * margin - first_w) / corner_w));
        for (const auto& part : plan_.parts) {
            const int rows = std::max(2, (static_cast<int>(part.corners.size()) + across - 1) / across);
            if (y_ + rows * row + 2 > page_.height() - margin) figures_head();
            const auto box = geometry::bounding_box(part.shape.outer);
            paper_.text({margin, y_, first_w - 3, row}, 3.2,
                        QString("%1  %2  %3").arg(part.number).arg(text_of(part.id), text_of(part.name)), true);
            paper_.text({margin, y_ + row, first_w - 3, row}, 2.8,
                        QString("%1 x %2, face %3 up%4")
                            .arg(figure(box.width()), figure(box.height()), text_of(part.up_face),
                                 part.curved ? QString(", curved") : QString()));
            for (std::size_t k = 0; k < part.corners.size(); ++k) {
                const double x = margin + first_w + static_cast<double>(static_cast<int>(k) % across) * corner_w;
                paper_.text({x, y_ + (static_cast<int>(k) / across) * row, corner_w - 2, row}, 2.8,
                            figure(part.corners[k].x()) + ", " + figure(part.corners[k].y()));
            }
            y_ += rows * row + 2;
            paper_.pen(0.08, Qt::SolidLine, QColor(150, 150, 150));
            paper_.line({margin, y_ - 1}, {page_.width() - margin, y_ - 1});
        }
    }

    Paper& paper_;
    const job::Job& job_;
    const SheetPlan& plan_;
    const geometry::Box box_;
    QSizeF page_;
    QPointF corner_;
    double scale_ = 1, y_ = 0;
};

}  // namespace

std::vector<LaidPart> laid_parts(const job::Job& job, const job::SheetResult& sheets, int sheet) {
    std::vector<LaidPart> out;
    const auto stock = static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)]);
    const Vec2 corner = geometry::bounding_box(sheets.problem->stock[stock].shape.outer).min;
    for (const auto& at : sheets.layout->placements) {
        if (at.sheet != sheet) continue;
        const auto k = static_cast<std::size_t>(at.part);
        const auto& id = sheets.problem->parts[k].id;
        LaidPart part{0,
                      id,
                      sheets.part_names[k],
                      sheets::placed(*sheets.problem, at),
                      {},
                      false,
                      face_up(job, id, at.turned_over)};
        set_corners(part, corner);
        out.push_back(std::move(part));
    }
    set_order(out);
    return out;
}

void sheet_pages(Paper& paper, const job::Job& job, const job::Results& results, const QSizeF& page_mm,
                 const KeepGoing& keep_going) {
    const auto draw = [&](const SheetPlan& plan) {
        ask(keep_going);
        SheetPage(paper, job, plan, page_mm).draw();
    };
    for (const auto& sheets : results.sheets)
        for (int s = 0; s < static_cast<int>(sheets.layout->sheet_stock.size()); ++s) draw(plan_of(job, sheets, s));
    for (const auto& cut : job.cut_sheets) draw(plan_of(job, cut));
}

}  // namespace bevelsmith::paper

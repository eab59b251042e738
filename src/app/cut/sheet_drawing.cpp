#include "app/cut/sheet_drawing.h"

#include <QKeyEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {

void SheetDrawing::draw(Pencil& pencil) {
    const auto* r = state_.result();
    if (!r) return;
    const auto& c = theme().colours();
    const auto* material = state_.material();
    for (int s = 0; s < static_cast<int>(r->layout->sheet_stock.size()); ++s) {
        const Vec2 origin = sheet_origin(s), size = sheet_size();
        const geometry::Polygon sheet{geometry::rectangle({origin, origin + size}), {}};
        pencil.painter().setPen(Qt::NoPen);
        pencil.fill(c.field);
        pencil.polygon(sheet);
        QColor hatch = c.line;
        pencil.fill(QBrush(hatch, Qt::BDiagPattern));
        pencil.polygon(sheet);
        pencil.fill(Qt::NoBrush);
        pencil.pen(c.ink, 1.4);
        pencil.polygon(sheet);
        pencil.pen(c.faint, 1);
        pencil.text(origin + Vec2(0, size.y()), QString("Sheet %1").arg(s + 1), {28, -11}, size::text, true, false);
        if (material && material->has_grain)
            pencil.text(origin + Vec2(size.x(), size.y()), "grain ↔", {-28, -11}, size::text_small, false, false);
    }
    const int selected = state_.held;
    for (std::size_t k = 0; k < state_.placements.size(); ++k) {
        const auto& at = state_.placements[k];
        const auto shape = shape_at(at);
        const bool mine = r->problem->parts[static_cast<std::size_t>(at.part)].id.starts_with(
            state_.document.selected_piece().toStdString());
        pencil.painter().setPen(Qt::NoPen);
        pencil.fill(c.wood);
        pencil.polygon(shape);
        pencil.fill(Qt::NoBrush);
        if (material && material->has_grain) pencil.grain(shape, 0, c.ink);
        pencil.pen(static_cast<int>(k) == selected || mine ? c.accent : c.ink, static_cast<int>(k) == selected ? 2.6
                                                                               : mine                          ? 2
                                                                                                               : 1.4);
        pencil.polygon(shape);
        // Where there is wood: the middle of a C-shaped half is its doorway.
        Vec2 label = geometry::centroid(shape);
        if (!geometry::contains(shape, label)) {
            const auto box = geometry::bounding_box(shape.outer);
            for (int i = 1; i < 12; ++i)
                for (const double y : {0.5, 0.35, 0.65, 0.2, 0.8}) {
                    const Vec2 q = box.min + Vec2(box.width() * i / 12, box.height() * y);
                    if (geometry::contains(shape, q) && (!geometry::contains(shape, label) ||
                                                         (q - box.centre()).norm() < (label - box.centre()).norm()))
                        label = q;
                }
        }
        pencil.pen(c.ink, 1);
        pencil.text(label, QString::fromStdString(r->problem->parts[static_cast<std::size_t>(at.part)].id), {0, 0},
                    size::text, true, false);
    }
    pencil.painter().setFont(Theme::font(size::text_small));
    pencil.painter().setPen(state_.refusal.isEmpty() ? c.faint : c.stop);
    pencil.painter().drawText(
        QRectF(16, 8, width() - 32, 18), Qt::AlignLeft,
        state_.refusal.isEmpty() ? "drag a part to move it, R turns it; good face up" : state_.refusal);
}

int SheetDrawing::part_at(const Vec2& mm) const {
    for (std::size_t k = 0; k < state_.placements.size(); ++k)
        if (geometry::contains(shape_at(state_.placements[k]), mm)) return static_cast<int>(k);
    return -1;
}

bool SheetDrawing::press(const Vec2& mm) {
    if (!state_.result() || state_.computed().results.sheets_pending) return false;
    state_.held = part_at(mm);
    state_.refusal.clear();
    update();
    if (state_.held < 0) return false;
    before_ = state_.placements[static_cast<std::size_t>(state_.held)];
    grip_ = mm - before_.shift - sheet_origin(before_.sheet);
    const auto& id = state_.result()->problem->parts[static_cast<std::size_t>(before_.part)].id;
    state_.document.select_piece(QString::fromStdString(id.substr(0, id.find('/'))));
    return true;
}

void SheetDrawing::drag(const Vec2& mm) {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    const int last = static_cast<int>(state_.result()->layout->sheet_stock.size()) - 1;
    at.sheet = std::clamp(static_cast<int>(std::floor((sheet_size().y() + 80 - mm.y()) / step())), 0, last);
    at.shift = mm - grip_ - sheet_origin(at.sheet);
    update();
}

void SheetDrawing::release(const Vec2&) {
    keep_if_valid();
}

void SheetDrawing::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_R || state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size()))
        return DrawingView::keyPressEvent(event);
    before_ = state_.placements[static_cast<std::size_t>(state_.held)];
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    const auto& allowed = state_.result()->problem->parts[static_cast<std::size_t>(at.part)].rotations_deg;
    const auto now = std::find(allowed.begin(), allowed.end(), at.rotation_deg);
    const auto centre = geometry::bounding_box(sheets::placed(*state_.result()->problem, at).outer).centre();
    at.rotation_deg = now == allowed.end() || now + 1 == allowed.end() ? allowed.front() : *(now + 1);
    at.shift += centre - geometry::bounding_box(sheets::placed(*state_.result()->problem, at).outer).centre();
    keep_if_valid();
}

void SheetDrawing::keep_if_valid() {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    if (at == before_) return;
    sheets::Layout moved = *state_.result()->layout;
    moved.placements = state_.placements;
    if (const auto wrong = sheets::violations(*state_.result()->problem, moved); !wrong.empty()) {
        state_.refusal = "It cannot lie there: " + QString::fromStdString(wrong.front());
        at = before_;
        return update();
    }
    const auto lock = job::lock_layout(*state_.result(), moved);
    state_.document.edit("Move a part on its sheet", [&](job::Job& job) {
        std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == lock.material_id; });
        job.layouts.push_back(lock);
    });
}

void SheetRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(12, 8, 84, 46), Qt::TextWordWrap, "sheets in order, what is left");
    double x = 104;
    for (const auto& r : state_.computed().results.sheets) {
        const auto* material = job::find_material(state_.computed().job, r.material_id);
        for (int s = 0; s < static_cast<int>(r.layout->sheet_stock.size()); ++s) {
            const double whole = geometry::area_mm2(
                r.problem->stock[static_cast<std::size_t>(r.layout->sheet_stock[static_cast<std::size_t>(s)])].shape);
            double used = 0;
            for (const auto& at : r.layout->placements)
                if (at.sheet == s)
                    used += geometry::area_mm2(r.problem->parts[static_cast<std::size_t>(at.part)].shape);
            const QRectF box(x, 26, 108, 48);
            p.fillRect(box, QBrush(c.line, Qt::BDiagPattern));
            p.fillRect(QRectF(x, 26, 108 * used / whole, 48), c.wood);
            p.setPen(QPen(r.material_id == state_.material_id() ? c.accent : c.ink, 1.4));
            p.drawRect(box);
            p.setPen(c.ink);
            p.drawText(QRectF(x, 8, 108, 16), Qt::AlignLeft,
                       p.fontMetrics().elidedText(material ? QString::fromStdString(material->name) : QString(),
                                                  Qt::ElideMiddle, 108));
            p.drawText(box.adjusted(4, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
                       QString("%1: %2 %").arg(s + 1).arg(100 * used / whole, 0, 'f', 0));
            p.setPen(c.faint);
            p.drawText(QRectF(x, 78, 120, 16), Qt::AlignLeft,
                       QString("%1 m² left").arg((whole - used) / 1e6, 0, 'f', 2));
            x += 124;
        }
    }
}

}  // namespace bevelsmith::app

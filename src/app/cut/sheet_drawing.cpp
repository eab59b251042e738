#include "app/cut/sheet_drawing.h"

#include <QKeyEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/free_places.h"
#include "job/in_full.h"

namespace bevelsmith::app {

bool CutState::is_pinned(const std::string& part_id) const {
    for (const auto& layout : held_->job.layouts)
        if (layout.material_id == material_ && layout.in_use)
            for (const auto& at : layout.placements)
                if (at.part_id == part_id) return at.pinned;
    return false;
}

void CutState::choose_cut_next() {
    const auto cut = cut_sheets();
    for (std::size_t k = 0; k < cut.size() && !cut_next.empty(); ++k)
        if (cut[k]->id == cut_next) {
            choice = {CutChoice::What::cut_sheet, {}, static_cast<int>(k)};
            cut_next.clear();
        }
}

void CutState::drop_stale_choice() {
    const auto* r = result();
    const int sheets = r ? static_cast<int>(r->layout->sheet_stock.size()) : 0;
    const auto& parts = r ? r->problem->parts : std::vector<sheets::Part>{};
    using What = CutChoice::What;
    const bool gone = (choice.what == What::sheet && choice.sheet >= sheets) ||
                      (choice.what == What::cut_sheet && choice.sheet >= static_cast<int>(cut_sheets().size())) ||
                      (choice.what == What::part && std::none_of(parts.begin(), parts.end(), [&](const auto& p) {
                           return p.id == choice.part_id;
                       }));
    if (gone) choice = {};
}

void SheetDrawing::draw(Pencil& pencil) {
    const auto* r = state_.result();
    if (!r) return;
    // Of very many only those that are seen.
    for (int s = 0; s < sheet_count(); ++s) draw_sheet(pencil, s);
    for (int c = 0; c < static_cast<int>(state_.cut_sheets().size()); ++c) draw_cut_sheet(pencil, c);
    std::vector<std::size_t> seen;
    for (std::size_t k = 0; k < state_.placements.size(); ++k)
        if (in_view(pencil, geometry::bounding_box(shape_at(state_.placements[k]).outer))) seen.push_back(k);
    for (const std::size_t k : seen)
        if (static_cast<int>(k) != state_.held) draw_part(pencil, k);
    draw_held(pencil);
    for (const std::size_t k : seen) draw_name(pencil, k);
    const auto& c = theme().colours();
    pencil.painter().setFont(Theme::font(size::text_small));
    const QString wrong = !collision_.empty() ? QString::fromStdString(collision_) : state_.refusal;
    pencil.painter().setPen(wrong.isEmpty() ? c.faint : c.stop);
    pencil.painter().drawText(QRectF(16, 8, width() - 32, 18), Qt::AlignLeft,
                              state_.searching() ? "the best layout so far; it can be changed when the search is over"
                              : wrong.isEmpty() ? "drag a part to move it, R turns it, twice: its piece; good face up"
                                                : wrong);
}

bool SheetDrawing::in_view(const Pencil& pencil, const geometry::Box& box) const {
    constexpr double words_px = 24;
    const QRectF there = QRectF(pencil.at(box.min), pencil.at(box.max)).normalized();
    return there.adjusted(-words_px, -words_px, words_px, words_px).intersects(QRectF(rect()));
}

void SheetDrawing::draw_ground(Pencil& pencil, const geometry::Polygon& sheet, bool chosen) const {
    const auto& c = theme().colours();
    pencil.painter().setPen(Qt::NoPen);
    for (const QBrush& ground : {QBrush(c.field), QBrush(c.line, Qt::BDiagPattern)}) {
        pencil.fill(ground);
        pencil.polygon(sheet);
    }
    pencil.fill(Qt::NoBrush);
    pencil.pen(chosen ? c.accent : c.ink, chosen ? 2.4 : 1.4);
    pencil.polygon(sheet);
}

void SheetDrawing::draw_sheet(Pencil& pencil, int s) const {
    const auto& c = theme().colours();
    const auto& r = *state_.result();
    const auto stock = static_cast<std::size_t>(state_.layout().sheet_stock[static_cast<std::size_t>(s)]);
    const auto sheet = geometry::transformed(r.problem->stock[stock].shape, 0, sheet_origin(s));
    const auto box = geometry::bounding_box(sheet.outer);
    if (!in_view(pencil, box)) return;
    draw_ground(pencil, sheet, state_.choice.what == CutChoice::What::sheet && state_.choice.sheet == s);
    pencil.pen(c.faint, 1);
    const auto& offcut = r.stock_names[stock];
    const QString name = offcut.empty() ? QString("Sheet %1").arg(s + 1) : "Offcut " + QString::fromStdString(offcut);
    pencil.text({box.min.x(), box.max.y()}, name, {28, -11}, size::text, true, false);
    if (has_grain() && pencil.px(box.width()) > 160)
        pencil.text(box.max, "grain ↔", {-28, -11}, size::text_small, false, false);
}

/// As it was: nothing of it is laid out any more.
void SheetDrawing::draw_cut_sheet(Pencil& pencil, int which) const {
    const auto& c = theme().colours();
    const auto& cut = *state_.cut_sheets()[static_cast<std::size_t>(which)];
    const Vec2 origin = sheet_origin(sheet_count() + which);
    const auto sheet = geometry::transformed(cut.shape, 0, origin);
    const auto box = geometry::bounding_box(sheet.outer);
    if (!in_view(pencil, box)) return;
    draw_ground(pencil, sheet, state_.choice.what == CutChoice::What::cut_sheet && state_.choice.sheet == which);
    pencil.pen(c.faint, 1);
    pencil.fill(c.ground);
    for (const auto& part : cut.parts) pencil.polygon(geometry::transformed(part.outline, 0, origin));
    pencil.fill(Qt::NoBrush);
    pencil.text({box.min.x(), box.max.y()}, QString("%1, cut").arg(QString::fromStdString(cut.id)), {28, -11},
                size::text, true, false);
}

/// Over all others, in red where it cannot lie.
void SheetDrawing::draw_held(Pencil& pencil) const {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    const auto k = static_cast<std::size_t>(state_.held);
    draw_part(pencil, k);
    if (collision_.empty()) return;
    pencil.pen(theme().colours().stop, 2.6);
    pencil.polygon(shape_at(state_.placements[k]));
}

void SheetDrawing::draw_part(Pencil& pencil, std::size_t k) const {
    const auto& c = theme().colours();
    const auto shape = shape_at(state_.placements[k]);
    pencil.painter().setPen(Qt::NoPen);
    pencil.fill(c.wood);
    pencil.polygon(shape);
    pencil.fill(Qt::NoBrush);
    if (has_grain()) pencil.grain(shape, 0, c.ink);
    const bool held = static_cast<int>(k) == state_.held, chosen = of_chosen_piece(k);
    if (state_.is_pinned(part_id(k))) {
        pencil.pen(c.faint, 1);
        pencil.text(geometry::centroid(shape), "pinned", {0, 16}, size::text_small, false);
    }
    pencil.pen(held || chosen ? c.accent : c.ink, held ? 2.6 : chosen ? 2 : 1.4);
    pencil.polygon(shape);
}

/// Where there is wood for it: a name beyond its part would stand on the next. The chosen piece's stands all the
/// same.
void SheetDrawing::draw_name(Pencil& pencil, std::size_t k) const {
    const bool large = pencil.px(1000) > 90, chosen = of_chosen_piece(k), strong = large || chosen;
    const int pixels = large ? size::text : size::text_small;
    const QString name = QString::fromStdString(part_id(k));
    const auto& placement = state_.placements[k];
    // To look for a place takes longer than to draw the part: it is looked for when the part or the scale changes.
    names_.resize(state_.placements.size());
    NamePlace& known = names_[k];
    const Vec2 origin = sheet_origin(placement.sheet);
    if (!(known.of == placement) || known.origin != origin || known.scale != scale() || known.pixels != pixels ||
        known.strong != strong || known.name != name) {
        const auto shape = shape_at(placement);
        const Vec2 middle = geometry::centroid(shape);
        const auto at =
            place_within(pencil.path_of(shape), pencil.at(middle), box_of({}, name, pixels, strong).size());
        known = {placement, origin, scale(), pixels,
                 strong,    name,   middle,  at ? std::optional(*at - pencil.at(middle)) : std::nullopt};
    }
    if (!known.beside && !chosen) return;
    pencil.pen(theme().colours().ink, 1);
    pencil.text(known.middle, name, known.beside.value_or(QPointF()), pixels, strong);
}

const std::string& SheetDrawing::part_id(std::size_t k) const {
    return state_.result()->problem->parts[static_cast<std::size_t>(state_.placements[k].part)].id;
}

bool SheetDrawing::of_chosen_piece(std::size_t k) const {
    return job::piece_of_part(part_id(k)) == state_.document.selected_piece().toStdString();
}

bool SheetDrawing::has_grain() const {
    return state_.material() && state_.material()->has_grain;
}

int SheetDrawing::columns() const {
    const int n = drawn_count();
    int best = 1;
    double largest = 0;
    for (int k = 1; k <= n; ++k) {
        const int rows = (n + k - 1) / k;
        const double scale = std::min((width() - 2.0 * margin_px) / (k * step().x()),
                                      (height() - 2.0 * margin_px) / (rows * step().y()));
        if (scale > largest * 1.001) largest = scale, best = k;
    }
    return best;
}

int SheetDrawing::sheet_under(const Vec2& mm) const {
    const int column = std::clamp(static_cast<int>(std::floor((mm.x() + 80) / step().x())), 0, columns() - 1);
    const int row = std::max(0, static_cast<int>(std::floor((sheet_size().y() + 210 - mm.y()) / step().y())));
    return std::min(row * columns() + column, drawn_count() - 1);
}

int SheetDrawing::part_at(const Vec2& mm) const {
    for (std::size_t k = 0; k < state_.placements.size(); ++k)
        if (geometry::contains(shape_at(state_.placements[k]), mm)) return static_cast<int>(k);
    return -1;
}

bool SheetDrawing::press(const Vec2& mm) {
    if (!state_.result() || state_.searching() || state_.computed().results.sheets_pending) return false;
    setFocus();
    state_.held = part_at(mm);
    state_.refusal.clear();
    collision_.clear();
    pressed_ = mm, moved_ = false;
    if (state_.held < 0) {
        const int s = sheet_under(mm);
        const bool cut = s >= sheet_count();
        CutChoice now{cut ? CutChoice::What::cut_sheet : CutChoice::What::sheet, {}, cut ? s - sheet_count() : s};
        const Vec2 within = mm - sheet_origin(s);
        const bool beside = (within.array() < 0).any() || (within.array() > sheet_size().array()).any();
        state_.choose(beside || (!cut && sheet_count() == 0) ? CutChoice{} : now);
        return false;
    }
    free_ = *state_.result()->problem;
    free_.locked = {};
    before_ = state_.placements[static_cast<std::size_t>(state_.held)];
    grip_ = mm - before_.shift - sheet_origin(before_.sheet);
    const auto& id = part_id(static_cast<std::size_t>(state_.held));
    state_.document.select_piece(QString::fromStdString(job::piece_of_part(id)));
    state_.choose({CutChoice::What::part, id, before_.sheet});
    return true;
}

/// Against what lies near it: while it is dragged this is asked many times.
std::string SheetDrawing::fault_of_held() const {
    // Pinned parts may be moved by hand: it is the machine that has to leave them.
    const auto& held = state_.placements[static_cast<std::size_t>(state_.held)];
    const auto box_of_part = [&](const sheets::Placement& at) {
        auto box = geometry::bounding_box(sheets::placed(free_, at).outer);
        box.min -= Vec2::Constant(free_.spacing_mm), box.max += Vec2::Constant(free_.spacing_mm);
        return box;
    };
    const auto own = box_of_part(held);
    sheets::Layout near{state_.result()->layout->sheet_stock, {}, {}, 0, 0};
    for (std::size_t k = 0; k < state_.placements.size(); ++k) {
        const auto& other = state_.placements[k];
        if (static_cast<int>(k) == state_.held || other.sheet != held.sheet) continue;
        if (box_of_part(other).overlaps(own)) near.placements.push_back(other);
    }
    // What is wrong without it is not its fault.
    const auto before = sheets::violations(free_, near);
    near.placements.push_back(held);
    for (const auto& wrong : sheets::violations(free_, near))
        if (std::find(before.begin(), before.end(), wrong) == before.end()) return "It cannot lie there: " + wrong;
    return {};
}

void SheetDrawing::drag(const Vec2& mm) {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    constexpr double still_px = 3;
    if (!moved_ && (to_widget(mm) - to_widget(pressed_)).manhattanLength() < still_px) return;
    moved_ = true;
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    at.sheet = std::min(sheet_under(mm), sheet_count() - 1);
    at.shift = mm - grip_ - sheet_origin(at.sheet);
    slide_held();
    collision_ = fault_of_held();
    update();
}

/// Up to a hand's breadth: out of what it overlaps, else up to what it nearly touches; along x and y.
void SheetDrawing::slide_held() {
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    const Vec2 asked = at.shift;
    const double reach = 10.0 * (to_drawing({1, 0}) - to_drawing({0, 0})).norm();
    const auto lies = [&](const Vec2& shift) {
        at.shift = shift;
        return fault_of_held().empty();
    };
    static constexpr double ways[8][2] = {{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, 1}, {1, -1}, {-1, -1}};
    Vec2 free = asked;
    bool found = lies(asked);
    for (double by = reach / 4; by <= reach && !found; by += reach / 4)
        for (const auto& way : ways)
            if (!found && lies(asked + by * Vec2(way[0], way[1]))) free = at.shift, found = true;
    if (!found) {
        at.shift = asked;
        return;
    }
    // As near to where it was asked for as it goes.
    for (const Vec2& axis : {Vec2(1, 0), Vec2(0, 1)}) {
        Vec2 good = free, bad = good - axis * (good - asked).dot(axis);
        if ((good - bad).norm() < 1e-9) continue;
        for (int k = 0; k < 7; ++k) {
            const Vec2 middle = (good + bad) / 2;
            (lies(middle) ? good : bad) = middle;
        }
        free = good;
    }
    at.shift = free;
}

void SheetDrawing::release(const Vec2&) {
    if (moved_) keep_if_valid();
    collision_.clear();
}

void SheetDrawing::mouseDoubleClickEvent(QMouseEvent* event) {
    if (state_.result() && part_at(to_drawing(event->position())) >= 0) emit piece_asked();
    else DrawingView::mouseDoubleClickEvent(event);
}

void SheetDrawing::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_R || state_.searching() || state_.held < 0 ||
        state_.held >= static_cast<int>(state_.placements.size()))
        return DrawingView::keyPressEvent(event);
    free_ = *state_.result()->problem;
    free_.locked = {};
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
    if (const auto wrong = fault_of_held(); !wrong.empty()) {
        state_.refusal = QString::fromStdString(wrong);
        at = before_;
        return update();
    }
    sheets::Layout moved = *state_.result()->layout;
    moved.placements = state_.placements;
    auto lock = job::lock_layout(*state_.result(), moved);
    for (auto& one : lock.placements) one.pinned = state_.is_pinned(one.part_id);
    state_.document.edit("Move a part on its sheet", [&](job::Job& job) { job::use_layout(job, lock); });
}

namespace {

/// One sheet of the ribbon: of what, how much of it the parts take, and whether it is cut already.
struct RibbonSheet {
    QString material, number;
    std::string material_id;
    double whole_mm2 = 0, used_mm2 = 0;
    bool cut = false;
};

/// Those that are cut first, as that is the order of the work.
std::vector<RibbonSheet> ribbon_sheets(const Computed& computed) {
    std::vector<RibbonSheet> out;
    const auto name_of = [&](const std::string& id) {
        const auto* material = job::find_material(computed.job, id);
        return material ? QString::fromStdString(material->name) : QString();
    };
    for (const auto& sheet : computed.job.cut_sheets) {
        RibbonSheet one{name_of(sheet.material_id),
                        QString::fromStdString(sheet.id),
                        sheet.material_id,
                        geometry::area_mm2(sheet.shape),
                        0,
                        true};
        for (const auto& part : sheet.parts) one.used_mm2 += geometry::area_mm2(part.outline);
        out.push_back(one);
    }
    for (const auto& r : computed.results.sheets)
        for (int s = 0; s < static_cast<int>(r.layout->sheet_stock.size()); ++s) {
            const auto stock = static_cast<std::size_t>(r.layout->sheet_stock[static_cast<std::size_t>(s)]);
            RibbonSheet one{name_of(r.material_id),
                            QString::number(s + 1),
                            r.material_id,
                            geometry::area_mm2(r.problem->stock[stock].shape),
                            0,
                            false};
            for (const auto& at : r.layout->placements)
                if (at.sheet == s)
                    one.used_mm2 += geometry::area_mm2(r.problem->parts[static_cast<std::size_t>(at.part)].shape);
            out.push_back(one);
        }
    return out;
}

}  // namespace

void SheetRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(12, 8, 84, 46), Qt::TextWordWrap, "sheets in order, what is left");
    constexpr double usual = 124, first_x = 104;
    const auto sheets = ribbon_sheets(state_.computed());
    const double each =
        std::min(usual, (width() - first_x - 8) / std::max<double>(1, static_cast<double>(sheets.size())));
    const bool narrow = each < usual;
    const double gap = narrow ? 3 : 16;
    double x = first_x;
    for (std::size_t k = 0; k < sheets.size(); ++k, x += each) {
        const RibbonSheet& one = sheets[k];
        const QRectF box(x, 26, each - gap, 48);
        p.fillRect(box, QBrush(c.line, Qt::BDiagPattern));
        const QColor fill = one.cut ? c.line : c.wood;
        p.fillRect(QRectF(x, 26, box.width() * one.used_mm2 / one.whole_mm2, 48), fill);
        p.setPen(QPen(one.material_id == state_.material_id() ? c.accent : c.ink, 1.4));
        p.drawRect(box);
        p.setPen(c.ink);
        if (narrow) {
            // The material once, over its first sheet; the number alone in each.
            if (k == 0 || sheets[k - 1].material_id != one.material_id)
                p.drawText(QRectF(x, 8, 200, 16), Qt::AlignLeft, one.material);
            p.drawText(box, Qt::AlignCenter, one.number);
            continue;
        }
        p.drawText(QRectF(x, 8, box.width(), 16), Qt::AlignLeft,
                   p.fontMetrics().elidedText(one.material, Qt::ElideMiddle, static_cast<int>(box.width())));
        p.drawText(box.adjusted(4, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
                   one.cut ? one.number + ": cut"
                           : QString("%1: %2 %").arg(one.number).arg(100 * one.used_mm2 / one.whole_mm2, 0, 'f', 0));
        p.setPen(c.faint);
        p.drawText(QRectF(x, 78, 120, 16), Qt::AlignLeft,
                   state_.document.area(one.whole_mm2 - one.used_mm2) + " left");
    }
}

}  // namespace bevelsmith::app

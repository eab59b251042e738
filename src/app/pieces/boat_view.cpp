#include "app/pieces/boat_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "job/in_full.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

using exchange::Cut;

constexpr Cut all_cuts[] = {Cut::section, Cut::profile, Cut::plan};
constexpr double margin_px = 26, reach_px = 8;

}  // namespace

BoatView::BoatView(PieceState& state) : state_(state), hand_(state.document) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(120, 80);
    setAccessibleName("in the boat");
    connect(&state_, &PieceState::changed, this, &BoatView::renew);
    connect(&state_.document, &Document::selection_changed, this, &BoatView::let_go);
    connect(&state_.document, &Document::about_to_replace, this, &BoatView::let_go);
    connect(&state_.document, &Document::ghost_changed, this, &BoatView::renew_ghost);
    connect(&state_.document, &Document::hidden_changed, this, [this] {
        if (box_.empty) return;
        for (Cut cut : all_cuts) cut_at(cut, at_mm(cut));
        update();
    });
    connect(&theme(), &Theme::changed, this, qOverload<>(&QWidget::update));
    renew();
}

void BoatView::renew() {
    const auto computed = state_.document.computed();
    if (computed == seen_) return update();
    seen_ = computed;
    box_ = exchange::extent_of(computed->results);
    if (box_.empty) {
        placed_ = false;
        return update();
    }
    // At first through the middle of what there is; the profile through one side where there are both.
    const Vec3 middle = (box_.low + box_.high) / 2;
    const bool both_sides = box_.low.y() < -100 && box_.high.y() > 100;
    for (Cut cut : all_cuts) {
        const double first = cut == Cut::profile && both_sides ? box_.high.y() / 2 : axis_of(cut).dot(middle);
        const double at = placed_ ? at_mm(cut) : rounded(first);
        cut_at(cut, std::clamp(at, axis_of(cut).dot(box_.low), axis_of(cut).dot(box_.high)));
    }
    placed_ = true;
    if (follow_) fit();
    update();
}

void BoatView::forget() {
    placed_ = false, follow_ = true;
    show_only(std::nullopt);
    seen_.reset();
    renew();
}

void BoatView::cut_at(Cut cut, double at_mm) {
    const auto& results = state_.document.computed()->results;
    cuts_[index(cut)] = {cut, at_mm, exchange::cut_hull(results, cut, at_mm),
                         exchange::cut_pieces(results, cut, at_mm)};
    std::erase_if(cuts_[index(cut)].pieces, [&](const exchange::CutPiece& piece) {
        return state_.document.is_hidden(results.pieces[piece.piece].id);
    });
    ghost_[index(cut)].clear();
    if (const auto ghost = state_.document.ghost()) ghost_[index(cut)] = exchange::cut_pieces(*ghost, cut, at_mm);
}

void BoatView::hide_selected() {
    const auto& together = state_.document.together();
    const std::string selected = state_.document.selected_piece().toStdString();
    if (!together.empty()) state_.document.hide(together);
    else if (!selected.empty()) state_.document.hide({selected});
}

bool BoatView::among_chosen(const std::string& piece) const {
    const auto& together = state_.document.together();
    return std::find(together.begin(), together.end(), piece) != together.end();
}

/// What is about to be added stands in the cuts; at first these run through it.
void BoatView::renew_ghost() {
    const auto ghost = state_.document.ghost();
    if (box_.empty) return;
    const bool seen_before = std::any_of(ghost_.begin(), ghost_.end(), [](const auto& cut) {
        return std::any_of(cut.begin(), cut.end(), [](const auto& piece) { return !piece.wood.empty(); });
    });
    if (ghost && !seen_before) look_at(*ghost, [](const std::string&) { return true; });
    for (Cut cut : all_cuts) cut_at(cut, at_mm(cut));
    update();
}

bool BoatView::ghost_at(Cut cut, const QPointF& at) const {
    const Vec2 mm = drawing_at(cut, at);
    const double near = 5 / scale_;
    for (const auto& piece : ghost_[index(cut)])
        for (const auto& wood : piece.wood) {
            if (geometry::contains(wood, mm)) return true;
            for (std::size_t i = 0; i < wood.outer.size(); ++i)
                if (geometry::distance_to_segment_mm(mm, wood.outer[i], wood.outer[(i + 1) % wood.outer.size()]) <
                    near)
                    return true;
        }
    return false;
}

void BoatView::move_cut(Cut cut, double at) {
    if (box_.empty) return;
    const double next = std::clamp(at, axis_of(cut).dot(box_.low), axis_of(cut).dot(box_.high));
    lively_ = cut;
    if (next == at_mm(cut)) return;
    cut_at(cut, next);
    update();
    emit cuts_moved();
}

void BoatView::show_only(std::optional<Cut> cut) {
    alone_ = cut;
    fit();
}

double BoatView::rounded(double mm) const {
    const double step = units::in_inches(state_.document.unit()) ? units::mm_per_inch / 4 : 5;
    return std::round(mm / step) * step;
}

bool BoatView::look_at_selected() {
    const std::string selected = state_.document.selected_piece().toStdString();
    const auto* unit = job::unit_of(state_.document.job(), selected);
    return look_at(state_.document.computed()->results,
                   [&](const std::string& id) { return unit ? job::is_of(id, unit->id) : id == selected; });
}

bool BoatView::look_at(const job::Results& results, const std::function<bool(const std::string&)>& wanted) {
    exchange::BoatBox box;
    for (const auto& piece : results.pieces) {
        const auto* o = piece.shape();
        for (const Vec2& q : o&& wanted(piece.id) ? o->face_a.outer : geometry::Ring{}) {
            const Vec3 p = o->frame.to_space(q) + o->thickness_mm / 2 * o->frame.normal;
            box.low = box.empty ? p : Vec3(box.low.cwiseMin(p));
            box.high = box.empty ? p : Vec3(box.high.cwiseMax(p));
            box.empty = false;
        }
    }
    if (box.empty) return false;
    // Not along a face: a little beside the middle.
    const Vec3 at = box.low + (box.high - box.low) * 0.42;
    for (Cut cut : all_cuts) move_cut(cut, rounded(axis_of(cut).dot(at)));
    lively_ = Cut::section;
    return true;
}

std::vector<Cut> BoatView::shown() const {
    if (alone_) return {*alone_};
    return {Cut::section, Cut::profile, Cut::plan};
}

/// Profile over plan at left, the section beside the profile, the close-up beside the plan: as much paper for each as
/// the boat is long, wide and high.
QRectF BoatView::room(Cut cut) const {
    const QRectF paper = QRectF(rect()).adjusted(margin_px, margin_px, -margin_px, -margin_px);
    if (alone_) return paper;
    const Vec3 size = (box_.high - box_.low).cwiseMax(Vec3::Constant(1));
    const double across = paper.width() - between_px, down = paper.height() - between_px;
    const double left = std::clamp(across * size.x() / (size.x() + size.y()), 0.35 * across, 0.65 * across);
    const double top = std::clamp(down * size.z() / (size.z() + size.y()), 0.35 * down, 0.6 * down);
    if (cut == Cut::profile) return {paper.left(), paper.top(), left, top};
    if (cut == Cut::plan) return {paper.left(), paper.top() + top + between_px, left, down - top};
    return {paper.left() + left + between_px, paper.top(), across - left, top};
}

QRectF BoatView::close_up_room() const {
    const QRectF section = room(Cut::section), plan = room(Cut::plan);
    return {section.left(), plan.top(), section.width(), plan.height()};
}

void BoatView::fit() {
    follow_ = true;
    if (box_.empty) return;
    centre_ = (box_.low + box_.high) / 2;
    scale_ = 1e9;
    for (Cut cut : shown()) {
        const auto frame = exchange::frame_of(cut);
        const QRectF space = room(cut).adjusted(6, 18, -6, -6);
        const Vec3 size = (box_.high - box_.low).cwiseMax(Vec3::Constant(1));
        scale_ = std::min(
            {scale_, space.width() / std::abs(frame.right.dot(size)), space.height() / std::abs(frame.up.dot(size))});
    }
    update();
}

QPointF BoatView::on_paper(Cut cut, const Vec2& mm) const {
    const Vec2 off = mm - exchange::frame_of(cut).to_drawing(centre_);
    return room(cut).center() + scale_ * QPointF(off.x(), -off.y());
}
QPointF BoatView::to_widget(Cut cut, const Vec3& in_boat) const {
    return on_paper(cut, exchange::frame_of(cut).to_drawing(in_boat));
}
Vec2 BoatView::drawing_at(Cut cut, const QPointF& at) const {
    const QPointF off = (at - room(cut).center()) / scale_;
    return exchange::frame_of(cut).to_drawing(centre_) + Vec2(off.x(), -off.y());
}
Vec3 BoatView::boat_at(Cut cut, const QPointF& at) const {
    const auto frame = exchange::frame_of(cut);
    const Vec2 d = drawing_at(cut, at);
    return d.x() * frame.right + d.y() * frame.up + at_mm(cut) * axis_of(cut);
}

std::optional<Cut> BoatView::cut_under(const QPointF& at) const {
    for (Cut cut : shown())
        if (room(cut).adjusted(-10, -10, 10, 10).contains(at)) return cut;
    return std::nullopt;
}

// ---- hands

std::optional<BoatView::Grip> BoatView::grip_at(const QPointF& at) const {
    if (alone_) return std::nullopt;
    for (Cut cut : all_cuts) {
        const QRectF space = room(cut).adjusted(-between_px / 2, -between_px / 2, between_px / 2, between_px / 2);
        if (!space.contains(at)) continue;
        for (Cut other : all_cuts) {
            if (other == cut) continue;
            const QPointF line = to_widget(cut, axis_of(other) * at_mm(other));
            const bool upright = std::abs(axis_of(other).dot(exchange::frame_of(cut).right)) > 0.5;
            const double off = upright ? std::abs(at.x() - line.x()) : std::abs(at.y() - line.y());
            const double to_end = upright ? space.bottom() - at.y() : space.right() - at.x();
            if (off < reach_px && to_end < 20) return Grip{cut, other};
        }
    }
    return std::nullopt;
}

std::string BoatView::piece_at(Cut cut, const QPointF& at) const {
    const Vec2 mm = drawing_at(cut, at);
    const double near = 4 / scale_;
    const auto& results = state_.document.computed()->results;
    const std::string selected = state_.document.selected_piece().toStdString();
    std::string best;
    double least = 1e18;
    for (const auto& piece : cuts_[index(cut)].pieces)
        for (const auto& wood : piece.wood) {
            double off = geometry::contains(wood, mm) ? 0 : 1e18;
            for (std::size_t i = 0; off > 0 && i < wood.outer.size(); ++i)
                off = std::min(off, geometry::distance_to_segment_mm(mm, wood.outer[i],
                                                                     wood.outer[(i + 1) % wood.outer.size()]));
            if (off > near) continue;
            // Of several the one that is cut through, not along: it is the smaller.
            const double size =
                std::abs(geometry::area_mm2(wood)) * (results.pieces[piece.piece].id == selected ? 0.5 : 1);
            if (size < least) least = size, best = results.pieces[piece.piece].id;
        }
    return best;
}

std::vector<geometry::Polygon> BoatView::obstacle_in(Cut cut, const job::JobObstacle& obstacle) const {
    const auto frame = exchange::frame_of(cut);
    const geometry::PlaneFrame plane{at_mm(cut) * axis_of(cut).cwiseAbs(), frame.right, frame.up, frame.look};
    piece::Obstacle bare = obstacle;
    bare.clearance_mm = 0;
    return piece::room_for(bare, plane, 1);
}

std::string BoatView::obstacle_at(Cut cut, const QPointF& at) const {
    const Vec2 mm = drawing_at(cut, at);
    for (const auto& obstacle : seen_->job.obstacles)
        for (const auto& stuff : obstacle_in(cut, obstacle))
            if (geometry::contains(stuff, mm)) return obstacle.id;
    return {};
}

void BoatView::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    last_ = event->position();
    held_ = {};
    if (box_.empty) return;
    held_.grip = event->button() == Qt::LeftButton ? grip_at(last_) : std::nullopt;
    if (held_.grip) {
        lively_ = held_.grip->moves;
        return update();
    }
    const auto cut = cut_under(last_);
    if (cut && event->button() == Qt::LeftButton) press_on(*cut, last_, event->modifiers());
    else held_.pan = true;
}

void BoatView::press_on(Cut cut, const QPointF& at, Qt::KeyboardModifiers with) {
    let_go();
    if (ghost_at(cut, at)) {
        held_.ghost = true;
        return;
    }
    hand_cut_ = cut;
    const std::string piece = piece_at(cut, at);
    if (piece.empty()) {
        if (const std::string obstacle = obstacle_at(cut, at); !obstacle.empty()) hand_.take_obstacle(obstacle);
        pulling_ = !hand_.empty(), held_.pan = hand_.empty();
        return;
    }
    // A click with Control adds a piece to what is chosen, or takes it away.
    if (with & Qt::ControlModifier) {
        auto ids = state_.document.together();
        if (ids.empty()) ids.push_back(state_.document.selected_piece().toStdString());
        if (std::erase(ids, piece) == 0) ids.push_back(piece);
        return state_.document.choose_together(std::move(ids));
    }
    state_.document.select_piece(QString::fromStdString(piece));
    hand_.take_piece(piece, exchange::frame_of(cut).look);
    pulling_ = !hand_.empty();
}

Vec3 BoatView::way_between(Cut cut, const QPointF& from, const QPointF& to) const {
    const auto frame = exchange::frame_of(cut);
    const QPointF by = (to - from) / scale_;
    return by.x() * frame.right - by.y() * frame.up;
}

BoatHand::Grain BoatView::grain(bool finely) const {
    constexpr double reach = 6;
    const bool inches = units::in_inches(state_.document.unit());
    if (finely) return {inches ? units::mm_per_inch / 32 : 1, 0};
    return {inches ? units::mm_per_inch / 4 : 5, reach / scale_};
}

void BoatView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position(), before = last_;
    last_ = now;
    const bool finely = event->modifiers() & Qt::ShiftModifier;
    constexpr double a_tenth = 0.1;
    if (held_.grip) {
        const Vec3 axis = axis_of(held_.grip->moves);
        return move_cut(held_.grip->moves, rounded(axis.dot(boat_at(held_.grip->in, now))));
    }
    const auto cut = cut_under(now);
    if (pulling_ && event->buttons() != Qt::NoButton) {
        if (cut != hand_cut_) return;  // over another cut it would leap
        hand_.pull((finely ? a_tenth : 1) * way_between(hand_cut_, before, now), grain(finely));
        return update();
    }
    if (!cut) return;
    if (held_.ghost) return state_.document.drag_ghost((finely ? a_tenth : 1) * way_between(*cut, before, now));
    if (held_.pan && event->buttons() != Qt::NoButton) {
        centre_ -= way_between(*cut, before, now);
        follow_ = false;
        return update();
    }
    pointed_ = piece_at(*cut, now);
    pointed_obstacle_ = pointed_.empty() ? obstacle_at(*cut, now) : std::string();
    close_up_ = CloseUp{*cut, drawing_at(*cut, now)};
    const bool holds = grip_at(now) || !pointed_.empty() || !pointed_obstacle_.empty();
    setCursor(holds ? Qt::SizeAllCursor : Qt::ArrowCursor);
    update();
}

void BoatView::mouseReleaseEvent(QMouseEvent*) {
    const bool moved = hand_.has_moved();
    // Taken hold of and let go: it is looked at. What was moved stays in hand, for the keys.
    const QString clicked = pulling_ && !moved ? QString::fromStdString(hand_.obstacle()) : QString();
    held_ = {};
    if (pulling_ && !moved) hand_.let_go();
    pulling_ = false;
    if (!clicked.isEmpty()) emit obstacle_clicked(clicked);
    update();
}

void BoatView::leaveEvent(QEvent*) {
    pointed_.clear(), pointed_obstacle_.clear();
    update();
}

// ---- what is in hand, by keys

void BoatView::let_go() {
    hand_.let_go();
    pulling_ = false;
    figure_fault_.clear();
    if (figure_) figure_->deleteLater();
    figure_ = nullptr;
    update();
}

void BoatView::take_chosen() {
    const std::string selected = state_.document.selected_piece().toStdString();
    if (selected.empty() || box_.empty) return;
    for (Cut cut : {lively_, Cut::plan, Cut::profile, Cut::section}) {
        hand_.take_piece(selected, exchange::frame_of(cut).look);
        hand_cut_ = cut;
        if (!hand_.empty()) break;
    }
    update();
}

bool BoatView::nudge(int key, bool far) {
    const auto frame = exchange::frame_of(hand_cut_);
    const Vec3 way = key == Qt::Key_Left    ? Vec3(-frame.right)
                     : key == Qt::Key_Right ? frame.right
                     : key == Qt::Key_Up    ? frame.up
                     : key == Qt::Key_Down  ? Vec3(-frame.up)
                                            : Vec3(Vec3::Zero());
    if (way.isZero()) return false;
    const bool inches = units::in_inches(state_.document.unit());
    const double step = inches ? units::mm_per_inch / (far ? 4 : 32) : far ? 10 : 1;
    hand_.nudge(step * way);
    update();
    return true;
}

bool BoatView::hand_key(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return let_go(), true;
    if (nudge(event->key(), event->modifiers() & Qt::ShiftModifier)) return true;
    const QString text = event->text();
    const bool begins = text.size() == 1 && (text[0].isDigit() || text[0] == '.' || text[0] == ',' || text[0] == '-');
    if (!begins || !hand_.figure() || (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) return false;
    type_figure(text);
    return true;
}

/// A field beside the pointer, for where exactly what is in hand is to stand.
void BoatView::type_figure(const QString& first) {
    const auto now = hand_.figure();
    if (figure_) figure_->deleteLater();
    figure_ = place_edit([this] { return state_.document.unit(); }, now->way, this);
    figure_->setAccessibleName("in hand: " + now->words);
    figure_->set_range(units::range::place.least, units::range::place.most);
    figure_->set_value(now->value_mm);
    figure_->resize(130, figure_->sizeHint().height());
    const QPointF at = last_ + QPointF(14, -40);
    figure_->move(static_cast<int>(std::clamp(at.x(), 4.0, width() - 134.0)),
                  static_cast<int>(std::clamp(at.y(), 4.0, height() - 60.0)));
    connect(figure_, &QuantityEdit::fault_changed, this, [this](const QString& fault) {
        figure_fault_ = fault;
        update();
    });
    connect(figure_, &QuantityEdit::taken, this, [this](double mm) {
        hand_.put(mm);
        update();
    });
    connect(figure_, &QLineEdit::editingFinished, this, [this, edit = figure_.data()] {
        if (edit->wrong() || edit != figure_) return;
        figure_ = nullptr;
        edit->deleteLater();
        if (edit->hasFocus()) setFocus();
    });
    figure_->show();
    figure_->setFocus();
    figure_->clear();
    figure_->insert(first);
    figure_->setModified(true);
}

void BoatView::wheelEvent(QWheelEvent* event) {
    event->accept();
    const auto cut = cut_under(event->position());
    if (!cut) return;
    const Vec3 before = boat_at(*cut, event->position());
    scale_ = std::clamp(scale_ * std::pow(1.0015, event->angleDelta().y()), 1e-3, 20.0);
    centre_ += before - boat_at(*cut, event->position());
    follow_ = false;
    update();
}

void BoatView::resizeEvent(QResizeEvent*) {
    if (follow_) fit();
}

void BoatView::keyPressEvent(QKeyEvent* event) {
    if (!hand_.empty() && hand_key(event)) return;
    const double step = event->modifiers() & Qt::ShiftModifier ? 100 : 10;
    const auto move = [&](Cut cut, double way) { move_cut(cut, at_mm(cut) + way * step); };
    switch (event->key()) {
        case Qt::Key_Left: return move(Cut::section, -1);
        case Qt::Key_Right: return move(Cut::section, 1);
        case Qt::Key_Up: return move(Cut::plan, 1);
        case Qt::Key_Down: return move(Cut::plan, -1);
        case Qt::Key_PageUp: return move(Cut::profile, 1);
        case Qt::Key_PageDown: return move(Cut::profile, -1);
        case Qt::Key_1: return show_only(Cut::section);
        case Qt::Key_2: return show_only(Cut::profile);
        case Qt::Key_3: return show_only(Cut::plan);
        case Qt::Key_4: return emit wants_3d();
        case Qt::Key_0: return show_only(std::nullopt);
        case Qt::Key_Return:
        case Qt::Key_Enter: return take_chosen();
        case Qt::Key_H:
            return event->modifiers() & Qt::ShiftModifier ? state_.document.show_hidden() : hide_selected();
        case Qt::Key_Plus:
        case Qt::Key_Equal: scale_ *= 1.25, follow_ = false; return update();
        case Qt::Key_Minus: scale_ *= 0.8, follow_ = false; return update();
        default: return QWidget::keyPressEvent(event);
    }
}

}  // namespace bevelsmith::app

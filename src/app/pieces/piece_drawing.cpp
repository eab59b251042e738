#include "app/pieces/piece_drawing.h"

#include <QMouseEvent>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/pieces/piece_sketch.h"
#include "app/widgets/next_readings.h"
#include "app/widgets/step.h"
#include "exchange/drawing.h"
#include "job/in_full.h"
#include "units/places.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

QString way_words(const Vec3& way) {
    const auto words = units::way_in_words(way.x(), way.y(), way.z());
    return QString::fromUtf8(words.data(), static_cast<int>(words.size()));
}

}  // namespace

PieceDrawing::PieceDrawing(PieceState& state, Shows shows) : state_(state), shows_(shows) {
    unit = [this] { return state_.document.unit(); };
    margin_px = 88;
    connect(&state_, &PieceState::changed, this, [this] { content_changed(); });
    connect(&state_, &PieceState::pointed, this, [this] { update(); });
}

geometry::Box PieceDrawing::content() const {
    const auto* shape = state_.shape();
    if (!shape) return state_.sketch() ? box_of(*state_.sketch()) : geometry::Box{};
    const auto a = geometry::bounding_box(shape->face_a.outer), b = geometry::bounding_box(shape->face_b.outer);
    return {a.min.cwiseMin(b.min), a.max.cwiseMax(b.max)};
}

Orientation PieceDrawing::lies() const {
    const auto* piece = state_.computed_piece();
    return piece ? orientation_of(piece->plane) : Orientation::upright;
}

QString PieceDrawing::empty_words() const {
    if (!state_.piece())
        return "No piece yet.\n\nA piece stands in a plane and is bounded by edges: some scribed to the hull, some "
               "straight. Add one at left: "
               "say where it stands, and its outline with bevels appears here.";
    const QString fault = state_.fault();
    return fault.isEmpty() ? "The outline is on its way."
                           : "No outline yet.\n\n" + state_.document.told(fault.toStdString());
}

void PieceDrawing::draw_shape(Pencil& pencil, const piece::Outline& shape) {
    const auto& c = theme().colours();
    const auto* piece = state_.computed_piece();
    pencil.pen(Qt::transparent, 0);
    pencil.painter().setPen(Qt::NoPen);
    pencil.fill(c.wood);
    pencil.polygon(shape.face_a);
    pencil.fill(Qt::NoBrush);
    if (piece) pencil.grain(shape.face_a, units::radians(piece->grain_deg), c.ink);
    // The 95 % band of the edge, as a halo along it.
    for (std::size_t i = 1; i < shape.marks.size(); ++i) {
        const auto &m = shape.marks[i], &before = shape.marks[i - 1];
        if (!m.kept || !before.kept || (m.a - before.a).norm() > 60) continue;
        pencil.painter().setPen(QPen(m.in_survey ? c.halo : QColor(c.stop.red(), c.stop.green(), c.stop.blue(), 70),
                                     std::max(5.0, 3.92 * pencil.px(m.sigma_mm)), Qt::SolidLine, Qt::FlatCap));
        pencil.line(before.a, m.a);
    }
    pencil.pen(c.ink, 1, Qt::DashLine);
    pencil.polygon(shape.face_b);
    pencil.pen(c.ink, 1.7);
    pencil.polygon(shape.face_a);
    // While one looks at what it is made of: what each part is cut out of, along the grain.
    if (piece && piece::is_made(piece->role) && shows_ == Shows::outline &&
        state_.facet().kind == Facet::Kind::making) {
        pencil.pen(c.faint, 1.1, Qt::DashLine);
        for (const auto& part : shape.parts) {
            const auto blank =
                geometry::transformed(geometry::rectangle(part.blank), units::radians(piece->grain_deg), {0, 0});
            pencil.path(blank, true);
            pencil.text(blank[0] + 0.5 * (blank[1] - blank[0]), "blank " + QString::fromStdString(part.id), {0, 12},
                        size::text_small);
        }
    }
    if (shape.sheet_a != shape.face_a) {
        pencil.pen(c.accent, 1.2, Qt::DotLine);
        pencil.polygon(shape.sheet_a);
    }
    const auto box = content();
    // Joints where there is wood, with a little to take hold of beyond it.
    pencil.painter().save();
    QPainterPath wood = pencil.path_of(shape.face_a);
    const double beyond = 14 / scale();
    wood.addRect(QRectF(pencil.at(box.max), pencil.at({box.min.x(), box.max.y() + beyond})).normalized());
    pencil.painter().setClipPath(wood);
    pencil.pen(c.accent, 1.3, Qt::DashDotLine);
    for (const auto& joint : shape.joints) {
        const double at = joint.at_mm, half = piece::scarf_overlap_mm(joint, shape.thickness_mm);
        for (double off : half > 0 ? std::vector<double>{-half, half} : std::vector<double>{0}) {
            if (joint.upright) pencil.line({at + off, box.min.y() - 12}, {at + off, box.max.y() + 12});
            else pencil.line({box.min.x() - 12, at + off}, {box.max.x() + 12, at + off});
        }
    }
    pencil.painter().restore();
}

void PieceDrawing::draw_edge_marks(Pencil& pencil, FreePlaces& places) {
    const auto& c = theme().colours();
    // The same places as on the papers.
    const auto drawing =
        exchange::bare_drawing_of(state_.document.computed()->job, state_.document.computed()->results,
                                  state_.document.selected_piece().toStdString());
    if (!drawing) return;
    const Vec2 corner = drawing->corner;
    for (const auto& tick : drawing->ticks) {
        const Vec2 at = tick.at + corner;
        const QPointF n = pencil.way(tick.outward);
        pencil.pen(c.certain, 1.2);
        pencil.painter().drawLine(pencil.at(at), pencil.at(at) + n * 9);
        const QString bevel = QString::fromStdString(units::format_angle(units::radians(tick.bevel_deg)));
        // On a small drawing not every figure has its room; the ticks, and the strip below, say how many there are.
        const QRectF box = box_of(pencil.at(at) + n * 26, bevel, size::text_small, false);
        if (!places.is_free(box)) continue;
        places.take(box);
        pencil.text(at, bevel, n * 26, size::text_small);
    }
    for (const auto& relief : drawing->reliefs) {
        auto line = relief.line;
        for (Vec2& p : line) p += corner;
        pencil.pen(relief.face == piece::Face::a ? c.certain : c.faint, 1, Qt::DotLine);
        pencil.fill(Qt::NoBrush);
        pencil.path(line);
    }
}

void PieceDrawing::draw_dimensions(Pencil& pencil, const piece::Outline& shape) {
    const auto& c = theme().colours();
    pencil.pen(c.faint, 1);
    const auto box = content();
    const auto figure = [&](double mm) { return state_.document.length(mm); };
    // Above or below, wherever fewer bevels are written.
    QPointF marks(0, 0);
    for (const auto& m : shape.marks)
        if (m.kept) marks += pencil.way(m.a - box.centre());
    const double beside = marks.y() < 0 ? -26 : 26;
    if (lies() == Orientation::upright) {
        const double y = marks.y() < 0 ? box.min.y() : box.max.y();
        pencil.dimension({box.min.x(), y}, {box.max.x(), y}, beside, figure(box.width()));
        pencil.dimension({box.min.x(), box.min.y()}, {box.min.x(), box.max.y()}, 68, figure(box.height()));
    } else {
        const double x = marks.y() < 0 ? box.max.x() : box.min.x();
        pencil.dimension({x, box.min.y()}, {x, box.max.y()}, beside, figure(box.height()));
        pencil.dimension({box.max.x(), box.min.y()}, {box.min.x(), box.min.y()}, 68, figure(box.width()));
    }
    for (const auto& hole : shape.face_a.holes) {
        const auto b = geometry::bounding_box(hole);
        const double low = b.min.y() + b.height() / 5, left = b.min.x() + b.width() / 5;
        pencil.dimension({b.min.x(), low}, {b.max.x(), low}, 0, figure(b.width()));
        pencil.dimension({left, b.min.y()}, {left, b.max.y()}, 0, figure(b.height()));
    }
}

/// Strips lie on the piece along its scribed edge; the widest shows the whole pack.
void PieceDrawing::draw_tabbing(Pencil& pencil, const piece::Outline& shape, const fixing::Tabbing& tabbing) {
    const auto& c = theme().colours();
    pencil.painter().save();
    pencil.painter().setClipPath(pencil.path_of(shape.face_a));
    for (auto it = tabbing.strip_widths_mm.rbegin(); it != tabbing.strip_widths_mm.rend(); ++it) {
        QColor shade = c.certain;
        shade.setAlphaF(0.16F);
        // Half of each strip lies on the piece, half on the hull.
        QPen pen(shade, 2 * pencil.px(*it / 2), Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin);
        QPainterPath path;
        bool down = false;
        for (const auto& m : shape.marks) {
            if (!m.kept) down = false;
            else if (!down) path.moveTo(pencil.at(m.a)), down = true;
            else path.lineTo(pencil.at(m.a));
        }
        pencil.painter().strokePath(path, pen);
    }
    pencil.painter().restore();
}

void PieceDrawing::draw_blocks(Pencil& pencil, const piece::Outline& shape, const fixing::Blocks& blocks) {
    const auto& c = theme().colours();
    const auto& rules = state_.document.computed()->job.fixing_rules;
    int number = 0;
    for (const auto& block : blocks.positions) {
        ++number;
        // Along the edge: towards the next mark.
        std::size_t near = 0;
        for (std::size_t i = 0; i < shape.marks.size(); ++i)
            if ((shape.marks[i].a - block.drawing).norm() < (shape.marks[near].a - block.drawing).norm()) near = i;
        const std::size_t other = near + 1 < shape.marks.size() ? near + 1 : near - 1;
        const double sign = other > near ? 1 : -1;
        const Vec2 along = (shape.marks[other].a - shape.marks[near].a).normalized() * sign,
                   in(-along.y(), along.x());
        const double l = rules.block_length_mm / 2, w = rules.block_width_mm;
        const std::vector<Vec2> ring{block.drawing - along * l, block.drawing + along * l,
                                     block.drawing + along * l + in * w, block.drawing - along * l + in * w};
        pencil.pen(c.accent, 1.5, Qt::DashLine);
        QColor shade = c.accent;
        shade.setAlphaF(0.25F);
        pencil.fill(shade);
        pencil.path(ring, true);
        pencil.pen(c.accent, 1.5);
        pencil.fill(Qt::NoBrush);
        pencil.cross(block.drawing + in * w / 2, 4);
        pencil.pen(c.ink, 1);
        const Vec2 out = block.drawing - in * 22 / scale();
        pencil.text(out, QString::number(number), {0, 0}, size::text, true);
    }
}

void PieceDrawing::draw_pointed(Pencil& pencil, const piece::Outline& shape) {
    const int i = state_.mark();
    if (i < 0 || i >= static_cast<int>(shape.marks.size())) return;
    const auto& m = shape.marks[static_cast<std::size_t>(i)];
    const auto& c = theme().colours();
    pencil.pen(c.accent, 2);
    pencil.fill(Qt::NoBrush);
    pencil.painter().drawEllipse(pencil.at(m.a), 6, 6);
    const QString words =
        QString("%1 along  bevel %2  %3")
            .arg(state_.document.length(m.arc_mm), QString::fromStdString(units::format_angle(m.bevel_rad)),
                 state_.document.band(m.sigma_mm));
    const double half = QFontMetricsF(Theme::font(size::text_small, true)).horizontalAdvance(words) / 2;
    const double side = pencil.at(m.a).x() > width() / 2.0 ? -1 : 1;
    pencil.text(m.a, words, {side * (half + 14), -14}, size::text_small, true);
}

/// Open diamonds where one more reading helps most, as seen square to the piece, with what is left after each.
void PieceDrawing::draw_next_readings(Pencil& pencil, const piece::Outline& shape, FreePlaces& places) {
    const auto* result = state_.result();
    if (!result || !result->forecast) return;
    constexpr double diamond_px = 6;
    const auto spots = worth_the_trip(result->forecast->suggestions, result->forecast->worst_mm);
    for (const auto& next : spots) {
        const Vec2 at = shape.frame.to_plane(next.position);
        pencil.pen(theme().colours().accent, 1.6);
        pencil.fill(theme().colours().paper);
        pencil.diamond(at, diamond_px);
        places.take({pencil.at(at) - QPointF(diamond_px, diamond_px), QSizeF(2 * diamond_px, 2 * diamond_px)});
    }
    int number = 0;
    for (const auto& next : spots) {
        const Vec2 at = shape.frame.to_plane(next.position);
        const double off = shape.frame.normal.dot(next.position - shape.frame.origin);
        QString words = QString("%1: %2").arg(++number).arg(state_.document.band(next.worst_mm));
        if (std::abs(off) > 5)
            words += ", " + state_.document.length(std::abs(off)) + " " + way_words(off * shape.frame.normal);
        // Where there is no room, "why?" beside the figure lists them all.
        if (const auto shift = places.beside(pencil.at(at), diamond_px, words, size::text_small, true))
            pencil.text(at, words, *shift, size::text_small, true);
    }
}

/// In practice, once it was offered up: the true hull beside the edge, its distance drawn larger than it is; red
/// where the piece is off by more than was wanted.
void PieceDrawing::draw_trial(Pencil& pencil, const piece::Outline& shape) {
    constexpr double widest_px = 32, roomy_px = 480;
    const auto* result = state_.result();
    if (!result || !result->trial || result->trial->gaps.empty()) return;
    const auto& gaps = result->trial->gaps;
    const auto& c = theme().colours();
    const double wanted = state_.computed_piece()->wanted_fit_mm;
    const double px_per_mm = widest_px / std::max(result->trial->largest_mm, wanted);
    const Vec2 middle = geometry::bounding_box(shape.face_a.outer).centre();
    QPointF before;
    for (std::size_t i = 0; i < gaps.size(); ++i) {
        const Vec2 along = gaps[std::min(i + 1, gaps.size() - 1)].at - gaps[i > 0 ? i - 1 : 0].at;
        Vec2 out = Vec2(along.y(), -along.x()).normalized();
        if (!out.allFinite()) continue;
        if (out.dot(gaps[i].at - middle) < 0) out = -out;
        const QPointF edge = pencil.at(gaps[i].at);
        const QPointF hull = edge + px_per_mm * gaps[i].gap_mm * pencil.way(out);
        pencil.pen(std::abs(gaps[i].gap_mm) > wanted ? c.stop : c.accent, 1);
        pencil.painter().drawLine(edge, hull);
        if (!before.isNull() && QLineF(before, hull).length() < 60) pencil.painter().drawLine(before, hull);
        before = hull;
    }
    if (width() < roomy_px) return;
    pencil.painter().setPen(c.accent);
    pencil.painter().setFont(Theme::font(size::text_small));
    pencil.painter().drawText(QRectF(16, height() - 24.0, width() - 32, 16), Qt::AlignRight,
                              QString("the true hull beside the edge, %1 times as far off")
                                  .arg(px_per_mm / std::max(scale(), 1e-9), 0, 'f', 0));
}

void PieceDrawing::draw(Pencil& pencil) {
    const auto* shape = state_.shape();
    if (shape) draw_all(pencil, *shape);
    else if (state_.sketch()) draw_sketch(pencil, *state_.sketch());
    else return;
    draw_pins(pencil);
    draw_held(pencil);
    draw_title(pencil.painter());
}

void PieceDrawing::draw_all(Pencil& pencil, const piece::Outline& shape_now) {
    const auto* shape = &shape_now;
    draw_shape(pencil, *shape);
    if (shows_ == Shows::fixings) {
        const auto& fixing = state_.result()->fixing;
        if (!state_.hull_said()) {
            // Nothing is drawn from what nobody has said.
        } else if (fixing.method == fixing::Method::tabbing) draw_tabbing(pencil, *shape, fixing.tabbing);
        else draw_blocks(pencil, *shape, fixing.blocks);
    } else {
        draw_dimensions(pencil, *shape);
        draw_trial(pencil, *shape);  // under the bevels' figures, which stay legible
        FreePlaces places;
        draw_edge_marks(pencil, places);
        places.keep_within(QRectF(rect()).adjusted(size::gap, size::gap, -size::gap, -size::gap));
        draw_next_readings(pencil, *shape, places);
    }
    draw_pointed(pencil, *shape);
}

/// The piece's name, and how its drawing is to be read or why there is no outline.
void PieceDrawing::draw_title(QPainter& painter) {
    const auto& c = theme().colours();
    const auto* piece = state_.computed_piece();
    painter.setPen(c.ink);
    painter.setFont(Theme::font(15, true));
    painter.drawText(QRectF(16, 8, width() - 32, 22), Qt::AlignLeft,
                     piece ? QString::fromStdString(piece->id + "  " + piece->name) : QString());
    painter.setFont(Theme::font(size::text_small));
    painter.setPen(state_.shape() ? c.faint : c.stop);
    const bool lands_in_fillet =
        piece && std::any_of(piece->edges.begin(), piece->edges.end(), [](const auto& e) { return e.fillet_mm > 0; });
    const QString words =
        !state_.shape()            ? "No outline yet. " + state_.document.told(state_.fault().toStdString())
        : shows_ == Shows::fixings ? "seen from face A"
        : state_.shape()->sheet_a != state_.shape()->face_a
            ? "seen from face A: finished face A solid, face B dashed, what is cut from the sheet dotted; "
              "+ open bevel"
            : "seen from face A: face A solid, face B dashed; + open bevel, face B reaches farther" +
                  (lands_in_fillet ? QString("; dotted: how far the arrises come off") : QString());
    painter.drawText(QRectF(16, 29, width() - 32, 48), Qt::AlignLeft | Qt::TextWordWrap, words);
}

void PieceDrawing::hover(const Vec2& mm) {
    const auto* shape = state_.shape();
    // What a drag broke, a drag mends: lines without an outline can be taken hold of as well.
    if (!shape) return setCursor(handle_at(mm).kind != Handle::Kind::none ? Qt::SizeAllCursor : Qt::ArrowCursor);
    int nearest = -1;
    double best = 16 / scale();
    for (std::size_t i = 0; i < shape->marks.size(); ++i)
        if (const double d = (shape->marks[i].a - mm).norm(); shape->marks[i].kept && d < best) {
            best = d;
            nearest = static_cast<int>(i);
        }
    state_.point_at(nearest);
    setCursor(nearest < 0 && handle_at(mm).kind != Handle::Kind::none ? Qt::SizeAllCursor : Qt::ArrowCursor);
}

PieceDrawing::Handle PieceDrawing::handle_at(const Vec2& mm) const {
    const auto* piece = state_.piece();
    if (!piece || shows_ == Shows::fixings) return {};
    const double reach = 7 / scale();
    for (std::size_t i = 0; i < piece->edges.size(); ++i)
        for (std::size_t k = 0; k < piece->edges[i].line.size(); ++k)
            if ((piece->edges[i].line[k].at - mm).norm() < reach) return {Handle::Kind::pin, i, {0, 0}, {0, 0}, k};
    for (std::size_t i = 0; i < piece->joints.size(); ++i)
        if (std::abs((piece->joints[i].upright ? mm.x() : mm.y()) - piece->joints[i].at_mm) < reach)
            return {Handle::Kind::joint, i, {0, 0}, {0, 0}, 0};
    for (std::size_t i = 0; i < piece->openings.size(); ++i) {
        const auto& o = piece->openings[i];
        const Vec2 corner(o.left_mm, o.bottom_mm), in = mm - corner;
        const double sides[] = {std::abs(in.x()), std::abs(in.x() - o.width_mm), std::abs(in.y()),
                                std::abs(in.y() - o.height_mm)};
        const Vec2 ways[] = {{-1, 0}, {1, 0}, {0, -1}, {0, 1}};
        if (in.x() < -reach || in.y() < -reach || in.x() > o.width_mm + reach || in.y() > o.height_mm + reach)
            continue;
        const auto nearest = std::min_element(std::begin(sides), std::end(sides)) - std::begin(sides);
        return {Handle::Kind::opening, i, in, sides[nearest] < reach ? ways[nearest] : Vec2(0, 0), 0};
    }
    const auto box = content();
    const bool near = mm.x() > box.min.x() - reach && mm.x() < box.max.x() + reach && mm.y() > box.min.y() - reach &&
                      mm.y() < box.max.y() + reach;
    for (std::size_t i = 0; near && i < piece->edges.size(); ++i) {
        const auto& e = piece->edges[i];
        if (e.kind == piece::EdgeKind::straight && std::abs(e.side.dot(mm) - e.at_mm) < reach * e.side.norm())
            return {Handle::Kind::straight_edge, i, {0, 0}, {0, 0}, 0};
    }
    return {};
}

bool PieceDrawing::press(const Vec2& mm) {
    held_ = handle_at(mm);
    ++drags_;
    // What is taken hold of is what the facts show.
    using K = Facet::Kind;
    if (held_.kind == Handle::Kind::straight_edge || held_.kind == Handle::Kind::pin)
        state_.choose({K::edge, held_.index});
    else if (held_.kind == Handle::Kind::opening) state_.choose({K::opening, held_.index});
    else if (held_.kind == Handle::Kind::joint) state_.choose({K::joint, held_.index});
    else if (state_.shape() && state_.mark() >= 0)
        state_.choose(
            {K::edge, static_cast<std::size_t>(state_.shape()->marks[static_cast<std::size_t>(state_.mark())].edge)});
    return held_.kind != Handle::Kind::none;
}

void PieceDrawing::drag(const Vec2& mm) {
    pointer_ = mm;
    snapped_to_.clear();
    const auto snap = [&](double v, bool upright) {
        const Snap to = snapped(v, upright);
        snapped_to_ = to.words;
        return to.at_mm;
    };
    const QString key = QString("drag %1").arg(drags_);
    const std::size_t i = held_.index;
    const auto change = [&](const QString& what, const std::function<void(job::JobPiece&)>& apply) {
        edit_piece(state_.document, state_.document.selected_piece(), what, apply, key);
    };
    if (held_.kind == Handle::Kind::straight_edge)
        change("Move an edge", [&](job::JobPiece& p) {
            const Vec2& side = p.edges[i].side;
            const bool upright = std::abs(side.y()) < 1e-9, level = std::abs(side.x()) < 1e-9;
            const double sign = side.x() + side.y() < 0 ? -1 : 1;
            if (upright || level) p.edges[i].at_mm = sign * snap(upright ? mm.x() : mm.y(), upright);
            else p.edges[i].at_mm = std::round(side.dot(mm) / 5) * 5;
        });
    else if (held_.kind == Handle::Kind::opening)
        change(held_.side.norm() > 0 ? "Move an opening's side" : "Move an opening",
               [&](job::JobPiece& p) { drag_opening(p.openings[i], mm); });
    else if (held_.kind == Handle::Kind::pin)
        change("Move a pin", [&](job::JobPiece& p) {
            const double x = snap(mm.x(), true);
            const QString across = snapped_to_;
            p.edges[i].line[held_.pin].at = {x, snap(mm.y(), false)};
            snapped_to_ = across + ", " + snapped_to_;
        });
    else if (held_.kind == Handle::Kind::joint)
        change("Move a joint", [&](job::JobPiece& p) {
            const bool upright = p.joints[i].upright;
            p.joints[i].at_mm = snap(upright ? mm.x() : mm.y(), upright);
        });
    update();
}

/// The nearest of the piece's own places within reach, else whole 5 mm.
PieceDrawing::Snap PieceDrawing::snapped(double mm, bool upright) const {
    const auto* piece = state_.piece();
    const double reach = 6 / scale();
    Snap best{std::clamp(std::round(mm / 5) * 5, units::range::place.least, units::range::place.most),
              state_.document.length(mm)};
    double nearest = reach;
    const auto offer = [&](double at, const QString& words) {
        if (const double off = std::abs(at - mm); off < nearest) nearest = off, best = {at, words};
    };
    if (upright && std::abs(piece->plane.normal.y()) < 0.5) offer(0, "the centre line");
    for (std::size_t k = 0; k < piece->edges.size(); ++k) {
        const auto& e = piece->edges[k];
        if (held_.kind == Handle::Kind::straight_edge && held_.index == k) continue;
        if (e.kind != piece::EdgeKind::straight || std::abs(upright ? e.side.y() : e.side.x()) > 1e-9) continue;
        offer(e.at_mm * (e.side.x() + e.side.y()), "flush with " + QString::fromStdString(e.name));
    }
    for (std::size_t k = 0; k < piece->openings.size(); ++k) {
        const auto& o = piece->openings[k];
        if (held_.kind == Handle::Kind::opening && held_.index == k) continue;
        const QString name = QString::fromStdString(o.name);
        offer(upright ? o.left_mm : o.bottom_mm, "in line with " + name);
        offer(upright ? o.left_mm + o.width_mm : o.bottom_mm + o.height_mm, "in line with " + name);
        offer(upright ? o.left_mm + o.width_mm / 2 : o.bottom_mm + o.height_mm / 2, "the middle of " + name);
    }
    return best;
}

/// A side that is held moves alone; held within, all of it moves.
void PieceDrawing::drag_opening(piece::OpeningSpec& o, const Vec2& mm) {
    constexpr double least_mm = 10;
    const auto snap = [&](double v, bool upright) {
        const Snap to = snapped(v, upright);
        snapped_to_ = to.words;
        return to.at_mm;
    };
    if (held_.side.x() > 0) o.width_mm = std::max(least_mm, snap(mm.x(), true) - o.left_mm);
    else if (held_.side.y() > 0) o.height_mm = std::max(least_mm, snap(mm.y(), false) - o.bottom_mm);
    else if (held_.side.x() < 0) {
        const double right = o.left_mm + o.width_mm;
        o.left_mm = std::min(snap(mm.x(), true), right - least_mm);
        o.width_mm = right - o.left_mm;
    } else if (held_.side.y() < 0) {
        const double top = o.bottom_mm + o.height_mm;
        o.bottom_mm = std::min(snap(mm.y(), false), top - least_mm);
        o.height_mm = top - o.bottom_mm;
    } else {
        o.left_mm = snap(mm.x() - held_.offset.x(), true);
        o.bottom_mm = snap(mm.y() - held_.offset.y(), false);
    }
}

void PieceDrawing::release(const Vec2&) {
    held_ = {};
    snapped_to_.clear();
    update();
}

/// The pins of free edges, to be taken hold of: a ring where a batten runs through, a square at a corner.
void PieceDrawing::draw_pins(Pencil& pencil) {
    const auto* piece = state_.piece();
    if (!piece || shows_ == Shows::fixings) return;
    const auto& c = theme().colours();
    pencil.pen(c.accent, 1.4);
    pencil.fill(c.paper);
    for (const auto& edge : piece->edges)
        for (const auto& pin : edge.line) {
            const QPointF at = pencil.at(pin.at);
            if (pin.smooth) pencil.painter().drawEllipse(at, 4, 4);
            else pencil.painter().drawRect(QRectF(at - QPointF(3.5, 3.5), QSizeF(7, 7)));
        }
    pencil.fill(Qt::NoBrush);
}

/// What is held, as it is in the job: it runs ahead of the outline, which is computed.
void PieceDrawing::draw_held(Pencil& pencil) {
    const auto* piece = state_.piece();
    if (!piece || held_.kind == Handle::Kind::none || snapped_to_.isEmpty()) return;
    const auto& c = theme().colours();
    const auto box = content();
    pencil.pen(c.accent, 1.6);
    pencil.fill(Qt::NoBrush);
    if (held_.kind == Handle::Kind::opening && held_.index < piece->openings.size()) {
        const auto& o = piece->openings[held_.index];
        pencil.path({{o.left_mm, o.bottom_mm},
                     {o.left_mm + o.width_mm, o.bottom_mm},
                     {o.left_mm + o.width_mm, o.bottom_mm + o.height_mm},
                     {o.left_mm, o.bottom_mm + o.height_mm}},
                    true);
    } else if (held_.kind == Handle::Kind::joint && held_.index < piece->joints.size()) {
        const auto& j = piece->joints[held_.index];
        if (j.upright) pencil.line({j.at_mm, box.min.y()}, {j.at_mm, box.max.y()});
        else pencil.line({box.min.x(), j.at_mm}, {box.max.x(), j.at_mm});
    } else if (held_.kind == Handle::Kind::straight_edge && held_.index < piece->edges.size()) {
        const auto& e = piece->edges[held_.index];
        const Vec2 n = e.side.normalized(), along(-n.y(), n.x()), middle = box.centre();
        const Vec2 on = middle + (e.at_mm / e.side.norm() - n.dot(middle)) * n;
        pencil.line(on - box.size().norm() / 2 * along, on + box.size().norm() / 2 * along);
    }
    pencil.text(pointer_, snapped_to_, {0, -22}, size::text_small, true);
}

}  // namespace bevelsmith::app

#include "app/measure/measure_drawing.h"

#include <QApplication>
#include <QMouseEvent>
#include <algorithm>
#include <array>
#include <cmath>

#include "app/look/theme.h"
#include "app/measure/school_sketch.h"
#include "app/widgets/free_places.h"
#include "app/widgets/next_readings.h"

namespace bevelsmith::app {
namespace {

constexpr int most_ringed = 40;

/// In lines of about forty letters.
QString wrapped(const QString& text) {
    constexpr int wide = 40;
    QString out;
    int used = 0;
    for (const QString& word : text.split(' ')) {
        if (used > 0 && used + word.size() > wide) out += '\n', used = 0;
        out += (used > 0 ? " " : "") + word;
        used += static_cast<int>(word.size()) + 1;
    }
    return out;
}

/// More readings than this are a scan: no longer told apart by eye.
constexpr std::size_t most_apart = 500;

}  // namespace

MeasureState::MeasureState(Document& d) : document(d) {
    connect(&document, &Document::job_changed, this, &MeasureState::rebuild);
    connect(&document, &Document::computed_changed, this, &MeasureState::rebuild);
    connect(&document, &Document::selection_changed, this, &MeasureState::rebuild);
    rebuild();
}

const job::JobReadingSet* MeasureState::set() const {
    const auto& all = document.job().readings;
    return set_ >= 0 && set_ < static_cast<int>(all.size()) ? &all[static_cast<std::size_t>(set_)] : nullptr;
}

void MeasureState::show_set(int index) {
    set_ = index;
    reading_ = -1;
    rebuild();
}

void MeasureState::point_at(int reading) {
    if (reading == reading_) return;
    reading_ = reading;
    emit pointed(reading);
}

void MeasureState::rebuild() {
    set_ = std::clamp(set_, 0, std::max(0, static_cast<int>(document.job().readings.size()) - 1));
    picture_ = picture_of(document.job(), *document.computed(), set_);
    if (reading_ >= static_cast<int>(picture_.readings.size())) reading_ = -1;
    emit changed();
}

MeasureDrawing::MeasureDrawing(MeasureState& state) : state_(state) {
    unit = [this] { return state_.document.unit(); };
    connect(&state_, &MeasureState::changed, this, [this] { content_changed(); });
    connect(&state_, &MeasureState::pointed, this, [this] { update(); });
}

bool MeasureDrawing::press(const Vec2& mm) {
    if (!(QApplication::keyboardModifiers() & Qt::ControlModifier)) return false;
    loop_ = {mm};
    return true;
}

void MeasureDrawing::drag(const Vec2& mm) {
    constexpr double apart_px = 2;
    if (loop_.empty() || (mm - loop_.back()).norm() * scale() < apart_px) return;
    loop_.push_back(mm);
    update();
}

void MeasureDrawing::release(const Vec2&) {
    const geometry::Polygon loop{std::exchange(loop_, {}), {}};
    update();
    if (loop.outer.size() < 3) return;
    std::vector<int> inside;
    const auto& readings = state_.picture().readings;
    for (std::size_t k = 0; k < readings.size(); ++k)
        if (geometry::contains(loop, readings[k].at)) inside.push_back(static_cast<int>(k));
    emit looped(inside);
}

geometry::Box MeasureDrawing::content() const {
    const auto& p = state_.picture();
    if (p.readings.empty()) return {};
    // One reading alone still has a place on the paper.
    const Vec2 least(200, 200), half = ((least - p.box.size()) / 2).cwiseMax(Vec2(0, 0));
    return {p.box.min - half, p.box.max + half};
}

QString MeasureDrawing::empty_words() const {
    if (!state_.set())
        return "No readings yet.\n\nA set of readings belongs to one line, one pattern or one instrument. Make a set "
               "at right, then type what "
               "you read at the boat: Enter takes a reading and waits for the next.";
    return "No readings here yet: type the first one at right, Enter takes it.\nThree stations or more, twelve "
           "readings or "
           "more, and some beyond the "
           "edge you want to cut: then the surface appears here.";
}

/// How the set's instrument is held, and what to type.
void MeasureDrawing::draw_empty(QPainter& painter) {
    const auto* set = state_.set();
    if (!set) return DrawingView::draw_empty(painter);
    const double w = std::min(560.0, width() - 80.0), h = w * 150 / 320;
    const QRectF box((width() - w) / 2, std::max(16.0, height() / 2.0 - h * 0.72), w, h);
    draw_school(painter, box, set->school);
    painter.setPen(theme().colours().faint);
    painter.setFont(Theme::font(15));
    painter.drawText(QRectF(80, box.bottom() + 20, width() - 160.0, height() - box.bottom() - 30),
                     Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, empty_words());
}

void MeasureDrawing::draw_curves(Pencil& pencil) {
    const auto& c = theme().colours();
    for (const auto& curve : state_.picture().curves) {
        for (std::size_t i = 1; i < curve.points.size(); ++i) {
            // The 95 % band, never thinner than can be seen.
            const double band = std::max(3.0, 2 * 1.96 * pencil.px((curve.sigma_mm[i] + curve.sigma_mm[i - 1]) / 2));
            QPen halo(c.halo, band, Qt::SolidLine, Qt::FlatCap);
            pencil.painter().setPen(halo);
            pencil.line(curve.points[i - 1], curve.points[i]);
        }
        for (std::size_t i = 1; i < curve.points.size(); ++i) {
            pencil.pen(c.certain, 1.6, curve.in_survey[i] ? Qt::SolidLine : Qt::DotLine);
            pencil.line(curve.points[i - 1], curve.points[i]);
        }
    }
}

void MeasureDrawing::draw_readings(Pencil& pencil) {
    const auto& c = theme().colours();
    const auto& readings = state_.picture().readings;
    int doubtful = 0;
    // Rings and numbers for what a person can look at one by one; the strays of a scan are red and that is all.
    const bool few = std::count_if(readings.begin(), readings.end(),
                                   [](const ReadingPicture& r) { return r.suspect && !r.disabled; }) <= most_ringed;
    const bool many = readings.size() > most_apart;
    for (std::size_t i = 0; i < readings.size(); ++i) {
        const auto& r = readings[i];
        const QColor colour = r.disabled ? c.faint : r.suspect ? c.stop : c.ink;
        if (many) {
            const double half = r.suspect ? 1.5 : 0.8;
            pencil.painter().fillRect(QRectF(pencil.at(r.at) - QPointF(half, half), QSizeF(2 * half, 2 * half)),
                                      colour);
        } else {
            pencil.pen(colour, 1.3);
            pencil.cross(r.at, 4);
        }
        const double whisker = pencil.px(2 * r.sigma_mm);
        if (!many && r.outward.norm() > 1e-6 && whisker > 5) {
            const QPointF n(r.outward.x(), -r.outward.y()), at = pencil.at(r.at);
            pencil.painter().drawLine(at - n * whisker, at + n * whisker);
        }
        if (r.suspect && !r.disabled && few) {
            pencil.fill(Qt::NoBrush);
            pencil.painter().drawEllipse(pencil.at(r.at), 9, 9);
            pencil.text(r.at, QString::number(++doubtful), {16, -12}, size::text_small, true);
        }
        if (static_cast<int>(i) != state_.reading()) continue;
        pencil.pen(c.accent, 2);
        pencil.fill(Qt::NoBrush);
        pencil.painter().drawEllipse(pencil.at(r.at), 7, 7);
        QString words = QString("reading %1").arg(i + 1);
        if (r.fitted)
            words +=
                ", " + state_.document.fine(std::abs(r.residual_mm)) + (r.residual_mm > 0 ? " outside" : " inside");
        if (!r.hint.isEmpty()) words += "\n" + wrapped(r.hint.section(". ", 1));
        const auto lines = words.split('\n');
        const double side = r.at.x() > state_.picture().box.centre().x() ? -1 : 1;
        for (int k = 0; k < lines.size(); ++k) {
            const double half = QFontMetricsF(Theme::font(size::text_small, true)).horizontalAdvance(lines[k]) / 2;
            pencil.text(r.at, lines[k], {side * (half + 16), 14.0 + 16 * k}, size::text_small, true);
        }
    }
}

void MeasureDrawing::draw(Pencil& pencil) {
    const auto& c = theme().colours();
    const auto& picture = state_.picture();
    pencil.pen(c.line, 1);
    for (const auto& [from, to] : picture.ordinates) pencil.line(from, to);
    if (picture.base.size() == 2) {
        pencil.pen(c.ink, 1, Qt::DashDotLine);
        pencil.line(picture.base[0], picture.base[1]);
    }
    draw_aids(pencil);
    draw_curves(pencil);
    draw_readings(pencil);
    draw_next(pencil);
    draw_held(pencil.painter());
    if (picture.leans) draw_levels(pencil);
    pencil.painter().setPen(c.faint);
    pencil.painter().setFont(Theme::font(size::text_small));
    const Vec3& n = picture.frame.normal;
    const QString view = std::abs(n.x()) > 0.9   ? "looking forward; right is starboard"
                         : std::abs(n.y()) > 0.9 ? "looking to port; right is forward"
                                                 : "from above; right is forward, up is port";
    const QString shown = QFontMetrics(pencil.painter().font()).elidedText(view, Qt::ElideRight, width() - 32);
    const QRectF words = QFontMetricsF(pencil.painter().font()).boundingRect(shown);
    pencil.painter().fillRect(QRectF(14, 8, words.width() + 6, 19), c.paper);
    pencil.painter().drawText(QRectF(16, 10, width() - 32, 18), Qt::AlignLeft, shown);
    if (!picture.fault.isEmpty()) {
        pencil.painter().setPen(c.mind);
        pencil.painter().drawText(QRectF(16, 28, width() - 32, 60), Qt::AlignLeft | Qt::TextWordWrap, picture.fault);
    }
    if (loop_.size() > 1) {
        pencil.pen(theme().colours().accent, 1.4);
        pencil.path(loop_);
    }
}

/// Beside the first readings: how the instrument is held, until its line is long enough to show it.
void MeasureDrawing::draw_held(QPainter& painter) {
    constexpr std::size_t first_readings = 4;
    constexpr int roomy_px = 520;
    const auto* set = state_.set();
    if (!set || set->readings.size() >= first_readings || width() < roomy_px) return;
    // In the corner that is farthest from what was read.
    const QSizeF size(250, 117);
    QRectF box;
    double farthest = -1;
    for (const QPointF& corner : {QPointF(width() - 262.0, height() - 130.0), QPointF(width() - 262.0, 52),
                                  QPointF(12, 52), QPointF(12, height() - 160.0)}) {
        const QRectF here(corner, size);
        double nearest = 1e9;
        for (const auto& r : state_.picture().readings)
            nearest = std::min(nearest, QLineF(to_widget(r.at), here.center()).length());
        if (nearest > farthest) farthest = nearest, box = here;
    }
    painter.fillRect(box.adjusted(-6, -4, 6, 4), theme().colours().paper);
    draw_school(painter, box, set->school);
}

void MeasureDrawing::draw_aid(Pencil& pencil, const Aid& aid) {
    const auto& c = theme().colours();
    switch (aid.kind) {
        case Aid::Kind::ray: pencil.pen(c.line, 1); break;
        case Aid::Kind::stick: pencil.pen(c.wood.darker(125), 3); break;
        case Aid::Kind::edge: pencil.pen(c.ink, 1.4); break;
        case Aid::Kind::angle: break;
        case Aid::Kind::pin:
            pencil.pen(c.ink, 1.4);
            pencil.fill(c.paper);
            pencil.painter().drawEllipse(pencil.at(aid.from), 4, 4);
            break;
        case Aid::Kind::corner:
            pencil.pen(c.accent, 1.6);
            pencil.cross(aid.from, 7);
            break;
    }
    if (aid.from != aid.to) pencil.line(aid.from, aid.to);
}

/// The instrument as it stood at each reading: rays first, so that pins and words stand on them.
void MeasureDrawing::draw_aids(Pencil& pencil) {
    for (const bool rays : {true, false})
        for (const Aid& aid : state_.picture().aids)
            if ((aid.kind == Aid::Kind::ray) == rays) draw_aid(pencil, aid);
    name_aids(pencil);
}

/// Beside each where it covers no reading; on a small drawing none, where they would stand far from what they name.
void MeasureDrawing::name_aids(Pencil& pencil) {
    constexpr double mark_px = 4, ringed_px = 22;  // a ring has its number beside it
    constexpr double roomy_px = 160;
    if (pencil.px(state_.picture().box.width()) < roomy_px) return;
    FreePlaces places;
    if (state_.picture().readings.size() <= most_apart)
        for (const auto& r : state_.picture().readings) {
            const double reach = r.suspect ? ringed_px : mark_px;
            places.take({pencil.at(r.at) - QPointF(reach, reach), QSizeF(2 * reach, 2 * reach)});
        }
    pencil.pen(theme().colours().ink, 1);
    for (const Aid& aid : state_.picture().aids) {
        if (aid.words.isEmpty()) continue;
        if (const auto shift = places.beside(pencil.at(aid.from), mark_px, aid.words, size::text_small, false))
            pencil.text(aid.from, aid.words, *shift, size::text_small);
    }
}

/// The boat's level and plumb, and the hard's across them.
void MeasureDrawing::draw_levels(Pencil& pencil) {
    const auto& c = theme().colours();
    const Vec2 plumb = state_.picture().plumb;
    constexpr int roomy_px = 360;  // less, and it would lie over the scale
    if (plumb.norm() < 0.5 || width() < roomy_px) return;
    QPainter& p = pencil.painter();
    const QPointF middle(width() - 70, height() - 74);
    const double reach = 34, off = std::atan2(plumb.x(), plumb.y());
    p.fillRect(QRectF(middle.x() - 62, middle.y() - reach - 6, 124, 2 * reach + 28), c.paper);
    const auto cross_lines = [&](double turned, const QPen& pen) {
        p.save();
        p.translate(middle);
        p.rotate(turned * 180 / M_PI);
        p.setPen(pen);
        p.drawLine(QPointF(-reach, 0), QPointF(reach, 0));
        p.drawLine(QPointF(0, -reach), QPointF(0, reach));
        p.restore();
    };
    cross_lines(0, QPen(c.certain, 1.8));
    cross_lines(off, QPen(c.accent, 1.4, Qt::DashLine));
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(middle.x() - 60, middle.y() + reach + 4, 120, 16), Qt::AlignHCenter,
               QString("boat – – hard %1°").arg(std::abs(off) * 180 / M_PI, 0, 'f', 1));
}

/// Where the chosen piece, or else the surface, would gain most, as far as it lies near this set's plane.
void MeasureDrawing::draw_next(Pencil& pencil) {
    constexpr double near_mm = 150;
    if (!state_.set()) return;
    const auto proposed = next_readings(state_.document, state_.set()->surface_id);
    if (!proposed || proposed->surface_id != state_.set()->surface_id) return;
    const auto& frame = state_.picture().frame;
    int number = 0;
    for (const auto& next : proposed->spots) {
        ++number;
        if (std::abs(frame.normal.dot(next.position - frame.origin)) > near_mm) continue;
        pencil.pen(theme().colours().accent, 1.6);
        pencil.fill(theme().colours().paper);
        const Vec2 at = frame.to_plane(next.position);
        pencil.diamond(at, 6);
        pencil.text(at, QString("next %1").arg(number), {0, -15}, size::text_small, true);
    }
}

void MeasureDrawing::hover(const Vec2& mm) {
    int nearest = -1;
    double best = 14 / scale();
    const auto& readings = state_.picture().readings;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (const double d = (readings[i].at - mm).norm(); d < best) {
            best = d;
            nearest = static_cast<int>(i);
        }
    state_.point_at(nearest);
}

MeasureRibbon::MeasureRibbon(MeasureState& state) : state_(state) {
    setMouseTracking(true);
    connect(&state_, &MeasureState::changed, this, qOverload<>(&QWidget::update));
    connect(&state_, &MeasureState::pointed, this, qOverload<>(&QWidget::update));
}

double MeasureRibbon::x_of(int reading) const {
    const auto n = std::max<std::size_t>(1, state_.picture().readings.size());
    const double step = std::min(44.0, (width() - 120.0) / static_cast<double>(n));
    return 96 + step * (reading + 0.5);
}

void MeasureRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    const auto& readings = state_.picture().readings;
    const double middle = height() / 2.0;
    double most = 3;
    for (const auto& r : readings) most = std::max(most, std::min(r.suspect ? 0.0 : std::abs(r.residual_mm), 20.0));
    most = std::ceil(most * 1.15);
    const double scale = (height() / 2.0 - 16) / most;
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(12, 8, 84, 32), Qt::TextWordWrap, "off the surface");
    if (readings.empty()) {
        p.drawText(rect(), Qt::AlignCenter,
                   "Here the readings will stand in order, each with its distance from the surface.");
        return;
    }
    if (readings.size() > most_apart) return draw_histogram(p);
    p.drawText(QRectF(12, height() - 24.0, 84, 16), Qt::AlignLeft, "± " + state_.document.fine(most));
    p.setPen(QPen(c.line, 1));
    p.drawLine(QPointF(96, middle), QPointF(width() - 16, middle));
    double labelled_to = 0;
    for (int i = 0; i < static_cast<int>(readings.size()); ++i) {
        const auto& r = readings[static_cast<std::size_t>(i)];
        const double x = x_of(i), half = std::clamp((x_of(1) - x_of(0)) * 0.3, 1.5, 7.0);
        const double band = std::min(2 * r.sigma_mm, most) * scale;
        p.fillRect(QRectF(x - half - 1, middle - band, 2 * half + 2, 2 * band), c.halo);
        if (!r.fitted) {
            p.setPen(QPen(c.faint, 1, Qt::DotLine));
            p.drawLine(QPointF(x, middle - 8), QPointF(x, middle + 8));
            continue;
        }
        const double bar = std::clamp(r.residual_mm, -most, most) * scale;
        p.fillRect(QRectF(QPointF(x - half, middle), QPointF(x + half, middle - bar)).normalized(),
                   i == state_.reading() ? c.accent
                   : r.suspect           ? c.stop
                                         : c.certain);
        if (r.suspect && x - labelled_to > 36) {  // neighbours' figures must not run into each other
            labelled_to = x;
            p.setPen(c.stop);
            p.drawText(QRectF(x - 40, r.residual_mm > 0 ? 0 : height() - 16.0, 80, 14), Qt::AlignHCenter,
                       state_.document.fine_signed(r.residual_mm));
        }
    }
}

/// Of a scan: how many points lie how far off. What lies beyond is counted at the ends.
void MeasureRibbon::draw_histogram(QPainter& p) {
    constexpr int bins = 61;
    const auto& c = theme().colours();
    const auto& readings = state_.picture().readings;
    const double most = std::max(1.0, std::ceil(4 * readings.front().sigma_mm));
    std::array<int, bins> good{}, doubtful{};
    int within = 0, outside = 0;
    for (const auto& r : readings) {
        if (!r.fitted || r.disabled) continue;
        const int bin = static_cast<int>(std::floor(bins * (r.residual_mm / most + 1) / 2));
        if (bin < 0) ++within;
        else if (bin >= bins) ++outside;
        else ++(r.suspect ? doubtful : good)[static_cast<std::size_t>(bin)];
    }
    const double left = 96 + 110, right = width() - 16.0 - 110, base = height() - 22.0, top = 12;
    const double step = (right - left) / bins;
    const int highest = std::max(1, *std::max_element(good.begin(), good.end()));
    const auto height_of = [&](int count) { return (base - top) * std::min(1.0, 1.0 * count / highest); };
    for (std::size_t k = 0; k < bins; ++k) {
        const double x = left + step * static_cast<double>(k);
        p.fillRect(QRectF(x + 0.5, base - height_of(good[k]), step - 1, height_of(good[k])), c.certain);
        const double red = height_of(doubtful[k]);
        p.fillRect(QRectF(x + 0.5, base - height_of(good[k]) - red, step - 1, red), c.stop);
    }
    p.setPen(QPen(c.line, 1));
    p.drawLine(QPointF(96, base), QPointF(width() - 16.0, base));
    p.setPen(c.faint);
    for (double share : {-1.0, -0.5, 0.0, 0.5, 1.0})
        p.drawText(QRectF((left + right) / 2 + share * (right - left) / 2 - 40, base + 4, 80, 14), Qt::AlignHCenter,
                   share == 0 ? "0 " + state_.document.fine_unit() : state_.document.fine_signed(share * most));
    p.setPen(within + outside > 0 ? c.stop : c.faint);
    p.drawText(QRectF(96, base - 34, 106, 32), Qt::AlignLeft | Qt::AlignBottom,
               QString("%1 farther\ninside").arg(within));
    p.drawText(QRectF(right + 4, base - 34, 106, 32), Qt::AlignRight | Qt::AlignBottom,
               QString("%1 farther\noutside").arg(outside));
}

void MeasureRibbon::mouseMoveEvent(QMouseEvent* event) {
    const auto n = static_cast<int>(state_.picture().readings.size());
    if (static_cast<std::size_t>(n) > most_apart) return;
    int nearest = -1;
    for (int i = 0; i < n; ++i)
        if (std::abs(x_of(i) - event->position().x()) <= std::max(2.0, (x_of(1) - x_of(0)) / 2)) nearest = i;
    state_.point_at(nearest);
}

}  // namespace bevelsmith::app

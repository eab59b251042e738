#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/guide/guide.h"
#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

using job::StartingKind;
using survey::School;

/// What can be made first, as one sees it: the hull in slate, the piece in wood.
constexpr StartingKind kinds[] = {StartingKind::half_bulkhead, StartingKind::shelf, StartingKind::bulkhead,
                                  StartingKind::long_face};
constexpr const char* kind_names[] = {"Half-bulkhead", "Shelf", "Bulkhead", "Seat front"};

QIcon silhouette_of(StartingKind kind) {
    QPixmap out(QSize(84, 56) * 2);
    out.setDevicePixelRatio(2);
    out.fill(Qt::transparent);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    const auto hull = [](double side) {
        QPainterPath path(QPointF(42 + side * 38, 4));
        path.cubicTo(42 + side * 36, 30, 42 + side * 24, 50, 42, 52);
        return path;
    };
    const auto wood = [&](const QPainterPath& path) {
        p.setPen(QPen(c.ink, 1.2));
        p.setBrush(c.wood);
        p.drawPath(path);
        p.setBrush(Qt::NoBrush);
    };
    if (kind == StartingKind::half_bulkhead) {
        QPainterPath half = hull(1);
        half.lineTo(42, 8), half.lineTo(79, 8), half.closeSubpath();
        wood(half);
    } else if (kind == StartingKind::bulkhead) {
        QPainterPath full = hull(1);
        full.connectPath(hull(-1).toReversed());
        full.closeSubpath();
        wood(full);
    } else if (kind == StartingKind::shelf) {
        QPainterPath board(QPointF(76, 22));
        board.lineTo(50, 22), board.lineTo(50, 27), board.lineTo(75, 27), board.closeSubpath();
        wood(board);
    } else {
        QPainterPath front(QPointF(58, 24));
        front.lineTo(62, 24), front.lineTo(62, 46), front.lineTo(58, 48), front.closeSubpath();
        wood(front);
        p.setPen(QPen(c.line, 1.6));
        p.drawLine(QPointF(56, 24), QPointF(75, 24));
    }
    p.setPen(QPen(c.certain, 2));
    for (double side : {1.0, -1.0}) p.drawPath(hull(side));
    return QIcon(out);
}

QString text_of(std::string_view words) {
    return QString::fromUtf8(words.data(), static_cast<int>(words.size()));
}

}  // namespace

std::vector<survey::ReadingSet> sets_of(const GuidePlan& plan) {
    std::vector<survey::ReadingSet> out;
    const double side = plan.port ? 1 : -1;
    for (int k = 0; k < plan.stations; ++k) {
        survey::ReadingSet set = survey::usual_set(plan.school);
        set.name = (plan.stations > 1 ? "Station " + std::to_string(k + 1) : std::string("Station"));
        set.origin = Vec3(plan.first_mm + k * plan.apart_mm, 0, 0);
        if (plan.school == School::ordinates) {
            set.origin.y() = side * plan.line_mm;
            set.toward = side * Vec3::UnitY();
        } else {
            // Across counts outboard, so that nobody types minus signs on starboard.
            set.along = side * Vec3::UnitY();
        }
        out.push_back(set);
    }
    return out;
}

PlaceView::PlaceView(const Document& document, GuidePlan& plan) : document_(document), plan_(plan) {
    setFixedHeight(112);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("where in the boat");
}

double PlaceView::shown_mm() const {
    const double last = plan_.first_mm + plan_.apart_mm * plan_.stations;
    return std::max({document_.job().boat.length_mm, 6000.0, 1.1 * last});
}

double PlaceView::x_of(double mm) const {
    return 16 + mm / shown_mm() * (width() - 32.0);
}

void PlaceView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    const double left = 16, right = width() - 16.0, middle = height() / 2.0 - 6, half = 34;
    QPainterPath boat(QPointF(left, middle - half * 0.7));
    boat.cubicTo(left + 0.4 * (right - left), middle - half * 1.3, right - 60, middle - half, right, middle);
    boat.cubicTo(right - 60, middle + half, left + 0.4 * (right - left), middle + half * 1.3, left,
                 middle + half * 0.7);
    boat.closeSubpath();
    p.setPen(QPen(c.certain, 1.8));
    p.drawPath(boat);
    p.setPen(QPen(c.line, 1, Qt::DashDotLine));
    p.drawLine(QPointF(left, middle), QPointF(right, middle));
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(left + 8, middle - 19, 60, 14), Qt::AlignLeft, "port");
    p.drawText(QRectF(left + 8, middle + 5, 60, 14), Qt::AlignLeft, "starboard");
    p.drawText(QRectF(right - 60, height() - 16.0, 60, 14), Qt::AlignRight, "fwd →");
    for (int k = 0; k < plan_.stations; ++k) {
        const double x = x_of(plan_.first_mm + k * plan_.apart_mm);
        p.setPen(QPen(c.accent, hasFocus() ? 3 : 2));
        p.drawLine(QPointF(x, middle), QPointF(x, middle + (plan_.port ? -half : half)));
        if (k > 0) continue;
        p.drawText(QRectF(x - 60, height() - 16.0, 120, 14), Qt::AlignHCenter, document_.length(plan_.first_mm));
    }
}

void PlaceView::put(const QPointF& at) {
    const double mm = (at.x() - 16) / (width() - 32.0) * shown_mm();
    plan_.first_mm = std::clamp(std::round(mm / 50) * 50, 0.0, 100'000.0);
    plan_.port = at.y() < height() / 2.0 - 6;
    update();
    emit moved();
}

void PlaceView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left: plan_.first_mm = std::max(0.0, plan_.first_mm - 50); break;
        case Qt::Key_Right: plan_.first_mm += 50; break;
        case Qt::Key_Up: plan_.port = true; break;
        case Qt::Key_Down: plan_.port = false; break;
        default: return QWidget::keyPressEvent(event);
    }
    update();
    emit moved();
}

GuidePanel::GuidePanel(Document& document) : SidePanel(document, "A first piece") {
    panel_->heading("What do you want to make?");
    add_kinds();
    panel_->heading("How will you measure?");
    form_ = new Form([&d = document_] { return d.unit(); });
    sketch_ = new SchoolSketch;
    sketch_->setFixedHeight(140);
    panel_->add(sketch_);
    place_ = new PlaceView(document_, plan_);
    panel_->add(form_);
    panel_->heading("Where in the boat?");
    panel_->add(place_);
    connect(place_, &PlaceView::moved, this, &GuidePanel::refresh);
    connect(&document_, &Document::job_changed, this, &GuidePanel::refresh);  // its unit
    place_->setToolTip(
        "From above: click where the first station is, on the side that you measure. Stations reach beyond "
        "the piece on both sides of it.");
    panel_->end();
    auto* act = panel_->act("Begin with station 1");
    connect(act, &QPushButton::clicked, this, &GuidePanel::begin);
    refresh();
}

void GuidePanel::add_kinds() {
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    for (int k = 0; k < static_cast<int>(std::size(kinds)); ++k) {
        auto* button = new QToolButton;
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setText(kind_names[k]);
        button->setIcon(silhouette_of(kinds[k]));
        button->setIconSize({72, 48});
        button->setObjectName("choice");
        button->setCheckable(true);
        button->setAutoExclusive(true);
        button->setChecked(k == 0);
        button->setFocusPolicy(Qt::StrongFocus);
        row->addWidget(button);
        kinds_.push_back(button);
        connect(button, &QToolButton::clicked, this, [this, k] { plan_.kind = kinds[k]; });
    }
    row->addStretch(1);
    panel_->column()->addLayout(row);
}

void GuidePanel::refresh() {
    sketch_->show_school(plan_.school);
    // Schools by which a section is read station by station.
    static constexpr School offered[] = {School::ordinates, School::strip_pattern, School::fixed_points,
                                         School::tick_stick, School::traced};
    QStringList names;
    int now = 0;
    for (int k = 0; k < static_cast<int>(std::size(offered)); ++k) {
        names << text_of(survey::school_name(offered[k]));
        if (offered[k] == plan_.school) now = k;
    }
    FieldList fields;
    fields.choice("by", now, names, [this](const QVariant& v) {
        plan_.school = offered[v.toInt()];
        refresh();
    });
    fields.choice("side", plan_.port ? 0 : 1, {"port", "starboard"}, [this](const QVariant& v) {
        plan_.port = v.toInt() == 0;
        refresh();
    });
    fields.length(
        "first station, fwd", plan_.first_mm,
        [this](const QVariant& v) {
            plan_.first_mm = v.toDouble();
            refresh();
        },
        0, units::range::place.most);
    fields.length(
        "stations apart", plan_.apart_mm,
        [this](const QVariant& v) {
            plan_.apart_mm = v.toDouble();
            refresh();
        },
        50, 5000);
    fields.number(
        "stations", "", plan_.stations,
        [this](const QVariant& v) {
            plan_.stations = static_cast<int>(std::lround(v.toDouble()));
            refresh();
        },
        3, 12);
    if (plan_.school == School::ordinates)
        fields.length(
            "line off the centre", plan_.line_mm,
            [this](const QVariant& v) {
                plan_.line_mm = v.toDouble();
                refresh();
            },
            0, 20'000);
    form_->show_fields(fields.take());
    place_->update();
}

void GuidePanel::begin() {
    if (!form_->settled()) return;
    document_.edit("Plan the stations", [&](job::Job& job) {
        for (const auto& set : sets_of(plan_)) job::add_readings(job, set);
    });
    emit begun(plan_);
}

}  // namespace bevelsmith::app

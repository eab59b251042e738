#include "app/pieces/kind_picker.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cstdlib>

#include "app/look/theme.h"
#include "app/widgets/manners.h"
#include "furniture/kinds.h"

namespace bevelsmith::app {
namespace {

using job::StartingKind;

constexpr QSize picture{62, 40};
constexpr QSize shown{42, 27};
constexpr int columns = 5;

/// Draws the boat's section in slate and wood in it, in a field of 62 by 40.
class Sketch {
  public:
    explicit Sketch(QPainter& p) : p_(p) { p_.setRenderHint(QPainter::Antialiasing); }
    static QPainterPath side(double way) {
        QPainterPath path(QPointF(31 + way * 28, 3));
        path.cubicTo(31 + way * 27, 20, 31 + way * 18, 35, 31, 37);
        return path;
    }
    void hull() {
        p_.setBrush(Qt::NoBrush);
        p_.setPen(QPen(theme().colours().certain, 1.6));
        for (double way : {-1.0, 1.0}) p_.drawPath(side(way));
    }
    void wood(const QPainterPath& path) {
        p_.setPen(QPen(theme().colours().ink, 1));
        p_.setBrush(theme().colours().wood);
        p_.drawPath(path);
    }
    void board(double x, double y, double w, double h) {
        QPainterPath path;
        path.addRect(x, y, w, h);
        wood(path);
    }
    void polygon(const furniture::PictureBoard& corners) {
        QPainterPath path;
        QPolygonF points;
        for (const Vec2& c : corners) points << QPointF(c.x(), c.y());
        path.addPolygon(points);
        path.closeSubpath();
        wood(path);
    }

  private:
    QPainter& p_;
};

void draw_piece(Sketch& s, StartingKind kind) {
    switch (kind) {
        case StartingKind::bulkhead: {
            QPainterPath full = Sketch::side(1);
            full.connectPath(Sketch::side(-1).toReversed());
            full.closeSubpath();
            s.wood(full);
            break;
        }
        case StartingKind::half_bulkhead: {
            QPainterPath half = Sketch::side(1);
            half.lineTo(31, 5), half.lineTo(59, 5), half.closeSubpath();
            s.wood(half);
            break;
        }
        case StartingKind::long_face: s.polygon({{43, 17}, {46, 17}, {46, 33}, {43, 34}}); break;
        case StartingKind::shelf: s.board(41, 15, 16, 3); break;
        case StartingKind::corner_post: s.board(41, 12, 4, 22); break;
        case StartingKind::bracket: s.polygon({{44, 14}, {56, 14}, {44, 26}}); break;
        case StartingKind::wash_board: s.polygon({{21, 8}, {41, 8}, {39, 20}, {23, 20}}); break;
    }
    s.hull();
}

void draw_unit(Sketch& s, const furniture::Kind& kind) {
    for (const auto& board : kind.picture) s.polygon(board);
    if (!kind.seen_from_above) s.hull();
}

QIcon icon_of(const Addable& thing) {
    QPixmap out(picture * 2);
    out.setDevicePixelRatio(2);
    out.fill(Qt::transparent);
    QPainter p(&out);
    Sketch sketch(p);
    if (thing.piece) draw_piece(sketch, *thing.piece);
    else draw_unit(sketch, furniture::kind_of(*thing.unit));
    return QIcon(out);
}

QString name_of(const Addable& thing) {
    return thing.piece ? QString(job::starting_words(*thing.piece).name).toLower()
                       : QString(furniture::kind_of(*thing.unit).name);
}

}  // namespace

KindPicker::KindPicker(const std::vector<StartingKind>& offered) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(1);
    grid_->setColumnStretch(columns, 1);
    setAccessibleName("what to add");
    const auto some = [&](std::initializer_list<StartingKind> kinds) {
        std::vector<Addable> out;
        for (StartingKind k : kinds)
            if (std::find(offered.begin(), offered.end(), k) != offered.end()) out.push_back({k, std::nullopt});
        return out;
    };
    add_group("across the boat", some({StartingKind::bulkhead, StartingKind::half_bulkhead, StartingKind::corner_post,
                                       StartingKind::bracket, StartingKind::wash_board}));
    add_group("along, level", some({StartingKind::long_face, StartingKind::shelf}));
    std::vector<Addable> units;
    for (const auto& kind : furniture::kinds()) units.push_back({std::nullopt, kind.kind});
    add_group("furniture, all its panels at once", units);
    choose({offered.front(), std::nullopt});
}

void KindPicker::add_group(const QString& name, const std::vector<Addable>& things) {
    if (things.empty()) return;
    constexpr int words_want = 2;
    int row = 0, column = 0;
    if (!entries_.empty()) {
        row = entries_.back().row, column = entries_.back().column + 1;
        if (columns - column < words_want) ++row, column = 0;
    }
    auto* heading = new QLabel(name);
    heading->setObjectName("small");
    grid_->addWidget(heading, 2 * row, column, 1, columns - column);
    for (const Addable& thing : things) {
        if (column == columns) ++row, column = 0;
        auto* button = button_of(thing);
        grid_->addWidget(button, 2 * row + 1, column);
        entries_.push_back({thing, button, row, column});
        ++column;
    }
}

QToolButton* KindPicker::button_of(const Addable& thing) {
    auto* button = new QToolButton;
    button->setObjectName("kind");
    button->setIcon(icon_of(thing));
    button->setIconSize(shown);
    button->setText(name_of(thing));
    button->setAccessibleName(name_of(thing));
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setFixedWidth(77);
    button->setCheckable(true);
    button->setToolTip(thing.piece ? job::starting_words(*thing.piece).words : furniture::kind_of(*thing.unit).words);
    button->installEventFilter(this);
    button->setProperty(takes_enter, true);  // it is added then, not only chosen
    connect(button, &QToolButton::clicked, this, [this, thing] {
        choose(thing);
        emit picked();
    });
    return button;
}

void KindPicker::choose(const Addable& what) {
    chosen_ = what;
    for (const Entry& e : entries_) {
        e.button->setChecked(e.thing == what);
        // Tab stops at the chosen one alone; arrows go on from there.
        e.button->setFocusPolicy(e.thing == what ? Qt::StrongFocus : Qt::ClickFocus);
        if (e.thing == what) setFocusProxy(e.button);
    }
}

const KindPicker::Entry& KindPicker::beside(const Entry& from, int key) const {
    const auto last = static_cast<std::ptrdiff_t>(entries_.size()) - 1;
    const auto at = &from - entries_.data();
    if (key == Qt::Key_Left || key == Qt::Key_Right)
        return entries_[static_cast<std::size_t>(
            std::clamp<std::ptrdiff_t>(at + (key == Qt::Key_Right ? 1 : -1), 0, last))];
    const Entry* out = &from;
    for (const Entry& e : entries_)
        if (e.row == from.row + (key == Qt::Key_Down ? 1 : -1) &&
            (out == &from || std::abs(e.column - from.column) < std::abs(out->column - from.column)))
            out = &e;
    return *out;
}

bool KindPicker::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return false;
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        emit taken();
        return true;
    }
    if (key != Qt::Key_Left && key != Qt::Key_Right && key != Qt::Key_Up && key != Qt::Key_Down) return false;
    const auto now =
        std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.button == watched; });
    if (now == entries_.end()) return false;
    const Entry& next = beside(*now, key);
    choose(next.thing);
    next.button->setFocus(Qt::TabFocusReason);
    emit picked();
    return true;
}

}  // namespace bevelsmith::app

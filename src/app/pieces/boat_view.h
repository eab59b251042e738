// In the boat: profile over plan, the section beside, to one scale on one sheet, and a close-up of the place pointed
// at.
#pragma once

#include <QPainter>
#include <QPointer>
#include <QWidget>
#include <array>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "app/pieces/boat_hand.h"
#include "app/pieces/piece_drawing.h"
#include "app/widgets/quantity_edit.h"
#include "exchange/boat_cut.h"

namespace bevelsmith::app {

/// Three linked cuts through everything there is. Each shows the hull where it is cut, pieces with their true
/// thickness and, in fine lines, what lies beyond. Where the other two cuts run stands in copper lines with grips.
class BoatView : public QWidget {
    Q_OBJECT
    static constexpr double between_px = 40;  ///< the cuts
    static std::size_t index(exchange::Cut cut) { return static_cast<std::size_t>(cut); }

  public:
    explicit BoatView(PieceState& state);

    double at_mm(exchange::Cut cut) const { return cuts_[index(cut)].at_mm; }
    /// Moves a cut, within what there is.
    void move_cut(exchange::Cut cut, double at_mm);
    /// All three, or one alone.
    void show_only(std::optional<exchange::Cut> cut);
    std::optional<exchange::Cut> shown_alone() const { return alone_; }
    /// Lets all three cuts run through the chosen piece, or through the middle of its unit.
    /// False while that is not worked out.
    bool look_at_selected();
    /// Everything in view.
    void fit();
    /// The cuts as they are seen, on paper of the view's size. Precondition: there is something to draw.
    void draw_cuts(QPainter& p);
    bool empty() const { return box_.empty; }
    /// As it was at first, for another boat.
    void forget();
    QPointF to_widget(exchange::Cut cut, const Vec3& in_boat) const;
    /// What a drag has snapped to, while it lasts.
    QString snapped_to() const { return pulling_ ? hand_.words() : QString(); }
    /// What arrow keys and typed figures move.
    const BoatHand& hand() const { return hand_; }
    /// The chosen pieces, each with all of its unit, are not drawn until everything is shown again.
    void hide_selected();
    int hidden() const { return static_cast<int>(state_.document.hidden().size()); }

  signals:
    void cuts_moved();
    void wants_3d();
    void obstacle_clicked(const QString& id);

  protected:
    void paintEvent(QPaintEvent*) override;  // drawing is in boat_view_paint.cpp
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent*) override;

  private:
    struct Grip {
        exchange::Cut in, moves;  ///< the line of the cut `moves` as it stands in `in`
    };
    struct Held {
        std::optional<Grip> grip;
        bool pan = false, ghost = false;
    };

    double rounded(double mm) const;  ///< to whole 5 mm or quarter inches
    /// The boat's axis that a cut stands on.
    static Vec3 axis_of(exchange::Cut cut) { return exchange::plane_of(cut, 0).normal; }
    void renew();
    void renew_ghost();
    bool ghost_at(exchange::Cut cut, const QPointF& at) const;
    bool look_at(const job::Results& results, const std::function<bool(const std::string&)>& wanted);
    void cut_at(exchange::Cut cut, double at_mm);
    QRectF room(exchange::Cut cut) const;
    QRectF close_up_room() const;
    std::vector<exchange::Cut> shown() const;
    std::optional<exchange::Cut> cut_under(const QPointF& at) const;
    Vec2 drawing_at(exchange::Cut cut, const QPointF& at) const;
    Vec3 boat_at(exchange::Cut cut, const QPointF& at) const;
    QPointF on_paper(exchange::Cut cut, const Vec2& mm) const;
    std::optional<Grip> grip_at(const QPointF& at) const;
    std::string piece_at(exchange::Cut cut, const QPointF& at) const;
    /// Drawing of a cut through obstacles, without their clearance.
    std::vector<geometry::Polygon> obstacle_in(exchange::Cut cut, const job::JobObstacle& obstacle) const;
    std::string obstacle_at(exchange::Cut cut, const QPointF& at) const;
    /// Whether it is one of several that are chosen together.
    bool among_chosen(const std::string& piece) const;
    void press_on(exchange::Cut cut, const QPointF& at, Qt::KeyboardModifiers with);
    /// The way in the boat from one place of the drawing to another.
    Vec3 way_between(exchange::Cut cut, const QPointF& from, const QPointF& to) const;
    /// How finely what is in hand goes: with Shift to a millimetre or a mark of the tape, and to no faces.
    BoatHand::Grain grain(bool finely) const;
    /// Takes in hand what is chosen, in a view in which it can be moved.
    void take_chosen();
    void let_go();
    bool nudge(int key, bool far);
    bool hand_key(QKeyEvent* event);
    void type_figure(const QString& first);

    void draw_cut(QPainter& p, exchange::Cut cut);
    void draw_content(QPainter& p, exchange::Cut cut, const std::function<QPointF(const Vec2&)>& to, double scale);
    void draw_ghost(QPainter& p, exchange::Cut cut, const std::function<QPointF(const Vec2&)>& to);
    void draw_obstacles(QPainter& p, exchange::Cut cut, const std::function<QPointF(const Vec2&)>& to);
    void draw_lines(QPainter& p, exchange::Cut cut);
    void draw_caption(QPainter& p, exchange::Cut cut);
    struct CloseUp {
        exchange::Cut cut = exchange::Cut::section;
        Vec2 at{0, 0};
    };
    struct Label {
        QPointF at;
        QString name, figure;
        QString id;  ///< of a piece
    };
    CloseUp close_up_of_selected() const;
    void draw_close_up(QPainter& p);
    std::vector<Label> labels_of(const CloseUp& close_up, const QRectF& picture,
                                 const std::function<QPointF(const Vec2&)>& to) const;
    static QString words_within(const Label& label, double room, const QFontMetricsF& metrics);
    void draw_labels(QPainter& p, std::vector<Label> labels, const QRectF& column) const;
    void draw_snap(QPainter& p);
    void draw_hand(QPainter& p);
    void draw_empty(QPainter& p);

    PieceState& state_;
    std::array<exchange::BoatCut, exchange::cut_count> cuts_;
    exchange::BoatBox box_;
    bool placed_ = false, follow_ = true;
    double scale_ = 0.1;
    Vec3 centre_ = Vec3::Zero();
    std::optional<exchange::Cut> alone_;
    exchange::Cut lively_ = exchange::Cut::section;  ///< the cut that the arrow keys move
    Held held_;
    BoatHand hand_;
    exchange::Cut hand_cut_ = exchange::Cut::section;  ///< in which it was taken
    bool pulling_ = false;                             ///< by the pointer
    QPointer<QuantityEdit> figure_;                    ///< that is being typed for it
    QString figure_fault_;
    QPointF last_;
    std::string pointed_, pointed_obstacle_;
    std::optional<CloseUp> close_up_;
    std::shared_ptr<const Computed> seen_;
    std::array<std::vector<exchange::CutPiece>, exchange::cut_count> ghost_;
};

}  // namespace bevelsmith::app

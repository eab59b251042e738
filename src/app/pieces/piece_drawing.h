// The drawing of one piece and the ribbon that unrolls its edge; used by Pieces and, with fixings, by Fix.
#pragma once

#include <array>
#include <optional>

#include "app/document/document.h"
#include "app/pieces/facets.h"
#include "app/widgets/drawing_view.h"
#include "app/widgets/free_places.h"

namespace bevelsmith::app {

/// The selected piece as it was last computed, and the place on its edge that is pointed at.
class PieceState : public QObject {
    Q_OBJECT
  public:
    explicit PieceState(Document& document);
    Document& document;
    /// The latest outline of the selected piece; null while there is none.
    const piece::Outline* shape() const;
    const job::PieceResult* result() const;
    /// What is known of it where there is no outline; null while there is one.
    const piece::Sketch* sketch() const;
    /// The piece as the results know it, and as it is now; null when there is none.
    const job::JobPiece* computed_piece() const;
    const job::JobPiece* piece() const { return document.piece(document.selected_piece()); }
    QString fault() const;
    /// A person has said what the hull is made of.
    bool hull_said() const;
    int mark() const { return mark_; }
    void point_at(int mark);
    /// What of the piece is looked at; the first that there is, where that is gone.
    Facet facet() const;
    void choose(const Facet& facet);
    void forget() { facet_.reset(); }

  signals:
    void changed();
    void pointed(int mark);

  private:
    std::shared_ptr<const Computed> held_;
    int mark_ = -1;
    /// What has just been added to the piece is what is looked at next.
    void follow_additions();
    std::optional<Facet> facet_;
    std::string counted_;  ///< the piece whose lists were counted last
    std::array<std::size_t, 7> counts_{};
};

class PieceDrawing : public DrawingView {
    Q_OBJECT
  public:
    enum class Shows { outline, fixings };
    PieceDrawing(PieceState& state, Shows shows);

  protected:
    geometry::Box content() const override;
    void draw(Pencil& pencil) override;
    QString empty_words() const override;
    Orientation lies() const override;
    void hover(const Vec2& mm) override;
    void leave() override { state_.point_at(-1); }
    bool press(const Vec2& mm) override;
    void drag(const Vec2& mm) override;
    void release(const Vec2&) override;

  private:
    /// What can be taken hold of, by index into the piece's lists.
    struct Handle {
        enum class Kind { none, straight_edge, opening, joint, pin } kind = Kind::none;
        std::size_t index = 0;
        Vec2 offset{0, 0};
        Vec2 side{0, 0};      ///< of an opening: the one that is held, or none
        std::size_t pin = 0;  ///< of a free edge
    };
    /// A place that was snapped to, and what it is of.
    struct Snap {
        double at_mm = 0;
        QString words;
    };
    Snap snapped(double mm, bool upright) const;
    void drag_opening(piece::OpeningSpec& opening, const Vec2& mm);
    void draw_held(Pencil& pencil);
    void draw_pins(Pencil& pencil);
    Handle handle_at(const Vec2& mm) const;
    void draw_all(Pencil& pencil, const piece::Outline& shape);
    void draw_title(QPainter& painter);
    void draw_shape(Pencil& pencil, const piece::Outline& shape);
    void draw_edge_marks(Pencil& pencil, FreePlaces& places);
    void draw_dimensions(Pencil& pencil, const piece::Outline& shape);
    void draw_tabbing(Pencil& pencil, const piece::Outline& shape, const fixing::Tabbing& tabbing);
    void draw_blocks(Pencil& pencil, const piece::Outline& shape, const fixing::Blocks& blocks);
    void draw_pointed(Pencil& pencil, const piece::Outline& shape);
    void draw_next_readings(Pencil& pencil, const piece::Outline& shape, FreePlaces& places);
    void draw_trial(Pencil& pencil, const piece::Outline& shape);

    PieceState& state_;
    Shows shows_;
    Handle held_;
    Vec2 pointer_{0, 0};
    QString snapped_to_;
    int drags_ = 0;
};

/// The scribed edge unrolled from end to end: bevel, what is known, joints, notches, blocks.
class PerimeterRibbon : public QWidget {
    Q_OBJECT
  public:
    PerimeterRibbon(PieceState& state, PieceDrawing::Shows shows);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent*) override { state_.point_at(-1); }
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// First and last arc length that the piece keeps (mm).
    std::pair<double, double> kept_mm() const;
    double x_of(double arc_mm) const;
    double y_of(double bevel_rad) const;
    double middle() const { return height() / 2.0 - 4; }
    void draw_saw_settings(QPainter& p, const piece::Outline& shape);
    void draw_bevel(QPainter& p, const piece::Outline& shape);
    void draw_blocks(QPainter& p);
    void draw_joints(QPainter& p, const piece::Outline& shape);
    void draw_pointed(QPainter& p, const piece::Outline& shape);
    double per_degree_ = 1;
    PieceState& state_;
    PieceDrawing::Shows shows_;
};

}  // namespace bevelsmith::app

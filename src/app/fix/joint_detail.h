// The joint between piece and hull in cross-section, to scale: what lies on what, and what the screw reaches.
#pragma once

#include "app/pieces/piece_drawing.h"

namespace bevelsmith::app {

/// Cut square to the edge at the place pointed at, else at the first block or the middle of the edge. The hull is
/// drawn level, the piece stands on it at its bevel.
class JointDetail : public DrawingView {
    Q_OBJECT
  public:
    explicit JointDetail(PieceState& state);

  protected:
    geometry::Box content() const override;
    void draw(Pencil& pencil) override;
    QString empty_words() const override { return "Here stands the joint in cross-section."; }

  private:
    double bevel_rad() const;
    void draw_tabbing(Pencil& pencil, const fixing::Tabbing& t, double thickness, double lean);
    void draw_block(Pencil& pencil, const fixing::Blocks& b, double thickness, double lean);
    PieceState& state_;
};

}  // namespace bevelsmith::app

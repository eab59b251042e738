// A small drawing of the chosen piece's face A on a side panel: what is shown on it is its subclasses'.
#pragma once

#include "app/document/document.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {

class PiecePicture : public DrawingView {
    Q_OBJECT
  public:
    PiecePicture(Document& document, const QString& accessible_name, int least_height_px);

  protected:
    geometry::Box content() const override;
    QString empty_words() const override { return "It has no outline yet."; }
    /// Of the piece that is chosen; null where it has none.
    const piece::Outline* shape() const;
    /// Face A, filled. Nothing where there is no outline.
    void draw_face(Pencil& pencil) const;

    Document& document_;
};

}  // namespace bevelsmith::app

#include "app/pieces/piece_picture.h"

#include "app/look/theme.h"

namespace bevelsmith::app {

PiecePicture::PiecePicture(Document& document, const QString& accessible_name, int least_height_px)
    : document_(document) {
    unit = [&document] { return document.unit(); };
    margin_px = 32;
    show_scale_bar = false;
    setMinimumHeight(least_height_px);
    setAccessibleName(accessible_name);
    connect(&document_, &Document::computed_changed, this, [this] { content_changed(); });
    connect(&document_, &Document::selection_changed, this, [this] { content_changed(); });
}

const piece::Outline* PiecePicture::shape() const {
    const auto* result = document_.computed()->results.piece(document_.selected_piece().toStdString());
    return result ? result->shape() : nullptr;
}

geometry::Box PiecePicture::content() const {
    return shape() ? geometry::bounding_box(shape()->face_a.outer) : geometry::Box{};
}

void PiecePicture::draw_face(Pencil& pencil) const {
    if (!shape()) return;
    const auto& c = theme().colours();
    pencil.pen(c.ink, 1.2);
    pencil.fill(c.wood);
    pencil.polygon(shape()->face_a);
}

}  // namespace bevelsmith::app

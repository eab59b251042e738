// A part that lies on a sheet, shown where it belongs: in its piece, and in the boat.
#pragma once

#include "app/document/document.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {

/// Two small pictures side by side; a press on either asks for the piece there.
class PartPicture : public QWidget {
    Q_OBJECT
  public:
    explicit PartPicture(Document& document);
    /// Nothing is shown for a part that there is not.
    void show_part(const std::string& part_id);
    static constexpr int height_px = 132;

  signals:
    void piece_asked();
    void boat_asked();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    bool event(QEvent* event) override;

  private:
    QRectF pane(bool boat) const;
    void draw_in_piece(QPainter& p, const QRectF& within) const;
    void draw_in_boat(QPainter& p, const QRectF& within) const;
    Document& document_;
    std::string part_id_;
};

}  // namespace bevelsmith::app

// Outlines out of a drawing file, looked at and taken over as offcuts or as pieces.
#pragma once

#include <QLineEdit>

#include "app/widgets/drawing_view.h"
#include "app/widgets/side_panel.h"
#include "exchange/dxf_outlines.h"

namespace bevelsmith::app {

/// The shapes as they will be taken, with their sizes.
class OutlinesPicture : public DrawingView {
    Q_OBJECT
  public:
    explicit OutlinesPicture(Document& document);
    void show_shapes(std::vector<geometry::Polygon> shapes);

  protected:
    geometry::Box content() const override;
    void draw(Pencil& pencil) override;
    QString empty_words() const override;

  private:
    std::vector<geometry::Polygon> shapes_;
};

class OutlinesPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit OutlinesPanel(Document& document);

  private:
    enum class As { offcuts, pieces };
    void open();
    void refresh();
    void take();
    std::string material_id() const;

    QLineEdit* path_;
    QLabel* said_;
    Form* form_;
    OutlinesPicture* picture_;
    FaultLine* fault_;
    QPushButton* act_;
    exchange::DxfOutlines read_;
    std::string name_;
    int layer_ = 0, openings_ = 0, material_ = 0;
    As as_ = As::offcuts;
    std::vector<geometry::Polygon> shapes_;
};

}  // namespace bevelsmith::app

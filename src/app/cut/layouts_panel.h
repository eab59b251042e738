// Kept layouts of one material, each beside the one in use.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// All sheets of a layout, small, one under another.
class LayoutPicture : public QWidget {
    Q_OBJECT
  public:
    LayoutPicture();
    void show_layout(std::shared_ptr<const sheets::Problem> problem, std::shared_ptr<const sheets::Layout> layout);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    std::shared_ptr<const sheets::Problem> problem_;
    std::shared_ptr<const sheets::Layout> layout_;
};

class LayoutsPanel : public SidePanel {
    Q_OBJECT
  public:
    LayoutsPanel(Document& document, std::string material_id);
    static constexpr int wide = 560;

  private:
    void refresh();
    const job::SheetResult* result() const;
    std::string chosen() const;

    std::string material_id_;
    std::vector<std::string> names_;  ///< beside the entries of which_
    QComboBox* which_;
    LayoutPicture *now_, *other_;
    QLabel *now_words_, *other_words_, *empty_;
    QPushButton *keep_, *forget_, *act_;
    QWidget* beside_;
};

}  // namespace bevelsmith::app

// A piece's lines set out at the boat: what is measured from, the offsets of both faces, ties and diagonals.
#pragma once

#include <QTableWidget>
#include <optional>

#include "app/pieces/station_picture.h"
#include "app/widgets/side_panel.h"
#include "job/reference.h"

namespace bevelsmith::app {

class SetOutPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit SetOutPanel(Document& document);

  private:
    void refresh();
    void show_lines();
    void write_page();
    std::optional<piece::AtBoat> lines() const;

    QLabel *lead_, *proofs_;
    QComboBox* from_;
    StationPicture* picture_ = nullptr;
    QTableWidget* table_;
    QPushButton* act_;
    std::vector<job::ReferenceChoice> choices_;
};

}  // namespace bevelsmith::app

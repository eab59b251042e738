// A new piece, as the survey suggests it.
#pragma once

#include <QLabel>
#include <optional>

#include "app/pieces/kind_picker.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// Adds a piece of one of the usual kinds, or a unit of furniture. What is chosen stands in the boat at once, as a
/// ghost, where what is there suggests it; it is moved by hand or by its numbers, and built with Enter.
class NewPiecePanel : public SidePanel {
    Q_OBJECT
  public:
    /// Where face A stands is proposed where it is not given.
    NewPiecePanel(Document& document, std::optional<double> at_mm);
    ~NewPiecePanel() override;

  private:
    bool furniture() const { return picker_->chosen().unit.has_value(); }
    void propose();
    void show_fields();
    void change_unit(const std::function<void(job::JobUnit&)>& change);
    void show_ghost();
    void picked();
    /// A hand moved the ghost in the boat.
    void moved(const Vec3& by);
    void move_unit(const Vec3& by);
    void add();
    void add_unit();
    KindPicker* picker_;
    Addable before_;  ///< what was chosen before
    piece::Role role_ = piece::Role::made;
    std::optional<double> at_mm_;
    job::JobPiece proposed_;
    job::JobUnit unit_;
    Vec3 dragged_ = Vec3::Zero();  ///< what of a drag was too little for a step
    QLabel* usual_;
    QLabel* words_;
    Form* form_;
};

}  // namespace bevelsmith::app

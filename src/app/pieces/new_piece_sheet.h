// A new piece, as the survey suggests it.
#pragma once

#include <QLabel>
#include <optional>

#include "app/widgets/side_sheet.h"
#include "job/starting_piece.h"

namespace bevelsmith::app {

/// A new piece of one of the usual kinds.
class NewPieceSheet : public SideSheet {
    Q_OBJECT
  public:
    /// Where face A stands is proposed where it is not given.
    NewPieceSheet(Document& document, std::optional<double> at_mm);

  private:
    /// Kinds of piece first, then of furniture.
    bool furniture() const { return chosen_ >= static_cast<int>(offered_.size()); }
    job::StartingKind kind() const { return offered_[static_cast<std::size_t>(chosen_)]; }
    furniture::UnitKind unit_kind() const {
        return static_cast<furniture::UnitKind>(chosen_ - static_cast<int>(offered_.size()));
    }
    void propose();
    void propose_unit();
    void show_fields();
    void choose(int kind);
    void add();
    void add_unit();
    std::vector<job::StartingKind> offered_;
    int chosen_ = 0;
    std::optional<double> at_mm_;
    job::JobPiece proposed_;
    job::JobUnit unit_;
    QLabel* usual_;
    QLabel* words_;
    Form* form_;
};

}  // namespace bevelsmith::app

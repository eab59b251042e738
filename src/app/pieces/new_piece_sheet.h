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
    job::StartingKind kind() const { return offered_[static_cast<std::size_t>(chosen_)]; }
    void propose();
    void add();
    std::vector<job::StartingKind> offered_;
    int chosen_ = 0;
    std::optional<double> at_mm_;
    job::JobPiece proposed_;
    QLabel* words_;
    Form* form_;
};

}  // namespace bevelsmith::app

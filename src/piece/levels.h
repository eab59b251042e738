// Levels by their stack: from what one walks or sits on down to the top of what carries it, and what is packed.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// A level panel from its finished upper side down (mm; heights up in the boat, at the panel's middle).
struct Stack {
    double finished_up_mm = 0;
    double covering_mm = 0;  ///< on its upper face, still to come or there
    double skins_mm = 0;     ///< plies of its layup, both faces
    double sheet_mm = 0;     ///< the rest of its thickness: panel as measured less plies
    double under_mm = 0;     ///< covering of its lower face
    double bedding_mm = 0;
    /// finished - covering - plies - panel - bedding.
    double bearer_up_mm = 0;
};
/// Empty where the panel does not lie level.
std::optional<Stack> stack_of(const PieceSpec& spec, const Outline& shape);

/// Packers for a gap.
struct Packing {
    std::vector<double> pieces_mm;  ///< the thickest first
    double left_mm = 0;             ///< what remains open
};
/// Of all ways with at most six pieces those that leave least open, in steps of half a millimetre; of these the one
/// with the fewest pieces. `stock_mm`: thicknesses that are there, each as often as wanted.
Packing packing_for(double gap_mm, std::vector<double> stock_mm);

/// How deep a drop-in lies under the seat beside it: seat + drop - panel, where `seat_mm` is the seat's thickness and
/// its bearers lie `drop_mm` under the seat's lower face (19 + 19 - 19 = 19, common practice).
double recess_mm(double seat_mm, double drop_mm, double panel_mm);

/// A ledge under a panel that does not touch it: what is packed between.
struct ToPack {
    std::string obstacle_id, name;
    double gap_mm = 0;     ///< at its widest, bedding taken off
    double length_mm = 0;  ///< of the ledge under the panel
    double wide_mm = 0;    ///< of the ledge
    Packing packing;
};
/// Ledges that lie under the panel, up to 60 mm below what it wants to bear on.
std::vector<ToPack> to_pack(const PieceSpec& spec, const Outline& shape, const std::vector<Obstacle>& ledges,
                            const std::vector<double>& stock_mm);

}  // namespace bevelsmith::piece

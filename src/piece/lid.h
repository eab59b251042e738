// Lids: from their own opening, or from another part of the sheet; and the trims and lippings that go with edges.
#pragma once

#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// How a lid is come by when it is what is cut out of its opening. The saw takes `saw_mm` all round, the coats on the
/// lid's edge and on the opening's give `coats_mm` back; what the clearance still lacks is planed off the lid.
struct OwnLid {
    double saw_mm = 0, coats_mm = 0;
    double planed_mm = 0;  ///< negative: the saw takes so much more than is wanted
    /// What is left open a side once both are coated.
    double clearance_mm() const { return saw_mm + planed_mm - coats_mm; }
};
OwnLid own_lid(double clearance_mm, double kerf_mm, double film_mm);

/// A saw begins in the middle of the panel: by a plunge along a straight side; a round or free shape wants a hole of
/// the blade's width drilled in its waste, and there is none where the waste is the lid.
bool can_be_plunged(const OpeningSpec& opening);

/// The lids of a piece, before they are coated: the opening's shape made smaller by clearance and two films a side.
std::vector<Lid> lids_of(const PieceSpec& spec, double film_mm);
/// Lids from the sheet, as parts: "B1/lid 1".
std::vector<Part> lid_parts(const PieceSpec& spec, const std::vector<Lid>& lids, double thickness_mm,
                            const Passage& passage);

/// Whether a part is a lid: its edges are square, and none of them is one of its piece's.
bool is_lid(const Part& part);

/// Width of a trim that hides a gap: gap + 2 (edge distance + radius of the screw's head), so that screws stand on
/// both sides of it.
double trim_width_mm(double gap_mm, double edge_distance_mm, double head_radius_mm);
/// Least lipping: what is planed off to fit it, what is rounded off later, and a millimetre to spare.
double least_lipping_mm(const EdgeSpec& edge);

}  // namespace bevelsmith::piece

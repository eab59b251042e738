// A unit is a few numbers, as a fitter says them, that stand for several pieces: a settee, a counter, a sole with its
// beams. The pieces are computed from the numbers and from what the unit ends at; each is an ordinary piece.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "piece/outline.h"
#include "piece/spec.h"

namespace bevelsmith::furniture {

enum class UnitKind { settee, berth, counter, locker, shelves, sole, engine_box, v_berth, table };
inline constexpr int unit_kind_count = 9;

enum class Side { port, starboard };

/// All lengths in mm; heights are from the foot, which is the sole's upper face.
struct UnitSpec {
    std::string id, name;
    UnitKind kind = UnitKind::settee;
    Side side = Side::port;            ///< of the boat; furniture/kinds says which stand on both
    std::string surface_id;            ///< the hull that it is scribed to
    std::string from_piece_id;         ///< the bulkhead at its after end; where there is none it ends at `from_mm`
    std::string to_piece_id;           ///< at its forward end
    double from_mm = 0, to_mm = 2000;  ///< fwd
    /// How far the front stands out from the centre line; half of an infill's width; where a table's middle is.
    double front_mm = 500;
    double width_mm = 600;                      ///< of a table, across the boat
    double foot_mm = 0;                         ///< up: where the sole's upper face is
    double height_mm = 430;                     ///< of the seat, berth, worktop or top above the foot
    double toe_high_mm = 75, toe_deep_mm = 75;  ///< of the toe space; none where either is 0
    std::vector<double> dividers_mm;            ///< fwd: dividers, or the beams of a sole
    /// Dividers spread themselves, and the front keeps as far from the hull as is usual, when the unit's ends are
    /// changed: as proposed, until a person has set them.
    bool dividers_follow = false, front_follows = false;
    int shelves = 1;                          ///< of a run of shelves, or within a counter
    double shelf_step_mm = 280;               ///< from shelf to shelf
    double fiddle_mm = 40;                    ///< how high a shelf's fiddle stands over it; none at 0
    bool half = false;                        ///< a sole or V-berth on one side of the centre line only
    bool lids = false;                        ///< a lift-out in the top over each bay
    double lid_depth_mm = 300, rail_mm = 60;  ///< of lids and open fronts: what is left around them
    double infill_mm = 600;                   ///< how far a V-berth's infill reaches forward
    double beam_depth_mm = 0;                 ///< of a sole's beams, under it; down to the hull at 0
    /// Beams that have a depth lie in saddles and lift out: at each end a seat under the beam and a cheek on either
    /// side, on the hull. They reach inboard to a string, whose place at the unit's ends is so far from the centre
    /// line; the slot between the cheeks is so much wider than the beam.
    bool saddles = false;
    double saddle_aft_mm = 600, saddle_fwd_mm = 600, saddle_clearance_mm = 1.5;
    /// A sole's raised part, over machinery that stands higher than it: from and to (fwd), half its width about the
    /// centre line, and by how much it is raised; none where that is 0.
    double raised_from_mm = 0, raised_to_mm = 0, raised_half_mm = 300, raised_by_mm = 0;
    double clearance_mm = 2.5;  ///< of a lift-out, a side
    double overhang_mm = 0;     ///< of the top over the front
    double hull_gap_mm = 3, joint_gap_mm = 0.5;
    double cushion_mm = 0;        ///< loaded: what one sits or lies on, over the seat or berth
    std::string material_id;      ///< of panels
    std::string top_material_id;  ///< of seats, worktops and soles

    // Compiled once, not in every file in which one is copied.
    UnitSpec();
    UnitSpec(const UnitSpec&);
    UnitSpec(UnitSpec&&) noexcept;
    UnitSpec& operator=(const UnitSpec&);
    UnitSpec& operator=(UnitSpec&&) noexcept;
    ~UnitSpec();
    bool operator==(const UnitSpec&) const;
};

/// The sides of a sole's raised part are no lower: less is a threshold, not a box.
inline constexpr double least_raised_side_mm = 20;

/// Heights, toe spaces and the like that are usual (common practice): seat 430 high, counter 900, berth 500, toe
/// space 75 x 75, lift-out clearance 2.5 a side. Places are left as they are.
UnitSpec usual_unit(UnitKind kind);

/// The thickness of a material by its id (mm).
using Thickness = std::function<double(const std::string& material_id)>;

/// Where a unit begins and ends (fwd, mm): at the near faces of what it ends at, else at its own numbers.
struct Ends {
    double from_mm = 0, to_mm = 0;
    /// Which side of the bulkhead there is the unit's: forward of the after one, abaft the forward one.
    piece::KeptSide from_kept = piece::KeptSide::by_place, to_kept = piece::KeptSide::by_place;
    bool operator==(const Ends&) const = default;
};
Ends ends_of(const UnitSpec& unit, const piece::PieceLookup& pieces);

/// Which number of a unit a panel of it stands for, and the way in the boat along which that grows: what changes when
/// the panel is dragged.
struct Drag {
    double UnitSpec::*field = nullptr;  ///< null for a divider
    std::size_t divider = 0;            ///< index into dividers_mm
    Vec3 way = Vec3::UnitX();
    double base_mm = 0;      ///< where it is counted from, in the boat: heights from the foot
    const char* words = "";  ///< "the front, from the centre line"
};

/// By part ("front"); none of a panel whose place follows from others.
std::map<std::string, Drag> drags_of(const UnitSpec& unit, const Thickness& thickness,
                                     const piece::PieceLookup& pieces);

/// The pieces of a unit, each with an id that stays while the numbers change: "U1.front", "U1.divider 2". What cannot
/// stand (a divider beyond the ends, a bay narrower than its rails) is left out.
std::vector<piece::PieceSpec> pieces_of(const UnitSpec& unit, const Thickness& thickness,
                                        const piece::PieceLookup& pieces);

}  // namespace bevelsmith::furniture

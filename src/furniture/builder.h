// Panels of a unit: planes, edges and openings said in the boat's own terms, out from the centre line and up.
#pragma once

#include <deque>
#include <string>

#include "furniture/unit.h"

namespace bevelsmith::furniture {

/// What every panel of a unit is built from. "Out" is counted from the centre line to the unit's side.
class Builder {
  public:
    Builder(const UnitSpec& unit, const Thickness& thickness, const piece::PieceLookup& pieces);

    const UnitSpec& unit;
    const Ends ends;
    const double panel_mm, top_mm;        ///< thicknesses
    std::deque<piece::PieceSpec> panels;  ///< panels stay where they are while others are added
    std::map<std::string, Drag> drags;    ///< by part

    void dragged(const std::string& part, const Drag& drag) { drags[part] = drag; }
    /// By the same words for several: a height over the sole, the front's distance, a divider.
    void dragged_up(const std::string& part) {
        dragged(part, {&UnitSpec::height_mm, 0, Vec3::UnitZ(), unit.foot_mm, "its height over the sole"});
    }
    void dragged_out(const std::string& part) {
        dragged(part, {&UnitSpec::front_mm, 0, point(0, 1, 0), 0, "the front, from the centre line"});
    }
    void dragged_ends(const std::string& aft_part, const std::string& fwd_part) {
        dragged(aft_part, {&UnitSpec::from_mm, 0, Vec3::UnitX(), 0, "the after end, fwd"});
        dragged(fwd_part, {&UnitSpec::to_mm, 0, Vec3::UnitX(), 0, "the forward end, fwd"});
    }
    void dragged_across(const std::string& part, std::size_t index, const char* words) {
        dragged(part, {nullptr, index, Vec3::UnitX(), 0, words});
    }
    /// The unit's dividers from aft, each with its index in the unit's own order.
    std::vector<std::pair<double, std::size_t>> dividers() const;

    /// A new panel in `panels`; face A is the upper, the after or the inboard one.
    piece::PieceSpec& level(const std::string& part, const std::string& name, double upper_mm);
    piece::PieceSpec& across(const std::string& part, const std::string& name, double aft_mm);
    piece::PieceSpec& along(const std::string& part, const std::string& name, double out_mm);

    piece::EdgeSpec hull(bool where_met = false) const;
    /// The unit's after or forward end.
    piece::EdgeSpec aft() const;
    piece::EdgeSpec fwd() const;
    piece::EdgeSpec below(double up_mm) const;
    piece::EdgeSpec above(double up_mm) const;
    piece::EdgeSpec outboard_of(double out_mm) const;
    piece::EdgeSpec inboard_of(double out_mm) const;
    piece::EdgeSpec aft_of(double fwd_mm) const;
    piece::EdgeSpec forward_of(double fwd_mm) const;
    piece::EdgeSpec stops_at(const std::string& name, const std::string& part) const;
    piece::EdgeSpec covers(const std::string& name, const std::string& part, double overhang_mm) const;

    /// Rectangles in the drawings of level, across and along panels.
    piece::OpeningSpec level_box(const std::string& name, double aft, double fwd, double in, double out_mm) const;
    piece::OpeningSpec across_box(const std::string& name, double in, double out_mm, double low, double high) const;
    piece::OpeningSpec along_box(const std::string& name, double aft, double fwd, double low, double high) const;

    /// A point of the boat.
    Vec3 point(double fwd_mm, double out_mm, double up_mm) const { return {fwd_mm, side_ * out_mm, up_mm}; }
    std::string id(const std::string& part) const { return unit.id + "." + part; }
    double middle() const { return (ends.from_mm + ends.to_mm) / 2; }

  private:
    piece::PieceSpec& add(const std::string& part, const std::string& name, const std::string& kind,
                          const geometry::Plane& plane, const std::string& material);
    piece::EdgeSpec end(const std::string& name, const std::string& piece_id, double way, double at_mm) const;
    double side_;
};

}  // namespace bevelsmith::furniture

// A virtual boat whose true inside is known: to practise templating on, and to judge fits by.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::practice {

/// Lines at which a hull with hard chines kinks.
enum class HullLine { port_chine, starboard_chine, keel };

enum class HullForm { round_bilge, hard_chine, flared_bow };

/// What the boat is like. Everything about it follows from these values.
struct BoatSpec {
    HullForm form = HullForm::round_bilge;
    double lopsided_mm = 0;  ///< by how much the starboard side is narrower, at its most
    double lumpy_mm = 0;     ///< height of the highest lumps (three times their root mean square), 350 to 900 mm long
    unsigned seed = 1;       ///< of the lumps and the proportions
    bool operator==(const BoatSpec&) const = default;
};

/// A cabin's length of hull inside: x from 0 to `length_mm`, the axis at z = 0, open above. Invented proportions.
class VirtualBoat {
  public:
    explicit VirtualBoat(const BoatSpec& spec);

    static constexpr double length_mm = 3000;
    /// The hull reaches from the keel up to this angle above level, on both sides (radians).
    static constexpr double highest_angle = 0.35;

    /// Distance of the hull from the axis at station x, looking at `angle` (0 port, -pi/2 down, -pi starboard).
    double radius_mm(double x_mm, double angle) const;
    /// The point of the hull there.
    Vec3 at(double x_mm, double angle) const;
    /// How far a point near the hull lies outside, along the normal and to first order.
    double outside_mm(const Vec3& p) const;
    /// Outward unit normal next to p; at a chine that of one side.
    Vec3 normal(const Vec3& p) const;
    /// Where a straight line from inside meets the hull first. Empty where it leaves through an end or the top.
    std::optional<Vec3> hit(const Vec3& from, const Vec3& direction) const;
    /// The port chine at station x. Only for hard_chine.
    Vec3 chine(double x_mm) const;
    /// A point of one of the lines at which the hull kinks, at station x. Only for hard_chine.
    Vec3 on_line(HullLine line, double x_mm) const;

    const BoatSpec& spec() const { return spec_; }

  private:
    struct Lump {
        double along, around, phase;
    };
    double beyond_mm(const Vec3& p) const;  ///< along the ray from the axis
    double fair_radius_mm(double x_mm, double angle) const;
    double half_beam_mm(double x_mm) const;
    double depth_mm(double x_mm) const;

    BoatSpec spec_;
    double beam_ = 1, depth_ = 1, fullness_ = 2.4;
    std::vector<Lump> lumps_;
};

}  // namespace bevelsmith::practice

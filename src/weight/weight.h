// What a piece weighs, where, and what that does to the boat.
#pragma once

#include <span>
#include <string>

#include "fixing/plan.h"

namespace bevelsmith::weight {

/// The boat as she floats, by her designer or by trial; zero where not known.
struct Hydrostatics {
    double displacement_kg = 0;
    double gm_m = 0;            ///< transverse metacentric height
    double mctc_tm = 0;         ///< moment to change trim one centimetre, tonne-metres
    double flotation_x_mm = 0;  ///< centre of flotation, about which she trims
    bool operator==(const Hydrostatics&) const = default;
};

struct Mass {
    double mass_kg = 0;
    Vec3 centre_mm = Vec3::Zero();
};

struct PieceMass {
    Mass panel, coating, fixing, total;
};

/// The mass of a piece with its lids: panel between both faces (the mean of their areas, at so many kg a square
/// metre), coating on
/// both faces, fixing along its edge.
PieceMass weigh(const piece::Outline& outline, double panel_kg_m2, const stock::Coating& coating,
                const fixing::Plan& fixing);

/// Sum of masses with their common centre.
Mass sum(std::span<const Mass> masses);

/// What mass that is added, and mass that is taken out, does: list tan(phi) = w·d/(W·GM), trim = w·l/MCTC. Source:
/// C.B. Barrass, D.R. Derrett, Ship Stability for Masters and Mates (from memory). Valid for small angles and a mass
/// small against the boat.
struct Attitude {
    bool known = false;   ///< false when the boat's figures are missing
    double list_rad = 0;  ///< positive to port
    double trim_cm = 0;   ///< change of trim, positive by the bow
};
Attitude attitude(const Mass& added, const Mass& removed, const Hydrostatics& boat);

/// Metacentric radius of a box-shaped hull, B²/(12 d) across and L²/(12 d) along (derived).
double box_metacentric_radius_m(double side_m, double draught_m);
/// MCTC = W·GM_L / (100 L), tonne-metres per centimetre; W in tonnes (Barrass & Derrett, from memory).
double moment_to_change_trim_tm(double displacement_t, double gm_l_m, double length_m);

}  // namespace bevelsmith::weight

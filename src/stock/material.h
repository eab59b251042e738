// What things are made of: sheet goods, coatings, glass and resin, screws. Lengths mm, areas m², masses kg.
#pragma once

#include <string>
#include <vector>

namespace bevelsmith::stock {

/// A sheet good as it lies in the yard.
struct SheetMaterial {
    std::string id;
    std::string name;
    double thickness_mm = 12;  ///< measured, not nominal
    double density_kg_m3 = 600;
    double sheet_width_mm = 2440;  ///< along the grain of the face
    double sheet_height_mm = 1220;
    double nominal_mm = 0;  ///< the thickness it is sold by, where that is another
    double price = 0;       ///< of a sheet, in the job's currency; 0: not known
    /// Least radius of a dry bend with the face's grain running around it, and with it lying across (mm); bending
    /// stiffness along the grain (MPa). 0: not known.
    double bend_along_mm = 0, bend_across_mm = 0, modulus_mpa = 0;
    int sheets_in_stock = -1;     ///< -1: as many as needed
    bool has_grain = true;        ///< parts may only be turned by half a turn
    bool two_good_faces = false;  ///< parts may not be laid mirrored when only one face is good
    /// Solid wood: how much wider it grows across its grain, in percent a percent of moisture; none for plywood.
    double swelling_percent = 0;
    double moisture_cut_percent = 12, moisture_afloat_percent = 16;  ///< when it is cut, and in service
    bool operator==(const SheetMaterial&) const = default;
};

/// What goes on the faces of a piece.
struct Coating {
    double mass_kg_m2 = 0.25;  ///< cured, each face, all coats (common practice: 0.2-0.35 for three coats of epoxy)
    double film_mm = 0.25;     ///< each face
    bool operator==(const Coating&) const = default;
};

enum class GlassKind { mat, woven, biaxial };

const char* glass_name(GlassKind kind);

/// One ply of a tabbing pack. Glass by area: NIST SP 811, 1 oz/yd² = 33.906 g/m², mat 1 oz/ft² = 305.15 g/m².
struct Glass {
    GlassKind kind = GlassKind::biaxial;
    double mass_g_m2 = 450;
    bool operator==(const Glass&) const = default;
};

/// Mass of resin for a mass of glass (common practice): mat 2.25, woven and biaxial 1.0.
double resin_per_glass(GlassKind kind);
/// Thickness of the cured ply (mm): t = w (2.56/psi - 1.36)/3.072 with w in kg/m², glass fraction psi by mass.
/// Source: ISO 12215-5, annex on laminate properties (from memory).
double laminate_thickness_mm(double glass_kg_m2, double glass_fraction);
double glass_fraction(GlassKind kind);

inline constexpr double g_m2_per_oz_yd2 = 33.906;
inline constexpr double g_m2_per_oz_ft2 = 305.15;

/// Wood screw by gauge number N: shank 0.060 + 0.013 N inch (ASME B18.6.1, from memory).
double screw_shank_mm(int gauge);
/// Lengths that shops keep, stainless countersunk (common practice).
const std::vector<double>& screw_lengths_mm();
/// Mass of a stainless countersunk screw, as a cylinder of its shank with a head of the same mass as 6 mm of it
/// (invented estimate, good to a third).
double screw_mass_kg(int gauge, double length_mm);

}  // namespace bevelsmith::stock

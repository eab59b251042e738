// How a panel is made: a core with plies of cloth on its faces, its edge closed, its coverings. A plain sheet has
// none.
#pragma once

#include <string>
#include <vector>

#include "stock/material.h"

namespace bevelsmith::stock {

/// Plies of one cloth on one face.
struct Plies {
    Glass glass{};
    int count = 1;
    double fraction = 0;  ///< of glass by mass, 0.1 to 0.8; 0: as is usual for the cloth
    bool operator==(const Plies&) const = default;
};

/// How the core is closed where it is cut.
enum class EdgeClosing {
    open,     ///< not at all: a plain sheet, or nothing yet
    solid,    ///< with solid wood
    filled,   ///< core dug out, and filled with putty
    wrapped,  ///< the plies go round it
};

/// Mass, thickness and price of what is stuck on one face after it is cut: laminate, lining, cloth.
struct Covering {
    double kg_m2 = 0;
    double price_m2 = 0;
    bool operator==(const Covering&) const = default;
};

struct Layup {
    std::vector<Plies> face_a, face_b;
    EdgeClosing edges = EdgeClosing::open;
    Covering covering_a, covering_b;  ///< how thick they are stands with the piece (PieceSpec::covering_a_mm)
    bool operator==(const Layup&) const = default;
};

/// One ply of it, cured (mm): laminate_thickness_mm at the fraction.
double ply_thickness_mm(const Plies& plies);
/// What the plies come to: their thickness (mm), glass and resin (kg a square metre of one face, waste not counted).
struct Skin {
    double thickness_mm = 0, glass_kg_m2 = 0, resin_kg_m2 = 0;
    double mass_kg_m2() const { return glass_kg_m2 + resin_kg_m2; }
};
Skin skin_of(const std::vector<Plies>& plies);

/// Pieces of one cloth, as they are cut off its roll.
struct ClothCut {
    Glass glass{};
    int count = 0;                    ///< so many alike
    double wide_mm = 0, long_mm = 0;  ///< across the roll, along it
    bool operator==(const ClothCut&) const = default;
};

/// Cloth for a panel of so many millimetres along by across, off rolls `roll_mm` wide: each ply in drops as long as
/// the panel, side by side across it; all but the last as wide as the roll. Drops overlap by 30 mm (common practice).
/// Plies of one cloth stand together; empty without plies.
std::vector<ClothCut> cloth_cuts(const std::vector<Plies>& plies, double along_mm, double across_mm, double roll_mm);

/// Core and both skins (mm): t = core + sum of w (2.56/psi - 1.36)/3.072 a ply. Source: ISO 12215-5 (from memory).
double thickness_mm(const Layup& layup, double core_mm);
/// Core, both skins and coverings, a square metre of the panel (kg).
double mass_kg_m2(const Layup& layup, double core_mm, double core_density_kg_m3);
/// Skins that differ by more than a tenth of their thickness pull the panel hollow as they cure (common practice).
bool is_balanced(const Layup& layup);

}  // namespace bevelsmith::stock

// How a piece is held: tabbing or bonded blocks on solid laminate, with reasons, and what was rejected.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "piece/outline.h"
#include "stock/material.h"

namespace bevelsmith::fixing {

/// What the hull is made of.
enum class Construction {
    unsaid,    ///< taken to be solid laminate, and said to be so
    laminate,  ///< solid
    cored,
    timber,
    metal,
};
inline constexpr int construction_count = 5;
std::string_view construction_name(Construction construction);
/// What can take a fastening in such a hull (common practice); empty for solid laminate.
std::string_view construction_advice(Construction construction);

/// The boat's shell where the piece lands. Sizes are computed for solid laminate; of the others it is told what holds
/// in them.
struct Shell {
    Construction construction = Construction::unsaid;
    double laminate_mm = 9;
    bool operator==(const Shell&) const = default;
};

/// Decisions a yard makes once for all its pieces; every default is common practice unless a source is named.
struct Rules {
    double least_laminate_for_screws_mm = 12;  ///< thinner solid laminate takes no screws
    double least_clearance_mm = 3;             ///< clear behind a screw's point
    double fillet_radius_mm = 12;              ///< least that cloth will turn
    double fillet_density_kg_m3 = 1100;        ///< thickened epoxy
    double first_strip_mm = 80, strip_step_mm = 50;
    stock::Glass glass{};
    double resin_waste = 0.15;
    double block_length_mm = 60, block_width_mm = 40, block_depth_mm = 25;
    double block_density_kg_m3 = 650;  ///< specific gravity 0.65: a dense hardwood or board
    double block_spacing_mm = 350, end_distance_mm = 60;
    int screw_gauge = 8;
    double bond_strength_mpa = 1.0;  ///< working shear of a bond to ground laminate, factor included
    double screw_safety = 4;         ///< on the Wood Handbook's ultimate withdrawal
    double load_factor = 2;          ///< twice what it will carry
    bool operator==(const Rules&) const = default;
};

enum class Method { tabbing, bonded_blocks };

struct Rejected {
    std::string method, why;
};

struct Tabbing {
    std::vector<double> strip_widths_mm;  ///< narrow first; laid on each side
    double edge_length_mm = 0;            ///< one side
    double fillet_radius_mm = 0;
    double fillet_volume_l = 0;                                                          ///< both sides
    double glass_area_m2 = 0, glass_mass_kg = 0, resin_mass_kg = 0, fillet_mass_kg = 0;  ///< both sides
    double laminate_mm = 0;  ///< thickness of the whole pack, cured
};

struct Block {
    Vec3 position;      ///< middle of the bond on the shell (mm, boat's frame)
    Vec2 drawing;       ///< on face A
    double arc_mm = 0;  ///< along the scribed edge
    double bevel_rad = 0;
};

struct Blocks {
    std::vector<Block> positions;
    double bond_area_mm2 = 0;  ///< of one block
    int screw_gauge = 8;
    double screw_length_mm = 0;
    double panel_mm = 0, block_depth_mm = 0;
    double penetration_mm = 0;  ///< of the screw into the block
    double clearance_mm = 0;    ///< behind its point, to the back of the block
    double withdrawal_n = 0;    ///< working load of one screw
    double load_n = 0;          ///< carried by all, with the load factor
    bool overloaded = false;    ///< as many blocks as have room do not carry it
    double mass_kg = 0;         ///< all blocks, adhesive left out, with screws
};

struct Plan {
    Method method = Method::tabbing;
    Tabbing tabbing;  ///< when method is tabbing
    Blocks blocks;    ///< when method is bonded_blocks
    std::vector<std::string> reasons;
    std::vector<Rejected> rejected;
    std::vector<std::string> cautions;
    double mass_kg = 0;
};

/// Chooses and sizes the fixing of a piece. `panel_kg` is the bare mass of the piece; `forced` overrides the
/// choice (a person's decision; the review judges it).
Plan plan_fixing(const piece::PieceSpec& spec, const piece::Outline& outline, const Shell& shell, double panel_kg,
                 const Rules& rules, const Method* forced = nullptr);

/// Cross-section of a fillet of radius r in a corner of opening angle `corner_rad`: r² (1/tan(a/2) - (pi - a)/2)
/// (derived). mm².
double fillet_section_mm2(double radius_mm, double corner_rad);

/// Ultimate withdrawal of a wood screw from side grain: 108.25 G² D L (newton, mm). Source: USDA Wood Handbook,
/// FPL-GTR-282, ch. 8 (from memory). Valid for penetration of some 7 D; short screws are on the safe side.
double screw_withdrawal_n(double specific_gravity, double shank_mm, double thread_mm);

/// The longest stocked screw that ends `clearance_mm` short of the back of the block; 0 when none does.
double screw_length_mm(double panel_mm, double block_depth_mm, double clearance_mm);

}  // namespace bevelsmith::fixing

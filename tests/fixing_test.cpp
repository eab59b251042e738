// Fixings: choice, tabbing quantities, blocks and screws, against published formulas and hand arithmetic.
#include <catch2/catch.hpp>

#include <cmath>

#include "fixing/plan.h"
#include "support/jobs.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::fixing;

namespace {

fixing::Shell laminate(double mm) {
    return {fixing::Construction::laminate, mm};
}

piece::Outline outline(double thickness = 18) {
    const auto spec = jobs::tube_job().pieces.front();
    auto out = piece::compute_outline(spec, thickness, [](const std::string&) { return &jobs::tube_surface(); },
                                      {5000, 5000});
    REQUIRE(out.ok());
    return std::move(out.value());
}

piece::PieceSpec piece_that(bool structural, bool removable) {
    auto spec = jobs::tube_job().pieces.front();
    spec.structural = structural;
    spec.removable = removable;
    return spec;
}

Plan plan(bool structural, bool removable, const Rules& rules = {}, const Shell& shell = laminate(9),
          double kg = 20) {
    return plan_fixing(piece_that(structural, removable), outline(), shell, kg, rules);
}

}  // namespace

TEST_CASE("screw withdrawal by the Wood Handbook", "[fixing]") {
    // p = 15 700 G² D L lbf with inches (USDA Wood Handbook, FPL-GTR-282, ch. 8, from memory), in newton and
    // millimetres: 15 700 x 4.4482216 / 25.4² = 108.25. 1 lbf: NIST SP 811.
    CHECK(15700 * 4.4482216152605 / (25.4 * 25.4) == Approx(108.25).epsilon(5e-5));
    const double g = 0.65, d_in = 0.164, l_in = 0.7;
    const double newton = 15700 * g * g * d_in * l_in * 4.4482216152605;
    CHECK(screw_withdrawal_n(g, d_in * 25.4, l_in * 25.4) == Approx(newton).epsilon(1e-4));
    CHECK(screw_withdrawal_n(g, 4, 20) * 2 == Approx(screw_withdrawal_n(g, 4, 40)));
}

TEST_CASE("a wood screw's shank by its gauge", "[fixing]") {
    // 0.060 + 0.013 N inch (ASME B18.6.1, from memory): No. 8 is 0.164 inch.
    CHECK(stock::screw_shank_mm(8) == Approx(0.164 * 25.4));
    CHECK(stock::screw_shank_mm(10) - stock::screw_shank_mm(9) == Approx(0.013 * 25.4));
}

TEST_CASE("laminate thickness by glass and fraction", "[fixing]") {
    // t = w (2.56/psi - 1.36)/3.072 (ISO 12215-5 annex, from memory): mat at 0.30 gives 2.33 mm for 1 kg/m².
    CHECK(stock::laminate_thickness_mm(1, 0.30) == Approx(2.33).epsilon(3e-3));
    CHECK(stock::laminate_thickness_mm(2, 0.5) == Approx(2 * (2.56 / 0.5 - 1.36) / 3.072));
    CHECK(stock::glass_fraction(stock::GlassKind::mat) == Approx(1 / 3.25));
}

TEST_CASE("glass is sold by ounces too", "[fixing]") {
    // NIST SP 811: 1 oz = 0.028349523125 kg, 1 yd = 0.9144 m, 1 ft = 0.3048 m.
    CHECK(stock::g_m2_per_oz_yd2 == Approx(28.349523125 / (0.9144 * 0.9144)).epsilon(1e-5));
    CHECK(stock::g_m2_per_oz_ft2 == Approx(28.349523125 / (0.3048 * 0.3048)).epsilon(1e-5));
}

TEST_CASE("a fillet's cross-section, square and in any corner", "[fixing]") {
    // r²(1 - pi/4) in a square corner; r²(1/tan(a/2) - (pi - a)/2) in general (derived). The oracle integrates the
    // area between two walls and the tangent circle numerically.
    CHECK(fillet_section_mm2(12, units::pi / 2) == Approx(144 * (1 - units::pi / 4)));
    for (double corner_deg : {60.0, 80.0, 90.0, 105.0, 130.0}) {
        const double a = units::radians(corner_deg), radius = 15;
        const double reach = radius / std::tan(a / 2);
        double area = 0;
        constexpr int steps = 200000;
        for (int k = 0; k < steps; ++k) {  // polar strips from the corner out to the arc
            const double angle = a * (k + 0.5) / steps;
            const double b = radius / std::sin(a / 2) * std::cos(angle - a / 2);
            const double distance = b - std::sqrt(std::max(0.0, b * b - reach * reach));
            area += distance * distance / 2 * (a / steps);
        }
        CHECK(fillet_section_mm2(radius, a) == Approx(area).epsilon(1e-4));
    }
}

TEST_CASE("the longest stocked screw that keeps its clearance", "[fixing]") {
    // 12 mm panel, 25 mm block, 3 mm clear: at most 34 mm, so 30 from the shop.
    CHECK(screw_length_mm(12, 25, 3) == 30);
    CHECK(screw_length_mm(12, 26, 3) == 35);
    CHECK(screw_length_mm(18, 25, 3) == 40);
    CHECK(screw_length_mm(12, 4, 3) == 0);
}

TEST_CASE("what is structural is tabbed, what comes out is screwed to bonded blocks", "[fixing]") {
    CHECK(plan(true, false).method == Method::tabbing);
    CHECK(plan(true, true).method == Method::tabbing);
    CHECK(plan(false, true).method == Method::bonded_blocks);
    CHECK(plan(false, false).method == Method::tabbing);
    for (bool structural : {false, true})
        for (bool removable : {false, true}) {
            const Plan p = plan(structural, removable);
            CHECK_FALSE(p.reasons.empty());
            CHECK(p.rejected.size() >= 2);
            CHECK_FALSE(p.cautions.empty());
            CHECK(p.mass_kg > 0);
        }
}

TEST_CASE("screws into thin laminate are rejected for its thickness", "[fixing]") {
    CHECK(plan(false, true, {}, laminate(9)).rejected.front().why.find("under 12 mm") != std::string::npos);
    CHECK(plan(false, true, {}, laminate(15)).rejected.front().why.find("leak") != std::string::npos);
}

TEST_CASE("a person's choice overrides, and is said to", "[fixing]") {
    const Method blocks = Method::bonded_blocks;
    const Plan p = plan_fixing(piece_that(true, false), outline(), laminate(9), 20, {}, &blocks);
    CHECK(p.method == blocks);
    CHECK(p.reasons.front().find("by hand") != std::string::npos);
}

TEST_CASE("tabbing: strips, glass, resin and fillets by hand arithmetic", "[fixing]") {
    Rules rules;
    rules.first_strip_mm = 100;
    rules.strip_step_mm = 50;
    rules.glass = {stock::GlassKind::biaxial, 600};
    rules.resin_waste = 0.1;
    const Plan p = plan(true, false, rules);
    const auto& t = p.tabbing;
    // 18 mm of bulkhead: three plies to 12 mm and one more for the next 6.
    REQUIRE(t.strip_widths_mm == std::vector<double>{100, 150, 200, 250});
    const double edge_m = outline().edge_length_mm / 1000;
    CHECK(t.glass_area_m2 == Approx(2 * 0.7 * edge_m));
    CHECK(t.glass_mass_kg == Approx(t.glass_area_m2 * 0.6));
    CHECK(t.resin_mass_kg == Approx(t.glass_mass_kg * 1.0 * 1.1));
    // Bevels are nil on a cylinder cut square: both fillets are square ones.
    CHECK(t.fillet_volume_l == Approx(2 * edge_m * 1000 * 144 * (1 - units::pi / 4) / 1e6).epsilon(2e-3));
    CHECK(t.fillet_mass_kg == Approx(t.fillet_volume_l * 1.1));
    CHECK(t.laminate_mm == Approx(stock::laminate_thickness_mm(4 * 0.6, 0.5)));
    CHECK(p.mass_kg == Approx(t.glass_mass_kg + t.resin_mass_kg + t.fillet_mass_kg));
}

TEST_CASE("mat drinks more resin than woven glass", "[fixing]") {
    Rules mat, woven;
    mat.glass.kind = stock::GlassKind::mat;
    woven.glass.kind = stock::GlassKind::woven;
    CHECK(plan(true, false, mat).tabbing.resin_mass_kg ==
          Approx(2.25 * plan(true, false, woven).tabbing.resin_mass_kg));
}

TEST_CASE("blocks: number by spacing, by load, and never nearer to the ends than the rules say", "[fixing]") {
    const auto shape = outline();
    const Plan p = plan(false, true);
    const auto& b = p.blocks;
    const Rules rules;
    REQUIRE(b.positions.size() >= 2);
    for (std::size_t i = 1; i < b.positions.size(); ++i)
        CHECK(b.positions[i].arc_mm - b.positions[i - 1].arc_mm <= rules.block_spacing_mm + 12);  // a mark's step
    double first = 1e9, last = 0;
    for (const auto& m : shape.marks)
        if (m.kept) first = std::min(first, m.arc_mm), last = std::max(last, m.arc_mm);
    CHECK(b.positions.front().arc_mm >= first + rules.end_distance_mm - 12);
    CHECK(b.positions.back().arc_mm <= last - rules.end_distance_mm + 12);
    for (const auto& block : b.positions)
        CHECK(std::hypot(block.position.y(), block.position.z()) == Approx(jobs::tube_radius_mm).margin(0.1));
    const Plan heavy = plan(false, true, {}, laminate(9), 600);
    CHECK(heavy.blocks.positions.size() > b.positions.size());
    const double one = std::min(heavy.blocks.withdrawal_n, heavy.blocks.bond_area_mm2 * rules.bond_strength_mpa);
    CHECK(static_cast<double>(heavy.blocks.positions.size()) * one >= heavy.blocks.load_n);
}

TEST_CASE("the stack under a screw adds up", "[fixing]") {
    const auto b = plan(false, true).blocks;
    CHECK(b.screw_length_mm == Approx(b.panel_mm + b.penetration_mm));
    CHECK(b.penetration_mm + b.clearance_mm == Approx(b.block_depth_mm));
    CHECK(b.clearance_mm >= 3);
    CHECK(b.load_n == Approx(20 * 9.80665 * 2));
    CHECK(b.withdrawal_n ==
          Approx(screw_withdrawal_n(0.65, b.screw_gauge == 8 ? 0.164 * 25.4 : 0, b.penetration_mm) / 4));
}

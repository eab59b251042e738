#include "fixing/plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "units/quantity.h"
#include "units/ranges.h"

namespace bevelsmith::fixing {
namespace {

constexpr double gravity = 9.80665;

/// Plies a side (common practice): three up to 12 mm of bulkhead, then one more for every 6 mm.
int plies_for(double thickness_mm) {
    return 3 + std::max(0, static_cast<int>(std::ceil((thickness_mm - 12) / 6)));
}

/// Volume of the fillets on both sides, corner by corner: where the bevel is open on one side it is closed on
/// the other. The section is averaged between marks and taken along the whole edge, so that the stretch between the
/// last mark and the corner counts too.
double fillet_volume_l(const piece::Outline& outline, double radius_mm) {
    double mm3 = 0, along = 0;
    for (std::size_t i = 1; i < outline.marks.size(); ++i) {
        const auto &m = outline.marks[i], &before = outline.marks[i - 1];
        if (!m.kept || !before.kept) continue;
        const double length = (m.a - before.a).norm(), bevel = (m.bevel_rad + before.bevel_rad) / 2;
        along += length;
        mm3 += length * (fillet_section_mm2(radius_mm, units::pi / 2 - bevel) +
                         fillet_section_mm2(radius_mm, units::pi / 2 + bevel));
    }
    return along > 0 ? mm3 / along * outline.edge_length_mm / 1e6 : 0;
}

Tabbing size_tabbing(const piece::Outline& outline, const Rules& rules) {
    Tabbing t;
    const int plies = plies_for(outline.thickness_mm);
    double widths = 0;
    for (int k = 0; k < plies; ++k) {
        t.strip_widths_mm.push_back(rules.first_strip_mm + k * rules.strip_step_mm);
        widths += t.strip_widths_mm.back();
    }
    t.edge_length_mm = outline.edge_length_mm;
    t.fillet_radius_mm = rules.fillet_radius_mm;
    t.fillet_volume_l = fillet_volume_l(outline, rules.fillet_radius_mm);
    t.fillet_mass_kg = t.fillet_volume_l / 1000 * rules.fillet_density_kg_m3;
    t.glass_area_m2 = 2 * widths * t.edge_length_mm / 1e6;
    t.glass_mass_kg = t.glass_area_m2 * rules.glass.mass_g_m2 / 1000;
    t.resin_mass_kg = t.glass_mass_kg * stock::resin_per_glass(rules.glass.kind) * (1 + rules.resin_waste);
    t.laminate_mm =
        stock::laminate_thickness_mm(plies * rules.glass.mass_g_m2 / 1000, stock::glass_fraction(rules.glass.kind));
    return t;
}

/// Evenly along each stretch of kept edge, `end` from its ends, no farther apart than `spacing`, at least two.
std::vector<std::size_t> spaced_marks(const std::vector<piece::EdgeMark>& marks, double spacing, double end,
                                      int at_least) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < marks.size();) {
        if (!marks[i].kept) {
            ++i;
            continue;
        }
        std::size_t k = i;
        while (k + 1 < marks.size() && marks[k + 1].kept) ++k;
        const double from = marks[i].arc_mm + end, to = marks[k].arc_mm - end;
        if (to > from) {
            constexpr int most = static_cast<int>(units::limit::blocks.most);
            const int for_spacing = static_cast<int>(std::min<double>(most, std::ceil((to - from) / spacing) + 1));
            const int n = std::clamp(std::max(at_least, for_spacing), 2, most);
            for (int b = 0; b < n; ++b) {
                const double want = from + (to - from) * b / (n - 1);
                auto near = std::min_element(marks.begin() + static_cast<std::ptrdiff_t>(i),
                                             marks.begin() + static_cast<std::ptrdiff_t>(k) + 1,
                                             [&](const auto& p, const auto& q) {
                                                 return std::abs(p.arc_mm - want) < std::abs(q.arc_mm - want);
                                             });
                out.push_back(static_cast<std::size_t>(near - marks.begin()));
            }
        }
        i = k + 1;
    }
    return out;
}

Blocks size_blocks(const piece::Outline& outline, double panel_kg, const Rules& rules) {
    Blocks b;
    b.panel_mm = outline.thickness_mm;
    b.block_depth_mm = rules.block_depth_mm;
    b.screw_gauge = rules.screw_gauge;
    b.bond_area_mm2 = rules.block_length_mm * rules.block_width_mm;
    b.screw_length_mm = screw_length_mm(b.panel_mm, b.block_depth_mm, rules.least_clearance_mm);
    b.penetration_mm = std::max(0.0, b.screw_length_mm - b.panel_mm);
    b.clearance_mm = b.block_depth_mm - b.penetration_mm;
    b.withdrawal_n =
        screw_withdrawal_n(rules.block_density_kg_m3 / 1000, stock::screw_shank_mm(b.screw_gauge), b.penetration_mm) /
        rules.screw_safety;
    b.load_n = panel_kg * gravity * rules.load_factor;
    const double one = std::min(b.withdrawal_n, b.bond_area_mm2 * rules.bond_strength_mpa);
    constexpr auto most = static_cast<double>(units::limit::blocks.most);
    const double wanted = one > 0 ? std::ceil(b.load_n / one) : 0;
    const int for_load = static_cast<int>(std::min(wanted, most));
    for (std::size_t i : spaced_marks(outline.marks, rules.block_spacing_mm, rules.end_distance_mm, for_load)) {
        const auto& m = outline.marks[i];
        b.positions.push_back({outline.frame.to_space(m.a), m.a, m.arc_mm, m.bevel_rad});
    }
    b.overloaded = one * static_cast<double>(b.positions.size()) < b.load_n;
    const double block_kg = b.bond_area_mm2 * b.block_depth_mm * 1e-9 * rules.block_density_kg_m3;
    b.mass_kg =
        static_cast<double>(b.positions.size()) * (block_kg + stock::screw_mass_kg(b.screw_gauge, b.screw_length_mm));
    return b;
}

Method choose(const piece::PieceSpec& spec, const Shell& shell, const Rules& rules, Plan& plan) {
    const bool thin = shell.laminate_mm < rules.least_laminate_for_screws_mm;
    plan.rejected.push_back(
        {"screws into the shell", thin ? fmt::format("the laminate is {:.0f} mm; under {:.0f} mm it takes no screws",
                                                     shell.laminate_mm, rules.least_laminate_for_screws_mm)
                                       : "every hole through the laminate is a leak to be; bonding needs none"});
    if (spec.structural) {
        plan.reasons.push_back("A structural piece is bonded to the shell on both sides, for good.");
        plan.rejected.push_back({"bonded blocks", "blocks carry removable, non-structural pieces only"});
        return Method::tabbing;
    }
    if (spec.removable) {
        plan.reasons.push_back("It must come out again and carries no structure: screwed to bonded blocks.");
        plan.rejected.push_back({"tabbing", "glassed in, it could not come out without a grinder"});
        return Method::bonded_blocks;
    }
    plan.reasons.push_back("It stays for good: tabbing spreads the load along the whole edge.");
    plan.rejected.push_back(
        {"bonded blocks", "for pieces that come out; here the edge would move between blocks and squeak"});
    return Method::tabbing;
}

void explain(Plan& plan, const Rules& rules) {
    if (plan.method == Method::tabbing) {
        const auto& t = plan.tabbing;
        plan.reasons.push_back(
            fmt::format("{} plies a side, {:.1f} mm cured, over a fillet of {:.0f} mm, the least that cloth turns.",
                        t.strip_widths_mm.size(), t.laminate_mm, t.fillet_radius_mm));
        plan.cautions.push_back("Structure: have a designer, class or builder confirm the laminate.");
        plan.cautions.push_back(
            "Grind to clean laminate with mask and eye protection. Resin and solvent vapours need moving air.");
        return;
    }
    const auto& b = plan.blocks;
    plan.reasons.push_back(
        fmt::format("{} blocks carry {:.0f} N, {:.3g} times the panel's weight; one screw holds {:.0f} N with a "
                    "factor of {:.3g}.",
                    b.positions.size(), b.load_n, rules.load_factor, b.withdrawal_n, rules.screw_safety));
    plan.cautions.push_back("Record where the blocks sit: the piece will hide them.");
    plan.cautions.push_back("Grind paint and gelcoat to bare laminate under each block; mask and eye protection.");
}

}  // namespace

std::string_view construction_name(Construction construction) {
    static constexpr std::string_view names[] = {"not said", "solid laminate", "cored laminate", "timber", "metal"};
    return names[static_cast<int>(construction)];
}

std::string_view construction_advice(Construction construction) {
    switch (construction) {
        case Construction::cored:
            return "Cored: light screws go into the inner skin only where the core is solid or has an insert; else "
                   "bond. Grind no deeper than the skin.";
        case Construction::timber:
            return "Timber: screw to frames and beams, not to the planking, and seal every hole. Tabbing wants clean "
                   "dry "
                   "wood and epoxy.";
        case Construction::metal:
            return "Metal: fasten to welded lugs, frames or stringers, with isolated stainless in aluminium and no "
                   "dissimilar metals wet. Neither tabbing nor bonded blocks hold well on it.";
        default: return {};
    }
}

double fillet_section_mm2(double radius_mm, double corner_rad) {
    return radius_mm * radius_mm * (1 / std::tan(corner_rad / 2) - (units::pi - corner_rad) / 2);
}

double screw_withdrawal_n(double specific_gravity, double shank_mm, double thread_mm) {
    return 108.25 * specific_gravity * specific_gravity * shank_mm * thread_mm;
}

double screw_length_mm(double panel_mm, double block_depth_mm, double clearance_mm) {
    double best = 0;
    for (double length : stock::screw_lengths_mm())
        if (length > panel_mm && length <= panel_mm + block_depth_mm - clearance_mm) best = length;
    return best;
}

Plan plan_fixing(const piece::PieceSpec& spec, const piece::Outline& outline, const Shell& shell, double panel_kg,
                 const Rules& rules, const Method* forced) {
    Plan plan;
    plan.method = choose(spec, shell, rules, plan);
    if (forced && *forced != plan.method) {
        plan.method = *forced;
        plan.reasons = {"Chosen by hand, against the advice beside it."};
        std::erase_if(plan.rejected, [&](const Rejected& r) {
            return r.method == (plan.method == Method::tabbing ? "tabbing" : "bonded blocks");
        });
    }
    if (plan.method == Method::tabbing) {
        plan.tabbing = size_tabbing(outline, rules);
        plan.mass_kg = plan.tabbing.glass_mass_kg + plan.tabbing.resin_mass_kg + plan.tabbing.fillet_mass_kg;
    } else {
        plan.blocks = size_blocks(outline, panel_kg, rules);
        plan.mass_kg = plan.blocks.mass_kg;
    }
    explain(plan, rules);
    if (shell.construction == Construction::unsaid)
        plan.cautions.push_back(
            fmt::format("Assumed: the hull is solid laminate of {:.0f} mm. Nobody has said so.", shell.laminate_mm));
    if (const auto advice = construction_advice(shell.construction); !advice.empty())
        plan.cautions.insert(plan.cautions.begin(), std::string(advice));
    return plan;
}

}  // namespace bevelsmith::fixing

#include "job/finished_cost.h"

#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "job/layup_work.h"
#include "job/length_plan.h"
#include "job/sheet_count.h"

namespace bevelsmith::job {
namespace {

constexpr double mm2_per_m2 = 1e6;

bool holds(const PieceGroup& group, const std::string& id) {
    return std::find(group.piece_ids.begin(), group.piece_ids.end(), id) != group.piece_ids.end();
}

/// The group's parts on the choice's sheets.
sheets::Problem problem_of(const Job& job, const Results& results, const PieceGroup& group,
                           const JobMaterial& material) {
    sheets::Problem out;
    out.spacing_mm = job.cutting.spacing_mm;
    out.edge_margin_mm = job.cutting.edge_margin_mm;
    sheets::Stock sheet;
    sheet.shape.outer = geometry::rectangle({{0, 0}, {material.sheet_width_mm, material.sheet_height_mm}});
    out.stock.push_back(sheet);
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = made_shape(job.pieces[i], results.pieces[i]);
        if (!shape || !holds(group, job.pieces[i].id)) continue;
        for (const auto& part : shape->parts) {
            sheets::Part laid;
            laid.id = part.id;
            laid.quantity = sheets_cut(job.pieces[i]);
            laid.rotations_deg =
                material.has_grain ? std::vector<double>{0, 180} : std::vector<double>{0, 90, 180, 270};
            laid.shape = geometry::oriented(
                geometry::transformed(part.larger, -units::radians(job.pieces[i].grain_deg), {0, 0}));
            out.parts.push_back(std::move(laid));
        }
    }
    return out;
}

struct Amounts {
    double one_face_m2 = 0, edges_m = 0, lipping_m = 0, laminating_h = 0;
};

Amounts amounts_of(const Job& job, const Results& results, const PieceGroup& group) {
    Amounts out;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = made_shape(job.pieces[i], results.pieces[i]);
        if (!shape || !holds(group, job.pieces[i].id)) continue;
        const double copies = job.pieces[i].copies;
        out.one_face_m2 +=
            copies * (geometry::area_mm2(shape->face_a) + geometry::area_mm2(shape->face_b)) / 2 / mm2_per_m2;
        out.edges_m += copies * geometry::length_mm(shape->face_a.outer, true) / 1000;
        out.laminating_h += copies * layup_work(job, job.pieces[i], *shape).hours;
    }
    for (const auto& length : derived_lengths(job, results))
        if (holds(group, length.piece_id) && length.name.rfind("lipping", 0) == 0)
            out.lipping_m += length.quantity * length.length_mm / 1000;
    return out;
}

}  // namespace

std::vector<PieceGroup> piece_groups(const Job& job, const Results& results) {
    std::vector<PieceGroup> out;
    const auto add = [&](const std::string& name, auto belongs) {
        PieceGroup group{name, {}};
        for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i)
            if (made_shape(job.pieces[i], results.pieces[i]) && belongs(job.pieces[i]))
                group.piece_ids.push_back(job.pieces[i].id);
        if (!group.piece_ids.empty()) out.push_back(std::move(group));
    };
    for (const auto& m : job.materials)
        add("all of " + m.name, [&](const JobPiece& p) { return p.material_id == m.id; });
    for (const auto& u : job.units) add(u.name, [&](const JobPiece& p) { return is_of(p.id, u.id); });
    return out;
}

std::vector<FinishedCost> finished_costs(const Job& job, const Results& results, const PieceGroup& group,
                                         const KeepGoing& keep_going) {
    const Amounts amounts = amounts_of(job, results, group);
    std::vector<FinishedCost> out;
    for (const auto& choice : job.choices) {
        ask(keep_going);
        FinishedCost one;
        one.choice_id = choice.id, one.name = choice.name;
        const auto* material = find_material(job, choice.material_id);
        if (!material) continue;
        const auto problem = problem_of(job, results, group, *material);
        one.fault = sheets::fault_of(problem);
        if (one.fault.empty()) {
            sheets::NestOptions options;
            options.rounds = 3, options.seconds = 1, options.seed = job.cutting.seed;
            options.keep_going = keep_going;
            const auto layout = sheets::nest(problem, options);
            const WithoutPlace left = without_place(problem, layout, *material);
            one.without_place = left.parts;
            one.sheets = static_cast<int>(layout.sheet_stock.size()) + static_cast<int>(left.sheets);
        }
        const double faces = 2 * amounts.one_face_m2;
        const double laminated = choice.laminated_faces * amounts.one_face_m2, coated = faces - laminated;
        one.price_known = material->price > 0;
        one.sheets_cost = one.sheets * material->price;
        one.laminate_cost = laminated * choice.laminate_price_m2;
        one.litres = choice.coats * coated / choice.coat_m2_l;
        one.coats_cost = one.litres * choice.coat_price_l;
        one.lipping_cost = amounts.lipping_m * choice.lipping_price_m;
        one.hours = faces * choice.hours_m2 + amounts.edges_m * choice.hours_m + amounts.laminating_h;
        one.hours_cost = one.hours * job.costs.hour_rate;
        one.panel_kg = amounts.one_face_m2 * material->thickness_mm / 1000 * material->density_kg_m3;
        one.laminate_kg = laminated * choice.laminate_kg_m2;
        one.coats_kg = choice.coats * coated * choice.coat_kg_m2;
        one.lipping_kg = amounts.lipping_m * choice.lipping_kg_m;
        one.faces_m2 = faces, one.lipping_m = amounts.lipping_m, one.edges_m = amounts.edges_m;
        out.push_back(std::move(one));
    }
    return out;
}

std::vector<MaterialChoice> usual_choices(const Job& job) {
    std::vector<MaterialChoice> out;
    if (job.materials.empty()) return out;
    const auto add = [&](const std::string& name, auto change) {
        MaterialChoice c;
        c.id = "M" + std::to_string(out.size() + 1);
        c.material_id = job.materials[std::min(out.size(), job.materials.size() - 1)].id;
        c.name = name + ", " + find_material(job, c.material_id)->name;
        change(c);
        out.push_back(std::move(c));
    };
    // All figures invented: prices in no real money, hours of no real yard.
    add("varnished", [](MaterialChoice& c) {
        c.coats = 6, c.coat_price_l = 32, c.coat_m2_l = 12, c.coat_kg_m2 = 0.06;
        c.lipping_price_m = 3.5, c.lipping_kg_m = 0.12, c.hours_m2 = 0.9, c.hours_m = 0.15;
    });
    add("painted", [](MaterialChoice& c) {
        c.coats = 4, c.coat_price_l = 26, c.coat_m2_l = 9, c.coat_kg_m2 = 0.1;
        c.lipping_price_m = 2, c.lipping_kg_m = 0.1, c.hours_m2 = 0.6, c.hours_m = 0.1;
    });
    add("laminated on one face", [](MaterialChoice& c) {
        c.laminated_faces = 1, c.laminate_price_m2 = 22, c.laminate_kg_m2 = 1.2;
        c.coats = 2, c.coat_price_l = 20, c.coat_m2_l = 10, c.coat_kg_m2 = 0.1;
        c.lipping_price_m = 3.5, c.lipping_kg_m = 0.12, c.hours_m2 = 0.5, c.hours_m = 0.2;
    });
    return out;
}

}  // namespace bevelsmith::job

#include "exchange/report.h"

#include <nlohmann/json.hpp>

#include "exchange/parts_json.h"
#include "job/in_full.h"
#include "job/layup_work.h"
#include "job/packing.h"
#include "piece/role_words.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {
namespace {

using OrderedJson = nlohmann::ordered_json;
using units::degrees;

OrderedJson json_of(const Vec3& p) {
    return {p.x(), p.y(), p.z()};
}
OrderedJson json_of(const Vec2& p) {
    return {p.x(), p.y()};
}

OrderedJson ring_in_space(const geometry::Ring& ring, const piece::Outline& shape, double off_mm) {
    OrderedJson out = OrderedJson::array();
    for (const Vec2& p : ring) out.push_back(json_of(Vec3(shape.frame.to_space(p) + shape.frame.normal * off_mm)));
    return out;
}

OrderedJson polygon(const geometry::Polygon& p) {
    OrderedJson outer = OrderedJson::array(), holes = OrderedJson::array();
    for (const Vec2& q : p.outer) outer.push_back(json_of(q));
    for (const auto& hole : p.holes) {
        OrderedJson ring = OrderedJson::array();
        for (const Vec2& q : hole) ring.push_back(json_of(q));
        holes.push_back(ring);
    }
    return {{"outer", outer}, {"holes", holes}};
}

OrderedJson mark(const piece::EdgeMark& m, const piece::Outline& shape) {
    const Vec3 b = shape.frame.to_space(m.b) + shape.frame.normal * shape.thickness_mm;
    return {{"along_mm", m.arc_mm},    {"a", json_of(shape.frame.to_space(m.a))},
            {"b", json_of(b)},         {"bevel_deg", degrees(m.bevel_rad)},
            {"sigma_mm", m.sigma_mm},  {"gap_in_panel_mm", m.gap_mm},
            {"in_survey", m.in_survey}};
}

/// What carries a level panel, each with how wide the panel lies on it.
OrderedJson carriers(const job::Job& job, const piece::BearingReport& bearing) {
    OrderedJson out = OrderedJson::array();
    for (const auto& line : bearing.lines) {
        OrderedJson one{{"what", line.what}, {"length_mm", line.length_mm}, {"bearing_mm", line.width_mm}};
        if (!line.piece_id.empty()) one["piece"] = line.piece_id;
        if (!line.obstacle_id.empty()) one["obstacle"] = line.obstacle_id;
        if (line.edge >= 0) {
            one["edge"] = line.edge;
            // A cleat is made as wide as what lies before it and the least bearing ask for.
            one["cleat_wanted_mm"] =
                std::max(0.0, job.fixing_rules.block_width_mm - line.width_mm) + job.comfort.bearing_mm;
        }
        out.push_back(std::move(one));
    }
    return out;
}

OrderedJson levels(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape,
                   const piece::Stack& stack) {
    OrderedJson out{{"finished_up_mm", stack.finished_up_mm},
                    {"covering_mm", stack.covering_mm},
                    {"plies_mm", stack.skins_mm},
                    {"panel_mm", stack.sheet_mm},
                    {"under_mm", stack.under_mm},
                    {"bedding_mm", stack.bedding_mm},
                    {"bearer_up_mm", stack.bearer_up_mm}};
    out["from_marks"] = OrderedJson::array();
    for (const auto& m : job.marks)
        out["from_marks"].push_back({{"mark", m.id}, {"bearer_over_it_mm", stack.bearer_up_mm - m.position.z()}});
    out["packing"] = OrderedJson::array();
    for (const auto& p : job::packing_under(job, piece, shape))
        out["packing"].push_back({{"obstacle", p.obstacle_id},
                                  {"gap_mm", p.gap_mm},
                                  {"packers_mm", p.packing.pieces_mm},
                                  {"left_mm", p.packing.left_mm}});
    return out;
}

OrderedJson skin(const std::vector<stock::Plies>& plies) {
    const stock::Skin s = stock::skin_of(plies);
    return {{"thickness_mm", s.thickness_mm}, {"glass_kg_m2", s.glass_kg_m2}, {"resin_kg_m2", s.resin_kg_m2}};
}

/// How a panel is made: thickness and masses of the layup.
OrderedJson layup(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape) {
    const double m2 = (geometry::area_mm2(shape.face_a) + geometry::area_mm2(shape.face_b)) / 2e6;
    const double kg_m2 = job::mass_kg_m2(job, piece);
    const job::LayupWork work = job::layup_work(job, piece, shape);
    OrderedJson cloth = OrderedJson::array();
    for (const auto& c : work.cuts)
        cloth.push_back({{"kind", stock::glass_name(c.glass.kind)},
                         {"mass_g_m2", c.glass.mass_g_m2},
                         {"count", c.count},
                         {"wide_mm", c.wide_mm},
                         {"long_mm", c.long_mm}});
    return {{"thickness_mm", shape.thickness_mm},
            {"mass_kg_m2", kg_m2},
            {"mass_kg", kg_m2 * m2},
            {"face_a", skin(piece.layup.face_a)},
            {"face_b", skin(piece.layup.face_b)},
            {"balanced", stock::is_balanced(piece.layup)},
            {"hours", work.hours},
            {"cure_h", work.cure_h},
            {"glass_kg", work.glass_kg},
            {"resin_kg", work.resin_kg},
            {"cloth", std::move(cloth)}};
}

const char* meets(piece::EdgeSource source) {
    switch (source) {
        case piece::EdgeSource::scribed: return "surface";
        case piece::EdgeSource::straight: return "line";
        case piece::EdgeSource::limber: return "limber notch";
        case piece::EdgeSource::notch: return "notch";
        case piece::EdgeSource::free: return "nothing";
        case piece::EdgeSource::obstacle: return "obstacle";
        case piece::EdgeSource::crossing: return "crossing piece";
        case piece::EdgeSource::joint: break;
    }
    return "joint";
}

OrderedJson edges(const job::JobPiece& piece, const piece::Outline& shape) {
    OrderedJson out = OrderedJson::array();
    for (const auto& e : shape.edges_a) {
        OrderedJson edge{{"name", e.name},
                         {"meets", meets(e.source)},
                         {"length_mm", e.length_mm},
                         {"first", e.first},
                         {"last", e.last}};
        const bool own = e.source == piece::EdgeSource::scribed || e.source == piece::EdgeSource::straight;
        if (own && e.spec >= 0) {
            const auto& spec = piece.edges[static_cast<std::size_t>(e.spec)];
            edge["gap_mm"] = spec.gap_mm;
            edge["coating_mm"] = spec.coating_mm;
            if (e.source == piece::EdgeSource::scribed) edge["surface"] = spec.surface_id;
            else edge["bevel_deg"] = degrees(e.bevel_rad);
            if (spec.kind == piece::EdgeKind::piece) {
                edge["meets"] = spec.meeting == piece::Meeting::stops ? "piece" : "piece, over its end";
                edge["piece"] = spec.piece_id;
            }
            if (spec.kind == piece::EdgeKind::plane) edge["meets"] = "plane";
        }
        if (e.source == piece::EdgeSource::crossing) edge["bevel_deg"] = degrees(e.bevel_rad);
        out.push_back(edge);
    }
    return out;
}

OrderedJson bevel_runs(const piece::Outline& shape) {
    OrderedJson out = OrderedJson::array();
    for (const auto& r : shape.bevel_runs)
        out.push_back({{"from_mm", shape.marks[static_cast<std::size_t>(r.first)].arc_mm},
                       {"to_mm", shape.marks[static_cast<std::size_t>(r.last)].arc_mm},
                       {"mean_deg", degrees(r.mean_rad)},
                       {"least_deg", degrees(r.least_rad)},
                       {"most_deg", degrees(r.most_rad)}});
    return out;
}

OrderedJson parts(const piece::Outline& shape) {
    OrderedJson out = OrderedJson::array();
    for (const auto& p : shape.parts)
        out.push_back({{"id", p.id},
                       {"name", p.name},
                       {"passes", p.passes},
                       {"passing_width_mm", p.passing_width_mm},
                       {"blank_along_grain_mm", p.blank_along_mm},
                       {"blank_across_grain_mm", p.blank_across_mm},
                       {"face_a", polygon(p.face_a)},
                       {"face_b", polygon(p.face_b)}});
    return out;
}

OrderedJson fixing(const job::PieceResult& piece) {
    const auto& plan = piece.fixing;
    OrderedJson out{{"piece", piece.id},
                    {"method", plan.method == fixing::Method::tabbing ? "tabbing" : "bonded blocks"},
                    {"mass_kg", plan.mass_kg},
                    {"reasons", plan.reasons}};
    out["rejected"] = OrderedJson::array();
    for (const auto& r : plan.rejected) out["rejected"].push_back({{"method", r.method}, {"why", r.why}});
    out["cautions"] = plan.cautions;
    if (plan.method == fixing::Method::tabbing) {
        const auto& t = plan.tabbing;
        out["tabbing"] = {{"strip_widths_mm", t.strip_widths_mm},
                          {"edge_length_mm", t.edge_length_mm},
                          {"fillet_radius_mm", t.fillet_radius_mm},
                          {"fillet_volume_l", t.fillet_volume_l},
                          {"fillet_mass_kg", t.fillet_mass_kg},
                          {"glass_area_m2", t.glass_area_m2},
                          {"glass_mass_kg", t.glass_mass_kg},
                          {"resin_mass_kg", t.resin_mass_kg},
                          {"laminate_mm", t.laminate_mm}};
        return out;
    }
    const auto& b = plan.blocks;
    OrderedJson positions = OrderedJson::array();
    for (const auto& p : b.positions)
        positions.push_back(
            {{"at", json_of(p.position)}, {"along_mm", p.arc_mm}, {"bevel_deg", degrees(p.bevel_rad)}});
    out["blocks"] = {{"number", b.positions.size()},
                     {"positions", positions},
                     {"bond_area_mm2", b.bond_area_mm2},
                     {"screw_gauge", b.screw_gauge},
                     {"screw_length_mm", b.screw_length_mm},
                     {"panel_mm", b.panel_mm},
                     {"block_depth_mm", b.block_depth_mm},
                     {"penetration_mm", b.penetration_mm},
                     {"clearance_mm", b.clearance_mm},
                     {"withdrawal_n", b.withdrawal_n},
                     {"load_n", b.load_n}};
    return out;
}

OrderedJson piece_json(const job::Job& job, const job::JobPiece& piece, const job::PieceResult& result) {
    OrderedJson out{{"id", piece.id},
                    {"name", piece.name},
                    {"kind", piece.kind},
                    {"place", piece.place},
                    {"role", piece::words_of(piece.role).id}};
    const auto* shape = result.shape();
    if (!shape) {
        out["error"] = result.outline->error().message;
        out["mass_kg"] = 0;
        out["centre_mm"] = nullptr;
        out["outline_a"] = out["outline_b"] = out["edges"] = OrderedJson::array();
        return out;
    }
    out["mass_kg"] = result.mass.total.mass_kg;
    out["centre_mm"] = json_of(result.mass.total.centre_mm);
    out["panel_kg"] = result.mass.panel.mass_kg;
    out["coating_kg"] = result.mass.coating.mass_kg;
    out["fixing_kg"] = result.mass.fixing.mass_kg;
    out["thickness_mm"] = shape->thickness_mm;
    out["area_a_mm2"] = geometry::area_mm2(shape->face_a);
    out["area_b_mm2"] = geometry::area_mm2(shape->face_b);
    out["outline_a"] = ring_in_space(shape->face_a.outer, *shape, 0);
    out["outline_b"] = ring_in_space(shape->face_b.outer, *shape, shape->thickness_mm);
    out["openings_a"] = OrderedJson::array();
    for (const auto& hole : shape->face_a.holes) out["openings_a"].push_back(ring_in_space(hole, *shape, 0));
    out["edges"] = edges(piece, *shape);
    out["marks"] = OrderedJson::array();
    for (const auto& m : shape->marks)
        if (m.kept) out["marks"].push_back(mark(m, *shape));
    out["bevel_runs"] = bevel_runs(*shape);
    out["largest_sigma_mm"] = shape->largest_sigma_mm;
    out["parts"] = parts(*shape);
    if (result.bearing) out["carriers"] = carriers(job, *result.bearing);
    if (const auto stack = piece::stack_of(piece, *shape)) out["levels"] = levels(job, piece, *shape, *stack);
    if (!(piece.layup == stock::Layup{})) out["layup"] = layup(job, piece, *shape);
    if (!piece.holes.empty()) {
        out["holes"] = OrderedJson::array();
        for (const auto& h : piece.holes)
            out["holes"].push_back({{"pattern", h.pattern},
                                    {"number", h.number},
                                    {"at", json_of(shape->frame.to_space(h.at))},
                                    {"diameter_mm", h.diameter_mm},
                                    {"kind", piece::word_of(h.kind)}});
    }
    return out;
}

OrderedJson chines_of(const hull::Ridges& ridges) {
    OrderedJson out = OrderedJson::array();
    for (const auto& ridge : ridges.lines) {
        OrderedJson line = OrderedJson::array();
        for (const Vec3& p : ridge.line) line.push_back(json_of(p));
        out.push_back({{"kink_deg", ridge.kink_deg}, {"line", line}});
    }
    return out;
}

OrderedJson surface_json(const job::SurfaceSpec& spec, const job::SurfaceResult& result) {
    OrderedJson out{{"id", spec.id}, {"name", spec.name}, {"readings", result.points.size()}};
    if (const auto* fit = result.fitted()) {
        out["chart"] = fit->surface.chart().words();
        out["rms_mm"] = fit->report.rms_mm;
        out["max_mm"] = fit->report.max_mm;
        out["suspects"] = fit->report.suspects();
        out["warnings"] = fit->report.warnings;
        for (const auto& side : result.sides)
            out["sides"].push_back({{"from_x_mm", side.from_x_mm},
                                    {"to_x_mm", side.to_x_mm},
                                    {"readings", side.readings},
                                    {"mean_mm", side.mean_mm},
                                    {"largest_mm", side.largest_mm},
                                    {"sigma_mm", side.sigma_mm}});
        if (result.ridges && result.ridges->any()) out["proposed_chines"] = chines_of(*result.ridges);
    } else {
        out["error"] = result.fit->error().message;
    }
    return out;
}

OrderedJson finding_json(const review::Finding& f) {
    OrderedJson out{{"check", review::check_of(f.check).id},
                    {"severity", review::severity_word(f.severity)},
                    {"piece", f.piece_id},
                    {"title", f.title},
                    {"evidence", f.evidence},
                    {"advice", f.advice},
                    {"set_aside", f.set_aside}};
    if (f.set_aside) out["reason"] = f.reason;
    return out;
}

}  // namespace

std::string section_to_json(std::span<const hull::SectionRun> runs, const hull::FittedSurface& fit,
                            std::span<const survey::Point> points) {
    OrderedJson out;
    out["runs"] = OrderedJson::array();
    for (const auto& run : runs) {
        OrderedJson a = OrderedJson::array(), b = a, bevel = a, sigma = a, in_survey = a, along = a;
        for (const auto& p : run.points) {
            a.push_back(json_of(p.a));
            b.push_back(json_of(p.b));
            bevel.push_back(degrees(p.bevel_rad));
            sigma.push_back(p.sigma_mm);
            in_survey.push_back(p.in_survey);
            along.push_back(p.arc_mm);
        }
        OrderedJson settings = OrderedJson::array();
        for (const auto& r : hull::bevel_runs(run.points, units::radians(piece::saw_band_deg)))
            settings.push_back({{"first", r.first}, {"last", r.last}, {"mean_deg", degrees(r.mean_rad)}});
        out["runs"].push_back({{"closed", run.closed},
                               {"face_a", a},
                               {"face_b", b},
                               {"bevel_deg", bevel},
                               {"sigma_mm", sigma},
                               {"in_survey", in_survey},
                               {"along_mm", along},
                               {"saw_settings", settings}});
    }
    OrderedJson suspects = OrderedJson::array();
    for (std::size_t i = 0; i < points.size(); ++i)
        if (fit.report.readings[i].suspect)
            suspects.push_back({{"line", points[i].reading}, {"residual_mm", fit.report.readings[i].residual_mm}});
    out["fit"] = {
        {"rms_mm", fit.report.rms_mm},   {"max_mm", fit.report.max_mm},          {"suspects", suspects},
        {"scatter", fit.report.scatter}, {"chart", fit.surface.chart().words()}, {"warnings", fit.report.warnings}};
    return out.dump(1) + "\n";
}

std::string findings_to_json(std::span<const review::Finding> findings) {
    OrderedJson out{{"findings", OrderedJson::array()}};
    for (const auto& f : findings) out["findings"].push_back(finding_json(f));
    return out.dump(1) + "\n";
}

std::string report_to_json(const job::Job& job, const job::Results& results,
                           std::span<const review::Finding> findings) {
    // The caller's job has its units' pieces among its pieces.
    OrderedJson out{{"name", job.name}, {"boat", job.boat.name}};
    for (const char* list : {"surfaces", "pieces", "sheets", "fixings"}) out[list] = OrderedJson::array();
    for (std::size_t i = 0; i < job.surfaces.size(); ++i)
        out["surfaces"].push_back(surface_json(job.surfaces[i], results.surfaces[i]));
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        out["pieces"].push_back(piece_json(job, job.pieces[i], results.pieces[i]));
        if (const auto* unit = job::unit_of(job, job.pieces[i].id)) out["pieces"].back()["unit"] = unit->id;
        if (job::made_shape(job.pieces[i], results.pieces[i])) out["fixings"].push_back(fixing(results.pieces[i]));
    }
    for (const auto& sheet : results.sheets) {
        OrderedJson layout = OrderedJson::parse(layout_to_json(*sheet.problem, *sheet.layout));
        layout.erase("seconds");  // the same job gives the same report
        layout["material"] = sheet.material_id;
        layout["kept"] = sheet.locked;
        out["sheets"].push_back(layout);
    }
    OrderedJson attitude{{"known", results.attitude.known}};
    if (results.attitude.known) {
        attitude["list_deg"] = degrees(results.attitude.list_rad);
        attitude["trim_cm"] = results.attitude.trim_cm;
    }
    out["weight"] = {{"added_kg", results.added.mass_kg},
                     {"centre_mm", json_of(results.added.centre_mm)},
                     {"removed_kg", results.removed.mass_kg},
                     {"attitude", attitude}};
    out["findings"] = OrderedJson::array();
    for (const auto& f : findings) out["findings"].push_back(finding_json(f));
    return out.dump(1) + "\n";
}

}  // namespace bevelsmith::exchange

// One description of each value of a job serves reading and writing its file: `io(name, member)` for every field. For
// job_file.cpp alone.
#pragma once

#include "job/file_words.h"
#include "job/job.h"

namespace bevelsmith::job {

template <class IO>
void fields(IO& io, piece::Passage& v) {
    io("width_mm", v.width_mm), io("height_mm", v.height_mm);
    io.unless("corner_mm", v.corner_mm, 0.0), io.unless("hands_mm", v.hands_mm, 0.0);
}
template <class IO>
void fields(IO& io, geometry::Plane& v) {
    io("normal", v.normal), io("d_mm", v.d_mm);
}
template <class IO>
void fields(IO& io, Boat& v) {
    io("name", v.name), io("length_mm", v.length_mm);
    io.unless("construction", v.shell.construction, fixing::Construction::unsaid);
    io("laminate_mm", v.shell.laminate_mm), io("passage", v.passage);
    io("displacement_kg", v.hydrostatics.displacement_kg), io("gm_m", v.hydrostatics.gm_m);
    io("mctc_tm", v.hydrostatics.mctc_tm), io("flotation_x_mm", v.hydrostatics.flotation_x_mm);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, survey::Datum& v) {
    io("known_from", v.known), io("port_high_deg", v.port_high_deg), io("bow_high_deg", v.bow_high_deg);
    io("points", v.points), io("drop_mm", v.drop_mm);
    io("foot_forward_mm", v.foot_forward_mm), io("foot_port_mm", v.foot_port_mm);
}
template <class IO>
void fields(IO& io, JobMark& v) {
    io("id", v.id), io("name", v.name), io("measured_from", v.measured_from), io("position", v.position);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, Practice& v) {
    io("form", v.boat.form), io("lopsided_mm", v.boat.lopsided_mm), io("lumpy_mm", v.boat.lumpy_mm);
    io("seed", v.boat.seed), io("sigma_mm", v.sigma_mm), io("slip_chance", v.slip_chance), io("tried", v.tried);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, hull::Layer& v) {
    io("name", v.name), io("thickness_mm", v.thickness_mm);
    io("from_x_mm", v.from_x_mm), io("to_x_mm", v.to_x_mm), io("from_z_mm", v.from_z_mm), io("to_z_mm", v.to_z_mm);
}
template <class IO>
void fields(IO& io, hull::Corners& v) {
    io("kind", v.kind), io("fill_mm", v.fill_mm);
}
template <class IO>
void fields(IO& io, SurfaceSpec& v) {
    io("id", v.id), io("name", v.name), io("chart", v.chart);
    io.unless("part", v.part, hull::SurfacePart::hull), io("inside", v.inside);
    io("allowed_residual_mm", v.allowed_residual_mm), io.unless("layers", v.layers, {});
    io.unless("corners", v.corners, hull::Corners{});
    io.unless("role", v.role, piece::Role::made);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, survey::SeenMark& v) {
    io("name", v.name), io("seen", v.seen), io("at", v.at), io.unless("disabled", v.disabled, false);
}
template <class IO>
void fields(IO& io, survey::SmallMove& v) {
    io("turn_rad", v.turn_rad), io("move_mm", v.move_mm);
}
template <class IO>
void fields(IO& io, survey::Nudge& v) {
    io("turn_rad", v.turn_rad), io("move_mm", v.move_mm), io("doubts", v.doubts);
}
template <class IO>
void fields(IO& io, survey::OwnFrame& v) {
    io("marks", v.marks), io.unless("scaled", v.scaled, false), io("nudge", v.nudge);
}
template <class IO>
void fields(IO& io, JobReadingSet& v) {
    io("id", v.id), io("name", v.name), io("school", v.school);
    io.unless_empty("surface", v.surface_id), io("sigma_mm", v.sigma_mm);
    io.unless("angle_sigma_deg", v.angle_sigma_deg, survey::default_angle_sigma_deg(v.school));
    io("origin", v.origin), io("along", v.along), io("toward", v.toward);
    io.unless("stick_marks_mm", v.stick_marks_mm, {}), io.unless("fixed_points", v.fixed_points, {});
    io.unless("left_of_pins", v.left_of_pins, true), io.unless("scribe_mm", v.scribe_mm, 0.0);
    io.unless("by_gravity", v.by_gravity, false), io("stood", v.stood);
    io("own_frame", v.own_frame);
    io.unless("hard_line", v.hard_line, false), io.unless_empty("mirror_of", v.mirror_of);
    io("values", v.readings);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobMaterial& v) {
    io("id", v.id), io("name", v.name), io("thickness_mm", v.thickness_mm), io("density_kg_m3", v.density_kg_m3);
    io("sheet_width_mm", v.sheet_width_mm), io("sheet_height_mm", v.sheet_height_mm),
        io("sheets_in_stock", v.sheets_in_stock);
    io("has_grain", v.has_grain), io("two_good_faces", v.two_good_faces);
    io.unless("nominal_mm", v.nominal_mm, 0.0), io.unless("price", v.price, 0.0);
    io.unless("bend_along_mm", v.bend_along_mm, 0.0), io.unless("bend_across_mm", v.bend_across_mm, 0.0);
    io.unless("modulus_mpa", v.modulus_mpa, 0.0);
    io.unless("swelling_percent", v.swelling_percent, 0.0);
    io.unless("moisture_cut_percent", v.moisture_cut_percent, 12.0);
    io.unless("moisture_afloat_percent", v.moisture_afloat_percent, 16.0);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, piece::FreePoint& v) {
    io("at", v.at), io.unless("radius_mm", v.radius_mm, 0.0), io.unless("smooth", v.smooth, false);
}
template <class IO>
void fields(IO& io, piece::EdgeSpec& v) {
    io("meets", v.kind), io("name", v.name), io.unless_empty("surface", v.surface_id), io("side", v.side),
        io("at_mm", v.at_mm);
    io("gap_mm", v.gap_mm), io("coating_mm", v.coating_mm);
    io.unless_empty("piece", v.piece_id), io.unless("meeting", v.meeting, piece::Meeting::stops);
    io.unless("plane", v.plane, {}), io.unless("line", v.line, {}), io.unless("closed", v.closed, false);
    io.unless("covering_mm", v.covering_mm, 0.0), io.unless("overhang_mm", v.overhang_mm, 0.0);
    io.unless("lipping_mm", v.lipping_mm, 0.0), io.unless("leave_on_mm", v.leave_on_mm, 0.0);
    io.unless("where_met", v.where_met, false), io.unless("fillet_mm", v.fillet_mm, 0.0);
    io.unless("kept", v.kept, piece::KeptSide::by_place);
    io.unless("planing_mm", v.planing_mm, 0.0), io.unless("round_mm", v.round_mm, 0.0);
    io.unless("build_up_mm", v.build_up_mm, 0.0), io.unless("build_up_wide_mm", v.build_up_wide_mm, 0.0);
    io.unless("trim_mm", v.trim_mm, 0.0);
}
template <class IO>
void fields(IO& io, piece::FromMark& v) {
    io("mark", v.mark_id), io.unless("along", v.along, false);
    io("first_aside_mm", v.first_aside_mm), io("first_mm", v.first_mm);
    io("second_aside_mm", v.second_aside_mm), io("second_mm", v.second_mm);
}
template <class IO>
void fields(IO& io, piece::Beside& v) {
    io("piece", v.piece_id), io("distance_mm", v.distance_mm);
}
template <class IO>
void fields(IO& io, piece::OpeningSpec& v) {
    io("name", v.name), io("left_mm", v.left_mm), io("bottom_mm", v.bottom_mm), io("width_mm", v.width_mm);
    io("height_mm", v.height_mm), io("radius_mm", v.radius_mm);
    io.unless("use", v.use, piece::OpeningUse::opening), io.unless("rail_mm", v.rail_mm, 0.0);
    io.unless("guard_mm", v.guard_mm, 0.0), io.unless("line", v.line, {});
    io.unless("lid", v.lid, piece::LidFrom::none), io.unless("lid_clearance_mm", v.lid_clearance_mm, 2.5);
}
template <class IO>
void fields(IO& io, piece::HoleRow& v) {
    io("name", v.name), io("left_mm", v.left_mm), io("bottom_mm", v.bottom_mm), io("width_mm", v.width_mm);
    io("height_mm", v.height_mm), io("diameter_mm", v.diameter_mm), io("wanted_cm2", v.wanted_cm2);
}
template <class IO>
void fields(IO& io, piece::CrossSpec& v) {
    io("piece", v.piece_id), io("how", v.how), io("clearance_mm", v.clearance_mm);
}
template <class IO>
void fields(IO& io, JobObstacle& v) {
    io("id", v.id), io("name", v.name), io("section", v.section), io("path", v.path),
        io.unless_empty("set", v.set_id);
    io("width_mm", v.width_mm), io("height_mm", v.height_mm), io("clearance_mm", v.clearance_mm);
    io("notches", v.notches), io.unless("carries", v.carries, false);
    io.unless("role", v.role, piece::Role::made);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, furniture::Comfort& v) {
    io("lying_length_mm", v.lying_length_mm), io("shoulder_width_mm", v.shoulder_width_mm);
    io("foot_width_mm", v.foot_width_mm), io("lying_headroom_mm", v.lying_headroom_mm);
    io("sitting_headroom_mm", v.sitting_headroom_mm), io("standing_headroom_mm", v.standing_headroom_mm);
    io("knee_room_mm", v.knee_room_mm), io("hip_passage_mm", v.hip_passage_mm);
    io("shoulder_passage_mm", v.shoulder_passage_mm), io("reach_mm", v.reach_mm);
    io("sole_span", v.sole_span), io("seat_span", v.seat_span);
    const furniture::Comfort usual;
    io.unless("bearing_mm", v.bearing_mm, usual.bearing_mm),
        io.unless("seat_hip_mm", v.seat_hip_mm, usual.seat_hip_mm);
    io.unless("seat_shoulder_mm", v.seat_shoulder_mm, usual.seat_shoulder_mm);
    io.unless("way_in_mm", v.way_in_mm, usual.way_in_mm),
        io.unless("thigh_room_mm", v.thigh_room_mm, usual.thigh_room_mm);
    io.unless("over_seat_mm", v.over_seat_mm, usual.over_seat_mm);
}
template <class IO>
void fields(IO& io, piece::LimberSpec& v) {
    io("at_mm", v.at_mm), io("width_mm", v.width_mm), io("height_mm", v.height_mm);
    io.unless("hole", v.hole, false);
}
template <class IO>
void fields(IO& io, piece::JointSpec& v) {
    io("kind", v.kind), io("upright", v.upright), io("at_mm", v.at_mm), io("slope", v.slope);
    io.unless("width_mm", v.width_mm, 0.0), io.unless("clearance_mm", v.clearance_mm, 0.0);
    io.unless_empty("piece", v.piece_id);
}
template <class IO>
void fields(IO& io, stock::Glass& v) {
    io("kind", v.kind), io("mass_g_m2", v.mass_g_m2);
}
template <class IO>
void fields(IO& io, stock::Plies& v) {
    fields(io, v.glass);
    io.unless("count", v.count, 1), io.unless("fraction", v.fraction, 0.0);
}
template <class IO>
void fields(IO& io, stock::Covering& v) {
    io("kg_m2", v.kg_m2), io.unless("price_m2", v.price_m2, 0.0);
}
template <class IO>
void fields(IO& io, stock::Layup& v) {
    io.unless("face_a", v.face_a, {}), io.unless("face_b", v.face_b, {});
    io.unless("edges", v.edges, stock::EdgeClosing::open);
    io.unless("covering_a", v.covering_a, {}), io.unless("covering_b", v.covering_b, {});
}
template <class IO>
void fields(IO& io, geometry::Polygon& v) {
    io("outer", v.outer), io.unless("holes", v.holes, {});
}
template <class IO>
void fields(IO& io, piece::FitReading& v) {
    io("edge", v.edge), io("along_mm", v.along_mm), io.unless("seen", v.seen, piece::Noticed::gap);
    io.unless("gap_mm", v.gap_mm, 0.0), io.unless("sigma_mm", v.sigma_mm, piece::usual_feeler_mm);
}
template <class IO>
void fields(IO& io, piece::Hole& v) {
    io("at", v.at), io("diameter_mm", v.diameter_mm), io.unless("kind", v.kind, piece::HoleKind::plain);
}
template <class IO>
void fields(IO& io, JobPattern& v) {
    io("id", v.id), io("name", v.name), io.unless_empty("from", v.from), io("holes", v.holes);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, piece::PatternOn& v) {
    io("pattern", v.pattern_id), io("at", v.at), io.unless("turn_deg", v.turn_deg, 0.0);
    io.unless("mirrored", v.mirrored, false), io.unless_empty("mate", v.mate_id);
    io.unless("mate_kind", v.mate_kind, piece::HoleKind::tapped);
}
template <class IO>
void fields(IO& io, Fitting& v) {
    io.unless("of_pattern", v.of_pattern, false), io.unless("forecast_mm", v.forecast_mm, 0.0);
    io("readings", v.readings), io.unless("sets", v.set_ids, {});
    io.unless("offered_a", v.offered.face_a, {}), io.unless("offered_b", v.offered.face_b, {});
}
template <class IO>
void fields(IO& io, JobPiece& v) {
    io("id", v.id), io("name", v.name), io("kind", v.kind), io("place", v.place), io("plane", v.plane);
    io("beside", v.beside), io.unless("through", v.through, {}), io.unless("from_mark", v.from_mark, {});
    io("at", v.at);
    io("material", v.material_id), io("edges", v.edges), io("openings", v.openings), io("limbers", v.limbers);
    io.unless("notches", v.notches, {}), io.unless("rows", v.rows, {}), io.unless("crossings", v.crossings, {});
    io.unless("copies", v.copies, 1), io.unless("covering_a_mm", v.covering_a_mm, 0.0);
    io.unless("covering_b_mm", v.covering_b_mm, 0.0);
    io.unless("layup", v.layup, {}), io.unless("measured_mm", v.measured_mm, 0.0);
    io.unless("sheets_thick", v.sheets_thick, 1);
    io.unless("role", v.role, piece::Role::made), io.unless_empty("until", v.until);
    io.unless("bedding_mm", v.bedding_mm, 0.0), io.unless("patterns", v.patterns, {});
    io.unless("fittings", v.fittings, {}), io.unless_empty("finishing", v.finishing);
    io.unless_empty("pattern_material", v.pattern_material);
    io("joints", v.joints), io("split_for_passage", v.split_for_passage), io("scarf_slope", v.scarf_slope);
    io("grain_deg", v.grain_deg), io("good_face", v.good_face), io("structural", v.structural),
        io("removable", v.removable);
    io("blank_margin_mm", v.blank_margin_mm), io("wanted_fit_mm", v.wanted_fit_mm), io("fixing", v.fixing),
        io("stage", v.stage);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobUnit& v) {
    io("id", v.id), io("name", v.name), io("kind", v.kind), io("side", v.side), io("surface", v.surface_id);
    io.unless_empty("from_piece", v.from_piece_id), io.unless_empty("to_piece", v.to_piece_id);
    io("from_mm", v.from_mm), io("to_mm", v.to_mm), io("front_mm", v.front_mm), io("foot_mm", v.foot_mm);
    io("height_mm", v.height_mm), io("toe_high_mm", v.toe_high_mm), io("toe_deep_mm", v.toe_deep_mm);
    io("dividers_mm", v.dividers_mm), io.unless("dividers_follow", v.dividers_follow, false);
    io.unless("front_follows", v.front_follows, false), io("shelves", v.shelves),
        io("shelf_step_mm", v.shelf_step_mm);
    io("fiddle_mm", v.fiddle_mm), io.unless("half", v.half, false), io("lids", v.lids),
        io("lid_depth_mm", v.lid_depth_mm), io("rail_mm", v.rail_mm);
    io.unless("infill_mm", v.infill_mm, 600.0), io("clearance_mm", v.clearance_mm);
    io.unless("beam_depth_mm", v.beam_depth_mm, 0.0), io.unless("saddles", v.saddles, false);
    io.unless("saddle_aft_mm", v.saddle_aft_mm, 600.0), io.unless("saddle_fwd_mm", v.saddle_fwd_mm, 600.0);
    io.unless("saddle_clearance_mm", v.saddle_clearance_mm, 1.5), io.unless("width_mm", v.width_mm, 600.0);
    io.unless("raised_from_mm", v.raised_from_mm, 0.0), io.unless("raised_to_mm", v.raised_to_mm, 0.0);
    io.unless("raised_half_mm", v.raised_half_mm, 300.0), io.unless("raised_by_mm", v.raised_by_mm, 0.0);
    io("overhang_mm", v.overhang_mm), io("hull_gap_mm", v.hull_gap_mm);
    io.unless("cushion_mm", v.cushion_mm, 0.0);
    io("joint_gap_mm", v.joint_gap_mm), io("material", v.material_id), io("top_material", v.top_material_id);
    io.unless("adjusted", v.adjusted, {});
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, stock::Coating& v) {
    io("mass_kg_m2", v.mass_kg_m2), io("film_mm", v.film_mm);
}
template <class IO>
void fields(IO& io, fixing::Rules& v) {
    io("least_laminate_for_screws_mm", v.least_laminate_for_screws_mm),
        io("least_clearance_mm", v.least_clearance_mm);
    io("fillet_radius_mm", v.fillet_radius_mm), io("fillet_density_kg_m3", v.fillet_density_kg_m3);
    io("first_strip_mm", v.first_strip_mm), io("strip_step_mm", v.strip_step_mm), io("glass", v.glass);
    io("resin_waste", v.resin_waste), io("block_length_mm", v.block_length_mm),
        io("block_width_mm", v.block_width_mm);
    io("block_depth_mm", v.block_depth_mm), io("block_density_kg_m3", v.block_density_kg_m3);
    io("block_spacing_mm", v.block_spacing_mm), io("end_distance_mm", v.end_distance_mm),
        io("screw_gauge", v.screw_gauge);
    io("bond_strength_mpa", v.bond_strength_mpa), io("screw_safety", v.screw_safety),
        io("load_factor", v.load_factor);
}
template <class IO>
void fields(IO& io, CuttingRules& v) {
    io("spacing_mm", v.spacing_mm), io("edge_margin_mm", v.edge_margin_mm), io("seed", v.seed);
    const CuttingRules usual;
    io.unless("tool", v.tool, usual.tool), io.unless("cutter_mm", v.cutter_mm, usual.cutter_mm);
    io.unless("kerf_mm", v.kerf_mm, usual.kerf_mm);
    io.unless("least_offcut_mm", v.least_offcut_mm, usual.least_offcut_mm);
    io.unless("grain_tolerance_deg", v.grain_tolerance_deg, usual.grain_tolerance_deg);
    io.unless("reserve_percent", v.reserve_percent, usual.reserve_percent);
    io.unless("guillotine", v.guillotine, usual.guillotine);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, LockedPlacement& v) {
    io("part", v.part_id), io("sheet", v.sheet), io("rot", v.rotation_deg), io("x", v.x_mm), io("y", v.y_mm);
    io.unless("turned_over", v.turned_over, false), io.unless("pinned", v.pinned, false);
}
template <class IO>
void fields(IO& io, LockedLayout& v) {
    io("material", v.material_id), io.unless_empty("name", v.name), io.unless("in_use", v.in_use, true);
    io.unless("sheets", v.sheets, {}), io("placements", v.placements);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobOffcut& v) {
    io("id", v.id), io("name", v.name), io("material", v.material_id), io("shape", v.shape);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, CutPart& v) {
    io("part", v.part_id), io("name", v.name), io("rot", v.rotation_deg), io("x", v.x_mm), io("y", v.y_mm);
    io.unless("turned_over", v.turned_over, false), io("outline", v.outline);
}
template <class IO>
void fields(IO& io, SheetBefore& v) {
    io.unless_empty("layout", v.layout), io.unless("in_use", v.in_use, true), io("sheet", v.sheet);
    io.unless_empty("offcut", v.offcut_id), io("placements", v.placements);
}
template <class IO>
void fields(IO& io, StageBefore& v) {
    io("piece", v.piece_id), io("stage", v.stage);
}
template <class IO>
void fields(IO& io, CutSheet& v) {
    io("id", v.id), io("material", v.material_id), io("name", v.name), io("shape", v.shape), io("parts", v.parts);
    io.unless("rest_kept", v.rest_kept, false);
    io.unless_empty("offcut", v.offcut_id), io.unless("before", v.before, {});
    io.unless("stages_before", v.stages_before, {});
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobBar& v) {
    io("id", v.id), io("name", v.name), io("width_mm", v.width_mm), io("depth_mm", v.depth_mm);
    io("length_mm", v.length_mm), io.unless("price", v.price, 0.0), io("count", v.count);
    io.unless("old", v.old, false);
    io.unless_empty("grade", v.grade);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, LengthWanted& v) {
    io("id", v.id), io("name", v.name), io("bar", v.bar_id), io("length_mm", v.length_mm);
    io.unless("left_deg", v.left_deg, 0.0), io.unless("right_deg", v.right_deg, 0.0), io("quantity", v.quantity);
    io.unless("ends_seen", v.ends_seen, sheets::EndsSeen::wide_side), io.unless("as_drawn", v.as_drawn, false);
    io.unless_empty("grade", v.grade);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, Costs& v) {
    io("currency", v.currency), io("hour_rate", v.hour_rate);
    io.unless("laminating_h_m2", v.laminating_h_m2, 0.3), io.unless("cure_h", v.cure_h, 16.0);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, MaterialChoice& v) {
    io("id", v.id), io("name", v.name), io("material", v.material_id), io("laminated_faces", v.laminated_faces);
    io("laminate_price_m2", v.laminate_price_m2), io("laminate_kg_m2", v.laminate_kg_m2), io("coats", v.coats);
    io("coat_price_l", v.coat_price_l), io("coat_m2_l", v.coat_m2_l), io("coat_kg_m2", v.coat_kg_m2);
    io("lipping_price_m", v.lipping_price_m), io("lipping_kg_m", v.lipping_kg_m);
    io("hours_m2", v.hours_m2), io("hours_m", v.hours_m);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, SetAside& v) {
    io("check", v.check), io("piece", v.piece_id), io("reason", v.reason), io.unless_empty("about", v.about);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, Job& v) {
    io("bevelsmith", v.version), io("name", v.name), io("unit", v.unit), io("boat", v.boat);
    io.unless("datum", v.datum, {}), io.unless("marks", v.marks, {}), io("practice", v.practice);
    io("surfaces", v.surfaces);
    io("readings", v.readings), io("materials", v.materials), io("pieces", v.pieces);
    io.unless("units", v.units, {}), io.unless("obstacles", v.obstacles, {}), io.unless("patterns", v.patterns, {});
    io.unless("comfort", v.comfort, {});
    io("coating", v.coating);
    io("fixing", v.fixing_rules), io("cutting", v.cutting), io.unless("readings_next", v.readings_next, 3);
    io("layouts", v.layouts), io.unless("offcuts", v.offcuts, {}), io.unless("cut_sheets", v.cut_sheets, {});
    io.unless("bars", v.bars, {}), io.unless("lengths", v.lengths, {}), io.unless("costs", v.costs, {});
    io.unless("choices", v.choices, {}), io("set_aside", v.set_aside);
    io.rest(v.unknown);
}

}  // namespace bevelsmith::job

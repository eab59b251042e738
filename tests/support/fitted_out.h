// A tube with bulkheads and one unit of furniture between them, and what was computed of a job.
#pragma once

#include <catch2/catch.hpp>

#include <algorithm>
#include <string>

#include "furniture/unit.h"
#include "job/in_full.h"
#include "job/pipeline.h"
#include "support/jobs.h"
#include "support/solids.h"

namespace fitted_out {

using namespace bevelsmith;
using furniture::UnitKind;

inline job::JobPiece bulkhead(const std::string& id, double x, double top_mm) {
    job::JobPiece p = jobs::tube_job().pieces.front();
    p.id = p.name = id;
    p.plane.d_mm = x;
    p.edges[1].at_mm = top_mm;
    return p;
}

inline job::JobUnit unit(UnitKind kind) {
    job::JobUnit u;
    static_cast<furniture::UnitSpec&>(u) = furniture::usual_unit(kind);
    u.id = "U1";
    u.surface_id = "hull";
    u.material_id = u.top_material_id = "ply18";
    u.from_mm = 600, u.to_mm = 2400, u.front_mm = 350, u.foot_mm = -650, u.dividers_mm = {1400};
    if (kind == UnitKind::counter || kind == UnitKind::locker) u.height_mm = 600;
    if (kind == UnitKind::shelves) u.height_mm = 100;
    if (kind == UnitKind::sole) u.dividers_mm = {900, 1400, 1900};
    if (kind == UnitKind::engine_box) u.front_mm = 300, u.height_mm = 400;
    if (kind == UnitKind::table) u.front_mm = 0, u.height_mm = 400, u.rail_mm = 100;
    if (kind == UnitKind::v_berth) u.front_mm = 250, u.infill_mm = 500, u.dividers_mm = {1700};
    return u;
}

/// The tube with two bulkheads and one unit between them.
inline job::Job fitted(UnitKind kind, bool between = true) {
    job::Job job = jobs::tube_job();
    job.boat.passage = {5000, 5000};
    job.pieces = {bulkhead("B1", 580, -100), bulkhead("B2", 2420, -100)};
    job.units = {unit(kind)};
    if (between) job.units[0].from_piece_id = "B1", job.units[0].to_piece_id = "B2";
    return job;
}

struct Built {
    job::Job full;
    job::Results results;
    const job::JobPiece& spec(const std::string& id) const {
        const auto* p = job::find_piece(full, id);
        INFO(id);
        REQUIRE(p);
        return *p;
    }
    const piece::Outline& shape(const std::string& id) const {
        const auto* r = results.piece(id);
        INFO(id);
        REQUIRE(r);
        INFO((r->outline && !r->outline->ok() ? r->outline->error().message : std::string()));
        REQUIRE(r->shape());
        return *r->shape();
    }
    geometry::Box box(const std::string& id) const { return geometry::bounding_box(shape(id).face_a.outer); }
};

inline Built built(const job::Job& job) {
    static job::Pipeline pipeline;  // the hull is fitted once
    Built out{job::in_full(job), {}};
    out.results = pipeline.compute_pieces(out.full);
    return out;
}

inline void check_sound(const Built& b) {
    for (const auto& r : b.results.pieces) {
        INFO(r.id << ": "
                  << (r.outline && !r.outline->ok() ? r.outline->error().message : std::string("no outline")));
        CHECK(r.shape());
    }
    if (std::all_of(b.results.pieces.begin(), b.results.pieces.end(), [](const auto& r) { return r.shape(); }))
        solids::check_no_overlap(b.results, 0.01);
}

/// A hull read place by place, with a point within the boat.
inline job::Job read_at(const std::vector<Vec3>& places, const Vec3& inside) {
    job::Job job = job::empty_job();
    job.boat.passage = {5000, 5000};
    job.surfaces[0].inside = inside;
    job::JobReadingSet set;
    static_cast<survey::ReadingSet&>(set) = survey::usual_set(survey::School::direct);
    set.id = "R1", set.surface_id = "hull";
    for (const Vec3& p : places) set.readings.emplace_back().values = {p.x(), p.y(), p.z()};
    job.readings = {set};
    return job;
}

/// A virtual boat read exactly, on both sides or on the port side alone.
inline job::Job practice_job(const practice::VirtualBoat& boat, bool both_sides) {
    std::vector<Vec3> places;
    const double around = both_sides ? M_PI + 0.4 : M_PI / 2 + 0.2;
    for (int i = 0; i <= 12; ++i)
        for (int j = 0; j <= 24; ++j) places.push_back(boat.at(200 + i * 2600 / 12.0, 0.2 - j * around / 24));
    return read_at(places, Vec3(1500, 0, 0));
}

}  // namespace fitted_out

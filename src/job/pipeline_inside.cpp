// The stages that look at the finished inside: what carries each level panel, and what room people have.
#include <fmt/format.h>

#include <algorithm>

#include "furniture/room.h"
#include "job/guarded.h"
#include "job/packing.h"
#include "job/pipeline.h"

namespace bevelsmith::job {
namespace {

/// A box in the boat around a piece.
struct Room3 {
    Vec3 min = Vec3::Constant(1e9), max = Vec3::Constant(-1e9);
    void take(const Vec3& p) { min = min.cwiseMin(p), max = max.cwiseMax(p); }
    bool near(const Room3& o, double mm) const {
        return (min.array() - mm <= o.max.array()).all() && (o.min.array() - mm <= max.array()).all();
    }
};

Room3 room_around(const piece::Outline& shape) {
    Room3 out;
    const auto box = geometry::bounding_box(shape.face_a.outer);
    for (const double u : {box.min.x(), box.max.x()})
        for (const double v : {box.min.y(), box.max.y()}) {
            out.take(shape.frame.to_space({u, v}));
            out.take(shape.frame.to_space({u, v}) + shape.thickness_mm * shape.frame.normal);
        }
    return out;
}

/// Layers on the surface that each edge meets, at the middle of it: a cleat is fixed to what is under them.
std::vector<double> layers_before(const Job& job, const JobPiece& piece, const piece::Outline& shape) {
    std::vector<double> out(piece.edges.size(), 0);
    for (std::size_t e = 0; e < out.size(); ++e) {
        if (piece.edges[e].kind != piece::EdgeKind::scribed) continue;
        std::vector<const piece::EdgeMark*> kept;
        for (const auto& mark : shape.marks)
            if (mark.kept && mark.edge == static_cast<int>(e)) kept.push_back(&mark);
        for (const auto& surface : job.surfaces)
            if (surface.id == piece.edges[e].surface_id && !kept.empty())
                out[e] = hull::layer_thickness_mm(surface.layers, shape.frame.to_space(kept[kept.size() / 2]->a));
    }
    return out;
}

}  // namespace

const UnitResult* Results::unit(const std::string& id) const {
    const auto it = std::find_if(units.begin(), units.end(), [&](const auto& u) { return u.id == id; });
    return it == units.end() ? nullptr : &*it;
}

void Pipeline::carry_pieces(const Job& job, Results& results, const KeepGoing& keep_going) {
    constexpr double near_mm = 15;
    std::vector<Room3> rooms(results.pieces.size());
    for (std::size_t i = 0; i < rooms.size(); ++i)
        if (const auto* shape = results.pieces[i].shape()) rooms[i] = room_around(*shape);
    on_each(results.faults, rooms.size(), keep_going, [&](std::vector<Fault>& faults, std::size_t i) {
        PieceResult& own = results.pieces[i];
        if (!own.shape() || !piece::is_in_finished(job.pieces[i].role) || !piece::lies_level(*own.shape())) return;
        BearingInput input{job.pieces[i],
                           own.outline,
                           {},
                           ledges_of(job),
                           layers_before(job, job.pieces[i], *own.shape()),
                           job.fixing_rules.block_width_mm};
        for (std::size_t k = 0; k < rooms.size(); ++k)
            if (k != i && results.pieces[k].shape() && piece::is_in_finished(job.pieces[k].role) &&
                rooms[i].near(rooms[k], near_mm))
                input.near.emplace_back(job.pieces[k], results.pieces[k].outline);
        guarded(faults, fmt::format("what carries '{}'", job.pieces[i].name), own.id, [&] {
            own.bearing = bearings_.get(std::move(input), [](const BearingInput& in) {
                std::vector<piece::Carrier> others;
                for (const auto& [spec, outline] : in.near) others.push_back({&spec, &outline->value()});
                piece::BearingOptions options;
                options.cleat_mm = in.cleat_mm, options.ledges = in.ledges;
                options.layers_mm = [&](int edge) { return in.layers_mm[static_cast<std::size_t>(edge)]; };
                return piece::bearing_of(in.spec, in.outline->value(), others, options);
            });
        });
    });
}

void Pipeline::find_room(const Job& job, Results& results, const KeepGoing& keep_going) {
    furniture::Inside inside;
    for (const auto& surface : results.surfaces)
        if (surface.face) inside.surfaces.push_back(surface.face.get());
    for (std::size_t i = 0; i < results.pieces.size(); ++i) {
        const PieceResult& piece = results.pieces[i];
        const auto* shape = piece::is_in_finished(job.pieces[i].role) ? piece.shape() : nullptr;
        if (shape) inside.panels.push_back({piece.id, shape});
    }
    results.units.clear();
    const std::vector<furniture::UnitSpec> units(job.units.begin(), job.units.end());
    for (const JobUnit& unit : job.units) {
        ask(keep_going);
        UnitResult& out = results.units.emplace_back();
        out.id = unit.id;
        guarded(results.faults, fmt::format("the room in '{}'", unit.name), {}, [&] {
            out.room = furniture::room_of(unit, units, inside, job.comfort);
            const auto passages = furniture::passages_of(unit, units, inside, job.comfort);
            out.room.insert(out.room.end(), passages.begin(), passages.end());
        });
    }
    guarded(results.faults, "the doorways", {},
            [&] { results.doorways = furniture::doorways_of(units, inside, job.comfort); });
}

}  // namespace bevelsmith::job

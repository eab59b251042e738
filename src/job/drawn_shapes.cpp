#include "job/drawn_shapes.h"

#include <fmt/format.h>

#include "job/starting_piece.h"
#include "sheets/layout.h"
#include "units/ranges.h"

namespace bevelsmith::job {
namespace {

/// Its fault as a thing to be laid out; nothing where it has none.
std::optional<Error> fault_of(const std::string& name, const geometry::Polygon& shape) {
    sheets::Part part;
    part.id = name;
    part.any_rotation = true;
    part.shape = shape;
    if (auto fault = sheets::fault_of(part); !fault.empty()) return Error{std::move(fault)};
    return std::nullopt;
}

std::vector<piece::FreePoint> as_line(const geometry::Ring& ring, const Vec2& shift) {
    std::vector<piece::FreePoint> out;
    for (const Vec2& p : ring) out.push_back({p + shift, 0, false});
    return out;
}

std::size_t most_corners(const geometry::Polygon& shape) {
    std::size_t out = shape.outer.size();
    for (const auto& hole : shape.holes) out = std::max(out, hole.size());
    return out;
}

}  // namespace

Result<std::string> add_offcut(Job& job, const std::string& material_id, const std::string& name,
                               geometry::Polygon shape) {
    if (!find_material(job, material_id)) return Error{"say first of which sheet the panel is"};
    shape = geometry::oriented(std::move(shape));
    if (auto fault = fault_of(name, shape)) return *fault;
    if (job.offcuts.size() >= units::limit::offcuts.most)
        return Error{units::too_many(units::limit::offcuts, job.offcuts.size() + 1)};
    std::vector<std::string> taken;
    for (const auto& o : job.offcuts) taken.push_back(o.id);
    JobOffcut& out = job.offcuts.emplace_back();
    out.id = free_id("O", taken);
    out.name = name;
    out.material_id = material_id;
    out.shape = geometry::transformed(shape, 0, -geometry::bounding_box(shape.outer).min);
    return out.id;
}

Result<JobPiece> drawn_piece(const Job& job, const Results& results, const std::string& material_id,
                             const std::string& name, const geometry::Polygon& drawn) {
    geometry::Polygon shape = geometry::oriented(drawn);
    if (auto fault = fault_of(name, shape)) return *fault;
    if (job.pieces.size() >= units::limit::pieces.most)
        return Error{units::too_many(units::limit::pieces, job.pieces.size() + 1)};
    // Curves in finer chords than an edge may have are thinned, on the side of more wood.
    constexpr std::size_t most = units::limit::free_points.most;
    for (double tolerance_mm : {0.02, 0.05, 0.1, 0.2}) {
        if (most_corners(shape) <= most) break;
        shape = geometry::simplified_cover(geometry::oriented(drawn), tolerance_mm);
    }
    if (most_corners(shape) > most)
        return Error{
            fmt::format("an outline of '{}' has {} corners, and a drawn edge has at most {}: draw it with "
                        "fewer",
                        name, most_corners(shape), most)};
    if (shape.holes.size() > units::limit::openings.most)
        return Error{units::too_many(units::limit::openings, shape.holes.size())};
    JobPiece out = starting_piece(job, results, StartingKind::bracket);
    out.name = name;
    out.kind = "panel";
    out.copies = 1;
    if (!material_id.empty()) out.material_id = material_id;
    const geometry::Box before = geometry::bounding_box([&] {
        geometry::Ring ring;
        for (const auto& p : out.edges.front().line) ring.push_back(p.at);
        return ring;
    }());
    const Vec2 shift = before.min - geometry::bounding_box(shape.outer).min;
    out.edges.front().line = as_line(shape.outer, shift);
    for (std::size_t k = 0; k < shape.holes.size(); ++k) {
        piece::OpeningSpec opening;
        opening.name = fmt::format("opening {}", k + 1);
        opening.line = as_line(shape.holes[k], shift);
        const auto box = geometry::bounding_box(shape.holes[k]);
        opening.left_mm = box.min.x() + shift.x(), opening.bottom_mm = box.min.y() + shift.y();
        opening.width_mm = box.width(), opening.height_mm = box.height();
        opening.radius_mm = 0;
        out.openings.push_back(std::move(opening));
    }
    return out;
}

}  // namespace bevelsmith::job

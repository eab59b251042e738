// Shapes that were drawn or traced elsewhere, taken into a job: panels in stock, flat pieces.
#pragma once

#include "job/job.h"
#include "job/pipeline.h"

namespace bevelsmith::job {

/// Puts a panel into stock, its lower left corner at zero; gives its id. Fails, with the reason, on a shape that
/// cannot be laid out (crossing itself, without an area, of too many corners) and where there is no such material.
Result<std::string> add_offcut(Job& job, const std::string& material_id, const std::string& name,
                               geometry::Polygon shape);

/// A flat piece of this shape, with its holes as openings, under an id of its own and not yet in the job. It stands
/// across the boat in the middle of what was read, to be moved. More than 200 corners are thinned, nowhere more than
/// 0.4 mm outside of the shape. Fails where that does not do.
Result<JobPiece> drawn_piece(const Job& job, const Results& results, const std::string& material_id,
                             const std::string& name, const geometry::Polygon& shape);

}  // namespace bevelsmith::job

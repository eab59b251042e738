// A body whose curved edges are curves: splines through the rings' corners, ruled surfaces between them. A tenth of
// the faces that facets take, and what a drawing program goes on from.
#pragma once

#include <TopoDS_Shape.hxx>

#include "piece/solid.h"

namespace bevelsmith::step_writer {

/// Splines stay within this of the rings' corners, and the surfaces with them (mm).
inline constexpr double spline_within_mm = 0.01;

/// Null where it cannot be: the rings of both faces have not the same corners in the same order (one face ends in a
/// point that the other has not), or no spline follows them.
TopoDS_Shape smooth_body(const piece::Solid& solid);

}  // namespace bevelsmith::step_writer

// Planes and paths that follow from what was measured: through marks, in a template's plane, along a stringer.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// The plane of a piece that goes through three marks of the boat, or lies in the plane of a set of readings (its one
/// id). Its normal points as nearly as can be the way that `before` points. Fails, in plain words, where a mark or
/// set is missing, the marks lie in one line, or there are neither one nor three ids.
Result<geometry::Plane> plane_through(const Job& job, const std::vector<std::string>& ids, const Vec3& before);

/// The upright plane that two offsets from a mark tell. Fails where the mark is missing or both offsets are taken in
/// one place.
Result<geometry::Plane> plane_from_mark(const Job& job, const piece::FromMark& from, const Vec3& before);

/// The two offsets from a mark that tell where a face stands now, `apart_mm` to either side of the mark: an upright
/// face, or what a leaning one is at the mark's height.
piece::FromMark offsets_now(const geometry::Plane& plane, const JobMark& mark, double apart_mm);

/// Where a set's readings lie in the boat, in their order. Fails where there is no such set, or one of them cannot
/// be.
Result<std::vector<Vec3>> places_of_set(const Job& job, const std::string& id);

/// The path of an obstacle: its own, or the readings' in their order. Fails where the set is missing or has less than
/// two points.
Result<std::vector<Vec3>> path_of(const Job& job, const JobObstacle& obstacle);

}  // namespace bevelsmith::job

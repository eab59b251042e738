// A plane cuts a surface: both faces of a piece, bevels, uncertainty along the edge.
#pragma once

#include <span>
#include <vector>

#include "hull/surface.h"
#include "units/result.h"

namespace bevelsmith::hull {

struct SectionOptions {
    double step_mm = 10;  ///< spacing of the points along the edge
    int fewest_points = 24;
};

/// One place of an edge: both faces on the same normal section, which is square to the edge of face A.
struct SectionPoint {
    Vec3 a, b;    ///< face A on n·p = d, face B on n·p = d + thickness (mm)
    Vec3 normal;  ///< of the surface at a, out of the boat
    /// -asin(n·normal) at a: positive, open (standing), when face B reaches farther out.
    double bevel_rad = 0;
    double sigma_mm = 0;         ///< of a, along the normal
    double bevel_sigma_rad = 0;  ///< standard deviation of the bevel where the edge is believed to run
    Place place;                 ///< of a on the surface
    bool in_survey = true;       ///< the readings surround both a and b
    double arc_mm = 0;           ///< along face A from the run's start
};

/// A connected piece of a section. Runs go counter-clockwise about the inside of the boat, as seen along the
/// plane's normal with `upright_frame`'s axes.
struct SectionRun {
    std::vector<SectionPoint> points;
    bool closed = false;
};

/// Cuts `surface` by `plane` and by the plane `thickness_mm` farther along its normal; points are on both to
/// 1e-6 mm. Places where face B leaves the surface are left out. Fails where the plane misses the surface.
/// Precondition: unit normal, thickness > 0.
Result<std::vector<SectionRun>> cut_section(const Surface& surface, const geometry::Plane& plane, double thickness_mm,
                                            const SectionOptions& options = {});

/// A stretch of edge that one saw setting serves.
struct BevelRun {
    int first = 0, last = 0;  ///< indices of points
    double mean_rad = 0, least_rad = 0, most_rad = 0;
};
/// Splits a run where the bevel leaves a band of `band_rad` (whole width); greedy from the start.
std::vector<BevelRun> bevel_runs(std::span<const SectionPoint> points, double band_rad);

}  // namespace bevelsmith::hull

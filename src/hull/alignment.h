// Readings laid on a surface that is known already: iterated closest points, held by marks.
#pragma once

#include <span>
#include <vector>

#include "hull/surface.h"
#include "survey/own_frame.h"
#include "units/result.h"
#include "units/stop.h"

namespace bevelsmith::hull {

/// A mark that holds the readings where they were placed (mm).
struct Hold {
    Vec3 placed = Vec3::Zero(), wanted = Vec3::Zero();
    double sigma_mm = 1;
};

/// The move that lays readings on a surface: p becomes turn * p + move_mm.
struct Alignment {
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Vec3 move_mm = Vec3::Zero();
    int used = 0, over = 0;                 ///< readings that counted to the end, of those over the surveyed part
    double before_mm = 0, after_mm = 0;     ///< root mean square distance of those that counted
    double moved_mm = 0, turned_deg = 0;    ///< of the readings' middle
    std::vector<survey::SmallMove> doubts;  ///< how they may still lie elsewhere: independent, one s.d. each
    int ways =
        6;  ///< of three moves and three turns, how many surface and marks tell (to 30 mm); the rest are not made
};

/// Point-to-plane iterated closest points (Y. Chen and G. Medioni 1992) with J. Tukey's bisquare, so that what is not
/// of the surface does not count. All readings together tell no more than `known_by` of them would: the surface is
/// known by so many, and more only see its faults again. At most 3000 points are taken, evenly. Fails, in plain
/// words, where fewer than 30 lie over the surveyed part, or the move is more than 150 mm or 5 degrees: that is no
/// refinement. Throws Stopped when `keep_going` says no.
Result<Alignment> align_to(const Surface& surface, std::span<const Vec3> points, double sigma_mm,
                           std::span<const Hold> holds, int known_by, const KeepGoing& keep_going = {});

}  // namespace bevelsmith::hull

// Surveys of virtual boats: what is proved about fits is proved on these.
#pragma once

#include "hull/fit.h"
#include "hull/section.h"
#include "practice/instruments.h"
#include "survey/points.h"

namespace virtual_jobs {

using namespace bevelsmith;

/// The port side that is read: from near the keel to above the axis, over most of the length.
inline constexpr practice::Spot low{100, -1.35}, high{2900, 0.25};

struct VirtualJob {
    practice::VirtualBoat boat;
    std::vector<survey::Point> points;
    hull::FitOptions options;
    practice::Hand hand;
};

/// 40 to 160 readings of 1.5 mm, scattered for even `number`, in five to eight stations for odd; the three forms in
/// turn. On a chined hull the chine is read as well.
VirtualJob numbered(int number, double lumpy_mm);
/// `count` scattered readings of a round or a flared hull.
VirtualJob scattered(int number, int count);

/// The section's runs; throws where there are none.
std::vector<hull::SectionRun> runs_of(const hull::Surface& surface, const geometry::Plane& plane,
                                      double thickness_mm);
std::vector<survey::Point> points_of(const survey::ReadingSet& set);
/// Readings of the chine, and its line for the fit.
survey::ReadingSet chine_of(const practice::VirtualBoat& boat, practice::Hand& hand, double step_mm = 350);

}  // namespace virtual_jobs

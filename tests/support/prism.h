// Hulls of planes that run along the boat: what lies on them, and where it meets, is known in closed form.
#pragma once

#include <utility>
#include <vector>

#include "geometry/polygon.h"
#include "geometry/vec.h"
#include "hull/fit.h"
#include "hull/section.h"

namespace prisms {

using bevelsmith::Vec2;
using bevelsmith::Vec3;

constexpr double length_mm = 3000;

/// A section from the starboard sheer around the keel to the port one, the same all along.
struct Prism {
    std::vector<Vec2> section;  ///< (to port, up)

    /// Planes with normals out of the boat, starboard topsides first.
    std::vector<bevelsmith::geometry::Plane> faces() const;
    bevelsmith::hull::FittedSurface fit() const;
    std::vector<bevelsmith::survey::Point> points() const;
    /// The same as sets of a job: the sides, and each corner as a line.
    std::vector<bevelsmith::survey::ReadingSet> sets() const;
    /// Lines along its corners.
    std::vector<std::vector<Vec3>> lines() const;
    /// How far outside a point is, of a convex section.
    double outside_mm(const Vec3& p) const;
    double out_of_topsides_mm(const Vec3& p) const;
    double out_of_bottom_mm(const Vec3& p) const;
    /// The place of the port topsides' face moved inwards by t, whose place on the bare side has this x, at this
    /// height.
    Vec3 on_topsides(double x, double z, double t) const;
    /// Where the faces moved inwards meet at corner k of the section's inner ones.
    Vec2 mitre(std::size_t k, double t) const;
    /// What a filling leaves on each inner corner: a plane through the ends, this far from the mitre on both faces.
    std::vector<bevelsmith::geometry::Plane> fillings(double layer_mm, double fill_mm) const;
    /// Within what was read, by this much.
    bool surveyed(const Vec3& p, double margin_mm) const;
    bevelsmith::geometry::Ring section_closed_above() const;
};

/// Where a plane cuts a convex prism with one layer all over: by clipping with its half-spaces moved inwards, and
/// with those that cut its corners off where they are filled.
class CutOfConvex {
  public:
    CutOfConvex(const Prism& prism, const bevelsmith::geometry::Plane& plane, double layer_mm, double fill_mm = 0);
    double off_mm(const Vec3& p) const;
    /// Points of it in the part of the boat that was read.
    std::vector<Vec3> points(const Prism& prism, double margin_mm) const;

  private:
    bevelsmith::geometry::PlaneFrame frame_;
    std::vector<std::pair<Vec2, Vec2>> sides_;
};

/// How far a point is from the runs' lines on one face.
double off_polylines_mm(const Vec3& p, const std::vector<bevelsmith::hull::SectionRun>& runs,
                        Vec3 bevelsmith::hull::SectionPoint::*face);

/// A keel and two hard chines.
Prism hard_chined();
/// Steep garboards: the corner to the bottom stands into the boat.
Prism with_a_garboard();

}  // namespace prisms

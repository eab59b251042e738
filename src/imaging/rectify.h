// A photo of a flat template made true to scale by four marks on its face.
#pragma once

#include <array>
#include <optional>
#include <span>
#include <vector>

#include "geometry/vec.h"
#include "units/result.h"

namespace bevelsmith::imaging {

/// What was measured between the four marks, in their order round the template (mm). A diagonal of 0 was not taken.
struct MarkDistances {
    std::array<double, 4> sides{600, 400, 600, 400};  ///< 1-2, 2-3, 3-4, 4-1
    std::array<double, 2> diagonals{0, 0};            ///< 1-3, 2-4
    bool operator==(const MarkDistances&) const = default;
};

struct MarkLayout {
    std::array<Vec2, 4> at;  ///< mark 1 at zero, mark 2 on the axis to the right, 3 and 4 above (mm)
    double misfit_mm = 0;    ///< more distances than needed: root mean square of what they disagree by
    bool checked = false;    ///< by a distance more than needed
};
/// Where the marks lie. One diagonal settles any quadrilateral and the other checks it; without diagonals the marks
/// must be the corners of a rectangle, opposite sides alike within 1 %. Fails, in plain words, where the distances
/// cannot be, or disagree by more than 3 mm and 0.5 %.
Result<MarkLayout> place_marks(const MarkDistances& distances);

/// The layout turned over where the marks were pointed at the other way round in the photo: a photo shows the face as
/// it is, so that a template never comes out mirrored. (Pixels count downwards.)
std::array<Vec2, 4> as_seen(std::array<Vec2, 4> face_mm, const std::array<Vec2, 4>& pixels);

/// How straight lines bow in a photo: a point at r half-diagonals from the middle lies where r(1 + bow r²) would be
/// without the lens. (The first radial term of D.C. Brown, Decentering Distortion of Lenses, 1966; from memory.)
struct Lens {
    int width = 0, height = 0;  ///< of the photo (pixels)
    double bow = 0;
    Vec2 straightened(const Vec2& pixel) const;
    /// The inverse, to 1e-9 pixels.
    Vec2 bent(const Vec2& straight) const;
};
/// The bow that makes lines straight which are so in truth: of each at least four pixels, the more of the picture
/// they span the better. Searched within -0.3 to 0.3. Fails where no line has enough points.
Result<Lens> lens_from_straight_lines(int width, int height, std::span<const std::vector<Vec2>> lines);

/// Pixels to the template's face and back.
class Rectifier {
  public:
    /// Fails where three marks lie in one line or the quadrilateral turns over on itself.
    /// Source: R. Hartley, A. Zisserman, Multiple View Geometry, ch. 4: four points fix the homography of a plane.
    static Result<Rectifier> from_marks(const std::array<Vec2, 4>& pixels, const std::array<Vec2, 4>& face_mm,
                                        const Lens& lens);

    Vec2 to_face(const Vec2& pixel) const;
    Vec2 to_pixel(const Vec2& face_mm) const;
    /// Millimetres of the face that a pixel is long there, in the worse direction.
    double mm_per_pixel(const Vec2& pixel) const;
    /// Standard deviation on the face of a point read to `edge_px`, where each mark is known to `mark_px` (mm, the
    /// worse direction); what the marks' distances are wrong by comes on top.
    double sigma_mm(const Vec2& pixel, double edge_px, double mark_px) const;
    /// The camera's lean from square to the face (degrees), from the two constraints that a plane puts on a lens
    /// whose axis meets the middle of the picture (Hartley, Zisserman, ch. 8; from memory). Empty where the marks do
    /// not tell it within a few degrees.
    std::optional<double> tilt_deg() const;

  private:
    Eigen::Matrix3d to_face_ = Eigen::Matrix3d::Identity(), to_pixel_ = Eigen::Matrix3d::Identity();
    std::array<Vec2, 4> pixels_, face_;
    Lens lens_;
};

}  // namespace bevelsmith::imaging

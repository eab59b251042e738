// Where a plane cuts an inner face of a surface: traced on a grid (marching squares), refined by Newton, and cut
// where the face ends.
#pragma once

#include <optional>
#include <vector>

#include "hull/inner_face.h"
#include "hull/section.h"

namespace bevelsmith::hull {

inline constexpr double on_plane_mm = 1e-7;      ///< a tenth of the 1e-6 promised
inline constexpr std::size_t many_points = 100;  ///< more are shared among the processors

/// A place of a face, and where that is.
struct Spot {
    const InnerFace* face = nullptr;
    Place place;
    Vec3 position = Vec3::Zero();
};

/// A stretch of a contour that belongs to what joinery meets.
struct Stretch {
    std::vector<Spot> spots;  ///< on the plane to 1e-7 mm, spaced evenly but for its ends
    bool closed = false;      ///< the first spot stands again at the end
    /// Whether an end is where something else goes on, not where the surface ends.
    bool cut_at_front = false, cut_at_back = false;
};

/// The stretches of several faces as they follow each other.
struct Chain {
    std::vector<Spot> spots;
    std::vector<std::size_t> corners;  ///< spots at which one face gives way to another
    bool closed = false;
};

/// A face on which what lies on the surface has no room for itself.
struct Fold {
    Vec3 at;
    double radius_mm = 0;
};

class Contours {
  public:
    /// All faces cut by the plane. `surveyed` says where folds matter.
    Contours(const std::vector<std::unique_ptr<InnerFace>>& faces, const geometry::Plane& plane,
             const Surface& surface, const SectionOptions& spacing);
    const std::vector<Chain>& chains() const { return chains_; }
    const std::optional<Fold>& fold() const { return fold_; }
    bool too_long() const { return too_long_; }

  private:
    void trace(const InnerFace& face);
    void cut(const InnerFace& face, const std::vector<Place>& line);
    /// An end of a stretch: number 2 k is the front of stretch k, 2 k + 1 its back.
    struct End {
        std::size_t stretch = 0;
        bool front = false, cut = false;
        Vec3 position = Vec3::Zero();
        long joined = -1;  ///< the end that goes on from it; -1 where none does
    };
    std::vector<End> ends_of_stretches() const;
    void join(std::vector<End>& ends) const;
    void add(Chain& chain, const End& entry) const;
    Chain follow(const std::vector<End>& ends, std::size_t start, std::vector<bool>& taken) const;
    void chain();

    const geometry::Plane& plane_;
    const Surface& surface_;
    SectionOptions spacing_;
    std::vector<Stretch> stretches_;
    std::vector<Chain> chains_;
    std::optional<Fold> fold_;
    std::size_t total_ = 0;
    bool too_long_ = false;
};

/// Newton along the steepest direction in the chart; nothing where that does not lead onto the plane.
std::optional<Place> onto_plane(const InnerFace& face, const geometry::Plane& plane, Place from);

}  // namespace bevelsmith::hull

// The angles and faces in which a part may lie on its sheet, as bodies ready to be moved about.
#pragma once

#include <memory>
#include <random>
#include <vector>

#include "sheets/layout.h"
#include "sheets/loss.h"

namespace bevelsmith::sheets {

/// A part's allowed turns, numbered from 0. Bodies are made when they are first asked for, grown by half the spacing.
///
/// Where the angle is free (any, or within a tolerance) it goes in steps of a degree, with the angles besides at
/// which one of the part's long edges lies along the sheet. Not for use from two threads at once.
class Turns {
  public:
    Turns(const Part& part, double spacing_mm);

    int count() const { return static_cast<int>(poses_.size()); }
    double rotation_deg(int turn) const { return pose(turn).rotation_deg; }
    bool turned_over(int turn) const { return pose(turn).turned_over; }
    const Body& body(int turn) const;
    /// One of them at random; of free angles those along the sheet come more often.
    int random(std::mt19937& random) const;
    /// The turn that lies a step of the angle on (by = 1) or back (-1); the same where the angle is not free or ends.
    int beside(int turn, int by) const;
    bool is_free() const { return free_; }
    /// The number of this pose, which is added where the part alone would not allow it: what is locked lies as it
    /// lies.
    int of(double rotation_deg, bool turned_over);

  private:
    struct Pose {
        double rotation_deg = 0;
        bool turned_over = false;
        int back = -1, on = -1;  ///< the turns beside it
    };
    const Pose& pose(int turn) const { return poses_[static_cast<std::size_t>(turn)]; }
    void add_range(double centre_deg, double tolerance_deg, bool turned_over);
    void add_along(const Part& part, bool turned_over, double centre_deg, double tolerance_deg);

    std::vector<Pose> poses_;
    std::vector<int> favoured_;
    bool free_ = false;
    Body plain_, mirrored_;
    mutable std::vector<std::unique_ptr<const Body>> bodies_;
};

}  // namespace bevelsmith::sheets

// Chines that nobody entered: whether the readings go better with a surface that kinks.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "hull/fit.h"

namespace bevelsmith::hull {

/// A line along which the surface seems to kink.
struct Ridge {
    std::vector<Vec3> line;  ///< points of the kinked surface along it (mm), in rising s
    double kink_deg = 0;     ///< by how much the surface turns there: positive where it stands out like a chine
};

/// The same readings met by surfaces with so many kinks.
struct KinksTried {
    int kinks = 0;
    double rms_mm = 0;    ///< of what the readings that count leave
    int wrong = 0;        ///< readings that are wrong if this is the surface
    double evidence = 0;  ///< natural logarithm of how much likelier than the smooth one it makes the readings
};

/// What the readings say of chines.
struct Ridges {
    std::vector<Ridge> lines;       ///< none where a smooth surface goes as well with them
    std::vector<KinksTried> tried;  ///< none, one, two, three kinks, as far as there were readings for it
    std::vector<bool> wrong;        ///< with `lines` in: readings that are wrong all the same; in the order given
    bool any() const { return !lines.empty(); }
    /// "as a smooth surface the readings leave 6.3 mm, with a chine 1.4 mm".
    std::string evidence() const;
};

/// Fewest degrees for a kink to be proposed, and fewest readings that are judged.
inline constexpr double ridge_kink_deg = 12;
inline constexpr int fewest_judged = 20;

/// Fits with no, one, two and three kinks that run along s are compared by their evidence (`KinkModel`); where each
/// of the lines lies is searched for on the way. A line must be worth more than what can be had by chance from lines
/// that may lie anywhere; a keel, which lies on the boat's centre plane (y = 0), need not be worth as much. How often
/// it is wrong both ways is measured in tests/ridges_test.cpp. A line that turns by too little is left out with what
/// leans on it: then the next likeliest is proposed. Nothing on closed charts, where there are hard lines already, or
/// where readings are too few. Takes some tenths of a second. Throws Stopped when `keep_going` says no.
Ridges find_ridges(const FittedSurface& fit, std::span<const survey::Point> points, const FitOptions& options,
                   const KeepGoing& keep_going = {});

}  // namespace bevelsmith::hull

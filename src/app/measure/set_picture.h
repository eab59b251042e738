// One set of readings as it is drawn: in its plane, with residuals, against the surface's section there.
#pragma once

#include <QString>
#include <vector>

#include "app/document/document.h"

namespace bevelsmith::app {

struct ReadingPicture {
    Vec2 at{0, 0};       ///< in the set's plane (mm)
    Vec2 outward{0, 0};  ///< the surface's normal there, in the plane; zero when there is no surface
    double sigma_mm = 1;
    double residual_mm = 0;  ///< positive outside
    double detectable_mm = 0;
    bool fitted = false, suspect = false, disabled = false;
    double spread_mm = 0;                 ///< of a reading taken more than once
    double residual_of_distances_mm = 0;  ///< what more distances than needed disagree by
    QString mark;                         ///< a named mark, not on the surface
    QString hint;                         ///< what a suspect probably was
};

/// A line or spot of the instrument itself: how it stood when a reading was taken.
struct Aid {
    enum class Kind { stick, ray, edge, pin, corner, angle };
    Vec2 from{0, 0}, to{0, 0};
    Kind kind = Kind::ray;
    QString words;
};

struct SetPicture {
    geometry::PlaneFrame frame;
    std::vector<ReadingPicture> readings;  ///< beside the set's readings
    struct Curve {
        std::vector<Vec2> points;
        std::vector<double> sigma_mm;
        std::vector<bool> in_survey;
    };
    std::vector<Curve> curves;  ///< the surface in the set's plane
    std::vector<Vec2> base;     ///< ordinates: the line from its station 0 to beyond the last reading
    std::vector<std::pair<Vec2, Vec2>> ordinates;
    std::vector<Aid> aids;
    Vec2 plumb{0, 1};    ///< the hard's plumb line in this plane, upwards (shorter where it points out of it)
    bool leans = false;  ///< how the boat leans is known
    geometry::Box box;
    QString fault;  ///< why there is no surface
};

/// "+1.2", "-0.4", "0.0": a residual as it is written everywhere (mm).
QString signed_mm(double mm);

/// `set` is an index into `job.readings`; the job may be newer than `computed`.
SetPicture picture_of(const job::Job& job, const Computed& computed, int set);

}  // namespace bevelsmith::app

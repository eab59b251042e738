// Rendered photos of a template whose true outline is known.
#pragma once

#include <functional>

#include "geometry/polygon.h"
#include "imaging/trace.h"

namespace photos {

using namespace bevelsmith;

/// A light template on a dark floor: straight foot, upright ends, a curved top as a hull makes it.
struct Template {
    double length_mm = 1200;
    double height_mm(double x) const;
    bool holds(const Vec2& face) const;
    /// Distance of a point from the outline (mm).
    double off_mm(const Vec2& face) const;
    std::array<Vec2, 4> marks{Vec2(120, 60), Vec2(1080, 60), Vec2(1080, 280), Vec2(120, 280)};
};

struct Shot {
    double tilt_deg = 0;    ///< of the camera from square to the face
    double toward_deg = 0;  ///< direction on the face in which it leans
    double bow = 0;         ///< of the lens
    double noise = 4;       ///< standard deviation, shades
    double shading = 30;    ///< from one corner to the other, shades
    int width = 1600, height = 1200;
    unsigned seed = 1;
};

struct Photo {
    imaging::GreyImage image;
    imaging::Lens lens;
    std::array<Vec2, 4> marks_px;  ///< true places
    std::function<Vec2(const Vec2& face)> pixel_of;
};

Photo rendered(const Template& card, const Shot& shot);

}  // namespace photos

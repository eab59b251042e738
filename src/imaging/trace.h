// The edge of a template found in a photo, to a fraction of a pixel.
#pragma once

#include <cstdint>
#include <vector>

#include "imaging/rectify.h"

namespace bevelsmith::imaging {

/// A photo in shades of grey, row by row from the top. A pixel's middle lies at whole numbers.
struct GreyImage {
    int width = 0, height = 0;
    std::vector<std::uint8_t> pixels;
    bool empty() const { return pixels.empty(); }
};

/// The middle of the mark nearest to where a person pointed: of the dark (or bright) spot within `reach_px`, weighed
/// by how far each pixel stands out. The place itself where nothing stands out.
Vec2 settled_mark(const GreyImage& image, const Vec2& pointed, double reach_px);

struct TraceOptions {
    double step_mm = 10;         ///< between the points taken over
    double edge_px = 0.3;        ///< standard deviation of a point across the edge (measured on rendered photos)
    double mark_px = 0.3;        ///< of a mark's middle
    double reach_px = 8;         ///< how far to either side the edge is looked for
    double least_contrast = 12;  ///< shades between template and ground, else a point is unsure
};

struct TracedPoint {
    Vec2 pixel{0, 0};
    Vec2 face{0, 0};  ///< mm
    double sigma_mm = 1;
    bool sure = true;  ///< false: too little contrast, the place is a guess
};

/// The outline of the template on which the marks lie: counter-clockwise on its face. Shades are split in two (N.
/// Otsu, 1979, in OpenCV), the part that holds the marks is taken, and each point is moved across the edge to where
/// the shade is halfway. Fails where no outline stands out or it runs out of the picture.
Result<std::vector<TracedPoint>> trace_template(const GreyImage& image, const Rectifier& rectifier,
                                                const std::array<Vec2, 4>& marks_px,
                                                const TraceOptions& options = {});

/// A point placed by hand, as the tracing would have made it.
TracedPoint point_by_hand(const Rectifier& rectifier, const Vec2& pixel, const TraceOptions& options = {});

}  // namespace bevelsmith::imaging

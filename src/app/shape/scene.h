// What the 3-D view shows, as plain geometry in the boat's frame (mm), and the camera that looks at it.
#pragma once

#include <QColor>
#include <QMatrix4x4>
#include <QPointF>
#include <QSizeF>
#include <array>
#include <vector>

#include "app/document/document.h"

namespace bevelsmith::app {

struct Scene {
    struct Triangle {
        std::array<Vec3, 3> corner, normal;
        std::array<QColor, 3> colour;
    };
    struct Line {
        std::vector<Vec3> points;
        QColor colour;
        float width = 1;
        bool above = false;  ///< drawn over whatever stands before it
    };
    /// A flat shape with holes, filled by the even-odd rule.
    struct Plate {
        std::vector<std::vector<Vec3>> rings;
        QColor fill;
    };
    struct Spots {
        std::vector<Vec3> at;
        QColor colour;
        float size = 4;
    };
    std::vector<Triangle> triangles;
    std::vector<Line> lines;
    std::vector<Plate> plates;
    std::vector<Spots> spots;
    Vec3 low{0, 0, 0}, high{1000, 1000, 1000};  ///< box of everything
    Vec3 inward{0, 0, 0};                       ///< from the first surface into the boat
    bool empty() const { return triangles.empty() && spots.empty(); }
};

/// The surfaces coloured by how well they are known, the readings, the pieces, the section's plane.
Scene scene_of(const Computed& computed, const QString& selected_piece, const geometry::Plane& section);

/// Orbits a point. Angles in degrees: `turn` about the upright from looking forward, `rise` above the level.
struct Camera {
    double turn = 28, rise = 32, distance_mm = 5000;
    Vec3 target{0, 0, 0};

    void look_at(const Scene& scene);
    /// World (mm) to clip space.
    QMatrix4x4 matrix(const QSizeF& view) const;
    Vec3 eye() const;
    void orbit(const QPointF& pixels);
    void pan(const QPointF& pixels, const QSizeF& view);
    void zoom(double factor);
};

}  // namespace bevelsmith::app

// What the 3-D view shows, as plain geometry in the boat's frame (mm), and the camera that looks at it.
#pragma once

#include <QColor>
#include <QMatrix4x4>
#include <QPointF>
#include <QSizeF>
#include <array>
#include <functional>
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
        bool above = false;           ///< drawn over whatever stands before it
        std::vector<Vec3> normals{};  ///< of a line on a surface: it is seen where the surface is
    };
    /// A flat shape with holes, filled by the even-odd rule and lit as what lies square to `normal`.
    struct Plate {
        std::vector<std::vector<Vec3>> rings;
        QColor fill;
        QColor edge;
        Vec3 normal = Vec3::UnitZ();
    };
    struct Spots {
        std::vector<Vec3> at;
        QColor colour;
        float size = 4;
    };
    std::vector<Triangle> triangles;  ///< of surfaces: seen from inside the boat whole, from outside as glass
    std::vector<Triangle> solids;     ///< of bodies
    std::vector<Line> lines;
    std::vector<Plate> plates;
    std::vector<Spots> spots;
    Vec3 low{0, 0, 0}, high{1000, 1000, 1000};  ///< box of everything
    Vec3 inward{0, 0, 0};                       ///< from the first surface into the boat
    bool near_side_cut_away = false;            ///< surfaces seen from outside are left out
    bool empty() const { return triangles.empty() && spots.empty() && plates.empty(); }
};

/// What the survey tells: surfaces coloured by how well they are known, readings, pieces, the section's plane.
Scene scene_of(const Computed& computed, const QString& selected_piece, const geometry::Plane& section);
/// What one shows the owner: hull and panels as bodies, pipes and tanks, nothing of the measuring. Its box is that of
/// the work.
Scene boat_scene_of(const Computed& computed, const QString& selected_piece,
                    const std::function<bool(const std::string& piece)>& hidden);

/// Orbits a point. Angles in degrees: `turn` about the upright from looking forward, `rise` above the level.
struct Camera {
    double turn = 28, rise = 32, distance_mm = 5000;
    Vec3 target{0, 0, 0};

    /// All of the scene's box fills a view `aspect` times as wide as high.
    void look_at(const Scene& scene, double aspect = 1.6);
    /// World (mm) to clip space.
    QMatrix4x4 matrix(const QSizeF& view) const;
    Vec3 eye() const;
    void orbit(const QPointF& pixels);
    void pan(const QPointF& pixels, const QSizeF& view);
    void zoom(double factor);
};

}  // namespace bevelsmith::app

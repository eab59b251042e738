#include "hull/mesh.h"

#include "hull/inner_face.h"

namespace bevelsmith::hull {

Mesh sample_mesh(const Surface& surface, int rows, int columns) {
    Mesh mesh{rows, columns, {}};
    const auto& s = surface.basis_s();
    const auto& v = surface.basis_v();
    for (int i = 0; i < rows; ++i)
        for (int j = 0; j < columns; ++j) {
            const Place place{s.low() + (s.high() - s.low()) * i / (rows - 1),
                              v.low() + (v.high() - v.low()) * j / (columns - 1)};
            const SurfacePoint here = surface.at(place);
            const Vec3 position = surface.bare() ? here.position : left_of_corner(surface, place);
            mesh.nodes.push_back({position, here.normal, surface.sigma_mm(place), surface.surrounded(place)});
        }
    return mesh;
}

}  // namespace bevelsmith::hull

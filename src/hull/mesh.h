// A surface sampled on a grid, for pictures: positions, normals, and how well each place is known.
#pragma once

#include <vector>

#include "hull/surface.h"

namespace bevelsmith::hull {

/// Node (i, j) stands at index i * columns + j; i runs along s, j along v.
struct Mesh {
    int rows = 0, columns = 0;
    struct Node {
        Vec3 position = Vec3::Zero(), normal = Vec3::UnitZ();
        double sigma_mm = 0;
        bool surrounded = false;
    };
    std::vector<Node> nodes;
    const Node& at(int row, int column) const { return nodes[static_cast<std::size_t>(row * columns + column)]; }
};

/// Samples the fitted domain. Precondition: rows, columns >= 2. Time: about 20 microseconds a node.
Mesh sample_mesh(const Surface& surface, int rows, int columns);

}  // namespace bevelsmith::hull

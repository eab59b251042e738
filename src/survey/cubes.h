// Cubes of a grid in space, by number.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "geometry/vec.h"

namespace bevelsmith::survey {

constexpr int cube_bits = 21;  ///< of each of three counts: a million cubes either way
constexpr std::int64_t middle_cube = std::int64_t{1} << (cube_bits - 1);

/// The cube's three counts in one number.
inline std::uint64_t cube_number(std::int64_t x, std::int64_t y, std::int64_t z) {
    std::uint64_t key = 0;
    for (const std::int64_t count : {x, y, z})
        key = (key << cube_bits) |
              (static_cast<std::uint64_t>(count + middle_cube) & ((std::uint64_t{1} << cube_bits) - 1));
    return key;
}

inline std::uint64_t cube_of(const Vec3& p, double edge) {
    // What lies farther off than a million cubes is in the last of them.
    constexpr double most = static_cast<double>(middle_cube - 1);
    const auto count = [&](double v) {
        return static_cast<std::int64_t>(std::clamp(std::floor(v / edge), -most, most));
    };
    return cube_number(count(p.x()), count(p.y()), count(p.z()));
}

/// The cube so many cubes on.
inline std::uint64_t cube_beside(std::uint64_t cube, int dx, int dy, int dz) {
    const auto count = [&](int k) {
        return static_cast<std::int64_t>((cube >> (cube_bits * k)) & ((std::uint64_t{1} << cube_bits) - 1)) -
               middle_cube;
    };
    return cube_number(count(2) + dx, count(1) + dy, count(0) + dz);
}

struct SpreadBits {
    std::size_t operator()(std::uint64_t key) const {
        key ^= key >> 31U;
        key *= 0x9E3779B97F4A7C15ULL;
        return static_cast<std::size_t>(key ^ (key >> 29U));
    }
};

}  // namespace bevelsmith::survey

// What lies in the yard besides whole sheets: offcuts and salvaged panels with their true shape, and lengths.
#pragma once

#include <string>

#include "geometry/polygon.h"

namespace bevelsmith::stock {

/// A remainder of a sheet, or a panel from elsewhere: its outline with what was cut out of it and what is spoiled as
/// holes (mm); the grain of its face lies along x, the good face up.
struct Offcut {
    std::string id;
    std::string name;  ///< what is written on it, where it stands
    std::string material_id;
    geometry::Polygon shape;
    bool operator==(const Offcut&) const = default;
};

/// Timber, trim or tube that is bought by length: so many bars of one section.
struct Bar {
    std::string id;
    std::string name;  ///< "ash", "teak, clear"
    double width_mm = 40, depth_mm = 20;
    double length_mm = 2400;
    double price = 0;  ///< a bar
    int count = -1;    ///< -1: as many as needed
    bool old = false;  ///< came out of a boat: it costs nothing, and is used before what is bought
    std::string
        grade;  ///< what it is good for, where that is said: a length that asks for a grade is cut from its like
    bool operator==(const Bar&) const = default;
};

/// Whether two bars are of one section, so that a length may be cut from either.
bool same_section(const Bar& a, const Bar& b);

}  // namespace bevelsmith::stock

#include "units/places.h"

#include <cmath>

namespace bevelsmith::units {

std::string place_in_words(double mm, Axis axis, LengthUnit unit) {
    const std::string figure = format_length_number(std::abs(mm), unit);
    if (figure.find_first_of("123456789") == std::string::npos)
        return axis == Axis::port ? "on the centre line" : "at the datum";
    const char* way = axis == Axis::fwd    ? (mm > 0 ? " forward of the datum" : " abaft the datum")
                      : axis == Axis::port ? (mm > 0 ? " to port" : " to starboard")
                                           : (mm > 0 ? " over the datum" : " under the datum");
    return format_length(std::abs(mm), unit) + way;
}

std::string_view way_in_words(double fwd, double port, double up) {
    const double along = std::abs(fwd), across = std::abs(port), high = std::abs(up);
    if (along >= across && along >= high) return fwd > 0 ? "forward" : "aft";
    if (across >= high) return port > 0 ? "to port" : "to starboard";
    return up > 0 ? "up" : "down";
}

}  // namespace bevelsmith::units

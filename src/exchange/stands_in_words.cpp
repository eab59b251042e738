#include "exchange/stands_in_words.h"

#include <fmt/format.h>

#include <cmath>

#include "units/places.h"

namespace bevelsmith::exchange {
namespace {

/// "leans 3.0° aft at the top", of planes that stand; "falls 2.0° towards the bow", of level ones.
std::string lean_in_words(const Vec3& n) {
    const auto degrees_of = [](double slope) { return units::degrees(std::atan(std::abs(slope))); };
    constexpr double least_deg = 0.05;
    std::vector<std::string> out;
    const auto say = [&](double slope, const char* more, const char* less) {
        if (degrees_of(slope) >= least_deg)
            out.push_back(fmt::format("{:.1f}° {}", degrees_of(slope), slope > 0 ? more : less));
    };
    Eigen::Index axis = 0;
    n.cwiseAbs().maxCoeff(&axis);
    if (axis == 0) {
        say(-n.z() / n.x(), "forward at the top", "aft at the top");
        say(-n.y() / n.x(), "forward at its port end", "aft at its port end");
    } else if (axis == 1) {
        say(-n.z() / n.y(), "to port at the top", "to starboard at the top");
        say(-n.x() / n.y(), "to port at its forward end", "to starboard at its forward end");
    } else {
        say(-n.x() / n.z(), "up towards the bow", "down towards the bow");
        say(-n.y() / n.z(), "up to port", "down to port");
    }
    return out.empty() ? std::string() : fmt::format("It leans {}.", fmt::join(out, " and "));
}

}  // namespace

std::vector<std::string> stands_in_words(const job::JobPiece& piece, const piece::Outline& shape,
                                         const geometry::Polygon& face_a, units::LengthUnit unit) {
    using units::Axis;
    const Vec3& n = piece.plane.normal;
    Eigen::Index axis = 0;
    n.cwiseAbs().maxCoeff(&axis);
    static constexpr const char* lies[] = {"across the boat", "along the boat", "level"};
    static constexpr const char* looks[][2] = {{"aft", "forward"}, {"to starboard", "to port"}, {"down", "up"}};
    std::vector<std::string> out;
    out.push_back(fmt::format("Stands {}; face A looks {}, {}.", lies[axis], looks[axis][n[axis] > 0 ? 0 : 1],
                              units::place_in_words(piece.plane.d_mm / n[axis], static_cast<Axis>(axis), unit)));
    if (const std::string lean = lean_in_words(n); !lean.empty()) out.push_back(lean);
    Vec3 lowest = shape.frame.to_space(face_a.outer.front());
    for (const Vec2& p : face_a.outer)
        if (const Vec3 at = shape.frame.to_space(p); at.z() < lowest.z()) lowest = at;
    const auto place = [&](int k) { return units::place_in_words(lowest[k], static_cast<Axis>(k), unit); };
    out.push_back(axis == 2 ? fmt::format("One end of it: {}, {}.", place(0), place(1))
                            : fmt::format("Its lowest point: {}, {}.", place(2), place(axis == 0 ? 1 : 0)));
    return out;
}

}  // namespace bevelsmith::exchange

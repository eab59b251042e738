#include "survey/datum.h"

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <cmath>

#include "survey/instruments.h"
#include "units/quantity.h"

namespace bevelsmith::survey {
namespace {

Result<Vec3> leaning(double forward, double port) {
    const double square = 1 - forward * forward - port * port;
    if (!(square > 0.5)) return Error{"she would lean by more than 45 degrees: look at the numbers again"};
    return Vec3(forward, port, std::sqrt(square));
}

Result<Vec3> from_three_points(const std::array<Vec3, 3>& p) {
    Eigen::Matrix2d sides;
    sides << (p[1] - p[0]).head<2>().transpose(), (p[2] - p[0]).head<2>().transpose();
    const double area = std::abs(sides.determinant());
    const double longest = std::max({(p[1] - p[0]).head<2>().norm(), (p[2] - p[0]).head<2>().norm(), 1.0});
    // Nearer to a line than one in twenty, a millimetre of height would turn the boat by degrees.
    if (area < longest * longest / 20)
        return Error{"the three points lie nearly in one line: take one well to the side of the others"};
    const Vec2 up = sides.inverse() * Vec2(p[1].z() - p[0].z(), p[2].z() - p[0].z());
    return leaning(up.x(), up.y());
}

bool is_points(School school) {
    return school == School::direct || school == School::scan;
}

void turn_values(std::array<double, 6>& values, const Turn& turn) {
    Eigen::Map<Vec3> p(values.data());
    p = (turn * p).eval();
}

ReadingSet turned(ReadingSet set, const Turn& turn) {
    set.by_gravity = false;
    set.along = (turn * set.along).normalized();
    set.toward = (turn * set.toward).normalized();
    if (!is_points(set.school)) return set;
    for (Reading& r : set.readings) {
        turn_values(r.values, turn);
        for (auto& again : r.again) turn_values(again, turn);
    }
    return set;
}

}  // namespace

Result<Vec3> plumb_up(const Datum& d) {
    switch (d.known) {
        case Datum::Known::upright: break;
        case Datum::Known::two_levels:
            return leaning(std::sin(units::radians(d.bow_high_deg)), std::sin(units::radians(d.port_high_deg)));
        case Datum::Known::three_points: return from_three_points(d.points);
        case Datum::Known::bulkhead:
            if (!(d.drop_mm > 0)) return Error{"a plumb line is longer than nothing"};
            return leaning(-d.foot_forward_mm / d.drop_mm, -d.foot_port_mm / d.drop_mm);
    }
    return Vec3(Vec3::UnitZ());
}

Lean lean_of(const Vec3& up) {
    return {units::degrees(std::asin(up.y())), units::degrees(std::asin(up.x()))};
}

Turn from_the_hard(const Vec3& up) {
    const Vec3 forward = (Vec3::UnitX() - up.x() * up).normalized();
    Turn out;
    out << forward, up.cross(forward), up;
    return out;
}

Result<std::vector<ReadingSet>> in_boat_frame(std::span<const ReadingSet> sets, const Datum& datum) {
    std::vector<ReadingSet> out;
    out.reserve(sets.size());
    for (const ReadingSet& set : sets) {
        if (!set.by_gravity) {
            out.push_back(set);
            continue;
        }
        const auto up = plumb_up(datum);
        if (!up) return Error{"The datum: " + up.error().message};
        out.push_back(turned(set, from_the_hard(*up)));
    }
    return out;
}

}  // namespace bevelsmith::survey

#include "practice/instruments.h"

#include <array>
#include <cmath>

namespace bevelsmith::practice {
namespace {

survey::ReadingSet set_of(survey::School school, const Hand& hand) {
    survey::ReadingSet out;
    out.school = school;
    out.surface_id = "hull";
    out.sigma_mm = hand.sigma_mm;
    return out;
}

}  // namespace

double Hand::error_mm() {
    return sigma_mm > 0 ? std::normal_distribution<double>(0, sigma_mm)(random) : 0;
}

double Hand::slip_mm() {
    std::uniform_real_distribution<double> share(0, 1);
    if (slip_chance <= 0 || share(random) >= slip_chance) return 0;
    constexpr std::array sizes{10.0, 20.0, 30.0, 50.0, 100.0};
    const double size = sizes[static_cast<std::size_t>(share(random) * 4.999)];
    return share(random) < 0.5 ? -size : size;
}

survey::ReadingSet read_ordinates(const VirtualBoat& boat, const Vec3& origin, const Vec3& along, const Vec3& toward,
                                  std::span<const double> stations, Hand& hand) {
    survey::ReadingSet out = set_of(survey::School::ordinates, hand);
    out.origin = origin;
    out.along = along.normalized();
    out.toward = toward.normalized();
    for (double station : stations) {
        const Vec3 from = origin + station * out.along;
        const auto hit = boat.hit(from, out.toward);
        if (!hit) continue;
        survey::Reading reading;
        reading.values = {station, (*hit - from).dot(out.toward) + hand.error_mm() + hand.slip_mm(), 0};
        out.readings.push_back(reading);
    }
    return out;
}

survey::ReadingSet read_pattern(const VirtualBoat& boat, double x, std::span<const double> angles, Hand& hand) {
    survey::ReadingSet out = set_of(survey::School::strip_pattern, hand);
    out.origin = {x, 0, 0};
    out.along = Vec3::UnitY();
    out.toward = Vec3::UnitZ();
    for (double angle : angles) {
        const Vec3 p = boat.at(x, angle);
        const Vec3 off = boat.normal(p).cwiseProduct(Vec3(0, 1, 1)).normalized() * (hand.error_mm() + hand.slip_mm());
        survey::Reading reading;
        reading.values = {p.y() + off.y(), p.z() + off.z(), 0};
        out.readings.push_back(reading);
    }
    return out;
}

survey::ReadingSet read_points(const VirtualBoat& boat, std::span<const Spot> spots, Hand& hand) {
    survey::ReadingSet out = set_of(survey::School::direct, hand);
    for (const Spot& spot : spots) {
        const Vec3 p = boat.at(spot.x_mm, spot.angle);
        const Vec3 read = p + boat.normal(p) * (hand.error_mm() + hand.slip_mm());
        survey::Reading reading;
        reading.values = {read.x(), read.y(), read.z()};
        out.readings.push_back(reading);
    }
    return out;
}

survey::ReadingSet read_line(const VirtualBoat& boat, HullLine line, double step_mm, Hand& hand) {
    survey::ReadingSet out = set_of(survey::School::direct, hand);
    out.hard_line = true;
    const int steps = std::max(1, static_cast<int>(VirtualBoat::length_mm / step_mm));
    for (int k = 0; k <= steps; ++k) {
        const Vec3 p = boat.on_line(line, VirtualBoat::length_mm * k / steps);
        const Vec3 way = Vec3(0, p.y(), p.z()).normalized();
        const Vec3 read = p + (hand.error_mm() + hand.slip_mm()) * way;
        out.readings.emplace_back().values = {read.x(), read.y(), read.z()};
    }
    return out;
}

std::vector<Spot> random_spots(int count, const Spot& low, const Spot& high, std::mt19937& random) {
    std::uniform_real_distribution<double> x(low.x_mm, high.x_mm), angle(low.angle, high.angle);
    std::vector<Spot> out;
    for (int i = 0; i < count; ++i) {
        const double at = x(random);
        out.push_back({at, angle(random)});
    }
    return out;
}

}  // namespace bevelsmith::practice

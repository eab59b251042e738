#include "support/sparse_sides.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "practice/boat.h"

namespace sparse_sides {
namespace {

constexpr double pi = 3.14159265358979;
constexpr double length = 2600;

/// A point of the side at station x, `share` of the girth read up from its lowest reading.
using Shape = std::function<Vec3(double x, double share)>;

double between(std::mt19937& random, double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
}

Side read(const Shape& shape, int slips, std::mt19937& random) {
    Side out;
    const int stations = std::uniform_int_distribution<int>(4, 7)(random);
    const double sigma = between(random, 1, 1.6);
    std::normal_distribution<double> error(0, sigma);
    for (int i = 0; i < stations; ++i) {
        const double x = std::round(length * i / (stations - 1));
        const int heights = std::uniform_int_distribution<int>(6, 9)(random);
        for (int k = 0; k < heights; ++k) {
            const double share = (k + (k > 0 && k + 1 < heights ? between(random, -0.2, 0.2) : 0)) / (heights - 1);
            const Vec3 p = shape(x, share), up = shape(x, share + 1e-4) - shape(x, share - 1e-4);
            const Vec3 out_of = Vec3(0, up.z(), -up.y()).normalized();
            const Vec3 read = p + error(random) * out_of;
            out.points.push_back({Vec3(x, std::round(read.y()), std::round(read.z())), sigma, 0, k});
        }
    }
    for (int k = 0; k < slips; ++k) {
        const auto which = std::uniform_int_distribution<std::size_t>(0, out.points.size() - 1)(random);
        out.points[which].position.y() += (k % 2 ? -1 : 1) * between(random, 20, 60);
        out.slips.push_back(static_cast<int>(which));
    }
    out.options.inside = Vec3(length / 2, 0, 200);
    return out;
}

}  // namespace

Side chined(unsigned seed, int slips) {
    std::mt19937 random(seed);
    const double turn = between(random, 22, 50), flare = between(random, 0, 25), twist = between(random, -6, 6);
    const double half = between(random, 900, 1300), sweep = between(random, 0.02, 0.15),
                 rise = between(random, 0, 180);
    const double above = between(random, 450, 700), below = between(random, 350, 600);
    const double camber_top = between(random, -5, 8), camber_bottom = between(random, -5, 8);
    const auto chine = [=](double x) {
        return Vec3(x, half * (1 - sweep * std::pow(x / length, 2)), -150 + rise * std::pow(x / length, 1.5));
    };
    const Shape shape = [=](double x, double share) -> Vec3 {
        const double girth = share * (above + below) - below, reach = girth > 0 ? above : below;
        const double lean = (flare + twist * (x / length - 0.5) + (girth > 0 ? 0 : turn)) * pi / 180;
        const double along = std::abs(girth) / reach, camber = 4 * along * (1 - along);
        const double off = camber * (girth > 0 ? camber_top : camber_bottom);
        return chine(x) + girth * Vec3(0, std::sin(lean), std::cos(lean)) +
               off * Vec3(0, std::cos(lean), -std::sin(lean));
    };
    Side out = read(shape, slips, random);
    out.turn_deg = turn;
    for (double x = 0; x <= length; x += 100) out.chine.push_back(chine(x));
    return out;
}

Side smooth(unsigned seed, int slips) {
    std::mt19937 random(seed);
    const double half = between(random, 700, 1200), low = between(random, -500, -200),
                 high = low + between(random, 800, 1200);
    if (seed % 3 == 0) {
        const double slope = between(random, 0.1, 0.4), hollow = between(random, 0.0002, 0.0006);
        const double sweep = between(random, 0.00002, 0.00004), widest = between(random, 800, 1600);
        return read(
            [=](double x, double share) -> Vec3 {
                const double z = (high - low) * share;
                return {x, half + slope * z + hollow * z * z - sweep * (x - widest) * (x - widest), low + z};
            },
            slips, random);
    }
    if (seed % 3 == 1) {
        const double radius = between(random, 500, 900), turn = between(random, 30, 55) * pi / 180;
        const double flare = between(random, 0, 15) * pi / 180, straight = between(random, 150, 350);
        const double sweep = between(random, 0.02, 0.12), rise = between(random, 0, 150);
        return read(
            [=](double x, double share) -> Vec3 {
                const double girth = share * (2 * straight + radius * turn) - straight;
                const double bent = std::clamp(girth, 0.0, radius * turn), rest = girth - bent;
                // From the arc's upper end downwards: leaning by `flare` there and by `flare + turn` below.
                const double lean = flare + turn - bent / radius;
                const Vec2 arc(radius * (std::cos(lean) - std::cos(flare)),
                               radius * (std::sin(flare) - std::sin(lean)));
                const Vec2 on = arc + rest * Vec2(std::sin(lean), std::cos(lean));
                return {x, half * (1 - sweep * std::pow(x / length, 2)) + on.x(), on.y() + rise * x / length};
            },
            slips, random);
    }
    practice::BoatSpec spec;
    spec.form = seed % 2 ? practice::HullForm::round_bilge : practice::HullForm::flared_bow;
    spec.seed = seed;
    const practice::VirtualBoat boat(spec);
    return read([=](double x, double share) { return boat.at(200 + x, -1.2 + 1.4 * share); }, slips, random);
}

}  // namespace sparse_sides

#include "support/virtual_jobs.h"

namespace virtual_jobs {
namespace {

using practice::HullForm;

constexpr HullForm forms[] = {HullForm::round_bilge, HullForm::flared_bow, HullForm::hard_chine};

survey::ReadingSet stations(const practice::VirtualBoat& boat, int count, practice::Hand& hand) {
    std::uniform_int_distribution<int> how_many(5, 8);
    const int n = how_many(hand.random), each = std::max(6, count / n);
    survey::ReadingSet out;
    for (int s = 0; s < n; ++s) {
        std::vector<double> angles;
        for (int i = 0; i < each; ++i) angles.push_back(low.angle + (high.angle - low.angle) * i / (each - 1));
        const double x = low.x_mm + (high.x_mm - low.x_mm) * s / (n - 1);
        const survey::ReadingSet one = practice::read_pattern(boat, x, angles, hand);
        if (s == 0) out = survey::usual_set(survey::School::direct);
        for (const auto& reading : one.readings) {
            const Vec3 p = survey::locate(one, reading)->position;
            out.readings.emplace_back().values = {p.x(), p.y(), p.z()};
        }
    }
    out.surface_id = "hull";
    out.sigma_mm = hand.sigma_mm;
    return out;
}

}  // namespace

std::vector<hull::SectionRun> runs_of(const hull::Surface& surface, const geometry::Plane& plane,
                                      double thickness_mm) {
    return hull::cut_section(surface, plane, thickness_mm).value();
}

std::vector<survey::Point> points_of(const survey::ReadingSet& set) {
    return survey::points_of(std::vector{set}, set.surface_id).value();
}

survey::ReadingSet chine_of(const practice::VirtualBoat& boat, practice::Hand& hand, double step_mm) {
    survey::ReadingSet out = survey::usual_set(survey::School::direct);
    out.surface_id = "hull";
    out.hard_line = true;
    for (double x = low.x_mm; x < high.x_mm + 50; x += step_mm) {
        const Vec3 p = boat.chine(x) + boat.normal(boat.chine(x)) * hand.error_mm();
        out.readings.emplace_back().values = {p.x(), p.y(), p.z()};
    }
    return out;
}

VirtualJob numbered(int number, double lumpy_mm) {
    practice::BoatSpec spec;
    spec.form = forms[number % 3];
    spec.lumpy_mm = lumpy_mm;
    spec.seed = 100U + static_cast<unsigned>(number);
    VirtualJob out{practice::VirtualBoat(spec), {}, {}, {}};
    out.hand.random.seed(7U + static_cast<unsigned>(number));
    out.options.inside = Vec3(1500, 0, 0);
    const int count = std::uniform_int_distribution<int>(40, 160)(out.hand.random);
    out.points =
        points_of(number % 2 == 0 ? practice::read_points(
                                        out.boat, practice::random_spots(count, low, high, out.hand.random), out.hand)
                                  : stations(out.boat, count, out.hand));
    if (spec.form == HullForm::hard_chine) {
        const auto line = chine_of(out.boat, out.hand);
        const auto more = points_of(line);
        out.points.insert(out.points.end(), more.begin(), more.end());
        out.options.hard_lines = survey::hard_lines_of(std::vector{line}, "hull");
    }
    return out;
}

VirtualJob scattered(int number, int count) {
    practice::BoatSpec spec;
    spec.form = number % 2 ? HullForm::flared_bow : HullForm::round_bilge;
    spec.seed = 500U + static_cast<unsigned>(number);
    VirtualJob out{practice::VirtualBoat(spec), {}, {}, {}};
    out.hand.random.seed(77U + static_cast<unsigned>(number));
    out.options.inside = Vec3(1500, 0, 0);
    out.points = points_of(
        practice::read_points(out.boat, practice::random_spots(count, low, high, out.hand.random), out.hand));
    return out;
}

}  // namespace virtual_jobs

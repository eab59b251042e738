#include "support/practice_jobs.h"

#include <numbers>

#include "practice/instruments.h"
#include "survey/instruments.h"

namespace practice_jobs {
namespace {

job::Job begun() {
    job::Job out = job::empty_job();
    out.surfaces[0].inside = Vec3(practice::VirtualBoat::length_mm / 2, 0, 0);
    return out;
}

}  // namespace

job::Job unsaid_chine() {
    const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, 41});
    practice::Hand hand;
    hand.random.seed(41);
    job::Job out = begun();
    job::add_readings(
        out, practice::read_points(boat, practice::random_spots(120, {100, -1.35}, {2900, 0.25}, hand.random), hand));
    return out;
}

job::Job scanned(bool chined, int hose) {
    const practice::VirtualBoat boat(
        {chined ? practice::HullForm::hard_chine : practice::HullForm::round_bilge, 0, 0, 4});
    practice::Hand hand;
    hand.sigma_mm = 1;
    auto set =
        practice::read_points(boat, practice::random_spots(2000, {100, -1.35}, {2900, 0.25}, hand.random), hand);
    std::uniform_real_distribution<double> share(0, 1);
    for (int i = 0; i < hose; ++i) {
        const Vec3 p = boat.at(100 + 2800 * share(hand.random), -0.8 + 0.02 * share(hand.random));
        const Vec3 off = p - (15 + 25 * share(hand.random)) * boat.normal(p);
        set.readings.emplace_back().values = {off.x(), off.y(), off.z()};
    }
    set.school = survey::School::scan;
    set.sigma_mm = 1;
    job::Job out = begun();
    job::add_readings(out, set);
    return out;
}

job::Job two_sides(double lopsided_mm) {
    const practice::VirtualBoat boat({practice::HullForm::round_bilge, lopsided_mm, 0, 3});
    practice::Hand hand;
    job::Job out = begun();
    out.surfaces.push_back(out.surfaces[0]);
    out.surfaces[1].id = "other";
    out.surfaces[1].name = "Starboard";
    survey::ReadingSet mirrored = survey::usual_set(survey::School::mirrored);
    mirrored.mirror_of = out.surfaces[0].id;
    mirrored.surface_id = "other";
    job::add_readings(out, mirrored);
    job::add_readings(
        out, practice::read_points(boat, practice::random_spots(80, {100, -1.35}, {2900, 0.2}, hand.random), hand));
    std::vector<practice::Spot> spots;
    for (double x = 200; x < 2900; x += 200) spots.push_back({x, -std::numbers::pi});
    survey::ReadingSet check = practice::read_points(boat, spots, hand);
    check.surface_id = "other";
    job::add_readings(out, check);
    return out;
}

}  // namespace practice_jobs

#include "job/hand_record.h"

#include <algorithm>
#include <cmath>

#include "job/offering_up.h"

namespace bevelsmith::job {
namespace {

SchoolScatter& entry(HandRecord& record, survey::School school) {
    for (auto& one : record.schools)
        if (one.school == school) return one;
    return record.schools.emplace_back(SchoolScatter{school, 0, 0});
}

void add_surface(HandRecord& out, const Job& job, const SurfaceResult& surface) {
    const auto* fit = surface.fitted();
    if (!fit) return;
    for (std::size_t k = 0; k < surface.points.size() && k < fit->report.readings.size(); ++k) {
        const auto& point = surface.points[k];
        if (point.reading < 0 || fit->report.readings[k].suspect || is_scanned(job, point)) continue;
        if (point.set < 0 || point.set >= static_cast<int>(job.readings.size())) continue;
        const auto& set = job.readings[static_cast<std::size_t>(point.set)];
        const double off = fit->report.readings[k].studentised * fit->report.scatter * set.sigma_mm;
        if (set.school == survey::School::mirrored || !std::isfinite(off)) continue;
        auto& one = entry(out, set.school);
        ++one.readings, one.squares_mm2 += off * off;
    }
}

}  // namespace

double SchoolScatter::sigma_mm() const {
    return readings > 0 ? std::sqrt(squares_mm2 / readings) : 0;
}

void HandRecord::add(const HandRecord& other) {
    for (const auto& one : other.schools) {
        auto& own = entry(*this, one.school);
        own.readings += one.readings, own.squares_mm2 += one.squares_mm2;
    }
    offered += other.offered, kept += other.kept;
}

const SchoolScatter* HandRecord::of(survey::School school) const {
    const auto at = std::find_if(schools.begin(), schools.end(), [&](const auto& s) { return s.school == school; });
    return at == schools.end() ? nullptr : &*at;
}

HandRecord hand_record(const Job& in_full, const Results& results) {
    HandRecord out;
    if (in_full.practice) return out;
    for (const auto& surface : results.surfaces) add_surface(out, in_full, surface);
    const Kept kept = kept_to_forecast(in_full);
    out.offered = kept.pieces, out.kept = kept.kept;
    return out;
}

}  // namespace bevelsmith::job

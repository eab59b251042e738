#include "job/own_frames.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <map>
#include <set>

#include "hull/stray_sets.h"
#include "job/pipeline.h"

namespace bevelsmith::job {
namespace {

std::optional<std::size_t> index_of(const Job& job, const std::string& set_id) {
    const auto it =
        std::find_if(job.readings.begin(), job.readings.end(), [&](const auto& set) { return set.id == set_id; });
    if (it == job.readings.end()) return std::nullopt;
    return static_cast<std::size_t>(it - job.readings.begin());
}

Eigen::Matrix3d turn_of(const Vec3& turn_rad) {
    const double angle = turn_rad.norm();
    if (!(angle > 0)) return Eigen::Matrix3d::Identity();
    return Eigen::AngleAxisd(angle, turn_rad / angle).toRotationMatrix();
}

/// The marks where the placing, nudge and all, has put them.
std::vector<hull::Hold> holds_of(const survey::PlacedSet& placed, const std::optional<survey::Nudge>& nudge) {
    const survey::Placement& by = placed.placement->value();
    const double sigma = std::max(placed.set.sigma_mm, by.rms_mm);
    std::vector<hull::Hold> out;
    for (const auto& mark : placed.marks) {
        Vec3 at = by(mark.seen);
        if (nudge) at = turn_of(nudge->turn_rad) * at + nudge->move_mm;
        out.push_back({at, mark.at, sigma});
    }
    return out;
}

}  // namespace

Result<std::vector<survey::PlacedSet>> placed_readings(const Job& job) {
    const std::vector<survey::ReadingSet> sets(job.readings.begin(), job.readings.end());
    const std::vector<survey::ReferenceMark> marks(job.marks.begin(), job.marks.end());
    return survey::placed_sets(sets, job.datum, marks);
}

Result<survey::PlacedSet> placed_set(const Job& job, const std::string& set_id) {
    const auto index = index_of(job, set_id);
    if (!index || !job.readings[*index].own_frame) return Error{"the set has no frame of its own"};
    auto all = placed_readings(job);
    if (!all) return all.error();
    survey::PlacedSet& one = all.value()[*index];
    if (!one.placement) return Error{"mirrored readings follow the other side's"};
    if (!*one.placement) return one.placement->error();
    return std::move(one);
}

NotedMarks noted_marks(const Job& job, const std::vector<survey::Reading>& readings) {
    std::set<std::string> marks;
    std::map<std::string, int> here, elsewhere;
    for (const auto& mark : job.marks) marks.insert({mark.id, mark.name});
    for (const auto& set : job.readings) {
        std::map<std::string, int> in_set;
        for (const auto& r : set.readings) {
            if (!r.mark.empty()) marks.insert(r.mark);
            ++in_set[r.note];
        }
        for (const auto& [note, count] : in_set)
            if (count == 1) ++elsewhere[note];
    }
    for (const auto& r : readings) ++here[r.note];
    NotedMarks out;
    for (const auto& [note, count] : here) {
        if (note.empty()) continue;
        if (marks.contains(note)) out.known.push_back(note);
        else if (count == 1 && elsewhere[note] > 0) out.shared.push_back(note);
    }
    constexpr std::size_t enough = 3;
    if (out.known.size() + out.shared.size() < enough) out.shared.clear();
    return out;
}

void take_noted(Job& job, std::vector<survey::Reading>& readings, const NotedMarks& noted) {
    const auto take = [](survey::Reading& r, const std::vector<std::string>& names) {
        if (r.mark.empty() && std::find(names.begin(), names.end(), r.note) != names.end()) r.mark = r.note;
    };
    for (auto& r : readings) take(r, noted.known), take(r, noted.shared);
    for (auto& set : job.readings) {
        for (const auto& name : noted.shared)
            if (std::count_if(set.readings.begin(), set.readings.end(),
                              [&](const auto& r) { return r.note == name; }) == 1)
                for (auto& r : set.readings) take(r, {name});
    }
}

Result<hull::Alignment> alignment_of(const Job& job, const std::string& set_id, const KeepGoing& keep_going) {
    const auto placed = placed_set(job, set_id);
    if (!placed) return placed.error();
    const auto index = *index_of(job, set_id);
    const auto spec = std::find_if(job.surfaces.begin(), job.surfaces.end(),
                                   [&](const auto& s) { return s.id == placed->set.surface_id; });
    if (spec == job.surfaces.end()) return Error{"it is not said what the set lies on"};
    auto sets = readings_in_boat(job);
    if (!sets) return sets.error();
    const auto own = survey::points_of(std::vector<survey::ReadingSet>{placed->set}, spec->id);
    if (!own) return own.error();
    sets.value()[index].surface_id.clear();
    const auto others = survey::points_of(*sets, spec->id);
    if (!others) return others.error();
    if (others->empty())
        return Error{fmt::format("nothing else was read on {}: there is no surface to lay it on", spec->name)};
    const auto fit = hull::fit_sets(*others, Pipeline::fit_options(*spec, *sets), keep_going);
    if (!fit)
        return Error{fmt::format("the other readings of {} make no surface: {}", spec->name, fit.error().message)};
    std::vector<Vec3> points;
    for (const auto& p : *own) points.push_back(p.position);
    return hull::align_to(fit->surface, points, placed->set.sigma_mm,
                          holds_of(*placed, job.readings[index].own_frame->nudge), static_cast<int>(others->size()),
                          keep_going);
}

survey::Nudge nudged_on(const std::optional<survey::Nudge>& before, const hull::Alignment& by) {
    const survey::Nudge first = before.value_or(survey::Nudge{});
    const Eigen::AngleAxisd turn(Eigen::Matrix3d(by.turn * turn_of(first.turn_rad)));
    return {{turn.angle() * turn.axis(), by.turn * first.move_mm + by.move_mm}, by.doubts};
}

}  // namespace bevelsmith::job

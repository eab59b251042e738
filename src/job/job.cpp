#include "job/job.h"

#include <fmt/format.h>

#include <algorithm>

#include "job/own_frames.h"

namespace bevelsmith::job {
namespace {

template <class List>
auto find_by_id(const List& list, const std::string& id) -> const typename List::value_type* {
    const auto it = std::find_if(list.begin(), list.end(), [&](const auto& item) { return item.id == id; });
    return it == list.end() ? nullptr : &*it;
}

}  // namespace

Job::Job() = default;
Job::Job(const Job&) = default;
Job::Job(Job&&) noexcept = default;
Job& Job::operator=(const Job&) = default;
Job& Job::operator=(Job&&) noexcept = default;
Job::~Job() = default;
bool Job::operator==(const Job&) const = default;

bool CutSheet::operator==(const CutSheet&) const = default;

JobPiece::JobPiece() = default;
JobPiece::JobPiece(const JobPiece&) = default;
JobPiece::JobPiece(JobPiece&&) noexcept = default;
JobPiece& JobPiece::operator=(const JobPiece&) = default;
JobPiece& JobPiece::operator=(JobPiece&&) noexcept = default;
JobPiece::~JobPiece() = default;
bool JobPiece::operator==(const JobPiece&) const = default;

bool is_cut(const JobPiece& piece) {
    constexpr std::ptrdiff_t cut = 3;
    return std::find(std::begin(piece_stages), std::end(piece_stages), piece.stage) - std::begin(piece_stages) >= cut;
}

const JobPiece* find_piece(const Job& job, const std::string& id) {
    return find_by_id(job.pieces, id);
}
const JobMaterial* find_material(const Job& job, const std::string& id) {
    return find_by_id(job.materials, id);
}

double thickness_of(const Job& job, const piece::PieceSpec& piece) {
    if (piece.measured_mm > 0) return piece.measured_mm;
    const JobMaterial* material = find_material(job, piece.material_id);
    return material ? stock::thickness_mm(piece.layup, piece.sheets_thick * material->thickness_mm) : 0;
}
double mass_kg_m2(const Job& job, const piece::PieceSpec& piece) {
    const JobMaterial* material = find_material(job, piece.material_id);
    if (!material) return 0;
    const double skins = stock::thickness_mm(piece.layup, 0);
    // What was measured is the whole: the core is what the skins leave of it.
    const double core = std::max(0.0, thickness_of(job, piece) - skins);
    return stock::mass_kg_m2(piece.layup, core, material->density_kg_m3);
}

int sheets_cut(const piece::PieceSpec& piece) {
    return piece.copies * piece.sheets_thick;
}

bool pattern_to_cut(const JobPiece& piece) {
    return !piece.pattern_material.empty() && piece::is_made(piece.role) && !is_cut(piece) &&
           piece.stage != "pattern" &&
           std::none_of(piece.fittings.begin(), piece.fittings.end(),
                        [](const Fitting& f) { return f.of_pattern && !f.set_ids.empty(); });
}

Result<std::vector<survey::ReadingSet>> readings_in_boat(const Job& job) {
    const auto placed = placed_readings(job);
    if (!placed) return placed.error();
    std::vector<survey::ReadingSet> out;
    for (const auto& one : *placed) out.push_back(one.set);
    return out;
}

JobReadingSet& add_readings(Job& job, const survey::ReadingSet& set, Placed placed) {
    std::vector<std::string> ids;
    for (const auto& s : job.readings) ids.push_back(s.id);
    if (job.surfaces.empty()) job.surfaces = empty_job().surfaces;
    JobReadingSet& out = job.readings.emplace_back();
    static_cast<survey::ReadingSet&>(out) = set;
    out.id = free_id("R", ids);
    if (placed == Placed::not_yet) out.surface_id.clear();
    else if (!find_by_id(job.surfaces, out.surface_id)) out.surface_id = job.surfaces.front().id;
    return out;
}

std::string free_name(const std::string& name, const std::vector<std::string>& taken) {
    std::string out = name;
    for (int k = 2; std::find(taken.begin(), taken.end(), out) != taken.end(); ++k)
        out = name + " " + std::to_string(k);
    return out;
}

std::string free_id(const std::string& prefix, const std::vector<std::string>& taken) {
    for (int n = 1;; ++n) {
        const std::string id = fmt::format("{}{}", prefix, n);
        if (std::find(taken.begin(), taken.end(), id) == taken.end()) return id;
    }
}

Job empty_job() {
    Job job;
    job.boat.passage.hands_mm = 15;  // common practice
    SurfaceSpec hull;
    hull.id = "hull";
    hull.name = "Hull side";
    job.surfaces.push_back(hull);
    JobMaterial ply;
    ply.id = "ply18";
    ply.name = "Marine plywood 18 mm";
    ply.thickness_mm = 18;
    ply.density_kg_m3 = 600;
    job.materials.push_back(ply);
    return job;
}

}  // namespace bevelsmith::job

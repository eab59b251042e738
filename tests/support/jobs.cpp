#include "support/jobs.h"

#include <charconv>
#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <regex>
#include <sstream>
#include <stdexcept>

#include "job/job_file.h"

namespace jobs {

job::Job tube_job() {
    job::Job job = job::empty_job();
    job.name = "Tube";
    job.surfaces[0].inside = Vec3(1500, 0, 0);
    for (int station = 0; station < 7; ++station) {
        job::JobReadingSet set;
        set.id = "R" + std::to_string(station + 1);
        set.name = "Station " + std::to_string(station + 1);
        set.school = survey::School::strip_pattern;
        set.surface_id = "hull";
        set.origin = {station * 500.0, 0, 0};
        set.along = Vec3::UnitY();
        set.toward = Vec3::UnitZ();
        for (int k = 0; k <= 24; ++k) {
            const double a = -units::pi * (2 + 176 * k / 24.0) / 180;
            survey::Reading r;
            r.values = {tube_radius_mm * std::cos(a), tube_radius_mm * std::sin(a), 0};
            set.readings.push_back(r);
        }
        job.readings.push_back(set);
    }
    job::JobPiece piece;
    piece.id = "B1";
    piece.name = "Bulkhead";
    piece.place = "Cabin";
    piece.plane = {Vec3::UnitX(), 1500};
    piece.material_id = "ply18";
    piece.edges.push_back({piece::EdgeKind::scribed, "hull", "hull", {0, 1}, 0, 0, 0});
    piece.edges.push_back({piece::EdgeKind::straight, "top", {}, {0, 1}, -200, 0, 0});
    piece.split_for_passage = false;
    job.pieces.push_back(piece);
    return job;
}

const hull::Surface& tube_surface() {
    static const job::Results results = job::Pipeline().compute(tube_job());
    return results.surfaces.front().fitted()->surface;
}

std::string ternlight_path() {
    return BEVELSMITH_SOURCE_DIR "/tests/kept/three-pieces.job.json";
}
std::string ternlight_text() {
    return read(ternlight_path());
}

job::Job ternlight() {
    auto job = job::load_job(ternlight_path());
    if (!job) throw std::runtime_error(job.error().message);
    return job.value();
}

std::string demo_path(const std::string& name) {
    return BEVELSMITH_SOURCE_DIR "/demo/" + name + ".job.json";
}

job::Job demo(const std::string& name) {
    auto job = job::load_job(demo_path(name));
    if (!job) throw std::runtime_error(job.error().message);
    return job.value();
}

Folder::Folder() {
    std::string name = (std::filesystem::temp_directory_path() / "bevelsmith-XXXXXX").string();
    if (!mkdtemp(name.data())) throw std::runtime_error("no folder for the test's files");
    path_ = name;
}

Folder::~Folder() {
    std::filesystem::remove_all(path_);
}

double number_in(const std::string& text) {
    double out = 0;
    const char* first = text.c_str() + text.find_first_not_of(" +");
    if (std::from_chars(first, text.c_str() + text.size(), out).ec != std::errc()) throw std::invalid_argument(text);
    return out;
}

std::vector<double> numbers_in(const std::string& text) {
    static const std::regex number("-?[0-9]+(\\.[0-9]+)?(e[-+]?[0-9]+)?");
    std::vector<double> out;
    for (auto it = std::sregex_iterator(text.begin(), text.end(), number); it != std::sregex_iterator(); ++it)
        out.push_back(number_in(it->str()));
    return out;
}

std::string read(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

void write(const std::string& path, const std::string& text) {
    std::ofstream(path, std::ios::binary) << text;
}

}  // namespace jobs

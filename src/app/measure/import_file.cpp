#include "app/measure/import_file.h"

#include <algorithm>

#include "exchange/cloud_file.h"
#include "exchange/importers.h"
#include "job/file_io.h"

namespace bevelsmith::app {
namespace {

constexpr std::size_t longest_table_bytes = 20'000'000;
/// So many points settle a surface; more only make the job heavy.
constexpr std::size_t points_wanted = 6000;
/// A table this long is a scan.
constexpr std::size_t scan_rows = 2000;

/// What lies alone is parted off, and a cell chosen for the rest, while the window goes on.
void take_cloud(const survey::Cloud& cloud, int usual_unit, LoadedFile& out) {
    out.cloud = survey::sorted_by_company(cloud);
    constexpr int metres = 2;
    out.unit = exchange::likely_unit_mm(out.cloud.dense) == unit_mm[metres] ? metres : usual_unit;
    survey::Cloud scaled = out.cloud.dense;
    for (Vec3& p : scaled) p *= unit_mm[static_cast<std::size_t>(out.unit)];
    // A point farther off than any boat reaches is told later, in words.
    const auto box = survey::box_of(scaled);
    const bool near = units::range::place.holds(box.low.minCoeff()) && units::range::place.holds(box.high.maxCoeff());
    out.cell_mm = near ? survey::cell_for(scaled, points_wanted) : 0;
}

}  // namespace

std::shared_ptr<const LoadedFile> loaded_from(std::string contents, int usual_unit) {
    auto out = std::make_shared<LoadedFile>();
    out->contents = std::move(contents);
    if (!exchange::importer_of(exchange::FileKind::ply).looks_so(out->contents))
        if (const auto words = exchange::taken_elsewhere(exchange::FileKind::table, out->contents); !words.empty()) {
            out->fault = Error{words};
            return out;
        }
    // A long text is a scan, never a table of readings.
    const bool long_text = out->contents.size() > longest_table_bytes;
    if (!long_text && !out->contents.starts_with("ply")) {
        if (auto fault = exchange::fault_in_lines(out->contents)) {
            out->fault = *fault;
            return out;
        }
        out->table.emplace(out->contents);
    }
    if (out->table && out->table->rows() < scan_rows) return out;
    if (auto cloud = exchange::cloud_from_text(out->contents)) take_cloud(*cloud, usual_unit, *out);
    else out->fault = cloud.error();
    if (long_text) out->contents.clear();
    return out;
}

std::shared_ptr<const LoadedFile> load_file(const std::string& path, int usual_unit) {
    try {
        auto text = job::read_file(path, units::limit::cloud_bytes);
        if (text) return loaded_from(std::move(text.value()), usual_unit);
        auto out = std::make_shared<LoadedFile>();
        out->fault = text.error();
        return out;
    } catch (const std::exception&) {
        auto out = std::make_shared<LoadedFile>();
        out->fault = Error{"there is not enough memory to read this file"};
        return out;
    }
}

void cut_down(const survey::Cloud& cloud, const survey::CloudCut& cut, KeptPoints& out) {
    out.all = cloud.size();
    auto cropped = exchange::in_millimetres(survey::cropped(cloud, cut), 1);
    if (!cropped) {
        out.fault = cropped.error().message;
        return;
    }
    out.cloud = std::move(cropped.value());
    out.in_box = out.cloud.size();
    if (cut.cell_mm > 0 && !out.cloud.empty())
        out.cloud = survey::thinned(out.cloud, std::max(cut.cell_mm, units::range::cell.least));
}

}  // namespace bevelsmith::app

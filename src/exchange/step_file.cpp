#include "exchange/step_file.h"

#include <dlfcn.h>
#include <fmt/format.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>

#include "step_writer/step_writer.h"

namespace bevelsmith::exchange {
namespace {

namespace fs = std::filesystem;

/// Beside the program, or where libraries of its own are.
step_writer::WriteStep loaded() {
    static const step_writer::WriteStep write = []() -> step_writer::WriteStep {
        std::error_code none;
        const fs::path program = fs::read_symlink("/proc/self/exe", none);
        constexpr const char* name = "libbevelsmith-step.so";
        for (const fs::path& folder :
             {program.parent_path(), program.parent_path() / "../src", program.parent_path() / "../lib/bevelsmith"}) {
            const fs::path file = folder / name;
            if (!fs::exists(file, none)) continue;
            void* library = dlopen(file.c_str(), RTLD_NOW | RTLD_LOCAL);
            if (!library) continue;
            if (void* symbol = dlsym(library, "bevelsmith_write_step"))
                return reinterpret_cast<step_writer::WriteStep>(symbol);
        }
        return nullptr;
    }();
    return write;
}

}  // namespace

Result<bool> write_step(const job::Job& job, const job::Results& results, const std::vector<std::string>& piece_ids,
                        const std::string& path) {
    const auto write = loaded();
    if (!write) return Error{"cannot be written: the part of Bevelsmith that writes STEP is not installed"};
    std::vector<step_writer::NamedSolid> solids;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape || std::find(piece_ids.begin(), piece_ids.end(), job.pieces[i].id) == piece_ids.end()) continue;
        for (const auto& part : shape->parts)
            solids.push_back({part.id, piece::solid_of(*shape, part.face_a, part.face_b)});
    }
    if (solids.empty()) return Error{"there is no piece with an outline among these"};
    const std::string beside = path + ".part";
    if (const std::string fault = write(solids, beside); !fault.empty()) {
        std::remove(beside.c_str());
        return Error{"cannot be written: " + fault};
    }
    if (std::rename(beside.c_str(), path.c_str()) == 0) return true;
    std::remove(beside.c_str());
    return Error{"cannot be written; the file before is untouched"};
}

}  // namespace bevelsmith::exchange

#include "exchange/step_file.h"

#include <dlfcn.h>
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "job/file_io.h"
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
                        const std::string& path, const KeepGoing& keep_going) {
    const auto write = loaded();
    if (!write) return Error{"cannot be written: the part of Bevelsmith that writes STEP is not installed"};
    std::vector<step_writer::NamedSolid> solids;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape || std::find(piece_ids.begin(), piece_ids.end(), job.pieces[i].id) == piece_ids.end()) continue;
        for (const auto& part : shape->parts) {
            const std::string name = shape->cut_differs() ? part.id + " as cut" : part.id;
            solids.push_back({name, piece::solid_of(*shape, part.face_a, part.face_b)});
            if (shape->cut_differs() && part.finished_a.holes.size() == part.finished_b.holes.size())
                solids.push_back({part.id + " finished", piece::solid_of(*shape, part.finished_a, part.finished_b)});
        }
    }
    if (solids.empty()) return Error{"there is no piece with an outline among these"};
    auto beside = job::BesideFile::make(path);
    if (!beside) return beside.error();
    if (const std::string fault = write(solids, beside->path(), keep_going); !fault.empty())
        return Error{"cannot be written: " + fault};
    return beside.value().put_in_place();
}

}  // namespace bevelsmith::exchange

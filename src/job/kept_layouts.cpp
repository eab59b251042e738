#include "job/kept_layouts.h"

#include <fmt/format.h>

#include <algorithm>

namespace bevelsmith::job {
namespace {

bool same_places(const LockedLayout& a, const LockedLayout& b) {
    const auto unpinned = [](LockedLayout l) {
        for (auto& at : l.placements) at.pinned = false;
        return l.placements;
    };
    return a.material_id == b.material_id && a.sheets == b.sheets && unpinned(a) == unpinned(b);
}

auto named(Job& job, const std::string& material_id, const std::string& name) {
    return std::find_if(job.layouts.begin(), job.layouts.end(),
                        [&](const auto& l) { return !l.in_use && l.material_id == material_id && l.name == name; });
}

}  // namespace

std::string keep_beside(Job& job, const SheetResult& sheets) {
    LockedLayout now = lock_layout(sheets, *sheets.layout);
    now.in_use = false;
    std::vector<std::string> taken;
    for (const auto& l : job.layouts) {
        if (l.material_id != now.material_id || l.in_use) continue;
        if (same_places(l, now)) return l.name;
        taken.push_back(l.name);
    }
    now.name = free_id("Layout ", taken);
    job.layouts.push_back(now);
    return now.name;
}

void take_up(Job& job, const std::string& material_id, const std::string& name) {
    const auto found = named(job, material_id, name);
    if (found == job.layouts.end()) return;
    const LockedLayout chosen = *found;  // use_layout moves the list
    use_layout(job, chosen);
}

void forget_layout(Job& job, const std::string& material_id, const std::string& name) {
    if (const auto found = named(job, material_id, name); found != job.layouts.end()) job.layouts.erase(found);
}

}  // namespace bevelsmith::job

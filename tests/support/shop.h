// The small demo with its sheets, for tests that cut.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "job/in_full.h"
#include "job/pipeline.h"
#include "review/review.h"
#include "support/jobs.h"

namespace jobs {

/// The small demo, computed anew after every change.
struct Shop {
    job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    job::Job full;
    job::Results results;
    Shop() { compute(); }
    void compute() {
        full = job::in_full(job);
        results = pipeline.compute(full);
    }
    const job::SheetResult& sheets() const { return results.sheets.front(); }
    std::vector<std::string> laid_out() const {
        std::vector<std::string> out;
        for (const auto& s : results.sheets)
            for (const auto& at : s.layout->placements)
                out.push_back(s.problem->parts[static_cast<std::size_t>(at.part)].id);
        std::sort(out.begin(), out.end());
        return out;
    }
    const review::Finding* finding(review::CheckId check) {
        found = review::review(full, results);
        for (const auto& f : found)
            if (f.check == check) return &f;
        return nullptr;
    }
    std::vector<review::Finding> found;
};

}  // namespace jobs

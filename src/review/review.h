// A second pair of eyes: mistakes that cost a day, found before the saw is started.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "job/job.h"
#include "job/mending.h"
#include "job/pipeline.h"
#include "review/check_list.h"

namespace bevelsmith::review {

struct Finding {
    CheckId check = CheckId::not_computed;
    Severity severity = Severity::note;
    std::string piece_id;  ///< empty when it concerns the whole job
    std::string title;     ///< what is wrong, one short sentence
    std::string evidence;  ///< the figures behind it
    std::string advice;    ///< what to do
    bool set_aside = false;
    std::string reason;    ///< why it was set aside
    std::string set_id{};  ///< the readings that it is about, empty for none
    int reading = -1;      ///< and of them the first, -1 for all
    /// Which of the check's findings on this piece it is, whatever its figures: by it a finding is set aside.
    std::string about{};
    std::vector<job::Mending> mendings{};  ///< edits that would mend it, offered beside it
    bool operator==(const Finding&) const = default;
};

/// Where one looks at it and mends it.
MendedIn mended_in(const Finding& finding);

/// All findings, worst first; those set aside last.
std::vector<Finding> review(const job::Job& job, const job::Results& results);

}  // namespace bevelsmith::review

// The form of a set of readings: its name, how good a reading is, where its line or pattern stands.
#pragma once

#include "app/widgets/form.h"
#include "job/job.h"

namespace bevelsmith::app {

/// How a change reaches the set: in words, and what to do to it.
using ChangeSet = std::function<void(const QString& what, const std::function<void(survey::ReadingSet&)>& change)>;

/// Adds fields for `set` of `job`. The line and the direction measured to stay square to each other.
void add_set_fields(FieldList& fields, const survey::ReadingSet& set, const job::Job& job, const ChangeSet& change);

}  // namespace bevelsmith::app

// The numbers of a unit, as fields.
#pragma once

#include <functional>
#include <vector>

#include "app/document/document.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// Changes a unit's numbers.
using ChangeUnit = std::function<void(const QString& what, const std::function<void(job::JobUnit&)>& change)>;

/// Stretches the strings of a sole's saddles by the hull.
using SetInSaddles = std::function<void(job::JobUnit&)>;

/// The numbers that matter for its kind.
void add_unit_numbers(FieldList& fields, const job::Job& job, const job::JobUnit& unit, const ChangeUnit& change,
                      const SetInSaddles& set = {});

/// The same for a unit of the job, with what can be done with it. Empty for null.
std::vector<FormField> unit_fields(Document& document, const job::JobUnit* unit);

/// The raised part of a sole: its numbers, or what it may be raised over.
std::vector<FormField> raised_fields(Document& document, const job::JobUnit* unit);

}  // namespace bevelsmith::app

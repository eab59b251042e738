// The catalogue of materials: generic ones that ship with the program, until a person keeps one of their own.
#pragma once

#include <QString>

#include "job/job.h"

namespace bevelsmith::app {

/// Where a person's own catalogue is: a job file with materials and bars and nothing else, to be edited with
/// anything.
QString own_catalogue_path();

/// The person's own where there is one, else what ships. Fails when their own cannot be read, saying where.
Result<job::Job> catalogue();

/// Adds a material or changes the one with its name, in the person's own catalogue, which begins as a copy of what
/// ships.
Result<bool> keep_in_catalogue(const job::JobMaterial& material);

}  // namespace bevelsmith::app

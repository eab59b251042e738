// The job's file: one JSON document, described by docs/job.schema.json.
#pragma once

#include <string>
#include <string_view>

#include "job/job.h"

namespace bevelsmith::job {

/// Reads a job from JSON text. Every fault carries the line where it is. Unknown fields are kept.
Result<Job> job_from_text(std::string_view text);
/// Writes a job so that job_from_text gives back an equal one; numbers round-trip exactly.
std::string job_to_text(const Job& job);

Result<Job> load_job(const std::string& path);
/// Atomic: a crash leaves the old file or the new one. A job that could not be read back is not written.
Result<bool> save_job(const Job& job, const std::string& path);

/// What was changed of a piece, as a JSON Patch; and the piece with such changes, absent where they no longer hold.
std::string piece_changes(const JobPiece& before, const JobPiece& after);
std::optional<JobPiece> changed_piece(const JobPiece& piece, const std::string& changes);

/// The JSON Schema that job files are checked against.
std::string_view job_schema();

}  // namespace bevelsmith::job

// Files on disk: read within limits, written so that nothing is torn or lost.
#pragma once

#include <string>
#include <string_view>

#include "units/ranges.h"
#include "units/result.h"

namespace bevelsmith::job {

/// Reads a file whole. Fails when it cannot be read or has more bytes than `limit`; pipes and devices are no files.
Result<std::string> read_file(const std::string& path, const units::Limit& limit = units::limit::job_bytes);

/// Writes beside the target, flushes file and folder to disk and renames, so that a crash leaves the old file or the
/// new one. A symbolic link stays one: what it points to is written. Mode and owner stay as they were; where a file
/// is somebody else's and the owner cannot be kept by renaming, it is written in place, with the copy beside it until
/// it is whole.
Result<bool> write_file_atomically(const std::string& path, std::string_view text);

/// A new file beside a wanted one, for writers that want a path: made by nobody else, under a name that nobody can
/// guess, in the same folder. Gone again unless it is put in the wanted file's place.
class BesideFile {
  public:
    /// Fails where there can be no such file. What writing was killed over before is cleared away.
    static Result<BesideFile> make(const std::string& wanted);
    BesideFile(BesideFile&& other) noexcept;
    BesideFile& operator=(BesideFile&&) = delete;
    ~BesideFile();
    const std::string& path() const { return path_; }
    /// Flushes it to the disk and gives it the wanted name, mode and owner. Fails with the file before untouched.
    Result<bool> put_in_place();

  private:
    BesideFile(std::string target, std::string path) : target_(std::move(target)), path_(std::move(path)) {}
    std::string target_, path_;
};

/// The file behind links, as an absolute path; the path itself, made absolute, where there is no file.
std::string true_path(const std::string& path);

}  // namespace bevelsmith::job

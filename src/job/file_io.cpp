#include "job/file_io.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <optional>

namespace bevelsmith::job {
namespace {

/// A file descriptor that is closed at the end of its scope.
class Descriptor {
  public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() {
        if (fd_ >= 0) ::close(fd_);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return fd_; }

  private:
    int fd_;
};

/// All of the text, flushed to the disk. False with errno set where that fails.
bool written_whole(int file, std::string_view text) {
    std::size_t done = 0;
    while (done < text.size()) {
        const ssize_t n = ::write(file, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return ::fsync(file) == 0;
}

/// The entry of a renamed file reaches the disk with its folder.
void flush_folder_of(const std::string& path) {
    const auto folder = std::filesystem::path(path).parent_path();
    const Descriptor fd(::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (fd.get() >= 0) (void)::fsync(fd.get());
}

Error cannot_write(int reason) {
    return Error{fmt::format("cannot be written: {}; the file before is untouched", std::strerror(reason))};
}

/// For a file of another owner whom renaming would change. The whole copy lies beside it meanwhile.
Result<bool> write_in_place(const std::string& path, std::string_view text, const std::string& copy) {
    const Descriptor file(::open(path.c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC));
    if (file.get() < 0) {
        const int reason = errno;
        std::remove(copy.c_str());
        return cannot_write(reason);
    }
    if (!written_whole(file.get(), text))
        return Error{fmt::format("cannot be written: {}; the whole text is in {}", std::strerror(errno), copy)};
    std::remove(copy.c_str());
    return true;
}

}  // namespace

std::string true_path(const std::string& path) {
    std::error_code fault;
    const auto real = std::filesystem::weakly_canonical(path, fault);
    return fault ? std::filesystem::absolute(path, fault).string() : real.string();
}

Result<std::string> read_file(const std::string& path, const units::Limit& limit) {
    std::error_code fault;
    if (std::filesystem::is_directory(path, fault)) return Error{"this is a folder, not a file"};
    if (std::filesystem::is_character_file(path, fault) || std::filesystem::is_block_file(path, fault))
        return Error{"this is a device, not a file"};
    const Error too_large{
        fmt::format("the file is too large: {} are at most {} ({})", limit.name, limit.most, limit.why)};
    const auto size = std::filesystem::file_size(path, fault);
    if (!fault && size > limit.most) return too_large;
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{fmt::format("cannot be opened: {}", std::strerror(errno))};
    // Pipes tell no size, so that the limit is kept while reading as well.
    std::string text, part(1u << 20, '\0');
    if (!fault) text.reserve(size);
    while (in) {
        in.read(part.data(), static_cast<std::streamsize>(part.size()));
        text.append(part, 0, static_cast<std::size_t>(in.gcount()));
        if (text.size() > limit.most) return too_large;
    }
    if (in.bad()) return Error{"cannot be read to its end"};
    return text;
}

Result<bool> write_file_atomically(const std::string& path, std::string_view text) {
    const std::string target = true_path(path), beside = target + ".part";
    struct stat before {};
    const bool existed = ::stat(target.c_str(), &before) == 0;
    if (existed && !S_ISREG(before.st_mode)) return Error{"cannot be written: this is no ordinary file"};
    bool same_owner = true;
    {
        const Descriptor file(::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644));
        if (file.get() < 0) return Error{fmt::format("cannot be written: {}", std::strerror(errno))};
        if (!written_whole(file.get(), text)) {
            const int reason = errno;
            std::remove(beside.c_str());
            return cannot_write(reason);
        }
        if (existed) {
            struct stat now {};
            (void)::fstat(file.get(), &now);
            const bool differs = now.st_uid != before.st_uid || now.st_gid != before.st_gid;
            same_owner = !differs || ::fchown(file.get(), before.st_uid, before.st_gid) == 0;
            (void)::fchmod(file.get(), before.st_mode & 07777);
        }
    }
    if (!same_owner) return write_in_place(target, text, beside);
    if (std::rename(beside.c_str(), target.c_str()) != 0) {
        const int reason = errno;
        std::remove(beside.c_str());
        return cannot_write(reason);
    }
    flush_folder_of(target);
    return true;
}

}  // namespace bevelsmith::job

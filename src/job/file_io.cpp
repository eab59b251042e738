#include "job/file_io.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <utility>

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
Result<bool> write_in_place(const std::string& path, const std::string& copy) {
    std::ifstream in(copy, std::ios::binary);
    const std::string text{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
    const Descriptor file(::open(path.c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC));
    if (file.get() < 0) return cannot_write(errno);
    if (!written_whole(file.get(), text)) return cannot_write(errno);
    return true;
}

constexpr std::string_view beside_end = ".part";
constexpr std::size_t letters = 6;

/// ".name." before the letters that nobody can guess.
std::string beside_start(const std::string& target) {
    return "." + std::filesystem::path(target).filename().string() + ".";
}

/// What a writing that was killed has left beside this file. One that is going on is younger.
void clear_leftovers(const std::string& target) {
    namespace fs = std::filesystem;
    constexpr std::chrono::minutes old(10);
    const std::string start = beside_start(target);
    const fs::path folder = fs::path(target).parent_path();
    std::error_code fault;
    for (const auto& entry : fs::directory_iterator(folder.empty() ? "." : folder, fault)) {
        const std::string name = entry.path().filename().string();
        const bool ours = name.size() == start.size() + letters + beside_end.size() && name.starts_with(start) &&
                          name.ends_with(beside_end);
        if (!ours || !fs::is_regular_file(fs::symlink_status(entry.path(), fault))) continue;
        const auto changed = fs::last_write_time(entry.path(), fault);
        if (!fault && fs::file_time_type::clock::now() - changed > old) fs::remove(entry.path(), fault);
    }
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
    if (std::filesystem::is_fifo(path, fault) || std::filesystem::is_socket(path, fault))
        return Error{"this is a pipe, not a file; write what comes out of it to a file first"};
    if (std::filesystem::is_character_file(path, fault) || std::filesystem::is_block_file(path, fault))
        return Error{"this is a device, not a file"};
    const Error too_large{
        fmt::format("the file is too large: {} are at most {} ({})", limit.name, limit.most, limit.why)};
    const auto size = std::filesystem::file_size(path, fault);
    if (!fault && size > limit.most) return too_large;
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{fmt::format("cannot be opened: {}", std::strerror(errno))};
    // A file may grow meanwhile, so the limit is kept while reading as well.
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

Result<BesideFile> BesideFile::make(const std::string& wanted) {
    const std::string target = true_path(wanted);
    struct stat before {};
    if (::stat(target.c_str(), &before) == 0 && !S_ISREG(before.st_mode))
        return Error{S_ISDIR(before.st_mode) ? "cannot be written: this is a folder; name a file in it"
                                             : "cannot be written: this is no ordinary file"};
    clear_leftovers(target);
    const auto folder = std::filesystem::path(target).parent_path();
    std::string path =
        (folder / (beside_start(target) + std::string(letters, 'X') + std::string(beside_end))).string();
    const Descriptor file(::mkostemps(path.data(), static_cast<int>(beside_end.size()), O_CLOEXEC));
    if (file.get() < 0) return Error{fmt::format("cannot be written: {}", std::strerror(errno))};
    return BesideFile(target, std::move(path));
}

BesideFile::BesideFile(BesideFile&& other) noexcept
    : target_(std::move(other.target_)), path_(std::exchange(other.path_, {})) {}

BesideFile::~BesideFile() {
    if (!path_.empty()) std::remove(path_.c_str());
}

Result<bool> BesideFile::put_in_place() {
    bool same_owner = true;
    struct stat before {};
    const bool existed = ::stat(target_.c_str(), &before) == 0;
    {
        const Descriptor file(::open(path_.c_str(), O_WRONLY | O_CLOEXEC | O_NOFOLLOW));
        if (file.get() < 0 || ::fsync(file.get()) != 0) return cannot_write(errno);
        struct stat now {};
        (void)::fstat(file.get(), &now);
        if (existed) {
            const bool differs = now.st_uid != before.st_uid || now.st_gid != before.st_gid;
            same_owner = !differs || ::fchown(file.get(), before.st_uid, before.st_gid) == 0;
        }
        // A file made under a secret name is its owner's alone; a new one is as others that one makes.
        const mode_t usual = ::umask(0);
        ::umask(usual);
        (void)::fchmod(file.get(), existed ? before.st_mode & 07777 : 0666 & ~usual);
    }
    if (!same_owner) return write_in_place(target_, path_);
    if (std::rename(path_.c_str(), target_.c_str()) != 0) return cannot_write(errno);
    path_.clear();
    flush_folder_of(target_);
    return true;
}

Result<bool> write_file_atomically(const std::string& path, std::string_view text) {
    auto beside = BesideFile::make(path);
    if (!beside) return beside.error();
    {
        const Descriptor file(::open(beside->path().c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC | O_NOFOLLOW));
        if (file.get() < 0) return Error{fmt::format("cannot be written: {}", std::strerror(errno))};
        if (!written_whole(file.get(), text)) return cannot_write(errno);
    }
    return beside.value().put_in_place();
}

}  // namespace bevelsmith::job

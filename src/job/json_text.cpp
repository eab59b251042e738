#include "job/json_text.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

namespace bevelsmith::job {
namespace {

constexpr std::uintmax_t largest_file = 256u << 20;

int line_at(std::string_view text, std::size_t byte) {
    return 1 + static_cast<int>(std::count(
                   text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size())), '\n'));
}

/// Walks valid JSON text to the byte where a pointer's value starts.
class Walker {
  public:
    explicit Walker(std::string_view text) : text_(text) {}

    std::size_t find(const nlohmann::json::json_pointer& pointer) {
        std::vector<std::string> tokens;
        for (auto p = pointer; !p.empty(); p = p.parent_pointer()) tokens.insert(tokens.begin(), p.back());
        skip_space();
        for (const auto& token : tokens)
            if (!descend(token)) break;
        return at_;
    }

  private:
    bool descend(const std::string& token) {
        const std::size_t start = at_;
        const bool object = text_[at_] == '{';
        if (!object && text_[at_] != '[') return false;
        ++at_;
        for (int index = 0;; ++index) {
            skip_space();
            if (text_[at_] == '}' || text_[at_] == ']') break;
            bool here = !object && std::to_string(index) == token;
            if (object) {
                const std::string key = string_here();
                skip_space();
                ++at_;  // colon
                skip_space();
                here = key == token;
            }
            if (here) return true;
            skip_value();
            skip_space();
            if (text_[at_] == ',') ++at_;
        }
        at_ = start;
        return false;
    }
    void skip_space() {
        while (at_ < text_.size() && std::strchr(" \t\r\n", text_[at_])) ++at_;
    }
    std::string string_here() {
        const std::size_t from = at_;
        skip_string();
        return nlohmann::json::parse(text_.substr(from, at_ - from)).get<std::string>();
    }
    void skip_string() {
        for (++at_; text_[at_] != '"'; ++at_)
            if (text_[at_] == '\\') ++at_;
        ++at_;
    }
    void skip_value() {
        int depth = 0;
        do {
            const char c = text_[at_];
            if (c == '"') {
                skip_string();
                continue;
            }
            if (c == '{' || c == '[') ++depth;
            if (c == '}' || c == ']') --depth;
            ++at_;
        } while (at_ < text_.size() && (depth > 0 || !std::strchr(",}] \t\r\n", text_[at_])));
    }

    std::string_view text_;
    std::size_t at_ = 0;
};

/// nlohmann's message without its own prefix and position.
std::string plain_reason(const std::string& what) {
    const auto colon = what.rfind("; ");
    std::string out = colon == std::string::npos ? what : what.substr(colon + 2);
    const auto detail = what.find("syntax error");
    if (detail != std::string::npos) out = what.substr(detail);
    for (char& c : out)
        if (c == '\n') c = ' ';
    return out;
}

bool too_deep(std::string_view text) {
    int depth = 0, deepest = 0;
    bool in_string = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (in_string) {
            if (c == '\\') ++i;
            if (c == '"') in_string = false;
            continue;
        }
        if (c == '"') in_string = true;
        if (c == '[' || c == '{') deepest = std::max(deepest, ++depth);
        if (c == ']' || c == '}') --depth;
    }
    return deepest > 200;
}

}  // namespace

Result<nlohmann::json> parse_json(std::string_view text) {
    if (too_deep(text)) return Error{"this is nested too deeply to be a job or a list of parts", 1};
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& e) {
        return Error{"not valid JSON: " + plain_reason(e.what()), line_at(text, e.byte > 0 ? e.byte - 1 : 0)};
    } catch (const nlohmann::json::exception& e) {
        return Error{"not valid JSON: " + plain_reason(e.what()), 1};
    }
}

int line_of(std::string_view text, const std::string& pointer) {
    return line_at(text, Walker(text).find(nlohmann::json::json_pointer(pointer)));
}

Result<std::string> read_file(const std::string& path) {
    std::error_code fault;
    if (std::filesystem::is_directory(path, fault)) return Error{"this is a folder, not a file"};
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{fmt::format("cannot be opened: {}", std::strerror(errno))};
    if (std::filesystem::file_size(path, fault) > largest_file && !fault)
        return Error{"the file is larger than 256 MB"};
    std::ostringstream text;
    text << in.rdbuf();
    if (in.bad()) return Error{"cannot be read to its end"};
    return text.str();
}

Result<bool> write_file_atomically(const std::string& path, std::string_view text) {
    const std::string beside = path + ".part";
    const int file = ::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (file < 0) return Error{fmt::format("cannot be written: {}", std::strerror(errno))};
    std::size_t done = 0;
    while (done < text.size()) {
        const ssize_t n = ::write(file, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        done += static_cast<std::size_t>(n);
    }
    const bool flushed = done == text.size() && ::fsync(file) == 0;
    const int reason = errno;
    ::close(file);
    if (!flushed || std::rename(beside.c_str(), path.c_str()) != 0) {
        const std::string why = std::strerror(flushed ? errno : reason);
        std::remove(beside.c_str());
        return Error{fmt::format("cannot be written: {}; the file before is untouched", why)};
    }
    return true;
}

}  // namespace bevelsmith::job

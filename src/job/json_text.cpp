#include "job/json_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstring>
#include <nlohmann/json.hpp>
#include <vector>

namespace bevelsmith::job {
namespace {

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

/// Where the text stops being JSON, and what stands there.
Error not_json(std::string_view text, std::size_t byte) {
    const std::size_t at = std::min(byte > 0 ? byte - 1 : 0, text.size());
    const std::size_t line_start = at == 0 ? 0 : text.rfind('\n', at - 1) + 1;  // npos + 1 is 0
    std::string here(text.substr(at, 20));
    here = here.substr(0, here.find('\n'));
    if (at >= text.size()) return {"not valid JSON: it ends too early; was it cut short?", line_at(text, at)};
    // Half a letter or a byte of something else is not shown.
    const bool plain = std::all_of(here.begin(), here.end(), [](unsigned char c) { return c >= 32 && c < 127; });
    return {fmt::format("not valid JSON at column {}{}; a comma, quote or bracket may be missing before it",
                        at - line_start + 1, plain && !here.empty() ? ", where '" + here + "' stands" : ""),
            line_at(text, at)};
}

/// Names in one object: each is compared with all before it, and nobody gives so many.
constexpr std::size_t most_names = 20'000;

/// Every character that stands outside of strings, until `take` says that it has seen enough.
template <class Take>
void outside_strings(std::string_view text, Take take) {
    bool in_string = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (in_string && c == '\\') ++i;
        else if (c == '"') in_string = !in_string;
        else if (!in_string && !take(i, c)) return;
    }
}

/// The line on which an object has its first name too many; 0 where none has.
int line_of_too_many_names(std::string_view text) {
    std::vector<std::size_t> names;
    int line = 0;
    outside_strings(text, [&](std::size_t i, char c) {
        if (c == '[' || c == '{') names.push_back(0);
        if ((c == ']' || c == '}') && !names.empty()) names.pop_back();
        if (c == ':' && !names.empty() && ++names.back() > most_names) line = line_at(text, i);
        return line == 0;
    });
    return line;
}

bool too_deep(std::string_view text) {
    constexpr int deepest = 200;
    int depth = 0;
    outside_strings(text, [&](std::size_t, char c) {
        if (c == '[' || c == '{') ++depth;
        if (c == ']' || c == '}') --depth;
        return depth <= deepest;
    });
    return depth > deepest;
}

}  // namespace

Result<nlohmann::json> parse_json(std::string_view text) {
    if (too_deep(text)) return Error{"this is nested too deeply to be a job or a list of parts", 1};
    if (const int line = line_of_too_many_names(text))
        return Error{fmt::format("an object with more than {} names is no job and no list of parts", most_names),
                     line};
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& e) {
        return not_json(text, e.byte);
    } catch (const nlohmann::json::out_of_range&) {
        return Error{"not valid JSON: a number is too large to be one", 1};
    }
}

int line_of(std::string_view text, const std::string& pointer) {
    return line_at(text, Walker(text).find(nlohmann::json::json_pointer(pointer)));
}

}  // namespace bevelsmith::job

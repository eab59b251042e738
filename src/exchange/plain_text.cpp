#include "exchange/plain_text.h"

#include <cctype>
#include <charconv>
#include <system_error>

namespace bevelsmith::exchange {
namespace {

bool is_control(char c) {
    return static_cast<unsigned char>(c) < 0x20 || c == 0x7f;
}

}  // namespace

std::string without_controls(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (is_control(c)) c = ' ';
    return out;
}

bool is_number(std::string_view cell, double& value) {
    if (cell.starts_with('+')) cell.remove_prefix(1);
    if (cell.empty()) return false;
    const auto read = std::from_chars(cell.data(), cell.data() + cell.size(), value);
    return read.ec == std::errc() && read.ptr == cell.data() + cell.size();
}

std::string csv_cell(std::string_view text) {
    double value = 0;
    std::string cell = without_controls(text);
    const bool acts = !text.empty() && (std::string_view("=+-@\t\r").find(text.front()) != std::string_view::npos);
    if (acts && !is_number(text, value)) cell.insert(0, 1, '\'');
    if (cell.find_first_of(",;\"'") == std::string::npos && text == cell) return cell;
    std::string out = "\"";
    for (char c : cell) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

std::string csv_line(const std::vector<std::string>& cells) {
    std::string out;
    for (std::size_t k = 0; k < cells.size(); ++k) out += (k ? "," : "") + csv_cell(cells[k]);
    return out + "\n";
}

std::string xml_escaped(std::string_view text) {
    std::string out;
    for (char c : without_controls(text)) {
        if (c == '&') out += "&amp;";
        else if (c == '<') out += "&lt;";
        else if (c == '>') out += "&gt;";
        else if (c == '"') out += "&quot;";
        else out += c;
    }
    return out;
}

std::string safe_file_name(std::string_view name) {
    constexpr std::size_t most_bytes = 80;
    std::string out;
    for (char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        const bool plain = byte >= 0x80 || std::isalnum(byte) || c == ' ' || c == '-' || c == '_' || c == '.';
        const char put = plain ? c : '-';
        if (out.empty() && (put == '.' || put == ' ' || put == '-')) continue;
        out += put;
    }
    if (out.size() > most_bytes) {
        out.resize(most_bytes);
        // Not in the middle of a letter.
        while (!out.empty() && (static_cast<unsigned char>(out.back()) & 0xc0) == 0x80) out.pop_back();
        if (!out.empty() && static_cast<unsigned char>(out.back()) >= 0xc0) out.pop_back();
    }
    while (!out.empty() && (out.back() == ' ' || out.back() == '.')) out.pop_back();
    return out.empty() ? "piece" : out;
}

}  // namespace bevelsmith::exchange

#include "survey/meter_line.h"

#include <fmt/format.h>

#include <charconv>
#include <cmath>
#include <vector>

#include "units/ranges.h"

namespace bevelsmith::survey {
namespace {

/// Of the protocol: a reading takes some sixty characters (docs/meter-protocol.md).
constexpr std::size_t longest_line = 400;

/// Sum of the characters before the check, modulo 256.
unsigned check_of(std::string_view text) {
    unsigned sum = 0;
    for (unsigned char c : text) sum = (sum + c) % 256;
    return sum;
}

std::string with_check(const std::string& text) {
    return fmt::format("{} #{:02x}\n", text, check_of(text));
}

std::optional<double> number_of(std::string_view text) {
    double value = 0;
    const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (status != std::errc{} || end != text.data() + text.size() || !std::isfinite(value)) return std::nullopt;
    return value;
}

std::vector<std::string_view> words_of(std::string_view text) {
    std::vector<std::string_view> out;
    while (!text.empty()) {
        const auto end = text.find(' ');
        if (end != 0) out.push_back(text.substr(0, end));
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    }
    return out;
}

}  // namespace

Result<MeterReading> read_meter_line(std::string_view line) {
    if (line.size() > longest_line) return Error{"the meter sent a line that is too long to be a reading"};
    while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.remove_suffix(1);
    const auto mark = line.rfind(" #");
    const Error damaged{"a line from the meter was damaged on the way"};
    if (mark == std::string_view::npos) return damaged;
    const std::string_view text = line.substr(0, mark);
    if (line.substr(mark + 2) != fmt::format("{:02x}", check_of(text))) return damaged;
    const auto words = words_of(text);
    if (!words.empty() && words[0] == "failed")
        return Error{"the meter could not measure" +
                     (words.size() > 1 ? ": " + std::string(text.substr(text.find(words[1]))) : std::string())};
    if (words.size() < 2 || words[0] != "range") return Error{"the meter sent something that is no range"};
    MeterReading out;
    for (std::size_t k = 0; k + 1 < words.size(); k += 2) {
        const auto value = number_of(words[k + 1]);
        if (!value) return Error{"the meter sent a number that is none"};
        if (words[k] == "range") out.range_mm = *value;
        else if (words[k] == "turn") out.turn_deg = *value;
        else if (words[k] == "rise") out.rise_deg = *value;
        else return Error{"the meter sent something that is no range"};
    }
    if (words.size() % 2 != 0) return Error{"the meter sent a number that is none"};
    if (!units::range::meter_range.holds(out.range_mm))
        return Error{fmt::format("the meter sent a range that cannot be: {}",
                                 units::out_of_range(units::range::meter_range, out.range_mm))};
    for (const auto& angle : {out.turn_deg, out.rise_deg})
        if (angle && !units::range::turn.holds(*angle))
            return Error{fmt::format("the meter sent an angle that cannot be: {}",
                                     units::out_of_range(units::range::turn, *angle))};
    return out;
}

std::string meter_line(const MeterReading& r) {
    std::string text = fmt::format("range {:.1f}", r.range_mm);
    if (r.turn_deg) text += fmt::format(" turn {:.3f}", *r.turn_deg);
    if (r.rise_deg) text += fmt::format(" rise {:.3f}", *r.rise_deg);
    return with_check(text);
}

std::string meter_refusal(std::string_view why) {
    return with_check("failed " + std::string(why));
}

std::optional<School> school_it_fits(const MeterReading& measured, School school) {
    const bool shot = measured.turn_deg && measured.rise_deg;
    if (shot) return school == School::laser_meter ? std::nullopt : std::optional(School::laser_meter);
    const bool of_lengths = school != School::scan && school != School::mirrored;
    return of_lengths ? std::nullopt : std::optional(School::ordinates);
}

}  // namespace bevelsmith::survey

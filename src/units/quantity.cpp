#include "units/quantity.h"

#include <fmt/format.h>

#include <array>
#include <charconv>
#include <cmath>
#include <numeric>
#include <regex>
#include <span>
#include <utility>

#include "units/length_expression.h"

namespace bevelsmith::units {
namespace {

std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

double factor_mm(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::centimetre: return 10.0;
        case LengthUnit::metre: return 1000.0;
        case LengthUnit::inch:
        case LengthUnit::inch_sixteenths:
        case LengthUnit::inch_thirty_seconds:
        case LengthUnit::feet_inches: return mm_per_inch;
        case LengthUnit::millimetre: break;
    }
    return 1.0;
}

int shown_decimals(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::centimetre: return 2;
        case LengthUnit::metre: return 4;
        case LengthUnit::inch: return 3;
        default: return 1;
    }
}

/// Feet, inches and a reduced fraction for a whole number of 1/`denominator` inch.
std::string feet_text(long long parts, long long denominator) {
    std::string out = parts < 0 ? "-" : "";
    parts = std::llabs(parts);
    const long long feet = parts / (12 * denominator);
    parts -= feet * 12 * denominator;
    const long long whole = parts / denominator;
    const long long top = parts % denominator;
    if (feet) out += fmt::format("{}' ", feet);
    if (top == 0) return out + fmt::format("{}\"", whole);
    const long long g = std::gcd(top, denominator);
    if (whole) out += fmt::format("{} ", whole);
    return out + fmt::format("{}/{}\"", top / g, denominator / g);
}

/// Inches and a reduced fraction: "32 3/16".
std::string fraction_text(long long parts, long long denominator) {
    const std::string sign = parts < 0 ? "-" : "";
    parts = std::llabs(parts);
    const long long whole = parts / denominator, top = parts % denominator, g = std::gcd(top, denominator);
    if (top == 0) return sign + fmt::format("{}", whole);
    return sign + (whole ? fmt::format("{} ", whole) : std::string()) +
           fmt::format("{}/{}", top / g, denominator / g);
}

long long fraction_of(LengthUnit unit) {
    return unit == LengthUnit::feet_inches ? 0 : marks_to_the_inch(unit);
}

/// The shortest decimal text of value/factor that reads back to exactly `value`. Division and
/// multiplication round, so the nearest neighbours of the quotient are tried as well.
std::string exact_number(double value, double factor) {
    const double q = value / factor;
    for (double candidate : {q, std::nextafter(q, HUGE_VAL), std::nextafter(q, -HUGE_VAL)})
        if (candidate * factor == value) {
            std::array<char, 400> text;
            const auto end =
                std::to_chars(text.data(), text.data() + text.size(), candidate, std::chars_format::fixed);
            return {text.data(), end.ptr};
        }
    return {};
}

std::string without_negative_zero(std::string text) {
    if (text.starts_with("-") && text.find_first_of("123456789") == std::string::npos) text.erase(0, 1);
    return text;
}

/// Digits with a point, whatever the locale.
double plain_number(const std::string& text) {
    double out = 0;
    std::from_chars(text.data(), text.data() + text.size(), out);
    return out;
}

struct NamedFactor {
    std::string_view name;
    double factor;
};

/// A signed number and one unit of `units`; the first entry is what a plain number means.
Result<double> parse_simple(std::string_view text, std::span<const NamedFactor> units, std::string_view what) {
    const std::string plain = normalise_typography(text);
    std::string_view rest = trimmed(plain);
    const bool negative = rest.starts_with('-');
    if (negative) rest.remove_prefix(1);
    if (rest.empty()) return Error{fmt::format("{} is missing", what)};
    const std::string_view all = rest;
    auto number = take_number(rest);
    if (!number) return Error{fmt::format("'{}' is not {}", all, what)};
    rest = trimmed(rest);
    for (const auto& [name, factor] : units)
        if (rest == name || (rest.empty() && &name == &units.front().name))
            return (negative ? -1 : 1) * *number * factor;
    if (rest.empty()) return (negative ? -1 : 1) * *number * units.front().factor;
    return Error{fmt::format("'{}' is not a unit of {}", rest, what)};
}

}  // namespace

namespace {

bool cut_end(std::string_view& text, std::string_view end) {
    if (!text.ends_with(end)) return false;
    text = trimmed(text.substr(0, text.size() - end.size()));
    return true;
}

/// +1 or -1 where the text ends in a way of the boat, which is cut off; 0 where it does not.
int take_way(std::string_view& text) {
    static constexpr std::pair<std::string_view, int> ways[] = {
        {"to starboard", -1}, {"starboard", -1}, {"stbd", -1}, {"to port", 1}, {"port", 1}, {"forward", 1},
        {"fwd", 1},           {"abaft", -1},     {"aft", -1},  {"up", 1},      {"down", -1}};
    for (const auto& [word, sign] : ways) {
        std::string_view before = text;
        if (!cut_end(before, word) || before.empty()) continue;
        text = before;
        return sign;
    }
    return 0;
}

/// A shade at the end of a figure, before its unit or without one, in inches; it is cut out of the text.
double take_shade(std::string& text, LengthUnit plain) {
    const int marks = marks_to_the_inch(plain);
    if (marks == 0) return 0;
    std::string_view figure = trimmed(text);
    std::string_view unit;
    for (const std::string_view name : {std::string_view("in"), std::string_view("\"")})
        if (std::string_view before = figure; unit.empty() && cut_end(before, name)) figure = before, unit = name;
    for (const auto& [mark, sign] : {std::pair<std::string_view, int>("+", 1), {"-", -1}}) {
        std::string_view before = figure;
        // A sign before a number is no shade of the one before it.
        const auto ends_figure = [&] {
            return before.back() == '"' || (before.back() >= '0' && before.back() <= '9');
        };
        if (!cut_end(before, mark) || before.empty() || !ends_figure()) continue;
        text = std::string(before) + " " + std::string(unit);
        return sign * shade_share / marks;
    }
    return 0;
}

}  // namespace

Result<double> parse_length_mm(std::string_view text, LengthUnit plain) {
    const std::string clean = normalise_typography(text);
    std::string_view rest = trimmed(clean);
    if (rest.empty()) return Error{"a length is missing"};
    const int way = take_way(rest);
    std::string figure(rest);
    const double shade_mm = take_shade(figure, plain) * mm_per_inch;
    const auto value = evaluate_length_mm(trimmed(figure), plain);
    if (!value) return value;
    const double shaded = *value + (*value < 0 ? -shade_mm : shade_mm);
    if (way != 0 && shaded < 0) return Error{"a minus and a way of the boat say it twice; leave one out"};
    return way < 0 ? -shaded : shaded;
}

Result<double> parse_mass_kg(std::string_view text, MassUnit plain) {
    const double own = plain == MassUnit::pound ? kg_per_pound : 1.0;
    const NamedFactor units[] = {{plain == MassUnit::pound ? "lb" : "kg", own},
                                 {"kg", 1.0},
                                 {"g", 0.001},
                                 {"t", 1000.0},
                                 {"lb", kg_per_pound},
                                 {"lbs", kg_per_pound},
                                 {"oz", kg_per_pound / 16}};
    return parse_simple(text, units, "a mass");
}

Result<double> parse_angle_rad(std::string_view text) {
    static constexpr NamedFactor units[] = {{"deg", pi / 180}, {"°", pi / 180}, {"degrees", pi / 180}, {"rad", 1.0}};
    return parse_simple(text, units, "an angle");
}

Result<double> parse_listed_mm(std::string_view text, LengthUnit plain, const std::vector<double>& shown_mm) {
    for (double mm : shown_mm)
        if (trimmed(text) == format_length_field(mm, plain)) return mm;
    return parse_length_mm(text, plain);
}

std::string_view symbol(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::centimetre: return "cm";
        case LengthUnit::metre: return "m";
        case LengthUnit::inch:
        case LengthUnit::inch_sixteenths:
        case LengthUnit::inch_thirty_seconds: return "in";
        case LengthUnit::feet_inches: return "ft in";
        case LengthUnit::millimetre: break;
    }
    return "mm";
}

std::string_view unit_name(LengthUnit unit) {
    if (unit == LengthUnit::inch_sixteenths) return "in 1/16";
    if (unit == LengthUnit::inch_thirty_seconds) return "in 1/32";
    return symbol(unit);
}

std::string format_length_number(double length_mm, LengthUnit unit) {
    if (const long long parts = fraction_of(unit))
        return fraction_text(std::llround(length_mm / mm_per_inch * static_cast<double>(parts)), parts);
    if (unit == LengthUnit::feet_inches) return feet_text(std::llround(length_mm / mm_per_inch * 32), 32);
    return without_negative_zero(fmt::format("{:.{}f}", length_mm / factor_mm(unit), shown_decimals(unit)));
}

std::string format_length(double length_mm, LengthUnit unit) {
    if (unit == LengthUnit::feet_inches) return format_length_number(length_mm, unit);
    return fmt::format("{} {}", format_length_number(length_mm, unit), symbol(unit));
}

int marks_to_the_inch(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::inch_sixteenths: return 16;
        case LengthUnit::inch_thirty_seconds:
        case LengthUnit::feet_inches: return 32;
        default: return 0;
    }
}

std::string format_place_field(double length_mm, Way way, LengthUnit unit) {
    static constexpr std::array<std::pair<const char*, const char*>, 4> words{
        {{"", ""}, {"", " aft"}, {" port", " stbd"}, {"", " down"}}};
    const auto& [on, back] = words[static_cast<std::size_t>(way)];
    if (way == Way::none || length_mm == 0) return format_length_field(length_mm, unit);
    return format_length_field(std::abs(length_mm), unit) + (length_mm < 0 ? back : on);
}

std::string format_length_field(double length_mm, LengthUnit unit) {
    if (const int marks = marks_to_the_inch(unit)) {
        // The nearest mark, and on which side of it the length lies; the exact value is asked for otherwise.
        const double at = std::abs(length_mm) / mm_per_inch * marks, off = at - std::round(at);
        constexpr double on_the_mark = 0.02;
        const std::string nearest = format_length_number(length_mm, unit);
        const std::string shade = std::abs(off) < on_the_mark ? "" : off > 0 ? "+" : "-";
        return nearest + shade + (unit == LengthUnit::feet_inches ? "" : " in");
    }
    const double enough_mm = std::max(1e-3, 1e-5 * std::abs(length_mm));
    const std::string usual = format_length(length_mm, unit);
    const auto back = parse_length_mm(usual, unit);
    if (back && std::abs(*back - length_mm) <= enough_mm) return usual;
    const std::string_view name = symbol(unit);
    for (int decimals = shown_decimals(unit); decimals < 8; ++decimals)
        if (const double shown =
                std::round(length_mm / factor_mm(unit) * std::pow(10, decimals)) / std::pow(10, decimals);
            std::abs(shown * factor_mm(unit) - length_mm) <= enough_mm)
            return fmt::format("{:.{}f} {}", length_mm / factor_mm(unit), decimals, name);
    return format_length_exact(length_mm, unit);
}

std::string format_length_exact(double length_mm, LengthUnit unit) {
    if (unit == LengthUnit::feet_inches) {
        const double parts = std::round(length_mm / mm_per_inch * 64);
        if (std::abs(parts) < 1e15 && parts / 64 * mm_per_inch == length_mm)
            return feet_text(static_cast<long long>(parts), 64);
    }
    if (fraction_of(unit)) {
        const double parts = std::round(length_mm / mm_per_inch * 64);
        if (std::abs(parts) < 1e15 && parts / 64 * mm_per_inch == length_mm)
            return fraction_text(static_cast<long long>(parts), 64) + " in";
    }
    const std::string number = exact_number(length_mm, factor_mm(unit));
    // Not every double of millimetres is a double of another unit times its factor: then millimetres say it.
    if (number.empty()) return exact_number(length_mm, 1.0) + " mm";
    return fmt::format("{} {}", number, unit == LengthUnit::feet_inches ? "in" : symbol(unit));
}

std::string in_unit(const std::string& text, LengthUnit unit) {
    if (unit == LengthUnit::millimetre) return text;
    // A list of numbers that share one "mm"; a sign or ± before a number stays where it is.
    static const std::regex lengths(
        R"((\d+(?:\.\d+)?)((?:(?: x | × | to |, | or | and | by )[±+-]?\d+(?:\.\d+)?)*) mm\b)");
    static const std::regex one(R"(\d+(?:\.\d+)?)");
    std::string out;
    auto rest = text.cbegin();
    for (std::sregex_iterator it(text.begin(), text.end(), lengths), end; it != end; ++it) {
        out.append(rest, text.cbegin() + it->position());
        const std::string numbers = (*it)[1].str() + (*it)[2].str();
        auto from = numbers.cbegin();
        for (std::sregex_iterator n(numbers.begin(), numbers.end(), one); n != end; ++n) {
            out.append(from, numbers.cbegin() + n->position());
            out += format_length_number(plain_number(n->str()), unit);
            from = numbers.cbegin() + n->position() + n->length();
        }
        if (unit != LengthUnit::feet_inches) out += fmt::format(" {}", symbol(unit));
        rest = text.cbegin() + it->position() + it->length();
    }
    out.append(rest, text.cend());
    return out;
}

std::string format_mass(double mass_kg, MassUnit unit) {
    if (unit == MassUnit::pound) return without_negative_zero(fmt::format("{:.1f}", mass_kg / kg_per_pound)) + " lb";
    return without_negative_zero(fmt::format("{:.2f}", mass_kg)) + " kg";
}

std::string format_mass_exact(double mass_kg, MassUnit unit) {
    const std::string number = exact_number(mass_kg, unit == MassUnit::pound ? kg_per_pound : 1.0);
    if (number.empty()) return exact_number(mass_kg, 1.0) + " kg";
    return number + (unit == MassUnit::pound ? " lb" : " kg");
}

std::string format_angle(double angle_rad) {
    const std::string text = without_negative_zero(fmt::format("{:.1f}", degrees(angle_rad)));
    return (text.starts_with('-') || text == "0.0" ? text : "+" + text) + "°";
}

std::string format_angle_exact(double angle_rad) {
    const std::string number = exact_number(angle_rad, pi / 180);
    return number.empty() ? exact_number(angle_rad, 1.0) + " rad" : number + "°";
}

}  // namespace bevelsmith::units

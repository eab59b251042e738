#include "units/length_expression.h"

#include <fmt/format.h>

#include <array>
#include <charconv>
#include <cmath>
#include <optional>
#include <utility>

namespace bevelsmith::units {
namespace {

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}
bool is_letter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
}

void skip_spaces(std::string_view& text) {
    while (!text.empty() && (text.front() == ' ' || text.front() == '\t')) text.remove_prefix(1);
}

/// Factors from a unit's spelling to millimetres. Feet and inches are kept apart, because they combine.
std::optional<double> unit_factor(std::string_view name) {
    static constexpr std::pair<std::string_view, double> table[] = {
        {"mm", 1.0},  {"cm", 10.0},  {"m", 1000.0},   {"in", 25.4},    {"inch", 25.4}, {"inches", 25.4},
        {"\"", 25.4}, {"ft", 304.8}, {"foot", 304.8}, {"feet", 304.8}, {"'", 304.8}};
    for (const auto& [spelling, factor] : table)
        if (spelling == name) return factor;
    return std::nullopt;
}

std::string_view take_unit_name(std::string_view& text) {
    if (!text.empty() && (text.front() == '\'' || text.front() == '"')) {
        auto name = text.substr(0, 1);
        text.remove_prefix(1);
        return name;
    }
    std::size_t n = 0;
    while (n < text.size() && is_letter(text[n])) ++n;
    auto name = text.substr(0, n);
    text.remove_prefix(n);
    return name;
}

/// A number that may be a length (after a unit was seen) or a pure number (so far).
struct Value {
    double number = 0;
    bool is_length = false;
};

class Parser {
  public:
    Parser(std::string_view text, LengthUnit plain) : rest_(text), plain_(plain) {}

    Result<double> run() {
        auto value = sum();
        if (!value) return value.error();
        skip_spaces(rest_);
        // A long word without a space would tear its panel wide.
        std::size_t told = 24;
        while (told < rest_.size() && (rest_[told] & 0xC0) == 0x80) ++told;
        if (rest_.size() > told) return Error{fmt::format("'{}…' is not understood here", rest_.substr(0, told))};
        if (!rest_.empty()) return Error{fmt::format("'{}' is not understood here", rest_)};
        const double mm = as_length(*value);
        if (!std::isfinite(mm)) return Error{"the result is not a finite length"};
        return mm;
    }

  private:
    double as_length(const Value& v) const { return v.is_length ? v.number : v.number * plain_factor(); }
    double plain_factor() const {
        switch (plain_) {
            case LengthUnit::millimetre: return 1.0;
            case LengthUnit::centimetre: return 10.0;
            case LengthUnit::metre: return 1000.0;
            default: return mm_per_inch;
        }
    }

    bool take(char c) {
        skip_spaces(rest_);
        if (rest_.empty() || rest_.front() != c) return false;
        rest_.remove_prefix(1);
        return true;
    }

    Result<Value> sum() {
        auto left = product();
        while (left) {
            const bool plus = take('+');
            if (!plus && !take('-')) break;
            auto right = product();
            if (!right) return right;
            const double sign = plus ? 1 : -1;
            // 32+3/16 in is 32 3/16 in, whatever a plain number means.
            if (plus && fraction_of_ && !left->is_length && left->number == std::floor(left->number))
                left = Value{left->number * *fraction_of_, true};
            if (left->is_length || right->is_length) left = Value{as_length(*left) + sign * as_length(*right), true};
            else left = Value{left->number + sign * right->number, false};
        }
        return left;
    }

    Result<Value> product() {
        auto left = factor();
        while (left) {
            const bool times = take('*');
            if (!times && !take('/')) break;
            auto right = factor();
            if (!right) return right;
            left = times ? multiplied(*left, *right) : divided(*left, *right);
        }
        return left;
    }

    static Result<Value> multiplied(const Value& a, const Value& b) {
        if (a.is_length && b.is_length) return Error{"a length times a length is an area, not a length"};
        return Value{a.number * b.number, a.is_length || b.is_length};
    }
    static Result<Value> divided(const Value& a, const Value& b) {
        if (b.number == 0) return Error{"division by zero"};
        if (b.is_length && !a.is_length) return Error{"a number divided by a length is not a length"};
        return Value{a.number / b.number, a.is_length && !b.is_length};
    }

    Result<Value> factor() {
        if (++depth_ > 64) return Error{"too many brackets or signs"};
        auto result = unnested_factor();
        --depth_;
        return result;
    }

    Result<Value> unnested_factor() {
        if (take('-')) {
            auto value = factor();
            if (!value) return value;
            return Value{-value->number, value->is_length};
        }
        if (take('+')) return factor();
        if (take('(')) {
            auto value = sum();
            if (value && !take(')')) return Error{"a closing bracket is missing"};
            return value;
        }
        return quantity();
    }

    /// number [n/d] [unit], with feet followed by inches joined into one length.
    Result<Value> quantity() {
        auto first = measured();
        if (!first || !last_was_feet_) return first;
        if (!rest_.empty() && rest_.front() == '-' && rest_.size() > 1 && is_digit(rest_[1]))
            return Error{
                "a dash between feet and inches can mean 'and' or 'minus'; write a space (2' 7\") "
                "or set the minus apart (2' - 7\")"};
        std::string_view saved = rest_;
        skip_spaces(rest_);
        if (rest_.empty() || !is_digit(rest_.front())) {
            rest_ = saved;
            return first;
        }
        auto inches = measured();
        if (!inches) return inches;
        if (last_factor_ && *last_factor_ != mm_per_inch) return Error{"feet are followed by inches only"};
        const double in = inches->is_length ? last_number_ : inches->number;
        return Value{(feet_ * 12.0 + in) * mm_per_inch, true};
    }

    Result<Value> measured() {
        last_was_feet_ = false;
        last_factor_.reset();
        fraction_of_.reset();
        const std::string_view start = rest_;
        auto number = mixed_number();
        if (!number) return number.error();
        const bool fraction = *number < 1 && start.substr(0, start.size() - rest_.size()).find('/') != start.npos;
        skip_spaces(rest_);
        const auto name = take_unit_name(rest_);
        last_number_ = *number;
        if (name.empty()) return Value{*number, false};
        last_factor_ = unit_factor(name);
        if (!last_factor_) return Error{fmt::format("'{}' is not a unit of length (mm, cm, m, in, ft)", name)};
        last_was_feet_ = *last_factor_ == 304.8;
        if (fraction) fraction_of_ = last_factor_;
        if (last_was_feet_) feet_ = *number;
        return Value{last_was_feet_ ? *number * 12.0 * mm_per_inch : *number * *last_factor_, true};
    }

    /// 7, 7.5, 3/16 or 7 3/16. A fraction needs whole numbers next to its bar, so that `18/3*2` still divides.
    Result<double> mixed_number() {
        skip_spaces(rest_);
        if (auto fraction = take_fraction(rest_)) return *fraction;
        const std::string_view start = rest_;
        auto number = take_number(rest_);
        if (!number) {
            if (start.empty()) return Error{"a number is missing"};
            return Error{fmt::format("'{}' is not a number", start)};
        }
        std::string_view look = rest_;
        skip_spaces(look);
        if (look.size() < rest_.size() && *number == std::floor(*number)) {
            if (auto fraction = take_fraction(look)) {
                rest_ = look;
                return *number + *fraction;
            }
        }
        return number;
    }

    static std::optional<double> take_fraction(std::string_view& text) {
        std::string_view look = text;
        int top = 0, bottom = 0;
        if (!take_integer(look, top) || look.empty() || look.front() != '/') return std::nullopt;
        look.remove_prefix(1);
        if (!take_integer(look, bottom) || bottom == 0) return std::nullopt;
        if (!look.empty() && (look.front() == '.' || look.front() == ',')) return std::nullopt;
        text = look;
        return static_cast<double>(top) / bottom;
    }

    static bool take_integer(std::string_view& text, int& value) {
        const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (status != std::errc{} || value < 0) return false;
        text.remove_prefix(static_cast<std::size_t>(end - text.data()));
        return true;
    }

    std::string_view rest_;
    LengthUnit plain_;
    int depth_ = 0;
    bool last_was_feet_ = false;
    double feet_ = 0;
    double last_number_ = 0;
    std::optional<double> last_factor_;
    std::optional<double> fraction_of_;  ///< the unit of the last quantity, where that was a fraction below one
};

}  // namespace

std::string normalise_typography(std::string_view text) {
    static constexpr std::pair<std::string_view, std::string_view> table[] = {
        {"″", "\""},   {"”", "\""},   {"“", "\""},   {"′", "'"},      {"’", "'"},    {"‘", "'"},
        {"−", "-"},    {"–", "-"},    {"×", "*"},    {"\u00a0", " "}, {"''", "\""},  {"½", " 1/2"},
        {"¼", " 1/4"}, {"¾", " 3/4"}, {"⅛", " 1/8"}, {"⅜", " 3/8"},   {"⅝", " 5/8"}, {"⅞", " 7/8"}};
    std::string out;
    while (!text.empty()) {
        bool replaced = false;
        for (const auto& [from, to] : table) {
            if (!text.starts_with(from)) continue;
            out += to;
            text.remove_prefix(from.size());
            replaced = true;
            break;
        }
        if (replaced) continue;
        out += text.front();
        text.remove_prefix(1);
    }
    return out;
}

Result<double> take_number(std::string_view& text) {
    std::size_t n = 0;
    bool comma = false, point = false;
    while (n < text.size() && (is_digit(text[n]) || text[n] == '.' || text[n] == ',')) {
        comma |= text[n] == ',';
        point |= text[n] == '.';
        ++n;
    }
    std::string digits(text.substr(0, n));
    if (comma) {
        const auto at = digits.find(',');
        if (point || digits.find(',', at + 1) != std::string::npos || digits.size() - at - 1 == 3)
            return Error{fmt::format("'{}' can be read in two ways; write a decimal point", digits)};
        digits[at] = '.';
    }
    double value = 0;
    const auto [end, status] =
        std::from_chars(digits.data(), digits.data() + digits.size(), value, std::chars_format::fixed);
    if (status != std::errc{} || end != digits.data() + digits.size())
        return Error{fmt::format("'{}' is not a number", text)};
    text.remove_prefix(n);
    return value;
}

Result<double> evaluate_length_mm(std::string_view text, LengthUnit plain) {
    return Parser(text, plain).run();
}

}  // namespace bevelsmith::units

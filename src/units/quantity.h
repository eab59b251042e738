// Lengths, masses and angles as people write them, and back.
//
// Inside the core a length is a double in millimetres, a mass in kilograms, an angle in radians.
// Factors: NIST SP 811 (1 in = 25.4 mm, 1 lb = 0.45359237 kg, both exact).
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "units/result.h"

namespace bevelsmith::units {

inline constexpr double mm_per_inch = 25.4;
inline constexpr double kg_per_pound = 0.45359237;
inline constexpr double pi = 3.14159265358979323846;

constexpr double radians(double degrees) {
    return degrees * pi / 180.0;
}
constexpr double degrees(double radians) {
    return radians * 180.0 / pi;
}

/// How lengths are shown, and what a plain number means when one is typed.
enum class LengthUnit { millimetre, centimetre, metre, inch, feet_inches, inch_sixteenths, inch_thirty_seconds };
inline constexpr int length_unit_count = 7;
/// Read off a rule in inches, whichever way they are shown.
constexpr bool in_inches(LengthUnit unit) {
    return unit >= LengthUnit::inch;
}
enum class MassUnit { kilogram, pound };

/// Reads a length, or arithmetic on lengths and plain numbers, into millimetres.
///
/// Understood: `792`, `32+3/16 in` (as 32 3/16 in), `792 mm`, `41cm`, `0.41 m`, `5/16 in`, `7 3/16"`, `2' 7 3/16"`,
/// `2 ft 7 in`, `-12`, `2*18+3`, `(1/2 in + 3) / 2`. A plain number is in `plain` (inches for feet_inches); a number
/// that multiplies or divides a length stays a number. A decimal comma is read as a point, unless it could be a
/// thousands separator. A dash glued between feet and inches (`2'-7"`) is refused, because it reads both as "and" and
/// as "minus".
/// At the end there may stand + or − (a shade more or less than the mark, where `plain` is a fraction of an inch),
/// and a way of the boat: port, fwd, up count on; stbd, starboard, aft, down count back: `30 1/4 stbd` is -30 1/4 in.
Result<double> parse_length_mm(std::string_view text, LengthUnit plain = LengthUnit::millimetre);

/// Reads `12`, `12 kg`, `350 g`, `26.5 lb`, `9 oz`, `2.4 t` into kilograms; a plain number is in `plain`.
Result<double> parse_mass_kg(std::string_view text, MassUnit plain = MassUnit::kilogram);

/// Reads `12`, `12 deg`, `12°`, `0.2 rad` into radians; a plain number is in degrees.
Result<double> parse_angle_rad(std::string_view text);

/// Shows a length for reading: rounded to what a rule or tape shows (1 decimal of mm, 2 of cm, 4 of m,
/// 3 of inch, 1/32 for feet and inches, 1/16 or 1/32 for inches in fractions), with its unit.
std::string format_length(double length_mm, LengthUnit unit);

/// Shows a length for a field: as format_length does, with more digits where these are needed to say it within a
/// thousandth of a millimetre; in fractions the nearest one, with + or − where the length is a shade more or less.
std::string format_length_field(double length_mm, LengthUnit unit);

/// Reads a length out of a list that was shown by format_length_field: a figure that stands there as it was shown
/// keeps its value to the last digit, however it was rounded for showing.
Result<double> parse_listed_mm(std::string_view text, LengthUnit plain, const std::vector<double>& shown_mm);

/// A place along the boat for a field: "30 1/4 in stbd", "120.0 mm port"; fwd and aft, up and down only where it is
/// not the usual way (forward, up).
enum class Way { none, fwd, port, up };
/// Of the boat's axes, in their order.
inline constexpr std::array boat_ways{Way::fwd, Way::port, Way::up};
std::string format_place_field(double length_mm, Way way, LengthUnit unit);

/// Parts of an inch that a unit shows; 0 where it shows decimals.
int marks_to_the_inch(LengthUnit unit);
/// What + and − stand for: this share of a mark (in the middle between a quarter and a half).
inline constexpr double shade_share = 0.375;

/// Shows a length so that parse_length_mm gives back the same double, bit for bit. Feet and inches use
/// fractions down to 1/64 where these are exact and decimal inches otherwise.
std::string format_length_exact(double length_mm, LengthUnit unit);

/// The number alone, rounded as format_length rounds it, without the unit (feet_inches keeps its marks).
std::string format_length_number(double length_mm, LengthUnit unit);

/// "mm", "cm", "m", "in", "ft in"; "in" for inches in fractions too.
std::string_view symbol(LengthUnit unit);

/// How the unit is called where one chooses it: "in 1/16".
std::string_view unit_name(LengthUnit unit);

/// Sentences with lengths in millimetres ("12.5 mm", "600 x 900 mm", "10, 50 or 100 mm"), told in `unit`.
std::string in_unit(const std::string& text, LengthUnit unit);

std::string format_mass(double mass_kg, MassUnit unit);
/// Round-trips exactly through parse_mass_kg.
std::string format_mass_exact(double mass_kg, MassUnit unit);
/// One decimal of a degree with a sign for bevels: "+4.2°".
std::string format_angle(double angle_rad);
std::string format_angle_exact(double angle_rad);

}  // namespace bevelsmith::units

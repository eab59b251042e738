#include "survey/instruments.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

#include "geometry/eigenpairs.h"
#include "units/quantity.h"

namespace bevelsmith::survey {
namespace {

using Kind = Column::Kind;
using Values = std::array<double, 6>;

struct SchoolFacts {
    std::string_view name, words;
    double sigma_mm, angle_sigma_deg;
};

/// Uncertainties: common practice, changeable set by set.
const SchoolFacts& facts(School school) {
    static const std::array<SchoolFacts, school_count> all{{
        {"ordinates from a line",
         "A straight batten, string or laser line. At marks along it you read the square distance to the "
         "hull.",
         1.5, 0.5},
        {"strip pattern",
         "Strips of thin board hot-glued in the plane of the piece until they nearly touch. Each point is read "
         "across "
         "and up in that plane.",
         1.0, 0.5},
        {"points in the boat", "Points measured straight in the boat's frame: forward, to port, up.", 1.5, 0.5},
        {"straight strip edges",
         "Straight edges of the pattern's strips, each by two points far apart. Corners come from extending one edge "
         "to the next.",
         1.0, 0.5},
        {"tick stick, two points",
         "A board stands in the plane; the stick's tip touches the hull. Trace its edge, note which mark stood where "
         "the trace begins. Type that point, a second point of the trace farther from the tip, and the mark's "
         "number.",
         1.5, 0.5},
        {"tick stick, angle",
         "As the tick stick, but with the direction in which the tip lies instead of a second point: degrees from "
         "across, turning up.",
         1.5, 0.4},
        {"distances from fixed points",
         "Two pins, nails or stand points whose places are known. Tape or laser from both to each point of the hull; "
         "a third distance shows a wrong one.",
         1.5, 0.5},
        {"compass scribe",
         "A rough blank stands near the hull; a compass held level carries the hull's shape onto it. Type points of "
         "the pencil's line and the direction in which the compass pointed.",
         1.0, 1.0},
        {"paper, card or photo", "The outline of a template of paper or card, across and up on its face.", 1.0, 0.5},
        {"laser meter",
         "Range from a stand point, with the turn to the left of where it first looks and the rise above level, in "
         "degrees.",
         2.0, 0.15},
        {"bevel gauge",
         "The angle between the panel's plane and the hull at a spot: 0 square, positive where the hull opens away "
         "towards face B. It tells the surface's direction, not its place.",
         3.0, 0.7},
        {"mirrored from the other side",
         "The readings of the boat's other side, mirrored. Sides differ by 5 to 30 mm and more, so take check "
         "readings on this side too.",
         8.0, 0.5},
        {"scan",
         "Points of a scanner in the boat's frame, taken over from a file: cropped, thinned, or only the slab near a "
         "piece's plane.",
         2.0, 0.5},
    }};
    return all[static_cast<std::size_t>(school)];
}

Vec3 in_space(const ReadingSet& set, const Vec2& p) {
    return set.origin + set.along * p.x() + set.toward * p.y();
}

Vec2 heading(double degrees) {
    return {std::cos(units::radians(degrees)), std::sin(units::radians(degrees))};
}

Result<double> stick_length(const ReadingSet& set, double mark) {
    const double nearest = std::round(mark);
    if (std::abs(mark - nearest) > 1e-6 || nearest < 1 || nearest > static_cast<double>(set.stick_marks_mm.size()))
        return Error{
            fmt::format("mark {:g} is not on the stick, which has marks 1 to {}", mark, set.stick_marks_mm.size())};
    return set.stick_marks_mm[static_cast<std::size_t>(nearest) - 1];
}

Result<Located> by_tick_stick(const ReadingSet& set, const Values& v) {
    const auto length = stick_length(set, v[4]);
    if (!length) return length.error();
    const Vec2 mark(v[0], v[1]), back(v[2], v[3]);
    const double base = (mark - back).norm();
    if (base < 20) return Error{"the two points of the stick's edge lie closer than 20 mm: take them farther apart"};
    // An error across either point turns the tip by the length beyond it over the base.
    const double lever = *length / base;
    return Located{in_space(set, mark + *length * (mark - back) / base),
                   set.sigma_mm * std::sqrt((1 + lever) * (1 + lever) + lever * lever), 0, 0, 1};
}

Result<Located> by_tick_angle(const ReadingSet& set, const Values& v) {
    const auto length = stick_length(set, v[3]);
    if (!length) return length.error();
    return Located{in_space(set, Vec2(v[0], v[1]) + *length * heading(v[2])),
                   std::hypot(set.sigma_mm, *length * units::radians(set.angle_sigma_deg)), 0, 0, 1};
}

/// Gauss-Newton from where the first two circles meet; with two distances that place is exact.
Result<Located> by_distances(const ReadingSet& set, const Values& v) {
    const auto& pins = set.fixed_points;
    if (pins.size() < 2) return Error{"two fixed points are needed: say where they stand"};
    const Vec2 between = pins[1] - pins[0];
    const double base = between.norm();
    if (base < 1) return Error{"the first two fixed points stand at one place"};
    if (v[0] <= 0 || v[1] <= 0) return Error{"distances are longer than nothing"};
    const double a = (v[0] * v[0] - v[1] * v[1] + base * base) / (2 * base), square = v[0] * v[0] - a * a;
    const double slack = 3 * set.sigma_mm;
    if (v[0] + v[1] < base - slack)
        return Error{fmt::format("{:g} and {:g} mm do not reach from pin to pin, which stand {:.0f} mm apart", v[0],
                                 v[1], base)};
    if (std::abs(v[0] - v[1]) > base + slack)
        return Error{
            fmt::format("{:g} and {:g} mm differ by more than the {:.0f} mm between the pins", v[0], v[1], base)};
    const Vec2 u = between / base, left(-u.y(), u.x());
    Vec2 p = pins[0] + a * u + (set.left_of_pins ? 1 : -1) * std::sqrt(std::max(square, 1e-6)) * left;
    Eigen::Matrix2d normal = Eigen::Matrix2d::Identity();
    double squares = 0;
    int used = 0;
    for (int round = 0; round < 20; ++round) {
        normal.setZero();
        Vec2 right = Vec2::Zero();
        squares = 0;
        used = 0;
        for (std::size_t k = 0; k < pins.size() && k < v.size(); ++k) {
            if (v[k] <= 0) continue;  // not taken
            const Vec2 way = p - pins[k];
            const double far = std::max(way.norm(), 1e-9), miss = v[k] - far;
            normal += way * way.transpose() / (far * far);
            right += way / far * miss;
            squares += miss * miss;
            ++used;
        }
        if (used < 3) break;
        const Vec2 step = (normal + 1e-12 * Eigen::Matrix2d::Identity()).inverse() * right;
        if (!step.allFinite()) break;
        p += step;
        if (step.norm() < 1e-9) break;
    }
    const double weakest = geometry::eigenpairs_of(normal).values[0];
    const double rms = std::sqrt(squares / used);
    if (used > 2 && rms > 10 * set.sigma_mm)
        return Error{fmt::format("the {} distances do not meet in one point: they miss it by {:.0f} mm", used, rms)};
    return Located{in_space(set, p), set.sigma_mm / std::sqrt(std::max(weakest, 0.01)), rms, 0, 1};
}

Result<Located> by_laser(const ReadingSet& set, const Values& v) {
    if (v[0] <= 0) return Error{"a range is longer than nothing"};
    const Vec3 up = set.along.cross(set.toward);
    const double rise = units::radians(v[2]);
    const Vec2 turn = heading(v[1]);
    const Vec3 way = std::cos(rise) * (turn.x() * set.along + turn.y() * set.toward) + std::sin(rise) * up;
    return Located{set.origin + v[0] * way, std::hypot(set.sigma_mm, v[0] * units::radians(set.angle_sigma_deg)), 0,
                   0, 1};
}

Result<Located> locate_once(const ReadingSet& set, const Values& v) {
    for (double x : v)
        if (!std::isfinite(x)) return Error{"a reading is a number"};
    switch (set.school) {
        case School::direct:
        case School::scan: return Located{Vec3(v[0], v[1], v[2]), set.sigma_mm, 0, 0, 1};
        case School::tick_stick: return by_tick_stick(set, v);
        case School::tick_stick_angle: return by_tick_angle(set, v);
        case School::fixed_points: return by_distances(set, v);
        case School::laser_meter: return by_laser(set, v);
        case School::strip_edges:
            return Located{in_space(set, Vec2(v[0] + v[2], v[1] + v[3]) / 2), set.sigma_mm, 0, 0, 1};
        case School::compass_scribe:
            return Located{in_space(set, Vec2(v[0], v[1]) + set.scribe_mm * heading(v[2])),
                           std::hypot(set.sigma_mm, set.scribe_mm * units::radians(set.angle_sigma_deg)), 0, 0, 1};
        case School::mirrored: return Error{"a mirrored set has no readings of its own"};
        default: return Located{in_space(set, Vec2(v[0], v[1])), set.sigma_mm, 0, 0, 1};
    }
}

/// Marks named on a pattern are of what stands inside: a divider, a beam.
std::optional<Vec3> middle_of_marks(const ReadingSet& set) {
    Vec3 sum = Vec3::Zero();
    int count = 0;
    for (const Reading& r : set.readings) {
        if (r.mark.empty() || r.disabled) continue;
        const auto at = locate_once(set, r.values);
        if (!at) continue;
        sum += at->position;
        ++count;
    }
    if (count == 0) return std::nullopt;
    return sum / count;
}

}  // namespace

std::vector<Column> columns_of(const ReadingSet& set) {
    switch (set.school) {
        case School::ordinates: return {{"along"}, {"distance"}};
        case School::strip_pattern:
        case School::traced: return {{"across"}, {"up"}};
        case School::direct:
        case School::scan:
            if (set.own_frame) return {{"x"}, {"y"}, {"z"}};
            return {{"fwd"}, {"port"}, {"up"}};
        case School::strip_edges: return {{"across"}, {"up"}, {"to"}, {"to up"}};
        case School::tick_stick: return {{"across"}, {"up"}, {"back"}, {"back up"}, {"mark", Kind::number}};
        case School::tick_stick_angle: return {{"across"}, {"up"}, {"towards", Kind::angle}, {"mark", Kind::number}};
        case School::compass_scribe: return {{"across"}, {"up"}, {"towards", Kind::angle}};
        case School::laser_meter: return {{"range"}, {"turn", Kind::angle}, {"rise", Kind::angle}};
        case School::bevel_gauge: return {{"across"}, {"up"}, {"bevel", Kind::angle}};
        case School::mirrored: return {};
        case School::fixed_points: break;
    }
    static constexpr std::array<std::string_view, 4> from{"from 1", "from 2", "from 3", "from 4"};
    std::vector<Column> out;
    for (std::size_t k = 0; k < std::clamp<std::size_t>(set.fixed_points.size(), 2, 4); ++k)
        out.push_back({from[k], Kind::length, k >= 2});
    return out;
}

std::optional<School> school_with_id(std::string_view id) {
    for (std::size_t k = 0; k < school_ids.size(); ++k)
        if (id == school_ids[k]) return static_cast<School>(k);
    return std::nullopt;
}

std::string_view school_name(School school) {
    return facts(school).name;
}
std::string_view school_words(School school) {
    return facts(school).words;
}
double default_sigma_mm(School school) {
    return facts(school).sigma_mm;
}
double default_angle_sigma_deg(School school) {
    return facts(school).angle_sigma_deg;
}

bool has_frame(School school) {
    return school != School::direct && school != School::scan && school != School::mirrored;
}

ReadingSet usual_set(School school) {
    ReadingSet out;
    out.school = school;
    out.sigma_mm = default_sigma_mm(school);
    out.angle_sigma_deg = default_angle_sigma_deg(school);
    const bool line = school == School::ordinates, laser = school == School::laser_meter;
    out.along = line ? Vec3::UnitZ() : laser ? Vec3::UnitX() : Vec3::UnitY();
    out.toward = line || laser ? Vec3::UnitY() : Vec3::UnitZ();
    if (school == School::tick_stick || school == School::tick_stick_angle)
        for (int mark = 1; mark <= 10; ++mark) out.stick_marks_mm.push_back(100.0 * mark);
    if (school == School::fixed_points) out.fixed_points = {{0, 0}, {600, 0}};
    if (school == School::compass_scribe) out.scribe_mm = 50;
    return out;
}

Result<Located> locate(const ReadingSet& set, const Reading& reading) {
    auto first = locate_once(set, reading.values);
    if (!first) return first;
    std::vector<Vec3> places{first->position};
    for (const Values& values : reading.again) {
        const auto more = locate_once(set, values);
        if (!more) return more;
        places.push_back(more->position);
    }
    Located out = *first;
    out.taken = static_cast<int>(places.size());
    out.position.setZero();
    for (const Vec3& p : places) out.position += p / out.taken;
    for (const Vec3& p : places) out.spread_mm = std::max(out.spread_mm, (p - out.position).norm());
    if (reading.sigma_mm) out.sigma_mm = *reading.sigma_mm;
    out.sigma_mm /= std::sqrt(out.taken);
    return out;
}

std::string reading_terms(const ReadingSet& set, const Reading& reading) {
    std::string out;
    const auto columns = columns_of(set);
    for (std::size_t k = 0; k < columns.size(); ++k) {
        const double value = reading.values[k];
        if (columns[k].optional && value == 0) continue;
        if (!out.empty()) out += ", ";
        if (columns[k].name == std::string_view("port")) {
            out += fmt::format("{:.6g} mm to {}", std::abs(std::round(value * 100) / 100),
                               value < 0 ? "starboard" : "port");
            continue;
        }
        out += columns[k].kind == Column::Kind::length
                   ? fmt::format("{} {:.6g} mm", columns[k].name, std::round(value * 100) / 100)
               : columns[k].kind == Column::Kind::angle ? fmt::format("{} {:.1f}°", columns[k].name, value)
                                                        : fmt::format("{} {:.0f}", columns[k].name, value);
    }
    return out;
}

Vec3 toward_instrument(const ReadingSet& set, const Reading& reading, const Vec3& position) {
    const auto& v = reading.values;
    std::optional<Vec3> stand = set.stood;
    switch (set.school) {
        case School::ordinates: stand = set.origin + set.along * set.along.dot(position - set.origin); break;
        case School::tick_stick: stand = in_space(set, Vec2(v[0] + v[2], v[1] + v[3]) / 2); break;
        case School::tick_stick_angle:
        case School::compass_scribe: stand = in_space(set, Vec2(v[0], v[1])); break;
        case School::fixed_points:
            if (set.fixed_points.size() >= 2) stand = in_space(set, (set.fixed_points[0] + set.fixed_points[1]) / 2);
            break;
        case School::laser_meter: stand = set.origin; break;
        default:
            if (!stand) stand = middle_of_marks(set);
    }
    if (!stand || (*stand - position).norm() < 1) return Vec3::Zero();
    return (*stand - position).normalized();
}

std::pair<Vec2, Vec2> edge_of(const Reading& r) {
    return {Vec2(r.values[0], r.values[1]), Vec2(r.values[2], r.values[3])};
}

std::vector<Vec2> corners_of(const ReadingSet& set) {
    std::vector<Vec2> out;
    for (std::size_t i = 0; i + 1 < set.readings.size(); ++i) {
        const auto [a, b] = edge_of(set.readings[i]);
        const auto [c, d] = edge_of(set.readings[i + 1]);
        const Vec2 u = b - a, w = d - c;
        const double cross = u.x() * w.y() - u.y() * w.x();
        if (std::abs(cross) < std::sin(units::radians(1)) * u.norm() * w.norm()) continue;
        const Vec2 off = c - a;
        out.push_back(a + u * (off.x() * w.y() - off.y() * w.x()) / cross);
    }
    return out;
}

}  // namespace bevelsmith::survey

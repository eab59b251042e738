#include "app/widgets/place_text.h"

#include <QStringList>

#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

constexpr units::Way boat_ways[] = {units::Way::fwd, units::Way::port, units::Way::up};

std::string shown(double mm, int axis, units::LengthUnit unit, PlaceIn frame) {
    return frame == PlaceIn::boat ? units::format_place_field(mm, boat_ways[axis], unit)
                                  : units::format_length_field(mm, unit);
}

}  // namespace

QString place_words(const Vec3& place, units::LengthUnit unit, PlaceIn frame) {
    QStringList numbers;
    for (int k = 0; k < 3; ++k) numbers << QString::fromStdString(shown(place[k], k, unit, frame));
    return numbers.join(", ");
}

Result<Vec3> place_in(const QString& text, units::LengthUnit unit, const std::vector<Vec3>& before, PlaceIn frame) {
    const QStringList numbers = text.split(',');
    if (numbers.size() != 3)
        return Error{frame == PlaceIn::boat ? "a place is: fwd, port, up" : "a place is three lengths, with commas"};
    Vec3 out;
    for (int k = 0; k < 3; ++k) {
        const std::string typed = numbers[k].trimmed().toStdString();
        auto one = units::parse_length_mm(typed, unit);
        for (const Vec3& was : before)
            if (shown(was[k], k, unit, frame) == typed) one = was[k];
        if (!one) return one.error();
        if (!units::range::place.holds(*one)) return Error{units::out_of_range(units::range::place, *one)};
        out[k] = *one;
    }
    return out;
}

}  // namespace bevelsmith::app

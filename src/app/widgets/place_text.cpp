#include "app/widgets/place_text.h"

#include <QRegularExpression>
#include <QStringList>

#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

std::string shown(double mm, int axis, units::LengthUnit unit, PlaceIn frame) {
    return frame == PlaceIn::boat ? units::format_place_field(mm, units::boat_ways[axis], unit)
                                  : units::format_length_field(mm, unit);
}

QStringList listed(const QString& text) {
    static const QRegularExpression between(";|,\\s");
    return text.split(between, Qt::SkipEmptyParts);
}

}  // namespace

QString place_words(const Vec3& place, units::LengthUnit unit, PlaceIn frame) {
    QStringList numbers;
    for (int k = 0; k < 3; ++k) numbers << QString::fromStdString(shown(place[k], k, unit, frame));
    return numbers.join(", ");
}

Result<Vec3> place_in(const QString& text, units::LengthUnit unit, const std::vector<Vec3>& before, PlaceIn frame) {
    QStringList numbers = listed(text);
    // Whole numbers without spaces can only be meant so.
    if (numbers.size() == 1) numbers = text.split(',');
    if (numbers.size() != 3)
        return Error{frame == PlaceIn::boat ? "a place is: fwd, port, up"
                                            : "a place is three lengths, with commas or semicolons between"};
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

QString lengths_words(const std::vector<double>& lengths_mm, units::LengthUnit unit) {
    QStringList out;
    for (double mm : lengths_mm) out << QString::fromStdString(units::format_length_field(mm, unit));
    return out.join("; ");
}

Result<std::vector<double>> lengths_in(const QString& text, units::LengthUnit unit,
                                       const std::vector<double>& before_mm) {
    std::vector<double> out;
    for (const QString& word : listed(text)) {
        const auto one = units::parse_listed_mm(word.trimmed().toStdString(), unit, before_mm);
        if (!one) return one.error();
        if (!units::range::place.holds(*one)) return Error{units::out_of_range(units::range::place, *one)};
        out.push_back(*one);
    }
    return out;
}

}  // namespace bevelsmith::app

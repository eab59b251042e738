#include "app/measure/reading_number.h"

#include <fmt/format.h>

#include <QRegularExpression>
#include <QStringList>
#include <cmath>

#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

using Kind = survey::Column::Kind;

QString word(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<int>(text.size()));
}

/// Nine significant figures, no trailing zeros.
QString plain(double value) {
    return QString::number(value, 'g', 9);
}

QStringList cells_of(const QString& line) {
    for (const char* between : {"\t", ";"})
        if (line.contains(between)) return line.split(between);
    if (line.contains(',') && !line.contains(QRegularExpression("\\s\\S"))) return line.split(',');
    if (line.contains(", ")) return line.split(QRegularExpression(",\\s+"));
    return line.split(QRegularExpression("\\s+"), Qt::SkipEmptyParts);
}

}  // namespace

Result<double> parse_number(const survey::Column& column, const QString& text, units::LengthUnit unit) {
    if (column.optional && text.trimmed().isEmpty()) return 0.0;
    const std::string typed = text.toStdString();
    if (column.kind == Kind::angle) {
        const auto angle = units::parse_angle_rad(typed);
        if (!angle) return angle.error();
        // Back and forth over radians must not change what was typed.
        bool plain_number = false;
        const double degrees = text.trimmed().toDouble(&plain_number);
        return plain_number ? degrees : units::degrees(*angle);
    }
    if (column.kind == Kind::number) {
        bool fine = false;
        const int count = text.trimmed().toInt(&fine);
        if (!fine || count < 1) return Error{fmt::format("'{}' is a number such as 3", column.name)};
        return static_cast<double>(count);
    }
    auto mm = units::parse_length_mm(typed, unit);
    if (mm && !units::range::place.holds(*mm)) return Error{units::out_of_range(units::range::place, *mm)};
    return mm;
}

QString shown_number(const survey::Column& column, double value, units::LengthUnit unit, bool narrow) {
    if (column.optional && value == 0) return "–";
    if (column.kind == Kind::angle) return QString::number(value, 'f', 1) + "°";
    if (column.kind == Kind::number) return plain(value);
    const QString full = QString::fromStdString(units::format_length_number(value, unit));
    return narrow && full.endsWith(".0") ? full.chopped(2) : full;
}

QString exact_number(const survey::Column& column, double value, units::LengthUnit unit) {
    if (column.optional && value == 0) return {};
    if (column.kind != Kind::length) return plain(value);
    return QString::fromStdString(units::format_length_exact(value, unit));
}

QString column_heading(const survey::Column& column, units::LengthUnit unit, bool narrow) {
    QString name = word(column.name);
    if (narrow) name.replace(' ', '\n');
    if (column.kind == Kind::number) return name;
    const QString symbol = column.kind == Kind::angle ? QString("°") : word(units::symbol(unit));
    return name + (narrow ? "\n" : ", ") + symbol;
}

Result<std::vector<survey::Reading>> readings_from_text(const survey::ReadingSet& set, const QString& text,
                                                        units::LengthUnit unit) {
    const auto columns = survey::columns_of(set);
    std::vector<survey::Reading> out;
    int row = 0;
    for (const QString& line : text.split('\n')) {
        ++row;
        if (line.trimmed().isEmpty() || line.trimmed().startsWith('#')) continue;
        const QStringList cells = cells_of(line.trimmed());
        if (row == 1 && !cells.front().contains(QRegularExpression("[0-9]"))) continue;
        if (cells.size() < static_cast<int>(columns.size()) &&
            !columns[static_cast<std::size_t>(cells.size())].optional)
            return Error{
                fmt::format("row {}: {} numbers, but a reading here has {}", row, cells.size(), columns.size())};
        survey::Reading reading;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            const auto value = parse_number(columns[k], cells.value(static_cast<int>(k)).trimmed(), unit);
            if (!value) return Error{fmt::format("row {}, {}: {}", row, columns[k].name, value.error().message)};
            reading.values[k] = *value;
        }
        if (cells.size() > static_cast<int>(columns.size()))
            reading.note = cells.value(static_cast<int>(columns.size())).trimmed().toStdString();
        if (const auto at = survey::locate(set, reading); !at)
            return Error{fmt::format("row {}: {}", row, at.error().message)};
        out.push_back(reading);
    }
    if (out.empty()) return Error{"there are no readings in what was copied"};
    return out;
}

}  // namespace bevelsmith::app

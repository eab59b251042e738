#include "app/widgets/quantity_edit.h"

#include <fmt/format.h>

#include <QKeyEvent>
#include <QStyle>
#include <limits>

namespace bevelsmith::app {

QuantityEdit::QuantityEdit(Parse parse, Format format, QWidget* parent)
    : QLineEdit(parent),
      parse_(std::move(parse)),
      format_(std::move(format)),
      least_(-std::numeric_limits<double>::infinity()),
      most_(std::numeric_limits<double>::infinity()) {
    setText(QString::fromStdString(format_(0)));
    connect(this, &QLineEdit::textEdited, this, [this] { mark({}); });
}

void show_text(QLineEdit& edit, const QString& text) {
    if (edit.text() == text) return;
    const bool whole = edit.hasFocus() && !edit.text().isEmpty() && edit.selectedText() == edit.text();
    edit.setText(text);
    if (whole) edit.selectAll();
}

void QuantityEdit::set_range(double least, double most) {
    least_ = least;
    most_ = most;
}

void QuantityEdit::set_value(double value) {
    value_ = value;
    // What a person is typing is not overwritten by a recomputation.
    if (hasFocus() && (isModified() || wrong_)) return;
    show_text(*this, QString::fromStdString(format_(value)));
    setModified(false);
    mark({});
}

Result<double> QuantityEdit::typed() {
    auto value = isModified() || wrong_ ? parse_(text().toStdString()) : Result<double>(value_);
    if (value && (*value < least_ || *value > most_)) {
        if (*value < least_) value = Error{"at least " + format_(least_)};
        else value = Error{"at most " + format_(most_)};
    }
    mark(value ? QString() : QString::fromStdString(value.error().message));
    return value;
}

void QuantityEdit::ask() {
    asking_ = true;
    forget_typed();
}

void QuantityEdit::forget_typed() {
    setModified(false);
    mark({});
    show_text(*this, asking_ ? QString() : QString::fromStdString(format_(value_)));
}

void QuantityEdit::take() {
    if (!isModified() && !wrong_) return;
    const auto value = typed();
    if (!value) return;
    setModified(false);
    asking_ = false;
    const bool differs = *value != value_;
    value_ = *value;
    show_text(*this, QString::fromStdString(format_(value_)));
    if (differs) emit taken(value_);
}

void QuantityEdit::mark(const QString& fault) {
    const bool wrong = !fault.isEmpty();
    setToolTip(wrong || !exact_ ? fault : QString::fromStdString(exact_(value_)));
    emit fault_changed(fault);
    if (wrong == wrong_) return;
    wrong_ = wrong;
    setProperty("wrong", wrong);
    style()->unpolish(this);
    style()->polish(this);
}

void QuantityEdit::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) take();
    if (event->key() == Qt::Key_Escape) {
        if (!isModified() && !wrong_) return event->ignore();
        forget_typed();
        return;
    }
    QLineEdit::keyPressEvent(event);
}

void QuantityEdit::focusOutEvent(QFocusEvent* event) {
    take();
    QLineEdit::focusOutEvent(event);
}

namespace {

/// "exactly 32.7087 in, 830.8 mm" where a field shows the nearest fraction.
std::string exact_length(double mm, units::LengthUnit unit) {
    if (units::marks_to_the_inch(unit) == 0) return {};
    return fmt::format("exactly {:.4f} in, {:.2f} mm", mm / units::mm_per_inch, mm);
}

}  // namespace

QuantityEdit* place_edit(std::function<units::LengthUnit()> unit, units::Way way, QWidget* parent) {
    auto* out =
        new QuantityEdit([unit](std::string_view text) { return units::parse_length_mm(text, unit()); },
                         [unit, way](double mm) { return units::format_place_field(mm, way, unit()); }, parent);
    out->set_exact([unit](double mm) { return exact_length(mm, unit()); });
    return out;
}

QuantityEdit* length_edit(std::function<units::LengthUnit()> unit, QWidget* parent) {
    return place_edit(std::move(unit), units::Way::none, parent);
}

QuantityEdit* mass_edit(std::function<units::LengthUnit()> unit, QWidget* parent) {
    const auto own = [unit] { return units::in_inches(unit()) ? units::MassUnit::pound : units::MassUnit::kilogram; };
    return new QuantityEdit([own](std::string_view text) { return units::parse_mass_kg(text, own()); },
                            [own](double kg) {
                                return own() == units::MassUnit::pound
                                           ? fmt::format("{:.6g} lb", kg / units::kg_per_pound)
                                           : fmt::format("{:.6g} kg", kg);
                            },
                            parent);
}

QuantityEdit* degree_edit(QWidget* parent) {
    return new QuantityEdit(
        [](std::string_view text) -> Result<double> {
            auto angle = units::parse_angle_rad(text);
            return angle ? Result<double>(units::degrees(*angle)) : angle;
        },
        [](double degrees) { return fmt::format("{:.6g}°", degrees); }, parent);
}

QuantityEdit* number_edit(const QString& unit, QWidget* parent) {
    const std::string name = unit.toStdString();
    return new QuantityEdit(
        [name](std::string_view text) -> Result<double> {
            QString digits = QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())).trimmed();
            if (!name.empty() && digits.endsWith(QString::fromStdString(name)))
                digits.chop(static_cast<qsizetype>(QString::fromStdString(name).size()));
            bool ok = false;
            const double value = digits.trimmed().replace(',', '.').toDouble(&ok);
            if (!ok) return Error{fmt::format("'{}' is not a number", text)};
            return value;
        },
        [name](double value) {
            return name.empty() ? fmt::format("{:.6g}", value) : fmt::format("{:.6g} {}", value, name);
        },
        parent);
}

}  // namespace bevelsmith::app

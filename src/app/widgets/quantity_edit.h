// Fields for lengths, masses and angles: any unit, arithmetic, and a wrong entry stays where it is and says why.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <functional>

#include "units/quantity.h"
#include "units/result.h"

namespace bevelsmith::app {

/// Text in, one double out. `taken` is emitted when a valid entry that changes the value is confirmed (Enter or
/// leaving the field). Escape gives back the last value.
class QuantityEdit : public QLineEdit {
    Q_OBJECT
  public:
    using Parse = std::function<Result<double>(std::string_view)>;
    using Format = std::function<std::string(double)>;
    QuantityEdit(Parse parse, Format format, QWidget* parent = nullptr);

    /// The value in full, said when one points at the field; nothing where it shows all there is.
    void set_exact(Format exact) { exact_ = std::move(exact); }
    /// Allowed range, said in words when an entry is outside of it.
    void set_range(double least, double most);
    void set_value(double value);
    double value() const { return value_; }
    bool wrong() const { return wrong_; }
    /// The value as it stands where nothing was typed, however it is rounded for showing. Parses what is typed now;
    /// marks the field and fails when it is no value.
    Result<double> typed();
    /// Shows nothing until somebody types: where taking what stood there before for an answer would be a mistake.
    void ask();
    bool asks() const { return text().isEmpty(); }
    /// As if nothing had been typed.
    void forget_typed();

  signals:
    void taken(double value);
    /// Empty when the entry is right again.
    void fault_changed(const QString& fault);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void take();
    void mark(const QString& fault);

    Parse parse_;
    Format format_, exact_;
    double value_ = 0, least_, most_;
    bool wrong_ = false;
    bool asking_ = false;  ///< nothing was typed since `ask`
};

/// Puts a text into a field. One that was offered selected stays selected: what is typed next replaces it.
void show_text(QLineEdit& edit, const QString& text);

/// A length shown and typed in `unit()`, which may change while it is shown.
QuantityEdit* length_edit(std::function<units::LengthUnit()> unit, QWidget* parent = nullptr);
/// The same of a place along the boat: "30 1/4 in stbd", never a minus to port.
QuantityEdit* place_edit(std::function<units::LengthUnit()> unit, units::Way way, QWidget* parent = nullptr);
/// In kilograms, or in pounds where lengths are in inches or feet.
QuantityEdit* mass_edit(std::function<units::LengthUnit()> unit, QWidget* parent = nullptr);
/// The value is in degrees.
QuantityEdit* degree_edit(QWidget* parent = nullptr);
/// A plain number with `unit` written behind it ("m", "t·m/cm").
QuantityEdit* number_edit(const QString& unit, QWidget* parent = nullptr);

}  // namespace bevelsmith::app

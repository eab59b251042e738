// A form described by values: the same description refreshes it in place, another one builds it anew.
#pragma once

#include <QLabel>
#include <QVBoxLayout>
#include <QVariant>
#include <QWidget>
#include <functional>
#include <limits>
#include <vector>

#include "units/quantity.h"

namespace bevelsmith::app {

class QuantityEdit;

/// One row. `set` is called with the confirmed new value: double for quantities (mm, degrees, kg), QString for
/// text, int for a choice, bool for a toggle, nothing for a button.
struct FormField {
    enum class Kind { length, degrees, mass, number, text, choice, toggle, button, heading };
    Kind kind = Kind::length;
    QString label;
    QVariant value;
    std::function<void(const QVariant&)> set;
    QStringList choices;  ///< choice
    QString unit;         ///< number
    double least = -std::numeric_limits<double>::infinity(), most = std::numeric_limits<double>::infinity();
};

class Form : public QWidget {
    Q_OBJECT
  public:
    Form(std::function<units::LengthUnit()> unit, QWidget* parent = nullptr);
    void show_fields(std::vector<FormField> fields);
    /// The widget that edits the field with this label, for tests and focus; null when there is none.
    QWidget* editor(const QString& label) const;

  private:
    struct Row {
        QWidget* editor = nullptr;
    };
    bool same_shape(const std::vector<FormField>& other) const;
    void build();
    Row make_row(std::size_t index);
    QWidget* make_choice(std::size_t index);
    QWidget* make_text(std::size_t index);
    QWidget* make_quantity(std::size_t index);
    void add_fault_line(QuantityEdit* edit);
    void show_value(std::size_t index);
    void send(std::size_t index, const QVariant& value);

    std::function<units::LengthUnit()> unit_;
    std::vector<FormField> fields_;
    std::vector<Row> rows_;
    QVBoxLayout* column_;
    bool showing_ = false;
};

}  // namespace bevelsmith::app

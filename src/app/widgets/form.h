// A form described by values: the same description refreshes it in place, another one builds it anew.
#pragma once

#include <QLabel>
#include <QVBoxLayout>
#include <QVariant>
#include <QWidget>
#include <functional>
#include <limits>
#include <optional>
#include <vector>

#include "app/widgets/fault_line.h"
#include "units/quantity.h"
#include "units/ranges.h"

class QLineEdit;

namespace bevelsmith::app {

class QuantityEdit;

/// One row. `set` is called with the confirmed new value: double for quantities (mm, degrees, kg), QString for
/// text, int for a choice or what is picked from a menu, bool for a toggle, nothing for a button. What acts at once
/// is a menu, never a choice: an arrow key changes a choice.
struct FormField {
    enum class Kind { length, degrees, mass, number, text, choice, toggle, button, menu, heading };
    Kind kind = Kind::length;
    QString label;
    QVariant value;
    std::function<void(const QVariant&)> set;
    QStringList choices;  ///< choice, menu
    QString unit;         ///< number
    double least = -std::numeric_limits<double>::infinity(), most = std::numeric_limits<double>::infinity();
    units::Way way = units::Way::none;  ///< of a length: a place along the boat, told by its way
    /// text: what is wrong with an entry, empty when nothing is. A wrong one stays in the field and is not sent.
    std::function<QString(const QString&)> check{};
};

/// Builds a description, row by row.
class FieldList {
  public:
    using Set = std::function<void(const QVariant&)>;
    FieldList& heading(const QString& text) { return add({FormField::Kind::heading, text, {}, {}, {}, {}}); }
    FieldList& length(const QString& label, double mm, Set set, double least = units::range::place.least,
                      double most = units::range::place.most) {
        return add({FormField::Kind::length, label, mm, std::move(set), {}, {}, least, most});
    }
    /// A place along the boat: "30 1/4 in stbd".
    FieldList& place(const QString& label, double mm, units::Way way, Set set) {
        length(label, mm, std::move(set));
        fields_.back().way = way;
        return *this;
    }
    FieldList& degrees(const QString& label, double value, Set set, double least = -360, double most = 360) {
        return add({FormField::Kind::degrees, label, value, std::move(set), {}, {}, least, most});
    }
    FieldList& mass(const QString& label, double kg, Set set) {
        return add({FormField::Kind::mass, label, kg, std::move(set), {}, {}, 0, units::range::mass.most});
    }
    FieldList& number(const QString& label, const QString& unit, double value, Set set, double least, double most) {
        return add({FormField::Kind::number, label, value, std::move(set), {}, unit, least, most});
    }
    FieldList& text(const QString& label, const std::string& value, Set set,
                    std::function<QString(const QString&)> check = {}) {
        FormField field{FormField::Kind::text, label, QString::fromStdString(value), std::move(set), {}, {}};
        field.check = std::move(check);
        return add(std::move(field));
    }
    FieldList& choice(const QString& label, int now, const QStringList& words, Set set) {
        return add({FormField::Kind::choice, label, now, std::move(set), words, {}});
    }
    FieldList& toggle(const QString& label, bool on, Set set) {
        return add({FormField::Kind::toggle, label, on, std::move(set), {}, {}});
    }
    FieldList& button(const QString& label, const std::function<void()>& act) {
        return add({FormField::Kind::button, label, {}, [act](const QVariant&) { act(); }, {}, {}});
    }
    FieldList& menu(const QString& label, const QStringList& words, Set set) {
        return add({FormField::Kind::menu, label, {}, std::move(set), words, {}});
    }
    std::vector<FormField> take() { return std::move(fields_); }

  private:
    FieldList& add(FormField field) {
        fields_.push_back(std::move(field));
        return *this;
    }
    std::vector<FormField> fields_;
};

class Form : public QWidget {
    Q_OBJECT
  public:
    Form(std::function<units::LengthUnit()> unit, QWidget* parent = nullptr);
    /// `subject` is what the fields are about (a piece's id). When it becomes another, what is typed and not
    /// confirmed yet goes where it was meant.
    void show_fields(std::vector<FormField> fields, const QString& subject = {});
    /// The widget that edits the field with this label, for tests and focus; null when there is none.
    QWidget* editor(const QString& label) const;

    /// False, and the keys go there, where a field holds an entry that is wrong: what was typed is not passed over.
    bool settled();

  private:
    QWidget* first_wrong() const;
    /// What stands for one field. It outlives every description in which there is such a field.
    struct Row {
        QWidget* editor = nullptr;
        QWidget* line = nullptr;  ///< the row, with label and fault
        FaultLine* fault = nullptr;
    };
    /// Widgets of the description before are taken where they fit.
    void build(const std::vector<FormField>& before);
    Row make_row(const FormField& field);
    QWidget* make_choice(const FormField& field);
    QWidget* make_quantity(const FormField& field);
    Row labelled(const FormField& field, QWidget* editor, bool with_fault);
    void take_text(QLineEdit* edit);
    /// What is typed and not confirmed, as calls that send it; the fields are as if it had not been typed.
    std::vector<std::function<void()>> take_typed();
    void show_value(std::size_t index);
    /// Where a widget's field is now; none for one that is on its way out.
    std::optional<std::size_t> index_of(const QWidget* editor) const;
    void send(const QWidget* editor, const QVariant& value);

    std::function<units::LengthUnit()> unit_;
    std::vector<FormField> fields_;
    std::vector<Row> rows_;
    QVBoxLayout* column_;
    bool showing_ = false;
    QString subject_;  ///< what the fields are about
};

}  // namespace bevelsmith::app

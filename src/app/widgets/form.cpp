#include "app/widgets/form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>

#include "app/look/theme.h"
#include "app/widgets/quantity_edit.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;

bool is_quantity(Kind kind) {
    return kind == Kind::length || kind == Kind::degrees || kind == Kind::mass || kind == Kind::number;
}

}  // namespace

Form::Form(std::function<units::LengthUnit()> unit, QWidget* parent) : QWidget(parent), unit_(std::move(unit)) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(5);
}

bool Form::same_shape(const std::vector<FormField>& other) const {
    if (other.size() != fields_.size()) return false;
    for (std::size_t i = 0; i < other.size(); ++i)
        if (other[i].kind != fields_[i].kind || other[i].way != fields_[i].way ||
            other[i].label != fields_[i].label || other[i].choices != fields_[i].choices)
            return false;
    return true;
}

void Form::show_fields(std::vector<FormField> fields) {
    const bool same = same_shape(fields);
    // A person who is in a field stays in it when the form grows or shrinks around it.
    QString focused;
    std::optional<QString> typing;
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].editor->hasFocus()) {
            focused = fields_[i].label;
            if (auto* edit = qobject_cast<QLineEdit*>(rows_[i].editor); edit && edit->isModified())
                typing = edit->text();
        }
    // While rows come and go the focus wanders from one to the next; what they report then is not a person's doing.
    showing_ = true;
    fields_ = std::move(fields);
    if (!same) build();
    if (!same && !focused.isEmpty())
        if (QWidget* again = editor(focused)) {
            again->setFocus(Qt::OtherFocusReason);
            auto* edit = qobject_cast<QLineEdit*>(again);
            // What was being typed is not lost because the form changed around it.
            if (edit && typing) edit->setText(*typing), edit->setModified(true);
        }
    for (std::size_t i = 0; i < fields_.size(); ++i) show_value(i);
    showing_ = false;
}

QWidget* Form::first_wrong() const {
    for (const Row& row : rows_)
        if (row.editor->property("wrong").toBool()) return row.editor;
    return nullptr;
}

bool Form::settled() {
    if (QWidget* wrong = first_wrong()) {
        wrong->setFocus(Qt::OtherFocusReason);
        return false;
    }
    return true;
}

QWidget* Form::editor(const QString& label) const {
    for (std::size_t i = 0; i < fields_.size(); ++i)
        if (fields_[i].label == label) return rows_[i].editor;
    return nullptr;
}

void Form::build() {
    const auto old = findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly);
    for (QWidget* w : old) {
        // A field may be rebuilt from its own signal, so it must outlive this call.
        w->hide();
        w->setParent(nullptr);
        w->deleteLater();
    }
    while (auto* item = column_->takeAt(0)) delete item;
    rows_.clear();
    for (std::size_t i = 0; i < fields_.size(); ++i) rows_.push_back(make_row(i));
}

void Form::send(std::size_t index, const QVariant& value) {
    if (showing_ || index >= fields_.size()) return;
    const auto set = fields_[index].set;  // the form may be rebuilt while it runs
    if (set) set(value);
}

Form::Row Form::make_row(std::size_t i) {
    const FormField& f = fields_[i];
    if (f.kind == Kind::heading) {
        auto* title = new QLabel(f.label);
        title->setObjectName("heading");
        title->setWordWrap(true);  // else a long one makes the column wider than it is
        title->setContentsMargins(0, 6, 0, 0);
        column_->addWidget(title);
        return {title};
    }
    if (f.kind == Kind::button) {
        auto* button = new QPushButton(f.label);
        button->setObjectName("quiet");
        connect(button, &QPushButton::clicked, this, [this, i] { send(i, {}); });
        column_->addWidget(button, 0, Qt::AlignLeft);
        return {button};
    }
    if (f.kind == Kind::menu) {
        auto* button = new QPushButton(f.label);
        button->setObjectName("quiet");
        auto* menu = new QMenu(button);
        for (int k = 0; k < f.choices.size(); ++k)
            connect(menu->addAction(f.choices[k]), &QAction::triggered, this, [this, i, k] { send(i, k); });
        button->setMenu(menu);
        button->setEnabled(!f.choices.isEmpty());
        column_->addWidget(button, 0, Qt::AlignLeft);
        return {button};
    }
    if (f.kind == Kind::toggle) {
        auto* box = new QCheckBox(f.label);
        connect(box, &QCheckBox::toggled, this, [this, i](bool on) { send(i, on); });
        column_->addWidget(box);
        return {box};
    }
    QWidget* editor = f.kind == Kind::choice ? make_choice(i)
                      : f.kind == Kind::text ? new QLineEdit
                                             : make_quantity(i);
    editor->setAccessibleName(f.label);
    auto* line = new QWidget;
    auto* across = new QHBoxLayout(line);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(size::gap);
    auto* title = new QLabel(f.label);
    title->setObjectName("small");
    title->setFixedWidth(104);
    title->setWordWrap(true);
    title->setBuddy(editor);
    across->addWidget(title);
    across->addWidget(editor, 1);
    column_->addWidget(line);
    if (is_quantity(f.kind)) {
        connect(static_cast<QuantityEdit*>(editor), &QuantityEdit::fault_changed, add_fault_line(), &FaultLine::say);
    } else if (f.kind == Kind::text) {
        connect(static_cast<QLineEdit*>(editor), &QLineEdit::editingFinished, this,
                [this, i, edit = static_cast<QLineEdit*>(editor), fault = f.check ? add_fault_line() : nullptr] {
                    take_text(i, edit, fault);
                });
    }
    return {editor};
}

QWidget* Form::make_choice(std::size_t i) {
    auto* box = new QComboBox;
    box->addItems(fields_[i].choices);
    box->setMinimumContentsLength(6);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(box, &QComboBox::activated, this, [this, i](int k) { send(i, k); });
    return box;
}

void Form::take_text(std::size_t i, QLineEdit* edit, FaultLine* fault) {
    if (i >= fields_.size()) return;
    const QString wrong = fault && fields_[i].check ? fields_[i].check(edit->text()) : QString();
    if (fault) {
        fault->say(wrong);
        edit->setProperty("wrong", !wrong.isEmpty());
        edit->style()->unpolish(edit);
        edit->style()->polish(edit);
    }
    if (wrong.isEmpty() && edit->text() != fields_[i].value.toString()) send(i, edit->text());
}

QWidget* Form::make_quantity(std::size_t i) {
    const FormField& f = fields_[i];
    QuantityEdit* edit = f.kind == Kind::length    ? place_edit(unit_, f.way)
                         : f.kind == Kind::degrees ? degree_edit()
                         : f.kind == Kind::mass    ? mass_edit(unit_)
                                                   : number_edit(f.unit);
    edit->set_range(f.least, f.most);
    connect(edit, &QuantityEdit::taken, this, [this, i](double v) { send(i, v); });
    return edit;
}

FaultLine* Form::add_fault_line() {
    auto* fault = new FaultLine;
    column_->addWidget(fault);
    return fault;
}

void Form::show_value(std::size_t i) {
    const FormField& f = fields_[i];
    QWidget* editor = rows_[i].editor;
    if (is_quantity(f.kind)) {
        auto* edit = static_cast<QuantityEdit*>(editor);
        edit->set_range(f.least, f.most);
        edit->set_value(f.value.toDouble());
    } else if (f.kind == Kind::choice) {
        static_cast<QComboBox*>(editor)->setCurrentIndex(f.value.toInt());
    } else if (f.kind == Kind::text) {
        auto* edit = static_cast<QLineEdit*>(editor);
        // A wrong entry stays until it is right, or what it stood for has become another.
        if (edit->property("wrong").toBool() && edit->property("stands for") == f.value) return;
        edit->setProperty("stands for", f.value);
        if (!edit->hasFocus() || !edit->isModified()) edit->setText(f.value.toString());
        if (!edit->hasFocus()) edit->setCursorPosition(0);  // of a long one its beginning is seen
    } else if (f.kind == Kind::toggle) {
        const QSignalBlocker quiet(editor);
        static_cast<QCheckBox*>(editor)->setChecked(f.value.toBool());
    }
}

}  // namespace bevelsmith::app

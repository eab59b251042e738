#include "app/widgets/form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStyle>
#include <utility>

#include "app/look/theme.h"
#include "app/widgets/quantity_edit.h"

namespace bevelsmith::app {
namespace {

using Kind = FormField::Kind;

bool is_quantity(Kind kind) {
    return kind == Kind::length || kind == Kind::degrees || kind == Kind::mass || kind == Kind::number;
}

/// Whether one widget can stand for both.
bool alike(const FormField& a, const FormField& b) {
    return a.kind == b.kind && a.way == b.way && a.label == b.label && a.choices == b.choices && a.unit == b.unit &&
           (a.check != nullptr) == (b.check != nullptr);
}

/// Escape gives up what was typed before it leaves the place that the field is in.
class TextEdit : public QLineEdit {
  protected:
    void keyPressEvent(QKeyEvent* event) override {
        const QString stands_for = property("stands for").toString();
        if (event->key() != Qt::Key_Escape || text() == stands_for) return QLineEdit::keyPressEvent(event);
        setText(stands_for);
        emit editingFinished();
        event->accept();
    }
};

}  // namespace

Form::Form(std::function<units::LengthUnit()> unit, QWidget* parent) : QWidget(parent), unit_(std::move(unit)) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(5);
    // Where a column is full it scrolls; fields are never pressed together.
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
}

void Form::show_fields(std::vector<FormField> fields, const QString& subject) {
    const auto meant_for_another = subject == subject_ ? std::vector<std::function<void()>>() : take_typed();
    subject_ = subject;
    bool same = fields.size() == fields_.size();
    for (std::size_t i = 0; same && i < fields.size(); ++i) same = alike(fields[i], fields_[i]);
    // While rows come and go the focus wanders from one to the next; what they report then is not a person's doing.
    showing_ = true;
    const std::vector<FormField> before = std::exchange(fields_, std::move(fields));
    if (!same) build(before);
    for (std::size_t i = 0; i < fields_.size(); ++i) show_value(i);
    showing_ = false;
    for (const auto& send : meant_for_another) send();
}

std::vector<std::function<void()>> Form::take_typed() {
    std::vector<std::function<void()>> out;
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const FormField& field = fields_[i];
        if (is_quantity(field.kind)) {
            auto* edit = static_cast<QuantityEdit*>(rows_[i].editor);
            if (!edit->isModified()) continue;
            const auto value = edit->typed();
            if (value && *value != edit->value() && field.set)
                out.push_back([set = field.set, v = *value] { set(v); });
            edit->forget_typed();
        } else if (field.kind == Kind::text) {
            auto* edit = static_cast<QLineEdit*>(rows_[i].editor);
            const QString text = edit->text();
            if (!edit->isModified() || text == field.value.toString()) continue;
            if (field.set && !(field.check && !field.check(text).isEmpty()))
                out.push_back([set = field.set, text] { set(text); });
            edit->setModified(false);
        }
    }
    return out;
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

void Form::build(const std::vector<FormField>& before) {
    std::vector<Row> old = std::exchange(rows_, {});
    std::vector<bool> kept(old.size(), false);
    std::size_t next = 0;  // the same order is likely
    for (const FormField& field : fields_) {
        std::size_t found = old.size();
        for (std::size_t n = 0; n < old.size() && found == old.size(); ++n) {
            const std::size_t k = (next + n) % old.size();
            if (!kept[k] && alike(field, before[k])) found = k;
        }
        if (found == old.size()) {
            rows_.push_back(make_row(field));
            continue;
        }
        kept[found] = true;
        next = found + 1;
        rows_.push_back(old[found]);
    }
    for (std::size_t k = 0; k < old.size(); ++k) {
        if (kept[k]) continue;
        // A field may be taken away by its own signal, so it must outlive this call.
        old[k].line->hide();
        old[k].line->setParent(nullptr);
        old[k].line->deleteLater();
    }
    // Moved within the layout nothing loses the focus or what is typed in it.
    while (auto* item = column_->takeAt(0)) delete item;
    QWidget* above = nullptr;
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const bool wide = fields_[i].kind != Kind::button && fields_[i].kind != Kind::menu;
        column_->addWidget(rows_[i].line, 0, wide ? Qt::Alignment() : Qt::AlignLeft);
        // Tab follows the eye.
        if (above) setTabOrder(above, rows_[i].editor);
        above = rows_[i].editor;
    }
}

std::optional<std::size_t> Form::index_of(const QWidget* editor) const {
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].editor == editor) return i;
    return std::nullopt;
}

void Form::send(const QWidget* editor, const QVariant& value) {
    const auto index = index_of(editor);
    if (showing_ || !index) return;
    const auto set = fields_[*index].set;  // the form may be rebuilt while it runs
    if (set) set(value);
}

Form::Row Form::make_row(const FormField& f) {
    if (f.kind == Kind::heading) {
        auto* title = new QLabel(f.label);
        title->setTextFormat(Qt::PlainText);
        title->setObjectName("heading");
        title->setWordWrap(true);  // else a long one makes the column wider than it is
        title->setContentsMargins(0, 6, 0, 0);
        return {title, title};
    }
    if (f.kind == Kind::button) {
        auto* button = new QPushButton(f.label);
        button->setObjectName("quiet");
        connect(button, &QPushButton::clicked, this, [this, button] { send(button, {}); });
        return {button, button};
    }
    if (f.kind == Kind::menu) {
        auto* button = new QPushButton(f.label);
        button->setObjectName("quiet");
        auto* menu = new QMenu(button);
        for (int k = 0; k < f.choices.size(); ++k)
            connect(menu->addAction(f.choices[k]), &QAction::triggered, this, [this, button, k] { send(button, k); });
        button->setMenu(menu);
        button->setEnabled(!f.choices.isEmpty());
        return {button, button};
    }
    if (f.kind == Kind::toggle) {
        auto* box = new QCheckBox(f.label);
        connect(box, &QCheckBox::toggled, this, [this, box](bool on) { send(box, on); });
        return {box, box};
    }
    if (f.kind == Kind::choice) return labelled(f, make_choice(f), false);
    if (is_quantity(f.kind)) {
        Row row = labelled(f, make_quantity(f), true);
        connect(static_cast<QuantityEdit*>(row.editor), &QuantityEdit::fault_changed, row.fault, &FaultLine::say);
        return row;
    }
    auto* edit = new TextEdit;
    connect(edit, &QLineEdit::editingFinished, this, [this, edit] { take_text(edit); });
    return labelled(f, edit, f.check != nullptr);
}

Form::Row Form::labelled(const FormField& f, QWidget* editor, bool with_fault) {
    editor->setAccessibleName(f.label);
    auto* line = new QWidget;
    auto* down = new QVBoxLayout(line);
    down->setContentsMargins(0, 0, 0, 0);
    down->setSpacing(0);
    auto* across = new QHBoxLayout;
    across->setSpacing(size::gap);
    auto* title = new QLabel(f.label);
    title->setTextFormat(Qt::PlainText);
    title->setObjectName("small");
    title->setFixedWidth(104);
    title->setWordWrap(true);
    title->setBuddy(editor);
    across->addWidget(title);
    across->addWidget(editor, 1);
    down->addLayout(across);
    FaultLine* fault = with_fault ? new FaultLine : nullptr;
    if (fault) down->addWidget(fault);
    return {editor, line, fault};
}

QWidget* Form::make_choice(const FormField& f) {
    auto* box = new QComboBox;
    box->addItems(f.choices);
    box->setMinimumContentsLength(6);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(box, &QComboBox::activated, this, [this, box](int k) { send(box, k); });
    return box;
}

void Form::take_text(QLineEdit* edit) {
    const auto i = index_of(edit);
    if (!i) return;
    FaultLine* fault = rows_[*i].fault;
    const QString wrong = fault && fields_[*i].check ? fields_[*i].check(edit->text()) : QString();
    if (fault) {
        fault->say(wrong);
        edit->setProperty("wrong", !wrong.isEmpty());
        edit->style()->unpolish(edit);
        edit->style()->polish(edit);
    }
    if (wrong.isEmpty() && edit->text() != fields_[*i].value.toString()) send(edit, edit->text());
}

QWidget* Form::make_quantity(const FormField& f) {
    QuantityEdit* edit = f.kind == Kind::length    ? place_edit(unit_, f.way)
                         : f.kind == Kind::degrees ? degree_edit()
                         : f.kind == Kind::mass    ? mass_edit(unit_)
                                                   : number_edit(f.unit);
    edit->set_range(f.least, f.most);
    connect(edit, &QuantityEdit::taken, this, [this, edit](double v) { send(edit, v); });
    return edit;
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
        if (!edit->hasFocus() || !edit->isModified()) show_text(*edit, f.value.toString());
        if (!edit->hasFocus()) edit->setCursorPosition(0);  // of a long one its beginning is seen
    } else if (f.kind == Kind::toggle) {
        const QSignalBlocker quiet(editor);
        static_cast<QCheckBox*>(editor)->setChecked(f.value.toBool());
    }
}

}  // namespace bevelsmith::app

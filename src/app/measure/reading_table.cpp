#include "app/measure/reading_table.h"

#include <QClipboard>
#include <QFocusEvent>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/measure/reading_number.h"
#include "app/widgets/quantity_edit.h"

namespace bevelsmith::app {
namespace {

constexpr const char* column_property = "reading column";

double mean_value(const survey::Reading& reading, std::size_t column) {
    double sum = reading.values[column];
    for (const auto& more : reading.again) sum += more[column];
    return sum / static_cast<double>(1 + reading.again.size());
}

void edit_set(MeasureState& state, const QString& what, const std::function<void(job::JobReadingSet&)>& change) {
    const int index = state.set_index();
    state.document.edit(what, [&](job::Job& job) {
        if (index < static_cast<int>(job.readings.size())) change(job.readings[static_cast<std::size_t>(index)]);
    });
}

}  // namespace

ReadingModel::ReadingModel(MeasureState& state, QObject* parent) : QAbstractTableModel(parent), state_(state) {
    connect(&state_, &MeasureState::changed, this, [this, rows = -1, columns = -1]() mutable {
        // A refresh must not throw away the selection or an open editor, so only a new shape resets.
        if (rows != rowCount() || columns != columnCount()) {
            beginResetModel();
            rows = rowCount();
            columns = columnCount();
            endResetModel();
        } else if (rows > 0) {
            emit dataChanged(index(0, 0), index(rows - 1, columns - 1));
        }
        emit headerDataChanged(Qt::Horizontal, 0, std::max(0, columns - 1));
    });
}

QString ReadingModel::signed_off(double mm) const {
    const QString text = state_.document.fine_number(mm);
    return (text.toDouble() > 0 ? "+" : "") + text;
}

int ReadingModel::numbers() const {
    return state_.set() ? static_cast<int>(survey::columns_of(*state_.set()).size()) : 0;
}
int ReadingModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() || !state_.set() ? 0 : static_cast<int>(state_.set()->readings.size());
}
int ReadingModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : numbers() + 1;
}

QVariant ReadingModel::data(const QModelIndex& index, int role) const {
    const auto* set = state_.set();
    if (!set || index.row() >= static_cast<int>(set->readings.size())) return {};
    const auto& reading = set->readings[static_cast<std::size_t>(index.row())];
    const auto row = static_cast<std::size_t>(index.row());
    const ReadingPicture* picture =
        row < state_.picture().readings.size() ? &state_.picture().readings[row] : nullptr;
    const bool number = index.column() < numbers();
    if (role == Qt::TextAlignmentRole) return int(Qt::AlignRight | Qt::AlignVCenter);
    const auto column = static_cast<std::size_t>(index.column());
    if (role == Qt::EditRole && number)
        return exact_number(survey::columns_of(*set)[column], reading.values[column], state_.document.unit());
    if (role == Qt::DisplayRole) {
        if (number)
            return shown_number(survey::columns_of(*set)[column], mean_value(reading, column), state_.document.unit(),
                                numbers() > 3);
        if (reading.disabled) return "set aside";
        if (!reading.mark.empty()) return QString::fromStdString(reading.mark);
        return picture && picture->fitted ? signed_off(picture->residual_mm) : QString("–");
    }
    if (role == Qt::ForegroundRole) {
        if (reading.disabled) return theme().colours().faint;
        if (picture && picture->suspect) return theme().colours().stop;
    }
    // Many numbers a reading stand in smaller figures, so that none is cut short.
    const int pixels = numbers() > 3 ? size::text_small : size::text;
    if (role == Qt::FontRole && picture) return Theme::font(pixels, picture->suspect);
    if (role == Qt::ToolTipRole) {
        QString words = QString::fromStdString(reading.note);
        if (picture && !reading.again.empty())
            words += QString("%1mean of %2, spread %3")
                         .arg(words.isEmpty() ? "" : "\n")
                         .arg(reading.again.size() + 1)
                         .arg(state_.document.fine(picture->spread_mm));
        if (picture && picture->residual_of_distances_mm > 0.05)
            words += (words.isEmpty() ? "" : "\n") + QString("the distances disagree by ") +
                     state_.document.fine(picture->residual_of_distances_mm);
        if (picture && picture->fitted)
            words += (words.isEmpty() ? "" : "\n") +
                     QString("a slip of %1 would be noticed here").arg(state_.document.fine(picture->detectable_mm));
        if (picture && !picture->hint.isEmpty()) words += "\n" + picture->hint;
        return words;
    }
    return {};
}

QVariant ReadingModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole || !state_.set()) return {};
    if (orientation == Qt::Vertical) {
        const auto row = static_cast<std::size_t>(section);
        const bool noted = row < state_.set()->readings.size() && !state_.set()->readings[row].note.empty();
        return noted ? QString("%1 ·").arg(section + 1) : QString::number(section + 1);
    }
    const auto columns = survey::columns_of(*state_.set());
    if (section < static_cast<int>(columns.size()))
        return column_heading(columns[static_cast<std::size_t>(section)], state_.document.unit(), numbers() > 2);
    return (numbers() > 2 ? "off\n" : "off, ") + state_.document.fine_unit();
}

Qt::ItemFlags ReadingModel::flags(const QModelIndex& index) const {
    const auto base = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    return index.column() < numbers() ? base | Qt::ItemIsEditable : base;
}

bool ReadingModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || index.column() >= numbers()) return false;
    const double number = value.toDouble();
    edit_set(state_, "Correct a reading", [&](job::JobReadingSet& set) {
        auto& reading = set.readings[static_cast<std::size_t>(index.row())];
        reading.values[static_cast<std::size_t>(index.column())] = number;
    });
    return true;
}

QWidget* QuantityDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem&,
                                        const QModelIndex& index) const {
    auto* edit = new QLineEdit(parent);
    edit->setProperty(column_property, index.column());
    edit->setAlignment(Qt::AlignRight);
    edit->setFrame(false);
    edit->setStyleSheet("padding: 0 2px; border-radius: 0; min-height: 0;");
    return edit;
}

void QuantityDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    auto* edit = static_cast<QLineEdit*>(editor);
    // Results that come in while a person types must not overwrite the text.
    if (edit->isModified()) return;
    edit->setText(index.data(Qt::EditRole).toString());
    edit->selectAll();
}

void QuantityDelegate::setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const {
    if (const auto value = typed(*static_cast<QLineEdit*>(editor))) model->setData(index, *value, Qt::EditRole);
}

Result<double> QuantityDelegate::typed(const QLineEdit& edit) const {
    const auto column = edit.property(column_property).toUInt();
    const auto columns = state_.set() ? survey::columns_of(*state_.set()) : std::vector<survey::Column>{};
    if (column >= columns.size()) return Error{"this set has changed"};
    return parse_number(columns[column], edit.text(), state_.document.unit());
}

bool QuantityDelegate::eventFilter(QObject* watched, QEvent* event) {
    auto* edit = qobject_cast<QLineEdit*>(watched);
    const bool enter =
        event->type() == QEvent::KeyPress && (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Return ||
                                              static_cast<QKeyEvent*>(event)->key() == Qt::Key_Enter ||
                                              static_cast<QKeyEvent*>(event)->key() == Qt::Key_Tab);
    const bool escape = event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape;
    if (escape) emit fault({});
    if (edit && (enter || event->type() == QEvent::FocusOut)) {
        const auto mm = typed(*edit);
        emit fault(mm ? QString() : QString::fromStdString(mm.error().message));
        if (!mm) {
            edit->setStyleSheet(QString("padding: 0 2px; border-radius: 0; min-height: 0; color: %1;")
                                    .arg(theme().colours().stop.name()));
            return true;
        }
    }
    return QStyledItemDelegate::eventFilter(watched, event);
}

ReadingEntry::ReadingEntry(MeasureState& state) : state_(state) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    fault_ = new FaultLine;
    again_words_ = new QLabel;
    again_words_->setWordWrap(true);
    again_words_->hide();
    column->addWidget(again_words_);
    column->addWidget(fault_);
    connect(&state_, &MeasureState::changed, this, [this] {
        setEnabled(state_.set() != nullptr);
        if (state_.set() && (!built_ || survey::columns_of(*state_.set()).size() != fields_.size() ||
                             state_.set()->school != school_))
            rebuild();
        if (state_.set() && state_.set()->id != set_) begin_set();
    });
    rebuild();
}

void ReadingEntry::rebuild() {
    delete row_;
    fields_.clear();
    built_ = state_.set() != nullptr;
    school_ = built_ ? state_.set()->school : survey::School::ordinates;
    row_ = new QWidget;
    auto* across = new QHBoxLayout(row_);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(6);
    for (const survey::Column& column : columns()) {
        auto* field = new QLineEdit;
        field->setPlaceholderText(QString::fromUtf8(column.name.data(), static_cast<int>(column.name.size())));
        field->setToolTip(field->placeholderText());
        field->setMinimumWidth(30);
        if (columns().size() > 3) field->setStyleSheet("padding: 0 3px; font-size: 11px;");
        field->setAccessibleName("next " + field->placeholderText());
        field->setObjectName(QString("next%1").arg(fields_.size()));
        field->installEventFilter(this);
        connect(field, &QLineEdit::textEdited, this, [this, field] { say(field, {}); });
        across->addWidget(field);
        fields_.push_back(field);
    }
    static_cast<QVBoxLayout*>(layout())->insertWidget(0, row_);
}

/// What stands in the fields was for another set. Along another line one begins where one did along the last.
void ReadingEntry::begin_set() {
    const auto& all = state_.document.job().readings;
    const auto before = std::find_if(all.begin(), all.end(), [this](const auto& set) { return set.id == set_; });
    set_ = state_.set()->id;
    for (QLineEdit* field : fields_) {
        field->clear();
        say(field, {});
    }
    again_ = -1;
    say_again();
    if (school_ != survey::School::ordinates || !state_.set()->readings.empty() || before == all.end() ||
        before->school != school_ || before->readings.empty())
        return;
    fields_[0]->setText(
        QString::fromStdString(units::format_length(before->readings.front().values[0], state_.document.unit())));
    if (fields_[0]->hasFocus()) fields_[0]->selectAll();
}

std::vector<survey::Column> ReadingEntry::columns() const {
    if (state_.set()) return survey::columns_of(*state_.set());
    return survey::columns_of(survey::usual_set(survey::School::ordinates));
}

void ReadingEntry::take_again(int row) {
    again_ = row;
    say_again();
    focus_first();
}

void ReadingEntry::say_again() {
    again_words_->setVisible(again_ >= 0);
    again_words_->setText(QString("Take reading %1 again: the mean counts. Escape gives it up.").arg(again_ + 1));
}

void ReadingEntry::focus_first() {
    if (fields_.empty()) return;
    fields_.front()->setFocus(Qt::OtherFocusReason);
    fields_.front()->selectAll();
}

bool ReadingEntry::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
    const auto field = std::find(fields_.begin(), fields_.end(), watched);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (field == fields_.end()) return false;
    if ((key == Qt::Key_Return || key == Qt::Key_Enter) &&
        static_cast<QKeyEvent*>(event)->modifiers() & Qt::ControlModifier) {
        emit done();
        return true;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        advance(static_cast<int>(field - fields_.begin()));
        return true;
    }
    if (key == Qt::Key_Escape) {
        (*field)->clear();
        say(*field, {});
        again_ = -1;
        say_again();
        return true;
    }
    return false;
}

void ReadingEntry::say(QLineEdit* field, const QString& fault) {
    const bool wrong = !fault.isEmpty();
    fault_->say(fault);
    field->setProperty("wrong", wrong);
    field->style()->unpolish(field);
    field->style()->polish(field);
}

void ReadingEntry::advance(int index) {
    QLineEdit* field = fields_[static_cast<std::size_t>(index)];
    const auto mm = parse_number(columns()[static_cast<std::size_t>(index)], field->text(), state_.document.unit());
    if (!mm) return say(field, QString::fromStdString(mm.error().message));
    say(field, {});
    if (index + 1 < static_cast<int>(fields_.size())) {
        fields_[static_cast<std::size_t>(index + 1)]->setFocus();
        fields_[static_cast<std::size_t>(index + 1)]->selectAll();
        return;
    }
    take();
}

void ReadingEntry::take() {
    survey::Reading reading;
    for (std::size_t k = 0; k < fields_.size(); ++k) {
        const auto mm = parse_number(columns()[k], fields_[k]->text(), state_.document.unit());
        if (!mm) {
            fields_[k]->setFocus();
            return say(fields_[k], QString::fromStdString(mm.error().message));
        }
        reading.values[k] = *mm;
    }
    if (!state_.set()) return;
    if (const auto at = survey::locate(*state_.set(), reading); !at) {
        fields_.front()->setFocus();
        return say(fields_.front(), QString::fromStdString(at.error().message));
    }
    const auto row = static_cast<std::size_t>(again_);
    if (again_ >= 0 && row < state_.set()->readings.size())
        edit_set(state_, "Take a reading again",
                 [&](job::JobReadingSet& set) { set.readings[row].again.push_back(reading.values); });
    else edit_set(state_, "Take a reading", [&](job::JobReadingSet& set) { set.readings.push_back(reading); });
    const bool repeated = std::exchange(again_, -1) >= 0;
    say_again();
    for (QLineEdit* f : fields_) f->clear();
    if (repeated) return fields_[0]->setFocus();
    // At equal steps the next station is known; it stands selected, so that typing replaces it.
    const auto& all = state_.set()->readings;
    if (school_ == survey::School::ordinates && all.size() >= 2) {
        const double step = all[all.size() - 1].values[0] - all[all.size() - 2].values[0];
        fields_[0]->setText(
            QString::fromStdString(units::format_length(all.back().values[0] + step, state_.document.unit())));
    }
    fields_[0]->setFocus();
    fields_[0]->selectAll();
}

void ReadingEntry::take_measurement(const survey::MeterReading& m) {
    if (const auto other = survey::school_it_fits(m, school_)) {
        const auto words = [](survey::School school) {
            return QString::fromUtf8(survey::school_name(school).data());
        };
        return fault_->say(QString("Not taken: a measurement %1 does not fit a set of \u201c%2\u201d. Make a set of "
                                   "\u201c%3\u201d for it.")
                               .arg(m.turn_deg && m.rise_deg ? "with its turn and rise" : "of a bare distance",
                                    words(school_), words(*other)));
    }
    fault_->clear();
    const auto all = columns();
    const auto fill = [&](std::size_t k, double value, const char* unit, int decimals) {
        fields_[k]->setText(QString::number(value, 'f', decimals) + unit);
    };
    if (school_ == survey::School::laser_meter && m.turn_deg && m.rise_deg) {
        fill(0, m.range_mm, " mm", 1), fill(1, *m.turn_deg, "", 3), fill(2, *m.rise_deg, "", 3);
        return take();
    }
    const auto fits = [&](std::size_t k) { return all[k].kind == survey::Column::Kind::length; };
    std::size_t at = fields_.size();
    for (std::size_t k = 0; k < fields_.size(); ++k)
        if (fits(k) && fields_[k]->hasFocus()) at = k;
    for (std::size_t k = 0; k < fields_.size() && at == fields_.size(); ++k)
        if (fits(k) && fields_[k]->text().isEmpty()) at = k;
    if (at == fields_.size()) return;
    fill(at, m.range_mm, " mm", 1);
    advance(static_cast<int>(at));
}

/// The number of a mark takes less room than a length.
void ReadingTable::share_width() {
    if (!state_.set()) return;
    const auto columns = survey::columns_of(*state_.set());
    auto* header = table_->horizontalHeader();
    for (int k = 0; k < header->count(); ++k) {
        const bool small = k < static_cast<int>(columns.size()) &&
                           columns[static_cast<std::size_t>(k)].kind == survey::Column::Kind::number;
        header->setSectionResizeMode(k, small ? QHeaderView::Fixed : QHeaderView::Stretch);
        if (small) header->resizeSection(k, 34);
    }
}

ReadingTable::ReadingTable(MeasureState& state)
    : state_(state),
      model_(new ReadingModel(state, this)),
      table_(new QTableView),
      entry_(new ReadingEntry(state)),
      fault_(new FaultLine) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* delegate = new QuantityDelegate(state_, this);
    table_->setModel(model_);
    table_->setItemDelegate(delegate);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setAlternatingRowColors(true);
    table_->setShowGrid(false);
    table_->setWordWrap(false);
    table_->verticalHeader()->setDefaultSectionSize(22);
    table_->verticalHeader()->setFixedWidth(26);
    table_->horizontalHeader()->setStyleSheet("QHeaderView::section { padding: 3px 1px; }");
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->horizontalHeader()->setHighlightSections(false);
    table_->setMinimumHeight(150);
    table_->setAccessibleName("readings");
    table_->setTabKeyNavigation(false);
    table_->installEventFilter(this);
    column->addWidget(table_, 1);
    column->addWidget(fault_);
    column->addWidget(entry_);
    note_ = new QLineEdit;
    note_->setPlaceholderText("note on the chosen reading");
    note_->setAccessibleName("note");
    note_->setObjectName("note");
    column->addWidget(note_);
    connect(note_, &QLineEdit::editingFinished, this, &ReadingTable::keep_note);
    connect(&state_, &MeasureState::changed, this, &ReadingTable::show_note);
    connect(&state_, &MeasureState::changed, this, &ReadingTable::share_width);
    share_width();
    show_note();
    connect(delegate, &QuantityDelegate::fault, fault_, &FaultLine::say);
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        state_.point_at(now.isValid() ? now.row() : -1);
        show_note();
    });
}

void ReadingTable::select(int reading) {
    if (reading < 0 || reading >= model_->rowCount({})) return;
    table_->selectRow(reading);
    table_->scrollTo(model_->index(reading, 0));
    table_->setFocus();
}

void ReadingTable::select_many(const std::vector<int>& readings) {
    QItemSelection all;
    for (const int row : readings)
        if (row >= 0 && row < model_->rowCount({})) all.select(model_->index(row, 0), model_->index(row, 0));
    if (all.isEmpty()) return;
    using Flag = QItemSelectionModel;
    table_->selectionModel()->setCurrentIndex(all.first().topLeft(), Flag::NoUpdate);
    table_->selectionModel()->select(all, Flag::ClearAndSelect | Flag::Rows);
    table_->scrollTo(all.first().topLeft());
    table_->setFocus();
}

survey::Reading* ReadingTable::chosen(job::JobReadingSet& set) const {
    const int row = table_->currentIndex().row();
    return row >= 0 && row < static_cast<int>(set.readings.size()) ? &set.readings[static_cast<std::size_t>(row)]
                                                                   : nullptr;
}

void ReadingTable::show_note() {
    const auto* set = state_.set();
    const int row = table_->currentIndex().row();
    const bool any = set && row >= 0 && row < static_cast<int>(set->readings.size());
    note_->setEnabled(any);
    if (!note_->isModified() || !note_->hasFocus())
        note_->setText(any ? QString::fromStdString(set->readings[static_cast<std::size_t>(row)].note) : QString());
}

void ReadingTable::keep_note() {
    if (!note_->isModified()) return;
    note_->setModified(false);
    edit_set(state_, "Note on a reading", [&](job::JobReadingSet& set) {
        if (auto* reading = chosen(set)) reading->note = note_->text().trimmed().toStdString();
    });
}

void ReadingTable::toggle_mark() {
    edit_set(state_, "Named mark", [&](job::JobReadingSet& set) {
        auto* reading = chosen(set);
        if (!reading) return;
        if (reading->mark.empty()) reading->mark = reading->note.empty() ? "mark" : reading->note;
        else reading->mark.clear();
    });
}

/// One line is taken as if it were typed; more are seen first, with what each column is taken for.
void ReadingTable::paste() {
    if (!state_.set()) return;
    if (QGuiApplication::clipboard()->text().trimmed().contains('\n')) {
        fault_->clear();
        return emit table_pasted(QString::fromStdString(state_.set()->id));
    }
    const auto readings =
        readings_from_text(*state_.set(), QGuiApplication::clipboard()->text(), state_.document.unit());
    fault_->say(readings ? QString() : "Nothing pasted. " + QString::fromStdString(readings.error().message));
    if (!readings) return;
    edit_set(state_, "Paste readings", [&](job::JobReadingSet& set) {
        set.readings.insert(set.readings.end(), readings->begin(), readings->end());
    });
}

std::vector<int> ReadingTable::selected_rows() const {
    std::vector<int> rows;
    for (const auto& index : table_->selectionModel()->selectedRows()) rows.push_back(index.row());
    std::sort(rows.rbegin(), rows.rend());
    return rows;
}

void ReadingTable::remove_selected() {
    const auto rows = selected_rows();
    edit_set(state_, rows.size() == 1 ? "Remove a reading" : "Remove readings", [&](job::JobReadingSet& set) {
        for (int row : rows) set.readings.erase(set.readings.begin() + row);
    });
}

void ReadingTable::toggle_selected() {
    const auto rows = selected_rows();
    edit_set(state_, "Set a reading aside or take it in", [&](job::JobReadingSet& set) {
        for (int row : rows)
            set.readings[static_cast<std::size_t>(row)].disabled =
                !set.readings[static_cast<std::size_t>(row)].disabled;
    });
}

bool ReadingTable::eventFilter(QObject* watched, QEvent* event) {
    if (watched == table_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Delete || key == Qt::Key_Backspace) return remove_selected(), true;
        if (key == Qt::Key_Space) return toggle_selected(), true;
        if (static_cast<QKeyEvent*>(event)->matches(QKeySequence::Paste)) return paste(), true;
        if (key == Qt::Key_R && table_->currentIndex().isValid())
            return entry_->take_again(table_->currentIndex().row()), true;
        if (key == Qt::Key_M) return toggle_mark(), true;
        if (key == Qt::Key_N) return note_->setFocus(), true;
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            // One that comes up from an open editor has been dealt with there.
            if (table_->hasFocus() && table_->currentIndex().isValid()) table_->edit(table_->currentIndex());
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

}  // namespace bevelsmith::app

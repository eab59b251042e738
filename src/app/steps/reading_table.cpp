#include "app/steps/reading_table.h"

#include <QFocusEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/quantity_edit.h"

namespace bevelsmith::app {
namespace {

constexpr double farthest_mm = 1e6;

/// A number of a reading; what lies farther away than any boat reaches is a slip.
Result<double> parse_reading(const QString& text, units::LengthUnit unit) {
    auto mm = units::parse_length_mm(text.toStdString(), unit);
    if (mm && std::abs(*mm) > farthest_mm) return Error{"that is more than a kilometre away"};
    return mm;
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

int ReadingModel::numbers() const {
    return state_.set() ? static_cast<int>(survey::value_names(state_.set()->school).size()) : 0;
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
    if (role == Qt::EditRole && number)
        return QString::fromStdString(units::format_length_exact(
            reading.values[static_cast<std::size_t>(index.column())], state_.document.unit()));
    if (role == Qt::DisplayRole) {
        if (number) return state_.document.length_number(reading.values[static_cast<std::size_t>(index.column())]);
        if (reading.disabled) return "set aside";
        return picture && picture->fitted ? signed_mm(picture->residual_mm) : QString("–");
    }
    if (role == Qt::ForegroundRole) {
        if (reading.disabled) return theme().colours().faint;
        if (picture && picture->suspect) return theme().colours().stop;
    }
    if (role == Qt::FontRole && picture && picture->suspect) return Theme::font(size::text, true);
    if (role == Qt::ToolTipRole) {
        QString words = QString::fromStdString(reading.note);
        if (picture && picture->fitted)
            words += QString::asprintf("%sa slip of %.0f mm would be noticed here", words.isEmpty() ? "" : "\n",
                                       picture->detectable_mm);
        if (picture && !picture->hint.isEmpty()) words += "\n" + picture->hint;
        return words;
    }
    return {};
}

QVariant ReadingModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole || !state_.set()) return {};
    if (orientation == Qt::Vertical) return section + 1;
    const auto names = survey::value_names(state_.set()->school);
    if (section < static_cast<int>(names.size())) {
        const auto name = names[static_cast<std::size_t>(section)];
        return QString("%1, %2").arg(QString::fromUtf8(name.data(), static_cast<int>(name.size())),
                                     QString::fromUtf8(units::symbol(state_.document.unit()).data()));
    }
    return "off, mm";
}

Qt::ItemFlags ReadingModel::flags(const QModelIndex& index) const {
    const auto base = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    return index.column() < numbers() ? base | Qt::ItemIsEditable : base;
}

bool ReadingModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || index.column() >= numbers()) return false;
    const double mm = value.toDouble();
    edit_set(state_, "Correct a reading", [&](job::JobReadingSet& set) {
        set.readings[static_cast<std::size_t>(index.row())].values[static_cast<std::size_t>(index.column())] = mm;
    });
    return true;
}

QWidget* QuantityDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const {
    auto* edit = new QLineEdit(parent);
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
    const auto mm = parse_reading(static_cast<QLineEdit*>(editor)->text(), state_.document.unit());
    if (mm) model->setData(index, *mm, Qt::EditRole);
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
        const auto mm = parse_reading(edit->text(), state_.document.unit());
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
    fault_ = new QLabel;
    fault_->setObjectName("fault");
    fault_->setWordWrap(true);
    fault_->hide();
    column->addWidget(fault_);
    connect(&state_, &MeasureState::changed, this, [this] {
        setEnabled(state_.set() != nullptr);
        if (state_.set() && (!built_ || state_.set()->school != school_)) rebuild();
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
    for (const auto name : survey::value_names(school_)) {
        auto* field = new QLineEdit;
        field->setPlaceholderText(QString::fromUtf8(name.data(), static_cast<int>(name.size())));
        field->setAccessibleName("next " + field->placeholderText());
        field->setObjectName(QString("next%1").arg(fields_.size()));
        field->installEventFilter(this);
        connect(field, &QLineEdit::textEdited, this, [this, field] { say(field, {}); });
        across->addWidget(field);
        fields_.push_back(field);
    }
    static_cast<QVBoxLayout*>(layout())->insertWidget(0, row_);
}

void ReadingEntry::focus_first() {
    if (!fields_.empty()) fields_.front()->setFocus(Qt::OtherFocusReason);
}

bool ReadingEntry::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
    const auto field = std::find(fields_.begin(), fields_.end(), watched);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (field == fields_.end()) return false;
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        advance(static_cast<int>(field - fields_.begin()));
        return true;
    }
    if (key == Qt::Key_Escape) {
        (*field)->clear();
        say(*field, {});
        return true;
    }
    return false;
}

void ReadingEntry::say(QLineEdit* field, const QString& fault) {
    const bool wrong = !fault.isEmpty();
    fault_->setText(fault);
    fault_->setVisible(wrong);
    field->setProperty("wrong", wrong);
    field->style()->unpolish(field);
    field->style()->polish(field);
}

void ReadingEntry::advance(int index) {
    QLineEdit* field = fields_[static_cast<std::size_t>(index)];
    const auto mm = parse_reading(field->text(), state_.document.unit());
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
        const auto mm = parse_reading(fields_[k]->text(), state_.document.unit());
        if (!mm) {
            fields_[k]->setFocus();
            return say(fields_[k], QString::fromStdString(mm.error().message));
        }
        reading.values[k] = *mm;
    }
    edit_set(state_, "Take a reading", [&](job::JobReadingSet& set) { set.readings.push_back(reading); });
    for (QLineEdit* f : fields_) f->clear();
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

ReadingTable::ReadingTable(MeasureState& state)
    : state_(state),
      model_(new ReadingModel(state, this)),
      table_(new QTableView),
      entry_(new ReadingEntry(state)),
      fault_(new QLabel) {
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
    table_->verticalHeader()->setFixedWidth(30);
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->horizontalHeader()->setHighlightSections(false);
    table_->setMinimumHeight(150);
    table_->setAccessibleName("readings");
    table_->setTabKeyNavigation(false);
    table_->installEventFilter(this);
    column->addWidget(table_, 1);
    fault_->setObjectName("fault");
    fault_->setWordWrap(true);
    fault_->hide();
    column->addWidget(fault_);
    column->addWidget(entry_);
    connect(delegate, &QuantityDelegate::fault, fault_, [this](const QString& text) {
        fault_->setText(text);
        fault_->setVisible(!text.isEmpty());
    });
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) { state_.point_at(now.isValid() ? now.row() : -1); });
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
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            // One that comes up from an open editor has been dealt with there.
            if (table_->hasFocus() && table_->currentIndex().isValid()) table_->edit(table_->currentIndex());
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

}  // namespace bevelsmith::app

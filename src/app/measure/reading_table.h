// The readings of a set as a table, and the line under it in which the next one is typed.
#pragma once

#include <QAbstractTableModel>
#include <QLabel>
#include <QLineEdit>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QWidget>

#include "app/measure/measure_drawing.h"
#include "app/widgets/fault_line.h"
#include "survey/meter_line.h"

namespace bevelsmith::app {

class ReadingModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    explicit ReadingModel(MeasureState& state, QObject* parent = nullptr);
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

  private:
    QString signed_off(double mm) const;
    int numbers() const;
    MeasureState& state_;
};

/// Keeps a wrong entry open and marked until it is right or given up with Escape.
class QuantityDelegate : public QStyledItemDelegate {
    Q_OBJECT
  public:
    QuantityDelegate(MeasureState& state, QObject* parent) : QStyledItemDelegate(parent), state_(state) {}
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const override;
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override;
    bool eventFilter(QObject* editor, QEvent* event) override;

  signals:
    void fault(const QString& text) const;

  private:
    Result<double> typed(const QLineEdit& edit) const;
    MeasureState& state_;
};

/// Fields for the numbers of one reading; Enter in the last one takes it.
class ReadingEntry : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingEntry(MeasureState& state);
    void focus_first();
    /// A measurement of a meter: the whole reading where it knows its angles and the set wants them, else the length
    /// for the field that is waited for.
    void take_measurement(const survey::MeterReading& measured);
    /// The next reading taken is one of those in the table, taken again.
    void take_again(int row);

  signals:
    void done();  ///< Ctrl+Enter: on with the next set

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    std::vector<survey::Column> columns() const;
    void say_again();
    void rebuild();
    void begin_set();
    void advance(int field);
    void take();
    void say(QLineEdit* field, const QString& fault);
    MeasureState& state_;
    std::vector<QLineEdit*> fields_;
    QWidget* row_ = nullptr;
    FaultLine* fault_;
    QLabel* again_words_;
    int again_ = -1;
    survey::School school_ = survey::School::direct;
    std::string set_;  ///< the set that is entered
    bool built_ = false;
};

/// Table, entry and note, and the keys for them: Delete removes, Space sets aside and takes in again, R takes one
/// again, M makes it a named mark, N goes to the note, paste takes rows from a spreadsheet.
class ReadingTable : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingTable(MeasureState& state);
    ReadingEntry* entry() const { return entry_; }
    QTableView* table() const { return table_; }
    /// Chooses a reading and brings it into view.
    void select(int reading);
    /// Chooses several, for what Space and Delete do.
    void select_many(const std::vector<int>& readings);

  signals:
    /// Several lines were pasted for this set: they are to be seen before they are taken.
    void table_pasted(const QString& set_id);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    std::vector<int> selected_rows() const;
    void remove_selected();
    void toggle_selected();
    void toggle_mark();
    void paste();
    void share_width();
    void show_note();
    void keep_note();
    survey::Reading* chosen(job::JobReadingSet& set) const;
    MeasureState& state_;
    ReadingModel* model_;
    QTableView* table_;
    ReadingEntry* entry_;
    QLineEdit* note_;
    FaultLine* fault_;
};

}  // namespace bevelsmith::app

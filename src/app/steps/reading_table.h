// The readings of a set as a table, and the line under it in which the next one is typed.
#pragma once

#include <QAbstractTableModel>
#include <QLabel>
#include <QLineEdit>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QWidget>

#include "app/steps/measure_drawing.h"

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
    MeasureState& state_;
};

/// Fields for the numbers of one reading; Enter in the last one takes it.
class ReadingEntry : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingEntry(MeasureState& state);
    void focus_first();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void rebuild();
    void advance(int field);
    void take();
    void say(QLineEdit* field, const QString& fault);
    MeasureState& state_;
    std::vector<QLineEdit*> fields_;
    QWidget* row_ = nullptr;
    QLabel* fault_;
    survey::School school_ = survey::School::direct;
    bool built_ = false;
};

/// Table, entry, and the keys for them: Delete removes, Space sets aside and takes in again.
class ReadingTable : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingTable(MeasureState& state);
    ReadingEntry* entry() const { return entry_; }
    QTableView* table() const { return table_; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    std::vector<int> selected_rows() const;
    void remove_selected();
    void toggle_selected();
    MeasureState& state_;
    ReadingModel* model_;
    QTableView* table_;
    ReadingEntry* entry_;
    QLabel* fault_;
};

}  // namespace bevelsmith::app

// What is being built, grouped by place in the boat; the one selection that every step follows.
#pragma once

#include <QAbstractListModel>
#include <QListView>
#include <QStyledItemDelegate>
#include <QWidget>

#include "app/document/document.h"

namespace bevelsmith::app {

class PieceListModel : public QAbstractListModel {
    Q_OBJECT
  public:
    enum Role { id_role = Qt::UserRole, heading_role, stage_role, shape_role };
    explicit PieceListModel(Document& document, QObject* parent = nullptr);
    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    int row_of(const QString& id) const;
    Document& document() const { return document_; }

  private:
    void rebuild();
    struct Row {
        QString heading;  ///< a place, or empty for a piece
        QString id;
        bool operator==(const Row&) const = default;
    };
    Document& document_;
    std::vector<Row> rows_;
};

class PiecesColumn : public QWidget {
    Q_OBJECT
  public:
    explicit PiecesColumn(Document& document);

  signals:
    void wants_sheet(const QString& name);
    void opened();  ///< a piece was chosen with Enter or a double click

  private:
    Document& document_;
    PieceListModel* model_;
    QListView* list_;
    QWidget* empty_;
};

}  // namespace bevelsmith::app

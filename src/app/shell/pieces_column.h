// What is being built, grouped by unit and place in the boat; the one selection that every step follows.
#pragma once

#include <QAbstractListModel>
#include <QLineEdit>
#include <QListView>
#include <QPushButton>
#include <QSet>
#include <QStyledItemDelegate>
#include <QWidget>

#include "app/document/document.h"
#include "app/widgets/openings.h"

namespace bevelsmith::app {

class PieceListModel : public QAbstractListModel {
    Q_OBJECT
  public:
    enum Role { id_role = Qt::UserRole, heading_role, stage_role, folded_role, count_role };
    explicit PieceListModel(Document& document, QObject* parent = nullptr);
    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    /// A piece is renamed; of a heading its unit, or the place under which its pieces stand.
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    int row_of(const QString& id) const;
    Document& document() const { return document_; }
    /// Only pieces whose name or id holds these words, whatever is folded; all of them for none.
    void find(const QString& words);
    /// Folds a group's pieces away, or brings them back.
    void fold(const QString& group, bool folded);
    bool folded(const QString& group) const { return folded_.contains(group); }
    /// The group that a row belongs to or heads.
    QString group_of(int row) const;
    /// Unfolds the group in which a piece stands.
    void reveal(const QString& piece_id);
    QString first_of(const QString& group) const;
    int heading_row(const QString& group) const;

  private:
    void rebuild();
    void fold_new_units();
    struct Row {
        QString heading;  ///< a place, or empty for a piece
        QString id;
        int count = 0;  ///< of a heading: pieces under it
        bool folded = false;
        bool operator==(const Row&) const = default;
    };
    void rename(const Row& row, const QString& name);
    Document& document_;
    std::vector<Row> rows_;
    QSet<QString> folded_, known_units_;
    QString words_;
};

class PiecesColumn : public QWidget {
    Q_OBJECT
  public:
    explicit PiecesColumn(Document& document);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  signals:
    void wants_panel(const PanelRequest& panel);
    void opened();  ///< a piece was chosen with Enter or a double click

  private:
    Document& document_;
    PieceListModel* model_;
    void set_up_list();
    QWidget* words_when_empty();
    QLineEdit* line_that_finds();
    void add_buttons(QVBoxLayout* column);
    void connect_all();
    void follow_selection();
    void heading_clicked(const QModelIndex& index);
    /// Several rows chosen with Shift or Control are what is acted on at once.
    void take_chosen();
    bool go(const QModelIndex& to, Qt::KeyboardModifiers keys);
    QListView* list_;
    QLineEdit* find_;
    QWidget* empty_;
    QPushButton* together_ = nullptr;
    bool following_ = false;  ///< rows are being chosen as the selection says
};

}  // namespace bevelsmith::app

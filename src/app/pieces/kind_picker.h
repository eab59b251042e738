// What can be added, as drawn silhouettes in groups.
#pragma once

#include <QGridLayout>
#include <QToolButton>
#include <QWidget>
#include <functional>
#include <vector>

#include "furniture/unit.h"
#include "job/starting_piece.h"

namespace bevelsmith::app {

/// One thing that can be added: a piece of a kind, or a unit of furniture.
struct Addable {
    std::optional<job::StartingKind> piece;
    std::optional<furniture::UnitKind> unit;
    bool operator==(const Addable&) const = default;
};

/// Groups of silhouettes, one of them chosen: across the boat, along and level, furniture. Arrow keys go from one to
/// the next; what is not offered (a full bulkhead where one side is known) is not there.
class KindPicker : public QWidget {
    Q_OBJECT
  public:
    explicit KindPicker(const std::vector<job::StartingKind>& offered);
    Addable chosen() const { return chosen_; }
    void choose(const Addable& what);

  signals:
    void picked();
    void taken();  ///< Enter on the chosen one

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    /// A group goes on in the row of the one before where that has room for its words.
    void add_group(const QString& name, const std::vector<Addable>& things);
    QToolButton* button_of(const Addable& thing);
    struct Entry {
        Addable thing;
        QToolButton* button;
        int row = 0, column = 0;
    };
    /// The entry that an arrow key leads to; the same one at an end.
    const Entry& beside(const Entry& from, int key) const;
    std::vector<Entry> entries_;
    QGridLayout* grid_;
    Addable chosen_;
};

}  // namespace bevelsmith::app

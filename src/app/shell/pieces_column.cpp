#include "app/shell/pieces_column.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/look/theme.h"
#include "app/widgets/drawing_view.h"
#include "app/widgets/step.h"
#include "job/in_full.h"
#include "piece/role_words.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

/// A mark whose shape tells the state: ring, ring with cross, square, triangle, diamond, filled square with a tick.
QString state_words(const job::JobPiece& piece) {
    if (!piece::is_made(piece.role)) return piece::words_of(piece.role).brief;
    return piece.stage == "pattern" ? QString("trial pattern") : QString::fromStdString(piece.stage);
}

void draw_stage(QPainter& p, const QPointF& at, const QString& stage) {
    const auto& c = theme().colours();
    const double r = 6;
    p.setPen(QPen(c.certain, 1.5));
    p.setBrush(Qt::NoBrush);
    if (stage == "planned") return p.drawEllipse(at, r, r);
    if (stage == "measured") {
        p.drawEllipse(at, r, r);
        p.drawLine(at - QPointF(3, 0), at + QPointF(3, 0));
        return p.drawLine(at - QPointF(0, 3), at + QPointF(0, 3));
    }
    // A trial pattern: what will be cut, dashed.
    if (stage == "trial pattern") {
        p.setPen(QPen(c.certain, 1.5, Qt::DotLine));
        return p.drawRect(QRectF(at - QPointF(r - 1, r - 1), QSizeF(2 * r - 2, 2 * r - 2)));
    }
    // What stands there already has no stages: hatched.
    if (std::any_of(piece::role_words.begin() + 1, piece::role_words.end(),
                    [&](const auto& words) { return stage == words.brief; })) {
        p.setBrush(QBrush(p.pen().color(), Qt::BDiagPattern));
        return p.drawRect(QRectF(at - QPointF(r, r), QSizeF(2 * r, 2 * r)));
    }
    if (stage == "cut") return p.drawRect(QRectF(at - QPointF(r - 1, r - 1), QSizeF(2 * r - 2, 2 * r - 2)));
    p.setBrush(c.certain);
    if (stage == "tried")
        return p.drawPolygon(QPolygonF{{at + QPointF(0, -r), at + QPointF(r, r - 1), at + QPointF(-r, r - 1)}});
    if (stage == "finished")
        return p.drawPolygon(
            QPolygonF{{at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)}});
    p.drawRect(QRectF(at - QPointF(r - 1, r - 1), QSizeF(2 * r - 2, 2 * r - 2)));
    p.setPen(QPen(c.ground, 1.6));
    p.drawPolyline(QPolygonF{{at + QPointF(-3, 0), at + QPointF(-1, 3), at + QPointF(3.5, -3)}});
}

class PieceDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {180, index.data(PieceListModel::heading_role).toBool() ? 26 : 46};
    }

    /// The name is typed where it stands.
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const override {
        auto* edit = new QLineEdit(parent);
        edit->setAccessibleName("new name");
        edit->setMaxLength(static_cast<int>(units::limit::text.most));
        return edit;
    }
    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override {
        const bool heading = index.data(PieceListModel::heading_role).toBool();
        editor->setGeometry(option.rect.adjusted(heading ? 20 : 56, 1, -8, heading ? 0 : -18));
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto& c = theme().colours();
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QRectF box = option.rect;
        if (index.data(PieceListModel::heading_role).toBool()) {
            p->setFont(Theme::font(size::text_small));
            p->setPen(c.faint);
            const double middle = box.center().y() + 3;
            const bool folded = index.data(PieceListModel::folded_role).toBool();
            p->setBrush(c.faint);
            const QPointF tip(14, middle);
            p->drawPolygon(folded ? QPolygonF{{tip + QPointF(-2, -4), tip + QPointF(3, 0), tip + QPointF(-2, 4)}}
                                  : QPolygonF{{tip + QPointF(-4, -2), tip + QPointF(4, -2), tip + QPointF(0, 3)}});
            const QString count = index.data(PieceListModel::count_role).toString();
            const QRectF words = box.adjusted(24, 6, -34, 0);
            p->drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                        p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight,
                                                    static_cast<int>(words.width())));
            p->drawText(box.adjusted(0, 6, -12, 0), Qt::AlignRight | Qt::AlignVCenter, count);
            p->restore();
            return;
        }
        const bool selected = option.state & QStyle::State_Selected;
        if (selected) {
            p->setPen(Qt::NoPen);
            p->setBrush(c.paper);
            p->drawRoundedRect(box.adjusted(6, 1, -6, -1), size::radius, size::radius);
            p->setBrush(c.accent);
            p->drawRect(QRectF(box.left() + 6, box.top() + 8, 3, box.height() - 16));
        }
        draw_silhouette(*p, QRectF(box.left() + 14, box.top() + 6, 40, 34), index);
        p->setPen(c.ink);
        p->setFont(Theme::font(size::text, selected));
        const QRectF words = box.adjusted(62, 5, -30, -5);
        p->drawText(
            words, Qt::AlignLeft | Qt::AlignTop,
            p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, static_cast<int>(words.width())));
        p->setPen(c.faint);
        p->setFont(Theme::font(size::text_small));
        const QString told = index.data(PieceListModel::id_role).toString() + " · " +
                             index.data(PieceListModel::stage_role).toString();
        p->drawText(words, Qt::AlignLeft | Qt::AlignBottom,
                    p->fontMetrics().elidedText(told, Qt::ElideRight, static_cast<int>(words.width())));
        draw_stage(*p, QPointF(box.right() - 20, box.center().y()),
                   index.data(PieceListModel::stage_role).toString());
        p->restore();
    }

  private:
    static void draw_silhouette(QPainter& p, const QRectF& room, const QModelIndex& index) {
        const auto& c = theme().colours();
        const auto& document = static_cast<const PieceListModel*>(index.model())->document();
        const auto computed = document.computed();
        const auto* result = computed->piece_result(index.data(PieceListModel::id_role).toString());
        const auto* shape = result ? result->shape() : nullptr;
        p.setPen(QPen(shape ? c.ink : c.faint, 1.1, shape ? Qt::SolidLine : Qt::DotLine));
        if (!shape) {
            p.setBrush(Qt::NoBrush);
            return p.drawRect(room.adjusted(6, 6, -6, -6));
        }
        const auto bounds = geometry::bounding_box(shape->face_a.outer);
        const auto* piece = computed->piece(index.data(PieceListModel::id_role).toString());
        const Orientation lies = piece ? orientation_of(piece->plane) : Orientation::upright;
        const QPointF size = on_screen(lies, bounds.size());
        const double scale = std::min(room.width() / std::abs(size.x()), room.height() / std::abs(size.y()));
        const auto at = [&](const Vec2& q) { return room.center() + on_screen(lies, q - bounds.centre()) * scale; };
        p.setBrush(c.wood);
        p.drawPath(path_on_screen(shape->face_a, at));
    }
};

}  // namespace

PieceListModel::PieceListModel(Document& document, QObject* parent)
    : QAbstractListModel(parent), document_(document) {
    connect(&document_, &Document::job_changed, this, &PieceListModel::rebuild);
    connect(&document_, &Document::computed_changed, this, &PieceListModel::rebuild);
    rebuild();
}

void PieceListModel::fold_new_units() {
    for (const auto& unit : document_.job().units) {
        const QString name = QString::fromStdString(unit.name);
        if (known_units_.contains(name)) continue;
        known_units_.insert(name);
        // What is looked at stays in view.
        if (!job::is_of(document_.selected_piece().toStdString(), unit.id)) folded_.insert(name);
    }
}

void PieceListModel::find(const QString& words) {
    words_ = words.trimmed();
    rebuild();
}

void PieceListModel::fold(const QString& group, bool folded) {
    if (folded) folded_.insert(group);
    else folded_.remove(group);
    rebuild();
}

QString PieceListModel::group_of(int row) const {
    for (; row >= 0 && row < rowCount(); --row)
        if (rows_[static_cast<std::size_t>(row)].id.isEmpty()) return rows_[static_cast<std::size_t>(row)].heading;
    return {};
}

void PieceListModel::reveal(const QString& piece_id) {
    const auto* piece = document_.piece(piece_id);
    if (!piece) return;
    const QString group = piece->place.empty() ? QString("Anywhere") : QString::fromStdString(piece->place);
    if (folded_.contains(group)) fold(group, false);
}

int PieceListModel::heading_row(const QString& group) const {
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].id.isEmpty() && rows_[i].heading == group) return static_cast<int>(i);
    return -1;
}

QString PieceListModel::first_of(const QString& group) const {
    for (const auto& p : document_.built().pieces)
        if (QString::fromStdString(p.place) == (group == "Anywhere" ? QString() : group))
            return QString::fromStdString(p.id);
    return {};
}

void PieceListModel::rebuild() {
    fold_new_units();
    std::vector<QString> places;
    const auto& pieces = document_.built().pieces;
    for (const auto& p : pieces)
        if (const auto place = QString::fromStdString(p.place);
            std::find(places.begin(), places.end(), place) == places.end())
            places.push_back(place);
    std::vector<Row> rows;
    for (const auto& place : places) {
        const QString heading = place.isEmpty() ? QString("Anywhere") : place;
        std::vector<Row> within;
        for (const auto& p : pieces) {
            const QString name = QString::fromStdString(p.name), id = QString::fromStdString(p.id);
            if (QString::fromStdString(p.place) == place &&
                (words_.isEmpty() || name.contains(words_, Qt::CaseInsensitive) ||
                 id.contains(words_, Qt::CaseInsensitive)))
                within.push_back({{}, id});
        }
        if (within.empty()) continue;
        const bool folded = words_.isEmpty() && folded_.contains(heading);
        rows.push_back({heading, {}, static_cast<int>(within.size()), folded});
        if (!folded) rows.insert(rows.end(), within.begin(), within.end());
    }
    if (rows == rows_) {
        if (!rows_.empty()) emit dataChanged(index(0), index(rowCount() - 1));
        return;
    }
    beginResetModel();
    rows_ = std::move(rows);
    endResetModel();
}

int PieceListModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant PieceListModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const Row& row = rows_[static_cast<std::size_t>(index.row())];
    if (role == heading_role) return row.id.isEmpty();
    if (role == id_role) return row.id;
    if (role == folded_role) return row.folded;
    if (role == count_role) return row.count;
    const auto* piece = document_.piece(row.id);
    if (role == Qt::DisplayRole || role == Qt::EditRole || role == Qt::AccessibleTextRole)
        return piece ? QString::fromStdString(piece->name) : row.heading;
    if (role == stage_role) return piece ? state_words(*piece) : QString();
    return {};
}

Qt::ItemFlags PieceListModel::flags(const QModelIndex& index) const {
    return index.isValid() && !rows_[static_cast<std::size_t>(index.row())].id.isEmpty()
               ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
               : Qt::ItemIsEnabled | Qt::ItemIsEditable;
}

bool PieceListModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const QString name = value.toString().trimmed();
    if (role != Qt::EditRole || !index.isValid() || name.isEmpty()) return false;
    // Not before the field has closed: the list is made anew by what it changes.
    QMetaObject::invokeMethod(
        this, [this, row = rows_[static_cast<std::size_t>(index.row())], name] { rename(row, name); },
        Qt::QueuedConnection);
    return true;
}

void PieceListModel::rename(const Row& row, const QString& name) {
    if (!row.id.isEmpty())
        return edit_piece(document_, row.id, "Rename a piece",
                          [&](job::JobPiece& p) { p.name = name.toStdString(); });
    const std::string before = row.heading == "Anywhere" ? std::string() : row.heading.toStdString();
    if (folded_.contains(row.heading)) folded_.insert(name);
    document_.edit("Rename a group", [&](job::Job& job) {
        for (auto& unit : job.units)
            if (unit.name == before) unit.name = name.toStdString();
        for (auto& piece : job.pieces)
            if (piece.place == before) piece.place = name.toStdString();
    });
}

int PieceListModel::row_of(const QString& id) const {
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (!id.isEmpty() && rows_[i].id == id) return static_cast<int>(i);
    return -1;
}

PiecesColumn::PiecesColumn(Document& document)
    : document_(document), model_(new PieceListModel(document, this)), list_(new QListView) {
    setObjectName("pieces");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(size::pieces);
    set_up_list();
    find_ = line_that_finds();
    empty_ = words_when_empty();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, size::gap, 1, size::pad);
    column->setSpacing(size::gap);
    auto* find_row = new QHBoxLayout;
    find_row->setContentsMargins(size::pad, 0, size::pad, 0);
    find_row->addWidget(find_);
    column->addLayout(find_row);
    column->addWidget(empty_);
    column->addWidget(list_, 1);
    add_buttons(column);
    connect_all();
    follow_selection();
}

void PiecesColumn::set_up_list() {
    list_->setObjectName("rows");
    list_->setModel(model_);
    list_->setItemDelegate(new PieceDelegate(list_));
    list_->setAccessibleName("pieces");
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    // F2, as one renames anything; a click on what is chosen as well.
    list_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::SelectedClicked);
    list_->setToolTip("F2 renames");
    list_->installEventFilter(this);
}

QWidget* PiecesColumn::words_when_empty() {
    auto* words = new QLabel(
        "No pieces yet.\n\nMeasure first: a piece wants a surface to be scribed to. Then add what you are going to "
        "build.");
    words->setObjectName("small");
    words->setWordWrap(true);
    words->setContentsMargins(size::pad, 0, size::pad, 0);
    return words;
}

QLineEdit* PiecesColumn::line_that_finds() {
    auto* line = new QLineEdit;
    line->setPlaceholderText("find a piece");
    line->setAccessibleName("find a piece");
    line->setClearButtonEnabled(true);
    line->installEventFilter(this);
    return line;
}

void PiecesColumn::add_buttons(QVBoxLayout* column) {
    const auto row = [column] {
        auto* out = new QHBoxLayout;
        out->setContentsMargins(size::pad, 0, size::pad, 0);
        column->addLayout(out);
        return out;
    };
    const auto opens = [this](QHBoxLayout* in, const QString& text, const PanelRequest& panel) {
        auto* b = new QPushButton(text);
        in->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, panel] { emit wants_panel(panel); });
        return b;
    };
    together_ = opens(row(), {}, panel::Together{});
    together_->setToolTip("Group, move, copy, mirror or hide what is chosen (Ctrl T)");
    together_->hide();
    opens(row(), "Add a piece", panel::NewPiece{});
    auto* more = row();
    const auto quiet = [&](const QString& text, const QString& tip, const PanelRequest& panel) {
        auto* b = opens(more, text, panel);
        b->setObjectName("quiet");
        b->setToolTip(tip);
    };
    quiet("in the way", "Stringers, pipes and the like that pieces are cut around", panel::Obstacles{});
    quiet("room for people", "What people want of the finished inside, and what there is", panel::Room{});
}

void PiecesColumn::connect_all() {
    connect(list_, &QListView::activated, this, &PiecesColumn::opened);
    connect(list_, &QListView::clicked, this, &PiecesColumn::heading_clicked);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& now) {
        const QString id = now.data(PieceListModel::id_role).toString();
        // A row that Control takes away from the chosen ones is not what is looked at.
        if (id.isEmpty() || !list_->selectionModel()->isSelected(now)) return;
        // The rows are chosen by whoever moved here: they are told after.
        const bool was = std::exchange(following_, true);
        document_.select_piece(id);
        following_ = was;
    });
    connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &PiecesColumn::take_chosen);
    connect(find_, &QLineEdit::textChanged, model_, &PieceListModel::find);
    connect(&document_, &Document::selection_changed, this, [this] {
        model_->reveal(document_.selected_piece());
        follow_selection();
    });
    connect(model_, &QAbstractItemModel::modelReset, this, &PiecesColumn::follow_selection);
}

void PiecesColumn::follow_selection() {
    constexpr std::size_t seen_at_once = 12;
    find_->setVisible(document_.built().pieces.size() > seen_at_once);
    empty_->setVisible(model_->rowCount() == 0);
    const auto& together = document_.together();
    together_->setVisible(!together.empty());
    together_->setText(QString("%1 pieces at once…").arg(together.size()));
    const int row = model_->row_of(document_.selected_piece());
    if (row < 0 || following_) return;
    following_ = true;
    if (list_->currentIndex().row() != row) list_->setCurrentIndex(model_->index(row));
    if (!together.empty()) {
        QItemSelection rows;
        for (const auto& id : together)
            if (const int at = model_->row_of(QString::fromStdString(id)); at >= 0)
                rows.select(model_->index(at), model_->index(at));
        list_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect);
    } else if (list_->selectionModel()->selectedIndexes().size() > 1) {
        list_->selectionModel()->select(model_->index(row), QItemSelectionModel::ClearAndSelect);
    }
    following_ = false;
}

void PiecesColumn::take_chosen() {
    if (following_) return;
    std::vector<std::string> ids;
    for (const QModelIndex& at : list_->selectionModel()->selectedIndexes())
        if (const QString id = at.data(PieceListModel::id_role).toString(); !id.isEmpty())
            ids.push_back(id.toStdString());
    following_ = true;
    // A click makes a row current before it is chosen: only now it is both.
    const QString now = list_->currentIndex().data(PieceListModel::id_role).toString();
    const bool looked_at = std::find(ids.begin(), ids.end(), now.toStdString()) != ids.end();
    document_.choose_together(std::move(ids));
    if (looked_at) document_.select_piece(now);
    following_ = false;
}

bool PiecesColumn::go(const QModelIndex& to, Qt::KeyboardModifiers keys) {
    if (keys & Qt::ShiftModifier) list_->selectionModel()->setCurrentIndex(to, QItemSelectionModel::Select);
    else list_->setCurrentIndex(to);
    return true;
}

void PiecesColumn::heading_clicked(const QModelIndex& index) {
    if (!index.data(PieceListModel::heading_role).toBool()) return;
    const QString group = model_->group_of(index.row());
    if (!model_->folded(group)) return model_->fold(group, true);
    model_->fold(group, false);
    document_.select_piece(model_->first_of(group));
}

/// Left folds the group that one stands in, right unfolds it; letters go to the line that finds.
bool PiecesColumn::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return false;
    auto* press = static_cast<QKeyEvent*>(event);
    const int key = press->key();
    if (watched == find_) {
        if (key == Qt::Key_Escape && !find_->text().isEmpty()) {
            find_->clear();
            return true;
        }
        if (key != Qt::Key_Return && key != Qt::Key_Enter && key != Qt::Key_Down) return false;
        for (int row = 0; row < model_->rowCount(); ++row)
            if (const QString id = model_->index(row).data(PieceListModel::id_role).toString(); !id.isEmpty()) {
                document_.select_piece(id);
                list_->setFocus();
                break;
            }
        return true;
    }
    if (key == Qt::Key_Up || key == Qt::Key_Down) {
        // From piece to piece; the headings of folded groups are stops as well.
        const int way = key == Qt::Key_Down ? 1 : -1;
        int row = list_->currentIndex().row() + way;
        const auto stop = [&](const QModelIndex& at) {
            return !at.data(PieceListModel::heading_role).toBool() || at.data(PieceListModel::folded_role).toBool();
        };
        while (row >= 0 && row < model_->rowCount() && !stop(model_->index(row))) row += way;
        return row < 0 || row >= model_->rowCount() || go(model_->index(row), press->modifiers());
    }
    if (key == Qt::Key_Left || key == Qt::Key_Right) {
        const QString group = model_->group_of(std::max(0, list_->currentIndex().row()));
        model_->fold(group, key == Qt::Key_Left);
        if (key == Qt::Key_Left) list_->setCurrentIndex(model_->index(model_->heading_row(group)));
        else if (list_->currentIndex().data(PieceListModel::heading_role).toBool())
            document_.select_piece(model_->first_of(group));
        return true;
    }
    const QString letters = press->text();
    if (find_->isVisible() && !letters.isEmpty() && letters.front().isLetterOrNumber() &&
        !(press->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
        find_->setFocus();
        find_->setText(letters);
        return true;
    }
    return false;
}

}  // namespace bevelsmith::app

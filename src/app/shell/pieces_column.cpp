#include "app/shell/pieces_column.h"

#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/look/theme.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {
namespace {

/// A mark whose shape tells the state: ring, ring with cross, square, triangle, diamond, filled square with a tick.
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

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto& c = theme().colours();
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QRectF box = option.rect;
        if (index.data(PieceListModel::heading_role).toBool()) {
            p->setFont(Theme::font(size::text_small));
            p->setPen(c.faint);
            p->drawText(box.adjusted(12, 6, -8, 0), Qt::AlignLeft | Qt::AlignVCenter, index.data().toString());
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
        p->drawText(words, Qt::AlignLeft | Qt::AlignBottom,
                    index.data(PieceListModel::id_role).toString() + " · " +
                        index.data(PieceListModel::stage_role).toString());
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

void PieceListModel::rebuild() {
    std::vector<QString> places;
    const auto& pieces = document_.built().pieces;
    for (const auto& p : pieces)
        if (const auto place = QString::fromStdString(p.place);
            std::find(places.begin(), places.end(), place) == places.end())
            places.push_back(place);
    std::vector<Row> rows;
    for (const auto& place : places) {
        rows.push_back({place.isEmpty() ? "Anywhere" : place, {}});
        for (const auto& p : pieces)
            if (QString::fromStdString(p.place) == place) rows.push_back({{}, QString::fromStdString(p.id)});
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
    const auto* piece = document_.piece(row.id);
    if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole)
        return piece ? QString::fromStdString(piece->name) : row.heading;
    if (role == stage_role) return piece ? QString::fromStdString(piece->stage) : QString();
    return {};
}

Qt::ItemFlags PieceListModel::flags(const QModelIndex& index) const {
    return index.isValid() && !rows_[static_cast<std::size_t>(index.row())].id.isEmpty()
               ? Qt::ItemIsEnabled | Qt::ItemIsSelectable
               : Qt::NoItemFlags;
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
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, size::gap, 1, size::pad);
    column->setSpacing(size::gap);
    list_->setObjectName("rows");
    list_->setModel(model_);
    list_->setItemDelegate(new PieceDelegate(list_));
    list_->setAccessibleName("pieces");
    list_->setSelectionMode(QAbstractItemView::SingleSelection);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* words = new QLabel(
        "No pieces yet.\n\nMeasure first: a piece wants a surface to be scribed to. Then add what you are going to "
        "build.");
    words->setObjectName("small");
    words->setWordWrap(true);
    words->setContentsMargins(size::pad, 0, size::pad, 0);
    empty_ = words;
    column->addWidget(empty_);
    column->addWidget(list_, 1);
    auto* add = new QPushButton("Add a piece");
    auto* row = new QHBoxLayout;
    row->setContentsMargins(size::pad, 0, size::pad, 0);
    row->addWidget(add);
    column->addLayout(row);
    connect(add, &QPushButton::clicked, this, [this] { emit wants_sheet("new piece"); });
    connect(list_, &QListView::activated, this, &PiecesColumn::opened);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& now) {
        const QString id = now.data(PieceListModel::id_role).toString();
        if (!id.isEmpty()) document_.select_piece(id);
    });
    const auto follow = [this] {
        const int row_now = model_->row_of(document_.selected_piece());
        empty_->setVisible(model_->rowCount() == 0);
        if (row_now >= 0 && list_->currentIndex().row() != row_now) list_->setCurrentIndex(model_->index(row_now));
    };
    connect(&document_, &Document::selection_changed, this, follow);
    connect(model_, &QAbstractItemModel::modelReset, this, follow);
    follow();
}

}  // namespace bevelsmith::app

#include "app/cut/layouts_panel.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

#include "app/look/theme.h"
#include "app/widgets/drawing_view.h"
#include "job/kept_layouts.h"
#include "job/sheet_count.h"

namespace bevelsmith::app {
namespace {

constexpr int most_names = 20;

QString figures(const Document& document, const job::SheetResult& result, const sheets::Layout& layout) {
    const auto& problem = *result.problem;
    double last = 0;
    const int sheets = static_cast<int>(layout.sheet_stock.size());
    for (const auto& at : layout.placements)
        if (at.sheet == sheets - 1)
            last = std::max(last, geometry::bounding_box(sheets::placed(problem, at).outer).max.x());
    return QString("%1, %2 % used\nthe last one cut as far as %3")
        .arg(QString::fromStdString(job::in_words(job::sheet_count(result, layout))))
        .arg(100 * layout.utilisation, 0, 'f', 1)
        .arg(document.length(last));
}

}  // namespace

LayoutPicture::LayoutPicture() {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setMinimumHeight(260);
}

void LayoutPicture::show_layout(std::shared_ptr<const sheets::Problem> problem,
                                std::shared_ptr<const sheets::Layout> layout) {
    problem_ = std::move(problem);
    layout_ = std::move(layout);
    update();
}

void LayoutPicture::paintEvent(QPaintEvent*) {
    if (!layout_ || layout_->sheet_stock.empty()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    const int n = static_cast<int>(layout_->sheet_stock.size());
    Vec2 size(1, 1);
    const auto sheet_of = [&](int s) -> const geometry::Polygon& {
        return problem_->stock[static_cast<std::size_t>(layout_->sheet_stock[static_cast<std::size_t>(s)])].shape;
    };
    for (int s = 0; s < n; ++s) size = size.cwiseMax(geometry::bounding_box(sheet_of(s).outer).max);
    // As many columns as let the sheets be largest.
    constexpr double between_px = 6;
    double scale = 0;
    int columns = 1;
    for (int k = 1; k <= n; ++k) {
        const int rows = (n + k - 1) / k;
        const double fits = std::min((width() - 2 - between_px * (k - 1)) / (k * size.x()),
                                     (height() - 2 - between_px * (rows - 1)) / (rows * size.y()));
        if (fits > scale) scale = fits, columns = k;
    }
    const auto at = [&](int s, const Vec2& mm) {
        return QPointF(1 + (s % columns) * (size.x() * scale + between_px) + mm.x() * scale,
                       1 + (s / columns) * (size.y() * scale + between_px) + (size.y() - mm.y()) * scale);
    };
    for (int s = 0; s < n; ++s) {
        p.setPen(QPen(c.faint, 0.8));
        p.setBrush(c.field);
        p.drawPath(path_on_screen(sheet_of(s), [&](const Vec2& mm) { return at(s, mm); }));
    }
    p.setPen(QPen(c.ink, 0.6));
    p.setBrush(c.wood);
    for (const auto& placement : layout_->placements)
        p.drawPath(path_on_screen(sheets::placed(*problem_, placement),
                                  [&](const Vec2& mm) { return at(placement.sheet, mm); }));
}

LayoutsPanel::LayoutsPanel(Document& document, std::string material_id)
    : SidePanel(document, "Layouts side by side"), material_id_(std::move(material_id)) {
    setFixedWidth(wide);
    empty_ = panel_->words(
        "No layout is kept beside the one in use yet. Keep it here, look for a better one or move "
        "parts by hand in Cut, and compare.");
    beside_ = new QWidget;
    auto* columns = new QHBoxLayout(beside_);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(size::pad);
    const auto column = [&](LayoutPicture*& picture, QLabel*& words, QWidget* head, const QString& name) {
        auto* rows = new QVBoxLayout;
        rows->setSpacing(size::gap);
        constexpr int head_px = 32;  // one height, so that the pictures stand level
        head->setFixedHeight(head_px);
        rows->addWidget(head);
        picture = new LayoutPicture;
        picture->setAccessibleName(name);
        rows->addWidget(picture, 1);
        words = new QLabel;
        words->setWordWrap(true);
        rows->addWidget(words);
        columns->addLayout(rows, 1);
    };
    column(now_, now_words_, new QLabel("in use"), "the layout in use");
    which_ = new QComboBox;
    which_->setAccessibleName("kept layout");
    column(other_, other_words_, which_, "the kept layout");
    panel_->add(beside_, 1);
    auto* row = new QHBoxLayout;
    keep_ = new QPushButton("Keep the one in use");
    forget_ = new QPushButton("Forget the kept one");
    for (auto* b : {keep_, forget_}) b->setObjectName("quiet"), row->addWidget(b);
    row->addStretch(1);
    panel_->column()->addLayout(row);
    panel_->end();
    act_ = panel_->act("Use the kept one");
    connect(which_, &QComboBox::activated, this, &LayoutsPanel::refresh);
    connect(keep_, &QPushButton::clicked, this, [this] {
        const auto* r = result();
        if (!r) return;
        const auto computed = *r;
        std::string name;
        document_.edit("Keep a layout to compare", [&](job::Job& job) { name = job::keep_beside(job, computed); });
        refresh();
        which_->setCurrentIndex(static_cast<int>(std::find(names_.begin(), names_.end(), name) - names_.begin()));
        refresh();
    });
    connect(forget_, &QPushButton::clicked, this, [this] {
        document_.edit("Forget a layout", [&](job::Job& job) { job::forget_layout(job, material_id_, chosen()); });
    });
    connect(act_, &QPushButton::clicked, this, [this] {
        document_.edit("Use a kept layout", [&](job::Job& job) { job::take_up(job, material_id_, chosen()); });
    });
    connect(&document_, &Document::job_changed, this, &LayoutsPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &LayoutsPanel::refresh);
    refresh();
}

const job::SheetResult* LayoutsPanel::result() const {
    for (const auto& s : document_.computed()->results.sheets)
        if (s.material_id == material_id_ && s.layout && !s.layout->sheet_stock.empty()) return &s;
    return nullptr;
}

std::string LayoutsPanel::chosen() const {
    const int k = which_->currentIndex();
    return k >= 0 && k < static_cast<int>(names_.size()) ? names_[static_cast<std::size_t>(k)] : std::string();
}

void LayoutsPanel::refresh() {
    const std::string before = chosen();
    names_.clear();
    which_->clear();
    for (const auto& l : document_.job().layouts)
        if (l.material_id == material_id_ && !l.in_use && static_cast<int>(names_.size()) < most_names) {
            names_.push_back(l.name);
            which_->addItem(QString::fromStdString(l.name));
        }
    const auto it = std::find(names_.begin(), names_.end(), before);
    which_->setCurrentIndex(it != names_.end() ? static_cast<int>(it - names_.begin())
                                               : static_cast<int>(names_.size()) - 1);
    const auto* r = result();
    now_->show_layout(r ? r->problem : nullptr, r ? r->layout : nullptr);
    now_words_->setText(r ? figures(document_, *r, *r->layout) : QString("nothing is laid out"));
    std::shared_ptr<const sheets::Layout> other;
    QString words;
    for (const auto& l : document_.job().layouts)
        if (r && l.material_id == material_id_ && !l.in_use && l.name == chosen()) {
            const auto layout = job::kept_layout(l, *r);
            if (layout) other = std::make_shared<const sheets::Layout>(*layout);
            words = layout ? figures(document_, *r, *layout)
                           : "It no longer holds: " + QString::fromStdString(layout.error().message) + ".";
        }
    other_->show_layout(r ? r->problem : nullptr, other);
    other_words_->setText(words);
    empty_->setVisible(names_.empty());
    which_->setVisible(!names_.empty());
    keep_->setEnabled(r != nullptr);
    forget_->setEnabled(!names_.empty());
    act_->setEnabled(other != nullptr);
}

}  // namespace bevelsmith::app

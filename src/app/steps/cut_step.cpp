// Cut: parts on sheets, what is left of each, and the search for better layouts.
#include <QComboBox>
#include <QKeyEvent>
#include <QProgressBar>
#include <algorithm>
#include <cmath>

#include "app/document/nest_search.h"
#include "app/look/theme.h"
#include "app/steps/step.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {
namespace {

constexpr double search_seconds = 10;

/// The material shown, its sheets as they are, and the part that is held.
class CutState : public QObject {
    Q_OBJECT
  public:
    explicit CutState(Document& d) : document(d) {
        connect(&document, &Document::computed_changed, this, &CutState::renew);
        renew();
    }
    Document& document;
    const job::SheetResult* result() const {
        for (const auto& s : held_->results.sheets)
            if (s.material_id == material_) return &s;
        return nullptr;
    }
    const job::JobMaterial* material() const { return job::find_material(held_->job, material_); }
    const Computed& computed() const { return *held_; }
    void show_material(const std::string& id) {
        material_ = id;
        emit changed();
    }
    /// Placements as drawn: the layout's, with the held part where it has been moved to.
    std::vector<sheets::Placement> placements;
    int held = -1;
    QString refusal;  ///< why the last move was not taken

    void settle_placements() {
        placements.clear();
        held = -1;
        if (const auto* r = result()) placements = r->layout->placements;
    }

  signals:
    void changed();

  private:
    void renew() {
        held_ = document.computed();
        if (!result())
            material_ = held_->results.sheets.empty() ? std::string() : held_->results.sheets.front().material_id;
        settle_placements();
        emit changed();
    }
    std::shared_ptr<const Computed> held_;
    std::string material_;
};

/// All sheets, one under the other, seen from above.
class SheetDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit SheetDrawing(CutState& state) : state_(state) {
        margin_px = 48;
        connect(&state_, &CutState::changed, this, [this] { content_changed(); });
    }

  protected:
    QString empty_words() const override {
        return "Nothing to cut yet.\n\nWhen a piece has an outline, its parts are laid on sheets of its material "
               "here: with the grain, good face up, "
               "with room for the cutter.";
    }
    geometry::Box content() const override {
        const auto* r = state_.result();
        if (!r) return {};
        const auto size = sheet_size();
        const auto n = std::max<std::size_t>(1, r->layout->sheet_stock.size());
        return {{0, -(static_cast<double>(n - 1) * step())}, size};
    }
    void draw(Pencil& pencil) override;
    bool press(const Vec2& mm) override;
    void drag(const Vec2& mm) override;
    void release(const Vec2& mm) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Vec2 sheet_size() const {
        const auto box = geometry::bounding_box(state_.result()->problem->stock.front().shape.outer);
        return box.size();
    }
    double step() const { return sheet_size().y() + 160; }
    Vec2 sheet_origin(int sheet) const { return {0, -sheet * step()}; }
    geometry::Polygon shape_at(const sheets::Placement& at) const {
        return geometry::transformed(sheets::placed(*state_.result()->problem, at), 0, sheet_origin(at.sheet));
    }
    int part_at(const Vec2& mm) const;
    void keep_if_valid();

    CutState& state_;
    Vec2 grip_{0, 0};
    sheets::Placement before_;
};

void SheetDrawing::draw(Pencil& pencil) {
    const auto* r = state_.result();
    if (!r) return;
    const auto& c = theme().colours();
    const auto* material = state_.material();
    for (int s = 0; s < static_cast<int>(r->layout->sheet_stock.size()); ++s) {
        const Vec2 origin = sheet_origin(s), size = sheet_size();
        const geometry::Polygon sheet{geometry::rectangle({origin, origin + size}), {}};
        pencil.painter().setPen(Qt::NoPen);
        pencil.fill(c.field);
        pencil.polygon(sheet);
        QColor hatch = c.line;
        pencil.fill(QBrush(hatch, Qt::BDiagPattern));
        pencil.polygon(sheet);
        pencil.fill(Qt::NoBrush);
        pencil.pen(c.ink, 1.4);
        pencil.polygon(sheet);
        pencil.pen(c.faint, 1);
        pencil.text(origin + Vec2(0, size.y()), QString("Sheet %1").arg(s + 1), {28, -11}, size::text, true, false);
        if (material && material->has_grain)
            pencil.text(origin + Vec2(size.x(), size.y()), "grain ↔", {-28, -11}, size::text_small, false, false);
    }
    const int selected = state_.held;
    for (std::size_t k = 0; k < state_.placements.size(); ++k) {
        const auto& at = state_.placements[k];
        const auto shape = shape_at(at);
        const bool mine = r->problem->parts[static_cast<std::size_t>(at.part)].id.starts_with(
            state_.document.selected_piece().toStdString());
        pencil.painter().setPen(Qt::NoPen);
        pencil.fill(c.wood);
        pencil.polygon(shape);
        pencil.fill(Qt::NoBrush);
        if (material && material->has_grain) pencil.grain(shape, 0, c.ink);
        pencil.pen(static_cast<int>(k) == selected || mine ? c.accent : c.ink, static_cast<int>(k) == selected ? 2.6
                                                                               : mine                          ? 2
                                                                                                               : 1.4);
        pencil.polygon(shape);
        // Where there is wood: the middle of a C-shaped half is its doorway.
        Vec2 label = geometry::centroid(shape);
        if (!geometry::contains(shape, label)) {
            const auto box = geometry::bounding_box(shape.outer);
            for (int i = 1; i < 12; ++i)
                for (const double y : {0.5, 0.35, 0.65, 0.2, 0.8}) {
                    const Vec2 q = box.min + Vec2(box.width() * i / 12, box.height() * y);
                    if (geometry::contains(shape, q) && (!geometry::contains(shape, label) ||
                                                         (q - box.centre()).norm() < (label - box.centre()).norm()))
                        label = q;
                }
        }
        pencil.pen(c.ink, 1);
        pencil.text(label, QString::fromStdString(r->problem->parts[static_cast<std::size_t>(at.part)].id), {0, 0},
                    size::text, true, false);
    }
    pencil.painter().setFont(Theme::font(size::text_small));
    pencil.painter().setPen(state_.refusal.isEmpty() ? c.faint : c.stop);
    pencil.painter().drawText(
        QRectF(16, 8, width() - 32, 18), Qt::AlignLeft,
        state_.refusal.isEmpty() ? "drag a part to move it, R turns it; good face up" : state_.refusal);
}

int SheetDrawing::part_at(const Vec2& mm) const {
    for (std::size_t k = 0; k < state_.placements.size(); ++k)
        if (geometry::contains(shape_at(state_.placements[k]), mm)) return static_cast<int>(k);
    return -1;
}

bool SheetDrawing::press(const Vec2& mm) {
    if (!state_.result() || state_.computed().results.sheets_pending) return false;
    state_.held = part_at(mm);
    state_.refusal.clear();
    update();
    if (state_.held < 0) return false;
    before_ = state_.placements[static_cast<std::size_t>(state_.held)];
    grip_ = mm - before_.shift - sheet_origin(before_.sheet);
    const auto& id = state_.result()->problem->parts[static_cast<std::size_t>(before_.part)].id;
    state_.document.select_piece(QString::fromStdString(id.substr(0, id.find('/'))));
    return true;
}

void SheetDrawing::drag(const Vec2& mm) {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    const int last = static_cast<int>(state_.result()->layout->sheet_stock.size()) - 1;
    at.sheet = std::clamp(static_cast<int>(std::floor((sheet_size().y() + 80 - mm.y()) / step())), 0, last);
    at.shift = mm - grip_ - sheet_origin(at.sheet);
    update();
}

void SheetDrawing::release(const Vec2&) {
    keep_if_valid();
}

void SheetDrawing::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_R || state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size()))
        return DrawingView::keyPressEvent(event);
    before_ = state_.placements[static_cast<std::size_t>(state_.held)];
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    const auto& allowed = state_.result()->problem->parts[static_cast<std::size_t>(at.part)].rotations_deg;
    const auto now = std::find(allowed.begin(), allowed.end(), at.rotation_deg);
    const auto centre = geometry::bounding_box(sheets::placed(*state_.result()->problem, at).outer).centre();
    at.rotation_deg = now == allowed.end() || now + 1 == allowed.end() ? allowed.front() : *(now + 1);
    at.shift += centre - geometry::bounding_box(sheets::placed(*state_.result()->problem, at).outer).centre();
    keep_if_valid();
}

void SheetDrawing::keep_if_valid() {
    if (state_.held < 0 || state_.held >= static_cast<int>(state_.placements.size())) return;
    auto& at = state_.placements[static_cast<std::size_t>(state_.held)];
    if (at == before_) return;
    sheets::Layout moved = *state_.result()->layout;
    moved.placements = state_.placements;
    if (const auto wrong = sheets::violations(*state_.result()->problem, moved); !wrong.empty()) {
        state_.refusal = "It cannot lie there: " + QString::fromStdString(wrong.front());
        at = before_;
        return update();
    }
    const auto lock = job::lock_layout(*state_.result(), moved);
    state_.document.edit("Move a part on its sheet", [&](job::Job& job) {
        std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == lock.material_id; });
        job.layouts.push_back(lock);
    });
}

/// Sheets in order, with how full each is.
class SheetRibbon : public QWidget {
    Q_OBJECT
  public:
    explicit SheetRibbon(CutState& state) : state_(state) {
        connect(&state_, &CutState::changed, this, qOverload<>(&QWidget::update));
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const auto& c = theme().colours();
        p.setFont(Theme::font(size::text_small));
        p.setPen(c.faint);
        p.drawText(QRectF(12, 8, 84, 46), Qt::TextWordWrap, "sheets in order, what is left");
        double x = 104;
        for (const auto& r : state_.computed().results.sheets) {
            const auto* material = job::find_material(state_.computed().job, r.material_id);
            for (int s = 0; s < static_cast<int>(r.layout->sheet_stock.size()); ++s) {
                const double whole = geometry::area_mm2(
                    r.problem->stock[static_cast<std::size_t>(r.layout->sheet_stock[static_cast<std::size_t>(s)])]
                        .shape);
                double used = 0;
                for (const auto& at : r.layout->placements)
                    if (at.sheet == s)
                        used += geometry::area_mm2(r.problem->parts[static_cast<std::size_t>(at.part)].shape);
                const QRectF box(x, 26, 108, 48);
                p.fillRect(box, QBrush(c.line, Qt::BDiagPattern));
                p.fillRect(QRectF(x, 26, 108 * used / whole, 48), c.wood);
                p.setPen(QPen(r.material_id == state_.result()->material_id ? c.accent : c.ink, 1.4));
                p.drawRect(box);
                p.setPen(c.ink);
                p.drawText(QRectF(x, 8, 108, 16), Qt::AlignLeft,
                           p.fontMetrics().elidedText(material ? QString::fromStdString(material->name) : QString(),
                                                      Qt::ElideMiddle, 108));
                p.drawText(box.adjusted(4, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
                           QString("%1: %2 %").arg(s + 1).arg(100 * used / whole, 0, 'f', 0));
                p.setPen(c.faint);
                p.drawText(QRectF(x, 78, 120, 16), Qt::AlignLeft,
                           QString("%1 m² left").arg((whole - used) / 1e6, 0, 'f', 2));
                x += 124;
            }
        }
    }

  private:
    CutState& state_;
};

class CutStep : public Step {
    Q_OBJECT
  public:
    explicit CutStep(Document& document) : Step(document, "Cut"), state_(document) {
        stage_ = new SheetDrawing(state_);
        ribbon_ = new SheetRibbon(state_);
        auto* panel = new Panel;
        materials_ = panel->choice("sheets of", {});
        sheets_ = new Figure("sheets");
        used_ = new Figure("used of them, the last up to its last part");
        left_ = new Figure("left as offcuts");
        for (auto* f : {sheets_, used_, left_}) panel->add(f);
        lock_words_ = panel->words({}, false);
        auto* row = new QHBoxLayout;
        search_ = new QPushButton;
        keep_ = new QPushButton;
        for (auto* b : {search_, keep_}) {
            b->setObjectName("quiet");
            row->addWidget(b);
        }
        row->addStretch(1);
        panel->column()->addLayout(row);
        bar_ = new QProgressBar;
        bar_->setTextVisible(false);
        bar_->setFixedHeight(8);
        bar_->hide();
        panel->add(bar_);
        progress_ = panel->words({});
        findings_ = new FindingsBox;
        panel->add(findings_);
        form_ = new_form();
        panel->add(form_);
        panel->end();
        act_ = panel->act("Papers to cut from");
        facts_ = panel;
        connect(materials_, &QComboBox::activated, this, [this](int k) {
            state_.show_material(state_.computed().results.sheets[static_cast<std::size_t>(k)].material_id);
            state_.settle_placements();
            emit state_.changed();
        });
        connect(search_, &QPushButton::clicked, this, &CutStep::search);
        connect(keep_, &QPushButton::clicked, this, &CutStep::keep);
        connect(act_, &QPushButton::clicked, this, [this] {
            if (state_.result()) emit wants_sheet("papers");
            else emit wants_step("Pieces");
        });
        connect(&nest_, &NestSearch::progressed, this, [this](double share, int sheets, double used) {
            bar_->setValue(static_cast<int>(share * 100));
            progress_->setText(QString("best so far: %1 sheets, %2 % used").arg(sheets).arg(100 * used, 0, 'f', 1));
        });
        connect(&nest_, &NestSearch::finished, this, &CutStep::take);
        connect(&state_, &CutState::changed, this, &CutStep::refresh);
        refresh();
    }
    QString count() const override {
        std::size_t n = 0;
        for (const auto& s : document_.computed()->results.sheets) n += s.layout->sheet_stock.size();
        return n == 0 ? QString() : n == 1 ? "1 sheet" : QString("%1 sheets").arg(n);
    }

  private:
    void search() {
        if (nest_.running()) return nest_.stop();
        const auto* r = state_.result();
        if (!r) return;
        sought_ = *r;
        bar_->setValue(0);
        bar_->show();
        progress_->setText("looking for a better layout");
        nest_.start(r->problem, search_seconds, document_.job().cutting.seed + 1);
        refresh();
    }

    void take(const std::shared_ptr<const sheets::Layout>& layout) {
        bar_->hide();
        const auto* r = state_.result();
        const auto better = [](const sheets::Layout& a, const sheets::Layout& b) {
            if (a.unplaced.size() != b.unplaced.size()) return a.unplaced.size() < b.unplaced.size();
            if (a.sheet_stock.size() != b.sheet_stock.size()) return a.sheet_stock.size() < b.sheet_stock.size();
            return a.utilisation > b.utilisation + 1e-9;
        };
        if (!r || r->material_id != sought_.material_id || !(*r->problem == *sought_.problem)) {
            progress_->setText("The parts have changed since the search began; its layout was let go.");
        } else if (!layout->unplaced.empty() || !better(*layout, *r->layout)) {
            progress_->setText("Nothing better was found.");
        } else {
            progress_->setText(QString("Found %1 sheets, %2 % used, and kept it.")
                                   .arg(layout->sheet_stock.size())
                                   .arg(100 * layout->utilisation, 0, 'f', 1));
            keep_layout(*r, *layout);
        }
        refresh();
    }

    void keep_layout(const job::SheetResult& result, const sheets::Layout& layout) {
        const auto lock = job::lock_layout(result, layout);
        document_.edit("Keep a layout", [&](job::Job& job) {
            std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == lock.material_id; });
            job.layouts.push_back(lock);
        });
    }

    void keep() {
        const auto* r = state_.result();
        if (!r) return;
        if (!r->locked && r->broken_lock.empty()) return keep_layout(*r, *r->layout);
        document_.edit("Let a layout go", [id = r->material_id](job::Job& job) {
            std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == id; });
        });
    }

    void refresh() {
        const auto* r = state_.result();
        QStringList names;
        int now = -1;
        for (const auto& s : state_.computed().results.sheets) {
            if (s.material_id == (r ? r->material_id : "")) now = static_cast<int>(names.size());
            const auto* m = job::find_material(state_.computed().job, s.material_id);
            names << (m ? QString::fromStdString(m->name) : QString());
        }
        materials_->clear();
        materials_->addItems(names);
        materials_->setCurrentIndex(now);
        for (QWidget* w : std::initializer_list<QWidget*>{sheets_, used_, left_, search_, keep_, lock_words_})
            w->setVisible(r != nullptr);
        act_->setText(r ? "Papers to cut from" : "Give a piece an outline first");
        std::vector<review::Finding> about;
        for (const auto& f : state_.computed().findings)
            if (f.check == "sheet too small") about.push_back(f);
        findings_->show_findings(about);
        show_rules();
        if (!r) return;
        double whole = 0, used = 0;
        for (int s : r->layout->sheet_stock)
            whole += geometry::area_mm2(r->problem->stock[static_cast<std::size_t>(s)].shape);
        for (const auto& at : r->layout->placements)
            used += geometry::area_mm2(r->problem->parts[static_cast<std::size_t>(at.part)].shape);
        sheets_->show_value(QString::number(r->layout->sheet_stock.size()),
                            r->layout->unplaced.empty()
                                ? ""
                                : QString("and %1 parts without a place").arg(r->layout->unplaced.size()),
                            {});
        used_->show_value(QString::number(100 * r->layout->utilisation, 'f', 1), "%",
                          "Area of the parts over the area of the sheets; the last sheet counts only up to the "
                          "upright line that clears its parts.");
        left_->show_value(QString::number((whole - used) / 1e6, 'f', 2), "m²",
                          "Keep it with its shape: the next small part may come from it.");
        const auto* m = state_.material();
        const bool pending = state_.computed().results.sheets_pending;
        QString words = pending     ? "Being laid out anew; what is drawn is the layout before."
                        : r->locked ? "This layout is kept: it stays while the parts do."
                                    : "Laid out anew whenever a part changes.";
        if (!r->broken_lock.empty())
            words = "The kept layout no longer holds: " + QString::fromStdString(r->broken_lock);
        if (m && m->sheets_in_stock >= 0) words += QString(" %1 sheets are in stock.").arg(m->sheets_in_stock);
        lock_words_->setText(words);
        search_->setText(nest_.running() ? "Stop" : "Look for better");
        keep_->setEnabled(!pending);
        search_->setEnabled(!pending || nest_.running());
        keep_->setText(r->locked || !r->broken_lock.empty() ? "Let it go" : "Keep this layout");
    }

    void show_rules() {
        using Kind = FormField::Kind;
        const auto& cutting = document_.job().cutting;
        std::vector<FormField> out{{Kind::heading, "Cutting", {}, {}, {}, {}},
                                   {Kind::length,
                                    "between parts",
                                    cutting.spacing_mm,
                                    [this](const QVariant& v) {
                                        document_.edit("Change the spacing",
                                                       [&](job::Job& j) { j.cutting.spacing_mm = v.toDouble(); });
                                    },
                                    {},
                                    {},
                                    0,
                                    200},
                                   {Kind::length,
                                    "sheet's edge left",
                                    cutting.edge_margin_mm,
                                    [this](const QVariant& v) {
                                        document_.edit("Change the edge left",
                                                       [&](job::Job& j) { j.cutting.edge_margin_mm = v.toDouble(); });
                                    },
                                    {},
                                    {},
                                    0,
                                    200}};
        if (const auto* m = state_.material()) {
            out.push_back({Kind::heading, "The sheet", {}, {}, {}, {}});
            const auto number = [&](Kind kind, const QString& label, double stock::SheetMaterial::*member,
                                    double least, double most, const QString& unit = {}) {
                out.push_back({kind,
                               label,
                               job::find_material(document_.job(), m->id)
                                   ? job::find_material(document_.job(), m->id)->*member
                                   : 0.0,
                               [this, id = m->id, member](const QVariant& v) {
                                   document_.edit("Change a sheet", [&](job::Job& j) {
                                       for (auto& material : j.materials)
                                           if (material.id == id) material.*member = v.toDouble();
                                   });
                               },
                               {},
                               unit,
                               least,
                               most});
            };
            number(Kind::length, "thickness, measured", &stock::SheetMaterial::thickness_mm, 0.5, 200);
            number(Kind::length, "along the grain", &stock::SheetMaterial::sheet_width_mm, 10, 1e5);
            number(Kind::length, "across the grain", &stock::SheetMaterial::sheet_height_mm, 10, 1e5);
            number(Kind::number, "density", &stock::SheetMaterial::density_kg_m3, 10, 12000, "kg/m³");
        }
        form_->show_fields(std::move(out));
    }

    CutState state_;
    NestSearch nest_;
    job::SheetResult sought_;
    QComboBox* materials_;
    Figure *sheets_, *used_, *left_;
    QLabel *lock_words_, *progress_;
    QPushButton *search_, *keep_, *act_;
    QProgressBar* bar_;
    FindingsBox* findings_;
    Form* form_;
};

}  // namespace

std::unique_ptr<Step> make_cut_step(Document& document) {
    return std::make_unique<CutStep>(document);
}

}  // namespace bevelsmith::app

#include "cut_step.moc"

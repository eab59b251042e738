// Cut: parts on sheets, what is left of each, and the search for better layouts.
#include <QComboBox>
#include <QProgressBar>
#include <algorithm>
#include <cmath>

#include "app/cut/choice_fields.h"
#include "app/cut/material_fields.h"
#include "app/cut/part_picture.h"
#include "app/cut/sheet_drawing.h"
#include "app/document/nest_search.h"
#include "app/look/theme.h"
#include "app/widgets/step.h"
#include "job/sheet_count.h"
#include "sheets/guillotine.h"
#include "sheets/separate.h"

namespace bevelsmith::app {
namespace {

constexpr double search_seconds = 10;

QString in_parts(std::size_t count) {
    return count == 1 ? QString("1 part") : QString("%1 parts").arg(count);
}

class CutStep : public Step {
    Q_OBJECT
  public:
    explicit CutStep(Document& document) : Step(document, StepId::cut), state_(document) {
        stage_ = new SheetDrawing(state_);
        ribbon_ = new SheetRibbon(state_);
        auto* panel = new Panel;
        materials_ = panel->choice("sheets of", {});
        materials_->setAccessibleName("sheets of");
        sheets_ = new Figure("sheets");
        used_ = new Figure("of the sheets used, the last as far as it is cut");
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
        part_ = new PartPicture(document_);
        panel->add(part_);
        form_ = new_form();
        panel->add(form_);
        // Under the fields: over them they would push these from under the pointer with every change.
        findings_ = new FindingsBox(document_);
        panel->add(findings_);
        panel->end();
        add_ways_to_sheets(*panel);
        act_ = panel->act("Papers to cut from");
        facts_ = panel;
        connect(materials_, &QComboBox::activated, this,
                [this](int k) { state_.show_material(document_.job().materials[static_cast<std::size_t>(k)].id); });
        connect(search_, &QPushButton::clicked, this, &CutStep::search);
        connect(keep_, &QPushButton::clicked, this, &CutStep::keep);
        connect(act_, &QPushButton::clicked, this, [this] {
            if (state_.result()) emit wants_panel(panel::Papers{});
            else emit wants_step(StepId::pieces);
        });
        connect_search();
        connect(part_, &PartPicture::piece_asked, this, [this] { emit wants_step(StepId::pieces); });
        connect(part_, &PartPicture::boat_asked, this, [this] { emit wants_boat(); });
        connect(&state_, &CutState::changed, this, &CutStep::refresh);
        connect(static_cast<SheetDrawing*>(stage_), &SheetDrawing::piece_asked, this,
                [this] { emit wants_step(StepId::pieces); });
        connect(&document_, &Document::job_changed, this, &CutStep::refresh);
        refresh();
    }
    QString count() const override {
        job::SheetCount all;
        for (const auto& s : document_.computed()->results.sheets) {
            const auto one = job::sheet_count(s);
            all.sheets += one.sheets, all.offcuts += one.offcuts;
        }
        return all.sheets + all.offcuts == 0 ? QString() : QString::fromStdString(job::in_words(all));
    }

  private:
    void connect_search() {
        connect(&nest_, &NestSearch::progressed, this, [this](double share, int sheets, double used) {
            if (abandoned_) return;
            bar_->setValue(static_cast<int>(share * 100));
            progress_->setText(QString("best so far: %1 sheets, %2 % used").arg(sheets).arg(100 * used, 0, 'f', 1));
        });
        connect(&nest_, &NestSearch::bettered, this, [this](const std::shared_ptr<const sheets::Layout>& best) {
            const auto* r = state_.result();
            const bool same = r && r->material_id == sought_.material_id && *r->problem == *sought_.problem;
            if (same && !abandoned_ && nest_.running() && sheets::better(*best, *r->layout)) state_.show_found(best);
        });
        connect(&nest_, &NestSearch::finished, this, &CutStep::take);
        // What is found belongs to the job that it was sought for.
        connect(&document_, &Document::about_to_replace, this, [this] {
            abandoned_ = nest_.running();
            nest_.stop();
            bar_->hide();
            progress_->clear();
            state_.show_found(nullptr);
        });
    }

    void add_ways_to_sheets(Panel& panel) {
        auto* more = new QHBoxLayout;
        const auto opens = [&](const char* words, const std::function<PanelRequest()>& request) {
            auto* b = new QPushButton(words);
            b->setObjectName("quiet");
            more->addWidget(b);
            connect(b, &QPushButton::clicked, this, [this, request] { emit wants_panel(request()); });
        };
        opens("Stock", [] { return panel::Stock{}; });
        opens("Cost and shopping", [] { return panel::Cost{}; });
        opens("Layouts", [this] { return panel::Layouts{state_.material_id()}; });
        more->addStretch(1);
        panel.column()->insertLayout(panel.column()->count(), more);
    }

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
        state_.show_found(nullptr);
        if (std::exchange(abandoned_, false)) return refresh();
        const auto* r = state_.result();
        if (!r || r->material_id != sought_.material_id || !(*r->problem == *sought_.problem)) {
            progress_->setText("The parts have changed since the search began; its layout was let go.");
        } else if (!layout) {
            progress_->setText("The search failed for lack of memory; the layout before stays.");
        } else if (!layout->unplaced.empty() || !sheets::better(*layout, *r->layout)) {
            progress_->setText("Nothing better was found.");
        } else {
            progress_->setText(QString("Found %1, %2 % used, and kept it.")
                                   .arg(QString::fromStdString(job::in_words(job::sheet_count(*r, *layout))))
                                   .arg(100 * layout->utilisation, 0, 'f', 1));
            keep_layout(*r, *layout);
        }
        refresh();
    }

    void keep_layout(const job::SheetResult& result, const sheets::Layout& layout) {
        const auto lock = job::lock_layout(result, layout);
        document_.edit("Keep a layout", [&](job::Job& job) { job::use_layout(job, lock); });
    }

    void keep() {
        const auto* r = state_.result();
        if (!r) return;
        if (!r->locked && r->broken_lock.empty()) return keep_layout(*r, *r->layout);
        document_.edit("Let a layout go", [id = r->material_id](job::Job& job) {
            for (auto& l : job.layouts)
                if (l.material_id == id && l.in_use)
                    std::erase_if(l.placements, [](const auto& at) { return !at.pinned; });
            std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == id && l.placements.empty(); });
        });
    }

    void refresh() {
        const auto* r = state_.result();
        refresh_materials();
        part_->show_part(r && state_.choice.what == CutChoice::What::part ? state_.choice.part_id : std::string());
        sheets_->setVisible(r != nullptr);
        // What a sheet is bought as has nothing to do with how it is laid out, and needs the room.
        const bool bought = state_.choice.what == CutChoice::What::nothing && facts_of_ == 1 && !nest_.running();
        for (QWidget* w : std::initializer_list<QWidget*>{used_, left_, search_, keep_, lock_words_})
            w->setVisible(r != nullptr && !bought);
        act_->setText(r ? "Papers to cut from" : "Give a piece an outline first");
        std::vector<review::Finding> about;
        for (const auto& f : state_.computed().findings)
            if (review::mended_in(f) == review::MendedIn::cut) about.push_back(f);
        // While sheets are on their way nothing is known of them: what was found stays, so that no field moves.
        if (!state_.computed().results.sheets_pending) findings_->show_findings(about);
        show_fields();
        if (r) show_layout(*r);
        // What is chosen keeps the keys when the button that cut it is gone.
        const bool now_cut = state_.choice.what == CutChoice::What::cut_sheet;
        if (now_cut && was_ == CutChoice::What::sheet && stage_->isVisible()) stage_->setFocus();
        was_ = state_.choice.what;
    }

    void show_fields() {
        FieldList fields;
        add_choice_fields(fields, document_, state_);
        if (state_.choice.what == CutChoice::What::nothing) {
            // Without a sheet there is nothing to rule over.
            const int now = document_.job().materials.empty() ? 1 : std::clamp(facts_of_, 0, 1);
            fields.choice("showing", now, {"how it is cut", "what is bought"}, [this](const QVariant& v) {
                facts_of_ = v.toInt();
                if (facts_of_ == 1 && !nest_.running()) progress_->clear();
                refresh();
            });
            if (now == 0) add_rule_fields(fields, document_);
            else
                add_material_fields(
                    fields, document_, state_.material_id(),
                    [this](const std::string& id) { state_.show_material(id); },
                    [this](const QString& words) { progress_->setText(words); });
        }
        form_->show_fields(fields.take());
    }

    void show_layout(const job::SheetResult& r) {
        double whole = 0, used = 0;
        const auto& layout = state_.layout();
        for (int s : layout.sheet_stock)
            whole += geometry::area_mm2(r.problem->stock[static_cast<std::size_t>(s)].shape);
        for (const auto& at : layout.placements)
            used += geometry::area_mm2(r.problem->parts[static_cast<std::size_t>(at.part)].shape);
        const auto count = job::sheet_count(r, layout);
        QStringList beside;
        if (count.offcuts > 0)
            beside << QString(count.offcuts == 1 ? "and 1 offcut" : "and %1 offcuts").arg(count.offcuts);
        const auto cut = std::count_if(document_.job().cut_sheets.begin(), document_.job().cut_sheets.end(),
                                       [&](const auto& sheet) { return sheet.material_id == r.material_id; });
        if (cut > 0) beside << QString("%1 cut already").arg(cut);
        if (!r.said_cut.empty())
            beside << QString("%1 said to be cut, laid out no more").arg(in_parts(r.said_cut.size()));
        if (!layout.unplaced.empty()) beside << in_parts(layout.unplaced.size()) + " without a place";
        sheets_->show_value(QString::number(count.sheets), beside.join(", "), {});
        used_->show_value(QString::number(100 * layout.utilisation, 'f', 1), "%",
                          "Area of the parts over the area of the sheets; the last sheet counts only up to the "
                          "upright line that clears its parts.");
        left_->show_value(document_.area_number(whole - used), document_.area_unit(),
                          "Keep it with its shape: the next small part may come from it.");
        const auto* m = state_.material();
        const bool pending = state_.computed().results.sheets_pending;
        QString words = pending    ? "Being laid out anew; drawn is the one before."
                        : r.locked ? "This layout is kept: it stays while the parts do."
                                   : "Laid out anew whenever a part changes.";
        if (!r.broken_lock.empty())
            words = "The kept layout no longer holds: " + QString::fromStdString(r.broken_lock);
        words += edge_to_edge_words(r);
        if (m && m->sheets_in_stock >= 0) words += QString(" %1 sheets are in stock.").arg(m->sheets_in_stock);
        lock_words_->setMinimumHeight(pending ? lock_words_->height() : 0);
        lock_words_->setText(words);
        search_->setText(nest_.running() ? "Stop" : "Look for better");
        keep_->setEnabled(!pending);
        search_->setEnabled(!pending || nest_.running());
        keep_->setText(r.locked || !r.broken_lock.empty() ? "Keep it no more" : "Keep this layout");
    }

    /// What asking for cuts from edge to edge comes to where they are not to be had.
    QString edge_to_edge_words(const job::SheetResult& r) const {
        if (!document_.job().cutting.guillotine || r.locked) return {};
        const auto shaped = static_cast<std::size_t>(
            std::count_if(r.problem->parts.begin(), r.problem->parts.end(),
                          [](const sheets::Part& part) { return !sheets::is_plain(part.shape); }));
        if (shaped > 0)
            return QString(
                       " From edge to edge goes with rectangles alone: %1 here %2 shaped, so all are laid out freely "
                       "and sawn around.")
                .arg(in_parts(shaped), shaped == 1 ? "is" : "are");
        if (!sheets::all_rectangles(*r.problem))
            return " From edge to edge goes with whole sheets alone: shaped offcuts are laid out freely.";
        return r.problem->locked.placements.empty() ? QString()
                                                    : QString(
                                                          " Pinned parts lie as they do: the rest is laid out "
                                                          "freely, not from edge to edge.");
    }

    void refresh_materials() {
        QStringList names, shown;
        int now = -1;
        for (const auto& m : document_.job().materials) {
            if (m.id == state_.material_id()) now = static_cast<int>(names.size());
            names << QString::fromStdString(m.name);
        }
        for (int i = 0; i < materials_->count(); ++i) shown << materials_->itemText(i);
        if (names != shown) {
            materials_->clear();
            materials_->addItems(names);
        }
        materials_->setCurrentIndex(now);
    }

    CutState state_;
    bool abandoned_ = false;  ///< the search that still runs is another job's
    NestSearch nest_;
    job::SheetResult sought_;
    CutChoice::What was_ = CutChoice::What::nothing;
    int facts_of_ = 0;  ///< when nothing is chosen: the rules, or the sheet
    QComboBox* materials_;
    Figure *sheets_, *used_, *left_;
    QLabel *lock_words_, *progress_;
    QPushButton *search_, *keep_, *act_;
    QProgressBar* bar_;
    FindingsBox* findings_;
    PartPicture* part_;
    Form* form_;
};

}  // namespace

std::unique_ptr<Step> make_cut_step(Document& document) {
    return std::make_unique<CutStep>(document);
}

}  // namespace bevelsmith::app

#include "cut_step.moc"

// Measure: enter and correct readings, see them with the curve they make.
#include <Eigen/Geometry>
#include <QComboBox>
#include <utility>

#include "app/look/theme.h"
#include "app/measure/measure_drawing.h"
#include "app/measure/meter_bar.h"
#include "app/measure/reading_table.h"
#include "app/measure/set_fields.h"
#include "app/widgets/next_readings.h"
#include "app/widgets/step.h"

namespace bevelsmith::app {
namespace {

/// The placing of a set takes no more than this, so that its readings stay in sight.
constexpr int most_placing_px = 230;

class MeasureStep : public Step {
  public:
    explicit MeasureStep(Document& document) : Step(document, StepId::measure), state_(document) {
        stage_ = new MeasureDrawing(state_);
        ribbon_ = new MeasureRibbon(state_);
        build_facts();
        connect(&state_, &MeasureState::changed, this, &MeasureStep::refresh);
        refresh();
    }

    QString count() const override {
        int doubtful = 0;
        std::size_t readings = 0;
        const auto computed = document_.computed();
        for (const auto& s : computed->results.surfaces) doubtful += job::left_out(computed->job, s).doubtful;
        for (const auto& set : document_.job().readings) readings += set.readings.size();
        if (doubtful > 0) return QString("%1 doubtful").arg(doubtful);
        return readings > 0 ? QString::number(readings) : QString();
    }

  private:
    /// What one may begin, each on a sheet of its own, and what unfolds in place.
    void build_buttons(Panel& panel) {
        auto* above = new QHBoxLayout;
        auto* below = new QHBoxLayout;
        const auto button = [](QHBoxLayout* row, const QString& words) {
            auto* out = new QPushButton(words);
            out->setObjectName("quiet");
            row->addWidget(out);
            return out;
        };
        const auto opens = [&](QHBoxLayout* row, const QString& words, const PanelRequest& opened) {
            auto* out = button(row, words);
            connect(out, &QPushButton::clicked, this, [this, opened] { emit wants_panel(opened); });
            return out;
        };
        opens(above, "New set", panel::NewSet{});
        opens(above, "Import", panel::Import{});
        opens(above, "Photo", panel::Photo{});
        meter_button_ = button(above, "Meter");
        placing_ = button(below, "Placing");
        opens(below, "Datum, marks", panel::Datum{});
        practise_ = opens(below, "Practice", panel::Practice{});
        for (auto* unfolds : {meter_button_, placing_}) unfolds->setCheckable(true);
        for (auto* row : {above, below}) {
            row->addStretch(1);
            panel.column()->addLayout(row);
        }
    }

    void build_facts() {
        auto* panel = new Panel;
        auto* top = new QHBoxLayout;
        sets_ = new QComboBox;
        sets_->setAccessibleName("set of readings");
        sets_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        top->addWidget(sets_, 1);
        panel->column()->addLayout(top);
        build_buttons(*panel);
        meter_ = new MeterBar;
        meter_->hide();
        panel->add(meter_);
        form_ = new_form();
        placing_room_ = new FoldOut(form_, most_placing_px);
        placing_room_->hide();
        panel->add(placing_room_);
        what_ = panel->words({});
        table_ = new ReadingTable(state_);
        panel->add(table_, 1);
        suspects_ = panel->words({}, false);
        next_ = panel->words({}, false);
        sides_ = panel->words({}, false);
        scatter_ = new Figure("scatter of all readings about the surface (r.m.s.)");
        panel->add(scatter_);
        act_ = panel->act("Take readings");
        facts_ = panel;
        connect(sets_, &QComboBox::activated, this, [this](int i) { state_.show_set(i); });
        connect(meter_button_, &QPushButton::toggled, meter_, &QWidget::setVisible);
        connect(meter_, &MeterBar::measured, this, [this](const survey::MeterReading& m) {
            if (state_.set()) table_->entry()->take_measurement(m);
        });
        connect(placing_, &QPushButton::toggled, this, [this](bool on) {
            placing_room_->setVisible(on);
            refresh_figures();
        });
        connect(static_cast<MeasureDrawing*>(stage_), &MeasureDrawing::looped, table_, &ReadingTable::select_many);
        connect(table_, &ReadingTable::table_pasted, this,
                [this](const QString& set_id) { emit wants_panel(panel::Pasted{set_id.toStdString()}); });
        connect(table_->entry(), &ReadingEntry::done, this, &MeasureStep::next_set);
        connect(act_, &QPushButton::clicked, this, &MeasureStep::act);
        connect(&document_, &Document::job_changed, this, [this, known = std::size_t{0}]() mutable {
            // A new set is what its maker wants to fill next.
            const auto now = document_.job().readings.size();
            if (known > 0 && now == known + 1) state_.show_set(static_cast<int>(now) - 1);
            known = now;
        });
    }

    /// On with the next set that has no readings; where there is none, with whatever comes next.
    void next_set() {
        const auto& sets = document_.job().readings;
        for (std::size_t k = 0; k < sets.size(); ++k)
            if (sets[k].readings.empty() && static_cast<int>(k) != state_.set_index()) {
                state_.show_set(static_cast<int>(k));
                return table_->entry()->focus_first();
            }
        emit wants_next();
    }

    void forget() override {
        Step::forget();
        meter_button_->setChecked(false);
        placing_->setChecked(false);
        state_.show_set(0);
    }
    void focus_entry() override { table_->entry()->focus_first(); }
    void show_reading(const std::string& set_id, int reading) override;

    void act() {
        if (document_.job().readings.empty()) emit wants_panel(panel::NewSet{});
        else emit wants_step(StepId::shape);
    }

    void refresh() {
        const auto& sets = document_.job().readings;
        QStringList names;
        for (const auto& s : sets)
            names << QString("%1 · %2").arg(QString::fromStdString(s.id), QString::fromStdString(s.name));
        QStringList shown;
        for (int i = 0; i < sets_->count(); ++i) shown << sets_->itemText(i);
        if (names != shown) {
            sets_->clear();
            sets_->addItems(names);
        }
        sets_->setCurrentIndex(sets.empty() ? -1 : state_.set_index());
        sets_->setEnabled(!sets.empty());
        placing_->setEnabled(!sets.empty());
        practise_->setVisible(document_.job().practice.has_value());
        table_->setEnabled(!sets.empty());
        const std::string entered = state_.set() ? state_.set()->id : std::string();
        if (std::exchange(entered_, entered) != entered) emit enters(entered);
        refresh_form();
        refresh_figures();
    }

    void refresh_form();
    QString doubts_in_words() const;
    void refresh_figures();
    QString terms_of(const Vec3& place) const;
    void show_next();
    void show_sides();

    MeasureState state_;
    QComboBox* sets_;
    QPushButton *placing_, *practise_, *meter_button_;
    MeterBar* meter_;
    Form* form_;
    FoldOut* placing_room_;
    std::string entered_;
    QLabel *what_, *suspects_, *next_, *sides_;
    ReadingTable* table_;
    Figure* scatter_;
    QPushButton* act_;
};

void MeasureStep::refresh_form() {
    const auto* set = state_.set();
    if (!set) {
        what_->setText("Make a set for each line, pattern or instrument.");
        return form_->show_fields({});
    }
    FieldList fields;
    add_set_fields(fields, *set, document_.job(),
                   [this, id = set->id](const QString& what, const std::function<void(survey::ReadingSet&)>& change) {
                       document_.edit(what, [&](job::Job& job) {
                           for (auto& one : job.readings)
                               if (one.id == id) change(one);
                       });
                   });
    if (set->own_frame) fields.button("See its marks", [this, id = set->id] { emit wants_panel(panel::Marks{id}); });
    fields.button("Remove this set", [this] {
        const int index = state_.set_index();
        document_.edit("Remove a set", [&](job::Job& job) { job.readings.erase(job.readings.begin() + index); });
    });
    form_->show_fields(fields.take(), QString::fromStdString(set->id));
    const auto school = survey::school_name(set->school);
    what_->setText(
        QString("%1, %2 readings, each ± %3 (1 s.d.). Space sets one aside, R takes it again, M makes it a named "
                "mark, Delete removes it. With Control a loop drawn around readings chooses them.")
            .arg(set->own_frame && !survey::has_frame(set->school)
                     ? QString("points in a frame of their own")
                     : QString::fromUtf8(school.data(), static_cast<int>(school.size())))
            .arg(set->readings.size())
            .arg(document_.length(set->sigma_mm)));
}

/// A place in the terms of the set that is open, where that can reach it: "along 300, distance 814: ".
QString MeasureStep::terms_of(const Vec3& place) const {
    constexpr double near_mm = 150;
    const auto* set = state_.set();
    const auto in_boat = job::readings_in_boat(document_.job());
    if (!set || !in_boat) return {};
    const auto& now = (*in_boat)[static_cast<std::size_t>(state_.set_index())];
    const bool line = now.school == survey::School::ordinates;
    if (!line && now.school != survey::School::strip_pattern && now.school != survey::School::traced) return {};
    const Vec3 off = place - now.origin;
    if (std::abs(now.along.cross(now.toward).dot(off)) > near_mm) return {};
    return QString(line ? "along %1, distance %2: " : "across %1, up %2: ")
        .arg(document_.length_number(now.along.dot(off)), document_.length_number(now.toward.dot(off)));
}

void MeasureStep::show_next() {
    const auto next = next_readings(document_, state_.set() ? state_.set()->surface_id : std::string());
    next_->setVisible(next.has_value() && !placing_room_->isVisibleTo(facts_));
    if (!next) return;
    QString words = QString("Measure next for %1, now %2:").arg(next->about).arg(document_.band(next->worst_mm));
    int number = 0;
    for (const auto& s : next->spots)
        words += QString("\n%1   %2fwd %3, %4, up %5 → %6")
                     .arg(++number)
                     .arg(terms_of(s.position))
                     .arg(document_.length_number(s.position.x()), document_.off_centre(s.position.y()),
                          document_.length_number(s.position.z()))
                     .arg(document_.band_number(s.worst_mm));
    next_->setText(words);
}

void MeasureStep::show_reading(const std::string& set_id, int reading) {
    const auto& sets = document_.job().readings;
    const auto it = std::find_if(sets.begin(), sets.end(), [&](const auto& s) { return s.id == set_id; });
    if (it == sets.end()) return;
    state_.show_set(static_cast<int>(it - sets.begin()));
    if (reading < 0) return;
    table_->select(reading);
    state_.point_at(reading);
}

/// How unequal the boat's sides are, where a mirrored set is checked.
void MeasureStep::show_sides() {
    const auto* set = state_.set();
    const auto* surface = set ? document_.computed()->results.surface(set->surface_id) : nullptr;
    const bool any = surface && !surface->sides.empty();
    sides_->setVisible(any || (set && set->school == survey::School::mirrored));
    sides_->setTextFormat(Qt::PlainText);
    if (!any) return sides_->setText("Take check readings on this side too: they say how unequal the sides are.");
    QString rows =
        "<table cellspacing='0' cellpadding='2'><tr><td colspan='4'>This side against the other, + fuller"
        "</td></tr>";
    for (const auto& s : surface->sides)
        rows += QString(
                    "<tr><td>fwd %1 to %2</td><td align='right'>&nbsp;%3</td><td>&nbsp;%4</td>"
                    "<td align='right'>&nbsp;most %5</td></tr>")
                    .arg(document_.length_number(s.from_x_mm), document_.length(s.to_x_mm),
                         document_.fine_signed(s.mean_mm), document_.band_number(s.sigma_mm),
                         document_.fine_signed(s.largest_mm));
    sides_->setTextFormat(Qt::RichText);
    sides_->setText(rows + "</table>");
}

/// Readings in doubt, each with what it probably was; nobody misread the points of a scan.
QString MeasureStep::doubts_in_words() const {
    constexpr int named = 4;
    const auto computed = document_.computed();
    const auto* surface = state_.set() ? computed->results.surface(state_.set()->surface_id) : nullptr;
    const bool scan = state_.set() && state_.set()->school == survey::School::scan;
    QStringList doubts;
    int count = 0;
    double least = 0, most = 0;
    const auto& readings = state_.picture().readings;
    for (std::size_t i = 0; i < readings.size(); ++i) {
        const auto& r = readings[i];
        if (!r.suspect || r.disabled) continue;
        least = std::min(least, r.residual_mm);
        most = std::max(most, r.residual_mm);
        if (++count <= named && !scan) doubts << r.hint;
    }
    if (scan && count > 0)
        return QString(
                   "%1 of %2 points do not lie on the surface (%3 to %4 off); they are drawn in red and left "
                   "out. Hoses and frames before the hull look like that, and so does a chine that was not "
                   "entered.")
            .arg(count)
            .arg(readings.size())
            .arg(document_.fine_signed(least), document_.fine_signed(most));
    if (surface && surface->ridges && surface->ridges->any())
        doubts.prepend(
            "The readings show a chine that was not entered (see Shape). Good readings near it are not counted "
            "as wrong.");
    if (count > named) doubts << QString("And %1 more, drawn in red: left out of the surface.").arg(count - named);
    return doubts.join("\n");
}

void MeasureStep::refresh_figures() {
    const QString doubts = doubts_in_words();
    suspects_->setText(doubts);
    // While the set is placed its readings stay in sight, and what is told about them waits.
    const bool placing = placing_room_->isVisibleTo(facts_);
    suspects_->setVisible(!doubts.isEmpty() && !placing);
    scatter_->setVisible(!placing);
    what_->setVisible(!placing);
    show_next();
    show_sides();
    const job::SurfaceResult* surface =
        state_.set() ? document_.computed()->results.surface(state_.set()->surface_id) : nullptr;
    const auto* fit = surface ? surface->fitted() : nullptr;
    scatter_->setVisible(fit != nullptr);
    if (fit)
        scatter_->show_value(document_.fine_number(fit->report.rms_mm), document_.fine_unit(),
                             QString("Root mean square of the readings' distances from the surface; largest %1. "
                                     "%2 of %3 readings are left out because "
                                     "the others contradict them. They scatter %4 times as much as was declared.")
                                 .arg(document_.fine(fit->report.max_mm))
                                 .arg(fit->report.suspects())
                                 .arg(surface->points.size())
                                 .arg(fit->report.scatter, 0, 'f', 2));
    // It does not change under the hand while readings come in.
    act_->setText(document_.job().readings.empty() ? "Make the first set" : "See the shape");
}

}  // namespace

std::unique_ptr<Step> make_measure_step(Document& document) {
    return std::make_unique<MeasureStep>(document);
}

}  // namespace bevelsmith::app

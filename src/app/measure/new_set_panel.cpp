#include "app/measure/new_set_panel.h"

#include <cmath>

#include "app/keeping/hand_kept.h"
#include "app/measure/set_fields.h"

namespace bevelsmith::app {

namespace {

/// What a set of a school is usually called, numbered where there are more.
std::string name_of(survey::School school, const job::Job& job) {
    static constexpr const char* names[] = {"Station",    "Pattern",    "Points", "Strip edges", "Tick board",
                                            "Tick board", "Pins",       "Scribe", "Template",    "Meter",
                                            "Bevels",     "Other side", "Scan"};
    const std::string name = names[static_cast<int>(school)];
    const auto same = std::count_if(job.readings.begin(), job.readings.end(),
                                    [&](const auto& set) { return set.name.starts_with(name); });
    return same == 0 ? name : name + " " + std::to_string(same + 1);
}

}  // namespace

NewSetPanel::NewSetPanel(Document& document) : SidePanel(document, "A new set of readings") {
    set_ = survey::usual_set(survey::School::ordinates);
    set_.name = name_of(set_.school, document_.job());
    if (!document_.job().surfaces.empty()) set_.surface_id = document_.job().surfaces.front().id;
    if (!document_.job().readings.empty()) set_.origin = document_.job().readings.back().origin;
    sketch_ = new SchoolSketch;
    panel_->add(sketch_);
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "Measure the whole reach of the piece and somewhat beyond it, at three stations or more, and once more "
        "wherever you are unsure.");
    panel_->end();
    auto* act = panel_->act("Make this set");
    connect(act, &QPushButton::clicked, this, &NewSetPanel::make);
    refresh();
}

void NewSetPanel::refresh() {
    const auto text = [](std::string_view s) { return QString::fromUtf8(s.data(), static_cast<int>(s.size())); };
    words_->setText(text(survey::school_words(set_.school)));
    sketch_->show_school(set_.school);
    QStringList schools;
    for (int k = 0; k < survey::school_count; ++k)
        schools << text(survey::school_name(static_cast<survey::School>(k)));
    FieldList fields;
    fields.choice("how it is read", static_cast<int>(set_.school), schools, [this](const QVariant& v) {
        survey::ReadingSet usual = survey::usual_set(static_cast<survey::School>(v.toInt()));
        // A name that nobody changed follows the school.
        const bool own = set_.name != name_of(set_.school, document_.job());
        usual.name = own ? set_.name : name_of(usual.school, document_.job());
        usual.origin = set_.origin;
        usual.surface_id = set_.surface_id;
        set_ = usual;
        refresh();
    });
    add_set_fields(fields, set_, document_.job(), [this](const QString&, const auto& change) {
        change(set_);
        refresh();
    });
    offer_own_scatter(fields);
    form_->show_fields(fields.take());
}

/// What this hand's readings by the school truly scatter, over this job and all others, in the place of what is
/// usual.
void NewSetPanel::offer_own_scatter(FieldList& fields) {
    const auto computed = document_.computed();
    job::HandRecord hand = job::hand_record(computed->job, computed->results);
    const auto others = hand_over_other_jobs(document_.path());
    hand.add(others.record);
    const auto* own = hand.of(set_.school);
    if (!own || own->readings < readings_to_tell) return;
    // To a tenth: more nobody knows.
    const double sigma = std::max(0.1, std::round(own->sigma_mm() * 10) / 10);
    if (sigma == set_.sigma_mm) return;
    fields.button(QString("Take ± %1: your %2 readings so far scatter that%3")
                      .arg(document_.fine(sigma))
                      .arg(own->readings)
                      .arg(others.jobs > 0 ? QString(", over all jobs") : QString()),
                  [this, sigma] {
                      set_.sigma_mm = sigma;
                      refresh();
                  });
}

void NewSetPanel::make() {
    if (!form_->settled()) return;
    std::string id;
    document_.edit("Make a set of readings", [&](job::Job& job) {
        const bool said = job.surfaces.empty() || !set_.surface_id.empty();
        id = job::add_readings(job, set_, said ? job::Placed::yes : job::Placed::not_yet).id;
    });
    if (set_.own_frame) return void(emit wants_panel(panel::Marks{id}));
    emit wants_entry(StepId::measure);
}

}  // namespace bevelsmith::app

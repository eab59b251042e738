#include "app/shell/side_sheet.h"

#include "app/steps/set_fields.h"

namespace bevelsmith::app {

NewSetSheet::NewSetSheet(Document& document) : SideSheet(document, "A new set of readings") {
    set_.school = survey::School::ordinates;
    set_.name = "Station";
    set_.sigma_mm = survey::default_sigma_mm(set_.school);
    if (!document_.job().readings.empty()) set_.origin = document_.job().readings.back().origin;
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "Measure the whole reach of the piece and somewhat beyond it, at three stations or more, and once more "
        "wherever you are unsure.");
    panel_->end();
    auto* act = panel_->act("Make this set");
    connect(act, &QPushButton::clicked, this, &NewSetSheet::make);
    refresh();
}

void NewSetSheet::refresh() {
    const bool line = set_.school == survey::School::ordinates, direct = set_.school == survey::School::direct;
    words_->setText(direct ? "Points measured straight in the boat's frame: forward, to port, up from the datum."
                    : line ? "A straight batten, string or laser line. At each station along it you read the square "
                             "distance to the hull."
                           : "Strips of thin board hot-glued in the plane of the piece until they nearly touch. Each "
                             "point is read across and up in that plane.");
    FieldList fields;
    fields.choice("how it is read", static_cast<int>(set_.school),
                  {"ordinates from a line", "strip pattern", "points in the boat"}, [this](const QVariant& v) {
                      set_.school = static_cast<survey::School>(v.toInt());
                      set_.sigma_mm = survey::default_sigma_mm(set_.school);
                      set_.along = set_.school == survey::School::strip_pattern ? Vec3::UnitY() : Vec3::UnitZ();
                      set_.toward = set_.school == survey::School::strip_pattern ? Vec3::UnitZ() : Vec3::UnitY();
                      refresh();
                  });
    add_set_fields(fields, set_, [this](const QString&, const auto& change) {
        change(set_);
        refresh();
    });
    form_->show_fields(fields.take());
}

void NewSetSheet::make() {
    document_.edit("Make a set of readings", [&](job::Job& job) {
        job::JobReadingSet set;
        static_cast<survey::ReadingSet&>(set) = set_;
        std::vector<std::string> ids;
        for (const auto& s : job.readings) ids.push_back(s.id);
        set.id = job::free_id("R", ids);
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        set.surface_id = job.surfaces.front().id;
        job.readings.push_back(set);
    });
    emit wants_step("Measure");
    emit close_asked();
}

}  // namespace bevelsmith::app

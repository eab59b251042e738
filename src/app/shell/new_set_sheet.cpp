#include "app/shell/side_sheet.h"

#include <cmath>

#include "app/widgets/direction.h"

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
    using Kind = FormField::Kind;
    const bool line = set_.school == survey::School::ordinates, direct = set_.school == survey::School::direct;
    words_->setText(direct ? "Points measured straight in the boat's frame: forward, to port, up from the datum."
                    : line ? "A straight batten, string or laser line. At each station along it you read the square "
                             "distance to the hull."
                           : "Strips of thin board hot-glued in the plane of the piece until they nearly touch. Each "
                             "point is read across and up in that plane.");
    std::vector<FormField> fields{{Kind::choice,
                                   "how it is read",
                                   static_cast<int>(set_.school),
                                   [this](const QVariant& v) {
                                       set_.school = static_cast<survey::School>(v.toInt());
                                       set_.sigma_mm = survey::default_sigma_mm(set_.school);
                                       if (set_.school == survey::School::strip_pattern)
                                           set_.along = Vec3::UnitY(), set_.toward = Vec3::UnitZ();
                                       if (set_.school == survey::School::ordinates)
                                           set_.along = Vec3::UnitZ(), set_.toward = Vec3::UnitY();
                                       refresh();
                                   },
                                   {"ordinates from a line", "strip pattern", "points in the boat"},
                                   {}},
                                  {Kind::text,
                                   "name",
                                   QString::fromStdString(set_.name),
                                   [this](const QVariant& v) { set_.name = v.toString().toStdString(); },
                                   {},
                                   {}},
                                  {Kind::length,
                                   "one reading ±",
                                   set_.sigma_mm,
                                   [this](const QVariant& v) { set_.sigma_mm = v.toDouble(); },
                                   {},
                                   {},
                                   0.01,
                                   1000}};
    if (!direct) {
        const char* axes[] = {"fwd", "port", "up"};
        for (int k = 0; k < 3; ++k)
            fields.push_back({Kind::length,
                              QString("zero at, %1").arg(axes[k]),
                              set_.origin[k],
                              [this, k](const QVariant& v) { set_.origin[k] = v.toDouble(); },
                              {},
                              {},
                              -1e6,
                              1e6});
        const auto turn = [this](Vec3 survey::ReadingSet::*one, Vec3 survey::ReadingSet::*other) {
            return [this, one, other](const QVariant& v) {
                set_.*one = direction(v.toInt());
                if (std::abs((set_.*one).dot(set_.*other)) > 1e-9) set_.*other = direction(v.toInt() < 4 ? 4 : 2);
                refresh();
            };
        };
        fields.push_back({Kind::choice,
                          line ? "line runs" : "across is",
                          direction_choice(set_.along),
                          turn(&survey::ReadingSet::along, &survey::ReadingSet::toward),
                          direction_words(set_.along),
                          {}});
        fields.push_back({Kind::choice,
                          line ? "measured to" : "up is",
                          direction_choice(set_.toward),
                          turn(&survey::ReadingSet::toward, &survey::ReadingSet::along),
                          direction_words(set_.toward),
                          {}});
    }
    form_->show_fields(std::move(fields));
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

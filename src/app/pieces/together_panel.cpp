#include "app/pieces/together_panel.h"

#include <algorithm>

#include "job/job_file.h"
#include "job/together.h"

namespace bevelsmith::app {

TogetherPanel::TogetherPanel(Document& document) : SidePanel(document, "Several pieces at once") {
    panel_->words(
        "Choose more with Shift or Control, in the column or in the boat; where one alone is chosen, all of its "
        "group "
        "are. A panel of a unit stands for its unit.",
        false);
    which_ = panel_->words({}, false);
    which_->setAccessibleName("chosen together");
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->end();
    connect(&document_, &Document::job_changed, this, &TogetherPanel::refresh);
    connect(&document_, &Document::selection_changed, this, &TogetherPanel::refresh);
    connect(&document_, &Document::hidden_changed, this, &TogetherPanel::refresh);
    refresh();
}

std::vector<std::string> TogetherPanel::ids() const {
    if (!document_.together().empty()) return document_.together();
    return job::group_of(document_.job(), document_.selected_piece().toStdString());
}

bool TogetherPanel::take(const QString& what, const job::Job& changed) {
    const auto again = job::job_from_text(job::job_to_text(changed));
    if (!again) {
        emit said("Nothing was done. " + document_.told(again.error().message));
        return false;
    }
    document_.edit(what, [&](job::Job& job) { job = changed; });
    return true;
}

void TogetherPanel::make(const QString& what, const std::function<std::vector<std::string>(job::Job&)>& make) {
    job::Job changed = document_.job();
    std::vector<std::string> made = make(changed);
    if (made.empty()) {
        emit said("Nothing was made: what is chosen stands on both sides as it is.");
        return;
    }
    if (!take(what, changed)) return;
    document_.select_piece(QString::fromStdString(made.front()));
    document_.choose_together(std::move(made));
}

void TogetherPanel::add_fields(FieldList& fields) {
    const auto now = ids();
    const auto* first = document_.piece(QString::fromStdString(now.front()));
    const auto plain = [&](const std::string& id) { return job::find_piece(document_.job(), id) != nullptr; };
    if (std::any_of(now.begin(), now.end(), plain))
        fields.text("group, or place in the boat", first ? first->place : std::string(), [this](const QVariant& v) {
            document_.edit("Group pieces",
                           [&](job::Job& job) { job::put_under(job, ids(), v.toString().toStdString()); });
        });
    const char* ways[] = {"move by, fwd", "move by, port", "move by, up"};
    for (int k = 0; k < 3; ++k)
        fields.place(ways[k], by_[k], units::boat_ways[k], [this, k](const QVariant& v) { by_[k] = v.toDouble(); });
    fields.button("Move them", [this] {
        if (by_.isZero()) return void(emit said("Say by how much: all three are 0."));
        job::Job changed = document_.job();
        job::move_together(changed, ids(), by_);
        take("Move pieces together", changed);
    });
    fields.button("Copy them, moved by that", [this] {
        make("Copy pieces together", [this](job::Job& job) { return job::copy_together(job, ids(), by_); });
    });
    fields.button("Their like on the other side", [this] {
        make("Mirror pieces together", [this](job::Job& job) { return job::mirror_together(job, ids()); });
    });
    fields.button("Hide them in the boat", [this] { document_.hide(ids()); });
    if (!document_.hidden().empty()) fields.button("Show all again", [this] { document_.show_hidden(); });
}

void TogetherPanel::refresh() {
    const auto now = ids();
    constexpr std::size_t named = 10;
    QStringList names;
    for (std::size_t k = 0; k < std::min(named, now.size()); ++k)
        if (const auto* piece = document_.piece(QString::fromStdString(now[k])))
            names << QString::fromStdString(piece->name);
    if (now.size() > named) names << QString("and %1 more").arg(now.size() - named);
    which_->setText(now.empty() ? "No piece yet: add one in Pieces."
                                : QString("%1 chosen: %2").arg(now.size()).arg(names.join("; ")));
    FieldList fields;
    if (!now.empty()) add_fields(fields);
    form_->show_fields(fields.take());
}

}  // namespace bevelsmith::app

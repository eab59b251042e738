#include "app/shell/findings_panel.h"

namespace bevelsmith::app {

namespace {

StepId step_of(review::MendedIn mended) {
    switch (mended) {
        case review::MendedIn::measure: return StepId::measure;
        case review::MendedIn::shape: return StepId::shape;
        case review::MendedIn::pieces: return StepId::pieces;
        case review::MendedIn::fix: return StepId::fix;
        case review::MendedIn::cut: return StepId::cut;
    }
    return StepId::pieces;
}

QString words_to(review::MendedIn step, const review::Finding& f) {
    if (f.set_id.empty() && !f.piece_id.empty()) return "Go to " + QString::fromStdString(f.piece_id);
    return step == review::MendedIn::measure ? QString("See the readings")
           : step == review::MendedIn::shape ? QString("See the shape")
                                             : QString("See it in ") + step_word(step_of(step));
}

}  // namespace

FindingsPanel::FindingsPanel(Document& document) : SidePanel(document, "What needs attention") {
    auto* inside = new QWidget;
    rows_ = new QVBoxLayout(inside);
    rows_->setContentsMargins(0, 0, 0, 0);
    panel_->add(inside);
    panel_->end();
    connect(&document_, &Document::computed_changed, this, &FindingsPanel::refresh);
    refresh();
}

void FindingsPanel::refresh() {
    const auto& findings = document_.computed()->findings;
    if (filled_ && findings == shown_) return;
    filled_ = true;
    shown_ = findings;
    while (auto* item = rows_->takeAt(0)) {
        // A row may be rebuilt from its own button.
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    if (shown_.empty()) {
        auto* words = new QLabel("Nothing was found: the checks that apply to what is in the job are content.");
        words->setWordWrap(true);
        rows_->addWidget(words);
    }
    for (const auto& f : shown_) add_row(f);
}

void FindingsPanel::add_row(const review::Finding& f) {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 6);
    column->setSpacing(2);
    column->addWidget(new FindingRow(f, &document_));
    auto* row = new QHBoxLayout;
    row->setContentsMargins(24, 0, 0, 0);
    const review::MendedIn step = review::mended_in(f);
    auto* go = new QPushButton(words_to(step, f));
    auto* aside = new QPushButton(f.set_aside ? "Take it up again" : "Set aside");
    for (auto* b : {go, aside}) {
        b->setObjectName("quiet");
        row->addWidget(b);
    }
    row->addStretch(1);
    column->addLayout(row);
    auto* reason = new QLineEdit;
    reason->setPlaceholderText("why? Enter keeps the reason with the job");
    reason->setAccessibleName("reason to set aside");
    reason->hide();
    column->addWidget(reason);
    rows_->addWidget(box);
    connect(go, &QPushButton::clicked, this, [this, f, step] {
        if (!f.set_id.empty()) return void(emit wants_reading(f.set_id, f.reading));
        if (!f.piece_id.empty()) document_.select_piece(QString::fromStdString(f.piece_id));
        emit wants_step(step_of(step));
        // Of no piece: it is mended in the step's own column, which stands where this panel does.
        if (f.piece_id.empty()) emit close_asked();
    });
    connect(aside, &QPushButton::clicked, this, [this, f, reason] {
        if (f.set_aside) return take_up(f);
        reason->show();
        reason->setFocus();
    });
    connect(reason, &QLineEdit::returnPressed, this, [this, f, reason] {
        if (!reason->text().trimmed().isEmpty()) set_aside(f, reason->text().trimmed());
    });
}

void FindingsPanel::set_aside(const review::Finding& f, const QString& reason) {
    document_.edit("Set a finding aside", [&](job::Job& job) {
        job.set_aside.push_back(
            {std::string(review::check_of(f.check).id), f.piece_id, reason.toStdString(), f.about, {}});
    });
}

void FindingsPanel::take_up(const review::Finding& f) {
    document_.edit("Take a finding up again", [&](job::Job& job) {
        std::erase_if(job.set_aside, [&](const job::SetAside& a) {
            return review::is_named(review::check_of(f.check), a.check) && a.piece_id == f.piece_id &&
                   (a.about.empty() || a.about == f.about);
        });
    });
}

}  // namespace bevelsmith::app

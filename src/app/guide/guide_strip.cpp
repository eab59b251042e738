#include <QHBoxLayout>
#include <QTimer>
#include <algorithm>
#include <cmath>

#include "app/guide/guide.h"
#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

/// A section is told by about so many readings.
constexpr std::size_t enough_at_a_station = 6;
/// A number of readings beyond which another way of measuring is wanted rather than more of them.
constexpr double most_worth_telling = 99;

/// Half of the surveyed area is known at least so well (standard deviation, mm).
double typical_sigma_mm(const job::SurfaceResult& surface) {
    std::vector<double> all;
    for (const auto& node : surface.mesh->nodes)
        if (node.surrounded) all.push_back(node.sigma_mm);
    if (all.empty()) return 1e9;
    std::nth_element(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2), all.end());
    return all[all.size() / 2];
}

}  // namespace

GuideStrip::GuideStrip(Document& document) : document_(document), words_(new QLabel) {
    setObjectName("notice");
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(size::pad, 5, size::pad, 5);
    row->setSpacing(size::gap);
    words_->setWordWrap(true);
    words_->setAccessibleName("guide");
    row->addWidget(words_, 1);
    next_ = new QPushButton;
    next_->setObjectName("act");
    leave_ = new QPushButton("Leave the guide");
    leave_->setObjectName("quiet");
    row->addWidget(next_);
    row->addWidget(leave_);
    connect(next_, &QPushButton::clicked, this, &GuideStrip::go_on);
    connect(leave_, &QPushButton::clicked, this, &GuideStrip::leave);
    connect(&document_, &Document::job_changed, this, &GuideStrip::refresh);
    connect(&document_, &Document::computed_changed, this, &GuideStrip::refresh);
    connect(&document_, &Document::computing_changed, this, &GuideStrip::refresh);
    // Another job has no part in it.
    connect(&document_, &Document::about_to_replace, this, &GuideStrip::leave);
    hide();
}

void GuideStrip::begin(const GuidePlan& plan) {
    plan_ = plan;
    piece_wanted_ = false;
    piece_.clear();
    ids_.clear();
    const auto& all = document_.job().readings;
    const auto made = static_cast<std::size_t>(plan.stations);
    for (std::size_t k = all.size() - std::min(made, all.size()); k < all.size(); ++k) ids_.push_back(all[k].id);
    show();
    refresh();
    if (!ids_.empty()) emit wants_set(ids_.front());
}

void GuideStrip::leave() {
    plan_.reset();
    hide();
}

std::vector<const job::JobReadingSet*> GuideStrip::sets() const {
    std::vector<const job::JobReadingSet*> out;
    for (const auto& set : document_.job().readings)
        if (std::find(ids_.begin(), ids_.end(), set.id) != ids_.end()) out.push_back(&set);
    return out;
}

int GuideStrip::unread() const {
    const auto all = sets();
    for (std::size_t k = 0; k < all.size(); ++k)
        if (all[k]->readings.size() < enough_at_a_station) return static_cast<int>(k);
    return -1;
}

int GuideStrip::entered() const {
    const auto all = sets();
    for (std::size_t k = 0; k < all.size(); ++k)
        if (all[k]->id == entered_) return static_cast<int>(k);
    return -1;
}

int GuideStrip::next_unread() const {
    const auto all = sets();
    const int here = entered(), count = static_cast<int>(all.size());
    for (int n = 1; n <= count; ++n) {
        const int k = (here + n + count) % count;
        if (k != here && all[static_cast<std::size_t>(k)]->readings.empty()) return k;
    }
    return -1;
}

void GuideStrip::follow(const std::string& set_id) {
    entered_ = set_id;
    refresh();
}

/// How well the hull is known, and what more readings would bring: errors fall with the root of their number.
QString GuideStrip::readings_words() const {
    std::size_t count = 0;
    for (const auto* set : sets()) count += set->readings.size();
    const auto* surface =
        document_.computed()->results.surfaces.empty() ? nullptr : &document_.computed()->results.surfaces.front();
    if (!surface || !surface->fitted() || !surface->mesh)
        return QString("%1 so far; the surface appears from twelve readings, on three stations.")
            .arg(count == 1 ? QString("One reading") : QString("%1 readings").arg(count));
    const double band = 1.96 * typical_sigma_mm(*surface);
    const auto more_for = [&](double wanted) {
        const double more = static_cast<double>(count) * (band * band / (wanted * wanted) - 1);
        return more > most_worth_telling
                   ? QString("far more")
                   : QString("about %1 more").arg(std::max(1, static_cast<int>(std::ceil(more))));
    };
    const QString known =
        QString("the surface is known to %1 or better over half of it").arg(document_.band(band / 1.96));
    if (band <= 1) return QString("Enough for %1: %2.").arg(document_.fine(1), known);
    if (band <= 3)
        return QString("Enough for %1, %2 for %3: %4.").arg(document_.fine(3), more_for(1), document_.fine(1), known);
    return QString("Not yet enough for %1, that takes %2: %3.").arg(document_.fine(3), more_for(3), known);
}

void GuideStrip::refresh() {
    if (!plan_) return;
    if (piece_wanted_ && fitted() && !document_.computing()) {
        // Not from within the news of a result.
        piece_wanted_ = false;
        QTimer::singleShot(0, this, &GuideStrip::make_piece);
        return;
    }
    const int now = unread() < 0 ? -1 : entered() < 0 ? unread() : entered();
    const auto all = sets();
    const auto* piece = document_.computed()->results.piece(piece_);
    if (!piece_.empty() && job::find_piece(document_.job(), piece_)) {
        words_->setText(piece && piece->shape()
                            ? "The piece, seen from face A: drag its edges or type at right. Then the papers at 1:1."
                            : "The piece is on its way; where its outline is open, the drawing says what to do.");
        next_->setText("Papers to cut from");
        return;
    }
    if (now >= 0) {
        words_->setText(QString("Station %1 of %2: type what you read, from the lowest place up; six or more. %3")
                            .arg(now + 1)
                            .arg(all.size())
                            .arg(readings_words()));
        next_->setText(next_unread() >= 0 ? "Next station" : "See the piece");
        return;
    }
    words_->setText("All stations are read. " + readings_words());
    next_->setText("See the piece");
}

void GuideStrip::go_on() {
    if (!plan_) return;
    if (!piece_.empty() && job::find_piece(document_.job(), piece_)) return void(emit wants_panel(panel::Papers{}));
    if (const int next = next_unread(); next >= 0)
        return void(emit wants_set(sets()[static_cast<std::size_t>(next)]->id));
    make_piece();
}

bool GuideStrip::fitted() const {
    const auto& surfaces = document_.computed()->results.surfaces;
    return std::any_of(surfaces.begin(), surfaces.end(), [](const auto& s) { return s.fitted() != nullptr; });
}

void GuideStrip::make_piece() {
    if (!plan_) return;
    // What was typed last may still be on its way through the computation.
    piece_wanted_ = !fitted() || document_.computing();
    if (piece_wanted_) {
        words_->setText(document_.computing() ? "The surface is on its way, and the piece with it."
                                              : "There is no surface to cut a piece to yet. " + readings_words());
        return;
    }
    const auto& results = document_.computed()->results;
    document_.edit("Add the first piece", [&](job::Job& job) {
        job.pieces.push_back(job::starting_piece(job, results, plan_->kind));
        piece_ = job.pieces.back().id;
    });
    document_.select_piece(QString::fromStdString(piece_));
    emit wants_step(StepId::pieces);
    refresh();
}

}  // namespace bevelsmith::app

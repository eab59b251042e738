#include "app/pieces/offer_up_panel.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <algorithm>

#include "app/keeping/hand_kept.h"
#include "job/in_full.h"
#include "job/offering_up.h"

namespace bevelsmith::app {
namespace {

constexpr double step_mm = 100, step_in = 4;

double station_mm(units::LengthUnit unit) {
    return units::in_inches(unit) ? step_in * units::mm_per_inch : step_mm;
}

}  // namespace

OfferUpPanel::OfferUpPanel(Document& document) : SidePanel(document, "Offer it up") {
    lead_ = panel_->words({}, false);
    picture_ = new FittingPicture(document);
    panel_->add(picture_);
    build_entry();
    build_result();
    panel_->end();
    act_ = panel_->act("Enter this fitting");
    connect(act_, &QPushButton::clicked, this, &OfferUpPanel::enter);
    connect(picture_, &FittingPicture::pointed, this, [this](int edge, double along) {
        const auto at = std::find(edges_.begin(), edges_.end(), edge);
        if (at != edges_.end()) edge_->setCurrentIndex(static_cast<int>(at - edges_.begin()));
        along_->set_value(std::round(along));
        gap_->setFocus();
        show_readings();
    });
    connect(&document_, &Document::job_changed, this, &OfferUpPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &OfferUpPanel::refresh);
    connect(&document_, &Document::selection_changed, this, &OfferUpPanel::refresh);
    refresh();
}

void OfferUpPanel::build_entry() {
    what_ = panel_->choice("offered up", {"the piece itself", "a trial pattern of it"});
    edge_ = panel_->choice("along the edge", {});
    along_ = panel_->field("at, along it", length_edit([this] { return document_.unit(); }));
    seen_ = panel_->choice("seen there", {"daylight", "it touches", "it rocks on it"});
    gap_ = panel_->field("daylight, − fouls", length_edit([this] { return document_.unit(); }));
    along_->set_range(0, units::range::place.most);
    gap_->set_range(units::range::seen_gap.least, units::range::seen_gap.most);
    gap_->setPlaceholderText("0 where there is none");
    gap_->ask();
    fault_ = panel_->fault();
    auto* take_it = panel_->quiet_button("Note it (Enter)");
    list_ = new QListWidget;
    list_->setAccessibleName("what was seen");
    list_->setMaximumHeight(96);
    list_->installEventFilter(this);
    panel_->add(list_);
    gap_->installEventFilter(this);
    seen_->installEventFilter(this);
    feel_ = panel_->quiet_button("Let the simulated feeler go along");
    connect(feel_, &QPushButton::clicked, this, &OfferUpPanel::feel);
    connect(take_it, &QPushButton::clicked, this, &OfferUpPanel::take);
    connect(seen_, &QComboBox::currentIndexChanged, this, [this](int k) { gap_->setEnabled(k == 0); });
    connect(edge_, &QComboBox::activated, this, [this] {
        along_->set_value(0);
        show_readings();
    });
    connect(what_, &QComboBox::activated, this, [this](int k) {
        change_draft("Say what was offered up", [k](job::Fitting& f) { f.of_pattern = k == 1; });
    });
    connect(along_, &QuantityEdit::taken, this, [this] { show_readings(); });
}

void OfferUpPanel::build_result() {
    advice_ = panel_->words({}, false);
    guide_ = new QTableWidget(0, 4);
    guide_->setAccessibleName("shaving guide");
    guide_->setHorizontalHeaderLabels({"mark", "along", "face A", "face B"});
    guide_->verticalHeader()->hide();
    guide_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    guide_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    guide_->setMinimumHeight(150);
    guide_->verticalHeader()->setDefaultSectionSize(24);
    panel_->add(guide_);
    past_ = panel_->words({}, true);
    paper_ = panel_->quiet_button("The guide on paper");
    back_ = panel_->quiet_button("Take the last fitting back");
    connect(back_, &QPushButton::clicked, this, &OfferUpPanel::take_back);
    connect(paper_, &QPushButton::clicked, this, [this] { emit wants_panel(panel::Papers{}); });
}

const job::JobPiece* OfferUpPanel::piece() const {
    return document_.piece(document_.selected_piece());
}

const piece::Outline* OfferUpPanel::shape() const {
    const auto* result = document_.computed()->results.piece(document_.selected_piece().toStdString());
    return result ? result->shape() : nullptr;
}

const job::Fitting* OfferUpPanel::draft() const {
    const auto* p = piece();
    return p && !p->fittings.empty() && job::is_draft(p->fittings.back()) ? &p->fittings.back() : nullptr;
}

int OfferUpPanel::edge() const {
    const int k = edge_->currentIndex();
    return k >= 0 && k < static_cast<int>(edges_.size()) ? edges_[static_cast<std::size_t>(k)] : -1;
}

void OfferUpPanel::change_draft(const QString& what, const std::function<void(job::Fitting&)>& change) {
    const std::string id = document_.selected_piece().toStdString();
    const bool pattern = what_->currentIndex() == 1;
    document_.edit(what, [&](job::Job& job) {
        job::change_piece(job, id, [&](job::JobPiece& p) {
            if (p.fittings.empty() || !job::is_draft(p.fittings.back()))
                p.fittings.emplace_back().of_pattern = pattern;
            change(p.fittings.back());
        });
    });
}

/// Edges that are scribed to a surface and are kept.
void OfferUpPanel::offer_edges() {
    std::vector<int> now;
    QStringList names;
    const auto* p = piece();
    const auto* s = shape();
    for (std::size_t e = 0; p && s && e < p->edges.size(); ++e) {
        const bool kept = std::any_of(s->marks.begin(), s->marks.end(),
                                      [e](const auto& m) { return m.kept && m.edge == static_cast<int>(e); });
        if (p->edges[e].kind != piece::EdgeKind::scribed || !kept) continue;
        now.push_back(static_cast<int>(e));
        names << QString::fromStdString(p->edges[e].name) + (p->edges[e].lipping_mm > 0 ? ", lipping on" : "");
    }
    QStringList shown;
    for (int k = 0; k < edge_->count(); ++k) shown << edge_->itemText(k);
    if (now == edges_ && shown == names) return;
    edges_ = now;
    const int before = std::max(0, edge_->currentIndex());
    edge_->clear();
    edge_->addItems(names);
    edge_->setCurrentIndex(std::min(before, edge_->count() - 1));
}

void OfferUpPanel::refresh() {
    offer_edges();
    const bool can = piece() && shape() && !edges_.empty();
    lead_->setText(!piece()   ? "Choose a piece first."
                   : !shape() ? "It has no outline yet: there is nothing to offer up."
                   : edges_.empty()
                       ? "No edge of it is scribed to a surface: its fit is a saw's, not the hull's."
                       : "Stand it where it belongs. Go along its edge from mark to mark and type what you see; "
                         "negative where wood has to go before it can stand.");
    for (QWidget* w : std::initializer_list<QWidget*>{what_, edge_, along_, seen_, gap_}) w->setEnabled(can);
    gap_->setEnabled(can && seen_->currentIndex() == 0);
    feel_->setVisible(can && document_.job().practice.has_value());
    if (const auto* d = draft()) what_->setCurrentIndex(d->of_pattern ? 1 : 0);
    show_readings();
    show_result();
}

void OfferUpPanel::show_readings() {
    const auto* d = draft();
    const auto* p = piece();
    QStringList lines;
    for (const auto& r : d ? d->readings : std::vector<piece::FitReading>{}) {
        const QString where =
            QString("%1, %2").arg(p && r.edge < static_cast<int>(p->edges.size())
                                      ? QString::fromStdString(p->edges[static_cast<std::size_t>(r.edge)].name)
                                      : QString(),
                                  document_.length(r.along_mm));
        lines << where + ": " +
                     (r.seen == piece::Noticed::touches ? QString("touches")
                      : r.seen == piece::Noticed::rocks
                          ? QString("rocks")
                          : document_.fine(r.gap_mm) + (r.gap_mm < 0 ? ", fouls" : " of daylight"));
    }
    const int row = list_->currentRow();
    list_->clear();
    list_->addItems(lines);
    list_->setCurrentRow(std::min(row, list_->count() - 1));
    list_->setVisible(!lines.isEmpty());
    act_->setEnabled(!lines.isEmpty() && shape());
    FittingPicture::Shown shown;
    shown.edge = edge(), shown.next_mm = along_->value(), shown.step_mm = station_mm(document_.unit());
    if (d) shown.readings = d->readings;
    const auto* last = p ? job::last_fitting(*p) : nullptr;
    const auto* s = shape();
    if (!d && last && s) {
        shown.readings = last->readings;
        shown.guide = piece::correct(*p, last->offered, *s, last->readings).guide;
    }
    picture_->show_fitting(std::move(shown));
}

void OfferUpPanel::show_result() {
    const auto* p = piece();
    const auto* s = shape();
    const auto* last = p ? job::last_fitting(*p) : nullptr;
    const bool told = last && s && !draft();
    // What is worked out without the fitting yet says nothing of it.
    const auto* worked = p ? job::find_piece(document_.computed()->job, p->id) : nullptr;
    const bool fresh = told && worked && worked->fittings.size() == p->fittings.size();
    guide_->setVisible(fresh), paper_->setVisible(fresh);
    // What to do is known by then.
    lead_->setVisible(!fresh);
    back_->setVisible(last != nullptr && !draft());
    advice_->setVisible(told);
    std::size_t entered = 0;
    if (p)
        entered = static_cast<std::size_t>(
            std::count_if(p->fittings.begin(), p->fittings.end(), [](const auto& f) { return !job::is_draft(f); }));
    past_->setVisible(entered > 0);
    QString past =
        QString("Offered up %1 so far.").arg(entered == 1 ? QString("once") : QString("%1 times").arg(entered));
    if (const QString kept = kept_words(document_); !kept.isEmpty()) past += " " + kept;
    past_->setText(past);
    if (!fresh) return advice_->setText("Working it out …");
    const auto c = piece::correct(*p, last->offered, *s, last->readings);
    QStringList words;
    for (const auto& one : c.advice) words << QString::fromStdString(units::in_unit(one, document_.unit()));
    if (c.best_move) words << move_words(*c.best_move);
    if (last->of_pattern) words << "The good sheet's papers are made to what the pattern told.";
    advice_->setText(words.join("\n"));
    guide_->setRowCount(static_cast<int>(c.guide.size()));
    for (int k = 0; k < guide_->rowCount(); ++k) {
        const auto& g = c.guide[static_cast<std::size_t>(k)];
        const auto off = [this](double mm) {
            return mm >= 0.05    ? document_.fine(mm) + " off"
                   : mm <= -0.05 ? document_.fine(-mm) + " open"
                                 : QString("fits");
        };
        const QStringList cells{QString::number(g.number), document_.length(g.along_mm), off(g.off_a_mm),
                                off(g.off_b_mm)};
        for (int j = 0; j < cells.size(); ++j) guide_->setItem(k, j, new QTableWidgetItem(cells[j]));
    }
}

/// As its drawing is seen.
QString OfferUpPanel::move_words(const piece::Move& move) const {
    QStringList out;
    const auto way = [&](double mm, const char* more, const char* less) {
        if (std::abs(mm) >= 0.05) out << document_.fine(std::abs(mm)) + (mm > 0 ? more : less);
    };
    way(move.by.x(), " to the right", " to the left");
    way(move.by.y(), " up", " down");
    const double turn = units::degrees(move.turn_rad);
    if (std::abs(turn) >= 0.005)
        out << QString("turned %1° %2 the clock").arg(std::abs(turn), 0, 'f', 2).arg(turn > 0 ? "against" : "with");
    return "Best move, as it is drawn: " + out.join(", ") + ".";
}

void OfferUpPanel::take() {
    fault_->clear();
    if (edge() < 0) return;
    const auto along = along_->typed();
    const bool daylight = seen_->currentIndex() == 0;
    // What was seen at the last station is not what is seen at this one.
    if (daylight && gap_->asks()) return fault_->say("Type what is seen there: 0 where there is no daylight.");
    const auto gap = daylight ? gap_->typed() : Result<double>(0.0);
    // The field says itself what is wrong with it.
    if (!along || !gap) return (!along ? along_ : gap_)->setFocus();
    piece::FitReading r{edge(), *along, static_cast<piece::Noticed>(seen_->currentIndex()), daylight ? *gap : 0};
    if (const auto places = piece::true_places(*piece(), *shape(), {r}); !places) {
        fault_->say(QString::fromStdString(units::in_unit(places.error().message, document_.unit())));
        along_->setFocus();
        return;
    }
    change_draft("Note what was seen", [&](job::Fitting& f) {
        // The same place again is read again.
        std::erase_if(f.readings, [&](const auto& one) {
            return one.edge == r.edge && std::abs(one.along_mm - r.along_mm) < 0.5;
        });
        f.readings.push_back(r);
        std::stable_sort(f.readings.begin(), f.readings.end(), [](const auto& a, const auto& b) {
            return std::pair(a.edge, a.along_mm) < std::pair(b.edge, b.along_mm);
        });
    });
    go_on();
}

/// To the next station that is there (a notch takes some away), in the field of the daylight.
void OfferUpPanel::go_on() {
    const double step = station_mm(document_.unit());
    double end = 0;
    for (const auto& m : shape()->marks)
        if (m.kept && m.edge == edge()) end = std::max(end, m.arc_mm);
    double next = (std::floor(along_->value() / step + 1e-6) + 1) * step;
    while (next < end && !piece::true_places(*piece(), *shape(), {{edge(), next}})) next += step;
    along_->set_value(std::min(next, end));
    seen_->setCurrentIndex(0);
    gap_->ask();
    gap_->setFocus();
    show_readings();
}

/// In practice: what a person would feel, one station after the other. The same fitting feels the same.
void OfferUpPanel::feel() {
    const auto& practice = document_.job().practice;
    if (!practice || !piece() || !shape()) return;
    practice::Hand hand;
    hand.sigma_mm = piece::usual_feeler_mm;
    hand.random.seed(practice->boat.seed + static_cast<unsigned>(piece()->fittings.size()));
    const auto felt =
        practice::gaps_felt(*shape(), practice::VirtualBoat(practice->boat), station_mm(document_.unit()), hand);
    change_draft("Feel the gaps", [&](job::Fitting& f) { f.readings = felt; });
}

void OfferUpPanel::remove_chosen() {
    const int row = list_->currentRow();
    const auto* d = draft();
    if (!d || row < 0 || row >= static_cast<int>(d->readings.size())) return;
    change_draft("Take away what was seen", [row](job::Fitting& f) { f.readings.erase(f.readings.begin() + row); });
}

void OfferUpPanel::enter() {
    const auto* d = draft();
    const auto* p = piece();
    const auto* s = shape();
    if (!d || !p || !s) return;
    const job::JobPiece built = *p;
    const auto readings = d->readings;
    const bool pattern = what_->currentIndex() == 1;
    const auto* result = document_.computed()->results.piece(built.id);
    const double forecast = result && result->forecast ? result->forecast->now.likely_largest_mm : 0;
    Result<bool> entered = true;
    document_.edit("Enter a fitting",
                   [&](job::Job& job) { entered = job::enter_fitting(job, built, *s, readings, pattern, forecast); });
    fault_->say(entered ? QString()
                        : QString::fromStdString(units::in_unit(entered.error().message, document_.unit())));
    if (entered) emit said(pattern ? "The pattern's corrections are in the outline." : "The fitting is in the job.");
}

void OfferUpPanel::take_back() {
    const std::string id = document_.selected_piece().toStdString();
    document_.edit("Take a fitting back", [&](job::Job& job) { job::take_back_fitting(job, id); });
}

bool OfferUpPanel::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return SidePanel::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool entered = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
    if (entered && (watched == gap_ || watched == seen_)) {
        take();
        return true;
    }
    if (watched == list_ && key->key() == Qt::Key_Delete) {
        remove_chosen();
        return true;
    }
    return SidePanel::eventFilter(watched, event);
}

}  // namespace bevelsmith::app

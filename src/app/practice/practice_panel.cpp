#include "app/practice/practice_panel.h"

#include <QPainter>
#include <QRandomGenerator>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/look/theme.h"
#include "practice/instruments.h"

namespace bevelsmith::app {
namespace {

/// What a hand can reach of the hull: from near the keel to the topsides, both sides.
constexpr double lowest_angle = -std::numbers::pi + 0.02, highest_angle = -0.02;

std::size_t readings_in(const job::Job& job) {
    std::size_t out = 0;
    for (const auto& set : job.readings) out += set.readings.size();
    return out;
}

practice::Hand hand_of(const job::Practice& p, std::size_t taken) {
    practice::Hand out;
    out.sigma_mm = p.sigma_mm;
    out.slip_chance = p.slip_chance;
    // The same job takes the same readings again; the next reading errs anew.
    out.random.seed(p.boat.seed * 7919U + static_cast<unsigned>(taken));
    return out;
}

}  // namespace

job::Job practice_job(unsigned seed) {
    job::Job job = job::empty_job();
    job.name = "Practice hull";
    job.boat.name = "Practice hull";
    job.boat.shell.construction = fixing::Construction::laminate;
    job.practice.emplace();
    job.practice->boat.seed = seed;
    job.practice->boat.lopsided_mm = 12;
    job.practice->boat.lumpy_mm = 2;
    job.surfaces.front().name = "Inside of the hull";
    job::JobPiece piece;
    piece.id = "B1";
    piece.name = "Practice bulkhead";
    piece.plane = {Vec3::UnitX(), 1500};
    piece.material_id = job.materials.front().id;
    piece::EdgeSpec hull, top;
    hull.name = "hull";
    hull.surface_id = job.surfaces.front().id;
    hull.gap_mm = 2;
    top.kind = piece::EdgeKind::straight;
    top.name = "top";
    top.at_mm = -60;
    piece.edges = {hull, top};
    piece.split_for_passage = false;
    job.pieces.push_back(piece);
    return job;
}

GapMap::GapMap(const Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setFixedHeight(120);
    setAccessibleName("gaps along the edge");
}

void GapMap::show_trial(std::shared_ptr<const practice::Trial> trial, double wanted_mm) {
    trial_ = std::move(trial);
    wanted_mm_ = wanted_mm;
    setVisible(trial_ != nullptr);
    update();
}

void GapMap::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    if (!trial_ || trial_->gaps.empty()) return;
    const auto& gaps = trial_->gaps;
    const double first = gaps.front().arc_mm, length = std::max(1.0, gaps.back().arc_mm - first);
    const double most = std::max({trial_->largest_mm, wanted_mm_, 1.0}), middle = height() / 2.0;
    const double left = 10, wide = width() - 20.0, scale = (middle - 22) / most;
    p.fillRect(QRectF(left, middle - wanted_mm_ * scale, wide, 2 * wanted_mm_ * scale), c.halo);
    const double bar = std::max(1.0, wide / static_cast<double>(gaps.size()));
    for (const auto& gap : gaps) {
        const double x = left + wide * (gap.arc_mm - first) / length;
        const bool bad = std::abs(gap.gap_mm) > wanted_mm_;
        p.fillRect(
            QRectF(QPointF(x - bar / 2, middle), QPointF(x + bar / 2, middle - gap.gap_mm * scale)).normalized(),
            bad ? c.stop : c.certain);
    }
    p.setPen(QPen(c.ink, 1));
    p.drawLine(QPointF(left, middle), QPointF(left + wide, middle));
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(QRectF(left, 3, wide, 16), Qt::AlignLeft, "daylight, to " + document_.fine(most));
    p.drawText(QRectF(left, height() - 18.0, wide, 16), Qt::AlignLeft, "fouls: to be shaved off");
    p.drawText(QRectF(left, height() - 18.0, wide, 16), Qt::AlignRight,
               "along the edge, band ± " + document_.fine(wanted_mm_));
}

PracticePanel::PracticePanel(Document& document) : SidePanel(document, "Practice hull") {
    words_ = panel_->words(
        "A boat that you have not seen. Take readings where you think they tell most, then cut the bulkhead and "
        "offer "
        "it up: only then her true shape shows.",
        false);
    const auto unit = [&d = document_] { return d.unit(); };
    instrument_ = new Form(unit);
    panel_->add(instrument_);
    take_ = new QPushButton("Take these readings");
    panel_->add(take_);
    fault_ = panel_->fault();
    taken_ = panel_->words({}, false);
    gap_ = new Figure("largest misfit along the edge");
    score_ = new Figure("score against the best possible");
    map_ = new GapMap(document_);
    panel_->add(gap_);
    panel_->add(map_);
    panel_->add(score_);
    verdict_ = panel_->words({}, false);
    panel_->heading("The boat and the hand");
    boat_ = new Form(unit);
    panel_->add(boat_);
    panel_->end();
    act_ = panel_->act("Cut it and offer it up");
    connect(take_, &QPushButton::clicked, this, &PracticePanel::take);
    connect(act_, &QPushButton::clicked, this, &PracticePanel::try_piece);
    connect(&document_, &Document::job_changed, this, &PracticePanel::refresh);
    connect(&document_, &Document::computed_changed, this, &PracticePanel::refresh);
    refresh();
}

void PracticePanel::edit(const QString& what, const std::function<void(job::Practice&)>& change) {
    document_.edit(what, [&](job::Job& job) {
        if (job.practice) change(*job.practice);
    });
}

void PracticePanel::change_boat(const QString& what, const std::function<void(practice::BoatSpec&)>& change) {
    document_.edit(what, [&](job::Job& job) {
        if (!job.practice) return;
        const practice::BoatSpec before = job.practice->boat;
        change(job.practice->boat);
        if (job.practice->boat == before) return;
        job.readings.clear();
        job.practice->tried.clear();
    });
}

void PracticePanel::add_boat(FieldList& fields) {
    const auto& p = *document_.job().practice;
    fields.choice("form", static_cast<int>(p.boat.form), {"round bilge", "hard chine", "flared bow"},
                  [this](const QVariant& v) {
                      change_boat("Another form", [&](practice::BoatSpec& b) {
                          b.form = static_cast<practice::HullForm>(v.toInt());
                      });
                  });
    fields
        .length(
            "lopsided by", p.boat.lopsided_mm,
            [this](const QVariant& v) {
                change_boat("Lopsided", [&](practice::BoatSpec& b) { b.lopsided_mm = v.toDouble(); });
            },
            -200, 200)
        .length(
            "lumps as high as", p.boat.lumpy_mm,
            [this](const QVariant& v) {
                change_boat("Lumpy", [&](practice::BoatSpec& b) { b.lumpy_mm = v.toDouble(); });
            },
            0, 50)
        .length(
            "the hand reads ±", p.sigma_mm,
            [this](const QVariant& v) { edit("Another hand", [&](job::Practice& x) { x.sigma_mm = v.toDouble(); }); },
            0.05, 50)
        .number(
            "plainly wrong", "%", 100 * p.slip_chance,
            [this](const QVariant& v) {
                edit("Another hand", [&](job::Practice& x) { x.slip_chance = v.toDouble() / 100; });
            },
            0, 50);
    fields.button("Another boat, nothing measured", [this] {
        const auto seed = QRandomGenerator::global()->bounded(1U, 1'000'000U);
        change_boat("Another boat", [&](practice::BoatSpec& b) { b.seed = seed; });
    });
}

void PracticePanel::add_instrument(FieldList& fields) {
    QStringList ways{"pattern across the boat", "ordinates from a level line, port side",
                     "ordinates from a level line, starboard side", "points where the program would measure next"};
    if (document_.job().practice->boat.form == practice::HullForm::hard_chine)
        ways << "along the chine, port side"
             << "along the chine, starboard side"
             << "along the keel";
    school_ = std::min(school_, static_cast<int>(ways.size()) - 1);
    fields.choice("instrument", school_, ways, [this](const QVariant& v) { school_ = v.toInt(), refresh(); });
    if (school_ == 0)
        fields.length(
            "at, fwd", at_mm_, [this](const QVariant& v) { at_mm_ = v.toDouble(), refresh(); }, 0,
            practice::VirtualBoat::length_mm);
    if (school_ == 1 || school_ == 2)
        fields.length("line's height", height_mm_,
                      [this](const QVariant& v) { height_mm_ = v.toDouble(), refresh(); });
    if (school_ != 3)
        fields.length(
            school_ == 0 || school_ > 3 ? "a point every" : "a station every", step_mm_,
            [this](const QVariant& v) { step_mm_ = v.toDouble(), refresh(); }, 20, 2000);
}

survey::ReadingSet PracticePanel::taken_set() const {
    const job::Job& job = document_.job();
    const practice::VirtualBoat boat(job.practice->boat);
    practice::Hand hand = hand_of(*job.practice, readings_in(job));
    survey::ReadingSet out;
    if (school_ == 0) {
        std::vector<double> angles;
        const double reach = boat.radius_mm(at_mm_, -std::numbers::pi / 2);
        const int count = std::max(3, static_cast<int>((highest_angle - lowest_angle) * reach / step_mm_));
        for (int k = 0; k <= count; ++k) angles.push_back(lowest_angle + (highest_angle - lowest_angle) * k / count);
        out = practice::read_pattern(boat, at_mm_, angles, hand);
        out.name = QString("Pattern at %1").arg(document_.length(at_mm_)).toStdString();
    } else if (school_ < 3) {
        std::vector<double> stations;
        for (double x = 50; x < practice::VirtualBoat::length_mm; x += step_mm_) stations.push_back(x);
        const Vec3 toward = school_ == 1 ? Vec3::UnitY() : Vec3(-Vec3::UnitY());
        out = practice::read_ordinates(boat, {0, 0, height_mm_}, Vec3::UnitX(), toward, stations, hand);
        out.name = QString("Line at %1").arg(document_.length(height_mm_)).toStdString();
    } else if (school_ > 3) {
        static const char* const names[] = {"Chine, port side", "Chine, starboard side", "Keel"};
        out = practice::read_line(boat, static_cast<practice::HullLine>(school_ - 4), step_mm_, hand);
        out.name = names[school_ - 4];
    } else {
        std::vector<practice::Spot> spots;
        const auto* piece = document_.computed()->results.piece(piece_id());
        if (piece && piece->forecast)
            for (const auto& s : piece->forecast->suggestions) {
                double angle = std::atan2(s.position.z(), s.position.y());
                if (angle > std::numbers::pi / 2) angle -= 2 * std::numbers::pi;
                spots.push_back({std::clamp(s.position.x(), 0.0, practice::VirtualBoat::length_mm),
                                 std::clamp(angle, -std::numbers::pi - practice::VirtualBoat::highest_angle,
                                            practice::VirtualBoat::highest_angle)});
            }
        out = practice::read_points(boat, spots, hand);
        out.name = "Measured next";
    }
    return out;
}

void PracticePanel::take() {
    const survey::ReadingSet set = taken_set();
    if (set.readings.empty()) {
        const auto* piece = document_.computed()->results.piece(piece_id());
        return fault_->say(school_ != 3 ? "The hull is not reached from there: choose another height."
                           : piece && piece->forecast
                               ? "Nothing more is proposed: another reading would tell little."
                               : "Nothing is proposed yet: the surface has to be there first.");
    }
    fault_->clear();
    document_.edit("Take readings of the practice hull", [&](job::Job& job) { job::add_readings(job, set); });
}

std::string PracticePanel::piece_id() const {
    const auto& pieces = document_.job().pieces;
    if (job::find_piece(document_.job(), document_.selected_piece().toStdString()))
        return document_.selected_piece().toStdString();
    return pieces.empty() ? std::string() : pieces.front().id;
}

void PracticePanel::try_piece() {
    const std::string id = piece_id();
    const auto* piece = document_.computed()->results.piece(id);
    if (!piece || !piece->shape())
        return fault_->say("There is nothing to cut yet: three stations or more make a surface.");
    fault_->clear();
    edit("Offer up " + QString::fromStdString(id), [&](job::Practice& p) {
        if (std::find(p.tried.begin(), p.tried.end(), id) == p.tried.end()) p.tried.push_back(id);
    });
}

void PracticePanel::show_trial() {
    const std::string id = piece_id();
    const auto* spec = job::find_piece(document_.job(), id);
    const auto* piece = document_.computed()->results.piece(id);
    const bool tried = piece && piece->trial && spec;
    gap_->setVisible(tried);
    score_->setVisible(tried);
    verdict_->setVisible(tried);
    map_->show_trial(tried ? piece->trial : nullptr, spec ? spec->wanted_fit_mm : 3);
    if (!tried) return;
    const auto& t = *piece->trial;
    gap_->show_value(document_.fine_number(t.largest_mm), document_.fine_unit(),
                     QString("The cut piece against the boat as she is, the asked gap taken off: %1 of daylight at "
                             "most, %2 fouling at most, %3 r.m.s.")
                         .arg(document_.fine(t.widest_mm), document_.fine(t.fouling_mm), document_.fine(t.rms_mm)));
    verdict_->setText(t.trips == 1 ? QString("It fits at the first trip.")
                                   : QString("%1 trips between boat and bench until it fits within %2.")
                                         .arg(t.trips)
                                         .arg(document_.fine(spec->wanted_fit_mm)));
    if (piece->best && *piece->best) {
        const double best = (*piece->best)->largest_mm;
        score_->show_value(
            QString::number(practice::score(best, t.largest_mm, t.trips), 'f', 0), "of 100",
            QString("With as many readings as you took a practised hand comes to %1 in the mean: %2 % "
                    "of them along the edge with both its ends, the rest on sections beside it. Half the "
                    "score is twice as far off.")
                .arg(document_.fine(best))
                .arg(100 * (*piece->best)->along_edge, 0, 'f', 0));
    } else {
        score_->show_value("–", "", "So few readings do not make a surface to compare with.");
    }
}

void PracticePanel::refresh() {
    const auto& job = document_.job();
    const bool any = job.practice.has_value();
    for (QWidget* w : {static_cast<QWidget*>(instrument_), static_cast<QWidget*>(boat_), static_cast<QWidget*>(take_),
                       static_cast<QWidget*>(act_)})
        w->setEnabled(any);
    if (!any) return words_->setText("This job is a real boat's. A practice hull is begun from the first page.");
    FieldList boat, instrument;
    add_boat(boat);
    add_instrument(instrument);
    boat_->show_fields(boat.take());
    instrument_->show_fields(instrument.take());
    const auto n = readings_in(job);
    const auto* piece = document_.computed()->results.piece(piece_id());
    QString words = n == 0 ? QString("Nothing is measured yet.") : QString("%1 readings taken.").arg(n);
    if (piece && piece->forecast)
        words += QString(" The program expects a largest misfit of %1.")
                     .arg(document_.fine(piece->forecast->now.expected_largest_mm));
    else if (n > 0 && piece && piece->outline && !piece->outline->ok())
        words += " " + document_.told(piece->outline->error().message) + ".";
    if (const auto* spec = job::find_piece(job, piece_id()))
        words += QString(" The bulkhead's face A stands at %1 fwd.").arg(document_.length(spec->plane.d_mm));
    taken_->setText(words);
    show_trial();
}

}  // namespace bevelsmith::app

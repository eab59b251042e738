#include "app/measure/marks_panel.h"

#include <QPainter>
#include <QtConcurrentRun>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/place_text.h"
#include "job/own_frames.h"

namespace bevelsmith::app {
namespace {

QString text_of(const std::string& s) {
    return QString::fromStdString(s);
}

/// Fails nothing: an empty text is a place that follows from the name.
QString place_fault(const QString& text, units::LengthUnit unit, const std::vector<Vec3>& before, PlaceIn frame) {
    if (frame == PlaceIn::boat && text.trimmed().isEmpty()) return {};
    const auto read = place_in(text, unit, before, frame);
    return read ? QString() : text_of(read.error().message);
}

}  // namespace

MarksPicture::MarksPicture(QWidget* parent) : QWidget(parent) {
    setFixedHeight(170);
    setAccessibleName("marks and how they lie");
}

void MarksPicture::show_marks(std::vector<survey::KnownMark> marks, std::optional<survey::Placement> placement) {
    marks_ = std::move(marks);
    placement_ = std::move(placement);
    update();
}

void MarksPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    p.setFont(Theme::font(size::text_small));
    if (marks_.empty()) {
        p.setPen(c.faint);
        return p.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
                          "Three marks that are seen from the set and known in the boat place it: they are drawn "
                          "here, with how far off each one lies.");
    }
    Vec3 low = marks_.front().at, high = low;
    double most_off = 0;
    for (const auto& mark : marks_) low = low.cwiseMin(mark.at), high = high.cwiseMax(mark.at);
    if (placement_)
        for (const auto& one : placement_->marks) most_off = std::max(most_off, one.off.norm());
    const QString words[] = {"from above, bow at right", "looking forward, port at left"};
    for (int view = 0; view < 2; ++view) {
        const int across = view == 0 ? 0 : 1, up = view == 0 ? 1 : 2;
        const double sign = view == 0 ? 1 : -1;
        const QRectF room(view * width() / 2.0 + 30, 34, width() / 2.0 - 60, height() - 60.0);
        const Vec3 wide = high - low, middle = (high + low) / 2;
        const double scale =
            std::min(room.width() / std::max(wide[across], 100.0), room.height() / std::max(wide[up], 100.0));
        // The largest is drawn 26 px long.
        const double longer = most_off > 1e-6 ? 26 / most_off : 0;
        p.setPen(c.faint);
        p.drawText(QRectF(view * width() / 2.0 + 8, 4, width() / 2.0 - 12, 16), Qt::AlignLeft, words[view]);
        for (std::size_t k = 0; k < marks_.size(); ++k) {
            const Vec3 off = marks_[k].at - middle;
            const QPointF at = room.center() + scale * QPointF(sign * off[across], -off[up]);
            const bool worst = placement_ && static_cast<int>(k) == placement_->worst && most_off > 0.05;
            if (placement_) {
                const Vec3& miss = placement_->marks[k].off;
                p.setPen(QPen(worst ? c.stop : c.accent, 1.6));
                p.drawLine(at, at + longer * QPointF(sign * miss[across], -miss[up]));
            }
            p.setPen(QPen(c.certain, 1.4));
            p.drawLine(at - QPointF(4, 0), at + QPointF(4, 0));
            p.drawLine(at - QPointF(0, 4), at + QPointF(0, 4));
            p.setPen(worst ? c.stop : c.ink);
            p.drawText(at + QPointF(6, -5), text_of(marks_[k].name));
        }
    }
    if (most_off <= 1e-6) return;
    p.setPen(c.faint);
    p.drawText(QRectF(8, height() - 18.0, width() - 16.0, 16), Qt::AlignLeft,
               "Lines: how far off each mark lies, drawn longer.");
}

MarksPanel::MarksPanel(Document& document, const std::string& set_id)
    : SidePanel(document, "Placed by marks"), id_(set_id) {
    panel_->words(
        "The set lies in a frame of its own. Marks that were seen from it and are known in the boat place it: three "
        "or more, well apart. A mark's place in the boat is that of the mark of its name, among the boat's or those "
        "that readings name, or one typed here. M on a row of the readings makes it a mark, called as its note.",
        false);
    picture_ = new MarksPicture;
    panel_->add(picture_);
    fault_ = panel_->fault();
    found_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->heading("On a surface that is known already");
    gain_ = panel_->words({}, false);
    try_ = panel_->quiet_button("See what the surface would change");
    lay_ = panel_->quiet_button("Lay it on the surface so");
    undo_nudge_ = panel_->quiet_button("By the marks alone again");
    panel_->end();
    connect(try_, &QPushButton::clicked, this, &MarksPanel::look_for_surface);
    connect(lay_, &QPushButton::clicked, this, &MarksPanel::lay_on_surface);
    connect(undo_nudge_, &QPushButton::clicked, this,
            [this] { change("Place a set by its marks alone", [](survey::OwnFrame& own) { own.nudge.reset(); }); });
    connect(&trying_, &QFutureWatcherBase::finished, this, [this] {
        tried_ = trying_.result();
        show_alignment();
    });
    connect(&document_, &Document::job_changed, this, &MarksPanel::refresh);
    refresh();
}

MarksPanel::~MarksPanel() {
    if (stop_) *stop_ = true;
}

const job::JobReadingSet* MarksPanel::set() const {
    for (const auto& one : document_.job().readings)
        if (one.id == id_ && one.own_frame) return &one;
    return nullptr;
}

void MarksPanel::change(const QString& what, const std::function<void(survey::OwnFrame&)>& apply) {
    document_.edit(what, [&](job::Job& job) {
        for (auto& one : job.readings)
            if (one.id == id_ && one.own_frame) apply(*one.own_frame);
    });
}

void MarksPanel::add_mark(FieldList& fields, std::size_t index, const survey::OwnFrame& own) {
    const survey::SeenMark& mark = own.marks[index];
    const auto unit = document_.unit();
    // What the surface added was found with the marks as they were.
    const auto change_mark = [this, index](const QString& what, auto apply) {
        change(what, [&](survey::OwnFrame& frame) {
            if (index >= frame.marks.size()) return;
            const survey::SeenMark before = frame.marks[index];
            apply(frame.marks[index]);
            if (!(before == frame.marks[index])) frame.nudge.reset();
        });
    };
    const QString n = QString::number(index + 1);
    QString title = QString("%1 · %2").arg(text_of(mark.name), state_words(mark));
    if (const auto* known = boat_mark(mark.name); known && !mark.at)
        title += " · the boat's, at " + place_words(known->position, unit);
    fields.heading(title);
    fields.text(n + ". mark", mark.name, [change_mark](const QVariant& v) {
        change_mark("Name a mark", [&](survey::SeenMark& m) { m.name = v.toString().trimmed().toStdString(); });
    });
    const std::vector<Vec3> seen{mark.seen};
    fields.text(
        n + ". seen at (x, y, z)", place_words(mark.seen, unit, PlaceIn::own_frame).toStdString(),
        [change_mark, unit, seen](const QVariant& v) {
            if (const auto at = place_in(v.toString(), unit, seen, PlaceIn::own_frame))
                change_mark("Say where a mark was seen", [&](survey::SeenMark& m) {
                    m.seen = *at;
                    m.disabled = false;
                });
        },
        [unit, seen](const QString& text) { return place_fault(text, unit, seen, PlaceIn::own_frame); });
    const std::vector<Vec3> in_boat = mark.at ? std::vector<Vec3>{*mark.at} : std::vector<Vec3>{};
    fields.text(
        n + ". in the boat (fwd, port, up)", mark.at ? place_words(*mark.at, unit).toStdString() : "",
        [change_mark, unit, in_boat](const QVariant& v) {
            const QString text = v.toString().trimmed();
            const auto at = text.isEmpty() ? Result<Vec3>(Error{}) : place_in(text, unit, in_boat);
            change_mark("Say where a mark is in the boat", [&](survey::SeenMark& m) {
                if (at) m.at = *at;
                else m.at.reset();
            });
        },
        [unit, in_boat](const QString& text) { return place_fault(text, unit, in_boat, PlaceIn::boat); });
    fields.toggle(n + ". counts", !mark.disabled, [change_mark](const QVariant& v) {
        change_mark("Leave a mark out", [&](survey::SeenMark& m) { m.disabled = !v.toBool(); });
    });
    fields.button("Remove the " + n + ". mark", [this, index] {
        change("Remove a mark", [&](survey::OwnFrame& frame) {
            if (index < frame.marks.size())
                frame.marks.erase(frame.marks.begin() + static_cast<std::ptrdiff_t>(index));
            frame.nudge.reset();
        });
    });
}

/// The boat's marks that are not listed yet, to be filled.
void MarksPanel::add_boat_marks() {
    change("Add the boat's marks", [&](survey::OwnFrame& own) {
        for (const auto& mark : document_.job().marks) {
            const bool listed = std::any_of(own.marks.begin(), own.marks.end(), [&](const auto& seen) {
                return seen.name == mark.id || seen.name == mark.name;
            });
            if (!listed) own.marks.push_back({mark.id, Vec3::Zero(), std::nullopt, true});
        }
    });
}

void MarksPanel::refresh() {
    const auto* one = set();
    if (!one) {
        form_->show_fields({});
        found_->clear();
        return fault_->say("This set has no frame of its own any more.");
    }
    placed_ = job::placed_set(document_.job(), id_);
    const survey::OwnFrame& own = *one->own_frame;
    FieldList fields;
    for (std::size_t k = 0; k < own.marks.size(); ++k) add_mark(fields, k, own);
    fields.button("Add a mark", [this] {
        change("Add a mark", [](survey::OwnFrame& frame) {
            std::vector<std::string> names;
            for (const auto& mark : frame.marks) names.push_back(mark.name);
            frame.marks.push_back({job::free_id("M", names), Vec3::Zero(), std::nullopt, true});
        });
    });
    if (!document_.job().marks.empty()) fields.button("Add all marks of the boat", [this] { add_boat_marks(); });
    if (survey::may_be_scaled(one->school))
        fields.toggle("its lengths may be off by a factor", own.scaled, [this](const QVariant& v) {
            change("Let a set's scale be found", [&](survey::OwnFrame& frame) {
                frame.scaled = v.toBool();
                frame.nudge.reset();
            });
        });
    form_->show_fields(fields.take(), text_of(id_));
    show_placement();
    show_alignment();
}

QString MarksPanel::state_words(const survey::SeenMark& mark) const {
    if (mark.disabled) return "left out";
    const auto of_name = [&](const auto& m) { return m.name == mark.name; };
    if (placed_ && placed_->ok()) {
        const auto& marks = (*placed_)->placement->value().marks;
        const auto found = std::find_if(marks.begin(), marks.end(), of_name);
        if (found != marks.end()) return document_.fine(found->off.norm()) + " off";
    }
    return mark.at || boat_mark(mark.name) ? "known in the boat" : "its place in the boat is not known yet";
}

const job::JobMark* MarksPanel::boat_mark(const std::string& name) const {
    for (const auto& mark : document_.job().marks)
        if (mark.id == name || mark.name == name) return &mark;
    return nullptr;
}

QString MarksPanel::placement_words(const survey::Placement& by) const {
    const auto& worst = by.marks[static_cast<std::size_t>(by.worst)];
    QString out =
        QString("%1 marks, %2 off in the mean (r.m.s.). ").arg(by.marks.size()).arg(document_.fine(by.rms_mm));
    if (by.marks.size() > 3)
        out +=
            QString("Worst is %1: %2 from where the others put it, which agree within %3.")
                .arg(text_of(worst.name), document_.fine(worst.from_others_mm), document_.fine(worst.others_rms_mm));
    else
        out += QString("Worst is %1, %2 off. A fourth mark would tell which one is wrong, if one is.")
                   .arg(text_of(worst.name), document_.fine(worst.off.norm()));
    QStringList read;
    for (const auto& mark : by.marks) {
        const auto& typed = set()->own_frame->marks;
        if (std::none_of(typed.begin(), typed.end(), [&](const auto& m) { return m.name == mark.name; }))
            read << text_of(mark.name);
    }
    if (!read.isEmpty()) out += QString(" %1: from readings of this set that name them.").arg(read.join(", "));
    if (by.scale != 1) out += QString(" Lengths are taken %1 times as long.").arg(by.scale, 0, 'f', 4);
    if (!by.doubt.empty()) out += " " + text_of(by.doubt).left(1).toUpper() + text_of(by.doubt).mid(1);
    return out;
}

void MarksPanel::show_placement() {
    const bool placed = placed_->ok();
    fault_->say(placed ? QString() : "Not placed, and on no surface: " + text_of(placed_->error().message) + ".");
    found_->setVisible(placed);
    if (!placed) return picture_->show_marks({}, std::nullopt);
    const survey::Placement& by = (*placed_)->placement->value();
    found_->setText(placement_words(by));
    picture_->show_marks((*placed_)->marks, by);
}

void MarksPanel::look_for_surface() {
    if (trying_.isRunning()) {
        *stop_ = true;
        return;
    }
    tried_.reset();
    tried_for_ = std::make_shared<const job::Job>(document_.job());
    stop_ = std::make_shared<std::atomic<bool>>(false);
    trying_.setFuture(QtConcurrent::run([job = tried_for_, id = id_, stop = stop_]() -> Tried {
        try {
            return job::alignment_of(*job, id, [stop] { return !*stop; });
        } catch (const Stopped&) {
            return std::nullopt;
        } catch (const std::exception&) {
            return Error{"there is not enough memory for it"};
        }
    }));
    show_alignment();
}

void MarksPanel::show_alignment() {
    const auto* one = set();
    const bool running = trying_.isRunning(), nudged = one && one->own_frame->nudge;
    // What was found for another state of the job is offered no more.
    const bool holds = tried_ && tried_for_ && one && *tried_for_ == document_.job();
    try_->setText(running ? "Stop" : "See what the surface would change");
    try_->setEnabled(one && placed_ && placed_->ok());
    undo_nudge_->setVisible(nudged);
    lay_->setVisible(holds && tried_->ok() && !running);
    if (running) return gain_->setText("Laying it on the surface of the other sets …");
    if (!holds)
        return gain_->setText(
            nudged ? "The set was laid on the surface that the others make."
                   : "Where other sets have made the surface known, this one can be laid on it: marks say where it "
                     "stands, the surface the last millimetres.");
    if (!tried_->ok())
        return gain_->setText("It cannot be laid on the surface: " + text_of(tried_->error().message) + ".");
    const hull::Alignment& by = tried_->value();
    gain_->setText(
        QString("Its points lie %1 off the surface of the other sets (r.m.s. of %2 of %3 over it); laid on "
                "it, %4. That moves them %5 and turns them %6°.%7")
            .arg(document_.fine(by.before_mm))
            .arg(by.used)
            .arg(by.over)
            .arg(document_.fine(by.after_mm), document_.fine(by.moved_mm))
            .arg(by.turned_deg, 0, 'f', 2)
            .arg(by.ways < 6 ? QString(" %1 of six ways to move it are not told by surface and marks, and "
                                       "stay as they are.")
                                   .arg(6 - by.ways)
                             : QString()));
}

void MarksPanel::lay_on_surface() {
    if (!tried_ || !tried_->ok()) return;
    const hull::Alignment by = tried_->value();
    change("Lay a set on the surface", [&](survey::OwnFrame& own) { own.nudge = job::nudged_on(own.nudge, by); });
}

}  // namespace bevelsmith::app

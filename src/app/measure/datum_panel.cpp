#include "app/measure/datum_panel.h"

#include <QDir>
#include <QFileDialog>
#include <QPainter>
#include <cmath>

#include "app/look/theme.h"
#include "paper/marks_page.h"
#include "piece/put_back.h"

namespace bevelsmith::app {
namespace {

using survey::Datum;

/// What is done, for each way of knowing.
const char* words_for(Datum::Known known) {
    switch (known) {
        case Datum::Known::two_levels:
            return "Lay a level on something that is level afloat (sole bearers, a sill), athwartships and then "
                   "fore-and-aft, and type what it reads.";
        case Datum::Known::three_points:
            return "Three points of something that is level afloat, well apart: where they are, and how high above a "
                   "level line (laser, water tube).";
        case Datum::Known::bulkhead:
            return "Hang a plumb line against a bulkhead that stands plumb and athwartships afloat. How much farther "
                   "off "
                   "than its head is the foot: forward of the face, and to port of an upright line on the face?";
        case Datum::Known::upright: break;
    }
    return "Nothing is measured: the hard's level is taken for the boat's. On the hard a boat stands neither level "
           "nor "
           "plumb, so a spirit level lies.";
}

}  // namespace

LeanView::LeanView(QWidget* parent) : QWidget(parent) {
    setFixedHeight(132);
    setAccessibleName("boat level and hard level");
}

void LeanView::show_lean(const survey::Lean& lean) {
    lean_ = lean;
    update();
}

void LeanView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    p.setFont(Theme::font(size::text_small));
    const double half = width() / 2.0;
    // Small leans would not be seen: at least 6 times as large, never past 25 degrees.
    const double most = std::max(std::abs(lean_.heel_deg), std::abs(lean_.pitch_deg));
    const double larger = most > 0 ? std::clamp(25 / most, 1.0, 6.0) : 1;
    const auto draw = [&](double left, double clockwise, double degrees, const QString& view, const QString& low_end,
                          const QString& high_end, bool side) {
        const QPointF middle(left + half / 2, 70);
        const double reach = half / 2 - 46;
        p.setPen(c.faint);
        p.drawText(QRectF(left + 8, 4, half - 16, 16), Qt::AlignLeft, view);
        // The drawing is upright in the boat; the hard's level turns the other way.
        p.save();
        p.translate(middle);
        p.setPen(QPen(c.certain, 2));
        p.drawLine(QPointF(-reach, 0), QPointF(reach, 0));
        p.drawLine(QPointF(0, -34), QPointF(0, 24));
        p.rotate(clockwise * larger);
        p.setPen(QPen(c.accent, 1.6, Qt::DashLine));
        p.drawLine(QPointF(-reach, 0), QPointF(reach, 0));
        p.drawLine(QPointF(0, -34), QPointF(0, 24));
        p.restore();
        p.setPen(c.faint);
        p.drawText(QRectF(left + 4, 62, 40, 16), Qt::AlignLeft, low_end);
        p.drawText(QRectF(left + half - 44, 62, 40, 16), Qt::AlignRight, high_end);
        p.setPen(c.ink);
        p.drawText(QRectF(left, 104, half, 16), Qt::AlignHCenter,
                   QString("%1 %2°").arg(side ? "pitch" : "heel").arg(degrees, 0, 'f', 2));
    };
    // Looking forward port is at left: its end is high where the hard's level falls away to the left. From starboard
    // the bow is at right.
    draw(0, -lean_.heel_deg, lean_.heel_deg, "looking forward", "port", "stbd", false);
    draw(half, lean_.pitch_deg, lean_.pitch_deg, "from starboard", "aft", "fwd", true);
    p.setPen(c.certain);
    p.drawText(QRectF(8, height() - 16.0, half, 14), Qt::AlignLeft, "— the boat's level and plumb");
    p.setPen(c.accent);
    p.drawText(QRectF(half, height() - 16.0, half - 8, 14), Qt::AlignRight,
               larger > 1.01 ? QString("- - spirit level, %1 times as far").arg(larger, 0, 'f', 1)
                             : QString("- - spirit level"));
}

DatumPanel::DatumPanel(Document& document) : SidePanel(document, "Datum and marks") {
    lean_ = panel_->words({}, false);
    view_ = new LeanView;
    panel_->add(view_);
    const auto unit = [&d = document_] { return d.unit(); };
    datum_ = new Form(unit);
    panel_->add(datum_);
    fault_ = panel_->fault();
    panel_->words(
        "A level that is wrong by 0.1 degrees puts everything wrong by 1.7 in each thousand. Sets of readings "
        "say themselves whether they were held by the boat's level or by the hard's.");
    panel_->heading("Reference marks");
    marks_ = new Form(unit);
    panel_->add(marks_);
    ties_ = panel_->words({}, false);
    path_ = new QLineEdit(QDir::home().filePath("reference-marks.pdf"));
    path_->setAccessibleName("page of marks");
    panel_->field("page to print", path_);
    written_ = panel_->words({});
    panel_->end();
    auto* act = panel_->act("Write the page of marks");
    connect(act, &QPushButton::clicked, this, &DatumPanel::write);
    connect(path_, &QLineEdit::returnPressed, this, &DatumPanel::write);
    connect(&document_, &Document::job_changed, this, &DatumPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &DatumPanel::show_ties);
    connect(&document_, &Document::selection_changed, this, &DatumPanel::show_ties);
    refresh();
}

void DatumPanel::change_datum(const std::function<void(Datum&)>& change) {
    Datum next = document_.job().datum;
    change(next);
    // What cannot be is said and not taken: the readings keep the datum that they had.
    const auto up = survey::plumb_up(next);
    fault_->say(up ? QString() : QString::fromStdString(up.error().message) + ". The datum is as it was.");
    if (up) document_.edit("Set the datum", [&](job::Job& job) { job.datum = next; });
    else refresh();
}

void DatumPanel::add_datum_fields(FieldList& fields) {
    const Datum& d = document_.job().datum;
    const auto set = [this](auto member) {
        return [this, member](const QVariant& v) { change_datum([&](Datum& x) { x.*member = v.toDouble(); }); };
    };
    fields.choice("known from", static_cast<int>(d.known),
                  {"nothing: taken as upright", "two levels", "three points level afloat", "an existing bulkhead"},
                  [this](const QVariant& v) {
                      change_datum([&](Datum& x) { x.known = static_cast<Datum::Known>(v.toInt()); });
                  });
    if (d.known == Datum::Known::two_levels)
        fields.degrees("port end high", d.port_high_deg, set(&Datum::port_high_deg), -45, 45)
            .degrees("bow end high", d.bow_high_deg, set(&Datum::bow_high_deg), -45, 45);
    const char* axes[] = {"fwd", "port", "height"};
    if (d.known == Datum::Known::three_points)
        for (std::size_t k = 0; k < 3; ++k)
            for (int axis = 0; axis < 3; ++axis)
                fields.place(QString("point %1, %2").arg(k + 1).arg(axes[axis]), d.points[k][axis],
                             units::boat_ways[axis], [this, k, axis](const QVariant& v) {
                                 change_datum([&](Datum& x) { x.points[k][axis] = v.toDouble(); });
                             });
    if (d.known == Datum::Known::bulkhead)
        fields.length("plumb line's length", d.drop_mm, set(&Datum::drop_mm), 1, 1e5)
            .length("foot forward by", d.foot_forward_mm, set(&Datum::foot_forward_mm))
            .length("foot to port by", d.foot_port_mm, set(&Datum::foot_port_mm));
}

void DatumPanel::add_mark_fields(FieldList& fields) {
    const auto& marks = document_.job().marks;
    for (std::size_t k = 0; k < marks.size(); ++k) {
        const auto& mark = marks[k];
        const auto change = [this, k](const auto& act) {
            document_.edit("Change a reference mark", [&](job::Job& job) { act(job.marks[k]); });
        };
        const QString id = QString::fromStdString(mark.id);
        fields.heading(id)
            .text(id + " is", mark.name,
                  [change](const QVariant& v) {
                      change([&](job::JobMark& m) { m.name = v.toString().toStdString(); });
                  })
            .text(id + " measured from", mark.measured_from, [change](const QVariant& v) {
                change([&](job::JobMark& m) { m.measured_from = v.toString().toStdString(); });
            });
        const char* axes[] = {"fwd", "port", "up"};
        for (int axis = 0; axis < 3; ++axis)
            fields.place(id + " " + axes[axis], mark.position[axis], units::boat_ways[axis],
                         [change, axis](const QVariant& v) {
                             change([&](job::JobMark& m) { m.position[axis] = v.toDouble(); });
                         });
        fields.button("Remove " + id, [this, k] {
            document_.edit("Remove a reference mark", [k](job::Job& job) {
                job.marks.erase(job.marks.begin() + static_cast<std::ptrdiff_t>(k));
            });
        });
    }
    fields.button("Add a mark", [this] {
        document_.edit("Add a reference mark", [](job::Job& job) {
            job::JobMark mark;
            std::vector<std::string> ids;
            for (const auto& m : job.marks) ids.push_back(m.id);
            mark.id = job::free_id("M", ids);
            mark.name = "punch mark";
            job.marks.push_back(mark);
        });
        const auto& added = document_.job().marks.back();
        if (QWidget* first = marks_->editor(QString::fromStdString(added.id) + " is"))
            first->setFocus(Qt::TabFocusReason);
    });
}

void DatumPanel::refresh() {
    const Datum& d = document_.job().datum;
    lean_->setText(words_for(d.known));
    if (const auto up = survey::plumb_up(d)) view_->show_lean(survey::lean_of(*up));
    FieldList datum, marks;
    add_datum_fields(datum);
    add_mark_fields(marks);
    datum_->show_fields(datum.take());
    marks_->show_fields(marks.take());
    show_ties();
}

void DatumPanel::show_ties() {
    const auto& job = document_.job();
    if (job.marks.empty())
        return ties_->setText(
            "A mark is something that stays: a punch mark in a stringer, a screw in a beam. Record "
            "where it is and what it was measured from before the old part comes out.");
    const auto computed = document_.computed();
    const auto* piece = computed->piece_result(document_.selected_piece());
    const auto* shape = piece ? piece->shape() : nullptr;
    if (!shape) return ties_->setText("Select a piece to see its distances from the marks.");
    const auto corners = piece::taped_places(*shape);
    QStringList lines{QString("%1 goes back where these places are").arg(document_.selected_piece())};
    for (const auto& corner : corners) {
        QStringList from;
        for (const auto& m : job.marks)
            from << QString("%1 from %2")
                        .arg(document_.length((corner.at - m.position).norm()), QString::fromStdString(m.id));
        lines << QString("%1: %2").arg(QString::fromStdString(corner.name), from.join(", "));
    }
    ties_->setText(lines.join("\n"));
}

void DatumPanel::write() {
    const auto computed = document_.computed();
    const auto done = paper::write_marks(computed->job, computed->results, path_->text().toStdString());
    written_->setObjectName(done ? "small" : "fault");
    written_->setText(done ? "Written to " + path_->text() : QString::fromStdString(done.error().message));
    written_->style()->polish(written_);
}

}  // namespace bevelsmith::app

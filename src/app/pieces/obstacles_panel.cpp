#include "app/pieces/obstacles_panel.h"

#include <algorithm>

#include "app/widgets/place_text.h"
#include "job/in_full.h"
#include "job/starting_piece.h"

namespace bevelsmith::app {
namespace {

using job::JobObstacle;

QString path_words(const std::vector<Vec3>& path, units::LengthUnit unit) {
    QStringList out;
    for (const Vec3& p : path) out << place_words(p, unit);
    return out.join("; ");
}

Result<std::vector<Vec3>> path_in(const QString& text, units::LengthUnit unit, const std::vector<Vec3>& before) {
    std::vector<Vec3> out;
    for (const QString& place : text.split(';', Qt::SkipEmptyParts)) {
        const auto one = place_in(place, unit, before);
        if (!one) return Error{one.error().message + "; and ; stands between two places"};
        out.push_back(*one);
    }
    if (out.size() < 2) return Error{"it runs from one place to another at least"};
    if (out.size() > units::limit::obstacle_points.most)
        return Error{units::too_many(units::limit::obstacle_points, out.size())};
    return out;
}

}  // namespace

ObstaclesPanel::ObstaclesPanel(Document& document, const std::string& first)
    : SidePanel(document, "What stands in the way") {
    const auto& all = document.job().obstacles;
    const auto at = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.id == first; });
    if (at != all.end()) chosen_ = static_cast<std::size_t>(at - all.begin());
    panel_->words(
        "Stringers, ledges, beams, pipes, tanks, machinery: pieces that they meet are cut around them with a "
        "clearance, or it is said that they meet. Ledges, ribs and rails can carry level panels.",
        false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    met_ = panel_->words({}, false);
    auto* another = panel_->quiet_button("Add another");
    gone_ = panel_->quiet_button("Remove it");
    panel_->end();
    connect(another, &QPushButton::clicked, this, &ObstaclesPanel::add);
    connect(gone_, &QPushButton::clicked, this, &ObstaclesPanel::remove);
    connect(&document_, &Document::job_changed, this, &ObstaclesPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &ObstaclesPanel::refresh);
    refresh();
}

void ObstaclesPanel::change(const QString& what, const std::function<void(JobObstacle&)>& apply) {
    document_.edit(what, [&](job::Job& job) {
        if (chosen_ < job.obstacles.size()) apply(job.obstacles[chosen_]);
    });
}

/// A pipe through the middle of what was read, fore and aft; beside a hull that was read on one side, within it.
void ObstaclesPanel::add() {
    Vec3 low = Vec3::Constant(1e9), high = Vec3::Constant(-1e9);
    for (const auto& s : document_.computed()->results.surfaces)
        for (const auto& p : s.points) low = low.cwiseMin(p.position), high = high.cwiseMax(p.position);
    if (low.x() > high.x()) low = Vec3(0, 0, 0), high = Vec3(2000, 0, 0);
    const double step = job::step_mm(document_.job());
    const auto rounded = [step](const Vec3& p) { return Vec3((p / step).array().round() * step); };
    document_.edit("Add an obstacle", [&](job::Job& job) {
        std::vector<std::string> ids;
        for (const auto& o : job.obstacles) ids.push_back(o.id);
        JobObstacle& o = job.obstacles.emplace_back();
        o.id = job::free_id("O", ids);
        o.name = "Pipe " + o.id;
        o.section = piece::Section::round;
        Vec3 middle = (low + high) / 2;
        if (low.y() * high.y() > 0) middle.y() = 0.8 * (std::abs(low.y()) < std::abs(high.y()) ? low.y() : high.y());
        o.path = {rounded({low.x(), middle.y(), middle.z()}), rounded({high.x(), middle.y(), middle.z()})};
        chosen_ = job.obstacles.size() - 1;
    });
    refresh();
}

void ObstaclesPanel::remove() {
    document_.edit("Remove an obstacle", [&](job::Job& job) {
        if (chosen_ < job.obstacles.size())
            job.obstacles.erase(job.obstacles.begin() + static_cast<std::ptrdiff_t>(chosen_));
    });
}

void ObstaclesPanel::add_fields(FieldList& fields, const JobObstacle& o) {
    fields.text("name", o.name, [this](const QVariant& v) {
        change("Rename an obstacle", [&](JobObstacle& one) { one.name = v.toString().toStdString(); });
    });
    fields.choice("section", static_cast<int>(o.section), {"round", "square"}, [this](const QVariant& v) {
        change("Change an obstacle", [&](JobObstacle& one) { one.section = static_cast<piece::Section>(v.toInt()); });
    });
    QStringList sets{"its own path"};
    std::vector<std::string> ids{{}};
    int now = 0;
    for (const auto& set : document_.job().readings) {
        if (set.id == o.set_id) now = static_cast<int>(ids.size());
        sets << QString::fromStdString(set.id + " · " + set.name);
        ids.push_back(set.id);
    }
    fields.choice("runs along", now, sets, [this, ids](const QVariant& v) {
        change("Change an obstacle",
               [&](JobObstacle& one) { one.set_id = ids[static_cast<std::size_t>(std::max(0, v.toInt()))]; });
    });
    const auto unit = document_.unit();
    if (o.set_id.empty())
        fields.text(
            "path (fwd, port, up; …)", path_words(o.path, unit).toStdString(),
            [this, unit, before = o.path](const QVariant& v) {
                if (auto path = path_in(v.toString(), unit, before))
                    change("Move an obstacle", [&](JobObstacle& one) { one.path = *path; });
            },
            [unit, before = o.path](const QString& text) {
                const auto path = path_in(text, unit, before);
                return path ? QString() : QString::fromStdString(path.error().message);
            });
    const auto length = [&](const QString& label, double value, double piece::Obstacle::*member, double least,
                            double most) {
        fields.length(
            label, value,
            [this, member](const QVariant& v) {
                change("Change an obstacle", [&](JobObstacle& one) { one.*member = v.toDouble(); });
            },
            least, most);
    };
    const auto& size = units::range::opening;
    length(o.section == piece::Section::round ? "diameter" : "width", o.width_mm, &piece::Obstacle::width_mm,
           size.least, size.most);
    if (o.section == piece::Section::square)
        length("height", o.height_mm, &piece::Obstacle::height_mm, size.least, size.most);
    length("clearance", o.clearance_mm, &piece::Obstacle::clearance_mm, 0, units::range::gap.most);
    fields.choice("it", static_cast<int>(o.role),
                  {"is to be made", "stays", "comes out", "is taken out and goes back", "is replaced"},
                  [this](const QVariant& v) {
                      change("Say what becomes of an obstacle",
                             [&](JobObstacle& one) { one.role = static_cast<piece::Role>(v.toInt()); });
                  });
    if (o.section == piece::Section::square)
        fields.toggle("level panels lie on it", o.carries, [this](const QVariant& v) {
            change("Change an obstacle", [&](JobObstacle& one) { one.carries = v.toBool(); });
        });
    fields.toggle("pieces are cut around it", o.notches, [this](const QVariant& v) {
        change("Change an obstacle", [&](JobObstacle& one) { one.notches = v.toBool(); });
    });
}

void ObstaclesPanel::refresh() {
    const auto& all = document_.job().obstacles;
    FieldList fields;
    met_->clear();
    gone_->setVisible(!all.empty());
    if (all.empty()) {
        form_->show_fields({});
        return met_->setText("Nothing yet: the boat is taken to be empty.");
    }
    chosen_ = std::min(chosen_, all.size() - 1);
    QStringList names;
    for (const auto& o : all) names << QString::fromStdString(o.name);
    fields.choice("showing", static_cast<int>(chosen_), names, [this](const QVariant& v) {
        chosen_ = static_cast<std::size_t>(std::max(0, v.toInt()));
        refresh();
    });
    add_fields(fields, all[chosen_]);
    form_->show_fields(fields.take());
    // By the results, in which its path is the readings' where it runs along them.
    const auto computed = document_.computed();
    const auto known = std::find_if(computed->job.obstacles.begin(), computed->job.obstacles.end(),
                                    [&](const auto& o) { return o.id == all[chosen_].id; });
    if (known == computed->job.obstacles.end()) return;
    QStringList met;
    for (std::size_t i = 0; i < computed->job.pieces.size() && i < computed->results.pieces.size(); ++i) {
        const auto* shape = computed->results.pieces[i].shape();
        if (!shape || !piece::reaches(*known, computed->job.pieces[i].plane, shape->thickness_mm)) continue;
        const auto box = geometry::bounding_box(shape->face_a.outer);
        for (const auto& room : piece::room_for(*known, shape->frame, shape->thickness_mm))
            if (geometry::bounding_box(room.outer).overlaps(box)) {
                met << QString::fromStdString(computed->job.pieces[i].name);
                break;
            }
    }
    met_->setText(met.isEmpty() ? "It meets no piece." : "It meets: " + met.join(", ") + ".");
}

RoomPanel::RoomPanel(Document& document) : SidePanel(document, "What people want") {
    panel_->words(
        "Figures of the finished inside that are asked for; usual ones stand there at first (common practice). "
        "What is less is a finding.",
        false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    there_ = panel_->words({}, false);
    panel_->end();
    connect(&document_, &Document::job_changed, this, &RoomPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &RoomPanel::refresh);
    refresh();
}

void RoomPanel::refresh() {
    using furniture::Comfort;
    const Comfort& now = document_.job().comfort;
    FieldList fields;
    const auto change = [this](double Comfort::*member) {
        return [this, member](const QVariant& v) {
            document_.edit("Change what people want", [&](job::Job& job) { job.comfort.*member = v.toDouble(); });
        };
    };
    const std::pair<const char*, double Comfort::*> lengths[] = {
        {"berth, length", &Comfort::lying_length_mm},
        {"berth, width at the shoulders", &Comfort::shoulder_width_mm},
        {"berth, width at the feet", &Comfort::foot_width_mm},
        {"berth, headroom", &Comfort::lying_headroom_mm},
        {"seat, headroom", &Comfort::sitting_headroom_mm},
        {"seat, knee room", &Comfort::knee_room_mm},
        {"seat, width at the hips", &Comfort::seat_hip_mm},
        {"seat, width at the shoulders", &Comfort::seat_shoulder_mm},
        {"table, way in to the seat", &Comfort::way_in_mm},
        {"table, room for the thighs", &Comfort::thigh_room_mm},
        {"table over the seat, at most", &Comfort::over_seat_mm},
        {"standing headroom", &Comfort::standing_headroom_mm},
        {"passage at the hips", &Comfort::hip_passage_mm},
        {"passage at the shoulders", &Comfort::shoulder_passage_mm},
        {"reach to the back, at most", &Comfort::reach_mm}};
    for (const auto& [label, member] : lengths)
        fields.length(label, now.*member, change(member), units::range::opening.least, units::range::opening.most);
    const auto& span = units::range::span;
    fields.number("sole, widest span in thicknesses", "", now.sole_span, change(&Comfort::sole_span), span.least,
                  span.most);
    fields.number("seats, widest span in thicknesses", "", now.seat_span, change(&Comfort::seat_span), span.least,
                  span.most);
    fields.length("level panels lie on, least", now.bearing_mm, change(&Comfort::bearing_mm),
                  units::range::film.least, units::range::film.most);
    form_->show_fields(fields.take());
    QStringList there;
    for (const auto& unit : document_.computed()->results.units) {
        const auto named = std::find_if(document_.job().units.begin(), document_.job().units.end(),
                                        [&](const auto& u) { return u.id == unit.id; });
        for (const auto& room : unit.room)
            there << QString("%1: %2 %3%4")
                         .arg(named == document_.job().units.end() ? QString() : QString::fromStdString(named->name),
                              QString::fromStdString(room.name), document_.length(room.mm),
                              room.enough() ? QString() : QString(", wanted ") + document_.length(room.wanted_mm));
    }
    for (const auto& [id, room] : document_.computed()->results.doorways)
        if (const auto* piece = document_.piece(QString::fromStdString(id)))
            there << QString("%1: %2 %3%4")
                         .arg(QString::fromStdString(piece->name), QString::fromStdString(room.name),
                              document_.length(room.mm),
                              room.enough() ? QString() : QString(", wanted ") + document_.length(room.wanted_mm));
    there_->setText(there.isEmpty() ? "No units yet: add a settee, a berth or a sole." : there.join("\n"));
}

}  // namespace bevelsmith::app

#include "app/measure/set_fields.h"

#include <Eigen/Geometry>
#include <cmath>

#include "app/widgets/direction.h"
#include "app/widgets/place_text.h"
#include "survey/placing.h"
#include "survey/points.h"

namespace bevelsmith::app {
namespace {

using Set = survey::ReadingSet;
using survey::School;

/// Turns one direction, and the other with it so that the two stay square.
void turn(Set& set, Vec3 Set::*one, Vec3 Set::*other, const Vec3& to) {
    if (to.norm() < 1e-9) return;
    set.*one = to.normalized();
    Vec3 rest = set.*other - set.*one * (set.*one).dot(set.*other);
    for (int choice = 4; rest.norm() < 0.1; choice = choice == 4 ? 2 : 0)
        rest = direction(choice) - set.*one * (set.*one).dot(direction(choice));
    set.*other = rest.normalized();
}

FieldList::Set turn_to_choice(const ChangeSet& change, Vec3 Set::*one, Vec3 Set::*other) {
    return [=](const QVariant& v) {
        if (v.toInt() >= 6) return;  // "aslant" is what it was
        change("Turn a set", [&](Set& s) { turn(s, one, other, direction(v.toInt())); });
    };
}

Result<std::vector<double>> stick_marks(const QString& text, units::LengthUnit unit,
                                        const std::vector<double>& before) {
    auto marks = lengths_in(text, unit, before);
    if (marks && marks->empty()) return Error{"a stick has a mark at least: type its distance from the tip"};
    if (marks && *std::min_element(marks->begin(), marks->end()) <= 0) return Error{"marks lie behind the tip"};
    return marks;
}

Result<std::vector<Vec2>> pins(const QString& text, units::LengthUnit unit, const std::vector<double>& before) {
    const auto numbers = lengths_in(text, unit, before);
    if (!numbers) return numbers.error();
    if (numbers->size() < 4 || numbers->size() > 8 || numbers->size() % 2 != 0)
        return Error{"two to four points, each by two lengths: across and up"};
    std::vector<Vec2> out;
    for (std::size_t k = 0; k < numbers->size(); k += 2) out.emplace_back((*numbers)[k], (*numbers)[k + 1]);
    if ((out[1] - out[0]).norm() < 1) return Error{"the first two points stand at one place"};
    return out;
}

template <class Read>
auto fault_of(Read read) {
    return [read](const QString& text) {
        const auto value = read(text);
        return value ? QString() : QString::fromStdString(value.error().message);
    };
}

void add_stick(FieldList& fields, const Set& set, units::LengthUnit unit, const ChangeSet& change) {
    const auto read = [unit, before = set.stick_marks_mm](const QString& text) {
        return stick_marks(text, unit, before);
    };
    fields.text(
        "marks at", lengths_words(set.stick_marks_mm, unit).toStdString(),
        [=](const QVariant& v) {
            change("Change the stick's marks", [&](Set& s) { s.stick_marks_mm = *read(v.toString()); });
        },
        fault_of(read));
}

void add_pins(FieldList& fields, const Set& set, units::LengthUnit unit, const ChangeSet& change) {
    std::vector<double> flat;
    for (const Vec2& p : set.fixed_points) flat.insert(flat.end(), {p.x(), p.y()});
    const auto read = [unit, flat](const QString& text) { return pins(text, unit, flat); };
    fields.text(
        "fixed points", lengths_words(flat, unit).toStdString(),
        [=](const QVariant& v) {
            change("Move the fixed points", [&](Set& s) { s.fixed_points = *read(v.toString()); });
        },
        fault_of(read));
    fields.choice("hull lies", set.left_of_pins ? 0 : 1, {"left of 1 to 2", "right of 1 to 2"},
                  [=](const QVariant& v) {
                      change("Turn to the other side", [&](Set& s) { s.left_of_pins = v.toInt() == 0; });
                  });
}

void add_school_fields(FieldList& fields, const Set& set, const job::Job& job, const ChangeSet& change) {
    if (set.school == School::tick_stick || set.school == School::tick_stick_angle)
        add_stick(fields, set, job.unit, change);
    if (set.school == School::fixed_points) add_pins(fields, set, job.unit, change);
    if (set.school == School::compass_scribe)
        fields.length(
            "compass open", set.scribe_mm,
            [=](const QVariant& v) { change("Change the compass", [&](Set& s) { s.scribe_mm = v.toDouble(); }); }, 0,
            2000);
    if (set.school == School::mirrored) {
        QStringList names{"–"};
        int now = 0;
        for (std::size_t k = 0; k < job.surfaces.size(); ++k) {
            names << QString::fromStdString(job.surfaces[k].name);
            if (job.surfaces[k].id == set.mirror_of) now = static_cast<int>(k) + 1;
        }
        fields.choice("mirrors", now, names, [=, surfaces = job.surfaces](const QVariant& v) {
            const int k = v.toInt() - 1;
            change("Mirror a surface",
                   [&](Set& s) { s.mirror_of = k < 0 ? std::string() : surfaces[static_cast<std::size_t>(k)].id; });
        });
    }
    for (const auto& column : survey::columns_of(set))
        if (column.kind == survey::Column::Kind::angle)
            return void(fields.number(
                "one angle ±", "°", set.angle_sigma_deg,
                [=](const QVariant& v) {
                    change("Change the angles' uncertainty", [&](Set& s) { s.angle_sigma_deg = v.toDouble(); });
                },
                0.01, 45));
}

/// In the plane of a piece, or parallel to it.
void add_parallel(FieldList& fields, const Set& set, const job::Job& job, const ChangeSet& change) {
    if (set.school == School::ordinates || set.school == School::laser_meter || job.pieces.empty()) return;
    QStringList names{"–"};
    int now = 0;
    for (std::size_t k = 0; k < job.pieces.size(); ++k) {
        names << QString::fromStdString(job.pieces[k].id);
        const Vec3& n = job.pieces[k].plane.normal;
        if (now == 0 && std::abs(set.along.dot(n)) < 1e-6 && std::abs(set.toward.dot(n)) < 1e-6)
            now = static_cast<int>(k) + 1;
    }
    fields.choice("parallel to", now, names, [=, pieces = job.pieces](const QVariant& v) {
        const int k = v.toInt() - 1;
        if (k < 0) return;
        const auto frame = geometry::upright_frame(pieces[static_cast<std::size_t>(k)].plane);
        change("Lay a set parallel to a piece", [&](Set& s) {
            s.origin = frame.to_space(frame.to_plane(s.origin));
            s.along = frame.u;
            s.toward = frame.v;
        });
    });
    if (now == 0) return;
    const geometry::Plane plane = job.pieces[static_cast<std::size_t>(now) - 1].plane;
    fields.length("distance from it", plane.distance_mm(set.origin), [=](const QVariant& v) {
        change("Move a set",
               [&](Set& s) { s.origin += (v.toDouble() - plane.distance_mm(s.origin)) * plane.normal; });
    });
}

/// What stands at the zero from which the readings are counted.
QString zero_words(School school) {
    switch (school) {
        case School::ordinates: return "zero mark at";
        case School::laser_meter: return "meter stands at";
        case School::tick_stick:
        case School::tick_stick_angle: return "board's 0, 0 at";
        case School::fixed_points: return "pins' 0, 0 at";
        case School::traced: return "template's 0, 0 at";
        case School::compass_scribe: return "blank's 0, 0 at";
        default: return "pattern's 0, 0 at";
    }
}

void add_frame(FieldList& fields, const Set& set, const ChangeSet& change) {
    const char* axes[] = {"fwd", "port", "up"};
    const QString from = zero_words(set.school);
    for (int k = 0; k < 3; ++k)
        fields.place(QString("%1, %2").arg(from, axes[k]), set.origin[k], units::boat_ways[k],
                     [=](const QVariant& v) { change("Move a set", [&](Set& s) { s.origin[k] = v.toDouble(); }); });
    const bool line = set.school == School::ordinates, laser = set.school == School::laser_meter;
    fields
        .choice(line    ? "line runs"
                : laser ? "no turn is"
                        : "across is",
                direction_choice(set.along), direction_words(set.along),
                turn_to_choice(change, &Set::along, &Set::toward))
        .choice(line    ? "measured to"
                : laser ? "a quarter turn is"
                        : "up is",
                direction_choice(set.toward), direction_words(set.toward),
                turn_to_choice(change, &Set::toward, &Set::along));
    // A line or plane that lies along none of the boat's axes: by a point a metre on.
    const Vec3 through = set.origin + 1000 * set.along;
    const QString on = line ? "the line passes" : laser ? "it looks towards" : "across leads to";
    for (int k = 0; k < 3; ++k)
        fields.place(QString("%1, %2").arg(on, axes[k]), through[k], units::boat_ways[k], [=](const QVariant& v) {
            change("Turn a set", [&](Set& s) {
                Vec3 to = s.origin + 1000 * s.along;
                to[k] = v.toDouble();
                turn(s, &Set::along, &Set::toward, to - s.origin);
            });
        });
}

/// Of a template's outline only a stretch met the hull; the rest is set aside.
void add_stretch(FieldList& fields, const Set& set, const ChangeSet& change) {
    const int n = static_cast<int>(set.readings.size());
    if (n < 2) return;
    int first = 0, last = n - 1;
    while (first < n - 1 && set.readings[static_cast<std::size_t>(first)].disabled) ++first;
    while (last > 0 && set.readings[static_cast<std::size_t>(last)].disabled) --last;
    const auto keep = [=](int from, int to) {
        change("Say which stretch met the hull", [&](Set& s) {
            for (int k = 0; k < static_cast<int>(s.readings.size()); ++k)
                s.readings[static_cast<std::size_t>(k)].disabled = k < from || k > to;
        });
    };
    fields.number(
        "touched from point", "", first + 1, [=](const QVariant& v) { keep(v.toInt() - 1, last); }, 1, n);
    fields.number(
        "to point", "", last + 1, [=](const QVariant& v) { keep(first, v.toInt() - 1); }, 1, n);
}

/// Where the readings were taken from, where the school does not tell it: so the boat's inside is known.
void add_stood(FieldList& fields, const Set& set, const ChangeSet& change) {
    fields.toggle("read from a place that I give", set.stood.has_value(), [=](const QVariant& v) {
        change("Say where one stood", [&](Set& s) {
            if (v.toBool()) s.stood = s.origin;
            else s.stood.reset();
        });
    });
    if (!set.stood) return;
    const QStringList axes = set.own_frame ? QStringList{"x", "y", "z"} : QStringList{"fwd", "port", "up"};
    for (int k = 0; k < 3; ++k)
        fields.place(QString("stood at, %1").arg(axes[k]), (*set.stood)[k],
                     set.own_frame ? units::Way::none : units::boat_ways[k], [=](const QVariant& v) {
                         change("Say where one stood", [&](Set& s) {
                             if (s.stood) (*s.stood)[k] = v.toDouble();
                         });
                     });
}

/// Whether its places are the boat's, and whose level is meant.
void add_whose_frame(FieldList& fields, const Set& set, const job::Job& job, const ChangeSet& change) {
    if (set.school == School::mirrored) return;
    const bool by_marks = survey::may_be_scaled(set.school) || set.school == School::laser_meter;
    if (by_marks)
        fields.choice("its places are", set.own_frame ? 1 : 0, {"in the boat's frame", "in its own, by marks"},
                      [=](const QVariant& v) {
                          change("Say in which frame a set lies", [&](Set& s) {
                              if (v.toInt() == 0) s.own_frame.reset();
                              else if (!s.own_frame) s.own_frame.emplace();
                          });
                      });
    if (set.own_frame || (!set.by_gravity && job.datum.known == survey::Datum::Known::upright)) return;
    fields.choice(
        "level and plumb", set.by_gravity ? 1 : 0, {"the boat's", "the hard's (spirit level)"},
        [=](const QVariant& v) { change("Say what is level", [&](Set& s) { s.by_gravity = v.toInt() == 1; }); });
}

}  // namespace

void add_set_fields(FieldList& fields, const Set& set, const job::Job& job, const ChangeSet& change) {
    fields.text("name", set.name, [=](const QVariant& v) {
        change("Rename a set", [&](Set& s) { s.name = v.toString().toStdString(); });
    });
    QStringList surfaces;
    int now = 0;
    for (std::size_t k = 0; k < job.surfaces.size(); ++k) {
        surfaces << QString::fromStdString(job.surfaces[k].name);
        if (job.surfaces[k].id == set.surface_id) now = static_cast<int>(k);
    }
    // What nobody has placed lies on none: it moves no surface until it is said what it met.
    if (set.surface_id.empty()) now = static_cast<int>(surfaces.size());
    surfaces << "no surface yet";
    if (surfaces.size() > 2 || set.surface_id.empty() || set.school == School::traced || set.school == School::scan)
        fields.choice("lies on", now, surfaces, [=, all = job.surfaces](const QVariant& v) {
            const auto k = static_cast<std::size_t>(v.toInt());
            change("Say what a set met", [&](Set& s) { s.surface_id = k < all.size() ? all[k].id : std::string(); });
        });
    if (set.school == School::traced) add_stretch(fields, set, change);
    if (set.school == School::scan || set.school == School::direct || set.school == School::traced ||
        set.school == School::strip_pattern || set.school == School::strip_edges)
        add_stood(fields, set, change);
    fields.length(
        set.school == School::mirrored ? "sides differ by ±" : "one reading ±", set.sigma_mm,
        [=](const QVariant& v) {
            change("Change the readings' uncertainty", [&](Set& s) { s.sigma_mm = v.toDouble(); });
        },
        0.01, 1000);
    add_school_fields(fields, set, job, change);
    if (set.school != School::mirrored && set.school != School::bevel_gauge)
        fields.toggle("along a chine", set.hard_line, [=](const QVariant& v) {
            change("Readings along a chine", [&](Set& s) { s.hard_line = v.toBool(); });
        });
    add_whose_frame(fields, set, job, change);
    if (set.own_frame || !survey::has_frame(set.school)) return;
    add_parallel(fields, set, job, change);
    add_frame(fields, set, change);
}

}  // namespace bevelsmith::app

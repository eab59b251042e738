#include "app/measure/set_picture.h"

#include <Eigen/Geometry>
#include <cmath>

#include "hull/section.h"
#include "job/own_frames.h"
#include "job/slip_hint.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

using survey::School;

/// What is wrong, in the set's terms, and what it probably was.
QString hint_of(const job::JobReadingSet& set, int reading, double residual_mm, const hull::Surface& surface,
                units::LengthUnit unit) {
    std::string words = job::suspect_words(set, reading, residual_mm, surface);
    words[0] = 'R';
    const std::string guess =
        job::slip_hint(set, set.readings[static_cast<std::size_t>(reading)], surface, units::in_inches(unit));
    return QString::fromStdString(units::in_unit(guess.empty() ? words + "." : words + ". " + guess, unit));
}

/// Sections are seen looking forward, profiles from starboard, and plans from above with the bow at right.
geometry::PlaneFrame view_frame(const geometry::Plane& plane) {
    geometry::PlaneFrame out = geometry::upright_frame(plane);
    if (std::abs(plane.normal.z()) < 0.9) return out;
    out.u = (Vec3::UnitX() - plane.normal * plane.normal.x()).normalized();
    out.v = (plane.normal.z() > 0 ? 1 : -1) * plane.normal.cross(out.u);
    return out;
}

QString no_surface(const Error& why) {
    return "No surface yet: " + QString::fromStdString(why.message);
}

void add_fit(SetPicture& out, const job::SurfaceResult& surface, const job::JobReadingSet& set, int set_index,
             units::LengthUnit unit) {
    const auto* fit = surface.fitted();
    if (!fit) {
        if (surface.fit && !surface.fit->ok()) out.fault = no_surface(surface.fit->error());
        return;
    }
    constexpr int most_hinted = 40;  // of a scan's strays nobody asks what they were
    int hinted = 0;
    for (std::size_t k = 0; k < surface.points.size() && k < fit->report.readings.size(); ++k) {
        const auto& point = surface.points[k];
        if (point.set != set_index || point.reading < 0 || point.reading >= static_cast<int>(out.readings.size()))
            continue;
        auto& r = out.readings[static_cast<std::size_t>(point.reading)];
        const auto& f = fit->report.readings[k];
        r.fitted = true;
        r.residual_mm = f.residual_mm;
        r.detectable_mm = f.detectable_mm;
        r.suspect = surface.doubts(k);
        if (r.suspect && ++hinted <= most_hinted)
            r.hint = hint_of(set, point.reading, f.residual_mm, fit->surface, unit);
        const auto c = fit->surface.locate(point.position);
        const Vec3 n = fit->surface.at({c.s, c.v}).normal;
        r.outward = Vec2(out.frame.u.dot(n), out.frame.v.dot(n));
    }
}

void add_section(SetPicture& out, const hull::Surface& surface, const geometry::Plane& plane) {
    const auto runs = hull::cut_section(surface, plane, 0.01);
    if (!runs) return;
    for (const auto& run : *runs) {
        SetPicture::Curve curve;
        for (const auto& p : run.points) {
            curve.points.push_back(out.frame.to_plane(p.a));
            curve.sigma_mm.push_back(p.sigma_mm);
            curve.in_survey.push_back(p.in_survey);
        }
        out.curves.push_back(std::move(curve));
    }
}

void grow(geometry::Box& box, const Vec2& p, bool& first) {
    if (first) box = {p, p};
    first = false;
    box.min = box.min.cwiseMin(p);
    box.max = box.max.cwiseMax(p);
}

void add_line(SetPicture& out, const job::JobReadingSet& set) {
    if (set.school != School::ordinates || set.readings.empty()) return;
    double low = 0, high = 0;
    for (std::size_t i = 0; i < set.readings.size(); ++i) {
        const double station = set.readings[i].values[0];
        low = std::min(low, station);
        high = std::max(high, station);
        out.ordinates.emplace_back(out.frame.to_plane(set.origin + set.along * station), out.readings[i].at);
    }
    // From the first reading on one sees where the line goes.
    constexpr double shown_mm = 500;
    if (high - low < shown_mm) high = low + shown_mm;
    out.base = {out.frame.to_plane(set.origin + set.along * low), out.frame.to_plane(set.origin + set.along * high)};
}

/// Schools whose points are counted from a corner in their plane.
bool by_corner(School school) {
    return school == School::strip_pattern || school == School::strip_edges || school == School::tick_stick ||
           school == School::tick_stick_angle || school == School::compass_scribe || school == School::traced;
}

void add_aid(SetPicture& out, const Vec3& from, const Vec3& to, Aid::Kind kind, const QString& words = {}) {
    out.aids.push_back({out.frame.to_plane(from), out.frame.to_plane(to), kind, words});
}

/// The instrument as it stood at each reading: what was typed, to be held against the drawing.
void add_aids(SetPicture& out, const job::JobReadingSet& set) {
    const auto in_space = [&](double u, double v) { return Vec3(set.origin + set.along * u + set.toward * v); };
    if (set.school == School::fixed_points)
        for (std::size_t k = 0; k < set.fixed_points.size(); ++k) {
            const Vec3 pin = in_space(set.fixed_points[k].x(), set.fixed_points[k].y());
            add_aid(out, pin, pin, Aid::Kind::pin, QString::number(k + 1));
        }
    if (by_corner(set.school)) {
        constexpr double shown_mm = 150;
        add_aid(out, set.origin + shown_mm * set.along, set.origin, Aid::Kind::ray, "across");
        add_aid(out, set.origin + shown_mm * set.toward, set.origin, Aid::Kind::ray, "up");
        add_aid(out, set.origin, set.origin, Aid::Kind::pin, "0, 0");
    }
    if (set.school == School::laser_meter) add_aid(out, set.origin, set.origin, Aid::Kind::pin, "stand point");
    if (set.school == School::strip_edges)
        for (const Vec2& corner : survey::corners_of(set))
            add_aid(out, in_space(corner.x(), corner.y()), in_space(corner.x(), corner.y()), Aid::Kind::corner);
    for (const auto& r : set.readings) {
        const auto at = survey::locate(set, r);
        if (!at || r.disabled) continue;
        const auto& v = r.values;
        switch (set.school) {
            case School::tick_stick:
                add_aid(out, in_space(v[2], v[3]), at->position, Aid::Kind::stick, QString::number(v[4], 'g', 3));
                break;
            case School::tick_stick_angle:
                add_aid(out, in_space(v[0], v[1]), at->position, Aid::Kind::stick, QString::number(v[3], 'g', 3));
                break;
            case School::compass_scribe: add_aid(out, in_space(v[0], v[1]), at->position, Aid::Kind::stick); break;
            case School::strip_edges:
                add_aid(out, in_space(v[0], v[1]), in_space(v[2], v[3]), Aid::Kind::edge);
                break;
            case School::fixed_points:
                for (std::size_t k = 0; k < set.fixed_points.size(); ++k)
                    if (v[k] > 0)
                        add_aid(out, in_space(set.fixed_points[k].x(), set.fixed_points[k].y()), at->position,
                                Aid::Kind::ray);
                break;
            case School::laser_meter: add_aid(out, set.origin, at->position, Aid::Kind::ray); break;
            case School::bevel_gauge:
                add_aid(out, at->position, at->position, Aid::Kind::angle, QString("%1°").arg(v[2], 0, 'f', 1));
                break;
            default: break;
        }
    }
    bool first = out.readings.empty();
    for (const auto& aid : out.aids) grow(out.box, aid.from, first), grow(out.box, aid.to, first);
}

/// Alone where that does: others are asked only for marks.
Result<survey::ReadingSet> set_in_boat(const job::Job& job, std::size_t index) {
    const job::JobReadingSet& typed = job.readings[index];
    if (typed.own_frame) {
        auto placed = job::placed_set(job, typed.id);
        if (!placed) return Error{"Not placed: " + placed.error().message};
        return std::move(placed->set);
    }
    const auto in_boat = survey::in_boat_frame(std::vector<survey::ReadingSet>{typed}, job.datum);
    if (!in_boat) return in_boat.error();
    return in_boat->front();
}

}  // namespace

QString signed_mm(double mm) {
    return std::abs(mm) < 0.05 ? QString("0.0") : QString::asprintf("%+.1f", mm);
}

SetPicture picture_of(const job::Job& job, const Computed& computed, int index) {
    SetPicture out;
    if (index < 0 || index >= static_cast<int>(job.readings.size())) return out;
    const auto& typed = job.readings[static_cast<std::size_t>(index)];
    job::JobReadingSet set = typed;
    const auto in_boat = set_in_boat(job, static_cast<std::size_t>(index));
    if (in_boat) static_cast<survey::ReadingSet&>(set) = *in_boat;
    else out.fault = QString::fromStdString(in_boat.error().message) + ".";
    const geometry::Plane plane = survey::plane_of(set);
    out.frame = view_frame(plane);
    bool first = true;
    for (const auto& reading : set.readings) {
        ReadingPicture r;
        const auto at = survey::locate(set, reading);
        r.at = out.frame.to_plane(at ? at->position : set.origin);
        r.sigma_mm = at ? at->sigma_mm : set.sigma_mm;
        if (at) {
            r.spread_mm = at->spread_mm;
            r.residual_of_distances_mm = at->residual_mm;
        }
        r.mark = QString::fromStdString(reading.mark);
        r.disabled = reading.disabled;
        out.readings.push_back(r);
        grow(out.box, r.at, first);
    }
    add_line(out, set);
    add_aids(out, set);
    if (const auto up = survey::plumb_up(job.datum)) {
        out.plumb = {out.frame.u.dot(*up), out.frame.v.dot(*up)};
        out.leans = job.datum.known != survey::Datum::Known::upright;
    }
    for (const Vec2& p : out.base) grow(out.box, p, first);
    // Residuals belong to readings only while the set is still the one that was fitted.
    const auto& fitted = computed.job.readings;
    const bool same = index < static_cast<int>(fitted.size()) && fitted[static_cast<std::size_t>(index)] == typed &&
                      computed.job.datum == job.datum && computed.job.marks == job.marks;
    if (in_boat && typed.surface_id.empty()) out.fault = "On no surface yet: say in Placing what this set lies on.";
    if (const auto* surface = computed.results.surface(set.surface_id)) {
        if (!in_boat) return out;  // why it is not placed has been said
        if (same) add_fit(out, *surface, set, index, job.unit);
        else if (surface->fit && !surface->fit->ok()) out.fault = no_surface(surface->fit->error());
        // A section at a place where the set is not would mislead.
        if (surface->fitted() && !set.readings.empty()) add_section(out, surface->fitted()->surface, plane);
    }
    return out;
}

}  // namespace bevelsmith::app

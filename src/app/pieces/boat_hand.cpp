#include "app/pieces/boat_hand.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/step.h"
#include "job/in_full.h"
#include "job/together.h"

namespace bevelsmith::app {
namespace {

units::Way way_of(const Vec3& axis) {
    return axis.y() > 0.9   ? units::Way::port
           : axis.z() > 0.9 ? units::Way::up
           : axis.x() > 0.9 ? units::Way::fwd
                            : units::Way::none;
}

double whole_steps(double mm, double step) {
    return std::round(mm / step) * step;
}

}  // namespace

void BoatHand::begin(Kind kind) {
    kind_ = kind;
    ++taken_;
    moved_any_ = false;
    pulled_ = moved_ = Vec3::Zero();
    words_.clear();
    if (kind == Kind::number || kind == Kind::plane) pulled_mm_ = place_now();
}

void BoatHand::let_go() {
    kind_ = Kind::nothing;
    piece_.clear(), obstacle_.clear(), words_.clear();
}

void BoatHand::take_piece(const std::string& id, const Vec3& look) {
    let_go();
    const job::Job& job = document_.job();
    const auto& together = document_.together();
    piece_ = id;
    if (std::find(together.begin(), together.end(), id) != together.end()) return begin(Kind::whole);
    if (const auto number = job::number_of(job, id)) {
        if (std::abs(number->way.dot(look)) > 0.5) return;
        number_ = *number, way_ = number->way, base_mm_ = number->base_mm;
        return begin(Kind::number);
    }
    const auto* plain = job::find_piece(job, id);
    // What is told from others is moved by them.
    const bool told = plain && (plain->beside || plain->from_mark || !plain->through.empty());
    if (!plain || told || plain->plane.normal.cwiseAbs().maxCoeff() < 0.9 ||
        std::abs(plain->plane.normal.dot(look)) > 0.5)
        return;
    Eigen::Index k = 0;
    plain->plane.normal.cwiseAbs().maxCoeff(&k);
    way_ = Vec3::Unit(k), base_mm_ = 0;
    begin(Kind::plane);
}

void BoatHand::take_obstacle(const std::string& id) {
    let_go();
    obstacle_ = id;
    begin(Kind::whole);
}

double BoatHand::place_now() const {
    if (kind_ == Kind::number) return job::value_of(document_.job(), number_);
    const auto* plain = job::find_piece(document_.job(), piece_);
    return plain ? geometry::place_mm(plain->plane) : 0;
}

QString BoatHand::key() const {
    return QString("in hand %1").arg(taken_);
}

QString BoatHand::told(double at_mm) const {
    return QString::fromStdString(
        units::format_place_field(at_mm, kind_ == Kind::number ? units::Way::none : way_of(way_), document_.unit()));
}

void BoatHand::place_at(double at_mm, const QString& words) {
    const double before = place_now();
    words_ = words;
    if (kind_ == Kind::number) {
        document_.edit(
            "Move " + QString(number_.words), [&](job::Job& job) { job::set_value(job, number_, at_mm); }, key());
        words_ = QString(number_.words) + ": " + words_;
    } else {
        const auto* named = document_.piece(QString::fromStdString(piece_));
        words_ = QString::fromStdString(named ? named->name : piece_) + ": face A at " + words_;
        edit_piece(
            document_, QString::fromStdString(piece_), "Move a piece",
            [&](job::JobPiece& p) { p.plane = geometry::placed_at(p.plane, at_mm); }, key());
    }
    moved_any_ = moved_any_ || place_now() != before;
}

/// Whole steps, or flush with a face of another piece that stands the same way.
BoatHand::Snap BoatHand::snapped(double value, const Grain& grain) const {
    Snap out{whole_steps(value, grain.step_mm), {}};
    out.words = told(out.at_mm);
    double nearest = grain.reach_mm;
    const job::JobUnit* own = job::unit_of(document_.job(), piece_);
    for (const auto& result : document_.computed()->results.pieces) {
        const auto* o = result.shape();
        if (!o || result.id == piece_ || std::abs(o->frame.normal.dot(way_)) < 0.999) continue;
        // What moves with it is nothing to be flush with.
        if (own && job::unit_of(document_.job(), result.id) == own) continue;
        for (double behind : {0.0, o->thickness_mm}) {
            const double there = way_.dot(o->frame.origin + behind * o->frame.normal) - base_mm_;
            if (std::abs(there - value) >= nearest) continue;
            nearest = std::abs(there - value);
            const auto* named = document_.piece(QString::fromStdString(result.id));
            out = {there, QString("flush with %1, %2")
                              .arg(QString::fromStdString(named ? named->name : result.id), told(there))};
        }
    }
    return out;
}

void BoatHand::pull(const Vec3& by, const Grain& grain) {
    if (kind_ == Kind::nothing) return;
    if (kind_ == Kind::whole) {
        pulled_ += by;
        const auto whole = [&](double mm) { return whole_steps(mm, grain.step_mm); };
        return move_whole({whole(pulled_.x()), whole(pulled_.y()), whole(pulled_.z())});
    }
    pulled_mm_ += way_.dot(by);
    const Snap to = snapped(pulled_mm_, grain);
    place_at(to.at_mm, to.words);
}

bool BoatHand::nudge(const Vec3& by) {
    if (kind_ == Kind::nothing) return false;
    if (kind_ == Kind::whole) {
        move_whole(moved_ + by);
        pulled_ = moved_;
        return true;
    }
    const double step = way_.dot(by);
    if (std::abs(step) < by.norm() / 2) return false;
    const double to = place_now() + step;
    place_at(to, told(to));
    pulled_mm_ = place_now();
    return true;
}

std::optional<BoatHand::Figure> BoatHand::figure() const {
    if (kind_ == Kind::number) return Figure{number_.words, place_now(), units::Way::none};
    if (kind_ == Kind::plane) return Figure{"where its face A stands", place_now(), way_of(way_)};
    return std::nullopt;
}

void BoatHand::put(double value_mm) {
    if (kind_ != Kind::number && kind_ != Kind::plane) return;
    place_at(value_mm, told(value_mm));
    pulled_mm_ = place_now();
}

/// All that are chosen together, or an obstacle; `to` is counted from where they were when they were taken hold of.
void BoatHand::move_whole(const Vec3& to) {
    const Vec3 by = to - moved_;
    if (by.isZero()) return;
    const auto ids = document_.together();
    bool goes = obstacle_.empty();
    document_.edit(
        obstacle_.empty() ? "Move pieces together" : "Move an obstacle",
        [&](job::Job& job) {
            if (obstacle_.empty()) return job::move_together(job, ids, by);
            for (auto& o : job.obstacles)
                if (o.id == obstacle_ && o.set_id.empty()) {
                    for (Vec3& p : o.path) p += by;
                    goes = true;
                }
        },
        key());
    const auto& d = document_;
    words_ = goes ? QString("fwd %1, port %2, up %3 from where it was")
                        .arg(d.length(to.x()), d.length(to.y()), d.length(to.z()))
                  : QString("it runs along readings, and stays with these");
    moved_ = to;
    moved_any_ = true;
}

}  // namespace bevelsmith::app

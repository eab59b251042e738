#include "survey/placing.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>

#include "geometry/eigenpairs.h"
#include "survey/instruments.h"

namespace bevelsmith::survey {
namespace {

using MarkPlaces = std::vector<Vec3>;

/// Marks agree this well whatever the instrument (mm): below it nothing is doubted.
constexpr double good_enough_mm = 5;
/// What is found instead must fit so many times better.
constexpr double clearly = 4;

struct Motion {
    Turn turn = Turn::Identity();
    double scale = 1;
    Vec3 move = Vec3::Zero();
    MarkPlaces misfits;
    double square_sum() const {
        double out = 0;
        for (const Vec3& off : misfits) out += off.squaredNorm();
        return out;
    }
    double rms() const { return std::sqrt(square_sum() / static_cast<double>(misfits.size())); }
    Vec3 of(const Vec3& seen) const { return scale * (turn * seen) + move; }
};

Vec3 middle_of(const MarkPlaces& marks) {
    Vec3 sum = Vec3::Zero();
    for (const Vec3& p : marks) sum += p;
    return sum / static_cast<double>(marks.size());
}

/// By unit quaternions: the turn is the eigenvector of the largest eigenvalue of a matrix of sums (B. K. P. Horn
/// 1987).
Motion motion_of(const MarkPlaces& seen, const MarkPlaces& at, bool scaled) {
    const Vec3 from = middle_of(seen), to = middle_of(at);
    Eigen::Matrix3d s = Eigen::Matrix3d::Zero();
    for (std::size_t k = 0; k < seen.size(); ++k) s += (seen[k] - from) * (at[k] - to).transpose();
    Eigen::Matrix4d sums;
    sums << s.trace(), s(1, 2) - s(2, 1), s(2, 0) - s(0, 2), s(0, 1) - s(1, 0),  //
        0, s(0, 0) - s(1, 1) - s(2, 2), s(0, 1) + s(1, 0), s(0, 2) + s(2, 0),    //
        0, 0, s(1, 1) - s(0, 0) - s(2, 2), s(1, 2) + s(2, 1),                    //
        0, 0, 0, s(2, 2) - s(0, 0) - s(1, 1);
    const Eigen::Vector4d q = geometry::eigenpairs_of(sums.transpose()).vectors.col(3);
    Motion out;
    out.turn = Eigen::Quaterniond(q[0], q[1], q[2], q[3]).normalized().toRotationMatrix();
    if (scaled) {
        double across = 0, squares = 1e-12;
        for (std::size_t k = 0; k < seen.size(); ++k) {
            across += (at[k] - to).dot(out.turn * (seen[k] - from));
            squares += (seen[k] - from).squaredNorm();
        }
        out.scale = across / squares;
    }
    out.move = to - out.scale * (out.turn * from);
    for (std::size_t k = 0; k < seen.size(); ++k) out.misfits.emplace_back(out.of(seen[k]) - at[k]);
    return out;
}

MarkPlaces without(MarkPlaces all, std::size_t k) {
    all.erase(all.begin() + static_cast<std::ptrdiff_t>(k));
    return all;
}

/// What is known before counts as much as this many numbers.
double sigma_of_marks(const Motion& all, double before_mm) {
    constexpr double prior = 6;
    const double free = std::max(0.0, 3.0 * static_cast<double>(all.misfits.size()) - 6);
    return std::sqrt((prior * before_mm * before_mm + all.square_sum()) / (prior + free));
}

/// The inverse of the least squares' normal matrix, as independent moves: its eigenvectors.
std::vector<SmallMove> doubts_of(const MarkPlaces& at, double sigma_mm) {
    using Vec6 = Eigen::Matrix<double, 6, 1>;
    const Vec3 middle = middle_of(at);
    double squares = 0;
    for (const Vec3& p : at) squares += (p - middle).squaredNorm();
    const double arm = std::max(1.0, std::sqrt(squares / static_cast<double>(at.size())));
    Eigen::Matrix<double, 6, 6> normal = Eigen::Matrix<double, 6, 6>::Zero();
    for (const Vec3& p : at)
        for (int axis = 0; axis < 3; ++axis) {
            Vec6 row;
            row << (p - middle).cross(Vec3::Unit(axis)) / arm, Vec3::Unit(axis);
            normal += row * row.transpose();
        }
    const auto ways = geometry::eigenpairs_of(normal);
    std::vector<SmallMove> out;
    for (int k = 0; k < 6; ++k) {
        const Vec6 way = ways.vectors.col(k) * (sigma_mm / std::sqrt(ways.values[k]));
        const Vec3 turn = way.head<3>() / arm;
        out.push_back({turn, way.tail<3>() - turn.cross(middle)});
    }
    return out;
}

bool in_one_line(const MarkPlaces& marks) {
    const Vec3 middle = middle_of(marks);
    Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
    for (const Vec3& p : marks) spread += (p - middle) * (p - middle).transpose();
    const auto squares = geometry::eigenpairs_of(spread).values;
    // Of squares: a twentieth is one in four hundred.
    return !(squares[1] * 400 > squares[2]);
}

std::string unit_words(double scale) {
    struct Unit {
        double factor;
        const char* words;
    };
    static constexpr Unit known[] = {
        {25.4, "inches read as millimetres"},    {1 / 25.4, "millimetres read as inches"},
        {10, "centimetres read as millimetres"}, {0.1, "millimetres read as centimetres"},
        {1000, "metres read as millimetres"},    {304.8, "feet read as millimetres"}};
    for (const auto& unit : known)
        if (std::abs(scale / unit.factor - 1) < 0.01) return std::string(": ") + unit.words + "?";
    return ". Let the scale be found, if that can be";
}

std::string doubt_about(const MarkPlaces& seen, const MarkPlaces& at, std::span<const KnownMark> marks, bool scaled) {
    const double rms = motion_of(seen, at, scaled).rms();
    if (rms < good_enough_mm) return {};
    const double wanted = std::max(rms / clearly, 1e-9);
    if (!scaled)
        if (const Motion free = motion_of(seen, at, true); free.rms() < wanted && seen.size() > 3)
            return fmt::format("they agree when the set's lengths are taken {:.4g} times as long{}", free.scale,
                               unit_words(free.scale));
    MarkPlaces turned = seen;
    for (Vec3& p : turned) p.y() = -p.y();
    if (motion_of(turned, at, scaled).rms() < wanted)
        return "they agree as in a mirror: does one of the set's axes run the other way?";
    double least = wanted;
    std::string out;
    for (std::size_t a = 0; a < seen.size() && seen.size() <= 12; ++a)
        for (std::size_t b = a + 1; b < seen.size(); ++b) {
            MarkPlaces swapped = seen;
            std::swap(swapped[a], swapped[b]);
            const double now = motion_of(swapped, at, scaled).rms();
            if (now >= least) continue;
            least = now;
            out = fmt::format("they agree when {} and {} are exchanged", marks[a].name, marks[b].name);
        }
    return out;
}

/// The set as it lies in its own frame: its plane or instrument at the zero, across and up along the first two axes.
ReadingSet in_own_frame(ReadingSet set) {
    set.origin = Vec3::Zero(), set.along = Vec3::UnitX(), set.toward = Vec3::UnitY();
    return set;
}

/// The mean places of the marks that a set's readings name.
std::map<std::string, Vec3> named_in(const ReadingSet& set) {
    std::map<std::string, std::pair<Vec3, int>> sums;
    for (const Reading& r : set.readings) {
        if (r.mark.empty() || r.disabled) continue;
        const auto at = locate(set, r);
        if (!at) continue;
        auto& [sum, count] = sums.try_emplace(r.mark, Vec3::Zero(), 0).first->second;
        sum += at->position, ++count;
    }
    std::map<std::string, Vec3> out;
    for (const auto& [name, sum] : sums) out[name] = sum.first / sum.second;
    return out;
}

using KnownPlaces = std::map<std::string, Vec3>;

/// The set's marks whose places are known, those given or picked first.
std::vector<KnownMark> known_marks(const ReadingSet& set, const KnownPlaces& known) {
    std::vector<KnownMark> out;
    const auto add = [&](const std::string& name, const Vec3& seen, const std::optional<Vec3>& at) {
        const auto found = known.find(name);
        if (at) out.push_back({name, seen, *at});
        else if (found != known.end()) out.push_back({name, seen, found->second});
    };
    for (const SeenMark& mark : set.own_frame->marks)
        if (!mark.disabled) add(mark.name, mark.seen, mark.at);
    for (const auto& [name, seen] : named_in(in_own_frame(set))) {
        const auto& given = set.own_frame->marks;
        const auto same = [&](const SeenMark& mark) { return mark.name == name; };
        if (std::none_of(given.begin(), given.end(), same)) add(name, seen, std::nullopt);
    }
    return out;
}

void scale_lengths(ReadingSet& set, double scale) {
    const auto apply = [&](std::array<double, 6>& values) {
        for (double& v : values) v *= scale;
    };
    for (Reading& r : set.readings) {
        apply(r.values);
        for (auto& again : r.again) apply(again);
        if (r.sigma_mm) *r.sigma_mm *= scale;
    }
    set.sigma_mm *= scale;
}

ReadingSet moved(ReadingSet set, const Placement& placement) {
    if (set.stood) set.stood = placement(*set.stood);
    set.own_frame.reset();
    set.by_gravity = false;
    if (placement.scale != 1) scale_lengths(set, placement.scale);
    if (has_frame(set.school)) {
        set.origin = placement.move;
        set.along = placement.turn.col(0), set.toward = placement.turn.col(1);
        return set;
    }
    const auto apply = [&](std::array<double, 6>& values) {
        Eigen::Map<Vec3> p(values.data());
        p = (placement.turn * p + placement.move).eval();  // their scale is in them
    };
    for (Reading& r : set.readings) {
        apply(r.values);
        for (auto& again : r.again) apply(again);
    }
    return set;
}

Placement nudged(Placement placement, const Nudge& nudge) {
    const double angle = nudge.turn_rad.norm();
    const Turn turn = angle > 0 ? Turn(Eigen::AngleAxisd(angle, nudge.turn_rad / angle)) : Turn(Turn::Identity());
    placement.turn = turn * placement.turn;
    placement.move = turn * placement.move + nudge.move_mm;
    return placement;
}

bool in_its_own_frame(const ReadingSet& set) {
    return set.own_frame && set.school != School::mirrored;
}

void add_named(const ReadingSet& set, KnownPlaces& known) {
    for (const auto& [name, at] : named_in(set)) known.try_emplace(name, at);
}

/// One set, where its marks suffice. True where it has been placed.
bool try_to_place(PlacedSet& one, const KnownPlaces& known) {
    const OwnFrame& own = *one.set.own_frame;
    one.marks = known_marks(one.set, known);
    auto placement = place_by_marks(one.marks, own.scaled && may_be_scaled(one.set.school), one.set.sigma_mm);
    one.placement = placement;
    if (!placement) return false;
    if (own.nudge) one.placement->value().doubts = own.nudge->doubts;
    one.set = moved(std::move(one.set), own.nudge ? nudged(*placement, *own.nudge) : *placement);
    return true;
}

}  // namespace

bool may_be_scaled(School school) {
    return school == School::direct || school == School::scan || school == School::traced ||
           school == School::strip_pattern || school == School::strip_edges;
}

Result<Placement> place_by_marks(std::span<const KnownMark> marks, bool scaled, double sigma_mm) {
    const std::size_t n = marks.size();
    if (n < 3)
        return Error{
            fmt::format("three marks or more place it; {} seen from it and known in the boat", n == 0   ? "none is"
                                                                                               : n == 1 ? "one is"
                                                                                                        : "two are")};
    MarkPlaces seen, at;
    for (const KnownMark& mark : marks) seen.push_back(mark.seen), at.push_back(mark.at);
    if (in_one_line(seen) || in_one_line(at))
        return Error{"the marks lie nearly in one line, about which it could turn: take one well to the side"};
    const Motion all = motion_of(seen, at, scaled);
    Placement out{all.turn, all.scale, all.move, {}, all.rms(), -1, doubt_about(seen, at, marks, scaled), {}};
    out.doubts = doubts_of(at, sigma_of_marks(all, sigma_mm));
    for (std::size_t k = 0; k < n; ++k) {
        const double off = all.misfits[k].norm();
        Placement::Misfit one{marks[k].name, all.misfits[k], off, off};
        if (n > 3 && !in_one_line(without(seen, k))) {
            const Motion others = motion_of(without(seen, k), without(at, k), scaled);
            one.from_others_mm = (others.of(seen[k]) - at[k]).norm();
            one.others_rms_mm = others.rms();
        }
        out.marks.push_back(std::move(one));
    }
    const auto worse = [&](const auto& a, const auto& b) {
        return n > 3 ? a.others_rms_mm > b.others_rms_mm : a.off.norm() < b.off.norm();
    };
    out.worst = static_cast<int>(std::max_element(out.marks.begin(), out.marks.end(), worse) - out.marks.begin());
    return out;
}

Result<std::vector<PlacedSet>> placed_sets(std::span<const ReadingSet> sets, const Datum& datum,
                                           std::span<const ReferenceMark> marks) {
    std::vector<ReadingSet> turned;
    for (const ReadingSet& set : sets) {
        turned.push_back(set);
        // What level and plumb were does not matter where marks tell how it lies.
        if (in_its_own_frame(set)) turned.back().by_gravity = false;
    }
    auto in_frame = in_boat_frame(turned, datum);
    if (!in_frame) return in_frame.error();
    std::vector<PlacedSet> out;
    KnownPlaces known;
    for (const ReferenceMark& mark : marks) known[mark.id] = mark.position;
    for (const ReferenceMark& mark : marks)
        if (!mark.name.empty()) known.try_emplace(mark.name, mark.position);
    std::vector<std::size_t> waiting;
    for (auto& set : in_frame.value()) {
        if (in_its_own_frame(set)) waiting.push_back(out.size());
        else add_named(set, known);
        out.push_back({std::move(set), {}, std::nullopt});
    }
    // Each round may make marks known that the next ones stand on.
    for (bool more = true; more && !waiting.empty();) {
        std::vector<std::size_t> still, fresh;
        for (std::size_t k : waiting) (try_to_place(out[k], known) ? fresh : still).push_back(k);
        for (std::size_t k : fresh) add_named(out[k].set, known);
        more = !fresh.empty();
        waiting = std::move(still);
    }
    for (std::size_t k : waiting) out[k].set.surface_id.clear();
    return out;
}

}  // namespace bevelsmith::survey

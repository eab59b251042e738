#include "job/together.h"

#include <algorithm>
#include <map>

#include "furniture/kinds.h"
#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

/// New ids by old ones, of pieces and of units' panels.
using Pairs = std::map<std::string, std::string>;

/// The plain pieces and the units that ids stand for, each once, in the job's order.
struct Chosen {
    Ids pieces, units;
};
Chosen chosen_of(const Job& job, const Ids& ids) {
    Chosen out;
    const auto asked = [&](const auto& is) { return std::any_of(ids.begin(), ids.end(), is); };
    for (const JobPiece& p : job.pieces)
        if (asked([&](const auto& id) { return id == p.id; })) out.pieces.push_back(p.id);
    for (const JobUnit& u : job.units)
        if (asked([&](const auto& id) { return is_of(id, u.id); })) out.units.push_back(u.id);
    return out;
}

template <class Box>
void shift_box(Box& box, const Vec2& by) {
    box.left_mm += by.x(), box.bottom_mm += by.y();
}

/// What is drawn on a piece goes with it: its drawing's origin is the place of the plane nearest the boat's, which
/// does not.
void shift_drawn(JobPiece& p, const Vec2& by) {
    for (auto& edge : p.edges) {
        if (edge.kind == piece::EdgeKind::straight) edge.at_mm += edge.side.dot(by);
        for (auto& pin : edge.line) pin.at += by;
    }
    for (auto* openings : {&p.openings, &p.notches})
        for (auto& o : *openings) {
            shift_box(o, by);
            for (auto& pin : o.line) pin.at += by;
        }
    for (auto& row : p.rows) shift_box(row, by);
    for (auto& limber : p.limbers)
        if (limber.at_mm) *limber.at_mm += by.x();
    for (auto& joint : p.joints) joint.at_mm += joint.upright ? by.x() : by.y();
}

void shift(JobPiece& p, const Vec3& by) {
    if (!p.through.empty()) return;
    if (p.from_mark) {
        auto& from = *p.from_mark;
        const double off = from.along ? by.y() : by.x(), aside = from.along ? by.x() : by.y();
        for (double* one : {&from.first_mm, &from.second_mm}) *one += off;
        for (double* one : {&from.first_aside_mm, &from.second_aside_mm}) *one += aside;
    }
    if (!p.beside) {
        const auto frame = geometry::upright_frame(p.plane);
        shift_drawn(p, {by.dot(frame.u), by.dot(frame.v)});
        p.plane.d_mm += p.plane.normal.dot(by);
    }
    for (auto& edge : p.edges)
        if (edge.kind == piece::EdgeKind::plane) edge.plane.d_mm += edge.plane.normal.dot(by);
    if (p.at) *p.at += by;
}

void shift(JobUnit& u, const Vec3& by) {
    u.from_mm += by.x(), u.to_mm += by.x(), u.foot_mm += by.z();
    u.raised_from_mm += by.x(), u.raised_to_mm += by.x();
    for (double& at : u.dividers_mm) at += by.x();
    const double out = u.front_mm + (u.side == furniture::Side::port ? 1 : -1) * by.y();
    switch (furniture::kind_of(u).stands) {
        case furniture::Stands::along_a_side: u.front_mm = std::max(0.0, out); break;
        case furniture::Stands::free_standing:
            // Over the centre line it stands on the other side.
            if (out < 0)
                u.side = u.side == furniture::Side::port ? furniture::Side::starboard : furniture::Side::port;
            u.front_mm = std::abs(out);
            break;
        case furniture::Stands::both_sides:
        case furniture::Stands::both_or_half: break;
    }
}

void meet(JobPiece& p, const Pairs& pairs) {
    const auto renamed = [&](std::string& id) {
        if (const auto like = pairs.find(id); like != pairs.end()) id = like->second;
    };
    for (auto& edge : p.edges) renamed(edge.piece_id);
    for (auto& joint : p.joints) renamed(joint.piece_id);
    for (auto& cross : p.crossings) renamed(cross.piece_id);
    for (auto& on : p.patterns) renamed(on.mate_id);
    if (p.beside) renamed(p.beside->piece_id);
}

void meet(JobUnit& u, const Pairs& pairs) {
    for (auto* id : {&u.from_piece_id, &u.to_piece_id})
        if (const auto like = pairs.find(*id); like != pairs.end()) *id = like->second;
}

void pair_panels(Pairs& pairs, const Job& full, const std::string& unit_id, const std::string& like_id) {
    for (const JobPiece& p : full.pieces)
        if (is_of(p.id, unit_id)) pairs[p.id] = like_id + "." + part_of(p.id);
}

std::string copy_unit(Job& job, const std::string& id) {
    const JobUnit* original = find_unit(job, id);
    if (!original) return {};
    JobUnit made = *original;
    made.id = free_unit_id(job), made.name += ", copy";
    job.units.push_back(made);
    return made.id;
}

/// What one chooses after units were made: their first panels.
void choose_units(Ids& out, const Job& job, const Ids& units) {
    const Job full = in_full(job);
    for (const auto& unit : units)
        for (const JobPiece& p : full.pieces)
            if (is_of(p.id, unit)) {
                out.push_back(p.id);
                break;
            }
}

}  // namespace

Ids group_of(const Job& job, const std::string& piece_id) {
    const Job full = in_full(job);
    Ids out;
    const JobUnit* unit = unit_of(job, piece_id);
    const JobPiece* one = find_piece(full, piece_id);
    for (const JobPiece& p : full.pieces)
        if (one && (unit ? is_of(p.id, unit->id) : !unit_of(job, p.id) && p.place == one->place)) out.push_back(p.id);
    return out;
}

void move_together(Job& job, const Ids& ids, const Vec3& by_mm) {
    const Chosen chosen = chosen_of(job, ids);
    for (const auto& id : chosen.pieces) shift(*find_plain_piece(job, id), by_mm);
    for (const auto& id : chosen.units) shift(*find_unit(job, id), by_mm);
}

Ids copy_together(Job& job, const Ids& ids, const Vec3& by_mm) {
    const Chosen chosen = chosen_of(job, ids);
    const Job full = in_full(job);
    Pairs pairs;
    Ids pieces, units;
    for (const auto& id : chosen.pieces) pieces.push_back(pairs[id] = copy_piece(job, id, 0));
    for (const auto& id : chosen.units) {
        units.push_back(copy_unit(job, id));
        pair_panels(pairs, full, id, units.back());
    }
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        JobPiece& p = *find_plain_piece(job, pieces[k]);
        // A copy stands where it is put, but beside a copy of what it stood beside.
        const JobPiece& original = *find_piece(full, chosen.pieces[k]);
        if (original.beside && pairs.count(original.beside->piece_id)) p.beside = original.beside;
        for (std::size_t i = 0; i < p.patterns.size(); ++i)
            if (pairs.count(original.patterns[i].mate_id)) p.patterns[i].mate_id = original.patterns[i].mate_id;
        shift(p, by_mm);
        meet(p, pairs);
    }
    for (const auto& id : units) {
        JobUnit& u = *find_unit(job, id);
        shift(u, by_mm);
        meet(u, pairs);
    }
    choose_units(pieces, job, units);
    return pieces;
}

std::string mirror_unit(Job& job, const std::string& unit_id) {
    const JobUnit* original = find_unit(job, unit_id);
    if (!original) return {};
    if (furniture::stands_on_both(*original)) return {};
    JobUnit other = *original;
    other.id = free_unit_id(job);
    const bool to_port = other.side == furniture::Side::starboard;
    other.side = to_port ? furniture::Side::port : furniture::Side::starboard;
    other.name += to_port ? ", port" : ", starboard";
    other.adjusted.clear();
    job.units.push_back(other);
    return other.id;
}

Ids mirror_together(Job& job, const Ids& ids) {
    const Chosen chosen = chosen_of(job, ids);
    const Job full = in_full(job);
    // What ids the likes will have is known only once they are made: once on trial, and once with each other's names.
    const auto mirrored = [&](Job& to, const Pairs& pairs, Pairs& made, Ids& units) {
        Ids pieces;
        for (const auto& id : chosen.units)
            if (const std::string like = mirror_unit(to, id); !like.empty()) {
                units.push_back(like);
                pair_panels(made, full, id, like);
            }
        for (const auto& id : chosen.pieces) pieces.push_back(made[id] = mirror_piece(to, id, pairs));
        return pieces;
    };
    Job trial = job;
    Pairs pairs, again;
    Ids units;
    mirrored(trial, {}, pairs, units);
    units.clear();
    Ids pieces = mirrored(job, pairs, again, units);
    for (const auto& id : units) meet(*find_unit(job, id), pairs);
    choose_units(pieces, job, units);
    return pieces;
}

void put_under(Job& job, const Ids& ids, const std::string& place) {
    for (const auto& id : chosen_of(job, ids).pieces) find_plain_piece(job, id)->place = place;
}

}  // namespace bevelsmith::job

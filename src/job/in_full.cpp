#include "job/in_full.h"

#include <algorithm>
#include <map>

#include "furniture/kinds.h"
#include "job/job_file.h"
#include "job/kept_sides.h"
#include "job/measured_places.h"
#include "piece/order.h"

namespace bevelsmith::job {
namespace {

double sheet_mm(const Job& job, const std::string& material_id) {
    const JobMaterial* m = find_material(job, material_id);
    return m ? m->thickness_mm : 0;
}

/// Those of the plain pieces: a unit ends at bulkheads, not at other units' panels.
class Neighbours {
  public:
    explicit Neighbours(const Job& job) {
        for (const auto& p : job.pieces) all_.emplace(p.id, neighbour_of(job, p));
    }
    piece::PieceLookup lookup() const {
        return [this](const std::string& id) -> const piece::Neighbour* {
            const auto at = all_.find(id);
            return at == all_.end() ? nullptr : &at->second;
        };
    }

  private:
    std::map<std::string, piece::Neighbour> all_;
};

std::vector<JobPiece> pieces_of(const JobUnit& unit, const furniture::Thickness& thickness,
                                const piece::PieceLookup& pieces) {
    std::vector<JobPiece> out;
    for (auto& spec : furniture::pieces_of(unit, thickness, pieces))
        static_cast<piece::PieceSpec&>(out.emplace_back()) = std::move(spec);
    return out;
}

/// What plies that a person put on a unit's top or sole add to it.
double skins_of_top_mm(const JobUnit& unit, const furniture::Thickness& thickness, const piece::PieceLookup& pieces) {
    for (const auto& [part, changes] : unit.adjusted) {
        if (part != furniture::kind_of(unit).level || changes.find("/layup") == std::string::npos) continue;
        for (const JobPiece& bare : pieces_of(unit, thickness, pieces))
            if (part_of(bare.id) == part)
                if (const auto changed = changed_piece(bare, changes)) return stock::thickness_mm(changed->layup, 0);
    }
    return 0;
}

std::vector<JobPiece> bare_pieces(const Job& job, const JobUnit& unit, const piece::PieceLookup& pieces) {
    const auto plain = [&](const std::string& id) { return sheet_mm(job, id); };
    const double skins = skins_of_top_mm(unit, plain, pieces);
    if (skins == 0) return pieces_of(unit, plain, pieces);
    // Such a top is thicker than its sheet: what is under it ends accordingly.
    const std::string with_skins = unit.top_material_id + " with its plies";
    JobUnit told = unit;
    told.top_material_id = with_skins;
    auto out = pieces_of(
        told,
        [&](const std::string& id) { return id == with_skins ? plain(unit.top_material_id) + skins : plain(id); },
        pieces);
    for (JobPiece& one : out)
        if (one.material_id == with_skins) one.material_id = unit.top_material_id;
    return out;
}

/// The plane beside another piece's, face to face at the distance.
void stand_beside(const Job& job, JobPiece& piece, const JobPiece& other) {
    const piece::Neighbour n = neighbour_of(job, other);
    const double distance = piece.beside->distance_mm, own = thickness_of(job, piece);
    piece.plane.normal = n.plane.normal;
    piece.plane.d_mm = distance >= 0 ? n.plane.d_mm + n.thickness_mm + n.covering_b_mm + distance
                                     : n.plane.d_mm - n.covering_a_mm + distance - own;
}

/// The holes of a piece's patterns, and where surfaces truly run by its fittings.
void bring_to_the_piece(const Job& job, JobPiece& piece) {
    piece.holes.clear(), piece.fitted.clear();
    for (const auto& on : piece.patterns)
        for (const auto& pattern : job.patterns)
            if (pattern.id == on.pattern_id)
                for (auto& hole : piece::drilled(pattern, on)) piece.holes.push_back(std::move(hole));
    for (const Fitting& fitting : piece.fittings)
        for (const JobReadingSet& set : job.readings) {
            if (std::find(fitting.set_ids.begin(), fitting.set_ids.end(), set.id) == fitting.set_ids.end()) continue;
            for (const auto& r : set.readings)
                if (!r.disabled)
                    piece.fitted.push_back(
                        {set.surface_id, {r.values[0], r.values[1], r.values[2]}, r.sigma_mm.value_or(set.sigma_mm)});
        }
}

/// Holes that go on into another piece are drilled there too.
void drill_mates(Job& full) {
    for (const JobPiece& piece : full.pieces)
        for (const auto& on : piece.patterns) {
            const auto mate = std::find_if(full.pieces.begin(), full.pieces.end(),
                                           [&](const auto& p) { return p.id == on.mate_id && p.id != piece.id; });
            if (mate == full.pieces.end()) continue;
            const auto frame = geometry::upright_frame(piece.plane), there = geometry::upright_frame(mate->plane);
            for (const auto& pattern : full.patterns)
                if (pattern.id == on.pattern_id)
                    for (auto& hole : piece::drilled_in_mate(piece::drilled(pattern, on), frame, there, on.mate_kind))
                        mate->holes.push_back(std::move(hole));
        }
}

void follow_what_was_measured(Job& job) {
    for (auto& p : job.pieces)
        if (!p.through.empty())
            if (const auto plane = plane_through(job, p.through, p.plane.normal)) p.plane = *plane;
    for (auto& p : job.pieces)
        if (p.from_mark)
            if (const auto plane = plane_from_mark(job, *p.from_mark, p.plane.normal)) p.plane = *plane;
    for (auto& o : job.obstacles)
        if (auto path = path_of(job, o)) o.path = std::move(*path);
}

void settle_planes(Job& job) {
    follow_what_was_measured(job);
    std::vector<const piece::PieceSpec*> all;
    bool any = false;
    for (const auto& p : job.pieces) all.push_back(&p), any = any || p.beside;
    if (!any) return;
    const piece::Order order = piece::order_of(all);
    for (std::size_t i : order.sequence) {
        JobPiece& p = job.pieces[i];
        if (!p.beside || order.circle_with(i)) continue;
        if (const auto* other = find_piece(job, p.beside->piece_id)) stand_beside(job, p, *other);
    }
}

/// What was changed by hand keeps the side that it is on now; the panel's own edges follow its unit's numbers.
void settle_new_stops(JobPiece& now, const JobPiece& bare, const Job& job) {
    const auto is_own = [&](const piece::EdgeSpec& edge) {
        return std::find(bare.edges.begin(), bare.edges.end(), edge) != bare.edges.end();
    };
    if (std::all_of(now.edges.begin(), now.edges.end(), is_own)) return;
    JobPiece with_sides = now;
    settle_sides(with_sides, in_full(job));
    for (std::size_t i = 0; i < now.edges.size(); ++i)
        if (!is_own(now.edges[i])) now.edges[i] = with_sides.edges[i];
}

}  // namespace

std::map<std::string, furniture::Drag> drags_in(const Job& job, const JobUnit& unit) {
    const Neighbours neighbours(job);
    return furniture::drags_of(
        unit, [&](const std::string& id) { return sheet_mm(job, id); }, neighbours.lookup());
}

Job settled(const Job& job) {
    Job out = job;
    settle_planes(out);
    return out;
}

JobUnit* find_unit(Job& job, const std::string& id) {
    const auto at = std::find_if(job.units.begin(), job.units.end(), [&](const auto& u) { return u.id == id; });
    return at == job.units.end() ? nullptr : &*at;
}
JobPiece* find_plain_piece(Job& job, const std::string& id) {
    const auto at = std::find_if(job.pieces.begin(), job.pieces.end(), [&](const auto& p) { return p.id == id; });
    return at == job.pieces.end() ? nullptr : &*at;
}

piece::Neighbour neighbour_of(const Job& job, const piece::PieceSpec& piece) {
    return {piece.plane, thickness_of(job, piece), piece.covering_a_mm, piece.covering_b_mm, piece.name, {}};
}

std::string part_of(const std::string& piece_id) {
    const auto dot = piece_id.find('.');
    return dot == std::string::npos ? std::string() : piece_id.substr(dot + 1);
}

std::string piece_of_part(const std::string& part_id) {
    return part_id.substr(0, part_id.find_first_of("/#"));
}

bool is_of(const std::string& piece_id, const std::string& unit_id) {
    return piece_id.size() > unit_id.size() && piece_id[unit_id.size()] == '.' && piece_id.rfind(unit_id, 0) == 0;
}

std::string free_unit_id(const Job& job) {
    std::vector<std::string> taken;
    for (const auto& u : job.units) taken.push_back(u.id);
    for (const auto& p : job.pieces) taken.push_back(p.id.substr(0, p.id.find('.')));
    return free_id("U", taken);
}

const JobUnit* unit_of(const Job& job, const std::string& piece_id) {
    const auto at =
        std::find_if(job.units.begin(), job.units.end(), [&](const JobUnit& u) { return is_of(piece_id, u.id); });
    return at == job.units.end() ? nullptr : &*at;
}

Job in_full(const Job& job) {
    Job out = job;
    settle_planes(out);
    const Neighbours plain(out);
    for (const JobUnit& unit : job.units)
        for (JobPiece& bare : bare_pieces(out, unit, plain.lookup())) {
            const auto adjusted = unit.adjusted.find(part_of(bare.id));
            if (adjusted != unit.adjusted.end())
                if (auto changed = changed_piece(bare, adjusted->second)) bare = std::move(*changed);
            out.pieces.push_back(std::move(bare));
        }
    for (auto& piece : out.pieces) bring_to_the_piece(out, piece);
    drill_mates(out);
    return out;
}

bool change_piece(Job& job, const std::string& piece_id, const std::function<void(JobPiece&)>& change) {
    for (auto& piece : job.pieces)
        if (piece.id == piece_id) {
            change(piece);
            return true;
        }
    const JobUnit* owner = unit_of(job, piece_id);
    if (!owner) return false;
    const Job there = settled(job);
    const Neighbours plain(there);
    for (const JobPiece& bare : bare_pieces(there, *owner, plain.lookup())) {
        if (bare.id != piece_id) continue;
        JobUnit& unit =
            *std::find_if(job.units.begin(), job.units.end(), [&](const auto& u) { return u.id == owner->id; });
        const std::string part = part_of(piece_id);
        JobPiece now = bare;
        if (const auto old = unit.adjusted.find(part); old != unit.adjusted.end())
            now = changed_piece(bare, old->second).value_or(bare);
        change(now);
        now.id = bare.id;
        settle_new_stops(now, bare, job);
        if (now == bare) unit.adjusted.erase(part);
        else unit.adjusted[part] = piece_changes(bare, now);
        return true;
    }
    return false;
}

void take_apart(Job& job, const std::string& unit_id) {
    const Job full = in_full(job);
    for (const auto& piece : full.pieces)
        if (is_of(piece.id, unit_id)) job.pieces.push_back(piece);
    std::erase_if(job.units, [&](const JobUnit& u) { return u.id == unit_id; });
}

}  // namespace bevelsmith::job

#include "job/pipeline.h"

#include <fmt/format.h>

#include <algorithm>

#include "hull/stray_sets.h"
#include "job/guarded.h"
#include "job/in_full.h"
#include "job/joints_wanted.h"
#include "job/measured_places.h"
#include "job/own_frames.h"
#include "piece/order.h"

namespace bevelsmith::job {
namespace {

/// Fine enough for a smooth picture, and quick to turn with software rendering.
constexpr int picture_rows = 41, picture_columns = 61;

/// Of all readings that lie on other surfaces.
std::optional<Vec3> middle_of_others(const std::vector<survey::ReadingSet>& sets, const std::string& surface_id) {
    std::vector<std::string> seen{surface_id, {}};
    Vec3 sum = Vec3::Zero();
    std::size_t count = 0;
    for (const auto& set : sets) {
        if (std::find(seen.begin(), seen.end(), set.surface_id) != seen.end()) continue;
        seen.push_back(set.surface_id);
        const auto points = survey::points_of(sets, set.surface_id);
        if (!points) continue;
        for (const auto& p : *points) sum += p.position;
        count += points->size();
    }
    if (count == 0) return std::nullopt;
    return sum / static_cast<double>(count);
}

}  // namespace

PieceResult::PieceResult() = default;
PieceResult::PieceResult(const PieceResult&) = default;
PieceResult::PieceResult(PieceResult&&) noexcept = default;
PieceResult& PieceResult::operator=(const PieceResult&) = default;
PieceResult& PieceResult::operator=(PieceResult&&) noexcept = default;
PieceResult::~PieceResult() = default;

SurfaceResult::SurfaceResult() = default;
SurfaceResult::SurfaceResult(const SurfaceResult&) = default;
SurfaceResult::SurfaceResult(SurfaceResult&&) noexcept = default;
SurfaceResult& SurfaceResult::operator=(const SurfaceResult&) = default;
SurfaceResult& SurfaceResult::operator=(SurfaceResult&&) noexcept = default;
SurfaceResult::~SurfaceResult() = default;

Results::Results() = default;
Results::Results(const Results&) = default;
Results::Results(Results&&) noexcept = default;
Results& Results::operator=(const Results&) = default;
Results& Results::operator=(Results&&) noexcept = default;
Results::~Results() = default;

Pipeline::Pipeline() = default;
Pipeline::~Pipeline() = default;

piece::SurfaceLookup Pipeline::OutlineInput::lookup() const {
    return [this](const std::string& id) -> const hull::Surface* {
        for (const auto& [name, face] : surfaces)
            if (name == id) return face.get();
        return nullptr;
    };
}

piece::Around Pipeline::OutlineInput::around() const {
    return {[this](const std::string& id) -> const piece::Neighbour* {
                for (const auto& [name, neighbour] : neighbours)
                    if (name == id) return &neighbour;
                return nullptr;
            },
            obstacles, sheet, film_mm};
}

std::optional<Vec3> PieceResult::middle() const {
    if (!shape()) return std::nullopt;
    return shape()->frame.to_space(geometry::centroid(shape()->face_a));
}

const PieceResult* Results::piece(const std::string& id) const {
    const auto it = std::find_if(pieces.begin(), pieces.end(), [&](const auto& p) { return p.id == id; });
    return it == pieces.end() ? nullptr : &*it;
}

bool is_scanned(const Job& job, const survey::Point& point) {
    return job.readings[static_cast<std::size_t>(point.set)].school == survey::School::scan;
}

bool is_stray(const hull::FittedSurface& fit, const survey::Point& point) {
    const auto& strays = fit.report.stray_sets;
    return std::find(strays.begin(), strays.end(), point.set) != strays.end();
}

bool SurfaceResult::doubts(std::size_t k) const {
    const auto* f = fitted();
    if (!f || k >= f->report.readings.size() || !f->report.readings[k].suspect) return false;
    return !ridges || !ridges->any() || k >= ridges->wrong.size() || ridges->wrong[k];
}

LeftOut left_out(const Job& job, const SurfaceResult& surface) {
    LeftOut out;
    const auto* fit = surface.fitted();
    for (std::size_t k = 0; fit && k < surface.points.size(); ++k) {
        const bool scanned = is_scanned(job, surface.points[k]);
        if (is_stray(*fit, surface.points[k])) continue;
        out.scanned += scanned;
        if (surface.doubts(k)) ++(scanned ? out.strays : out.doubtful);
    }
    return out;
}

const SurfaceResult* Results::surface(const std::string& id) const {
    const auto it = std::find_if(surfaces.begin(), surfaces.end(), [&](const auto& s) { return s.id == id; });
    return it == surfaces.end() ? nullptr : &*it;
}

SurfaceResult* Results::surface(const std::string& id) {
    return const_cast<SurfaceResult*>(std::as_const(*this).surface(id));
}

hull::FitOptions Pipeline::fit_options(const SurfaceSpec& spec, const std::vector<survey::ReadingSet>& sets) {
    hull::FitOptions out;
    out.chart = spec.chart;
    out.inside = spec.inside;
    out.part = spec.part;
    if (spec.part == hull::SurfacePart::bulkhead) out.elsewhere = middle_of_others(sets, spec.id);
    out.allowed_residual_mm = spec.allowed_residual_mm;
    out.hard_lines = survey::hard_lines_of(sets, spec.id);
    out.bevels = survey::bevels_of(sets, spec.id);
    return out;
}

namespace {

/// Strips under the edges of a thin top, of the same stuff.
double built_up_kg(const piece::Outline& shape, const piece::PieceSpec& piece, const JobMaterial& material) {
    double mm3 = 0;
    for (const auto& edge : shape.edges_a) {
        if (edge.spec < 0 || edge.spec >= static_cast<int>(piece.edges.size())) continue;
        if (edge.source != piece::EdgeSource::scribed && edge.source != piece::EdgeSource::straight &&
            edge.source != piece::EdgeSource::free)
            continue;
        const auto& spec = piece.edges[static_cast<std::size_t>(edge.spec)];
        mm3 += edge.length_mm * spec.build_up_mm * spec.build_up_wide_mm;
    }
    return mm3 * 1e-9 * material.density_kg_m3;
}

/// How sets that marks have placed may lie elsewhere as a whole.
std::vector<hull::SharedError> shared_errors(const std::vector<survey::PlacedSet>& sets) {
    std::vector<hull::SharedError> out;
    for (std::size_t k = 0; k < sets.size(); ++k)
        if (sets[k].placement && *sets[k].placement)
            for (const auto& by : sets[k].placement->value().doubts) out.push_back({static_cast<int>(k), by});
    return out;
}

}  // namespace

SurfaceResult Pipeline::surface_result(const Job& job, const SurfaceSpec& spec, const KeepGoing& keep_going) {
    SurfaceResult out;
    out.id = spec.id;
    const auto placed = placed_readings(job);
    std::vector<survey::ReadingSet> sets;
    if (placed)
        for (const auto& one : *placed) sets.push_back(one.set);
    auto points = placed ? survey::points_of(sets, spec.id) : Result<std::vector<survey::Point>>(placed.error());
    if (!points) {
        out.fit = std::make_shared<const Result<hull::FittedSurface>>(points.error());
        return out;
    }
    out.points = *points;
    hull::FitOptions options = fit_options(spec, sets);
    options.shared_errors = shared_errors(*placed);
    out.fit = fits_.get({out.points, options},
                        [&](const FitInput& in) { return hull::fit_sets(in.points, in.options, keep_going); });
    if (!out.fitted()) return out;
    out.face = faces_.get({out.fit, spec.layers, spec.corners}, [](const FaceInput& in) {
        return in.fit->value().surface.with_layers(in.layers, in.corners);
    });
    out.mesh = meshes_.get(out.face,
                           [](const auto& face) { return hull::sample_mesh(*face, picture_rows, picture_columns); });
    return out;
}

Pipeline::OutlineInput Pipeline::outline_input(const Job& job, const JobPiece& piece, const Results& so_far) {
    const JobMaterial* material = find_material(job, piece.material_id);
    OutlineInput out{piece, thickness_of(job, piece), job.boat.passage, {}, {}, {}, {}, 0};
    const bool lids = std::any_of(piece.openings.begin(), piece.openings.end(),
                                  [](const auto& o) { return o.lid != piece::LidFrom::none; });
    if (lids) out.film_mm = job.coating.film_mm;
    // What stands there already is not brought in.
    if (!piece::is_made(piece.role)) out.spec.split_for_passage = false;
    if (material && out.spec.split_for_passage) out.sheet = sheet_room(job, *material, piece);
    const auto add_neighbour = [&](const std::string& id, bool whole) {
        const auto* other = find_piece(job, id);
        if (!other || other->id == piece.id) return;
        out.neighbours.emplace_back(id, neighbour_of(job, *other));
        if (whole) out.neighbours.back().second.whole = uncrossed(job, *other, so_far);
    };
    for (const auto& edge : piece.edges) {
        if (edge.kind == piece::EdgeKind::scribed)
            if (const auto* surface = so_far.surface(edge.surface_id); surface && surface->face)
                out.surfaces.emplace_back(edge.surface_id, surface->face);
        if (edge.kind == piece::EdgeKind::piece) add_neighbour(edge.piece_id, false);
    }
    // First those with an outline: an edge asks for the plane alone, and the first of a name is found.
    for (const auto& cross : piece.crossings) {
        std::erase_if(out.neighbours, [&](const auto& n) { return n.first == cross.piece_id; });
        add_neighbour(cross.piece_id, true);
    }
    for (const auto& joint : piece.joints)
        if (joint.kind == piece::JointKind::landing) add_neighbour(joint.piece_id, false);
    for (const auto& obstacle : job.obstacles)
        if (obstacle.notches && !piece::lies_on(obstacle, piece.plane, out.thickness_mm) &&
            piece::is_in_finished(obstacle.role) && piece::reaches(obstacle, piece.plane, out.thickness_mm))
            out.obstacles.push_back(obstacle);
    return out;
}

std::shared_ptr<const piece::Outline> Pipeline::uncrossed(const Job& job, const JobPiece& piece,
                                                          const Results& so_far) {
    if (!find_material(job, piece.material_id)) return nullptr;
    JobPiece plain = piece;
    plain.crossings.clear();
    const auto outline = outlines_.get(outline_input(job, plain, so_far), [](const OutlineInput& in) {
        return piece::compute_outline(in.spec, in.thickness_mm, in.lookup(), in.passage, {}, in.around());
    });
    if (!outline->ok()) return nullptr;
    return {outline, &outline->value()};
}

PieceResult Pipeline::piece_result(const Job& job, const JobPiece& piece, const OutlineInput& input,
                                   std::shared_ptr<const Result<piece::Outline>> kept, const KeepGoing& keep_going) {
    PieceResult out;
    out.id = piece.id;
    const JobMaterial* material = find_material(job, piece.material_id);
    if (!material) {
        out.outline =
            std::make_shared<const Result<piece::Outline>>(Error{fmt::format("'{}' has no material", piece.name)});
        return out;
    }
    const auto measured = !piece.through.empty() ? plane_through(job, piece.through, piece.plane.normal)
                          : piece.from_mark      ? plane_from_mark(job, *piece.from_mark, piece.plane.normal)
                                                 : Result<geometry::Plane>(piece.plane);
    if (!measured) {
        out.outline = std::make_shared<const Result<piece::Outline>>(
            Error{fmt::format("'{}' has no plane: {}", piece.name, measured.error().message)});
        return out;
    }
    out.outline = kept ? std::move(kept) : outlines_.get(input, [&](const OutlineInput& in) {
        return piece::compute_outline(in.spec, in.thickness_mm, in.lookup(), in.passage, keep_going, in.around());
    });
    if (!out.shape())
        out.sketch = sketches_.get(input, [](const OutlineInput& in) {
            return piece::sketch_of(in.spec, in.thickness_mm, in.lookup(), in.around());
        });
    if (!out.shape()) return out;
    const auto fixed = fixings_.get(
        {out.outline, piece, piece.fixing, mass_kg_m2(job, piece), built_up_kg(*out.shape(), piece, *material),
         job.coating, job.boat.shell, job.fixing_rules},
        [](const FixingInput& in) {
            const piece::Outline& shape = in.outline->value();
            const double m2 = (geometry::area_mm2(shape.face_a) + geometry::area_mm2(shape.face_b)) / 2e6;
            const double panel_kg_m2 = in.mass_kg_m2 + in.built_up_kg / std::max(m2, 1e-6);
            const auto bare = weight::weigh(shape, panel_kg_m2, in.coating, {});
            Fixed made;
            // What stands there is held as it is held.
            if (piece::is_made(in.spec.role))
                made.plan = fixing::plan_fixing(in.spec, shape, in.shell, bare.total.mass_kg, in.rules,
                                                in.chosen ? &*in.chosen : nullptr);
            made.mass = weight::weigh(shape, panel_kg_m2, in.coating, made.plan);
            return made;
        });
    out.fixing = fixed->plan;
    out.mass = fixed->mass;
    return out;
}

void Pipeline::fit_surfaces(const Job& job, Results& results, const KeepGoing& keep_going) {
    // One after the other: mostly one of them takes nearly all the time, and a fit shares itself out.
    for (const auto& spec : job.surfaces) {
        ask(keep_going);
        results.surfaces.emplace_back().id = spec.id;
        guarded(results.faults, fmt::format("the surface '{}'", spec.name), {},
                [&] { results.surfaces.back() = surface_result(job, spec, keep_going); });
    }
}

void Pipeline::compare_sides(const Job& job, Results& results, const KeepGoing&) {
    guarded(results.faults, "what the sides differ by", {}, [&] {
        for (const auto& set : job.readings) {
            if (set.school != survey::School::mirrored) continue;
            const SurfaceResult* other = results.surface(set.mirror_of);
            SurfaceResult* own = results.surface(set.surface_id);
            if (!other || !own || !other->fitted() || own == other) continue;
            std::vector<survey::Point> checks;
            for (const auto& p : own->points)
                if (p.reading >= 0) checks.push_back(p);
            own->sides = hull::side_differences(other->fitted()->surface, checks);
        }
    });
}

void Pipeline::outline_pieces(const Job& job, Results& results, const KeepGoing& keep_going) {
    std::vector<const piece::PieceSpec*> specs;
    for (const auto& piece : job.pieces) specs.push_back(&piece);
    const piece::Order order = piece::order_of(specs);
    results.pieces.resize(job.pieces.size());
    struct Asked {
        OutlineInput input;
        std::shared_ptr<const Result<piece::Outline>> kept;
    };
    std::vector<std::optional<Asked>> asked(job.pieces.size());
    std::vector<std::size_t> known, fresh;
    const auto work = [&](std::vector<Fault>& faults, std::size_t i) {
        guarded(faults, fmt::format("the piece '{}'", job.pieces[i].name), job.pieces[i].id, [&] {
            tell(fmt::format("the outline of '{}'", job.pieces[i].name));
            results.pieces[i] =
                piece_result(job, job.pieces[i], asked[i]->input, std::move(asked[i]->kept), keep_going);
        });
    };
    for (std::size_t i : order.sequence) {
        ask(keep_going);
        const JobPiece& piece = job.pieces[i];
        PieceResult& result = results.pieces[i];
        result.id = piece.id;
        guarded(results.faults, fmt::format("the piece '{}'", piece.name), piece.id, [&] {
            tell(fmt::format("the outline of '{}'", piece.name));
            OutlineInput input = outline_input(job, piece, results);
            if (const auto* circle = order.circle_with(i)) {
                result.outline =
                    std::make_shared<const Result<piece::Outline>>(Error{piece::circle_words(specs, *circle)});
                result.sketch = std::make_shared<const piece::Sketch>(
                    piece::sketch_of(input.spec, input.thickness_mm, input.lookup(), input.around()));
                return;
            }
            auto kept = outlines_.find(input);
            (kept ? known : fresh).push_back(i);
            asked[i] = Asked{std::move(input), std::move(kept)};
        });
    }
    // A few share themselves out; many are shared out among the processors.
    constexpr std::size_t many = 6;
    if (fresh.size() < many) known.insert(known.end(), fresh.begin(), fresh.end()), fresh.clear();
    for (std::size_t i : known) ask(keep_going), work(results.faults, i);
    on_each(results.faults, fresh.size(), keep_going,
            [&](std::vector<Fault>& faults, std::size_t k) { work(faults, fresh[k]); });
}

void Pipeline::sum_weights(const Job& job, Results& results, const KeepGoing&) {
    std::vector<weight::Mass> added, removed;
    for (std::size_t i = 0; i < results.pieces.size(); ++i) {
        const JobPiece& piece = job.pieces[i];
        // What stays or goes back changes nothing.
        if (!results.pieces[i].shape() || (!piece::is_made(piece.role) && piece::is_in_finished(piece.role)))
            continue;
        auto& masses = piece::is_made(piece.role) ? added : removed;
        masses.insert(masses.end(), static_cast<std::size_t>(piece.copies), results.pieces[i].mass.total);
    }
    results.added = weight::sum(added), results.removed = weight::sum(removed);
    results.attitude = weight::attitude(results.added, results.removed, job.boat.hydrostatics);
}

void Pipeline::forecast_pieces(const Job& job, Results& results, const KeepGoing& keep_going) {
    on_each(results.faults, job.pieces.size(), keep_going, [&](std::vector<Fault>& faults, std::size_t i) {
        PieceResult& piece = results.pieces[i];
        if (!piece.shape()) return;
        guarded(faults, fmt::format("how '{}' will fit", job.pieces[i].name), piece.id, [&] {
            piece.forecast = forecasts_.get(
                {outline_input(job, job.pieces[i], results), job.readings_next}, [&](const ForecastInput& in) {
                    piece::ForecastOptions options;
                    options.suggestions = in.readings;
                    return piece::forecast(in.outline.spec, *piece.shape(), in.outline.lookup(), options);
                });
        });
    });
}

void Pipeline::suggest_readings(const Job& job, Results& results, const KeepGoing& keep_going) {
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        ask(keep_going);
        SurfaceResult& surface = results.surfaces[i];
        if (!surface.face) continue;
        guarded(results.faults, fmt::format("the next readings on '{}'", job.surfaces[i].name), {}, [&] {
            surface.next = nexts_.get({surface.face, job.readings_next}, [](const NextInput& in) {
                hull::SuggestionOptions options;
                options.how_many = in.readings;
                return hull::next_over_patch(*in.face, options);
            });
        });
    }
}

void Pipeline::find_ridges(const Job& job, Results& results, const KeepGoing& keep_going) {
    const auto sets = readings_in_boat(job);
    for (std::size_t i = 0; i < results.surfaces.size(); ++i) {
        ask(keep_going);
        SurfaceResult& surface = results.surfaces[i];
        if (!surface.fitted() || !sets) continue;
        guarded(results.faults, fmt::format("chines of '{}'", job.surfaces[i].name), {}, [&] {
            surface.ridges = ridges_.get(
                {surface.fit, surface.points, fit_options(job.surfaces[i], *sets)}, [&](const RidgeInput& in) {
                    return hull::find_ridges(in.fit->value(), in.points, in.options, keep_going);
                });
        });
    }
}

void Pipeline::try_pieces(const Job& job, Results& results, const KeepGoing& keep_going) {
    if (!job.practice) return;
    int readings = 0;
    for (const auto& s : results.surfaces) readings += static_cast<int>(s.points.size());
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        PieceResult& piece = results.pieces[i];
        const auto& tried = job.practice->tried;
        if (!piece.shape() || std::find(tried.begin(), tried.end(), piece.id) == tried.end()) continue;
        guarded(results.faults, fmt::format("how '{}' truly fits", job.pieces[i].name), piece.id,
                [&] { try_piece(job, job.pieces[i], piece, readings, keep_going); });
    }
}

void Pipeline::try_piece(const Job& job, const JobPiece& spec, PieceResult& piece, int readings,
                         const KeepGoing& keep_going) {
    const practice::VirtualBoat boat(job.practice->boat);
    practice::Trial trial = practice::offer_up(*piece.shape(), boat, spec.wanted_fit_mm);
    // Each time that it was offered up before was a trip as well.
    trial.trips += static_cast<int>(std::count_if(spec.fittings.begin(), spec.fittings.end(),
                                                  [](const Fitting& f) { return !f.set_ids.empty(); }));
    piece.trial = std::make_shared<const practice::Trial>(std::move(trial));
    piece.best = bests_.get({job.practice->boat, piece.outline, readings, job.practice->sigma_mm},
                            [&](const BestInput& in) -> std::optional<practice::BestPossible> {
                                auto best = practice::best_possible(in.outline->value(), boat, in.readings,
                                                                    in.sigma_mm, keep_going);
                                if (!best) ask(keep_going);
                                return best;
                            });
}

struct Pipeline::Stage {
    When when;
    void (Pipeline::*work)(const Job&, Results&, const KeepGoing&);
    const char* what;
};

const std::vector<Pipeline::Stage>& Pipeline::stages() {
    static const std::vector<Stage> all{
        {When::at_once, &Pipeline::fit_surfaces, "the surfaces"},
        {When::at_once, &Pipeline::compare_sides, "what the sides differ by"},
        {When::at_once, &Pipeline::outline_pieces, "the pieces' outlines"},
        {When::at_once, &Pipeline::sum_weights, "weights"},
        {When::soon, &Pipeline::forecast_pieces, "how pieces will fit"},
        {When::soon, &Pipeline::carry_pieces, "what carries the pieces"},
        {When::soon, &Pipeline::find_room, "room for people"},
        {When::soon, &Pipeline::suggest_readings, "the next readings"},
        {When::soon, &Pipeline::find_ridges, "chines"},
        {When::soon, &Pipeline::try_pieces, "how pieces truly fit"},
        {When::at_last, &Pipeline::lay_out_sheets, "the sheets' layouts"},
        {When::at_last, &Pipeline::cut_bars, "the lengths' plan"},
    };
    return all;
}

void Pipeline::run(When when, const Job& job, Results& results, const KeepGoing& keep_going) {
    for (const Stage& stage : stages())
        if (stage.when == when) tell(stage.what), (this->*stage.work)(job, results, keep_going);
}

Results Pipeline::compute(const Job& job, const KeepGoing& keep_going) {
    Results out = compute_pieces(job, keep_going);
    forecast(job, out, keep_going);
    lay_out(job, out, keep_going);
    return out;
}

Results Pipeline::compute_pieces(const Job& job, const KeepGoing& keep_going) {
    // Today's and what an undo would find again.
    const std::size_t wanted = 3 * job.pieces.size();
    outlines_.hold(wanted), forecasts_.hold(wanted), bearings_.hold(wanted), fixings_.hold(wanted);
    sketches_.hold(job.pieces.size());
    Results out;
    run(When::at_once, job, out, keep_going);
    return out;
}

void Pipeline::forecast(const Job& job, Results& results, const KeepGoing& keep_going) {
    run(When::soon, job, results, keep_going);
}

void Pipeline::lay_out(const Job& job, Results& results, const KeepGoing& keep_going) {
    run(When::at_last, job, results, keep_going);
}

}  // namespace bevelsmith::job

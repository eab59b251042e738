#include "job/length_plan.h"

#include <fmt/format.h>

#include <algorithm>

#include "job/guarded.h"
#include "job/packing.h"

namespace bevelsmith::job {
namespace {

/// Of the trims that cover gaps (common practice).
constexpr double trim_thick_mm = 6;

void add_lippings(const JobPiece& piece, const piece::Outline& shape, std::vector<DerivedLength>& out) {
    for (const auto& edge : shape.edges_a) {
        const bool given = edge.source == piece::EdgeSource::scribed || edge.source == piece::EdgeSource::straight ||
                           edge.source == piece::EdgeSource::free;
        if (!given || edge.spec < 0 || edge.spec >= static_cast<int>(piece.edges.size())) continue;
        const auto& spec = piece.edges[static_cast<std::size_t>(edge.spec)];
        const auto strip = [&](const char* what, double wide, double deep) {
            if (wide <= 0 || deep <= 0 || edge.length_mm <= 0) return;
            out.push_back({fmt::format("{} {}, {}", what, piece.id, edge.name), piece.id, std::max(wide, deep),
                           std::min(wide, deep), edge.length_mm, piece.copies});
        };
        strip("strip under", spec.build_up_wide_mm, spec.build_up_mm);
        strip(edge.source == piece::EdgeSource::straight ? "trim of" : "trim, to be bent, of", spec.trim_mm,
              trim_thick_mm);
        const double lipping = spec.lipping_mm;
        if (lipping <= 0 || edge.length_mm <= 0) continue;
        out.push_back({fmt::format("lipping of {}, {}", piece.id, edge.name), piece.id,
                       std::max(lipping, shape.thickness_mm), std::min(lipping, shape.thickness_mm), edge.length_mm,
                       piece.copies});
    }
}

/// Packers between ledges that stand and a level panel, each thickness a strip as long as what it lies on.
void add_packers(const Job& job, const JobPiece& piece, const piece::Outline& shape,
                 std::vector<DerivedLength>& out) {
    for (const auto& on : packing_under(job, piece, shape))
        for (const double thick : on.packing.pieces_mm)
            out.push_back({fmt::format("packer on {}, under {}", on.name, piece.id), piece.id, on.wide_mm, thick,
                           on.length_mm, piece.copies});
}

void add_blocks(const Job& job, const JobPiece& piece, const fixing::Plan& plan, std::vector<DerivedLength>& out) {
    if (plan.method != fixing::Method::bonded_blocks || plan.blocks.positions.empty()) return;
    const auto& rules = job.fixing_rules;
    out.push_back({fmt::format("blocks of {}", piece.id), piece.id,
                   std::max(rules.block_width_mm, plan.blocks.block_depth_mm),
                   std::min(rules.block_width_mm, plan.blocks.block_depth_mm), rules.block_length_mm,
                   static_cast<int>(plan.blocks.positions.size()) * piece.copies});
}

/// Old bars before new ones: they cost next to nothing. Where prices are not known new ones count by their length.
void use_old_first(const Job& job, sheets::LengthProblem& problem) {
    constexpr double next_to_nothing = 1e-3;
    const auto is_old = [&](const sheets::BarStock& bar) {
        return std::any_of(job.bars.begin(), job.bars.end(), [&](const auto& b) { return b.id == bar.id && b.old; });
    };
    if (std::none_of(problem.bars.begin(), problem.bars.end(), is_old)) return;
    const bool priced =
        std::all_of(problem.bars.begin(), problem.bars.end(), [&](const auto& b) { return is_old(b) || b.cost > 0; });
    for (auto& bar : problem.bars) {
        if (!priced) bar.cost = bar.length_mm;
        if (is_old(bar)) bar.cost = next_to_nothing * bar.length_mm;
    }
}

std::string title_of(const stock::Bar& bar) {
    return fmt::format("{} {:g} x {:g} mm", bar.name, bar.width_mm, bar.depth_mm);
}

}  // namespace

std::vector<DerivedLength> derived_lengths(const Job& job, const Results& results) {
    std::vector<DerivedLength> out;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = made_shape(job.pieces[i], results.pieces[i]);
        if (!shape) continue;
        add_lippings(job.pieces[i], *shape, out);
        add_packers(job, job.pieces[i], *shape, out);
        add_blocks(job, job.pieces[i], results.pieces[i].fixing, out);
    }
    return out;
}

const JobBar* bar_for(const Job& job, double width_mm, double depth_mm) {
    constexpr double planed_mm = 0.5;  // a bar is never so exact
    const JobBar* out = nullptr;
    for (const auto& bar : job.bars) {
        const double wide = std::max(bar.width_mm, bar.depth_mm), deep = std::min(bar.width_mm, bar.depth_mm);
        if (wide + planed_mm < width_mm || deep + planed_mm < depth_mm) continue;
        if (!out || wide * deep < out->width_mm * out->depth_mm) out = &bar;
    }
    return out;
}

std::vector<LengthResult> wanted_lengths(const Job& job, const Results& results,
                                         std::vector<DerivedLength>& without_bar) {
    struct Section {
        const JobBar* bar = nullptr;
        LengthResult result;
        sheets::LengthProblem problem;
    };
    std::vector<Section> sections;
    const auto section_of = [&](const JobBar& bar) -> Section& {
        for (auto& s : sections)
            if (stock::same_section(*s.bar, bar)) return s;
        auto& made = sections.emplace_back();
        made.bar = &bar;
        made.result.title = title_of(bar);
        made.problem.kerf_mm = job.cutting.kerf_mm;
        made.problem.wide_mm = std::max(bar.width_mm, bar.depth_mm);
        made.problem.narrow_mm = std::min(bar.width_mm, bar.depth_mm);
        for (const auto& b : job.bars)
            if (stock::same_section(b, bar)) {
                made.result.bar_ids.push_back(b.id);
                made.problem.bars.push_back({b.id, b.length_mm, b.price, b.count, b.grade});
            }
        use_old_first(job, made.problem);
        return made;
    };
    const auto add = [&](const JobBar& bar, const std::string& name, sheets::LengthPart part) {
        auto& s = section_of(bar);
        part.id = name;
        if (const auto fault = sheets::fault_of(s.problem, part); !fault.empty())
            return s.result.faults.push_back(fmt::format("'{}' cannot be cut: {}", name, fault));
        s.result.part_names.push_back(name);
        s.problem.parts.push_back(std::move(part));
    };
    for (const auto& wanted : job.lengths)
        for (const auto& bar : job.bars)
            if (bar.id == wanted.bar_id)
                add(bar, wanted.name.empty() ? wanted.id : wanted.name,
                    {{},
                     wanted.length_mm,
                     wanted.quantity,
                     wanted.grade,
                     wanted.left_deg,
                     wanted.right_deg,
                     wanted.ends_seen,
                     wanted.as_drawn});
    without_bar.clear();
    for (const auto& derived : derived_lengths(job, results)) {
        if (const auto* bar = bar_for(job, derived.width_mm, derived.depth_mm))
            add(*bar, derived.name, {{}, derived.length_mm, derived.quantity, {}});
        else without_bar.push_back(derived);
    }
    std::vector<LengthResult> out;
    for (auto& s : sections) {
        s.result.problem = std::make_shared<const sheets::LengthProblem>(std::move(s.problem));
        out.push_back(std::move(s.result));
    }
    return out;
}

void Pipeline::cut_bars(const Job& job, Results& results, const KeepGoing& keep_going) {
    results.lengths = wanted_lengths(job, results, results.lengths_without_bar);
    for (auto& section : results.lengths)
        guarded(results.faults, fmt::format("the lengths of {}", section.title), {}, [&] {
            if (const auto fault = sheets::fault_of(*section.problem); !fault.empty()) {
                section.faults.push_back(fmt::format("nothing of {} is planned: {}", section.title, fault));
                section.plan = std::make_shared<const sheets::LengthPlan>();
                return;
            }
            section.plan = length_plans_.get(*section.problem, [&](const sheets::LengthProblem& in) {
                return sheets::cut_lengths(in, usual_cutting_seconds, keep_going);
            });
        });
    std::erase_if(results.lengths, [](const auto& section) { return !section.plan; });
}

}  // namespace bevelsmith::job

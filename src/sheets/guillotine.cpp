#include "sheets/guillotine.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <numeric>
#include <optional>
#include <random>

#include "sheets/separate.h"

namespace bevelsmith::sheets {
namespace {

using geometry::Box;
constexpr double hair_mm = 1e-6;

/// A rectangle part at one angle.
struct Lying {
    double rotation_deg = 0;
    Box box;
};

std::vector<Lying> ways_to_lie(const Part& part) {
    std::vector<Lying> out;
    const auto rotations = part.any_rotation ? std::vector<double>{0, 90} : part.rotations_deg;
    for (double r : rotations) {
        if (std::abs(std::remainder(r, 90)) > hair_mm) continue;
        const Box box = geometry::bounding_box(geometry::transformed(part.shape.outer, r * M_PI / 180, {0, 0}));
        const bool known = std::any_of(
            out.begin(), out.end(), [&](const Lying& l) { return std::abs(l.box.width() - box.width()) < hair_mm; });
        if (!known) out.push_back({r, box});
    }
    return out;
}

struct Free {
    int sheet = 0;
    Box box;
};

/// How one try goes about it.
struct Manner {
    bool split_shorter = true;
    std::vector<std::size_t> order;
};

class Try {
  public:
    Try(const Problem& problem, const std::vector<std::vector<Lying>>& lying) : problem_(problem), lying_(lying) {}

    Layout run(const Manner& manner, const std::vector<std::pair<int, int>>& copies) {
        layout_ = {};
        free_.clear();
        left_.clear();
        for (const Stock& s : problem_.stock)
            left_.push_back(s.count < 0 ? static_cast<int>(copies.size()) : s.count);
        for (std::size_t k : manner.order) {
            const auto [part, copy] = copies[k];
            if (!put(part, copy, manner) && !(open_sheet(part) && put(part, copy, manner)))
                layout_.unplaced.push_back({part, copy, "no sheet is left that is large enough"});
        }
        layout_.utilisation = utilisation(problem_, layout_);
        return std::move(layout_);
    }

  private:
    bool put(int part, int copy, const Manner& manner) {
        const Lying* best = nullptr;
        std::size_t where = 0;
        double least = HUGE_VAL;
        for (std::size_t f = 0; f < free_.size(); ++f)
            for (const Lying& l : lying_[static_cast<std::size_t>(part)]) {
                const double over_x = free_[f].box.width() - l.box.width() - problem_.spacing_mm;
                const double over_y = free_[f].box.height() - l.box.height() - problem_.spacing_mm;
                if (over_x < -hair_mm || over_y < -hair_mm) continue;
                // Sheets already begun come first; then the tightest side.
                const double cost = 1e6 * free_[f].sheet + std::min(over_x, over_y);
                if (cost < least) least = cost, best = &l, where = f;
            }
        if (!best) return false;
        const Free room = free_[where];
        layout_.placements.push_back(
            {part, copy, room.sheet, best->rotation_deg, room.box.min - best->box.min, false});
        free_.erase(free_.begin() + static_cast<std::ptrdiff_t>(where));
        const double right = room.box.min.x() + best->box.width() + problem_.spacing_mm;
        const double top = room.box.min.y() + best->box.height() + problem_.spacing_mm;
        const bool upright = (room.box.max.x() - right < room.box.max.y() - top) != manner.split_shorter;
        const Box beside{{right, room.box.min.y()}, {room.box.max.x(), upright ? room.box.max.y() : top}};
        const Box above{{room.box.min.x(), top}, {upright ? right : room.box.max.x(), room.box.max.y()}};
        for (const Box& b : {beside, above})
            if (b.width() > hair_mm && b.height() > hair_mm) free_.push_back({room.sheet, b});
        return true;
    }

    bool open_sheet(int part) {
        std::vector<int> order(problem_.stock.size());
        std::iota(order.begin(), order.end(), 0);
        std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
            return problem_.stock[static_cast<std::size_t>(a)].priority <
                   problem_.stock[static_cast<std::size_t>(b)].priority;
        });
        for (int s : order) {
            auto& left = left_[static_cast<std::size_t>(s)];
            if (left <= 0) continue;
            Box room = geometry::bounding_box(problem_.stock[static_cast<std::size_t>(s)].shape.outer);
            room.min += Vec2::Constant(problem_.edge_margin_mm);
            // Behind the last part no saw's way is needed.
            room.max += Vec2::Constant(problem_.spacing_mm - problem_.edge_margin_mm);
            const auto& ways = lying_[static_cast<std::size_t>(part)];
            const bool fits = std::any_of(ways.begin(), ways.end(), [&](const Lying& l) {
                return l.box.width() + problem_.spacing_mm <= room.width() + hair_mm &&
                       l.box.height() + problem_.spacing_mm <= room.height() + hair_mm;
            });
            if (!fits) continue;
            --left;
            layout_.sheet_stock.push_back(s);
            free_.push_back({static_cast<int>(layout_.sheet_stock.size()) - 1, room});
            return true;
        }
        return false;
    }

    const Problem& problem_;
    const std::vector<std::vector<Lying>>& lying_;
    Layout layout_;
    std::vector<Free> free_;
    std::vector<int> left_;
};

/// Where a line from edge to edge parts the boxes; the one that leaves the largest whole panel.
std::optional<SheetCut> dividing(int sheet, const Box& panel, const std::vector<Box>& parts, double spacing) {
    std::optional<SheetCut> best;
    double longest = -1;
    for (const bool upright : {false, true}) {
        const auto low = [&](const Box& b) { return upright ? b.min.x() : b.min.y(); };
        const auto high = [&](const Box& b) { return upright ? b.max.x() : b.max.y(); };
        for (const Box& one : parts)
            for (const bool behind : {true, false}) {
                // A shaving that is narrower than the saw's way is sawn off all the same.
                if (behind ? high(one) >= high(panel) - hair_mm : low(one) <= low(panel) + hair_mm) continue;
                const double at = behind ? high(one) : low(one) - spacing;
                const bool clear = std::all_of(parts.begin(), parts.end(), [&](const Box& b) {
                    return high(b) <= at + hair_mm || low(b) >= at + spacing - hair_mm;
                });
                const double length = upright ? panel.height() : panel.width();
                if (clear && length > longest + hair_mm) longest = length, best = SheetCut{sheet, panel, upright, at};
            }
    }
    return best;
}

bool cut_apart(int sheet, const Box& panel, const std::vector<Box>& parts, double spacing,
               std::vector<SheetCut>& out) {
    if (parts.empty()) return true;
    const bool alone = parts.size() == 1 && (parts.front().size() - panel.size()).cwiseAbs().maxCoeff() < 1e-3;
    if (alone) return true;
    const auto cut = dividing(sheet, panel, parts, spacing);
    if (!cut) return false;
    out.push_back(*cut);
    Box first = panel, second = panel;
    (cut->upright ? first.max.x() : first.max.y()) = cut->at_mm;
    (cut->upright ? second.min.x() : second.min.y()) = cut->at_mm + spacing;
    std::vector<Box> before, behind;
    for (const Box& b : parts)
        ((cut->upright ? b.max.x() : b.max.y()) <= cut->at_mm + hair_mm ? before : behind).push_back(b);
    return cut_apart(sheet, first, before, spacing, out) && cut_apart(sheet, second, behind, spacing, out);
}

}  // namespace

bool all_rectangles(const Problem& problem) {
    return std::all_of(problem.parts.begin(), problem.parts.end(), [](const Part& p) { return is_plain(p.shape); }) &&
           std::all_of(problem.stock.begin(), problem.stock.end(), [](const Stock& s) { return is_plain(s.shape); });
}

Layout nest_guillotine(const Problem& problem, const NestOptions& options) {
    const auto start = std::chrono::steady_clock::now();
    const auto gone = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(); };
    std::vector<std::vector<Lying>> lying;
    for (const Part& part : problem.parts) lying.push_back(ways_to_lie(part));
    std::vector<std::pair<int, int>> copies;
    for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p)
        for (int c = 0; c < problem.parts[static_cast<std::size_t>(p)].quantity; ++c) copies.emplace_back(p, c);
    std::mt19937 random(options.seed);
    Manner manner;
    manner.order.resize(copies.size());
    std::iota(manner.order.begin(), manner.order.end(), 0U);
    const auto area = [&](std::size_t k) {
        return geometry::area_mm2(problem.parts[static_cast<std::size_t>(copies[k].first)].shape);
    };
    std::stable_sort(manner.order.begin(), manner.order.end(),
                     [&](std::size_t a, std::size_t b) { return area(a) > area(b); });
    const auto by_area = manner.order;
    const int tries = options.rounds > 0 ? 40 * options.rounds : 1'000'000;
    Layout best;
    for (int k = 0; k < tries; ++k) {
        manner.split_shorter = k % 2 == 0;
        if (k >= 2) {
            // Neighbours in the order change places: large parts stay early.
            manner.order = by_area;
            for (std::size_t i = 1; i < manner.order.size(); ++i)
                if (random() % 3 == 0) std::swap(manner.order[i - 1], manner.order[i]);
        }
        Layout layout = Try(problem, lying).run(manner, copies);
        if (k == 0 || better(layout, best)) best = std::move(layout);
        if (gone() > options.seconds || (options.keep_going && !options.keep_going())) break;
        if (options.progress && k % 16 == 0 &&
            !options.progress({std::min(1.0, gone() / std::max(options.seconds, 1e-9)),
                               static_cast<int>(best.sheet_stock.size()), best.utilisation}))
            break;
    }
    best.seconds = gone();
    return best;
}

std::vector<SheetCut> cuts_of(const Problem& problem, const Layout& layout, int sheet) {
    std::vector<Box> parts;
    for (const Placement& at : layout.placements)
        if (at.sheet == sheet) {
            const auto shape = placed(problem, at);
            if (!is_plain(shape)) return {};
            parts.push_back(geometry::bounding_box(shape.outer));
        }
    const auto stock = static_cast<std::size_t>(layout.sheet_stock[static_cast<std::size_t>(sheet)]);
    const Box panel = geometry::bounding_box(problem.stock[stock].shape.outer);
    std::vector<SheetCut> out;
    if (!cut_apart(sheet, panel, parts, problem.spacing_mm, out)) out.clear();
    return out;
}

}  // namespace bevelsmith::sheets

#include "sheets/rows.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

using geometry::Box;
using geometry::Polygon;

/// A part's box at the allowed angle in which it is lowest, and how to get it there.
struct Boxed {
    double rotation_deg = 0;
    double left = 0, bottom = 0, width = 0, height = 0;
};

std::vector<double> angles(const Part& part) {
    return part.any_rotation ? std::vector<double>{0, 90} : part.rotations_deg;
}

/// The angles of a part, the lowest box first.
std::vector<Boxed> boxes_of(const Part& part) {
    std::vector<Boxed> out;
    for (double r : angles(part)) {
        const Box box = geometry::bounding_box(geometry::transformed(part.shape.outer, units::radians(r), {0, 0}));
        out.push_back({r, box.min.x(), box.min.y(), box.width(), box.height()});
    }
    std::sort(out.begin(), out.end(), [](const Boxed& a, const Boxed& b) {
        return std::pair(a.height, a.width) < std::pair(b.height, b.width);
    });
    return out;
}

/// The largest of some hundred rectangles that lie in the sheet; one without a size where none does.
Box largest_rectangle(const Polygon& sheet) {
    const Box all = geometry::bounding_box(sheet.outer);
    if (is_plain(sheet)) return all;
    Box best;
    constexpr int steps = 6;
    for (int l = 0; l < steps; ++l)
        for (int r = l + 1; r <= steps; ++r)
            for (int b = 0; b < steps; ++b)
                for (int t = b + 1; t <= steps; ++t) {
                    const auto at = [&](int i, int k) -> Vec2 {
                        return all.min + Vec2(all.width() * i / steps, all.height() * k / steps);
                    };
                    const Box box{at(l, b), at(r, t)};
                    if (box.width() * box.height() <= best.width() * best.height()) continue;
                    if (geometry::holds_box(sheet, box)) best = box;
                }
    return best;
}

/// One sheet being filled: the row that is open, and what is free above it.
class Rows {
  public:
    Rows(const Box& room, double spacing_mm)
        : room_(room), spacing_(spacing_mm), x_(room.min.x()), y_(room.min.y()) {}

    /// Whether a box finds room, and where its lower left corner goes.
    bool take(const Boxed& box, Vec2& at) {
        if (x_ + box.width > room_.max.x() + touching && x_ > room_.min.x()) {
            y_ += height_ + spacing_;
            x_ = room_.min.x();
            height_ = 0;
        }
        if (x_ + box.width > room_.max.x() + touching || y_ + box.height > room_.max.y() + touching) return false;
        at = {x_, y_};
        x_ += box.width + spacing_;
        height_ = std::max(height_, box.height);
        return true;
    }

  private:
    static constexpr double touching = 1e-9;
    Box room_;
    double spacing_, x_, y_, height_ = 0;
};

class Filler {
  public:
    Filler(const Problem& problem, Layout& layout) : problem_(problem), layout_(layout) {
        for (const Part& part : problem.parts) boxes_.push_back(boxes_of(part));
        for (const Stock& stock : problem.stock) {
            Box room = largest_rectangle(geometry::oriented(stock.shape));
            room.min += Vec2::Constant(problem.edge_margin_mm);
            room.max -= Vec2::Constant(problem.edge_margin_mm);
            rooms_.push_back(room);
            left_.push_back(stock.count < 0 ? HUGE_VAL : stock.count);
        }
        for (int used : layout.sheet_stock) left_[static_cast<std::size_t>(used)] -= 1;
        order_.resize(problem.stock.size());
        std::iota(order_.begin(), order_.end(), 0);
        std::stable_sort(order_.begin(), order_.end(), [&](int a, int b) {
            return problem.stock[static_cast<std::size_t>(a)].priority <
                   problem.stock[static_cast<std::size_t>(b)].priority;
        });
    }

    void add(std::vector<Wanted> wanted) {
        std::stable_sort(wanted.begin(), wanted.end(), [&](const Wanted& a, const Wanted& b) {
            return boxes(a).front().height > boxes(b).front().height;
        });
        for (const Wanted& w : wanted)
            if (!put(w) && !on_fresh_sheet(w)) layout_.unplaced.push_back({w.part, w.copy, reason(w)});
    }

  private:
    const std::vector<Boxed>& boxes(const Wanted& w) const { return boxes_[static_cast<std::size_t>(w.part)]; }

    bool put(const Wanted& w) {
        Vec2 at(0, 0);
        for (const Boxed& boxed : boxes(w))
            if (open_.take(boxed, at)) {
                const int sheet = static_cast<int>(layout_.sheet_stock.size()) - 1;
                layout_.placements.push_back(
                    {w.part, w.copy, sheet, boxed.rotation_deg, at - Vec2(boxed.left, boxed.bottom)});
                return true;
            }
        return false;
    }

    bool goes_on(const Wanted& w, std::size_t stock) const {
        const Box& room = rooms_[stock];
        return std::any_of(boxes(w).begin(), boxes(w).end(),
                           [&](const Boxed& b) { return b.width <= room.width() && b.height <= room.height(); });
    }

    bool on_fresh_sheet(const Wanted& w) {
        for (int stock : order_) {
            const auto k = static_cast<std::size_t>(stock);
            if (left_[k] < 1 || !goes_on(w, k)) continue;
            left_[k] -= 1;
            layout_.sheet_stock.push_back(stock);
            open_ = Rows(rooms_[k], problem_.spacing_mm);
            return put(w);
        }
        return false;
    }

    std::string reason(const Wanted& w) const {
        for (std::size_t k = 0; k < rooms_.size(); ++k)
            if (goes_on(w, k)) return "no sheet is left for it";
        return "no sheet was found in the time that holds its bounding box";
    }

    const Problem& problem_;
    Layout& layout_;
    std::vector<std::vector<Boxed>> boxes_;
    std::vector<Box> rooms_;  ///< less the margin
    std::vector<double> left_;
    std::vector<int> order_;
    Rows open_{{}, 0};  ///< of the last sheet; at first one without room
};

}  // namespace

void add_in_rows(const Problem& problem, const std::vector<Wanted>& wanted, Layout& layout) {
    if (wanted.empty()) return;
    Filler(problem, layout).add(wanted);
}

}  // namespace bevelsmith::sheets

#include "sheets/end_joints.h"

#include <algorithm>
#include <cstddef>
#include <numeric>

namespace bevelsmith::sheets {
namespace {

/// Which lengths hang together.
class Rings {
  public:
    explicit Rings(std::size_t count) : of_(count) { std::iota(of_.begin(), of_.end(), 0U); }
    bool join(std::size_t a, std::size_t b) {
        a = root(a), b = root(b);
        of_[a] = b;
        return a != b;
    }

  private:
    std::size_t root(std::size_t k) {
        while (of_[k] != k) k = of_[k] = of_[of_[k]];
        return k;
    }
    std::vector<std::size_t> of_;
};

/// Ends are numbered two by two: 2 k is the left one of length k, 2 k + 1 its right one.
std::size_t other_end(std::size_t end) {
    return end ^ 1U;
}

}  // namespace

EndToEnd end_to_end(const std::vector<EndPair>& lengths) {
    EndToEnd out;
    if (lengths.empty()) return out;
    // One more with square ends stands for the two ends of the bar: the row becomes a ring.
    const std::size_t bar = lengths.size(), count = bar + 1;
    const auto value = [&](std::size_t end) {
        return end / 2 == bar ? 0 : end % 2 == 0 ? lengths[end / 2].left : lengths[end / 2].right;
    };
    std::vector<std::size_t> ranked(2 * count);
    std::iota(ranked.begin(), ranked.end(), 0U);
    std::stable_sort(ranked.begin(), ranked.end(), [&](std::size_t a, std::size_t b) { return value(a) > value(b); });

    std::vector<std::size_t> against(2 * count);
    const auto lay_against = [&](std::size_t a, std::size_t b) { against[a] = b, against[b] = a; };
    Rings rings(count);
    std::vector<std::size_t> gaps;
    for (std::size_t k = 0; k < ranked.size(); k += 2) {
        lay_against(ranked[k], ranked[k + 1]);
        rings.join(ranked[k] / 2, ranked[k + 1] / 2);
        out.saved += value(ranked[k + 1]);
        if (k > 0) gaps.push_back(k - 1);
    }
    const auto width = [&](std::size_t gap) { return value(ranked[gap]) - value(ranked[gap + 1]); };
    std::stable_sort(gaps.begin(), gaps.end(), [&](std::size_t a, std::size_t b) { return width(a) < width(b); });
    std::erase_if(gaps, [&](std::size_t gap) { return !rings.join(ranked[gap] / 2, ranked[gap + 1] / 2); });
    // From the greatest down, so that an exchange finds the pair below it as it was.
    std::sort(gaps.begin(), gaps.end());
    for (std::size_t gap : gaps) {
        const std::size_t low = ranked[gap], high = against[low];
        const std::size_t next = ranked[gap + 1], last = against[next];
        out.saved -= width(gap);
        lay_against(high, next);
        lay_against(low, last);
    }

    std::size_t in = against[2 * bar + 1];
    while (in / 2 != bar) {
        out.order.push_back(static_cast<int>(in / 2));
        out.turned.push_back(in % 2 == 1);
        in = against[other_end(in)];
    }
    return out;
}

}  // namespace bevelsmith::sheets

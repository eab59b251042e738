#include "hull/cell_blocks.h"

namespace bevelsmith::hull {

CellRow cell_row(const CubicBasis& s, const CubicBasis& v, double at_s, double at_v, int derivative_s,
                 int derivative_v) {
    const auto ls = s.at(at_s, derivative_s), lv = v.at(at_v, derivative_v);
    CellRow row;
    row.cell = ls.span * v.intervals() + lv.span;
    for (int a = 0; a < 4; ++a)
        for (int b = 0; b < 4; ++b)
            row.weight[4 * a + b] = ls.weight[static_cast<std::size_t>(a)] * lv.weight[static_cast<std::size_t>(b)];
    return row;
}

std::array<int, 16> cell_functions(const CubicBasis& s, const CubicBasis& v, int cell) {
    const auto is = s.functions(cell / v.intervals()), iv = v.functions(cell % v.intervals());
    std::array<int, 16> out;
    for (std::size_t k = 0; k < 16; ++k) out[k] = is[k / 4] * v.count() + iv[k % 4];
    return out;
}

CellBlocks::CellBlocks(const CubicBasis& s, const CubicBasis& v, const BlockBand& band) : CellBlocks(s, v) {
    for (std::size_t cell = 0; cell < blocks_.size(); ++cell) {
        const auto index = cell_functions(s, v, static_cast<int>(cell));
        for (std::size_t a = 0; a < 16; ++a)
            for (std::size_t b = 0; b <= a; ++b) {
                const double x = band.at(index[a], index[b]);
                blocks_[cell](static_cast<int>(a), static_cast<int>(b)) = x;
                blocks_[cell](static_cast<int>(b), static_cast<int>(a)) = x;
            }
    }
}

void CellBlocks::add_to(BlockBand& band) const {
    for (std::size_t cell = 0; cell < blocks_.size(); ++cell) {
        const auto index = cell_functions(s_, v_, static_cast<int>(cell));
        for (std::size_t a = 0; a < 16; ++a)
            for (std::size_t b = 0; b < 16; ++b)
                if (index[b] <= index[a])
                    band.add(index[a], index[b], blocks_[cell](static_cast<int>(a), static_cast<int>(b)));
    }
}

}  // namespace bevelsmith::hull

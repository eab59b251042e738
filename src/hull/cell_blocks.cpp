#include "hull/cell_blocks.h"

namespace bevelsmith::hull {
namespace {

using Pairs = Eigen::Matrix<double, 10, 1>;

Pairs pairs_of(const Eigen::Vector4d& x) {
    Pairs out;
    out << x[0] * x[0], x[1] * x[0], x[1] * x[1], x[2] * x[0], x[2] * x[1], x[2] * x[2], x[3] * x[0], x[3] * x[1],
        x[3] * x[2], x[3] * x[3];
    return out;
}

/// Where the product of functions a and b stands among the pairs.
int pair(int a, int b) {
    return a >= b ? a * (a + 1) / 2 + b : pair(b, a);
}

}  // namespace

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

void CellSums::add(double at_s, double at_v, double weight, double y) {
    const auto s = s_.values(at_s), v = v_.values(at_v);
    Cell& cell = cells_[static_cast<std::size_t>(s.span * v_.intervals() + v.span)];
    const Pairs of_s = weight * pairs_of(s.weight), of_v = pairs_of(v.weight);
    for (int k = 0; k < 10; ++k) cell.products.col(k) += of_v[k] * of_s;
    const Eigen::Vector4d pulled = weight * y * s.weight;
    for (int k = 0; k < 4; ++k) cell.right.col(k) += v.weight[k] * pulled;
}

void CellSums::add(const CellSums& others) {
    for (std::size_t k = 0; k < cells_.size(); ++k) {
        cells_[k].products += others.cells_[k].products;
        cells_[k].right += others.cells_[k].right;
    }
}

void CellSums::add_to(BlockBand& band, Eigen::VectorXd& right) const {
    for (std::size_t at = 0; at < cells_.size(); ++at) {
        const auto index = cell_functions(s_, v_, static_cast<int>(at));
        const Cell& cell = cells_[at];
        for (int a = 0; a < 16; ++a) {
            const int row = index[static_cast<std::size_t>(a)];
            right[row] += cell.right(a / 4, a % 4);
            auto entry = band.row(row);
            for (int b = 0; b < 16; ++b) {
                const int column = index[static_cast<std::size_t>(b)];
                if (column <= row) entry(column) += cell.products(pair(a / 4, b / 4), pair(a % 4, b % 4));
            }
        }
    }
}

}  // namespace bevelsmith::hull

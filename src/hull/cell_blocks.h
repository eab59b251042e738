// The part of a tensor-product spline's matrix that one knot cell sees: 16 functions by 16.
//
// Sums over readings and variances of predictions touch one cell at a time; kept dense and together they cost a few
// hundred multiplications, where the band itself would cost as many searches.
#pragma once

#include <Eigen/Core>
#include <Eigen/StdVector>
#include <array>
#include <vector>

#include "hull/block_cholesky.h"
#include "hull/bspline.h"

namespace bevelsmith::hull {

/// The sparse row of a prediction: its cell, and the weights of the cell's 16 functions.
struct CellRow {
    int cell = 0;
    Eigen::Matrix<double, 16, 1> weight;
};
/// The row of the height (or a derivative of it) at (s, v).
CellRow cell_row(const CubicBasis& s, const CubicBasis& v, double at_s, double at_v, int derivative_s = 0,
                 int derivative_v = 0);
/// Coefficient indices of a cell's functions; index = i_s * v.count() + i_v.
std::array<int, 16> cell_functions(const CubicBasis& s, const CubicBasis& v, int cell);

class CellBlocks {
  public:
    using Block = Eigen::Matrix<double, 16, 16>;

    /// All zero.
    CellBlocks(const CubicBasis& s, const CubicBasis& v)
        : s_(s), v_(v), blocks_(static_cast<std::size_t>(s.intervals() * v.intervals()), Block::Zero()) {}
    /// The cells' parts of `band`.
    CellBlocks(const CubicBasis& s, const CubicBasis& v, const BlockBand& band);

    void add(const CellRow& row, double factor) {
        auto& block = blocks_[static_cast<std::size_t>(row.cell)];
        for (int k = 0; k < 16; ++k) block.col(k) += (factor * row.weight[k]) * row.weight;
    }
    /// Adds all blocks where they belong.
    void add_to(BlockBand& band) const;

    /// a' B b for two rows of one cell.
    double between(const CellRow& a, const CellRow& b) const {
        return a.weight.dot(blocks_[static_cast<std::size_t>(a.cell)] * b.weight);
    }
    double variance(const CellRow& row) const { return std::max(0.0, between(row, row)); }

  private:
    CubicBasis s_, v_;
    std::vector<Block, Eigen::aligned_allocator<Block>> blocks_;
};

/// Sums over readings of w r r' and of w y r, with r the row of a height. Such a row is the product of four functions
/// along s and four along v, so that of its 256 products only ten by ten differ.
class CellSums {
  public:
    CellSums(const CubicBasis& s, const CubicBasis& v)
        : s_(s), v_(v), cells_(static_cast<std::size_t>(s.intervals() * v.intervals())) {}

    void add(double at_s, double at_v, double weight, double y);
    /// Precondition: the same bases.
    void add(const CellSums& others);
    /// Adds all sums where they belong.
    void add_to(BlockBand& band, Eigen::VectorXd& right) const;

  private:
    struct Cell {
        Eigen::Matrix<double, 10, 10> products = Eigen::Matrix<double, 10, 10>::Zero();  ///< of pairs along s, v
        Eigen::Matrix4d right = Eigen::Matrix4d::Zero();                                 ///< functions along s, v
    };
    CubicBasis s_, v_;
    std::vector<Cell, Eigen::aligned_allocator<Cell>> cells_;
};

}  // namespace bevelsmith::hull

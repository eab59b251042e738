// Symmetric matrices whose entries lie near the diagonal, in blocks, and their Cholesky factor.
//
// The coefficients of a tensor-product cubic spline, ordered by rows, touch only three rows to either side.
// Three rows together make one block, so the normal matrix is block tridiagonal; each block is dense, which
// keeps the work in Eigen's dense kernels and allows the columns to wrap around (periodic splines).
#pragma once

#include <Eigen/Core>
#include <array>
#include <optional>
#include <utility>
#include <vector>

namespace bevelsmith::hull {

/// A symmetric block-tridiagonal matrix; only the lower half is kept. `size` rows matter, the rest pads the
/// last block with the identity.
class BlockBand {
  public:
    BlockBand(int size, int block);

    int size() const { return size_; }
    int block() const { return block_; }
    int blocks() const { return blocks_; }

    /// Adds to entry (row, column). Precondition: row >= column, not more than one block apart.
    void add(int row, int column, double value);
    /// Entries of one row, up to its diagonal.
    auto row(int row) {
        return [entries = data_.row(row), first = (row / block_ - 1) * block_](int column) mutable -> double& {
            return entries[column - first];
        };
    }
    /// this = sum of factors[k] * terms[k], four of them and all of one shape.
    void combine(const std::vector<BlockBand>& terms, const std::array<double, 4>& factors) {
        data_ = factors[0] * terms[0].data_ + factors[1] * terms[1].data_ + factors[2] * terms[2].data_ +
                factors[3] * terms[3].data_;
    }
    void add_scaled(const BlockBand& other, double factor) { data_ += factor * other.data_; }
    /// Replaces row and column `index` by those of the identity.
    void pin(int index);
    Eigen::VectorXd times(const Eigen::VectorXd& x) const;
    /// Entry (row, column), either way round. Precondition: not more than one block apart.
    double at(int row, int column) const {
        if (row < column) std::swap(row, column);
        return data_(row, column - (row / block_ - 1) * block_);
    }

    /// Rows of block k: its coupling to block k-1, and its own (lower half).
    auto coupling(int k) const { return data_.block(k * block_, 0, block_, block_); }
    auto diagonal(int k) const { return data_.block(k * block_, block_, block_, block_); }

  private:
    friend class BlockCholesky;
    int size_, block_, blocks_;
    Eigen::MatrixXd data_;  // blocks*block rows; left half couples to the block before, right half is the block
};

/// A = L L^T.
class BlockCholesky {
  public:
    /// Empty when the matrix is not positive definite to working precision.
    static std::optional<BlockCholesky> factor(const BlockBand& matrix);

    double log_determinant() const;
    Eigen::VectorXd solve(const Eigen::VectorXd& right) const;
    /// The entries of A^-1 within A's own band, where all that a prediction needs lies: about the work of another
    /// factorisation, instead of a solution for every place. (The recursion of K. Takahashi, J. Fagan, M.-S. Chen,
    /// 1973, in blocks: with G = L(k+1,k) L(k,k)^-1, Z(k+1,k) = -Z(k+1,k+1) G and Z(k,k) = (L(k,k) L(k,k)')^-1 +
    /// G' Z(k+1,k+1) G; derived.)
    BlockBand band_of_inverse() const;
    /// y = L^-1 x for an x whose entries before `first_nonzero` are zero.
    Eigen::VectorXd half_solve(const Eigen::VectorXd& x, int first_nonzero) const;
    /// x = L^-T y. With independent standard normal y, x has covariance A^-1.
    Eigen::VectorXd half_solve_transposed(const Eigen::VectorXd& y) const;

  private:
    explicit BlockCholesky(int size, int block, int blocks);
    int size_, block_, blocks_;
    Eigen::MatrixXd data_;
};

}  // namespace bevelsmith::hull

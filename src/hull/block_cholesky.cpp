#include "hull/block_cholesky.h"

#include <Eigen/Cholesky>
#include <cmath>

namespace bevelsmith::hull {

BlockBand::BlockBand(int size, int block)
    : size_(size),
      block_(block),
      blocks_((size + block - 1) / block),
      data_(Eigen::MatrixXd::Zero(blocks_ * block, 2 * block)) {}

void BlockBand::add(int row, int column, double value) {
    const int k = row / block_;
    data_(row, column - (k - 1) * block_) += value;
}

void BlockBand::pin(int index) {
    const int k = index / block_, local = index % block_;
    data_.row(index).setZero();
    data_.block(k * block_, block_ + local, block_, 1).setZero();
    if (k + 1 < blocks_) data_.block((k + 1) * block_, local, block_, 1).setZero();
    data_(index, block_ + local) = 1;
}

Eigen::VectorXd BlockBand::times(const Eigen::VectorXd& x) const {
    Eigen::VectorXd padded = Eigen::VectorXd::Zero(blocks_ * block_), out = padded;
    padded.head(size_) = x;
    for (int k = 0; k < blocks_; ++k) {
        const auto here = padded.segment(k * block_, block_);
        out.segment(k * block_, block_) += diagonal(k).selfadjointView<Eigen::Lower>() * here;
        if (k == 0) continue;
        out.segment(k * block_, block_) += coupling(k) * padded.segment((k - 1) * block_, block_);
        out.segment((k - 1) * block_, block_) += coupling(k).transpose() * here;
    }
    return out.head(size_);
}

BlockCholesky::BlockCholesky(int size, int block, int blocks)
    : size_(size), block_(block), blocks_(blocks), data_(Eigen::MatrixXd::Zero(blocks * block, 2 * block)) {}

std::optional<BlockCholesky> BlockCholesky::factor(const BlockBand& matrix) {
    const int b = matrix.block();
    BlockCholesky out(matrix.size(), b, matrix.blocks());
    Eigen::MatrixXd d(b, b), w(b, b);
    for (int k = 0; k < out.blocks_; ++k) {
        d = matrix.diagonal(k);
        if (k > 0) {
            w = matrix.coupling(k);
            const auto before = out.data_.block((k - 1) * b, b, b, b);
            before.triangularView<Eigen::Lower>().transpose().solveInPlace<Eigen::OnTheRight>(w);
            d.selfadjointView<Eigen::Lower>().rankUpdate(w, -1.0);
            out.data_.block(k * b, 0, b, b) = w;
        }
        for (int i = out.size_ - k * b; i < b; ++i) d(i, i) = 1;  // padding of the last block
        Eigen::LLT<Eigen::Ref<Eigen::MatrixXd>> llt(d);
        if (llt.info() != Eigen::Success) return std::nullopt;
        out.data_.block(k * b, b, b, b) = d;
    }
    return out;
}

double BlockCholesky::log_determinant() const {
    double sum = 0;
    for (int i = 0; i < size_; ++i) sum += std::log(data_(i, block_ + i % block_));
    return 2 * sum;
}

BlockBand BlockCholesky::band_of_inverse() const {
    const int b = block_;
    BlockBand out(size_, b);
    Eigen::MatrixXd next = Eigen::MatrixXd::Zero(b, b), g(b, b);
    for (int k = blocks_ - 1; k >= 0; --k) {
        const auto here = data_.block(k * b, b, b, b).triangularView<Eigen::Lower>();
        Eigen::MatrixXd z = Eigen::MatrixXd::Identity(b, b);
        here.solveInPlace(z);
        here.transpose().solveInPlace(z);
        if (k + 1 < blocks_) {
            g = data_.block((k + 1) * b, 0, b, b);
            here.solveInPlace<Eigen::OnTheRight>(g);
            const Eigen::MatrixXd coupled = next * g;
            out.data_.block((k + 1) * b, 0, b, b) = -coupled;
            z.noalias() += g.transpose() * coupled;
        }
        out.data_.block(k * b, b, b, b) = z;
        next = z;
    }
    return out;
}

Eigen::VectorXd BlockCholesky::half_solve(const Eigen::VectorXd& x, int first_nonzero) const {
    Eigen::VectorXd y = Eigen::VectorXd::Zero(blocks_ * block_);
    y.head(size_) = x;
    const int start = first_nonzero / block_;
    for (int k = start; k < blocks_; ++k) {
        auto part = y.segment(k * block_, block_);
        if (k > start)
            part.noalias() -= data_.block(k * block_, 0, block_, block_) * y.segment((k - 1) * block_, block_);
        data_.block(k * block_, block_, block_, block_).triangularView<Eigen::Lower>().solveInPlace(part);
    }
    return y;
}

Eigen::VectorXd BlockCholesky::half_solve_transposed(const Eigen::VectorXd& y) const {
    Eigen::VectorXd x = Eigen::VectorXd::Zero(blocks_ * block_);
    x.head(y.size()) = y;
    for (int k = blocks_ - 1; k >= 0; --k) {
        auto part = x.segment(k * block_, block_);
        if (k + 1 < blocks_)
            part.noalias() -=
                data_.block((k + 1) * block_, 0, block_, block_).transpose() * x.segment((k + 1) * block_, block_);
        data_.block(k * block_, block_, block_, block_).triangularView<Eigen::Lower>().transpose().solveInPlace(part);
    }
    return x.head(size_);
}

Eigen::VectorXd BlockCholesky::solve(const Eigen::VectorXd& right) const {
    return half_solve_transposed(half_solve(right, 0));
}

}  // namespace bevelsmith::hull

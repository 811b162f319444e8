// Every pair of many columns under replicate weights: r of the weighted cases, and how far its z moves from one set of
// weights to the next (Wolter 2007, ch. 3); missing values are NaN.
//
// A block of cases is laid out once and multiplied under one set of weights after the other, as long as it is at hand. What a
// pair lacks is taken off: of each column, the sums of the others over the cases where it is missing.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

#include "cross_products.hpp"
#include "pair_place.hpp"
#include "unit_sums.hpp"

namespace unsere {

// Columns x columns.
struct ReplicateTable {
  std::vector<double> r, variance, n;

  explicit ReplicateTable(std::size_t p) : r(p * p, NAN), variance(p * p, NAN), n(p * p, 0) {}
};

class ReplicateMatrix {
 public:
  // `weights`: those of the whole first, then the replicates'; `scale`: what the squared distance of each of these counts.
  ReplicateMatrix(const std::vector<const double*>& columns, std::size_t rows, const std::vector<const double*>& weights,
                  const std::vector<double>& scale, int threads)
      : columns_(columns), rows_(rows), weights_(weights), scale_(scale), threads_(threads), p_(columns.size()),
        tiles_(p_ + 1), ones_(rows, 1.0) {
    // Where nothing is missing a column of ones gives what all pairs share: the weight and the weighted sums.
    centre_on_means();
    // Under weights of one the weights of a pair are its cases.
    if (!complete_) weights_.push_back(ones_.data());
  }

  ReplicateTable run(const int* wanted) {
    const std::size_t pairs = pairs_among(p_), held = scale_.size() + 1;
    found_.assign(held * pairs, NAN);
    counts_.assign(pairs, static_cast<double>(rows_));
    in_parallel(weights_.size(), threads_, [&](std::size_t from, std::size_t to) {
      const std::size_t some = std::max<std::size_t>(1, most_sums / (tiles_.size() + lost_size()));
      for (std::size_t first = from; first < to; first += some) under(first, std::min(to, first + some));
    });
    ReplicateTable out(p_);
    for (std::size_t j = 1; j < p_; ++j)
      for (std::size_t i = 0; i < j; ++i)
        if (wanted[i + j * p_]) settle(i, j, &out);
    return out;
  }

 private:
  static constexpr std::size_t most_sums = std::size_t{1} << 23;

  // Of values, weights and squares: the sums of all columns over the cases that each lacks, and last over all cases.
  std::size_t lost_size() const { return complete_ ? 0 : 3 * (p_ + 1) * tiles_.across(); }

  void centre_on_means() {
    means_.resize(p_);
    units_.resize(p_);
    std::vector<char> whole(p_, 1);
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) {
        // About a mean of some of the values: any centre near it will do.
        column_mean(columns_[j], rows_, std::max<std::size_t>(1, rows_ / 4096), &means_[j], &units_[j]);
        for (std::size_t k = 0; k < rows_; ++k)
          if (columns_[j][k] != columns_[j][k]) whole[j] = 0;
      }
    });
    complete_ = std::all_of(whole.begin(), whole.end(), [](char c) { return c != 0; });
  }

  struct Block {
    AlignedRoom value, there, square, weighted;
    RowLists missing;  // what each column lacks, and last all rows
  };

  void lay_out(std::size_t first, std::size_t rows, Block* block) const {
    if (complete_)
      for (std::size_t k = 0; k < rows; ++k) block->value[tiles_.place(p_) + k * tiles_.lanes()] = 1;
    block->missing.clear();
    for (std::size_t j = 0; j < p_; ++j, block->missing.close()) {
      const std::size_t at = tiles_.place(j), apart = tiles_.lanes();
      for (std::size_t k = 0; k < rows; ++k) {
        double v = (columns_[j][first + k] - means_[j]) * units_[j];
        const bool there = v == v;
        if (!there) v = 0;
        block->value[at + k * apart] = v;
        if (complete_) continue;
        block->there[at + k * apart] = there;
        block->square[at + k * apart] = v * v;
        if (!there) block->missing.add(k);
      }
    }
    if (complete_) return;
    block->missing.add_all(rows);
    block->missing.close();
  }

  // What the sums under the sets of weights from .. to - 1 come to.
  void under(std::size_t from, std::size_t to) {
    Block block;
    block.value.resize(tiles_.width());
    block.weighted.resize(tiles_.width());
    if (!complete_) {
      block.there.resize(tiles_.width());
      block.square.resize(tiles_.width());
    }
    std::vector<double> all((to - from) * (tiles_.size() + lost_size()), 0.0), aside(tiles_.across());
    for (std::size_t first = 0; first < rows_; first += block_rows) {
      stop_point();
      const std::size_t rows = std::min(block_rows, rows_ - first);
      lay_out(first, rows, &block);
      for (std::size_t r = from; r < to; ++r) {
        double *here = &all[(r - from) * (tiles_.size() + lost_size())], *lost = here + tiles_.size();
        tiles_.weigh(&block.value[0], weights_[r] + first, rows, &block.weighted[0]);
        tiles_.multiply(rows, &block.weighted[0], &block.value[0], here);
        if (complete_) continue;
        add_lost(block, lost, aside.data());
        tiles_.weigh(&block.there[0], weights_[r] + first, rows, &block.weighted[0]);
        add_lost(block, lost + (p_ + 1) * tiles_.across(), aside.data());
        tiles_.weigh(&block.square[0], weights_[r] + first, rows, &block.weighted[0]);
        add_lost(block, lost + 2 * (p_ + 1) * tiles_.across(), aside.data());
      }
    }
    for (std::size_t r = from; r < to; ++r) read(r, &all[(r - from) * (tiles_.size() + lost_size())]);
  }

  void add_lost(Block& block, double* lost, double* aside) const {
    tiles_.add_lists(&block.weighted[0], block.missing, {lost, tiles_.across()}, {aside, 0});
  }

  void read(std::size_t r, const double* all) {
    const std::size_t pairs = pairs_among(p_), kind = (p_ + 1) * tiles_.across();
    const double* lost = all + tiles_.size();
    // Of column j over the cases that i has: 0 its values, 1 its weights, 2 its squares.
    const auto over = [&](std::size_t which, std::size_t j, std::size_t i) {
      return lost[which * kind + p_ * tiles_.across() + j] - lost[which * kind + i * tiles_.across() + j];
    };
    for (std::size_t j = 1; j < p_; ++j)
      for (std::size_t i = 0; i < j; ++i) {
        const double product = all[tiles_.at(i, j)];
        if (r > scale_.size()) {
          counts_[pair_place(i, j)] = over(1, j, i);
          continue;
        }
        double& found = found_[r * pairs + pair_place(i, j)];
        if (complete_) {
          const double x = all[tiles_.at(i, i)], y = all[tiles_.at(j, j)];
          found = r_of_spread({all[tiles_.at(p_, p_)], all[tiles_.at(i, p_)], all[tiles_.at(j, p_)], x, y, product}, x, y);
        } else {
          found = r_of_spread({over(1, j, i), over(0, i, j), over(0, j, i), over(2, i, j), over(2, j, i), product},
                          lost[2 * kind + p_ * tiles_.across() + i], lost[2 * kind + p_ * tiles_.across() + j]);
        }
      }
  }

  void settle(std::size_t i, std::size_t j, ReplicateTable* out) const {
    const std::size_t pairs = pairs_among(p_);
    const double r = found_[pair_place(i, j)];
    double variance = 0;
    for (std::size_t k = 0; k < scale_.size(); ++k) {
      const double off = z_apart(within_bounds(found_[(k + 1) * pairs + pair_place(i, j)]), within_bounds(r));
      if (off == off) variance += scale_[k] * off * off;
    }
    for (const std::size_t to : {i + j * p_, j + i * p_}) {
      out->r[to] = r;
      out->variance[to] = variance;
      out->n[to] = counts_[pair_place(i, j)];
    }
  }

  const std::vector<const double*>& columns_;
  std::size_t rows_;
  std::vector<const double*> weights_;
  const std::vector<double>& scale_;
  int threads_;
  std::size_t p_;
  Tiles tiles_;
  std::vector<double> ones_;
  bool complete_ = true;
  std::vector<double> means_, units_, found_, counts_;
};

}  // namespace unsere

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
        kernel_(pick_kernel()), ones_(rows, 1.0) {
    centre_on_means();
    // Where nothing is missing a column of ones gives what all pairs share: the weight and the weighted sums.
    panels_ = (p_ + (complete_ ? 1 : 0) + kernel_.lanes - 1) / kernel_.lanes;
    triples_ = (panels_ + tile_panels - 1) / tile_panels;
    // Under weights of one the weights of a pair are its cases.
    if (!complete_) weights_.push_back(ones_.data());
  }

  ReplicateTable run(const int* wanted) {
    const std::size_t pairs = p_ * (p_ - 1) / 2, held = scale_.size() + 1;
    found_.assign(held * pairs, NAN);
    counts_.assign(pairs, static_cast<double>(rows_));
    in_parallel(weights_.size(), threads_, [&](std::size_t from, std::size_t to) {
      const std::size_t some = std::max<std::size_t>(1, most_sums / (tiles() + lost_size()));
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

  std::size_t lanes() const { return kernel_.lanes; }
  std::size_t tall() const { return tile_panels * lanes(); }
  std::size_t tiles() const { return triples_ * panels_ * lanes() * tall(); }
  std::size_t panel_size() const { return lanes() * block_rows; }
  std::size_t width() const { return triples_ * tile_panels * panel_size(); }
  std::size_t across() const { return triples_ * tall(); }
  // Of values, weights and squares: the sums of all columns over the cases that each lacks, and last over all cases.
  std::size_t lost_size() const { return complete_ ? 0 : 3 * (p_ + 1) * across(); }
  static std::size_t place(std::size_t i, std::size_t j) { return i + j * (j - 1) / 2; }

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
    std::vector<std::vector<std::uint16_t>> missing;  // of each column, and last all rows
  };

  void lay_out(std::size_t first, std::size_t rows, Block* block) const {
    if (complete_)
      for (std::size_t k = 0; k < rows; ++k) block->value[p_ / lanes() * panel_size() + k * lanes() + p_ % lanes()] = 1;
    for (auto& rows_of : block->missing) rows_of.clear();
    for (std::size_t j = 0; j < p_; ++j) {
      const std::size_t at = j / lanes() * panel_size() + j % lanes();
      for (std::size_t k = 0; k < rows; ++k) {
        double v = (columns_[j][first + k] - means_[j]) * units_[j];
        const bool there = v == v;
        if (!there) v = 0;
        block->value[at + k * lanes()] = v;
        if (complete_) continue;
        block->there[at + k * lanes()] = there;
        block->square[at + k * lanes()] = v * v;
        if (!there) block->missing[j].push_back(static_cast<std::uint16_t>(k));
      }
    }
    if (!complete_)
      for (std::size_t k = 0; k < rows; ++k) block->missing[p_].push_back(static_cast<std::uint16_t>(k));
  }

  // What the sums under the sets of weights from .. to - 1 come to.
  void under(std::size_t from, std::size_t to) {
    Block block;
    block.value.resize(width());
    block.weighted.resize(width());
    if (!complete_) {
      block.there.resize(width());
      block.square.resize(width());
      block.missing.resize(p_ + 1);
    }
    std::vector<double> all((to - from) * (tiles() + lost_size()), 0.0), aside(across());
    for (std::size_t first = 0; first < rows_; first += block_rows) {
      stop_point();
      const std::size_t rows = std::min(block_rows, rows_ - first);
      lay_out(first, rows, &block);
      for (std::size_t r = from; r < to; ++r) {
        double *here = &all[(r - from) * (tiles() + lost_size())], *lost = here + tiles();
        weigh(&block.value[0], weights_[r] + first, rows, &block.weighted[0]);
        multiply(rows, &block.weighted[0], &block.value[0], here);
        if (complete_) continue;
        add_lost(block, lost, aside.data());
        weigh(&block.there[0], weights_[r] + first, rows, &block.weighted[0]);
        add_lost(block, lost + (p_ + 1) * across(), aside.data());
        weigh(&block.square[0], weights_[r] + first, rows, &block.weighted[0]);
        add_lost(block, lost + 2 * (p_ + 1) * across(), aside.data());
      }
    }
    for (std::size_t r = from; r < to; ++r) read(r, &all[(r - from) * (tiles() + lost_size())]);
  }

  void add_lost(Block& block, double* lost, double* aside) const {
    for (std::size_t i = 0; i <= p_; ++i) {
      const auto& rows = block.missing[i];
      if (rows.empty()) continue;
      for (std::size_t t = 0; t < triples_; ++t)
        kernel_.add_rows(&block.weighted[0] + t * tile_panels * panel_size(), rows.data(), rows.size(),
                         lost + i * across() + t * tall(), aside + t * tall());
    }
  }

  void weigh(const double* panels, const double* weight, std::size_t rows, double* out) const {
    for (std::size_t panel = 0; panel < panels_; ++panel)
      kernel_.weigh(rows, panels + panel * panel_size(), weight, out + panel * panel_size());
  }

  void multiply(std::size_t rows, const double* left, const double* right, double* out) const {
    for (std::size_t t = 0; t < triples_; ++t)
      for (std::size_t c = t * tile_panels; c < panels_; ++c)
        kernel_.multiply(rows, left + t * tile_panels * panel_size(), right + c * panel_size(),
                         out + (t * panels_ + c) * lanes() * tall());
  }

  // Where the product of columns i <= j stands.
  std::size_t at(std::size_t i, std::size_t j) const {
    return (i / tall() * panels_ + j / lanes()) * lanes() * tall() + j % lanes() * tall() + i % tall();
  }

  void read(std::size_t r, const double* all) {
    const std::size_t pairs = p_ * (p_ - 1) / 2, kind = (p_ + 1) * across();
    const double* lost = all + tiles();
    // Of column j over the cases that i has: 0 its values, 1 its weights, 2 its squares.
    const auto over = [&](std::size_t which, std::size_t j, std::size_t i) {
      return lost[which * kind + p_ * across() + j] - lost[which * kind + i * across() + j];
    };
    for (std::size_t j = 1; j < p_; ++j)
      for (std::size_t i = 0; i < j; ++i) {
        const double product = all[at(i, j)];
        if (r > scale_.size()) {
          counts_[place(i, j)] = over(1, j, i);
          continue;
        }
        double& found = found_[r * pairs + place(i, j)];
        if (complete_) {
          const double x = all[at(i, i)], y = all[at(j, j)];
          found = of_sums({all[at(p_, p_)], all[at(i, p_)], all[at(j, p_)], x, y, product}, x, y);
        } else {
          found = of_sums({over(1, j, i), over(0, i, j), over(0, j, i), over(2, i, j), over(2, j, i), product},
                          lost[2 * kind + p_ * across() + i], lost[2 * kind + p_ * across() + j]);
        }
      }
  }

  // What is left by rounding alone, beside a column's own squares, is no spread.
  static double of_sums(const UnitSums& s, double x, double y) {
    const bool varies = s.xx - s.x * s.x / s.weight > 1e-14 * x && s.yy - s.y * s.y / s.weight > 1e-14 * y;
    return varies ? s.r() : NAN;
  }

  void settle(std::size_t i, std::size_t j, ReplicateTable* out) const {
    const std::size_t pairs = p_ * (p_ - 1) / 2;
    const double r = found_[place(i, j)];
    double variance = 0;
    for (std::size_t k = 0; k < scale_.size(); ++k) {
      const double off = z_apart(within_bounds(found_[(k + 1) * pairs + place(i, j)]), within_bounds(r));
      if (off == off) variance += scale_[k] * off * off;
    }
    for (const std::size_t to : {i + j * p_, j + i * p_}) {
      out->r[to] = r;
      out->variance[to] = variance;
      out->n[to] = counts_[place(i, j)];
    }
  }

  const std::vector<const double*>& columns_;
  std::size_t rows_;
  std::vector<const double*> weights_;
  const std::vector<double>& scale_;
  int threads_;
  std::size_t p_;
  Kernel kernel_;
  std::vector<double> ones_;
  bool complete_ = true;
  std::size_t panels_ = 0, triples_ = 0;
  std::vector<double> means_, units_, found_, counts_;
};

}  // namespace unsere

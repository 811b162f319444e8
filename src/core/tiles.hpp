// How columns lie in panels, and where the products of their pairs stand among the tiles.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "kernels.hpp"

namespace unsere {

// Room for panels that starts at a multiple of 64 bytes, so that no load straddles two cache lines.
class AlignedRoom {
 public:
  void resize(std::size_t size) { values_.resize(size + 8); }
  double& operator[](std::size_t i) {
    const auto address = reinterpret_cast<std::uintptr_t>(values_.data());
    return values_[(64 - address % 64) % 64 / sizeof(double) + i];
  }

 private:
  std::vector<double> values_;
};

// Lists of rows of a block, such as those that each column lacks.
class RowLists {
 public:
  static_assert(block_rows <= UINT16_MAX, "rows of a block are numbered in 16 bits");

  void clear() {
    rows_.clear();
    ends_.clear();
  }
  void add(std::size_t row) { rows_.push_back(static_cast<std::uint16_t>(row)); }
  void add_all(std::size_t rows) {
    for (std::size_t k = 0; k < rows; ++k) add(k);
  }
  void close() { ends_.push_back(rows_.size()); }

  std::size_t size() const { return ends_.size(); }
  const std::uint16_t* begin(std::size_t list) const { return rows_.data() + (list ? ends_[list - 1] : 0); }
  std::size_t count(std::size_t list) const { return ends_[list] - (list ? ends_[list - 1] : 0); }

 private:
  std::vector<std::uint16_t> rows_;
  std::vector<std::size_t> ends_;
};

// Sums that are made list by list, or all in one place where they are not wanted.
struct ListSums {
  double* first;
  std::size_t apart;
};

struct Tiles {
  Kernel kernel;
  std::size_t panels, triples;
  bool half;  // only the products of i <= j

  explicit Tiles(std::size_t columns, bool half_of_them = true, int which = 0)
      : kernel(pick_kernel(which)), panels((columns + kernel.lanes - 1) / kernel.lanes),
        triples((panels + tile_panels - 1) / tile_panels), half(half_of_them) {}

  std::size_t lanes() const { return kernel.lanes; }
  std::size_t tall() const { return tile_panels * lanes(); }
  std::size_t panel_size() const { return lanes() * block_rows; }
  std::size_t tile_size() const { return lanes() * tall(); }
  // Of a block of rows laid out.
  std::size_t width() const { return triples * tile_panels * panel_size(); }
  // Of one number a column.
  std::size_t across() const { return triples * tall(); }
  std::size_t count() const { return before(triples); }
  // Of all tiles.
  std::size_t size() const { return count() * tile_size(); }

  // Where column j begins in a block; its rows follow `lanes()` apart.
  std::size_t place(std::size_t j) const { return j / lanes() * panel_size() + j % lanes(); }

  // Where the product of columns i and j stands; i <= j where only half was multiplied.
  std::size_t at(std::size_t i, std::size_t j) const {
    const std::size_t triple = i / tall();
    return (before(triple) + j / lanes() - first_panel(triple)) * tile_size() + j % lanes() * tall() + i % tall();
  }

  // Tiles from .. to - 1.
  void multiply(std::size_t rows, const double* left, const double* right, std::size_t from, std::size_t to, double* out) const {
    for (std::size_t t = 0; t < triples && before(t) < to; ++t) {
      const std::size_t begin = std::max(from, before(t)), end = std::min(to, before(t + 1));
      for (std::size_t tile = begin; tile < end; ++tile)
        kernel.multiply(rows, left + t * tile_panels * panel_size(),
                        right + (tile - before(t) + first_panel(t)) * panel_size(), out + tile * tile_size());
    }
  }

  void multiply(std::size_t rows, const double* left, const double* right, double* out) const {
    multiply(rows, left, right, 0, count(), out);
  }

  void weigh(const double* block, const double* weight, std::size_t rows, double* out) const {
    for (std::size_t panel = 0; panel < panels; ++panel)
      kernel.weigh(rows, block + panel * panel_size(), weight, out + panel * panel_size());
  }

  // What is taken off where values are missing: for each list the sums of all columns, and of their squares, over its rows.
  void add_lists(const double* block, const RowLists& lists, ListSums sums, ListSums squares) const {
    for (std::size_t t = 0; t < triples; ++t)
      for (std::size_t list = 0; list < lists.size(); ++list)
        if (lists.count(list))
          kernel.add_rows(block + t * tile_panels * panel_size(), lists.begin(list), lists.count(list),
                          sums.first + list * sums.apart + t * tall(), squares.first + list * squares.apart + t * tall());
  }

 private:
  // The first panel that a triple is multiplied by, and how many tiles stand before its own.
  std::size_t first_panel(std::size_t triple) const { return half ? triple * tile_panels : 0; }
  std::size_t before(std::size_t triple) const {
    return triple * panels - (half ? tile_panels * (triple * (triple - 1) / 2) : 0);
  }
};

// A column's mean over the values it has and the power of two that brings it near 1; the mean in two passes, so that the
// second takes off what rounding left. With `step` only every step-th value is looked at.
inline void column_mean(const double* x, std::size_t n, std::size_t step, double* mean, double* scale) {
  double sum = 0, count = 0;
  for (std::size_t i = 0; i < n; i += step)
    if (x[i] == x[i]) {
      sum += x[i] / 16;  // so that the sum of huge values stays finite
      ++count;
    }
  double centre = count > 0 ? sum / count * 16 : 0.0;
  double widest = 0, rest = 0;
  for (std::size_t i = 0; i < n; i += step)
    if (x[i] == x[i]) {
      const double d = x[i] - centre;
      widest = std::max(widest, std::fabs(d));
      rest += d;
    }
  if (count > 0) centre += rest / count;
  int exponent = 0;
  if (widest > 0) std::frexp(widest, &exponent);
  *mean = centre;
  *scale = std::ldexp(1.0, std::max(-1000, std::min(1000, -exponent)));
}

}  // namespace unsere

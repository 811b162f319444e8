// The products of columns unit by unit, by the tiles of the matrix: left[i] times right[j], summed over each unit's cases.
#pragma once

#include <cstdint>
#include <numeric>
#include <vector>

#include "cross_products.hpp"
#include "large_room.hpp"
#include "narrow.hpp"
#include "pair_place.hpp"

namespace unsere {

// The cases in the order of their units: unit u holds order[begin[u]] .. order[begin[u + 1] - 1].
struct CasesByUnit {
  std::vector<std::size_t> begin;
  std::vector<std::uint32_t> order;

  CasesByUnit(const std::vector<std::size_t>& unit, std::size_t units) : begin(units + 1, 0), order(unit.size()) {
    check_rows(unit.size());
    for (const std::size_t u : unit) ++begin[u + 1];
    std::partial_sum(begin.begin(), begin.end(), begin.begin());
    std::vector<std::size_t> next(begin.begin(), begin.end() - 1);
    for (std::size_t k = 0; k < unit.size(); ++k) order[next[unit[k]]++] = static_cast<std::uint32_t>(k);
  }
};

class UnitProducts {
 public:
  // Columns in the order of units; unit u holds the cases begin[u] .. begin[u + 1] - 1.
  UnitProducts(const std::vector<std::size_t>& begin, std::size_t columns, int threads)
      : begin_(begin), p_(columns), threads_(threads) {}

  // [pair_place(i, j)] for i < j, unit after unit.
  std::vector<double> among(const std::vector<const double*>& columns) const {
    return over_units(columns, columns, true, pairs_among(p_), [&](double* out, std::size_t i, std::size_t j, double sum) {
      if (i < j) out[pair_place(i, j)] = sum;
    });
  }

  // The same with the squares: [product_place(i, j)] for i <= j.
  std::vector<double> among_all(const std::vector<const double*>& columns) const {
    return over_units(columns, columns, true, pairs_among(p_ + 1), [&](double* out, std::size_t i, std::size_t j, double sum) {
      out[product_place(i, j)] = sum;
    });
  }

  // [i + j * columns], unit after unit.
  std::vector<double> between(const std::vector<const double*>& left, const std::vector<const double*>& right) const {
    return over_units(left, right, false, p_ * p_, [&](double* out, std::size_t i, std::size_t j, double sum) {
      out[i + j * p_] = sum;
    });
  }

 private:
  template <typename Put>
  std::vector<double> over_units(const std::vector<const double*>& left, const std::vector<const double*>& right,
                                 bool half, std::size_t size, Put put) const {
    const std::size_t units = begin_.size() - 1;
    const Tiles tiles(p_, half);
    std::vector<double> out(units * size, 0.0);
    in_parallel(units, threads_, [&](std::size_t from, std::size_t to) {
      AlignedRoom a, b;
      a.resize(tiles.width());
      if (!half) b.resize(tiles.width());
      std::vector<double> sums(tiles.size());
      for (std::size_t u = from; u < to; ++u) {
        stop_point();
        std::fill(sums.begin(), sums.end(), 0.0);
        for (std::size_t first = begin_[u]; first < begin_[u + 1]; first += block_rows) {
          const std::size_t rows = std::min(block_rows, begin_[u + 1] - first);
          pack(tiles, left, first, rows, tiles.triples * tile_panels, &a[0]);
          if (!half) pack(tiles, right, first, rows, tiles.panels, &b[0]);
          tiles.multiply(rows, &a[0], half ? &a[0] : &b[0], sums.data());
        }
        double* here = out.data() + u * size;
        for (std::size_t j = 0; j < p_; ++j)
          for (std::size_t i = 0; i < (half ? j + 1 : p_); ++i)
            put(here, i, j, sums[tiles.at(i, j)]);
      }
    });
    return out;
  }

  void pack(const Tiles& tiles, const std::vector<const double*>& columns, std::size_t first, std::size_t rows,
            std::size_t panels, double* to) const {
    static const std::vector<double> nothing(block_rows, 0.0), no_centre(32, 0.0), no_scale(32, 1.0);
    std::vector<const double*> from(tiles.lanes());
    std::vector<double> sums(tiles.lanes());
    std::vector<std::uint64_t> missing(tiles.lanes() * (block_rows / 64));
    for (std::size_t panel = 0; panel < panels; ++panel, to += tiles.panel_size()) {
      for (std::size_t c = 0; c < tiles.lanes(); ++c) {
        const std::size_t j = panel * tiles.lanes() + c;
        from[c] = j < p_ ? columns[j] + first : nothing.data();
      }
      tiles.kernel.pack({from.data(), no_centre.data(), no_scale.data(), rows, to, missing.data(), block_rows / 64}, sums.data());
    }
  }

  const std::vector<std::size_t>& begin_;
  std::size_t p_;
  int threads_;
};

// Columns in any order, each case's unit from 0 on.
inline std::vector<double> sums_by_unit(const std::vector<const double*>& columns, std::size_t rows,
                                        const std::vector<std::size_t>& unit, std::size_t units, int threads) {
  const CasesByUnit cases(unit, units);
  const LargeRoom room(columns.size() * rows);
  std::vector<const double*> sorted;
  for (std::size_t j = 0; j < columns.size(); ++j) {
    for (std::size_t k = 0; k < rows; ++k) room.at(j * rows)[k] = columns[j][cases.order[k]];
    sorted.push_back(room.at(j * rows));
  }
  return UnitProducts(cases.begin, columns.size(), threads).among_all(sorted);
}

}  // namespace unsere

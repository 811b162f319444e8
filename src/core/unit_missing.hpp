// What a jackknife by units needs of every pair of columns with missing values, unit by unit: a pair's product by the tiles;
// the rest by taking off what it lacks, of each column the sums of the others over the cases where it is missing.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "parallel.hpp"
#include "tiles.hpp"
#include "unit_products.hpp"
#include "unit_sums.hpp"

namespace unsere {

// A column of a unit by itself.
struct ColumnSums {
  double count = 0, weight = 0, x = 0, xx = 0;

  void add(const ColumnSums& other, double times) {
    count += times * other.count;
    weight += times * other.weight;
    x += times * other.x;
    xx += times * other.xx;
  }
};

class UnitMissing {
 public:
  struct PairSums {
    double count;
    UnitSums sums;
  };

  // Columns in the order of units, times the root of the weight; missing is NaN. Needs 7 numbers a pair and unit.
  UnitMissing(const std::vector<const double*>& columns, const std::vector<double>& root,
              const std::vector<std::size_t>& begin, int threads)
      : p_(columns.size()), tiles_(p_), weighted_(std::any_of(root.begin(), root.end(), [](double w) { return w != 1; })),
        alone_((begin.size() - 1) * p_), sums_((begin.size() - 1) * pairs_among(p_)) {
    in_parallel(begin.size() - 1, threads, [&](std::size_t from, std::size_t to) {
      Room room(tiles_, p_, weighted_);
      for (std::size_t u = from; u < to; ++u) {
        stop_point();
        std::fill(room.products.begin(), room.products.end(), 0.0);
        std::fill(room.lost.begin(), room.lost.end(), 0.0);
        for (std::size_t first = begin[u]; first < begin[u + 1]; first += block_rows)
          add_block(columns, root, first, std::min(block_rows, begin[u + 1] - first), &room);
        read(u, room);
      }
    });
  }

  const ColumnSums& alone(std::size_t u, std::size_t j) const { return alone_[u * p_ + j]; }

  // Of the pairs (0, j) .. (j - 1, j) of a unit, one after the other.
  const PairSums* of_pairs(std::size_t u, std::size_t j) const {
    return sums_.data() + u * pairs_among(p_) + pair_place(0, j);
  }

 private:
  // Over the cases that a column lacks, and last over all: of the others their cases, weights, values and squares.
  static constexpr std::size_t tables = 4;

  struct Room {
    AlignedRoom value, weighed, roots, there;
    RowLists missing;  // what each column lacks, and last all rows
    std::vector<double> products, lost, aside;

    Room(const Tiles& tiles, std::size_t p, bool weighted)
        : products(tiles.size()), lost(tables * (p + 1) * tiles.across()), aside(tiles.across()) {
      value.resize(tiles.width());
      there.resize(tiles.width());
      if (!weighted) return;
      weighed.resize(tiles.width());
      roots.resize(tiles.width());
    }
  };

  std::size_t table(std::size_t which) const { return which * (p_ + 1) * tiles_.across(); }

  void add_block(const std::vector<const double*>& columns, const std::vector<double>& root, std::size_t first,
                 std::size_t rows, Room* room) const {
    room->missing.clear();
    std::fill(room->aside.begin(), room->aside.end(), 0.0);
    for (std::size_t j = 0; j < p_; ++j, room->missing.close()) {
      double *value = &room->value[tiles_.place(j)], *there = &room->there[tiles_.place(j)];
      for (std::size_t k = 0; k < rows; ++k) {
        const double v = columns[j][first + k];
        const bool is_there = v == v;
        value[k * tiles_.lanes()] = is_there ? v : 0;
        there[k * tiles_.lanes()] = is_there;
        if (!is_there) room->missing.add(k);
      }
    }
    room->missing.add_all(rows);
    room->missing.close();
    tiles_.multiply(rows, &room->value[0], &room->value[0], room->products.data());
    if (weighted_) {
      tiles_.weigh(&room->value[0], &root[first], rows, &room->weighed[0]);
      tiles_.weigh(&room->there[0], &root[first], rows, &room->roots[0]);
    }
    // The squares of the roots are the weights, those of the values the weighted squares.
    const ListSums aside{room->aside.data(), 0};
    const auto lost = [&](std::size_t which) { return ListSums{room->lost.data() + table(which), tiles_.across()}; };
    tiles_.add_lists(&room->there[0], room->missing, lost(0), weighted_ ? aside : lost(1));
    tiles_.add_lists(&room->value[0], room->missing, weighted_ ? aside : lost(2), lost(3));
    if (!weighted_) return;
    tiles_.add_lists(&room->roots[0], room->missing, aside, lost(1));
    tiles_.add_lists(&room->weighed[0], room->missing, lost(2), aside);
  }

  void read(std::size_t u, const Room& room) {
    const double* lost = room.lost.data();
    const auto lacked = [&](std::size_t which, std::size_t i, std::size_t j) {
      return lost[table(which) + i * tiles_.across() + j];
    };
    for (std::size_t j = 0; j < p_; ++j)
      alone_[u * p_ + j] = {lacked(0, p_, j), lacked(1, p_, j), lacked(2, p_, j), lacked(3, p_, j)};
    PairSums* to = sums_.data() + u * pairs_among(p_);
    for (std::size_t j = 1; j < p_; ++j)
      for (std::size_t i = 0; i < j; ++i, ++to) {
        const ColumnSums &a = alone(u, i), &b = alone(u, j);
        to->count = b.count - lacked(0, i, j);
        // What is left of sums by rounding, where no case has both, is nothing.
        if (to->count > 0)
          to->sums = {b.weight - lacked(1, i, j), a.x - lacked(2, j, i),  b.x - lacked(2, i, j),
                      a.xx - lacked(3, j, i),     b.xx - lacked(3, i, j), room.products[tiles_.at(i, j)]};
      }
  }

  std::size_t p_;
  Tiles tiles_;
  bool weighted_;
  std::vector<ColumnSums> alone_;
  std::vector<PairSums> sums_;
};

}  // namespace unsere

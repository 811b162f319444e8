// Every pair of many columns by Spearman's r, and what the test needs of each set of ranks.
//
// Ranks are taken once where nothing is missing. Else each pair is ranked among its own cases: every column is put into
// order once, and a pair's ranks are read off by walking along it and stepping over the cases that the other lacks.
#pragma once

#include "large_room.hpp"
#include "narrow.hpp"
#include "matrix.hpp"
#include "ranks.hpp"
#include "spreads.hpp"

namespace unsere {

// Of one set of mid-ranks: sums of powers about the mean, and the smallest step between two of them.
struct RankShape {
  double squares = 0, cubes = 0, fourths = 0, step = 0;

  // Adds `length` equal ranks lying `distance` from the mean.
  void add(double length, double distance) {
    const double square = distance * distance;
    squares += length * square;
    cubes += length * square * distance;
    fourths += length * square * square;
  }

  void add_gap(std::size_t doubled) {
    std::size_t a = doubled_step, b = doubled;
    while (a != 0) {
      const std::size_t rest = b % a;
      b = a;
      a = rest;
    }
    doubled_step = b;
    step = static_cast<double>(b) / 2;
  }

 private:
  std::size_t doubled_step = 0;
};

// Of the ranks 1 .. n without ties.
inline RankShape untied_shape(std::size_t count) {
  const double n = static_cast<double>(count);
  RankShape shape;
  shape.squares = n * (n * n - 1) / 12;
  shape.fourths = n * (n * n - 1) * (3 * n * n - 7) / 240;
  shape.step = 1;
  return shape;
}

struct RankTable {
  PairTable pairs;
  std::vector<double> squares, cubes, fourths, step;  // columns x columns: at [i + j * columns] of i among the cases with j

  explicit RankTable(std::size_t p) : pairs(p), squares(p * p, NAN), cubes(p * p, NAN), fourths(p * p, NAN), step(p * p, NAN) {}

  void put(std::size_t at, const RankShape& shape) {
    squares[at] = shape.squares;
    cubes[at] = shape.cubes;
    fourths[at] = shape.fourths;
    step[at] = shape.step;
  }
};

// A column in order: its cases, and by distinct value the code of each.
struct OrderedColumn {
  std::vector<std::uint32_t> cases, codes;
  bool tied = false;
};

// Calls one(start, end, doubled mid-rank) for each run of equal codes and gathers the shape.
template <typename One>
RankShape over_runs(const std::uint32_t* codes, std::size_t n, One one) {
  RankShape shape;
  std::size_t before = 0;
  for (std::size_t start = 0; start < n;) {
    std::size_t end = start + 1;
    while (end < n && codes[end] == codes[start]) ++end;
    const std::size_t doubled = start + end + 1;
    one(start, end, static_cast<double>(doubled));
    shape.add(static_cast<double>(end - start), (static_cast<double>(doubled) - static_cast<double>(n + 1)) / 2);
    if (before) shape.add_gap(doubled - before);
    before = doubled;
    start = end;
  }
  return shape;
}

inline OrderedColumn ordered(const double* values, std::size_t rows) {
  check_rows(rows);
  std::vector<double> present;
  std::vector<std::uint32_t> place;
  for (std::size_t i = 0; i < rows; ++i)
    if (!std::isnan(values[i])) {
      present.push_back(values[i]);
      place.push_back(static_cast<std::uint32_t>(i));
    }
  Sorter sorter;
  OrderedColumn out;
  out.cases.resize(present.size());
  out.codes.resize(present.size());
  std::uint32_t code = 0;
  sorter.over_ties(present.data(), present.size(), [&](const std::uint32_t* order, std::size_t start, std::size_t end) {
    for (std::size_t k = start; k < end; ++k) {
      out.cases[k] = place[order[k]];
      out.codes[k] = code;
    }
    out.tied = out.tied || end - start > 1;
    ++code;
  });
  return out;
}

inline RankTable spearman_complete(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel) {
  const std::size_t p = columns.size();
  const LargeRoom room(p * rows);
  std::vector<RankShape> shapes(p);
  in_parallel(p, threads, [&](std::size_t from, std::size_t to) {
    Sorter sorter;
    std::vector<double> rank(rows);  // near at hand while its places are written in no order
    for (std::size_t j = from; j < to; ++j) {
      stop_point();
      RankShape shape;
      std::size_t before = 0;
      bool tied = false;
      sorter.over_ties(columns[j], rows, [&](const std::uint32_t* order, std::size_t start, std::size_t end) {
        const std::size_t doubled = start + end + 1;
        for (std::size_t k = start; k < end; ++k) rank[order[k]] = static_cast<double>(doubled);
        if (!tied && end - start == 1) return;
        if (!tied) {  // the runs of one before the first tie
          for (std::size_t k = 0; k < start; ++k) shape.add(1, (2.0 * static_cast<double>(k + 1) - static_cast<double>(rows + 1)) / 2);
          before = 2 * start;
          if (start > 1) shape.add_gap(2);
          tied = true;
        }
        shape.add(static_cast<double>(end - start), (static_cast<double>(doubled) - static_cast<double>(rows + 1)) / 2);
        if (before) shape.add_gap(doubled - before);
        before = doubled;
      });
      std::copy(rank.begin(), rank.end(), room.at(j * rows));
      shapes[j] = tied ? shape : untied_shape(rows);
    }
  });
  std::vector<const double*> ranked;
  for (std::size_t j = 0; j < p; ++j) ranked.push_back(room.at(j * rows));
  RankTable out(p);
  out.pairs = pearson_table(cross_moments(ranked, rows, threads, kernel), ranked, rows, threads);
  for (std::size_t j = 0; j < p; ++j)
    for (std::size_t i = 0; i < p; ++i) out.put(i + j * p, shapes[i]);
  return out;
}

// The ranks of one column among the cases that another has too.
class CommonRanks {
 public:
  explicit CommonRanks(std::size_t rows) : rank_(rows), cases_(rows), codes_(rows) {}

  // Steps over the cases of `column` that `present` lacks; how many stay.
  std::size_t keep(const OrderedColumn& column, const std::vector<std::uint8_t>& present) {
    std::size_t n = 0;
    if (column.tied) {
      for (std::size_t k = 0; k < column.cases.size(); ++k) {
        cases_[n] = column.cases[k];
        codes_[n] = column.codes[k];
        n += present[column.cases[k]];
      }
    } else {
      for (std::uint32_t at : column.cases) {
        cases_[n] = at;
        n += present[at];
      }
    }
    return n;
  }

  RankShape set_ranks(const OrderedColumn& column, std::size_t n) {
    if (!column.tied) {
      for (std::size_t k = 0; k < n; ++k) rank_[cases_[k]] = static_cast<double>(2 * (k + 1)) - static_cast<double>(n + 1);
      return untied_shape(n);
    }
    return over_runs(codes_.data(), n, [&](std::size_t start, std::size_t end, double doubled) {
      for (std::size_t k = start; k < end; ++k) rank_[cases_[k]] = doubled - static_cast<double>(n + 1);
    });
  }

  // The sum of products of this column's ranks with those that `other` has set.
  RankShape multiply(const OrderedColumn& column, std::size_t n, const CommonRanks& other, double* products) {
    double sum = 0;
    RankShape shape;
    if (!column.tied) {
      for (std::size_t k = 0; k < n; ++k) sum += other.rank_[cases_[k]] * (static_cast<double>(2 * (k + 1)) - static_cast<double>(n + 1));
      shape = untied_shape(n);
    } else {
      shape = over_runs(codes_.data(), n, [&](std::size_t start, std::size_t end, double doubled) {
        double run = 0;
        for (std::size_t k = start; k < end; ++k) run += other.rank_[cases_[k]];
        sum += run * (doubled - static_cast<double>(n + 1));
      });
    }
    *products = sum / 4;
    return shape;
  }

 private:
  std::vector<double> rank_;
  std::vector<std::uint32_t> cases_, codes_;
};

// `wanted`: columns x columns, the pairs asked for.
inline RankTable spearman_pairwise(const std::vector<const double*>& columns, std::size_t rows, int threads,
                                   const int* wanted) {
  const std::size_t p = columns.size();
  std::vector<OrderedColumn> order(p);
  std::vector<std::vector<std::uint8_t>> present(p, std::vector<std::uint8_t>(rows));
  in_parallel(p, threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t j = from; j < to; ++j) {
      stop_point();
      order[j] = ordered(columns[j], rows);
      for (std::size_t i = 0; i < rows; ++i) present[j][i] = columns[j][i] == columns[j][i];
    }
  });
  RankTable out(p);
  const std::size_t team = static_cast<std::size_t>(std::max(threads, 1));
  in_parallel(team, threads, [&](std::size_t from, std::size_t to) {
    CommonRanks a(rows), b(rows);
    for (std::size_t t = from; t < to; ++t)
      for (std::size_t j = t; j < p; j += team)
        for (std::size_t i = 0; i < j; ++i) {
          if (!wanted[i + j * p]) continue;
          stop_point();
          const std::size_t n = a.keep(order[i], present[j]);
          b.keep(order[j], present[i]);
          double products;
          const RankShape x = a.set_ranks(order[i], n), y = b.multiply(order[j], n, a, &products);
          const bool defined = n >= 2 && x.squares > 0 && y.squares > 0;
          double r = defined ? std::max(-1.0, std::min(1.0, products / (std::sqrt(x.squares) * std::sqrt(y.squares)))) : NAN;
          if (defined && 1.0 - std::fabs(r) < 1e-15) r = std::copysign(1.0, r);
          out.pairs.put(i, j, p, r, defined ? (1.0 - r) * (1.0 + r) : NAN, static_cast<double>(n));
          out.put(i + j * p, x);
          out.put(j + i * p, y);
        }
  });
  return out;
}

inline RankTable spearman_table(const std::vector<const double*>& columns, std::size_t rows, int threads, const int* wanted,
                                bool complete, int kernel = 0) {
  return complete ? spearman_complete(columns, rows, threads, kernel) : spearman_pairwise(columns, rows, threads, wanted);
}

}  // namespace unsere

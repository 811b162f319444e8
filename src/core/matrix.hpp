// Every pair of many columns by Pearson's r: r, the share of variance it leaves, and n.
#pragma once

#include "cross_products.hpp"
#include "pearson.hpp"

namespace unsere {

struct PairTable {
  std::vector<double> r, unexplained, n;  // columns x columns

  explicit PairTable(std::size_t p) : r(p * p, NAN), unexplained(p * p, NAN), n(p * p, 0.0) {}

  void put(std::size_t i, std::size_t j, std::size_t p, double value, double left, double cases) {
    r[i + j * p] = r[j + i * p] = value;
    unexplained[i + j * p] = unexplained[j + i * p] = left;
    n[i + j * p] = n[j + i * p] = cases;
  }
};

inline void common_cases(const double* x, const double* y, std::size_t rows, std::vector<double>* a, std::vector<double>* b) {
  a->clear();
  b->clear();
  for (std::size_t i = 0; i < rows; ++i)
    if (!std::isnan(x[i]) && !std::isnan(y[i])) {
      a->push_back(x[i]);
      b->push_back(y[i]);
    }
}

inline bool varies(const std::vector<double>& v) {
  return !v.empty() && *std::min_element(v.begin(), v.end()) != *std::max_element(v.begin(), v.end());
}

// Work over the pairs i < j, each by `one(i, j)`; shared out so that every thread gets long and short columns alike.
template <typename One>
void over_columns(std::size_t p, int threads, One one) {
  const std::size_t team = static_cast<std::size_t>(std::max(threads, 1));
  in_parallel(team, threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t t = from; t < to; ++t)
      for (std::size_t j = t; j < p; j += team) {
        stop_point();
        one(j);
      }
  });
}

template <typename One>
void over_pairs(std::size_t p, int threads, One one) {
  over_columns(p, threads, [&](std::size_t j) {
    for (std::size_t i = 0; i < j; ++i) {
      if (i % 64 == 0) stop_point();
      one(i, j);
    }
  });
}

// From moments alone, as where the values are no longer at hand.
inline PairTable pearson_table(const CrossMoments& moments) {
  PairTable out(moments.columns);
  for (std::size_t j = 0; j < moments.columns; ++j)
    for (std::size_t i = 0; i < j; ++i) {
      double unexplained;
      bool doubtful;
      const double r = moments.r(i, j, &unexplained, &doubtful);
      out.put(i, j, moments.columns, r, unexplained, moments.count(i, j));
    }
  return out;
}

// Where the sums alone cannot say, a pair is computed again by itself in twofold arithmetic, as it would be alone.
inline PairTable pearson_table(const CrossMoments& moments, const std::vector<const double*>& columns, std::size_t rows,
                               int threads) {
  const std::size_t p = columns.size();
  PairTable out(p);
  over_pairs(p, threads, [&](std::size_t i, std::size_t j) {
    double unexplained;
    bool doubtful;
    double r = moments.r(i, j, &unexplained, &doubtful);
    if (doubtful) {
      std::vector<double> a, b;
      common_cases(columns[i], columns[j], rows, &a, &b);
      const bool defined = varies(a) && varies(b);
      const PearsonResult exact = defined ? pearson(a.data(), b.data(), a.size()) : PearsonResult{};
      r = defined ? exact.r : NAN;
      unexplained = defined ? exact.unexplained : NAN;
    }
    out.put(i, j, p, r, unexplained, moments.count(i, j));
  });
  return out;
}

}  // namespace unsere

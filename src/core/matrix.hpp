// Every pair of many columns: r, the share of variance it leaves, and n.
#pragma once

#include "cross_moments.hpp"
#include "pearson.hpp"
#include "ranks.hpp"

namespace unsere {

struct PairTable {
  std::vector<double> r, unexplained, n;  // columns x columns
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
void over_pairs(std::size_t p, int threads, One one) {
  in_parallel(static_cast<std::size_t>(std::max(threads, 1)), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t t = from; t < to; ++t)
      for (std::size_t j = t; j < p; j += static_cast<std::size_t>(std::max(threads, 1)))
        for (std::size_t i = 0; i < j; ++i) one(i, j);
  });
}

// Close to a perfect line a pair is computed again by itself in twofold arithmetic, as it would be alone.
inline PairTable pearson_table(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel = 0) {
  const std::size_t p = columns.size();
  CrossMoments moments = cross_moments(columns, rows, threads, kernel);
  PairTable out{std::vector<double>(p * p, NAN), std::vector<double>(p * p, NAN), std::vector<double>(p * p, 0.0)};
  over_pairs(p, threads, [&](std::size_t i, std::size_t j) {
    double unexplained, n;
    double r = moments.r(i, j, &unexplained, &n);
    if (unexplained < 1e-3) {
      std::vector<double> a, b;
      common_cases(columns[i], columns[j], rows, &a, &b);
      PearsonResult exact = pearson(a.data(), b.data(), a.size());
      r = exact.r;
      unexplained = exact.unexplained;
    }
    out.r[i + j * p] = out.r[j + i * p] = r;
    out.unexplained[i + j * p] = out.unexplained[j + i * p] = unexplained;
    out.n[i + j * p] = out.n[j + i * p] = n;
  });
  return out;
}

// Ranks are taken once where nothing is missing, and among each pair's own cases where something is.
inline PairTable spearman_table(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel = 0) {
  const std::size_t p = columns.size();
  bool complete = true;
  for (const double* column : columns)
    for (std::size_t i = 0; complete && i < rows; ++i) complete = !std::isnan(column[i]);
  if (complete) {
    std::vector<std::vector<double>> ranks(p);
    in_parallel(p, threads, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) {
        Ranking ranking = rank_values(columns[j], rows);
        ranks[j].assign(ranking.doubled.begin(), ranking.doubled.end());
      }
    });
    std::vector<const double*> ranked;
    for (auto& column : ranks) ranked.push_back(column.data());
    return pearson_table(ranked, rows, threads, kernel);
  }
  PairTable out{std::vector<double>(p * p, NAN), std::vector<double>(p * p, NAN), std::vector<double>(p * p, 0.0)};
  over_pairs(p, threads, [&](std::size_t i, std::size_t j) {
    std::vector<double> a, b;
    common_cases(columns[i], columns[j], rows, &a, &b);
    out.n[i + j * p] = out.n[j + i * p] = static_cast<double>(a.size());
    if (a.size() < 2 || !varies(a) || !varies(b)) return;
    Ranking ra = rank_values(a.data(), a.size()), rb = rank_values(b.data(), b.size());
    a.assign(ra.doubled.begin(), ra.doubled.end());
    b.assign(rb.doubled.begin(), rb.doubled.end());
    PearsonResult found = pearson(a.data(), b.data(), a.size());
    out.r[i + j * p] = out.r[j + i * p] = found.r;
    out.unexplained[i + j * p] = out.unexplained[j + i * p] = found.unexplained;
  });
  return out;
}

}  // namespace unsere

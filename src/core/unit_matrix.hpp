// Every pair of many columns under a design: r of weighted cases, and how far its z may be off by leaving out each unit that
// was drawn within its stratum (Wolter 2007, ch. 4); missing values are NaN.
#pragma once

#include <cmath>
#include <cstdint>
#include <numeric>
#include <vector>

#include "matrix.hpp"

namespace unsere {

struct Design {
  std::vector<double> weight;
  std::vector<std::size_t> unit;     // of each case, from 0 on
  std::vector<std::size_t> stratum;  // of each unit, from 0 on
  std::size_t strata = 0;
};

// Columns x columns.
struct UnitTable {
  std::vector<double> r, variance, n, units, strata;
  std::vector<double> mean, sd;  // of each column, weighted

  explicit UnitTable(std::size_t p)
      : r(p * p, NAN), variance(p * p, NAN), n(p * p, 0), units(p * p, 0), strata(p * p, 0), mean(p, NAN), sd(p, NAN) {}
};

// Weighted sums of a pair's common cases.
struct UnitSums {
  double weight = 0, x = 0, y = 0, xx = 0, yy = 0, xy = 0;

  void add(const UnitSums& other, double times) {
    weight += times * other.weight;
    x += times * other.x;
    y += times * other.y;
    xx += times * other.xx;
    yy += times * other.yy;
    xy += times * other.xy;
  }

  double r() const {
    const double squares = (xx - x * x / weight) * (yy - y * y / weight);
    return squares > 0 ? (xy - x * y / weight) / std::sqrt(squares) : NAN;
  }
};

inline double product_sum(const double* a, const double* b, std::size_t from, std::size_t to) {
  double strand[8] = {}, sum = 0;
  std::size_t i = from;
  for (; i + 8 <= to; i += 8)
    for (std::size_t k = 0; k < 8; ++k) strand[k] += a[i + k] * b[i + k];
  for (; i < to; ++i) sum += a[i] * b[i];
  for (const double part : strand) sum += part;
  return sum;
}

class UnitMatrix {
 public:
  UnitMatrix(const std::vector<const double*>& columns, std::size_t rows, const Design& design, int threads)
      : design_(design), p_(columns.size()), threads_(threads) {
    sort_cases(rows);
    lay_out(columns, rows);
  }

  UnitTable run(const int* wanted) const {
    UnitTable out(p_);
    for (std::size_t j = 0; j < p_; ++j) {
      const UnitSums s = sums_of(j, j, 0, order_.size());
      double n = 0;
      for (const std::uint8_t there : there_[j]) n += there;
      out.mean[j] = means_[j] + s.x / s.weight;
      out.sd[j] = std::sqrt(std::max(0.0, s.xx - s.x * s.x / s.weight) / s.weight * n / (n - 1));
    }
    over_pairs(p_, threads_, [&](std::size_t i, std::size_t j) {
      if (wanted[i + j * p_]) settle(i, j, &out);
    });
    return out;
  }

 private:
  std::size_t units() const { return design_.stratum.size(); }

  void sort_cases(std::size_t rows) {
    begin_.assign(units() + 1, 0);
    for (const std::size_t u : design_.unit) ++begin_[u + 1];
    std::partial_sum(begin_.begin(), begin_.end(), begin_.begin());
    order_.resize(rows);
    std::vector<std::size_t> next(begin_.begin(), begin_.end() - 1);
    for (std::size_t k = 0; k < rows; ++k) order_[next[design_.unit[k]]++] = k;
  }

  // Each column in the order of units, about its mean: times the root of the weight, its square, and where it is there.
  void lay_out(const std::vector<const double*>& columns, std::size_t rows) {
    values_.resize(p_);
    squares_.resize(p_);
    roots_.resize(p_);
    there_.resize(p_);
    means_.resize(p_);
    std::vector<char> whole(p_, 1);
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) {
        stop_point();
        const double* v = columns[j];
        double sum = 0, count = 0;
        for (std::size_t k = 0; k < rows; ++k)
          if (v[k] == v[k]) {
            sum += v[k];
            ++count;
          }
        const double mean = means_[j] = count > 0 ? sum / count : 0;
        values_[j].assign(rows, 0.0);
        squares_[j].assign(rows, 0.0);
        roots_[j].assign(rows, 0.0);
        there_[j].assign(rows, 0);
        for (std::size_t k = 0; k < rows; ++k) {
          const double value = v[order_[k]] - mean, root = std::sqrt(design_.weight[order_[k]]);
          if (value != value) {
            whole[j] = 0;
            continue;
          }
          values_[j][k] = root * value;
          squares_[j][k] = root * value * value;
          roots_[j][k] = root;
          there_[j][k] = 1;
        }
      }
    });
    complete_ = std::all_of(whole.begin(), whole.end(), [](char c) { return c != 0; });
    if (complete_) sum_columns();
    if (complete_ && static_cast<double>(units()) * static_cast<double>(p_ * (p_ - 1) / 2) <= 3e7) multiply_units();
  }

  static std::size_t pair_place(std::size_t i, std::size_t j) { return i + j * (j - 1) / 2; }

  // The products of all pairs unit by unit, as long as a unit's cases are at hand; where that is not too much to keep.
  void multiply_units() {
    const std::size_t pairs = p_ * (p_ - 1) / 2;
    products_.assign(units() * pairs, 0.0);
    in_parallel(units(), threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t u = from; u < to; ++u) {
        stop_point();
        for (std::size_t j = 1; j < p_; ++j)
          for (std::size_t i = 0; i < j; ++i)
            products_[u * pairs + pair_place(i, j)] = product_sum(values_[i].data(), values_[j].data(), begin_[u], begin_[u + 1]);
      }
    });
  }

  void sum_columns() {
    alone_.assign(p_, std::vector<UnitSums>(units()));
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j)
        for (std::size_t u = 0; u < units(); ++u) alone_[j][u] = sums_of(j, j, begin_[u], begin_[u + 1]);
    });
  }

  UnitSums sums_of(std::size_t i, std::size_t j, std::size_t from, std::size_t to) const {
    UnitSums s;
    s.weight = product_sum(roots_[i].data(), roots_[j].data(), from, to);
    s.x = product_sum(values_[i].data(), roots_[j].data(), from, to);
    s.y = product_sum(roots_[i].data(), values_[j].data(), from, to);
    s.xx = product_sum(squares_[i].data(), roots_[j].data(), from, to);
    s.yy = product_sum(roots_[i].data(), squares_[j].data(), from, to);
    s.xy = product_sum(values_[i].data(), values_[j].data(), from, to);
    return s;
  }

  void settle(std::size_t i, std::size_t j, UnitTable* out) const {
    std::vector<UnitSums> each(units()), stratum(design_.strata);
    std::vector<double> size(design_.strata, 0.0);
    std::vector<char> present(units(), 0);
    UnitSums total;
    double n = 0, drawn = 0;
    for (std::size_t u = 0; u < units(); ++u) {
      double count = 0;
      if (complete_) {
        const UnitSums &a = alone_[i][u], &b = alone_[j][u];
        const double product = products_.empty() ? product_sum(values_[i].data(), values_[j].data(), begin_[u], begin_[u + 1])
                                                 : products_[u * (p_ * (p_ - 1) / 2) + pair_place(i, j)];
        each[u] = {a.weight, a.x, b.x, a.xx, b.xx, product};
        count = static_cast<double>(begin_[u + 1] - begin_[u]);
      } else {
        each[u] = sums_of(i, j, begin_[u], begin_[u + 1]);
        for (std::size_t k = begin_[u]; k < begin_[u + 1]; ++k) count += there_[i][k] & there_[j][k];
      }
      if (count == 0) continue;
      present[u] = 1;
      n += count;
      ++drawn;
      ++size[design_.stratum[u]];
      stratum[design_.stratum[u]].add(each[u], 1);
      total.add(each[u], 1);
    }
    const double r = total.r(), z = fisher(r);
    double variance = 0, strata = 0;
    for (const double m : size) strata += m > 0;
    for (std::size_t u = 0; u < units(); ++u) {
      const double m = size[design_.stratum[u]];
      if (!present[u] || m < 2) continue;
      UnitSums rest = total;
      rest.add(stratum[design_.stratum[u]], m / (m - 1) - 1);
      rest.add(each[u], -m / (m - 1));
      const double off = fisher(rest.r()) - z;
      if (off == off) variance += (m - 1) / m * off * off;
    }
    const std::size_t at = i + j * p_, turned = j + i * p_;
    out->r[at] = out->r[turned] = r;
    out->variance[at] = out->variance[turned] = variance;
    out->n[at] = out->n[turned] = n;
    out->units[at] = out->units[turned] = drawn;
    out->strata[at] = out->strata[turned] = strata;
  }

  static double fisher(double r) { return std::atanh(std::max(-1 + 1e-12, std::min(1 - 1e-12, r))); }

  const Design& design_;
  std::size_t p_;
  int threads_;
  bool complete_ = true;
  std::vector<std::size_t> begin_, order_;
  std::vector<std::vector<double>> values_, squares_, roots_;
  std::vector<std::vector<std::uint8_t>> there_;
  std::vector<std::vector<UnitSums>> alone_;
  std::vector<double> means_, products_;
};

}  // namespace unsere

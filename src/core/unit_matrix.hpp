// Every pair of many columns under a design: r of weighted cases, and how far its z may be off by leaving out each unit that
// was drawn within its stratum (Wolter 2007, ch. 4); missing values are NaN.
#pragma once

#include <cmath>
#include <cstdint>
#include <numeric>
#include <vector>

#include "large_room.hpp"
#include "matrix.hpp"
#include "unit_missing.hpp"
#include "unit_products.hpp"
#include "unit_sums.hpp"

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
  std::vector<double> mean, sd, count;  // of each column, the first two weighted

  explicit UnitTable(std::size_t p)
      : r(p * p, NAN), variance(p * p, NAN), n(p * p, 0), units(p * p, 0), strata(p * p, 0), mean(p, NAN), sd(p, NAN), count(p, 0) {}
};

class UnitMatrix {
 public:
  // `most`: for how many units times columns squared what every pair needs of each is kept.
  UnitMatrix(const std::vector<const double*>& columns, std::size_t rows, const Design& design, int threads,
             double most = 2e7)
      : design_(design), p_(columns.size()), threads_(threads), most_(most), cases_(design.unit, design.stratum.size()) {
    lay_out(columns, rows);
  }

  UnitTable run(const int* wanted) {
    UnitTable out(p_);
    const double room = static_cast<double>(units()) * static_cast<double>(p_ * p_);
    if (!complete_ && room <= most_) {
      const UnitMissing each(values_, root_, cases_.begin, threads_);
      alone_.assign(p_, std::vector<ColumnSums>(units()));
      for (std::size_t j = 0; j < p_; ++j)
        for (std::size_t u = 0; u < units(); ++u) alone_[j][u] = each.alone(u, j);
      describe(&out);
      settle_missing(each, wanted, &out);
      return out;
    }
    if (!complete_) lay_out_missing();
    sum_columns();
    describe(&out);
    if (complete_ && room <= 3 * most_) {
      products_ = UnitProducts(cases_.begin, p_, threads_).among(values_);
      settle_complete(wanted, &out);
      return out;
    }
    over_pairs(p_, threads_, [&](std::size_t i, std::size_t j) {
      if (wanted[i + j * p_]) settle(i, j, &out);
    });
    return out;
  }

 private:
  using Columns = std::vector<const double*>;

  std::size_t units() const { return design_.stratum.size(); }
  std::size_t pairs() const { return pairs_among(p_); }
  double count_of(std::size_t u) const { return static_cast<double>(cases_.begin[u + 1] - cases_.begin[u]); }

  // Each column in the order of units, about its mean and near 1, times the root of the weight.
  void lay_out(const std::vector<const double*>& columns, std::size_t rows) {
    root_.resize(rows);
    for (std::size_t k = 0; k < rows; ++k) root_[k] = std::sqrt(design_.weight[cases_.order[k]]);
    room_.reset(new LargeRoom(p_ * rows));
    means_.resize(p_);
    scales_.resize(p_);
    std::vector<char> whole(p_, 1);
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) {
        stop_point();
        const double* v = columns[j];
        // About a mean of some of the values: any centre near it will do.
        column_mean(v, rows, std::max<std::size_t>(1, rows / 4096), &means_[j], &scales_[j]);
        double* to = room_->at(j * rows);
        bool lost = false;
        for (std::size_t k = 0; k < rows; ++k) {
          to[k] = root_[k] * ((v[cases_.order[k]] - means_[j]) * scales_[j]);
          lost |= to[k] != to[k];
        }
        whole[j] = !lost;
      }
    });
    for (std::size_t j = 0; j < p_; ++j) values_.push_back(room_->at(j * rows));
    complete_ = std::all_of(whole.begin(), whole.end(), [](char c) { return c != 0; });
  }

  // Its square and where it is there; what is missing is nothing.
  void lay_out_missing() {
    const std::size_t rows = root_.size();
    more_.reset(new LargeRoom(3 * p_ * rows));
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j)
        for (std::size_t k = 0; k < rows; ++k) {
          double& value = room_->at(j * rows)[k];
          const bool there = value == value;
          if (!there) value = 0;
          more_->at(j * rows)[k] = root_[k] > 0 ? value * value / root_[k] : 0;
          more_->at((p_ + j) * rows)[k] = there ? root_[k] : 0;
          more_->at((2 * p_ + j) * rows)[k] = there;
        }
    });
    for (std::size_t j = 0; j < p_; ++j) {
      squares_.push_back(more_->at(j * rows));
      roots_.push_back(more_->at((p_ + j) * rows));
      there_.push_back(more_->at((2 * p_ + j) * rows));
    }
  }

  const double* roots(std::size_t j) const { return complete_ ? root_.data() : roots_[j]; }

  // Of each column alone, unit by unit.
  void sum_columns() {
    alone_.assign(p_, std::vector<ColumnSums>(units()));
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) {
        stop_point();
        const double *value = values_[j], *root = roots(j);
        for (std::size_t u = 0; u < units(); ++u) {
          ColumnSums& s = alone_[j][u];
          s.count = complete_ ? count_of(u) : std::accumulate(there_[j] + cases_.begin[u], there_[j] + cases_.begin[u + 1], 0.0);
          s.weight = product_sum(root, root, cases_.begin[u], cases_.begin[u + 1]);
          s.x = product_sum(value, root, cases_.begin[u], cases_.begin[u + 1]);
          s.xx = product_sum(value, value, cases_.begin[u], cases_.begin[u + 1]);
        }
      }
    });
  }

  void describe(UnitTable* out) const {
    for (std::size_t j = 0; j < p_; ++j) {
      ColumnSums s;
      for (const ColumnSums& unit : alone_[j]) s.add(unit, 1);
      out->count[j] = s.count;
      out->mean[j] = means_[j] + s.x / s.weight / scales_[j];
      out->sd[j] = std::sqrt(std::max(0.0, s.xx - s.x * s.x / s.weight) / s.weight * s.count / (s.count - 1)) / scales_[j];
    }
  }

  // Nothing missing: every column's part of r is had once a unit, and a pair is left with its product.
  void settle_complete(const int* wanted, UnitTable* out) const {
    std::vector<double> size(design_.strata, 0.0), weight(units() + 1, 0.0);
    double n = 0, drawn = 0, strata = 0;
    for (std::size_t u = 0; u < units(); ++u) {
      if (count_of(u) == 0) continue;
      n += count_of(u);
      ++drawn;
      ++size[design_.stratum[u]];
    }
    for (const double m : size) strata += m > 0;
    // A column's weighted mean and the inverse root of its squares, of all and without each unit; the last is of all.
    std::vector<std::vector<double>> sum(p_), inverse(p_);
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) leave_out_each(j, size, &sum[j], &inverse[j], j == 0 ? &weight : nullptr);
    });
    over_columns(p_, threads_, [&](std::size_t j) {
      std::vector<double> total(j, 0.0), r(j), variance(j, 0.0), home(design_.strata * j, 0.0);
      for (std::size_t u = 0; u < units(); ++u)
        for (std::size_t i = 0; i < j; ++i) {
          const double product = products_[u * pairs() + pair_place(i, j)];
          total[i] += product;
          home[design_.stratum[u] * j + i] += product;
        }
      const std::size_t all = units();
      for (std::size_t i = 0; i < j; ++i)
        r[i] = (total[i] - sum[i][all] * sum[j][all] / weight[all]) * inverse[i][all] * inverse[j][all];
      for (std::size_t u = 0; u < units(); ++u) {
        const double m = size[design_.stratum[u]];
        if (count_of(u) == 0 || m < 2) continue;
        const double* here = products_.data() + u * pairs() + pair_place(0, j);
        const double *stratum = home.data() + design_.stratum[u] * j, up = m / (m - 1), by_weight = sum[j][u] / weight[u];
        for (std::size_t i = 0; i < j; ++i) {
          const double product = total[i] + (up - 1) * stratum[i] - up * here[i];
          const double rest = (product - sum[i][u] * by_weight) * inverse[i][u] * inverse[j][u];
          const double off = z_apart(within_bounds(rest), within_bounds(r[i]));
          if (off == off) variance[i] += (m - 1) / m * off * off;
        }
      }
      for (std::size_t i = 0; i < j; ++i)
        if (wanted[i + j * p_]) put(i, j, {r[i], variance[i], n, drawn, strata}, out);
    });
  }

  void leave_out_each(std::size_t j, const std::vector<double>& size, std::vector<double>* sum, std::vector<double>* inverse,
                      std::vector<double>* weight) const {
    std::vector<ColumnSums> stratum(design_.strata);
    ColumnSums total;
    for (std::size_t u = 0; u < units(); ++u) {
      total.add(alone_[j][u], 1);
      stratum[design_.stratum[u]].add(alone_[j][u], 1);
    }
    sum->resize(units() + 1);
    inverse->resize(units() + 1);
    for (std::size_t u = 0; u <= units(); ++u) {
      ColumnSums rest = total;
      const double m = u < units() ? size[design_.stratum[u]] : 0;
      if (m > 1) {
        rest.add(stratum[design_.stratum[u]], m / (m - 1) - 1);
        rest.add(alone_[j][u], -m / (m - 1));
      }
      const double square = rest.xx - rest.x * rest.x / rest.weight;
      (*sum)[u] = rest.x;
      (*inverse)[u] = square > 0 ? 1 / std::sqrt(square) : NAN;
      if (weight) (*weight)[u] = rest.weight;
    }
  }

  // Some are missing: every pair has cases, units and strata of its own.
  void settle_missing(const UnitMissing& each, const int* wanted, UnitTable* out) const {
    std::vector<double> squares(p_);
    for (std::size_t j = 0; j < p_; ++j)
      for (const ColumnSums& unit : alone_[j]) squares[j] += unit.xx;
    over_columns(p_, threads_, [&](std::size_t j) {
      // By stratum and last of all: the sums and the units of each pair (i, j).
      const std::size_t all = design_.strata * j;
      std::vector<UnitSums> sums(all + j);
      std::vector<double> n(j, 0.0), units_of(all + j, 0.0), strata(j, 0.0), r(j), variance(j, 0.0);
      for (std::size_t u = 0; u < units(); ++u)
        for (std::size_t i = 0; i < j; ++i) {
          const auto& here = each.of_pairs(u, j)[i];
          if (here.count == 0) continue;
          n[i] += here.count;
          for (const std::size_t at : {design_.stratum[u] * j + i, all + i}) {
            sums[at].add(here.sums, 1);
            ++units_of[at];
          }
        }
      for (std::size_t at = 0; at < all; ++at) strata[at % j] += units_of[at] > 0;
      for (std::size_t i = 0; i < j; ++i) r[i] = r_of_spread(sums[all + i], squares[i], squares[j]);
      for (std::size_t u = 0; u < units(); ++u)
        for (std::size_t i = 0; i < j; ++i) {
          const auto& here = each.of_pairs(u, j)[i];
          const double m = units_of[design_.stratum[u] * j + i];
          if (here.count == 0 || m < 2) continue;
          UnitSums rest = sums[all + i];
          rest.add(sums[design_.stratum[u] * j + i], m / (m - 1) - 1);
          rest.add(here.sums, -m / (m - 1));
          const double off = z_apart(within_bounds(r_of_spread(rest, squares[i], squares[j])), within_bounds(r[i]));
          if (off == off) variance[i] += (m - 1) / m * off * off;
        }
      for (std::size_t i = 0; i < j; ++i)
        if (wanted[i + j * p_]) put(i, j, {r[i], variance[i], n[i], units_of[all + i], strata[i]}, out);
    });
  }

  UnitSums sums_of(std::size_t u, std::size_t i, std::size_t j, double* count) const {
    const auto by = [&](const double* a, const double* b) { return product_sum(a, b, cases_.begin[u], cases_.begin[u + 1]); };
    if (complete_) {
      *count = count_of(u);
      const ColumnSums &a = alone_[i][u], &b = alone_[j][u];
      return {a.weight, a.x, b.x, a.xx, b.xx, by(values_[i], values_[j])};
    }
    *count = by(there_[i], there_[j]);
    return {by(roots_[i], roots_[j]),   by(values_[i], roots_[j]),  by(roots_[i], values_[j]),
            by(squares_[i], roots_[j]), by(roots_[i], squares_[j]), by(values_[i], values_[j])};
  }

  void settle(std::size_t i, std::size_t j, UnitTable* out) const {
    std::vector<UnitSums> each(units()), stratum(design_.strata);
    std::vector<double> size(design_.strata, 0.0);
    std::vector<char> present(units(), 0);
    UnitSums total;
    double n = 0, drawn = 0;
    for (std::size_t u = 0; u < units(); ++u) {
      double count = 0;
      each[u] = sums_of(u, i, j, &count);
      if (count == 0) continue;
      present[u] = 1;
      n += count;
      ++drawn;
      ++size[design_.stratum[u]];
      stratum[design_.stratum[u]].add(each[u], 1);
      total.add(each[u], 1);
    }
    const double r = total.r();
    double variance = 0, strata = 0;
    for (const double m : size) strata += m > 0;
    for (std::size_t u = 0; u < units(); ++u) {
      const double m = size[design_.stratum[u]];
      if (!present[u] || m < 2) continue;
      UnitSums rest = total;
      rest.add(stratum[design_.stratum[u]], m / (m - 1) - 1);
      rest.add(each[u], -m / (m - 1));
      const double off = z_apart(within_bounds(rest.r()), within_bounds(r));
      if (off == off) variance += (m - 1) / m * off * off;
    }
    put(i, j, {r, variance, n, drawn, strata}, out);
  }

  struct Settled {
    double r, variance, n, units, strata;
  };

  void put(std::size_t i, std::size_t j, const Settled& found, UnitTable* out) const {
    for (const std::size_t at : {i + j * p_, j + i * p_}) {
      out->r[at] = found.r;
      out->variance[at] = found.variance;
      out->n[at] = found.n;
      out->units[at] = found.units;
      out->strata[at] = found.strata;
    }
  }

  const Design& design_;
  std::size_t p_;
  int threads_;
  double most_;
  bool complete_ = true;
  CasesByUnit cases_;
  std::vector<double> root_, means_, scales_;
  std::unique_ptr<LargeRoom> room_, more_;
  Columns values_, squares_, roots_, there_;
  std::vector<std::vector<ColumnSums>> alone_;
  std::vector<double> products_;
};

}  // namespace unsere

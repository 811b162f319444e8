// Claims about pairs under a design: units left out, replicate weights, and columns freed of others, beside longhand.
#pragma once

#include <algorithm>
#include <random>
#include <vector>

#include "../../src/core/freed.hpp"
#include "../../src/core/replicate_matrix.hpp"
#include "../../src/core/unit_matrix.hpp"
#include "check.hpp"
#include "many_columns.hpp"

using namespace unsere;

// r of the weighted cases that have both.
inline double weighted_r(const std::vector<double>& x, const std::vector<double>& y, const std::vector<double>& weight) {
  double w = 0, mx = 0, my = 0, xx = 0, yy = 0, xy = 0;
  for (std::size_t k = 0; k < x.size(); ++k)
    if (x[k] == x[k] && y[k] == y[k]) w += weight[k], mx += weight[k] * x[k], my += weight[k] * y[k];
  mx /= w;
  my /= w;
  for (std::size_t k = 0; k < x.size(); ++k)
    if (x[k] == x[k] && y[k] == y[k]) {
      const double dx = x[k] - mx, dy = y[k] - my;
      xx += weight[k] * dx * dx, yy += weight[k] * dy * dy, xy += weight[k] * dx * dy;
    }
  return xy / std::sqrt(xx * yy);
}

// Twenty units in two strata: each left out in turn, the others of its stratum carrying its weight, is a replicate.
inline void units_and_replicates(double missing, int threads) {
  const std::size_t p = 13, n = 700, units = 20;
  const Table table(p, n, missing, 7);
  Design design;
  std::mt19937_64 random(3);
  std::uniform_real_distribution<double> even(0.5, 2);
  for (std::size_t k = 0; k < n; ++k) {
    design.weight.push_back(even(random));
    design.unit.push_back(k % units);
  }
  for (std::size_t u = 0; u < units; ++u) design.stratum.push_back(u % 2);
  design.strata = 2;
  std::vector<std::vector<double>> replicates(units, design.weight);
  for (std::size_t u = 0; u < units; ++u)
    for (std::size_t k = 0; k < n; ++k)
      replicates[u][k] *= k % units == u ? 0 : k % 2 == u % 2 ? 10.0 / 9 : 1;
  std::vector<const double*> weights{design.weight.data()};
  for (const auto& one : replicates) weights.push_back(one.data());
  const std::vector<double> scale(units, 0.9);
  const std::vector<int> wanted(p * p, 1);
  const auto columns = table.pointers();
  const UnitTable by_unit = UnitMatrix(columns, n, design, threads).run(wanted.data());
  const ReplicateTable by_weight = ReplicateMatrix(columns, n, weights, scale, threads).run(wanted.data());
  const UnitTable pair_by_pair = UnitMatrix(columns, n, design, threads, 0).run(wanted.data());
  bool same = true, longhand = true, alone = true;
  for (std::size_t j = 1; j < p; ++j)
    for (std::size_t i = 0; i < j; ++i) {
      const std::size_t at = i + j * p;
      const double r = weighted_r(table.columns[i], table.columns[j], design.weight);
      double variance = 0;
      for (const auto& one : replicates) {
        const double off = std::atanh(weighted_r(table.columns[i], table.columns[j], one)) - std::atanh(r);
        variance += 0.9 * off * off;
      }
      longhand &= std::fabs(by_weight.r[at] - r) < 1e-9 && near(by_weight.variance[at], variance, 1e-7);
      same &= std::fabs(by_unit.r[at] - by_weight.r[at]) < 1e-12 && near(by_unit.variance[at], by_weight.variance[at], 1e-9) &&
              by_unit.n[at] == by_weight.n[at];
      alone &= std::fabs(by_unit.r[at] - pair_by_pair.r[at]) < 1e-13 &&
               near(by_unit.variance[at], pair_by_pair.variance[at], 1e-9) && by_unit.n[at] == pair_by_pair.n[at] &&
               by_unit.units[at] == pair_by_pair.units[at] && by_unit.strata[at] == pair_by_pair.strata[at];
    }
  claim(same, "units left out are replicate weights of their own");
  claim(alone, "and every pair by itself has them too");
  claim(longhand, "r and its variance are those of the definition");
}

inline void columns_freed_of_others() {
  const Table table(4, 300, 0, 5);
  const std::vector<double> ones(300, 1.0);
  std::vector<double> left(table.columns[3]);
  // The last but one is the same again, and takes nothing.
  const std::vector<const double*> taken{ones.data(), table.columns[0].data(), table.columns[1].data(), table.columns[0].data()};
  free_columns(left.data(), 1, 300, taken);
  const double size = std::sqrt(product_sum(left.data(), left.data(), 0, 300));
  for (const double* other : taken) {
    const double length = std::sqrt(product_sum(other, other, 0, 300));
    claim(std::fabs(product_sum(other, left.data(), 0, 300)) < 1e-12 * size * length, "nothing is left of what was taken out");
  }
  claim(size > 1, "and the rest stays");
}

inline void claims_about_designs() {
  for (const double missing : {0.0, 0.2})
    for (const int threads : {1, 2}) units_and_replicates(missing, threads);
  columns_freed_of_others();
}

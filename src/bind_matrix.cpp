#include "bind.h"
#include "core/rank_matrix.hpp"
#include "core/item_rest.hpp"
#include "core/one_factor.hpp"
#include "core/replicate_matrix.hpp"
#include "core/unit_matrix.hpp"

namespace {

Rcpp::List table_list(const unsere::PairTable& found) {
  return Rcpp::List::create(Rcpp::Named("r") = to_doubles(found.r), Rcpp::Named("unexplained") = to_doubles(found.unexplained),
                                Rcpp::Named("n") = to_doubles(found.n));
}

Rcpp::List moments_list(const unsere::CrossMoments& m) {
  return Rcpp::List::create(Rcpp::Named("columns") = static_cast<double>(m.columns), Rcpp::Named("rows") = m.rows, Rcpp::Named("complete") = m.complete,
                                Rcpp::Named("centre") = to_doubles(m.centre), Rcpp::Named("scale") = to_doubles(m.scale),
                                Rcpp::Named("products") = to_doubles(m.products), Rcpp::Named("sums") = to_doubles(m.sums),
                                Rcpp::Named("squares") = to_doubles(m.squares), Rcpp::Named("counts") = to_doubles(m.counts));
}

unsere::CrossMoments moments_of(const Rcpp::List& from) {
  auto vector_of = [&](const char* name) {
    const Rcpp::NumericVector values = from[name];
    return std::vector<double>(values.begin(), values.end());
  };
  unsere::CrossMoments m;
  m.columns = to_count(Rcpp::as<double>(from["columns"]));
  m.rows = Rcpp::as<double>(from["rows"]);
  m.complete = Rcpp::as<bool>(from["complete"]);
  m.centre = vector_of("centre");
  m.scale = vector_of("scale");
  m.products = vector_of("products");
  m.sums = vector_of("sums");
  m.squares = vector_of("squares");
  m.counts = vector_of("counts");
  const std::size_t each = m.columns * m.columns;
  check(m.centre.size() == m.columns && m.scale.size() == m.columns && m.products.size() == each &&
            m.sums.size() == (m.complete ? m.columns : each) && (m.complete || (m.squares.size() == each && m.counts.size() == each)),
        "These are no moments.");
  return m;
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List core_matrix(Rcpp::List columns, int threads, int kernel) {
  const Columns from = columns_of(columns);
  const auto found = run_interruptibly([&] {
    const auto moments = unsere::cross_moments(from.values, from.rows, threads, kernel);
    return std::make_pair(unsere::pearson_table(moments, from.values, from.rows, threads),
                          unsere::spreads_of(moments, from.values, from.rows));
  });
  Rcpp::List out = table_list(found.first);
  out.push_back(spreads_list(found.second), "spreads");
  return out;
}

// `complete`: no value of any column is missing.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_rank_matrix(Rcpp::List columns, Rcpp::LogicalVector wanted, bool complete, int threads, int kernel) {
  const Columns from = columns_of(columns);
  const int* asked = wanted_pairs(wanted, from);
  const auto found = run_interruptibly(
      [&] { return unsere::spearman_table(from.values, from.rows, threads, asked, complete, kernel); });
  Rcpp::List out = table_list(found.pairs);
  out.push_back(to_doubles(found.squares), "squares");
  out.push_back(to_doubles(found.cubes), "cubes");
  out.push_back(to_doubles(found.fourths), "fourths");
  out.push_back(to_doubles(found.step), "step");
  return out;
}

// `unit` of each case and `stratum` of each unit, whole numbers from 1 on.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_unit_matrix(Rcpp::List columns, Rcpp::NumericVector weight, Rcpp::IntegerVector unit,
                            Rcpp::IntegerVector stratum, Rcpp::LogicalVector wanted, int threads) {
  const Columns from = columns_of(columns);
  check(length_of(weight) == from.rows && static_cast<std::size_t>(unit.size()) == from.rows, "A case more or less than there are.");
  unsere::Design design;
  design.weight.assign(values_of(weight), values_of(weight) + from.rows);
  const auto units = static_cast<std::size_t>(stratum.size());
  design.unit = from_zero(unit, units);
  design.stratum = from_zero(stratum, units);
  for (const std::size_t h : design.stratum) design.strata = std::max(design.strata, h + 1);
  const int* asked = wanted_pairs(wanted, from);
  const auto found = run_interruptibly([&] { return unsere::UnitMatrix(from.values, from.rows, design, threads).run(asked); });
  return Rcpp::List::create(Rcpp::Named("r") = to_doubles(found.r), Rcpp::Named("variance") = to_doubles(found.variance),
                                Rcpp::Named("n") = to_doubles(found.n), Rcpp::Named("units") = to_doubles(found.units),
                                Rcpp::Named("strata") = to_doubles(found.strata), Rcpp::Named("mean") = to_doubles(found.mean),
                                Rcpp::Named("sd") = to_doubles(found.sd), Rcpp::Named("count") = to_doubles(found.count));
}

// As above under replicate weights, a column each; `scale` is what the squared distance of each counts.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_replicate_matrix(Rcpp::List columns, Rcpp::NumericVector weight, Rcpp::NumericVector replicates,
                                 Rcpp::NumericVector scale, Rcpp::LogicalVector wanted, int threads) {
  const Columns from = columns_of(columns);
  check(length_of(weight) == from.rows && length_of(replicates) == from.rows * length_of(scale),
        "A case more or less than there are.");
  std::vector<const double*> weights{values_of(weight)};
  for (std::size_t k = 0; k < length_of(scale); ++k) weights.push_back(values_of(replicates) + k * from.rows);
  const std::vector<double> scales(scale.begin(), scale.end());
  const int* asked = wanted_pairs(wanted, from);
  const auto found = run_interruptibly(
      [&] { return unsere::ReplicateMatrix(from.values, from.rows, weights, scales, threads).run(asked); });
  return Rcpp::List::create(Rcpp::Named("r") = to_doubles(found.r), Rcpp::Named("variance") = to_doubles(found.variance), Rcpp::Named("n") = to_doubles(found.n));
}

// Sums of products of the columns unit by unit, a row a unit (1, 2, ...): the places of the upper triangle, column by column.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_unit_sums(Rcpp::List columns, Rcpp::IntegerVector unit, int units, int threads) {
  const Columns from = columns_of(columns);
  check(static_cast<std::size_t>(unit.size()) == from.rows && units >= 0, "A case more or less than there are.");
  const std::size_t size = from.values.size() * (from.values.size() + 1) / 2, many = static_cast<std::size_t>(units);
  const std::vector<std::size_t> of = from_zero(unit, many);
  const auto found = run_interruptibly([&] { return unsere::sums_by_unit(from.values, from.rows, of, many, threads); });
  Rcpp::NumericVector out(static_cast<R_xlen_t>(found.size()));
  double* to = REAL(out);
  for (std::size_t u = 0; u < many; ++u)
    for (std::size_t k = 0; k < size; ++k) to[u + k * many] = found[u * size + k];
  out.attr("dim") = Rcpp::IntegerVector::create(units, static_cast<int>(size));
  return out;
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_rest_variances(Rcpp::List items, Rcpp::NumericVector total, int threads) {
  const Columns from = columns_of(items);
  check(length_of(total) == from.rows, "A person more or less than there are.");
  return to_doubles(run_interruptibly([&] { return unsere::rest_variances(from.values, values_of(total), from.rows, threads); }));
}

// `r`: correlations of items, `start` their loadings to begin with.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_one_factor(Rcpp::NumericVector r, Rcpp::NumericVector start, double settled, int rounds) {
  const std::size_t k = length_of(start);
  check(length_of(r) == k * k, "Each item has a correlation with each.");
  Rcpp::NumericVector loading = Rcpp::clone(start);
  unsere::settle_loadings(values_of(r), k, settled, rounds, REAL(loading));
  return loading;
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_moments(Rcpp::List columns, int threads) {
  const Columns from = columns_of(columns);
  return moments_list(run_interruptibly([&] { return unsere::cross_moments(from.values, from.rows, threads); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_merge_moments(Rcpp::List a, Rcpp::List b) {
  unsere::CrossMoments together = moments_of(a);
  together.merge(moments_of(b));
  return moments_list(together);
}

// What the moments say: the table of pairs, and each column's n, mean and standard deviation.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_moments_table(Rcpp::List moments) {
  const unsere::CrossMoments m = moments_of(moments);
  std::vector<double> mean, sd, n;
  for (std::size_t i = 0; i < m.columns; ++i) {
    mean.push_back(m.mean(i));
    sd.push_back(m.sd(i));
    n.push_back(m.count(i, i));
  }
  return Rcpp::List::create(Rcpp::Named("pairs") = table_list(unsere::pearson_table(m)), Rcpp::Named("mean") = to_doubles(mean),
                                Rcpp::Named("sd") = to_doubles(sd), Rcpp::Named("n") = to_doubles(n));
}

// [[Rcpp::export(rng = false)]]
std::string core_kernel_name(int kernel) { return unsere::pick_kernel(kernel).name; }

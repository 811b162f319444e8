#include "bind.h"
#include "core/rank_matrix.hpp"
#include "core/item_rest.hpp"
#include "core/replicate_matrix.hpp"
#include "core/unit_matrix.hpp"

using namespace cpp11::literals;

namespace {

cpp11::writable::list table_list(const unsere::PairTable& found) {
  return cpp11::writable::list({"r"_nm = to_doubles(found.r), "unexplained"_nm = to_doubles(found.unexplained),
                                "n"_nm = to_doubles(found.n)});
}

cpp11::writable::list moments_list(const unsere::CrossMoments& m) {
  return cpp11::writable::list({"columns"_nm = static_cast<double>(m.columns), "rows"_nm = m.rows, "complete"_nm = m.complete,
                                "centre"_nm = to_doubles(m.centre), "scale"_nm = to_doubles(m.scale),
                                "products"_nm = to_doubles(m.products), "sums"_nm = to_doubles(m.sums),
                                "squares"_nm = to_doubles(m.squares), "counts"_nm = to_doubles(m.counts)});
}

unsere::CrossMoments moments_of(const cpp11::list& from) {
  auto vector_of = [&](const char* name) {
    const cpp11::doubles values(from[name]);
    return std::vector<double>(values.begin(), values.end());
  };
  unsere::CrossMoments m;
  m.columns = static_cast<std::size_t>(vector_of("columns")[0]);
  m.rows = vector_of("rows")[0];
  m.complete = cpp11::as_cpp<bool>(from["complete"]);
  m.centre = vector_of("centre");
  m.scale = vector_of("scale");
  m.products = vector_of("products");
  m.sums = vector_of("sums");
  m.squares = vector_of("squares");
  m.counts = vector_of("counts");
  return m;
}

}  // namespace

[[cpp11::register]] cpp11::list core_matrix(cpp11::list columns, int threads, int kernel) {
  const Columns from = columns_of(columns);
  const auto found = run_interruptibly([&] {
    const auto moments = unsere::cross_moments(from.values, from.rows, threads, kernel);
    return std::make_pair(unsere::pearson_table(moments, from.values, from.rows, threads),
                          unsere::spreads_of(moments, from.values, from.rows));
  });
  cpp11::writable::list out = table_list(found.first);
  out.push_back("spreads"_nm = spreads_list(found.second));
  return out;
}

// `complete`: no value of any column is missing.
[[cpp11::register]] cpp11::list core_rank_matrix(cpp11::list columns, cpp11::logicals wanted, bool complete, int threads,
                                                           int kernel) {
  const Columns from = columns_of(columns);
  if (static_cast<std::size_t>(wanted.size()) != from.values.size() * from.values.size())
    cpp11::stop("A pair more or less than there are.");
  const int* asked = cpp11::safe[LOGICAL](wanted);
  const auto found = run_interruptibly(
      [&] { return unsere::spearman_table(from.values, from.rows, threads, asked, complete, kernel); });
  cpp11::writable::list out = table_list(found.pairs);
  out.push_back("squares"_nm = to_doubles(found.squares));
  out.push_back("cubes"_nm = to_doubles(found.cubes));
  out.push_back("fourths"_nm = to_doubles(found.fourths));
  out.push_back("step"_nm = to_doubles(found.step));
  return out;
}

// Units of cases as R counts them, from 1 on, as the core does.
static std::vector<std::size_t> from_zero(const cpp11::integers& unit) {
  const int* from = cpp11::safe[INTEGER](unit);
  std::vector<std::size_t> out(static_cast<std::size_t>(unit.size()));
  for (std::size_t k = 0; k < out.size(); ++k) out[k] = static_cast<std::size_t>(from[k] - 1);
  return out;
}

// `unit` of each case and `stratum` of each unit, whole numbers from 1 on.
[[cpp11::register]] cpp11::list core_unit_matrix(cpp11::list columns, cpp11::doubles weight, cpp11::integers unit,
                                                 cpp11::integers stratum, cpp11::logicals wanted, int threads) {
  const Columns from = columns_of(columns);
  if (length_of(weight) != from.rows || static_cast<std::size_t>(unit.size()) != from.rows)
    cpp11::stop("A case more or less than there are.");
  unsere::Design design;
  const double* weights = cpp11::safe[REAL](weight);
  design.weight.assign(weights, weights + from.rows);
  design.unit = from_zero(unit);
  for (const int h : stratum) {
    design.stratum.push_back(static_cast<std::size_t>(h - 1));
    design.strata = std::max(design.strata, design.stratum.back() + 1);
  }
  const int* asked = cpp11::safe[LOGICAL](wanted);
  const auto found = run_interruptibly([&] { return unsere::UnitMatrix(from.values, from.rows, design, threads).run(asked); });
  return cpp11::writable::list({"r"_nm = to_doubles(found.r), "variance"_nm = to_doubles(found.variance),
                                "n"_nm = to_doubles(found.n), "units"_nm = to_doubles(found.units),
                                "strata"_nm = to_doubles(found.strata), "mean"_nm = to_doubles(found.mean),
                                "sd"_nm = to_doubles(found.sd), "count"_nm = to_doubles(found.count)});
}

// As above under replicate weights, a column each; `scale` is what the squared distance of each counts.
[[cpp11::register]] cpp11::list core_replicate_matrix(cpp11::list columns, cpp11::doubles weight, cpp11::doubles replicates,
                                                      cpp11::doubles scale, cpp11::logicals wanted, int threads) {
  const Columns from = columns_of(columns);
  if (length_of(weight) != from.rows || length_of(replicates) != from.rows * length_of(scale))
    cpp11::stop("A case more or less than there are.");
  std::vector<const double*> weights{values_of(weight)};
  for (std::size_t k = 0; k < length_of(scale); ++k) weights.push_back(values_of(replicates) + k * from.rows);
  const std::vector<double> scales(scale.begin(), scale.end());
  const int* asked = cpp11::safe[LOGICAL](wanted);
  const auto found = run_interruptibly(
      [&] { return unsere::ReplicateMatrix(from.values, from.rows, weights, scales, threads).run(asked); });
  return cpp11::writable::list(
      {"r"_nm = to_doubles(found.r), "variance"_nm = to_doubles(found.variance), "n"_nm = to_doubles(found.n)});
}

// Sums of products of the columns unit by unit, a row a unit (1, 2, ...): the places of the upper triangle, column by column.
[[cpp11::register]] cpp11::doubles core_unit_sums(cpp11::list columns, cpp11::integers unit, int units, int threads) {
  const Columns from = columns_of(columns);
  if (static_cast<std::size_t>(unit.size()) != from.rows) cpp11::stop("A case more or less than there are.");
  const std::vector<std::size_t> of = from_zero(unit);
  const std::size_t size = from.values.size() * (from.values.size() + 1) / 2, many = static_cast<std::size_t>(units);
  const auto found = run_interruptibly([&] { return unsere::sums_by_unit(from.values, from.rows, of, many, threads); });
  cpp11::writable::doubles out(static_cast<R_xlen_t>(found.size()));
  double* to = REAL(out);
  for (std::size_t u = 0; u < many; ++u)
    for (std::size_t k = 0; k < size; ++k) to[u + k * many] = found[u * size + k];
  out.attr("dim") = cpp11::writable::integers({units, static_cast<int>(size)});
  return out;
}

[[cpp11::register]] cpp11::doubles core_rest_variances(cpp11::list items, cpp11::doubles total, int threads) {
  const Columns from = columns_of(items);
  if (length_of(total) != from.rows) cpp11::stop("A person more or less than there are.");
  return to_doubles(run_interruptibly([&] { return unsere::rest_variances(from.values, values_of(total), from.rows, threads); }));
}

[[cpp11::register]] cpp11::list core_moments(cpp11::list columns, int threads) {
  const Columns from = columns_of(columns);
  return moments_list(run_interruptibly([&] { return unsere::cross_moments(from.values, from.rows, threads); }));
}

[[cpp11::register]] cpp11::list core_merge_moments(cpp11::list a, cpp11::list b) {
  unsere::CrossMoments together = moments_of(a);
  together.merge(moments_of(b));
  return moments_list(together);
}

// What the moments say: the table of pairs, and each column's n, mean and standard deviation.
[[cpp11::register]] cpp11::list core_moments_table(cpp11::list moments) {
  const unsere::CrossMoments m = moments_of(moments);
  std::vector<double> mean, sd, n;
  for (std::size_t i = 0; i < m.columns; ++i) {
    mean.push_back(m.mean(i));
    sd.push_back(m.sd(i));
    n.push_back(m.count(i, i));
  }
  return cpp11::writable::list({"pairs"_nm = table_list(unsere::pearson_table(m)), "mean"_nm = to_doubles(mean),
                                "sd"_nm = to_doubles(sd), "n"_nm = to_doubles(n)});
}

[[cpp11::register]] std::string core_kernel_name(int kernel) { return unsere::pick_kernel(kernel).name; }

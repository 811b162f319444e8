#include "bind.h"
#include "core/rank_matrix.hpp"

using namespace cpp11::literals;

namespace {

struct Columns {
  std::vector<const double*> values;
  std::size_t rows = 0;
};

// A list of double vectors of one length, missing values as NA.
Columns columns_of(SEXP columns) {
  Columns out;
  for (R_xlen_t j = 0; j < Rf_xlength(columns); ++j) out.values.push_back(REAL(VECTOR_ELT(columns, j)));
  if (!out.values.empty()) out.rows = static_cast<std::size_t>(Rf_xlength(VECTOR_ELT(columns, 0)));
  return out;
}

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

unsere::CrossMoments moments_of(SEXP list) {
  const cpp11::list from(list);
  auto vector_of = [&](const char* name) {
    const cpp11::doubles values(from[name]);
    return std::vector<double>(values.begin(), values.end());
  };
  unsere::CrossMoments m;
  m.columns = static_cast<std::size_t>(vector_of("columns")[0]);
  m.rows = vector_of("rows")[0];
  m.complete = Rf_asLogical(from["complete"]);
  m.centre = vector_of("centre");
  m.scale = vector_of("scale");
  m.products = vector_of("products");
  m.sums = vector_of("sums");
  m.squares = vector_of("squares");
  m.counts = vector_of("counts");
  return m;
}

}  // namespace

SEXP unsere_matrix(SEXP columns, SEXP threads, SEXP kernel) {
  BEGIN_CPP11
  const Columns from = columns_of(columns);
  const auto moments = unsere::cross_moments(from.values, from.rows, Rf_asInteger(threads), Rf_asInteger(kernel));
  return table_list(unsere::pearson_table(moments, from.values, from.rows, Rf_asInteger(threads)));
  END_CPP11
}

SEXP unsere_rank_matrix(SEXP columns, SEXP wanted, SEXP threads, SEXP kernel) {
  BEGIN_CPP11
  const Columns from = columns_of(columns);
  const auto found = unsere::spearman_table(from.values, from.rows, Rf_asInteger(threads), LOGICAL(wanted), Rf_asInteger(kernel));
  cpp11::writable::list out = table_list(found.pairs);
  out.push_back("squares"_nm = to_doubles(found.squares));
  out.push_back("cubes"_nm = to_doubles(found.cubes));
  out.push_back("fourths"_nm = to_doubles(found.fourths));
  out.push_back("step"_nm = to_doubles(found.step));
  return out;
  END_CPP11
}

SEXP unsere_moments(SEXP columns, SEXP threads) {
  BEGIN_CPP11
  const Columns from = columns_of(columns);
  return moments_list(unsere::cross_moments(from.values, from.rows, Rf_asInteger(threads)));
  END_CPP11
}

SEXP unsere_merge_moments(SEXP a, SEXP b) {
  BEGIN_CPP11
  unsere::CrossMoments together = moments_of(a);
  together.merge(moments_of(b));
  return moments_list(together);
  END_CPP11
}

// What the moments say: the table of pairs, and each column's n, mean and standard deviation.
SEXP unsere_moments_table(SEXP moments) {
  BEGIN_CPP11
  const unsere::CrossMoments m = moments_of(moments);
  cpp11::writable::doubles mean, sd, n;
  for (std::size_t i = 0; i < m.columns; ++i) {
    mean.push_back(m.mean(i));
    sd.push_back(m.sd(i));
    n.push_back(m.count(i, i));
  }
  return cpp11::writable::list({"pairs"_nm = table_list(unsere::pearson_table(m)), "mean"_nm = mean, "sd"_nm = sd, "n"_nm = n});
  END_CPP11
}

SEXP unsere_kernel_name(SEXP kernel) {
  BEGIN_CPP11
  return cpp11::writable::strings({unsere::pick_kernel(Rf_asInteger(kernel)).name});
  END_CPP11
}

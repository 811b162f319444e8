#include "bind.h"
#include "core/matrix.hpp"

using namespace cpp11::literals;

// columns: a list of double vectors of one length, missing values as NA.
SEXP unsere_matrix(SEXP columns, SEXP ranked, SEXP threads, SEXP kernel) {
  BEGIN_CPP11
  std::vector<const double*> pointers;
  for (R_xlen_t j = 0; j < Rf_xlength(columns); ++j) pointers.push_back(REAL(VECTOR_ELT(columns, j)));
  const std::size_t rows = pointers.empty() ? 0 : static_cast<std::size_t>(Rf_xlength(VECTOR_ELT(columns, 0)));
  auto compute = Rf_asLogical(ranked) ? unsere::spearman_table : unsere::pearson_table;
  unsere::PairTable found = compute(pointers, rows, Rf_asInteger(threads), Rf_asInteger(kernel));
  return cpp11::writable::list({"r"_nm = to_doubles(found.r), "unexplained"_nm = to_doubles(found.unexplained),
                                "n"_nm = to_doubles(found.n)});
  END_CPP11
}

SEXP unsere_kernel_name(SEXP kernel) {
  BEGIN_CPP11
  return cpp11::writable::strings({unsere::pick_kernel(Rf_asInteger(kernel)).name});
  END_CPP11
}

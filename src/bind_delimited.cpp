#include "bind.h"
#include "core/delimited.hpp"

#include <algorithm>

static Rcpp::IntegerVector to_integers(const std::vector<std::int32_t>& values) {
  return Rcpp::IntegerVector(values.begin(), values.end());
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_scan_delimited(std::string path, std::string delimiter, double limit) {
  check(delimiter.size() == 1, "A delimiter is one sign.");
  const auto found = run_interruptibly([&] { return unsere::scan_delimited(path, delimiter.at(0), limit); });
  return Rcpp::List::create(Rcpp::Named("line") = to_integers(found.line), Rcpp::Named("fields") = to_integers(found.fields),
                                Rcpp::Named("filled") = to_integers(found.filled), Rcpp::Named("ends") = to_integers(found.ends),
                                Rcpp::Named("proper") = found.proper, Rcpp::Named("doubled") = found.doubled, Rcpp::Named("open") = found.open);
}

// A matrix of text, a row a record; fields that a record does not have are NA.
// [[Rcpp::export(rng = false)]]
SEXP core_split_delimited(std::string path, std::string delimiter, double from, double count) {
  check(delimiter.size() == 1, "A delimiter is one sign.");
  const auto grid = run_interruptibly([&] {
    return unsere::split_delimited(path, delimiter.at(0), to_count(from), to_count(count));
  });
  const std::size_t rows = grid.begins.size() - 1;
  std::size_t columns = 0;
  for (std::size_t i = 0; i < rows; ++i) columns = std::max(columns, grid.begins[i + 1] - grid.begins[i]);
  Rcpp::CharacterMatrix out(static_cast<int>(rows), static_cast<int>(columns));
  Rcpp::unwindProtect([&]() -> SEXP {
    for (std::size_t i = 0; i < rows; ++i) {
      const std::size_t fields = grid.begins[i + 1] - grid.begins[i];
      for (std::size_t j = 0; j < columns; ++j) {
        SEXP cell = NA_STRING;
        if (j < fields) {
          const std::string& text = grid.texts[grid.begins[i] + j];
          cell = Rf_mkCharLenCE(text.data(), static_cast<int>(text.size()), CE_UTF8);
        }
        SET_STRING_ELT(out, static_cast<R_xlen_t>(i + j * rows), cell);
      }
    }
    return R_NilValue;
  });
  return out;
}

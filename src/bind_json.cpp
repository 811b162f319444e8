#include "bind.h"
#include "core/json_rows.hpp"

// Columns are doubles, or integers with their texts (JSON already) in a list; `logs` stands beside doubles or is NULL.
// [[Rcpp::export(rng = false)]]
Rcpp::RawVector core_json_rows(Rcpp::CharacterVector keys, Rcpp::List columns, Rcpp::List texts, Rcpp::List logs,
                               double from, double count, int indent, int threads) {
  check(keys.size() == columns.size() && texts.size() == columns.size() && logs.size() == columns.size(),
        "A column more or less than there are.");
  const std::size_t first = to_count(from), many = to_count(count);
  std::vector<std::vector<std::string>> words(static_cast<std::size_t>(columns.size()));
  std::vector<unsere::JsonColumn> parts;
  for (R_xlen_t j = 0; j < columns.size(); ++j) {
    unsere::JsonColumn part;
    part.key = std::string(keys[j]);
    part.missing = NA_INTEGER;
    SEXP column = columns[j];
    check(TYPEOF(column) == REALSXP || TYPEOF(column) == INTSXP, "A column is not of numbers.");
    check(first + many <= static_cast<std::size_t>(Rf_xlength(column)), "A row lies beyond what there is.");
    if (TYPEOF(column) == REALSXP) {
      part.numbers = REAL(column);
      SEXP beside = logs[j];
      if (beside != R_NilValue) {
        check(TYPEOF(beside) == REALSXP && Rf_xlength(beside) == Rf_xlength(column), "The columns differ in length.");
        part.logs = REAL(beside);
      }
    } else {
      part.whole = INTEGER(column);
      SEXP named = texts[j];
      if (named != R_NilValue) {
        auto& list = words[static_cast<std::size_t>(j)];
        for (const auto& word : Rcpp::as<std::vector<std::string>>(named)) list.push_back(word);
        for (R_xlen_t i = 0; i < Rf_xlength(column); ++i) {
          const int place = part.whole[i];
          check(place == NA_INTEGER || (place >= 1 && static_cast<std::size_t>(place) <= list.size()),
                "A place lies beyond what there is.");
        }
        part.texts = &list;
      }
    }
    parts.push_back(part);
  }
  const std::string rows = run_interruptibly([&] {
    return unsere::json_rows(parts, first, many, indent, threads);
  });
  Rcpp::RawVector bytes(static_cast<R_xlen_t>(rows.size()));
  std::copy(rows.begin(), rows.end(), RAW(bytes));
  return bytes;
}

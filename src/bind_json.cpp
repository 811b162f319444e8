#include "bind.h"
#include "core/json_rows.hpp"

// Columns are doubles, or integers with their texts (JSON already) in a list; `logs` stands beside doubles or is NULL.
[[cpp11::register]] cpp11::raws core_json_rows(cpp11::strings keys, cpp11::list columns, cpp11::list texts, cpp11::list logs,
                                               double from, double count, int indent, int threads) {
  std::vector<std::vector<std::string>> words(static_cast<std::size_t>(columns.size()));
  std::vector<unsere::JsonColumn> parts;
  for (R_xlen_t j = 0; j < columns.size(); ++j) {
    unsere::JsonColumn part;
    part.key = std::string(keys[j]);
    part.missing = NA_INTEGER;
    SEXP column = columns[j];
    if (TYPEOF(column) == REALSXP) {
      part.numbers = REAL(column);
      SEXP beside = logs[j];
      if (beside != R_NilValue) part.logs = REAL(beside);
    } else {
      part.whole = INTEGER(column);
      SEXP named = texts[j];
      if (named != R_NilValue) {
        auto& list = words[static_cast<std::size_t>(j)];
        for (const auto& word : cpp11::strings(named)) list.push_back(std::string(word));
        part.texts = &list;
      }
    }
    parts.push_back(part);
  }
  const std::string rows = run_interruptibly([&] {
    return unsere::json_rows(parts, static_cast<std::size_t>(from), static_cast<std::size_t>(count), indent, threads);
  });
  cpp11::writable::raws bytes(static_cast<R_xlen_t>(rows.size()));
  std::copy(rows.begin(), rows.end(), RAW(bytes.data()));
  return bytes;
}

#include "bind.h"
#include "core/delimited.hpp"

#include <algorithm>

using namespace cpp11::literals;

static cpp11::writable::integers to_integers(const std::vector<std::int32_t>& values) {
  return cpp11::writable::integers(values.begin(), values.end());
}

[[cpp11::register]] cpp11::list core_scan_delimited(std::string path, std::string delimiter, double limit) {
  const auto found = run_interruptibly([&] { return unsere::scan_delimited(path, delimiter.at(0), limit); });
  return cpp11::writable::list({"line"_nm = to_integers(found.line), "fields"_nm = to_integers(found.fields),
                                "filled"_nm = to_integers(found.filled), "ends"_nm = to_integers(found.ends),
                                "proper"_nm = found.proper, "doubled"_nm = found.doubled, "open"_nm = found.open});
}

// A matrix of text, a row a record; fields that a record does not have are NA.
[[cpp11::register]] SEXP core_split_delimited(std::string path, std::string delimiter, double from, double count) {
  const auto grid = run_interruptibly([&] {
    return unsere::split_delimited(path, delimiter.at(0), static_cast<std::size_t>(from), static_cast<std::size_t>(count));
  });
  const std::size_t rows = grid.begins.size() - 1;
  std::size_t columns = 0;
  for (std::size_t i = 0; i < rows; ++i) columns = std::max(columns, grid.begins[i + 1] - grid.begins[i]);
  cpp11::sexp out = cpp11::safe[Rf_allocMatrix](STRSXP, static_cast<int>(rows), static_cast<int>(columns));
  cpp11::unwind_protect([&] {
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
  });
  return out;
}

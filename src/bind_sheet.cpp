#include "bind.h"
#include "core/sheet_extent.hpp"

namespace {
const char* text_of(const Rcpp::RawVector& bytes) { return reinterpret_cast<const char*>(RAW(bytes)); }
}  // namespace

// One row a sheet: `name`, `filled`, `rows`, `columns`, `last_row`, `last_column`, `odd`.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_sheet_extents(Rcpp::RawVector bytes, bool open_document) {
  const auto size = static_cast<std::size_t>(bytes.size());
  const std::vector<unsere::SheetExtent> all = run_interruptibly([&] {
    if (open_document) return unsere::table_extents(text_of(bytes), size);
    return std::vector<unsere::SheetExtent>{unsere::sheet_extent(text_of(bytes), size)};
  });
  Rcpp::CharacterVector name, last_row, last_column, odd;
  Rcpp::NumericVector filled, rows, columns;
  for (const auto& one : all) {
    name.push_back(one.name);
    filled.push_back(one.filled);
    rows.push_back(one.rows);
    columns.push_back(one.columns);
    last_row.push_back(one.last_row);
    last_column.push_back(one.last_column);
    odd.push_back(one.odd);
  }
    return Rcpp::List::create(Rcpp::Named("name") = name, Rcpp::Named("filled") = filled, Rcpp::Named("rows") = rows, Rcpp::Named("columns") = columns,
                                Rcpp::Named("last_row") = last_row, Rcpp::Named("last_column") = last_column, Rcpp::Named("odd") = odd);
}

// [[Rcpp::export(rng = false)]]
double core_xml_depth(Rcpp::RawVector bytes) {
  return unsere::xml_depth(text_of(bytes), static_cast<std::size_t>(bytes.size()));
}

#include "bind.h"
#include "core/sheet_extent.hpp"

namespace {
const char* text_of(const cpp11::raws& bytes) { return reinterpret_cast<const char*>(RAW(bytes.data())); }
}  // namespace

// One row a sheet: `name`, `filled`, `rows`, `columns`, `last_row`, `last_column`, `odd`.
[[cpp11::register]] cpp11::writable::list core_sheet_extents(cpp11::raws bytes, bool open_document) {
  const auto size = static_cast<std::size_t>(bytes.size());
  const std::vector<unsere::SheetExtent> all = run_interruptibly([&] {
    if (open_document) return unsere::table_extents(text_of(bytes), size);
    return std::vector<unsere::SheetExtent>{unsere::sheet_extent(text_of(bytes), size)};
  });
  cpp11::writable::strings name, last_row, last_column, odd;
  cpp11::writable::doubles filled, rows, columns;
  for (const auto& one : all) {
    name.push_back(one.name);
    filled.push_back(one.filled);
    rows.push_back(one.rows);
    columns.push_back(one.columns);
    last_row.push_back(one.last_row);
    last_column.push_back(one.last_column);
    odd.push_back(one.odd);
  }
  using namespace cpp11::literals;
  return cpp11::writable::list({"name"_nm = name, "filled"_nm = filled, "rows"_nm = rows, "columns"_nm = columns,
                                "last_row"_nm = last_row, "last_column"_nm = last_column, "odd"_nm = odd});
}

[[cpp11::register]] double core_xml_depth(cpp11::raws bytes) {
  return unsere::xml_depth(text_of(bytes), static_cast<std::size_t>(bytes.size()));
}

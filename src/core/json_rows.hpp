// Rows of a table as JSON objects: for tables of millions of rows, which lists of R cannot hold.
#pragma once

#include <charconv>
#include <cmath>
#include <cstdio>
#include <string>
#include <vector>

#include "parallel.hpp"

namespace unsere {

// A column of numbers, or of texts that are JSON already, by their places in a list.
struct JsonColumn {
  std::string key;
  const double* numbers = nullptr;
  const double* logs = nullptr;        // to the base 10, for numbers that are 0 only because a double ends
  const int* whole = nullptr;          // whole numbers, or places in `texts`
  const std::vector<std::string>* texts = nullptr;
  int missing = 0;                     // the whole number that stands for none
};

inline void append_number(std::string* out, double value) {
  if (!std::isfinite(value)) {
    out->append("null");
    return;
  }
  char text[40];
#ifdef __cpp_lib_to_chars
  out->append(text, std::to_chars(text, text + sizeof text, value).ptr);  // the shortest that is read back as the same
#else
  out->append(text, static_cast<std::size_t>(std::snprintf(text, sizeof text, "%.17g", value)));
#endif
}

inline void append_power(std::string* out, double log10) {
  const double power = std::floor(log10);
  char text[60];
  const int length = std::snprintf(text, sizeof text, "%.12ge%d", std::pow(10.0, log10 - power), static_cast<int>(power));
  out->append(text, static_cast<std::size_t>(length));
}

// A row stands on one line: tables as long as these nobody reads, and line ends cost a third of the bytes.
inline void append_row(std::string* out, const std::vector<JsonColumn>& columns, std::size_t row, const std::string& indent) {
  *out += indent + "{";
  for (std::size_t j = 0; j < columns.size(); ++j) {
    const JsonColumn& column = columns[j];
    *out += "\"" + column.key + "\": ";
    if (column.numbers && column.logs && column.numbers[row] == 0 && std::isfinite(column.logs[row])) {
      append_power(out, column.logs[row]);
    } else if (column.numbers) {
      append_number(out, column.numbers[row]);
    } else if (column.whole[row] == column.missing) {
      out->append("null");
    } else if (column.texts) {
      *out += (*column.texts)[static_cast<std::size_t>(column.whole[row] - 1)];
    } else {
      out->append(std::to_string(column.whole[row]));
    }
    if (j + 1 < columns.size()) *out += ", ";
  }
  *out += "}";
}

// The rows from `from` on (counted from 0), separated by commas.
inline std::string json_rows(const std::vector<JsonColumn>& columns, std::size_t from, std::size_t count, int indent, int threads) {
  const std::string space(static_cast<std::size_t>(indent), ' ');
  const std::size_t parts = 16, each = (count + parts - 1) / parts;
  std::vector<std::string> texts(parts);
  in_parallel(parts, threads, [&](std::size_t first, std::size_t last) {
    for (std::size_t k = first; k < last; ++k)
      for (std::size_t i = k * each; i < std::min(count, (k + 1) * each); ++i) {
        append_row(&texts[k], columns, from + i, space);
        if (i + 1 < count) texts[k] += ",\n";
      }
  });
  std::string out;
  for (const std::string& text : texts) out += text;
  return out;
}

}  // namespace unsere

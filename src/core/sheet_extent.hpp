// How far the filled cells of a workbook's sheet reach, by one pass over its XML: looked at before a reader, which would make
// room for every place up to the furthest one, and which trusts each reference, sees it.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <string>
#include <vector>

namespace unsere {

struct SheetExtent {
  std::string name;              // of the sheet, where the text tells it
  double filled = 0;             // cells that hold something
  double rows = 0, columns = 0;  // the last of each that does
  std::string last_row, last_column;  // the cells that reach furthest
  std::string odd;               // the first reference that is none; empty where all are sound
};

// A tag of XML: its name without prefix, whether it closes, opens, or both, and where its attributes stand.
struct XmlTag {
  const char* name = nullptr;
  std::size_t length = 0;
  bool closes = false, empty = false;
  const char* from = nullptr;
  const char* to = nullptr;
  bool is(const char* word) const { return std::strlen(word) == length && std::memcmp(word, name, length) == 0; }
};

// Behind what is no element: a comment, literal text, an instruction; a document type, which no workbook has, is a tag.
inline const char* behind_markup(const char* open, const char* end) {
  const auto starts = [&](const char* word) {
    const std::size_t length = std::strlen(word);
    return static_cast<std::size_t>(end - open) >= length && std::memcmp(open, word, length) == 0;
  };
  const char* mark = starts("!--") ? "-->" : starts("![CDATA[") ? "]]>" : starts("?") ? "?>" : nullptr;
  if (!mark) return nullptr;
  const char* from = open + (starts("!--") ? 3 : 1);
  const char* at = std::search(from, end, mark, mark + std::strlen(mark));
  return at == end ? end : at + std::strlen(mark);
}

// The next tag from `at` on, which moves behind it; false at the end.
inline bool next_tag(const char*& at, const char* end, XmlTag* tag) {
  while (at < end) {
    at = static_cast<const char*>(std::memchr(at, '<', static_cast<std::size_t>(end - at)));
    if (!at) return false;
    const char* open = ++at;
    if (open == end) return false;
    if (const char* behind = behind_markup(open, end)) {
      at = behind;
      continue;
    }
    // A '>' within quotes ends no tag.
    char quote = 0;
    while (at < end && (quote || *at != '>')) {
      if (quote) {
        if (*at == quote) quote = 0;
      } else if (*at == '"' || *at == '\'') {
        quote = *at;
      }
      ++at;
    }
    if (at == end) return false;
    const char* close = at++;
    tag->closes = *open == '/';
    tag->empty = close > open && close[-1] == '/';
    const char* name = open + (tag->closes ? 1 : 0);
    const char* stop = name;
    while (stop < close && *stop != ' ' && *stop != '\t' && *stop != '\n' && *stop != '\r' && *stop != '/') ++stop;
    for (const char* c = name; c < stop; ++c) if (*c == ':') name = c + 1;
    tag->name = name;
    tag->length = static_cast<std::size_t>(stop - name);
    tag->from = stop;
    tag->to = close;
    return true;
  }
  return false;
}

// The value of an attribute by its name without prefix, as it stands; false where there is none.
inline bool attribute_of(const XmlTag& tag, const char* word, std::string* value) {
  const std::size_t length = std::strlen(word);
  const char* at = tag.from;
  while (at < tag.to) {
    while (at < tag.to && (*at == ' ' || *at == '\t' || *at == '\n' || *at == '\r' || *at == '/')) ++at;
    const char* name = at;
    while (at < tag.to && *at != '=' && *at != ' ' && *at != '\t' && *at != '\n' && *at != '\r') {
      if (*at == ':') name = at + 1;
      ++at;
    }
    const char* stop = at;
    while (at < tag.to && *at != '"' && *at != '\'') ++at;
    if (at == tag.to) return false;
    const char quote = *at++;
    const char* from = at;
    while (at < tag.to && *at != quote) ++at;
    if (static_cast<std::size_t>(stop - name) == length && std::memcmp(name, word, length) == 0) {
      value->assign(from, at);
      return true;
    }
    if (at < tag.to) ++at;
  }
  return false;
}

constexpr double most_sheet_rows = 1048576, most_sheet_columns = 16384;

// "AB12": capitals, then a whole number without leading zero, both within what a sheet has.
inline bool read_reference(const std::string& text, double* row, double* column) {
  std::size_t at = 0;
  double letters = 0, digits = 0;
  while (at < text.size() && text[at] >= 'A' && text[at] <= 'Z' && at < 4) letters = letters * 26 + (text[at++] - 'A' + 1);
  const std::size_t number = at;
  while (at < text.size() && text[at] >= '0' && text[at] <= '9' && at < number + 8) digits = digits * 10 + (text[at++] - '0');
  if (at != text.size() || number == 0 || number == at || text[number] == '0') return false;
  *row = digits;
  *column = letters;
  return digits <= most_sheet_rows && letters <= most_sheet_columns;
}

inline std::string reference_of(double row, double column) {
  std::string letters;
  for (auto c = static_cast<std::int64_t>(std::min(column, 1e15)); c > 0; c = (c - 1) / 26) {
    letters.insert(letters.begin(), static_cast<char>('A' + (c - 1) % 26));
  }
  return letters + std::to_string(static_cast<std::int64_t>(std::min(row, 1e15)));
}

inline void reach(SheetExtent* extent, double row, double column, double cells) {
  extent->filled += cells;
  if (row > extent->rows) {
    extent->rows = row;
    extent->last_row = reference_of(row, column);
  }
  if (column > extent->columns) {
    extent->columns = column;
    extent->last_column = reference_of(row, column);
  }
}

// A sheet of an .xlsx file.
inline SheetExtent sheet_extent(const char* text, std::size_t size) {
  SheetExtent extent;
  const char* at = text;
  const char* end = text + size;
  XmlTag tag;
  std::string told;
  double row = 0, column = 0;
  bool within = false;
  while (next_tag(at, end, &tag)) {
    if (tag.closes) {
      if (tag.is("c")) within = false;
    } else if (tag.is("row")) {
      const bool numbered = attribute_of(tag, "r", &told);
      double number = 0;
      for (char c : told) number = c >= '0' && c <= '9' ? number * 10 + (c - '0') : most_sheet_rows + 1;
      if (numbered && (told.empty() || number < 1 || number > most_sheet_rows)) {
        if (extent.odd.empty()) extent.odd = "row " + told;
        return extent;
      }
      row = numbered ? number : row + 1;
      column = 0;
    } else if (tag.is("c")) {
      if (attribute_of(tag, "r", &told)) {
        double at_row = 0;
        if (!read_reference(told, &at_row, &column)) {
          extent.odd = told.empty() ? "nothing" : told;
          return extent;
        }
        row = at_row;
      } else {
        ++column;
      }
      within = !tag.empty;
    } else if (within && (tag.is("v") || tag.is("is") || tag.is("f"))) {
      reach(&extent, row, column, 1);
      within = false;
    }
  }
  return extent;
}

inline double repeat_of(const XmlTag& tag, const char* word) {
  std::string told;
  if (!attribute_of(tag, word, &told)) return 1;
  double number = 0;
  for (char c : told) {
    if (c < '0' || c > '9') return -1;
    number = number * 10 + (c - '0');
  }
  return number >= 1 ? number : -1;
}

// The sheets of an .ods file; a cell or a row stands once for all that repeat it, and counts once.
inline std::vector<SheetExtent> table_extents(const char* text, std::size_t size) {
  std::vector<SheetExtent> all;
  const char* at = text;
  const char* end = text + size;
  XmlTag tag;
  double row = 0, rows = 1, column = 0, cells = 1, filled = 0, furthest = 0;
  int depth = 0;  // tables within tables are of the outer one
  bool within = false, holds = false;
  auto end_cell = [&] {
    if (holds) {
      filled += 1;
      furthest = column + cells;
    }
    column += cells;
    within = holds = false;
  };
  while (next_tag(at, end, &tag)) {
    if (tag.is("table")) {
      if (tag.closes) {
        --depth;
      } else if (!tag.empty && depth++ == 0) {
        all.emplace_back();
        attribute_of(tag, "name", &all.back().name);
        row = 0;
      }
    } else if (all.empty() || depth != 1) {
      continue;
    } else if (tag.is("table-row")) {
      SheetExtent& extent = all.back();
      if (!tag.closes) {
        rows = repeat_of(tag, "number-rows-repeated");
        column = filled = furthest = 0;
      }
      if (tag.closes || tag.empty) {
        if (rows < 0) {
          extent.odd = "a row";
          return all;
        }
        if (filled > 0) reach(&extent, row + rows, furthest, filled);
        row += rows;
      }
    } else if (tag.is("table-cell") || tag.is("covered-table-cell")) {
      if (!tag.closes) {
        std::string kind;
        cells = repeat_of(tag, "number-columns-repeated");
        if (cells < 0) {
          all.back().odd = "a cell";
          return all;
        }
        within = true;
        holds = attribute_of(tag, "value-type", &kind) || attribute_of(tag, "formula", &kind);
      }
      if (tag.closes || tag.empty) end_cell();
    } else if (within && tag.is("p")) {
      holds = true;
    }
  }
  return all;
}

// How deep the elements of a text lie within one another: a reader that goes down by calling itself must not go too deep. Of a
// text with a document type, without end.
inline double xml_depth(const char* text, std::size_t size) {
  const char* at = text;
  XmlTag tag;
  double depth = 0, deepest = 0;
  while (next_tag(at, text + size, &tag)) {
    if (tag.length && *tag.name == '!') return 1e9;
    if (tag.closes) {
      --depth;
    } else if (!tag.empty) {
      deepest = std::max(deepest, ++depth);
    }
  }
  return deepest;
}

}  // namespace unsere

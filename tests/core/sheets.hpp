// Claims about how far the cells of a workbook reach, whatever its bytes.
#pragma once

#include <random>
#include <string>

#include "../../src/core/sheet_extent.hpp"
#include "check.hpp"

static unsere::SheetExtent extent_of(const std::string& text) { return unsere::sheet_extent(text.data(), text.size()); }

static void references_are_places_or_none() {
  double row = 0, column = 0;
  claim(unsere::read_reference("XFD1048576", &row, &column) && row == 1048576 && column == 16384, "the last place of a sheet");
  for (const char* odd : {"A-2", "A0", "A01", "a5", "", "A", "7", "AAAA1", "XFE1", "A1048577", "A1 ", "A99999999999"}) {
    claim(!unsere::read_reference(odd, &row, &column), "is no place");
  }
  claim(unsere::reference_of(12, 28) == "AB12", "a place has one name");
}

static void filled_cells_tell_how_far_a_sheet_reaches() {
  const auto found = extent_of("<row r=\"2\"><c r=\"B2\"><v>1</v></c><c r='AA2'><is><t>x</t></is></c></row>"
                               "<row r=\"9\"><c r=\"ZZ9\" s=\"1\"/></row><row><c><f>1</f></c></row>");
  claim(found.filled == 3 && found.rows == 10 && found.columns == 27 && found.odd.empty(), "blank cells do not count");
  claim(found.last_column == "AA2" && found.last_row == "A10", "and the furthest are named");
  claim(extent_of("<!-- <c x=\" --><c r=\"A-2\"/>").odd == "A-2", "a comment hides no cell");
  claim(extent_of("<![CDATA[<c r=\"A-2\"/>]]>").odd.empty(), "and literal text is none");
  claim(unsere::xml_depth("<a><b><c/></b></a>", 18) == 2, "elements within elements are counted");
  const std::string table = "<t:table t:name=\"S\"><t:table-row t:number-rows-repeated=\"3\"><t:table-cell t:number-columns-repeated=\"4\""
                            " o:value-type=\"float\"/></t:table-row><t:table-row><t:table-cell><x:p>a</x:p></t:table-cell></t:table-row></t:table>";
  const auto tables = unsere::table_extents(table.data(), table.size());
  claim(tables.size() == 1 && tables[0].rows == 4 && tables[0].columns == 4 && tables[0].filled == 2, "what repeats counts once");
}

static void no_bytes_lead_astray() {
  std::mt19937 draw(7);
  const std::string parts[] = {"<c r=\"", "A1", "\"", "'", ">", "<", "/", "<v>", "</c>", "<!--", "-->", "<row", " r=", "-2", "=", "\n", "<t:table",
                               "<![CDATA[", "]]>", "<?", "?>", "&", "number-rows-repeated=\"", "9", "<x:p>"};
  for (int k = 0; k < 20000; ++k) {
    std::string text;
    for (unsigned n = draw() % 30; n > 0; --n) text += parts[draw() % (sizeof parts / sizeof *parts)];
    extent_of(text);
    unsere::table_extents(text.data(), text.size());
    unsere::xml_depth(text.data(), text.size());
  }
  claim(true, "twenty thousand random texts were read to their ends");
}

static void claims_about_sheets() {
  references_are_places_or_none();
  filled_cells_tell_how_far_a_sheet_reaches();
  no_bytes_lead_astray();
}

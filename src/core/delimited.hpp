// Delimited text by one set of rules for the whole file: RFC 4180 and the habits that depart from it.
//
// A field that begins with a quote, after spaces or not, goes on to the next quote that is followed by a delimiter or
// the end of the line; a quote written twice is one quote. A quote within a field that does not begin with one is a
// character like others. Lines end with LF, CR LF or, where no LF stands in the file, CR.
#pragma once

#include <cstddef>
#include <cstdint>
#include <fstream>
#include <stdexcept>
#include <string>
#include <vector>

#include "stop.hpp"

namespace unsere {

// What each record of a text looks like; a record is a line, or several where a text in quotes goes on over them.
struct Records {
  std::vector<std::int32_t> line;    // where it begins, counted from 1
  std::vector<std::int32_t> fields;  // how many it has; 0 in a line of white space
  std::vector<std::int32_t> filled;  // how many of them hold something
  std::vector<std::int32_t> ends;    // 1 where the last one is blank
  bool doubled = false;              // whether a quote inside quotes is written twice anywhere
  bool proper = true;                // whether every quote stands where RFC 4180 has it
  std::int32_t open = 0;             // the line of a quote that never closes
};

// Bytes of a file, a block at a time, with the one that follows in sight.
class Bytes {
 public:
  explicit Bytes(const std::string& path) : file_(path, std::ios::binary), block_(1 << 20) { fill(); }
  bool readable() const { return readable_; }
  // The next byte, or -1 at the end.
  int peek() {
    if (at_ == held_ && !fill()) return -1;
    return static_cast<unsigned char>(block_[at_]);
  }
  void next() {
    ++at_;
    ++passed_;
  }
  double passed() const { return passed_; }
  // What is held from here on, and moving over some of it at once.
  const char* held(std::size_t* length) {
    if (at_ == held_) fill();
    *length = held_ - at_;
    return block_.data() + at_;
  }
  void move(std::size_t length) {
    at_ += length;
    passed_ += static_cast<double>(length);
  }

 private:
  bool fill() {
    readable_ = readable_ && (file_.is_open() && !file_.bad());
    if (!readable_ || file_.eof()) return false;
    file_.read(block_.data(), static_cast<std::streamsize>(block_.size()));
    held_ = static_cast<std::size_t>(file_.gcount());
    at_ = 0;
    if (file_.bad()) readable_ = false;
    return held_ > 0;
  }
  std::ifstream file_;
  std::vector<char> block_;
  std::size_t at_ = 0, held_ = 0;
  double passed_ = 0;
  bool readable_ = true;
};

// Walks through a text and tells `field(text, filled)` of each field and `record(line, fields)` of each record, until
// the latter says that it has enough. Without `keep` texts are not gathered, only whether there is any.
template <typename Field, typename Record>
class Walk {
 public:
  Walk(Bytes& bytes, char delimiter, bool keep, Field field, Record record)
      : bytes_(bytes), delimiter_(static_cast<unsigned char>(delimiter)), keep_(keep), field_(field), record_(record) {
    stops_[delimiter_] = stops_['\n'] = stops_['\r'] = stops_['"'] = true;
  }

  bool proper = true, doubled = false;
  std::int32_t open = 0;
  bool returns_end_lines = false;

  void run() {
    skip_mark();
    while (bytes_.peek() >= 0 && open == 0) {
      if (++records_ % 65536 == 0) stop_point();
      const std::int32_t begins = line_;
      std::int32_t fields = 0;
      bool blank = true;
      do {
        read_field();
        if (open != 0) return;
        ++fields;
        blank = blank && !filled_;
        field_(text_, filled_);
      } while (take_delimiter());
      end_line();
      if (!record_(begins, fields == 1 && blank && !quoted_ ? 0 : fields)) return;
    }
  }

 private:
  void skip_mark() {
    for (const int mark : {0xEF, 0xBB, 0xBF}) {
      if (bytes_.peek() != mark) return;
      bytes_.next();
    }
  }
  bool at_end(int byte) const { return byte < 0 || byte == '\n' || (byte == '\r' && returns_end_lines); }
  bool take_delimiter() {
    if (bytes_.peek() != delimiter_) return false;
    bytes_.next();
    return true;
  }
  void end_line() {
    if (bytes_.peek() < 0) return;
    bytes_.next();
    ++line_;
  }
  bool is_space(int byte) const { return (byte == ' ' || byte == '\t') && byte != delimiter_; }

  // Most fields are plain and lie whole in what is held: where texts are not gathered they are passed over at once.
  bool pass_field() {
    std::size_t length = 0, count = 0;
    const char* held = bytes_.held(&length);
    if (length == 0 || held[0] == ' ' || held[0] == '\t') return false;
    while (count < length && !stops_[static_cast<unsigned char>(held[count])]) ++count;
    const std::size_t text = count;
    if (count + 1 < length && held[count] == '\r' && held[count + 1] == '\n') ++count;
    if (count == length || (held[count] != static_cast<char>(delimiter_) && held[count] != '\n')) return false;
    quoted_ = false;
    filled_ = text > 0;
    bytes_.move(count);
    return true;
  }

  void read_field() {
    if (!keep_ && pass_field()) return;
    text_.clear();
    quoted_ = filled_ = false;
    while (is_space(bytes_.peek())) bytes_.next();
    if (bytes_.peek() == '"') {
      bytes_.next();
      quoted_ = true;
      read_quoted();
      return;
    }
    read_plain();
    trim();
  }

  void read_plain() {
    for (;;) {
      std::size_t length = 0, count = 0;
      const char* held = bytes_.held(&length);
      if (length == 0) return;
      while (count < length && !stops_[static_cast<unsigned char>(held[count])]) ++count;
      if (count > 0) filled_ = true;
      if (keep_) text_.append(held, count);
      bytes_.move(count);
      if (count == length) continue;
      const int byte = bytes_.peek();
      if (byte == delimiter_ || at_end(byte)) return;
      // A CR before an LF belongs to it; one elsewhere is a character, as is a quote.
      bytes_.next();
      if (byte == '"' || (bytes_.peek() != '\n' && bytes_.peek() >= 0)) proper = false;
      if (byte == '"') filled_ = true;
      if (keep_) text_.push_back(static_cast<char>(byte));
    }
  }

  void trim() {
    std::size_t length = text_.size();
    while (length > 0 && (text_[length - 1] == ' ' || text_[length - 1] == '\t' || text_[length - 1] == '\r')) --length;
    text_.resize(length);
  }

  void read_quoted() {
    const std::int32_t begins = line_;
    bool lone = false;
    for (;;) {
      const int byte = bytes_.peek();
      if (byte < 0 || (lone && line_ > begins)) {
        open = begins;
        return;
      }
      bytes_.next();
      if (byte != '"') {
        if (byte == '\n') ++line_;
        filled_ = true;
        if (keep_) text_.push_back(static_cast<char>(byte));
        continue;
      }
      if (bytes_.peek() == '"') {
        bytes_.next();
        filled_ = doubled = true;
        if (keep_) text_.push_back('"');
        continue;
      }
      std::string after;
      while (is_space(bytes_.peek()) || (bytes_.peek() == '\r' && !returns_end_lines)) {
        after.push_back(static_cast<char>(bytes_.peek()));
        bytes_.next();
      }
      if (bytes_.peek() == delimiter_ || at_end(bytes_.peek())) {
        if (!after.empty() && after != "\r") proper = false;
        return;
      }
      // A quote inside the text that should have been written twice.
      lone = true;
      proper = false;
      filled_ = true;
      if (keep_) text_.append("\"").append(after);
    }
  }

  Bytes& bytes_;
  const int delimiter_;
  bool stops_[256] = {};  // the bytes that may end a field
  const bool keep_;
  Field field_;
  Record record_;
  std::string text_;
  bool quoted_ = false, filled_ = false;
  std::int32_t line_ = 1;
  std::size_t records_ = 0;
};

// Whether lines end with CR alone: the first line end of the text is one.
inline bool begins_with_return(const std::string& path) {
  Bytes bytes(path);
  for (int byte = bytes.peek(); byte >= 0; byte = bytes.peek()) {
    bytes.next();
    if (byte == '\n') return false;
    if (byte == '\r') return bytes.peek() != '\n';
  }
  return false;
}

template <typename Field, typename Record>
Walk<Field, Record> walk(Bytes& bytes, const std::string& path, char delimiter, bool keep, Field field, Record record) {
  Walk<Field, Record> out(bytes, delimiter, keep, field, record);
  out.returns_end_lines = begins_with_return(path);
  if (out.returns_end_lines) out.proper = false;
  out.run();
  return out;
}

// The records of a text; of its first `limit` bytes and the record that goes on beyond them, where that is above 0.
inline Records scan_delimited(const std::string& path, char delimiter, double limit) {
  Records out;
  Bytes bytes(path);
  if (!bytes.readable()) throw std::runtime_error("The text cannot be opened.");
  std::int32_t filled = 0;
  bool last = false;
  const auto walked = walk(
      bytes, path, delimiter, false,
      [&](const std::string&, bool any) {
        last = !any;
        filled += any ? 1 : 0;
      },
      [&](std::int32_t line, std::int32_t fields) {
        out.line.push_back(line);
        out.fields.push_back(fields);
        out.filled.push_back(filled);
        out.ends.push_back(last ? 1 : 0);
        filled = 0;
        return limit <= 0 || bytes.passed() < limit;
      });
  if (!bytes.readable()) throw std::runtime_error("The text cannot be read to its end.");
  out.proper = walked.proper;
  out.doubled = walked.doubled;
  out.open = walked.open;
  return out;
}

// The fields of the records from the `from`-th on (counted from 0), `count` of them, a row after the other; rows of
// fewer fields than the widest end before its end.
struct Grid {
  std::vector<std::string> texts;
  std::vector<std::size_t> begins;  // of each record, its first text; and one more, the end
};

inline Grid split_delimited(const std::string& path, char delimiter, std::size_t from, std::size_t count) {
  Grid out;
  Bytes bytes(path);
  if (!bytes.readable()) throw std::runtime_error("The text cannot be opened.");
  std::size_t at = 0;
  out.begins.push_back(0);
  walk(
      bytes, path, delimiter, true,
      [&](const std::string& text, bool) {
        if (at >= from) out.texts.push_back(text);
      },
      [&](std::int32_t, std::int32_t) {
        if (at++ >= from) out.begins.push_back(out.texts.size());
        return at < from + count;
      });
  if (!bytes.readable()) throw std::runtime_error("The text cannot be read to its end.");
  return out;
}

}  // namespace unsere

// How the moments of many columns are summed: segment by segment of cases, each block packed once and multiplied by tiles;
// missing values are NaN.
//
// What a pair lacks is taken off: for each column the sums of the others over the cases where it is missing, which costs
// a fraction of a second set of products when few values are missing.
#pragma once

#include <cstdint>

#include "cross_moments.hpp"
#include "tiles.hpp"
#include "parallel.hpp"
#include "stop.hpp"

namespace unsere {

constexpr std::size_t segment_rows = 8 * block_rows;
constexpr std::size_t segment_words = segment_rows / 64;
constexpr std::size_t narrow = 512;  // up to so many columns each thread takes a segment; beyond, all share one

// One segment's sums, and the room that they are worked out in.
struct Segment {
  AlignedRoom panels;
  std::vector<double> tiles, sums, lost_sums, lost_squares;
  std::vector<double> lost_counts;  // columns x columns, i < j: cases that either lacks
  std::vector<std::uint64_t> missing;
  bool any_missing = false;
};

class CrossProducts {
 public:
  CrossProducts(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel)
      : columns_(columns), rows_(rows), p_(columns.size()), threads_(std::max(threads, 1)), tiles_(p_, true, kernel) {}

  // The centre is that of a sample of the values; where it turns out too far from the mean, that of all of them.
  CrossMoments run() {
    centre_on(std::max<std::size_t>(1, rows_ / 512));
    CrossMoments out = sum_up();
    if (rows_ > 4096 && !sound(out)) {
      centre_on(1);
      out = sum_up();
    }
    return out;
  }

 private:
  void centre_on(std::size_t step) {
    centre_.assign(tiles_.across(), 0.0);
    scale_.assign(tiles_.across(), 0.0);
    in_parallel(p_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) column_mean(columns_[j], rows_, step, &centre_[j], &scale_[j]);
    });
  }

  bool sound(const CrossMoments& m) const {
    for (std::size_t i = 0; i < p_; ++i) {
      const double n = m.count(i, i), mean = m.sum(i, i) / n, q = m.square(i, i) / n;
      if (n > 0 && !(q < 1e200 && (q > 1e-200 || q == 0.0) && mean * mean <= 0.98 * q)) return false;
    }
    return true;
  }

  CrossMoments sum_up() {
    CrossMoments out;
    out.columns = p_;
    out.rows = static_cast<double>(rows_);
    out.centre.assign(centre_.begin(), centre_.begin() + static_cast<std::ptrdiff_t>(p_));
    out.scale.assign(scale_.begin(), scale_.begin() + static_cast<std::ptrdiff_t>(p_));
    const std::size_t segments = (rows_ + segment_rows - 1) / segment_rows;
    const std::size_t team = p_ <= narrow ? std::min<std::size_t>(static_cast<std::size_t>(threads_), std::max<std::size_t>(segments, 1)) : 1;
    const int inner = p_ <= narrow ? 1 : threads_;
    std::vector<Segment> work(team);
    Segment total;
    prepare(total);
    for (std::size_t first = 0; first < segments; first += team) {
      const std::size_t now = std::min(team, segments - first);
      in_parallel(now, static_cast<int>(team), [&](std::size_t from, std::size_t to) {
        for (std::size_t t = from; t < to; ++t) sum_segment(work[t], (first + t) * segment_rows, inner);
      });
      for (std::size_t t = 0; t < now; ++t) add(total, work[t]);
    }
    collect(total, out);
    return out;
  }

  void prepare(Segment& s) const {
    s.tiles.assign(tiles_.size(), 0.0);
    s.sums.assign(tiles_.across(), 0.0);
    s.any_missing = false;
  }

  void prepare_missing(Segment& s) const {
    s.lost_sums.assign(p_ * tiles_.across(), 0.0);
    s.lost_squares.assign(p_ * tiles_.across(), 0.0);
    s.lost_counts.assign(p_ * p_, 0.0);
  }

  void sum_segment(Segment& s, std::size_t start, int threads) const {
    const std::size_t rows = std::min(segment_rows, rows_ - start);
    prepare(s);
    s.panels.resize(tiles_.width());
    s.missing.assign(tiles_.across() * segment_words, 0);
    for (std::size_t block = 0; block < rows; block += block_rows) {
      stop_point();
      const std::size_t count = std::min(block_rows, rows - block);
      const bool lost = pack_block(s, start, block, count, threads);
      in_parallel(tiles_.count(), threads, [&](std::size_t from, std::size_t to) {
        for (std::size_t t = from; t < to; t += 1024) {
          stop_point();
          tiles_.multiply(count, &s.panels[0], &s.panels[0], t, std::min(to, t + 1024), s.tiles.data());
        }
      });
      if (!lost) continue;
      if (!s.any_missing) prepare_missing(s);
      s.any_missing = true;
      in_parallel(p_, threads, [&](std::size_t from, std::size_t to) { take_off(s, block, count, from, to); });
    }
    if (s.any_missing) count_lost(s, rows, threads);
  }

  bool pack_block(Segment& s, std::size_t start, std::size_t block, std::size_t count, int threads) const {
    const std::size_t L = tiles_.lanes();
    std::vector<char> lost(tiles_.panels, 0);
    in_parallel(tiles_.panels, threads, [&](std::size_t from, std::size_t to) {
      std::vector<const double*> columns(L);
      for (std::size_t panel = from; panel < to; ++panel) {
        // Beyond the last column the first one stands in, at scale zero.
        for (std::size_t c = 0; c < L; ++c) columns[c] = columns_[panel * L + c < p_ ? panel * L + c : panel * L] + start + block;
        const Packing packing{columns.data(), &centre_[panel * L], &scale_[panel * L], count,
                              &s.panels[panel * tiles_.panel_size()], &s.missing[panel * L * segment_words + block / 64],
                              segment_words};
        lost[panel] = tiles_.kernel.pack(packing, &s.sums[panel * L]);
      }
    });
    return std::find(lost.begin(), lost.end(), 1) != lost.end();
  }

  // For the columns from .. to - 1: the sums of every column, and of its squares, over the block's cases that they lack.
  void take_off(Segment& s, std::size_t block, std::size_t count, std::size_t from, std::size_t to) const {
    RowLists lacking;
    for (std::size_t j = from; j < to; ++j, lacking.close())
      for (std::size_t w = 0; w * 64 < count; ++w)
        for (std::uint64_t rest = s.missing[j * segment_words + block / 64 + w]; rest; rest &= rest - 1)
          lacking.add(w * 64 + static_cast<std::size_t>(lowest_bit(rest)));
    const std::size_t apart = tiles_.across();
    tiles_.add_lists(&s.panels[0], lacking, {&s.lost_sums[from * apart], apart}, {&s.lost_squares[from * apart], apart});
  }

  static int lowest_bit(std::uint64_t bits) {
#if defined(__GNUC__) || defined(__clang__)
    return __builtin_ctzll(bits);
#else
    int at = 0;
    while (!(bits >> at & 1)) ++at;
    return at;
#endif
  }

  void count_lost(Segment& s, std::size_t rows, int threads) const {
    const std::size_t words = (rows + 63) / 64;
    in_parallel(p_, threads, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j)
        for (std::size_t i = 0; i <= j; ++i)
          s.lost_counts[i + j * p_] += static_cast<double>(
              tiles_.kernel.count_either(&s.missing[i * segment_words], &s.missing[j * segment_words], words));
    });
  }

  static void add_all(std::vector<double>& to, const std::vector<double>& from) {
    for (std::size_t k = 0; k < from.size(); ++k) to[k] += from[k];
  }

  void add(Segment& total, const Segment& s) const {
    add_all(total.tiles, s.tiles);
    add_all(total.sums, s.sums);
    if (!s.any_missing) return;
    if (!total.any_missing) prepare_missing(total);
    total.any_missing = true;
    add_all(total.lost_sums, s.lost_sums);
    add_all(total.lost_squares, s.lost_squares);
    add_all(total.lost_counts, s.lost_counts);
  }

  void collect(const Segment& total, CrossMoments& out) const {
    out.products.assign(p_ * p_, 0.0);
    for (std::size_t j = 0; j < p_; ++j)
      for (std::size_t i = 0; i <= j; ++i)
        out.products[i + j * p_] = out.products[j + i * p_] = total.tiles[tiles_.at(i, j)];
    out.sums.assign(total.sums.begin(), total.sums.begin() + static_cast<std::ptrdiff_t>(p_));
    if (!total.any_missing) return;
    out.expand();
    for (std::size_t j = 0; j < p_; ++j)
      for (std::size_t i = 0; i < p_; ++i) {
        out.sums[i + j * p_] -= total.lost_sums[j * tiles_.across() + i];
        out.squares[i + j * p_] -= total.lost_squares[j * tiles_.across() + i];
        out.counts[i + j * p_] -= total.lost_counts[i <= j ? i + j * p_ : j + i * p_];
      }
  }

  const std::vector<const double*>& columns_;
  std::size_t rows_, p_;
  int threads_;
  Tiles tiles_;
  std::vector<double> centre_, scale_;
};

inline CrossMoments cross_moments(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel = 0) {
  return CrossProducts(columns, rows, threads, kernel).run();
}

}  // namespace unsere

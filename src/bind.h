// What every binding shares: columns of R as plain memory, results as lists, and work that can be interrupted.
//
// The entry points are marked for cpp11, which checks the types of what they are given and writes the registration
// (src/cpp11.cpp, R/cpp11.R). Nothing of R is called while the core computes.
#pragma once

#include "core/contract.hpp"

#include <chrono>
#include <exception>
#include <future>
#include <new>
#include <system_error>
#include <utility>
#include <vector>

#include "core/resample.hpp"
#include "core/spreads.hpp"
#include "cpp11.hpp"

inline cpp11::writable::doubles to_doubles(const std::vector<double>& values) {
  return cpp11::writable::doubles(values.begin(), values.end());
}

inline cpp11::list to_list(const unsere::Tally& tally) {
  using namespace cpp11::literals;
  return cpp11::writable::list({"above"_nm = tally.above, "below"_nm = tally.below, "outside"_nm = tally.outside});
}

inline cpp11::list spreads_list(const unsere::Spreads& found) {
  using namespace cpp11::literals;
  return cpp11::writable::list({"mean"_nm = to_doubles(found.mean), "sd"_nm = to_doubles(found.sd), "n"_nm = to_doubles(found.n)});
}

// A seed comes as a whole number in a double.
inline std::uint64_t to_seed(double seed) { return static_cast<std::uint64_t>(static_cast<std::int64_t>(seed)); }

// One or more double vectors of equal length.
struct Columns {
  std::vector<const double*> values;
  std::size_t rows = 0;
};

inline const double* values_of(const cpp11::doubles& x) { return cpp11::safe[REAL](x); }

inline std::size_t length_of(const cpp11::doubles& x) { return static_cast<std::size_t>(x.size()); }

inline void check_lengths(const cpp11::doubles& x, const cpp11::doubles& y) {
  if (x.size() != y.size()) cpp11::stop("The columns differ in length.");
}

inline Columns columns_of(const cpp11::list& columns) {
  Columns out;
  for (R_xlen_t j = 0; j < columns.size(); ++j) {
    const cpp11::doubles column(columns[j]);
    if (j == 0) out.rows = length_of(column);
    if (length_of(column) != out.rows) cpp11::stop("The columns differ in length.");
    out.values.push_back(values_of(column));
  }
  return out;
}

inline bool interrupt_waits() {
  return R_ToplevelExec([](void*) { R_CheckUserInterrupt(); }, nullptr) == FALSE;
}

// Computes on a thread of its own while this one looks for an interrupt; where no thread can be started, right here.
template <typename Work>
auto run_interruptibly(Work work) -> decltype(work()) {
  unsere::stop_flag() = false;
  std::future<decltype(work())> result;
  try {
    result = std::async(std::launch::async, work);
  } catch (const std::system_error&) {
    return work();
  }
  bool stopped = false;
  while (result.wait_for(std::chrono::milliseconds(stopped ? 5 : 50)) != std::future_status::ready)
    if (!stopped && interrupt_waits()) unsere::stop_flag() = stopped = true;
  unsere::stop_flag() = false;
  if (stopped) {
    try {
      result.get();
    } catch (const std::exception&) {
      // What was begun is left behind with its memory freed.
    }
    cpp11::package("rlang")["interrupt"]();
  }
  try {
    return result.get();
  } catch (const std::bad_alloc&) {
    cpp11::package("unsere")["abort_memory"]();
    throw;
  }
}

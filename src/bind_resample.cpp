#include "bind.h"
#include "core/exact.hpp"
#include "core/resample.hpp"

using namespace cpp11::literals;

namespace {

std::size_t length_of(SEXP x) { return static_cast<std::size_t>(Rf_xlength(x)); }

// A seed comes as a whole number in a double.
std::uint64_t to_seed(SEXP seed) { return static_cast<std::uint64_t>(static_cast<std::int64_t>(Rf_asReal(seed))); }

SEXP to_list(const unsere::Tally& tally) {
  return cpp11::writable::list({"above"_nm = tally.above, "below"_nm = tally.below, "outside"_nm = tally.outside});
}

}  // namespace

SEXP unsere_ranks(SEXP x) {
  BEGIN_CPP11
  auto ranking = unsere::rank_values(REAL(x), length_of(x));
  cpp11::writable::doubles out(static_cast<R_xlen_t>(ranking.doubled.size()));
  for (std::size_t i = 0; i < ranking.doubled.size(); ++i)
    out[static_cast<R_xlen_t>(i)] = static_cast<double>(ranking.doubled[i]) / 2.0;
  return out;
  END_CPP11
}

SEXP unsere_bootstrap(SEXP x, SEXP y, SEXP ranked, SEXP resamples, SEXP seed, SEXP threads) {
  BEGIN_CPP11
  auto draw = Rf_asLogical(ranked) ? unsere::bootstrap_spearman : unsere::bootstrap_pearson;
  return to_doubles(draw(REAL(x), REAL(y), length_of(x), static_cast<std::size_t>(Rf_asReal(resamples)), to_seed(seed),
                         Rf_asInteger(threads)));
  END_CPP11
}

SEXP unsere_leave_one_out(SEXP x, SEXP y, SEXP ranked, SEXP threads) {
  BEGIN_CPP11
  if (Rf_asLogical(ranked))
    return to_doubles(unsere::leave_one_out_spearman(REAL(x), REAL(y), length_of(x), Rf_asInteger(threads)));
  return to_doubles(unsere::leave_one_out_pearson(REAL(x), REAL(y), length_of(x)));
  END_CPP11
}

SEXP unsere_shuffle_test(SEXP x, SEXP y, SEXP shuffles, SEXP seed, SEXP threads) {
  BEGIN_CPP11
  return to_list(unsere::shuffle_test(REAL(x), REAL(y), length_of(x), static_cast<std::size_t>(Rf_asReal(shuffles)),
                                      to_seed(seed), Rf_asInteger(threads)));
  END_CPP11
}

SEXP unsere_exact_test(SEXP x, SEXP y, SEXP kind) {
  BEGIN_CPP11
  switch (Rf_asInteger(kind)) {
    case 1: return to_list(unsere::exact_spearman(REAL(x), REAL(y), length_of(x)));
    case 2: return to_list(unsere::exact_groups(REAL(x), REAL(y), length_of(x)));
    default: return to_list(unsere::exact_pearson(REAL(x), REAL(y), length_of(x)));
  }
  END_CPP11
}

SEXP unsere_exact_spearman(SEXP x, SEXP y, SEXP most_cells) {
  BEGIN_CPP11
  return to_list(unsere::exact_spearman(REAL(x), REAL(y), length_of(x), Rf_asReal(most_cells)));
  END_CPP11
}

SEXP unsere_uniforms(SEXP n, SEXP seed, SEXP stream) {
  BEGIN_CPP11
  unsere::Random random(to_seed(seed), static_cast<std::uint64_t>(Rf_asReal(stream)));
  std::vector<double> out(static_cast<std::size_t>(Rf_asReal(n)));
  for (auto& value : out) value = random.uniform();
  return to_doubles(out);
  END_CPP11
}

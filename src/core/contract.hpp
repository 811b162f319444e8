// Products and sums are rounded one by one, so that the digits are the same on processors that could do both at once. To be
// included before anything else.
#pragma once

#if defined(__clang__)
#pragma clang fp contract(off)
#elif defined(__GNUC__)
#pragma GCC optimize("fp-contract=off")
#endif

#define CATCH_CONFIG_MAIN
#include <catch2/catch.hpp>

#include <clocale>

// As Qt does in the window: under the locale that scripts/test sets, C's own functions write a decimal comma.
[[maybe_unused]] static const char* const locale_taken = std::setlocale(LC_ALL, "");

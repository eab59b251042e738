// What a person reads of a role: one table for the window, papers and reports.
#pragma once

#include <array>

#include "piece/role.h"

namespace bevelsmith::piece {

struct RoleWords {
    const char *id, *brief, *sentence;  ///< in files and reports; in a list; after "it"
};

inline constexpr std::array<RoleWords, 5> role_words{{
    {"new", "new", "is new"},
    {"stays", "stays", "stays"},
    {"comes out", "comes out", "comes out for good"},
    {"goes back", "goes back", "is taken out and goes back"},
    {"replaced", "is replaced", "comes out, and something new takes its place"},
}};

constexpr const RoleWords& words_of(Role role) {
    return role_words[static_cast<std::size_t>(role)];
}

}  // namespace bevelsmith::piece

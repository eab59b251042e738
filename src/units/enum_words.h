// Enumerators with their words as pairs, checked when they are compiled.
#pragma once

#include <array>
#include <cstddef>
#include <string_view>

namespace bevelsmith::units {

template <class E>
struct EnumWord {
    E value;
    const char* word;
};

/// Whether an enum has an enumerator of that value: the compiler spells one by its name, any other number as a cast.
template <auto value>
consteval bool is_enumerator() {
    constexpr std::string_view here = __PRETTY_FUNCTION__;
    return here[here.rfind("value = ") + 8] != '(';
}

/// Whether the enumerators 0 to count - 1 are all that E has.
template <class E, std::size_t count>
consteval bool covers() {
    return is_enumerator<static_cast<E>(count - 1)>() && !is_enumerator<static_cast<E>(count)>();
}

/// The words of all enumerators of E, numbered from 0, in their order. Does not compile where one is missing, stands
/// in another's place, or has another's word.
template <class E, std::size_t count>
consteval std::array<const char*, count> words(const EnumWord<E> (&all)[count]) {
    static_assert(covers<E, count>(), "an enumerator has no word");
    std::array<const char*, count> out{};
    for (std::size_t i = 0; i < count; ++i) {
        if (all[i].value != static_cast<E>(i)) throw "a word stands in another enumerator's place";
        for (std::size_t k = 0; k < i; ++k)
            if (std::string_view(all[k].word) == all[i].word) throw "two enumerators have one word";
        out[i] = all[i].word;
    }
    return out;
}

}  // namespace bevelsmith::units

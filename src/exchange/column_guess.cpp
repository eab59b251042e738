#include "exchange/column_guess.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace bevelsmith::exchange {
namespace {

/// Small letters and digits, other signs as one blank: "Half-breadth (mm)" is "half breadth mm".
std::string plain_words(std::string_view heading) {
    std::string out;
    for (const char c : heading) {
        if (std::isalnum(static_cast<unsigned char>(c)))
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        else if (!out.empty() && out.back() != ' ') out += ' ';
    }
    while (!out.empty() && out.back() == ' ') out.pop_back();
    return out;
}

struct Meaning {
    std::string_view number;
    std::vector<std::string_view> headings;  ///< the likeliest first
};

const std::array meanings{
    Meaning{"fwd", {"fwd", "forward", "station", "sta", "stn", "frame", "x", "along"}},
    Meaning{"port", {"port", "half breadth", "halfbreadth", "breadth", "half", "hb", "offset", "out", "y", "across"}},
    Meaning{"up", {"up", "height", "waterline", "wl", "level", "z", "h"}},
    Meaning{"x", {"x", "e", "easting", "east"}},
    Meaning{"y", {"y", "n", "northing", "north"}},
    Meaning{"z", {"z", "h", "height", "elevation", "up"}},
    Meaning{"along", {"station", "sta", "stn", "along", "x", "fwd", "mark"}},
    Meaning{"distance", {"distance", "dist", "offset", "ordinate", "half breadth", "out", "y"}},
    Meaning{"across", {"across", "half breadth", "breadth", "out", "offset", "y", "u", "x"}},
    Meaning{"range", {"range", "distance", "dist", "length"}},
    Meaning{"turn", {"turn", "azimuth", "horizontal", "hz", "bearing"}},
    Meaning{"rise", {"rise", "elevation", "vertical", "v", "inclination"}},
};
constexpr std::array<std::string_view, 4> of_sigma{"sigma", "sd", "uncertainty", "error"};
constexpr std::array<std::string_view, 4> of_note{"note", "notes", "remark", "comment"};

/// How well a heading says a word: 2 exactly, 1 beginning with it, 0 not.
int says(const std::string& heading, std::string_view word) {
    if (heading == word) return 2;
    return heading.starts_with(word) && heading.size() > word.size() && heading[word.size()] == ' ' ? 1 : 0;
}

template <class Words>
int best_column(const std::vector<std::string>& headings, const std::vector<bool>& taken, const Words& words) {
    for (const std::string_view word : words)
        for (const int exactly : {2, 1})
            for (std::size_t c = 0; c < headings.size(); ++c)
                if (!taken[c] && says(headings[c], word) == exactly) return static_cast<int>(c);
    return -1;
}

}  // namespace

ReadingColumns guess_columns(std::span<const std::string> headings, std::span<const survey::Column> numbers) {
    std::vector<std::string> plain;
    for (const auto& heading : headings) plain.push_back(plain_words(heading));
    std::vector<bool> taken(plain.size(), false);
    const auto take = [&](int column) {
        if (column >= 0) taken[static_cast<std::size_t>(column)] = true;
        return column;
    };
    ReadingColumns out;
    for (const auto& number : numbers) {
        const auto meaning =
            std::find_if(meanings.begin(), meanings.end(), [&](const Meaning& m) { return m.number == number.name; });
        out.values.push_back(meaning == meanings.end() ? -1 : take(best_column(plain, taken, meaning->headings)));
    }
    out.sigma = take(best_column(plain, taken, of_sigma));
    out.note = take(best_column(plain, taken, of_note));
    const bool any_heading = std::any_of(taken.begin(), taken.end(), [](bool t) { return t; });
    for (std::size_t k = 0; k < numbers.size(); ++k) {
        if (out.values[k] >= 0 || numbers[k].optional) continue;
        const auto free = std::find(taken.begin(), taken.end(), false);
        if (free != taken.end()) out.values[k] = take(static_cast<int>(free - taken.begin()));
    }
    // Four columns without a word about them: the last is how sure each is.
    if (!any_heading && out.sigma < 0 && plain.size() == numbers.size() + 1)
        out.sigma = take(static_cast<int>(plain.size()) - 1);
    return out;
}

}  // namespace bevelsmith::exchange

// Lengths from bars: as cheap as the integer program over all patterns says, which CBC solves (library, independent
// of the columns that ours generates).
#include <catch2/catch.hpp>

#include <cstdlib>
#include <random>
#include <sstream>

#include "sheets/lengths.h"
#include "support/jobs.h"

using namespace bevelsmith;
using namespace bevelsmith::sheets;

namespace {

/// Random lengths of a fit-out: cleats, bearers, lippings.
LengthProblem random_problem(unsigned seed, int kinds, int most_of_each) {
    std::mt19937 random(seed);
    const auto between = [&](int low, int high) {
        return low + static_cast<int>(random() % static_cast<unsigned>(high - low + 1));
    };
    LengthProblem out;
    out.kerf_mm = between(0, 4);
    const int bars = between(1, 3);
    for (int b = 0; b < bars; ++b)
        out.bars.push_back({"bar " + std::to_string(b), 1800.0 + 300 * between(0, 8), 0, -1, {}});
    const bool priced = random() % 2 == 0;
    for (auto& bar : out.bars)
        if (priced) bar.cost = 0.25 * between(12, 60);
    if (random() % 3 == 0)
        out.bars.push_back({"left over", 700.0 + between(0, 500), priced ? 0.5 : 0.0, between(1, 3), {}});
    for (int k = 0; k < kinds; ++k)
        out.parts.push_back(
            {"L" + std::to_string(k), static_cast<double>(between(180, 1700)), between(1, most_of_each), {}});
    return out;
}

/// Every way to fill a bar, none with room for one more of anything.
void patterns_of(const LengthProblem& p, double room, std::size_t from, std::vector<int>& taken,
                 std::vector<std::vector<int>>& out) {
    if (from == p.parts.size()) {
        for (std::size_t k = 0; k < taken.size(); ++k)
            if (taken[k] < p.parts[k].quantity && p.parts[k].length_mm + p.kerf_mm <= room + 1e-9) return;
        out.push_back(taken);
        return;
    }
    const double each = p.parts[from].length_mm + p.kerf_mm;
    for (int n = 0; n <= p.parts[from].quantity && n * each <= room + 1e-9; ++n) {
        taken[from] = n;
        patterns_of(p, room - n * each, from + 1, taken, out);
    }
    taken[from] = 0;
}

/// The optimum by CBC.
double by_cbc(const LengthProblem& p, const jobs::Folder& folder) {
    bool priced = true;
    for (const auto& bar : p.bars) priced = priced && bar.cost > 0;
    std::ostringstream goal, wanted, stock, whole;
    std::vector<std::ostringstream> rows(p.parts.size());
    int number = 0;
    for (std::size_t b = 0; b < p.bars.size(); ++b) {
        std::vector<std::vector<int>> patterns;
        std::vector<int> taken(p.parts.size(), 0);
        patterns_of(p, p.bars[b].length_mm + p.kerf_mm, 0, taken, patterns);
        std::ostringstream used;
        for (const auto& pattern : patterns) {
            const std::string x = "x" + std::to_string(number++);
            goal << " + " << (priced ? p.bars[b].cost : p.bars[b].length_mm) << ' ' << x;
            whole << ' ' << x << '\n';
            used << " + " << x;
            for (std::size_t k = 0; k < pattern.size(); ++k)
                if (pattern[k] > 0) rows[k] << " + " << pattern[k] << ' ' << x;
        }
        if (p.bars[b].count >= 0) stock << " s" << b << ":" << used.str() << " <= " << p.bars[b].count << '\n';
    }
    for (std::size_t k = 0; k < rows.size(); ++k)
        wanted << " w" << k << ":" << rows[k].str() << " >= " << p.parts[k].quantity << '\n';
    jobs::write(folder.file("p.lp"), "Minimize\n obj:" + goal.str() + "\nSubject To\n" + wanted.str() + stock.str() +
                                         "General\n" + whole.str() + "End\n");
    const std::string command =
        "cbc " + folder.file("p.lp") + " ratioGap 0 solve solution " + folder.file("out") + " >/dev/null";
    REQUIRE(std::system(command.c_str()) == 0);
    const std::string text = jobs::read(folder.file("out"));
    INFO(text.substr(0, 200));
    REQUIRE(text.rfind("Optimal", 0) == 0);
    return std::stod(text.substr(text.find("value") + 5));
}

}  // namespace

TEST_CASE("fifty random cuttings cost what the integer program's optimum does", "[lengths]") {
    const jobs::Folder folder;
    int proved = 0, unplaced = 0;
    for (unsigned seed = 1; seed <= 50; ++seed) {
        const auto p = random_problem(seed, 4 + static_cast<int>(seed % 5), 1 + static_cast<int>(seed % 6));
        REQUIRE(fault_of(p).empty());
        const auto plan = cut_lengths(p, 20);
        INFO("seed " << seed);
        CHECK(violations(p, plan).empty());
        if (!plan.unplaced.empty()) {
            ++unplaced;  // longer than any bar: then CBC has no answer either
            double longest = 0;
            for (const auto& bar : p.bars) longest = std::max(longest, bar.length_mm);
            for (const auto& [part, count] : plan.unplaced)
                CHECK(p.parts[static_cast<std::size_t>(part)].length_mm > longest);
            continue;
        }
        CHECK(plan.cost == Approx(by_cbc(p, folder)).epsilon(1e-7));
        CHECK(plan.bound <= plan.cost + 1e-6);
        proved += plan.proved;
    }
    CHECK(proved == 50 - unplaced);
}

TEST_CASE("two hundred lengths: every one is cut once, near the bound", "[lengths]") {
    const auto p = random_problem(7, 120, 3);
    const auto plan = cut_lengths(p, 10);
    CHECK(violations(p, plan).empty());
    CHECK(plan.unplaced.empty());
    CHECK(plan.cost <= 1.02 * plan.bound);
}

TEST_CASE("grades, stock that ends and lengths longer than any bar", "[lengths]") {
    LengthProblem p;
    p.kerf_mm = 3;
    p.bars = {{"clear", 2400, 0, 1, "clear"}, {"common", 3000, 0, -1, "common"}};
    p.parts = {{"trim", 1000, 2, "clear"}, {"bearer", 900, 3, {}}, {"keel batten", 4000, 1, {}}};
    auto plan = cut_lengths(p);
    CHECK(violations(p, plan).empty());
    REQUIRE(plan.unplaced.size() == 1);
    CHECK(plan.unplaced.front() == std::pair(2, 1));
    for (const auto& bar : plan.bars)
        for (int part : bar.parts)
            if (p.parts[static_cast<std::size_t>(part)].grade == "clear") CHECK(bar.bar == 0);
    // A third length of trim has no clear bar left.
    p.parts[0].quantity = 3;
    plan = cut_lengths(p);
    CHECK(violations(p, plan).empty());
    int missing = 0;
    for (const auto& [part, count] : plan.unplaced) missing += part == 0 ? count : 0;
    CHECK(missing == 1);
    // The kerf counts: two of 1199 mm leave 2 mm of 2400 where the saw takes 3.
    p.parts = {{"half", 1199, 2, "clear"}};
    CHECK(cut_lengths(p).unplaced.size() == 1);
    p.kerf_mm = 2;
    CHECK(cut_lengths(p).unplaced.empty());
}

TEST_CASE("what cannot be cut is told before any work", "[lengths]") {
    LengthProblem p;
    CHECK(fault_of(p) == "there are no bars");
    p.bars = {{"bar", 2400, 0, -1, {}}};
    p.parts = {{"all", 100, 1001, {}}};
    CHECK(fault_of(p).find("at most 1000") != std::string::npos);
    p.parts = {{"none", 0, 1, {}}};
    CHECK(fault_of(p).find("'none'") != std::string::npos);
}

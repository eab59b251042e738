#include "nest_table.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <optional>

#include "exchange/parts_json.h"
#include "job/file_io.h"
#include "library_nest.h"
#include "sheets/layout.h"

using namespace bevelsmith;

namespace {

using Clock = std::chrono::steady_clock;
constexpr std::array<double, 5> moments{0.2, 1, 5, 20, 60};

/// The best so far at each moment.
struct Course {
    struct At {
        int sheets = 0;
        double utilisation = 0;
    };
    std::array<std::optional<At>, moments.size()> best;
    void tell(double seconds, int sheets, double utilisation) {
        for (std::size_t k = 0; k < moments.size(); ++k)
            if (seconds <= moments[k]) {
                auto& at = best[k];
                if (!at || sheets < at->sheets || (sheets == at->sheets && utilisation > at->utilisation))
                    at = At{sheets, utilisation};
            }
    }
};

void print(const char* who, const Course& course, double until) {
    fmt::print("  {:<10}", who);
    for (std::size_t k = 0; k < moments.size(); ++k) {
        if (moments[k] > until) continue;
        if (course.best[k]) fmt::print("  {:>2} sheets {:.3f}", course.best[k]->sheets, course.best[k]->utilisation);
        else fmt::print("  {:>15}", "none yet");
    }
    fmt::print("\n");
}

Course ours(const sheets::Problem& problem, double seconds) {
    Course out;
    const auto start = Clock::now();
    const auto now = [&] { return std::chrono::duration<double>(Clock::now() - start).count(); };
    sheets::NestOptions options;
    options.seconds = seconds;
    options.progress = [&](const sheets::Progress& p) {
        out.tell(now(), p.sheets, p.utilisation);
        return true;
    };
    const auto layout = sheets::nest(problem, options);
    out.tell(std::min(now(), seconds), static_cast<int>(layout.sheet_stock.size()), layout.utilisation);
    if (!layout.unplaced.empty()) fmt::print("  {} parts have no place\n", layout.unplaced.size());
    return out;
}

Course librarys(const sheets::Problem& problem, double seconds) {
    Course out;
    const auto start = Clock::now();
    const auto now = [&] { return std::chrono::duration<double>(Clock::now() - start).count(); };
    for (unsigned seed = 0; now() < seconds; ++seed) {
        const auto layout = library_nest(problem, seed);
        if (!layout) continue;
        out.tell(now(), static_cast<int>(layout->sheet_stock.size()), layout->utilisation);
    }
    return out;
}

}  // namespace

int bench_nest(const std::vector<std::string>& arguments) {
    double seconds = 60;
    bool alone = false;
    std::vector<std::string> files;
    for (std::size_t k = 0; k < arguments.size(); ++k) {
        if (arguments[k] == "--seconds" && k + 1 < arguments.size()) seconds = std::atof(arguments[++k].c_str());
        else if (arguments[k] == "--alone") alone = true;
        else files.push_back(arguments[k]);
    }
    if (files.empty()) {
        fmt::print(stderr, "bevelsmith-bench nest [--seconds S] [--alone] parts.json...\n");
        return 1;
    }
    for (const auto& file : files) {
        const auto text = job::read_file(file);
        const auto problem = text ? exchange::problem_from_json(*text) : Result<sheets::Problem>(text.error());
        if (!problem) {
            fmt::print(stderr, "{}:{}: {}\n", file, problem.error().line, problem.error().message);
            return 1;
        }
        fmt::print("{}\n  {:<10}", problem->name.empty() ? file : problem->name, "");
        for (double m : moments)
            if (m <= seconds) fmt::print("  {:>13} s", m);
        fmt::print("\n");
        print("bevelsmith", ours(*problem, seconds), seconds);
        std::fflush(stdout);
        if (!alone) print("libnest2d", librarys(*problem, seconds), seconds);
        std::fflush(stdout);
    }
    return 0;
}

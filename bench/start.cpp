// How long the program takes from its start to its first picture, beside a bare window of the same toolkit.
#include "start.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

namespace {

constexpr int times = 7;

/// Milliseconds until a program says "painted"; negative where it does not.
double milliseconds(const std::string& command) {
    const auto begin = std::chrono::steady_clock::now();
    FILE* out = popen((command + " 2>/dev/null").c_str(), "r");
    if (!out) return -1;
    char word[16] = {};
    const bool painted = std::fgets(word, sizeof word, out) && std::string(word) == "painted\n";
    const double took = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
    pclose(out);
    return painted ? took : -1;
}

/// The middle of several starts; the first, which reads from the disk, is not counted.
double usual(const std::string& command) {
    std::vector<double> all;
    for (int k = 0; k <= times; ++k) {
        const double one = milliseconds(command);
        if (one < 0) return -1;
        if (k > 0) all.push_back(one);
    }
    std::sort(all.begin(), all.end());
    return all[all.size() / 2];
}

}  // namespace

int bench_start() {
    const double bare = usual(BARE_WINDOW), empty = usual(BEVELSMITH_PROGRAM " --until-painted"),
                 demo = usual(BEVELSMITH_PROGRAM " --demo --until-painted");
    if (bare < 0 || empty < 0 || demo < 0) {
        fmt::print(stderr, "no window was painted: run this where there is a screen, or under xvfb-run\n");
        return 2;
    }
    fmt::print("start to first picture, middle of {}:\n", times);
    fmt::print("  a bare window       {:6.0f} ms\n", bare);
    fmt::print("  the first page      {:6.0f} ms, {:.1f} times that\n", empty, empty / bare);
    fmt::print("  with the demo       {:6.0f} ms, {:.1f} times that\n", demo, demo / bare);
    return 0;
}

// The rules of the house, held by tests: layers, headers that stand alone, no words that do not belong.
#include <catch2/catch.hpp>

#include <sys/wait.h>

#include <algorithm>
#include <atomic>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <regex>
#include <sstream>
#include <thread>

#include "job/job_file.h"
#include "support/jobs.h"
#include "support/study.h"

namespace fs = std::filesystem;

namespace {

const fs::path source = BEVELSMITH_SOURCE_DIR;

std::vector<fs::path> files_in(const fs::path& folder, std::initializer_list<const char*> endings) {
    std::vector<fs::path> out;
    for (const auto& entry : fs::recursive_directory_iterator(folder))
        for (const char* ending : endings)
            if (entry.path().extension() == ending) out.push_back(entry.path());
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<std::string> includes_of(const fs::path& file) {
    std::vector<std::string> out;
    std::istringstream in(jobs::read(file.string()));
    static const std::regex include("^\\s*#include\\s*[<\"]([^>\"]+)[>\"]");
    std::smatch found;
    for (std::string line; std::getline(in, line);)
        if (std::regex_search(line, found, include)) out.push_back(found[1]);
    return out;
}

/// Domains in the order of the work; each may use itself and those before it.
const std::vector<std::string> domains{"units",   "geometry",  "stock",    "survey",      "hull",
                                       "piece",   "furniture", "practice", "fixing",      "sheets",
                                       "weight",  "job",       "review",   "step_writer", "exchange",
                                       "imaging", "paper",     "cli",      "meter_sim",   "app"};

int rank(const std::string& domain) {
    const auto it = std::find(domains.begin(), domains.end(), domain);
    return it == domains.end() ? -1 : static_cast<int>(it - domains.begin());
}

bool of_the_window(const fs::path& header) {
    return header.string().find((source / "src/app").string()) == 0;
}

/// A header that the .cpp of its name includes before anything else has compiled alone when that .cpp did; the
/// window's with Qt's headers precompiled, as they are looked at here.
bool proven_by_the_build(const fs::path& header) {
    fs::path body = header;
    body.replace_extension(".cpp");
    if (!fs::exists(body)) return false;
    const auto first = includes_of(body);
    return !first.empty() && source / "src" / first.front() == header;
}

}  // namespace

TEST_CASE("every folder of src is a known domain", "[rules]") {
    for (const auto& entry : fs::directory_iterator(source / "src"))
        if (entry.is_directory()) CHECK(rank(entry.path().filename().string()) >= 0);
}

TEST_CASE("domains depend only on earlier ones", "[rules]") {
    for (const std::string& domain : domains)
        for (const auto& file : files_in(source / "src" / domain, {".h", ".cpp"}))
            for (const std::string& include : includes_of(file)) {
                const auto slash = include.find('/');
                const int other = slash == std::string::npos ? -1 : rank(include.substr(0, slash));
                INFO(file << " includes " << include);
                CHECK(other <= rank(domain));
            }
}

TEST_CASE("the command line does not reach into the window, nor the window into the command line", "[rules]") {
    for (const auto& file : files_in(source / "src/app", {".h", ".cpp"}))
        for (const std::string& include : includes_of(file)) CHECK(include.rfind("cli/", 0) == std::string::npos);
}

TEST_CASE("no Qt below the window, but for paper and the program that prints it", "[rules]") {
    for (const std::string& domain : domains) {
        if (domain == "app") continue;
        const bool may_use_gui = domain == "paper" || domain == "cli";
        for (const auto& file : files_in(source / "src" / domain, {".h", ".cpp"}))
            for (const std::string& include : includes_of(file)) {
                INFO(file << " includes " << include);
                const bool qt = std::regex_search(include, std::regex("^Q[A-Z]|^Qt"));
                CHECK((!qt || may_use_gui));
                CHECK(include.find("QtWidgets") == std::string::npos);
                CHECK(include.find("QWidget") == std::string::npos);
                CHECK(include.find("QApplication") == std::string::npos);
            }
    }
}

TEST_CASE("heavy headers stand behind a .cpp", "[rules]") {
    for (const auto& file : files_in(source / "src", {".h"}))
        for (const std::string& include : includes_of(file)) {
            INFO(file << " includes " << include);
            CHECK(include != "nlohmann/json.hpp");
            CHECK(include != "QtWidgets");
            CHECK(include.find("clipper") == std::string::npos);
            CHECK(include.find("boost/") != 0);
            CHECK(include.find("opencv2/") != 0);
        }
}

TEST_CASE("headers compile alone", "[headers]") {
    std::string flags = " -std=c++20 -fPIC -Wall -Wextra -Werror -I " + (source / "src").string();
    std::istringstream system_includes(BEVELSMITH_SYSTEM_INCLUDES);
    for (std::string folder; std::getline(system_includes, folder, ':');)
        if (!folder.empty() && folder != "/usr/include") flags += " -isystem " + folder;
    // The window's are built with Qt's headers precompiled, and looked at so as well: alone each would take seconds.
    const jobs::Folder folder;
    const std::string qt = folder.file("qt.h");
    jobs::write(qt, "#include <QtWidgets>\n#include <Eigen/Core>\n");
    REQUIRE(std::system(("g++" + flags + " -x c++-header " + qt + " -o " + qt + ".gch").c_str()) == 0);
    std::vector<fs::path> headers = files_in(source / "src", {".h"});
    std::erase_if(headers, proven_by_the_build);
    REQUIRE_FALSE(headers.empty());
    // A sample, those of a domain spread over it: every tenth.
    const auto nth = static_cast<std::size_t>(cases(1, 16));
    for (std::size_t i = 0; i * nth < headers.size(); ++i) headers[i] = headers[i * nth];
    headers.resize((headers.size() + nth - 1) / nth);
    // As many at once as there are cores.
    std::atomic<std::size_t> next = 0;
    std::vector<int> failed(headers.size(), 0);
    std::vector<std::thread> workers;
    for (unsigned k = 0; k < std::max(1U, std::thread::hardware_concurrency()); ++k)
        workers.emplace_back([&] {
            for (std::size_t i = next++; i < headers.size(); i = next++)
                failed[i] = std::system(("g++" + flags + (of_the_window(headers[i]) ? " -include " + qt : "") +
                                         " -fsyntax-only -x c++ -include " + headers[i].string() + " /dev/null")
                                            .c_str());
        });
    for (auto& w : workers) w.join();
    for (std::size_t i = 0; i < headers.size(); ++i) {
        INFO(headers[i]);
        CHECK(failed[i] == 0);
    }
}

TEST_CASE("every header says what it is before it says anything else", "[rules]") {
    for (const auto& file : files_in(source / "src", {".h"})) {
        const std::string text = jobs::read(file.string());
        INFO(file);
        CHECK(text.rfind("//", 0) == 0);
        CHECK(text.find("#pragma once") != std::string::npos);
    }
}

TEST_CASE("rooms stay small: no file over 600 lines", "[rules]") {
    for (const char* folder : {"src", "tests", "bench"})
        for (const auto& file : files_in(source / folder, {".h", ".cpp"})) {
            const std::string text = jobs::read(file.string());
            INFO(file);
            CHECK(std::count(text.begin(), text.end(), '\n') <= 600);
        }
}

TEST_CASE("the schema in docs is the one in the program", "[rules]") {
    CHECK(jobs::read((source / "docs/job.schema.json").string()) == bevelsmith::job::job_schema());
}

TEST_CASE("the examples' files are what their scripts write", "[rules]") {
    const jobs::Folder folder;
    for (const char* script : {"boats.py", "pattern_b2.json", "make_ternlight.py", "make_small_boats.py"})
        fs::copy_file(source / "demo" / script, folder.file(script));
    if (std::system("command -v python3 >/dev/null") != 0) {
        WARN("not looked at: there is no python3 here");
        return;
    }
    for (const char* script : {"make_ternlight.py", "make_small_boats.py"})
        REQUIRE(std::system(("python3 " + folder.file(script) + " >/dev/null").c_str()) == 0);
    for (const char* name : {"ternlight", "ketch", "workboat"})
        CHECK(jobs::read(folder.file(std::string(name) + ".job.json")) == jobs::read(jobs::demo_path(name)));
}

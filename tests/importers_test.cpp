// Files that are read, by one list: what a file is, what takes it, and that docs and fuzzing know of all.
#include <catch2/catch.hpp>

#include <algorithm>
#include <filesystem>
#include <set>

#include "exchange/importers.h"
#include "support/jobs.h"
#include "targets.h"

using namespace bevelsmith;
using namespace bevelsmith::exchange;

namespace {

std::string source(const std::string& path) {
    return jobs::read(std::string(BEVELSMITH_SOURCE_DIR) + "/" + path);
}

std::string_view kind_of(const std::string& contents) {
    const auto* importer = importer_for(contents);
    return importer ? importer->id : std::string_view("none");
}

}  // namespace

TEST_CASE("every kind of file stands in its place, and docs and fuzzing know of it", "[importers]") {
    std::set<std::string_view> ids;
    for (const Importer& i : importers()) {
        CHECK(&importer_of(i.kind) == &i);
        CHECK(ids.insert(i.id).second);
        CHECK_FALSE(i.suffixes.empty());
        CHECK(i.limit.most > 1'000'000);
        // What reads bytes of ours is fuzzed.
        const bool fuzzed = std::any_of(std::begin(fuzz::all), std::end(fuzz::all),
                                        [&](const auto& t) { return i.fuzz_target == t.name; });
        CHECK(fuzzed == (i.fault != nullptr));
    }
    CHECK(source("docs/files-in.md") == table_of_importers());
}

TEST_CASE("a file is what its contents say, whatever it is called", "[importers]") {
    CHECK(kind_of(jobs::ternlight_text()) == "job");
    CHECK(kind_of("{ \"bins\": [], \"parts\": [] }") == "parts");
    CHECK(kind_of(source("demo/template-flat.jpg")) == "picture");
    CHECK(kind_of(source("docs/screenshots/pieces.png")) == "picture");
    CHECK(kind_of("ply\nformat ascii 1.0\n") == "ply");
    CHECK(kind_of("  0\r\nSECTION\r\n  2\r\nENTITIES\r\n") == "dxf");
    CHECK(kind_of("999\nby somebody\n0\nSECTION\n2\nHEADER\n") == "dxf");
    CHECK(kind_of("station;height;half breadth\n0;100;712,5\n") == "table");
    CHECK(kind_of("0.1 0.2 0.3\n0.2 0.2 0.3\n") == "table");
    CHECK(kind_of("") == "none");
    CHECK(kind_of("no number in it") == "none");
    CHECK(kind_of(std::string(100, '\0')) == "none");
    CHECK(kind_of("{ \"something\": 1 }") == "none");
    // What fuzzing found that a reader takes is told as that reader's.
    int told = 0;
    for (const Importer& i : importers()) {
        if (!i.fault || i.kind == FileKind::table) continue;
        const auto folder = std::filesystem::path(BEVELSMITH_SOURCE_DIR) / "tests/corpus" / i.fuzz_target;
        for (const auto& file : std::filesystem::directory_iterator(folder)) {
            const std::string text = (i.kind == FileKind::ply ? "ply\n" : "") + jobs::read(file.path().string());
            if (i.fault(text)) continue;
            INFO(file.path().string());
            CHECK(kind_of(text) == i.id);
            ++told;
        }
    }
    CHECK(told >= 6);
}

TEST_CASE("what was chosen in the wrong place is told where it belongs", "[importers]") {
    const std::string words = taken_elsewhere(FileKind::drawing, jobs::ternlight_text());
    CHECK(words == "this is a job, not a drawing (DXF): Ctrl+O takes it");
    CHECK(taken_elsewhere(FileKind::job, jobs::ternlight_text()).empty());
    CHECK(taken_elsewhere(FileKind::job, "x,y,z\n1,2,3\n").find("Measure, Import") != std::string::npos);
    // What is nothing that is known is left to the reader, who says at which line.
    CHECK(taken_elsewhere(FileKind::table, "no number in it").empty());
    CHECK(importer_of(FileKind::job).fault(jobs::ternlight_text()) == std::nullopt);
    CHECK(importer_of(FileKind::job).fault("{ \"bevelsmith\": 1 ")->line > 0);
}

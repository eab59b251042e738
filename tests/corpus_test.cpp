// Replays tests/corpus through the fuzz targets: what fuzzing found and since.
#include <catch2/catch.hpp>

#include <filesystem>

#include "support/jobs.h"
#include "targets.h"

using namespace bevelsmith;

TEST_CASE("every file of the corpus goes through its parser without a fault", "[corpus]") {
    int replayed = 0;
    for (const auto& [name, target] : fuzz::all) {
        int of_target = 0;
        const auto folder = std::filesystem::path(BEVELSMITH_SOURCE_DIR) / "tests/corpus" / name;
        for (const auto& file : std::filesystem::directory_iterator(folder)) {
            INFO(file.path().string());
            const std::string bytes = jobs::read(file.path().string());
            // A broken promise aborts, which Catch reports with the file's name.
            CHECK(target(reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size()) == 0);
            // Every beginning of a small one as well: files are cut short.
            for (std::size_t n = 0; bytes.size() <= 400 && n < bytes.size(); ++n)
                CHECK(target(reinterpret_cast<const std::uint8_t*>(bytes.data()), n) == 0);
            ++of_target;
        }
        INFO(name);
        CHECK(of_target > 0);
        replayed += of_target;
    }
    CHECK(replayed >= 30);
}

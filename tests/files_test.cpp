// Files that are written beside others' and read by other programs: names and words that act, links, pipes,
// leftovers, a locale with a decimal comma.
#include <catch2/catch.hpp>

#include <sys/stat.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "exchange/cut_list.h"
#include "exchange/drawing.h"
#include "exchange/plain_text.h"
#include "job/file_io.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "support/foreign_dxf.h"
#include "support/jobs.h"
#include "support/study.h"

using namespace bevelsmith;
namespace fs = std::filesystem;

namespace {

std::size_t files_in(const jobs::Folder& folder) {
    return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder.path()), fs::directory_iterator()));
}

}  // namespace

TEST_CASE("words in a CSV are never formulas, and are quoted where they must be", "[files]") {
    using exchange::csv_cell;
    CHECK(csv_cell("plain") == "plain");
    CHECK(csv_cell("-12.5") == "-12.5");
    CHECK(csv_cell("+3") == "+3");
    CHECK(csv_cell("=1+2") == "\"'=1+2\"");
    CHECK(csv_cell("@SUM(A1)") == "\"'@SUM(A1)\"");
    CHECK(csv_cell("-cmd") == "\"'-cmd\"");
    CHECK(csv_cell("\t=1") == "\"' =1\"");
    CHECK(csv_cell("a\rb") == "\"a b\"");
    CHECK(csv_cell("a,\"b\"") == "\"a,\"\"b\"\"\"");
    CHECK(csv_cell(std::string_view("a\0b", 3)) == "\"a b\"");
}

TEST_CASE("control characters in names reach neither SVG nor CSV nor DXF", "[files]") {
    job::Job job = jobs::ternlight();
    job.pieces[0].name = std::string("door\0way\x01\x1b[31m\n<b>", 18);
    for (auto& edge : job.pieces[0].edges) edge.name = "hull\x02\r";
    const auto results = job::Pipeline().compute_pieces(job);
    const auto d = exchange::drawing_of(job, results, job.pieces[0].id);
    REQUIRE(d.ok());
    const jobs::Folder folder;
    REQUIRE(exchange::write_drawing(*d, exchange::Format::dxf, folder.file("x.dxf")).ok());
    CHECK(foreign::read_dxf(folder.file("x.dxf"), folder.path()).errors == 0);
    const std::string all[] = {exchange::svg_of(*d), exchange::csv_of(*d), exchange::ordinates_csv(*d),
                               exchange::cut_list_csv(exchange::cut_list(job, results), job.unit)};
    for (const std::string& text : all)
        for (const char c : text) CHECK((static_cast<unsigned char>(c) >= 0x20 || c == '\n'));
}

TEST_CASE("a file's name made of any other is plain", "[files]") {
    using exchange::safe_file_name;
    CHECK(safe_file_name("B1/2") == "B1-2");
    CHECK(safe_file_name("../../etc/passwd") == "etc-passwd");
    CHECK(safe_file_name("...") == "piece");
    CHECK(safe_file_name("") == "piece");
    CHECK(safe_file_name("Bücherregal 2") == "Bücherregal 2");
    const std::string longest = safe_file_name(std::string(79, 'a') + "ü" + std::string(500, 'b'));
    CHECK(longest == std::string(79, 'a'));
}

TEST_CASE("a link laid where the file beside would be is neither followed nor overwritten", "[files]") {
    const jobs::Folder folder;
    jobs::write(folder.file("victim"), "precious");
    fs::create_symlink(folder.file("victim"), folder.file("job.json.part"));
    REQUIRE(job::write_file_atomically(folder.file("job.json"), "new").ok());
    CHECK(jobs::read(folder.file("victim")) == "precious");
    CHECK(jobs::read(folder.file("job.json")) == "new");
    auto one = job::BesideFile::make(folder.file("job.json")), other = job::BesideFile::make(folder.file("job.json"));
    REQUIRE(one.ok());
    REQUIRE(other.ok());
    CHECK(one->path() != other->path());
    struct stat made {};
    REQUIRE(::lstat(one->path().c_str(), &made) == 0);
    CHECK(S_ISREG(made.st_mode));
}

TEST_CASE("what a killed writing left is cleared by the next, another's writing is not", "[files]") {
    const jobs::Folder folder;
    for (const char* name : {".job.json.abc123.part", ".job.json.def456.part", ".other.json.abc123.part"})
        jobs::write(folder.file(name), "half");
    const auto old = fs::file_time_type::clock::now() - std::chrono::hours(1);
    fs::last_write_time(folder.file(".job.json.abc123.part"), old);
    fs::last_write_time(folder.file(".other.json.abc123.part"), old);
    REQUIRE(job::write_file_atomically(folder.file("job.json"), "new").ok());
    CHECK_FALSE(fs::exists(folder.file(".job.json.abc123.part")));
    CHECK(fs::exists(folder.file(".job.json.def456.part")));
    CHECK(fs::exists(folder.file(".other.json.abc123.part")));
    CHECK(files_in(folder) == 3);
}

TEST_CASE("a new file has the usual mode, one that is replaced keeps its own", "[files]") {
    const jobs::Folder folder;
    const mode_t before = ::umask(022);
    REQUIRE(job::write_file_atomically(folder.file("a"), "1").ok());
    ::umask(before);
    struct stat made {};
    REQUIRE(::stat(folder.file("a").c_str(), &made) == 0);
    CHECK((made.st_mode & 0777) == 0644);
    REQUIRE(::chmod(folder.file("a").c_str(), 0640) == 0);
    REQUIRE(job::write_file_atomically(folder.file("a"), "2").ok());
    REQUIRE(::stat(folder.file("a").c_str(), &made) == 0);
    CHECK((made.st_mode & 0777) == 0640);
}

TEST_CASE("a pipe is not waited on: it is no file", "[files]") {
    const jobs::Folder folder;
    REQUIRE(::mkfifo(folder.file("pipe").c_str(), 0600) == 0);
    const auto read = job::read_file(folder.file("pipe"));
    REQUIRE_FALSE(read.ok());
    CHECK(read.error().message.find("pipe") != std::string::npos);
    CHECK_FALSE(job::write_file_atomically(folder.file("pipe"), "x").ok());
}

TEST_CASE("under a locale with a decimal comma every file is the same", "[files]") {
    // German is made here where the system has it not: what it is made of comes with the package locales.
    const jobs::Folder folder;
    const std::string made =
        "localedef -i de_DE -f UTF-8 " + folder.file("de_DE.UTF-8") + " 2> " + folder.file("said");
    REQUIRE(std::system(made.c_str()) == 0);
    const std::string german = "LOCPATH=" + folder.path() + " LC_ALL=de_DE.UTF-8 ";
    // That it is a locale with commas at all.
    REQUIRE(std::system((german + "bash -c 'printf %.1f 1,5' > " + folder.file("comma")).c_str()) == 0);
    REQUIRE(jobs::read(folder.file("comma")) == "1,5");
    const std::string job = jobs::demo_path("ketch");
    const auto both = [&](const std::string& arguments, const std::string& name) {
        for (const bool comma : {false, true}) {
            const std::string out = folder.file((comma ? "de-" : "c-") + name);
            const std::string command =
                (comma ? german : "LC_ALL=C ") + std::string(BEVELSMITH_CLI) + " " + arguments + " -o " + out;
            REQUIRE(std::system(command.c_str()) == 0);
        }
        return std::pair(jobs::read(folder.file("c-" + name)), jobs::read(folder.file("de-" + name)));
    };
    const auto same = [&](const std::string& arguments, const std::string& name) {
        INFO(arguments);
        const auto [plain, comma] = both(arguments, name);
        CHECK(plain.size() > 100);
        CHECK(plain == comma);
    };
    for (const std::string& format : cases<std::string>({"dxf", "csv", "svg", "ordinates"}, 2))
        same("export " + job + " --piece B1 --format " + format, "b1." + format);
    for (const std::string& what : cases<std::string>({"saw-cuts", "shopping", "cut-list", "lengths"}, 2))
        same("papers " + job + " --what " + what, what + ".csv");
    (void)both("papers " + job + " --what workbook", "book.xlsx");
    (void)both("papers " + job + " --what step", "all.step");
    (void)both("export " + job + " --piece B1 --format pdf", "b1.pdf");
    // The workbook opens, and its numbers are numbers.
    const std::string check =
        "/usr/bin/python3 -c \"import openpyxl,sys\nfor f in sys.argv[1:]:\n b=openpyxl.load_workbook(f)\n s=b['cut "
        "list']\n"
        " heads=[c.value for c in s[1]]\n k=heads.index('thickness_in')\n"
        " assert all(isinstance(r[k].value,(int,float)) for r in s.iter_rows(min_row=2)), f\n\" ";
    CHECK(std::system((check + folder.file("c-book.xlsx") + " " + folder.file("de-book.xlsx")).c_str()) == 0);
    // Solids and papers: the same but for the hour at which they were written.
    const auto without_hours = [](std::string text) {
        std::string out;
        std::istringstream in(text);
        for (std::string line; std::getline(in, line);)
            if (line.find("FILE_NAME") == std::string::npos && line.find("20") != 0) out += line + "\n";
        return out;
    };
    CHECK(without_hours(jobs::read(folder.file("c-all.step"))) ==
          without_hours(jobs::read(folder.file("de-all.step"))));
    for (const char* which : {"c-b1.pdf", "de-b1.pdf"})
        REQUIRE(
            std::system(("pdftotext -layout " + folder.file(which) + " " + folder.file(std::string(which) + ".txt"))
                            .c_str()) == 0);
    CHECK(jobs::read(folder.file("c-b1.pdf.txt")) == jobs::read(folder.file("de-b1.pdf.txt")));
}

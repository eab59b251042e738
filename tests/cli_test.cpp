// The command line as its users run it: exit codes, JSON out, faults as file:line: reason.
#include <fmt/format.h>
#include <catch2/catch.hpp>

#include <sys/wait.h>

#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <random>

#include "job/job_file.h"
#include "support/jobs.h"
#include "support/shapes.h"
#include "units/quantity.h"

using namespace bevelsmith;
using nlohmann::json;

namespace {

struct Ran {
    int code = -1;
    std::string out, err;
};

Ran run(const std::string& arguments) {
    const jobs::Folder folder;
    const std::string err = folder.file("err"), command = std::string(BEVELSMITH_CLI) + " " + arguments + " 2>" + err;
    Ran ran;
    FILE* pipe = popen(command.c_str(), "r");
    REQUIRE(pipe);
    char buffer[4096];
    while (const std::size_t n = std::fread(buffer, 1, sizeof buffer, pipe)) ran.out.append(buffer, n);
    const int status = pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : 128;
    ran.err = jobs::read(err);
    return ran;
}

std::string csv_of(const shapes::Shape& shape, int across, int along) {
    std::string out = "# x,y,z in mm\n";
    for (const auto& p : shapes::readings(shape, across, along, 1.5))
        out += fmt::format("{:.6f},{:.6f},{:.6f}\n", p.position.x(), p.position.y(), p.position.z());
    return out;
}

/// Bad input: exit 2 and `file:line: reason`.
void check_refused(const Ran& ran, const std::string& where) {
    INFO(ran.err);
    CHECK(ran.code == 2);
    CHECK(ran.out.empty());
    CHECK(ran.err.find(where) == 0);
    CHECK(std::count(ran.err.begin(), ran.err.end(), '\n') == 1);
}

}  // namespace

TEST_CASE("section of a sphere: circle, bevel and both faces", "[cli]") {
    const jobs::Folder folder;
    const std::string file = folder.file("sphere.csv");
    jobs::write(file, csv_of(shapes::sphere_cap(2000, bevelsmith::units::radians(50)), 40, 40));
    // The normal and d are scaled together: 2,0,0,1200 is the plane x = 600.
    const Ran ran = run("section " + file + " --plane 2,0,0,1200 --thickness 18 --inside 0,0,0");
    REQUIRE(ran.code == 0);
    const json out = json::parse(ran.out);
    REQUIRE(out["runs"].size() == 1);
    const json& r = out["runs"][0];
    const std::size_t n = r["face_a"].size();
    CHECK(n > 24);
    for (const char* key : {"face_b", "bevel_deg", "sigma_mm", "in_survey"}) CHECK(r[key].size() == n);
    const double bevel = -bevelsmith::units::degrees(std::asin(600.0 / 2000));
    int inside = 0;
    for (std::size_t i = 0; i < n; ++i) {
        CHECK(r["face_a"][i][0].get<double>() == Approx(600).margin(1e-6));
        CHECK(r["face_b"][i][0].get<double>() == Approx(618).margin(1e-6));
        if (!r["in_survey"][i].get<bool>()) continue;
        ++inside;
        const auto radius = [](const json& p) { return std::hypot(p[1].get<double>(), p[2].get<double>()); };
        CHECK(radius(r["face_a"][i]) == Approx(std::sqrt(2000.0 * 2000 - 600 * 600)).margin(0.06));
        CHECK(radius(r["face_b"][i]) == Approx(std::sqrt(2000.0 * 2000 - 618 * 618)).margin(0.06));
        CHECK(r["bevel_deg"][i].get<double>() == Approx(bevel).margin(0.05));
        CHECK(r["sigma_mm"][i].get<double>() > 0);
    }
    CHECK(inside > 20);
    CHECK(out["fit"]["rms_mm"].get<double>() < 0.05);
    CHECK(out["fit"]["suspects"].empty());
}

TEST_CASE("section names suspects by their line in the file", "[cli]") {
    const jobs::Folder folder;
    auto shape = shapes::wigley_side(4000, 2000, 1100);
    std::string text = csv_of(shape, 12, 12);
    // Line 70 of the file: 100 mm off to port.
    std::size_t at = 0;
    for (int line = 1; line < 70; ++line) at = text.find('\n', at) + 1;
    const std::size_t end = text.find('\n', at);
    const auto place = jobs::numbers_in(text.substr(at, end - at));
    REQUIRE(place.size() == 3);
    text.replace(at, end - at, fmt::format("{:.6f},{:.6f},{:.6f}", place[0], place[1] + 100, place[2]));
    jobs::write(folder.file("p.csv"), text);
    const Ran ran = run("section " + folder.file("p.csv") + " --plane 1,0,0,200 --thickness 12");
    REQUIRE(ran.code == 0);
    const json suspects = json::parse(ran.out)["fit"]["suspects"];
    REQUIRE(suspects.size() == 1);
    CHECK(suspects[0]["line"] == 70);
    CHECK(std::abs(suspects[0]["residual_mm"].get<double>()) == Approx(100).margin(15));
}

TEST_CASE("section refuses bad input with file and line", "[cli]") {
    const jobs::Folder folder;
    const std::string good = folder.file("good.csv"), bad = folder.file("bad.csv");
    jobs::write(good, csv_of(shapes::wigley_side(4000, 2000, 1100), 12, 12));
    jobs::write(bad, "1,2,3\n4,five,6\n");
    check_refused(run("section " + bad + " --plane 1,0,0,0 --thickness 12"), bad + ":2: ");
    check_refused(run("section " + folder.file("none.csv") + " --plane 1,0,0,0 --thickness 12"),
                  folder.file("none.csv") + ":1: ");
    check_refused(run("section " + good + " --plane 0,0,0,5 --thickness 12"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0,99999 --thickness 12"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0 --thickness 12"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0,nan --thickness 12"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0,0 --thickness 0"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0,0 --thickness 12 --inside 1,2"), good + ":1: ");
    check_refused(run("section " + good + " --plane 1,0,0,0"), "command line:1: ");
    check_refused(run("section " + good + " --plane 1,0,0,0 --thickness 12 --chart globe"), "command line:1: ");
}

TEST_CASE("the chart may be chosen", "[cli]") {
    const jobs::Folder folder;
    const std::string file = folder.file("side.csv");
    jobs::write(file, csv_of(shapes::wigley_side(9000, 2800, 1100), 20, 16));
    for (const char* chart : {"axis", "plane", "auto"}) {
        const Ran ran = run("section " + file + " --plane 1,0,0,400 --thickness 18 --chart " + chart);
        REQUIRE(ran.code == 0);
        const std::string words = json::parse(ran.out)["fit"]["chart"];
        if (std::string(chart) == "axis") CHECK(words.find("axis") != std::string::npos);
        if (std::string(chart) == "plane") CHECK(words.find("plane") != std::string::npos);
    }
}

TEST_CASE("report, check and validate of the demo", "[cli]") {
    const std::string demo = jobs::ternlight_path();
    const Ran report = run("report " + demo);
    REQUIRE(report.code == 0);
    CHECK(json::parse(report.out)["pieces"].size() == 3);
    CHECK(run("report " + demo).out == report.out);
    const Ran check = run("check " + demo);
    CHECK(check.code == 0);
    CHECK(json::parse(check.out)["findings"].size() >= 1);
    const Ran validate = run("validate " + demo);
    CHECK(validate.code == 0);
    CHECK(validate.err.empty());
}

TEST_CASE("one processor comes to the same as several", "[cli]") {
    const auto report = [](const char* threads) {
        setenv("OMP_NUM_THREADS", threads, 1);
        const Ran ran = run("report " + jobs::demo_path("ternlight"));
        unsetenv("OMP_NUM_THREADS");
        REQUIRE(ran.code == 0);
        json out = json::parse(ran.out);
        out.erase("sheets");  // these are laid out by the clock
        return out;
    };
    const json alone = report("1");
    CHECK(alone["pieces"].size() > 70);
    CHECK(report("5") == alone);
}

TEST_CASE("job commands refuse a bad file with its line", "[cli]") {
    const jobs::Folder folder;
    const std::string bad = folder.file("bad.json");
    std::string text = jobs::ternlight_text();
    text.replace(text.find("\"direct\""), 8, "\"dowsing\"");
    jobs::write(bad, text);
    const auto line =
        1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(text.find("dowsing")), '\n');
    for (const char* command : {"report ", "check ", "validate "})
        check_refused(run(command + bad), bad + ":" + std::to_string(line) + ": ");
}

TEST_CASE("every format is exported, and bad requests are refused", "[cli]") {
    const jobs::Folder folder;
    const std::string demo = jobs::ternlight_path();
    const std::pair<const char*, const char*> magic[] = {
        {"dxf", "SECTION"}, {"svg", "<svg"}, {"pdf", "%PDF"}, {"csv", "#"}};
    for (const auto& [format, start] : magic) {
        const std::string file = folder.file(std::string("B2.") + format);
        const Ran ran = run("export " + demo + " --piece B2 --format " + format + " -o " + file);
        INFO(ran.err);
        REQUIRE(ran.code == 0);
        CHECK(jobs::read(file).find(start) < 60);
    }
    check_refused(run("export " + demo + " --piece B77 --format dxf -o " + folder.file("x")), demo + ":1: ");
    check_refused(run("export " + demo + " --piece B2 --format stl -o " + folder.file("x")), "command line:1: ");
    for (const char* format : {"dxf", "svg", "pdf", "csv"})
        check_refused(run("export " + demo + " --piece B2 --format " + format + " -o " + folder.file("no/B2")),
                      folder.file("no/B2") + ":1: ");
}

TEST_CASE("nest reads the plain format and writes a layout", "[cli]") {
    const jobs::Folder folder;
    jobs::write(folder.file("p.json"),
                R"({"name": "two", "spacing": 5, "edge_margin": 10, "sheets": [{"w": 1000, "h": 600, "count": -1}],
      "parts": [{"id": "a", "qty": 3, "rotations": [0, 180], "outer": [[0,0],[480,0],[480,270],[0,270]]},
                {"id": "b", "qty": 1, "rotations": "any", "outer": [[0,0],[2000,0],[2000,10],[0,10]]}]})");
    const Ran ran =
        run("nest " + folder.file("p.json") + " -o " + folder.file("out.json") + " --seconds 0.2 --seed 3");
    INFO(ran.err);
    REQUIRE(ran.code == 0);
    const json out = json::parse(jobs::read(folder.file("out.json")));
    CHECK(out["sheets_used"] == 1);
    CHECK(out["placements"].size() == 3);
    REQUIRE(out["unplaced"].size() == 1);
    CHECK(out["unplaced"][0]["id"] == "b");
    for (const auto& p : out["placements"])
        for (const char* key : {"id", "copy", "sheet", "stock", "rot", "x", "y"}) CHECK(p.contains(key));
    jobs::write(folder.file("bad.json"), "{\"sheets\": [],\n\"parts\": {}}");
    check_refused(run("nest " + folder.file("bad.json") + " -o " + folder.file("out.json")),
                  folder.file("bad.json") + ":2: ");
}

TEST_CASE("no input crashes the command line", "[cli]") {
    const jobs::Folder folder;
    const std::string file = folder.file("x");
    std::mt19937 random(5);
    const std::string demo = jobs::ternlight_text();
    for (int k = 0; k < 12; ++k) {
        std::string text = demo;
        for (int hit = 0; hit < 30; ++hit) text[random() % text.size()] = static_cast<char>(random() % 256);
        jobs::write(file, text);
        for (const char* command :
             {"validate ", "section --plane 1,0,0,0 --thickness 9 ", "nest -o /dev/null --seconds 0 "}) {
            const Ran ran = run(command + file);
            CHECK((ran.code == 0 || ran.code == 2));
        }
    }
    for (const char* nothing : {"", "fly", "report", "--plane 1"}) CHECK(run(nothing).code == 2);
    CHECK(run("--help").code == 0);
}

TEST_CASE("a scan is cropped and thinned on the command line, and then cut", "[cli]") {
    const jobs::Folder folder;
    const std::string scan = folder.file("scan.xyz"), thin = folder.file("thin.csv");
    std::string text = "# metres\n";
    for (const auto& p : shapes::readings(shapes::sphere_cap(2000, bevelsmith::units::radians(50)), 60, 60, 0))
        text += fmt::format("{:.7f} {:.7f} {:.7f} 12\n", p.position.x() / 1000, p.position.y() / 1000,
                            p.position.z() / 1000);
    jobs::write(scan, text);
    REQUIRE(run("cloud " + scan + " --cell 60 -o " + thin).code == 0);
    const Ran cut = run("section " + thin + " --plane 1,0,0,600 --thickness 18 --inside 0,0,0");
    REQUIRE(cut.code == 0);
    const json out = json::parse(cut.out);
    int surveyed = 0;
    for (std::size_t k = 0; k < out["runs"][0]["face_a"].size(); ++k) {
        const auto& p = out["runs"][0]["face_a"][k];
        const double y = p[1], z = p[2];
        if (!out["runs"][0]["in_survey"][k].get<bool>()) continue;
        ++surveyed;
        CHECK(std::hypot(y, z) == Approx(std::sqrt(2000.0 * 2000 - 600 * 600)).margin(0.3));
    }
    CHECK(surveyed > 50);
    REQUIRE(run("cloud " + scan + " --unit m --slab 1,0,0,600,20 --cell 0 -o " + thin).code == 0);
    const std::string slab = jobs::read(thin);
    CHECK(std::count(slab.begin(), slab.end(), '\n') > 10);
    for (const char* wrong : {"--cell -5", "--cell nan", "--cell 1,2", "--slab 0,0,0,1,1", "--box 0,0,0,1,1"})
        check_refused(run("cloud " + scan + " " + wrong + " -o " + thin),
                      scan + ":1: " + std::string(wrong).substr(0, 5));
    check_refused(run("cloud " + scan + " --box 0,0,0,1,1,1 -o " + folder.file("none")), scan + ":1: nothing lies");
    jobs::write(scan, "1 2 3\n4 five 6\n");
    check_refused(run("cloud " + scan + " -o " + folder.file("none")), scan + ":2: 'five' is not a number");
}

TEST_CASE("the page of marks is written with every tie on it", "[cli]") {
    const jobs::Folder folder;
    job::Job job = jobs::tube_job();
    for (int k = 0; k < 3; ++k) {
        job::JobMark mark;
        mark.id = "M" + std::to_string(k + 1);
        mark.name = "punch mark";
        mark.measured_from = "frame " + std::to_string(k + 2);
        mark.position = {500.0 * k, 100.0, 0};
        job.marks.push_back(mark);
    }
    job.datum.known = survey::Datum::Known::two_levels;
    job.datum.port_high_deg = 1.25;
    jobs::write(folder.file("tube.job.json"), job::job_to_text(job));
    REQUIRE(run("marks " + folder.file("tube.job.json") + " -o " + folder.file("marks.pdf")).code == 0);
    // Read back by poppler.
    REQUIRE(std::system(("pdftotext -layout " + folder.file("marks.pdf") + " " + folder.file("marks.txt")).c_str()) ==
            0);
    const std::string text = jobs::read(folder.file("marks.txt"));
    INFO(text);
    for (const char* words : {"Reference marks", "frame 3", "1.25", "from M3"})
        CHECK(text.find(words) != std::string::npos);
    // From M1 at (0, 100, 0) to the corner at (1500, sqrt(1000² - 200²), -200) (derived).
    const double far = std::sqrt(1500.0 * 1500 + std::pow(std::sqrt(1000.0 * 1000 - 200 * 200) - 100, 2) + 200 * 200);
    CHECK(text.find(std::to_string(static_cast<int>(std::round(far)))) != std::string::npos);
    jobs::write(folder.file("bare.job.json"), job::job_to_text(jobs::tube_job()));
    check_refused(run("marks " + folder.file("bare.job.json") + " -o " + folder.file("no.pdf")),
                  folder.file("bare.job.json") + ":1: there are no reference marks");
}

TEST_CASE("a dry fit prints the corrected outline and keeps the fitting; lines are set out", "[cli]") {
    const jobs::Folder folder;
    const std::string job = folder.file("tube.job.json"), gaps = folder.file("gaps.csv"),
                      fitted = folder.file("fitted.job.json");
    job::Job tube = jobs::tube_job();
    tube.marks.resize(2);
    tube.marks[0].id = "M1", tube.marks[0].position = {500, 900, -300};
    tube.marks[1].id = "M2", tube.marks[1].position = {500, -900, -300};
    tube.pieces.push_back(tube.pieces[0]);
    tube.pieces[1].id = "OLD", tube.pieces[1].role = piece::Role::stays, tube.pieces[1].plane.d_mm = 600;
    jobs::write(job, job::job_to_text(tube));
    // The hull is 3 mm farther out than the tube that was read, all along: an arc of half the angle of the chord.
    std::string table = "edge,along_mm,gap_mm\n";
    const double end = 2 * jobs::tube_radius_mm * std::acos(200 / jobs::tube_radius_mm);
    for (double s = 0; s < end; s += 100) table += fmt::format("hull,{:.0f},3\n", s);
    jobs::write(gaps, table);
    const Ran ran = run("dry-fit " + job + " --piece B1 --gaps " + gaps + " --pattern -o " + fitted);
    INFO(ran.err);
    REQUIRE(ran.code == 0);
    const json out = json::parse(ran.out);
    int on_hull = 0;
    for (const auto& p : out["outline_a"]) {
        const double r = std::hypot(p[1].get<double>(), p[2].get<double>());
        if (p[2].get<double>() > -201) continue;
        CHECK(r == Approx(jobs::tube_radius_mm + 3).margin(0.3));
        ++on_hull;
    }
    CHECK(on_hull > 50);
    CHECK(out["widest_daylight_mm"].get<double>() == Approx(3).margin(0.3));
    CHECK(out["cannot_be_trimmed"].size() == 1);
    for (const auto& g : out["guide"]) CHECK(g["take_off_a_mm"].get<double>() < 0.3);
    const auto again = job::load_job(fitted);
    REQUIRE(again.ok());
    CHECK(again->pieces[0].stage == "pattern");
    REQUIRE(again->pieces[0].fittings.size() == 1);
    CHECK(again->readings.size() == tube.readings.size() + 1);
    const Ran set = run("setting-out " + job + " --piece B1 --from OLD");
    REQUIRE(set.code == 0);
    const json lines = json::parse(set.out);
    CHECK(lines["from"] == "face B of Bulkhead");
    CHECK(lines["ties"].size() >= 4);
    for (const auto& s : lines["stations"]) {
        CHECK(s["offset_a_mm"].get<double>() == Approx(1500 - 618).margin(1e-6));
        CHECK(s["offset_b_mm"].get<double>() == Approx(1518 - 618).margin(1e-6));
    }
    const json report = json::parse(run("report " + job).out);
    CHECK(report["pieces"][1]["role"] == "stays");
    CHECK(report["fixings"].size() == 1);
    check_refused(run("dry-fit " + job + " --piece B9 --gaps " + gaps), job + ":1: there is no piece");
    check_refused(run("setting-out " + job + " --piece B1 --from M9"), job + ":1: there is no 'M9'");
    jobs::write(gaps, "hull,0,3\nkeel,0,3\n");
    check_refused(run("dry-fit " + job + " --piece B1 --gaps " + gaps), gaps + ":2: 'keel' is no edge");
    check_refused(run("setting-out " + job + " --piece B1 --from OLD --pdf " + folder.file("no/page.pdf")),
                  folder.file("no/page.pdf") + ":1: cannot be written");
}

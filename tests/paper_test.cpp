// The PDF measured on the page by poppler: a line of 100 mm is 100 mm, tiles join, the outline is at 1:1.
#include <catch2/catch.hpp>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <regex>

#include "exchange/drawing.h"
#include "support/jobs.h"

using namespace bevelsmith;

namespace {

constexpr double mm_per_point = 25.4 / 72;

/// A line or outline on a page, in millimetres from its top left corner.
struct Stroke {
    geometry::Ring points;
    double width_mm = 0;
    bool dashed = false;
};

void shell(const std::string& command) {
    REQUIRE(std::system(command.c_str()) == 0);
}

/// Strokes of one page as poppler's own renderer sees them.
std::vector<Stroke> strokes(const std::string& pdf, int page, const jobs::Folder& folder) {
    const std::string svg_file = folder.file("page.svg");
    shell("pdftocairo -svg -f " + std::to_string(page) + " -l " + std::to_string(page) + " " + pdf + " " + svg_file);
    const std::string svg = jobs::read(svg_file);
    static const std::regex path(
        "<path style=\"fill:none;stroke-width:([0-9.]+);([^\"]*)\" d=\"([^\"]*)\" transform=\"matrix\\(([^)]*)\\)\"");
    std::vector<Stroke> out;
    for (auto it = std::sregex_iterator(svg.begin(), svg.end(), path); it != std::sregex_iterator(); ++it) {
        double m[6];
        REQUIRE(std::sscanf((*it)[4].str().c_str(), "%lf,%lf,%lf,%lf,%lf,%lf", m, m + 1, m + 2, m + 3, m + 4,
                            m + 5) == 6);
        Stroke stroke;
        stroke.width_mm = std::stod((*it)[1]) * m[0] * mm_per_point;
        stroke.dashed = (*it)[2].str().find("dasharray") != std::string::npos;
        static const std::regex point("[ML] (-?[0-9.]+) (-?[0-9.]+)");
        const std::string d = (*it)[3];
        for (auto p = std::sregex_iterator(d.begin(), d.end(), point); p != std::sregex_iterator(); ++p) {
            const double x = std::stod((*p)[1]), y = std::stod((*p)[2]);
            stroke.points.push_back(Vec2(m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]) * mm_per_point);
        }
        out.push_back(stroke);
    }
    return out;
}

int pages_of(const std::string& pdf, const jobs::Folder& folder) {
    shell("pdfinfo " + pdf + " > " + folder.file("info"));
    const std::string info = jobs::read(folder.file("info"));
    std::smatch found;
    REQUIRE(std::regex_search(info, found, std::regex("Pages: +([0-9]+)")));
    return std::stoi(found[1]);
}

std::string text_of(const std::string& pdf, const jobs::Folder& folder) {
    shell("pdftotext -layout " + pdf + " " + folder.file("text"));
    return jobs::read(folder.file("text"));
}

std::string text_of_page(const std::string& pdf, int page, const jobs::Folder& folder) {
    const std::string n = std::to_string(page);
    shell("pdftotext -layout -f " + n + " -l " + n + " " + pdf + " " + folder.file("page-text"));
    return jobs::read(folder.file("page-text"));
}

std::string printed(const jobs::Folder& folder, const std::string& piece, const std::string& paper = "a4",
                    const std::string& more = "") {
    const std::string pdf = folder.file("out-" + paper + ".pdf");
    shell(std::string(BEVELSMITH_CLI) + " export " + jobs::ternlight_path() + " --piece " + piece +
          " --format pdf --paper " + paper + " " + more + " -o " + pdf);
    return pdf;
}

/// Width and height of a page (mm).
Vec2 page_size(const std::string& pdf, int page, const jobs::Folder& folder) {
    const std::string n = std::to_string(page);
    shell("pdfinfo -f " + n + " -l " + n + " " + pdf + " > " + folder.file("size"));
    const std::string info = jobs::read(folder.file("size"));
    std::smatch found;
    REQUIRE(std::regex_search(info, found, std::regex("size: +([0-9.]+) x ([0-9.]+)")));
    return Vec2(std::stod(found[1]), std::stod(found[2])) * mm_per_point;
}

exchange::Drawing drawing_of(const std::string& piece) {
    const auto job = jobs::ternlight();
    auto out = exchange::drawing_of(job, job::Pipeline().compute(job), piece);
    REQUIRE(out.ok());
    return std::move(out.value());
}

}  // namespace

TEST_CASE("the check line measures 100 mm on the page", "[paper]") {
    const jobs::Folder folder;
    for (const char* paper : {"a4", "a3"}) {
        const auto lines = strokes(printed(folder, "B2", paper), 1, folder);
        REQUIRE_FALSE(lines.empty());
        REQUIRE(lines.front().points.size() == 2);
        CHECK((lines.front().points[1] - lines.front().points[0]).norm() == Approx(100).margin(0.01));
    }
}

TEST_CASE("the outline on a tile is the piece's, at 1:1", "[paper]") {
    const jobs::Folder folder;
    const std::string pdf = printed(folder, "B2");
    const auto d = drawing_of("B2");
    const auto lines = strokes(pdf, 2, folder);
    const Stroke *face_a = nullptr, *face_b = nullptr;
    for (const Stroke& s : lines)
        if (s.points.size() > 40) (s.dashed ? face_b : face_a) = &s;
    REQUIRE(face_a);
    REQUIRE(face_b);
    REQUIRE(face_a->points.size() >= d.face_a.outer.size());
    const Vec2 shift = face_a->points[0] - Vec2(d.face_a.outer[0].x(), -d.face_a.outer[0].y());
    for (std::size_t i = 0; i < d.face_a.outer.size(); ++i)
        CHECK((face_a->points[i] - shift - Vec2(d.face_a.outer[i].x(), -d.face_a.outer[i].y())).norm() < 0.01);
    for (std::size_t i = 0; i < d.face_b.outer.size(); ++i)
        CHECK((face_b->points[i] - shift - Vec2(d.face_b.outer[i].x(), -d.face_b.outer[i].y())).norm() < 0.01);
}

TEST_CASE("registration marks of neighbouring tiles lie on the same place of the piece", "[paper]") {
    const jobs::Folder folder;
    const std::string pdf = printed(folder, "B2");
    const auto d = drawing_of("B2");
    // Marks as places of the drawing, page by page: where the outline's first corner is gives the page's place.
    std::vector<std::vector<Vec2>> marks;
    for (int page = 2; page <= 5; ++page) {
        const auto lines = strokes(pdf, page, folder);
        Vec2 shift(0, 0);
        for (const Stroke& s : lines)
            if (s.points.size() > 40 && !s.dashed)
                shift = s.points[0] - Vec2(d.face_a.outer[0].x(), -d.face_a.outer[0].y());
        marks.emplace_back();
        for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
            const auto &a = lines[i].points, &b = lines[i + 1].points;
            const bool cross = a.size() == 2 && b.size() == 2 && std::abs((a[1] - a[0]).norm() - 8) < 0.01 &&
                               std::abs((b[1] - b[0]).norm() - 8) < 0.01;
            if (cross) marks.back().push_back((a[0] + a[1]) / 2 - shift);
        }
        CHECK(marks.back().size() >= 2);
    }
    int shared = 0;
    for (std::size_t i = 0; i < marks.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            for (const Vec2& a : marks[i])
                for (const Vec2& b : marks[k]) {
                    const double apart = (a - b).norm();
                    CHECK((apart < 0.02 || apart > 100));
                    shared += apart < 0.02;
                }
    CHECK(shared >= 4);
}

TEST_CASE("blank tiles are not printed, and A3 takes fewer pages", "[paper]") {
    const jobs::Folder folder;
    const int a4 = pages_of(printed(folder, "B2", "a4"), folder), a3 = pages_of(printed(folder, "B2", "a3"), folder);
    CHECK(a4 < 26);
    CHECK(a3 < a4);
    const std::string pdf = folder.file("out-a4.pdf");
    // Behind the tiles stand the tables of the base lines.
    int tables = 0;
    while (tables < a4 - 1 && text_of_page(pdf, a4 - tables, folder).find("do not scale") == std::string::npos)
        ++tables;
    CHECK(tables >= 1);
    CHECK(tables < 6);
    for (int page = 2; page <= a4 - tables; ++page) {
        bool outline = false;
        for (const Stroke& s : strokes(pdf, page, folder)) outline = outline || s.points.size() > 40;
        CHECK(outline);
    }
}

TEST_CASE("the first page carries the title, the table and the cautions", "[paper]") {
    const jobs::Folder folder;
    const std::string text = text_of(printed(folder, "B2"), folder);
    CHECK(text.find("Galley half-bulkhead") != std::string::npos);
    CHECK(text.find("measure this line: 100 mm") != std::string::npos);
    CHECK(text.find("dust mask") != std::string::npos);
    CHECK(text.find("do not scale") != std::string::npos);
    for (const auto& row : drawing_of("B2").rows) {
        char figure[24];
        std::snprintf(figure, sizeof figure, "%.1f", row.up_a_mm);
        CHECK(text.find(figure) != std::string::npos);
    }
}

TEST_CASE("on a roll a piece is one page of the roll's width, at 1:1, and lies the way that takes less", "[paper]") {
    const jobs::Folder folder;
    const auto d = drawing_of("B2");
    const double narrow = std::min(d.box.width(), d.box.height());
    const int roll = static_cast<int>(std::ceil(narrow)) + 40;
    const std::string pdf = printed(folder, "B2", "roll", "--roll " + std::to_string(roll));
    // The tables, one tile, the tables behind.
    int tiles = 0, at = 0;
    for (int page = 1; page <= pages_of(pdf, folder); ++page)
        if (text_of_page(pdf, page, folder).find("do not scale") != std::string::npos) ++tiles, at = page;
    REQUIRE(tiles == 1);
    const Vec2 size = page_size(pdf, at, folder);
    CHECK(size.x() == Approx(roll).margin(0.3));
    CHECK(size.y() < std::max(d.box.width(), d.box.height()) + 40);
    geometry::Box box{{1e9, 1e9}, {-1e9, -1e9}};
    for (const Stroke& s : strokes(pdf, at, folder))
        if (s.points.size() > 40 && !s.dashed)
            for (const Vec2& p : s.points) box.min = box.min.cwiseMin(p), box.max = box.max.cwiseMax(p);
    const auto face = geometry::bounding_box(d.face_a.outer);
    const double wide = std::max(face.width(), face.height()), high = std::min(face.width(), face.height());
    CHECK(std::max(box.width(), box.height()) == Approx(wide).margin(0.02));
    CHECK(std::min(box.width(), box.height()) == Approx(high).margin(0.02));
    // A narrow roll takes several strips, each as wide as it.
    const std::string strips = printed(folder, "B2", "roll", "--roll 300");
    int count = 0;
    for (int page = 1; page <= pages_of(strips, folder); ++page)
        if (text_of_page(strips, page, folder).find("do not scale") != std::string::npos) {
            ++count;
            CHECK(page_size(strips, page, folder).x() == Approx(300).margin(0.3));
        }
    CHECK(count >= static_cast<int>(narrow / 300));
}

TEST_CASE("base lines are printed with their ordinates and the batten's error, at the step asked for", "[paper]") {
    const jobs::Folder folder;
    const std::string text = text_of(printed(folder, "B2", "a4", "--step 250"), folder);
    CHECK(text.find("From base lines") != std::string::npos);
    CHECK(text.find("A batten through these pins leaves the edge by at most") != std::string::npos);
    const auto job = jobs::ternlight();
    const auto d = exchange::drawing_of(job, job::Pipeline().compute(job), "B2", 250);
    REQUIRE(d.ok());
    for (const auto& base : d->bases)
        for (const auto& s : base.stations) {
            char figure[24];
            std::snprintf(figure, sizeof figure, "%.1f", s.out_a_mm);
            CHECK(text.find(figure) != std::string::npos);
        }
}

// The PDF measured on the page by poppler: a line of 100 mm is 100 mm, tiles join, the outline is at 1:1.
#include <catch2/catch.hpp>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <regex>

#include "exchange/drawing.h"
#include "job/in_full.h"
#include "paper/pdf.h"
#include "support/jobs.h"
#include "support/study.h"

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
        const auto m = jobs::numbers_in((*it)[4]);
        REQUIRE(m.size() == 6);
        Stroke stroke;
        stroke.width_mm = jobs::number_in((*it)[1]) * m[0] * mm_per_point;
        stroke.dashed = (*it)[2].str().find("dasharray") != std::string::npos;
        static const std::regex point("[ML] (-?[0-9.]+) (-?[0-9.]+)");
        const std::string d = (*it)[3];
        for (auto p = std::sregex_iterator(d.begin(), d.end(), point); p != std::sregex_iterator(); ++p) {
            const double x = jobs::number_in((*p)[1]), y = jobs::number_in((*p)[2]);
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
    return Vec2(jobs::number_in(found[1]), jobs::number_in(found[2])) * mm_per_point;
}

exchange::Drawing drawing_of(const std::string& piece) {
    const auto job = jobs::ternlight();
    auto out = exchange::drawing_of(job, job::Pipeline().compute(job), piece);
    REQUIRE(out.ok());
    return std::move(out.value());
}

/// As it lies on A4's tiles.
exchange::Drawing laid(const std::string& piece) {
    return paper::laid_for(drawing_of(piece), {});
}

/// The first page at 1:1, behind the piece's pages.
int first_tile(const std::string& pdf, const jobs::Folder& folder) {
    const int pages = pages_of(pdf, folder);
    for (int page = 1; page <= pages; ++page)
        if (text_of_page(pdf, page, folder).find("1:1, do not scale") != std::string::npos) return page;
    return pages + 1;
}

}  // namespace

TEST_CASE("check lines measure 100 mm both ways on every page with a line to cut, 4 in in an inch job", "[paper]") {
    const jobs::Folder folder;
    const auto measured = [&](const std::string& pdf, int page, double long_mm) {
        int level = 0, upright = 0;
        for (const Stroke& s : strokes(pdf, page, folder)) {
            if (s.points.size() != 2) continue;
            const Vec2 way = (s.points[1] - s.points[0]).cwiseAbs();
            level += std::abs(way.x() - long_mm) < 0.01 && way.y() < 0.01;
            upright += std::abs(way.y() - long_mm) < 0.01 && way.x() < 0.01;
        }
        return std::pair(level, upright);
    };
    for (const char* size : {"a4", "letter"}) {
        const std::string pdf = printed(folder, "B2", size);
        CHECK(measured(pdf, 1, 100).first == 1);
        for (int page = first_tile(pdf, folder); page <= pages_of(pdf, folder); ++page) {
            INFO(size << " page " << page);
            const auto [level, upright] = measured(pdf, page, 100);
            CHECK(level >= 1);
            CHECK(upright >= 1);
        }
    }
    const std::string inches = folder.file("inches.pdf");
    shell(std::string(BEVELSMITH_CLI) + " export " + jobs::demo_path("ketch") +
          " --piece B2 --format pdf --paper tabloid -o " + inches);
    const auto [level, upright] = measured(inches, first_tile(inches, folder), 101.6);
    CHECK(level >= 1);
    CHECK(upright >= 1);
}

TEST_CASE("the outline on a tile is the piece's, at 1:1", "[paper]") {
    const jobs::Folder folder;
    const std::string pdf = printed(folder, "B2");
    const auto d = laid("B2");
    const auto lines = strokes(pdf, first_tile(pdf, folder), folder);
    const Stroke *face_a = nullptr, *face_b = nullptr;
    for (const Stroke& s : lines)
        // The little map's line lies between the two in width.
        if (s.points.size() > 40 && (s.width_mm > 0.4 || s.width_mm < 0.3)) (s.width_mm < 0.3 ? face_b : face_a) = &s;
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
    const auto d = laid("B2");
    // Marks as places of the drawing, page by page: where the outline's first corner is gives the page's place.
    std::vector<std::vector<Vec2>> marks;
    const int first = first_tile(pdf, folder);
    for (int page = first; page < first + 4; ++page) {
        const auto lines = strokes(pdf, page, folder);
        Vec2 shift(0, 0);
        for (const Stroke& s : lines)
            if (s.points.size() > 40 && s.width_mm > 0.4)
                shift = s.points[0] - Vec2(d.face_a.outer[0].x(), -d.face_a.outer[0].y());
        marks.emplace_back();
        for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
            const auto &a = lines[i].points, &b = lines[i + 1].points;
            // Bevels' ticks are as long, but cross nothing.
            const bool cross = a.size() == 2 && b.size() == 2 && std::abs((a[1] - a[0]).norm() - 8) < 0.01 &&
                               std::abs((b[1] - b[0]).norm() - 8) < 0.01 && (a[0] + a[1] - b[0] - b[1]).norm() < 0.01;
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

TEST_CASE("every tile has a line to cut well within its frame, and every line is on one", "[paper]") {
    const auto job = jobs::demo("ternlight");
    const auto results = job::Pipeline().compute_pieces(job::in_full(job));
    const auto full = job::in_full(job);
    int checked = 0;
    for (std::size_t i = 0; i < full.pieces.size(); i += static_cast<std::size_t>(cases(1, 5))) {
        if (!results.pieces[i].shape()) continue;
        INFO(full.pieces[i].id);
        const auto drawn = exchange::bare_drawing_of(full, results, full.pieces[i].id);
        REQUIRE(drawn.ok());
        for (const auto size : {paper::Size::a4, paper::Size::tabloid}) {
            const auto d = paper::laid_for(*drawn, {size});
            const auto t = paper::tiling_for(d, {size});
            const auto printed = paper::printed_tiles(d, t);
            // Chords of every ring in steps of a millimetre: on how many printed tiles each lies, half a millimetre
            // within the frame.
            std::vector<int> carried(printed.size(), 0);
            for (const auto* face : {&d.face_a, &d.face_b})
                for (std::size_t r = 0; r <= face->holes.size(); ++r) {
                    const auto& ring = r ? face->holes[r - 1] : face->outer;
                    for (std::size_t k = 0; k < ring.size(); ++k) {
                        const Vec2 &a = ring[k], &b = ring[(k + 1) % ring.size()];
                        const int n = 1 + static_cast<int>((b - a).norm());
                        for (int step = 0; step < n; ++step) {
                            const Vec2 p = a + (b - a) * step / n;
                            const Vec2 at(p.x() + t.shift_x_mm, d.box.height() - p.y() + t.shift_y_mm);
                            int on = 0;
                            for (std::size_t q = 0; q < printed.size(); ++q) {
                                const Vec2 off =
                                    at - Vec2(printed[q].column * t.step_x_mm, printed[q].row * t.step_y_mm);
                                const bool inside = off.x() >= -0.5 && off.x() <= t.tile_width_mm + 0.5 &&
                                                    off.y() >= -0.5 && off.y() <= t.tile_height_mm + 0.5;
                                // Clear of its frame.
                                const bool clear = off.x() > 1.9 && off.y() > 1.9 &&
                                                   off.x() < t.tile_width_mm - 1.9 &&
                                                   off.y() < t.tile_height_mm - 1.9;
                                on += inside && clear;
                                carried[q] += clear;
                            }
                            REQUIRE(on >= 1);
                        }
                    }
                }
            for (int count : carried) CHECK(count >= 1);
            // Fewer than all that a line touches.
            CHECK(printed.size() <= static_cast<std::size_t>(t.columns * t.rows));
            ++checked;
        }
    }
    CHECK(checked > 20);
}

TEST_CASE("a larger paper takes fewer pages", "[paper]") {
    const jobs::Folder folder;
    const int a4 = pages_of(printed(folder, "B2", "a4"), folder), a3 = pages_of(printed(folder, "B2", "a3"), folder);
    CHECK(a4 < 26);
    CHECK(a3 < a4);
}

TEST_CASE("every tile says what it is, of how many, which face, and how it lies", "[paper]") {
    const jobs::Folder folder;
    const std::string pdf = printed(folder, "B2");
    const int first = first_tile(pdf, folder), last = pages_of(pdf, folder);
    REQUIRE(last > first);
    for (int page = first; page <= last; ++page) {
        INFO(page);
        const std::string text = text_of_page(pdf, page, folder);
        for (const char* words :
             {"Galley half-bulkhead", "B2, sheet", "Face A is seen", "good face B", "do not scale", "up", "port",
              "Bevels: + open", "measure this line: 100 mm", "grain"})
            CHECK(text.find(words) != std::string::npos);
        // Lines at round heights or distances with their figures.
        CHECK(std::regex_search(text, std::regex("(across|down|up) (−)?[0-9]+00\\.0")));
    }
}

TEST_CASE("the first page carries the title, where it stands, the figures and the cautions", "[paper]") {
    const jobs::Folder folder;
    const std::string text = text_of(printed(folder, "B2"), folder);
    for (const char* words : {"Galley half-bulkhead", "measure this line: 100 mm", "dust mask", "do not scale",
                              "Stands across the boat; face A looks aft", "forward of the datum", "Its lowest point",
                              "good face B", "Set out from", "Corners", "Edges"})
        CHECK(text.find(words) != std::string::npos);
}

TEST_CASE("on a roll a piece is one page of the roll's width, at 1:1, and lies the way that takes less", "[paper]") {
    const jobs::Folder folder;
    const auto d = drawing_of("B2");
    const double narrow = std::min(d.box.width(), d.box.height());
    const int roll = static_cast<int>(std::ceil(narrow)) + 40;
    const std::string pdf = printed(folder, "B2", "roll", "--roll " + std::to_string(roll));
    // The piece's page with its figures, one tile.
    int tiles = 0, at = 0;
    for (int page = 1; page <= pages_of(pdf, folder); ++page)
        if (text_of_page(pdf, page, folder).find("1:1, do not scale") != std::string::npos) ++tiles, at = page;
    REQUIRE(tiles == 1);
    const Vec2 size = page_size(pdf, at, folder);
    CHECK(size.x() == Approx(roll).margin(0.3));
    CHECK(size.y() < std::max(d.box.width(), d.box.height()) + 60);
    geometry::Box box{{1e9, 1e9}, {-1e9, -1e9}};
    for (const Stroke& s : strokes(pdf, at, folder))
        if (s.points.size() > 40 && s.width_mm > 0.4)
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
            if (text_of_page(strips, page, folder).find("sheet ") == std::string::npos) continue;
            ++count;
            CHECK(page_size(strips, page, folder).x() == Approx(300).margin(0.3));
        }
    CHECK(count >= static_cast<int>(narrow / 300));
}

// Scans and tables from files: formats, cropping, thinning, and a fit that strays do not spoil.
#include <fmt/format.h>
#include <catch2/catch.hpp>

#include <bit>
#include <cmath>
#include <cstring>
#include <random>

#include "exchange/cloud_file.h"
#include "exchange/table_text.h"
#include "hull/fit.h"
#include "practice/instruments.h"
#include "support/study.h"
#include "survey/lonely.h"
#include "units/quantity.h"

using namespace bevelsmith;

namespace {

template <class T>
std::string bytes_of(T value, bool big) {
    std::string out(sizeof(T), '\0');
    std::memcpy(out.data(), &value, sizeof(T));
    if (big == (std::endian::native == std::endian::little)) std::reverse(out.begin(), out.end());
    return out;
}

const std::vector<Vec3> three{Vec3(1.5, -2.25, 3), Vec3(1000, 0.5, -7), Vec3(-4, 5, 6.125)};

std::string header(const std::string& format, std::size_t count, const std::string& type = "float") {
    return "ply\nformat " + format + " 1.0\ncomment written by hand\nelement vertex " + std::to_string(count) +
           "\nproperty uchar red\nproperty " + type + " x\nproperty " + type + " y\nproperty " + type +
           " z\nelement face 0\nproperty list uchar int vertex_indices\nend_header\n";
}

template <class T>
std::string binary(const std::string& type, bool big) {
    std::string out = header(big ? "binary_big_endian" : "binary_little_endian", three.size(), type);
    for (const Vec3& p : three) {
        out += '\x7f';
        for (int k = 0; k < 3; ++k) out += bytes_of(static_cast<T>(p[k]), big);
    }
    return out;
}

void check_three(const std::string& contents) {
    const auto cloud = exchange::cloud_from_text(contents);
    REQUIRE(cloud.ok());
    REQUIRE(cloud->size() == 3);
    for (std::size_t i = 0; i < 3; ++i) CHECK(((*cloud)[i] - three[i]).norm() < 1e-6);
}

}  // namespace

TEST_CASE("PLY is read in all three formats", "[cloud]") {
    // By the format's own description (G. Turk, 1994); written here byte by byte.
    check_three(binary<float>("float", false));
    check_three(binary<float>("float32", true));
    check_three(binary<double>("double", false));
    check_three(binary<double>("float64", true));
    std::string ascii = header("ascii", 3);
    for (const Vec3& p : three) ascii += fmt::format("12 {:.6f} {:.6f} {:.6f}\r\n", p.x(), p.y(), p.z());
    check_three(ascii);
}

TEST_CASE("what stands before the points in a PLY file is passed over", "[cloud]") {
    std::string text =
        "ply\nformat binary_little_endian 1.0\nelement camera 2\nproperty list uchar short seen\nproperty double f\n"
        "element vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n";
    for (int k = 0; k < 2; ++k) {
        text += '\x02';
        text += std::string(4, 'a');
        text += bytes_of(1.0, false);
    }
    for (const Vec3& p : three)
        for (int k = 0; k < 3; ++k) text += bytes_of(static_cast<float>(p[k]), false);
    check_three(text);
}

TEST_CASE("a damaged PLY file says where and why", "[cloud]") {
    const std::string good = binary<float>("float", false);
    const auto cut = exchange::cloud_from_text(good.substr(0, good.size() - 5));
    CHECK(cut.error().message == "the file ends at point 3 of 3: it was cut short");
    CHECK(exchange::cloud_from_text("ply\nformat ascii 1.0\nelement vertex many\n").error().line == 3);
    CHECK(exchange::cloud_from_text("ply\nformat ascii 1.0\nelement vertex 1\n").error().message.find("end_header") !=
          std::string::npos);
    CHECK_FALSE(
        exchange::cloud_from_text("ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nend_header\n1\n").ok());
    std::string ascii = header("ascii", 2) + "1 2 3 4\n1 2 no 4\n";
    const auto wrong = exchange::cloud_from_text(ascii);
    CHECK(wrong.error().line == 13);
    CHECK(wrong.error().message == "'no' is not a number");
    CHECK_FALSE(exchange::cloud_from_text(header("ascii", 4000000000UL)).ok());
    for (std::size_t k = 0; k < good.size(); k += 3) exchange::cloud_from_text(good.substr(0, k));  // must not crash
}

TEST_CASE("a text of points is a cloud too", "[cloud]") {
    const auto cloud = exchange::cloud_from_text("# a scan\nx y z i\n1 2 3 200\n4,5,6\n7;8;9\n");
    REQUIRE(cloud.ok());
    CHECK(cloud->size() == 3);
    CHECK((*cloud)[2] == Vec3(7, 8, 9));
    CHECK(exchange::cloud_from_text("1 2 3\nnan nan nan\n4 5 6\n")->size() == 2);
    CHECK(exchange::cloud_from_text("1 2 3\n1 2\n").error().line == 2);
    CHECK_FALSE(exchange::cloud_from_text("").ok());
    CHECK(exchange::likely_unit_mm(std::vector{Vec3(0, 0, 0), Vec3(4.2, 3, 2)}) == 1000);
    CHECK(exchange::likely_unit_mm(std::vector{Vec3(0, 0, 0), Vec3(4200, 3, 2)}) == 1);
}

TEST_CASE("columns are chosen, and a wrong cell is named by line and column", "[cloud]") {
    const exchange::TextTable table("no,up,off,remark\n1,100,20.5,low\n\n2,200,21,\n");
    CHECK(table.names()[2] == "off");
    REQUIRE(table.rows() == 2);
    const auto readings = exchange::readings_from(table, {{1, 2}, -1, 3, 10});
    REQUIRE(readings.ok());
    CHECK((*readings)[0].values[0] == 1000);
    CHECK((*readings)[0].values[1] == 205);
    CHECK((*readings)[0].note == "low");
    const exchange::TextTable bad("no,up,off\n1,100,20\n2,2oo,21\n");
    const auto fault = exchange::readings_from(bad, {{1, 2}});
    CHECK(fault.error().line == 3);
    CHECK(fault.error().message == "up: '2oo' is not a number");
}

TEST_CASE("decimal commas are read between semicolons and tabs", "[cloud]") {
    const exchange::TextTable table("x;y\n100,5;-20,25\n1\t2,5\n");
    const auto readings = exchange::readings_from(table, {{0, 1}});
    REQUIRE(readings.ok());
    CHECK((*readings)[0].values[0] == 100.5);
    CHECK((*readings)[0].values[1] == -20.25);
    CHECK((*readings)[1].values[1] == 2.5);
    CHECK_FALSE(exchange::number_in("1,234.5"));
    CHECK_FALSE(exchange::number_in("1,2,3"));
}

TEST_CASE("a long text of points is read in parts, and its faults keep their lines", "[cloud]") {
    std::string text;
    constexpr int lines = 400000;
    for (int i = 0; i < lines; ++i) text += "1.25 2.5 3.75\n";
    REQUIRE(text.size() > (1U << 22U));
    const auto cloud = exchange::cloud_from_text(text);
    REQUIRE(cloud.ok());
    CHECK(cloud->size() == lines);
    const auto fault = exchange::cloud_from_text(text + "1 2 x\n");
    CHECK(fault.error().line == lines + 1);
}

TEST_CASE("a cloud is cropped to a box, a slab and a grid", "[cloud]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> at(0, 1000);
    survey::Cloud cloud;
    for (int i = 0; i < 20000; ++i) cloud.emplace_back(at(random), at(random), 0);
    survey::CloudCut cut;
    cut.low = Vec3(100, 100, -1);
    cut.high = Vec3(900, 900, 1);
    cut.plane = geometry::Plane{Vec3::UnitX(), 500};
    cut.slab_mm = 50;
    for (const Vec3& p : survey::cropped(cloud, cut)) {
        CHECK(std::abs(p.x() - 500) <= 50);
        CHECK(p.y() >= 100);
    }
    const auto thin = survey::thinned(cloud, 50);
    CHECK(thin.size() == 400);
    for (const Vec3& p : thin) CHECK(std::find(cloud.begin(), cloud.end(), p) != cloud.end());
    const double cell = survey::cell_for(cloud, 1000);
    CHECK(survey::thinned(cloud, cell).size() == Approx(1000).epsilon(0.2));
    CHECK(survey::cell_for(thin, 1000) == 0);
    CHECK(survey::cut_cloud(cloud, {}).size() == cloud.size());
}

TEST_CASE("a scan is fitted in spite of one point in ten on hoses and frames", "[cloud]") {
    // Strays: half on a hose 40 mm thick along the hull, half on a frame 60 mm deep; what a scanner sees of a cabin.
    for (unsigned seed : {1U, 2U, 3U}) {
        const practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, seed});
        practice::Hand hand;
        hand.sigma_mm = 2;
        hand.random.seed(seed);
        const auto spots = practice::random_spots(9000, {100, -1.35}, {2900, 0.25}, hand.random);
        auto set = practice::read_points(boat, spots, hand);
        std::uniform_real_distribution<double> share(0, 1);
        for (int i = 0; i < 1000; ++i) {
            const bool hose = i % 2 == 0;
            const double x = hose ? 100 + 2800 * share(hand.random) : 1480 + 40 * share(hand.random);
            const double angle = hose ? -0.6 + 0.02 * share(hand.random) : -1.3 + 1.5 * share(hand.random);
            const Vec3 p = boat.at(x, angle);
            const Vec3 off = p - boat.normal(p) * (hose ? 10 + 30 * share(hand.random) : 60);
            set.readings.emplace_back().values = {off.x(), off.y(), off.z()};
        }
        const auto points = survey::points_of(std::vector{set}, "hull").value();
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto fit = hull::fit_surface(points, options);
        REQUIRE(fit.ok());
        double squares = 0, most = 0;
        int count = 0;
        for (double x = 150; x < 2850; x += 90)
            for (double angle = -1.3; angle < 0.2; angle += 0.05, ++count) {
                const double off = fit->surface.distance_mm(boat.at(x, angle));
                squares += off * off;
                most = std::max(most, std::abs(off));
            }
        WARN("seed " << seed << ": rms " << std::sqrt(squares / count) << ", max " << most << " mm, left out "
                     << fit->report.suspects());
        CHECK(std::sqrt(squares / count) < 0.5);
        CHECK(most < 3);
        CHECK(fit->report.suspects() > 800);
    }
}

namespace {

/// What a scanner that stands in the boat sees of the port side: evenly spaced rays, so that far and slanting parts
/// are sparse. Each point off along its ray by `sigma_mm`.
survey::Cloud scanned(const practice::VirtualBoat& boat, int rays, double sigma_mm, std::mt19937& random) {
    std::normal_distribution<double> error(0, sigma_mm);
    std::uniform_real_distribution<double> share(0, 1);
    const Vec3 stand(1200, -200, -100);
    survey::Cloud out;
    while (static_cast<int>(out.size()) < rays) {
        const double turn = units::radians(180 * share(random)), rise = units::radians(-85 + 100 * share(random));
        const Vec3 way(std::cos(rise) * std::cos(turn), std::cos(rise) * std::sin(turn), std::sin(rise));
        const auto at = boat.hit(stand, way);
        if (at && at->x() > 100 && at->x() < 2900 && at->y() > 20) out.push_back(*at + error(random) * way);
    }
    return out;
}

/// Points anywhere in a box three times the boat's size.
void add_wild(survey::Cloud& cloud, std::size_t count, std::mt19937& random) {
    const auto box = survey::box_of(cloud);
    const Vec3 middle = (box.low + box.high) / 2, half = 1.5 * (box.high - box.low);
    std::uniform_real_distribution<double> share(-1, 1);
    for (std::size_t k = 0; k < count; ++k)
        cloud.push_back(middle + half.cwiseProduct(Vec3(share(random), share(random), share(random))));
}

/// The farthest that the fit of a thinned cloud lies from the boat, where the scanner saw her.
double worst_mm(const survey::Cloud& kept, const practice::VirtualBoat& boat) {
    survey::ReadingSet set = survey::usual_set(survey::School::scan);
    set.sigma_mm = 2;
    for (const Vec3& p : kept) set.readings.emplace_back().values = {p.x(), p.y(), p.z()};
    hull::FitOptions options;
    options.inside = Vec3(1500, 0, 0);
    const auto fit = hull::fit_surface(survey::points_of(std::vector{set}, "").value(), options);
    if (!fit) return 1e9;
    double out = 0;
    for (double x = 200; x < 2800; x += 130)
        for (double angle = -1.3; angle < 0.1; angle += 0.1)
            out = std::max(out, std::abs(fit->surface.distance_mm(boat.at(x, angle))));
    return out;
}

}  // namespace

TEST_CASE("points that lie alone are told from a scan's, however dense that is where", "[cloud]") {
    std::mt19937 random(5);
    const practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, 5});
    const auto bare = scanned(boat, 40000, 2, random);
    CHECK(static_cast<double>(survey::sorted_by_company(bare).lonely.size()) <
          0.003 * static_cast<double>(bare.size()));
    for (const double wild : {0.002, 0.02, 0.05, 0.1}) {
        CAPTURE(wild);
        auto cloud = bare;
        const auto count = static_cast<std::size_t>(wild * static_cast<double>(bare.size()));
        add_wild(cloud, count, random);
        const auto sorted = survey::sorted_by_company(cloud);
        CHECK(sorted.dense.size() + sorted.lonely.size() == cloud.size());
        // Of the wild ones only what happens to lie by the hull has company.
        std::size_t far = 0;
        for (const Vec3& p : sorted.dense)
            if (std::abs(boat.outside_mm(p)) > 2.5 * sorted.reach) ++far;
        CHECK(far == 0);
        CHECK(static_cast<double>(sorted.lonely.size()) > 0.85 * static_cast<double>(count));
        CHECK(static_cast<double>(sorted.lonely.size()) < static_cast<double>(count) + 0.004 * 40000.0);
    }
    // Too few to judge by, or all at one place: nothing is left out.
    CHECK(survey::sorted_by_company(std::span(bare).first(150)).lonely.empty());
    CHECK(survey::sorted_by_company(survey::Cloud(5000, Vec3(1, 2, 3))).lonely.empty());
    CHECK(survey::sorted_by_company({}).dense.empty());
    // However far off a broken file's points are.
    for (const double far : {1e7, 1e18, 1e300}) {
        auto broken = bare;
        broken.emplace_back(far, -far, far);
        const auto sorted = survey::sorted_by_company(broken);
        CHECK(sorted.dense.size() + sorted.lonely.size() == broken.size());
        CHECK(sorted.lonely.back() == broken.back());
    }
}

TEST_CASE("one point in twenty wild, hoses, frames, a person and a second surface: the scan still fits", "[cloud]") {
    const std::vector<double> shares = cases(std::vector{0.05, 0.002, 0.02}, 1);
    for (const double wild : shares)
        for (unsigned seed = 1; seed <= static_cast<unsigned>(cases(6, 1)); ++seed) {
            CAPTURE(wild, seed);
            std::mt19937 random(seed);
            std::uniform_real_distribution<double> share(0, 1);
            const practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, seed});
            auto cloud = scanned(boat, 60000, 2, random);
            for (int k = 0; k < 1500; ++k) {  // a hose along the hull, and a frame 60 mm deep
                const bool hose = k % 2 == 0;
                const double x = hose ? 150 + 2700 * share(random) : 1480 + 40 * share(random);
                const double angle = hose ? -0.6 + 0.02 * share(random) : -1.3 + 1.3 * share(random);
                const Vec3 p = boat.at(x, angle);
                cloud.push_back(p - boat.normal(p) * (hose ? 10 + 30 * share(random) : 60 * share(random)));
            }
            for (int k = 0; k < 1500; ++k) {  // someone stands there
                const double turn = 6.28 * share(random);
                cloud.emplace_back(2200 + 180 * std::cos(turn), 300 + 130 * std::sin(turn),
                                   -400 + 900 * share(random));
            }
            for (int k = 0; k < 2500; ++k) {  // the planking behind, seen through an open seam
                const Vec3 p = boat.at(600 + 500 * share(random), -0.9 + 0.5 * share(random));
                cloud.push_back(p + 45 * boat.normal(p));
            }
            add_wild(cloud, static_cast<std::size_t>(wild * 60000), random);
            survey::CloudCut cut;
            const auto dense = survey::sorted_by_company(cloud).dense;
            cut.cell_mm = survey::cell_for(dense, 6000);
            CHECK(worst_mm(survey::cut_cloud(dense, cut), boat) < 4);
        }
}

TEST_CASE("what a loop encloses is taken out, as one looked when it was drawn", "[cloud]") {
    survey::Cloud cloud;
    for (int x = 0; x < 10; ++x)
        for (int y = 0; y < 10; ++y)
            for (int z = 0; z < 10; ++z) cloud.emplace_back(x, y, z);
    survey::CloudCut cut;
    cut.loops.push_back({0, 1, {{1.5, 1.5}, {4.5, 1.5}, {4.5, 3.5}, {1.5, 3.5}}});  // from above: 3 x 2, all heights
    const auto left = survey::cropped(cloud, cut);
    CHECK(left.size() == 1000 - 3 * 2 * 10);
    for (const Vec3& p : left) CHECK_FALSE((p.x() >= 2 && p.x() <= 4 && p.y() >= 2 && p.y() <= 3));
    cut.loops.push_back({1, 2, {{-1, -1}, {20, -1}, {20, 4.5}, {-1, 4.5}}});  // looking forward: the lower half
    for (const Vec3& p : survey::cropped(cloud, cut)) CHECK(p.z() >= 5);
    cut.loops = {{0, 1, {{0, 0}, {5, 5}}}};
    CHECK(survey::cropped(cloud, cut).size() == 1000);
}

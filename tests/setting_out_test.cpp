// A panel in numbers: its outline drawn again from them alone, from the paper's text alone, and what a piece's papers
// draw against what its sheet gives.
#include <catch2/catch.hpp>

#include <cmath>
#include <cstdlib>
#include <random>
#include <regex>
#include <sstream>

#include "exchange/drawing.h"
#include "exchange/sheet_plan.h"
#include "job/in_full.h"
#include "paper/piece_page.h"
#include "support/jobs.h"
#include "support/set_out.h"
#include "support/study.h"
#include "units/figures.h"

using namespace bevelsmith;
using exchange::Drawing;
using set_out::allowed_mm;
using set_out::check_drawing;
using set_out::off_mm;

namespace {

struct Made {
    job::Job job;
    job::Results results;
};
Made made(const std::string& name) {
    const auto full = job::in_full(jobs::demo(name));
    return {full, job::Pipeline().compute_pieces(full)};
}

/// Lippings, wood left on and coverings to come, at random edges.
void dress(job::Job& job, std::mt19937& random) {
    std::uniform_real_distribution<double> share(0, 1);
    for (auto& piece : job.pieces)
        for (auto& edge : piece.edges) {
            if (share(random) < 0.3) edge.lipping_mm = 5 + 15 * share(random);
            if (share(random) < 0.2) edge.leave_on_mm = 4 * share(random);
            if (share(random) < 0.2) edge.covering_mm = 3 * share(random);
        }
}

}  // namespace

TEST_CASE("every panel of the demos, drawn again from its figures as printed, is the panel", "[setting_out]") {
    for (const char* name : {"ternlight", "ketch", "workboat"}) {
        const Made m = made(name);
        for (const auto& id : set_out::ids_of(m.results)) {
            INFO(name << " " << id);
            const auto d = exchange::drawing_of(m.job, m.results, id, exchange::usual_row_spacing_mm(m.job.unit));
            REQUIRE(d.ok());
            check_drawing(*d);
        }
    }
}

TEST_CASE("rows stand at whole multiples of the step that was asked for, or of a finer round one", "[setting_out]") {
    Made m = made("workboat");
    for (const auto unit : {units::LengthUnit::millimetre, units::LengthUnit::inch_sixteenths})
        for (const double asked : {2 * units::mm_per_inch, 50.0}) {
            m.job.unit = unit;
            const auto d = exchange::drawing_of(m.job, m.results, "B1", asked);
            REQUIRE(d.ok());
            int rows = 0;
            for (const auto& ring : d->setting_out.rings)
                for (const auto& run : ring.runs)
                    for (const auto& row : run.rows) {
                        const double steps = row.at_mm / run.step_mm;
                        CHECK(steps == Approx(std::round(steps)).margin(1e-9));
                        CHECK(run.step_mm <= asked + 1e-9);
                        ++rows;
                    }
            CHECK(rows > 10);
        }
}

TEST_CASE("figures count from an edge of the panel where it has one, into the panel", "[setting_out]") {
    const Made m = made("ternlight");
    const auto d = exchange::drawing_of(m.job, m.results, "B2");
    REQUIRE(d.ok());
    const auto& s = d->setting_out;
    CHECK(s.level.is_edge);
    CHECK(s.upright.is_edge);
    for (const auto& corner : s.rings[0].corners)
        if (corner.a) {
            CHECK(corner.a->x() > -0.01);
            CHECK(corner.a->y() > -0.01);
        }
}

namespace {

std::string text_of_column(const std::string& pdf, int page, double left_mm, double top_mm, double high_mm,
                           const jobs::Folder& folder) {
    const auto dots = [](double mm) { return std::to_string(static_cast<int>(std::lround(mm / 25.4 * 72))); };
    const std::string n = std::to_string(page), out = folder.file("column");
    const std::string command = "pdftotext -layout -f " + n + " -l " + n + " -x " + dots(left_mm) + " -y " +
                                dots(top_mm) + " -W " + dots(paper::figures_w_mm + 2) + " -H " + dots(high_mm) + " " +
                                pdf + " " + out;
    REQUIRE(std::system(command.c_str()) == 0);
    return jobs::read(out);
}

/// All columns of figures of a piece's pages on A4, one under the other, as somebody reads them.
std::string figures_text(const std::string& pdf, const jobs::Folder& folder) {
    std::string out = text_of_column(pdf, 1, 297 - 10 - paper::figures_w_mm, 25, 210 - 52, folder);
    for (int page = 2;; ++page) {
        const std::string n = std::to_string(page), head = folder.file("head");
        if (std::system(
                ("pdftotext -layout -f " + n + " -l " + n + " " + pdf + " " + head + " 2> " + folder.file("no"))
                    .c_str()) != 0)
            return out;
        if (jobs::read(head).find("continued") == std::string::npos) return out;
        for (int column = 0; column < 3; ++column)
            out += text_of_column(pdf, page, 10 + column * (paper::figures_w_mm + 5), 19, 210 - 29, folder);
    }
}

/// Reads the tables again, knowing nothing but how they are written.
class Reader {
  public:
    Reader(const std::string& text, units::LengthUnit unit) : unit_(unit) {
        std::istringstream in(text);
        for (std::string line; std::getline(in, line);) {
            std::erase(line, '\f');
            line.erase(0, std::min(line.find_first_not_of(' '), line.size()));
            read(line);
        }
    }
    exchange::SettingOut out;

  private:
    /// Cells are set apart by two blanks or more: a fraction has one within.
    static std::vector<std::string> cells_of(const std::string& line) {
        static const std::regex apart(" {2,}");
        std::vector<std::string> cells;
        for (std::sregex_token_iterator it(line.begin(), line.end(), apart, -1), end; it != end; ++it)
            if (!it->str().empty()) cells.push_back(it->str());
        return cells;
    }
    std::optional<double> value(const std::string& cell) const {
        if (cell == "·") return std::nullopt;
        const auto mm = units::read_figure_mm(cell, unit_);
        return mm ? std::optional(*mm) : std::nullopt;
    }
    void read(const std::string& line) {
        const auto cells = cells_of(line);
        if (cells.empty()) return;
        const std::string& first = cells.front();
        std::smatch found;
        static const std::regex run("([0-9]+) to ([0-9]+): (.*)"), radius("arc, radius ([^,]+), (outwards|inwards)");
        if (first.find("to the left") != std::string::npos) out.leftwards = true;
        if (first.rfind("Down from", 0) == 0) out.down = true;
        if (first.find("Edges are square") != std::string::npos) out.faces_alike = true;
        if (first == "Corners" || first.rfind("Opening: ", 0) == 0) return void(out.rings.push_back({first, {}, {}}));
        if (first == "Openings and holes" || first == "Joints" || first == "What is allowed for")
            return void(part_ = Part::none);
        if (out.rings.empty()) return;
        if (first == "corner") return void(part_ = Part::corners);
        if (std::regex_match(first, found, run)) {
            exchange::SetRun next;
            next.from = std::stoi(found[1]), next.to = std::stoi(found[2]);
            const std::string how = found[3];
            next.on_a = how.find("face B") == std::string::npos, next.on_b = how.find("face A") == std::string::npos;
            next.kind = how.find("at places") != std::string::npos      ? geometry::RunKind::steep
                        : how.find("at distances") != std::string::npos ? geometry::RunKind::flat
                        : how.find("arc, radius") != std::string::npos  ? geometry::RunKind::arc
                                                                        : geometry::RunKind::straight;
            std::smatch arc;
            if (std::regex_search(how, arc, radius))
                next.radius_mm = (arc[2] == "inwards" ? -1 : 1) * *units::read_figure_mm(arc[1], unit_);
            out.rings.back().runs.push_back(next);
            return void(part_ = Part::rows);
        }
        if (part_ == Part::corners && cells.size() >= 3 && std::isdigit(static_cast<unsigned char>(first[0]))) {
            exchange::SetCorner corner;
            corner.number = std::stoi(first);
            const auto place = [&](std::size_t k) -> std::optional<Vec2> {
                const auto x = value(cells[k]), y = value(cells[k + 1]);
                return x && y ? std::optional(Vec2(*x, *y)) : std::nullopt;
            };
            corner.a = place(1);
            if (cells.size() == 5) corner.b = place(3);
            out.rings.back().corners.push_back(corner);
        }
        if (part_ == Part::rows && cells.size() >= 3 && value(first) && !out.rings.back().runs.empty()) {
            auto& here = out.rings.back().runs.back();
            exchange::SetRow row;
            row.at_mm = *value(first);
            (here.on_a ? row.a : row.b) = value(cells[1]);
            if (cells.size() == 4) row.b = value(cells[2]);
            here.rows.push_back(row);
        }
    }
    enum class Part { none, corners, rows } part_ = Part::none;
    units::LengthUnit unit_;
};

}  // namespace

TEST_CASE("a panel drawn again from its page's text alone is the panel, in millimetres and in inches",
          "[setting_out]") {
    const jobs::Folder folder;
    struct Case {
        const char *job, *piece;
    };
    for (const Case& c :
         cases<Case>({{"ternlight", "B2"}, {"ketch", "B1"}, {"ternlight", "B1"}, {"ketch", "B2"}}, 2)) {
        INFO(c.job << " " << c.piece);
        const Made m = made(c.job);
        const auto d = exchange::drawing_of(m.job, m.results, c.piece, exchange::usual_row_spacing_mm(m.job.unit));
        REQUIRE(d.ok());
        const std::string pdf = folder.file("piece.pdf");
        const std::string command = std::string(BEVELSMITH_CLI) + " export " + jobs::demo_path(c.job) + " --piece " +
                                    c.piece + " --format pdf -o " + pdf;
        REQUIRE(std::system(command.c_str()) == 0);
        const std::string text = figures_text(pdf, folder);
        INFO(text);
        Reader reader(text, m.job.unit);
        auto& read = reader.out;
        REQUIRE_FALSE(read.rings.empty());
        CHECK(read.leftwards == d->setting_out.leftwards);
        CHECK(read.down == d->setting_out.down);
        CHECK(read.rings[0].corners.size() == d->setting_out.rings[0].corners.size());
        CHECK(read.rings[0].runs.size() == d->setting_out.rings[0].runs.size());
        read.origin = d->setting_out.origin;  // where the base lines cross on the panel itself
        CHECK(off_mm(read, read.rings[0], true, d->face_a.outer) < allowed_mm(d->unit));
        CHECK(off_mm(read, read.rings[0], read.faces_alike, d->face_b.outer) < allowed_mm(d->unit));
    }
}

TEST_CASE("what a piece's papers draw as cut is its part on the sheet, whatever is to come at its edges",
          "[setting_out]") {
    int lipped = 0;
    for (const unsigned seed : cases<unsigned>({1, 2, 3}, 1)) {
        std::mt19937 random(seed);
        job::Job job = job::in_full(jobs::demo("ternlight"));
        job.units.clear();  // their panels stand among the pieces now
        dress(job, random);
        job::Pipeline pipeline;
        auto results = pipeline.compute_pieces(job);
        pipeline.lay_out(job, results);
        for (const auto& sheets : results.sheets)
            for (const auto& on_sheet : sheets.problem->parts) {
                const std::string id = on_sheet.id.substr(0, on_sheet.id.find('#'));
                INFO(seed << " " << id);
                const auto d = exchange::bare_drawing_of(job, results, id);
                REQUIRE(d.ok());
                const auto* material = job::find_material(job, sheets.material_id);
                auto larger = geometry::largest(geometry::unite({d->face_a}, {d->face_b}));
                larger = geometry::transformed(larger, -units::radians(d->grain_deg), {0, 0});
                if (d->good_face == piece::Face::b && !material->two_good_faces) larger = geometry::mirrored(larger);
                larger = geometry::transformed(larger, 0, -geometry::bounding_box(larger.outer).min);
                CHECK(geometry::farthest_mm(larger, on_sheet.shape) < 0.02);
                lipped += d->cut_differs();
            }
    }
    CHECK(lipped > cases(60, 20));
}

TEST_CASE("a lipped panel comes out of every file at its size as cut, with the finished one beside it",
          "[setting_out]") {
    job::Job job = job::in_full(jobs::demo("ternlight"));
    job.units.clear();
    auto& piece = *job::find_plain_piece(job, "B2");
    // 19 mm (3/4 in) of lipping along the centre: the panel is so much narrower as it is cut.
    piece.edges.at(1).lipping_mm = 19.05;
    const auto results = job::Pipeline().compute_pieces(job);
    const auto d = exchange::drawing_of(job, results, "B2");
    REQUIRE(d.ok());
    const auto finished = geometry::bounding_box(d->finished_a.outer), cut = geometry::bounding_box(d->face_a.outer);
    const double narrower = std::max(finished.width() - cut.width(), finished.height() - cut.height());
    CHECK(narrower == Approx(19.05).margin(0.01));
    const std::string svg = exchange::svg_of(*d);
    CHECK(svg.find("id=\"finished-a\"") != std::string::npos);
    CHECK(svg.find("lipping 19.1 mm to come") != std::string::npos);
    CHECK(exchange::csv_of(*d).find("as cut from the sheet, lippings not yet on") != std::string::npos);
    CHECK(exchange::ordinates_csv(*d).find("as cut from the sheet") != std::string::npos);
    const jobs::Folder folder;
    REQUIRE(exchange::write_drawing(*d, exchange::Format::dxf, folder.file("b2.dxf")).ok());
    const std::string dxf = jobs::read(folder.file("b2.dxf"));
    for (const char* words : {"FINISHED_A", "FINISHED_B", "lipping 19.1 mm to come"})
        CHECK(dxf.find(words) != std::string::npos);
}

TEST_CASE("figures read back within a quarter of a tape's mark, or a tenth of a millimetre", "[setting_out]") {
    using U = units::LengthUnit;
    std::mt19937 random(7);
    std::uniform_real_distribution<double> any(-3000, 3000);
    for (const U unit : {U::millimetre, U::centimetre, U::metre, U::inch, U::feet_inches, U::inch_sixteenths,
                         U::inch_thirty_seconds})
        for (int k = 0; k < 300; ++k) {
            const double mm = any(random);
            const auto back = units::read_figure_mm(units::figure(mm, unit), unit);
            INFO(units::figure(mm, unit));
            REQUIRE(back.ok());
            CHECK(std::abs(*back - mm) <= (unit == U::inch_sixteenths ? 25.4 / 64 + 1e-9 : 25.4 / 128 + 1e-9));
        }
    CHECK(units::figure(12.5 * 25.4 + 0.3 / 16 * 25.4, U::inch_sixteenths) == "12 1/2+");
    CHECK(units::figure(-12.5 * 25.4, U::inch_sixteenths) == "−12 1/2");
}

// The tables of the piece's page, as lines of cells.
#include <fmt/format.h>

#include <cmath>

#include "paper/page.h"
#include "paper/piece_page.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

using exchange::Drawing;
using exchange::SetRing;
using exchange::SetRun;
using geometry::RunKind;
using Kind = FigureLine::Kind;

class Lines {
  public:
    explicit Lines(const Drawing& d) : d_(d), up_(d.setting_out.down ? "down" : "up") {}
    std::vector<FigureLine> out;

    void bases() {
        const auto& s = d_.setting_out;
        out.push_back({Kind::heading, {"Set out from"}});
        out.push_back({Kind::words,
                       {fmt::format("{} from {}; across, to the {}, from {}. A minus: the other way. In {}.{}{}",
                                    s.down ? "Down" : "Up", s.level.words, s.leftwards ? "left" : "right",
                                    s.upright.words, units::unit_in_words(d_.unit),
                                    units::figure_note(d_.unit).empty() ? "" : " ", units::figure_note(d_.unit))}});
        if (s.faces_alike) out.push_back({Kind::words, {"Edges are square: one set of figures serves both faces."}});
    }
    void ring(const SetRing& ring, bool outline) {
        const bool both = std::any_of(ring.corners.begin(), ring.corners.end(), [](const auto& c) { return c.b; });
        out.push_back({Kind::heading, {outline ? "Corners" : "Opening: " + ring.name}});
        out.push_back(
            {Kind::heads, both ? std::vector<std::string>{"corner", "A across", "A " + up_, "B across", "B " + up_}
                               : std::vector<std::string>{"corner", "across", up_}});
        for (const auto& c : ring.corners) {
            std::vector<std::string> cells{std::to_string(c.number)};
            add(cells, c.a);
            if (both) add(cells, c.b);
            out.push_back({Kind::cells, cells});
        }
        out.push_back({Kind::heading, {outline ? "Edges" : "Its edges"}});
        for (const auto& run : ring.runs) add_run(run);
    }
    void openings() {
        if (d_.setting_out.openings.empty()) return;
        out.push_back({Kind::heading, {"Openings and holes"}});
        out.push_back(
            {Kind::words,
             {fmt::format("Square ones by their {} {} corner, round ones by their middle.",
                          d_.setting_out.down ? "upper" : "lower", d_.setting_out.leftwards ? "right" : "left")}});
        out.push_back({Kind::heads, {"across", up_, "wide", "high", "radius"}});
        std::string last;
        for (const auto& o : d_.setting_out.openings) {
            if (o.name != last) out.push_back({Kind::words, {o.name + (o.round ? ", round" : "")}});
            last = o.name;
            out.push_back({Kind::cells,
                           {figure(o.across_mm), figure(o.up_mm), figure(o.width_mm),
                            o.round ? "round" : figure(o.height_mm), figure(o.radius_mm)}});
        }
    }
    /// Holes of patterns, by their middles on face A.
    void drilled() {
        std::string last;
        for (const auto& hole : d_.drilled) {
            if (hole.pattern != last) {
                out.push_back({Kind::heading, {"Holes: " + hole.pattern}});
                out.push_back({Kind::heads, {"hole", "across", up_, "wide", ""}});
            }
            last = hole.pattern;
            const Vec2 at =
                d_.setting_out.figures_of(d_.on_its_side ? Vec2(hole.at.y(), d_.box.width() - hole.at.x()) : hole.at);
            out.push_back({Kind::cells,
                           {std::to_string(hole.number), figure(at.x()), figure(at.y()), figure(hole.diameter_mm),
                            piece::word_of(hole.kind)}});
        }
    }
    void joints() {
        if (d_.joint_lines.empty()) return;
        out.push_back({Kind::heading, {"Joints"}});
        for (const auto& joint : d_.joint_lines) {
            const Vec2 figures = d_.setting_out.figures_of(joint.from);
            const double at = joint.upright ? figures.x() : figures.y();
            out.push_back(
                {Kind::words, {fmt::format("{}: {} {}", joint.kind, joint.upright ? "across" : up_, figure(at))}});
        }
    }
    void making() {
        if (d_.making.empty()) return;
        out.push_back({Kind::heading, {"How it is made"}});
        for (const auto& words : d_.making) out.push_back({Kind::words, {words}});
    }
    void edges_in_words() {
        out.push_back({Kind::heading, {"What is allowed for"}});
        for (const auto& note : d_.notes) {
            const std::string words = exchange::words_of(note, d_.unit);
            out.push_back({Kind::words, {words == note.name ? words + ": nothing" : words}});
        }
    }

  private:
    std::string figure(double mm) const { return units::figure(mm, d_.unit); }
    void add(std::vector<std::string>& cells, const std::optional<Vec2>& p) const {
        cells.push_back(p ? figure(p->x()) : "·");
        cells.push_back(p ? figure(p->y()) : "·");
    }
    void add_run(const SetRun& run) {
        const std::string faces = run.on_a && run.on_b ? "" : run.on_a ? ", face A" : ", face B";
        std::string how = "straight";
        if (run.kind == RunKind::arc)
            how = fmt::format("arc, radius {}, {}", figure(std::abs(run.radius_mm)),
                              run.radius_mm > 0 ? "outwards" : "inwards");
        else if (run.kind == RunKind::steep) how = "curve, across at places " + up_;
        else if (run.kind == RunKind::flat) how = "curve, " + up_ + " at distances";
        const std::string bevel = run.kind == RunKind::straight || run.kind == RunKind::arc
                                      ? ", " + bevel_figure(run.bevel_deg).toStdString()
                                      : "";
        out.push_back(
            {Kind::words,
             {fmt::format("{} to {}: {}{}{}{}", run.from, run.to, run.edge.empty() ? how : run.edge + ", " + how,
                          bevel, faces, run.rows.empty() ? "" : ":")}});
        if (run.rows.empty()) return;
        const std::string at = run.kind == RunKind::steep ? up_ : "across";
        const std::string other = run.kind == RunKind::steep ? "across" : up_;
        const bool two = run.on_a && run.on_b && !d_.setting_out.faces_alike;
        if (two) out.push_back({Kind::heads, {at, "A " + other, "B " + other, "bevel"}});
        else out.push_back({Kind::heads, {at, other, "bevel"}});
        for (const auto& row : run.rows) {
            std::vector<std::string> cells{figure(row.at_mm)};
            if (two || run.on_a) cells.push_back(row.a ? figure(*row.a) : "·");
            if (two || !run.on_a) cells.push_back(row.b ? figure(*row.b) : "·");
            cells.push_back(bevel_figure(row.bevel_deg).toStdString());
            out.push_back({Kind::cells, cells});
        }
    }
    const Drawing& d_;
    const std::string up_;  ///< how heights are counted
};

}  // namespace

std::vector<FigureLine> figure_lines(const Drawing& d) {
    Lines lines(d);
    lines.making();
    lines.bases();
    const auto& rings = d.setting_out.rings;
    for (std::size_t i = 0; i < rings.size(); ++i) {
        lines.ring(rings[i], i == 0);
        if (i > 0) continue;
        lines.openings();
        lines.drilled();
        lines.joints();
    }
    lines.edges_in_words();
    return lines.out;
}

}  // namespace bevelsmith::paper

#include "exchange/dxf_paths.h"

#include <dl_creationadapter.h>
#include <dl_dxf.h>
#include <fmt/format.h>

#include <Eigen/Core>
#include <algorithm>
#include <charconv>
#include <cmath>
#include <functional>
#include <optional>
#include <sstream>

#include "geometry/batten.h"
#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

using geometry::Ring;

/// Corners behind `from` on an arc to `to`, `to` included; the bulge is tan of a quarter of its angle.
void add_arc(Ring& out, const Vec2& from, const Vec2& to, double bulge, double hair) {
    const double angle = 4 * std::atan(bulge);
    const Vec2 chord = to - from;
    // What is no number is no arc either; where it lies is judged with the other corners.
    if (!(std::abs(angle) >= 1e-9) || !(chord.norm() >= 1e-12)) return out.push_back(to);
    const Vec2 left(-chord.y(), chord.x());
    const Vec2 centre = (from + to) / 2 + left * (1 - bulge * bulge) / (4 * bulge);
    const double radius = (from - centre).norm();
    // Of an arc a world wide the step is too small to be told from nothing.
    constexpr double least_step = 1e-4, most_chords = 2000;
    const double step = radius > hair ? std::max(least_step, 2 * std::acos(1 - hair / radius)) : M_PI / 2;
    const int count = static_cast<int>(std::clamp(std::ceil(std::abs(angle) / step), 1.0, most_chords));
    const double start = std::atan2(from.y() - centre.y(), from.x() - centre.x());
    for (int k = 1; k < count; ++k) {
        const double a = start + angle * k / count;
        out.push_back(centre + radius * Vec2(std::cos(a), std::sin(a)));
    }
    out.push_back(to);
}

/// The sections in which something is drawn, or said of how: what else newer files hold is not for this library, and
/// not for us.
bool is_drawing(std::string_view section) {
    return section == "HEADER" || section == "BLOCKS" || section == "ENTITIES";
}

/// Pairs of a code and a value, of the sections that matter, checked before anything is built from them: the library
/// takes room for as many corners as the file says.
class Sifter {
  public:
    explicit Sifter(std::string_view text) : text_(text) {}
    Result<std::string> sifted() {
        while (at_ < text_.size())
            if (const auto fault = take_line()) return *fault;
        if (!any_) return Error{"there is nothing in this file"};
        out_ += "0\nEOF\n";
        return std::move(out_);
    }

  private:
    std::optional<Error> take_line() {
        const auto end = std::min(text_.find('\n', at_), text_.size());
        auto words = text_.substr(at_, end - at_);
        at_ = end + 1;
        ++line_;
        if (words.size() > units::limit::text.most)
            return kept_ || line_ % 2 ? std::optional(Error{units::too_many(units::limit::text, words.size()), line_})
                                      : std::nullopt;
        while (!words.empty() && (words.front() == ' ' || words.front() == '\t')) words.remove_prefix(1);
        while (!words.empty() && (words.back() == ' ' || words.back() == '\r')) words.remove_suffix(1);
        return line_ % 2 == 1 ? take_code(words) : take_value(words);
    }
    std::optional<Error> take_code(std::string_view words) {
        if (words.empty() && at_ >= text_.size()) return std::nullopt;
        const auto [stop, fault] = std::from_chars(words.data(), words.data() + words.size(), code_);
        if (fault != std::errc() || stop != words.data() + words.size() || code_ < -5 || code_ > 1071)
            return Error{
                "this is no DXF in text: a group code (a whole number) is wanted here; save the drawing "
                "as DXF, not binary and not DWG",
                line_};
        return std::nullopt;
    }
    std::optional<Error> take_value(std::string_view words) {
        any_ = true;
        if (code_ == 0 && words == "SECTION") begins_ = true;
        // A file of bare entities, without sections, is all drawing.
        if (begins_ && code_ == 2) {
            begins_ = false;
            kept_ = is_drawing(words);
            if (kept_) add(0, "SECTION"), add(2, words);
            return std::nullopt;
        }
        if (begins_ || (code_ == 0 && words == "EOF")) return std::nullopt;
        if (!kept_) return std::nullopt;
        if (code_ == 0) entity_ = words;
        const bool counts = (code_ >= 60 && code_ <= 99) || (code_ >= 170 && code_ <= 179);
        long long value = 0;
        if (counts && !words.empty()) {
            const auto [stop, fault] = std::from_chars(words.data(), words.data() + words.size(), value);
            if (fault != std::errc()) value = 0;  // the library passes over it
        }
        if (value > static_cast<long long>(units::limit::ring_corners.most) && room_is_taken())
            return Error{units::too_many(units::limit::ring_corners, static_cast<std::size_t>(value)), line_};
        // Colours, handles and flags of all kinds, of which nothing is built.
        constexpr long long large = 1'000'000;
        add(code_, std::abs(value) > large ? "0" : words);
        if (code_ == 0 && words == "ENDSEC") kept_ = false;
        return std::nullopt;
    }
    /// Whether the library would take room for as many as this says.
    bool room_is_taken() const {
        return (entity_ == "LWPOLYLINE" && code_ == 90) || (entity_ == "SPLINE" && code_ >= 72 && code_ <= 74) ||
               (entity_ == "LEADER" && code_ == 76) || (entity_ == "HATCH" && code_ >= 90 && code_ <= 99);
    }
    void add(int code, std::string_view words) {
        out_ += std::to_string(code);
        out_ += '\n';
        out_ += words;
        out_ += '\n';
    }

    std::string_view text_, entity_;
    std::string out_;
    std::size_t at_ = 0;
    int line_ = 0, code_ = 0;
    bool any_ = false, kept_ = true, begins_ = false;
};

/// A spline as the library tells of it, piece by piece.
struct Spline {
    std::string layer;
    unsigned degree = 0, told_knots = 0, told_controls = 0, told_fits = 0;
    std::vector<double> knots;
    std::vector<Eigen::Vector3d> controls;  ///< x w, y w, w
    std::vector<Vec2> fits;                 ///< places that it goes through, where it is told by them

    bool whole() const {
        return degree >= 1 && degree <= 12 && controls.size() > degree &&
               knots.size() == controls.size() + degree + 1 && std::is_sorted(knots.begin(), knots.end()) &&
               knots[degree] < knots[controls.size()];
    }
    /// de Boor's algorithm (C. de Boor, A Practical Guide to Splines, ch. X), in homogeneous coordinates.
    Vec2 at(double u, std::size_t span) const {
        std::vector<Eigen::Vector3d> d(controls.begin() + static_cast<std::ptrdiff_t>(span - degree),
                                       controls.begin() + static_cast<std::ptrdiff_t>(span + 1));
        for (unsigned r = 1; r <= degree; ++r)
            for (unsigned j = degree; j >= r; --j) {
                const std::size_t i = j + span - degree;
                const double width = knots[i + degree + 1 - r] - knots[i];
                const double t = width > 0 ? (u - knots[i]) / width : 0;
                d[j] = (1 - t) * d[j - 1] + t * d[j];
            }
        return d[degree].head<2>() / d[degree].z();
    }
};

/// Points on a curve until its chords are within a hair of it.
class Flattened {
  public:
    Flattened(std::function<Vec2(double)> curve, double hair) : curve_(std::move(curve)), hair_(hair) {}
    void add(double from, double to, Ring& out, int depth = 0) const {
        constexpr int least = 3, most = 14;
        const Vec2 a = curve_(from), b = curve_(to), middle = curve_((from + to) / 2);
        const bool flat = depth >= least && geometry::distance_to_segment_mm(middle, a, b) < hair_ / 2;
        if (flat || depth >= most || !middle.allFinite()) return out.push_back(b);
        add(from, (from + to) / 2, out, depth + 1);
        add((from + to) / 2, to, out, depth + 1);
    }

  private:
    std::function<Vec2(double)> curve_;
    double hair_;
};

/// Where a block is put.
struct Put {
    std::string block, layer;
    Vec2 at{0, 0};
    Eigen::Matrix2d turn = Eigen::Matrix2d::Identity();
    int columns = 1, rows = 1;
    double column_step = 0, row_step = 0;
};

/// What stands in a block, or in the drawing itself; drawing units.
struct Sheet {
    Vec2 base{0, 0};
    std::vector<DxfPath> paths;
    std::vector<Put> puts;
};

/// Takes the entities as the library finds them.
class Reader : public DL_CreationAdapter {
  public:
    Sheet drawing;
    std::map<std::string, Sheet> blocks;
    std::map<std::string, int> left_out;
    double mm_per_unit = 1;
    bool unit_stated = false, wild = false;

    void setVariableInt(const std::string& key, int value, int) override {
        if (key != "$INSUNITS") return;
        static const std::map<int, double> known{{1, 25.4}, {2, 304.8}, {4, 1}, {5, 10}, {6, 1000}, {14, 100}};
        if (const auto it = known.find(value); it != known.end()) mm_per_unit = it->second, unit_stated = true;
    }
    void addBlock(const DL_BlockData& d) override {
        finish();
        block_ = &blocks[d.name];
        block_->base = {d.bpx, d.bpy};
    }
    void endBlock() override {
        finish();
        block_ = nullptr;
    }
    void addInsert(const DL_InsertData& d) override {
        finish();
        Put put;
        put.block = d.name, put.layer = layer(), put.at = seen({d.ipx, d.ipy});
        const double a = d.angle * M_PI / 180;
        put.turn << std::cos(a) * d.sx, -std::sin(a) * d.sy, std::sin(a) * d.sx, std::cos(a) * d.sy;
        if (mirrored()) put.turn.row(0) *= -1;
        put.columns = std::max(1, d.cols), put.rows = std::max(1, d.rows);
        put.column_step = d.colSp, put.row_step = d.rowSp;
        sheet().puts.push_back(std::move(put));
    }
    void addSpline(const DL_SplineData& d) override {
        finish();
        spline_ = Spline{layer(), d.degree, d.nKnots, d.nControl, d.nFit, {}, {}, {}};
    }
    void addKnot(const DL_KnotData& d) override {
        if (spline_) spline_->knots.push_back(d.k);
    }
    void addControlPoint(const DL_ControlPointData& d) override {
        const double w = d.w > 0 ? d.w : 1;
        if (spline_) spline_->controls.push_back({d.x * w, d.y * w, w});
    }
    void addFitPoint(const DL_FitPointData& d) override {
        if (spline_) spline_->fits.emplace_back(d.x, d.y);
    }
    void addEllipse(const DL_EllipseData& d) override {
        finish();
        double from = d.angle1, to = d.angle2;
        if (!std::isfinite(from) || !std::isfinite(to) || !std::isfinite(d.ratio)) return void(wild = true);
        from = std::remainder(from, 2 * M_PI), to = std::remainder(to, 2 * M_PI);
        if (to <= from + 1e-12) to += 2 * M_PI;
        const bool whole = to - from > 2 * M_PI - 1e-9;
        const Vec2 centre(d.cx, d.cy), major(d.mx, d.my);
        const Vec2 minor = d.ratio * Vec2(-major.y(), major.x()) * (mirrored() ? -1 : 1);
        const Flattened curve([=](double a) -> Vec2 { return centre + std::cos(a) * major + std::sin(a) * minor; },
                              hair());
        Ring out{centre + std::cos(from) * major + std::sin(from) * minor};
        curve.add(from, to, out);
        if (whole) out.pop_back();
        add(std::move(out), whole, layer(), false);
    }
    void addLine(const DL_LineData& d) override {
        finish();
        add({{d.x1, d.y1}, {d.x2, d.y2}}, false, layer(), false);
    }
    void addArc(const DL_ArcData& d) override {
        finish();
        double from = d.angle1 * M_PI / 180, to = d.angle2 * M_PI / 180;
        if (!std::isfinite(from) || !std::isfinite(to)) return void(wild = true);
        from = std::remainder(from, 2 * M_PI), to = std::remainder(to, 2 * M_PI);
        if (to <= from) to += 2 * M_PI;
        const auto at = [&](double a) -> Vec2 {
            return {d.cx + d.radius * std::cos(a), d.cy + d.radius * std::sin(a)};
        };
        Ring out{at(from)};
        const double middle = (from + to) / 2, bulge = std::tan((to - from) / 8);
        add_arc(out, at(from), at(middle), bulge, hair());
        add_arc(out, at(middle), at(to), bulge, hair());
        add(std::move(out), false, layer(), true);
    }
    void addCircle(const DL_CircleData& d) override {
        finish();
        const Vec2 right(d.cx + d.radius, d.cy), left(d.cx - d.radius, d.cy);
        Ring out{right};
        add_arc(out, right, left, 1, hair());
        add_arc(out, left, right, 1, hair());
        add(std::move(out), true, layer(), true);
    }
    void addPolyline(const DL_PolylineData& d) override {
        finish();
        open_ = Polyline{layer(), (d.flags & 1) != 0, mirrored(), {}};
    }
    void addVertex(const DL_VertexData& d) override {
        if (open_) open_->corners.push_back({{d.x, d.y}, d.bulge});
    }
    void endSequence() override { finish(); }
    void endEntity() override {
        if (spline_ && spline_->told_controls <= spline_->controls.size() &&
            spline_->told_fits <= spline_->fits.size())
            finish();
    }
    /// A polyline's corners and a spline's points may end with the next entity.
    void finish() {
        if (spline_) add_spline(*std::exchange(spline_, std::nullopt));
        if (!open_) return;
        const Polyline line = *std::exchange(open_, std::nullopt);
        const std::size_t n = line.corners.size();
        if (n < 2) return;
        Ring out{line.corners[0].at};
        for (std::size_t k = 0; k + 1 < n + (line.closed ? 1 : 0); ++k)
            add_arc(out, line.corners[k].at, line.corners[(k + 1) % n].at, line.corners[k].bulge, hair());
        if (line.mirrored)
            for (Vec2& p : out) p.x() = -p.x();
        add(std::move(out), line.closed, line.layer, false);
    }

  private:
    struct Corner {
        Vec2 at{0, 0};
        double bulge = 0;
    };
    struct Polyline {
        std::string layer;
        bool closed = false, mirrored = false;
        std::vector<Corner> corners;
    };
    std::string layer() { return attributes.getLayer(); }
    Sheet& sheet() { return block_ ? *block_ : drawing; }
    /// Of a block the chords are finer: it may be put larger.
    double hair() const { return chord_mm / mm_per_unit / (block_ ? 10 : 1); }
    /// Seen from behind: what counts to the right there counts to the left here.
    bool mirrored() {
        double way[3] = {0, 0, 1};
        if (const auto* seen_along = getExtrusion()) seen_along->getDirection(way);
        return way[2] < -0.5;
    }
    Vec2 seen(const Vec2& p) { return mirrored() ? Vec2(-p.x(), p.y()) : p; }
    /// Told by the places that it goes through alone: what lies between them every program finds in its own way, and
    /// a batten's way is that of drawings.
    void add_through(const Spline& spline) {
        if (std::any_of(spline.fits.begin(), spline.fits.end(), [](const Vec2& p) { return !p.allFinite(); }))
            return void(wild = true);
        add(geometry::batten(spline.fits), false, spline.layer, false);
    }
    void add_spline(const Spline& spline) {
        if (spline.controls.empty() && spline.fits.size() >= 2) return add_through(spline);
        if (!spline.whole()) return void(++left_out["spline"]);
        Ring out;
        for (std::size_t span = spline.degree; span < spline.controls.size(); ++span) {
            if (spline.knots[span] >= spline.knots[span + 1]) continue;
            const Flattened curve([&](double u) { return spline.at(u, span); }, hair());
            if (out.empty()) out.push_back(spline.at(spline.knots[span], span));
            curve.add(spline.knots[span], spline.knots[span + 1], out);
        }
        add(std::move(out), false, spline.layer, false);
    }
    void add(Ring points, bool closed, const std::string& on, bool by_extrusion) {
        // What stands on a paper of the drawing (title, frame) is no part.
        if (attributes.isInPaperSpace()) return;
        for (Vec2& p : points) {
            if (by_extrusion) p = seen(p);
            wild = wild || !p.allFinite();
        }
        sheet().paths.push_back({on, std::move(points), closed});
    }
    std::optional<Polyline> open_;
    std::optional<Spline> spline_;
    Sheet* block_ = nullptr;
};

/// Lays out what stands on a sheet, and the blocks put there, in millimetres.
class Placing {
  public:
    explicit Placing(const Reader& reader) : reader_(reader) {}
    DxfPaths out;
    bool wild = false;
    std::size_t corners = 0;

    void put(const Sheet& sheet, const Vec2& at, const Eigen::Matrix2d& turn, const std::string& layer, int depth) {
        for (const DxfPath& path : sheet.paths) {
            DxfPath placed{depth > 0 && path.layer == "0" ? layer : path.layer, {}, path.closed};
            corners += path.points.size();
            if (full()) return;
            for (const Vec2& p : path.points) {
                placed.points.push_back(reader_.mm_per_unit * (at + turn * p));
                const Vec2& q = placed.points.back();
                wild = wild || !units::range::place.holds(q.x()) || !units::range::place.holds(q.y());
            }
            out.paths.push_back(std::move(placed));
        }
        for (const Put& one : sheet.puts) put_block(one, at, turn, layer, depth);
    }
    bool full() const { return corners > units::limit::nest_corners.most; }

  private:
    void put_block(const Put& one, const Vec2& at, const Eigen::Matrix2d& turn, const std::string& layer, int depth) {
        constexpr int deepest = 16;
        const auto block = reader_.blocks.find(one.block);
        if (block == reader_.blocks.end() || depth >= deepest) return void(++out.left_out["block"]);
        const std::string& own = depth > 0 && one.layer == "0" ? layer : one.layer;
        for (int c = 0; c < one.columns; ++c)
            for (int r = 0; r < one.rows; ++r) {
                // Blocks of nothing multiply as well.
                if (++put_ > units::limit::nest_corners.most) corners = units::limit::nest_corners.most + 1;
                if (full()) return;
                const Eigen::Matrix2d inner = turn * one.turn;
                const Vec2 moved =
                    one.at + one.turn.colwise().normalized() * Vec2(c * one.column_step, r * one.row_step);
                put(block->second, at + turn * moved - inner * block->second.base, inner, own, depth + 1);
            }
    }
    const Reader& reader_;
    std::size_t put_ = 0;
};

}  // namespace

Result<DxfPaths> read_dxf_paths(std::string_view text) {
    auto sifted = Sifter(text).sifted();
    if (!sifted) return sifted.error();
    Reader reader;
    std::istringstream stream(std::move(*sifted));
    DL_Dxf().in(stream, &reader);
    reader.finish();
    Placing placing(reader);
    placing.put(reader.drawing, {0, 0}, Eigen::Matrix2d::Identity(), {}, 0);
    if (reader.wild || placing.wild)
        return Error{"a place in this drawing lies outside the range: " + std::string(units::range::place.why) +
                     " (its unit may be another than it says)"};
    if (placing.full()) return Error{units::too_many(units::limit::nest_corners, placing.corners)};
    placing.out.mm_per_unit = reader.mm_per_unit;
    placing.out.unit_stated = reader.unit_stated;
    for (const auto& [what, count] : reader.left_out) placing.out.left_out[what] += count;
    return std::move(placing.out);
}

}  // namespace bevelsmith::exchange

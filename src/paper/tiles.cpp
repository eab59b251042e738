#include "paper/tiles.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

#include "paper/page.h"
#include "paper/pdf.h"
#include "paper/ways.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

using exchange::Drawing;

/// Around the drawn area; at the foot there is room for what the tile says of itself.
constexpr double margin_mm = 12, foot_mm = 30;
/// No line to cut lies nearer to a tile's frame than this: under it nobody would see it.
constexpr double frame_mm = 2;

Vec2 tile_page_mm(const Drawing& d, const PdfOptions& options) {
    if (options.size != Size::roll) return page_size_mm(options);
    constexpr double shortest_mm = 180;
    const double roll = std::clamp(options.roll_width_mm, least_roll_mm, most_roll_mm);
    return {roll, std::clamp(d.box.height() + 2 * margin_mm + foot_mm + 2 * frame_mm, shortest_mm, longest_page_mm)};
}

/// Which tiles a place lies on, well within their frames; four at most.
class Grid {
  public:
    Grid(const Drawing& d, const Tiling& t) : height_(d.box.height()), t_(t) {}
    template <class Take>
    void on(const Vec2& p, Take take) const {
        const double x = p.x() + t_.shift_x_mm, y = height_ - p.y() + t_.shift_y_mm;
        const int column = std::clamp(static_cast<int>(std::floor(x / t_.step_x_mm)), 0, t_.columns - 1);
        const int row = std::clamp(static_cast<int>(std::floor(y / t_.step_y_mm)), 0, t_.rows - 1);
        for (int c = column; c >= std::max(0, column - 1); --c)
            for (int r = row; r >= std::max(0, row - 1); --r)
                if (lies_on(x, c, t_.step_x_mm, t_.tile_width_mm) && lies_on(y, r, t_.step_y_mm, t_.tile_height_mm))
                    take(c, r);
    }

  private:
    static bool lies_on(double at, int k, double step, double tile) {
        constexpr double hair = 1e-6;
        const double off = at - k * step;
        return off >= frame_mm - hair && off <= tile - frame_mm + hair;
    }
    double height_;
    const Tiling& t_;
};

/// Places along every line that is cut, so far apart.
std::vector<Vec2> places_to_cut(const Drawing& d, double apart_mm) {
    std::vector<Vec2> out;
    const auto add = [&](const geometry::Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
            const int steps = 1 + static_cast<int>((b - a).norm() / apart_mm);
            for (int k = 0; k < steps; ++k) out.push_back(a + (b - a) * k / steps);
        }
    };
    for (const auto* face : {&d.face_a, &d.face_b}) {
        add(face->outer);
        for (const auto& hole : face->holes) add(hole);
    }
    return out;
}

using TileKey = std::pair<int, int>;  // row, column

/// Tiles that carry something no other carries; begun with those that carry least.
std::set<TileKey> fewest_tiles(const std::vector<Vec2>& places, const Grid& grid) {
    std::map<TileKey, std::vector<std::size_t>> on;
    std::vector<int> carried(places.size(), 0);
    for (std::size_t i = 0; i < places.size(); ++i)
        grid.on(places[i], [&](int c, int r) { on[{r, c}].push_back(i), ++carried[i]; });
    std::vector<std::pair<std::size_t, TileKey>> by_size;
    std::set<TileKey> kept;
    for (const auto& [key, those] : on) by_size.emplace_back(those.size(), key), kept.insert(key);
    std::sort(by_size.begin(), by_size.end());
    for (const auto& [size, key] : by_size) {
        const auto& those = on[key];
        if (std::any_of(those.begin(), those.end(), [&](std::size_t i) { return carried[i] < 2; })) continue;
        for (std::size_t i : those) --carried[i];
        kept.erase(key);
    }
    return kept;
}

/// Shifts of the grid worth trying: what the tiles leave over within their frames, in some steps, the middle first.
std::vector<double> shifts(double spare_mm) {
    constexpr int steps = 8;
    const double most = std::max(frame_mm, spare_mm - frame_mm);
    std::vector<double> out{spare_mm / 2};
    for (int k = 0; k <= steps; ++k) out.push_back(frame_mm + (most - frame_mm) * k / steps);
    return out;
}

/// The grid so placed that fewest pages have something on them.
void place_grid(const Drawing& d, Tiling& t) {
    const double spare_x = (t.columns - 1) * t.step_x_mm + t.tile_width_mm - d.box.width();
    const double spare_y = (t.rows - 1) * t.step_y_mm + t.tile_height_mm - d.box.height();
    constexpr double roughly_mm = 2;
    const auto places = places_to_cut(d, roughly_mm);
    std::size_t fewest = std::numeric_limits<std::size_t>::max();
    Tiling best = t;
    for (double x : shifts(spare_x))
        for (double y : shifts(spare_y)) {
            t.shift_x_mm = x;
            t.shift_y_mm = y;
            if (const auto pages = fewest_tiles(places, Grid(d, t)).size(); pages < fewest) fewest = pages, best = t;
        }
    t = best;
}

/// A tile's page: where the drawing's places fall on it.
class TilePage {
  public:
    TilePage(Paper& paper, const Drawing& d, const Tiling& t, const Tile& tile)
        : paper_(paper),
          d_(d),
          t_(t),
          tile_(tile),
          window_(margin_mm, margin_mm, t.tile_width_mm, t.tile_height_mm),
          origin_(margin_mm - tile.column * t.step_x_mm + t.shift_x_mm,
                  margin_mm + d.box.height() - tile.row * t.step_y_mm + t.shift_y_mm),
          room_(window_.adjusted(1, 1, -1, -1)) {}

    void draw(const std::vector<Tile>& printed, std::size_t which) {
        take_lines();
        paper_.painter().save();
        paper_.painter().setClipRect(window_);
        draw_grid();
        draw_shapes();
        paper_.painter().restore();
        draw_bevels();
        draw_words();
        draw_marks();
        paper_.pen(0.1, Qt::DotLine);
        paper_.painter().drawRect(window_);
        draw_foot(printed, which);
    }

  private:
    QPointF at(const Vec2& p) const { return {origin_.x() + p.x(), origin_.y() - p.y()}; }

    /// Round heights and distances from the base lines, as hairlines with their figures at the frame.
    void draw_grid() {
        const auto& s = d_.setting_out;
        const double step = exchange::usual_row_spacing_mm(d_.unit);
        const double w = d_.on_its_side ? d_.box.height() : d_.box.width(),
                     h = d_.on_its_side ? d_.box.width() : d_.box.height();
        for (const bool level : {true, false}) {
            const Vec2 one = s.figures_of({0, 0}), other = s.figures_of({w, h});
            const double low = level ? std::min(one.y(), other.y()) : std::min(one.x(), other.x()),
                         high = low + (level ? h : w);
            for (double k = std::ceil(low / step); k * step <= high; ++k) {
                const double here = k * step;
                const Vec2 a = level ? Vec2(one.x(), here) : Vec2(here, one.y());
                const Vec2 b = level ? Vec2(other.x(), here) : Vec2(here, other.y());
                draw_grid_line(at(exchange::place_in(d_, a)), at(exchange::place_in(d_, b)), here, level);
            }
        }
    }
    void draw_grid_line(const QPointF& a, const QPointF& b, double here, bool level) {
        const bool on_page_level = std::abs(a.y() - b.y()) < 1e-6;
        const double off = on_page_level ? a.y() : a.x();
        if (on_page_level ? off < window_.top() || off > window_.bottom()
                          : off < window_.left() || off > window_.right())
            return;
        const bool base = std::abs(here) < 1e-9;
        paper_.pen(base ? 0.25 : 0.1, base ? Qt::DashDotLine : Qt::SolidLine,
                   base ? Qt::black : QColor(120, 120, 120));
        paper_.line(a, b);
        const QString words = (level ? d_.setting_out.down ? "down " : "up " : "across ") + length(here, d_.unit);
        const QSizeF size = paper_.extent(2.4, words);
        const QSizeF box = on_page_level ? size : size.transposed();
        std::vector<QPointF> places;
        for (double along = size.width() / 2 + 3; along < (on_page_level ? window_.width() : window_.height()) / 2;
             along += 8)
            places.push_back(on_page_level ? QPointF(window_.left() + along, off)
                                           : QPointF(off, window_.top() + along));
        if (const auto where = room_.find(places, box)) paper_.label(*where, 2.4, words, on_page_level ? 0 : -90);
    }

    void path(const geometry::Polygon& shape) { paper_.painter().drawPath(path_of(shape).translated(origin_)); }

    void draw_shapes() {
        if (d_.cut_differs()) {
            paper_.pen(0.2, Qt::DashLine);
            path(d_.finished_a);
            path(d_.finished_b);
        }
        paper_.pen(0.2);
        path(d_.face_b);
        paper_.pen(0.5);
        path(d_.face_a);
        paper_.pen(0.2, Qt::DashDotLine);
        for (const auto& joint : d_.joint_lines) paper_.line(at(joint.from), at(joint.to));
        for (const auto& relief : d_.reliefs) {
            paper_.pen(0.15, relief.face == piece::Face::a ? Qt::DotLine : Qt::DashDotDotLine);
            for (std::size_t i = 0; i + 1 < relief.line.size(); ++i)
                paper_.line(at(relief.line[i]), at(relief.line[i + 1]));
        }
        paper_.pen(0.2);
        for (const auto& tick : d_.ticks) paper_.line(at(tick.at), at(tick.at + 8 * tick.outward));
        for (const auto& hole : d_.drilled) {
            // At 1:1, so that it is pricked through.
            const double r = hole.diameter_mm / 2;
            paper_.painter().drawEllipse(at(hole.at), r, r);
            paper_.line(at(hole.at) - QPointF(r + 2, 0), at(hole.at) + QPointF(r + 2, 0));
            paper_.line(at(hole.at) - QPointF(0, r + 2), at(hole.at) + QPointF(0, r + 2));
        }
    }

    void take_lines() {
        const auto take = [&](const geometry::Ring& ring) {
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const QPointF a = at(ring[i]), b = at(ring[(i + 1) % ring.size()]);
                if (window_.intersects(QRectF(a, b).normalized().adjusted(-1, -1, 1, 1))) room_.take_line(a, b);
            }
        };
        for (const auto* face : {&d_.face_a, &d_.face_b, &d_.finished_a, &d_.finished_b}) {
            take(face->outer);
            for (const auto& hole : face->holes) take(hole);
        }
    }

    /// Words near a place, off the lines.
    void say(const Vec2& near, const Vec2& outward, double size_mm, const QString& words) {
        if (!window_.contains(at(near))) return;
        const QSizeF size = paper_.extent(size_mm, words) + QSizeF(1, 0.6);
        std::vector<QPointF> places;
        const Vec2 along(-outward.y(), outward.x());
        for (double out : {-8.0, -14.0, 8.0, -20.0, 14.0, -28.0, 20.0, -40.0})
            for (double side : {0.0, 12.0, -12.0, 26.0, -26.0}) {
                const Vec2 reach =
                    out * outward + (out < 0 ? -1 : 1) * size.width() / 2 * std::abs(outward.x()) * outward;
                places.push_back(at(near + reach + side * along));
            }
        if (const auto where = room_.find(places, size)) {
            paper_.label(*where, size_mm, words);
            paper_.leader(at(near), *where, size);
        }
    }

    void draw_bevels() {
        for (const auto& tick : d_.ticks) {
            const QString words = bevel_figure(tick.bevel_deg);
            if (!window_.contains(at(tick.at))) continue;
            const QSizeF size = paper_.extent(3, words) + QSizeF(0.6, 0.4);
            std::vector<QPointF> places;
            for (double out : {12.0, -10.0, 18.0, -16.0, -24.0}) places.push_back(at(tick.at + out * tick.outward));
            if (const auto where = room_.find(places, size)) paper_.label(*where, 3, words);
        }
    }

    /// Where a stretch of a ring is seen best on this tile: the middle of what lies on it.
    /// Where it runs on one of `others` it is not told apart from it.
    std::optional<std::pair<Vec2, Vec2>> seen(const geometry::Ring& ring,
                                              const std::vector<const geometry::Ring*>& others = {}) const {
        constexpr double apart_mm = 0.5;
        const auto clear = [&](const Vec2& p) {
            for (const auto* other : others)
                for (std::size_t k = 0; k < other->size(); ++k)
                    if (geometry::distance_to_segment_mm(p, (*other)[k], (*other)[(k + 1) % other->size()]) <
                        apart_mm)
                        return false;
            return true;
        };
        std::vector<std::pair<Vec2, Vec2>> on;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
            const int n = 1 + static_cast<int>((b - a).norm() / 10);
            const Vec2 along = (b - a).norm() > 1e-9 ? Vec2((b - a).normalized()) : Vec2(1, 0);
            for (int k = 0; k < n; ++k)
                if (const Vec2 p = a + (b - a) * k / n;
                    window_.adjusted(15, 10, -15, -10).contains(at(p)) && clear(p))
                    on.emplace_back(p, Vec2(along.y(), -along.x()));
        }
        if (on.empty()) return std::nullopt;
        return on[on.size() / 3];
    }

    /// On the side away from the other lines, so that no leader crosses one.
    void name(const geometry::Ring& ring, const std::vector<const geometry::Ring*>& others, const QString& words) {
        if (const auto there = seen(ring))
            say(there->first, -side_away(there->first, there->second, others), 3, words);
    }

    void draw_words() {
        const bool apart = geometry::farthest_mm({d_.face_a.outer, {}}, {d_.face_b.outer, {}}) > 1;
        const auto *face_a = &d_.face_a.outer, *face_b = &d_.face_b.outer, *finished = &d_.finished_a.outer;
        name(*face_a, {face_b, finished}, apart ? "face A, cut" : "both faces, cut");
        if (apart) name(*face_b, {face_a, finished}, "face B, cut");
        if (d_.cut_differs())
            if (const auto there = seen(*finished, {face_a, face_b}))
                say(there->first, -side_away(there->first, there->second, {face_a, face_b}), 3, "finished");
        for (const auto& note : d_.notes) say(note.at, note.outward, 3, text_of(exchange::words_of(note, d_.unit)));
        for (const auto& joint : d_.joint_lines) {
            const Vec2 way = (joint.to - joint.from).normalized();
            if (const auto p = seen({joint.from, joint.to}))
                say(p->first, Vec2(way.y(), -way.x()), 3, text_of(joint.kind));
        }
        for (const auto& o : d_.setting_out.openings) {
            const Vec2 middle = exchange::middle_of(o);
            const QString size = o.round ? QString("%1 across").arg(length(o.width_mm, d_.unit))
                                         : QString("%1 x %2, r %3")
                                               .arg(length(o.width_mm, d_.unit), length(o.height_mm, d_.unit),
                                                    length(o.radius_mm, d_.unit));
            say(exchange::place_in(d_, middle), {0, 1}, 2.8, text_of(o.name) + ": " + size);
        }
        for (const auto& hole : d_.drilled)
            say(hole.at, {0, 1}, 2.6, text_of(hole.pattern + " " + exchange::words_of(hole, d_.unit)));
        // Grain, as a double arrow where there is room.
        const double k = units::radians(d_.grain_deg);
        const QPointF way(std::cos(k), -std::sin(k));
        std::vector<QPointF> places;
        for (double x : {0.5, 0.35, 0.65, 0.2, 0.8})
            for (double y : {0.8, 0.65, 0.35, 0.2})
                places.emplace_back(window_.left() + x * window_.width(), window_.top() + y * window_.height());
        constexpr double half = 12;
        if (const auto where = room_.find(places, QSizeF(26, 26))) {
            paper_.pen(0.2);
            paper_.arrow(*where - half * way, *where + half * way);
            paper_.arrow(*where + half * way, *where - half * way);
            paper_.label(*where, 2.6, "grain");
        }
    }

    void draw_marks() {
        for (int c = std::max(0, tile_.column - 1); c <= std::min(t_.columns, tile_.column + 1); ++c)
            for (int r = std::max(0, tile_.row - 1); r <= std::min(t_.rows, tile_.row + 1); ++r) {
                // In the middle of the overlaps, so that each mark stands on every tile that shares it.
                const QPointF p(margin_mm + (c - tile_.column) * t_.step_x_mm + (t_.tile_width_mm - t_.step_x_mm) / 2,
                                margin_mm + (r - tile_.row) * t_.step_y_mm + (t_.tile_height_mm - t_.step_y_mm) / 2);
                if (!window_.adjusted(-0.1, -0.1, 0.1, 0.1).contains(p)) continue;
                paper_.pen(0.15);
                paper_.line(p - QPointF(4, 0), p + QPointF(4, 0));
                paper_.line(p - QPointF(0, 4), p + QPointF(0, 4));
                paper_.painter().drawEllipse(p, 2, 2);
            }
    }

    void draw_map(const QRectF& room, const std::vector<Tile>& printed) {
        const double w = std::max(d_.box.width() + t_.shift_x_mm, (t_.columns - 1) * t_.step_x_mm + t_.tile_width_mm);
        const double h = std::max(d_.box.height() + t_.shift_y_mm, (t_.rows - 1) * t_.step_y_mm + t_.tile_height_mm);
        const double scale = std::min(room.width() / w, room.height() / h);
        auto& p = paper_.painter();
        p.save();
        p.translate(room.right() - w * scale, room.top());
        p.scale(scale, scale);
        for (const Tile& tile : printed) {
            paper_.pen(0.12 / scale);
            if (tile.column == tile_.column && tile.row == tile_.row) p.setBrush(QColor(200, 200, 200));
            p.drawRect(
                QRectF(tile.column * t_.step_x_mm, tile.row * t_.step_y_mm, t_.tile_width_mm, t_.tile_height_mm));
        }
        paper_.pen(0.35 / scale);
        p.drawPath(path_of(d_.face_a).translated(t_.shift_x_mm, t_.shift_y_mm + d_.box.height()));
        p.restore();
    }

    void draw_foot(const std::vector<Tile>& printed, std::size_t which) {
        const double top = window_.bottom() + 2, left = window_.left(), wide = window_.width();
        constexpr double map_w = 34, ways_w = 34;
        const double words_w = wide - map_w - ways_w - 4;
        paper_.text({left, top, words_w, 5}, 3.8, text_of(d_.title), true);
        paper_.text({left, top + 5.4, words_w, 4}, 2.8,
                    QString("%1, sheet %2 of %3: row %4, column %5. Face A is seen; good face %6. 1:1, do not scale.")
                        .arg(text_of(d_.id))
                        .arg(which + 1)
                        .arg(printed.size())
                        .arg(tile_.row + 1)
                        .arg(tile_.column + 1)
                        .arg(d_.good_face == piece::Face::a ? "A" : "B"));
        paper_.text({left, top + 9.6, words_w, 4}, 2.8, text_of(exchange::what_lines_are(d_)));
        paper_.text({left, top + 13.8, words_w, 4}, 2.8,
                    QString("Bevels: + open, face B reaches farther. %1 from %2, across from %3, in %4. %5")
                        .arg(d_.setting_out.down ? "Down" : "Up", text_of(d_.setting_out.level.words),
                             text_of(d_.setting_out.upright.words), text_of(units::unit_in_words(d_.unit)),
                             text_of(units::figure_note(d_.unit))));
        check_line(paper_, {left, top + 22.5}, false, d_.unit);
        if (window_.height() > units::check_length_mm(d_.unit) + 10)
            check_line(paper_, {margin_mm / 2 + 1, window_.top() + 5}, true, d_.unit);
        draw_ways(paper_, d_, {left + words_w + 2 + ways_w / 2, top + 14}, 9);
        draw_map({left + wide - map_w, top, map_w, foot_mm - 6}, printed);
    }

    Paper& paper_;
    const Drawing& d_;
    const Tiling& t_;
    const Tile& tile_;
    const QRectF window_;
    const QPointF origin_;
    Room room_;
};

}  // namespace

std::optional<Size> size_by_name(const std::string& name) {
    static const std::map<std::string, Size> all{{"a4", Size::a4},
                                                 {"a3", Size::a3},
                                                 {"letter", Size::letter},
                                                 {"tabloid", Size::tabloid},
                                                 {"roll", Size::roll}};
    const auto at = all.find(name);
    return at == all.end() ? std::nullopt : std::optional(at->second);
}

Vec2 page_size_mm(const PdfOptions& options) {
    switch (options.size) {
        case Size::a3: return {297, 420};
        case Size::letter: return {215.9, 279.4};
        case Size::tabloid: return {279.4, 431.8};
        case Size::roll: return {210, std::max(297.0, std::clamp(options.roll_width_mm, least_roll_mm, 420.0))};
        case Size::a4: break;
    }
    return {210, 297};
}

std::vector<Tile> printed_tiles(const Drawing& d, const Tiling& t) {
    // So close that nothing that can be cut slips through between two tiles.
    constexpr double closely_mm = 0.1;
    std::vector<Tile> out;
    for (const auto& [row, column] : fewest_tiles(places_to_cut(d, closely_mm), Grid(d, t)))
        out.push_back({column, row});
    return out;
}

Tiling tiling_for(const Drawing& d, const PdfOptions& options) {
    const Vec2 page = tile_page_mm(d, options);
    Tiling t;
    t.page_width_mm = page.x(), t.page_height_mm = page.y();
    t.tile_width_mm = page.x() - 2 * margin_mm;
    t.tile_height_mm = page.y() - 2 * margin_mm - foot_mm;
    t.step_x_mm = t.tile_width_mm - options.overlap_mm;
    t.step_y_mm = t.tile_height_mm - options.overlap_mm;
    const auto count = [&](double length, double tile, double step) {
        return 1 + std::max(0, static_cast<int>(std::ceil((length + 2 * frame_mm - tile) / step - 1e-9)));
    };
    t.shift_x_mm = t.shift_y_mm = frame_mm;
    t.columns = count(d.box.width(), t.tile_width_mm, t.step_x_mm);
    t.rows = count(d.box.height(), t.tile_height_mm, t.step_y_mm);
    // What takes more paper than anybody prints need not be placed well.
    if (static_cast<std::size_t>(t.columns) * static_cast<std::size_t>(t.rows) <= most_pages) place_grid(d, t);
    return t;
}

Drawing laid_for(Drawing drawing, const PdfOptions& options) {
    const auto paper = [&](const Drawing& d) {
        const Tiling t = tiling_for(d, options);
        return static_cast<double>(printed_tiles(d, t).size()) * t.page_height_mm;
    };
    Drawing other = exchange::turned(drawing);
    return paper(other) < paper(drawing) - 1 ? other : drawing;
}

void draw_tile(Paper& paper, const Drawing& d, const Tiling& t, const std::vector<Tile>& printed, std::size_t which) {
    TilePage(paper, d, t, printed[which]).draw(printed, which);
}

}  // namespace bevelsmith::paper

#include "app/pieces/piece_sketch.h"

#include "app/look/theme.h"

namespace bevelsmith::app {

geometry::Box box_of(const piece::Sketch& sketch) {
    geometry::Box out;
    bool any = false;
    for (const auto* lines : {&sketch.lines, &sketch.open})
        for (const auto& line : *lines)
            for (const Vec2& p : line.points) {
                if (!any) out = {p, p};
                out = {out.min.cwiseMin(p), out.max.cwiseMax(p)};
                any = true;
            }
    return out;
}

namespace {

/// Where the outline stays open, and where readings would close it.
void draw_open(Pencil& pencil, const piece::Sketch& sketch) {
    const auto& c = theme().colours();
    for (const auto& line : sketch.open) {
        pencil.pen(c.stop, 2, Qt::DotLine);
        pencil.path(line.points, false);
        pencil.fill(Qt::NoBrush);
        pencil.painter().drawEllipse(pencil.at(line.points.front()), 5, 5);
    }
    for (const Vec2& at : sketch.next) {
        pencil.pen(c.accent, 1.6);
        pencil.fill(c.paper);
        pencil.diamond(at, 6);
    }
    for (const auto& line : sketch.open) {
        pencil.painter().setPen(c.stop);
        pencil.text(line.points.front(), "open from here", {0, -16}, size::text_small, true);
    }
    pencil.fill(Qt::NoBrush);
}

}  // namespace

void draw_sketch(Pencil& pencil, const piece::Sketch& sketch) {
    const auto& c = theme().colours();
    pencil.fill(Qt::NoBrush);
    for (const auto& line : sketch.lines) {
        if (line.points.size() < 2) continue;
        const bool scribed = line.source == piece::EdgeSource::scribed;
        if (line.culprit) {
            QColor shade = c.stop;
            shade.setAlphaF(0.15F);
            pencil.fill(shade);
        }
        pencil.pen(line.culprit ? c.stop
                   : scribed    ? c.certain
                                : c.ink,
                   line.culprit || scribed ? 2 : 1.2, scribed || line.culprit ? Qt::SolidLine : Qt::DashLine);
        pencil.path(line.points, line.points.front() == line.points.back());
        pencil.fill(Qt::NoBrush);
    }
    draw_open(pencil, sketch);
    // The words last, so that no line strikes them through.
    for (const auto& line : sketch.lines) {
        if (line.points.empty()) continue;
        pencil.painter().setPen(line.culprit ? c.stop : c.ink);
        const bool notch = line.source == piece::EdgeSource::limber;
        const std::size_t at =
            line.source == piece::EdgeSource::scribed ? line.points.size() / 4 : line.points.size() / 2;
        pencil.text(line.points[at], QString::fromStdString(line.name), {0, notch ? 16.0 : -12.0}, size::text_small,
                    line.culprit);
    }
}

}  // namespace bevelsmith::app

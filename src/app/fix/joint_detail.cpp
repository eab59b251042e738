#include "app/fix/joint_detail.h"

#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {

JointDetail::JointDetail(PieceState& state) : state_(state) {
    unit = [this] { return state_.document.unit(); };
    margin_px = 22;
    connect(&state_, &PieceState::changed, this, [this] { content_changed(); });
    connect(&state_, &PieceState::pointed, this, [this] { content_changed(); });
}

geometry::Box JointDetail::content() const {
    if (!state_.shape() || !state_.hull_said()) return {};
    const double laminate = state_.document.computed()->job.boat.shell.laminate_mm;
    return {{-150, -laminate - 6}, {150, 105}};
}

double JointDetail::bevel_rad() const {
    const auto& marks = state_.shape()->marks;
    if (state_.mark() >= 0 && state_.mark() < static_cast<int>(marks.size()))
        return marks[static_cast<std::size_t>(state_.mark())].bevel_rad;
    const auto& blocks = state_.result()->fixing.blocks.positions;
    if (!blocks.empty()) return blocks.front().bevel_rad;
    return marks.empty() ? 0 : marks[marks.size() / 2].bevel_rad;
}

void JointDetail::draw(Pencil& pencil) {
    const auto* shape = state_.shape();
    if (!shape) return;
    const auto& c = theme().colours();
    const double t = shape->thickness_mm, laminate = state_.document.computed()->job.boat.shell.laminate_mm,
                 lean = bevel_rad();
    pencil.pen(c.certain, 1.2);
    QColor hull = c.certain;
    hull.setAlphaF(0.22F);
    pencil.fill(hull);
    pencil.path({{-220, 0}, {220, 0}, {220, -laminate}, {-220, -laminate}}, true);
    const auto& plan = state_.result()->fixing;
    // Face A at left. An open bevel lets face B reach farther: the piece leans so that both faces stand on the hull.
    const auto* piece = state_.computed_piece();
    const double gap = piece && !piece->edges.empty() ? piece->edges.front().gap_mm : 0;
    const Vec2 up(-std::sin(lean), std::cos(lean)), across(std::cos(lean), std::sin(lean));
    const auto foot = [&](double along) {
        return Vec2(across * along + up * ((gap - (across * along).y()) / up.y()));
    };
    pencil.pen(c.ink, 1.5);
    pencil.fill(c.wood);
    pencil.path({foot(-t / 2), foot(t / 2), foot(t / 2) + up * 260, foot(-t / 2) + up * 260}, true);
    pencil.fill(Qt::NoBrush);
    if (plan.method == fixing::Method::tabbing) draw_tabbing(pencil, plan.tabbing, t, lean);
    else draw_block(pencil, plan.blocks, t, lean);
    pencil.pen(c.ink, 1);
    pencil.text({-132, -laminate / 2}, QString("laminate %1").arg(state_.document.length(laminate)), {20, 0},
                size::text_small, false, false);
    pencil.painter().setPen(c.faint);
    pencil.painter().setFont(Theme::font(size::text_small));
    pencil.painter().fillRect(QRectF(0, 0, width(), 26), c.paper);
    pencil.painter().drawText(QRectF(14, 6, width() - 28, 16), Qt::AlignLeft,
                              QString("cross-section of the joint, bevel %1%2")
                                  .arg(QString::fromStdString(units::format_angle(lean)),
                                       state_.mark() < 0 ? "; point at the edge to see it elsewhere" : ""));
}

void JointDetail::draw_tabbing(Pencil& pencil, const fixing::Tabbing& tabbing, double t, double lean) {
    const auto& c = theme().colours();
    const double r = tabbing.fillet_radius_mm,
                 ply = tabbing.laminate_mm / std::max<double>(1, static_cast<double>(tabbing.strip_widths_mm.size()));
    for (double side : {-1.0, 1.0}) {
        // The corner on this side, between the hull and the piece; open on one side where it is closed on the other.
        const double corner = units::pi / 2 + side * lean;
        const Vec2 up(-std::sin(lean), std::cos(lean)), out(side, 0);
        const Vec2 foot(side * t / 2 / std::cos(lean), 0);
        const double tangent = r / std::tan(corner / 2);
        std::vector<Vec2> fillet{foot};
        const Vec2 bisector = (out + up).normalized(), centre = foot + bisector * r / std::sin(corner / 2);
        const Vec2 from = foot + out * tangent, to = foot + up * tangent;
        const double a0 = std::atan2((from - centre).y(), (from - centre).x());
        double a1 = std::atan2((to - centre).y(), (to - centre).x());
        while (a1 - a0 > units::pi) a1 -= 2 * units::pi;
        while (a1 - a0 < -units::pi) a1 += 2 * units::pi;
        std::vector<Vec2> arc;
        for (int k = 0; k <= 12; ++k)
            arc.push_back(centre + r * Vec2(std::cos(a0 + (a1 - a0) * k / 12), std::sin(a0 + (a1 - a0) * k / 12)));
        fillet.insert(fillet.end(), arc.begin(), arc.end());
        pencil.pen(c.faint, 0.8);
        pencil.fill(c.line);
        pencil.path(fillet, true);
        pencil.fill(Qt::NoBrush);
        int k = 0;
        for (double width : tabbing.strip_widths_mm) {
            const double lift = (k + 0.5) * ply, reach = std::max(0.0, width / 2 - r);
            const Vec2 n_hull(0, 1), n_piece = Vec2(up.y(), -up.x()) * side;
            std::vector<Vec2> line{from + out * reach + n_hull * lift};
            for (const Vec2& p : arc) line.push_back(p + (centre - p).normalized() * lift);
            line.push_back(to + up * reach + n_piece * lift);
            pencil.painter().setPen(
                QPen(k % 2 ? c.certain : c.accent, std::max(1.2, pencil.px(ply) * 0.7), Qt::SolidLine, Qt::FlatCap));
            pencil.path(line);
            ++k;
        }
    }
    pencil.pen(c.ink, 1);
    pencil.text(
        {96, 40},
        QString("%1 plies over a fillet of %2").arg(tabbing.strip_widths_mm.size()).arg(state_.document.length(r)));
}

void JointDetail::draw_block(Pencil& pencil, const fixing::Blocks& b, double t, double lean) {
    const auto& c = theme().colours();
    const auto& rules = state_.document.computed()->job.fixing_rules;
    // The block sits against face A, its foot cut to the bevel; the screw comes from face B.
    const Vec2 up(-std::sin(lean), std::cos(lean)), across(std::cos(lean), std::sin(lean));
    const auto on_hull = [&](double along) { return Vec2(across * along + up * (-(across * along).y() / up.y())); };
    const double near = -t / 2, far = -t / 2 - b.block_depth_mm;
    const Vec2 top = up * rules.block_width_mm;
    pencil.pen(c.accent, 1.4);
    QColor shade = c.accent;
    shade.setAlphaF(0.22F);
    pencil.fill(shade);
    pencil.path({on_hull(near), on_hull(near) + top, on_hull(far) + top, on_hull(far)}, true);
    pencil.fill(Qt::NoBrush);
    if (b.screw_length_mm > 0) {
        const Vec2 head = up * rules.block_width_mm / 2 + across * t / 2, point = head - across * b.screw_length_mm;
        pencil.painter().setPen(
            QPen(c.ink, std::max(2.0, pencil.px(stock::screw_shank_mm(b.screw_gauge))), Qt::SolidLine, Qt::FlatCap));
        pencil.line(head, point + across * 4);
        pencil.pen(c.ink, 1.6);
        pencil.line(point + across * 4, point);
        pencil.line(head + up * 3.5, head - up * 3.5);
    }
    pencil.pen(c.ink, 1);
    pencil.text({-100, 62}, QString("block %1 deep").arg(state_.document.length(b.block_depth_mm)));
    pencil.text({88, 52},
                b.screw_length_mm > 0
                    ? QString("No. %1 × %2 screw").arg(b.screw_gauge).arg(state_.document.length(b.screw_length_mm))
                    : QString("no stocked screw fits"));
    pencil.text({-100, 40}, QString("%1 clear behind the point").arg(state_.document.length(b.clearance_mm)));
}

}  // namespace bevelsmith::app

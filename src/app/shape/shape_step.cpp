// Shape: the surface from all sides, a section anywhere, and how well it is known.
#include <fmt/format.h>

#include <QMouseEvent>
#include <QSplitter>
#include <algorithm>
#include <array>
#include <cmath>

#include "app/look/theme.h"
#include "app/shape/scene_view.h"
#include "app/shape/surface_fields.h"
#include "app/widgets/drawing_view.h"
#include "app/widgets/free_places.h"
#include "app/widgets/step.h"
#include "hull/inside.h"
#include "hull/section.h"
#include "job/in_full.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

/// Readings this near to the section are drawn with it.
constexpr double widest_beside_mm = 150;

/// The upright plane across the boat that is looked at.
class SectionState : public QObject {
    Q_OBJECT
  public:
    explicit SectionState(Document& d) : document(d) {
        connect(&document, &Document::computed_changed, this, &SectionState::settle);
        settle();
    }
    Document& document;
    double at_mm() const { return at_; }
    geometry::Plane plane() const { return {Vec3::UnitX(), at_}; }
    void move(double x) {
        const double next = std::clamp(x, low, high);
        if (next == at_) return;
        at_ = next;
        emit changed();
    }
    /// The one looked at, or the first that there is; null while it has no fit.
    const job::SurfaceResult* surface() const {
        for (const auto& s : document.computed()->results.surfaces)
            if (looked_at_.empty() ? s.fitted() != nullptr : s.id == looked_at_) return s.fitted() ? &s : nullptr;
        return nullptr;
    }
    std::string surface_id(const std::string& otherwise) const {
        if (!looked_at_.empty()) return looked_at_;
        return surface() ? surface()->id : otherwise;
    }
    void look_at_surface(const std::string& id) {
        looked_at_ = id;
        placed_ = false;
        settle();
    }
    void forget() {
        looked_at_.clear();
        placed_ = false;
        settle();
    }
    double low = 0, high = 0;  ///< how far the surface reaches along the boat

  signals:
    void changed();

  private:
    void settle() {
        if (const auto* s = surface(); s && s->mesh) {
            low = HUGE_VAL, high = -HUGE_VAL;
            for (const auto& node : s->mesh->nodes) {
                low = std::min(low, node.position.x());
                high = std::max(high, node.position.x());
            }
            if (!placed_) at_ = std::round((low + high) / 2 / 10) * 10;
            placed_ = true;
            at_ = std::clamp(at_, low, high);
        }
        emit changed();
    }
    double at_ = 0;
    bool placed_ = false;
    std::string looked_at_;
};

class SectionDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit SectionDrawing(SectionState& state) : state_(state) {
        unit = [this] { return state_.document.unit(); };
        margin_px = 34;
        connect(&state_, &SectionState::changed, this, &SectionDrawing::rebuild);
        rebuild();
    }
    /// Empty where no readings surround the section.
    std::optional<double> largest_sigma_mm() const { return largest_sigma_; }

  protected:
    geometry::Box content() const override { return box_; }
    QString empty_words() const override { return "Here stands the section across the boat."; }
    void draw(Pencil& pencil) override {
        const auto& c = theme().colours();
        for (const auto& run : runs_)
            for (std::size_t i = 1; i < run.points.size(); ++i) {
                const Vec2 a = frame_.to_plane(run.points[i - 1].a), b = frame_.to_plane(run.points[i].a);
                pencil.painter().setPen(QPen(c.halo, std::max(3.0, 3.92 * pencil.px(run.points[i].sigma_mm)),
                                             Qt::SolidLine, Qt::FlatCap));
                pencil.line(a, b);
                pencil.pen(c.certain, 1.6, run.points[i].in_survey ? Qt::SolidLine : Qt::DotLine);
                pencil.line(a, b);
            }
        for (const Beside& b : beside_) {
            pencil.pen(b.suspect ? c.stop : c.ink, b.suspect ? 1.6 : 1.2);
            pencil.cross(b.at, beside_.size() > 60 ? 2 : 3.5);
        }
        draw_inside(pencil);
        draw_pointed(pencil);
        pencil.painter().setPen(c.faint);
        pencil.painter().setFont(Theme::font(size::text_small));
        pencil.painter().drawText(QRectF(12, 8, width() - 24, 16), Qt::AlignLeft,
                                  QString("section at %1 fwd, looking forward; readings within %2 of it")
                                      .arg(state_.document.length(state_.at_mm()))
                                      .arg(state_.document.length(beside_mm_)));
    }

    void hover(const Vec2& mm) override {
        pointed_.reset();
        double nearest = 20 / scale();
        for (const auto& run : runs_)
            for (const auto& p : run.points)
                if (const double d = (frame_.to_plane(p.a) - mm).norm(); d < nearest) nearest = d, pointed_ = p;
        update();
    }
    void leave() override {
        pointed_.reset();
        update();
    }

  private:
    /// An arrow from the surface into the boat.
    void draw_inside(Pencil& pencil) {
        const hull::SectionRun* longest = nullptr;
        for (const auto& run : runs_)
            if (!longest || run.points.size() > longest->points.size()) longest = &run;
        if (!longest || longest->points.size() < 3) return;
        const auto& p = longest->points[longest->points.size() / 2];
        const Vec2 in = -Vec2(frame_.u.dot(p.normal), frame_.v.dot(p.normal));
        if (in.norm() < 0.2) return;
        const QPointF from = pencil.at(frame_.to_plane(p.a)), way = QPointF(in.x(), -in.y()) / in.norm();
        const QPointF side(-way.y(), way.x()), start = from + 8 * way, tip = from + 40 * way;
        pencil.pen(theme().colours().accent, 2);
        pencil.painter().drawLine(start, tip);
        pencil.painter().drawLine(tip, tip - 7 * way + 4 * side);
        pencil.painter().drawLine(tip, tip - 7 * way - 4 * side);
        pencil.painter().setFont(Theme::font(size::text_small, true));
        const QPointF middle = tip + QPointF(way.x() * 26, way.y() * 12);
        pencil.painter().drawText(QRectF(middle.x() - 40, middle.y() - 9, 80, 18), Qt::AlignCenter, "inside");
    }
    /// What is known at the place pointed at.
    void draw_pointed(Pencil& pencil) {
        if (!pointed_) return;
        const auto& d = state_.document;
        const Vec2 at = frame_.to_plane(pointed_->a);
        pencil.pen(theme().colours().accent, 2);
        pencil.fill(Qt::NoBrush);
        pencil.painter().drawEllipse(pencil.at(at), 5, 5);
        const double inward = at.x() > box_.centre().x() ? -1 : 1;
        const QString words = QString("%1, up %2: %3, bevel %4° ± %5° (95 %)")
                                  .arg(d.off_centre(pointed_->a.y()), d.length_number(pointed_->a.z()))
                                  .arg(d.band(pointed_->sigma_mm))
                                  .arg(units::degrees(pointed_->bevel_rad), 0, 'f', 1)
                                  .arg(1.96 * units::degrees(pointed_->bevel_sigma_rad), 0, 'f', 1);
        const double half = QFontMetricsF(Theme::font(size::text_small, true)).horizontalAdvance(words) / 2;
        pencil.text(at, words, {inward * (half + 14), 0}, size::text_small, true);
    }
    /// The readings nearest to the section, no more than can be told apart.
    void take_beside(const job::SurfaceResult& s) {
        constexpr std::size_t most_beside = 150;
        for (std::size_t k = 0; k < s.points.size(); ++k) {
            const Vec3& p = s.points[k].position;
            const double away = std::abs(p.x() - state_.at_mm());
            if (away < widest_beside_mm) beside_.push_back({frame_.to_plane(p), away, s.doubts(k)});
        }
        std::sort(beside_.begin(), beside_.end(),
                  [](const Beside& a, const Beside& b) { return a.away_mm < b.away_mm; });
        beside_mm_ = widest_beside_mm;
        if (beside_.size() <= most_beside) return;
        beside_.resize(most_beside);
        beside_mm_ = std::ceil(beside_.back().away_mm);
    }
    void rebuild() {
        pointed_.reset();
        runs_.clear();
        beside_.clear();
        box_ = {};
        largest_sigma_.reset();
        const auto* s = state_.surface();
        frame_ = geometry::upright_frame(state_.plane());
        if (s) {
            if (auto cut = hull::cut_section(*s->face, state_.plane(), 0.01)) runs_ = std::move(cut.value());
            take_beside(*s);
        }
        std::vector<Vec2> all;
        for (const Beside& b : beside_) all.push_back(b.at);
        for (const auto& run : runs_)
            for (const auto& p : run.points) {
                all.push_back(frame_.to_plane(p.a));
                if (p.in_survey) largest_sigma_ = std::max(largest_sigma_.value_or(0), p.sigma_mm);
            }
        if (!all.empty()) box_ = geometry::bounding_box(all);
        content_changed();
    }
    SectionState& state_;
    geometry::PlaneFrame frame_;
    std::vector<hull::SectionRun> runs_;
    struct Beside {
        Vec2 at;
        double away_mm;
        bool suspect;
    };
    std::vector<Beside> beside_;
    double beside_mm_ = widest_beside_mm;
    geometry::Box box_;
    std::optional<double> largest_sigma_;
    std::optional<hull::SectionPoint> pointed_;
};

/// Stations along the boat: how well each is known, where the readings are, where the pieces stand.
class StationRibbon : public QWidget {
    Q_OBJECT
  public:
    explicit StationRibbon(SectionState& state) : state_(state) {
        setFocusPolicy(Qt::StrongFocus);
        setAccessibleName("section along the boat");
        connect(&state_, &SectionState::changed, this, qOverload<>(&QWidget::update));
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const auto& c = theme().colours();
        p.setFont(Theme::font(size::text_small));
        p.setPen(c.faint);
        const auto* s = state_.surface();
        if (!s)
            return void(p.drawText(rect(), Qt::AlignCenter,
                                   "Here the boat will lie along its length, with what is known where."));
        p.drawText(QRectF(12, 8, 84, 46), Qt::TextWordWrap, "95 % band at its worst");
        p.drawText(QRectF(12, height() - 24.0, 84, 16), Qt::AlignLeft, "fwd →");
        draw_band(p, *s);
        p.setPen(QPen(c.ink, 1));
        for (const auto& point : s->points)
            p.drawLine(QPointF(x_of(point.position.x()), height() - 26),
                       QPointF(x_of(point.position.x()), height() - 20));
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(96, height() - 20), QPointF(width() - 20, height() - 20));
        draw_pieces(p);
        p.setPen(QPen(c.accent, hasFocus() ? 3 : 2));
        p.drawLine(QPointF(x_of(state_.at_mm()), 6), QPointF(x_of(state_.at_mm()), height() - 14));
    }
    void mousePressEvent(QMouseEvent* e) override { state_.move(mm_of(e->position().x())); }
    void mouseMoveEvent(QMouseEvent* e) override { state_.move(mm_of(e->position().x())); }
    void keyPressEvent(QKeyEvent* e) override {
        const double step = e->modifiers() & Qt::ShiftModifier ? 100 : 10;
        if (e->key() == Qt::Key_Left) state_.move(state_.at_mm() - step);
        else if (e->key() == Qt::Key_Right) state_.move(state_.at_mm() + step);
        else QWidget::keyPressEvent(e);
    }

  private:
    double x_of(double mm) const {
        return 96 + (mm - state_.low) / std::max(1.0, state_.high - state_.low) * (width() - 116.0);
    }
    double mm_of(double x) const {
        return std::round(state_.low + (x - 96) / (width() - 116.0) * (state_.high - state_.low));
    }

    static constexpr int bins = 60;
    /// The 95 % band at its worst in each of equal lengths along the boat, 0 where nothing was read around: between
    /// two nodes of the mesh too, which may stand farther apart than a length.
    std::array<double, bins> worst_along(const hull::Mesh& mesh) const {
        std::array<double, bins> out{};
        const auto bin = [&](double x) {
            return std::clamp(static_cast<int>((x - state_.low) / std::max(1.0, state_.high - state_.low) * bins), 0,
                              bins - 1);
        };
        const auto take = [&](const hull::Mesh::Node& a, const hull::Mesh::Node& b) {
            if (!a.surrounded || !b.surrounded) return;
            const double band = 1.96 * std::max(a.sigma_mm, b.sigma_mm);
            const auto [from, to] = std::minmax({bin(a.position.x()), bin(b.position.x())});
            for (int k = from; k <= to; ++k)
                out[static_cast<std::size_t>(k)] = std::max(out[static_cast<std::size_t>(k)], band);
        };
        for (int i = 0; i < mesh.rows; ++i)
            for (int j = 0; j < mesh.columns; ++j) {
                take(mesh.at(i, j), mesh.at(std::min(i + 1, mesh.rows - 1), j));
                take(mesh.at(i, j), mesh.at(i, std::min(j + 1, mesh.columns - 1)));
            }
        return out;
    }
    void draw_band(QPainter& p, const job::SurfaceResult& s) {
        constexpr double most_mm = 8;
        const auto worst = worst_along(*s.mesh);
        const double foot = height() - 30.0, scale = (foot - 10) / most_mm, wide = (width() - 116.0) / bins;
        const auto& c = theme().colours();
        for (int k = 0; k < bins; ++k) {
            const double band = worst[static_cast<std::size_t>(k)];
            if (band > 0)
                p.fillRect(QRectF(96 + k * wide + 1, foot - std::min(band, most_mm) * scale, wide - 2,
                                  std::min(band, most_mm) * scale),
                           c.halo);
            if (band > 0 && k % 10 == 5)
                p.drawText(QRectF(96 + k * wide - 30, std::max(0.0, foot - std::min(band, most_mm) * scale - 15),
                                  60 + wide, 14),
                           Qt::AlignHCenter, "± " + state_.document.fine_number(band));
        }
    }
    void draw_pieces(QPainter& p) {
        const auto& c = theme().colours();
        FreePlaces taken;
        const auto selected = state_.document.selected_piece().toStdString();
        std::vector<const job::JobPiece*> across;
        for (const auto& piece : state_.document.computed()->job.pieces)
            if (std::abs(piece.plane.normal.x()) > 0.9) across.push_back(&piece);
        // The chosen one has its name first, then plain pieces, then units' panels where there is room.
        std::stable_sort(across.begin(), across.end(), [&](const auto* a, const auto* b) {
            const auto rank = [&](const auto* one) {
                return one->id == selected ? 0 : job::part_of(one->id).empty() ? 1 : 2;
            };
            return rank(a) < rank(b);
        });
        for (const auto* piece : across) {
            const double x = x_of(piece->plane.d_mm / piece->plane.normal.x());
            p.setPen(QPen(c.certain, job::part_of(piece->id).empty() ? 2 : 1));
            p.drawLine(QPointF(x, height() - 40), QPointF(x, height() - 18));
            const QString name = QString::fromStdString(piece->id);
            const QRectF box = box_of(QPointF(x, height() - 10.0), name, size::text_small, false);
            if (!taken.is_free(box)) continue;
            taken.take(box);
            p.drawText(box, Qt::AlignCenter, name);
        }
    }
    SectionState& state_;
};

class ShapeStep : public Step {
    Q_OBJECT
  public:
    explicit ShapeStep(Document& document) : Step(document, StepId::shape), section_(document) {
        build_stage();
        ribbon_ = new StationRibbon(section_);
        build_facts();
        connect(&document_, &Document::computed_changed, this, &ShapeStep::refresh);
        connect(&document_, &Document::selection_changed, this, &ShapeStep::show_scene);
        connect(&section_, &SectionState::changed, this, &ShapeStep::show_scene);
        connect(&section_, &SectionState::changed, this, &ShapeStep::refresh);
        connect(&theme(), &Theme::changed, this, &ShapeStep::show_scene);
        refresh();
        show_scene();
    }
    QString count() const override {
        const auto* s = section_.surface();
        return s ? document_.band(typical_sigma(*s)) : QString();
    }
    void forget() override {
        Step::forget();
        camera_ = {};
        shown_extent_ = Vec3::Zero();
        section_.forget();
    }

  private:
    static double typical_sigma(const job::SurfaceResult& s) {
        std::vector<double> all;
        for (const auto& n : s.mesh->nodes)
            if (n.surrounded) all.push_back(n.sigma_mm);
        if (all.empty()) return 0;
        std::nth_element(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2), all.end());
        return all[all.size() / 2];
    }

    /// "The boat is to starboard of it".
    static std::string inside_words(const job::SurfaceResult& s) {
        const auto& inside = s.fitted()->report.inside;
        return inside.toward.norm() < 0.5 ? "The boat is within it"
                                          : "The boat is " + hull::direction_words(inside.toward);
    }

    void build_stage() {
        auto* split = new QSplitter(Qt::Vertical);
        split->setHandleWidth(1);
        view_ = new SceneView(camera_);
        view_->setAccessibleName("shape");
        view_->setMinimumHeight(160);
        auto* control = new CameraControl(*view_, camera_);
        connect(control, &CameraControl::moved, view_, qOverload<>(&QWidget::update));
        connect(control, &CameraControl::show_all, this, [this] { camera_.look_at(scene_); });
        section_drawing_ = new SectionDrawing(section_);
        split->addWidget(view_);
        split->addWidget(section_drawing_);
        split->setSizes({380, 240});
        split->setChildrenCollapsible(false);
        stage_ = split;
        Step::drawing_ = view_;
    }

    void build_facts() {
        auto* panel = new Panel;
        panel->heading("The surface");
        how_ = panel->words({}, false);
        known_ = new Figure("known to, half of the surveyed area (95 % band)");
        panel->add(known_);
        here_ = new Figure("at this section, at its worst (95 % band)");
        panel->add(here_);
        scatter_ = new Figure("readings scatter");
        panel->add(scatter_);
        ridge_ = panel->words({}, false);
        form_ = new_form();
        panel->add(form_);
        warnings_ = panel->words({}, false);
        findings_ = new FindingsBox(document_);
        panel->add(findings_);
        panel->end();
        act_ = panel->act("Place a bulkhead here");
        facts_ = panel;
        connect(act_, &QPushButton::clicked, this, [this] {
            if (section_.surface()) emit wants_panel(panel::NewPiece{section_.at_mm()});
            else emit wants_step(StepId::measure);
        });
    }

    void show_scene() {
        scene_ = scene_of(*document_.computed(), document_.selected_piece(), section_.plane());
        const Vec3 extent = scene_.high - scene_.low;
        // Another boat, or the first readings: show all of it; otherwise the eye stays where it was put.
        if ((extent - shown_extent_).norm() > 0.3 * extent.norm()) {
            camera_.look_at(scene_);
            shown_extent_ = extent;
        }
        view_->show_scene(scene_);
    }

    void refresh() {
        const auto* s = section_.surface();
        FieldList fields;
        const auto& specs = document_.job().surfaces;
        const bool kinks = s && s->ridges && s->ridges->any();
        ridge_->setVisible(kinks);
        if (kinks) add_ridges(fields, *s);
        if (!specs.empty()) {
            const std::string id = section_.surface_id(specs.front().id);
            fields.length(
                "section at, fwd", section_.at_mm(), [this](const QVariant& v) { section_.move(v.toDouble()); },
                section_.low, section_.high);
            add_surface_fields(fields, document_, id,
                               [this](const std::string& which) { section_.look_at_surface(which); });
        }
        form_->show_fields(fields.take());
        act_->setText(s ? "Place a bulkhead here" : "Take readings");
        for (QWidget* w : std::initializer_list<QWidget*>{known_, here_, scatter_}) w->setVisible(s != nullptr);
        warnings_->hide();
        std::vector<review::Finding> about;
        for (const auto& f : document_.computed()->findings)
            if (f.piece_id.empty()) about.push_back(f);
        findings_->show_findings(about);
        if (!s) {
            how_->setText(missing_words(section_.surface_id(specs.empty() ? std::string() : specs.front().id)));
            return;
        }
        const auto& report = s->fitted()->report;
        how_->setText(QString::fromStdString(fmt::format("{} readings, laid out {}. {}: {}.", s->points.size(),
                                                         s->fitted()->surface.chart().words(), inside_words(*s),
                                                         hull::from_words(report.inside.from))));
        known_->show_value(document_.band_number(typical_sigma(*s)), document_.fine_unit(),
                           "The median over the surveyed area. The band comes from the readings' own uncertainty, "
                           "how far they scatter, and how fair the hull is; "
                           "it holds the true surface 19 times out of 20.");
        const auto here = section_drawing_->largest_sigma_mm();
        here_->show_value(
            here ? document_.band_number(*here) : QString("not read"), here ? document_.fine_unit() : QString(),
            here ? "The widest place of the band along this section, where readings surround it."
                 : "No readings surround this section: nothing is known of the hull here. Read a station "
                   "on either side of it.");
        scatter_->show_value(QString::number(report.scatter, 'f', 2), "× declared",
                             QString("Residuals of %1 r.m.s. against what was declared for each reading. Between "
                                     "0.5 and 2 is as expected.")
                                 .arg(document_.fine(report.rms_mm)));
        QStringList warnings;
        for (const auto& w : report.warnings) warnings << document_.told(w);
        warnings_->setText(warnings.join("\n"));
        warnings_->setVisible(!warnings.isEmpty());
    }

    /// What the readings lack to make a surface.
    QString missing_words(const std::string& id) const {
        const auto* result = document_.computed()->results.surface(id);
        if (result && !result->points.empty() && result->fit && !result->fit->ok())
            return QString("There is none yet: %1.").arg(document_.told(result->fit->error().message));
        return "There is none yet: it needs at least twelve readings on three stations or more.";
    }

    void add_ridges(FieldList& fields, const job::SurfaceResult& surface) {
        const auto& lines = surface.ridges->lines;
        QStringList turns;
        for (const auto& ridge : lines) turns << QString("%1°").arg(std::abs(ridge.kink_deg), 0, 'f', 0);
        ridge_->setText(QString("The readings show %1 not entered: the hull turns by %2 along the %3 drawn, give or "
                                "take some centimetres: %4.")
                            .arg(lines.size() == 1 ? QString("a chine or keel that was")
                                                   : QString("%1 chines or keels that were").arg(lines.size()),
                                 turns.join(", "), lines.size() == 1 ? "line" : "lines",
                                 document_.told(surface.ridges->evidence())));
        fields.button(lines.size() == 1 ? "Let the line drawn be a chine" : "Let the lines drawn be chines",
                      [this, ridges = surface.ridges, id = surface.id] { take_ridges(*ridges, id); });
    }

    /// The lines only say where the kinks run; as readings their points count for next to nothing.
    void take_ridges(const hull::Ridges& ridges, const std::string& surface) {
        document_.edit(ridges.lines.size() == 1 ? "Take a proposed chine" : "Take proposed chines",
                       [&](job::Job& job) {
                           for (const auto& ridge : ridges.lines) job::add_readings(job, chine_set(ridge, surface));
                       });
    }

    static survey::ReadingSet chine_set(const hull::Ridge& ridge, const std::string& surface) {
        survey::ReadingSet set = survey::usual_set(survey::School::direct);
        set.name = "Proposed chine: measure along it";
        set.surface_id = surface;
        set.hard_line = true;
        set.sigma_mm = 200;
        for (const Vec3& p : ridge.line) {
            auto& reading = set.readings.emplace_back();
            for (int k = 0; k < 3; ++k) reading.values[static_cast<std::size_t>(k)] = std::round(p[k]);
            reading.note = "proposed from the readings";
        }
        return set;
    }

    SectionState section_;
    Camera camera_;
    Scene scene_;
    Vec3 shown_extent_ = Vec3::Zero();
    SceneView* view_ = nullptr;
    SectionDrawing* section_drawing_;
    QLabel *how_, *warnings_, *ridge_;
    Figure *known_, *here_, *scatter_;
    Form* form_;
    FindingsBox* findings_;
    QPushButton* act_;
};

}  // namespace

std::unique_ptr<Step> make_shape_step(Document& document) {
    return std::make_unique<ShapeStep>(document);
}

}  // namespace bevelsmith::app

#include "shape_step.moc"

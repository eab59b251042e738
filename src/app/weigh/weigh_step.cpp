// Weigh: where the added kilograms sit, and what they do to the boat.
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/drawing_view.h"
#include "app/widgets/free_places.h"
#include "app/widgets/step.h"
#include "units/places.h"

namespace bevelsmith::app {
namespace {

/// Masses over the boat's plan and profile, one above the other; the plan is drawn with port up.
class MassDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit MassDrawing(Document& document) : document_(document) {
        unit = [this] { return document_.unit(); };
        margin_px = 68;  // "centre line" stands before its line
        connect(&document_, &Document::computed_changed, this, &MassDrawing::renew);
        connect(&document_, &Document::selection_changed, this, qOverload<>(&QWidget::update));
        renew();
    }

  protected:
    QString empty_words() const override {
        return "No weight yet.\n\nEvery piece with an outline is weighed with its coating and its fixing, and its "
               "kilograms stand here where they sit in the boat.";
    }
    geometry::Box content() const override {
        if (low_.x() > high_.x()) return {};
        return {{low_.x(), -(high_.z() - low_.z()) - between() - high_.y() + low_.y()}, {high_.x(), 0}};
    }
    void draw(Pencil& pencil) override {
        const auto& c = theme().colours();
        draw_lines(pencil);
        FreePlaces places;
        const double largest = largest_mass();
        std::vector<Named> names;
        for (std::size_t i = 0; i < held_->results.pieces.size(); ++i) {
            const auto& piece = held_->results.pieces[i];
            if (!counts(i) || piece.mass.total.mass_kg <= 0) continue;
            const bool comes_out = !piece::is_made(held_->job.pieces[i].role);
            const bool selected = QString::fromStdString(piece.id) == document_.selected_piece();
            QColor shade = selected ? c.accent : c.wood;
            shade.setAlphaF(comes_out ? 0.0F : 0.85F);
            const double radius = 5 + 17 * std::sqrt(piece.mass.total.mass_kg / largest);
            for (const Vec2& at : {plan(piece.mass.total.centre_mm), profile(piece.mass.total.centre_mm)}) {
                pencil.pen(c.ink, 1.2);
                pencil.fill(shade);
                pencil.painter().drawEllipse(pencil.at(at), radius, radius);
                places.take(around(pencil.at(at), radius));
                names.push_back({at, radius, selected,
                                 QString("%1  %2%3")
                                     .arg(QString::fromStdString(piece.id), comes_out ? "−" : "",
                                          document_.mass(piece.mass.total.mass_kg))});
            }
        }
        pencil.fill(Qt::NoBrush);
        pencil.pen(c.certain, 2);
        for (const Vec2& at : {plan(held_->results.added.centre_mm), profile(held_->results.added.centre_mm)}) {
            draw_balance(pencil, at);
            places.take(around(pencil.at(at), balance_px));
        }
        draw_legend(pencil, places);
        draw_lines_names(pencil, places);
        draw_names(pencil, names, places);
    }

  private:
    struct Named {
        Vec2 at;
        double radius_px;
        bool strong;
        QString words;
    };
    static constexpr double balance_px = 9;
    static void draw_balance(Pencil& pencil, const Vec2& at) {
        pencil.cross(at, balance_px);
        pencil.painter().drawEllipse(pencil.at(at), 5, 5);
    }
    /// Among the masses no words would find a place by it.
    void draw_legend(Pencil& pencil, FreePlaces& places) const {
        const Vec2 at = to_drawing(QPointF(width() - 90, height() - 17));
        places.take({width() - 106.0, height() - 30.0, 106, 30});
        draw_balance(pencil, at);
        pencil.pen(theme().colours().faint, 1);
        pencil.text(at, "all added", {44, 0}, size::text_small);
    }
    static QRectF around(const QPointF& middle, double radius) {
        return {middle - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius)};
    }
    /// What finds no place for its name has it in the list beside.
    static void draw_names(Pencil& pencil, std::vector<Named> names, FreePlaces& places) {
        constexpr std::size_t most = 24;
        std::stable_sort(names.begin(), names.end(), [](const Named& a, const Named& b) {
            return a.strong != b.strong ? a.strong : a.radius_px > b.radius_px;
        });
        // Of very many the heaviest.
        if (names.size() > most) names.resize(most);
        pencil.painter().setPen(theme().colours().ink);
        for (const Named& n : names)
            if (const auto shift = places.beside(pencil.at(n.at), n.radius_px, n.words, size::text_small, n.strong))
                pencil.text(n.at, n.words, *shift, size::text_small, n.strong);
    }
    double between() const { return 0.18 * (high_.x() - low_.x()); }
    Vec2 plan(const Vec3& p) const { return {p.x(), p.y() - high_.y()}; }
    Vec2 profile(const Vec3& p) const { return {p.x(), p.z() - high_.z() - (high_.y() - low_.y()) - between()}; }
    double largest_mass() const {
        double out = 1e-9;
        for (std::size_t i = 0; i < held_->results.pieces.size(); ++i)
            if (counts(i)) out = std::max(out, held_->results.pieces[i].mass.total.mass_kg);
        return out;
    }
    /// What stays, or goes back, changes nothing.
    bool counts(std::size_t i) const {
        const auto role = held_->job.pieces[i].role;
        return held_->results.pieces[i].shape() && (piece::is_made(role) || !piece::is_in_finished(role));
    }
    /// All that is drawn: what was surveyed, the masses, and the lines that they are told from.
    void renew() {
        held_ = document_.computed();
        low_ = Vec3::Constant(1e9), high_ = Vec3::Constant(-1e9);
        const auto take = [this](const Vec3& p) { low_ = low_.cwiseMin(p), high_ = high_.cwiseMax(p); };
        for (const auto& p : held_->results.pieces)
            if (p.shape()) take(p.mass.total.centre_mm);
        if (low_.x() > high_.x()) return content_changed();
        for (const auto& s : held_->results.surfaces)
            if (s.mesh)
                for (const auto& n : s.mesh->nodes) take(n.position);
        take({low_.x(), 0, 0});
        content_changed();
    }
    /// The surveyed surface's extent along the boat, the centre line and the waterline.
    void draw_lines(Pencil& pencil) {
        const auto& c = theme().colours();
        for (const auto& s : held_->results.surfaces) {
            if (!s.mesh) continue;
            for (int i : {0, s.mesh->rows - 1}) {  // both ends of what was surveyed
                std::vector<Vec2> above, beside;
                for (int j = 0; j < s.mesh->columns; ++j) {
                    above.push_back(plan(s.mesh->at(i, j).position));
                    beside.push_back(profile(s.mesh->at(i, j).position));
                }
                pencil.pen(c.line, 1.1);
                pencil.path(above);
                pencil.path(beside);
            }
            for (int j = 0; j < s.mesh->columns; j += 5) {
                std::vector<Vec2> above, beside;
                for (int i = 0; i < s.mesh->rows; ++i) {
                    above.push_back(plan(s.mesh->at(i, j).position));
                    beside.push_back(profile(s.mesh->at(i, j).position));
                }
                pencil.pen(j == 0 || j + 5 >= s.mesh->columns ? c.certain : c.line, 1.1);
                pencil.path(above);
                pencil.path(beside);
            }
        }
        pencil.pen(c.faint, 1, Qt::DashDotLine);
        pencil.line(plan({low_.x(), 0, 0}), plan({high_.x(), 0, 0}));
        pencil.line(profile({low_.x(), 0, 0}), profile({high_.x(), 0, 0}));
    }
    /// Of the lines at their ends and of the two views above them, where no mass lies.
    void draw_lines_names(Pencil& pencil, FreePlaces& places) const {
        pencil.pen(theme().colours().faint, 1);
        const auto name = [&](const Vec2& at, const QString& words, int side, double down_px) {
            const QRectF box = box_of({}, words, size::text_small, false);
            const QPointF shift(side * box.width() / 2, down_px);
            places.take(box.translated(pencil.at(at) + shift));
            pencil.text(at, words, shift, size::text_small);
        };
        constexpr int before = -1, after = 1;
        name(plan({low_.x(), high_.y(), 0}), "from above, port up", after, -14);
        name(profile({low_.x(), 0, high_.z()}), "from starboard", after, -14);
        name(plan({low_.x(), 0, 0}), "centre line", before, 0);
        name(profile({low_.x(), 0, 0}), "datum", before, 0);
        name(plan({high_.x(), 0, 0}), "fwd →", after, 0);
    }
    Document& document_;
    std::shared_ptr<const Computed> held_;
    Vec3 low_, high_;
};

/// Masses along the boat, and to port and starboard, against the place where they would balance.
class BalanceRibbon : public QWidget {
    Q_OBJECT
  public:
    explicit BalanceRibbon(Document& document) : document_(document) {
        connect(&document_, &Document::computed_changed, this, qOverload<>(&QWidget::update));
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        p.setFont(Theme::font(size::text_small));
        p.setPen(theme().colours().faint);
        p.drawText(QRectF(12, 8, 84, 46), Qt::TextWordWrap, "moments about the balance");
        const double half = (width() - 130.0) / 2;
        draw_side(p, QRectF(100, 6, half, height() - 12.0), 0, "aft", "forward",
                  document_.computed()->job.boat.hydrostatics.flotation_x_mm);
        draw_side(p, QRectF(120 + half, 6, half, height() - 12.0), 1, "starboard", "port", 0);
    }

  private:
    /// More than these are told by place, and of places the heaviest.
    static constexpr std::size_t most_rows = 5;
    QString moment_words(double kg_m) const {
        constexpr double ft_per_m = 1000 / (12 * units::mm_per_inch);
        return document_.in_pounds() ? QString("%1 ft lb").arg(kg_m / units::kg_per_pound * ft_per_m, 0, 'f', 1)
                                     : QString("%1 kg m").arg(kg_m, 0, 'f', 1);
    }
    void draw_side(QPainter& p, const QRectF& room, int axis, const QString& minus, const QString& plus,
                   double about_mm) {
        const auto& c = theme().colours();
        const auto computed = document_.computed();
        double most = 1e-9, sum = 0;
        std::vector<std::pair<QString, double>> moments;
        const bool by_place = computed->results.pieces.size() > most_rows;
        for (std::size_t i = 0; i < computed->results.pieces.size(); ++i) {
            const auto& piece = computed->results.pieces[i];
            const auto role = computed->job.pieces[i].role;
            if (!piece.shape() || (!piece::is_made(role) && piece::is_in_finished(role))) continue;
            const double m = (piece::is_made(role) ? 1 : -1) * computed->job.pieces[i].copies *
                             piece.mass.total.mass_kg * (piece.mass.total.centre_mm[axis] - about_mm) / 1000;
            const QString name = QString::fromStdString(by_place ? computed->job.pieces[i].place : piece.id);
            sum += m;
            const auto same =
                std::find_if(moments.begin(), moments.end(), [&](const auto& o) { return o.first == name; });
            if (same != moments.end()) same->second += m;
            else moments.emplace_back(name, m);
        }
        if (moments.size() > most_rows) {
            std::stable_sort(moments.begin(), moments.end(),
                             [](const auto& a, const auto& b) { return std::abs(a.second) > std::abs(b.second); });
            moments.resize(most_rows);
        }
        for (const auto& [name, m] : moments) most = std::max(most, std::abs(m));
        const auto* chosen = document_.piece(document_.selected_piece());
        const QString marked = !chosen    ? QString()
                               : by_place ? QString::fromStdString(chosen->place)
                                          : document_.selected_piece();
        most = std::max(most, std::abs(sum));
        const double middle = room.center().x(), scale = (room.width() / 2 - 54) / most;
        p.setPen(QPen(c.ink, 1));
        p.drawLine(QPointF(middle, room.top() + 14), QPointF(middle, room.bottom()));
        p.setPen(c.faint);
        p.drawText(QRectF(room.left(), room.top(), room.width() / 2 - 6, 14), Qt::AlignRight, "← " + minus);
        p.drawText(QRectF(middle + 6, room.top(), room.width() / 2, 14), Qt::AlignLeft, plus + " →");
        const double row = std::min(16.0, (room.height() - 18) / static_cast<double>(moments.size() + 1));
        double y = room.top() + 17;
        moments.emplace_back("all", sum);
        for (const auto& [id, m] : moments) {
            const bool all = id == "all";
            p.fillRect(QRectF(QPointF(middle, y), QPointF(middle + m * scale, y + row - 3)).normalized(),
                       all            ? c.certain
                       : id == marked ? c.accent
                                      : c.line);
            p.setPen(c.ink);
            const double wide = by_place ? room.width() / 2 - 12 : 40;
            p.drawText(QRectF(m < 0 ? middle + 6 : middle - 6 - wide, y - 2, wide, row),
                       (m < 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter,
                       p.fontMetrics().elidedText(id, Qt::ElideRight, static_cast<int>(wide)));
            p.drawText(QRectF(m < 0 ? middle + m * scale - 62 : middle + m * scale + 4, y - 2, 60, row),
                       (m < 0 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter, moment_words(m));
            y += row;
        }
    }
    Document& document_;
};

/// A figure of the job's file in the person's units.
struct Shown {
    const char* word = "";
    double per_unit = 1;  ///< of what the job's file counts in
};
constexpr double feet_per_metre = 1000 / (12 * units::mm_per_inch);

Shown run_shown(bool pounds) {
    return pounds ? Shown{"ft", feet_per_metre} : Shown{"m", 1};
}
Shown spread_shown(bool pounds) {
    return pounds ? Shown{"lb/ft²", 1 / (units::kg_per_pound * feet_per_metre * feet_per_metre)} : Shown{"kg/m²", 1};
}
/// A tonne and a metre to the centimetre, in feet and pounds to the inch.
Shown moment_shown(bool pounds) {
    return pounds ? Shown{"ft lb/in", 1000 / units::kg_per_pound * feet_per_metre * units::mm_per_inch / 10}
                  : Shown{"t m/cm", 1};
}
QString in_words(double value, const Shown& shown) {
    return QString("%1 %2").arg(value * shown.per_unit, 0, 'g', 5).arg(QString::fromUtf8(shown.word));
}

class WeighStep : public Step {
  public:
    explicit WeighStep(Document& document) : Step(document, StepId::weigh) {
        stage_ = new MassDrawing(document_);
        ribbon_ = new BalanceRibbon(document_);
        auto* panel = new Panel;
        added_ = new Figure("added");
        list_ = new Figure("list");
        trim_ = new Figure("change of trim");
        for (auto* f : {added_, list_, trim_}) panel->add(f);
        where_ = panel->words({}, false);
        form_ = new_form();
        panel->add(form_);
        pieces_ = panel->words({}, false);
        panel->words("For her real stability ask a naval architect; these figures are for small additions.");
        panel->end();
        act_ = panel->act("See all that needs attention");
        facts_ = panel;
        connect(act_, &QPushButton::clicked, this, [this] { emit wants_panel(panel::Findings{}); });
        connect(&document_, &Document::computed_changed, this, &WeighStep::refresh);
        connect(&document_, &Document::job_changed, this, &WeighStep::show_chosen);
        connect(&document_, &Document::selection_changed, this, &WeighStep::show_chosen);
        refresh();
    }
    QString count() const override {
        const double kg = document_.computed()->results.added.mass_kg;
        return kg > 0 ? document_.mass(kg, 0) : QString();
    }

  private:
    void refresh() {
        const auto computed = document_.computed();
        const auto& r = computed->results;
        added_->show_value(document_.mass_number(r.added.mass_kg), document_.mass_unit(),
                           "Panels by the mean of their faces and the measured thickness, coatings on both faces, "
                           "and what fixes them.");
        const auto& a = r.attitude;
        const double list = units::degrees(a.list_rad);
        list_->show_value(a.known ? QString::number(std::abs(list), 'f', 2) : QString("not known"),
                          a.known ? (list >= 0 ? "° to port" : "° to starboard") : "", why_list());
        trim_->show_value(a.known ? QString::number(std::abs(a.trim_cm), 'f', 1) : QString("not known"),
                          a.known ? (a.trim_cm >= 0 ? "cm by the bow" : "cm by the stern") : "", why_trim());
        QStringList where;
        if (r.added.mass_kg > 0) where << "Centre of all: " + where_words(r.added.centre_mm) + ".";
        if (r.removed.mass_kg > 0)
            where << QString("%1 come out, from %2: list and trim are of both.")
                         .arg(document_.mass(r.removed.mass_kg), where_words(r.removed.centre_mm));
        where_->setText(where.join("\n"));
        show_chosen();
    }

    /// What was put into the formula, figure by figure: the displacement is that with what was added.
    QString why_list() const {
        const auto computed = document_.computed();
        const auto& added = computed->results.added;
        const auto& boat = computed->job.boat.hydrostatics;
        const QString formula =
            "tan(list) = w·d / (W·GM), small angles only (Barrass & Derrett, Ship Stability for "
            "Masters and Mates, from memory).";
        if (!computed->results.attitude.known)
            return formula + " It wants displacement, GM and moment to trim below.";
        if (computed->results.removed.mass_kg > 0)
            return formula + " The moments of what is added, less those of what comes out.";
        return QString("%1 w = %2 added, d = %3; W = %4 without it + %2 = %5; GM = %6.")
            .arg(formula, document_.mass(added.mass_kg),
                 QString::fromStdString(
                     units::place_in_words(added.centre_mm.y(), units::Axis::port, document_.unit())),
                 document_.mass(boat.displacement_kg), document_.mass(boat.displacement_kg + added.mass_kg),
                 in_words(boat.gm_m, run_shown(document_.in_pounds())));
    }
    QString why_trim() const {
        const auto computed = document_.computed();
        const auto& added = computed->results.added;
        const auto& boat = computed->job.boat.hydrostatics;
        const QString formula =
            "Moment about the centre of flotation over the moment that changes trim by one "
            "centimetre.";
        if (!computed->results.attitude.known)
            return formula + " It wants displacement, GM and moment to trim below.";
        if (computed->results.removed.mass_kg > 0)
            return formula + " The moments of what is added, less those of what comes out.";
        const double arm = added.centre_mm.x() - boat.flotation_x_mm;
        return QString("%1 %2 added, %3 %4 the centre of flotation; moment to trim %5.")
            .arg(formula, document_.mass(added.mass_kg), document_.length(std::abs(arm)),
                 arm < 0 ? "abaft" : "forward of", in_words(boat.mctc_tm, moment_shown(document_.in_pounds())));
    }

    /// One of: what she is and carries, what each place and unit weighs, what the chosen piece weighs.
    enum Shows { of_boat, of_places, of_piece };
    void show_chosen() {
        FieldList fields;
        fields.choice("showing", shows_, {"the boat", "place by place", "this piece"}, [this](const QVariant& v) {
            shows_ = static_cast<Shows>(std::clamp(v.toInt(), 0, 2));
            show_chosen();
        });
        if (shows_ == of_boat) add_boat(fields);
        form_->show_fields(fields.take());
        pieces_->setText(shows_ == of_places ? place_words() : shows_ == of_piece ? piece_words() : QString());
        pieces_->setVisible(shows_ != of_boat);
    }

    QString place_words() const {
        const auto computed = document_.computed();
        std::vector<std::pair<QString, double>> sums;
        for (std::size_t i = 0; i < computed->results.pieces.size(); ++i) {
            if (!computed->results.pieces[i].shape()) continue;
            const QString place = QString::fromStdString(computed->job.pieces[i].place);
            const double kg = computed->job.pieces[i].copies * computed->results.pieces[i].mass.total.mass_kg;
            const auto same = std::find_if(sums.begin(), sums.end(), [&](const auto& s) { return s.first == place; });
            if (same != sums.end()) same->second += kg;
            else sums.emplace_back(place, kg);
        }
        if (sums.empty()) return "No piece has an outline yet.";
        std::stable_sort(sums.begin(), sums.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
        QStringList rows;
        for (const auto& [place, kg] : sums) rows << document_.mass(kg) + "  " + place;
        return rows.join("\n");
    }

    QString piece_words() const {
        const auto computed = document_.computed();
        const auto* result = computed->piece_result(document_.selected_piece());
        const auto* chosen = computed->piece(document_.selected_piece());
        if (!result || !chosen || !result->shape()) return "No piece with an outline is chosen.";
        const auto& m = result->mass;
        return QString("%1\n%2%3: panel %4, coating %5, fixing %6\nCentre: %7")
            .arg(QString::fromStdString(chosen->name), document_.mass(m.total.mass_kg),
                 chosen->copies > 1 ? QString(" each of %1").arg(chosen->copies) : QString(),
                 document_.mass_number(m.panel.mass_kg), document_.mass_number(m.coating.mass_kg),
                 document_.mass_number(m.fixing.mass_kg), where_words(m.total.centre_mm));
    }

    /// A place in the boat by its distances from the datum, each to its side.
    QString where_words(const Vec3& at) const {
        constexpr const char* ways[3][2] = {{"fwd", "aft"}, {"to port", "to starboard"}, {"up", "down"}};
        QStringList out;
        for (int k = 0; k < 3; ++k) out << document_.length(std::abs(at[k])) + " " + ways[k][at[k] < 0];
        return out.join(", ");
    }

    void add_boat(FieldList& fields) {
        const auto& boat = document_.job().boat;
        const auto set = [this](auto change) {
            return [this, change](const QVariant& v) {
                document_.edit("Change the boat", [&](job::Job& job) { change(job, v); });
            };
        };
        const auto quantity = [&](double& (*member)(job::Job&), const Shown& shown = {}) {
            return set(
                [member, shown](job::Job& job, const QVariant& v) { member(job) = v.toDouble() / shown.per_unit; });
        };
        const bool pounds = document_.in_pounds();
        const Shown long_run = run_shown(pounds), spread = spread_shown(pounds), moment = moment_shown(pounds);
        fields
            .text("job", document_.job().name,
                  set([](job::Job& job, const QVariant& v) { job.name = v.toString().toStdString(); }))
            .text("boat", boat.name,
                  set([](job::Job& job, const QVariant& v) { job.boat.name = v.toString().toStdString(); }))
            .mass("displacement", boat.hydrostatics.displacement_kg,
                  quantity([](job::Job& j) -> double& { return j.boat.hydrostatics.displacement_kg; }))
            .number("GM", long_run.word, boat.hydrostatics.gm_m * long_run.per_unit,
                    quantity([](job::Job& j) -> double& { return j.boat.hydrostatics.gm_m; }, long_run), 0,
                    units::range::stability.most * long_run.per_unit)
            .number("moment to trim", moment.word, boat.hydrostatics.mctc_tm * moment.per_unit,
                    quantity([](job::Job& j) -> double& { return j.boat.hydrostatics.mctc_tm; }, moment), 0,
                    units::range::trim_moment.most * moment.per_unit)
            .length("flotation at, fwd", boat.hydrostatics.flotation_x_mm,
                    quantity([](job::Job& j) -> double& { return j.boat.hydrostatics.flotation_x_mm; }))
            .number("coating a face, cured", spread.word, document_.job().coating.mass_kg_m2 * spread.per_unit,
                    quantity([](job::Job& j) -> double& { return j.coating.mass_kg_m2; }, spread), 0,
                    20 * spread.per_unit)
            .length("way in, wide", boat.passage.width_mm,
                    quantity([](job::Job& j) -> double& { return j.boat.passage.width_mm; }), 50,
                    units::range::opening.most)
            .length("way in, high", boat.passage.height_mm,
                    quantity([](job::Job& j) -> double& { return j.boat.passage.height_mm; }), 50,
                    units::range::opening.most)
            .length("its corners' radius", boat.passage.corner_mm,
                    quantity([](job::Job& j) -> double& { return j.boat.passage.corner_mm; }), 0,
                    units::range::gap.most)
            .length("free for hands, a side", boat.passage.hands_mm,
                    quantity([](job::Job& j) -> double& { return j.boat.passage.hands_mm; }), 0,
                    units::range::gap.most);
    }

    Figure *added_, *list_, *trim_;
    QLabel *where_, *pieces_;
    Shows shows_ = of_boat;
    Form* form_;
    QPushButton* act_;
};

}  // namespace

std::unique_ptr<Step> make_weigh_step(Document& document) {
    return std::make_unique<WeighStep>(document);
}

}  // namespace bevelsmith::app

#include "weigh_step.moc"

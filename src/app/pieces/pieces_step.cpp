// Pieces: the outline of both faces to scale, its bevels, its edges and openings.
#include <QBuffer>
#include <QFileDialog>
#include <QFileInfo>
#include <QSaveFile>
#include <QShortcut>
#include <QStackedWidget>
#include <QSvgGenerator>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "app/keeping/hand_kept.h"
#include "app/look/theme.h"
#include "app/pieces/boat_view.h"
#include "app/pieces/piece_drawing.h"
#include "app/pieces/piece_fields.h"
#include "app/pieces/piece_words.h"
#include "app/shape/scene_view.h"
#include "app/widgets/next_readings.h"
#include "app/widgets/step.h"
#include "exchange/plain_text.h"
#include "job/in_full.h"
#include "job/offering_up.h"
#include "piece/features.h"
#include "piece/hole_rows.h"
#include "piece/joints.h"

namespace bevelsmith::app {
namespace {

class PiecesStep : public Step {
  public:
    explicit PiecesStep(Document& document) : Step(document, StepId::pieces), state_(document) {
        build_stage();
        ribbon_ = new PerimeterRibbon(state_, PieceDrawing::Shows::outline);
        auto* panel = new Panel;
        size_ = new Figure("over both faces");
        edge_ = new Figure("scribed edge");
        bevel_ = new Figure("bevel, least to most");
        known_ = new Figure("edge known to, at its worst (95 % band)");
        fit_ = new Figure("largest gap to expect");
        for (auto* f : {size_, edge_, bevel_, known_, fit_}) panel->add(f);
        parts_ = panel->words({}, false);
        told_ = panel->words({}, false);
        form_ = new_form();
        panel->add(form_);
        // Under the fields, so that none of them moves from under the hand when a finding comes or goes.
        findings_ = new FindingsBox(document_);
        panel->add(findings_);
        panel->end();
        act_ = panel->act("Add a piece");
        facts_ = panel;
        connect(act_, &QPushButton::clicked, this, &PiecesStep::act);
        connect(&state_, &PieceState::changed, this, &PiecesStep::refresh);
        refresh();
    }
    QString count() const override {
        return document_.built().pieces.empty() ? QString() : QString::number(document_.built().pieces.size());
    }

    void show_in_boat(bool in_boat) override {
        look_ = in_boat;
        turn_to(in_boat);
    }

    void forget() override {
        Step::forget();
        state_.forget();
        boat_->forget();
        camera_ = {};
        seen_solid_ = look_ = false;
        stack_->setCurrentIndex(0);
        on_bench_->setChecked(true);
        drawing_ = stack_->currentWidget();
    }

  private:
    void turn_to(bool in_boat) { turn_to_page(in_boat ? 1 : 0); }
    void turn_to_page(int page) {
        const bool in_boat = page == 1;
        stack_->setCurrentIndex(page);
        (page == 2 ? in_solid_ : in_boat ? in_boat_ : on_bench_)->setChecked(true);
        if (page == 2) show_solid();
        drawing_ = stack_->currentWidget();  // where the keys go
        drawing_->setFocus();
        if (in_boat && look_ && boat_->look_at_selected()) look_ = false;
    }
    /// The piece on the bench, or all of them in the boat: one key turns from one to the other.
    void build_stage() {
        auto* stage = new QWidget;
        stage->setObjectName("ground");
        stage->setAttribute(Qt::WA_StyledBackground);
        auto* column = new QVBoxLayout(stage);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(0);
        drawing_ = new PieceDrawing(state_, PieceDrawing::Shows::outline);
        boat_ = new BoatView(state_);
        stack_ = new QStackedWidget;
        stack_->addWidget(drawing_);
        stack_->addWidget(boat_);
        stack_->addWidget(build_solid());
        column->addLayout(build_row());
        column->addWidget(stack_, 1);
        // A wide sheet beside it may leave no more, whatever stands in the row.
        stage->setMinimumWidth(stack_->minimumSizeHint().width());
        stage_ = stage;
        connect_stage();
        stage->installEventFilter(this);
        picture_->hide();
        cut_fields_->hide();
        on_bench_->setChecked(true);
        show_cuts();
    }
    /// What is looked at, where the boat is cut, and its picture.
    QHBoxLayout* build_row() {
        auto* row = new QHBoxLayout;
        row->setContentsMargins(size::gap, 2, size::unit, 2);
        row->setSpacing(size::unit);
        const auto button = [&](const QString& words, const QString& tip) {
            auto* b = new QToolButton;
            b->setObjectName("choice");
            b->setText(words);
            b->setToolTip(tip);
            b->setCheckable(true);
            b->setAutoExclusive(true);
            row->addWidget(b);
            return b;
        };
        on_bench_ = button("on the bench", "The piece to mark out from (B)");
        in_boat_ = button("in the boat", "Section, profile and plan through everything there is (B)");
        in_solid_ = button("in 3-D", "The boat and what is in her, to turn about (4 in the boat)");
        build_cut_fields();
        row->addWidget(cut_fields_);
        row->addStretch(1);
        picture_ = new QToolButton;
        picture_->setObjectName("choice");
        picture_->setText("Picture for the owner");
        picture_->setToolTip("Saves what is seen: 3-D as PNG, the cuts as SVG");
        row->addWidget(picture_);
        return row;
    }
    void connect_stage() {
        connect(picture_, &QToolButton::clicked, this, &PiecesStep::ask_picture);
        auto* turn = new QShortcut(QKeySequence("B"), stage_, nullptr, nullptr, Qt::WidgetWithChildrenShortcut);
        connect(turn, &QShortcut::activated, this, [this] { turn_to(stack_->currentIndex() == 0); });
        connect(on_bench_, &QToolButton::clicked, this, [this] { turn_to(false); });
        connect(in_boat_, &QToolButton::clicked, this, [this] { turn_to(true); });
        connect(in_solid_, &QToolButton::clicked, this, [this] { turn_to_page(2); });
        connect(boat_, &BoatView::wants_3d, this, [this] { turn_to_page(2); });
        connect(boat_, &BoatView::obstacle_clicked, this,
                [this](const QString& id) { emit wants_panel(panel::Obstacles{id.toStdString()}); });
        connect(stack_, &QStackedWidget::currentChanged, this, [this](int k) {
            cut_fields_->setVisible(k == 1);
            show_picture_button();
            picture_->setText(k == 2 ? "Picture for the owner" : "Picture");  // the cuts' fields need the room
        });
        connect(boat_, &BoatView::cuts_moved, this, &PiecesStep::show_cuts);
        connect(&document_, &Document::computed_changed, this, [this] {
            // What was just added is looked at as soon as it is known.
            if (look_ && stack_->currentIndex() == 1 && boat_->look_at_selected()) look_ = false;
            show_cuts();
        });
    }
    QWidget* build_solid() {
        solid_ = new SceneView(camera_);
        solid_->setFocusPolicy(Qt::StrongFocus);
        solid_->setAccessibleName("in 3-D");
        auto* control = new CameraControl(*solid_, camera_);
        connect(control, &CameraControl::moved, solid_, qOverload<>(&QWidget::update));
        connect(control, &CameraControl::show_all, this, [this] { seen_solid_ = false, show_solid(); });
        connect(&state_, &PieceState::changed, this, [this] {
            if (stack_ && stack_->currentIndex() == 2) show_solid();
        });
        return solid_;
    }
    void show_solid() {
        const Scene scene = boat_scene_of(*document_.computed(), document_.selected_piece(),
                                          [this](const std::string& id) { return document_.is_hidden(id); });
        if (!seen_solid_ && !scene.empty())
            camera_.look_at(scene, solid_->width() / std::max(1.0, static_cast<double>(solid_->height())));
        seen_solid_ = !scene.empty();
        solid_->show_scene(scene);
    }
    /// Where a sheet leaves little room the cuts' fields come first.
    void show_picture_button() {
        constexpr int room_px = 700;
        const int page = stack_->currentIndex();
        picture_->setVisible(page == 2 || (page == 1 && stage_->width() >= room_px));
    }
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (watched == stage_ && event->type() == QEvent::Resize) show_picture_button();
        return Step::eventFilter(watched, event);
    }
    void ask_picture() {
        const bool solid = stack_->currentIndex() == 2;
        const QString ending = solid ? "png" : "svg";
        const QString name = QString::fromStdString(exchange::safe_file_name(document_.job().name));
        QString path = QFileDialog::getSaveFileName(stage_, "Picture for the owner", name + "." + ending,
                                                    solid ? "Picture (*.png)" : "Drawing (*.svg)", nullptr,
                                                    QFileDialog::DontUseNativeDialog);
        if (path.isEmpty()) return;
        if (QFileInfo(path).suffix().isEmpty()) path += "." + ending;
        const bool done = solid ? write_solid(path) : write_cuts(path);
        document_.note(done ? "Written: " + QFileInfo(path).fileName()
                            : "Nothing could be written to " + path + ": choose a folder that can be written to.",
                       {}, !done);
    }
    bool write_solid(const QString& path) const {
        // A page of paper at 300 dots to the inch.
        constexpr int wide = 3000, high = 1875;
        const QImage picture = solid_->picture({wide, high});
        QSaveFile file(path);
        return !picture.isNull() && file.open(QIODevice::WriteOnly) && picture.save(&file, "PNG") && file.commit();
    }
    bool write_cuts(const QString& path) const {
        if (boat_->empty()) return false;
        QByteArray text;
        QBuffer buffer(&text);
        QSvgGenerator svg;
        svg.setOutputDevice(&buffer);
        svg.setSize(boat_->size());
        svg.setViewBox(boat_->rect());
        svg.setTitle(QString::fromStdString(document_.job().name));
        QPainter p(&svg);
        p.fillRect(boat_->rect(), theme().colours().paper);
        boat_->draw_cuts(p);
        p.end();
        QSaveFile file(path);
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() && file.commit();
    }
    void build_cut_fields() {
        constexpr int narrow_field = 86;
        cut_fields_ = new QWidget;
        auto* fields = new QHBoxLayout(cut_fields_);
        fields->setContentsMargins(0, 0, 0, 0);
        fields->setSpacing(size::unit);
        const std::pair<exchange::Cut, const char*> cuts[] = {{exchange::Cut::section, "section at, fwd"},
                                                              {exchange::Cut::profile, "profile at, off centre"},
                                                              {exchange::Cut::plan, "plan at, up"}};
        for (const auto& [cut, words] : cuts) {
            auto* label = new QLabel(QString(words).section(' ', 0, 0));
            label->setToolTip(words);
            label->setObjectName("small");
            const bool sideways = cut == exchange::Cut::profile;
            auto* field =
                place_edit([this] { return document_.unit(); }, sideways ? units::Way::port : units::Way::none);
            field->setAccessibleName(words);
            field->setObjectName("narrow");
            field->setMinimumWidth(80);
            field->setMaximumWidth(sideways ? narrow_field + 28 : narrow_field);
            field->setToolTip(words);
            fields->addWidget(label);
            fields->addWidget(field);
            connect(field, &QuantityEdit::taken, this, [this, c = cut](double mm) { boat_->move_cut(c, mm); });
            cut_edits_.emplace_back(cut, field);
        }
    }
    void show_cuts() {
        for (const auto& [cut, field] : cut_edits_) field->set_value(boat_->at_mm(cut));
    }

    void act() {
        if (!state_.piece()) emit wants_panel(panel::NewPiece{});
        else emit wants_panel(panel::Papers{});
    }
    void refresh() {
        using K = Facet::Kind;
        const auto* shape = state_.shape();
        const Facet facet = state_.facet();
        const bool whole = shape && facet.kind == K::piece, edge = shape && facet.kind == K::edge;
        const bool scribed = shape && shape->edge_length_mm > 0;
        size_->setVisible(shape && (whole || facet.kind == K::unit || facet.kind == K::making));
        edge_->setVisible((whole && scribed) || edge);
        bevel_->setVisible((whole && scribed) || edge);
        known_->setVisible(scribed && (whole || edge));
        const auto* result = state_.result();
        const auto* spec = state_.computed_piece();
        // What stands there is cut out of nothing, and fits as it fits.
        const bool made = spec && piece::is_made(spec->role);
        fit_->setVisible(whole && scribed && made && result->forecast);
        if (shape && result->forecast) show_forecast(*result->forecast);
        parts_->setVisible(shape && made && (whole || facet.kind == K::making));
        told_->setText(told_of(facet));
        told_->setVisible(!told_->text().isEmpty());
        form_->show_fields(fields_for(facet), document_.selected_piece());
        findings_->show_findings(findings_of(*document_.computed(), document_.selected_piece()));
        act_->setText(!state_.piece() ? "Add a piece" : !spec || made ? "Papers to cut from" : "Its papers");
        if (shape) show_figures(*shape);
        if (edge) show_edge(*shape, static_cast<int>(facet.index));
    }

    /// Of a unit what room it leaves; of a level piece what carries it; of a feature what comes of it.
    QString told_of(const Facet& facet) const {
        using K = Facet::Kind;
        if (facet.kind == K::raised) return words_.raised_words();
        const auto* piece = state_.computed_piece();
        const auto* result = state_.result();
        if (!piece || !result || !result->shape()) return {};
        QStringList out;
        if (facet.kind == K::unit) {
            const auto* unit = job::unit_of(document_.job(), piece->id);
            const auto* room = unit ? document_.computed()->results.unit(unit->id) : nullptr;
            for (const auto& r : room ? room->room : std::vector<furniture::Room>{})
                out << QString("%1 %2%3").arg(QString::fromStdString(r.name), document_.length(r.mm),
                                              r.enough() ? QString() : ", wanted " + document_.length(r.wanted_mm));
        }
        if (facet.kind == K::piece && result->bearing) out << words_.carried_words(*result->bearing);
        if (facet.kind == K::piece) out << words_.level_words(*piece, *result->shape());
        if (facet.kind == K::layup) out << words_.layup_words(*piece, *result->shape());
        if (facet.kind == K::edge && result->bearing)
            for (const auto& line : result->bearing->lines)
                if (line.edge == static_cast<int>(facet.index))
                    out << "carried by " + QString::fromStdString(line.what);
        if (facet.kind == K::edge) out << words_.relief_words(*piece, *result->shape(), facet.index);
        if (facet.kind == K::more) out << words_.division_words(piece->id);
        if (facet.kind == K::crossing) out << words_.crossing_words(*result->shape(), facet.index);
        if (facet.kind == K::opening) out << words_.lid_words(*piece, facet.index);
        if (facet.kind == K::piece || facet.kind == K::opening) out << words_.doorway_words(piece->id);
        if (facet.kind == K::row && facet.index < piece->rows.size())
            if (const auto layout = piece::laid_out(piece->rows[facet.index]))
                out << QString("%1 rows of %2, %3 free")
                           .arg(layout->rows)
                           .arg(layout->columns)
                           .arg(document_.small_area(layout->free_cm2, 1));
        if (facet.kind == K::opening && facet.index < piece->openings.size()) {
            out << "least wood around it " +
                       document_.length(piece::rail_left_mm(*piece, facet.index, *result->shape()));
            if (const double guard = piece::guard_length_mm(piece->openings[facet.index]); guard > 0)
                out << "chafe guard " + document_.length(guard) + " long";
        }
        out.removeAll(QString());
        return out.join("\n");
    }
    /// First what is looked at, then its fields: never all of them.
    std::vector<FormField> fields_for(const Facet& facet) {
        const auto* piece = state_.piece();
        if (!piece) return {};
        const auto all = facets_of(*piece, job::unit_of(document_.job(), piece->id));
        QStringList names;
        int now = 0;
        for (std::size_t k = 0; k < all.size(); ++k) {
            names << all[k].name;
            if (all[k].facet == facet) now = static_cast<int>(k);
        }
        FieldList chosen;
        chosen.choice("showing", now, names, [this, all](const QVariant& v) {
            if (v.toInt() >= 0) state_.choose(all[static_cast<std::size_t>(v.toInt())].facet);
        });
        auto fields = chosen.take();
        for (auto& field : piece_fields(document_, document_.selected_piece(), facet))
            fields.push_back(std::move(field));
        if (facet.kind == Facet::Kind::piece) add_proposed(fields), add_at_the_boat(fields, *piece);
        return fields;
    }

    /// Of one edge: its length, and its bevel where that is the same all along.
    void show_edge(const piece::Outline& shape, int index) {
        double length = 0, bevel = 0;
        bool scribed = false;
        for (const auto& e : shape.edges_a) {
            if (e.spec != index || e.source == piece::EdgeSource::limber || e.source == piece::EdgeSource::notch ||
                e.source == piece::EdgeSource::joint)
                continue;
            length += e.length_mm;
            bevel = e.bevel_rad;
            scribed = e.source == piece::EdgeSource::scribed;
        }
        edge_->set_name("this edge");
        edge_->show_value(document_.length_number(length), QString::fromUtf8(units::symbol(document_.unit()).data()),
                          "Length on face A of what the outline keeps of this edge.");
        if (scribed) return;
        known_->hide();
        bevel_->show_value(
            QString::fromStdString(units::format_angle(bevel)), "",
            "Angle between the edge and a square cut, the same all along; + open, face B reaches farther "
            "out.");
    }

    void show_figures(const piece::Outline& shape) {
        const auto a = geometry::bounding_box(shape.face_a.outer), b = geometry::bounding_box(shape.face_b.outer);
        const Vec2 box = a.max.cwiseMax(b.max) - a.min.cwiseMin(b.min);
        const QString unit = QString::fromUtf8(units::symbol(document_.unit()).data());
        size_->show_value(
            document_.length_number(box.x()) + " × " + document_.length_number(box.y()), unit,
            QString("Both faces are exact sections of the surface, %1 apart: the thickness as measured, not as sold.")
                .arg(document_.length(shape.thickness_mm)));
        edge_->set_name("scribed edge");
        edge_->show_value(document_.length_number(shape.edge_length_mm), unit,
                          "Length on face A of the edge that is scribed to the hull, notches taken out.");
        bevel_->show_value(QString("%1 to %2")
                               .arg(QString::fromStdString(units::format_angle(shape.least_bevel_rad)),
                                    QString::fromStdString(units::format_angle(shape.largest_bevel_rad))),
                           "",
                           "Angle between the edge and a square cut; + open, face B reaches farther out. The ribbon "
                           "gives the saw's settings in runs of 2 degrees. Past 45 degrees cut square and dress.");
        known_->show_value(
            document_.band_number(shape.largest_sigma_mm), document_.fine_unit(),
            QString("From the surface's uncertainty along the edge; the fit wanted is %1. %2")
                .arg(document_.length(state_.computed_piece()->wanted_fit_mm),
                     shape.all_in_survey ? "Readings surround the whole edge."
                                         : "Part of the edge lies outside the readings: it is drawn red."));
        parts_->setText(parts_words(shape));
    }

    /// Each part's blank, and whether it passes; of more than two the largest, and which do not pass.
    QString parts_words(const piece::Outline& shape) const {
        const auto blank = [this](const piece::Part& part) {
            return QString("blank %1 × %2")
                .arg(document_.length_number(part.blank_along_mm), document_.length(part.blank_across_mm));
        };
        constexpr std::size_t few = 2;
        QStringList words, stuck;
        for (const auto& part : shape.parts) {
            const QString id = QString::fromStdString(part.id);
            if (!part.passes) stuck << id;
            words << QString("%1: %2, %3").arg(id, blank(part), part.passes ? "passes" : "will not pass");
        }
        if (shape.parts.size() <= few) return words.join("\n");
        const auto& largest =
            *std::max_element(shape.parts.begin(), shape.parts.end(), [](const piece::Part& a, const piece::Part& b) {
                return a.blank_along_mm * a.blank_across_mm < b.blank_along_mm * b.blank_across_mm;
            });
        const QString passing = stuck.isEmpty() ? "all pass" : "these will not pass: " + stuck.join(", ");
        return QString("%1 parts, %2\nlargest %3").arg(shape.parts.size()).arg(passing, blank(largest));
    }

    /// What is done with it there.
    void add_at_the_boat(std::vector<FormField>& fields, const job::JobPiece& piece) {
        FieldList more;
        more.button("Set it out at the boat …", [this] { emit wants_panel(panel::SetOut{}); });
        if (piece::is_made(piece.role)) more.button("Offer it up …", [this] { emit wants_panel(panel::OfferUp{}); });
        for (auto& field : more.take()) fields.push_back(std::move(field));
    }

    /// How many readings are proposed for the next trip to the boat.
    void add_proposed(std::vector<FormField>& fields) {
        FieldList more;
        more.number(
            "readings proposed", "", document_.job().readings_next,
            [this](const QVariant& v) {
                document_.edit("Propose more or fewer readings", [&](job::Job& job) {
                    job.readings_next = std::clamp(static_cast<int>(std::lround(v.toDouble())), 1, 5);
                });
            },
            1, 5);
        for (auto& field : more.take()) fields.push_back(std::move(field));
    }

    PieceState state_;
    PieceWords words_{document_};
    void show_forecast(const piece::Forecast& forecast);

    Figure *size_, *edge_, *bevel_, *known_, *fit_;
    QLabel *parts_, *told_;
    FindingsBox* findings_;
    Form* form_;
    QPushButton* act_;
    QStackedWidget* stack_ = nullptr;
    QToolButton *on_bench_, *in_boat_, *in_solid_;
    Camera camera_;
    SceneView* solid_ = nullptr;
    QToolButton* picture_ = nullptr;
    bool seen_solid_ = false;
    QWidget* cut_fields_;
    BoatView* boat_;
    bool look_ = false;  ///< through what is chosen, once it is worked out
    std::vector<std::pair<exchange::Cut, QuantityEdit*>> cut_edits_;
};

void PiecesStep::show_forecast(const piece::Forecast& forecast) {
    // Of a thousand draws: nothing is certain.
    const auto percent = [](double share) {
        return share > 0.99 ? QString("over 99 %") : QString("%1 %").arg(std::lround(100 * share));
    };
    QString next, before;
    if (const QString kept = kept_words(document_); !kept.isEmpty()) before = kept + "\n";
    const auto spots = worth_the_trip(forecast.suggestions, forecast.worst_mm);
    for (const auto& s : spots)
        next += QString("\nfwd %1, %2, up %3")
                    .arg(document_.length_number(s.position.x()), document_.off_centre(s.position.y()),
                         document_.length_number(s.position.z()));
    fit_->show_value(
        document_.fine_number(forecast.now.expected_largest_mm),
        QString("%1; %2 within %3")
            .arg(document_.fine_unit(), percent(forecast.now.chance_within),
                 document_.length(state_.computed_piece()->wanted_fit_mm)),
        QString("The largest error along the whole edge, on average over what the surface may be; one cut in twenty "
                "exceeds %1. Cutting and placing come on top. The bevel is known to ± %2° at its worst.\n%3%4")
            .arg(document_.fine(forecast.now.likely_largest_mm))
            .arg(1.96 * units::degrees(forecast.worst_bevel_rad), 0, 'f', 1)
            .arg(before)
            .arg(next.isEmpty() ? QString("More readings would gain little.")
                                : QString("With %1 more readings, drawn as diamonds: %2, %3 within.%4")
                                      .arg(spots.size())
                                      .arg(document_.fine(forecast.then.expected_largest_mm))
                                      .arg(percent(forecast.then.chance_within), next)));
}

}  // namespace

std::unique_ptr<Step> make_pieces_step(Document& document) {
    return std::make_unique<PiecesStep>(document);
}

}  // namespace bevelsmith::app

// Pieces: the outline of both faces to scale, its bevels, its edges and openings.
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/pieces/piece_drawing.h"
#include "app/pieces/piece_fields.h"
#include "app/widgets/next_readings.h"
#include "app/widgets/step.h"

namespace bevelsmith::app {
namespace {

class PiecesStep : public Step {
  public:
    explicit PiecesStep(Document& document) : Step(document, "Pieces"), state_(document) {
        stage_ = new PieceDrawing(state_, PieceDrawing::Shows::outline);
        ribbon_ = new PerimeterRibbon(state_, PieceDrawing::Shows::outline);
        auto* panel = new Panel;
        size_ = new Figure("over both faces");
        edge_ = new Figure("scribed edge");
        bevel_ = new Figure("bevel, least to most");
        known_ = new Figure("edge known to, at its worst (95 % band)");
        fit_ = new Figure("largest gap to expect");
        for (auto* f : {size_, edge_, bevel_, known_, fit_}) panel->add(f);
        parts_ = panel->words({}, false);
        form_ = new_form();
        panel->add(form_);
        // Under the fields, so that none of them moves from under the hand when a finding comes or goes.
        findings_ = new FindingsBox;
        panel->add(findings_);
        panel->end();
        act_ = panel->act("Add a piece");
        facts_ = panel;
        connect(act_, &QPushButton::clicked, this, &PiecesStep::act);
        connect(&state_, &PieceState::changed, this, &PiecesStep::refresh);
        refresh();
    }
    QString count() const override {
        return document_.job().pieces.empty() ? QString() : QString::number(document_.job().pieces.size());
    }

  private:
    void act() {
        if (!state_.piece()) emit wants_sheet("new piece");
        else emit wants_sheet("papers");
    }
    void refresh() {
        const auto* shape = state_.shape();
        for (auto* f : {size_, edge_, bevel_, known_}) f->setVisible(shape != nullptr);
        const auto* result = state_.result();
        fit_->setVisible(shape && result->forecast);
        if (shape && result->forecast) show_forecast(*result->forecast);
        parts_->setVisible(shape != nullptr);
        auto fields = piece_fields(document_, document_.selected_piece());
        if (!fields.empty()) add_proposed(fields);
        form_->show_fields(std::move(fields));
        findings_->show_findings(findings_of(*document_.computed(), document_.selected_piece()));
        act_->setText(!state_.piece() ? "Add a piece" : "Papers to cut from");
        if (shape) show_figures(*shape);
    }
    void show_figures(const piece::Outline& shape) {
        const auto a = geometry::bounding_box(shape.face_a.outer), b = geometry::bounding_box(shape.face_b.outer);
        const Vec2 box = a.max.cwiseMax(b.max) - a.min.cwiseMin(b.min);
        const QString unit = QString::fromUtf8(units::symbol(document_.unit()).data());
        size_->show_value(
            document_.length_number(box.x()) + " × " + document_.length_number(box.y()), unit,
            QString("Both faces are exact sections of the surface, %1 apart: the thickness as measured, not as sold.")
                .arg(document_.length(shape.thickness_mm)));
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
        QStringList words;
        for (const auto& part : shape.parts)
            words << QString("%1: blank %2 × %3, %4")
                         .arg(QString::fromStdString(part.id), document_.length_number(part.blank_along_mm),
                              document_.length(part.blank_across_mm), part.passes ? "passes" : "will not pass");
        parts_->setText(words.join("\n"));
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
    void show_forecast(const piece::Forecast& forecast);

    Figure *size_, *edge_, *bevel_, *known_, *fit_;
    QLabel* parts_;
    FindingsBox* findings_;
    Form* form_;
    QPushButton* act_;
};

void PiecesStep::show_forecast(const piece::Forecast& forecast) {
    // Of a thousand draws: nothing is certain.
    const auto percent = [](double share) {
        return share > 0.99 ? QString("over 99 %") : QString("%1 %").arg(std::lround(100 * share));
    };
    QString next;
    const auto spots = worth_the_trip(forecast.suggestions, forecast.worst_mm);
    for (const auto& s : spots)
        next += QString("\nfwd %1, port %2, up %3")
                    .arg(document_.length_number(s.position.x()), document_.length_number(s.position.y()),
                         document_.length_number(s.position.z()));
    fit_->show_value(
        document_.fine_number(forecast.now.expected_largest_mm),
        QString("%1; %2 within %3")
            .arg(document_.fine_unit(), percent(forecast.now.chance_within),
                 document_.length(state_.computed_piece()->wanted_fit_mm)),
        QString("The largest error along the whole edge, on average over what the surface may be; one cut in twenty "
                "exceeds %1. Cutting and placing come on top. The bevel is known to ± %2° at its worst.\n%3")
            .arg(document_.fine(forecast.now.likely_largest_mm))
            .arg(1.96 * units::degrees(forecast.worst_bevel_rad), 0, 'f', 1)
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

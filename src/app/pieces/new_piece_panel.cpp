#include "app/pieces/new_piece_panel.h"

#include <algorithm>
#include <cmath>

#include "app/pieces/field_maker.h"
#include "app/pieces/unit_fields.h"
#include "job/in_full.h"
#include "job/starting_unit.h"
#include "job/trial_build.h"

namespace bevelsmith::app {

NewPiecePanel::NewPiecePanel(Document& document, std::optional<double> at_mm)
    : SidePanel(document, "A new piece"), at_mm_(at_mm) {
    picker_ = new KindPicker(job::kinds_offered(document_.job(), document_.computed()->results));
    panel_->add(picker_);
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    usual_ = panel_->words({});
    panel_->words("It starts from what has been measured. Move it in the boat by hand, or type its numbers.");
    panel_->end();
    auto* act = panel_->act("Add it");
    connect(act, &QPushButton::clicked, this, &NewPiecePanel::add);
    connect(picker_, &KindPicker::picked, this, &NewPiecePanel::picked);
    connect(picker_, &KindPicker::taken, this, &NewPiecePanel::add);
    setFocusProxy(picker_);  // arrows go over the silhouettes at once
    connect(&document_, &Document::ghost_dragged, this, &NewPiecePanel::moved);
    before_ = picker_->chosen();
    propose();
}

NewPiecePanel::~NewPiecePanel() {
    document_.show_ghost(nullptr);
}

void NewPiecePanel::add() {
    if (!form_->settled()) return;
    if (furniture()) return add_unit();
    std::string id;
    document_.edit("Add a piece", [&](job::Job& job) {
        if (job.materials.empty()) job.materials = job::empty_job().materials;
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        job.pieces.push_back(job::starting_piece(job, document_.computed()->results, *picker_->chosen().piece,
                                                 geometry::place_mm(proposed_.plane)));
        job.pieces.back().role = role_;
        if (!piece::is_made(role_)) job.pieces.back().place = "There already";
        id = job.pieces.back().id;
    });
    document_.select_piece(QString::fromStdString(id));
    emit wants_step(StepId::pieces);
    emit close_asked();
}

void NewPiecePanel::add_unit() {
    document_.edit("Add a unit", [&](job::Job& job) {
        if (job.materials.empty()) job.materials = job::empty_job().materials;
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        if (unit_.material_id.empty()) unit_.material_id = unit_.top_material_id = job.materials.front().id;
        if (unit_.surface_id.empty()) unit_.surface_id = job.surfaces.front().id;
        job.units.push_back(unit_);
    });
    for (const auto& piece : document_.built().pieces)
        if (job::is_of(piece.id, unit_.id)) {
            document_.select_piece(QString::fromStdString(piece.id));
            break;
        }
    emit wants_boat();
    emit close_asked();
}

/// The piece or unit as it would stand now.
void NewPiecePanel::propose() {
    const auto& results = document_.computed()->results;
    if (furniture()) unit_ = job::starting_unit(document_.job(), results, *picker_->chosen().unit, at_mm_);
    else proposed_ = job::starting_piece(document_.job(), results, *picker_->chosen().piece, at_mm_);
    show_fields();
}

/// As its numbers say, whether they are good ones or not.
void NewPiecePanel::show_ghost() {
    job::Job with = document_.job();
    const std::string id = furniture() ? unit_.id : proposed_.id;
    if (furniture()) with.units.push_back(unit_);
    else with.pieces.push_back(proposed_);
    document_.show_ghost(std::make_shared<const job::Results>(
        job::tried_out(job::in_full(with), document_.computed()->results,
                       [&](const job::JobPiece& p) { return p.id == id || job::is_of(p.id, id); })));
}

void NewPiecePanel::picked() {
    const auto at_of = [](const Addable& what) {
        return what.piece ? QString(job::starting_words(*what.piece).at) : QString("face A at, fwd");
    };
    // A place along the boat is none across it.
    if (at_of(picker_->chosen()) != at_of(before_)) at_mm_.reset();
    before_ = picker_->chosen();
    propose();
}

void NewPiecePanel::moved(const Vec3& by) {
    dragged_ += by;
    const double step = job::step_mm(document_.job());
    const Vec3 whole = (dragged_ / step).array().round() * step;
    if (whole.norm() < step / 2) return;
    dragged_ -= whole;
    if (furniture()) return move_unit(whole);
    const double along = whole.dot(proposed_.plane.normal.cwiseAbs());
    if (std::abs(along) < step / 2) return;
    at_mm_ = geometry::place_mm(proposed_.plane) + along;
    propose();
}

/// Ends that stop at bulkheads stay there; a front goes out and in, a foot up and down.
void NewPiecePanel::move_unit(const Vec3& by) {
    if (unit_.from_piece_id.empty() && unit_.to_piece_id.empty()) {
        for (double& at : unit_.dividers_mm) at += by.x();
        unit_.from_mm += by.x(), unit_.to_mm += by.x();
    }
    if (by.y() != 0) unit_.front_follows = false;
    unit_.front_mm = std::max(0.0, unit_.front_mm + (unit_.side == furniture::Side::port ? 1 : -1) * by.y());
    unit_.foot_mm += by.z();
    show_fields();
}

/// As it would change in the job: what follows its ends follows.
void NewPiecePanel::change_unit(const std::function<void(job::JobUnit&)>& change) {
    job::Job before = document_.job();
    before.units.push_back(unit_);
    job::Job now = before;
    change(now.units.back());
    job::follow_ends(now, before, document_.computed()->results);
    unit_ = now.units.back();
}

void NewPiecePanel::show_fields() {
    const Addable what = picker_->chosen();
    words_->setText(what.unit ? furniture::kind_of(*what.unit).words : job::starting_words(*what.piece).words);
    usual_->setVisible(furniture());
    if (what.unit)
        usual_->setText(
            document_.told(std::string("Usual: ") + furniture::kind_of(*what.unit).usual + " (common practice)."));
    FieldList fields;
    if (what.unit) {
        add_unit_numbers(fields, document_.job(), unit_,
                         [this](const QString&, const std::function<void(job::JobUnit&)>& change) {
                             change_unit(change);
                             show_fields();
                         });
    } else {
        fields.length(job::starting_words(*what.piece).at, geometry::place_mm(proposed_.plane),
                      [this](const QVariant& v) {
                          at_mm_ = v.toDouble();
                          propose();
                      });
        fields.choice("it is", static_cast<int>(role_), role_choices(),
                      [this](const QVariant& v) { role_ = static_cast<piece::Role>(v.toInt()); });
    }
    form_->show_fields(fields.take());
    show_ghost();
}

}  // namespace bevelsmith::app

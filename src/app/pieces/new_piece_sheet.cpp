#include "app/pieces/new_piece_sheet.h"

#include "app/pieces/unit_fields.h"
#include "job/in_full.h"
#include "job/starting_unit.h"

namespace bevelsmith::app {

using job::StartingKind;

NewPieceSheet::NewPieceSheet(Document& document, std::optional<double> at_mm)
    : SideSheet(document, "A new piece"), at_mm_(at_mm) {
    offered_ = job::kinds_offered(document_.job(), document_.computed()->results);
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    usual_ = panel_->words({});
    panel_->words(
        "It starts from what has been measured: scribed to the hull, and cut straight where the readings end or the "
        "boat does. All of it can be moved afterwards, by typing or on the drawing.");
    panel_->end();
    auto* act = panel_->act("Add it");
    connect(act, &QPushButton::clicked, this, &NewPieceSheet::add);
    propose();
}

void NewPieceSheet::add() {
    if (!form_->settled()) return;
    if (furniture()) return add_unit();
    std::string id;
    document_.edit("Add a piece", [&](job::Job& job) {
        if (job.materials.empty()) job.materials = job::empty_job().materials;
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        job.pieces.push_back(
            job::starting_piece(job, document_.computed()->results, kind(), geometry::place_mm(proposed_.plane)));
        id = job.pieces.back().id;
    });
    document_.select_piece(QString::fromStdString(id));
    emit wants_step("Pieces");
    emit close_asked();
}

void NewPieceSheet::add_unit() {
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
    emit wants_step("Pieces in the boat");
    emit close_asked();
}

/// The piece or unit as it would stand now.
void NewPieceSheet::propose() {
    if (furniture()) return propose_unit();
    proposed_ = job::starting_piece(document_.job(), document_.computed()->results, kind(), at_mm_);
    show_fields();
}

void NewPieceSheet::propose_unit() {
    unit_ = job::starting_unit(document_.job(), document_.computed()->results, unit_kind(), at_mm_);
    show_fields();
}

void NewPieceSheet::choose(int chosen) {
    const auto at_of = [this](int k) {
        return k < static_cast<int>(offered_.size())
                   ? QString(job::starting_words(offered_[static_cast<std::size_t>(k)]).at)
                   : QString("face A at, fwd");
    };
    // A place along the boat is none across it.
    if (at_of(chosen) != at_of(chosen_)) at_mm_.reset();
    chosen_ = chosen;
    propose();
}

void NewPieceSheet::show_fields() {
    words_->setText(furniture() ? furniture::unit_words(unit_kind()).words : job::starting_words(kind()).words);
    usual_->setVisible(furniture());
    if (furniture())
        usual_->setText(document_.told(std::string("Usual: ") + furniture::unit_words(unit_kind()).usual +
                                       " (common practice)."));
    QStringList names;
    for (StartingKind k : offered_) names << QString(job::starting_words(k).name).toLower();
    for (int k = 0; k < furniture::unit_kind_count; ++k)
        names << QString("furniture: %1").arg(furniture::unit_words(static_cast<furniture::UnitKind>(k)).name);
    FieldList fields;
    fields.choice("kind", chosen_, names, [this](const QVariant& v) { choose(v.toInt()); });
    if (furniture()) {
        add_unit_numbers(fields, document_.job(), unit_,
                         [this](const QString&, const std::function<void(job::JobUnit&)>& change) {
                             change(unit_);
                             show_fields();
                         });
    } else {
        fields.length(job::starting_words(kind()).at, geometry::place_mm(proposed_.plane), [this](const QVariant& v) {
            at_mm_ = v.toDouble();
            propose();
        });
    }
    form_->show_fields(fields.take());
}

}  // namespace bevelsmith::app

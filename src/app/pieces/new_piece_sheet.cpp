#include "app/pieces/new_piece_sheet.h"

namespace bevelsmith::app {

using job::StartingKind;

NewPieceSheet::NewPieceSheet(Document& document, std::optional<double> at_mm)
    : SideSheet(document, "A new piece"), at_mm_(at_mm) {
    offered_ = job::kinds_offered(document_.job(), document_.computed()->results);
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
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
    std::string id;
    document_.edit("Add a piece", [&](job::Job& job) {
        if (job.materials.empty()) job.materials = job::empty_job().materials;
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        job.pieces.push_back(job::starting_piece(job, document_.computed()->results, kind(), proposed_.plane.d_mm));
        id = job.pieces.back().id;
    });
    document_.select_piece(QString::fromStdString(id));
    emit wants_step("Pieces");
    emit close_asked();
}

/// The piece as it would stand now.
void NewPieceSheet::propose() {
    proposed_ = job::starting_piece(document_.job(), document_.computed()->results, kind(), at_mm_);
    const auto& words = job::starting_words(kind());
    words_->setText(words.words);
    QStringList names;
    for (StartingKind k : offered_) names << QString(job::starting_words(k).name).toLower();
    FieldList fields;
    fields.choice("kind", chosen_, names, [this](const QVariant& v) {
        // A place along the boat is none across it.
        if (job::starting_words(offered_[static_cast<std::size_t>(v.toInt())]).at !=
            QString(job::starting_words(kind()).at))
            at_mm_.reset();
        chosen_ = v.toInt();
        propose();
    });
    fields.length(words.at, proposed_.plane.d_mm, [this](const QVariant& v) {
        at_mm_ = v.toDouble();
        propose();
    });
    form_->show_fields(fields.take());
}

}  // namespace bevelsmith::app

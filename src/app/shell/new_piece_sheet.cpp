#include "app/shell/side_sheet.h"

#include "app/steps/piece_fields.h"

namespace bevelsmith::app {

NewPieceSheet::NewPieceSheet(Document& document, double at_mm) : SideSheet(document, "A new piece"), at_mm_(at_mm) {
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "It starts with a scribed edge to the hull and straight edges a little inside of the readings; all of them "
        "can be moved afterwards, by typing or on the drawing.");
    panel_->end();
    auto* act = panel_->act("Add it");
    connect(act, &QPushButton::clicked, this, [this] {
        std::string id;
        document_.edit("Add a piece", [&](job::Job& job) {
            if (job.materials.empty()) job.materials = job::empty_job().materials;
            if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
            job.pieces.push_back(new_piece(job, *document_.computed(), static_cast<NewPiece>(kind_), at_mm_));
            id = job.pieces.back().id;
        });
        document_.select_piece(QString::fromStdString(id));
        emit wants_step("Pieces");
        emit close_asked();
    });
    refresh();
}

void NewPieceSheet::refresh() {
    const char* at[] = {"face A at, fwd", "face A at, fwd", "face A at, port", "face A at, up"};
    const char* words[] = {
        "Across the boat from side to side: structure, tabbed on both sides. Halves meet at a joint that you set.",
        "Across the boat, from the hull to an inboard edge.", "Along the boat: a furniture face, a settee front.",
        "Level: a shelf, a counter, a sole or berth panel."};
    words_->setText(words[kind_]);
    form_->show_fields({{FormField::Kind::choice,
                         "kind",
                         kind_,
                         [this](const QVariant& v) {
                             kind_ = v.toInt();
                             refresh();
                         },
                         {"bulkhead", "half-bulkhead", "panel along the boat", "level panel"},
                         {}},
                        {FormField::Kind::length,
                         at[kind_],
                         at_mm_,
                         [this](const QVariant& v) { at_mm_ = v.toDouble(); },
                         {},
                         {},
                         units::range::place.least,
                         units::range::place.most}});
}

}  // namespace bevelsmith::app

// What of the selected piece is looked at, as it was last computed.
#include "app/pieces/piece_drawing.h"
#include "job/in_full.h"

namespace bevelsmith::app {

PieceState::PieceState(Document& d) : document(d), held_(d.computed()) {
    const auto renew = [this] {
        held_ = document.computed();
        mark_ = -1;
        emit changed();
    };
    connect(&document, &Document::computed_changed, this, renew);
    connect(&document, &Document::selection_changed, this, [this, renew] {
        // Among a unit's panels one goes on looking at the unit.
        if (facet_ && facet_->kind != Facet::Kind::unit && facet_->kind != Facet::Kind::raised) facet_.reset();
        follow_additions();
        renew();
    });
    connect(&document, &Document::job_changed, this, [this] {
        follow_additions();
        emit changed();
    });
    follow_additions();
}

const job::PieceResult* PieceState::result() const {
    return held_->piece_result(document.selected_piece());
}
const piece::Outline* PieceState::shape() const {
    return result() ? result()->shape() : nullptr;
}
const piece::Sketch* PieceState::sketch() const {
    return result() ? result()->sketch.get() : nullptr;
}
const job::JobPiece* PieceState::computed_piece() const {
    return held_->piece(document.selected_piece());
}

bool PieceState::hull_said() const {
    return document.job().boat.shell.construction != fixing::Construction::unsaid;
}

QString PieceState::fault() const {
    const auto* r = result();
    return r && r->outline && !r->outline->ok() ? QString::fromStdString(r->outline->error().message) : QString();
}

void PieceState::point_at(int mark) {
    if (mark == mark_) return;
    mark_ = mark;
    emit pointed(mark);
}

void PieceState::follow_additions() {
    const auto* now = piece();
    const std::string id = now ? now->id : std::string();
    using K = Facet::Kind;
    constexpr K kinds[] = {K::edge, K::opening, K::notch, K::row, K::crossing, K::limber, K::joint};
    const std::array<std::size_t, 7> counts =
        now ? std::array{now->edges.size(),     now->openings.size(), now->notches.size(), now->rows.size(),
                         now->crossings.size(), now->limbers.size(),  now->joints.size()}
            : std::array<std::size_t, 7>{};
    for (std::size_t k = 0; id == counted_ && k < counts.size(); ++k)
        if (counts[k] == counts_[k] + 1 && facet_ && facet_->kind == Facet::Kind::more)
            facet_ = Facet{kinds[k], counts[k] - 1};
    counted_ = id;
    counts_ = counts;
}

Facet PieceState::facet() const {
    const auto* now = piece();
    if (!now) return {};
    const auto all = facets_of(*now, job::unit_of(document.job(), now->id));
    for (const auto& one : all)
        if (facet_ && one.facet == *facet_) return one.facet;
    return all.front().facet;
}

void PieceState::choose(const Facet& facet) {
    if (facet_ && *facet_ == facet) return;
    facet_ = facet;
    emit changed();
}

}  // namespace bevelsmith::app

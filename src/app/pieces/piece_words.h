// What comes of a piece, in sentences: what carries it, its levels, how it is made, how it is divided and crossed.
#pragma once

#include "app/document/document.h"
#include "piece/bearing.h"

namespace bevelsmith::app {

class PieceWords {
  public:
    explicit PieceWords(const Document& document) : document_(document) {}

    QString raised_words() const;
    QString carried_words(const piece::BearingReport& bearing) const;
    /// From the finished level down to the top of what carries it, told from the nearest mark; what is packed.
    QStringList level_words(const job::JobPiece& piece, const piece::Outline& shape) const;
    QStringList layup_words(const job::JobPiece& piece, const piece::Outline& shape) const;
    /// The arris to be taken off where the edge lands in a fillet.
    QString relief_words(const job::JobPiece& piece, const piece::Outline& shape, std::size_t index) const;
    /// Where a piece that is too large is best divided.
    QString division_words(const std::string& id) const;
    /// How a slot's walls are sawn.
    QString crossing_words(const piece::Outline& shape, std::size_t index) const;
    /// How the lid of an opening is come by.
    QString lid_words(const job::JobPiece& piece, std::size_t opening) const;
    QStringList doorway_words(const std::string& id) const;

  private:
    const Document& document_;
};

}  // namespace bevelsmith::app

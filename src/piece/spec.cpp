#include "piece/spec.h"

namespace bevelsmith::piece {

bool EdgeSpec::operator==(const EdgeSpec&) const = default;

PieceSpec::PieceSpec() = default;
PieceSpec::PieceSpec(const PieceSpec&) = default;
PieceSpec::PieceSpec(PieceSpec&&) noexcept = default;
PieceSpec& PieceSpec::operator=(const PieceSpec&) = default;
PieceSpec& PieceSpec::operator=(PieceSpec&&) noexcept = default;
PieceSpec::~PieceSpec() = default;
bool PieceSpec::operator==(const PieceSpec&) const = default;

}  // namespace bevelsmith::piece

#include "survey/reading.h"

namespace bevelsmith::survey {

ReadingSet::ReadingSet() = default;
ReadingSet::ReadingSet(const ReadingSet&) = default;
ReadingSet::ReadingSet(ReadingSet&&) noexcept = default;
ReadingSet& ReadingSet::operator=(const ReadingSet&) = default;
ReadingSet& ReadingSet::operator=(ReadingSet&&) noexcept = default;
ReadingSet::~ReadingSet() = default;
bool ReadingSet::operator==(const ReadingSet&) const = default;

}  // namespace bevelsmith::survey

// Layouts that a person keeps: one is in use, others stand beside it to be compared.
#pragma once

#include <string>

#include "job/pipeline.h"

namespace bevelsmith::job {

/// A kept layout with the parts and the stock of today. Fails, with the reason, where it no longer holds: a part is
/// gone or has been added, has changed and no longer lies right, an offcut is gone. Pins count for nothing here.
Result<sheets::Layout> kept_layout(const LockedLayout& lock, const SheetResult& sheets);

/// The layout under a name of its own, beside those that are kept; nothing is done where it is kept already. Gives
/// the name under which it stands.
std::string keep_beside(Job& job, const SheetResult& sheets);

/// Puts the kept layout of this material and name into use; that one stays kept beside it as well.
void take_up(Job& job, const std::string& material_id, const std::string& name);
void forget_layout(Job& job, const std::string& material_id, const std::string& name);

}  // namespace bevelsmith::job

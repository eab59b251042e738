// Sheets that have been cut: marked, kept as they were, what is left of them put into stock.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::job {

/// Marks a sheet of a layout (counted from 0) as cut: its parts are laid out no more, the sheet or offcut is out of
/// stock, and pieces of which every part is cut become "cut". The cut sheet's id; empty where there is no such sheet,
/// or nothing on it.
std::string mark_cut(Job& job, const SheetResult& sheets, int sheet);
/// Takes that back: the parts are wanted again, the sheet is in stock again. Offcuts that were kept of it go with it;
/// false, and nothing is done, where one of them has been cut since.
bool mark_not_cut(Job& job, const std::string& cut_sheet_id);
/// One part went wrong, or its piece has changed: it is cut once more from something else, and lies on its old sheet
/// as waste.
void cut_anew(Job& job, const std::string& material_id, const std::string& part_id);

/// What is left of a cut sheet beside its parts and the saw's way around them, as far as it is nowhere narrower than
/// the least offcut that is kept; the largest first.
std::vector<geometry::Polygon> rest_of(const CutSheet& sheet, const CuttingRules& rules);
/// Puts that into stock as offcuts; how many.
int keep_rest(Job& job, const std::string& cut_sheet_id);

/// The cut sheet that a part came from; null where it is still to be cut.
const CutSheet* cut_from(const Job& job, const std::string& material_id, const std::string& part_id);

}  // namespace bevelsmith::job

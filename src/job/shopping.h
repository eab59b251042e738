// What is to be bought, against what is in stock.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::job {

struct ShoppingLine {
    std::string what;         ///< "Marine ply 12", "ash 40 x 20, 2400 mm"
    std::string of_what;      ///< "sheets", "bars", "m"
    double needed = 0;        ///< by the layouts and plans as they stand
    double in_stock = 0;      ///< offcuts left out: what the layouts take from them is not needed
    double to_buy = 0;        ///< in whole ones
    bool is_reserve = false;  ///< what is bought beyond that of the line before, in case something goes wrong
    double price = 0;         ///< of one; 0: not known
    std::string note;         ///< what is not laid out but counted all the same
    double sum() const { return to_buy * price; }
};

/// Each followed by its reserve where one is bought. Sheets by material, bars by their kind, and what no bar in stock
/// is thick enough for, by the metre. A stock of "as many as needed" counts as none: it has to be bought.
std::vector<ShoppingLine> shopping_list(const Job& job, const Results& results);

}  // namespace bevelsmith::job

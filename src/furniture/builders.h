// How each kind of unit is built, and what several of them are built with.
#pragma once

#include <string>

#include "furniture/builder.h"

namespace bevelsmith::furniture {

/// Narrower openings are left out.
inline constexpr double least_opening_mm = 60;

/// The first letter made a capital.
std::string capital(std::string word);

/// A lift-out between two stations of a level panel, rails left, from `in` to `out` of the centre line; its opening
/// is cut in the panel. Nothing where that is too narrow for one.
void add_lid(Builder& b, piece::PieceSpec& top, std::size_t k, double from_mm, double to_mm, double in, double out,
             double upper);

void build_box(Builder& b);       ///< closed front, lids: settee, berth
void build_open_box(Builder& b);  ///< openings in the front, shelves behind them: counter, locker
void build_shelf_run(Builder& b);
void build_sole(Builder& b);
void build_middle_box(Builder& b);
void build_bow_berth(Builder& b);
void build_table(Builder& b);

}  // namespace bevelsmith::furniture

// Parts onto sheets: the problem, the layout, and the proof that a layout is valid.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "geometry/polygon.h"
#include "units/stop.h"

namespace bevelsmith::sheets {

/// A shape to be cut `quantity` times.
struct Part {
    std::string id;
    int quantity = 1;
    bool any_rotation = false;
    std::vector<double> rotations_deg{0};  ///< allowed when any_rotation is false
    double tolerance_deg = 0;              ///< how far it may lie askew of an allowed angle: grain is not that exact
    bool either_face = false;              ///< it may be cut from either face, and so be turned over
    geometry::Polygon shape;
    bool operator==(const Part&) const = default;
};

/// A plain sheet or an offcut of any shape, with holes where something was cut out.
struct Stock {
    geometry::Polygon shape;  ///< a plain sheet is the rectangle (0,0)-(w,h)
    int count = -1;           ///< -1: as many as needed
    int priority = 100;       ///< lower is used first
    bool operator==(const Stock&) const = default;
};

/// Turn the part over where that is said (x becomes -x), turn its rings by `rotation_deg` about their own origin,
/// then move by `shift`.
struct Placement {
    int part = 0, copy = 0;
    int sheet = 0;  ///< index into Layout::sheet_stock
    double rotation_deg = 0;
    Vec2 shift{0, 0};
    bool turned_over = false;
    bool operator==(const Placement&) const = default;
};

/// What lies where it must stay: every layout begins with these sheets and has these placements.
struct Locked {
    std::vector<int> sheet_stock;  ///< as in a layout
    std::vector<Placement> placements;
    bool operator==(const Locked&) const = default;
};

struct Problem {
    std::string name;
    double spacing_mm = 0;      ///< least distance between parts
    double edge_margin_mm = 0;  ///< least distance from a part to the sheet's edge
    std::vector<Stock> stock;
    std::vector<Part> parts;
    Locked locked;
    bool operator==(const Problem&) const = default;
};

struct Unplaced {
    int part = 0, copy = 0;
    std::string reason;
    bool operator==(const Unplaced&) const = default;
};

struct Layout {
    std::vector<int> sheet_stock;  ///< the entry of Problem::stock behind each sheet used
    std::vector<Placement> placements;
    std::vector<Unplaced> unplaced;
    double utilisation = 0;  ///< part area over sheet area, the last sheet counted up to its last part
    double seconds = 0;
    bool operator==(const Layout&) const = default;
};

/// Whether a sheet is a rectangle along the axes, without holes.
bool is_plain(const geometry::Polygon& sheet);

/// A part that may be turned to any angle is tried at so many.
inline constexpr int turns_of_any = 12;

/// What is wrong with a problem before any work is done on it; empty when nothing is.
std::string fault_of(const Problem& problem);
/// The same of one part.
std::string fault_of(const Part& part);
/// Only whether there is too much of it (units::limit), which is told without looking at shapes.
std::string fault_of_amount(const Problem& problem);

/// Where a placed part lies on its sheet.
geometry::Polygon placed(const Problem& problem, const Placement& placement);

/// Independent of how a layout was made (exact polygon operations): parts, copies, sheets or stock that do not exist,
/// a copy placed twice, an angle or a face that a part may not have, a locked place that was left, more sheets of a
/// stock than there are, parts that overlap by more than 0.01 mm², come nearer
/// than the spacing less 0.05 mm, or reach over the sheet's margin. Empty when what is placed lies right.
std::vector<std::string> violations(const Problem& problem, const Layout& layout);

/// Ids of the parts of which a copy is neither placed nor listed as unplaced.
std::vector<std::string> left_out(const Problem& problem, const Layout& layout);

/// Part area over the area of the sheets used, the last counted only up to the upright line that clears its parts.
double utilisation(const Problem& problem, const Layout& layout);

/// How far a search has come; returning false stops it, and the best layout so far is given back.
struct Progress {
    double share = 0;  ///< of the time allowed, 0 to 1
    int sheets = 0;
    double utilisation = 0;
    const Layout* best = nullptr;  ///< to be drawn; only during the call
};
using ProgressCallback = std::function<bool(const Progress&)>;

struct NestOptions {
    /// When to be done (s), kept within a fifth or a tenth of a second whatever the parts: what the first search does
    /// not reach by then is laid out in rows.
    double seconds = 5;
    int rounds = 0;  ///< when positive: squeezes until so many, less one, came to nothing; the time only ends them
    unsigned seed = 1;
    ProgressCallback progress;
    /// Asked now and then. When it says no, the search ends at once, with the best layout that it has.
    KeepGoing keep_going;
};

/// Lays out the parts: a first layout, then squeezed by letting parts overlap and pulling them apart (separate.h), on
/// two processors where no rounds are asked for. Every layout returned is free of violations. The same seed and
/// rounds give the same layout where time does not end them. Precondition: fault_of(problem) is empty.
Layout nest(const Problem& problem, const NestOptions& options);

}  // namespace bevelsmith::sheets

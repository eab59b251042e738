// A sheet as it is to be cut, as a drawing file.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::exchange {

/// Circles that a router's cutter leaves room with in inside corners, where a square corner is to go in: each goes
/// through its corner (mm). Of corners sharper than 150 degrees.
struct ReliefHole {
    Vec2 centre{0, 0};
    double radius_mm = 0;
};
std::vector<ReliefHole> relief_holes(const geometry::Polygon& shape, double cutter_mm);

/// Sheet `sheet` of a material's layout, counted from 0. DXF (inches for jobs in inches, else millimetres), with
/// layers SHEET, OUTER, INNER (openings), RELIEF (a router's inside corners), MARK (the grain) and TEXT (ids and
/// names); arcs stay arcs. What is cut is the larger outline of both faces, good face up. Atomic. Fails when there is
/// no such sheet.
Result<bool> write_sheet_dxf(const job::Job& job, const job::SheetResult& sheets, int sheet, const std::string& path);
/// The same as SVG at 1:1.
Result<bool> write_sheet_svg(const job::Job& job, const job::SheetResult& sheets, int sheet, const std::string& path);

}  // namespace bevelsmith::exchange

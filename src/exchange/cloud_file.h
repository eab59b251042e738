// Scans: clouds of points in XYZ, CSV and PLY files.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "survey/cloud.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// Reads the positions in a file's contents, in its own unit; colours and what else it holds are passed over.
/// PLY (ascii, binary little and big endian; G. Turk, The PLY Polygon File Format, 1994): x, y, z of the element
/// "vertex", any number type. Else text: the first three numbers of every line, lines with # and a first line of
/// words skipped. A fault names its line, in binary data the number of the point; nothing is kept then.
/// Points that are not finite (scanners write them where nothing came back) are left out; one that is farther off
/// than any boat reaches is a fault.
///
/// There is no library for PLY in common use on Debian that reads a million points in much less than a second; in
/// one pass over the block it takes about as long as the disk.
Result<survey::Cloud> cloud_from_text(std::string_view contents);

/// Where the scanner stood, in the file's own unit, where one of its first lines says so with the word "viewpoint"
/// and three numbers: a comment or obj_info of a PLY's header, or a line with # in a text.
std::optional<Vec3> viewpoint_of(std::string_view contents);

/// The cloud in millimetres. Fails where a point then lies farther off than any boat reaches.
Result<survey::Cloud> in_millimetres(survey::Cloud cloud, double unit_mm);

/// The unit that a cloud of a boat's inside is probably in (mm): metres where it is less than 80 wide, else
/// millimetres.
double likely_unit_mm(std::span<const Vec3> cloud);

}  // namespace bevelsmith::exchange

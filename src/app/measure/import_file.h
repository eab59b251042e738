// A file of readings as it is read and cut down, beside the window.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>

#include "exchange/table_text.h"
#include "survey/cloud.h"
#include "survey/lonely.h"

namespace bevelsmith::app {

/// What the units that a file may be in are long: millimetres, centimetres, metres, inches.
inline constexpr std::array unit_mm{1.0, 10.0, 1000.0, 25.4};

/// A file as it was read; the table's cells look into the contents.
struct LoadedFile {
    std::string contents;
    std::optional<exchange::TextTable> table;  ///< none of a PLY file
    survey::Sorted cloud;                      ///< in the file's own unit; empty where it is no cloud
    int unit = 0;                              ///< which that seems to be
    double cell_mm = 0;                        ///< that leaves as many points as a surface wants
    std::optional<Error> fault;                ///< why it is no cloud
};
/// What is left of a scan, and how much there was on the way.
struct KeptPoints {
    survey::Cloud cloud;
    std::size_t all = 0, in_box = 0;
    std::string fault;  ///< why none of it can be taken
};

/// What a text holds; of a file that does not say, its unit is `usual_unit`.
std::shared_ptr<const LoadedFile> loaded_from(std::string contents, int usual_unit);
/// The same of a file. Throws nothing: it runs beside the window.
std::shared_ptr<const LoadedFile> load_file(const std::string& path, int usual_unit);
/// The box, the slab, then one point a cell; a point farther off than any boat reaches is a fault.
void cut_down(const survey::Cloud& cloud, const survey::CloudCut& cut, KeptPoints& out);

}  // namespace bevelsmith::app

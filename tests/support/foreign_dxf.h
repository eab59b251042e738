// A DXF as a reader sees it that shares nothing with ours: ezdxf, in the distribution's python.
#pragma once

#include <map>
#include <string>

namespace foreign {

struct Dxf {
    int errors = -1;                      ///< that its audit names; -1 where it could not read the file
    std::map<std::string, double> areas;  ///< of the closed outlines of each layer, arcs as arcs (mm²)
};

/// Reads the file at `path`; `scratch` is a folder that may be written to.
Dxf read_dxf(const std::string& path, const std::string& scratch);

}  // namespace foreign

// What the part of the program that writes STEP offers; it is loaded by name, so that nothing else links Open
// CASCADE.
#pragma once

#include <string>
#include <vector>

#include "piece/solid.h"
#include "units/stop.h"

namespace bevelsmith::step_writer {

struct NamedSolid {
    std::string name;
    piece::Solid solid;
};

/// Of "bevelsmith_write_step": empty when the file was written, else why not.
/// Throws Stopped when `keep_going` says no.
using WriteStep = std::string (*)(const std::vector<NamedSolid>& solids, const std::string& path,
                                  const KeepGoing& keep_going);

}  // namespace bevelsmith::step_writer

#include "support/foreign_dxf.h"

#include <cstdlib>
#include <sstream>

#include "support/jobs.h"

namespace foreign {
namespace {

constexpr const char* program = R"(import sys, ezdxf
from ezdxf import path
document = ezdxf.readfile(sys.argv[1])
print(len(document.audit().errors))
areas = {}
for line in document.modelspace().query('LWPOLYLINE POLYLINE'):
    if not (line.closed if line.dxftype() == 'LWPOLYLINE' else line.is_closed):
        continue
    ring = [(p.x, p.y) for p in path.make_path(line).flattening(0.001)]
    area = abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, ring[1:] + ring[:1]))) / 2
    areas[line.dxf.layer] = areas.get(line.dxf.layer, 0) + area
for layer, area in areas.items():
    print(layer, area)
)";

}  // namespace

Dxf read_dxf(const std::string& path, const std::string& scratch) {
    const std::string script = scratch + "/read_dxf.py", out = scratch + "/read_dxf.txt";
    jobs::write(script, program);
    Dxf found;
    if (std::system(("/usr/bin/python3 " + script + " " + path + " >" + out).c_str()) != 0) return found;
    std::istringstream words(jobs::read(out));
    words >> found.errors;
    std::string layer;
    for (double area = 0; words >> layer >> area;) found.areas[layer] = area;
    return found;
}

}  // namespace foreign

#include "exchange/face_a_alone.h"

#include <algorithm>

namespace bevelsmith::exchange {
namespace {

void on_face_a(SetRing& ring) {
    std::erase_if(ring.corners, [](const auto& corner) { return !corner.a; });
    for (auto& corner : ring.corners) corner.b.reset();
    std::erase_if(ring.runs, [](const auto& run) { return !run.on_a; });
    for (auto& run : ring.runs) {
        run.on_b = true;
        std::erase_if(run.rows, [](const auto& row) { return !row.a; });
        for (auto& row : run.rows) row.b.reset();
    }
}

}  // namespace

void leave_face_a_alone(Drawing& d) {
    d.face_b = d.face_a;
    d.finished_a = d.finished_b = {};
    for (auto& ring : d.setting_out.rings) on_face_a(ring);
    d.setting_out.faces_alike = true;
    for (auto& row : d.rows) row.across_b_mm = row.across_a_mm, row.up_b_mm = row.up_a_mm;
    for (auto& line : d.bases)
        for (auto& station : line.stations) station.out_b_mm = station.out_a_mm;
}

}  // namespace bevelsmith::exchange

#include "exchange/outlines_json.h"

#include <nlohmann/json.hpp>

#include "exchange/plain_text.h"

namespace bevelsmith::exchange {

std::string outlines_to_json(const DxfOutlines& outlines) {
    nlohmann::ordered_json out;
    out["mm_per_unit"] = outlines.mm_per_unit;
    out["unit_stated"] = outlines.unit_stated;
    out["notes"] = outlines.notes;
    auto& list = out["outlines"] = nlohmann::ordered_json::array();
    for (const DxfRing& ring : outlines.rings) {
        auto points = nlohmann::ordered_json::array();
        for (const Vec2& p : ring.ring) points.push_back({p.x(), p.y()});
        list.push_back({{"layer", ring.layer}, {"area_mm2", geometry::area_mm2(ring.ring)}, {"points_mm", points}});
    }
    return out.dump(1, ' ', false, nlohmann::ordered_json::error_handler_t::replace) + "\n";
}

}  // namespace bevelsmith::exchange

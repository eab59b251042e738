#include "review/check_list.h"

#include <algorithm>

namespace bevelsmith::review {

const std::vector<Check>& checks() {
    using enum MendedIn;
    static const std::vector<Check> all{
        {"surface", measure},
        {"suspect readings", measure},
        {"stray set", measure},
        {"inside", measure},
        {"not placed", measure},
        {"marks disagree", measure},
        {"chine not entered", shape},
        {"sides unequal", shape},
        {"outline", pieces},
        {"passage", pieces},
        {"thin laminate screws", fix},
        {"block under a structural piece", fix},
        {"blocks do not carry it", fix},
        {"screw through", fix},
        {"missing limber notch", pieces},
        {"readings too sparse", measure},
        {"opening corner too sharp", pieces},
        {"on the wrong side", pieces},
        {"meets nothing", pieces},
        {"carried by nothing", pieces},
        {"span too wide", pieces},
        {"joint in the air", pieces},
        {"in the way", pieces},
        {"rail too narrow", pieces},
        {"no hole to lift by", pieces},
        {"no room to swell", pieces},
        {"beam too shallow", pieces},
        {"beam end in the air", pieces},
        {"mirrored and not checked", pieces},
        {"other side not read", pieces},
        {"reaches into another", pieces},
        {"room for people", pieces},
        {"sheet too small", cut},
        {"changed since it was cut", cut},
        {"cut and part of nothing", cut},
        {"no bar for a length", cut},
        {"a length that cannot be cut", cut},
        {"not computed", pieces},
    };
    return all;
}

const Check* check_named(std::string_view name) {
    const auto& all = checks();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Check& c) { return c.name == name; });
    return it == all.end() ? nullptr : &*it;
}

}  // namespace bevelsmith::review

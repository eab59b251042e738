// A panel marked out again from its paper's figures alone, held against its outline.
#pragma once

#include <catch2/catch.hpp>

#include <string>
#include <vector>

#include "exchange/drawing.h"
#include "units/figures.h"

namespace set_out {

using namespace bevelsmith;
using exchange::Drawing;

/// What somebody who marks out by the paper may be off (mm): half a millimetre, 1/32 in on a tape of sixteenths.
inline double allowed_mm(units::LengthUnit unit) {
    return units::in_inches(unit) ? units::mm_per_inch / 32 : 0.5;
}

/// How far a ring drawn again from figures is from the true one, either way.
inline double off_mm(const exchange::SettingOut& s, const exchange::SetRing& again, bool face_a,
                     const geometry::Ring& truth) {
    geometry::Ring drawn = exchange::drawn_again(s, again, face_a);
    if (drawn.size() < 3) return 1e9;
    for (Vec2& p : drawn) p = s.place_of(p);
    const auto from = [](const geometry::Ring& points, geometry::Ring ring) {
        ring.push_back(ring.front());
        const auto far = geometry::farthest_from_line(points, ring);
        return std::pair(far.mm, points[far.at]);
    };
    const auto [off, at] = std::max(from(drawn, truth), from(truth, drawn),
                                    [](const auto& a, const auto& b) { return a.first < b.first; });
    UNSCOPED_INFO("farthest at " << s.figures_of(at).transpose() << " of the figures");
    return off;
}

/// Ids of all pieces with an outline, and of their parts.
inline std::vector<std::string> ids_of(const job::Results& results) {
    std::vector<std::string> out;
    for (const auto& piece : results.pieces) {
        if (!piece.shape()) continue;
        out.push_back(piece.id);
        for (const auto& part : piece.shape()->parts)
            if (part.id != piece.id) out.push_back(part.id);
    }
    return out;
}

inline void check_drawing(const Drawing& d) {
    const auto& s = exchange::as_printed(d.setting_out, d.unit);
    REQUIRE_FALSE(s.rings.empty());
    CHECK(off_mm(s, s.rings[0], true, d.face_a.outer) < allowed_mm(d.unit));
    CHECK(off_mm(s, s.rings[0], s.faces_alike, d.face_b.outer) < allowed_mm(d.unit));
    CHECK(s.rings.size() - 1 + s.openings.size() == d.face_a.holes.size());
}

/// Every piece and part of a job, as its page would print it.
inline void check_all(const job::Job& job, const job::Results& results) {
    for (const auto& id : ids_of(results)) {
        INFO(id);
        const auto d = exchange::drawing_of(job, results, id, exchange::usual_row_spacing_mm(job.unit));
        REQUIRE(d.ok());
        check_drawing(*d);
    }
}

}  // namespace set_out

#include "support/solids.h"

#include <catch2/catch.hpp>

#include <vector>

namespace solids {

/// Every corner and edge of one piece's faces, and points within it, lie in no other piece by more than `deep_mm`.
void check_no_overlap(const job::Results& results, double deep_mm) {
    const auto inside = [&](const piece::Outline& o, const Vec3& p) {
        const double behind = o.frame.normal.dot(p - o.frame.origin);
        if (behind < deep_mm || behind > o.thickness_mm - deep_mm) return false;
        const Vec2 q = o.frame.to_plane(p);
        for (const auto* face : {&o.face_a, &o.face_b}) {
            if (!geometry::contains(*face, q)) return false;
            for (const auto* ring : {&face->outer})
                for (std::size_t i = 0; i < ring->size(); ++i)
                    if (geometry::distance_to_segment_mm(q, (*ring)[i], (*ring)[(i + 1) % ring->size()]) < deep_mm)
                        return false;
        }
        return true;
    };
    for (const auto& one : results.pieces) {
        if (!one.shape()) continue;
        const auto& o = *one.shape();
        std::vector<Vec3> places;
        for (const auto& [face, behind] : {std::pair(&o.face_a, 0.0), std::pair(&o.face_b, o.thickness_mm)})
            for (std::size_t i = 0; i < face->outer.size(); ++i)
                for (double share : {0.0, 0.3, 0.7}) {
                    const Vec2 q =
                        face->outer[i] + share * (face->outer[(i + 1) % face->outer.size()] - face->outer[i]);
                    places.push_back(o.frame.to_space(q) + behind * o.frame.normal);
                }
        const auto box = geometry::bounding_box(o.face_a.outer);
        for (int k = 1; k < 20; ++k)
            for (int m = 1; m < 20; ++m) {
                const Vec2 q = box.min + box.size().cwiseProduct(Vec2(k / 20.0, m / 20.0));
                if (geometry::contains(o.face_a, q) && geometry::contains(o.face_b, q))
                    places.push_back(o.frame.to_space(q) + o.thickness_mm / 2 * o.frame.normal);
            }
        for (const auto& other : results.pieces) {
            if (other.id == one.id || !other.shape()) continue;
            for (const Vec3& p : places)
                if (inside(*other.shape(), p)) {
                    FAIL_CHECK(one.id << " reaches into " << other.id << " at " << p.transpose());
                    break;
                }
        }
    }
}

}  // namespace solids

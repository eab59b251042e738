// Plain boards in the boat's axes, bounded by planes: pieces with known measures.
#pragma once

#include <catch2/catch.hpp>

#include <string>

#include "piece/outline.h"

namespace boards {

using namespace bevelsmith;
using namespace bevelsmith::piece;

inline constexpr double t = 18;

inline EdgeSpec edge_at(const Vec3& normal, double d, const std::string& name = "end") {
    EdgeSpec e;
    e.kind = EdgeKind::plane;
    e.name = name;
    e.plane = {normal, d};
    return e;
}

/// Across the boat at `x`, from y = -300 to 300 and z = -200 to 200.
inline PieceSpec board(const std::string& id, double x) {
    PieceSpec out;
    out.id = id;
    out.name = "Board " + id;
    out.plane = {Vec3::UnitX(), x};
    out.at = Vec3(x + t / 2, 0, 0);
    out.split_for_passage = false;
    out.edges = {edge_at(Vec3::UnitY(), 300, "port"), edge_at(-Vec3::UnitY(), 300, "starboard"),
                 edge_at(Vec3::UnitZ(), 200, "top"), edge_at(-Vec3::UnitZ(), 200, "bottom")};
    return out;
}

/// Level, its upper face at `z`, from x = 0 to 1200 and y = -300 to 300.
inline PieceSpec level(const std::string& id, double z) {
    PieceSpec out;
    out.id = id;
    out.name = "Top " + id;
    out.plane = {-Vec3::UnitZ(), -z};
    out.at = Vec3(600, 0, z);
    out.split_for_passage = false;
    out.edges = {edge_at(Vec3::UnitY(), 300, "port"), edge_at(-Vec3::UnitY(), 300, "starboard"),
                 edge_at(Vec3::UnitX(), 1200, "fwd"), edge_at(-Vec3::UnitX(), 0, "aft")};
    return out;
}

inline Result<Outline> computed(const PieceSpec& s, const Around& around = {}, double thickness = t) {
    return compute_outline(
        s, thickness, [](const std::string&) { return nullptr; }, {5000, 5000}, {}, around);
}

inline Outline outline_of(const PieceSpec& s, const Around& around = {}, double thickness = t) {
    auto out = computed(s, around, thickness);
    INFO((out.ok() ? std::string() : out.error().message));
    REQUIRE(out.ok());
    return std::move(out.value());
}

/// A board along the boat that crosses `board("P", 1000)`: x from 700 to 1300, z from -100 to 300.
inline PieceSpec along() {
    PieceSpec out;
    out.id = "Q", out.name = "Shelf edge";
    out.plane = {Vec3::UnitY(), 50};
    out.at = Vec3(1000, 56, 100);
    out.split_for_passage = false;
    out.edges = {edge_at(Vec3::UnitX(), 1300), edge_at(-Vec3::UnitX(), -700), edge_at(Vec3::UnitZ(), 300),
                 edge_at(-Vec3::UnitZ(), 100)};
    return out;
}

inline Around crossed_by(const PieceSpec& other, double thickness) {
    const auto held = std::make_shared<Neighbour>();
    held->plane = other.plane, held->thickness_mm = thickness, held->name = other.name;
    held->whole = std::make_shared<const Outline>(outline_of(other, {}, thickness));
    return {[held, id = other.id](const std::string& wanted) { return wanted == id ? held.get() : nullptr; }, {}};
}

}  // namespace boards

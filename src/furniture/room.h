// Room for people: what the finished inside leaves to lie, sit, stand and pass, from the true shapes.
#pragma once

#include <string>
#include <vector>

#include "furniture/unit.h"
#include "hull/surface.h"
#include "piece/outline.h"

namespace bevelsmith::furniture {

/// What people want, and what wood wants (common practice, each to be changed).
struct Comfort {
    double lying_length_mm = 1900;       ///< of a berth
    double shoulder_width_mm = 600;      ///< of a berth at the head
    double foot_width_mm = 350;          ///< of a berth at the feet
    double lying_headroom_mm = 500;      ///< over a berth's head: room to turn over
    double sitting_headroom_mm = 880;    ///< from the seat to what is over it, where the back is
    double standing_headroom_mm = 1830;  ///< over the sole
    double knee_room_mm = 450;           ///< before a seat, knee high
    double hip_passage_mm = 400;         ///< of a passage at 900 over the sole
    double shoulder_passage_mm = 500;    ///< of a passage at 1400 over the sole
    double seat_hip_mm = 450;            ///< of a seat, each person at the hips
    double seat_shoulder_mm = 550;       ///< the same at the shoulders
    double way_in_mm = 380;              ///< between a table's edge and what is behind the seat beside it
    double thigh_room_mm = 180;          ///< between a loaded seat and the table's underside
    double over_seat_mm = 320;           ///< from a loaded seat up to a table, at most
    double reach_mm = 650;               ///< from a front to the back of what stands behind it
    double sole_span = 35;               ///< of what is walked on: the widest span over the panel's thickness
    double seat_span = 50;               ///< of seats, berths, shelves: the same
    double bearing_mm = 15;              ///< the least that a level panel lies on what carries it
    bool operator==(const Comfort&) const = default;
};

/// One figure of a unit.
struct Room {
    std::string name;  ///< "lying length"
    double mm = 0;
    double wanted_mm = 0;
    bool at_most = false;    ///< the figure should be no more than what is wanted
    Vec3 at = Vec3::Zero();  ///< where in the boat it is as said
    bool enough() const { return at_most ? mm <= wanted_mm + 0.5 : mm >= wanted_mm - 0.5; }
};

/// A panel that stands in the boat.
struct Standing {
    std::string id;
    const piece::Outline* shape = nullptr;
};

/// What people and things run into.
struct Inside {
    std::vector<const hull::Surface*> surfaces;
    std::vector<Standing> panels;
};

/// How far one gets from a point of the boat (mm) before a surface that is known there, or a panel; empty where
/// nothing known stands within `most_mm`. `way` is a unit vector.
std::optional<double> clear_mm(const Inside& inside, const Vec3& from, const Vec3& way, double most_mm = 4000);

/// The figures that a unit's kind has, those that can be told: lying length, widths and headroom of berths; sitting
/// headroom and knee room of seats; headroom and the narrowest passage over a sole, where none of `units` stands on
/// it and from its raised part where that is; reach to the back of counters, lockers and shelves.
std::vector<Room> room_of(const UnitSpec& unit, const std::vector<UnitSpec>& units, const Inside& inside,
                          const Comfort& comfort);

/// The narrowest passage before a unit that stands along a side, at the hips and at the shoulders, counted from its
/// foot; and the wider one beside an engine box. Nothing for what stands over a sole among `units`: that counts its
/// own.
std::vector<Room> passages_of(const UnitSpec& unit, const std::vector<UnitSpec>& units, const Inside& inside,
                              const Comfort& comfort);

/// A way through a panel that stands across the boat.
struct Doorway {
    std::string piece_id;
    Room room;
};
/// The widths, at the hips and at the shoulders, of openings that a person goes through (900 high or more, over their
/// lower edge): of those that no sole among `units` reaches, for the narrowest passage over a sole counts its own.
std::vector<Doorway> doorways_of(const std::vector<UnitSpec>& units, const Inside& inside, const Comfort& comfort);

}  // namespace bevelsmith::furniture

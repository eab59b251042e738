// What the review's checks share. For this folder alone.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "review/review.h"

namespace bevelsmith::review {

/// What a check of one piece looks at.
struct Subject {
    const job::Job& job;
    const job::Results& results;
    const job::JobPiece& piece;
    const job::PieceResult& result;
    const piece::Outline& shape;
};

using Findings = std::vector<Finding>;
using PieceCheck = void (*)(const Subject&, Findings&);

void add(Findings& out, CheckId check, Severity severity, const std::string& piece, std::string title,
         std::string evidence, std::string advice);

/// Sets that lie on no surface, or whose marks do not place them or do not agree.
void placing_faults(const job::Job& job, Findings& out);
/// Of the fitted-out inside: what carries a panel, what stands in its way, what its openings leave.
void carried(const Subject& s, Findings& out);
void joint_in_air(const Subject& s, Findings& out);
void in_the_way(const Subject& s, Findings& out);
void rail_too_narrow(const Subject& s, Findings& out);
void lift_hole_too_small(const Subject& s, Findings& out);
void no_room_to_swell(const Subject& s, Findings& out);
void beam_too_shallow(const Subject& s, Findings& out);
void beam_end_in_air(const Subject& s, Findings& out);
/// Edges scribed to readings of the other side alone.
void mirrored_only(const Subject& s, Findings& out);
/// What stands already, and what meets it.
void leans_on_what_goes(const job::Job& job, const job::JobPiece& piece, Findings& out);
void bearing_too_narrow(const Subject& s, Findings& out);
void skins_unequal(const Subject& s, Findings& out);
void holes_placed_badly(const Subject& s, Findings& out);
/// Lippings thinner than what comes off them, trims narrower than what they cover, lids that the saw leaves loose.
void edges_too_thin(const Subject& s, Findings& out);
void lids_too_loose(const Subject& s, Findings& out);
void pattern_advised(const Subject& s, Findings& out);
/// Pieces that want the same place.
void clashes(const job::Job& job, const job::Results& results, Findings& out);
/// Sheets, lengths, and parts cut before their piece changed.
void sheet_too_small(const job::Job& job, const job::Results& results, Findings& out);
void changed_since_cut(const job::Job& job, const job::Results& results, Findings& out);
void cut_and_gone(const job::Job& job, const job::Results& results, Findings& out);
void offcut_nearly_fits(const job::Job& job, const job::Results& results, Findings& out);
void bar_too_short(const job::Job& job, const job::Results& results, Findings& out);
/// Room for people in every unit.
void room_for_people(const job::Job& job, const job::Results& results, Findings& out);

}  // namespace bevelsmith::review

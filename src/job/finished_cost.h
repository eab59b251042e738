// What a group of pieces costs and weighs when it is finished, made one way or another.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::job {

/// The pieces to be compared: all of one unit, or all of one material.
struct PieceGroup {
    std::string name;
    std::vector<std::string> piece_ids;
};
/// Every unit and every material of which pieces have an outline.
std::vector<PieceGroup> piece_groups(const Job& job, const Results& results);

struct FinishedCost {
    std::string choice_id, name;
    int sheets = 0;         ///< those of parts without a place by their area
    int without_place = 0;  ///< parts for which none of its sheets is large enough
    double sheets_cost = 0, laminate_cost = 0, coats_cost = 0, lipping_cost = 0, hours = 0, hours_cost = 0;
    double panel_kg = 0, laminate_kg = 0, coats_kg = 0, lipping_kg = 0;
    double litres = 0;  ///< of coating
    double faces_m2 = 0, lipping_m = 0, edges_m = 0;
    bool price_known = false;  ///< of its sheets
    std::string fault;         ///< why it cannot be told: a shape that is none
    double cost() const { return sheets_cost + laminate_cost + coats_cost + lipping_cost + hours_cost; }
    double mass_kg() const { return panel_kg + laminate_kg + coats_kg + lipping_kg; }
};

/// Every choice of the job for one group. Whole sheets by a layout of the group's parts alone on the choice's sheets;
/// the parts keep their outlines, their mass follows the choice's thickness. Laminate goes on as many faces as the
/// choice says, coats on the others; lippings as the pieces have them, edges their whole way round.
std::vector<FinishedCost> finished_costs(const Job& job, const Results& results, const PieceGroup& group,
                                         const KeepGoing& keep_going = {});

/// Four usual ways to make interiors, of the job's materials, to begin with: figures invented, to be edited.
std::vector<MaterialChoice> usual_choices(const Job& job);

}  // namespace bevelsmith::job

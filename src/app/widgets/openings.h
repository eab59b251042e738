// What the window can be asked to show: a step of the work, or a side panel with what it is opened on.
#pragma once

#include <QString>
#include <array>
#include <optional>
#include <string>
#include <variant>

namespace bevelsmith::app {

enum class StepId { measure, shape, pieces, fix, cut, weigh };
inline constexpr std::array all_steps{StepId::measure, StepId::shape, StepId::pieces,
                                      StepId::fix,     StepId::cut,   StepId::weigh};
/// As it stands in the band.
constexpr const char* step_word(StepId id) {
    constexpr std::array words{"Measure", "Shape", "Pieces", "Fix", "Cut", "Weigh"};
    static_assert(words.size() == all_steps.size());
    return words[static_cast<std::size_t>(id)];
}

/// The side panels, each with what it is opened on. A new one is added here, and app/shell/side_panels does not
/// compile before it is made there.
namespace panel {

struct Cost {
    static constexpr const char* id = "cost";
};
struct Datum {
    static constexpr const char* id = "datum";
};
struct Findings {
    static constexpr const char* id = "findings";
};
struct Guide {
    static constexpr const char* id = "guide";
};
struct Import {
    static constexpr const char* id = "import";
};
struct Keys {
    static constexpr const char* id = "keys";
};
struct Layouts {
    static constexpr const char* id = "layouts";
    std::string material_id;
};
/// How a set in a frame of its own is placed.
struct Marks {
    static constexpr const char* id = "marks";
    std::string set_id;
};
struct NewPiece {
    static constexpr const char* id = "new-piece";
    std::optional<double> at_mm{};  ///< along the boat; where it suits when absent
};
struct NewSet {
    static constexpr const char* id = "new-set";
};
struct Obstacles {
    static constexpr const char* id = "obstacles";
    std::string first_id{};  ///< shown at its top
};
/// The chosen piece, or its trial pattern, offered up.
struct OfferUp {
    static constexpr const char* id = "offer-up";
};
struct Outlines {
    static constexpr const char* id = "outlines";
};
struct PanelPhoto {
    static constexpr const char* id = "panel-photo";
};
struct Papers {
    static constexpr const char* id = "papers";
};
/// Rows that were copied, into this set.
struct Pasted {
    static constexpr const char* id = "pasted";
    std::string set_id;
};
struct Photo {
    static constexpr const char* id = "photo";
};
struct Practice {
    static constexpr const char* id = "practice";
};
struct Room {
    static constexpr const char* id = "room";
};
/// The chosen piece's lines at the boat.
struct SetOut {
    static constexpr const char* id = "set-out";
};
struct Stock {
    static constexpr const char* id = "stock";
};
struct Together {
    static constexpr const char* id = "together";
};

}  // namespace panel

using PanelRequest =
    std::variant<panel::Cost, panel::Datum, panel::Findings, panel::Guide, panel::Import, panel::Keys, panel::Layouts,
                 panel::Marks, panel::NewPiece, panel::NewSet, panel::Obstacles, panel::OfferUp, panel::Outlines,
                 panel::PanelPhoto, panel::Papers, panel::Pasted, panel::Photo, panel::Practice, panel::Room,
                 panel::SetOut, panel::Stock, panel::Together>;
inline const char* panel_id(const PanelRequest& request) {
    return std::visit([](const auto& one) { return one.id; }, request);
}

}  // namespace bevelsmith::app

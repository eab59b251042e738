#include "exchange/boat_json.h"

#include <nlohmann/json.hpp>

#include "units/quantity.h"

namespace bevelsmith::exchange {
namespace {

using Json = nlohmann::ordered_json;

Json json_of(const Vec3& p) {
    return {p.x(), p.y(), p.z()};
}
Json json_of(const Vec2& p) {
    return {p.x(), p.y()};
}

Json ring_in_boat(const geometry::Ring& ring, const piece::Outline& shape, double behind_mm) {
    Json out = Json::array();
    for (const Vec2& p : ring) out.push_back(json_of(Vec3(shape.frame.to_space(p) + behind_mm * shape.frame.normal)));
    return out;
}

const std::string& edge_name(const job::JobPiece& piece, int edge) {
    return piece.edges[static_cast<std::size_t>(edge)].name;
}

Json move_json(const piece::Correction& c) {
    if (!c.best_move) return nullptr;
    return {{"by_mm", json_of(c.best_move->by)},
            {"about_mm", json_of(c.best_move->about)},
            {"turn_deg", units::degrees(c.best_move->turn_rad)},
            {"daylight_left_mm", c.best_move->left_mm}};
}

}  // namespace

std::string setting_out_to_json(const job::JobPiece& piece, const piece::AtBoat& at) {
    const bool string = at.reference.kind == piece::Reference::Kind::string;
    Json out{{"piece", piece.id}, {"name", piece.name}, {"from", at.reference.words}};
    for (const char* list : {"stations", "ties", "diagonals", "supports"}) out[list] = Json::array();
    for (const auto& s : at.stations) {
        Json one{{"number", s.number},           {"edge", s.edge_name},    {"corner", s.is_corner},
                 {"face_a", json_of(s.a)},       {"face_b", json_of(s.b)}, {"offset_a_mm", s.offset_a_mm},
                 {"offset_b_mm", s.offset_b_mm}, {"apart_mm", s.apart_mm}};
        if (string) one["along_string_a_mm"] = s.string_a_mm, one["along_string_b_mm"] = s.string_b_mm;
        out["stations"].push_back(std::move(one));
    }
    for (const auto& t : at.ties)
        out["ties"].push_back({{"station", t.station}, {"mark", t.mark_id}, {"tape_mm", t.mm}});
    for (const auto& d : at.diagonals)
        out["diagonals"].push_back({{"from", d.from}, {"to", d.to}, {"tape_mm", d.mm}});
    for (const auto& s : at.supports)
        out["supports"].push_back({{"what", s.what},
                                   {"from", json_of(s.from)},
                                   {"to", json_of(s.to)},
                                   {"offset_from_mm", s.offset_from_mm},
                                   {"offset_to_mm", s.offset_to_mm}});
    return out.dump(1) + "\n";
}

std::string fitting_to_json(const job::JobPiece& piece, const job::OfferedUp& offered) {
    const auto& c = offered.correction;
    const auto& shape = offered.corrected;
    Json out{{"piece", piece.id}, {"name", piece.name}};
    out["outline_a"] = ring_in_boat(shape.face_a.outer, shape, 0);
    out["outline_b"] = ring_in_boat(shape.face_b.outer, shape, shape.thickness_mm);
    out["trimmed_a"] = ring_in_boat(c.trimmed_a.outer, shape, 0);
    out["trimmed_b"] = ring_in_boat(c.trimmed_b.outer, shape, shape.thickness_mm);
    out["widest_daylight_mm"] = c.widest_mm;
    out["most_off_mm"] = c.most_off_mm;
    out["guide"] = out["cannot_be_trimmed"] = Json::array();
    for (const auto& s : c.guide)
        out["guide"].push_back({{"number", s.number},
                                {"edge", edge_name(piece, s.edge)},
                                {"along_mm", s.along_mm},
                                {"at", json_of(shape.frame.to_space(s.at))},
                                {"take_off_a_mm", std::max(0.0, s.off_a_mm)},
                                {"take_off_b_mm", std::max(0.0, s.off_b_mm)},
                                {"daylight_mm", std::max(0.0, -s.off_a_mm)}});
    for (const auto& m : c.missing)
        out["cannot_be_trimmed"].push_back({{"edge", edge_name(piece, m.edge)},
                                            {"from_mm", m.from_mm},
                                            {"to_mm", m.to_mm},
                                            {"daylight_mm", m.most_mm},
                                            {"within_wanted_fit", m.fits_wanted}});
    out["best_move"] = move_json(c);
    out["advice"] = c.advice;
    return out.dump(1) + "\n";
}

}  // namespace bevelsmith::exchange

#include "exchange/parts_json.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "job/json_text.h"
#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

using Json = nlohmann::json;

/// Thrown inside this file only, to leave nested lists; turned into an Error with a line at its border.
struct Fault {
    std::string pointer, message;
};

constexpr units::Range priorities{"priority", 0, 1'000'000, "", "lower is used first"};
constexpr units::Range copies{"qty", 0, static_cast<double>(units::limit::nest_copies.most), "",
                              "a year's work of a shop"};

double number(const Json& parent, const char* name, const std::string& at, double otherwise, bool required = false) {
    if (!parent.contains(name)) {
        if (required) throw Fault{at, fmt::format("'{}' is missing", name)};
        return otherwise;
    }
    const Json& v = parent[name];
    if (!v.is_number()) throw Fault{at + "/" + name, fmt::format("'{}' is not a number", name)};
    const double value = v.get<double>();
    return value;
}

/// A number within a range.
double within(const Json& parent, const char* name, const std::string& at, const units::Range& range,
              double otherwise, bool required = false) {
    const double value = number(parent, name, at, otherwise, required);
    if (!range.holds(value))
        throw Fault{at + "/" + name, fmt::format("'{}': {}", name, units::out_of_range(range, value))};
    return value;
}

int whole(const Json& parent, const char* name, const std::string& at, const units::Range& range, int otherwise) {
    const double value = within(parent, name, at, range, otherwise);
    if (value != std::floor(value)) throw Fault{at + "/" + name, fmt::format("'{}' is not a whole number", name)};
    return static_cast<int>(value);
}

const Json& list(const Json& parent, const char* name, const std::string& at) {
    if (!parent.contains(name)) throw Fault{at, fmt::format("'{}' is missing", name)};
    if (!parent[name].is_array()) throw Fault{at + "/" + name, fmt::format("'{}' is not a list", name)};
    return parent[name];
}

geometry::Ring ring(const Json& json, const std::string& at) {
    if (!json.is_array() || json.size() < 3) throw Fault{at, "a ring needs at least three corners"};
    if (json.size() > units::limit::ring_corners.most)
        throw Fault{at, units::too_many(units::limit::ring_corners, json.size())};
    geometry::Ring out;
    for (std::size_t i = 0; i < json.size(); ++i) {
        const Json& p = json[i];
        const std::string here = fmt::format("{}/{}", at, i);
        if (!p.is_array() || p.size() != 2 || !p[0].is_number() || !p[1].is_number())
            throw Fault{here, "a corner is [x, y]"};
        const Vec2 q(p[0].get<double>(), p[1].get<double>());
        for (double value : {q.x(), q.y()})
            if (!units::range::place.holds(value)) throw Fault{here, units::out_of_range(units::range::place, value)};
        if (out.empty() || (out.back() - q).norm() > 1e-9) out.push_back(q);
    }
    if (out.size() > 1 && (out.front() - out.back()).norm() < 1e-9) out.pop_back();
    if (out.size() < 3) throw Fault{at, "a ring needs at least three different corners"};
    return out;
}

std::vector<geometry::Ring> holes(const Json& parent, const std::string& at) {
    std::vector<geometry::Ring> out;
    if (!parent.contains("holes")) return out;
    const Json& all = list(parent, "holes", at);
    if (all.size() > units::limit::holes.most)
        throw Fault{at + "/holes", units::too_many(units::limit::holes, all.size())};
    for (std::size_t i = 0; i < all.size(); ++i) out.push_back(ring(all[i], fmt::format("{}/holes/{}", at, i)));
    return out;
}

sheets::Stock stock(const Json& json, const std::string& at) {
    if (!json.is_object()) throw Fault{at, "a sheet is an object with w and h, or with a ring"};
    sheets::Stock out;
    if (json.contains("ring")) {
        out.shape = geometry::oriented({ring(json["ring"], at + "/ring"), holes(json, at)});
    } else {
        const double w = within(json, "w", at, units::range::length, 0, true),
                     h = within(json, "h", at, units::range::length, 0, true);
        out.shape.outer = geometry::rectangle({{0, 0}, {w, h}});
    }
    out.count = whole(json, "count", at, units::range::stock_count, json.contains("ring") ? 1 : -1);
    out.priority = whole(json, "priority", at, priorities, 100);
    return out;
}

void read_rotations(const Json& json, const std::string& at, sheets::Part& part) {
    part.tolerance_deg = within(json, "tolerance", at, units::range::grain_tolerance, 0);
    if (json.contains("either_face")) {
        if (!json["either_face"].is_boolean()) throw Fault{at + "/either_face", "'either_face' is true or false"};
        part.either_face = json["either_face"].get<bool>();
    }
    if (!json.contains("rotations")) return;
    const Json& r = json["rotations"];
    if (r.is_string()) {
        if (r != "any") throw Fault{at + "/rotations", "'rotations' is a list of angles or \"any\""};
        part.any_rotation = true;
        return;
    }
    part.rotations_deg.clear();
    if (r.is_array() && r.size() > units::limit::nest_rotations.most)
        throw Fault{at + "/rotations", units::too_many(units::limit::nest_rotations, r.size())};
    if (!r.is_array() || r.empty()) throw Fault{at + "/rotations", "'rotations' is a list of angles or \"any\""};
    for (std::size_t i = 0; i < r.size(); ++i) {
        const std::string here = fmt::format("{}/rotations/{}", at, i);
        if (!r[i].is_number()) throw Fault{here, "an angle is a number of degrees"};
        if (const double angle = r[i].get<double>(); !units::range::turns.holds(angle))
            throw Fault{here, units::out_of_range(units::range::turns, angle)};
        part.rotations_deg.push_back(r[i].get<double>());
    }
}

sheets::Part part(const Json& json, const std::string& at) {
    if (!json.is_object()) throw Fault{at, "a part is an object with an id and an outer ring"};
    sheets::Part out;
    if (!json.contains("id") || !json["id"].is_string()) throw Fault{at, "'id' is missing or not text"};
    out.id = json["id"].get<std::string>();
    if (out.id.size() > units::limit::text.most)
        throw Fault{at + "/id", units::too_many(units::limit::text, out.id.size())};
    out.quantity = whole(json, "qty", at, copies, 1);
    read_rotations(json, at, out);
    if (!json.contains("outer")) throw Fault{at, "'outer' is missing"};
    out.shape = geometry::oriented({ring(json["outer"], at + "/outer"), holes(json, at)});
    return out;
}

/// Placements that stay, in the words of a layout file, and the sheets from the first to the last that they lie on.
void read_locked(const Json& json, sheets::Problem& out) {
    if (!json.contains("locked")) return;
    const Json& all = list(json, "locked", "");
    if (all.size() > units::limit::nest_copies.most)
        throw Fault{"/locked", units::too_many(units::limit::nest_copies, all.size())};
    for (std::size_t i = 0; i < all.size(); ++i) {
        const std::string at = fmt::format("/locked/{}", i);
        const Json& one = all[i];
        if (!one.is_object() || !one.contains("id") || !one["id"].is_string())
            throw Fault{at, "a locked placement is an object with the id of its part"};
        const auto part = std::find_if(out.parts.begin(), out.parts.end(),
                                       [&](const auto& p) { return p.id == one["id"].get<std::string>(); });
        if (part == out.parts.end()) throw Fault{at + "/id", "there is no such part"};
        sheets::Placement p;
        p.part = static_cast<int>(part - out.parts.begin());
        p.copy = whole(one, "copy", at, copies, 0);
        p.sheet = whole(one, "sheet", at, units::range::sheet_number, 0);
        p.rotation_deg = within(one, "rot", at, units::range::turns, 0);
        p.shift = {within(one, "x", at, units::range::place, 0, true),
                   within(one, "y", at, units::range::place, 0, true)};
        p.turned_over = one.contains("turned_over") && one["turned_over"] == true;
        const int stock = whole(one, "stock", at, units::range::sheet_number, 0);
        if (stock >= static_cast<int>(out.stock.size())) throw Fault{at + "/stock", "there is no such sheet"};
        out.locked.sheet_stock.resize(std::max(out.locked.sheet_stock.size(), static_cast<std::size_t>(p.sheet) + 1),
                                      -1);
        out.locked.sheet_stock[static_cast<std::size_t>(p.sheet)] = stock;
        out.locked.placements.push_back(p);
    }
    for (std::size_t s = 0; s < out.locked.sheet_stock.size(); ++s)
        if (out.locked.sheet_stock[s] < 0)
            throw Fault{"/locked", fmt::format("nothing is locked on sheet {}, and something is on a later one", s)};
}

sheets::Problem problem(const Json& json) {
    if (!json.is_object()) throw Fault{"", "a parts file is an object with sheets and parts"};
    sheets::Problem out;
    if (json.contains("name") && json["name"].is_string()) out.name = json["name"].get<std::string>();
    out.spacing_mm = within(json, "spacing", "", units::range::spacing, 0);
    out.edge_margin_mm = within(json, "edge_margin", "", units::range::spacing, 0);
    const Json& sheets = list(json, "sheets", "");
    if (sheets.size() > units::limit::nest_sheets.most)
        throw Fault{"/sheets", units::too_many(units::limit::nest_sheets, sheets.size())};
    for (std::size_t i = 0; i < sheets.size(); ++i)
        out.stock.push_back(stock(sheets[i], fmt::format("/sheets/{}", i)));
    const Json& parts = list(json, "parts", "");
    if (parts.size() > units::limit::nest_parts.most)
        throw Fault{"/parts", units::too_many(units::limit::nest_parts, parts.size())};
    for (std::size_t i = 0; i < parts.size(); ++i) out.parts.push_back(part(parts[i], fmt::format("/parts/{}", i)));
    if (const auto fault = sheets::fault_of_amount(out); !fault.empty()) throw Fault{"/parts", fault};
    for (std::size_t i = 0; i < parts.size(); ++i)
        if (const auto fault = sheets::fault_of(out.parts[i]); !fault.empty())
            throw Fault{fmt::format("/parts/{}", i), fault};
    read_locked(json, out);
    if (const auto fault = sheets::fault_of(out); !fault.empty())
        throw Fault{fault.rfind("locked", 0) == 0 ? "/locked" : "/parts", fault};
    return out;
}

}  // namespace

Result<sheets::Problem> problem_from_json(std::string_view text) {
    const auto parsed = job::parse_json(text);
    if (!parsed) return parsed.error();
    try {
        return problem(*parsed);
    } catch (const Fault& fault) {
        return Error{fault.message, job::line_of(text, fault.pointer)};
    }
}

std::string layout_to_json(const sheets::Problem& problem, const sheets::Layout& layout) {
    nlohmann::ordered_json out;
    out["sheets_used"] = layout.sheet_stock.size();
    out["utilisation"] = layout.utilisation;
    out["seconds"] = layout.seconds;
    auto& placements = out["placements"] = Json::array();
    for (const auto& at : layout.placements)
        placements.push_back({{"id", problem.parts[static_cast<std::size_t>(at.part)].id},
                              {"copy", at.copy},
                              {"sheet", at.sheet},
                              {"stock", layout.sheet_stock[static_cast<std::size_t>(at.sheet)]},
                              {"rot", at.rotation_deg},
                              {"x", at.shift.x()},
                              {"y", at.shift.y()}});
    for (std::size_t k = 0; k < layout.placements.size(); ++k)
        if (layout.placements[k].turned_over) placements[k]["turned_over"] = true;
    auto& unplaced = out["unplaced"] = Json::array();
    for (const auto& left : layout.unplaced)
        unplaced.push_back({{"id", problem.parts[static_cast<std::size_t>(left.part)].id},
                            {"copy", left.copy},
                            {"reason", left.reason}});
    return out.dump(1) + "\n";
}

}  // namespace bevelsmith::exchange

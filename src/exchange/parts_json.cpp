#include "exchange/parts_json.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "job/json_text.h"

namespace bevelsmith::exchange {
namespace {

using Json = nlohmann::json;

/// Thrown inside this file only, to leave nested lists; turned into an Error with a line at its border.
struct Fault {
    std::string pointer, message;
};

constexpr double largest_mm = 1e6;
constexpr int most_copies = 100000;

double number(const Json& parent, const char* name, const std::string& at, double otherwise, bool required = false) {
    if (!parent.contains(name)) {
        if (required) throw Fault{at, fmt::format("'{}' is missing", name)};
        return otherwise;
    }
    const Json& v = parent[name];
    if (!v.is_number()) throw Fault{at + "/" + name, fmt::format("'{}' is not a number", name)};
    const double value = v.get<double>();
    if (!std::isfinite(value) || std::abs(value) > 1e9)
        throw Fault{at + "/" + name, fmt::format("'{}' is out of any range", name)};
    return value;
}

int whole(const Json& parent, const char* name, const std::string& at, int otherwise) {
    const double value = number(parent, name, at, otherwise);
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
    geometry::Ring out;
    for (std::size_t i = 0; i < json.size(); ++i) {
        const Json& p = json[i];
        const std::string here = fmt::format("{}/{}", at, i);
        if (!p.is_array() || p.size() != 2 || !p[0].is_number() || !p[1].is_number())
            throw Fault{here, "a corner is [x, y]"};
        const Vec2 q(p[0].get<double>(), p[1].get<double>());
        if (!q.allFinite() || q.cwiseAbs().maxCoeff() > largest_mm)
            throw Fault{here, "this corner is more than a kilometre away"};
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
    for (std::size_t i = 0; i < all.size(); ++i) out.push_back(ring(all[i], fmt::format("{}/holes/{}", at, i)));
    return out;
}

sheets::Stock stock(const Json& json, const std::string& at) {
    if (!json.is_object()) throw Fault{at, "a sheet is an object with w and h, or with a ring"};
    sheets::Stock out;
    if (json.contains("ring")) {
        out.shape = geometry::oriented({ring(json["ring"], at + "/ring"), holes(json, at)});
    } else {
        const double w = number(json, "w", at, 0, true), h = number(json, "h", at, 0, true);
        if (!(w > 0 && h > 0 && w <= largest_mm && h <= largest_mm))
            throw Fault{at, "a sheet needs a width and a height"};
        out.shape.outer = geometry::rectangle({{0, 0}, {w, h}});
    }
    out.count = whole(json, "count", at, json.contains("ring") ? 1 : -1);
    if (out.count < -1) throw Fault{at + "/count", "'count' is -1 (as many as needed) or more"};
    out.priority = whole(json, "priority", at, 100);
    return out;
}

void read_rotations(const Json& json, const std::string& at, sheets::Part& part) {
    if (!json.contains("rotations")) return;
    const Json& r = json["rotations"];
    if (r.is_string()) {
        if (r != "any") throw Fault{at + "/rotations", "'rotations' is a list of angles or \"any\""};
        part.any_rotation = true;
        return;
    }
    part.rotations_deg.clear();
    if (!r.is_array() || r.empty()) throw Fault{at + "/rotations", "'rotations' is a list of angles or \"any\""};
    for (std::size_t i = 0; i < r.size(); ++i) {
        if (!r[i].is_number() || std::abs(r[i].get<double>()) > 1e6)
            throw Fault{fmt::format("{}/rotations/{}", at, i), "an angle is a number of degrees"};
        part.rotations_deg.push_back(r[i].get<double>());
    }
}

sheets::Part part(const Json& json, const std::string& at) {
    if (!json.is_object()) throw Fault{at, "a part is an object with an id and an outer ring"};
    sheets::Part out;
    if (!json.contains("id") || !json["id"].is_string()) throw Fault{at, "'id' is missing or not text"};
    out.id = json["id"].get<std::string>();
    out.quantity = whole(json, "qty", at, 1);
    if (out.quantity < 0 || out.quantity > most_copies) throw Fault{at + "/qty", "'qty' is between 0 and 100000"};
    read_rotations(json, at, out);
    if (!json.contains("outer")) throw Fault{at, "'outer' is missing"};
    out.shape = geometry::oriented({ring(json["outer"], at + "/outer"), holes(json, at)});
    return out;
}

sheets::Problem problem(const Json& json) {
    if (!json.is_object()) throw Fault{"", "a parts file is an object with sheets and parts"};
    sheets::Problem out;
    if (json.contains("name") && json["name"].is_string()) out.name = json["name"].get<std::string>();
    out.spacing_mm = number(json, "spacing", "", 0);
    out.edge_margin_mm = number(json, "edge_margin", "", 0);
    if (out.spacing_mm < 0) throw Fault{"/spacing", "'spacing' must not be negative"};
    if (out.edge_margin_mm < 0) throw Fault{"/edge_margin", "'edge_margin' must not be negative"};
    const Json& sheets = list(json, "sheets", "");
    for (std::size_t i = 0; i < sheets.size(); ++i)
        out.stock.push_back(stock(sheets[i], fmt::format("/sheets/{}", i)));
    const Json& parts = list(json, "parts", "");
    for (std::size_t i = 0; i < parts.size(); ++i) {
        out.parts.push_back(part(parts[i], fmt::format("/parts/{}", i)));
        sheets::Problem alone;
        alone.stock = out.stock;
        alone.parts = {out.parts.back()};
        if (const auto fault = sheets::fault_of(alone); !fault.empty())
            throw Fault{fmt::format("/parts/{}", i), fault};
    }
    if (const auto fault = sheets::fault_of(out); !fault.empty()) throw Fault{"/parts", fault};
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
    auto& unplaced = out["unplaced"] = Json::array();
    for (const auto& left : layout.unplaced)
        unplaced.push_back({{"id", problem.parts[static_cast<std::size_t>(left.part)].id},
                            {"copy", left.copy},
                            {"reason", left.reason}});
    return out.dump(1) + "\n";
}

}  // namespace bevelsmith::exchange

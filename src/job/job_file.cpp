#include "job/job_file.h"

#include <fmt/format.h>

#include <array>
#include <nlohmann/json.hpp>
#include <set>
#include <span>
#include <utility>

#include "job/file_io.h"
#include "job/in_full.h"
#include "job/job_fields.h"
#include "job/json_text.h"
#include "job/kept_sides.h"
#include "job/schema_check.h"

namespace bevelsmith::job {
namespace {

using Json = nlohmann::ordered_json;

template <class T>
concept Plain = std::is_same_v<T, std::string> || std::is_arithmetic_v<T>;

// ---- reading: the text has passed the schema, so types are as described there

template <class T>
void read(const Json& json, T& value);
template <class T>
void read(const Json& json, std::optional<T>& value);
template <class T>
void read(const Json& json, std::vector<T>& list);
template <class T, std::size_t N>
void read(const Json& json, std::array<T, N>& list);
void read(const Json& json, std::map<std::string, std::string>& texts);
template <int N>
void read(const Json& json, Eigen::Matrix<double, N, 1>& v);
void read(const Json& json, survey::Reading& r);

class Reader {
  public:
    explicit Reader(const Json& object) : object_(object) {}
    template <class T>
    void operator()(const char* name, T& value) {
        known_.insert(name);
        if (const auto it = object_.find(name); it != object_.end()) read(*it, value);
    }
    void unless_empty(const char* name, std::string& value) { (*this)(name, value); }
    template <class T>
    void unless(const char* name, T& value, const std::type_identity_t<T>& usual) {
        value = usual;
        (*this)(name, value);
    }
    void rest(UnknownFields& unknown) const {
        for (const auto& [name, value] : object_.items())
            if (!known_.count(name)) unknown[name] = value.dump();
    }

  private:
    const Json& object_;
    std::set<std::string> known_;
};

template <class T>
void read(const Json& json, std::optional<T>& value) {
    read(json, value.emplace());
}
template <class T>
void read(const Json& json, std::vector<T>& list) {
    list.clear();
    for (const Json& item : json) read(item, list.emplace_back());
}
template <class T, std::size_t N>
void read(const Json& json, std::array<T, N>& list) {
    for (std::size_t i = 0; i < N; ++i) read(json[i], list[i]);
}
/// JSON kept as text, by name.
void read(const Json& json, std::map<std::string, std::string>& texts) {
    texts.clear();
    for (const auto& [name, value] : json.items()) texts[name] = value.dump();
}
template <int N>
void read(const Json& json, Eigen::Matrix<double, N, 1>& v) {
    for (int i = 0; i < N; ++i) v[i] = json[static_cast<std::size_t>(i)].get<double>() + 0.0;
}
void read(const Json& json, survey::Reading& r) {
    const Json& at = json.is_array() ? json : json["at"];
    const auto numbers = [](const Json& list) {
        std::array<double, 6> out{};
        for (std::size_t i = 0; i < list.size(); ++i) out[i] = list[i].get<double>() + 0.0;
        return out;
    };
    r.values = numbers(at);
    if (json.is_array()) return;
    if (json.contains("again"))
        for (const Json& more : json["again"]) r.again.push_back(numbers(more));
    r.mark = json.value("mark", "");
    if (json.contains("sigma_mm")) r.sigma_mm = json["sigma_mm"].get<double>();
    r.disabled = json.value("disabled", false);
    r.note = json.value("note", "");
}
template <class T>
void read(const Json& json, T& value) {
    if constexpr (std::is_same_v<T, double>) {
        value = json.get<double>() + 0.0;  // -0.0 is 0
    } else if constexpr (Plain<T>) {
        value = json.get<T>();
    } else if constexpr (std::is_enum_v<T>) {
        const auto names = names_of<T>();
        for (std::size_t i = 0; i < names.size(); ++i)
            if (json == names[i]) value = static_cast<T>(i);
    } else {
        Reader reader(json);
        fields(reader, value);
    }
}

// ---- writing

template <class T>
Json written(const T& value);
template <class T>
Json written(const std::vector<T>& list);
template <class T, std::size_t N>
Json written(const std::array<T, N>& list);
Json written(const std::map<std::string, std::string>& texts);
template <int N>
Json written(const Eigen::Matrix<double, N, 1>& v);
Json written(const survey::Reading& r);

class Writer {
  public:
    template <class T>
    void operator()(const char* name, const T& value) {
        object_[name] = written(value);
    }
    template <class T>
    void operator()(const char* name, const std::optional<T>& value) {
        if (value) object_[name] = written(*value);
    }
    /// A reference that may be absent has no field of its own then.
    void unless_empty(const char* name, const std::string& value) {
        if (!value.empty()) (*this)(name, value);
    }
    /// What is as usual has no field of its own.
    template <class T>
    void unless(const char* name, const T& value, const std::type_identity_t<T>& usual) {
        if (!(value == usual)) (*this)(name, value);
    }
    void rest(const UnknownFields& unknown) {
        for (const auto& [name, text] : unknown) object_[name] = Json::parse(text);
    }
    Json object_ = Json::object();
};

template <class T>
Json written(const std::vector<T>& list) {
    Json out = Json::array();
    for (const T& item : list) out.push_back(written(item));
    return out;
}
template <class T, std::size_t N>
Json written(const std::array<T, N>& list) {
    return written(std::vector<T>(list.begin(), list.end()));
}
Json written(const std::map<std::string, std::string>& texts) {
    Json out = Json::object();
    for (const auto& [name, text] : texts) out[name] = Json::parse(text);
    return out;
}
template <int N>
Json written(const Eigen::Matrix<double, N, 1>& v) {
    Json out = Json::array();
    for (int i = 0; i < N; ++i) out.push_back(v[i]);
    return out;
}
Json written(const survey::Reading& r) {
    // Numbers that a school does not use are zero; the first three are always written.
    const auto numbers = [](const std::array<double, 6>& values) {
        std::size_t used = values.size();
        while (used > 3 && values[used - 1] == 0) --used;
        return Json(std::vector<double>(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(used)));
    };
    if (!r.sigma_mm && !r.disabled && r.note.empty() && r.mark.empty() && r.again.empty()) return numbers(r.values);
    Json out{{"at", numbers(r.values)}};
    for (const auto& more : r.again) out["again"].push_back(numbers(more));
    if (!r.mark.empty()) out["mark"] = r.mark;
    if (r.sigma_mm) out["sigma_mm"] = *r.sigma_mm;
    if (r.disabled) out["disabled"] = true;
    if (!r.note.empty()) out["note"] = r.note;
    return out;
}
template <class T>
Json written(const T& value) {
    if constexpr (Plain<T>) {
        return value;
    } else if constexpr (std::is_enum_v<T>) {
        return names_of<T>()[static_cast<std::size_t>(value)];
    } else {
        Writer writer;
        fields(writer, const_cast<T&>(value));  // `fields` serves both ways; writing does not change it
        return std::move(writer.object_);
    }
}

// ---- what a schema cannot say

struct Fault {
    std::string pointer, message;
};

template <class List>
std::optional<Fault> repeated_id(const List& list, const char* where, const char* what) {
    std::set<std::string> seen;
    for (std::size_t i = 0; i < list.size(); ++i)
        if (!seen.insert(list[i].id).second)
            return Fault{fmt::format("/{}/{}/id", where, i),
                         fmt::format("the {} id '{}' is used twice", what, list[i].id)};
    return std::nullopt;
}

bool knows_surface(const Job& job, const std::string& id) {
    return std::any_of(job.surfaces.begin(), job.surfaces.end(), [&](const auto& s) { return s.id == id; });
}

std::optional<Fault> fault_in_readings(const Job& job) {
    for (std::size_t i = 0; i < job.readings.size(); ++i) {
        const auto& set = job.readings[i];
        if (!set.surface_id.empty() && !knows_surface(job, set.surface_id))
            return Fault{fmt::format("/readings/{}/surface", i),
                         fmt::format("there is no surface '{}'", set.surface_id)};
        if (!set.mirror_of.empty() && !knows_surface(job, set.mirror_of))
            return Fault{fmt::format("/readings/{}/mirror_of", i),
                         fmt::format("there is no surface '{}'", set.mirror_of)};
        if (!survey::has_frame(set.school)) continue;
        if (std::abs(set.along.norm() - 1) > 1e-6)
            return Fault{fmt::format("/readings/{}/along", i), "this direction must have a length of 1"};
        if (std::abs(set.toward.norm() - 1) > 1e-6 || std::abs(set.along.dot(set.toward)) > 1e-6)
            return Fault{fmt::format("/readings/{}/toward", i),
                         "this direction must have a length of 1 and be square to 'along'"};
    }
    return std::nullopt;
}

std::optional<Fault> fault_in_piece(const Job& job, const JobPiece& piece, const std::string& at) {
    if (std::abs(piece.plane.normal.norm() - 1) > 1e-6)
        return Fault{at + "/plane/normal", "the plane's normal must have a length of 1"};
    if (!find_material(job, piece.material_id))
        return Fault{at + "/material", fmt::format("there is no material '{}'", piece.material_id)};
    for (std::size_t e = 0; e < piece.edges.size(); ++e) {
        const auto& edge = piece.edges[e];
        if (edge.kind == piece::EdgeKind::scribed && !knows_surface(job, edge.surface_id))
            return Fault{fmt::format("{}/edges/{}/surface", at, e),
                         fmt::format("there is no surface '{}'", edge.surface_id)};
        if (edge.kind == piece::EdgeKind::straight && edge.side.norm() < 1e-9)
            return Fault{fmt::format("{}/edges/{}/side", at, e), "the side of a straight edge needs a direction"};
        if (edge.kind == piece::EdgeKind::plane && std::abs(edge.plane.normal.norm() - 1) > 1e-6)
            return Fault{fmt::format("{}/edges/{}/plane", at, e), "the plane's normal must have a length of 1"};
        if (edge.kind == piece::EdgeKind::free && edge.line.size() < (edge.closed ? 3U : 2U))
            return Fault{fmt::format("{}/edges/{}/line", at, e), "a free edge needs two points, a closed one three"};
    }
    return std::nullopt;
}

/// What was changed of a unit's pieces is put on pieces that no schema has seen: they are held against it here.
std::optional<Fault> fault_in_changes(const Job& job, std::string_view text) {
    for (std::size_t i = 0; i < job.units.size(); ++i) {
        if (job.units[i].adjusted.empty()) continue;
        Job alone = job;
        alone.units = {job.units[i]};
        alone.units[0].adjusted.clear();
        const Job bare = in_full(alone);
        const std::string at = fmt::format("/units/{}/adjusted", i);
        nlohmann::json document = nlohmann::json::parse(text);
        document["units"] = nlohmann::json::array();
        for (const auto& [part, changes] : job.units[i].adjusted) {
            const JobPiece* piece = find_piece(bare, job.units[i].id + "." + part);
            if (!piece) continue;
            const auto changed = changed_piece(*piece, changes);
            if (!changed) continue;  // it no longer holds, and is left aside
            document["pieces"] = nlohmann::json::array({nlohmann::json(written(*piece).patch(Json::parse(changes)))});
            auto fault = schema_fault(document);
            if (fault) return Fault{at, fmt::format("what was changed of '{}': {}", piece->id, fault->message)};
            if (const auto wrong = fault_in_piece(bare, *changed, at))
                return Fault{at, fmt::format("what was changed of '{}': {}", piece->id, wrong->message)};
        }
    }
    return std::nullopt;
}

std::optional<Fault> fault_in_unit(const Job& job, const JobUnit& unit, const std::string& at) {
    for (const auto& piece : job.pieces)
        if (is_of(piece.id, unit.id))
            return Fault{at + "/id",
                         fmt::format("the piece '{}' has a name that belongs to this unit's pieces", piece.id)};
    if (!knows_surface(job, unit.surface_id))
        return Fault{at + "/surface", fmt::format("there is no surface '{}'", unit.surface_id)};
    for (const auto& [field, id] :
         {std::pair("material", unit.material_id), std::pair("top_material", unit.top_material_id)})
        if (!find_material(job, id))
            return Fault{fmt::format("{}/{}", at, field), fmt::format("there is no material '{}'", id)};
    return std::nullopt;
}

/// Offcuts, cut sheets and lengths name what exists, and their outlines can be laid on.
std::optional<Fault> fault_in_stock(const Job& job) {
    if (auto f = repeated_id(job.offcuts, "offcuts", "offcut's")) return f;
    if (auto f = repeated_id(job.cut_sheets, "cut_sheets", "cut sheet's")) return f;
    if (auto f = repeated_id(job.bars, "bars", "bar's")) return f;
    if (auto f = repeated_id(job.lengths, "lengths", "length's")) return f;
    if (auto f = repeated_id(job.choices, "choices", "choice's")) return f;
    for (std::size_t i = 0; i < job.offcuts.size(); ++i) {
        const auto& offcut = job.offcuts[i];
        if (!find_material(job, offcut.material_id))
            return Fault{fmt::format("/offcuts/{}/material", i),
                         fmt::format("there is no material '{}'", offcut.material_id)};
        if (const auto fault = sheets::fault_of(sheets::Part{offcut.name, 1, true, {0}, 0, false, offcut.shape});
            !fault.empty())
            return Fault{fmt::format("/offcuts/{}/shape", i), fault};
    }
    for (std::size_t i = 0; i < job.lengths.size(); ++i)
        if (std::none_of(job.bars.begin(), job.bars.end(),
                         [&](const auto& b) { return b.id == job.lengths[i].bar_id; }))
            return Fault{fmt::format("/lengths/{}/bar", i),
                         fmt::format("there is no bar '{}'", job.lengths[i].bar_id)};
    for (std::size_t i = 0; i < job.choices.size(); ++i)
        if (!find_material(job, job.choices[i].material_id))
            return Fault{fmt::format("/choices/{}/material", i),
                         fmt::format("there is no material '{}'", job.choices[i].material_id)};
    return std::nullopt;
}

std::optional<Fault> fault_in(const Job& job) {
    if (auto f = repeated_id(job.surfaces, "surfaces", "surface")) return f;
    if (auto f = repeated_id(job.readings, "readings", "reading set's")) return f;
    if (auto f = repeated_id(job.materials, "materials", "material's")) return f;
    if (auto f = repeated_id(job.pieces, "pieces", "piece's")) return f;
    if (auto f = repeated_id(job.marks, "marks", "mark's")) return f;
    if (const auto up = survey::plumb_up(job.datum); !up) return Fault{"/datum", up.error().message};
    if (auto f = fault_in_readings(job)) return f;
    for (std::size_t i = 0; i < job.pieces.size(); ++i)
        if (auto f = fault_in_piece(job, job.pieces[i], fmt::format("/pieces/{}", i))) return f;
    if (auto f = repeated_id(job.units, "units", "unit's")) return f;
    for (std::size_t i = 0; i < job.units.size(); ++i)
        if (auto f = fault_in_unit(job, job.units[i], fmt::format("/units/{}", i))) return f;
    return fault_in_stock(job);
}

}  // namespace

Result<Job> job_from_text(std::string_view text) {
    const auto parsed = parse_json(text);
    if (!parsed) return parsed.error();
    if (parsed->is_object() && parsed->contains("bevelsmith") && (*parsed)["bevelsmith"].is_number_integer() &&
        (*parsed)["bevelsmith"] > current_version)
        return Error{fmt::format("this job was written by a newer Bevelsmith (format {}, here {}); open it there",
                                 (*parsed)["bevelsmith"].get<std::int64_t>(), current_version),
                     line_of(text, "/bevelsmith")};
    if (const auto fault = schema_fault(*parsed)) return Error{fault->message, line_of(text, fault->pointer)};
    Job job;
    read(Json::parse(text), job);
    if (const auto fault = fault_in(job)) return Error{fault->message, line_of(text, fault->pointer)};
    if (const auto fault = fault_in_changes(job, text)) return Error{fault->message, line_of(text, fault->pointer)};
    job.version = current_version;
    settle_sides(job);
    return job;
}

std::string piece_changes(const JobPiece& before, const JobPiece& after) {
    return Json::diff(written(before), written(after)).dump();
}

std::optional<JobPiece> changed_piece(const JobPiece& piece, const std::string& changes) {
    try {
        JobPiece out;
        read(written(piece).patch(Json::parse(changes)), out);
        out.id = piece.id;
        return out;
    } catch (const nlohmann::json::exception&) {
        return std::nullopt;
    }
}

std::string job_to_text(const Job& job) {
    Json json = written(job);
    // One reading a line: a file of hundreds of readings stays readable and its lines mean something.
    std::string out = "{";
    bool first = true;
    for (const auto& [name, value] : json.items()) {
        out += first ? "\n" : ",\n";
        first = false;
        out += fmt::format("  {}: ", Json(name).dump());
        if ((name == "offcuts" || name == "cut_sheets") && !value.empty()) {
            out += "[";
            for (std::size_t k = 0; k < value.size(); ++k)
                out += fmt::format("{}\n    {}", k ? "," : "", value[k].dump());
            out += "\n  ]";
            continue;
        }
        if (name != "readings") {
            std::string block = value.dump(2);
            for (char c : block) {
                out += c;
                if (c == '\n') out += "  ";
            }
            continue;
        }
        out += "[";
        for (std::size_t s = 0; s < value.size(); ++s) {
            Json head = value[s];
            const Json values = head["values"];
            head.erase("values");
            std::string text = head.dump();
            text.pop_back();
            out += fmt::format("{}\n    {}, \"values\": [", s ? "," : "", text);
            for (std::size_t r = 0; r < values.size(); ++r)
                out += fmt::format("{}\n      {}", r ? "," : "", values[r].dump());
            out += "\n    ]}";
        }
        out += "\n  ]";
    }
    return out + "\n}\n";
}

Result<Job> load_job(const std::string& path) {
    const auto text = read_file(path);
    if (!text) return text.error();
    return job_from_text(*text);
}

Result<bool> save_job(const Job& job, const std::string& path) {
    const std::string text = job_to_text(job);
    // What would not open again must not replace a file that does.
    if (const auto again = job_from_text(text); !again)
        return Error{fmt::format("the job holds something that a job file may not: {}", again.error().message)};
    return write_file_atomically(path, text);
}

}  // namespace bevelsmith::job

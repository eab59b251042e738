#include "job/job_file.h"

#include <fmt/format.h>

#include <array>
#include <nlohmann/json.hpp>
#include <set>
#include <span>
#include <utility>

#include "job/file_io.h"
#include "job/json_text.h"
#include "job/schema_check.h"

namespace bevelsmith::job {
namespace {

using Json = nlohmann::ordered_json;

/// Names of enumerators in files, by their order in the enum.
template <class E>
constexpr auto names_of();
template <>
constexpr auto names_of<units::LengthUnit>() {
    return std::array{"mm", "cm", "m", "in", "ft", "in 1/16", "in 1/32"};
}
template <>
constexpr auto names_of<hull::ChartChoice>() {
    return std::array{"auto", "axis", "plane"};
}
template <>
constexpr auto names_of<hull::SurfacePart>() {
    return std::array{"hull", "deckhead", "sole", "transom", "bulkhead"};
}
template <>
constexpr auto names_of<survey::School>() {
    return std::array{"ordinates",    "strip",          "direct", "strip edges", "tick stick",  "tick stick angle",
                      "fixed points", "compass scribe", "traced", "laser meter", "bevel gauge", "mirrored",
                      "scan"};
}
template <>
constexpr auto names_of<survey::Datum::Known>() {
    return std::array{"upright", "two levels", "three points", "bulkhead"};
}
template <>
constexpr auto names_of<practice::HullForm>() {
    return std::array{"round bilge", "hard chine", "flared bow"};
}
template <>
constexpr auto names_of<piece::EdgeKind>() {
    return std::array{"surface", "line"};
}
template <>
constexpr auto names_of<piece::JointKind>() {
    return std::array{"butt", "butt strap", "scarf"};
}
template <>
constexpr auto names_of<piece::Face>() {
    return std::array{"a", "b"};
}
template <>
constexpr auto names_of<stock::GlassKind>() {
    return std::array{"mat", "woven", "biaxial"};
}
template <>
constexpr auto names_of<fixing::Construction>() {
    return std::array{"unsaid", "laminate", "cored", "timber", "metal"};
}
template <>
constexpr auto names_of<fixing::Method>() {
    return std::array{"tabbing", "blocks"};
}

// One description of each value serves reading and writing: `io(name, member)` for every field.
template <class IO>
void fields(IO& io, piece::Passage& v) {
    io("width_mm", v.width_mm), io("height_mm", v.height_mm);
}
template <class IO>
void fields(IO& io, geometry::Plane& v) {
    io("normal", v.normal), io("d_mm", v.d_mm);
}
template <class IO>
void fields(IO& io, Boat& v) {
    io("name", v.name), io("length_mm", v.length_mm);
    io.unless("construction", v.shell.construction, fixing::Construction::unsaid);
    io("laminate_mm", v.shell.laminate_mm), io("passage", v.passage);
    io("displacement_kg", v.hydrostatics.displacement_kg), io("gm_m", v.hydrostatics.gm_m);
    io("mctc_tm", v.hydrostatics.mctc_tm), io("flotation_x_mm", v.hydrostatics.flotation_x_mm);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, survey::Datum& v) {
    io("known_from", v.known), io("port_high_deg", v.port_high_deg), io("bow_high_deg", v.bow_high_deg);
    io("points", v.points), io("drop_mm", v.drop_mm);
    io("foot_forward_mm", v.foot_forward_mm), io("foot_port_mm", v.foot_port_mm);
}
template <class IO>
void fields(IO& io, JobMark& v) {
    io("id", v.id), io("name", v.name), io("measured_from", v.measured_from), io("position", v.position);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, Practice& v) {
    io("form", v.boat.form), io("lopsided_mm", v.boat.lopsided_mm), io("lumpy_mm", v.boat.lumpy_mm);
    io("seed", v.boat.seed), io("sigma_mm", v.sigma_mm), io("slip_chance", v.slip_chance), io("tried", v.tried);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, hull::Layer& v) {
    io("name", v.name), io("thickness_mm", v.thickness_mm);
    io("from_x_mm", v.from_x_mm), io("to_x_mm", v.to_x_mm), io("from_z_mm", v.from_z_mm), io("to_z_mm", v.to_z_mm);
}
template <class IO>
void fields(IO& io, SurfaceSpec& v) {
    io("id", v.id), io("name", v.name), io("chart", v.chart);
    io.unless("part", v.part, hull::SurfacePart::hull), io("inside", v.inside);
    io("allowed_residual_mm", v.allowed_residual_mm), io.unless("layers", v.layers, {});
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobReadingSet& v) {
    io("id", v.id), io("name", v.name), io("school", v.school);
    io.unless_empty("surface", v.surface_id), io("sigma_mm", v.sigma_mm);
    io.unless("angle_sigma_deg", v.angle_sigma_deg, survey::default_angle_sigma_deg(v.school));
    io("origin", v.origin), io("along", v.along), io("toward", v.toward);
    io.unless("stick_marks_mm", v.stick_marks_mm, {}), io.unless("fixed_points", v.fixed_points, {});
    io.unless("left_of_pins", v.left_of_pins, true), io.unless("scribe_mm", v.scribe_mm, 0.0);
    io.unless("by_gravity", v.by_gravity, false), io("stood", v.stood);
    io.unless("hard_line", v.hard_line, false), io.unless_empty("mirror_of", v.mirror_of);
    io("values", v.readings);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, JobMaterial& v) {
    io("id", v.id), io("name", v.name), io("thickness_mm", v.thickness_mm), io("density_kg_m3", v.density_kg_m3);
    io("sheet_width_mm", v.sheet_width_mm), io("sheet_height_mm", v.sheet_height_mm),
        io("sheets_in_stock", v.sheets_in_stock);
    io("has_grain", v.has_grain), io("two_good_faces", v.two_good_faces);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, piece::EdgeSpec& v) {
    io("meets", v.kind), io("name", v.name), io.unless_empty("surface", v.surface_id), io("side", v.side),
        io("at_mm", v.at_mm);
    io("gap_mm", v.gap_mm), io("coating_mm", v.coating_mm);
}
template <class IO>
void fields(IO& io, piece::OpeningSpec& v) {
    io("name", v.name), io("left_mm", v.left_mm), io("bottom_mm", v.bottom_mm), io("width_mm", v.width_mm);
    io("height_mm", v.height_mm), io("radius_mm", v.radius_mm);
}
template <class IO>
void fields(IO& io, piece::LimberSpec& v) {
    io("at_mm", v.at_mm), io("width_mm", v.width_mm), io("height_mm", v.height_mm);
}
template <class IO>
void fields(IO& io, piece::JointSpec& v) {
    io("kind", v.kind), io("upright", v.upright), io("at_mm", v.at_mm), io("slope", v.slope);
}
template <class IO>
void fields(IO& io, JobPiece& v) {
    io("id", v.id), io("name", v.name), io("kind", v.kind), io("place", v.place), io("plane", v.plane);
    io("material", v.material_id), io("edges", v.edges), io("openings", v.openings), io("limbers", v.limbers);
    io("joints", v.joints), io("split_for_passage", v.split_for_passage), io("scarf_slope", v.scarf_slope);
    io("grain_deg", v.grain_deg), io("good_face", v.good_face), io("structural", v.structural),
        io("removable", v.removable);
    io("blank_margin_mm", v.blank_margin_mm), io("wanted_fit_mm", v.wanted_fit_mm), io("fixing", v.fixing),
        io("stage", v.stage);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, stock::Coating& v) {
    io("mass_kg_m2", v.mass_kg_m2), io("film_mm", v.film_mm);
}
template <class IO>
void fields(IO& io, stock::Glass& v) {
    io("kind", v.kind), io("mass_g_m2", v.mass_g_m2);
}
template <class IO>
void fields(IO& io, fixing::Rules& v) {
    io("least_laminate_for_screws_mm", v.least_laminate_for_screws_mm),
        io("least_clearance_mm", v.least_clearance_mm);
    io("fillet_radius_mm", v.fillet_radius_mm), io("fillet_density_kg_m3", v.fillet_density_kg_m3);
    io("first_strip_mm", v.first_strip_mm), io("strip_step_mm", v.strip_step_mm), io("glass", v.glass);
    io("resin_waste", v.resin_waste), io("block_length_mm", v.block_length_mm),
        io("block_width_mm", v.block_width_mm);
    io("block_depth_mm", v.block_depth_mm), io("block_density_kg_m3", v.block_density_kg_m3);
    io("block_spacing_mm", v.block_spacing_mm), io("end_distance_mm", v.end_distance_mm),
        io("screw_gauge", v.screw_gauge);
    io("bond_strength_mpa", v.bond_strength_mpa), io("screw_safety", v.screw_safety),
        io("load_factor", v.load_factor);
}
template <class IO>
void fields(IO& io, CuttingRules& v) {
    io("spacing_mm", v.spacing_mm), io("edge_margin_mm", v.edge_margin_mm), io("seed", v.seed);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, LockedPlacement& v) {
    io("part", v.part_id), io("sheet", v.sheet), io("rot", v.rotation_deg), io("x", v.x_mm), io("y", v.y_mm);
}
template <class IO>
void fields(IO& io, LockedLayout& v) {
    io("material", v.material_id), io("placements", v.placements);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, SetAside& v) {
    io("check", v.check), io("piece", v.piece_id), io("reason", v.reason);
    io.rest(v.unknown);
}
template <class IO>
void fields(IO& io, Job& v) {
    io("bevelsmith", v.version), io("name", v.name), io("unit", v.unit), io("boat", v.boat);
    io.unless("datum", v.datum, {}), io.unless("marks", v.marks, {}), io("practice", v.practice);
    io("surfaces", v.surfaces);
    io("readings", v.readings), io("materials", v.materials), io("pieces", v.pieces), io("coating", v.coating);
    io("fixing", v.fixing_rules), io("cutting", v.cutting), io.unless("readings_next", v.readings_next, 3);
    io("layouts", v.layouts), io("set_aside", v.set_aside);
    io.rest(v.unknown);
}

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
template <int N>
void read(const Json& json, Eigen::Matrix<double, N, 1>& v) {
    for (int i = 0; i < N; ++i) v[i] = json[static_cast<std::size_t>(i)].get<double>();
}
void read(const Json& json, survey::Reading& r) {
    const Json& at = json.is_array() ? json : json["at"];
    const auto numbers = [](const Json& list) {
        std::array<double, 6> out{};
        for (std::size_t i = 0; i < list.size(); ++i) out[i] = list[i].get<double>();
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
    if constexpr (Plain<T>) {
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
    }
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
    return std::nullopt;
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
    return job;
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

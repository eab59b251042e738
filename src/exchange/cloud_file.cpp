#include "exchange/cloud_file.h"

#include <algorithm>
#include <cctype>
#include <sstream>

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <optional>

#include "exchange/table_text.h"
#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

enum class Number { int8, uint8, int16, uint16, int32, uint32, float32, float64 };

std::optional<Number> number_type(std::string_view name) {
    constexpr std::array<std::pair<std::string_view, Number>, 16> names{{{"char", Number::int8},
                                                                         {"int8", Number::int8},
                                                                         {"uchar", Number::uint8},
                                                                         {"uint8", Number::uint8},
                                                                         {"short", Number::int16},
                                                                         {"int16", Number::int16},
                                                                         {"ushort", Number::uint16},
                                                                         {"uint16", Number::uint16},
                                                                         {"int", Number::int32},
                                                                         {"int32", Number::int32},
                                                                         {"uint", Number::uint32},
                                                                         {"uint32", Number::uint32},
                                                                         {"float", Number::float32},
                                                                         {"float32", Number::float32},
                                                                         {"double", Number::float64},
                                                                         {"float64", Number::float64}}};
    for (const auto& [word, type] : names)
        if (word == name) return type;
    return std::nullopt;
}

std::size_t size_of(Number type) {
    constexpr std::array<std::size_t, 8> sizes{1, 1, 2, 2, 4, 4, 4, 8};
    return sizes[static_cast<std::size_t>(type)];
}

/// What scanners write where nothing came back.
bool nothing_there(std::string_view word) {
    return word == "nan" || word == "NaN" || word == "-nan" || word == "inf" || word == "-inf";
}

/// Why a point cannot be one of a boat's inside, in whatever unit.
std::optional<std::string> out_of_place(const Vec3& p) {
    for (double value : {p.x(), p.y(), p.z()})
        if (!units::range::place.holds(value)) return units::out_of_range(units::range::place, value);
    return std::nullopt;
}

struct Property {
    std::string_view name;
    Number type = Number::float32;
    std::optional<Number> list_count;  ///< a list: type of its length
};

struct Element {
    std::string_view name;
    std::size_t count = 0;
    std::vector<Property> properties;
};

struct Header {
    enum class Format { ascii, little, big } format = Format::ascii;
    std::vector<Element> elements;
    std::string_view body;
    int lines = 0;
};

/// Takes the first line off a text.
std::string_view take_line(std::string_view& text) {
    const auto end = text.find('\n');
    std::string_view line = text.substr(0, end);
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.remove_suffix(1);
    return line;
}

std::vector<std::string_view> words_of(std::string_view line) {
    std::vector<std::string_view> out;
    while (true) {
        const auto start = line.find_first_not_of(" \t");
        if (start == std::string_view::npos) return out;
        const auto end = line.find_first_of(" \t", start);
        out.push_back(line.substr(start, end - start));
        if (end == std::string_view::npos) return out;
        line.remove_prefix(end);
    }
}

std::optional<Error> read_property(Header& header, const std::vector<std::string_view>& w) {
    const auto fault = [&](const char* why) { return Error{why, header.lines}; };
    if (header.elements.empty()) return fault("a property stands before any element");
    const bool list = w.size() == 5 && w[1] == "list";
    if (!list && w.size() != 3) return fault("a property is a type and a name");
    Property p;
    const auto type = number_type(w[list ? 3 : 1]);
    if (!type) return fault("a property of an unknown type");
    p.type = *type;
    p.name = w.back();
    if (list && !(p.list_count = number_type(w[2]))) return fault("a list of an unknown type");
    if (header.elements.back().properties.size() >= units::limit::columns.most)
        return Error{units::too_many(units::limit::columns, header.elements.back().properties.size() + 1),
                     header.lines};
    header.elements.back().properties.push_back(p);
    return std::nullopt;
}

Result<Header> read_header(std::string_view contents) {
    Header out;
    out.body = contents;
    bool formatted = false;
    while (true) {
        if (out.body.empty()) return Error{"the header has no end_header", out.lines};
        const std::string_view line = take_line(out.body);
        ++out.lines;
        const auto w = words_of(line);
        if (w.empty() || w[0] == "comment" || w[0] == "obj_info" || (out.lines == 1 && w[0] == "ply")) continue;
        if (w[0] == "end_header") break;
        if (w[0] == "format" && w.size() >= 2) {
            formatted = true;
            if (w[1] == "ascii") out.format = Header::Format::ascii;
            else if (w[1] == "binary_little_endian") out.format = Header::Format::little;
            else if (w[1] == "binary_big_endian") out.format = Header::Format::big;
            else return Error{fmt::format("'{}' is no format of PLY", w[1].substr(0, 40)), out.lines};
        } else if (w[0] == "element" && w.size() == 3) {
            const auto count = number_in(w[2]);
            if (!count || *count < 0 || *count != std::floor(*count))
                return Error{fmt::format("'{}' is no number of elements", w[2].substr(0, 40)), out.lines};
            if (*count > static_cast<double>(units::limit::cloud_points.most))
                return Error{
                    fmt::format("{:.0f} elements: {} are at most {} ({})", *count, units::limit::cloud_points.name,
                                units::limit::cloud_points.most, units::limit::cloud_points.why),
                    out.lines};
            if (out.elements.size() >= units::limit::ply_elements.most)
                return Error{units::too_many(units::limit::ply_elements, out.elements.size() + 1), out.lines};
            out.elements.push_back({w[1], static_cast<std::size_t>(*count), {}});
        } else if (w[0] == "property") {
            if (auto fault = read_property(out, w)) return *fault;
        } else {
            return Error{fmt::format("'{}' does not belong in the header of a PLY file", w[0].substr(0, 40)),
                         out.lines};
        }
    }
    if (!formatted) return Error{"the header does not say its format", out.lines};
    return out;
}

template <class T>
T raw(const char* at, bool swap) {
    std::array<char, sizeof(T)> bytes;
    std::memcpy(bytes.data(), at, sizeof(T));
    if (swap) std::reverse(bytes.begin(), bytes.end());
    return std::bit_cast<T>(bytes);
}

double value_at(const char* at, Number type, bool swap) {
    switch (type) {
        case Number::int8: return raw<std::int8_t>(at, swap);
        case Number::uint8: return raw<std::uint8_t>(at, swap);
        case Number::int16: return raw<std::int16_t>(at, swap);
        case Number::uint16: return raw<std::uint16_t>(at, swap);
        case Number::int32: return raw<std::int32_t>(at, swap);
        case Number::uint32: return raw<std::uint32_t>(at, swap);
        case Number::float32: return raw<float>(at, swap);
        case Number::float64: break;
    }
    return raw<double>(at, swap);
}

/// Which properties are x, y and z.
std::optional<std::array<std::size_t, 3>> position_of(const Element& vertex) {
    std::array<std::size_t, 3> out{};
    constexpr std::array<std::string_view, 3> axes{"x", "y", "z"};
    for (std::size_t k = 0; k < 3; ++k) {
        const auto it = std::find_if(vertex.properties.begin(), vertex.properties.end(),
                                     [&](const Property& p) { return p.name == axes[k] && !p.list_count; });
        if (it == vertex.properties.end()) return std::nullopt;
        out[k] = static_cast<std::size_t>(it - vertex.properties.begin());
    }
    return out;
}

class BinaryBody {
  public:
    BinaryBody(std::string_view bytes, bool big)
        : bytes_(bytes), swap_(big == (std::endian::native == std::endian::little)) {}

    /// Passes over an element. False where the file ends before, or a list has a length that is none.
    bool skip(const Element& e) {
        if (e.properties.empty()) return true;
        for (std::size_t i = 0; i < e.count; ++i)
            for (const Property& p : e.properties) {
                std::size_t size = size_of(p.type);
                if (p.list_count) {
                    const std::size_t head = size_of(*p.list_count);
                    if (bytes_.size() < head) return false;
                    const double n = value_at(bytes_.data(), *p.list_count, swap_);
                    // Not a number fails as well.
                    if (!(n >= 0 && n <= static_cast<double>(units::limit::ply_list.most)) || n != std::floor(n))
                        return false;
                    bytes_.remove_prefix(head);
                    size *= static_cast<std::size_t>(n);
                }
                if (bytes_.size() < size) return false;
                bytes_.remove_prefix(size);
            }
        return true;
    }

    Result<survey::Cloud> positions(const Element& vertex, const std::array<std::size_t, 3>& axes) const {
        std::size_t stride = 0;
        std::array<std::size_t, 3> offset{};
        for (std::size_t k = 0; k < vertex.properties.size(); ++k) {
            if (vertex.properties[k].list_count) return Error{"points with lists in them are not read", 1};
            for (std::size_t a = 0; a < 3; ++a)
                if (axes[a] == k) offset[a] = stride;
            stride += size_of(vertex.properties[k].type);
        }
        if (bytes_.size() / stride < vertex.count)
            return Error{fmt::format("the file ends at point {} of {}: it was cut short", bytes_.size() / stride + 1,
                                     vertex.count)};
        const bool floats = !swap_ && std::all_of(axes.begin(), axes.end(), [&](std::size_t k) {
            return vertex.properties[k].type == Number::float32;
        });
        survey::Cloud out;
        out.reserve(vertex.count);
        for (std::size_t i = 0; i < vertex.count; ++i) {
            const char* at = bytes_.data() + i * stride;
            Vec3 p;
            for (std::size_t a = 0; a < 3; ++a) {
                const auto axis = static_cast<Eigen::Index>(a);
                if (floats) p[axis] = raw<float>(at + offset[a], false);
                else p[axis] = value_at(at + offset[a], vertex.properties[axes[a]].type, swap_);
            }
            if (!p.allFinite()) continue;
            if (const auto fault = out_of_place(p))
                return Error{fmt::format("point {} of {}: {}", i + 1, vertex.count, *fault), 1};
            out.push_back(p);
        }
        return out;
    }

  private:
    std::string_view bytes_;
    bool swap_;
};

Result<survey::Cloud> ascii_positions(const Header& header, const Element& vertex,
                                      const std::array<std::size_t, 3>& axes) {
    std::string_view body = header.body;
    int line = header.lines;
    for (const Element& e : header.elements) {
        if (&e == &vertex) break;
        for (std::size_t i = 0; i < e.count && !body.empty(); ++i, ++line) take_line(body);
    }
    survey::Cloud out;
    for (std::size_t i = 0; i < vertex.count; ++i) {
        if (body.empty())
            return Error{fmt::format("the file ends at point {} of {}: it was cut short", i + 1, vertex.count), line};
        const std::string_view text = take_line(body);
        ++line;
        if (text.size() > units::limit::line_bytes.most)
            return Error{units::too_many(units::limit::line_bytes, text.size()), line};
        const auto words = words_of(text);
        if (words.size() < vertex.properties.size())
            return Error{fmt::format("{} numbers where {} belong", words.size(), vertex.properties.size()), line};
        Vec3 p;
        for (std::size_t a = 0; a < 3; ++a) {
            const std::string_view word = words[axes[a]];
            const auto value = number_in(word);
            if (!value && !nothing_there(word))
                return Error{fmt::format("'{}' is not a number", word.substr(0, 40)), line};
            p[static_cast<Eigen::Index>(a)] = value.value_or(NAN);
        }
        if (!p.allFinite()) continue;
        if (const auto fault = out_of_place(p)) return Error{*fault, line};
        out.push_back(p);
    }
    return out;
}

Result<survey::Cloud> from_ply(std::string_view contents) {
    const auto header = read_header(contents);
    if (!header) return header.error();
    const auto vertex = std::find_if(header->elements.begin(), header->elements.end(),
                                     [](const Element& e) { return e.name == "vertex"; });
    if (vertex == header->elements.end()) return Error{"there are no points in this file", header->lines};
    const auto axes = position_of(*vertex);
    if (!axes) return Error{"the points of this file have no x, y and z", header->lines};
    if (header->format == Header::Format::ascii) return ascii_positions(*header, *vertex, *axes);
    BinaryBody body(header->body, header->format == Header::Format::big);
    for (auto e = header->elements.begin(); e != vertex; ++e)
        if (!body.skip(*e))
            return Error{fmt::format("its {}s cannot be passed over: the file was cut short, or a list in it has an "
                                     "impossible length",
                                     e->name.substr(0, 40)),
                         header->lines};
    return body.positions(*vertex, *axes);
}

/// The points of one part of a text, whose first line is number `first_line`.
std::optional<Error> add_points(std::string_view part, int first_line, survey::Cloud& out) {
    if (auto fault = fault_in_lines(part)) return Error{fault->message, first_line - 1 + fault->line};
    const TextTable table(part);
    for (std::size_t i = 0; i < table.rows(); ++i) {
        const auto row = table.row(i);
        const int line = first_line - 1 + row.line;
        if (row.cells.size() < 3) return Error{fmt::format("{} values; a point has three", row.cells.size()), line};
        Vec3 p;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto value = number_in(row.cells[k]);
            if (!value && !nothing_there(row.cells[k]))
                return Error{fmt::format("'{}' is not a number", row.cells[k].substr(0, 40)), line};
            p[static_cast<Eigen::Index>(k)] = value.value_or(NAN);
        }
        if (!p.allFinite()) continue;
        if (const auto fault = out_of_place(p)) return Error{*fault, line};
        if (out.size() >= units::limit::cloud_points.most)
            return Error{units::too_many(units::limit::cloud_points, out.size() + 1), line};
        out.push_back(p);
    }
    return std::nullopt;
}

/// In parts, so that millions of lines do not stand in memory as cells.
Result<survey::Cloud> from_text(std::string_view contents) {
    constexpr std::size_t part_bytes = 1U << 22U;
    survey::Cloud out;
    int line = 1;
    while (!contents.empty()) {
        const auto end = contents.size() > part_bytes ? contents.find('\n', part_bytes) : std::string_view::npos;
        const std::string_view part = contents.substr(0, end == std::string_view::npos ? end : end + 1);
        if (auto fault = add_points(part, line, out)) return *fault;
        line += static_cast<int>(std::count(part.begin(), part.end(), '\n'));
        contents.remove_prefix(part.size());
    }
    return out;
}

}  // namespace

Result<survey::Cloud> cloud_from_text(std::string_view contents) {
    auto cloud =
        contents.starts_with("ply\n") || contents.starts_with("ply\r") ? from_ply(contents) : from_text(contents);
    if (cloud && cloud->empty()) return Error{"there are no points in this file", 1};
    return cloud;
}

Result<survey::Cloud> in_millimetres(survey::Cloud cloud, double unit_mm) {
    for (std::size_t i = 0; i < cloud.size(); ++i) {
        cloud[i] *= unit_mm;
        if (const auto fault = out_of_place(cloud[i]))
            return Error{fmt::format("point {}: {}; is its unit right?", i + 1, *fault)};
    }
    return cloud;
}

std::optional<Vec3> viewpoint_of(std::string_view contents) {
    constexpr std::size_t heading_bytes = 8192;
    std::string head(contents.substr(0, heading_bytes));
    std::transform(head.begin(), head.end(), head.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    std::istringstream lines(head);
    for (std::string line; std::getline(lines, line) && line != "end_header";) {
        const bool remark = line.starts_with('#') || line.starts_with("comment") || line.starts_with("obj_info");
        const auto word = line.find("viewpoint");
        if (!remark || word == std::string::npos) continue;
        std::istringstream numbers(line.substr(word + std::string_view("viewpoint").size()));
        Vec3 at;
        if (numbers >> at.x() >> at.y() >> at.z() && at.allFinite()) return at;
    }
    return std::nullopt;
}

double likely_unit_mm(std::span<const Vec3> cloud) {
    const auto box = survey::box_of(cloud);
    return (box.high - box.low).maxCoeff() < 80 ? 1000 : 1;
}

}  // namespace bevelsmith::exchange

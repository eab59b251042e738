#include "exchange/importers.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>

#include "exchange/cloud_file.h"
#include "exchange/dxf_outlines.h"
#include "exchange/parts_json.h"
#include "exchange/table_text.h"
#include "job/job_file.h"

namespace bevelsmith::exchange {
namespace {

/// So much of a file says what it is.
constexpr std::size_t head_bytes = 4096;

std::string_view head_of(std::string_view contents) {
    const std::size_t first = contents.find_first_not_of(" \t\r\n");
    return first == std::string_view::npos ? std::string_view() : contents.substr(first, head_bytes);
}

bool holds(std::string_view text, std::string_view what) {
    return text.find(what) != std::string_view::npos;
}

bool is_json(std::string_view contents) {
    return head_of(contents).starts_with('{');
}

bool is_ply(std::string_view contents) {
    return contents.starts_with("ply\n") || contents.starts_with("ply\r");
}
bool is_job(std::string_view contents) {
    return is_json(contents) && holds(contents, "\"bevelsmith\"");
}
bool is_parts(std::string_view contents) {
    return is_json(contents) && holds(contents, "\"parts\"");
}
/// Group codes and values on lines of their own, from the first section on; comments (999) may stand before.
bool is_dxf(std::string_view contents) {
    const std::string_view head = head_of(contents);
    return (head.starts_with('0') || head.starts_with("999")) && holds(head, "SECTION");
}
/// The first bytes of PNG (ISO/IEC 15948), JPEG (ITU-T T.81) and BMP files.
bool is_picture(std::string_view contents) {
    using namespace std::string_view_literals;
    return contents.starts_with("\x89PNG\r\n\x1a\n"sv) || contents.starts_with("\xff\xd8\xff"sv) ||
           (contents.starts_with("BM"sv) && contents.size() > 14 && contents.substr(6, 4) == "\0\0\0\0"sv);
}
/// Text with a number in its first lines.
bool is_table(std::string_view contents) {
    const std::string_view head = head_of(contents);
    return !holds(head, std::string_view("\0", 1)) && !head.starts_with('{') &&
           std::any_of(head.begin(), head.end(), [](unsigned char c) { return std::isdigit(c) != 0; });
}

template <class Value>
std::optional<Error> fault_in(const Result<Value>& read) {
    if (read) return std::nullopt;
    return read.error();
}
std::optional<Error> ply_fault(std::string_view text) {
    return fault_in(cloud_from_text(text));
}
std::optional<Error> job_fault(std::string_view text) {
    return fault_in(job::job_from_text(text));
}
std::optional<Error> parts_fault(std::string_view text) {
    return fault_in(problem_from_json(text));
}
std::optional<Error> drawing_fault(std::string_view text) {
    return fault_in(read_dxf_outlines(text));
}

using Suffixes = std::span<const std::string_view>;
constexpr std::array<std::string_view, 1> ply_suffixes{"ply"}, drawing_suffixes{"dxf"};
constexpr std::array<std::string_view, 3> job_suffixes{"job.json", "json", "kept"};
constexpr std::array<std::string_view, 1> parts_suffixes{"json"};
constexpr std::array<std::string_view, 4> picture_suffixes{"jpg", "jpeg", "png", "bmp"};
constexpr std::array<std::string_view, 5> table_suffixes{"csv", "txt", "tsv", "xyz", "asc"};

}  // namespace

const std::array<Importer, file_kind_count>& importers() {
    static const std::array<Importer, file_kind_count> all{{
        {FileKind::ply, "ply", "a scan (PLY)", Suffixes(ply_suffixes), "Measure, Import", units::limit::cloud_bytes,
         is_ply, ply_fault, "ply"},
        {FileKind::job, "job", "a job", Suffixes(job_suffixes), "Ctrl+O", units::limit::job_bytes, is_job, job_fault,
         "job"},
        {FileKind::parts, "parts", "a parts file", Suffixes(parts_suffixes), "bevelsmith-cli nest",
         units::limit::parts_bytes, is_parts, parts_fault, "parts"},
        {FileKind::drawing, "dxf", "a drawing (DXF)", Suffixes(drawing_suffixes), "Cut, Stock, From a DXF",
         units::limit::parts_bytes, is_dxf, drawing_fault, "dxf"},
        {FileKind::picture, "picture", "a photo (JPEG, PNG, BMP)", Suffixes(picture_suffixes), "Measure, Photo",
         units::limit::cloud_bytes, is_picture, nullptr, ""},
        {FileKind::table, "table", "a table of readings or a scan in text", Suffixes(table_suffixes),
         "Measure, Import", units::limit::cloud_bytes, is_table, fault_in_lines, "tables"},
    }};
    return all;
}

const Importer& importer_of(FileKind kind) {
    return importers()[static_cast<std::size_t>(kind)];
}

const Importer* importer_for(std::string_view contents) {
    const auto& all = importers();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Importer& i) { return i.looks_so(contents); });
    return it == all.end() ? nullptr : &*it;
}

std::string patterns(FileKind kind) {
    std::string out;
    for (std::string_view suffix : importer_of(kind).suffixes)
        out += fmt::format("{}*.{}", out.empty() ? "" : " ", suffix);
    return out;
}

std::string taken_elsewhere(FileKind wanted, std::string_view contents) {
    const Importer* is = importer_for(contents);
    if (!is || is->kind == wanted) return {};
    return fmt::format("this is {}, not {}: {} takes it", is->title, importer_of(wanted).title, is->where);
}

std::string table_of_importers() {
    std::string out =
        "# Files that are read\n\nWhat a file is is told by its contents, whatever it is called; `bevelsmith-cli "
        "inspect FILE` says which and "
        "whether it can\nbe read. Made from the program's own list (`exchange/importers`), which a test holds "
        "against "
        "this page.\n\n| id | what | usual names | taken by | at most | fuzzed as |\n|---|---|---|---|---|---|\n";
    for (const Importer& i : importers())
        out += fmt::format("| `{}` | {} | {} | {} | {} MB | {} |\n", i.id, i.title, patterns(i.kind), i.where,
                           i.limit.most >> 20, i.fuzz_target.empty() ? "–" : i.fuzz_target);
    return out;
}

}  // namespace bevelsmith::exchange

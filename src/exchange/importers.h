// Every kind of file that is read, once: what it is called, how it is told from others, what reads it, how large it
// may be, which fuzz target tries it. The window's dialogs and refusals, the command line, the fuzz corpus and
// docs/files-in.md go by it.
#pragma once

#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "units/ranges.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// In the order in which they are looked for: what says itself what it is before what any text might be.
enum class FileKind { ply, job, parts, drawing, picture, table };

struct Importer {
    FileKind kind;
    std::string_view id;
    std::string_view title;                      ///< "a drawing (DXF)"
    std::span<const std::string_view> suffixes;  ///< small letters, without a point
    std::string_view where;                      ///< what takes it in the window
    const units::Limit& limit;                   ///< of its size
    bool (*looks_so)(std::string_view contents);
    /// Why the contents cannot be read, with the line where one is to blame; empty where they can. Null where the
    /// window's own library reads it (pictures).
    std::optional<Error> (*fault)(std::string_view contents);
    std::string_view fuzz_target;  ///< empty with no reader of ours
};

inline constexpr std::size_t file_kind_count = static_cast<std::size_t>(FileKind::table) + 1;
const std::array<Importer, file_kind_count>& importers();
const Importer& importer_of(FileKind kind);
/// By the contents, whatever the file is called; null where they are none of them.
const Importer* importer_for(std::string_view contents);
/// "*.jpg *.jpeg *.png", for a dialog.
std::string patterns(FileKind kind);
/// Where one that is wanted was not chosen: "this is a job, not a drawing (DXF): Ctrl+O opens it". Empty where it may
/// be what is wanted.
std::string taken_elsewhere(FileKind wanted, std::string_view contents);
/// docs/files-in.md, the whole of it.
std::string table_of_importers();

}  // namespace bevelsmith::exchange

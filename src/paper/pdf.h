// Papers of one piece or part: its page to mark out by, and tiles at 1:1 to prick through or glue down.
#pragma once

#include <optional>
#include <string>

#include "exchange/drawing.h"
#include "paper/tiles.h"
#include "units/stop.h"

class QPagedPaintDevice;

namespace bevelsmith::paper {

/// More paper than this is no template any more: a roll or a cutter serves better.
inline constexpr std::size_t most_pages = 500;
/// Why a drawing is not printed; nothing where it may be.
std::optional<Error> too_many_pages(const exchange::Drawing& drawing, const PdfOptions& options);

/// The piece's page, then one tile a page, those without a line to cut left out. At 1:1 by the device's own
/// resolution, on pages without margins of its own. Needs a QGuiApplication. Throws Stopped when `keep_going` says
/// no.
void paint_pages(const exchange::Drawing& drawing, const PdfOptions& options, QPagedPaintDevice& device,
                 const KeepGoing& keep_going = {});
/// The same into a file, atomically; stopped, it leaves the file as it was.
Result<bool> write_pdf(const exchange::Drawing& drawing, const PdfOptions& options, const std::string& path,
                       const KeepGoing& keep_going = {});

}  // namespace bevelsmith::paper

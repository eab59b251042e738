#include "paper/pdf.h"

#include <fmt/format.h>
#include <QPdfWriter>
#include <QSaveFile>

#include "paper/page.h"
#include "paper/piece_page.h"

namespace bevelsmith::paper {
namespace {

constexpr int pdf_dots_per_inch = 1200;

}  // namespace

std::optional<Error> too_many_pages(const exchange::Drawing& d, const PdfOptions& options) {
    const auto laid = laid_for(d, options);
    const auto pages = printed_tiles(laid, tiling_for(laid, options)).size();
    if (pages <= most_pages) return std::nullopt;
    return Error{
        fmt::format("it would take {} pages, and {} are the most: write a DXF for a cutter or a roll, or divide "
                    "the piece by joints",
                    pages, most_pages)};
}

void paint_pages(const exchange::Drawing& drawing, const PdfOptions& options, QPagedPaintDevice& device,
                 const KeepGoing& keep_going) {
    const Vec2 page = page_size_mm(options);
    Paper paper(device, QSizeF(page.y(), page.x()));
    draw_piece_pages(paper, drawing);
    const auto laid = laid_for(drawing, options);
    const Tiling tiling = tiling_for(laid, options);
    const auto printed = printed_tiles(laid, tiling);
    for (std::size_t k = 0; k < printed.size(); ++k) {
        ask(keep_going);
        paper.next_page(QSizeF(tiling.page_width_mm, tiling.page_height_mm));
        draw_tile(paper, laid, tiling, printed, k);
    }
}

Result<bool> write_pdf(const exchange::Drawing& d, const PdfOptions& options, const std::string& path,
                       const KeepGoing& keep_going) {
    if (auto fault = too_many_pages(d, options)) return *fault;
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setResolution(pdf_dots_per_inch);
        writer.setTitle(QString::fromStdString(d.title));
        writer.setCreator("Bevelsmith");
        paint_pages(d, options, writer, keep_going);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper

#include "paper/cut_papers.h"

#include <QPdfWriter>
#include <QSaveFile>

#include "exchange/cut_list.h"
#include "paper/labels.h"
#include "paper/length_pages.h"
#include "paper/page.h"
#include "paper/sheet_pages.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

constexpr int dots_per_inch = 600;

/// Lying: three sizes a part want the room.
void list_page(Paper& paper, const job::Job& job, const std::vector<exchange::CutRow>& rows) {
    const std::vector<std::pair<const char*, double>> columns{
        {"part", 9}, {"piece", 22},    {"unit or place", 15}, {"sheet", 18},
        {"qty", 3},  {"finished", 11}, {"cut from it", 11},   {"blank", 11}};
    const double wide = paper.size().width() - 2 * margin, share = wide / 100;
    const auto unit = job.unit;
    double y = paper.size().height();
    const auto cells = [&](const QStringList& words, bool strong) {
        double x = margin;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            paper.text({x, y, columns[k].second * share - 1.5, 5}, 2.9, words[static_cast<int>(k)], strong || k == 0);
            x += columns[k].second * share;
        }
    };
    const auto head = [&] {
        paper.begin_page();
        paper.text({margin, margin, wide, 8}, 5.5, "Cut list: " + text_of(job.name), true);
        paper.text(
            {margin, margin + 8, wide, 6}, 3,
            "Sizes along the grain x across it, in " + text_of(units::unit_in_words(unit)) +
                ". Finished: in the boat, with lippings; cut from it: what the sheet gives; blank: cut out first. " +
                text_of(units::figure_note(unit)));
        y = margin + 18;
        QStringList heads;
        for (const auto& column : columns) heads << column.first;
        cells(heads, true);
        paper.pen(0.3);
        paper.line({margin, y + 5.5}, {margin + wide, y + 5.5});
        y += 7;
    };
    const auto size = [&](double along, double across) { return length(along, unit) + " x " + length(across, unit); };
    for (const auto& r : rows) {
        if (y + 6 > paper.size().height() - margin) head();
        cells({text_of(r.part_id), text_of(r.piece), text_of(r.unit), text_of(r.material),
               QString::number(r.quantity), size(r.finished_along_mm, r.finished_across_mm),
               size(r.sheet_along_mm, r.sheet_across_mm), size(r.blank_along_mm, r.blank_across_mm)},
              false);
        y += 5.6;
    }
}

}  // namespace

Result<bool> write_cut_papers(const job::Job& job, const job::Results& results, const CutPaperOptions& options,
                              const std::string& path, const KeepGoing& keep_going) {
    const auto rows = exchange::cut_list(job, results);
    if (rows.empty()) return Error{"there is nothing to cut yet: no piece has an outline"};
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setResolution(dots_per_inch);
        writer.setTitle("Cut papers: " + text_of(job.name));
        writer.setCreator("Bevelsmith");
        const Vec2 page = page_size_mm({options.size == Size::roll ? Size::a4 : options.size});
        const QSizeF size(page.x(), page.y());
        Paper paper(writer, size.transposed());
        list_page(paper, job, rows);
        sheet_pages(paper, job, results, size, keep_going);
        length_pages(paper, job, results, size);
        if (const auto* labels = label_sheet(options.labels)) draw_labels(paper, job, results, *labels, keep_going);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper

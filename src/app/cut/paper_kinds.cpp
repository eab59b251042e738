#include "app/cut/paper_kinds.h"

#include "exchange/cut_list.h"
#include "exchange/plain_text.h"
#include "exchange/sheet_plan.h"
#include "exchange/step_file.h"
#include "job/file_io.h"
#include "job/in_full.h"
#include "job/reference.h"
#include "paper/boat_pages.h"
#include "paper/cut_papers.h"

namespace bevelsmith::app {
namespace {

using What = PaperOf::What;

Result<exchange::Drawing> drawing(const Computed& c, const PaperOf& of, const PaperChoices& choices) {
    return exchange::drawing_of(c.job, c.results, of.id, choices.step_mm);
}

template <exchange::Format format>
Result<bool> write_drawing(const Computed& c, const PaperOf& of, const PaperChoices& choices, const std::string& path,
                           const KeepGoing&) {
    const auto drawn = drawing(c, of, choices);
    return drawn ? exchange::write_drawing(*drawn, format, path) : Result<bool>(drawn.error());
}

Result<bool> write_pdf(const Computed& c, const PaperOf& of, const PaperChoices& choices, const std::string& path,
                       const KeepGoing& keep_going) {
    const auto drawn = drawing(c, of, choices);
    return drawn ? paper::write_pdf(*drawn, choices.pdf, path, keep_going) : Result<bool>(drawn.error());
}

Result<bool> write_step(const Computed& c, const PaperOf& of, const PaperChoices&, const std::string& path,
                        const KeepGoing& keep_going) {
    if (of.id.ends_with(job::pattern_suffix))
        return Error{"a trial pattern is a flat sheet: take its DXF or SVG; the solid is the piece's"};
    std::vector<std::string> ids;
    if (of.what == What::piece) ids.push_back(job::piece_of_part(of.id));
    else
        for (const auto& piece : c.job.pieces) ids.push_back(piece.id);
    return exchange::write_step(c.job, c.results, ids, path, keep_going);
}

using WriteSheet = Result<bool> (*)(const job::Job&, const job::SheetResult&, int, const std::string&);
template <WriteSheet write>
Result<bool> write_sheet(const Computed& c, const PaperOf& of, const PaperChoices&, const std::string& path,
                         const KeepGoing&) {
    for (const auto& sheets : c.results.sheets)
        if (sheets.material_id == of.id) return write(c.job, sheets, of.sheet, path);
    return Error{"this sheet is no longer laid out"};
}

template <class Text>
PaperKind::Write table(Text) {
    return [](const Computed& c, const PaperOf&, const PaperChoices&, const std::string& path, const KeepGoing&) {
        return job::write_file_atomically(path, Text()(c));
    };
}

Result<bool> write_cut_papers(const Computed& c, const PaperOf&, const PaperChoices& choices, const std::string& path,
                              const KeepGoing& keep_going) {
    return paper::write_cut_papers(c.job, c.results, {choices.pdf.size, {}}, path, keep_going);
}

Result<bool> write_labels(const Computed& c, const PaperOf&, const PaperChoices& choices, const std::string& path,
                          const KeepGoing& keep_going) {
    const auto* sheet = paper::label_sheet(choices.labels);
    return paper::write_labels(c.job, c.results, sheet ? *sheet : paper::label_sheets().front(), path, keep_going);
}

Result<bool> write_workbook(const Computed& c, const PaperOf&, const PaperChoices&, const std::string& path,
                            const KeepGoing&) {
    return exchange::write_workbook(c.job, c.results, path);
}

Result<bool> write_old_state(const Computed& c, const PaperOf&, const PaperChoices&, const std::string& path,
                             const KeepGoing&) {
    return paper::write_old_state(c.job, c.results, path);
}

Result<bool> write_guide(const Computed& c, const PaperOf& of, const PaperChoices&, const std::string& path,
                         const KeepGoing&) {
    const std::string id = job::piece_of_part(of.id);
    const auto* piece = job::find_piece(c.job, id);
    const auto* result = c.results.piece(id);
    if (!piece || !result) return Error{"the piece is gone"};
    return paper::write_shaving_guide(c.job, *piece, *result, path);
}

/// From the first of what could serve: the panel that sets it out offers the others.
Result<bool> write_set_out(const Computed& c, const PaperOf& of, const PaperChoices&, const std::string& path,
                           const KeepGoing&) {
    const std::string id = job::piece_of_part(of.id);
    const auto* piece = job::find_piece(c.job, id);
    const auto* result = c.results.piece(id);
    if (!piece || !result || !result->shape()) return Error{"it has no outline yet"};
    const auto choices = job::reference_choices(c.job, *piece);
    if (choices.empty())
        return Error{"there is nothing to measure from: set marks in Measure, or say what stands already"};
    const auto reference = job::reference_named(c.job, choices.front().text, *result->middle());
    if (!reference) return reference.error();
    const auto lines =
        piece::at_boat(*piece, *result->shape(), *reference, job::boat_marks(c.job), result->bearing.get());
    return paper::write_setting_out(c.job, *piece, *result, lines, path);
}

}  // namespace

const std::vector<PaperKind>& paper_kinds() {
    using exchange::Format;
    static const std::vector<PaperKind> all{
        {"workbook", What::job, "Workbook (XLSX): cut list, shopping, lengths, saw cuts", "cut list", "xlsx", false,
         false, false, write_workbook},
        {"cut papers", What::job, "Cut list, sheets and lengths (PDF)", "cut papers", "pdf", true, false, false,
         write_cut_papers},
        {"labels", What::job, "Labels for the parts (PDF)", "labels", "pdf", false, false, true, write_labels},
        {"cut list", What::job, "Cut list (CSV)", "cut list", "csv", false, false, false,
         table([](const Computed& c) {
             return exchange::cut_list_csv(exchange::cut_list(c.job, c.results), c.job.unit);
         })},
        {"shopping", What::job, "Shopping list (CSV)", "shopping", "csv", false, false, false,
         table([](const Computed& c) { return exchange::shopping_csv(c.job, c.results); })},
        {"lengths", What::job, "Lengths from bars (CSV)", "lengths", "csv", false, false, false,
         table([](const Computed& c) { return exchange::lengths_csv(c.results, c.job.unit); })},
        {"saw cuts", What::job, "Saw cuts with their tilts (CSV)", "saw cuts", "csv", false, false, false,
         table([](const Computed& c) { return exchange::edge_cuts_csv(c.job, c.results); })},
        {"all solids", What::job, "STEP, all pieces as solids", "solids", "step", false, false, false, write_step},
        {"old state", What::job, "How it stood, before anything is taken out (PDF)", "old state", "pdf", false, false,
         false, write_old_state},
        {"piece pdf", What::piece, "Its page and tiles at 1:1 (PDF)", "papers", "pdf", true, true, false, write_pdf},
        {"piece dxf", What::piece, "DXF, faces and marks in layers", "outline", "dxf", false, false, false,
         write_drawing<Format::dxf>},
        {"piece svg", What::piece, "SVG at 1:1", "outline", "svg", false, false, false, write_drawing<Format::svg>},
        {"piece edge", What::piece, "CSV, the edge across and up, with bevels", "edge", "csv", false, true, false,
         write_drawing<Format::csv>},
        {"piece ordinates", What::piece, "CSV, ordinates from base lines", "ordinates", "csv", false, true, false,
         write_drawing<Format::ordinates>},
        {"piece solid", What::piece, "STEP, solids with their bevels", "solids", "step", false, false, false,
         write_step},
        {"piece set out", What::piece, "Its lines set out at the boat (PDF)", "set out", "pdf", false, false, false,
         write_set_out},
        {"piece guide", What::piece, "Shaving guide of its last fitting (PDF)", "shaving guide", "pdf", false, false,
         false, write_guide},
        {"sheet dxf", What::sheet, "DXF, outlines, openings and marks in layers", "plan", "dxf", false, false, false,
         write_sheet<exchange::write_sheet_dxf>},
        {"sheet svg", What::sheet, "SVG at 1:1", "plan", "svg", false, false, false,
         write_sheet<exchange::write_sheet_svg>}};
    return all;
}

QString proposed_name(const Computed& c, const PaperOf& of, const PaperKind& kind) {
    std::string name;
    if (of.what == What::sheet) {
        const auto* material = job::find_material(c.job, of.id);
        name = (material ? material->name : of.id) + " sheet " + std::to_string(of.sheet + 1) + " ";
    } else if (of.what == What::piece) {
        const auto* piece = job::find_piece(c.job, job::piece_of_part(of.id));
        name = of.id + (piece ? " " + piece->name : std::string()) + " ";
    } else if (!c.job.name.empty()) {
        name = c.job.name + " ";
    }
    return QString::fromStdString(exchange::safe_file_name(name + kind.suffix)) + "." + kind.ending;
}

}  // namespace bevelsmith::app

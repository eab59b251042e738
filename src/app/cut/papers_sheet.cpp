#include "app/cut/papers_sheet.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QPrintDialog>
#include <QPrinter>
#include <algorithm>

#include "exchange/cut_list.h"
#include "exchange/sheet_plan.h"
#include "exchange/step_file.h"
#include "job/file_io.h"
#include "job/in_full.h"
#include "paper/cut_papers.h"

namespace bevelsmith::app {
namespace {

constexpr const char* whole_job = "*";
constexpr const char* sheet_prefix = "sheet:";

}  // namespace

PapersSheet::PapersSheet(Document& document) : SideSheet(document, "Papers to cut from") {
    what_ = panel_->choice("piece or part", {});
    what_->setAccessibleName("piece or part");
    format_ = panel_->choice("written as", {});
    format_->setAccessibleName("written as");
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    path_ = new QLineEdit;
    path_->setAccessibleName("file");
    panel_->field("to the file", path_);
    auto* browse = panel_->quiet_button("Choose the file");
    pages_ = panel_->words({}, false);
    panel_->words(
        "The PDF has a line of 100 mm to check the printer by, round marks where tiles join, and the table of "
        "ordinates and bevels from which the edge can "
        "be marked out with a batten. Print at 100 %, not fitted to the page.");
    panel_->words(
        "At the saw: guard, push stick, eyes and dust mask. Bevels past 45 degrees are cut square and dressed. Local "
        "codes come first.");
    fault_ = panel_->fault();
    print_ = panel_->quiet_button("Print it at 1:1");
    panel_->end();
    act_ = panel_->act("Write it");
    connect(print_, &QPushButton::clicked, this, &PapersSheet::print);
    connect(what_, &QComboBox::activated, this, [this] { propose_path(); });
    connect(format_, &QComboBox::activated, this, [this] { propose_path(); });
    connect(path_, &QLineEdit::textEdited, this, [this] { own_path_ = true; });
    connect(path_, &QLineEdit::returnPressed, this, &PapersSheet::write);
    connect(act_, &QPushButton::clicked, this, &PapersSheet::write);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getSaveFileName(this, "Write the papers to", path_->text(), {}, nullptr,
                                                            QFileDialog::DontUseNativeDialog);
        if (chosen.isEmpty()) return;
        path_->setText(chosen);
        own_path_ = true;
    });
    connect(&document_, &Document::computed_changed, this, &PapersSheet::refresh);
    refresh();
}

std::string PapersSheet::chosen_id() const {
    const int k = what_->currentIndex();
    return k >= 0 && k < static_cast<int>(ids_.size()) ? ids_[static_cast<std::size_t>(k)] : std::string();
}

void PapersSheet::refresh() {
    const std::string before = ids_.empty() ? document_.selected_piece().toStdString() : chosen_id();
    ids_.clear();
    what_->clear();
    const auto computed = document_.computed();
    const auto add = [this](const std::string& id, const QString& words) {
        ids_.push_back(id);
        what_->addItem(words);
    };
    for (const auto& piece : computed->results.pieces) {
        const auto* shape = piece.shape();
        if (!shape) continue;
        if (ids_.empty()) add(whole_job, "The whole job: cut list and other tables");
        const auto* spec = job::find_piece(computed->job, piece.id);
        add(piece.id, QString::fromStdString(piece.id + "  " + (spec ? spec->name : "")));
        for (const auto& part : shape->parts) {
            if (shape->parts.size() < 2) break;
            add(part.id, QString::fromStdString("    " + part.id + "  " + part.name));
        }
    }
    for (const auto& sheets : computed->results.sheets) {
        const auto* material = job::find_material(computed->job, sheets.material_id);
        for (std::size_t s = 0; s < sheets.layout->sheet_stock.size(); ++s)
            add(sheet_prefix + sheets.material_id + ":" + std::to_string(s),
                QString("Sheet %1 of %2").arg(s + 1).arg(QString::fromStdString(material ? material->name : "")));
    }
    const auto it = std::find(ids_.begin(), ids_.end(), before);
    what_->setCurrentIndex(it == ids_.end() ? (ids_.empty() ? -1 : 0) : static_cast<int>(it - ids_.begin()));
    act_->setEnabled(!ids_.empty());
    offer_formats();
    propose_path();
}

PapersSheet::Of PapersSheet::chosen() const {
    const std::string id = chosen_id();
    return id == whole_job ? Of::job : id.rfind(sheet_prefix, 0) == 0 ? Of::sheet : Of::piece;
}

/// What each is written as, and the ending of its file.
const std::vector<PapersSheet::Written>& PapersSheet::written_as() const {
    static const std::vector<Written> piece{{"PDF at 1:1 on A4", "pdf"},
                                            {"PDF at 1:1 on A3", "pdf"},
                                            {"PDF at 1:1 on a roll", "pdf"},
                                            {"DXF, faces and marks in layers", "dxf"},
                                            {"SVG at 1:1", "svg"},
                                            {"CSV, the edge across and up, with bevels", "csv"},
                                            {"CSV, ordinates from base lines", "csv"},
                                            {"STEP, solids with their bevels", "step"}};
    static const std::vector<Written> sheet{{"DXF, outlines, openings and marks in layers", "dxf"},
                                            {"SVG at 1:1", "svg"}};
    static const std::vector<Written> job{{"Workbook (XLSX): cut list, shopping, lengths, saw cuts", "xlsx"},
                                          {"Cut list, sheets, lengths, labels on A4 (PDF)", "pdf"},
                                          {"Cut list (CSV)", "csv"},
                                          {"Shopping list (CSV)", "csv"},
                                          {"Lengths from bars (CSV)", "csv"},
                                          {"Saw cuts with their tilts (CSV)", "csv"},
                                          {"STEP, all pieces as solids", "step"}};
    return chosen() == Of::piece ? piece : chosen() == Of::sheet ? sheet : job;
}

void PapersSheet::offer_formats() {
    QStringList words, shown;
    for (const auto& one : written_as()) words << one.words;
    for (int k = 0; k < format_->count(); ++k) shown << format_->itemText(k);
    if (words != shown) {
        format_->clear();
        format_->addItems(words);
        format_->setCurrentIndex(0);
    }
    print_->setEnabled(!ids_.empty() && chosen() == Of::piece);
    FieldList fields;
    const int format = format_->currentIndex();
    if (chosen() == Of::piece && (format <= last_pdf || format == 5 || format == 6))
        fields.length(
            "stations every", step_mm_, [this](const QVariant& v) { step_mm_ = v.toDouble(); }, least_step_mm,
            most_step_mm);
    if (chosen() == Of::piece && format == last_pdf)
        fields.length(
            "roll, wide", roll_mm_, [this](const QVariant& v) { roll_mm_ = v.toDouble(), propose_path(); },
            paper::least_roll_mm, paper::most_roll_mm);
    form_->show_fields(fields.take());
}

paper::PdfOptions PapersSheet::pdf_options() const {
    static constexpr paper::Size sizes[] = {paper::Size::a4, paper::Size::a3, paper::Size::roll};
    return {sizes[std::clamp(format_->currentIndex(), 0, last_pdf)], 10, roll_mm_};
}

Result<exchange::Drawing> PapersSheet::drawing() const {
    const auto computed = document_.computed();
    return exchange::drawing_of(computed->job, computed->results, chosen_id(), step_mm_);
}

void PapersSheet::propose_path() {
    offer_formats();
    const auto format = static_cast<std::size_t>(std::max(0, format_->currentIndex()));
    const QString ending = written_as()[std::min(format, written_as().size() - 1)].ending;
    static const char* tables[] = {"cut-list", "cut-papers", "cut-list", "shopping", "lengths", "saw-cuts", "pieces"};
    const QString name =
        chosen() == Of::job ? QString(tables[std::min<std::size_t>(format, 6)]) : QString::fromStdString(chosen_id());
    if (!own_path_) {
        const QString folder =
            document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
        const QString path = QDir(folder).filePath(QString(name).replace('/', '-').replace(':', '-') + "." + ending);
        path_->setText(path.startsWith(QDir::homePath() + "/") ? "~" + path.mid(QDir::homePath().size()) : path);
    } else {
        const QFileInfo info(path_->text());
        path_->setText(info.dir().filePath(info.completeBaseName() + "." + ending));
    }
    pages_->clear();
    if (chosen() != Of::piece) return;
    const auto drawn = drawing();
    if (!drawn || static_cast<int>(format) > last_pdf) return;
    const auto options = pdf_options();
    const auto laid = paper::laid_for(*drawn, options);
    const auto t = paper::tiling_for(laid, options);
    pages_->setText(QString("%1 %2 of %3 across and %4 down carry something and are printed, after the table.")
                        .arg(paper::printed_tiles(laid, t).size())
                        .arg(options.size == paper::Size::roll ? "strips" : "tiles")
                        .arg(t.columns)
                        .arg(t.rows));
}

void PapersSheet::print() {
    const auto drawn = drawing();
    if (!drawn) return fault_->say(QString::fromStdString(drawn.error().message));
    const auto options = pdf_options();
    if (const auto fault = paper::too_many_pages(*drawn, options))
        return fault_->say("Not printed: " + QString::fromStdString(fault->message) + ".");
    QPrinter printer(QPrinter::HighResolution);
    printer.setFullPage(true);
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted) return;
    paper::paint_pages(*drawn, options, printer);
    emit said("Sent to the printer at 1:1. Measure the line of 100 mm before you cut.");
}

Result<bool> PapersSheet::write_to(const std::string& path) const {
    const auto computed = document_.computed();
    const auto& job = computed->job;
    const auto& results = computed->results;
    const int format = format_->currentIndex();
    if (chosen() == Of::sheet) {
        const std::string rest = chosen_id().substr(std::string(sheet_prefix).size());
        const auto colon = rest.rfind(':');
        for (const auto& sheets : results.sheets) {
            if (sheets.material_id != rest.substr(0, colon)) continue;
            const int s = std::stoi(rest.substr(colon + 1));
            return format == 0 ? exchange::write_sheet_dxf(job, sheets, s, path)
                               : exchange::write_sheet_svg(job, sheets, s, path);
        }
        return Error{"this sheet is no longer laid out"};
    }
    if (chosen() == Of::job) {
        switch (format) {
            case 0: return exchange::write_workbook(job, results, path);
            case 1: return paper::write_cut_papers(job, results, path);
            case 2: return job::write_file_atomically(path, exchange::cut_list_csv(exchange::cut_list(job, results)));
            case 3: return job::write_file_atomically(path, exchange::shopping_csv(job, results));
            case 4: return job::write_file_atomically(path, exchange::lengths_csv(results));
            case 5: return job::write_file_atomically(path, exchange::edge_cuts_csv(job, results));
            default: {
                std::vector<std::string> all;
                for (const auto& piece : job.pieces) all.push_back(piece.id);
                return exchange::write_step(job, results, all, path);
            }
        }
    }
    constexpr int step_format = 7;
    if (format == step_format) return exchange::write_step(job, results, {job::piece_of_part(chosen_id())}, path);
    const auto drawn = drawing();
    if (!drawn) return drawn.error();
    if (format <= last_pdf) return paper::write_pdf(*drawn, pdf_options(), path);
    using F = exchange::Format;
    static constexpr F formats[] = {F::dxf, F::svg, F::csv, F::ordinates};
    return exchange::write_drawing(*drawn, formats[format - last_pdf - 1], path);
}

void PapersSheet::write() {
    QString typed = path_->text().trimmed();
    if (typed.startsWith("~/")) typed = QDir::homePath() + typed.mid(1);
    if (typed.isEmpty()) return fault_->say("Say to which file.");
    if (const auto written = write_to(typed.toStdString()); !written)
        return fault_->say("Not written: " + QString::fromStdString(written.error().message));
    fault_->clear();
    emit said("Written: " + typed);
    emit close_asked();
}

}  // namespace bevelsmith::app

#include "app/cut/papers_sheet.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QPrintDialog>
#include <QPrinter>
#include <algorithm>

#include "exchange/drawing.h"
#include "paper/pdf.h"

namespace bevelsmith::app {

PapersSheet::PapersSheet(Document& document) : SideSheet(document, "Papers to cut from") {
    what_ = panel_->choice("piece or part", {});
    what_->setAccessibleName("piece or part");
    format_ = panel_->choice("written as", {"PDF at 1:1 on A4", "PDF at 1:1 on A3", "DXF, faces and marks in layers",
                                            "SVG at 1:1", "CSV, ordinates and bevels"});
    format_->setAccessibleName("written as");
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
    for (const auto& piece : document_.computed()->results.pieces) {
        const auto* shape = piece.shape();
        if (!shape) continue;
        const auto* spec = job::find_piece(document_.computed()->job, piece.id);
        ids_.push_back(piece.id);
        what_->addItem(QString::fromStdString(piece.id + "  " + (spec ? spec->name : "")));
        for (const auto& part : shape->parts) {
            if (shape->parts.size() < 2) break;
            ids_.push_back(part.id);
            what_->addItem(QString::fromStdString("    " + part.id + "  " + part.name));
        }
    }
    const auto it = std::find(ids_.begin(), ids_.end(), before);
    what_->setCurrentIndex(it == ids_.end() ? (ids_.empty() ? -1 : 0) : static_cast<int>(it - ids_.begin()));
    act_->setEnabled(!ids_.empty());
    print_->setEnabled(!ids_.empty());
    propose_path();
}

void PapersSheet::propose_path() {
    const char* endings[] = {"pdf", "pdf", "dxf", "svg", "csv"};
    const int format = std::max(0, format_->currentIndex());
    if (!own_path_) {
        const QString folder =
            document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
        const QString path =
            QDir(folder).filePath(QString::fromStdString(chosen_id()).replace('/', '-') + "." + endings[format]);
        path_->setText(path.startsWith(QDir::homePath() + "/") ? "~" + path.mid(QDir::homePath().size()) : path);
    } else {
        const QFileInfo info(path_->text());
        path_->setText(info.dir().filePath(info.completeBaseName() + "." + endings[format]));
    }
    pages_->clear();
    if (const auto drawing =
            exchange::drawing_of(document_.computed()->job, document_.computed()->results, chosen_id());
        drawing && format < 2) {
        const auto t = paper::tiling_for(*drawing, {format == 0 ? paper::Size::a4 : paper::Size::a3, 10});
        pages_->setText(QString("%1 tiles of %2 across and %3 down carry something and are printed, after the table.")
                            .arg(paper::printed_tiles(*drawing, t).size())
                            .arg(t.columns)
                            .arg(t.rows));
    }
}

void PapersSheet::print() {
    const auto drawing = exchange::drawing_of(document_.computed()->job, document_.computed()->results, chosen_id());
    if (!drawing) return fault_->say(QString::fromStdString(drawing.error().message));
    const paper::PdfOptions options{format_->currentIndex() == 1 ? paper::Size::a3 : paper::Size::a4, 10};
    if (const auto fault = paper::too_many_pages(*drawing, options))
        return fault_->say("Not printed: " + QString::fromStdString(fault->message) + ".");
    QPrinter printer(QPrinter::HighResolution);
    printer.setFullPage(true);
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted) return;
    paper::paint_pages(*drawing, options, printer);
    emit said("Sent to the printer at 1:1. Measure the line of 100 mm before you cut.");
}

void PapersSheet::write() {
    const auto drawing = exchange::drawing_of(document_.computed()->job, document_.computed()->results, chosen_id());
    if (!drawing) return fault_->say(QString::fromStdString(drawing.error().message));
    const int format = format_->currentIndex();
    QString typed = path_->text().trimmed();
    if (typed.startsWith("~/")) typed = QDir::homePath() + typed.mid(1);
    const std::string path = typed.toStdString();
    if (path.empty()) return fault_->say("Say to which file.");
    const exchange::Format formats[] = {exchange::Format::dxf, exchange::Format::svg, exchange::Format::csv};
    const auto written = format < 2
                             ? paper::write_pdf(*drawing, {format == 0 ? paper::Size::a4 : paper::Size::a3, 10}, path)
                             : exchange::write_drawing(*drawing, formats[format - 2], path);
    if (!written) return fault_->say("Not written: " + QString::fromStdString(written.error().message));
    fault_->clear();
    emit said("Written: " + typed);
    emit close_asked();
}

}  // namespace bevelsmith::app

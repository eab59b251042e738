#include "app/pieces/set_out_panel.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHeaderView>

#include "exchange/plain_text.h"
#include "paper/boat_pages.h"
#include "units/places.h"

namespace bevelsmith::app {

SetOutPanel::SetOutPanel(Document& document) : SidePanel(document, "Set it out at the boat") {
    lead_ = panel_->words({}, false);
    from_ = panel_->choice("measured from", {});
    picture_ = new StationPicture(document);
    panel_->add(picture_);
    table_ = new QTableWidget(0, 5);
    table_->setAccessibleName("stations");
    table_->setHorizontalHeaderLabels({"station", "along", "face A", "face B", "apart"});
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    panel_->add(table_, 1);
    proofs_ = panel_->words({}, false);
    act_ = panel_->act("Its page, as PDF");
    connect(act_, &QPushButton::clicked, this, &SetOutPanel::write_page);
    connect(from_, &QComboBox::currentIndexChanged, this, &SetOutPanel::show_lines);
    connect(&document_, &Document::computed_changed, this, &SetOutPanel::refresh);
    connect(&document_, &Document::selection_changed, this, &SetOutPanel::refresh);
    refresh();
}

void SetOutPanel::refresh() {
    const auto& job = document_.computed()->job;
    const auto* piece = job::find_piece(job, document_.selected_piece().toStdString());
    const std::string before = from_->currentIndex() >= 0 && from_->currentIndex() < static_cast<int>(choices_.size())
                                   ? choices_[static_cast<std::size_t>(from_->currentIndex())].text
                                   : std::string();
    choices_ = piece ? job::reference_choices(job, *piece) : std::vector<job::ReferenceChoice>{};
    {
        const QSignalBlocker quiet(from_);
        from_->clear();
        int now = 0;
        for (std::size_t k = 0; k < choices_.size(); ++k) {
            from_->addItem(QString::fromStdString(choices_[k].words));
            if (choices_[k].text == before) now = static_cast<int>(k);
        }
        from_->setCurrentIndex(choices_.empty() ? -1 : now);
    }
    show_lines();
}

std::optional<piece::AtBoat> SetOutPanel::lines() const {
    const auto computed = document_.computed();
    const std::string id = document_.selected_piece().toStdString();
    const auto* piece = job::find_piece(computed->job, id);
    const auto* result = computed->results.piece(id);
    const int k = from_->currentIndex();
    if (!piece || !result || !result->shape() || k < 0 || k >= static_cast<int>(choices_.size())) return std::nullopt;
    const auto from =
        job::reference_named(computed->job, choices_[static_cast<std::size_t>(k)].text, *result->middle());
    if (!from) return std::nullopt;
    return piece::at_boat(*piece, *result->shape(), *from, job::boat_marks(computed->job), result->bearing.get());
}

void SetOutPanel::show_lines() {
    const auto at = lines();
    const auto* result = document_.computed()->results.piece(document_.selected_piece().toStdString());
    const bool shaped = result && result->shape();
    act_->setEnabled(at.has_value());
    picture_->show_stations(at);
    picture_->setVisible(at.has_value()), table_->setVisible(at.has_value()), proofs_->setVisible(at.has_value());
    if (!at) {
        lead_->setText(document_.selected_piece().isEmpty() ? "Choose a piece first."
                       : !shaped
                           ? "It has no outline yet: there is nothing to set out."
                           : "There is nothing to measure from yet: set marks in Measure (two for a string, three "
                             "for a plane), or add a bulkhead that stands already.");
        return;
    }
    const Vec3 n = result->shape()->frame.normal;
    const auto way = units::way_in_words(n.x(), n.y(), n.z());
    lead_->setText(QString("Draw both lines on what it meets: offsets are square to %1. Face B is the line that lies "
                           "farther %2.")
                       .arg(QString::fromStdString(at->reference.words),
                            QString::fromUtf8(way.data(), static_cast<qsizetype>(way.size()))));
    table_->setRowCount(static_cast<int>(at->stations.size()));
    for (int k = 0; k < table_->rowCount(); ++k) {
        const auto& s = at->stations[static_cast<std::size_t>(k)];
        const QStringList cells{QString::number(s.number) + (s.is_corner ? " ●" : ""),
                                QString::fromStdString(s.edge_name), document_.length(s.offset_a_mm),
                                document_.length(s.offset_b_mm), document_.length(s.apart_mm)};
        for (int j = 0; j < cells.size(); ++j) table_->setItem(k, j, new QTableWidgetItem(cells[j]));
    }
    QStringList proofs;
    constexpr std::size_t few = 3;
    for (std::size_t k = 0; k < std::min(few, at->diagonals.size()); ++k)
        proofs << QString("%1 to %2: %3")
                      .arg(at->diagonals[k].from)
                      .arg(at->diagonals[k].to)
                      .arg(document_.length(at->diagonals[k].mm));
    proofs_->setText("Tape to prove it, from corner to corner: " + proofs.join("; ") +
                     (at->ties.empty() ? ". With marks in Measure there are ties as well."
                                       : QString(". On its page: %1 ties to marks.").arg(at->ties.size())));
}

void SetOutPanel::write_page() {
    const auto at = lines();
    if (!at) return;
    const auto computed = document_.computed();
    const std::string id = document_.selected_piece().toStdString();
    const QString name = QString::fromStdString(exchange::safe_file_name(id + " set out")) + ".pdf";
    QString path = QFileDialog::getSaveFileName(this, "Its page for the boat", name, "PDF (*.pdf)", nullptr,
                                                QFileDialog::DontUseNativeDialog);
    if (path.isEmpty()) return;
    if (QFileInfo(path).suffix().isEmpty()) path += ".pdf";
    const auto written = paper::write_setting_out(computed->job, *job::find_piece(computed->job, id),
                                                  *computed->results.piece(id), *at, path.toStdString());
    if (written) emit wrote("Written: " + QFileInfo(path).fileName(), path);
    else emit said(path + ": " + QString::fromStdString(written.error().message));
}

}  // namespace bevelsmith::app

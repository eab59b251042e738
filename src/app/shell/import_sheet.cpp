#include "app/shell/side_sheet.h"

#include <QFileDialog>
#include <QFileInfo>

#include "exchange/points_csv.h"
#include "job/json_text.h"

namespace bevelsmith::app {

ImportSheet::ImportSheet(Document& document) : SideSheet(document, "Points from a file") {
    panel_->words(
        "A text file with one point a line: forward, to port, up in millimetres, and its uncertainty if you know it. "
        "Commas, semicolons, tabs or spaces; lines with # are skipped.",
        false);
    path_ = new QLineEdit;
    path_->setAccessibleName("points file");
    panel_->field("from the file", path_);
    auto* browse = panel_->quiet_button("Choose the file");
    name_ = panel_->field("name", new QLineEdit("Imported points"));
    sigma_ = panel_->field("one point ±", length_edit([&d = document_] { return d.unit(); }));
    sigma_->set_value(1.5);
    sigma_->set_range(0.01, 1000);
    found_ = panel_->words({}, false);
    fault_ = panel_->words({});
    fault_->setObjectName("fault");
    panel_->end();
    act_ = panel_->act("Take the points over");
    act_->setEnabled(false);
    connect(path_, &QLineEdit::textChanged, this, &ImportSheet::look);
    connect(path_, &QLineEdit::returnPressed, this, &ImportSheet::take);
    connect(sigma_, &QuantityEdit::taken, this, &ImportSheet::look);
    connect(act_, &QPushButton::clicked, this, &ImportSheet::take);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, "Points", path_->text(), {}, nullptr,
                                                            QFileDialog::DontUseNativeDialog);
        if (!chosen.isEmpty()) path_->setText(chosen);
    });
}

void ImportSheet::look() {
    points_.clear();
    found_->clear();
    fault_->clear();
    const QString path = path_->text().trimmed();
    if (!path.isEmpty()) {
        if (!QFileInfo(path).isFile()) {
            fault_->setText("There is no such file.");
        } else if (const auto text = job::read_file(path.toStdString()); !text) {
            fault_->setText(QString::fromStdString(text.error().message));
        } else if (auto points = exchange::points_from_csv(*text, sigma_->value()); !points) {
            fault_->setText(QString("%1, line %2: %3. Nothing was taken over.")
                                .arg(QFileInfo(path).fileName())
                                .arg(points.error().line)
                                .arg(QString::fromStdString(points.error().message)));
        } else {
            points_ = std::move(points.value());
            found_->setText(QString("%1 points.").arg(points_.size()));
        }
    }
    act_->setEnabled(!points_.empty());
}

void ImportSheet::take() {
    if (points_.empty()) return;
    document_.edit("Import points", [&](job::Job& job) {
        job::JobReadingSet set;
        std::vector<std::string> ids;
        for (const auto& s : job.readings) ids.push_back(s.id);
        set.id = job::free_id("R", ids);
        set.name = name_->text().toStdString();
        set.school = survey::School::direct;
        set.sigma_mm = sigma_->value();
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        set.surface_id = job.surfaces.front().id;
        for (const auto& p : points_) {
            survey::Reading r;
            r.values = {p.position.x(), p.position.y(), p.position.z()};
            if (p.sigma_mm != set.sigma_mm) r.sigma_mm = p.sigma_mm;
            set.readings.push_back(r);
        }
        job.readings.push_back(set);
    });
    emit said(QString("%1 points taken over.").arg(points_.size()));
    emit close_asked();
}

}  // namespace bevelsmith::app

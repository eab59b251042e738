#include "app/shell/side_sheet.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>

#include "app/look/theme.h"
#include "app/steps/piece_fields.h"
#include "app/widgets/direction.h"
#include "exchange/drawing.h"
#include "exchange/points_csv.h"
#include "job/json_text.h"
#include "paper/pdf.h"

namespace bevelsmith::app {

SideSheet::SideSheet(Document& document, const QString& title) : document_(document) {
    setObjectName("sheet");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(sheet_width);
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, size::gap, 0, 0);
    column->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(size::pad, 0, size::pad, 0);
    auto* name = new QLabel(title);
    name->setObjectName("title");
    auto* close = new QPushButton("Close");
    close->setObjectName("quiet");
    row->addWidget(name, 1);
    row->addWidget(close);
    column->addLayout(row);
    panel_ = new Panel;
    column->addWidget(panel_, 1);
    connect(close, &QPushButton::clicked, this, &SideSheet::close_asked);
}

void SideSheet::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) emit close_asked();
    else QWidget::keyPressEvent(event);
}

FindingsSheet::FindingsSheet(Document& document) : SideSheet(document, "What needs attention") {
    auto* inside = new QWidget;
    rows_ = new QVBoxLayout(inside);
    rows_->setContentsMargins(0, 0, 0, 0);
    panel_->add(inside);
    panel_->end();
    connect(&document_, &Document::computed_changed, this, &FindingsSheet::refresh);
    refresh();
}

void FindingsSheet::refresh() {
    const auto& findings = document_.computed()->findings;
    if (filled_ && findings == shown_) return;
    filled_ = true;
    shown_ = findings;
    while (auto* item = rows_->takeAt(0)) {
        // A row may be rebuilt from its own button.
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    if (shown_.empty()) {
        auto* words = new QLabel("Nothing was found: the checks that apply to what is in the job are content.");
        words->setWordWrap(true);
        rows_->addWidget(words);
    }
    for (const auto& f : shown_) add_row(f);
}

void FindingsSheet::add_row(const review::Finding& f) {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 6);
    column->setSpacing(2);
    column->addWidget(new FindingRow(f));
    auto* row = new QHBoxLayout;
    row->setContentsMargins(24, 0, 0, 0);
    auto* go =
        new QPushButton(f.piece_id.empty() ? "See the readings" : "Go to " + QString::fromStdString(f.piece_id));
    auto* aside = new QPushButton(f.set_aside ? "Take it up again" : "Set aside");
    for (auto* b : {go, aside}) {
        b->setObjectName("quiet");
        row->addWidget(b);
    }
    row->addStretch(1);
    column->addLayout(row);
    auto* reason = new QLineEdit;
    reason->setPlaceholderText("why? Enter keeps the reason with the job");
    reason->setAccessibleName("reason to set aside");
    reason->hide();
    column->addWidget(reason);
    rows_->addWidget(box);
    connect(go, &QPushButton::clicked, this, [this, f] {
        if (!f.piece_id.empty()) document_.select_piece(QString::fromStdString(f.piece_id));
        const bool fixing = f.check.find("screw") != std::string::npos || f.check.find("block") != std::string::npos;
        emit wants_step(f.piece_id.empty() || f.check == "readings too sparse" ? "Measure"
                        : fixing                                               ? "Fix"
                        : f.check == "sheet too small"                         ? "Cut"
                                                                               : "Pieces");
    });
    connect(aside, &QPushButton::clicked, this, [this, f, reason] {
        if (f.set_aside) return take_up(f);
        reason->show();
        reason->setFocus();
    });
    connect(reason, &QLineEdit::returnPressed, this, [this, f, reason] {
        if (!reason->text().trimmed().isEmpty()) set_aside(f, reason->text().trimmed());
    });
}

void FindingsSheet::set_aside(const review::Finding& f, const QString& reason) {
    document_.edit("Set a finding aside", [&](job::Job& job) {
        job.set_aside.push_back({f.check, f.piece_id, reason.toStdString(), {}});
    });
}

void FindingsSheet::take_up(const review::Finding& f) {
    document_.edit("Take a finding up again", [&](job::Job& job) {
        std::erase_if(job.set_aside,
                      [&](const job::SetAside& a) { return a.check == f.check && a.piece_id == f.piece_id; });
    });
}

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
    fault_ = panel_->words({});
    fault_->setObjectName("fault");
    panel_->end();
    act_ = panel_->act("Write it");
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

void PapersSheet::write() {
    const auto drawing = exchange::drawing_of(document_.computed()->job, document_.computed()->results, chosen_id());
    if (!drawing) return fault_->setText(QString::fromStdString(drawing.error().message));
    const int format = format_->currentIndex();
    QString typed = path_->text().trimmed();
    if (typed.startsWith("~/")) typed = QDir::homePath() + typed.mid(1);
    const std::string path = typed.toStdString();
    if (path.empty()) return fault_->setText("Say to which file.");
    const exchange::Format formats[] = {exchange::Format::dxf, exchange::Format::svg, exchange::Format::csv};
    const auto written = format < 2
                             ? paper::write_pdf(*drawing, {format == 0 ? paper::Size::a4 : paper::Size::a3, 10}, path)
                             : exchange::write_drawing(*drawing, formats[format - 2], path);
    if (!written) return fault_->setText("Not written: " + QString::fromStdString(written.error().message));
    fault_->clear();
    emit said("Written: " + typed);
    emit close_asked();
}

NewPieceSheet::NewPieceSheet(Document& document, double at_mm) : SideSheet(document, "A new piece"), at_mm_(at_mm) {
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "It starts with a scribed edge to the hull and straight edges a little inside of the readings; all of them "
        "can be moved afterwards, by typing or on the drawing.");
    panel_->end();
    auto* act = panel_->act("Add it");
    connect(act, &QPushButton::clicked, this, [this] {
        std::string id;
        document_.edit("Add a piece", [&](job::Job& job) {
            job.pieces.push_back(new_piece(job, *document_.computed(), static_cast<NewPiece>(kind_), at_mm_));
            id = job.pieces.back().id;
        });
        document_.select_piece(QString::fromStdString(id));
        emit wants_step("Pieces");
        emit close_asked();
    });
    refresh();
}

void NewPieceSheet::refresh() {
    const char* at[] = {"face A at, fwd", "face A at, fwd", "face A at, port", "face A at, up"};
    const char* words[] = {
        "Across the boat from side to side: structure, tabbed on both sides. Halves meet at a joint that you set.",
        "Across the boat, from the hull to an inboard edge.", "Along the boat: a furniture face, a settee front.",
        "Level: a shelf, a counter, a sole or berth panel."};
    words_->setText(words[kind_]);
    form_->show_fields({{FormField::Kind::choice,
                         "kind",
                         kind_,
                         [this](const QVariant& v) {
                             kind_ = v.toInt();
                             refresh();
                         },
                         {"bulkhead", "half-bulkhead", "panel along the boat", "level panel"},
                         {}},
                        {FormField::Kind::length,
                         at[kind_],
                         at_mm_,
                         [this](const QVariant& v) { at_mm_ = v.toDouble(); },
                         {},
                         {},
                         -1e6,
                         1e6}});
}

NewSetSheet::NewSetSheet(Document& document) : SideSheet(document, "A new set of readings") {
    set_.school = survey::School::ordinates;
    set_.name = "Station";
    set_.sigma_mm = survey::default_sigma_mm(set_.school);
    if (!document_.job().readings.empty()) set_.origin = document_.job().readings.back().origin;
    words_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "Measure the whole reach of the piece and somewhat beyond it, at three stations or more, and once more "
        "wherever you are unsure.");
    panel_->end();
    auto* act = panel_->act("Make this set");
    connect(act, &QPushButton::clicked, this, &NewSetSheet::make);
    refresh();
}

void NewSetSheet::refresh() {
    using Kind = FormField::Kind;
    const bool line = set_.school == survey::School::ordinates, direct = set_.school == survey::School::direct;
    words_->setText(direct ? "Points measured straight in the boat's frame: forward, to port, up from the datum."
                    : line ? "A straight batten, string or laser line. At each station along it you read the square "
                             "distance to the hull."
                           : "Strips of thin board hot-glued in the plane of the piece until they nearly touch. Each "
                             "point is read across and up in that plane.");
    std::vector<FormField> fields{{Kind::choice,
                                   "how it is read",
                                   static_cast<int>(set_.school),
                                   [this](const QVariant& v) {
                                       set_.school = static_cast<survey::School>(v.toInt());
                                       set_.sigma_mm = survey::default_sigma_mm(set_.school);
                                       if (set_.school == survey::School::strip_pattern)
                                           set_.along = Vec3::UnitY(), set_.toward = Vec3::UnitZ();
                                       if (set_.school == survey::School::ordinates)
                                           set_.along = Vec3::UnitZ(), set_.toward = Vec3::UnitY();
                                       refresh();
                                   },
                                   {"ordinates from a line", "strip pattern", "points in the boat"},
                                   {}},
                                  {Kind::text,
                                   "name",
                                   QString::fromStdString(set_.name),
                                   [this](const QVariant& v) { set_.name = v.toString().toStdString(); },
                                   {},
                                   {}},
                                  {Kind::length,
                                   "one reading ±",
                                   set_.sigma_mm,
                                   [this](const QVariant& v) { set_.sigma_mm = v.toDouble(); },
                                   {},
                                   {},
                                   0.01,
                                   1000}};
    if (!direct) {
        const char* axes[] = {"fwd", "port", "up"};
        for (int k = 0; k < 3; ++k)
            fields.push_back({Kind::length,
                              QString("zero at, %1").arg(axes[k]),
                              set_.origin[k],
                              [this, k](const QVariant& v) { set_.origin[k] = v.toDouble(); },
                              {},
                              {},
                              -1e6,
                              1e6});
        const auto turn = [this](Vec3 survey::ReadingSet::*one, Vec3 survey::ReadingSet::*other) {
            return [this, one, other](const QVariant& v) {
                set_.*one = direction(v.toInt());
                if (std::abs((set_.*one).dot(set_.*other)) > 1e-9) set_.*other = direction(v.toInt() < 4 ? 4 : 2);
                refresh();
            };
        };
        fields.push_back({Kind::choice,
                          line ? "line runs" : "across is",
                          direction_choice(set_.along),
                          turn(&survey::ReadingSet::along, &survey::ReadingSet::toward),
                          direction_words(set_.along),
                          {}});
        fields.push_back({Kind::choice,
                          line ? "measured to" : "up is",
                          direction_choice(set_.toward),
                          turn(&survey::ReadingSet::toward, &survey::ReadingSet::along),
                          direction_words(set_.toward),
                          {}});
    }
    form_->show_fields(std::move(fields));
}

void NewSetSheet::make() {
    document_.edit("Make a set of readings", [&](job::Job& job) {
        job::JobReadingSet set;
        static_cast<survey::ReadingSet&>(set) = set_;
        std::vector<std::string> ids;
        for (const auto& s : job.readings) ids.push_back(s.id);
        set.id = job::free_id("R", ids);
        if (job.surfaces.empty()) job.surfaces = job::empty_job().surfaces;
        set.surface_id = job.surfaces.front().id;
        job.readings.push_back(set);
    });
    emit wants_step("Measure");
    emit close_asked();
}

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

ShortcutsSheet::ShortcutsSheet(Document& document) : SideSheet(document, "Keys") {
    const std::pair<const char*, const char*> keys[] = {
        {"Ctrl 1 to 6", "the steps, in their order"},
        {"Ctrl Z, Ctrl Shift Z", "undo, redo: every edit"},
        {"Ctrl S, Ctrl Shift S", "save, save as"},
        {"Ctrl O, Ctrl N", "open, begin a new job"},
        {"Ctrl P", "papers to cut from"},
        {"Ctrl K", "what needs attention"},
        {"Ctrl B, Ctrl G", "fold the pieces, the facts"},
        {"Ctrl D", "day and night"},
        {"F1", "this list"},
        {"Tab", "on to the next field or place"},
        {"Enter in a field", "takes it, and waits for the next"},
        {"Escape", "gives back the field, closes a sheet"},
        {"Enter in the readings", "corrects one"},
        {"Space, Delete in the readings", "sets one aside, removes it"},
        {"+  −  0 and arrows on a drawing", "nearer, farther, all of it, move"},
        {"Arrows on the shape", "turn it"},
        {"Arrows on a ribbon", "along the edge or the boat"},
        {"R on the sheets", "turns the part that is held"}};
    for (const auto& [key, what] : keys) {
        auto* row = new QHBoxLayout;
        auto* left = new QLabel(QString::fromUtf8(key));
        left->setObjectName("heading");
        left->setFixedWidth(170);
        left->setWordWrap(true);
        auto* right = new QLabel(QString::fromUtf8(what));
        right->setWordWrap(true);
        row->addWidget(left, 0, Qt::AlignTop);
        row->addWidget(right, 1);
        panel_->column()->addLayout(row);
    }
    panel_->end();
}

SideSheet* make_sheet(Document& document, const QString& name) {
    if (name == "findings") return new FindingsSheet(document);
    if (name == "papers") return new PapersSheet(document);
    if (name == "new set") return new NewSetSheet(document);
    if (name == "import") return new ImportSheet(document);
    if (name == "keys") return new ShortcutsSheet(document);
    if (!name.startsWith("new piece")) return nullptr;
    double at = 0;
    if (name.startsWith("new piece at ")) {
        at = name.mid(13).toDouble();
    } else if (const auto& surfaces = document.computed()->results.surfaces;
               !surfaces.empty() && surfaces.front().mesh) {
        Vec3 sum = Vec3::Zero();
        for (const auto& n : surfaces.front().mesh->nodes) sum += n.position;
        at = std::round(sum.x() / static_cast<double>(surfaces.front().mesh->nodes.size()) / 10) * 10;
    }
    return new NewPieceSheet(document, at);
}

}  // namespace bevelsmith::app

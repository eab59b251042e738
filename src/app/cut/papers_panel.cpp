#include "app/cut/papers_panel.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QJsonObject>
#include <QLocale>
#include <QPrintDialog>
#include <QPrinter>
#include <QtConcurrent>
#include <algorithm>

#include "app/keeping/choices_kept.h"
#include "job/in_full.h"

namespace bevelsmith::app {
namespace {

constexpr const char* choices_name = "papers";
constexpr double least_step_mm = 10, most_step_mm = 2000;
constexpr const char* paper_names[] = {"a4", "a3", "letter", "tabloid", "roll"};
const QStringList paper_words{"A4", "A3", "Letter", "Tabloid", "on a roll"};

/// A home folder is shown as ~.
QString shown(const QString& path) {
    const QString home = QDir::homePath() + "/";
    return path.startsWith(home) ? "~/" + path.mid(home.size()) : path;
}

}  // namespace

PapersPanel::PapersPanel(Document& document) : SidePanel(document, "Papers to cut from") {
    choices_.step_mm = exchange::usual_row_spacing_mm(document.unit());
    take_up_choices();
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
        "What is drawn heavy is what is cut from the sheet; where lippings or shaving make it another shape, the "
        "finished one is dashed beside it. Print at 100 %, not fitted to the page, and measure the check lines.");
    panel_->words(
        "At the saw: guard, push stick, eyes and dust mask. Bevels past 45 degrees are cut square and dressed. Local "
        "codes come first.");
    fault_ = panel_->fault();
    print_ = panel_->quiet_button("Print it at 1:1");
    busy_ = new QWidget;
    auto* row = new QHBoxLayout(busy_);
    row->setContentsMargins(0, 0, 0, 0);
    auto* bar = new QProgressBar;
    bar->setRange(0, 0);
    bar->setTextVisible(false);
    stop_ = new QPushButton("Stop writing");
    stop_->setObjectName("quiet");
    row->addWidget(bar, 1);
    row->addWidget(stop_);
    busy_->hide();
    panel_->add(busy_);
    panel_->end();
    act_ = panel_->act("Write it");
    connect_all(browse);
    refresh();
}

void PapersPanel::connect_all(QPushButton* browse) {
    connect(print_, &QPushButton::clicked, this, &PapersPanel::print);
    connect(stop_, &QPushButton::clicked, this, &PapersPanel::stop);
    connect(what_, &QComboBox::activated, this, [this] {
        own_path_ = false;
        offer_kinds();
        propose_path();
    });
    connect(format_, &QComboBox::activated, this, [this] {
        if (const auto* k = kind()) last_kind_[static_cast<int>(k->of)] = k->id;
        show_fields();
        propose_path();
    });
    connect(path_, &QLineEdit::textEdited, this, [this] {
        own_path_ = true, replace_ = false;
        show_fields();
    });
    connect(path_, &QLineEdit::returnPressed, this, &PapersPanel::write);
    connect(act_, &QPushButton::clicked, this, &PapersPanel::write);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen =
            QFileDialog::getSaveFileName(this, "Write the papers to", typed_path(), {}, nullptr,
                                         QFileDialog::DontUseNativeDialog | QFileDialog::DontConfirmOverwrite);
        if (chosen.isEmpty()) return;
        path_->setText(shown(chosen));
        own_path_ = true, replace_ = false;
        show_fields();
    });
    connect(&document_, &Document::computed_changed, this, &PapersPanel::refresh);
    connect(&writing_, &QFutureWatcher<std::optional<Result<bool>>>::finished, this, &PapersPanel::written);
}

PapersPanel::~PapersPanel() {
    stop();
    writing_.waitForFinished();
}

void PapersPanel::take_up_choices() {
    const QJsonObject kept = kept_choices(choices_name);
    choices_.pdf.size = paper::size_by_name(kept["paper"].toString().toStdString()).value_or(paper::Size::a4);
    const double step = kept["rows every, mm"].toDouble(), roll = kept["roll, mm"].toDouble();
    // Round steps of the other system read badly: then what is usual.
    const bool same_system = kept["in inches"].toBool() == units::in_inches(document_.unit());
    if (same_system && step >= least_step_mm && step <= most_step_mm) choices_.step_mm = step;
    if (roll >= paper::least_roll_mm && roll <= paper::most_roll_mm) choices_.pdf.roll_width_mm = roll;
    if (paper::label_sheet(kept["labels"].toString().toStdString()))
        choices_.labels = kept["labels"].toString().toStdString();
    folder_ = kept["folder"].toString();
    const QJsonObject kinds = kept["kinds"].toObject();
    for (int k = 0; k < 3; ++k) last_kind_[k] = kinds[QString::number(k)].toString().toStdString();
}

void PapersPanel::keep() {
    QJsonObject kinds;
    for (int k = 0; k < 3; ++k) kinds[QString::number(k)] = QString::fromStdString(last_kind_[k]);
    keep_choices(choices_name, {{"paper", paper_names[static_cast<int>(choices_.pdf.size)]},
                                {"rows every, mm", choices_.step_mm},
                                {"in inches", units::in_inches(document_.unit())},
                                {"roll, mm", choices_.pdf.roll_width_mm},
                                {"labels", QString::fromStdString(choices_.labels)},
                                {"folder", folder_},
                                {"kinds", kinds}});
}

const PaperOf& PapersPanel::of() const {
    static const PaperOf nothing;
    const int k = what_->currentIndex();
    return k >= 0 && k < static_cast<int>(all_.size()) ? all_[static_cast<std::size_t>(k)] : nothing;
}

const PaperKind* PapersPanel::kind() const {
    const int k = format_->currentIndex();
    return k >= 0 && k < static_cast<int>(kinds_.size()) ? kinds_[static_cast<std::size_t>(k)] : nullptr;
}

void PapersPanel::refresh() {
    const bool first = all_.empty();
    PaperOf before = of();
    if (first) before = {PaperOf::What::piece, document_.selected_piece().toStdString()};
    all_.clear();
    what_->clear();
    const auto computed = document_.computed();
    const auto add = [this](PaperOf one, const QString& words) {
        all_.push_back(std::move(one));
        what_->addItem(words);
    };
    using What = PaperOf::What;
    for (const auto& piece : computed->results.pieces) {
        const auto* shape = piece.shape();
        if (!shape) continue;
        if (all_.empty()) add({}, "The whole job: cut list and other tables");
        const auto* spec = job::find_piece(computed->job, piece.id);
        add({What::piece, piece.id}, QString::fromStdString(piece.id + "  " + (spec ? spec->name : "")));
        if (spec && job::pattern_to_cut(*spec))
            add({What::piece, piece.id + job::pattern_suffix},
                QString::fromStdString("    trial pattern of " + piece.id));
        for (const auto& part : shape->parts) {
            if (shape->parts.size() < 2) break;
            add({What::piece, part.id}, QString::fromStdString("    " + part.id + "  " + part.name));
        }
    }
    for (const auto& sheets : computed->results.sheets) {
        const auto* material = job::find_material(computed->job, sheets.material_id);
        for (int s = 0; s < static_cast<int>(sheets.layout->sheet_stock.size()); ++s)
            add({What::sheet, sheets.material_id, s},
                QString("Sheet %1 of %2").arg(s + 1).arg(QString::fromStdString(material ? material->name : "")));
    }
    const auto it = std::find(all_.begin(), all_.end(), before);
    what_->setCurrentIndex(it == all_.end() ? (all_.empty() ? -1 : 0) : static_cast<int>(it - all_.begin()));
    act_->setEnabled(!all_.empty());
    offer_kinds();
    propose_path();
}

void PapersPanel::offer_kinds() {
    std::vector<const PaperKind*> offered;
    for (const auto& one : paper_kinds())
        if (one.of == of().what) offered.push_back(&one);
    if (offered != kinds_) {
        kinds_ = offered;
        format_->clear();
        int now = 0;
        for (std::size_t k = 0; k < kinds_.size(); ++k) {
            format_->addItem(kinds_[k]->words);
            if (kinds_[k]->id == last_kind_[static_cast<int>(of().what)]) now = static_cast<int>(k);
        }
        format_->setCurrentIndex(now);
    }
    print_->setEnabled(!all_.empty() && of().what == PaperOf::What::piece);
    show_fields();
}

void PapersPanel::show_fields() {
    const auto* k = kind();
    FieldList fields;
    if (k && k->has_paper) {
        const bool rolls = of().what == PaperOf::What::piece;
        fields.choice("paper", std::min(static_cast<int>(choices_.pdf.size), rolls ? 4 : 3),
                      rolls ? paper_words : paper_words.mid(0, 4), [this](const QVariant& v) {
                          choices_.pdf.size = static_cast<paper::Size>(v.toInt());
                          show_fields();
                          say_pages();
                      });
        if (rolls && choices_.pdf.size == paper::Size::roll)
            fields.length(
                "roll, wide", choices_.pdf.roll_width_mm,
                [this](const QVariant& v) { choices_.pdf.roll_width_mm = v.toDouble(), say_pages(); },
                paper::least_roll_mm, paper::most_roll_mm);
    }
    if (k && k->has_rows)
        fields.length(
            "rows every", choices_.step_mm, [this](const QVariant& v) { choices_.step_mm = v.toDouble(); },
            least_step_mm, most_step_mm);
    if (k && k->has_labels) {
        QStringList words;
        int now = 0;
        for (const auto& sheet : paper::label_sheets()) {
            if (choices_.labels == sheet.id) now = static_cast<int>(words.size());
            words << sheet.words;
        }
        fields.choice("label sheets", now, words,
                      [this](const QVariant& v) { choices_.labels = paper::label_sheets()[v.toUInt()].id; });
    }
    if (QFileInfo::exists(typed_path()))
        fields.toggle("replace the file that is there", replace_,
                      [this](const QVariant& v) { replace_ = v.toBool(); });
    form_->show_fields(fields.take());
}

QString PapersPanel::typed_path() const {
    QString typed = path_->text().trimmed();
    if (typed.startsWith("~/")) typed = QDir::homePath() + typed.mid(1);
    if (!typed.isEmpty() && QFileInfo(typed).isRelative()) typed = QDir(folder()).filePath(typed);
    return typed;
}

QString PapersPanel::folder() const {
    if (!folder_.isEmpty() && QFileInfo(folder_).isDir()) return folder_;
    return document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
}

void PapersPanel::propose_path() {
    const auto* k = kind();
    if (!k) return;
    if (!own_path_) {
        path_->setText(shown(QDir(folder()).filePath(proposed_name(*document_.computed(), of(), *k))));
    } else {
        const QFileInfo info(typed_path());
        path_->setText(shown(info.dir().filePath(info.completeBaseName() + "." + k->ending)));
    }
    replace_ = false;
    show_fields();
    say_pages();
}

void PapersPanel::say_pages() {
    pages_->clear();
    const auto* k = kind();
    if (!k || !k->has_paper || of().what != PaperOf::What::piece) return;
    const auto computed = document_.computed();
    const auto drawn = exchange::bare_drawing_of(computed->job, computed->results, of().id);
    if (!drawn) return;
    const auto laid = paper::laid_for(*drawn, choices_.pdf);
    const auto t = paper::tiling_for(laid, choices_.pdf);
    const auto n = paper::printed_tiles(laid, t).size();
    const bool roll = choices_.pdf.size == paper::Size::roll;
    pages_->setText(QString("Its page with all figures, then %1 %2 at 1:1.")
                        .arg(n)
                        .arg(roll ? (n == 1 ? "strip" : "strips") : (n == 1 ? "tile" : "tiles")));
}

void PapersPanel::print() {
    const auto computed = document_.computed();
    const auto drawn = exchange::drawing_of(computed->job, computed->results, of().id, choices_.step_mm);
    if (!drawn) return fault_->say(document_.told(drawn.error().message));
    if (const auto fault = paper::too_many_pages(*drawn, choices_.pdf))
        return fault_->say("Not printed: " + QString::fromStdString(fault->message) + ".");
    QPrinter printer(QPrinter::HighResolution);
    printer.setFullPage(true);
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted) return;
    paper::paint_pages(*drawn, choices_.pdf, printer);
    emit said("Sent to the printer at 1:1. Measure the check lines before you cut.");
}

void PapersPanel::write() {
    if (writing_.isRunning() || !form_->settled()) return;
    const auto* k = kind();
    const QString typed = typed_path();
    if (!k || typed.isEmpty()) return fault_->say("Say to which file.");
    if (const QFileInfo there(typed); there.exists() && !there.isDir() && !replace_) {
        show_fields();
        return fault_->say(
            QString("Not written: there is such a file already, of %1. Choose another name, or say that "
                    "it is to be replaced.")
                .arg(QLocale(QLocale::English).toString(there.lastModified(), "d MMMM yyyy, HH:mm")));
    }
    fault_->clear();
    writing_to_ = typed;
    stopped_ = std::make_shared<std::atomic<bool>>(false);
    busy_->show();
    act_->setEnabled(false);
    writing_.setFuture(
        QtConcurrent::run([computed = document_.computed(), thing = of(), choices = choices_, write = k->write,
                           path = typed.toStdString(), stop = stopped_]() -> std::optional<Result<bool>> {
            try {
                return write(*computed, thing, choices, path, [stop] { return !*stop; });
            } catch (const Stopped&) {
                return std::nullopt;
            } catch (const std::exception&) {
                return Result<bool>(Error{"there is not enough memory for it, or a fault of the program"});
            }
        }));
}

void PapersPanel::stop() {
    if (stopped_) *stopped_ = true;
}

void PapersPanel::written() {
    busy_->hide();
    act_->setEnabled(!all_.empty());
    const auto done = writing_.result();
    if (!done) return fault_->say("Stopped: nothing was written.");
    if (!*done) return fault_->say("Not written: " + document_.told(done->error().message));
    folder_ = QFileInfo(writing_to_).absolutePath();
    if (const auto* k = kind()) last_kind_[static_cast<int>(k->of)] = k->id;
    keep();
    emit wrote("Written: " + shown(writing_to_), writing_to_);
    emit close_asked();
}

}  // namespace bevelsmith::app

#include "app/measure/import_panel.h"

#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QHeaderView>
#include <QtConcurrentRun>

#include "app/measure/cloud_picture.h"
#include "app/widgets/place_text.h"
#include "exchange/cloud_file.h"
#include "exchange/column_guess.h"
#include "job/own_frames.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

/// Smaller files are read before the eye notices.
constexpr qint64 read_at_once_bytes = 2'000'000;
constexpr std::size_t most_points = 40000;
constexpr int rows_shown = 5, rows_high_px = 178;

QString text_of(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<int>(s.size()));
}

}  // namespace

ImportPanel::ImportPanel(Document& document) : ImportPanel(document, "Readings from a file", false) {}

ImportPanel::ImportPanel(Document& document, const QString& title, bool copied)
    : SidePanel(document, title), copied_(copied) {
    // The first that is read of a boat is her hull; what comes later may be anything, until a person has said it.
    const auto& job = document_.job();
    if (job.surfaces.size() == 1 && job.readings.empty()) met_ = job.surfaces.front().id;
    panel_->words(copied
                      ? "One reading a line. What the columns are is said below; nothing is taken over before."
                      : "A table (CSV, text) with one reading a line, or a scan: XYZ, CSV or PLY. Lines with # are "
                        "skipped. What the columns are is said below.",
                  false);
    path_ = new QLineEdit;
    path_->setAccessibleName("points file");
    auto* browse = new QPushButton("Choose the file");
    browse->setObjectName("quiet");
    if (copied) {
        // There is no file: neither is shown.
        for (QWidget* w : {static_cast<QWidget*>(path_), static_cast<QWidget*>(browse)})
            w->setParent(this), w->hide();
    } else {
        panel_->field("from the file", path_);
        setFocusProxy(path_);
        panel_->column()->addWidget(browse, 0, Qt::AlignLeft);
    }
    fault_ = panel_->fault();
    found_ = panel_->words({}, false);
    add_first_rows();
    picture_ = new CloudPicture;
    picture_->hide();
    picture_->setToolTip("Drag the box's sides: what lies outside is left out.");
    connect(picture_, &CloudPicture::box_dragged, this, [this](const survey::CloudBox& box) {
        cut_.low = box.low;
        cut_.high = box.high;
        refresh();
    });
    panel_->add(picture_);
    add_loops();
    add_picking();
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->end();
    act_ = panel_->act("Take the points over");
    act_->setEnabled(false);
    connect(path_, &QLineEdit::textChanged, this, &ImportPanel::look);
    connect(path_, &QLineEdit::returnPressed, this, &ImportPanel::look);
    connect(act_, &QPushButton::clicked, this, &ImportPanel::take);
    connect(&loading_, &QFutureWatcherBase::finished, this, [this] { show_loaded(loading_.result()); });
    connect(&cutting_, &QFutureWatcherBase::finished, this, [this] { show_kept(cutting_.result()); });
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, "Readings", path_->text(), {}, nullptr,
                                                            QFileDialog::DontUseNativeDialog);
        if (!chosen.isEmpty()) path_->setText(chosen);
    });
}

void ImportPanel::add_first_rows() {
    first_rows_ = new QTableWidget;
    first_rows_->setAccessibleName("first rows");
    first_rows_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    first_rows_->setSelectionMode(QAbstractItemView::NoSelection);
    first_rows_->setFocusPolicy(Qt::NoFocus);
    first_rows_->verticalHeader()->hide();
    first_rows_->setFixedHeight(rows_high_px);
    first_rows_->hide();
    panel_->add(first_rows_);
}

ImportPanel::ImportPanel(Document& document, const std::string& set_id)
    : ImportPanel(document, "Readings that were copied", true) {
    look_at_copied(set_id);
}

void ImportPanel::look_at_copied(const std::string& set_id) {
    const auto& sets = document_.job().readings;
    const auto into = std::find_if(sets.begin(), sets.end(), [&](const auto& set) { return set.id == set_id; });
    show_loaded(loaded_from(QGuiApplication::clipboard()->text().toStdString(), usual_unit()));
    if (!loaded_->table || loaded_->table->rows() == 0 || into == sets.end()) return;
    as_ = static_cast<int>(into - sets.begin()) + 2;
    guess_columns();
    refresh();
}

QString ImportPanel::source() const {
    return copied_ ? QString("What was copied") : QFileInfo(path_->text().trimmed()).fileName();
}

/// No column is two numbers at once: the number that had it gets the other's.
void ImportPanel::take_column(std::size_t number, int column) {
    const int before = std::exchange(columns_.values[number], column);
    if (column < 0) return;
    for (std::size_t k = 0; k < columns_.values.size(); ++k)
        if (k != number && columns_.values[k] == column) columns_.values[k] = before;
    // What was guessed to be the uncertainty or a note is a reading after all.
    if (columns_.sigma == column) columns_.sigma = -1;
    if (columns_.note == column) columns_.note = -1;
}

/// What a hose or a person left in the scan is taken out by a loop around it.
void ImportPanel::add_loops() {
    auto* row = new QHBoxLayout;
    loop_ = new QPushButton("Take out by a loop");
    unloop_ = new QPushButton("Bring the last loop back");
    for (auto* b : {loop_, unloop_}) {
        b->setObjectName("quiet");
        b->hide();
        row->addWidget(b);
    }
    row->addStretch(1);
    panel_->column()->addLayout(row);
    loop_->setCheckable(true);
    connect(loop_, &QPushButton::toggled, picture_, &CloudPicture::draw_loops);
    connect(picture_, &CloudPicture::looped, this, [this](const survey::CloudLoop& loop) {
        cut_.loops.push_back(loop);
        refresh();
    });
    connect(unloop_, &QPushButton::clicked, this, [this] {
        if (!cut_.loops.empty()) cut_.loops.pop_back();
        refresh();
    });
}

void ImportPanel::show_loops() {
    loop_->setVisible(scan());
    unloop_->setVisible(scan() && !cut_.loops.empty());
    if (!scan()) loop_->setChecked(false);
}

/// Marks are picked in the whole scan, before it is thinned.
void ImportPanel::add_picking() {
    auto* row = new QHBoxLayout;
    pick_ = new QPushButton("Pick marks");
    unpick_ = new QPushButton("Drop the last mark");
    for (auto* b : {pick_, unpick_}) {
        b->setObjectName("quiet");
        b->hide();
        row->addWidget(b);
    }
    row->addStretch(1);
    pick_->setCheckable(true);
    panel_->column()->addLayout(row);
    picked_ = panel_->words({}, false);
    connect(pick_, &QPushButton::toggled, this, [this](bool on) {
        if (on) loop_->setChecked(false);
        picture_->pick_points(on);
        show_marks();
    });
    connect(loop_, &QPushButton::toggled, this, [this](bool on) {
        if (on) pick_->setChecked(false);
    });
    connect(picture_, &CloudPicture::picked, this, &ImportPanel::pick);
    connect(unpick_, &QPushButton::clicked, this, [this] {
        if (!marks_.empty()) marks_.pop_back();
        show_marks();
    });
}

/// The boat's marks in their order, then new names.
void ImportPanel::pick(const Vec3& at) {
    std::vector<std::string> taken;
    for (const auto& mark : marks_) taken.push_back(mark.name);
    std::string name;
    for (const auto& mark : document_.job().marks)
        if (name.empty() && !std::count(taken.begin(), taken.end(), mark.id)) name = mark.id;
    marks_.push_back({name.empty() ? job::free_id("M", taken) : name, at, std::nullopt, false});
    show_marks();
}

void ImportPanel::show_marks() {
    const bool shown = scan() && own();
    pick_->setVisible(shown);
    unpick_->setVisible(shown && !marks_.empty());
    picked_->setVisible(shown);
    if (!shown) pick_->setChecked(false);
    QStringList lines;
    for (const auto& mark : marks_)
        lines << QString("%1 at %2")
                     .arg(QString::fromStdString(mark.name),
                          place_words(mark.seen, document_.unit(), PlaceIn::own_frame));
    if (pick_->isChecked())
        lines << "Turn the wheel to come nearer, then click on a mark: the point nearest to the eye is taken.";
    else if (marks_.empty()) lines << "Marks are picked here, or typed on the sheet that follows.";
    picked_->setText(lines.join("\n"));
    picture_->show_marks(shown ? marks_ : std::vector<survey::SeenMark>{});
}

/// Rows whose note is the name of a mark are that mark, not a point of the surface.
void ImportPanel::look() {
    if (copied_) return;
    marks_.clear();
    loaded_.reset();
    cloud_.reset();
    kept_.reset();
    readings_.clear();
    found_->clear();
    fault_->clear();
    form_->show_fields({});
    picture_->hide();
    for (QWidget* w : std::initializer_list<QWidget*>{loop_, unloop_, pick_, unpick_, picked_}) w->hide();
    first_rows_->hide();
    act_->setEnabled(false);
    const QString path = path_->text().trimmed();
    if (path.isEmpty()) return;
    const QFileInfo file(path);
    if (!file.isFile())
        return fault_->say(file.exists() ? "That is a folder, a pipe or a device: a file is wanted."
                                         : "There is no such file.");
    if (file.size() < read_at_once_bytes) return show_loaded(load_file(path.toStdString(), usual_unit()));
    found_->setText(QString("Reading %1 MB …").arg(static_cast<double>(file.size()) / 1e6, 0, 'f', 0));
    loading_.setFuture(
        QtConcurrent::run([path = path.toStdString(), unit = usual_unit()] { return load_file(path, unit); }));
}

void ImportPanel::show_loaded(std::shared_ptr<const LoadedFile> loaded) {
    loaded_ = std::move(loaded);
    found_->clear();
    const bool table = loaded_->table && loaded_->table->rows() > 0;
    if (!table && loaded_->cloud.dense.empty()) {
        const Error fault = loaded_->fault.value_or(Error{"there are no readings in this file", 1});
        const QString where = fault.line > 0 ? QString(", line %1").arg(fault.line) : QString();
        return fault_->say(
            QString("%1%2: %3. Nothing was taken over.").arg(source(), where, QString::fromStdString(fault.message)));
    }
    as_ = loaded_->cloud.dense.empty() ? 0 : 1;
    columns_ = {};
    unit_ = usual_unit();
    guess_columns();
    if (scan()) propose_scan();
    refresh();
}

/// Each column's meaning by its heading.
void ImportPanel::guess_columns() {
    if (!loaded_->table || scan()) return;
    columns_ = exchange::guess_columns(loaded_->table->names(), survey::columns_of(target()));
}

/// The first rows as they stand in the file, what each column is taken for over them.
void ImportPanel::show_first_rows() {
    const auto& table = *loaded_->table;
    const auto numbers = survey::columns_of(target());
    const int columns = static_cast<int>(table.columns());
    first_rows_->setColumnCount(columns);
    first_rows_->setRowCount(std::min(rows_shown, static_cast<int>(table.rows())));
    for (int c = 0; c < columns; ++c) {
        QStringList means;
        for (std::size_t k = 0; k < numbers.size() && k < columns_.values.size(); ++k)
            if (columns_.values[k] == c) means << text_of(numbers[k].name);
        if (columns_.sigma == c) means << "±";
        if (columns_.note == c) means << "note";
        const QString name = QString::fromStdString(table.names()[static_cast<std::size_t>(c)]);
        first_rows_->setHorizontalHeaderItem(
            c, new QTableWidgetItem(name + "\n" + (means.isEmpty() ? "not taken" : "is " + means.join(", "))));
        for (int r = 0; r < first_rows_->rowCount(); ++r) {
            const auto cells = table.row(static_cast<std::size_t>(r)).cells;
            const auto k = static_cast<std::size_t>(c);
            first_rows_->setItem(r, c, new QTableWidgetItem(k < cells.size() ? text_of(cells[k]) : QString()));
        }
    }
    first_rows_->resizeColumnsToContents();
    first_rows_->show();
}

/// Of a file that does not say its own: inches where the job is in them, else millimetres.
int ImportPanel::usual_unit() const {
    constexpr int millimetres = 0, inches = 3;
    return units::in_inches(document_.unit()) ? inches : millimetres;
}

/// The unit, the whole box and a cell that leaves enough.
void ImportPanel::propose_scan() {
    unit_ = loaded_->unit;
    sigma_mm_ = survey::default_sigma_mm(survey::School::scan);
    name_ = "Scan";
    cut_ = {};
    piece_ = 0;
    keep_lonely_ = false;
    const auto in_mm = [&](survey::Cloud cloud) {
        for (Vec3& p : cloud) p *= unit_mm[static_cast<std::size_t>(unit_)];
        return std::make_shared<const survey::Cloud>(std::move(cloud));
    };
    cloud_ = in_mm(loaded_->cloud.dense);
    lonely_ = in_mm(loaded_->cloud.lonely);
    const auto box = survey::box_of(*cloud_);
    cut_.low = box.low;
    cut_.high = box.high;
    cut_.cell_mm = loaded_->cell_mm;
}

survey::ReadingSet ImportPanel::target() const {
    const auto& sets = document_.job().readings;
    const auto k = static_cast<std::size_t>(as_ - 2);
    if (as_ >= 2 && k < sets.size()) return sets[k];
    survey::ReadingSet out = survey::usual_set(scan() ? survey::School::scan : survey::School::direct);
    if (own()) out.own_frame.emplace();
    return out;
}

/// What the file is taken as, under what name.
void ImportPanel::add_kind(FieldList& fields) {
    QStringList kinds{"points in the boat"};
    std::vector<int> meanings{0};
    if (!loaded_->cloud.dense.empty()) kinds << "a scan, cropped and thinned", meanings.push_back(1);
    for (const auto& s : document_.job().readings) {
        kinds
            << QString("more readings of %1 · %2").arg(QString::fromStdString(s.id), QString::fromStdString(s.name));
        meanings.push_back(static_cast<int>(meanings.size()) + (loaded_->cloud.dense.empty() ? 1 : 0));
    }
    const auto now = static_cast<int>(std::find(meanings.begin(), meanings.end(), as_) - meanings.begin());
    if (loaded_->table)
        fields.choice("taken as", now, kinds, [this, meanings](const QVariant& v) {
            as_ = meanings[v.toUInt()];
            if (scan()) propose_scan();
            else guess_columns();
            refresh();
        });
    if (as_ < 2) {
        // A file does not say what its points lie on: until a person does they move no surface.
        QStringList surfaces{"not said yet"};
        std::vector<std::string> ids{{}};
        for (const auto& s : document_.job().surfaces)
            surfaces << QString::fromStdString(s.name), ids.push_back(s.id);
        fields.choice("they lie on", static_cast<int>(std::find(ids.begin(), ids.end(), met_) - ids.begin()),
                      surfaces, [this, ids](const QVariant& v) {
                          met_ = ids[static_cast<std::size_t>(std::max(0, v.toInt()))];
                          refresh();
                      });
        fields.text("name", name_, [this](const QVariant& v) { name_ = v.toString().toStdString(); });
        fields.length(
            "one point ±", sigma_mm_, [this](const QVariant& v) { sigma_mm_ = v.toDouble(), refresh(); }, 0.01, 1000);
    }
}

void ImportPanel::add_unit(FieldList& fields) {
    fields.choice("file is in", unit_, {"millimetres", "centimetres", "metres", "inches"}, [this](const QVariant& v) {
        const double ratio = unit_mm[v.toUInt()] / unit_mm[static_cast<std::size_t>(unit_)];
        unit_ = v.toInt();
        if (cloud_) {
            for (auto* cloud : {&cloud_, &lonely_}) {
                auto scaled = std::make_shared<survey::Cloud>(**cloud);
                for (Vec3& p : *scaled) p *= ratio;
                *cloud = scaled;
            }
            for (auto& mark : marks_) mark.seen *= ratio;
            for (auto& loop : cut_.loops)
                for (Vec2& p : loop.ring) p *= ratio;
            *cut_.low *= ratio, *cut_.high *= ratio, cut_.cell_mm *= ratio;
        }
        refresh();
    });
}

/// In what frame it was measured.
void ImportPanel::add_frame(FieldList& fields) {
    // A scanner does not know what is level.
    const auto frames =
        scan() ? std::vector{Frame::boat, Frame::own} : std::vector{Frame::boat, Frame::gravity, Frame::own};
    QStringList words{"in the boat's frame", "by level and plumb, as she stands", "in its own frame, by marks"};
    if (scan()) words.removeAt(1);
    const auto now = std::find(frames.begin(), frames.end(), frame_) - frames.begin();
    const bool there = now < static_cast<std::ptrdiff_t>(frames.size());
    fields.choice("measured", there ? static_cast<int>(now) : 0, words, [this, frames](const QVariant& v) {
        frame_ = frames[v.toUInt()];
        guess_columns();
        refresh();
    });
}

/// Which column of the table is which number.
void ImportPanel::add_columns(FieldList& fields) {
    const auto numbers = survey::columns_of(target());
    QStringList names;
    for (const auto& n : loaded_->table->names()) names << QString::fromStdString(n);
    columns_.values.resize(numbers.size(), -1);
    for (std::size_t k = 0; k < numbers.size(); ++k) {
        columns_.values[k] = std::min(columns_.values[k], static_cast<int>(names.size()) - 1);
        fields.choice(text_of(numbers[k].name) + " is", columns_.values[k] + 1, QStringList{"–"} + names,
                      [this, k](const QVariant& v) {
                          take_column(k, v.toInt() - 1);
                          refresh();
                      });
    }
    if (as_ < 2 && !own())
        fields.choice("out is to", to_starboard_, {"port", "starboard"},
                      [this](const QVariant& v) { to_starboard_ = v.toInt() == 1, refresh(); });
    if (as_ < 2) add_frame(fields);
    fields.choice("± is", columns_.sigma + 1, QStringList{"–"} + names,
                  [this](const QVariant& v) { columns_.sigma = v.toInt() - 1, refresh(); });
    fields.choice("note is", columns_.note + 1, QStringList{"–"} + names,
                  [this](const QVariant& v) { columns_.note = v.toInt() - 1, refresh(); });
}

/// What is kept of a scan.
void ImportPanel::add_cut(FieldList& fields) {
    add_frame(fields);
    const QStringList axes = own() ? QStringList{"x", "y", "z"} : QStringList{"fwd", "port", "up"};
    for (int k = 0; k < 3; ++k) {
        const auto way = own() ? units::Way::none : units::boat_ways[k];
        fields.place(axes[k] + " from", (*cut_.low)[k], way,
                     [this, k](const QVariant& v) { (*cut_.low)[k] = v.toDouble(), refresh(); });
        fields.place(axes[k] + " to", (*cut_.high)[k], way,
                     [this, k](const QVariant& v) { (*cut_.high)[k] = v.toDouble(), refresh(); });
    }
    // Pieces stand in the boat's frame.
    if (own()) piece_ = 0, cut_.plane.reset();
    QStringList pieces{"anywhere"};
    for (const auto& p : own() ? std::vector<job::JobPiece>{} : document_.built().pieces)
        pieces << "near the plane of " + QString::fromStdString(p.id);
    fields.choice("keep points", piece_, pieces, [this](const QVariant& v) {
        piece_ = v.toInt();
        cut_.plane.reset();
        if (piece_ > 0) cut_.plane = document_.built().pieces[static_cast<std::size_t>(piece_) - 1].plane;
        refresh();
    });
    if (cut_.plane)
        fields.length(
            "within", cut_.slab_mm, [this](const QVariant& v) { cut_.slab_mm = v.toDouble(), refresh(); }, 1, 1e5);
    if (!lonely_->empty())
        fields.choice("points that lie alone", keep_lonely_, {"left out", "kept"},
                      [this](const QVariant& v) { keep_lonely_ = v.toInt() == 1, refresh(); });
    fields.length(
        "one point each", cut_.cell_mm, [this](const QVariant& v) { cut_.cell_mm = v.toDouble(), refresh(); }, 0,
        1e4);
}

void ImportPanel::refresh() {
    FieldList fields;
    add_kind(fields);
    add_unit(fields);
    scan() ? add_cut(fields) : add_columns(fields);
    form_->show_fields(fields.take());
    picture_->setVisible(scan());
    show_loops();
    show_marks();
    if (scan()) first_rows_->hide();
    scan() ? refresh_scan() : refresh_table();
}

Result<std::vector<survey::Reading>> ImportPanel::table_readings() const {
    exchange::ReadingColumns columns = columns_;
    columns.length_unit_mm = unit_mm[static_cast<std::size_t>(unit_)];
    for (const auto& c : survey::columns_of(target()))
        columns.is_length.push_back(c.kind == survey::Column::Kind::length);
    auto out = exchange::readings_from(*loaded_->table, columns);
    if (out && as_ < 2 && !own() && to_starboard_)
        for (auto& reading : out.value()) reading.values[1] = -reading.values[1];
    return out;
}

void ImportPanel::refresh_table() {
    readings_.clear();
    fault_->clear();
    found_->clear();
    auto readings = table_readings();
    const QString name = source();
    if (!readings) {
        fault_->say(QString("%1, line %2: %3. Nothing was taken over.")
                        .arg(name)
                        .arg(readings.error().line)
                        .arg(QString::fromStdString(readings.error().message)));
    } else {
        readings_ = std::move(readings.value());
        found_->setText(
            QString("%1 readings. The first of them, and what each column is taken for:").arg(readings_.size()));
    }
    show_first_rows();
    act_->setEnabled(!readings_.empty());
}

void ImportPanel::refresh_scan() {
    found_->setText("Cropping and thinning …");
    act_->setEnabled(false);
    const auto also = keep_lonely_ ? lonely_ : nullptr;
    cutting_.setFuture(QtConcurrent::run([cloud = cloud_, also, cut = cut_]() -> std::shared_ptr<const KeptPoints> {
        auto out = std::make_shared<KeptPoints>();
        try {
            survey::Cloud all = *cloud;
            if (also) all.insert(all.end(), also->begin(), also->end());
            cut_down(all, cut, *out);
        } catch (const std::exception&) {
            out->fault =
                "There is not enough memory for this scan: crop or thin it before, with bevelsmith-cli cloud.";
            out->cloud.clear();
        }
        return out;
    }));
}

void ImportPanel::show_kept(std::shared_ptr<const KeptPoints> kept) {
    if (!scan() || !cloud_) return;
    kept_ = std::move(kept);
    const auto n = kept_->cloud.size();
    const auto alone = lonely_->size();
    const QString lonely = alone == 0     ? QString()
                           : keep_lonely_ ? QString(", %1 of them alone").arg(alone)
                                          : QString(", %1 lie alone and are left out").arg(alone);
    found_->setText(QString("%1 points%2, %3 in the box%4, %5 taken over.")
                        .arg(cloud_->size() + alone)
                        .arg(lonely)
                        .arg(kept_->in_box)
                        .arg(cut_.loops.empty() ? "" : " and in no loop")
                        .arg(n));
    fault_->say(!kept_->fault.empty() ? QString::fromStdString(kept_->fault)
                : n == 0              ? "Nothing lies in the box: make it larger."
                : n > most_points     ? QString("More than %1 make the job slow and tell no more: thin them with a "
                                                    "larger cell, or crop.")
                                        .arg(most_points)
                                  : QString());
    picture_->show_clouds(*cloud_, kept_->cloud, keep_lonely_ ? survey::Cloud() : *lonely_);
    picture_->show_box({*cut_.low, *cut_.high});
    picture_->in_own_frame(own());
    act_->setEnabled(n > 0 && n <= most_points);
}

void ImportPanel::take() {
    if (!act_->isEnabled()) return;
    std::vector<survey::Reading> more = readings_;
    if (scan()) {
        more.clear();
        for (const Vec3& p : kept_->cloud) more.emplace_back().values = {p.x(), p.y(), p.z()};
    }
    const auto noted = own() ? job::noted_marks(document_.job(), more) : job::NotedMarks();
    std::string made;
    document_.edit("Import readings", [&](job::Job& job) {
        job::take_noted(job, more, noted);
        if (as_ >= 2) {
            auto& set = job.readings[static_cast<std::size_t>(as_ - 2)];
            set.readings.insert(set.readings.end(), more.begin(), more.end());
            return;
        }
        made = job::add_readings(job, taken_set(more), met_.empty() ? job::Placed::not_yet : job::Placed::yes).id;
    });
    QString words = QString("%1 points taken over").arg(more.size());
    if (as_ < 2 && met_.empty()) words += "; they lie on no surface yet. Say in Placing what they lie on";
    if (!noted.shared.empty()) {
        QStringList names;
        for (const auto& name : noted.shared) names << QString::fromStdString(name).left(24);
        constexpr int told = 8;
        if (names.size() > told) names = names.mid(0, told) << QString("and %1 more").arg(names.size() - told);
        words += ". Noted in another set too, and so taken for marks here and there: " + names.join(", ");
    }
    emit said(words + ".");
    if (own() && !made.empty()) emit wants_panel(panel::Marks{made});
    else emit close_asked();
}

survey::ReadingSet ImportPanel::taken_set(const std::vector<survey::Reading>& readings) const {
    survey::ReadingSet set = target();
    set.name = name_;
    set.sigma_mm = sigma_mm_;
    set.readings = readings;
    set.by_gravity = !scan() && frame_ == Frame::gravity;
    if (own()) set.own_frame = survey::OwnFrame{marks_, false, {}};
    // Where the scanner stood tells which side is the boat's inside.
    if (scan())
        if (const auto stood = exchange::viewpoint_of(loaded_->contents))
            set.stood = *stood * unit_mm[static_cast<std::size_t>(unit_)];
    set.surface_id = met_;
    return set;
}

}  // namespace bevelsmith::app

#include "app/measure/photo_panel.h"

#include <QFileDialog>
#include <QImageReader>
#include <QtConcurrentRun>

#include "app/measure/photo_view.h"
#include "app/widgets/dialog_filter.h"
#include "app/widgets/entered.h"
#include "job/drawn_shapes.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

std::shared_ptr<const imaging::GreyImage> grey_of(const QImage& photo) {
    const QImage grey = photo.convertToFormat(QImage::Format_Grayscale8);
    auto out = std::make_shared<imaging::GreyImage>();
    out->width = grey.width();
    out->height = grey.height();
    for (int y = 0; y < grey.height(); ++y)
        out->pixels.insert(out->pixels.end(), grey.constScanLine(y), grey.constScanLine(y) + grey.width());
    return out;
}

/// Photos larger than any camera's are refused before they fill the memory.
constexpr int largest_megabytes = 1024;

}  // namespace

PhotoPanel::PhotoPanel(Document& document, As as)
    : SidePanel(document, as == As::panel ? "A panel from a photo" : "Template from a photo"), as_(as) {
    if (as_ == As::panel) name_ = "from a photo";
    setFixedWidth(narrowest);
    auto* column = static_cast<QVBoxLayout*>(layout());
    column->removeWidget(panel_);
    auto* row = new QHBoxLayout;
    view_ = new PhotoView;
    row->addWidget(view_, 1);
    panel_->setFixedWidth(330);
    row->addWidget(panel_);
    column->addLayout(row, 1);
    path_ = new QLineEdit;
    path_->setAccessibleName("photo file");
    panel_->field("photo", path_);
    auto* buttons = new QHBoxLayout;
    auto* browse = new QPushButton("Choose");
    auto* sample = new QPushButton("Sample photo");
    auto* aslant = new QPushButton("Sample, aslant");
    for (auto* b : {browse, sample, aslant}) b->setObjectName("quiet"), buttons->addWidget(b);
    buttons->addStretch(1);
    panel_->column()->addLayout(buttons);
    next_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    panel_->words(
        "The marks lie on the template's face: a few millimetres of height out of it cost millimetres on the edge. "
        "Lenses bow straight lines: point at a straight edge in the photo, or at lines of a grid, and it is put "
        "right.");
    auto* lines = new QHBoxLayout;
    straight_ = new QPushButton("Point along a straight edge");
    straight_->setCheckable(true);
    forget_ = new QPushButton("Forget them");
    for (auto* b : {straight_, forget_}) b->setObjectName("quiet"), lines->addWidget(b);
    lines->addStretch(1);
    panel_->column()->addLayout(lines);
    find_ = new QPushButton("Find the edge");
    panel_->add(find_);
    found_ = panel_->words({}, false);
    auto* hands = new QHBoxLayout;
    keep_ = new QPushButton("Keep only chosen");
    remove_ = new QPushButton("Remove chosen");
    for (auto* b : {keep_, remove_}) b->setObjectName("quiet"), hands->addWidget(b);
    hands->addStretch(1);
    panel_->column()->addLayout(hands);
    fault_ = panel_->fault();
    panel_->end();
    act_ = panel_->act("Take the outline over");
    connect_parts(*browse, *sample, *aslant);
    refresh();
}

void PhotoPanel::connect_parts(QPushButton& browse, QPushButton& sample, QPushButton& aslant) {
    when_entered(*path_, [this] { open(path_->text().trimmed()); });
    connect(&browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, "A photo", path_->text(),
                                                            dialog_filter("Photos", exchange::FileKind::picture),
                                                            nullptr, QFileDialog::DontUseNativeDialog);
        if (!chosen.isEmpty()) path_->setText(chosen), open(chosen);
    });
    connect(&sample, &QPushButton::clicked, this, [this] { open(":/demo/template-flat.jpg"); });
    connect(&aslant, &QPushButton::clicked, this, [this] { open(":/demo/template-aslant.jpg"); });
    connect(view_, &PhotoView::marks_changed, this, &PhotoPanel::remap);
    connect(view_, &PhotoView::straight_changed, this, &PhotoPanel::remap);
    connect(view_, &PhotoView::corrected, this, &PhotoPanel::refresh);
    connect(view_, &PhotoView::placed, this, [this](int index, const QPointF& pixel) {
        place_point(index, {pixel.x(), pixel.y()});
    });
    connect(straight_, &QPushButton::toggled, this, [this](bool on) {
        view_->point_at_straight(on);
        refresh();
    });
    connect(forget_, &QPushButton::clicked, view_, &PhotoView::forget_straight);
    connect(find_, &QPushButton::clicked, this, &PhotoPanel::find_edge);
    connect(keep_, &QPushButton::clicked, view_, &PhotoView::keep_selected);
    connect(remove_, &QPushButton::clicked, view_, &PhotoView::remove_selected);
    connect(act_, &QPushButton::clicked, this, &PhotoPanel::take);
    connect(&finding_, &QFutureWatcherBase::finished, this, [this] { show_edge(finding_.result()); });
}

/// As wide as the window allows beside the pieces and a strip of the drawing.
void PhotoPanel::showEvent(QShowEvent* event) {
    setFixedWidth(std::clamp(window()->width() - 420, narrowest, widest));
    SidePanel::showEvent(event);
}

void PhotoPanel::say(const QString& fault) {
    fault_->say(fault);
}

void PhotoPanel::open(const QString& path) {
    QImageReader::setAllocationLimit(largest_megabytes);
    QImageReader reader(path);
    reader.setAutoTransform(true);  // as the camera was held
    const QImage photo = reader.read();
    if (photo.isNull()) return say(QString("%1 is no photo that can be read: %2").arg(path, reader.errorString()));
    say({});
    if (path.startsWith(":/demo/")) {
        path_->setText(path.mid(7));
        distances_ = {{960, 220, 960, 220}, {984.9, 984.9}};
    }
    grey_ = grey_of(photo);
    view_->show_photo(photo, grey_);
    view_->setFocus(Qt::OtherFocusReason);
}

/// What the marks, their distances and the straight edge make of the photo.
void PhotoPanel::remap() {
    map_.reset();
    say({});
    if (grey_ && view_->marks().size() == 4) {
        lens_ = {grey_->width, grey_->height, 0};
        if (const auto lens = imaging::lens_from_straight_lines(grey_->width, grey_->height, view_->straight()))
            lens_ = *lens;
        std::array<Vec2, 4> marks;
        std::copy_n(view_->marks().begin(), 4, marks.begin());
        const auto layout = imaging::place_marks(distances_);
        auto map = layout ? imaging::Rectifier::from_marks(marks, imaging::as_seen(layout->at, marks), lens_)
                          : Result<imaging::Rectifier>(layout.error());
        if (map) map_ = *map;
        else say(QString::fromStdString(map.error().message));
    }
    std::vector<imaging::TracedPoint> points = view_->points();
    for (auto& p : points)
        if (map_) p.face = map_->to_face(p.pixel);
    view_->show_points(map_ ? points : std::vector<imaging::TracedPoint>{});
    refresh();
}

void PhotoPanel::refresh_fields() {
    FieldList fields;
    fields.text(as_ == As::panel ? "written on it" : "name", name_,
                [this](const QVariant& v) { name_ = v.toString().toStdString(); });
    if (as_ == As::panel) {
        QStringList materials;
        for (const auto& m : document_.job().materials) materials << QString::fromStdString(m.name);
        fields.choice("of", material_, materials, [this](const QVariant& v) { material_ = std::max(0, v.toInt()); });
    }
    const char* names[] = {"mark 1 to 2", "mark 2 to 3", "mark 3 to 4", "mark 4 to 1"};
    for (std::size_t k = 0; k < 4; ++k)
        fields.length(
            names[k], distances_.sides[k],
            [this, k](const QVariant& v) { distances_.sides[k] = v.toDouble(), remap(); }, 1, 20000);
    const char* diagonals[] = {"diagonal 1 to 3", "diagonal 2 to 4"};
    for (std::size_t k = 0; k < 2; ++k)
        fields.length(
            diagonals[k], distances_.diagonals[k],
            [this, k](const QVariant& v) { distances_.diagonals[k] = v.toDouble(), remap(); }, 0, 20000);
    form_->show_fields(fields.take());
}

void PhotoPanel::refresh() {
    refresh_fields();
    const auto marks = view_->marks().size();
    const bool pointing = straight_->isChecked();
    QString next;
    if (!grey_) next = "Choose a photo, or try one of the samples.";
    else if (pointing)
        next = QString(
                   "Point at four places or more along edge %1: %2 so far. A grid is several edges: press again for "
                   "each.")
                   .arg(view_->straight().size())
                   .arg(view_->straight().back().size());
    else if (marks < 4)
        next = QString(
                   "Point at mark %1, in order round the template. By keys: arrows, Enter; Backspace takes one back.")
                   .arg(marks + 1);
    else if (const auto layout = imaging::place_marks(distances_); map_ && layout)
        next =
            QString("%1%2%3")
                .arg(layout->checked
                         ? QString("Sides and diagonals agree within %1.").arg(document_.fine(layout->misfit_mm))
                         : QString("No diagonal checks the marks: measure both."))
                .arg(map_->tilt_deg() ? QString(" The camera leaned by about %1°.").arg(*map_->tilt_deg(), 0, 'f', 0)
                                      : QString())
                .arg(lens_.bow != 0 ? QString(" The lens is put right.") : QString());
    next_->setText(next);
    const auto& points = view_->points();
    double worst = 0;
    int unsure = 0;
    for (const auto& p : points) worst = std::max(worst, p.sigma_mm), unsure += p.sure ? 0 : 1;
    found_->setText(points.empty()
                        ? QString("The outline will stand here as crosses. Drag a cross to correct it, double-click "
                                  "puts one in, a frame chooses many.")
                        : QString("%1 points, ± %2 at worst (1 s.d.)%3. %4 Page keys step, Delete removes.")
                              .arg(points.size())
                              .arg(document_.fine(worst))
                              .arg(unsure > 0 ? QString(", %1 unsure (red)").arg(unsure) : QString(),
                                   as_ == As::panel
                                       ? QString("They are the panel's whole edge.")
                                       : QString("Keep what meets the hull: frame it, then keep only the chosen.")));
    find_->setEnabled(map_.has_value() && !finding_.isRunning());
    forget_->setVisible(!view_->straight().empty());
    keep_->setEnabled(!points.empty());
    remove_->setEnabled(!points.empty());
    act_->setEnabled(map_.has_value() && !points.empty());
}

void PhotoPanel::find_edge() {
    if (!map_) return;
    std::array<Vec2, 4> marks;
    std::copy_n(view_->marks().begin(), 4, marks.begin());
    found_->setText("Finding the edge …");
    find_->setEnabled(false);
    finding_.setFuture(QtConcurrent::run([grey = grey_, map = *map_, marks]() -> Traced {
        try {
            return imaging::trace_template(*grey, map, marks);
        } catch (const std::exception&) {
            return Error{"the edge could not be found in this picture: take a smaller one, or set points by hand"};
        }
    }));
}

void PhotoPanel::show_edge(const Traced& traced) {
    if (!traced) say(QString::fromStdString(traced.error().message));
    else if (map_) view_->show_points(*traced);
    refresh();
}

void PhotoPanel::place_point(int index, const Vec2& pixel) {
    if (!map_) return;
    std::vector<imaging::TracedPoint> points = view_->points();
    const auto point = imaging::point_by_hand(*map_, pixel);
    if (index >= 0 && index < static_cast<int>(points.size())) {
        points[static_cast<std::size_t>(index)] = point;
    } else {
        // Where it lengthens the outline least.
        std::size_t best = points.size();
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i + 1 < points.size(); ++i) {
            const double more = (points[i].pixel - pixel).norm() + (points[i + 1].pixel - pixel).norm() -
                                (points[i].pixel - points[i + 1].pixel).norm();
            if (more < least) least = more, best = i + 1;
        }
        points.insert(points.begin() + static_cast<std::ptrdiff_t>(best), point);
    }
    view_->show_points(std::move(points));
    refresh();
}

/// The whole outline as a panel; its grain runs from mark 1 to mark 2.
void PhotoPanel::take_panel() {
    const auto& materials = document_.job().materials;
    const std::string material =
        materials.empty()
            ? std::string()
            : materials[static_cast<std::size_t>(std::min<int>(material_, static_cast<int>(materials.size()) - 1))]
                  .id;
    geometry::Polygon shape;
    for (const auto& p : view_->points()) shape.outer.push_back(p.face);
    job::Job trial = document_.job();
    const auto added = job::add_offcut(trial, material, name_, std::move(shape));
    if (!added) return say("Not taken over: " + QString::fromStdString(added.error().message) + ".");
    document_.edit("Take a panel over from a photo", [&](job::Job& job) { job = std::move(trial); });
    emit said("The panel is in stock now, and used before whole sheets. Its grain runs from mark 1 to mark 2.");
    emit close_asked();
}

void PhotoPanel::take() {
    if (!form_->settled()) return;
    if (as_ == As::panel) return take_panel();
    const auto& points = view_->points();
    document_.edit("Take a template over from a photo", [&](job::Job& job) {
        survey::ReadingSet set = survey::usual_set(survey::School::traced);
        set.name = name_;
        if (const auto* piece = document_.piece(document_.selected_piece())) {
            const auto frame = geometry::upright_frame(piece->plane);
            set.origin = frame.origin;
            set.along = frame.u;
            set.toward = frame.v;
        }
        for (const auto& p : points) {
            auto& reading = set.readings.emplace_back();
            reading.values = {p.face.x(), p.face.y()};
            reading.sigma_mm = std::max(p.sigma_mm, 0.05);
        }
        job::add_readings(job, set, job::Placed::not_yet);
    });
    emit said(QString("%1 points taken over; they lie on no surface yet. Say in Placing where the template's mark 1 "
                      "stood, what it lies on, and "
                      "from which point to which.")
                  .arg(points.size()));
    emit close_asked();
}

}  // namespace bevelsmith::app

#include "app/cut/outlines_panel.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <algorithm>

#include "app/look/theme.h"
#include "app/widgets/dialog_filter.h"
#include "app/widgets/entered.h"
#include "job/drawn_shapes.h"
#include "job/file_io.h"

namespace bevelsmith::app {

OutlinesPicture::OutlinesPicture(Document& document) {
    unit = [&document] { return document.unit(); };
    margin_px = 28;
    setMinimumHeight(190);
    setAccessibleName("outlines in the drawing");
}

void OutlinesPicture::show_shapes(std::vector<geometry::Polygon> shapes) {
    shapes_ = std::move(shapes);
    fit();
    update();
}

geometry::Box OutlinesPicture::content() const {
    if (shapes_.empty()) return {};
    geometry::Box out = geometry::bounding_box(shapes_.front().outer);
    for (const auto& shape : shapes_) {
        const auto box = geometry::bounding_box(shape.outer);
        out = {out.min.cwiseMin(box.min), out.max.cwiseMax(box.max)};
    }
    return out;
}

void OutlinesPicture::draw(Pencil& pencil) {
    const auto& c = theme().colours();
    pencil.pen(c.ink);
    pencil.fill(c.wood);
    for (const auto& shape : shapes_) pencil.polygon(shape);
}

QString OutlinesPicture::empty_words() const {
    return "The outlines of the drawing will stand here.";
}

OutlinesPanel::OutlinesPanel(Document& document) : SidePanel(document, "Outlines from a drawing (DXF)") {
    path_ = new QLineEdit;
    path_->setAccessibleName("drawing file");
    panel_->field("drawing", path_);
    auto* browse = panel_->quiet_button("Choose the file");
    said_ = panel_->words({}, false);
    picture_ = new OutlinesPicture(document_);
    panel_->add(picture_);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    fault_ = panel_->fault();
    panel_->words(
        "Closed lines are read: polylines, circles, ellipses, blocks, and lines, arcs and splines whose ends meet. A "
        "panel's grain runs along the "
        "drawing's x, good face up.");
    panel_->end();
    act_ = panel_->act("Take them over");
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, "A drawing", path_->text(),
                                                            dialog_filter("Drawings", exchange::FileKind::drawing),
                                                            nullptr, QFileDialog::DontUseNativeDialog);
        if (!chosen.isEmpty()) path_->setText(chosen), open();
    });
    when_entered(*path_, [this] { open(); });
    connect(act_, &QPushButton::clicked, this, &OutlinesPanel::take);
    setFocusProxy(path_);
    refresh();
}

void OutlinesPanel::open() {
    QString typed = path_->text().trimmed();
    if (typed.startsWith("~/")) typed = QDir::homePath() + typed.mid(1);
    fault_->clear();
    read_ = {};
    layer_ = openings_ = 0;
    const auto text = job::read_file(typed.toStdString(), units::limit::parts_bytes);
    const std::string elsewhere =
        text ? exchange::taken_elsewhere(exchange::FileKind::drawing, *text) : std::string();
    auto read = !text                ? Result<exchange::DxfOutlines>(text.error())
                : !elsewhere.empty() ? Result<exchange::DxfOutlines>(Error{elsewhere})
                                     : exchange::read_dxf_outlines(*text);
    if (read) {
        read_ = std::move(read.value());
        name_ = QFileInfo(typed).completeBaseName().toStdString();
    } else {
        const auto& error = read.error();
        fault_->say(QString("%1%2: %3")
                        .arg(QFileInfo(typed).fileName(), error.line ? QString(", line %1").arg(error.line) : "",
                             QString::fromStdString(error.message)));
    }
    refresh();
}

std::string OutlinesPanel::material_id() const {
    const auto& materials = document_.job().materials;
    if (materials.empty()) return {};
    return materials[static_cast<std::size_t>(std::clamp(material_, 0, static_cast<int>(materials.size()) - 1))].id;
}

void OutlinesPanel::refresh() {
    const auto layers = exchange::layers_of(read_);
    QStringList names, openings{"on the same layer"}, materials;
    for (const auto& l : layers) {
        names << QString::fromStdString(l);
        openings << QString::fromStdString(l);
    }
    for (const auto& m : document_.job().materials) materials << QString::fromStdString(m.name);
    shapes_.clear();
    if (!layers.empty())
        shapes_ = exchange::shapes_on(read_, layers[static_cast<std::size_t>(layer_)],
                                      openings_ > 0 ? layers[static_cast<std::size_t>(openings_ - 1)] : "");
    FieldList fields;
    if (!layers.empty()) {
        const auto by = [this](auto set) {
            return [this, set](const QVariant& v) {
                set(*this, std::max(0, v.toInt()));
                refresh();
            };
        };
        if (layers.size() > 1)
            fields.choice("outlines on layer", layer_, names, by([](OutlinesPanel& s, int k) { s.layer_ = k; }))
                .choice("openings", openings_, openings, by([](OutlinesPanel& s, int k) { s.openings_ = k; }));
        fields
            .choice("taken over as", static_cast<int>(as_), {"panels in stock", "pieces, flat"},
                    by([](OutlinesPanel& s, int k) { s.as_ = static_cast<As>(k); }))
            .choice("of", material_, materials, by([](OutlinesPanel& s, int k) { s.material_ = k; }))
            .text("named", name_, [this](const QVariant& v) { name_ = v.toString().toStdString(); });
    }
    form_->show_fields(fields.take());
    picture_->show_shapes(shapes_);
    QStringList words;
    if (!shapes_.empty()) {
        const auto size = geometry::bounding_box(shapes_.front().outer).size();
        words << QString("%1, the largest %2 by %3. %4")
                     .arg(shapes_.size() == 1 ? QString("One outline") : QString("%1 outlines").arg(shapes_.size()),
                          document_.length(size.x()), document_.length(size.y()),
                          read_.unit_stated ? QString("The drawing says its unit.")
                                            : QString("The drawing does not say its unit: millimetres are taken."));
        for (const auto& note : read_.notes) words << "Left out: " + QString::fromStdString(note) + ".";
    }
    said_->setText(words.join("\n"));
    said_->setVisible(!words.isEmpty());
    act_->setEnabled(!shapes_.empty());
}

void OutlinesPanel::take() {
    if (!form_->settled()) return;
    fault_->clear();
    const auto id = [this](const std::string& name, std::size_t k) {
        return shapes_.size() == 1 ? name : name + " " + std::to_string(k + 1);
    };
    // On a copy first: one that will not do leaves the job as it is.
    job::Job trial = document_.job();
    std::string first;
    for (std::size_t k = 0; k < shapes_.size(); ++k) {
        std::optional<Error> wrong;
        if (as_ == As::offcuts) {
            if (const auto added = job::add_offcut(trial, material_id(), id(name_, k), shapes_[k]); !added)
                wrong = added.error();
        } else if (auto piece = job::drawn_piece(trial, document_.computed()->results, material_id(), id(name_, k),
                                                 shapes_[k])) {
            if (first.empty()) first = piece->id;
            trial.pieces.push_back(std::move(piece.value()));
        } else {
            wrong = piece.error();
        }
        if (wrong) return fault_->say("Not taken over: " + QString::fromStdString(wrong->message) + ".");
    }
    const auto n = shapes_.size();
    document_.edit(as_ == As::offcuts ? "Take panels over from a drawing" : "Take pieces over from a drawing",
                   [&](job::Job& job) { job = std::move(trial); });
    if (as_ == As::pieces) {
        document_.select_piece(QString::fromStdString(first));
        emit wants_step(StepId::pieces);
    }
    emit said(as_ == As::offcuts
                  ? QString("%1 in stock now, and used before whole sheets.")
                        .arg(n == 1 ? "One panel is" : QString("%1 panels are").arg(n))
                  : QString("%1 taken over. It stands in the middle of what was read: move it to its place.")
                        .arg(n == 1 ? "One piece" : QString("%1 pieces").arg(n)));
    emit close_asked();
}

}  // namespace bevelsmith::app

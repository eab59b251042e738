// The sheets of one material as they are drawn, moved and counted: the drawing and the ribbon of Cut.
#pragma once

#include "app/document/document.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {

/// The material shown, its sheets as they are, and the part that is held.
class CutState : public QObject {
    Q_OBJECT
  public:
    explicit CutState(Document& d) : document(d) {
        connect(&document, &Document::computed_changed, this, &CutState::renew);
        renew();
    }
    Document& document;
    const job::SheetResult* result() const {
        for (const auto& s : held_->results.sheets)
            if (s.material_id == material_) return &s;
        return nullptr;
    }
    const job::JobMaterial* material() const { return job::find_material(held_->job, material_); }
    const Computed& computed() const { return *held_; }
    const std::string& material_id() const { return material_; }
    void show_material(const std::string& id) {
        material_ = id;
        settle_placements();
        emit changed();
    }
    /// Placements as drawn: the layout's, with the held part where it has been moved to.
    std::vector<sheets::Placement> placements;
    int held = -1;
    QString refusal;  ///< why the last move was not taken

    void settle_placements() {
        placements.clear();
        held = -1;
        if (const auto* r = result()) placements = r->layout->placements;
    }

  signals:
    void changed();

  private:
    void renew() {
        held_ = document.computed();
        // A sheet that is gone gives way to one that something is cut from.
        if (!job::find_material(document.job(), material_)) material_.clear();
        if (material_.empty() && !held_->results.sheets.empty())
            material_ = held_->results.sheets.front().material_id;
        if (material_.empty() && !held_->job.materials.empty()) material_ = held_->job.materials.front().id;
        settle_placements();
        emit changed();
    }
    std::shared_ptr<const Computed> held_;
    std::string material_;
};

/// All sheets, one under the other, seen from above.
class SheetDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit SheetDrawing(CutState& state) : state_(state) {
        unit = [this] { return state_.document.unit(); };
        margin_px = 48;
        connect(&state_, &CutState::changed, this, [this] { content_changed(); });
    }

  protected:
    QString empty_words() const override {
        return "Nothing to cut from this sheet yet.\n\nWhen a piece has an outline, its parts are laid on sheets of "
               "its "
               "material here: with the grain, good face up, with room for the cutter.";
    }
    geometry::Box content() const override {
        const auto* r = state_.result();
        if (!r) return {};
        const auto size = sheet_size();
        const auto n = std::max<std::size_t>(1, r->layout->sheet_stock.size());
        return {{0, -(static_cast<double>(n - 1) * step())}, size};
    }
    void draw(Pencil& pencil) override;
    bool press(const Vec2& mm) override;
    void drag(const Vec2& mm) override;
    void release(const Vec2& mm) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Vec2 sheet_size() const {
        const auto box = geometry::bounding_box(state_.result()->problem->stock.front().shape.outer);
        return box.size();
    }
    double step() const { return sheet_size().y() + 160; }
    Vec2 sheet_origin(int sheet) const { return {0, -sheet * step()}; }
    geometry::Polygon shape_at(const sheets::Placement& at) const {
        return geometry::transformed(sheets::placed(*state_.result()->problem, at), 0, sheet_origin(at.sheet));
    }
    int part_at(const Vec2& mm) const;
    void keep_if_valid();

    CutState& state_;
    Vec2 grip_{0, 0};
    sheets::Placement before_;
};

/// Sheets in order, with how full each is.
class SheetRibbon : public QWidget {
    Q_OBJECT
  public:
    explicit SheetRibbon(CutState& state) : state_(state) {
        connect(&state_, &CutState::changed, this, qOverload<>(&QWidget::update));
    }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    CutState& state_;
};

}  // namespace bevelsmith::app

// The sheets of one material as they are drawn, moved and counted: the drawing and the ribbon of Cut.
#pragma once

#include "app/document/document.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {

/// What is chosen on the sheets: a part, a whole sheet, one that has been cut, or nothing.
struct CutChoice {
    enum class What { nothing, part, sheet, cut_sheet };
    What what = What::nothing;
    std::string part_id;
    int sheet = -1;  ///< of the layout, or of the job's cut sheets of this material
    bool operator==(const CutChoice&) const = default;
};

/// The material shown, its sheets as they are, what is chosen, and the part that is held.
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
        choice = {};
        found_.reset();
        settle_placements();
        emit changed();
    }
    /// As drawn: the layout in use, or what a search has found so far. Precondition: there is a result.
    const sheets::Layout& layout() const { return found_ ? *found_ : *result()->layout; }
    /// While a search runs, its best is drawn, and nothing can be moved; null when it is over.
    void show_found(std::shared_ptr<const sheets::Layout> found) {
        found_ = std::move(found);
        choice = {};
        settle_placements();
        emit changed();
    }
    bool searching() const { return found_ != nullptr; }
    /// Placements as drawn: the layout's, with the held part where it has been moved to.
    std::vector<sheets::Placement> placements;
    int held = -1;
    QString refusal;  ///< why the last move was not taken
    void refuse(const QString& why) {
        refusal = why;
        emit changed();
    }
    CutChoice choice;
    std::string cut_next;  ///< a sheet that is just being marked as cut: it is chosen when it is there
    std::string anew;      ///< of a cut sheet: the part that is wanted again
    void choose(const CutChoice& now) {
        choice = now;
        emit changed();
    }
    /// Sheets of this material that have been cut, in their order.
    std::vector<const job::CutSheet*> cut_sheets() const {
        std::vector<const job::CutSheet*> out;
        for (const auto& c : held_->job.cut_sheets)
            if (c.material_id == material_) out.push_back(&c);
        return out;
    }
    bool is_pinned(const std::string& part_id) const;

    void settle_placements() {
        placements.clear();
        held = -1;
        if (result()) placements = layout().placements;
    }

  signals:
    void changed();

  private:
    void renew() {
        held_ = document.computed();
        found_.reset();
        choose_cut_next();
        // A sheet that is gone gives way to one that something is cut from.
        if (!job::find_material(document.job(), material_)) material_.clear();
        if (material_.empty() && !held_->results.sheets.empty())
            material_ = held_->results.sheets.front().material_id;
        if (material_.empty() && !held_->job.materials.empty()) material_ = held_->job.materials.front().id;
        settle_placements();
        drop_stale_choice();
        emit changed();
    }
    /// What is chosen may be gone after an edit.
    void drop_stale_choice();
    void choose_cut_next();
    std::shared_ptr<const Computed> held_;
    std::string material_;
    std::shared_ptr<const sheets::Layout> found_;
};

/// All sheets in order, in rows that fill the paper, seen from above.
class SheetDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit SheetDrawing(CutState& state) : state_(state) {
        unit = [this] { return state_.document.unit(); };
        margin_px = 48;
        connect(&state_, &CutState::changed, this, [this] { content_changed(); });
    }

  signals:
    /// The part asked for twice: to see it in its piece.
    void piece_asked();

  protected:
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    QString empty_words() const override {
        return "Nothing to cut from this sheet yet.\n\nWhen a piece has an outline, its parts are laid on sheets of "
               "its "
               "material here: with the grain, good face up, with room for the cutter.";
    }
    geometry::Box content() const override {
        const auto* r = state_.result();
        if (!r) return {};
        const Vec2 size = sheet_size();
        const int n = drawn_count(), rows = (n + columns() - 1) / columns();
        return {{0, -(rows - 1) * step().y()}, {size.x() + (std::min(n, columns()) - 1) * step().x(), size.y()}};
    }
    void draw(Pencil& pencil) override;
    bool press(const Vec2& mm) override;
    void drag(const Vec2& mm) override;
    void release(const Vec2& mm) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// Where a part's name stands, and what that was found for.
    struct NamePlace {
        sheets::Placement of;
        Vec2 origin{0, 0};  ///< of its sheet
        double scale = 0;
        int pixels = 0;
        bool strong = false;
        QString name;
        Vec2 middle{0, 0};              ///< of the part
        std::optional<QPointF> beside;  ///< that, in pixels; nothing where there is no room
    };
    mutable std::vector<NamePlace> names_;
    void draw_sheet(Pencil& pencil, int sheet) const;
    bool in_view(const Pencil& pencil, const geometry::Box& box) const;
    void draw_ground(Pencil& pencil, const geometry::Polygon& sheet, bool chosen) const;
    void draw_cut_sheet(Pencil& pencil, int which) const;
    void draw_held(Pencil& pencil) const;
    /// The held part where it would lie right nearest to where it is dragged: it slides along what it meets and comes
    /// to touch what is near.
    void slide_held();
    std::string fault_of_held() const;
    void draw_part(Pencil& pencil, std::size_t placement) const;
    void draw_name(Pencil& pencil, std::size_t placement) const;
    const std::string& part_id(std::size_t placement) const;
    bool of_chosen_piece(std::size_t placement) const;
    bool has_grain() const;
    /// Room for the largest of them.
    Vec2 sheet_size() const {
        Vec2 out(0, 0);
        const auto take = [&out](const geometry::Polygon& shape) {
            out = out.cwiseMax(geometry::bounding_box(shape.outer).max);
        };
        for (const auto& stock : state_.result()->problem->stock) take(stock.shape);
        for (const auto* cut : state_.cut_sheets()) take(cut->shape);
        return out;
    }
    int sheet_count() const { return static_cast<int>(state_.layout().sheet_stock.size()); }
    /// Those to be cut, then those that have been.
    int drawn_count() const { return std::max(1, sheet_count() + static_cast<int>(state_.cut_sheets().size())); }
    /// From a sheet to the next beside it and below it.
    Vec2 step() const { return sheet_size() + Vec2(160, 420); }
    /// So many side by side that all of them are drawn as large as can be.
    int columns() const;
    Vec2 sheet_origin(int sheet) const { return {sheet % columns() * step().x(), -(sheet / columns()) * step().y()}; }
    int sheet_under(const Vec2& mm) const;
    geometry::Polygon shape_at(const sheets::Placement& at) const {
        return geometry::transformed(sheets::placed(*state_.result()->problem, at), 0, sheet_origin(at.sheet));
    }
    int part_at(const Vec2& mm) const;
    void keep_if_valid();

    CutState& state_;
    Vec2 grip_{0, 0}, pressed_{0, 0};
    sheets::Placement before_;
    sheets::Problem free_;  ///< with nothing locked: what a hand may do
    bool moved_ = false;
    std::string collision_;  ///< why the held part does not lie right where it is
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

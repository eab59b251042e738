// Fix: how a piece is held, why, and what that takes.
#include <QComboBox>
#include <cmath>

#include "app/fix/joint_detail.h"
#include "app/look/theme.h"
#include "app/pieces/piece_drawing.h"
#include "app/widgets/step.h"

namespace bevelsmith::app {
namespace {

class FixStep : public Step {
  public:
    explicit FixStep(Document& document) : Step(document, StepId::fix), state_(document) {
        auto* stage = new QWidget;
        auto* column = new QVBoxLayout(stage);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(1);
        drawing_ = new PieceDrawing(state_, PieceDrawing::Shows::fixings);
        column->addWidget(drawing_, 3);
        column->addWidget(new JointDetail(state_), 2);
        stage_ = stage;
        ribbon_ = new PerimeterRibbon(state_, PieceDrawing::Shows::fixings);
        auto* panel = new Panel;
        form_ = new_form();
        panel->add(form_);
        title_ = panel->heading({});
        build_question(*panel);
        method_row_ = new QWidget;
        auto* across = new QHBoxLayout(method_row_);
        across->setContentsMargins(0, 0, 0, 0);
        auto* held = new QLabel("held by");
        held->setObjectName("small");
        held->setFixedWidth(98);
        method_ = new QComboBox;
        method_->addItems({"as advised", "tabbing", "bonded blocks"});
        method_->setAccessibleName("held by");
        across->addWidget(held);
        across->addWidget(method_, 1);
        panel->add(method_row_);
        reasons_ = panel->words({}, false);
        for (int k = 0; k < 4; ++k) panel->add(figures_[k] = new Figure({}));
        amounts_ = panel->words({}, false);
        rejected_ = panel->words({});
        cautions_ = panel->words({}, false);
        findings_ = new FindingsBox(document_);
        panel->add(findings_);
        panel->end();
        act_ = panel->act("See it on the sheets");
        facts_ = panel;
        connect(method_, &QComboBox::activated, this, [this](int k) {
            edit_piece(document_, document_.selected_piece(), "Choose a fixing", [k](job::JobPiece& p) {
                if (k == 0) p.fixing.reset();
                else p.fixing = k == 1 ? fixing::Method::tabbing : fixing::Method::bonded_blocks;
            });
        });
        connect(act_, &QPushButton::clicked, this,
                [this] { emit wants_step(state_.shape() ? StepId::cut : StepId::pieces); });
        connect(&state_, &PieceState::changed, this, &FixStep::refresh);
        refresh();
    }
    QString count() const override {
        std::size_t blocks = 0;
        for (const auto& p : document_.computed()->results.pieces)
            if (p.shape()) blocks += p.fixing.blocks.positions.size();
        return blocks > 0 && state_.hull_said() ? QString("%1 blocks").arg(blocks) : QString();
    }

  private:
    void refresh() {
        // Nothing is stated from what nobody has said.
        const bool said = state_.hull_said();
        question_->setVisible(!said && shows_ == of_piece);
        const bool scribed = state_.shape() && state_.shape()->edge_length_mm > 0;
        const bool made = state_.piece() && piece::is_made(state_.piece()->role);
        const bool ready = scribed && said && made && shows_ == of_piece;
        for (QWidget* w :
             std::initializer_list<QWidget*>{method_row_, reasons_, amounts_, rejected_, cautions_, findings_})
            w->setVisible(ready);
        for (auto* f : figures_) f->setVisible(ready);
        act_->setText(state_.shape() ? "See it on the sheets" : "Give it an outline first");
        show_form();
        title_->setVisible(shows_ == of_piece);
        if (shows_ != of_piece) return;
        if (!said) return title_->setText("What is the hull made of?");
        if (state_.shape() && !made) return title_->setText("It stands there already: it is held as it is held.");
        if (state_.shape() && !scribed)
            return title_->setText("This piece meets no hull: it is fixed to the pieces that it ends at.");
        if (!ready) return title_->setText("A piece with an outline can be fixed: choose one at left.");
        title_->setText(QString::fromStdString(state_.computed_piece()->name));
        const auto& plan = state_.result()->fixing;
        const auto* piece = state_.piece();
        method_->setCurrentIndex(piece && piece->fixing ? (*piece->fixing == fixing::Method::tabbing ? 1 : 2) : 0);
        QStringList reasons, rejected, cautions;
        for (const auto& r : plan.reasons) reasons << document_.told(r);
        for (const auto& r : plan.rejected)
            rejected << QString("Not %1: %2.").arg(QString::fromStdString(r.method), document_.told(r.why));
        for (const auto& r : plan.cautions) cautions << "Mind: " + document_.told(r);
        reasons_->setText(reasons.join("\n"));
        rejected_->setText(rejected.join("\n"));
        cautions_->setText(cautions.join("\n"));
        plan.method == fixing::Method::tabbing ? show_tabbing(plan.tabbing) : show_blocks(plan.blocks);
        findings_->show_findings(findings_of(*document_.computed(), document_.selected_piece()));
    }

    /// Asked first: what can take a fastening depends on it.
    void build_question(Panel& panel) {
        question_ = new QWidget;
        auto* column = new QVBoxLayout(question_);
        column->setContentsMargins(0, 0, 0, 0);
        auto* words = new QLabel("What can take a fastening depends on it. The thickness stands among the rules.");
        words->setWordWrap(true);
        column->addWidget(words);
        for (int k = 1; k < fixing::construction_count; ++k) {
            const auto construction = static_cast<fixing::Construction>(k);
            const auto name = fixing::construction_name(construction);
            auto* button = new QPushButton(QString::fromUtf8(name.data(), static_cast<int>(name.size())));
            column->addWidget(button);
            connect(button, &QPushButton::clicked, this, [this, construction] {
                document_.edit("Say what the hull is made of",
                               [&](job::Job& job) { job.boat.shell.construction = construction; });
            });
        }
        panel.add(question_);
    }

    void show(int k, const QString& name, const QString& value, const QString& unit, const QString& why) {
        figures_[k]->set_name(name);
        figures_[k]->show_value(value, unit, why);
    }

    void show_tabbing(const fixing::Tabbing& t) {
        const QString unit = QString::fromUtf8(units::symbol(document_.unit()).data());
        show(0, "strips on each side, wide",
             document_.length_number(t.strip_widths_mm.front()) + " to " +
                 document_.length_number(t.strip_widths_mm.back()),
             unit,
             QString("%1 plies, narrow first, each %2 wider than the one under it. Half of each lies on the piece, "
                     "half on the hull.")
                 .arg(t.strip_widths_mm.size())
                 .arg(document_.length(document_.computed()->job.fixing_rules.strip_step_mm)));
        show(1, "glass", document_.area_number(t.glass_area_m2 * 1e6), document_.area_unit(),
             QString("Both sides: the sum of the widths times the edge's length of %1.")
                 .arg(document_.length(t.edge_length_mm)));
        show(2, "resin", document_.mass_number(t.resin_mass_kg, 2), document_.mass_unit(),
             "Glass mass times its usual resin demand, with the waste of the rules below. Check your stock before "
             "you start.");
        show(3, "putty for the fillets", QString::number(t.fillet_volume_l, 'f', 2), "l",
             QString("A fillet of %1 radius on both sides, corner by corner with the bevel.")
                 .arg(document_.length(t.fillet_radius_mm)));
        amounts_->setText(QString("Glass %1, putty %2; the pack cures to %3.")
                              .arg(document_.mass(t.glass_mass_kg, 2), document_.mass(t.fillet_mass_kg, 2),
                                   document_.fine(t.laminate_mm)));
    }

    void show_blocks(const fixing::Blocks& b) {
        show(0, "blocks along the edge", QString::number(b.positions.size()), "",
             "Along each stretch of edge: no farther apart than the rules say, at least two, and enough for the "
             "load.");
        show(1, "screw for each, stainless",
             b.screw_length_mm > 0
                 ? QString("No. %1 × %2").arg(b.screw_gauge).arg(document_.length(b.screw_length_mm))
                 : QString("none fits"),
             "",
             QString("Through %1 of panel and %2 into the block; %3 stay clear behind its point.")
                 .arg(document_.length(b.panel_mm), document_.length(b.penetration_mm),
                      document_.length(b.clearance_mm)));
        show(2, "working load of one screw", document_.force_number(b.withdrawal_n), document_.force_unit(),
             "Working withdrawal: 108.25 G² D L (USDA Wood Handbook, ch. 8, from memory) over the safety factor of "
             "the rules.");
        show(3, "load that all carry together", document_.force_number(b.load_n), document_.force_unit(),
             "The panel's weight times the load factor of the rules.");
        QStringList places;
        for (const auto& block : b.positions) places << document_.length_number(block.arc_mm);
        amounts_->setText(QString("Along the edge, numbered as drawn, at %1 %2.\n")
                              .arg(places.join(", "), QString::fromUtf8(units::symbol(document_.unit()).data())) +
                          QString("Each block bonds over %1. All with their screws weigh %2.")
                              .arg(document_.small_area(b.bond_area_mm2 / 100, document_.in_pounds() ? 1 : 0))
                              .arg(document_.mass(b.mass_kg, 2)));
    }

    /// One of: the chosen piece, the hull and blocks, the cloth.
    enum Shows { of_piece, of_blocks, of_cloth };
    void show_form() {
        FieldList fields;
        fields.choice("showing", shows_, {"this piece", "rules: hull, blocks, screws", "rules: fillets and cloth"},
                      [this](const QVariant& v) {
                          shows_ = static_cast<Shows>(std::clamp(v.toInt(), 0, 2));
                          refresh();
                      });
        if (shows_ != of_piece) add_rules(fields);
        form_->show_fields(fields.take());
    }
    template <class Change>
    auto set(Change change) {
        return [this, change](const QVariant& v) {
            document_.edit("Change a fixing rule", [&](job::Job& job) { change(job, v); });
        };
    }
    auto rule(double fixing::Rules::*member) {
        return set([member](job::Job& job, const QVariant& v) { job.fixing_rules.*member = v.toDouble(); });
    }
    void add_rules(FieldList& fields) {
        const auto& r = document_.job().fixing_rules;
        using R = fixing::Rules;
        QStringList made_of;
        for (int k = 0; k < fixing::construction_count; ++k) {
            const auto name = fixing::construction_name(static_cast<fixing::Construction>(k));
            made_of << QString::fromUtf8(name.data(), static_cast<int>(name.size()));
        }
        if (shows_ == of_cloth) return add_cloth(fields);
        fields
            .choice("hull is", static_cast<int>(document_.job().boat.shell.construction), made_of,
                    set([](job::Job& job, const QVariant& v) {
                        job.boat.shell.construction = static_cast<fixing::Construction>(v.toInt());
                    }))
            .length("hull laminate", document_.job().boat.shell.laminate_mm,
                    set([](job::Job& job, const QVariant& v) { job.boat.shell.laminate_mm = v.toDouble(); }), 0.5,
                    200)
            .length("blocks at most apart", r.block_spacing_mm, rule(&R::block_spacing_mm), 20, 5000)
            .length("block depth", r.block_depth_mm, rule(&R::block_depth_mm), 1, 500)
            .length("block length", r.block_length_mm, rule(&R::block_length_mm), 1, 2000)
            .length("block width", r.block_width_mm, rule(&R::block_width_mm), 1, 2000)
            .length("clear behind point", r.least_clearance_mm, rule(&R::least_clearance_mm), 0, 100)
            .number("screw gauge No.", "", r.screw_gauge, set([](job::Job& job, const QVariant& v) {
                        job.fixing_rules.screw_gauge = static_cast<int>(std::lround(v.toDouble()));
                    }),
                    2, 24)
            .number("screw safety factor", "", r.screw_safety, rule(&R::screw_safety), 1, 50)
            .number("load factor", "", r.load_factor, rule(&R::load_factor), 1, 50);
    }
    void add_cloth(FieldList& fields) {
        const auto& r = document_.job().fixing_rules;
        using R = fixing::Rules;
        fields.length("fillet radius", r.fillet_radius_mm, rule(&R::fillet_radius_mm), 1, 200)
            .length("first strip", r.first_strip_mm, rule(&R::first_strip_mm), 10, 1000)
            .length("each next wider by", r.strip_step_mm, rule(&R::strip_step_mm), 0, 500)
            .choice("glass", static_cast<int>(r.glass.kind), {"mat", "woven", "biaxial"},
                    set([](job::Job& job, const QVariant& v) {
                        job.fixing_rules.glass.kind = static_cast<stock::GlassKind>(v.toInt());
                    }))
            .number("glass mass", "g/m²", r.glass.mass_g_m2,
                    set([](job::Job& job, const QVariant& v) { job.fixing_rules.glass.mass_g_m2 = v.toDouble(); }),
                    20, 3000);
    }

    PieceState state_;
    QWidget *question_ = nullptr, *method_row_ = nullptr;
    QLabel *title_, *reasons_, *amounts_, *rejected_, *cautions_;
    QComboBox* method_;
    Figure* figures_[4];
    FindingsBox* findings_;
    Form* form_;
    QPushButton* act_;
    Shows shows_ = of_piece;
};

}  // namespace

std::unique_ptr<Step> make_fix_step(Document& document) {
    return std::make_unique<FixStep>(document);
}

}  // namespace bevelsmith::app

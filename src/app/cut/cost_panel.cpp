#include "app/cut/cost_panel.h"

#include <QPainter>
#include <QtConcurrent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/free_places.h"
#include "job/sheet_count.h"
#include "job/shopping.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

QString money(double amount, const QString& currency) {
    return QString("%1 %2").arg(amount, 0, 'f', amount < 100 ? 2 : 0).arg(currency);
}

}  // namespace

CostPicture::CostPicture(QWidget* parent) : QWidget(parent) {
    setAccessibleName("cost against weight");
    // Else a long list under it would press it to nothing.
    setMinimumHeight(sizeHint().height());
}

void CostPicture::show_costs(std::vector<job::FinishedCost> costs, const QString& currency, const QString& mass_unit,
                             double kg_each, int chosen) {
    mass_unit_ = mass_unit;
    kg_each_ = kg_each;
    costs_ = std::move(costs);
    currency_ = currency;
    chosen_ = chosen;
    update();
}

namespace {

constexpr double mark_px = 6;

/// Round figures between which all values lie, with room at both ends.
struct Scale {
    double low = 0, step = 1;
    static constexpr int steps = 4;
    double share(double value) const { return (value - low) / (steps * step); }
};

Scale scale_of(double least, double most) {
    const double wide = std::max({most - least, 0.15 * most, 1.0});
    const double rough = 1.4 * wide / Scale::steps, ten = std::pow(10, std::floor(std::log10(rough)));
    double step = 10 * ten;
    for (const double m : {1.0, 2.0, 2.5, 5.0})
        if (m * ten >= rough) {
            step = m * ten;
            break;
        }
    return {std::max(0.0, std::floor((least - 0.3 * step) / step) * step), step};
}

}  // namespace

void CostPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    constexpr double left = 46, top = 20, under = 38;
    const QRectF field(left, top, width() - left - 8, height() - top - under);
    p.fillRect(field, c.paper);
    double least_cost = HUGE_VAL, most_cost = 0, least_mass = HUGE_VAL, most_mass = 0;
    for (const auto& one : costs_) {
        if (!one.fault.empty()) continue;
        least_cost = std::min(least_cost, one.cost()), most_cost = std::max(most_cost, one.cost());
        least_mass = std::min(least_mass, one.mass_kg() / kg_each_),
        most_mass = std::max(most_mass, one.mass_kg() / kg_each_);
    }
    if (most_cost <= 0) return;
    const Scale cost = scale_of(least_cost, most_cost), mass = scale_of(least_mass, most_mass);
    for (int k = 0; k <= Scale::steps; ++k) {
        const double y = field.bottom() - k * field.height() / Scale::steps;
        const double x = field.left() + k * field.width() / Scale::steps;
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(field.left(), y), QPointF(field.right(), y));
        p.drawLine(QPointF(x, field.top()), QPointF(x, field.bottom()));
        p.setPen(c.faint);
        p.drawText(QRectF(0, y - 8, left - 6, 16), Qt::AlignRight | Qt::AlignVCenter,
                   QString::number(cost.low + k * cost.step, 'g', 6));
        const double from = std::min(x - 30, width() - 60.0);  // the last one ends with the picture
        p.drawText(QRectF(from, field.bottom() + 3, 60, 16), x - 30 > from ? Qt::AlignRight : Qt::AlignHCenter,
                   QString::number(mass.low + k * mass.step, 'g', 6));
    }
    p.drawText(QRectF(field.left(), 0, field.width(), 18), Qt::AlignLeft, "cost, " + currency_);
    p.drawText(QRectF(field.left(), height() - 18, field.width(), 18), Qt::AlignRight, "weight, " + mass_unit_);
    const auto place = [&](const job::FinishedCost& one) {
        return QPointF(field.left() + field.width() * mass.share(one.mass_kg() / kg_each_),
                       field.bottom() - field.height() * cost.share(one.cost()));
    };
    FreePlaces taken;
    constexpr double mark = mark_px;
    for (std::size_t k = 0; k < costs_.size(); ++k) {
        if (!costs_[k].fault.empty()) continue;
        const bool chosen = static_cast<int>(k) == chosen_;
        p.setPen(QPen(chosen ? c.accent : c.ink, 2));
        p.setBrush(chosen ? c.accent : c.wood);
        const QPointF at = place(costs_[k]);
        p.drawEllipse(at, mark, mark);
        taken.take(QRectF(at.x() - mark - 2, at.y() - mark - 2, 2 * mark + 4, 2 * mark + 4));
    }
    draw_names(p, field, place, taken);
}

/// Beside each mark, where there is room.
void CostPicture::draw_names(QPainter& p, const QRectF& field,
                             const std::function<QPointF(const job::FinishedCost&)>& place, FreePlaces& taken) const {
    p.setPen(theme().colours().ink);
    for (const auto& one : costs_) {
        if (!one.fault.empty()) continue;
        const QString words = QString::fromStdString(one.name).section(',', 0, 0);
        const QPointF at = place(one);
        const double wide = p.fontMetrics().horizontalAdvance(words) + 2;
        constexpr double mark = mark_px;
        const QPointF corners[] = {{at.x() + mark + 4, at.y() - 8},        {at.x() - mark - 4 - wide, at.y() - 8},
                                   {at.x() - wide / 2, at.y() + mark + 2}, {at.x() - wide / 2, at.y() - mark - 18},
                                   {at.x() + mark + 4, at.y() + 8},        {at.x() + mark + 4, at.y() - 24}};
        for (const QPointF& corner : corners) {
            const QRectF box(corner, QSizeF(wide, 16));
            if (!field.contains(box) || !taken.is_free(box)) continue;
            taken.take(box);
            p.drawText(box, Qt::AlignVCenter | Qt::AlignLeft, words);
            break;
        }
    }
}

CostPanel::CostPanel(Document& document)
    : SidePanel(document, "Cost and shopping"), stop_(std::make_shared<std::atomic<bool>>(false)) {
    groups_ = panel_->choice("pieces", {});
    groups_->setAccessibleName("pieces");
    picture_ = new CostPicture;
    panel_->add(picture_);
    sums_ = panel_->words({}, false);
    panel_->heading("To buy");
    shopping_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    usual_ = panel_->quiet_button("Begin with three usual choices");
    another_ = panel_->quiet_button("Add another choice");
    gone_ = panel_->quiet_button("Remove this choice");
    panel_->end();
    connect(groups_, &QComboBox::activated, this, [this](int k) {
        group_ = static_cast<std::size_t>(std::max(0, k));
        work_out();
    });
    connect(usual_, &QPushButton::clicked, this, [this] {
        document_.edit("Add usual choices", [](job::Job& job) { job.choices = job::usual_choices(job); });
    });
    connect(another_, &QPushButton::clicked, this, [this] {
        document_.edit("Add a choice", [this](job::Job& job) {
            if (job.choices.empty()) return;
            job::MaterialChoice made = job.choices[std::min(chosen_, job.choices.size() - 1)];
            std::vector<std::string> ids;
            for (const auto& c : job.choices) ids.push_back(c.id);
            made.id = job::free_id("M", ids);
            made.name += ", another";
            job.choices.push_back(made);
        });
        chosen_ = document_.job().choices.size() - 1;
        refresh();
    });
    connect(gone_, &QPushButton::clicked, this, [this] {
        document_.edit("Remove a choice", [this](job::Job& job) {
            if (chosen_ < job.choices.size())
                job.choices.erase(job.choices.begin() + static_cast<std::ptrdiff_t>(chosen_));
        });
    });
    connect(&watcher_, &QFutureWatcher<std::vector<job::FinishedCost>>::finished, this, &CostPanel::show_result);
    connect(&document_, &Document::job_changed, this, &CostPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &CostPanel::refresh);
    refresh();
}

CostPanel::~CostPanel() {
    *stop_ = true;
    watcher_.waitForFinished();
}

/// On a thread of its own: every choice is laid out.
void CostPanel::work_out() {
    if (watcher_.isRunning()) {
        again_ = true;
        *stop_ = true;
        return;
    }
    *stop_ = false;
    const auto computed = document_.computed();
    const auto groups = job::piece_groups(computed->job, computed->results);
    if (groups.empty() || document_.job().choices.empty()) {
        picture_->show_costs({}, QString::fromStdString(document_.job().costs.currency), document_.mass_unit(), 1, 0);
        sums_->clear();
        return;
    }
    job::Job job = computed->job;
    job.choices = document_.job().choices;
    job.costs = document_.job().costs;
    const auto group = groups[std::min(group_, groups.size() - 1)];
    watcher_.setFuture(QtConcurrent::run([job, computed, group, stop = stop_] {
        try {
            return job::finished_costs(job, computed->results, group, [stop] { return !*stop; });
        } catch (const std::exception&) {
            return std::vector<job::FinishedCost>();
        }
    }));
}

void CostPanel::show_result() {
    if (again_) {
        again_ = false;
        return work_out();
    }
    const auto costs = watcher_.result();
    const QString currency = QString::fromStdString(document_.job().costs.currency);
    picture_->show_costs(costs, currency, document_.mass_unit(), document_.in_pounds() ? units::kg_per_pound : 1,
                         static_cast<int>(chosen_));
    if (chosen_ >= costs.size()) return sums_->clear();
    const auto& one = costs[chosen_];
    if (!one.fault.empty())
        return sums_->setText("It cannot be told: " +
                              QString::fromStdString(units::in_unit(one.fault, document_.unit())));
    QStringList words;
    words << QString("%1 sheets %2%3")
                 .arg(one.sheets)
                 .arg(money(one.sheets_cost, currency), one.price_known ? "" : " (their price is not known)");
    if (one.without_place > 0)
        words << QString::fromStdString(job::words_of(job::WithoutPlace{one.without_place, 0}));
    if (one.laminate_cost > 0) words << "laminate " + money(one.laminate_cost, currency);
    words << QString("coats %1, %2").arg(document_.volume(one.litres), money(one.coats_cost, currency));
    if (one.lipping_m > 0)
        words << QString("lippings %1, %2").arg(document_.run(one.lipping_m), money(one.lipping_cost, currency));
    words << QString("%1 h, %2").arg(one.hours, 0, 'f', 1).arg(money(one.hours_cost, currency));
    sums_->setText(words.join("; ") +
                   QString("\nTogether %1, %2.").arg(money(one.cost(), currency), document_.mass(one.mass_kg())));
}

void CostPanel::add_fields(FieldList& fields) {
    const auto& job = document_.job();
    const auto& now = job.choices[chosen_];
    using M = job::MaterialChoice;
    const auto by = [this](auto change) {
        return [this, change](const QVariant& v) {
            document_.edit("Change a choice", [&](job::Job& j) {
                if (chosen_ < j.choices.size()) change(j, j.choices[chosen_], v);
            });
        };
    };
    const auto number = [&](double M::*member) {
        return by([member](job::Job&, M& one, const QVariant& v) { one.*member = v.toDouble(); });
    };
    const QString currency = QString::fromStdString(job.costs.currency);
    QStringList choices, materials;
    int material = 0;
    for (const auto& c : job.choices) choices << QString::fromStdString(c.name);
    for (const auto& m : job.materials) {
        if (m.id == now.material_id) material = static_cast<int>(materials.size());
        materials << QString::fromStdString(m.name);
    }
    namespace range = units::range;
    fields.choice("choice", static_cast<int>(chosen_), choices, [this](const QVariant& v) {
        chosen_ = static_cast<std::size_t>(std::max(0, v.toInt()));
        refresh();
    });
    fields
        .text("called", now.name,
              by([](job::Job&, M& one, const QVariant& v) { one.name = v.toString().toStdString(); }))
        .choice("made of", material, materials, by([](job::Job& j, M& one, const QVariant& v) {
                    one.material_id = j.materials[static_cast<std::size_t>(std::max(0, v.toInt()))].id;
                }))
        .choice("laminate on", now.laminated_faces, {"no face", "one face", "both faces"},
                by([](job::Job&, M& one, const QVariant& v) { one.laminated_faces = v.toInt(); }));
    if (now.laminated_faces > 0)
        fields.number("laminate", currency + "/m²", now.laminate_price_m2, number(&M::laminate_price_m2), 0,
                      range::price.most);
    fields
        .number("coats", "", now.coats, by([](job::Job&, M& one, const QVariant& v) {
                    one.coats = static_cast<int>(std::lround(v.toDouble()));
                }),
                range::coats.least, range::coats.most)
        .number("coating", currency + "/l", now.coat_price_l, number(&M::coat_price_l), 0, range::price.most)
        .number("a litre covers", "m²", now.coat_m2_l, number(&M::coat_m2_l), range::coverage.least,
                range::coverage.most)
        .number("lipping", currency + "/m", now.lipping_price_m, number(&M::lipping_price_m), 0, range::price.most)
        .number("work on faces", "h/m²", now.hours_m2, number(&M::hours_m2), range::hours.least, range::hours.most)
        .number("work on edges", "h/m", now.hours_m, number(&M::hours_m), range::hours.least, range::hours.most);
    add_rates(fields);
}

/// What an hour costs, and how many some work takes: of the whole job.
void CostPanel::add_rates(FieldList& fields) {
    namespace range = units::range;
    const auto& costs = document_.job().costs;
    const QString currency = QString::fromStdString(costs.currency);
    const auto number = [this](const QString& what, double job::Costs::*member) {
        return [this, what, member](const QVariant& v) {
            document_.edit(what, [&](job::Job& j) { j.costs.*member = v.toDouble(); });
        };
    };
    fields
        .number("an hour", currency, costs.hour_rate, number("Change the rate", &job::Costs::hour_rate), 0,
                range::price.most)
        .number("to lay a ply", "h/m²", costs.laminating_h_m2,
                number("Change the hours", &job::Costs::laminating_h_m2), range::hours.least, range::hours.most)
        .number("a face cures", "h", costs.cure_h, number("Change the hours", &job::Costs::cure_h), range::cure.least,
                range::cure.most)
        .text("currency", costs.currency, [this](const QVariant& v) {
            document_.edit("Change the currency",
                           [&](job::Job& j) { j.costs.currency = v.toString().left(12).toStdString(); });
        });
}

void CostPanel::refresh() {
    const auto computed = document_.computed();
    const auto groups = job::piece_groups(computed->job, computed->results);
    QStringList names, shown;
    for (const auto& g : groups) names << QString::fromStdString(g.name);
    for (int i = 0; i < groups_->count(); ++i) shown << groups_->itemText(i);
    if (names != shown) {
        groups_->clear();
        groups_->addItems(names);
    }
    group_ = std::min(group_, groups.empty() ? 0 : groups.size() - 1);
    groups_->setCurrentIndex(groups.empty() ? -1 : static_cast<int>(group_));
    const auto& job = document_.job();
    FieldList fields;
    chosen_ = std::min(chosen_, job.choices.empty() ? 0 : job.choices.size() - 1);
    if (!job.choices.empty()) add_fields(fields);
    form_->show_fields(fields.take());
    usual_->setVisible(job.choices.empty() && !job.materials.empty());
    another_->setVisible(!job.choices.empty());
    gone_->setVisible(!job.choices.empty());
    picture_->setVisible(!job.choices.empty());
    sums_->setVisible(!job.choices.empty());
    QStringList lines;
    double sum = 0;
    const QString currency = QString::fromStdString(job.costs.currency);
    for (const auto& line : job::shopping_list(computed->job, computed->results)) {
        if (line.to_buy <= 0) continue;
        sum += line.sum();
        QString ones = QString::fromStdString(line.of_what);
        if (line.to_buy == 1 && ones.endsWith('s')) ones.chop(1);
        lines << QString("%1 %2 of %3%4")
                     .arg(line.to_buy, 0, 'f', 0)
                     .arg(ones, QString::fromStdString(units::in_unit(line.what, job.unit)),
                          line.price > 0 ? ", " + money(line.sum(), currency) : QString(", price not known"));
        if (!line.note.empty()) lines.back() += " (" + QString::fromStdString(line.note) + ")";
    }
    if (sum > 0) lines << "Together " + money(sum, currency) + ".";
    shopping_->setText(lines.isEmpty() ? "Nothing: what is needed is in stock, or nothing is laid out yet."
                                       : lines.join("\n"));
    work_out();
}

}  // namespace bevelsmith::app

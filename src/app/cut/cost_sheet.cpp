#include "app/cut/cost_sheet.h"

#include <QPainter>
#include <QtConcurrent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/widgets/free_places.h"
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
}

void CostPicture::show_costs(std::vector<job::FinishedCost> costs, const QString& currency, int chosen) {
    costs_ = std::move(costs);
    currency_ = currency;
    chosen_ = chosen;
    update();
}

void CostPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    const QRectF field(8, 22, width() - 16, height() - 46);
    p.fillRect(field, c.paper);
    p.setPen(c.faint);
    p.drawText(QRectF(8, 2, width() - 16, 18), Qt::AlignLeft, "cost, " + currency_);
    p.drawText(QRectF(8, height() - 20, width() - 16, 18), Qt::AlignRight, "weight, kg");
    double cost = 1, mass = 1;
    for (const auto& one : costs_)
        if (one.fault.empty()) cost = std::max(cost, 1.15 * one.cost()), mass = std::max(mass, 1.15 * one.mass_kg());
    p.setPen(QPen(c.line, 1));
    for (int k = 1; k < 4; ++k) {
        const double y = field.bottom() - k * field.height() / 4, x = field.left() + k * field.width() / 4;
        p.drawLine(QPointF(field.left(), y), QPointF(field.right(), y));
        p.drawLine(QPointF(x, field.top()), QPointF(x, field.bottom()));
    }
    FreePlaces taken;
    for (std::size_t k = 0; k < costs_.size(); ++k) {
        const auto& one = costs_[k];
        if (!one.fault.empty()) continue;
        const QPointF at(field.left() + field.width() * one.mass_kg() / mass,
                         field.bottom() - field.height() * one.cost() / cost);
        const bool chosen = static_cast<int>(k) == chosen_;
        p.setPen(QPen(chosen ? c.accent : c.ink, 2));
        p.setBrush(chosen ? c.accent : c.wood);
        p.drawEllipse(at, 6, 6);
        const QString words =
            QString("%1  %2, %3 kg")
                .arg(QString::fromStdString(one.name).section(',', 0, 0), money(one.cost(), currency_))
                .arg(one.mass_kg(), 0, 'f', 1);
        p.setPen(c.ink);
        const double wide = p.fontMetrics().horizontalAdvance(words);
        for (const double down : {-8.0, 8.0, -24.0, 24.0, -40.0, 40.0}) {
            const double x = std::clamp(at.x() + 12, field.left(), std::max(field.left(), field.right() - wide - 2));
            const QRectF box(x, at.y() + down - 8, wide, 16);
            if (!taken.is_free(box) || !field.contains(box)) continue;
            taken.take(box);
            p.drawText(box, Qt::AlignVCenter | Qt::AlignLeft, words);
            break;
        }
    }
}

CostSheet::CostSheet(Document& document)
    : SideSheet(document, "Cost and shopping"), stop_(std::make_shared<std::atomic<bool>>(false)) {
    groups_ = panel_->choice("pieces", {});
    groups_->setAccessibleName("pieces");
    picture_ = new CostPicture;
    panel_->add(picture_);
    sums_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    usual_ = panel_->quiet_button("Begin with three usual choices");
    another_ = panel_->quiet_button("Add another choice");
    gone_ = panel_->quiet_button("Remove this choice");
    panel_->heading("To buy");
    shopping_ = panel_->words({}, false);
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
    connect(&watcher_, &QFutureWatcher<std::vector<job::FinishedCost>>::finished, this, &CostSheet::show_result);
    connect(&document_, &Document::job_changed, this, &CostSheet::refresh);
    connect(&document_, &Document::computed_changed, this, &CostSheet::refresh);
    refresh();
}

CostSheet::~CostSheet() {
    *stop_ = true;
    watcher_.waitForFinished();
}

/// On a thread of its own: every choice is laid out.
void CostSheet::work_out() {
    if (watcher_.isRunning()) {
        again_ = true;
        *stop_ = true;
        return;
    }
    *stop_ = false;
    const auto computed = document_.computed();
    const auto groups = job::piece_groups(computed->job, computed->results);
    if (groups.empty() || document_.job().choices.empty()) {
        picture_->show_costs({}, QString::fromStdString(document_.job().costs.currency), 0);
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

void CostSheet::show_result() {
    if (again_) {
        again_ = false;
        return work_out();
    }
    const auto costs = watcher_.result();
    const QString currency = QString::fromStdString(document_.job().costs.currency);
    picture_->show_costs(costs, currency, static_cast<int>(chosen_));
    if (chosen_ >= costs.size()) return sums_->clear();
    const auto& one = costs[chosen_];
    if (!one.fault.empty()) return sums_->setText("It cannot be told: " + QString::fromStdString(one.fault));
    QStringList words;
    words << QString("%1 sheets %2%3")
                 .arg(one.sheets)
                 .arg(money(one.sheets_cost, currency), one.price_known ? "" : " (their price is not known)");
    if (one.laminate_cost > 0) words << "laminate " + money(one.laminate_cost, currency);
    words << QString("coats %1 l, %2").arg(one.litres, 0, 'f', 1).arg(money(one.coats_cost, currency));
    if (one.lipping_m > 0)
        words << QString("lippings %1 m, %2").arg(one.lipping_m, 0, 'f', 1).arg(money(one.lipping_cost, currency));
    words << QString("%1 h, %2").arg(one.hours, 0, 'f', 1).arg(money(one.hours_cost, currency));
    sums_->setText(words.join("; ") +
                   QString("\nIn all %1, %2 kg.").arg(money(one.cost(), currency)).arg(one.mass_kg(), 0, 'f', 1));
}

void CostSheet::add_fields(FieldList& fields) {
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
        .number("work on edges", "h/m", now.hours_m, number(&M::hours_m), range::hours.least, range::hours.most)
        .number(
            "an hour", currency, job.costs.hour_rate,
            [this](const QVariant& v) {
                document_.edit("Change the rate", [&](job::Job& j) { j.costs.hour_rate = v.toDouble(); });
            },
            0, range::price.most)
        .text("currency", job.costs.currency, [this](const QVariant& v) {
            document_.edit("Change the currency",
                           [&](job::Job& j) { j.costs.currency = v.toString().left(12).toStdString(); });
        });
}

void CostSheet::refresh() {
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
        lines << QString("%1 %2 of %3%4")
                     .arg(line.to_buy, 0, 'g', 4)
                     .arg(QString::fromStdString(line.of_what), QString::fromStdString(line.what),
                          line.price > 0 ? ", " + money(line.sum(), currency) : QString(", price not known"));
    }
    if (sum > 0) lines << "In all " + money(sum, currency) + ".";
    shopping_->setText(lines.isEmpty() ? "Nothing: what is needed is in stock, or nothing is laid out yet."
                                       : lines.join("\n"));
    work_out();
}

}  // namespace bevelsmith::app

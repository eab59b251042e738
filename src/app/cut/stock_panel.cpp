#include "app/cut/stock_panel.h"

#include <algorithm>
#include <cmath>

#include "app/cut/bar_picture.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

QString ring_words(const geometry::Ring& ring, units::LengthUnit unit) {
    QStringList out;
    for (const Vec2& p : ring)
        out << QString::fromStdString(units::format_length_field(p.x(), unit) + ", " +
                                      units::format_length_field(p.y(), unit));
    return out.join("; ");
}

Result<geometry::Polygon> shape_in(const QString& text, units::LengthUnit unit, const geometry::Ring& before) {
    std::vector<double> shown;
    for (const Vec2& p : before) shown.insert(shown.end(), {p.x(), p.y()});
    geometry::Polygon out;
    for (const QString& place : text.split(';', Qt::SkipEmptyParts)) {
        const QStringList numbers = place.split(',');
        if (numbers.size() != 2) return Error{"a corner is: along, across; and ; stands between two corners"};
        Vec2 p;
        for (int k = 0; k < 2; ++k) {
            const auto one = units::parse_listed_mm(numbers[k].trimmed().toStdString(), unit, shown);
            if (!one) return one.error();
            p[k] = *one;
        }
        out.outer.push_back(p);
    }
    out = geometry::oriented(std::move(out));
    const auto fault = sheets::fault_of(sheets::Part{"offcut", 1, true, {0}, 0, false, out});
    if (!fault.empty()) return Error{fault};
    return out;
}

template <class List>
std::vector<std::string> ids_of(const List& list) {
    std::vector<std::string> out;
    for (const auto& one : list) out.push_back(one.id);
    return out;
}

}  // namespace

StockPanel::StockPanel(Document& document) : SidePanel(document, "Stock and lengths") {
    which_ = panel_->choice("of what", {"offcuts and panels", "bars, by length", "lengths wanted"});
    which_->setAccessibleName("of what");
    empty_ = panel_->words({}, false);
    form_ = new Form([&d = document_] { return d.unit(); });
    panel_->add(form_);
    ends_ = panel_->words({}, false);
    fault_ = panel_->fault();
    auto* row = new QHBoxLayout;
    const auto quiet = [row](const QString& words) {
        auto* b = new QPushButton(words);
        b->setObjectName("quiet");
        row->addWidget(b);
        return b;
    };
    another_ = quiet("Add another");
    gone_ = quiet("Remove it");
    photo_ = quiet("Trace in a photo");
    drawing_ = quiet("From a DXF");
    row->addStretch(1);
    panel_->column()->addLayout(row);
    plan_ = panel_->words({}, false);
    picture_ = new BarPicture(document_);
    panel_->add(picture_);
    panel_->end();
    connect(which_, &QComboBox::activated, this, [this](int k) {
        shown_ = static_cast<Shown>(k);
        chosen_ = 0;
        refresh();
    });
    connect(another_, &QPushButton::clicked, this, &StockPanel::add);
    connect(gone_, &QPushButton::clicked, this, &StockPanel::remove);
    connect(photo_, &QPushButton::clicked, this, [this] { emit wants_panel(panel::PanelPhoto{}); });
    connect(drawing_, &QPushButton::clicked, this, [this] { emit wants_panel(panel::Outlines{}); });
    connect(&document_, &Document::job_changed, this, &StockPanel::refresh);
    connect(&document_, &Document::computed_changed, this, &StockPanel::refresh);
    refresh();
}

std::size_t StockPanel::count() const {
    const auto& job = document_.job();
    return shown_ == Shown::offcuts ? job.offcuts.size()
           : shown_ == Shown::bars  ? job.bars.size()
                                    : job.lengths.size();
}

void StockPanel::add() {
    fault_->clear();
    const auto& now = document_.job();
    if (shown_ == Shown::lengths && now.bars.empty())
        return fault_->say("Add a bar first: a length is cut from one.");
    if (shown_ == Shown::offcuts && now.materials.empty())
        return fault_->say("Add a sheet in Cut first: an offcut is of one.");
    document_.edit("Add to the stock", [&](job::Job& job) {
        if (shown_ == Shown::offcuts) {
            auto& o = job.offcuts.emplace_back();
            o.id = job::free_id("O", ids_of(job.offcuts));
            o.name = "by hand", o.material_id = job.materials.front().id;
            o.shape.outer = geometry::rectangle({{0, 0}, {600, 400}});
        } else if (shown_ == Shown::bars) {
            auto& b = job.bars.emplace_back();
            b.id = job::free_id("B", ids_of(job.bars));
            b.name = "timber";
        } else {
            auto& l = job.lengths.emplace_back();
            l.id = job::free_id("L", ids_of(job.lengths));
            l.name = "bearer", l.bar_id = job.bars.front().id, l.length_mm = 600;
        }
        chosen_ = count();
    });
    chosen_ = count() - 1;
    refresh();
}

void StockPanel::remove() {
    fault_->clear();
    const auto& now = document_.job();
    if (shown_ == Shown::bars && chosen_ < now.bars.size())
        for (const auto& l : now.lengths)
            if (l.bar_id == now.bars[chosen_].id)
                return fault_->say("'" + QString::fromStdString(l.name) + "' is cut from it: remove that first.");
    const auto erase = [this](auto& list) {
        if (chosen_ < list.size()) list.erase(list.begin() + static_cast<std::ptrdiff_t>(chosen_));
    };
    document_.edit("Remove from the stock", [&](job::Job& job) {
        if (shown_ == Shown::offcuts) erase(job.offcuts);
        else if (shown_ == Shown::bars) erase(job.bars);
        else erase(job.lengths);
    });
    refresh();
}

void StockPanel::add_offcut_fields(FieldList& fields) {
    const auto& o = document_.job().offcuts[chosen_];
    const auto by = [this](auto change) {
        return [this, change](const QVariant& v) {
            document_.edit("Change an offcut", [&](job::Job& job) {
                if (chosen_ < job.offcuts.size()) change(job, job.offcuts[chosen_], v);
            });
        };
    };
    fields.text("written on it", o.name,
                by([](job::Job&, job::JobOffcut& one, const QVariant& v) { one.name = v.toString().toStdString(); }));
    QStringList names;
    int now = 0;
    for (const auto& m : document_.job().materials) {
        if (m.id == o.material_id) now = static_cast<int>(names.size());
        names << QString::fromStdString(m.name);
    }
    fields.choice("of", now, names, by([](job::Job& job, job::JobOffcut& one, const QVariant& v) {
                      one.material_id = job.materials[static_cast<std::size_t>(std::max(0, v.toInt()))].id;
                  }));
    const auto unit = document_.unit();
    fields.text("corners (along, across; …)", ring_words(o.shape.outer, unit).toStdString(),
                by([unit, before = o.shape.outer](job::Job&, job::JobOffcut& one, const QVariant& v) {
                    if (auto shape = shape_in(v.toString(), unit, before)) one.shape.outer = shape->outer;
                }),
                [unit, before = o.shape.outer](const QString& text) {
                    const auto shape = shape_in(text, unit, before);
                    return shape ? QString() : QString::fromStdString(shape.error().message);
                });
}

void StockPanel::add_bar_fields(FieldList& fields) {
    const auto& b = document_.job().bars[chosen_];
    const auto by = [this](auto change) {
        return [this, change](const QVariant& v) {
            document_.edit("Change a bar", [&](job::Job& job) {
                if (chosen_ < job.bars.size()) change(job.bars[chosen_], v);
            });
        };
    };
    const auto length = [&](double stock::Bar::*member) {
        return by([member](job::JobBar& one, const QVariant& v) { one.*member = v.toDouble(); });
    };
    namespace range = units::range;
    fields
        .text("timber", b.name,
              by([](job::JobBar& one, const QVariant& v) { one.name = v.toString().toStdString(); }))
        .length("wide", b.width_mm, length(&stock::Bar::width_mm), range::thickness.least, range::thickness.most)
        .length("deep", b.depth_mm, length(&stock::Bar::depth_mm), range::thickness.least, range::thickness.most)
        .length("long", b.length_mm, length(&stock::Bar::length_mm), range::length.least, range::length.most)
        .number("price of one", QString::fromStdString(document_.job().costs.currency), b.price,
                length(&stock::Bar::price), range::price.least, range::price.most)
        .toggle("as many as needed", b.count < 0,
                by([](job::JobBar& one, const QVariant& v) { one.count = v.toBool() ? -1 : 1; }));
    if (b.count >= 0)
        fields.number("in stock", "", b.count, by([](job::JobBar& one, const QVariant& v) {
                          one.count = static_cast<int>(std::lround(v.toDouble()));
                      }),
                      0, range::stock_count.most);
    fields.toggle("old: came out of a boat", b.old,
                  by([](job::JobBar& one, const QVariant& v) { one.old = v.toBool(); }));
    fields.text("grade", b.grade,
                by([](job::JobBar& one, const QVariant& v) { one.grade = v.toString().toStdString(); }));
}

void StockPanel::add_length_fields(FieldList& fields) {
    const auto& l = document_.job().lengths[chosen_];
    using L = job::LengthWanted;
    const auto by = [this](auto change) {
        return [this, change](const QVariant& v) {
            document_.edit("Change a length", [&](job::Job& job) {
                if (chosen_ < job.lengths.size()) change(job, job.lengths[chosen_], v);
            });
        };
    };
    const auto number = [&](double L::*member) {
        return by([member](job::Job&, L& one, const QVariant& v) { one.*member = v.toDouble(); });
    };
    QStringList bars;
    int now = 0;
    for (const auto& b : document_.job().bars) {
        if (b.id == l.bar_id) now = static_cast<int>(bars.size());
        bars << QString("%1 %2 x %3")
                    .arg(QString::fromStdString(b.name), document_.length(b.width_mm), document_.length(b.depth_mm));
    }
    namespace range = units::range;
    fields
        .text("what for", l.name,
              by([](job::Job&, L& one, const QVariant& v) { one.name = v.toString().toStdString(); }))
        .choice("cut from", now, bars, by([](job::Job& job, L& one, const QVariant& v) {
                    one.bar_id = job.bars[static_cast<std::size_t>(std::max(0, v.toInt()))].id;
                }))
        .length("length over long points", l.length_mm, number(&L::length_mm), range::length.least,
                range::length.most)
        .number("how many", "", l.quantity, by([](job::Job&, L& one, const QVariant& v) {
                    one.quantity = static_cast<int>(std::lround(v.toDouble()));
                }),
                range::quantity.least, range::quantity.most)
        .degrees("left end off square", l.left_deg, number(&L::left_deg), range::end_angle.least,
                 range::end_angle.most)
        .degrees("right end off square", l.right_deg, number(&L::right_deg), range::end_angle.least,
                 range::end_angle.most)
        .choice("seen on its", static_cast<int>(l.ends_seen), {"wide side", "narrow side"},
                by([](job::Job&, L& one, const QVariant& v) {
                    one.ends_seen = static_cast<sheets::EndsSeen>(std::clamp(v.toInt(), 0, 1));
                }))
        .toggle("a moulding: lies only as drawn", l.as_drawn,
                by([](job::Job&, L& one, const QVariant& v) { one.as_drawn = v.toBool(); }))
        .text("grade asked for", l.grade,
              by([](job::Job&, L& one, const QVariant& v) { one.grade = v.toString().toStdString(); }));
}

void StockPanel::say_ends() {
    const auto& job = document_.job();
    QString said;
    if (shown_ == Shown::lengths && chosen_ < job.lengths.size()) {
        const auto& l = job.lengths[chosen_];
        const auto edge = [](double lean) { return lean > 0 ? "near" : "far"; };
        if (l.left_deg != 0 || l.right_deg != 0) {
            said = "Its long points: ";
            if (l.left_deg != 0) said += QString("left on the %1 edge").arg(edge(l.left_deg));
            if (l.left_deg != 0 && l.right_deg != 0) said += ", ";
            if (l.right_deg != 0) said += QString("right on the %1 edge").arg(edge(l.right_deg));
            said += ". Less than 0°: on the far one.";
        }
    }
    ends_->setText(said);
    ends_->setVisible(!said.isEmpty());
}

void StockPanel::say_plan() {
    const auto& results = document_.computed()->results;
    QStringList said;
    for (const auto& section : results.lengths) {
        for (const auto& fault : section.faults)
            said << QString::fromStdString(units::in_unit(fault, document_.unit()));
        const auto& plan = *section.plan;
        if (plan.bars.empty()) continue;
        double left = 0;
        for (const auto& bar : plan.bars) left += bar.left_mm;
        said << QString("%1: %2, %3 left%4")
                    .arg(QString::fromStdString(units::in_unit(section.title, document_.unit())))
                    .arg(plan.bars.size() == 1 ? "1 bar" : QString("%1 bars").arg(plan.bars.size()),
                         document_.length(left), plan.proved ? "; no cheaper plan exists" : "");
    }
    for (const auto& one : results.lengths_without_bar)
        said << QString("No bar holds %1: %2 x %3")
                    .arg(QString::fromStdString(one.name), document_.length(one.width_mm),
                         document_.length(one.depth_mm));
    constexpr int most_lines = 8;
    if (said.size() > most_lines) {
        const auto more = said.size() - most_lines;
        said = said.mid(0, most_lines);
        said << QString("and %1 more").arg(more);
    }
    plan_->setText(said.join("\n"));
    plan_->setVisible(shown_ != Shown::offcuts && !said.isEmpty());
    picture_->setVisible(shown_ != Shown::offcuts && !results.lengths.empty());
    picture_->updateGeometry();
    picture_->update();
}

void StockPanel::refresh() {
    const std::size_t n = count();
    gone_->setVisible(n > 0);
    photo_->setVisible(shown_ == Shown::offcuts);
    drawing_->setVisible(shown_ == Shown::offcuts);
    static const char* words[] = {
        "No offcuts yet. Mark a sheet as cut in Cut and keep what is left, or describe a panel here: they are used "
        "first.",
        "No bars yet. Lippings, bearers, cleats and blocks are cut from bars: describe one, with its price.",
        "Nothing is wanted but what follows from the pieces (lippings, blocks)."};
    empty_->setText(n == 0 ? words[static_cast<int>(shown_)] : "");
    empty_->setVisible(n == 0);
    FieldList fields;
    if (n > 0) {
        chosen_ = std::min(chosen_, n - 1);
        QStringList names;
        const auto& job = document_.job();
        if (shown_ == Shown::offcuts)
            for (const auto& o : job.offcuts) names << QString::fromStdString(o.id + " · " + o.name);
        if (shown_ == Shown::bars)
            for (const auto& b : job.bars)
                names << QString::fromStdString(b.id + " · " + b.name) + ", " + document_.length(b.length_mm);
        if (shown_ == Shown::lengths)
            for (const auto& l : job.lengths)
                names << QString::fromStdString(l.id + " · " + l.name) + ", " + document_.length(l.length_mm);
        fields.choice("showing", static_cast<int>(chosen_), names, [this](const QVariant& v) {
            chosen_ = static_cast<std::size_t>(std::max(0, v.toInt()));
            refresh();
        });
        if (shown_ == Shown::offcuts) add_offcut_fields(fields);
        else if (shown_ == Shown::bars) add_bar_fields(fields);
        else add_length_fields(fields);
    }
    form_->show_fields(fields.take());
    say_ends();
    say_plan();
}

}  // namespace bevelsmith::app

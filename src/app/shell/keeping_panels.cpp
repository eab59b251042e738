#include "app/shell/keeping_panels.h"

#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLocale>

#include "app/look/theme.h"
#include "app/widgets/silhouette.h"
#include "job/differences.h"
#include "job/silhouette.h"

namespace bevelsmith::app {
namespace {

QLabel* label(const QString& words, const char* look = "small") {
    auto* out = new QLabel(words);
    out->setObjectName(look);
    out->setWordWrap(true);
    out->setTextFormat(Qt::PlainText);
    return out;
}

QString counted(std::size_t n, const char* one, const char* many) {
    return QString("%1 %2").arg(n).arg(n == 1 ? one : many);
}

QString figures(const job::Job& job) {
    std::size_t readings = 0;
    for (const auto& set : job.readings) readings += set.readings.size();
    return counted(readings, "reading", "readings") + ", " + counted(job.pieces.size(), "piece", "pieces");
}

QString sign(job::Difference::Kind kind) {
    return kind == job::Difference::Kind::added ? "+" : kind == job::Difference::Kind::removed ? "–" : "≠";
}

QString when_in_words(const QDateTime& when) {
    return QLocale(QLocale::English)
        .toString(when, when.date() == QDate::currentDate() ? "'today,' HH:mm" : "d MMMM, HH:mm");
}

}  // namespace

ComparePanel::ComparePanel(Document& document, const Comparison& c) : SidePanel(document, c.title) {
    add_sides(c);
    panel_->heading(QString("What \"%1\" has that \"%2\" has not").arg(c.right.title, c.left.title));
    const auto all = job::differences(c.left.job, c.right.job);
    if (all.empty()) panel_->words("Nothing: both are the same.");
    constexpr std::size_t most = 40;
    for (std::size_t k = 0; k < all.size() && k < most; ++k) {
        QString words = sign(all[k].kind) + "  " + QString::fromStdString(all[k].what);
        if (!all[k].detail.empty()) words += ": " + QString::fromStdString(all[k].detail);
        panel_->add(label(words, "words"));
    }
    if (all.size() > most) panel_->words(QString("and %1 more").arg(all.size() - most));
    panel_->add_space();
    for (const auto& [text, act] : c.choices) {
        auto* button = new QPushButton(text);
        panel_->add(button);
        connect(button, &QPushButton::clicked, this, [this, act] {
            emit close_asked();
            act();
        });
    }
    panel_->end();
}

void ComparePanel::add_sides(const Comparison& c) {
    auto* both = new QWidget;
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(size::pad);
    for (const auto* side : {&c.left, &c.right}) {
        auto* column = new QVBoxLayout;
        column->setSpacing(size::unit);
        column->addWidget(label(side->title, "heading"));
        column->addWidget(new Silhouette(job::silhouette(side->job), {180, 130}));
        column->addWidget(label(job_name(side->job), "words"));
        column->addWidget(label(figures(side->job)));
        column->addWidget(label(side->words));
        column->addStretch(1);
        row->addLayout(column, 1);
    }
    panel_->add(both);
}

QString kept_in_words(const KeptWork& work) {
    if (!work.fault.isEmpty()) return "kept " + when_in_words(work.when) + ", but " + work.fault;
    QStringList parts{when_in_words(work.when), counted(static_cast<std::size_t>(work.edits), "change", "changes")};
    if (work.job_path.isEmpty()) parts << "not in any file";
    else
        parts << (QFileInfo::exists(work.job_path) ? "of " : "its file is gone: ") +
                     QFileInfo(work.job_path).fileName();
    return parts.join(" · ");
}

KeptCard::KeptCard(const KeptWork& work) {
    setObjectName("card");
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(size::gap, size::gap, size::gap, size::gap);
    row->setSpacing(size::pad);
    row->addWidget(new Silhouette(work.silhouette), 0, Qt::AlignTop);
    auto* column = new QVBoxLayout;
    column->setSpacing(2);
    const QString name = work.name.isEmpty() ? QString(unnamed_job) : work.name;
    column->addWidget(label(work.boat.isEmpty() ? name : name + " · " + work.boat, "heading"));
    column->addWidget(label(kept_in_words(work)));
    auto* acts = new QHBoxLayout;
    acts->setSpacing(size::unit);
    const auto add = [&](const QString& words, auto signal) {
        auto* button = new QPushButton(words);
        button->setAccessibleDescription(name);
        acts->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, work, signal] { emit(this->*signal)(work); });
        return button;
    };
    if (work.fault.isEmpty()) {
        add("Take it up", &KeptCard::take_up_asked);
        add("Look at it", &KeptCard::look_asked);
    }
    add("Throw it away", &KeptCard::throw_away_asked)->setObjectName("quiet");
    acts->addStretch(1);
    column->addLayout(acts);
    row->addLayout(column, 1);
}

KeptPanel::KeptPanel(Document& document, const QString& folder)
    : SidePanel(document, "Work that was not saved"), folder_(folder) {
    words_ = panel_->words({}, false);
    auto* inside = new QWidget;
    cards_ = new QVBoxLayout(inside);
    cards_->setContentsMargins(0, 0, 0, 0);
    cards_->setSpacing(size::gap);
    panel_->add(inside);
    panel_->end();
    refresh();
}

void KeptPanel::refresh() {
    while (auto* item = cards_->takeAt(0)) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    const auto all = kept_work(folder_);
    words_->setText((all.empty()
                         ? QString("There is none. What is not saved is kept within a second of each change, in ")
                         : QString("Kept until it is saved or thrown away, in ")) +
                    folder_ + ".");
    for (const auto& work : all) {
        auto* card = new KeptCard(work);
        cards_->addWidget(card);
        connect(card, &KeptCard::look_asked, this, &KeptPanel::look_asked);
        connect(card, &KeptCard::take_up_asked, this, &KeptPanel::take_up_asked);
        connect(card, &KeptCard::throw_away_asked, this, [this](const KeptWork& gone) {
            emit throw_away_asked(gone);
            refresh();
        });
    }
}

VersionsPanel::VersionsPanel(Document& document, const QString& job_path) : SidePanel(document, "Earlier versions") {
    const auto all = job_path.isEmpty() ? std::vector<Version>() : versions_of(job_path);
    if (job_path.isEmpty())
        panel_->words("This job has no file yet. From its second saving on, the versions before are kept here.",
                      false);
    else
        panel_->words(QString("Each saving of %1 keeps the version before, the last %2 of them, in %3.")
                          .arg(QFileInfo(job_path).fileName())
                          .arg(versions_kept)
                          .arg(versions_folder(job_path)),
                      false);
    if (all.empty() && !job_path.isEmpty()) panel_->words("There is none yet.");
    for (const Version& v : all) {
        auto* button = new QPushButton(QString("%1   %2 kB")
                                           .arg(QLocale(QLocale::English).toString(v.when, "d MMMM, HH:mm:ss"))
                                           .arg(std::max<qint64>(1, v.bytes / 1000)));
        button->setToolTip("Look at what differs, and go back to it if you like");
        panel_->add(button);
        connect(button, &QPushButton::clicked, this, [this, v] { emit look_asked(v); });
    }
    panel_->end();
}

}  // namespace bevelsmith::app

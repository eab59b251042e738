#include "paper/length_pages.h"

#include <cmath>

#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

constexpr double bar_h = 7, line_h = 4.6, below_bar = 4;

struct Column {
    const char* name;
    double width;
};
constexpr Column columns[] = {{"no.", 8},        {"what for", 62}, {"long", 20},
                              {"near edge", 36}, {"far edge", 36}, {"left, right", 24}};

/// A row of the table below a bar.
void row(Paper& paper, double y, const QStringList& cells, bool strong = false) {
    double x = margin;
    for (int k = 0; k < cells.size(); ++k) {
        paper.text({x, y, columns[k].width - 1, line_h}, 2.8, cells[k], strong || k == 0);
        x += columns[k].width;
    }
}

/// Heads pages and counts down what is left of them.
class Pages {
  public:
    Pages(Paper& paper, const job::Job& job, const QSizeF& page) : paper_(paper), job_(job), page_(page) {}
    double y() const { return y_; }
    /// Room for so much, on a new page where there is none.
    void want(double height) {
        if (y_ + height <= page_.height() - margin) return;
        paper_.begin_page(page_);
        paper_.text({margin, margin, page_w - 2 * margin, 8}, 5.5, "Lengths: " + text_of(job_.name), true);
        const auto line = [&](double down, const QString& words) {
            paper_.text({margin, margin + down, page_w - 2 * margin, 5}, 3, words);
        };
        line(8, "Marks (" + text_of(units::unit_in_words(job_.unit)) +
                    ") from the bar's left end, near edge towards you; cut outside them. Of two ends that meet, the "
                    "flatter first.");
        line(12.5,
             QString("Leans are off square: + with the long point on the near edge, %1 on the far one; on edge: "
                     "the bar stands on its narrow side.")
                 .arg(QChar(0x2212)));
        y_ = margin + 22;
    }
    void down(double mm) { y_ += mm; }

  private:
    Paper& paper_;
    const job::Job& job_;
    QSizeF page_;
    double y_ = 1e9;
};

QString leans_of(const sheets::LengthPart& part, const sheets::LaidLength& lies) {
    if (lies.left_deg == 0 && lies.right_deg == 0) return "square";
    const auto degrees = [](double lean) {
        const QString sign = lean > 0 ? "+" : lean < 0 ? QString(QChar(0x2212)) : QString();
        return sign + QString::number(std::abs(lean), 'g', 4);
    };
    const QString words = degrees(lies.left_deg) + "\u00b0, " + degrees(lies.right_deg) + "\u00b0";
    return part.ends_seen == sheets::EndsSeen::narrow_side ? words + " on edge" : words;
}

void draw_bar(Paper& paper, const sheets::LengthProblem& problem, const sheets::CutBar& bar, double y, double scale) {
    const auto at = [&](double mm, double down) { return QPointF(margin + mm * scale, y + down); };
    paper.pen(0.15, Qt::DashLine);
    paper.painter().drawRect(QRectF(at(0, 0), at(problem.bars[static_cast<std::size_t>(bar.bar)].length_mm, bar_h)));
    paper.pen(0.3);
    int number = 0;
    for (const auto& cut : bar.lengths) {
        const auto lies = sheets::laid(problem, cut);
        paper.painter().drawPolygon(QPolygonF{{at(lies.near_from_mm, bar_h), at(lies.near_to_mm, bar_h),
                                               at(lies.far_to_mm, 0), at(lies.far_from_mm, 0)}});
        const double middle = (lies.near_from_mm + lies.near_to_mm + lies.far_from_mm + lies.far_to_mm) / 4;
        paper.text(QRectF(at(middle, 0) - QPointF(5, 0), QSizeF(10, bar_h)), 2.8, QString::number(++number), true,
                   Qt::AlignCenter);
    }
}

void list_bar(Paper& paper, const job::Job& job, const job::LengthResult& section, const sheets::CutBar& bar,
              Pages& pages) {
    const auto span = [&](double from, double to) { return length(from, job.unit) + " to " + length(to, job.unit); };
    int number = 0;
    for (const auto& cut : bar.lengths) {
        pages.want(line_h);
        const auto part = static_cast<std::size_t>(cut.part);
        const auto lies = sheets::laid(*section.problem, cut);
        QString name = text_of(section.part_names[part]);
        if (cut.turned || cut.rolled) name += ", " + QString::fromUtf8(sheets::lies_in_words(cut).data());
        row(paper, pages.y(),
            {QString::number(++number), name, length(section.problem->parts[part].length_mm, job.unit),
             span(lies.near_from_mm, lies.near_to_mm), span(lies.far_from_mm, lies.far_to_mm),
             leans_of(section.problem->parts[part], lies)});
        pages.down(line_h);
    }
}

}  // namespace

void length_pages(Paper& paper, const job::Job& job, const job::Results& results, const QSizeF& page_mm) {
    Pages pages(paper, job, page_mm);
    QStringList heads;
    for (const auto& column : columns) heads << column.name;
    for (const auto& section : results.lengths) {
        double longest = 1;
        for (const auto& bar : section.problem->bars) longest = std::max(longest, bar.length_mm);
        const double scale = (page_w - 2 * margin) / longest;
        int number = 0;
        for (const auto& bar : section.plan->bars) {
            const double whole = section.problem->bars[static_cast<std::size_t>(bar.bar)].length_mm;
            pages.want(6 + bar_h + 2 + 3 * line_h);
            paper.text({margin, pages.y(), page_w - 2 * margin, 5}, 3.2,
                       QString("%1, bar %2: %3 long, %4 left")
                           .arg(text_of(units::in_unit(section.title, job.unit)))
                           .arg(++number)
                           .arg(length_with_unit(whole, job.unit), length_with_unit(bar.left_mm, job.unit)),
                       true);
            pages.down(6);
            draw_bar(paper, *section.problem, bar, pages.y(), scale);
            pages.down(bar_h + 2);
            row(paper, pages.y(), heads, true);
            pages.down(line_h);
            list_bar(paper, job, section, bar, pages);
            pages.down(below_bar);
        }
    }
}

}  // namespace bevelsmith::paper

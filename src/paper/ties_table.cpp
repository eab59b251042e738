#include "paper/ties_table.h"

#include "paper/html_page.h"
#include "piece/put_back.h"

namespace bevelsmith::paper {

QString ties_table(const job::Job& job, const piece::Outline& outline) {
    if (job.marks.empty()) return {};
    const auto places = piece::taped_places(outline);
    std::vector<Vec3> marks;
    QStringList head{"place on face A"};
    for (const auto& m : job.marks) {
        marks.push_back(m.position);
        head << "from " + html_text(m.id);
    }
    const auto taped = piece::ties(marks, places);
    QString rows = html_row(head, "th");
    for (std::size_t c = 0; c < places.size(); ++c) {
        QStringList cells{html_text(places[c].name)};
        for (std::size_t m = 0; m < marks.size(); ++m)
            cells << html_length(job, taped[m * places.size() + c].distance_mm);
        rows += html_row(cells);
    }
    return html_table(rows);
}

}  // namespace bevelsmith::paper

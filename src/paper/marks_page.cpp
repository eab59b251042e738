#include "paper/marks_page.h"

#include "paper/html_page.h"
#include "paper/ties_table.h"

namespace bevelsmith::paper {
namespace {

QString lean_words(const job::Job& job) {
    const auto up = survey::plumb_up(job.datum);
    if (!up || job.datum.known == survey::Datum::Known::upright)
        return "How the boat leans was not measured: level here is the boat's own.";
    const auto lean = survey::lean_of(*up);
    return QString(
               "As she stands, the %1 side is %2° high and the %3 %4° high. Fwd, port and up below are the boat's "
               "own: a spirit level does not show them.")
        .arg(lean.heel_deg >= 0 ? "port" : "starboard")
        .arg(std::abs(lean.heel_deg), 0, 'f', 2)
        .arg(lean.pitch_deg >= 0 ? "bow" : "stern")
        .arg(std::abs(lean.pitch_deg), 0, 'f', 2);
}

QString marks_table(const job::Job& job) {
    QString rows = html_row({"mark", "what it is", "measured from", "fwd", "port", "up"}, "th");
    for (const auto& m : job.marks)
        rows += html_row({html_text(m.id), html_text(m.name), html_text(m.measured_from),
                          html_length(job, m.position.x()), html_length(job, m.position.y()),
                          html_length(job, m.position.z())});
    return html_table(rows);
}

QString marks_html(const job::Job& job, const job::Results& results) {
    QString html = QString("<h2>Reference marks · %1</h2><p>%2</p>").arg(html_text(job.name), lean_words(job));
    html += marks_table(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape) continue;
        html += QString("<h3>%1 · %2</h3>").arg(html_text(job.pieces[i].id), html_text(job.pieces[i].name));
        html += ties_table(job, *shape);
    }
    html +=
        "<p>Tape from three marks that are not in one line, and a place is found again; with three places the part "
        "is. Measure diagonals before the first screw.</p>";
    return html;
}

}  // namespace

void paint_marks(const job::Job& job, const job::Results& results, QPagedPaintDevice& device) {
    print_html(marks_html(job, results), device);
}

Result<bool> write_marks(const job::Job& job, const job::Results& results, const std::string& path) {
    if (job.marks.empty()) return Error{"there are no reference marks yet"};
    return write_html(marks_html(job, results), "Reference marks", path);
}

}  // namespace bevelsmith::paper

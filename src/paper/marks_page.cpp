#include "paper/marks_page.h"

#include <QPageLayout>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextDocument>

#include "paper/fonts.h"
#include "piece/put_back.h"

namespace bevelsmith::paper {
namespace {

QString escaped(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}

QString length(const job::Job& job, double mm) {
    return QString::fromStdString(units::format_length(mm, job.unit)).toHtmlEscaped();
}

QString row(const QStringList& cells, const char* tag = "td") {
    QString out = "<tr>";
    for (const QString& cell : cells) out += QString("<%1>%2</%1>").arg(tag, cell);
    return out + "</tr>";
}

QString table(const QString& rows) {
    return "<table border='0.5' cellspacing='0' cellpadding='4' width='100%'>" + rows + "</table>";
}

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
    QString rows = row({"mark", "what it is", "measured from", "fwd", "port", "up"}, "th");
    for (const auto& m : job.marks)
        rows += row({escaped(m.id), escaped(m.name), escaped(m.measured_from), length(job, m.position.x()),
                     length(job, m.position.y()), length(job, m.position.z())});
    return table(rows);
}

QString ties_table(const job::Job& job, const piece::Outline& outline) {
    const auto corners = piece::corners_of(outline);
    std::vector<Vec3> marks;
    for (const auto& m : job.marks) marks.push_back(m.position);
    const auto taped = piece::ties(marks, corners);
    QStringList head{"corner of face A"};
    for (const auto& m : job.marks) head << "from " + escaped(m.id);
    QString rows = row(head, "th");
    for (std::size_t c = 0; c < corners.size(); ++c) {
        QStringList cells{escaped(corners[c].name)};
        for (std::size_t m = 0; m < marks.size(); ++m)
            cells << length(job, taped[m * corners.size() + c].distance_mm);
        rows += row(cells);
    }
    return table(rows);
}

}  // namespace

void paint_marks(const job::Job& job, const job::Results& results, QPagedPaintDevice& device) {
    QString html = QString("<h2>Reference marks · %1</h2><p>%2</p>").arg(escaped(job.name), lean_words(job));
    html += marks_table(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape || piece::corners_of(*shape).empty()) continue;
        html += QString("<h3>%1 · %2</h3>").arg(escaped(job.pieces[i].id), escaped(job.pieces[i].name));
        html += ties_table(job, *shape);
    }
    html +=
        "<p>Tape from three marks that are not in one line, and a corner has one place. Measure diagonals before "
        "the first screw.</p>";
    QTextDocument document;
    QFont font(bundled_family());
    font.setPointSizeF(9);
    document.setDefaultFont(font);
    document.setHtml(html);
    document.print(&device);
}

Result<bool> write_marks(const job::Job& job, const job::Results& results, const std::string& path) {
    if (job.marks.empty()) return Error{"there are no reference marks yet"};
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setPageLayout(
            QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Portrait, {15, 15, 15, 15}, QPageLayout::Millimeter));
        writer.setTitle("Reference marks");
        writer.setCreator("Bevelsmith");
        paint_marks(job, results, writer);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper

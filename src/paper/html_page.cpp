#include "paper/html_page.h"

#include <QPageLayout>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextDocument>

#include "paper/fonts.h"

namespace bevelsmith::paper {

QString html_text(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}

QString html_length(const job::Job& job, double mm) {
    return QString::fromStdString(units::format_length(mm, job.unit)).toHtmlEscaped();
}

QString html_row(const QStringList& cells, const char* tag) {
    QString out = "<tr>";
    for (const QString& cell : cells) out += QString("<%1>%2</%1>").arg(tag, cell);
    return out + "</tr>";
}

QString html_table(const QString& rows) {
    return "<table border='0.5' cellspacing='0' cellpadding='4' width='100%'>" + rows + "</table>";
}

void print_html(const QString& html, QPagedPaintDevice& device) {
    QTextDocument document;
    QFont font(bundled_family());
    font.setPointSizeF(9);
    document.setDefaultFont(font);
    document.setHtml(html);
    document.print(&device);
}

Result<bool> write_html(const QString& html, const QString& title, const std::string& path) {
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setPageLayout(
            QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Portrait, {15, 15, 15, 15}, QPageLayout::Millimeter));
        writer.setTitle(title);
        writer.setCreator("Bevelsmith");
        print_html(html, writer);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper

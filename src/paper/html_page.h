// Pages of tables and words, for a PDF. For the papers' own files.
#pragma once

#include <QString>
#include <QStringList>
#include <string>

#include "job/job.h"
#include "units/result.h"

class QPagedPaintDevice;

namespace bevelsmith::paper {

/// Text with nothing in it that could be read as markup.
QString html_text(const std::string& text);
/// A length in the job's unit.
QString html_length(const job::Job& job, double mm);
/// Cells that are markup already, as a row of a table.
QString html_row(const QStringList& cells, const char* tag = "td");
QString html_table(const QString& rows);

/// A4 upright, as many pages as it takes, with a number on each. Needs a QGuiApplication.
void print_html(const QString& html, QPagedPaintDevice& device);
/// The same into a PDF, atomically.
Result<bool> write_html(const QString& html, const QString& title, const std::string& path);

}  // namespace bevelsmith::paper

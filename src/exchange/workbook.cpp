// Tables as a workbook, by libxlsxwriter.
#include <fmt/format.h>
#include <locale.h>
#include <xlsxwriter.h>

#include <algorithm>

#include "exchange/cut_list.h"
#include "exchange/plain_text.h"
#include "job/file_io.h"
#include "job/shopping.h"

namespace bevelsmith::exchange {
namespace {

/// While it lives this thread writes numbers with a point: the library asks the locale, and a workbook with commas in
/// its numbers cannot be opened.
class PlainNumbers {
  public:
    PlainNumbers() : plain_(::newlocale(LC_ALL_MASK, "C", nullptr)), before_(::uselocale(plain_)) {}
    ~PlainNumbers() {
        ::uselocale(before_);
        ::freelocale(plain_);
    }
    PlainNumbers(const PlainNumbers&) = delete;
    PlainNumbers& operator=(const PlainNumbers&) = delete;

  private:
    locale_t plain_, before_;
};

/// Writes a sheet cell by cell: what reads as a number becomes one.
class Page {
  public:
    Page(lxw_workbook* book, const char* name, const std::vector<std::string>& heads)
        : sheet_(workbook_add_worksheet(book, name)), strong_(workbook_add_format(book)) {
        format_set_bold(strong_);
        format_set_bottom(strong_, LXW_BORDER_THIN);
        for (std::size_t k = 0; k < heads.size(); ++k) {
            const auto column = static_cast<lxw_col_t>(k);
            worksheet_write_string(sheet_, 0, column, heads[k].c_str(), strong_);
            constexpr double narrow = 12;
            worksheet_set_column(sheet_, column, column, std::max(narrow, static_cast<double>(heads[k].size()) + 2),
                                 nullptr);
        }
        worksheet_freeze_panes(sheet_, 1, 0);
    }
    void row(const std::vector<std::string>& cells) {
        ++row_;
        for (std::size_t k = 0; k < cells.size(); ++k) {
            double number = 0;
            if (is_number(cells[k], number))
                worksheet_write_number(sheet_, row_, static_cast<lxw_col_t>(k), number, nullptr);
            else worksheet_write_string(sheet_, row_, static_cast<lxw_col_t>(k), cells[k].c_str(), nullptr);
        }
    }

  private:
    lxw_worksheet* sheet_;
    lxw_format* strong_;
    lxw_row_t row_ = 0;
};

std::string number(double value) {
    return fmt::format("{:.10g}", value);
}

void add_shopping(lxw_workbook* book, const job::Job& job, const job::Results& results) {
    Page page(book, "shopping",
              {"what", "in", "needed", "in stock", "to buy", "price of one", "sum", "currency", "note"});
    for (const auto& line : job::shopping_list(job, results))
        page.row({units::in_unit(line.what, job.unit), line.of_what, number(line.needed), number(line.in_stock),
                  number(line.to_buy), number(line.price), number(line.sum()), job.costs.currency, line.note});
}

void add_lengths(lxw_workbook* book, const job::Results& results, units::LengthUnit unit) {
    Page page(book, "lengths", length_heads(unit));
    for (const auto& cells : length_cells(results, unit)) page.row(cells);
}

void add_cuts(lxw_workbook* book, const job::Job& job, const job::Results& results) {
    Page page(book, "saw cuts", edge_cut_heads(job.unit));
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = job::made_shape(job.pieces[i], results.pieces[i]);
        if (!shape) continue;
        int order = 1;
        for (const auto& cut : edge_cuts(job, job.pieces[i], *shape)) page.row(cells_of(cut, order++, job.unit));
    }
}

}  // namespace

Result<bool> write_workbook(const job::Job& job, const job::Results& results, const std::string& path) {
    auto beside = job::BesideFile::make(path);
    if (!beside) return beside.error();
    const PlainNumbers plain;
    lxw_workbook* book = workbook_new(beside->path().c_str());
    if (!book) return Error{"cannot be written: there is not enough memory"};
    {
        Page page(book, "cut list", cut_list_heads(job.unit));
        for (const auto& row : cut_list(job, results)) page.row(cells_of(row, job.unit));
    }
    add_shopping(book, job, results);
    add_lengths(book, results, job.unit);
    add_cuts(book, job, results);
    if (workbook_close(book) != LXW_NO_ERROR)
        return Error{"cannot be written: the folder is missing, closed to you, or full"};
    return beside.value().put_in_place();
}

}  // namespace bevelsmith::exchange

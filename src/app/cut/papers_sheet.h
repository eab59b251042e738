// Papers and files to cut from.
#pragma once

#include <QComboBox>
#include <QLineEdit>

#include "app/widgets/side_sheet.h"
#include "exchange/drawing.h"
#include "paper/pdf.h"

namespace bevelsmith::app {

/// Papers and files of one piece or part, of a sheet, or of the whole job.
class PapersSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit PapersSheet(Document& document);

  private:
    enum class Of { job, piece, sheet };
    struct Written {
        QString words, ending;
    };
    Of chosen() const;
    const std::vector<Written>& written_as() const;
    void offer_formats();
    Result<bool> write_to(const std::string& path) const;
    void refresh();
    void propose_path();
    void write();
    void print();
    std::string chosen_id() const;
    /// Of the piece or part that is chosen.
    Result<exchange::Drawing> drawing() const;
    paper::PdfOptions pdf_options() const;
    static constexpr int last_pdf = 2;  ///< of the ways in which a piece is written
    static constexpr double least_step_mm = 10, most_step_mm = 2000;
    QComboBox *what_, *format_;
    QLineEdit* path_;
    QLabel* pages_;
    Form* form_;
    FaultLine* fault_;
    double step_mm_ = exchange::row_spacing_mm, roll_mm_ = paper::PdfOptions().roll_width_mm;
    QPushButton *act_, *print_;
    std::vector<std::string> ids_;
    bool own_path_ = false;
};

}  // namespace bevelsmith::app

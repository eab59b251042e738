// Papers and files to cut from.
#pragma once

#include <QComboBox>
#include <QLineEdit>

#include "app/widgets/side_sheet.h"

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
    QComboBox *what_, *format_;
    QLineEdit* path_;
    QLabel* pages_;
    FaultLine* fault_;
    QPushButton *act_, *print_;
    std::vector<std::string> ids_;
    bool own_path_ = false;
};

}  // namespace bevelsmith::app

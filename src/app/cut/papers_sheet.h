// Papers and files to cut from.
#pragma once

#include <QComboBox>
#include <QLineEdit>

#include "app/widgets/side_sheet.h"

namespace bevelsmith::app {

/// Papers and files of one piece or part.
class PapersSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit PapersSheet(Document& document);

  private:
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

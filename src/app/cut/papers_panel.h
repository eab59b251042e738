// Papers and files to cut from.
#pragma once

#include <QComboBox>
#include <QFutureWatcher>
#include <QLineEdit>
#include <QProgressBar>
#include <atomic>
#include <memory>
#include <optional>

#include "app/cut/paper_kinds.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// Papers and files of one piece or part, of a sheet, or of the whole job. They are written beside the window, and
/// writing can be stopped; a file that is there is replaced only where that was asked for.
class PapersPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit PapersPanel(Document& document);
    ~PapersPanel() override;

  private:
    const PaperOf& of() const;
    const PaperKind* kind() const;
    void connect_all(QPushButton* browse);
    void refresh();
    void offer_kinds();
    void show_fields();
    void propose_path();
    void say_pages();
    void write();
    void stop();
    void written();
    void print();
    void keep();
    void take_up_choices();
    QString typed_path() const;
    QString folder() const;

    QComboBox *what_, *format_;
    QLineEdit* path_;
    QLabel* pages_;
    Form* form_;
    FaultLine* fault_;
    QWidget* busy_;
    QPushButton *act_, *print_, *stop_;
    std::vector<PaperOf> all_;             ///< beside what_
    std::vector<const PaperKind*> kinds_;  ///< beside format_
    PaperChoices choices_;
    QString folder_;            ///< remembered; empty until one was chosen
    std::string last_kind_[3];  ///< ids, by what they are of
    bool own_path_ = false, replace_ = false;
    QFutureWatcher<std::optional<Result<bool>>> writing_;  ///< nothing where it was stopped
    std::shared_ptr<std::atomic<bool>> stopped_;
    QString writing_to_;
};

}  // namespace bevelsmith::app

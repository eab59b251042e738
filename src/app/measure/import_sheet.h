// Readings from a file: columns of a table, or a scan that is cropped and thinned first.
#pragma once

#include <QFutureWatcher>
#include <QLineEdit>
#include <QTableWidget>

#include "app/widgets/side_sheet.h"
#include "exchange/table_text.h"
#include "survey/lonely.h"

namespace bevelsmith::app {

class CloudPicture;

class ImportSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit ImportSheet(Document& document);
    /// What was copied elsewhere, for this set: seen first, like a file's.
    ImportSheet(Document& document, const std::string& set_id);

    /// A file as it was read; the table's cells look into the contents.
    struct Loaded {
        std::string contents;
        std::optional<exchange::TextTable> table;  ///< none of a PLY file
        survey::Sorted cloud;                      ///< in the file's own unit; empty where it is no cloud
        int unit = 0;                              ///< which that seems to be
        double cell_mm = 0;                        ///< that leaves as many points as a surface wants
        std::optional<Error> fault;                ///< why it is no cloud
    };
    /// What is left of a scan, and how much there was on the way.
    struct Kept {
        survey::Cloud cloud;
        std::size_t all = 0, in_box = 0;
        std::string fault;  ///< why none of it can be taken
    };

  private:
    ImportSheet(Document& document, const QString& title, bool copied);
    void look();
    void look_at_copied(const std::string& set_id);
    /// The file's name, or "what was copied".
    QString source() const;
    void take_column(std::size_t number, int column);
    void add_loops();
    void show_loops();
    void show_loaded(std::shared_ptr<const Loaded> loaded);
    void refresh();
    void add_kind(FieldList& fields);
    void add_unit(FieldList& fields);
    void add_columns(FieldList& fields);
    void add_cut(FieldList& fields);
    void refresh_table();
    void refresh_scan();
    void propose_scan();
    int usual_unit() const;
    void guess_columns();
    void show_first_rows();
    void show_kept(std::shared_ptr<const Kept> kept);
    void take();
    bool scan() const { return as_ == 1; }
    survey::ReadingSet target() const;
    Result<std::vector<survey::Reading>> table_readings() const;

    QLineEdit* path_;
    bool copied_;  ///< from the clipboard, not from a file
    Form* form_;
    QLabel* found_;
    FaultLine* fault_;
    CloudPicture* picture_;
    QPushButton *loop_, *unloop_;
    QTableWidget* first_rows_;
    QPushButton* act_;
    QFutureWatcher<std::shared_ptr<const Loaded>> loading_;
    QFutureWatcher<std::shared_ptr<const Kept>> cutting_;
    std::shared_ptr<const Loaded> loaded_;
    std::shared_ptr<const survey::Cloud> cloud_, lonely_;  ///< in mm: what has company, and what lies alone
    bool keep_lonely_ = false;
    std::shared_ptr<const Kept> kept_;
    std::vector<survey::Reading> readings_;  ///< of the table
    int as_ = 0;                             ///< points, scan, then the job's sets
    std::string met_;                        ///< the surface that they met; empty until a person has said it
    exchange::ReadingColumns columns_;
    survey::CloudCut cut_;
    int unit_ = 0, piece_ = 0;
    bool to_starboard_ = false;  ///< what counts to port in a reading counts to starboard in the file
    bool by_gravity_ = false;    ///< measured by level and plumb as she stands, not in the boat's frame
    std::string name_ = "Imported points";
    double sigma_mm_ = 1.5;
};

}  // namespace bevelsmith::app

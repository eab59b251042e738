// Readings from a file: columns of a table, or a scan that is cropped and thinned first.
#pragma once

#include <QFutureWatcher>
#include <QLineEdit>
#include <QTableWidget>

#include "app/widgets/side_sheet.h"
#include "exchange/table_text.h"
#include "survey/cloud.h"

namespace bevelsmith::app {

class CloudPicture;

class ImportSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit ImportSheet(Document& document);

    /// A file as it was read; the table's cells look into the contents.
    struct Loaded {
        std::string contents;
        std::optional<exchange::TextTable> table;  ///< none of a PLY file
        survey::Cloud cloud;                       ///< in the file's own unit; empty where it is no cloud
        std::optional<Error> fault;                ///< why it is no cloud
    };
    /// What is left of a scan, and how much there was on the way.
    struct Kept {
        survey::Cloud cloud;
        std::size_t all = 0, in_box = 0;
        std::string fault;  ///< why none of it can be taken
    };

  private:
    void look();
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
    Form* form_;
    QLabel* found_;
    FaultLine* fault_;
    CloudPicture* picture_;
    QTableWidget* first_rows_;
    QPushButton* act_;
    QFutureWatcher<std::shared_ptr<const Loaded>> loading_;
    QFutureWatcher<std::shared_ptr<const Kept>> cutting_;
    std::shared_ptr<const Loaded> loaded_;
    std::shared_ptr<const survey::Cloud> cloud_;  ///< in mm
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

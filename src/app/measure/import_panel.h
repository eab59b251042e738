// Readings from a file: columns of a table, or a scan that is cropped and thinned first.
#pragma once

#include <QFutureWatcher>
#include <QLineEdit>
#include <QTableWidget>

#include "app/measure/import_file.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

class CloudPicture;

class ImportPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit ImportPanel(Document& document);
    /// What was copied elsewhere, for this set: seen first, like a file's.
    ImportPanel(Document& document, const std::string& set_id);

  private:
    ImportPanel(Document& document, const QString& title, bool copied);
    void look();
    void look_at_copied(const std::string& set_id);
    /// The file's name, or "what was copied".
    QString source() const;
    void take_column(std::size_t number, int column);
    void add_loops();
    void show_loops();
    void add_picking();
    void pick(const Vec3& at);
    void show_marks();
    void add_frame(FieldList& fields);
    bool own() const { return frame_ == Frame::own && as_ < 2; }
    void show_loaded(std::shared_ptr<const LoadedFile> loaded);
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
    void add_first_rows();
    void show_first_rows();
    void show_kept(std::shared_ptr<const KeptPoints> kept);
    void take();
    bool scan() const { return as_ == 1; }
    survey::ReadingSet target() const;
    survey::ReadingSet taken_set(const std::vector<survey::Reading>& readings) const;
    Result<std::vector<survey::Reading>> table_readings() const;

    QLineEdit* path_;
    bool copied_;  ///< from the clipboard, not from a file
    Form* form_;
    QLabel* found_;
    FaultLine* fault_;
    CloudPicture* picture_;
    QPushButton *loop_, *unloop_, *pick_, *unpick_;
    QLabel* picked_;
    QTableWidget* first_rows_;
    QPushButton* act_;
    QFutureWatcher<std::shared_ptr<const LoadedFile>> loading_;
    QFutureWatcher<std::shared_ptr<const KeptPoints>> cutting_;
    std::shared_ptr<const LoadedFile> loaded_;
    std::shared_ptr<const survey::Cloud> cloud_, lonely_;  ///< in mm: what has company, and what lies alone
    bool keep_lonely_ = false;
    std::shared_ptr<const KeptPoints> kept_;
    std::vector<survey::Reading> readings_;  ///< of the table
    int as_ = 0;                             ///< points, scan, then the job's sets
    std::string met_;                        ///< the surface that they met; empty until a person has said it
    exchange::ReadingColumns columns_;
    survey::CloudCut cut_;
    int unit_ = 0, piece_ = 0;
    bool to_starboard_ = false;  ///< what counts to port in a reading counts to starboard in the file
    /// In what frame it was measured: the boat's, by level and plumb as she stands, or one of its own.
    enum class Frame { boat, gravity, own };
    Frame frame_ = Frame::boat;
    std::vector<survey::SeenMark> marks_;  ///< picked in the scan
    std::string name_ = "Imported points";
    double sigma_mm_ = 1.5;
};

}  // namespace bevelsmith::app

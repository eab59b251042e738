// The open job: the value, its undo steps, its file, what was computed from it, and the one selection.
#pragma once

#include <QObject>
#include <QString>
#include <QUndoStack>
#include <cmath>
#include <functional>
#include <memory>
#include <utility>
#include <vector>

#include "job/job.h"
#include "job/pipeline.h"
#include "review/review.h"

namespace bevelsmith::app {

/// A job with everything computed from it. Immutable; views keep it as long as they draw it.
struct Computed {
    job::Job job;  ///< with the pieces of its units
    job::Results results;
    std::vector<review::Finding> findings;

    const job::JobPiece* piece(const QString& id) const { return job::find_piece(job, id.toStdString()); }
    const job::PieceResult* piece_result(const QString& id) const { return results.piece(id.toStdString()); }
};

class ComputeThread;

/// What a job is called that nobody has named.
inline constexpr const char* unnamed_job = "New job";
inline QString job_name(const job::Job& job) {
    return job.name.empty() ? QString(unnamed_job) : QString::fromStdString(job.name);
}

class Document : public QObject {
    Q_OBJECT
  public:
    /// `pipeline` may hold what was computed before, for whoever opens one document after another; its own by
    /// default.
    explicit Document(QObject* parent = nullptr, std::shared_ptr<job::Pipeline> pipeline = nullptr);
    ~Document() override;

    const job::Job& job() const { return job_; }
    /// The job with the pieces of its units among its pieces: what is shown, and never edited.
    const job::Job& built() const { return built_; }
    const job::JobPiece* piece(const QString& id) const { return job::find_piece(built_, id.toStdString()); }
    /// The latest results; they may be of a slightly older job while `computing()`.
    std::shared_ptr<const Computed> computed() const { return computed_; }
    bool computing() const;

    /// One undo step: `change` is applied to a copy, and nothing is done when nothing changed. Steps with the same
    /// non-empty `merge_key` that follow each other become one.
    void edit(const QString& what, const std::function<void(job::Job&)>& change, const QString& merge_key = {});
    QUndoStack& undo_stack() { return undo_; }

    /// A new value in place of the old one, without undo steps: opening and making new.
    void replace(job::Job job, const QString& path, const QString& digest = {});
    /// Steps of unsaved work on the value as it is: each what was done and the state after it. They can be undone.
    void take_up(const std::vector<std::pair<QString, job::Job>>& steps);
    /// Precondition: the path is not empty.
    Result<bool> save(const QString& path);
    QString path() const { return path_; }
    /// SHA-256 of the file when it was last read or written; empty for a job without a file.
    QString digest() const { return digest_; }
    bool modified() const { return !undo_.isClean(); }
    /// As last opened, made or saved.
    std::shared_ptr<const job::Job> base() const { return base_; }
    /// How often the job was changed since.
    int edits() const { return edits_; }

    /// For reading only: edits change nothing, and `refused` says so.
    void set_for_reading(bool for_reading);
    bool for_reading() const { return for_reading_; }

    /// Ends the computation that runs; the last results stay until something is changed or computed anew.
    void stop_computing();
    void compute_again();
    bool stopped() const { return stopped_; }

    QString selected_piece() const { return selected_; }
    void select_piece(const QString& id);
    /// Pieces that are acted on at once, the selected one among them; empty where that is alone.
    const std::vector<std::string>& together() const { return together_; }
    void choose_together(std::vector<std::string> ids);

    /// Pieces, and whole units, that views of the boat leave out until all are shown again. Not part of the job.
    const std::vector<std::string>& hidden() const { return hidden_; }
    bool is_hidden(const std::string& piece) const;
    /// A unit's panel stands for its unit.
    void hide(const std::vector<std::string>& pieces);
    void show_hidden();

    /// Pieces that are not in the job yet, as they would stand; null where nothing is being added. Drawings that show
    /// the boat show them, and say by how much a hand has moved them.
    std::shared_ptr<const job::Results> ghost() const { return ghost_; }
    void show_ghost(std::shared_ptr<const job::Results> ghost);
    void drag_ghost(const Vec3& by) { emit ghost_dragged(by); }

    /// Does what mends a finding, and chooses its piece.
    void mend(const job::Mending& mending);
    /// A word to the person beside the work, with what can be done about it; it stays until answered where `stays`.
    using Choices = std::vector<std::pair<QString, std::function<void()>>>;
    void note(const QString& words, const Choices& choices, bool stays) { emit noted(words, choices, stays); }

    /// Something failed outside of the computation of results: it stands among the findings until another job is
    /// open.
    void add_fault(const QString& what, const QString& why);

    units::LengthUnit unit() const { return job_.unit; }
    QString length(double mm) const { return QString::fromStdString(units::format_length(mm, job_.unit)); }
    QString length_number(double mm) const {
        return QString::fromStdString(units::format_length_number(mm, job_.unit));
    }
    /// Masses and forces: pounds where lengths are in inches or feet.
    bool in_pounds() const { return units::in_inches(job_.unit); }
    QString mass_number(double kg, int decimals = 1) const {
        return QString::number(in_pounds() ? kg / units::kg_per_pound : kg, 'f', decimals);
    }
    QString mass_unit() const { return in_pounds() ? "lb" : "kg"; }
    QString mass(double kg, int decimals = 1) const { return mass_number(kg, decimals) + " " + mass_unit(); }
    QString force_number(double newton) const {
        constexpr double newton_per_pound = 4.4482216152605;  // NIST SP 811
        return QString::number(in_pounds() ? newton / newton_per_pound : newton, 'f', 0);
    }
    QString force_unit() const { return in_pounds() ? "lbf" : "N"; }
    /// "30 1/4 in to starboard": never a minus to port.
    QString off_centre(double mm) const { return length(std::abs(mm)) + (mm < 0 ? " to starboard" : " to port"); }
    /// Areas: square metres, or square feet where lengths are in inches or feet.
    QString area_number(double mm2) const {
        constexpr double mm2_per_ft2 = 12 * units::mm_per_inch * 12 * units::mm_per_inch;
        return QString::number(mm2 / (units::in_inches(job_.unit) ? mm2_per_ft2 : 1e6), 'f', 2);
    }
    QString area_unit() const { return units::in_inches(job_.unit) ? "ft²" : "m²"; }
    QString area(double mm2) const { return area_number(mm2) + " " + area_unit(); }
    /// Small areas: square centimetres, or square inches where lengths are in inches or feet.
    double cm2_shown(double cm2) const {
        constexpr double cm2_per_in2 = units::mm_per_inch * units::mm_per_inch / 100;
        return cm2 / (in_pounds() ? cm2_per_in2 : 1);
    }
    QString small_area_unit() const { return in_pounds() ? "in²" : "cm²"; }
    QString small_area(double cm2, int decimals) const {
        return QString::number(cm2_shown(cm2), 'f', decimals) + " " + small_area_unit();
    }
    /// Liquids: litres, or US quarts where lengths are in inches or feet.
    QString volume(double litres) const {
        constexpr double quarts_per_litre = 1.0566882;  // NIST SP 811
        return in_pounds() ? QString::number(litres * quarts_per_litre, 'f', 1) + " US qt"
                           : QString::number(litres, 'f', 1) + " l";
    }
    /// Long runs: metres, or feet where lengths are in inches or feet.
    QString run(double metres) const {
        constexpr double feet_per_metre = 1000 / (12 * units::mm_per_inch);
        return in_pounds() ? QString::number(metres * feet_per_metre, 'f', 1) + " ft"
                           : QString::number(metres, 'f', 1) + " m";
    }
    /// What is small or uncertain (residuals, bands, gaps): a tenth of a millimetre, or thousandths of an inch even
    /// where lengths are shown in fractions.
    QString fine(double mm) const { return fine_number(mm) + " " + fine_unit(); }
    QString fine_number(double mm) const;
    QString fine_unit() const;
    /// "+1.2 mm", "-0.047 in".
    QString fine_signed(double mm) const;
    /// The 95 % band of a standard deviation: "± 1.2 mm"; in words where it is beyond all sense.
    QString band(double sigma_mm) const;
    QString band_number(double sigma_mm) const;
    /// Sentences of the core, which speak in millimetres, in the job's unit.
    QString told(const std::string& text) const { return QString::fromStdString(units::in_unit(text, job_.unit)); }

  signals:
    void job_changed();        ///< the value, or the file it belongs to
    void computed_changed();   ///< new results
    void computing_changed();  ///< begun, stopped
    void about_to_replace();   ///< the old job is still there
    void replaced();           ///< by another job, or by nothing of this one
    void saved();
    void noted(const QString& words, const Document::Choices& choices, bool stays);
    void refused();  ///< an edit of a job that is open for reading
    void selection_changed();
    void hidden_changed();
    void ghost_changed();
    void ghost_dragged(const Vec3& by);

  private:
    friend class SwapJob;
    void set_job(job::Job& other);
    void settle_selection();
    void tell_gone(const job::Job& before);
    void set_base();
    void show(std::shared_ptr<const Computed> result);

    job::Job job_, built_;
    std::shared_ptr<const Computed> computed_;
    std::shared_ptr<const job::Results> ghost_;
    QUndoStack undo_;
    std::shared_ptr<const job::Job> base_;
    QString path_, digest_, selected_;
    std::vector<std::string> together_, hidden_;
    std::vector<job::Fault> faults_;
    int edits_ = 0;
    bool for_reading_ = false, stopped_ = false, quiet_ = false;
    std::unique_ptr<ComputeThread> thread_;
};

}  // namespace bevelsmith::app

// What stands between the window and the disk: on no way in or out is work lost or somebody's file written over
// unasked.
#pragma once

#include <QObject>
#include <functional>
#include <utility>
#include <vector>

#include "app/document/document.h"
#include "app/keeping/job_claim.h"
#include "app/keeping/journal.h"
#include "app/keeping/versions.h"
#include "app/shell/keeping_panels.h"

namespace bevelsmith::app {

class Keeper : public QObject {
    Q_OBJECT
  public:
    using Choice = std::pair<QString, std::function<void()>>;
    using Act = std::function<void()>;

    /// What it asks of the window.
    struct Window {
        /// Says one thing, with what can be done about it.
        std::function<void(const QString&, const std::vector<Choice>&)> say;
        std::function<void(const Comparison&)> compare;
        /// Another job is open: show it.
        Act show_job;
        /// Asks for a place and saves there; a folder, empty when none was chosen.
        Act save_as;
        std::function<QString()> ask_folder;
    };
    Keeper(Document& document, Window window, QObject* parent = nullptr);

    /// Unsaved work is on the disk before something else takes its place: then `go_on` is called and true given back.
    /// Where it cannot be kept, the reason is said with ways out, of which "go on without it" is one.
    bool leave(const Act& go_on);
    /// The same for a window that is about to close; `close` tries again.
    bool may_close(const Act& close);

    /// A job's file, or kept work. A fault is said and changes nothing.
    bool open(const QString& path);
    /// Another job without a file takes the place of the open one.
    void put(job::Job job);
    bool save_to(const QString& path, bool over_what_is_there = false);

    /// Work of earlier runs, newest first.
    std::vector<KeptWork> found() const { return kept_work(journal_.folder()); }
    void take_up(const KeptWork& work);
    void look_at(const KeptWork& work);
    void look_at(const Version& version);
    const Journal& journal() const { return journal_; }

  private:
    bool open_job(const QString& path, const std::string& text);
    bool unsaved_is_safe(const Act& again, const QString& without);
    void begin_on(const job::Job& job, const QString& path, const QString& digest);
    bool refuse(const QString& path, const Error& why);
    void offer(const std::vector<KeptWork>& works);
    void work_on_copy();
    void changed_outside(Outside what);
    void look_outside();
    void reload();
    void throw_kept_away(const KeptWork& work);
    std::vector<Choice> elsewhere(const Act& again, const QString& without);
    void cannot_keep(const QString& why, const Act& again, const QString& without);
    bool show_saved_state_of(const KeptWork& work, const KeptJob& kept, const Act& again);

    Document& document_;
    Window window_;
    Journal journal_;
    JobClaim claim_;
    bool let_go_ = false;  ///< a person said to go on without the work
};

}  // namespace bevelsmith::app

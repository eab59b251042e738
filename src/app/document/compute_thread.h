// Runs the pipeline beside the window. Only the latest job matters: those that came in between are skipped. Pieces
// come at once; sheets follow when they are laid out, and the earlier ones stay to be seen until then.
#pragma once

#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

#include "app/document/document.h"

namespace bevelsmith::app {

class ComputeThread {
  public:
    /// `done` is called on the worker thread with each result, null where a person stopped it; its reader answers
    /// with delivered().
    ComputeThread(std::function<void(std::shared_ptr<const Computed>)> done, std::shared_ptr<job::Pipeline> pipeline);
    ~ComputeThread();

    /// `another`: the job has nothing to do with the one before, whose sheets must not be shown with it.
    void compute(job::Job job, bool another);
    bool busy() const;
    /// Ends the computation that runs; `stopped` follows, and the last results stay. The next compute() starts anew.
    void stop();
    void delivered();

  private:
    struct Request {
        job::Job job;
        bool another = false;
    };
    void run();
    /// False when the thread is to end.
    bool take(Request& request);
    void work(Request request);
    void hand_over(const job::Job& job, const job::Results& results);
    bool wanted() const;

    std::function<void(std::shared_ptr<const Computed>)> done_;
    mutable std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<Request> next_;
    bool working_ = false, end_ = false;
    bool stopped_ = false;  ///< a person stopped what is being worked on
    int undelivered_ = 0;
    std::shared_ptr<job::Pipeline> pipeline_;  ///< used by the worker alone, as are those below
    std::vector<job::SheetResult> sheets_;     ///< the worker's own: the last that were finished
    std::thread thread_;
};

}  // namespace bevelsmith::app

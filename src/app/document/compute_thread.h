// Runs the pipeline beside the window. Only the latest job matters: those that came in between are skipped.
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
    /// `done` is called on the worker thread with each result.
    explicit ComputeThread(std::function<void(std::shared_ptr<const Computed>)> done);
    ~ComputeThread();

    void compute(job::Job job);
    bool busy() const;
    /// To be called once a result has reached its reader.
    void delivered();

  private:
    void run();

    std::function<void(std::shared_ptr<const Computed>)> done_;
    mutable std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<job::Job> next_;
    int under_way_ = 0;  ///< jobs taken whose result has not been delivered
    bool stop_ = false;
    job::Pipeline pipeline_;
    std::thread thread_;
};

}  // namespace bevelsmith::app

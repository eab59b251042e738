#include "app/document/compute_thread.h"

namespace bevelsmith::app {

ComputeThread::ComputeThread(std::function<void(std::shared_ptr<const Computed>)> done)
    : done_(std::move(done)), thread_([this] { run(); }) {}

ComputeThread::~ComputeThread() {
    {
        std::lock_guard lock(mutex_);
        stop_ = true;
    }
    wake_.notify_one();
    thread_.join();
}

void ComputeThread::compute(job::Job job) {
    {
        std::lock_guard lock(mutex_);
        next_ = std::move(job);
    }
    wake_.notify_one();
}

bool ComputeThread::busy() const {
    std::lock_guard lock(mutex_);
    return next_.has_value() || under_way_ > 0;
}

void ComputeThread::delivered() {
    std::lock_guard lock(mutex_);
    --under_way_;
}

void ComputeThread::run() {
    while (true) {
        auto out = std::make_shared<Computed>();
        {
            std::unique_lock lock(mutex_);
            wake_.wait(lock, [this] { return stop_ || next_.has_value(); });
            if (stop_) return;
            out->job = std::move(*next_);
            next_.reset();
            ++under_way_;
        }
        out->results = pipeline_.compute(out->job);
        out->findings = review::review(out->job, out->results);
        done_(std::move(out));
    }
}

}  // namespace bevelsmith::app

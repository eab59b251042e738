#include "app/document/compute_thread.h"

#include <chrono>

namespace bevelsmith::app {
namespace {

/// Sheets that take longer than this are waited for with the pieces already shown.
constexpr std::chrono::milliseconds patience{60};

}  // namespace

ComputeThread::ComputeThread(std::function<void(std::shared_ptr<const Computed>)> done,
                             std::shared_ptr<job::Pipeline> pipeline)
    : done_(std::move(done)), pipeline_(std::move(pipeline)), thread_([this] { run(); }) {}

ComputeThread::~ComputeThread() {
    {
        std::lock_guard lock(mutex_);
        end_ = true;
    }
    wake_.notify_one();
    thread_.join();
}

void ComputeThread::compute(job::Job job, bool another) {
    {
        std::lock_guard lock(mutex_);
        // A job that was skipped may have been the one that changed everything.
        another = another || (next_ && next_->another);
        next_ = Request{std::move(job), another};
    }
    wake_.notify_one();
}

bool ComputeThread::busy() const {
    std::lock_guard lock(mutex_);
    return next_.has_value() || working_ || undelivered_ > 0;
}

void ComputeThread::delivered() {
    std::lock_guard lock(mutex_);
    --undelivered_;
}

void ComputeThread::stop() {
    std::lock_guard lock(mutex_);
    stopped_ = working_ && !next_;
}

bool ComputeThread::wanted() const {
    std::lock_guard lock(mutex_);
    return !end_ && !stopped_ && !next_;
}

bool ComputeThread::take(Request& request) {
    std::unique_lock lock(mutex_);
    working_ = false;
    wake_.wait(lock, [this] { return end_ || next_.has_value(); });
    if (end_) return false;
    request = std::move(*next_);
    next_.reset();
    working_ = true;
    stopped_ = false;
    return true;
}

void ComputeThread::run() {
    for (Request request; take(request);) work(std::move(request));
}

void ComputeThread::work(Request request) {
    if (request.another) sheets_.clear();
    const auto start = std::chrono::steady_clock::now();
    bool shown = false;
    job::Results results;
    // As they are before forecasts are written into them: these come from several threads at once.
    std::optional<job::Results> early;
    const auto show_pieces = [&] {
        if (!early || std::exchange(shown, true)) return;
        hand_over(request.job, *early);
    };
    // Asked from other threads as well; only this one shows anything.
    const auto keep_going = [&, own = std::this_thread::get_id()] {
        if (std::this_thread::get_id() == own && std::chrono::steady_clock::now() - start > patience) show_pieces();
        return wanted();
    };
    try {
        results = pipeline_->compute_pieces(request.job, [this] { return wanted(); });
        early = results;
        early->sheets = sheets_;
        early->sheets_pending = true;
        pipeline_->forecast(request.job, results, keep_going);
        pipeline_->lay_out(request.job, results, keep_going);
        sheets_ = results.sheets;
        hand_over(request.job, results);
    } catch (const Stopped&) {
        show_pieces();
        bool by_person = false;
        {
            const std::lock_guard lock(mutex_);
            by_person = stopped_;
            undelivered_ += by_person;
        }
        if (by_person) done_(nullptr);
    } catch (const std::exception&) {
        // What no stage has caught: the pieces as far as they are known, and a finding that says so.
        results.faults.push_back(
            {"the results of this job", {}, "there is not enough memory, or a fault of the program"});
        results.surfaces.resize(request.job.surfaces.size());
        results.pieces.resize(request.job.pieces.size());
        hand_over(request.job, results);
    }
}

void ComputeThread::hand_over(const job::Job& job, const job::Results& results) {
    auto out = std::make_shared<Computed>(Computed{job, results, {}});
    try {
        out->findings = review::review(out->job, out->results);
    } catch (const std::exception&) {
        review::Finding fault;
        fault.check = review::CheckId::not_computed, fault.severity = review::Severity::mind;
        fault.title = "The checks could not be done";
        fault.evidence = "there is not enough memory for them, or a fault of the program";
        fault.advice = "Nothing is known to be right: undo what was changed last, or save the job and open it anew.";
        out->findings = {fault};
    }
    {
        std::lock_guard lock(mutex_);
        ++undelivered_;
    }
    done_(std::move(out));
}

}  // namespace bevelsmith::app

// Results kept by the inputs they came from.
#pragma once

#include <algorithm>
#include <list>
#include <memory>
#include <mutex>
#include <optional>
#include <type_traits>
#include <utility>

namespace bevelsmith::job {

/// The last few results of a pure function, found again by equality of its input. Undo and redo find theirs too.
/// May be asked from several threads at once: what is being made does not keep the others waiting.
template <class Input, class Output>
class Memo {
  public:
    explicit Memo(std::size_t capacity) : capacity_(capacity) {}

    /// The kept result for `input`, or `make(input)`, which is then kept. `make` may give back an empty optional:
    /// nothing is kept then, and the result is null.
    template <class Make>
    std::shared_ptr<const Output> get(Input input, Make make) {
        if (auto kept = find(input)) return kept;
        auto made = make(input);
        std::shared_ptr<const Output> output;
        if constexpr (std::is_same_v<decltype(made), std::optional<Output>>) {
            if (!made) return nullptr;
            output = std::make_shared<const Output>(std::move(*made));
        } else {
            output = std::make_shared<const Output>(std::move(made));
        }
        const std::lock_guard alone(mutex_);
        ++computed_;
        kept_.emplace_front(std::move(input), output);
        if (kept_.size() > capacity_) kept_.pop_back();
        return output;
    }

    /// The kept result for `input`, null where there is none.
    std::shared_ptr<const Output> find(const Input& input) {
        const std::lock_guard alone(mutex_);
        for (auto it = kept_.begin(); it != kept_.end(); ++it)
            if (it->first == input) {
                kept_.splice(kept_.begin(), kept_, it);
                return kept_.front().second;
            }
        return nullptr;
    }

    /// Shows every input with its result, the latest first, until `see` has seen all.
    template <class See>
    void each(See see) const {
        const std::lock_guard alone(mutex_);
        for (const auto& [input, output] : kept_) see(input, *output);
    }

    /// Keeps this many at least: no job is so large that it pushes out its own results while they are made.
    void hold(std::size_t at_least) {
        const std::lock_guard alone(mutex_);
        capacity_ = std::max(capacity_, at_least);
    }

    /// How often something had to be computed.
    int computed() const { return computed_; }

  private:
    mutable std::mutex mutex_;
    std::size_t capacity_;
    std::list<std::pair<Input, std::shared_ptr<const Output>>> kept_;
    int computed_ = 0;
};

}  // namespace bevelsmith::job

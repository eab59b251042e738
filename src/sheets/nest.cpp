// A layout in the time that there is: rows where nothing else is done in time, else a first layout squeezed until
// then.
#include <algorithm>
#include <atomic>
#include <chrono>
#include <exception>
#include <mutex>
#include <thread>

#include "sheets/layout.h"
#include "sheets/rows.h"
#include "sheets/separate.h"

namespace bevelsmith::sheets {
namespace {

using Clock = std::chrono::steady_clock;

/// What a search did not reach, in rows behind what it did; rows are valid by construction.
Layout finished_in_rows(const Problem& problem, Layout layout) {
    std::vector<std::vector<char>> done;
    for (const Part& part : problem.parts) done.emplace_back(static_cast<std::size_t>(std::max(0, part.quantity)), 0);
    const auto mark = [&](int part, int copy) {
        done[static_cast<std::size_t>(part)][static_cast<std::size_t>(copy)] = 1;
    };
    for (const auto& at : layout.placements) mark(at.part, at.copy);
    for (const auto& at : layout.unplaced) mark(at.part, at.copy);
    std::vector<Wanted> rest;
    for (int p = 0; p < static_cast<int>(done.size()); ++p)
        for (int c = 0; c < static_cast<int>(done[static_cast<std::size_t>(p)].size()); ++c)
            if (!done[static_cast<std::size_t>(p)][static_cast<std::size_t>(c)]) rest.push_back({p, c});
    add_in_rows(problem, rest, layout);
    layout.utilisation = utilisation(problem, layout);
    return layout;
}

/// The time, the person who stops, and the picture of how far it has come.
class Watch {
  public:
    Watch(const NestOptions& options, Clock::time_point start) : options_(options), start_(start) {
        // The judgement of a layout takes time as well, most of all the first time.
        constexpr double for_judging = 0.1;
        end_ = start + std::chrono::duration_cast<Clock::duration>(
                           std::chrono::duration<double>(options.seconds * (1 - for_judging)));
    }
    bool in_time() const { return !stopped_ && Clock::now() < end_; }
    void stop() { stopped_ = true; }
    /// For the thread that began it: tells how far it is now and then.
    bool go_on(const Layout& best) {
        if (!in_time()) return false;
        if (++asked_ % 64 == 0 && options_.keep_going && !options_.keep_going()) stopped_ = true;
        const auto now = Clock::now();
        if (!options_.progress || best.sheet_stock.empty() || now < told_ + std::chrono::milliseconds(60))
            return !stopped_;
        told_ = now;
        const double share = std::chrono::duration<double>(now - start_).count() / std::max(options_.seconds, 1e-9);
        if (!options_.progress(
                {std::min(1.0, share), static_cast<int>(best.sheet_stock.size()), best.utilisation, &best}))
            stopped_ = true;
        return !stopped_;
    }

  private:
    const NestOptions& options_;
    Clock::time_point start_, end_, told_{};
    unsigned asked_ = 0;
    std::atomic<bool> stopped_ = false;
};

/// The best of both processors.
class Shared {
  public:
    Shared(const Problem& problem, unsigned seed, const Separation& first) : best_(problem, seed) {
        best_.take_over(first);
    }
    /// After a squeeze: what is better than all is known to all. Two that went on from one layout would find much the
    /// same, so each keeps to its own.
    void tell(const Separation& own) {
        const std::scoped_lock held(lock_);
        if (own.ahead_of(best_)) best_.take_over(own);
    }
    /// For one that has not begun, or at the end.
    void give(Separation& own) {
        const std::scoped_lock held(lock_);
        own.take_over(best_);
    }
    /// A copy, where it is another than that.
    void show(Layout& shown) {
        const std::scoped_lock held(lock_);
        if (better(best_.best(), shown)) shown = best_.best();
    }

  private:
    std::mutex lock_;
    Separation best_;
};

/// Both processors squeeze, each on its own way.
void squeeze_together(const Problem& problem, Separation& first, unsigned seed, Watch& watch) {
    Shared shared(problem, seed, first);
    // Whatever ends this one ends the other as well; what goes wrong in the other leaves this one's layouts.
    struct Other {
        Watch& watch;
        std::thread thread;
        ~Other() {
            watch.stop();
            thread.join();
        }
    };
    {
        Other other{watch, std::thread([&] {
                        try {
                            Separation own(problem, seed + 1);
                            shared.give(own);
                            while (watch.in_time()) {
                                own.squeeze([&] { return watch.in_time(); });
                                shared.tell(own);
                            }
                        } catch (const std::exception&) {
                            return;
                        }
                    })};
        Layout shown = first.best();
        while (watch.go_on(shown)) {
            first.squeeze([&] { return watch.go_on(shown); });
            shared.tell(first);
            shared.show(shown);
        }
    }
    shared.tell(first);
    shared.give(first);
}

}  // namespace

Layout nest(const Problem& problem, const NestOptions& options) {
    const auto start = Clock::now();
    Watch watch(options, start);
    // Rows are there at once, and hold until there is better.
    Layout rows = finished_in_rows(problem, {problem.locked.sheet_stock, problem.locked.placements, {}, 0, 0});
    // To make a search ready takes long for parts of thousands of corners.
    if (!watch.in_time()) {
        rows.seconds = std::chrono::duration<double>(Clock::now() - start).count();
        return rows;
    }
    Separation search(problem, options.seed);
    bool begun = false;
    const KeepGoing go_on = [&] { return watch.go_on(begun ? search.best() : rows); };
    Layout best;
    begun = search.begin(go_on);
    if (!begun) {
        // What was placed until then, with rows behind it, may be better than rows alone, or not. To judge takes
        // long: once.
        best = rows;
        Layout more = finished_in_rows(problem, search.best());
        if (better(more, best) && violations(problem, more).empty()) best = std::move(more);
    } else {
        if (options.rounds > 0)
            // Squeezes that come off cost little: a round goes on until one does not.
            for (int round = 1; round < options.rounds && go_on(); ++round)
                while (search.squeeze(go_on)) {}
        else squeeze_together(problem, search, options.seed, watch);
        best = search.best();  // every layout that a search hands out has been judged
    }
    best.seconds = std::chrono::duration<double>(Clock::now() - start).count();
    return best;
}

}  // namespace bevelsmith::sheets

// A stage's work that must not take the others down with it.
#pragma once

#include <exception>
#include <new>
#include <string>
#include <vector>

#include "hull/parallel.h"
#include "job/pipeline.h"

namespace bevelsmith::job {

/// Does one stage's work. What goes wrong in it is told in `faults`, in our own words, and the next stage goes on.
template <class Work>
void guarded(std::vector<Fault>& faults, const std::string& what, const std::string& piece_id, Work work) {
    try {
        work();
    } catch (const Stopped&) {
        throw;
    } catch (const std::bad_alloc&) {
        faults.push_back({what, piece_id, "there is not enough memory for it"});
    } catch (const std::exception&) {
        faults.push_back({what, piece_id, "a fault of the program; the job itself is as it was"});
    }
}

/// One stage's work on each of several things that do not ask for each other's results: `work(faults, i)` for i below
/// `count`, on all processors. Faults come in the order of the things.
template <class Work>
void on_each(std::vector<Fault>& faults, std::size_t count, const KeepGoing& keep_going, Work work) {
    std::vector<std::vector<Fault>> own(count);
    hull::in_parallel(static_cast<std::ptrdiff_t>(count), count > 1, [&](std::ptrdiff_t i) {
        ask(keep_going);
        work(own[static_cast<std::size_t>(i)], static_cast<std::size_t>(i));
    });
    for (auto& some : own) faults.insert(faults.end(), some.begin(), some.end());
}

}  // namespace bevelsmith::job

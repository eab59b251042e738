// A stage's work that must not take the others down with it.
#pragma once

#include <exception>
#include <new>
#include <string>
#include <vector>

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

}  // namespace bevelsmith::job

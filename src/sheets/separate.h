// Layouts by pulling overlapping parts apart: a valid layout is squeezed, parts may overlap for a while, and a guided
// local search separates them again.
#pragma once

#include <memory>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

/// A search that can be stopped at any time and goes on from its best.
///
/// A first valid layout is built part by part, the largest first. Then the last sheet's used strip is narrowed, or
/// the sheet emptied when its strip is narrower than its parts; parts that overlap are moved, in random order, to
/// where they overlap least among sampled places, with weights that grow on pairs that stay in each other's way; what
/// separates is the new best (guided local search over separation; see docs/nesting-format.md). Every layout that it
/// hands out has passed violations(). Precondition: fault_of(problem) is empty.
class Separation {
  public:
    Separation(const Problem& problem, unsigned seed);
    ~Separation();
    Separation(const Separation&) = delete;
    Separation& operator=(const Separation&) = delete;

    /// The first layout; parts that fit no sheet are unplaced with the reason. False when `keep_going` said no before
    /// it was done (best() has what was placed until then), or when it was not valid.
    bool begin(const KeepGoing& keep_going);
    /// One squeeze; true when it gave a better layout. `keep_going` is asked all the time and ends it at once. Of
    /// more than 600 copies the first layout is the last: then it does nothing.
    bool squeeze(const KeepGoing& keep_going);

    const Layout& best() const;
    /// Whether its best is better, or as good with less on the last sheet.
    bool ahead_of(const Separation& other) const;
    /// Goes on from the best of another search over the same problem, which has begun.
    void take_over(const Separation& other);

  private:
    struct Search;
    std::unique_ptr<Search> search_;
};

/// Fewer parts left over, then fewer sheets, then a shorter last strip.
bool better(const Layout& a, const Layout& b);

}  // namespace bevelsmith::sheets

// A value or a reason why there is none: what every fallible function of the core returns.
#pragma once

#include <cassert>
#include <string>
#include <utility>
#include <variant>

namespace bevelsmith {

/// Why something could not be done, in words that a fitter understands.
struct Error {
    std::string message;  ///< what is wrong and what to do; no file name, no full stop at the end
    int line = 0;         ///< 1-based line of the input where it is wrong; 0 when there is none
};

/// Either a T or an Error. Converts from both, so that functions return either plainly.
template <class T>
class Result {
  public:
    Result(T value) : state_(std::move(value)) {}
    Result(Error error) : state_(std::move(error)) {}

    bool ok() const { return state_.index() == 0; }
    explicit operator bool() const { return ok(); }

    /// Precondition of the four accessors: ok().
    const T& value() const { return assert(ok()), *std::get_if<0>(&state_); }
    T& value() { return assert(ok()), *std::get_if<0>(&state_); }
    const T& operator*() const { return value(); }
    const T* operator->() const { return &value(); }

    /// Precondition: !ok().
    const Error& error() const { return assert(!ok()), *std::get_if<1>(&state_); }

  private:
    std::variant<T, Error> state_;
};

}  // namespace bevelsmith

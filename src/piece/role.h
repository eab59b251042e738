// What becomes of a thing of the boat. Nobody fits out an empty shell: much stands there already.
#pragma once

namespace bevelsmith::piece {

enum class Role {
    made,       ///< new: cut, bought, fixed, weighed
    stays,      ///< stands there and stays
    comes_out,  ///< stands there until it is taken out for good
    goes_back,  ///< is taken out and put back where it was
    replaced,   ///< is taken out, and something new takes its place
};

/// Whether it is made: cut, laid out, bought, fixed and counted as added weight.
constexpr bool is_made(Role role) {
    return role == Role::made;
}
/// Whether it stands in the finished boat: stops others, carries them, is in their way.
constexpr bool is_in_finished(Role role) {
    return role == Role::made || role == Role::stays || role == Role::goes_back;
}

}  // namespace bevelsmith::piece

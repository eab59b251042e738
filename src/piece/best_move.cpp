#include "piece/best_move.h"

#include <glpk.h>

#include <algorithm>
#include <memory>

namespace bevelsmith::piece {
namespace {

constexpr double most_move_mm = 30, most_turn_rad = 0.03;
/// So that of several moves as good as each other the smallest is told.
constexpr double cost_of_moving = 1e-3, cost_of_turning = 1.0;

struct Freed {
    void operator()(glp_prob* p) const { glp_delete_prob(p); }
};

}  // namespace

Move best_move(const std::vector<Contact>& contacts, const Vec2& about) {
    Move out;
    out.about = about;
    for (const Contact& c : contacts) out.left_mm = std::max(out.left_mm, c.daylight_mm);
    if (contacts.empty()) return out;
    glp_term_out(GLP_OFF);
    const std::unique_ptr<glp_prob, Freed> problem(glp_create_prob());
    glp_prob* p = problem.get();
    glp_set_obj_dir(p, GLP_MIN);
    // x, y and turn, each as what is more and what is less than nothing; the widest daylight.
    enum { right = 1, left, up, down, turn, back, widest, columns = widest };
    glp_add_cols(p, columns);
    for (int c = right; c <= back; ++c) {
        glp_set_col_bnds(p, c, GLP_DB, 0, c >= turn ? most_turn_rad : most_move_mm);
        glp_set_obj_coef(p, c, c >= turn ? cost_of_turning : cost_of_moving);
    }
    glp_set_col_bnds(p, widest, GLP_LO, 0, 0);
    glp_set_obj_coef(p, widest, 1);
    glp_add_rows(p, static_cast<int>(contacts.size()));
    for (std::size_t i = 0; i < contacts.size(); ++i) {
        const Contact& c = contacts[i];
        const Vec2 arm = c.at - about;
        const double by_turn = c.out.x() * -arm.y() + c.out.y() * arm.x();
        const int row = static_cast<int>(i) + 1;
        const int index[] = {0, right, left, up, down, turn, back, widest};
        const double value[] = {0, c.out.x(), -c.out.x(), c.out.y(), -c.out.y(), by_turn, -by_turn, 1};
        glp_set_mat_row(p, row, columns, index, value);
        glp_set_row_bnds(p, row, GLP_LO, c.daylight_mm, 0);
    }
    glp_smcp options;
    glp_init_smcp(&options);
    options.msg_lev = GLP_MSG_OFF;
    if (glp_simplex(p, &options) != 0 || glp_get_status(p) != GLP_OPT) return out;
    const auto value = [p](int c) { return glp_get_col_prim(p, c); };
    if (value(widest) >= out.left_mm) return out;
    out.by = {value(right) - value(left), value(up) - value(down)};
    out.turn_rad = value(turn) - value(back);
    out.left_mm = value(widest);
    return out;
}

}  // namespace bevelsmith::piece

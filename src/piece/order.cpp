#include "piece/order.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace bevelsmith::piece {
namespace {

/// The ids that a piece depends on.
std::vector<std::string> needs(const PieceSpec& piece) {
    std::vector<std::string> out;
    for (const EdgeSpec& e : piece.edges)
        if (e.kind == EdgeKind::piece && e.meeting == Meeting::stops) out.push_back(e.piece_id);
    if (piece.beside) out.push_back(piece.beside->piece_id);
    return out;
}

/// Depth first; a piece met again on the way down closes a circle.
class Walk {
  public:
    explicit Walk(const std::vector<const PieceSpec*>& pieces)
        : pieces_(pieces), seen_(pieces.size(), Seen::not_yet) {
        for (std::size_t i = 0; i < pieces.size(); ++i) by_id_.emplace(pieces[i]->id, i);
        for (std::size_t i = 0; i < pieces.size(); ++i) visit(i);
    }
    Order order;

  private:
    enum class Seen { not_yet, on_the_way, done };
    void visit(std::size_t i) {
        if (seen_[i] != Seen::not_yet) return;
        seen_[i] = Seen::on_the_way;
        way_.push_back(i);
        for (const std::string& id : needs(*pieces_[i])) {
            const auto at = by_id_.find(id);
            if (at == by_id_.end()) continue;
            if (seen_[at->second] == Seen::on_the_way)
                order.circles.emplace_back(std::find(way_.begin(), way_.end(), at->second), way_.end());
            else visit(at->second);
        }
        way_.pop_back();
        seen_[i] = Seen::done;
        order.sequence.push_back(i);
    }
    const std::vector<const PieceSpec*>& pieces_;
    std::vector<Seen> seen_;
    std::vector<std::size_t> way_;
    std::map<std::string, std::size_t> by_id_;
};

}  // namespace

const std::vector<std::size_t>* Order::circle_with(std::size_t piece) const {
    for (const auto& circle : circles)
        if (std::find(circle.begin(), circle.end(), piece) != circle.end()) return &circle;
    return nullptr;
}

Order order_of(const std::vector<const PieceSpec*>& pieces) {
    return Walk(pieces).order;
}

std::string circle_words(const std::vector<const PieceSpec*>& pieces, const std::vector<std::size_t>& circle) {
    std::string out;
    for (std::size_t k = 0; k < circle.size(); ++k) {
        const auto &from = *pieces[circle[k]], &to = *pieces[circle[(k + 1) % circle.size()]];
        const bool beside = from.beside && from.beside->piece_id == to.id;
        out +=
            fmt::format("{}'{}' {} '{}'", k ? ", " : "", from.name, beside ? "stands beside" : "stops at", to.name);
    }
    return out + ": none of them can be first. Let one of them cover the other's end, or end at a line";
}

}  // namespace bevelsmith::piece

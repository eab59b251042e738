#include "piece/joint_proposal.h"

#include <algorithm>
#include <cmath>

#include "piece/joints.h"
#include "piece/parts.h"

namespace bevelsmith::piece {
namespace {

constexpr int most_joints = 8;
constexpr double from_opening_mm = 50;
/// Joints are tried so far to each side of the even division, in parts of a part's length.
constexpr double sideways = 0.25;

/// A line that a joint may land on: another piece under the panel, all along it.
struct Bearer {
    std::string id, name;
    double at_mm = 0;
};

struct Need {
    bool sheet = false, passage = false;
    explicit operator bool() const { return sheet || passage; }
};

class Proposer {
  public:
    Proposer(const PieceSpec& spec, const Outline& shape, const Passage& passage, const SheetRoom& sheet,
             const std::vector<Carrier>& others)
        : spec_(spec), shape_(shape), passage_(passage), sheet_(sheet), others_(others) {
        spec_.split_for_passage = false;
        level_ = lies_level(shape);
    }

    JointProposal run() {
        JointProposal out;
        const Need need = still_needed({});
        if (!need) return out;
        const auto box = geometry::bounding_box(shape_.face_a.outer);
        const bool upright = box.width() >= box.height();
        for (int n = 1; n <= most_joints; ++n)
            for (const bool across : {upright, !upright}) {
                auto joints = divided(n, across);
                if (joints.empty() || still_needed(joints)) continue;
                out.joints = std::move(joints);
                for (const JointSpec& joint : out.joints)
                    for (const Carrier& other : others_)
                        if (joint.kind == JointKind::landing && other.spec->id == joint.piece_id)
                            out.over.push_back(other.spec->name);
                out.for_sheet = need.sheet, out.for_passage = need.passage;
                return out;
            }
        return out;
    }

  private:
    /// What the parts still lack with those joints.
    Need still_needed(const std::vector<JointSpec>& joints) const {
        Outline trial = shape_;
        trial.joints = joints;
        divide(spec_, passage_, {}, trial, {});
        Need out;
        for (const Part& part : trial.parts) {
            out.sheet = out.sheet || !fits_sheet(part, sheet_);
            out.passage = out.passage || !part.passes;
        }
        return out;
    }

    std::vector<Bearer> bearers(bool upright) const {
        std::vector<Bearer> out;
        if (!level_) return out;
        for (const Bearing& bearing : bearing_of(spec_, shape_, others_).lines) {
            const auto other = std::find_if(others_.begin(), others_.end(),
                                            [&](const Carrier& c) { return c.spec->id == bearing.piece_id; });
            if (bearing.piece_id.empty() || other == others_.end()) continue;
            PieceSpec landing = spec_;
            landing.joints = {{JointKind::landing}};
            landing.joints[0].piece_id = bearing.piece_id;
            const Neighbour under{other->spec->plane, other->shape->thickness_mm, 0, 0, other->spec->name, {}};
            const auto landed =
                landed_joints(landing, shape_.frame, shape_.thickness_mm, [&](const std::string&) { return &under; });
            if (landed && landed->front().upright == upright)
                out.push_back({bearing.piece_id, other->spec->name, landed->front().at_mm});
        }
        return out;
    }

    /// Whether a joint there would run along an opening's side.
    bool beside_opening(bool upright, double at) const {
        return std::any_of(shape_.face_a.holes.begin(), shape_.face_a.holes.end(), [&](const auto& hole) {
            const auto box = geometry::bounding_box(hole);
            const double low = upright ? box.min.x() : box.min.y(), high = upright ? box.max.x() : box.max.y();
            return std::min(std::abs(at - low), std::abs(at - high)) < from_opening_mm;
        });
    }

    JointSpec joint_near(bool upright, double even, double reach, const std::vector<Bearer>& bearers) const {
        JointSpec out;
        out.upright = upright, out.at_mm = even, out.slope = spec_.scarf_slope;
        out.kind = level_ ? JointKind::butt_strap : JointKind::scarf;
        const Bearer* best = nullptr;
        for (const Bearer& b : bearers)
            if (std::abs(b.at_mm - even) <= reach &&
                (!best || std::abs(b.at_mm - even) < std::abs(best->at_mm - even)))
                best = &b;
        if (best) {
            out.kind = JointKind::landing, out.piece_id = best->id, out.at_mm = best->at_mm;
            return out;
        }
        constexpr int tries = 20;
        for (int k = 0; k <= tries; ++k)
            for (const double way : {1.0, -1.0}) {
                const double at = even + way * reach * k / tries;
                if (beside_opening(upright, at)) continue;
                out.at_mm = std::round(at);
                return out;
            }
        return out;
    }

    std::vector<JointSpec> divided(int n, bool upright) const {
        const auto box = geometry::bounding_box(shape_.face_a.outer);
        const double low = upright ? box.min.x() : box.min.y(), long_mm = upright ? box.width() : box.height();
        const auto under = bearers(upright);
        std::vector<JointSpec> out;
        for (int k = 1; k <= n; ++k)
            out.push_back(joint_near(upright, low + long_mm * k / (n + 1), sideways * long_mm / (n + 1), under));
        // Bearers that lie far aside may leave a part too large: even parts then, wherever they end.
        if (!still_needed(out)) return out;
        out.clear();
        for (int k = 1; k <= n; ++k)
            out.push_back(joint_near(upright, low + long_mm * k / (n + 1), sideways * long_mm / (n + 1), {}));
        return out;
    }

    PieceSpec spec_;
    const Outline& shape_;
    const Passage& passage_;
    const SheetRoom& sheet_;
    const std::vector<Carrier>& others_;
    bool level_ = false;
};

}  // namespace

JointProposal propose_joints(const PieceSpec& spec, const Outline& shape, const Passage& passage,
                             const SheetRoom& sheet, const std::vector<Carrier>& others) {
    return Proposer(spec, shape, passage, sheet, others).run();
}

}  // namespace bevelsmith::piece

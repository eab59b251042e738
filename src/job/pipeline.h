// From a job to everything that can be computed from it, in the order of the work.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "hull/knowledge.h"
#include "hull/mesh.h"
#include "hull/ridges.h"
#include "hull/sides.h"
#include "job/job.h"
#include "job/memo.h"
#include "piece/bearing.h"
#include "piece/forecast.h"
#include "practice/trial.h"
#include "sheets/lengths.h"
#include "survey/points.h"

namespace bevelsmith::job {

struct SurfaceResult {
    std::string id;
    std::vector<survey::Point> points;
    std::shared_ptr<const Result<hull::FittedSurface>> fit;
    std::shared_ptr<const hull::Mesh> mesh;       ///< for pictures; null when there is no fit
    std::shared_ptr<const hull::Surface> face;    ///< what joinery meets: the fit with its layers; null without a fit
    std::vector<hull::SideDifference> sides;      ///< where it is mirrored and checked
    std::shared_ptr<const hull::Ridges> ridges;   ///< chines that nobody entered; null until they are looked for
    std::shared_ptr<const hull::PatchNext> next;  ///< null until it is worked out
    /// Whether point `k` is left out for being wrong. Where chines were not entered yet, good readings near them are
    /// left out too: those are not called wrong.
    bool doubts(std::size_t k) const;
    const hull::FittedSurface* fitted() const { return fit && fit->ok() ? &fit->value() : nullptr; }

    // Compiled once, not in every file in which one is copied.
    SurfaceResult();
    SurfaceResult(const SurfaceResult&);
    SurfaceResult(SurfaceResult&&) noexcept;
    SurfaceResult& operator=(const SurfaceResult&);
    SurfaceResult& operator=(SurfaceResult&&) noexcept;
    ~SurfaceResult();
};

/// Readings that a surface leaves out, one by one. Those of a scan are nobody's slips: hoses, frames and the like.
struct LeftOut {
    int doubtful = 0;  ///< of readings taken by hand
    int strays = 0;    ///< of scanned points
    int scanned = 0;   ///< points of scans in all
};
LeftOut left_out(const Job& job, const SurfaceResult& surface);
bool is_scanned(const Job& job, const survey::Point& point);
/// Of a set that is left out as a whole.
bool is_stray(const hull::FittedSurface& fit, const survey::Point& point);

struct PieceResult {
    std::string id;
    std::shared_ptr<const Result<piece::Outline>> outline;
    std::shared_ptr<const piece::Sketch> sketch;      ///< where there is no outline: what is known of it
    std::shared_ptr<const piece::Forecast> forecast;  ///< null until it is worked out
    fixing::Plan fixing;                              ///< meaningful when there is an outline
    weight::PieceMass mass;
    std::shared_ptr<const piece::BearingReport> bearing;  ///< of a level piece; null until it is worked out
    std::shared_ptr<const practice::Trial> trial;         ///< only in practice, once it was tried
    std::shared_ptr<const std::optional<practice::BestPossible>> best;
    const piece::Outline* shape() const { return outline && outline->ok() ? &outline->value() : nullptr; }
    /// The middle of its face A in the boat; empty without an outline.
    std::optional<Vec3> middle() const;

    // Compiled once, not in every file in which one is copied.
    PieceResult();
    PieceResult(const PieceResult&);
    PieceResult(PieceResult&&) noexcept;
    PieceResult& operator=(const PieceResult&);
    PieceResult& operator=(PieceResult&&) noexcept;
    ~PieceResult();
};

/// The outline of what is to be cut: null without one, and of what stands there already.
inline const piece::Outline* made_shape(const JobPiece& piece, const PieceResult& result) {
    return piece::is_made(piece.role) ? result.shape() : nullptr;
}

/// What a unit leaves for people.
struct UnitResult {
    std::string id;
    std::vector<furniture::Room> room;
};

/// A part whose piece has changed since it was cut.
struct ChangedPart {
    std::string part_id, name, material_id;
    double off_mm = 0;  ///< the farthest that its outline is from what was cut
};

/// The parts of one material on its sheets.
struct SheetResult {
    std::string material_id;
    std::shared_ptr<const sheets::Problem> problem;
    std::vector<std::string> part_names;   ///< beside problem->parts
    std::vector<std::string> stock_names;  ///< beside problem->stock: the offcut's id, empty for a plain sheet
    std::shared_ptr<const sheets::Layout> layout;  ///< of what is still to be cut
    bool locked = false;                           ///< the layout that a person keeps
    std::string broken_lock;                       ///< why a kept layout no longer holds
    std::vector<ChangedPart> changed_since_cut;
    std::vector<std::string> said_cut;  ///< parts of pieces that are said to be cut: they are laid out no more
};

/// A length that follows from a piece: a lipping along one of its edges, or blocks to bond along it.
struct DerivedLength {
    std::string name, piece_id;
    double width_mm = 0, depth_mm = 0;  ///< the larger first
    double length_mm = 0;
    int quantity = 1;
    bool operator==(const DerivedLength&) const = default;
};

/// The lengths of one section, cut from its bars.
struct LengthResult {
    std::string title;                    ///< "ash 40 x 20"
    std::vector<std::string> bar_ids;     ///< beside problem->bars
    std::vector<std::string> part_names;  ///< beside problem->parts
    std::shared_ptr<const sheets::LengthProblem> problem;
    std::shared_ptr<const sheets::LengthPlan> plan;
    std::vector<std::string> faults;  ///< of lengths that cannot be cut at all and are left out, or of the section
};

/// Something that could not be computed: a fault of the program or a lack of memory, not of the job.
struct Fault {
    std::string what;      ///< "the surface 'Hull'"
    std::string piece_id;  ///< empty where it is not one piece's
    std::string why;
    bool operator==(const Fault&) const = default;
};

struct Results {
    std::vector<Fault> faults;  ///< stages that failed; everything else is computed
    std::vector<SurfaceResult> surfaces;
    std::vector<PieceResult> pieces;           ///< beside Job::pieces
    std::vector<UnitResult> units;             ///< empty until room for people is worked out
    std::vector<furniture::Doorway> doorways;  ///< where no sole's room counts them
    std::vector<SheetResult> sheets;
    std::vector<LengthResult> lengths;
    std::vector<DerivedLength> lengths_without_bar;  ///< no bar in stock is thick enough for them
    bool sheets_pending = false;                     ///< the sheets are of an earlier job: new ones are on their way
    weight::Mass added;
    weight::Mass removed;  ///< of what comes out or is replaced
    weight::Attitude attitude;

    const PieceResult* piece(const std::string& id) const;
    const UnitResult* unit(const std::string& id) const;
    const SurfaceResult* surface(const std::string& id) const;
    SurfaceResult* surface(const std::string& id);

    // Compiled once, not in every file in which one is copied.
    Results();
    Results(const Results&);
    Results(Results&&) noexcept;
    Results& operator=(const Results&);
    Results& operator=(Results&&) noexcept;
    ~Results();
};

/// Runs the stages; each keeps what it computed by its inputs, so that an edit recomputes what it touches.
/// `keep_going` is asked now and then; when it says no, Stopped is thrown, and what was finished is kept for the next
/// time. Any other exception of a stage becomes a Fault in the results. Not for use from two threads at once.
class Pipeline {
  public:
    /// How a surface is fitted, from what a person said of it and the sets in the boat's frame.
    static hull::FitOptions fit_options(const SurfaceSpec& spec, const std::vector<survey::ReadingSet>& sets);
    // Not in line: what is kept of every stage would be compiled wherever a pipeline is made.
    Pipeline();
    ~Pipeline();

    Results compute(const Job& job, const KeepGoing& keep_going = {});

    /// The same in three steps. Everything but the sheets, which is quick:
    Results compute_pieces(const Job& job, const KeepGoing& keep_going = {});
    /// then how well each piece will fit, the readings that would help, chines that nobody entered and, in practice,
    /// how tried pieces fit, a moment a piece;
    void forecast(const Job& job, Results& results, const KeepGoing& keep_going = {});
    /// then the sheets and lengths of `results`, which may take long; when stopped, they stay as they were.
    void lay_out(const Job& job, Results& results, const KeepGoing& keep_going = {});

    /// Is told what is being worked on, stage by stage and piece by piece: "the outline of 'Main bulkhead'". From
    /// whichever thread does it.
    using Watcher = std::function<void(const std::string& what)>;
    void watch(Watcher watcher) { watcher_ = std::move(watcher); }

    /// How often each stage had to work: the caching made visible to tests.
    struct Counts {
        int fits = 0, outlines = 0, layouts = 0;
    };
    Counts counts() const { return {fits_.computed(), outlines_.computed(), layouts_.computed()}; }

  private:
    struct FitInput {
        std::vector<survey::Point> points;
        hull::FitOptions options;
        bool operator==(const FitInput&) const = default;
    };
    struct FaceInput {
        std::shared_ptr<const Result<hull::FittedSurface>> fit;
        std::vector<hull::Layer> layers;
        hull::Corners corners;
        bool operator==(const FaceInput&) const = default;
    };
    struct OutlineInput {
        piece::PieceSpec spec;
        double thickness_mm = 0;
        piece::Passage passage;
        std::vector<std::pair<std::string, std::shared_ptr<const hull::Surface>>> surfaces;
        std::vector<std::pair<std::string, piece::Neighbour>> neighbours;  ///< that it names
        std::vector<piece::Obstacle> obstacles;                            ///< that it may have to be cut around
        std::optional<piece::SheetRoom> sheet;                             ///< where it may be divided for the way in
        double film_mm = 0;                                                ///< of coats, where it has lids
        piece::SurfaceLookup lookup() const;
        piece::Around around() const;
        bool operator==(const OutlineInput&) const = default;
    };
    struct FixingInput {
        std::shared_ptr<const Result<piece::Outline>> outline;
        piece::PieceSpec spec;
        std::optional<fixing::Method> chosen;
        double mass_kg_m2 = 0, built_up_kg = 0;
        stock::Coating coating;
        fixing::Shell shell;
        fixing::Rules rules;
        bool operator==(const FixingInput&) const = default;
    };
    struct Fixed {
        fixing::Plan plan;
        weight::PieceMass mass;
    };
    struct ForecastInput {
        OutlineInput outline;
        int readings = 3;
        bool operator==(const ForecastInput&) const = default;
    };
    struct BearingInput {
        piece::PieceSpec spec;
        std::shared_ptr<const Result<piece::Outline>> outline;
        std::vector<std::pair<piece::PieceSpec, std::shared_ptr<const Result<piece::Outline>>>> near;
        std::vector<piece::Obstacle> ledges;
        std::vector<double> layers_mm;  ///< before a cleat, beside the piece's edges
        double cleat_mm = 40;
        bool operator==(const BearingInput&) const = default;
    };
    struct NextInput {
        std::shared_ptr<const hull::Surface> face;
        int readings = 3;
        bool operator==(const NextInput&) const = default;
    };
    struct RidgeInput {
        std::shared_ptr<const Result<hull::FittedSurface>> fit;
        std::vector<survey::Point> points;
        hull::FitOptions options;
        bool operator==(const RidgeInput&) const = default;
    };
    struct BestInput {
        practice::BoatSpec boat;
        std::shared_ptr<const Result<piece::Outline>> outline;
        int readings = 0;
        double sigma_mm = 1.5;
        bool operator==(const BestInput&) const = default;
    };
    struct LayoutInput {
        sheets::Problem problem;
        unsigned seed = 1;
        bool guillotine = false;
        bool operator==(const LayoutInput&) const = default;
    };

    /// When a stage's turn comes: with every edit, once the picture stands, or last and at its leisure.
    enum class When { at_once, soon, at_last };
    struct Stage;
    /// All of them in their order: each finds in the results what those before it have put there.
    static const std::vector<Stage>& stages();
    void run(When when, const Job& job, Results& results, const KeepGoing& keep_going);

    void fit_surfaces(const Job& job, Results& results, const KeepGoing& keep_going);
    void compare_sides(const Job& job, Results& results, const KeepGoing& keep_going);
    void outline_pieces(const Job& job, Results& results, const KeepGoing& keep_going);
    void sum_weights(const Job& job, Results& results, const KeepGoing& keep_going);
    void forecast_pieces(const Job& job, Results& results, const KeepGoing& keep_going);
    void carry_pieces(const Job& job, Results& results, const KeepGoing& keep_going);
    void find_room(const Job& job, Results& results, const KeepGoing& keep_going);
    void suggest_readings(const Job& job, Results& results, const KeepGoing& keep_going);
    void find_ridges(const Job& job, Results& results, const KeepGoing& keep_going);
    void try_pieces(const Job& job, Results& results, const KeepGoing& keep_going);
    void lay_out_sheets(const Job& job, Results& results, const KeepGoing& keep_going);
    void cut_bars(const Job& job, Results& results, const KeepGoing& keep_going);

    void try_piece(const Job& job, const JobPiece& piece, PieceResult& result, int readings,
                   const KeepGoing& keep_going);
    SurfaceResult surface_result(const Job& job, const SurfaceSpec& spec, const KeepGoing& keep_going);
    OutlineInput outline_input(const Job& job, const JobPiece& piece, const Results& so_far);
    /// What a piece is before others cross it: what these are cut to.
    std::shared_ptr<const piece::Outline> uncrossed(const Job& job, const JobPiece& piece, const Results& so_far);
    /// `kept`: its outline, where that is known from `input`.
    PieceResult piece_result(const Job& job, const JobPiece& piece, const OutlineInput& input,
                             std::shared_ptr<const Result<piece::Outline>> kept, const KeepGoing& keep_going);
    SheetResult sheet_result(const Job& job, const JobMaterial& material, const Results& so_far,
                             const KeepGoing& keep_going);

    /// Of what is laid out for this problem and what earlier ones of the same parts came to, the cheapest that holds
    /// here: a larger sheet, or more stock, never costs more sheets than before.
    std::shared_ptr<const sheets::Layout> best_layout(const LayoutInput& input, const KeepGoing& keep_going);

    void tell(const std::string& what) const {
        if (watcher_) watcher_(what);
    }

    Watcher watcher_;
    Memo<FitInput, Result<hull::FittedSurface>> fits_{24};
    Memo<FaceInput, hull::Surface> faces_{24};
    Memo<std::shared_ptr<const hull::Surface>, hull::Mesh> meshes_{24};
    Memo<ForecastInput, piece::Forecast> forecasts_{400};
    Memo<BearingInput, piece::BearingReport> bearings_{400};
    Memo<NextInput, hull::PatchNext> nexts_{24};
    Memo<OutlineInput, Result<piece::Outline>> outlines_{400};
    Memo<OutlineInput, piece::Sketch> sketches_{100};
    Memo<FixingInput, Fixed> fixings_{400};
    Memo<RidgeInput, hull::Ridges> ridges_{24};
    Memo<BestInput, std::optional<practice::BestPossible>> bests_{24};
    Memo<LayoutInput, sheets::Layout> layouts_{24};
    Memo<sheets::LengthProblem, sheets::LengthPlan> length_plans_{24};
};

/// So many squeezes that come to nothing end a layout that nobody asked for more of.
inline constexpr int usual_nesting_rounds = 10;
/// The longest that a layout may take without being asked for more (s); then the rest goes in rows.
inline constexpr double usual_nesting_seconds = 3;
/// The longest that the plan of one section's lengths may take (s).
inline constexpr double usual_cutting_seconds = 1;

/// The layout as decisions that a job can keep.
LockedLayout lock_layout(const SheetResult& sheets, const sheets::Layout& layout);
/// Puts it into use in place of the one that was; those kept beside it to compare stay.
void use_layout(Job& job, const LockedLayout& layout);

}  // namespace bevelsmith::job

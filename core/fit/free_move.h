// How far the donor can still go before something binds, and which single move frees a pair.
#pragma once

#include "fit/clearance.h"

#include <array>

namespace gabarit::fit {

/// A move as made on a jack: along one of the vehicle's axes, or a turn of the tail about the placement's pivot.
enum class Way { Forward, Rearward, Left, Right, Up, Down, TailUp, TailDown };
constexpr std::array<Way, 8> all_ways{Way::Forward, Way::Rearward, Way::Left,   Way::Right,
                                      Way::Up,      Way::Down,     Way::TailUp, Way::TailDown};

/// "forward", "rearward", "left", "right", "up", "down", "tail_up", "tail_down".
const char* word(Way way);

/// True when amounts of this way are degrees; else they are mm.
inline bool isTurn(Way way) { return way == Way::TailUp || way == Way::TailDown; }

/// Unit vector of a straight way, vehicle frame; zero for a turn.
Eigen::Vector3d direction(Way way);

/// The placement after going `amount` that way. Error when the donor lacks the pivot a turn needs.
Result<model::Placement> gone(const model::Placement& placement, const model::Donor& donor, Way way, double amount);

/// Room in one way. What is already no-go does not count, unless the move makes it worse: then the room is 0. An
/// overlap that comes free by going on that way does not count either.
struct Room {
    Way way = Way::Forward;
    double amount = 0;   ///< mm, or degrees for the tail; never too large
    bool beyond = false; ///< nothing binds within the range searched
    model::BodyRef a;    ///< what binds first
    model::BodyRef b;
    std::string name_a;
    std::string name_b;
    std::string rule;
};

struct RoomReport {
    bool complete = false;
    std::string reason;      ///< why there is none; empty otherwise
    std::vector<Room> rooms; ///< one for each of all_ways that the donor can go
    /// The gearbox alone, between what is below and above it: usually the tightest.
    std::optional<Room> gearbox_up;
    std::optional<Room> gearbox_down;
};

/// What a move brings with it.
struct WayOut {
    Way way = Way::Forward;
    double amount = 0; ///< smallest that makes the pair good, rounded up to what a jack can be set to
    /// A second move, where no single one leaves fewer no-go: what the first brings is freed by it.
    struct Then {
        Way way = Way::Forward;
        double amount = 0;
    };
    std::optional<Then> then;
    model::Placement placement; ///< after all of it
    int no_go_before = 0;
    int no_go_after = 0;
    /// The other pair with the least margin at the new place; nothing when every other pair is beyond its range.
    std::optional<PairGap> worst_other;
};

struct MoveOptions {
    double range_mm = 150;        ///< how far is searched, > 0
    double range_deg = 5;         ///< the same for the tail, > 0
    int threads = 2;              ///< > 0
    LimitTable* limits = nullptr; ///< begun with the book; null: each place that is tried looks limits up anew
    StopToken stop;
};

/// From the active placement, by conservative steps: no pair's gap can shrink faster than its body moves. At rest and
/// at the worst moments of the report; the end of each room is looked at over the movement again.
RoomReport roomToMove(const model::Project& project, const placed::Scene& scene, const ClearanceReport& clearance,
                      const model::RuleBook& book, proximity::ColliderCache& cache, const MoveOptions& options);

/// The way that makes `pair` good (margin above its accuracy) and leaves the fewest no-go pairs; among equals the one
/// that leaves the others least short, then the shortest. Where each single move only trades one no-go for another, two
/// moves one after the other are looked for that leave fewer. No move goes through a panel that is closed. Nothing when
/// none within the range does. `pair.a` belongs to the active donor and `pair.b` does not.
std::optional<WayOut> bestWayOut(const model::Project& project, const placed::Scene& scene,
                                 const ClearanceReport& clearance, const PairGap& pair, const model::RuleBook& book,
                                 proximity::ColliderCache& cache, const MoveOptions& options);

} // namespace gabarit::fit

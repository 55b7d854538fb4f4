// Where the unit fits: all that this room looks at, together.
#pragma once

#include "fit/free_move.h"
#include "fit/free_room.h"
#include "fit/joined.h"
#include "fit/lowest.h"
#include "fit/measured.h"
#include "fit/outgoing.h"
#include "fit/stances.h"
#include "fit/tool_access.h"
#include "quantity/once.h"

namespace gabarit::fit {

struct FitReport {
    /// Not asked when nothing stands that could move against something.
    std::optional<ClearanceReport> clearance;
    std::optional<RoomReport> room;         ///< once it was looked for
    std::map<std::string, WayOut> ways_out; ///< by finding
    bool advised = false;                   ///< room and ways out were looked for
    std::vector<ToolAccess> access;         ///< of every serviced bolt
    std::optional<LeverCheck> lever;
    MeasuredReport measured;
    std::vector<JoinedOverlap> joined;   ///< joined pairs that reach into one another; not while a hand moves
    LowestReport lowest;                 ///< of the unit, against crossmembers and axles
    std::optional<StanceReport> stances; ///< nothing when nothing says how the springs move
    bool sag_asked = false;              ///< weights say what is taken off and put on
    std::vector<OutgoingLine> outgoing;  ///< the old engine's reference dimensions against the new one
    FreeRoomReport free_room;

    GABARIT_ONCE_DECLARED(FitReport);
};

/// What it keeps between runs.
struct FitMemory : discipline::Memory {
    GapMemo gaps;
    void forgetUnused() override {
        gaps.gaps.forgetUnused();
        gaps.moments.forgetUnused();
    }
};

/// Reads where everything stands and moves; needs how the unit rocks and what the axles carry more.
const discipline::Discipline& discipline();

} // namespace gabarit::fit

// Ways out of an overlap side by side: move the unit, take another form of it, cut a pocket; what each costs elsewhere.
#pragma once

#include "make/compare.h"
#include "make/pocket_proposal.h"

namespace gabarit::make {

enum class WayKind { Move, Variant, Pocket };
/// "move", "variant", "pocket".
const char* word(WayKind kind);

/// How a project stands.
struct StandingCount {
    int no_go = 0, close = 0, unknown = 0;            ///< gaps
    model::Verdict verdict = model::Verdict::Unknown; ///< of all that was asked
    std::optional<model::Verdict> driveline;
    std::optional<double> cost; ///< what the whole swap comes to, as far as it is priced
};

StandingCount standing(const study::Reports& reports);

struct ReliefWay {
    WayKind kind = WayKind::Move;
    std::string name;                              ///< "31 mm up", "Sump: shallow", "a pocket 49 mm deep"
    std::string reason;                            ///< why it is none; empty: it can be gone
    std::shared_ptr<const model::Project> project; ///< with it; null when it is none
    bool frees = false;                            ///< the pair is good then
    StandingCount then;
    std::optional<double> section_share; ///< of a pocket: the least modulus left, closed
    Comparison against;                  ///< how it is now
};

struct ReliefWays {
    StandingCount now;
    std::vector<ReliefWay> ways; ///< moves first, then variants, then the pocket
};

/// Of a pair of the report that overlaps or comes too near: one of the unit, one of the vehicle. A body marked "never",
/// or not as one that may be cut, is offered no pocket, and the reason is said. Each way is run as a project of its
/// own. Error: no such pair.
Result<ReliefWays> waysOut(study::Study& study, const study::Reports& reports, const model::RuleBook& book,
                           const model::BodyRef& a, const model::BodyRef& b, const study::RunOptions& options);

} // namespace gabarit::make

// The pocket that an overlap asks for: sized from the intruder over its movement, tried, and closed so that the section
// comes back.
#pragma once

#include "fit/clearance.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "study/study.h"

namespace gabarit::make {

struct PocketProposed {
    model::Pocket pocket;
    relief::PocketReport report;
    model::Project project; ///< with it
    /// Of each intruder with the body, the pocket in place.
    std::vector<fit::PairGap> pairs;
    int tries = 0; ///< how often it was made larger until the gaps were good
};

/// For a body of the vehicle that may be cut, and those that are in its way. Each face of the body is looked at; of the
/// pockets that can be made, the one that is shallowest for its section is taken. It leaves the wanted gap and the
/// measurements' accuracy over all movement (and until the mounts are final what welding may pull); what is left beside
/// it is no narrower than the book's land, else it runs out of that side. Plate and strap are those that bring the
/// section back, where any do.
/// Errors: no such body; it is marked "never", or not as one that may be cut; nothing is in its way; no face of it can
/// be cut for it, with the reason; the gaps do not come good.
Result<PocketProposed> proposedPocket(const study::Reports& reports, const model::RuleBook& book,
                                      const model::BodyId& body, const std::vector<model::BodyRef>& intruders,
                                      proximity::ColliderCache& cache, fit::GapMemo& memo, const StopToken& stop = {});

/// What of the donor (and of loose bodies) stands too near to a body of the vehicle, worst first.
std::vector<model::BodyRef> intrudersOf(const study::Reports& reports, const model::BodyId& body);

} // namespace gabarit::make

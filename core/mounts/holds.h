// Hold points: what is signed for each mount, whether it still holds, and what welding may pull until then.
#pragma once

#include "model/holds.h"
#include "model/project.h"
#include "mounts/section/mounts.h"

namespace gabarit::mounts {

struct MountsReport;

/// A step of a mount.
struct HoldReport : model::HoldState {
    std::string mount;
};

/// What a step of a mount is signed for now: placement, pad, stand, rubber, brackets; from the test fit on also every
/// body of the unit.
std::vector<model::HoldBasis> basisOf(const model::Project& project, const model::Mount& mount, model::Hold hold);
/// All five steps of every mount, in order. A step does not hold while one before it does not.
std::vector<HoldReport> holdsOf(const model::Project& project);
/// The book's weld pull while a mount with metal of its own (own bracket) is not fitted again after welding; 0 when all
/// are, and when there are no mounts.
double weldPull_mm(const model::Project& project, const model::RuleBook& book);

/// Signs a step with today's basis. Errors: no such mount; the step before it does not hold; "fitted again" without a
/// gap measured on the unit since the welding's date.
Result<model::Project> withSigned(const model::Project& project, const std::string& mount, model::Hold hold,
                                  const std::string& date, const std::string& who, const std::string& note);
/// Takes a step's signature back, and of all that follow it.
model::Project withoutSigned(const model::Project& project, const std::string& mount, model::Hold hold);

/// Two mounts that lie opposite one another, and whether one part serves both sides.
struct HandedPair {
    std::string left, right;
    bool same_part = false;
    std::string why; ///< "the hole pattern is not its own mirror image"
};
/// Mounts whose pads are mirror images in the vehicle's middle plane within the book's figure.
std::vector<HandedPair> handedOf(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::mounts

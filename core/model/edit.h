// Making, copying and taking out what a project is made of, with all that refers to it.
#pragma once

#include "model/project.h"

#include <functional>

namespace gabarit::model {

/// An id made from a name ("Front sump" → "front-sump") that `taken` does not hold; numbered when it must be.
std::string freshId(const std::string& name, const std::vector<std::string>& taken);
/// The same for many: `is_taken` is asked, and numbering goes on after `last` of that name.
std::string freshId(const std::string& name, const std::function<bool(const std::string&)>& is_taken, int* last);

/// The bodies of an owner (the vehicle, or a donor by id); null when there is no such owner.
std::vector<Body>* bodiesOf(Project& project, const std::string& owner);
const std::vector<Body>* bodiesOf(const Project& project, const std::string& owner);
/// What moves of an owner; null when there is no such owner.
std::vector<MotionSpec>* motionsOf(Project& project, const std::string& owner);
Donor* findDonor(Project& project, const DonorId& id);

/// Adds a body and gives it a fresh id, which is returned in `body`. Error when there is no such owner.
Result<Project> withBody(const Project& project, const std::string& owner, Body& body);
/// A copy named "… copy"; joined to what the first is joined to. `copy` receives its id.
Result<Project> withBodyCopied(const Project& project, const BodyRef& ref, BodyId& copy);
/// The mirror image in the owner's plane y = 0, under a name of its own; it follows the body until it is moved by hand
/// or unlinked. `image` receives its id.
Result<Project> withBodyMirrored(const Project& project, const BodyRef& ref, BodyId& image);
/// Without the body and without the joined pairs, measured gaps and serviced bolts that speak of it.
Project withoutBody(const Project& project, const BodyRef& ref);

/// The body under another name. An id that was made from its former name is made anew from this one, and what refers to
/// it follows; `id` receives the id it then has.
Project withBodyNamed(const Project& project, BodyRef ref, const std::string& name, BodyId& id);
/// The same for a donor.
Project withDonorNamed(const Project& project, DonorId ref, const std::string& name, DonorId& id);

/// Adds a donor; makes a placement for it when it has none, so that it hangs. Ids are made fresh.
Project withDonor(const Project& project, Donor donor);
/// Without the donor, its placements, and what speaks of its bodies.
Project withoutDonor(const Project& project, const DonorId& id);

/// A copy of the active placement under another name, made the active one.
Result<Project> withPlacementCopied(const Project& project, const std::string& name);
/// Without the placement and the gaps measured at it; the next one becomes active.
Project withoutPlacement(const Project& project, const PlacementId& id);
/// Takes an option of "owner/choice" in the active placement.
Project withOption(const Project& project, const std::string& choice, const std::string& option);

/// Adds a choice to a body: its present form becomes the first option, a copy of it the second, bound to `name`.
/// When the body already belongs to a choice another option is added. `copy` receives the new body's id.
Result<Project> withVariant(const Project& project, const BodyRef& ref, const std::string& name, BodyId& copy);

} // namespace gabarit::model

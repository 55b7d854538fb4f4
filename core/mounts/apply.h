// What is made, chosen and decided about mounts, carried out on the project as one step.
#pragma once

#include "mounts/bracket.h"
#include "mounts/section/mounts.h"
#include "mounts/tune.h"

namespace gabarit::mounts {

/// The mount of that id; null when there is none.
model::Mount* mountIn(model::Project& project, const std::string& id);

/// The bracket made: its pieces as bodies of the face's owner (what it was made as before goes), joined to one another
/// and to the metal that its face is on, and one entry in the list of parts with its mass. A part that is there already
/// keeps its state and cost. Errors: no such mount; it cannot be made.
Result<model::Project> withBracket(const model::Project& project, const model::RuleBook& book, const std::string& mount,
                                   Which which, const model::Bracket& bracket);
/// Without it, its bodies and its part.
Result<model::Project> withoutBracket(const model::Project& project, const std::string& mount, Which which);
/// Those that were made, made again where face and isolator are now. What cannot be made stays as it was.
model::Project withBracketsAgain(const model::Project& project, const model::RuleBook& book);

/// A proposal's mounts taken, and the brackets made again for them.
model::Project withProposal(const model::Project& project, const model::RuleBook& book, const Proposal& proposal);
/// One isolator for some mounts, and the brackets made again. Errors: no such mount.
Result<model::Project> withIsolator(const model::Project& project, const model::RuleBook& book,
                                    const std::vector<std::string>& mounts, const std::string& isolator);
/// Each mount's isolator in the list of parts, with mass, cost and place.
model::Project withIsolatorsListed(const model::Project& project, const model::RuleBook& book);

/// The face on another owner, where and as it stands: its place and directions as told in that one's frame; the point
/// it was at is the former owner's, and is left. Error: one of the two does not hang.
Result<model::MountFace> onOwner(const model::Project& project, const model::MountFace& face, const std::string& owner);

/// The mount's image on the other side of the vehicle, under a name of its own ("Left" becomes "Right"); its bracket is
/// not made yet. `image` receives its id. Error: no such mount, or its unit does not hang.
Result<model::Project> withMountMirrored(const model::Project& project, const std::string& mount, std::string& image);
/// Another way of making it taken; the present one takes its place among the options. Error: no such one.
Result<model::Project> withOption(const model::Project& project, const std::string& mount, std::size_t option);

/// The crossmember bolted where its report says: its mount's stand on its seat, and its body, if it has one, moved
/// along. Error: no such crossmember, or its place is not known.
Result<model::Project> withCrossmemberThere(const model::Project& project, const model::RuleBook& book,
                                            const std::string& crossmember);
/// A frame's members as bodies, and one part; without members of its own a ring from seat to seat. Errors: no such
/// frame, seats that are not there.
Result<model::Project> withFrameMade(const model::Project& project, const model::RuleBook& book,
                                     const std::string& frame);

/// An old mount stays, is planned to go (its body is out of the bay, to be taken back), or is gone. Errors: gone
/// without having been planned; anything after gone.
Result<model::Project> withOldMount(const model::Project& project, const std::string& id, model::OldState state,
                                    const std::string& date, const std::string& who);

} // namespace gabarit::mounts

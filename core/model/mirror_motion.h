// The other side's twin of something that moves.
#pragma once

#include "model/project.h"

namespace gabarit::model {

/// What moves on one side made for the other, across its owner's plane y = 0. A point or body that stands on the other
/// side already (by name, or at the mirrored place) is taken; one that does not is made. What the original does at left
/// lock its twin does at right lock. `image` receives the twin's id. Error for an axle, which has both sides, and when
/// there is no such entry.
Result<Project> withMotionMirrored(const Project& project, const std::string& owner, const std::string& id,
                                   std::string& image);

} // namespace gabarit::model

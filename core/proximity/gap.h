// The gap between two bodies: how far apart, where, and which way frees them.
#pragma once

#include "proximity/collider.h"
#include "proximity/nearest.h"
#include "quantity/stop.h"

#include <optional>

namespace gabarit::proximity {

enum class Contact {
    Beyond,  ///< farther apart than asked for
    Apart,   ///< a gap; 0 where they touch
    Overlap, ///< surfaces cut each other, or one body lies inside the other
};

/// What to ask of gap().
struct GapRequest {
    double range_mm = 60;    ///< gaps above it are not measured, > 0
    bool depth = true;       ///< search how deep an overlap is; else its gap is reported as 0 and not searched
    double deepest_mm = 400; ///< the search gives up there: "deeper than"
    /// A move that freed the pair a moment ago, from a neighbouring pose: the search starts there and looks only
    /// nearby. Quicker by far while the hand moves; the shortest way out may then be missed.
    std::optional<Eigen::Vector3d> hint;
    /// The triangles that were nearest when the same two bodies were asked for a neighbouring pose; taken and renewed.
    /// Quicker, and changes nothing. May be null.
    Witness* witness = nullptr;
    StopToken stop;
};

/// Points and directions are in the frame that both poses lead to.
struct Gap {
    Contact contact = Contact::Beyond;
    /// Smallest distance; an overlap's is negative, its estimated depth: the shortest move found that frees the pair.
    /// Beyond: the range, a lower bound.
    double gap_mm = 0;
    bool depth_found = false; ///< overlap: false means "deeper than −gap_mm", or not searched
    Eigen::Vector3d point_a{0, 0, 0};
    Eigen::Vector3d point_b{0, 0, 0}; ///< nearest points; for an overlap both lie in its middle
    /// Unit vector along which body A moves away from B; for an overlap: along which it comes free. Zero where they
    /// touch in a way that no side tells.
    Eigen::Vector3d away{0, 0, 0};
};

/// Signed gap of two closed bodies.
///
/// Distance by exact triangle distances (nearest.h). Overlap by exact triangle intersection (FCL), or containment by
/// winding number. Its depth is searched, not read off the deepest point: A is moved apart along many directions (axes,
/// diagonals, normals at the contact) and tested again, the shortest free move is refined. It is an upper bound of the
/// true depth; the move returned has been tested and is free. Bodies that a move of 0.02 mm parts do not overlap: they
/// touch, and their gap is 0. The search ends by its token, and after 20 000 tests: then the depth is not found.
Gap gap(const Collider& a, const Eigen::Isometry3d& pose_a, const Collider& b, const Eigen::Isometry3d& pose_b,
        const GapRequest& request);

/// A move of A, frame of the poses, that leaves at least `wanted_mm` between the two; tested, not extrapolated. Starts
/// along `found.away` and corrects by what the gap at the new place still lacks. Nothing when a few corrections do not
/// get there (a body caught in a hollow), or when the way out of an overlap was not found.
std::optional<Eigen::Vector3d> clearingMove(const Collider& a, const Eigen::Isometry3d& pose_a, const Collider& b,
                                            const Eigen::Isometry3d& pose_b, const Gap& found, double wanted_mm,
                                            const StopToken& stop = {});

/// True when the bodies share any point.
bool overlaps(const Collider& a, const Eigen::Isometry3d& pose_a, const Collider& b, const Eigen::Isometry3d& pose_b);

} // namespace gabarit::proximity

// The unit that goes in: an engine with its gearbox, or an electric drive unit.
#pragma once

#include "model/motion.h"
#include "quantity/once.h"
#include "quantity/result.h"

#include <optional>
#include <string>
#include <vector>

namespace gabarit::model {

/// How the unit lies before the pose's angles turn it.
enum class Orientation {
    Lengthways,      ///< crank rearward
    Turned,          ///< crank forward (mid and rear engines turned round)
    TransverseLeft,  ///< crank's rear end to the vehicle's left
    TransverseRight, ///< crank's rear end to the vehicle's right
};

/// A lump of the donor's mass, donor frame. Missing mass makes the axle loads unknown.
struct Mass {
    std::string name;
    std::optional<double> mass_kg;
    Eigen::Vector3d at_mm{0, 0, 0};
    std::string option; ///< as Body::option
    bool off = false;   ///< not counted for the moment
    MassFrom from = MassFrom::NotSaid;
    Extras extras;
};

/// What the unit is turned about, as on a jack.
enum class Pivot { FrontMounts, GearboxMount, BlockFace, CentreOfGravity };

/// Donor frame: origin where the crank axis pierces the block's rear face, x' rearward along the crank, y' right,
/// z' up with the engine upright.
struct Donor {
    DonorId id;
    std::string name;
    std::string note;
    Orientation orientation = Orientation::Lengthways;
    std::vector<Body> bodies;
    std::vector<HardPoint> reference_points;
    std::vector<Mass> masses;
    std::vector<ServicedBolt> serviced;
    std::vector<Choice> choices;
    std::vector<MotionSpec> motions; ///< what spins
    Extras extras;

    GABARIT_ONCE_DECLARED(Donor);
};

struct CentreOfMass {
    double mass_kg = 0;
    Eigen::Vector3d at_mm{0, 0, 0};
};

/// Sum and centre of the donor's masses, donor frame. Error when a mass is missing or the sum is not above zero.
Result<CentreOfMass> centreOfMass(const Donor& donor);

/// Mean of the reference points with this role, donor frame; nothing when there is none.
std::optional<Eigen::Vector3d> meanPoint(const Donor& donor, const std::string& role);

/// Where a pivot lies, donor frame. Error (with what to add) when the donor lacks the points or masses it needs.
Result<Eigen::Vector3d> pivotDonor_mm(const Donor& donor, Pivot pivot);

/// Turn from the donor frame as lying in `orientation` to the unturned vehicle frame.
Eigen::Matrix3d rotation(Orientation orientation);

} // namespace gabarit::model

// The section "parts": what is needed, bought, made and sold, put on and taken off.
#pragma once

#include "model/project.h"

namespace gabarit::model {

enum class PartState { Needed, Ordered, Here, TestFitted, Fitted, ToReturn, Sold };
enum class OnCar { No, On, Off }; ///< does it change the weight: put on, taken off, or neither

struct Part {
    PartId id;
    std::string name;
    std::string why;
    std::string source; ///< "donor vehicle", "breaker", "shop", "own stock", "made"
    PartState state = PartState::Needed;
    std::optional<double> cost; ///< in the project's currency; of a sold part: what it brings
    OnCar on_car = OnCar::No;
    std::optional<double> mass_kg;
    MassFrom mass_from = MassFrom::NotSaid;
    std::optional<Eigen::Vector3d> at_mm; ///< centre of gravity
    std::string body;                     ///< "owner/body": it sits in the middle of that one; at_mm is not asked then
    bool rides_on_donor = false;          ///< at_mm is in the active donor's frame and follows the pose
    std::vector<PartId> needs;
    std::string option; ///< "donor/sump/rear": counts only while that option is taken; empty: always
    std::optional<Eigen::Vector3d> size_mm; ///< outside, any order: what room it needs
    std::string home;                       ///< a free volume's id; empty: none
    std::string note;
    Extras extras;
};

using Parts = std::vector<Part>;

const describe::Words& words(PartState);
const describe::Words& words(OnCar);
void describe(describe::Visitor& v, Part& part);

/// All of a project; none when it is not asked for.
const Parts& partsOf(const Project& project);

/// Whether it counts: it has no option, or the active placement takes it.
bool isTaken(const Project& project, const Part& part);
/// Whether a part hangs with the donor: it says so, or its body is a donor's.
bool ridesOnDonor(const Part& part);
/// Where a part's centre of gravity is, vehicle frame: the middle of its body's extents, or its own place. Nothing
/// when neither is given, its body is not there, or it rides on a donor that does not hang.
std::optional<Eigen::Vector3d> placeVehicle_mm(const Project& project, const Part& part);

} // namespace gabarit::model

namespace gabarit::parts {

model::SectionKind section();

} // namespace gabarit::parts

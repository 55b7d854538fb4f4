#include "model/project.h"

#include "describe/walks.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Project);
GABARIT_ONCE_DEFINED(Vehicle);

namespace {

template <class Items, class Match>
auto* findIf(Items& items, Match match) {
    const auto found = std::find_if(items.begin(), items.end(), match);
    return found == items.end() ? nullptr : &*found;
}

template <class ProjectT>
auto* active(ProjectT& project) {
    auto* named = findIf(project.placements, [&](const Placement& p) { return p.id == project.active_placement; });
    if (!named && !project.placements.empty()) named = &project.placements.front();
    return named;
}

template <class ProjectT>
auto bodyIn(ProjectT& project, const BodyRef& ref) -> decltype(&project.vehicle->bodies[0]) {
    const auto match = [&ref](const Body& body) { return body.id == ref.body; };
    if (ref.inVehicle()) return project.vehicle ? findIf(project.vehicle->bodies, match) : nullptr;
    auto* donor = findIf(project.donors, [&ref](const Donor& d) { return d.id.text == ref.owner; });
    return donor ? findIf(donor->bodies, match) : nullptr;
}

/// Gives a donor what is of a donor and does not say of which.
class Claim : public describe::Walker {
public:
    explicit Claim(std::string donor) : donor_(std::move(donor)) {}
    void onText(const describe::Member& m, std::string& value) override {
        if (m.target == describe::Target::Donor && value.empty()) value = donor_;
    }

private:
    std::string donor_;
};

} // namespace

const Placement* activePlacement(const Project& project) { return active(project); }
Placement* activePlacement(Project& project) { return active(project); }

const Donor* findDonor(const Project& project, const DonorId& id) {
    return findIf(project.donors, [&id](const Donor& d) { return d.id == id; });
}

const Donor* activeDonor(const Project& project) {
    const Placement* placement = activePlacement(project);
    return placement ? findDonor(project, placement->donor) : nullptr;
}

const Body* findBody(const Project& project, const BodyRef& ref) { return bodyIn(project, ref); }
Body* findBody(Project& project, const BodyRef& ref) { return bodyIn(project, ref); }

Whose whose(const Project& project, const std::string& donor) {
    const Donor* hangs = activeDonor(project);
    if (donor.empty()) return project.donors.size() > 1 ? Whose::NotSaid : Whose::Hangs;
    return !hangs || hangs->id.text == donor ? Whose::Hangs : Whose::Another;
}

const std::vector<Choice>* choicesOf(const Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->choices : nullptr;
    const Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->choices : nullptr;
}

std::string takenOption(const Project& project, const Placement* placement, const std::string& owner,
                        const std::string& choiceId) {
    const auto* choices = choicesOf(project, owner);
    const Choice* choice = choices ? findIf(*choices, [&](const Choice& c) { return c.id == choiceId; }) : nullptr;
    if (!choice || choice->options.empty()) return {};
    if (placement)
        for (const Taken& taken : placement->taken)
            if (taken.choice == owner + "/" + choiceId) return taken.option;
    return choice->options.front().id;
}

bool isTaken(const Project& project, const std::string& owner, const std::string& option) {
    if (option.empty()) return true;
    const auto slash = option.find('/');
    return takenOption(project, activePlacement(project), owner, option.substr(0, slash)) ==
           option.substr(std::min(slash, option.size() - 1) + 1);
}

bool isTaken(const Project& project, const std::string& owner_choice_option) {
    const auto slash = owner_choice_option.find('/');
    if (slash == std::string::npos) return true;
    return isTaken(project, owner_choice_option.substr(0, slash), owner_choice_option.substr(slash + 1));
}

bool stands(const Project& project, const std::string& owner, const Body& body) {
    return body.present() && isTaken(project, owner, body.option);
}

bool isAlternative(const Project& project, const std::string& owner, const Body& body) {
    const auto slash = body.option.find('/');
    if (slash == std::string::npos) return false;
    const auto* choices = choicesOf(project, owner);
    if (!choices) return false;
    for (const Choice& choice : *choices)
        if (choice.id == body.option.substr(0, slash))
            return !choice.options.empty() && choice.options.front().id != body.option.substr(slash + 1);
    return false;
}

std::optional<Donor> hangingDonor(const Project& project) {
    const Donor* donor = activeDonor(project);
    if (!donor) return std::nullopt;
    Donor out = *donor;
    const auto keepTaken = [&](auto& items) {
        const auto left = [&](const auto& item) { return !isTaken(project, donor->id.text, item.option); };
        items.erase(std::remove_if(items.begin(), items.end(), left), items.end());
    };
    keepTaken(out.masses);
    out.masses.erase(std::remove_if(out.masses.begin(), out.masses.end(), [](const Mass& m) { return m.off; }),
                     out.masses.end());
    keepTaken(out.reference_points);
    return out;
}

Eigen::Matrix3d rotationVehicleOwner(const Project& project, const std::string& owner) {
    const Placement* placement = activePlacement(project);
    const Donor* donor = activeDonor(project);
    if (owner == vehicle_owner || !placement || !donor || donor->id.text != owner) return Eigen::Matrix3d::Identity();
    return poseVehicleDonor(*placement, *donor).linear();
}

Result<Project> withBodyMoved(const Project& project, const BodyRef& ref, const Eigen::Vector3d& by_vehicle_mm) {
    constexpr double back_home_mm = 1e-9; // arithmetic dust: it stands where it was found
    Project out = project;
    Body* body = findBody(out, ref);
    if (!body) return Error{"there is no such body", ref.text(), "choose another"};
    if (!body->may.be_moved)
        return Error{"it is not marked as one that may be moved", body->name, "mark it, or choose another"};
    body->shift_mm += rotationVehicleOwner(project, ref.owner).transpose() * by_vehicle_mm;
    if (body->shift_mm.norm() < back_home_mm) body->shift_mm.setZero();
    return out;
}

const Joined* joinedPair(const Project& project, const BodyRef& a, const BodyRef& b) {
    return findIf(project.joined, [&](const Joined& j) { return (j.a == a && j.b == b) || (j.a == b && j.b == a); });
}

Result<Project> hung(const Project& project, Donor donor) {
    if (!project.vehicle) return Error{"there is no vehicle to hang it in", project.name, "survey a vehicle first"};
    Project out = project;
    // What belonged to the only donor still does.
    if (const std::string only = out.donors.size() == 1 ? out.donors.front().id.text : std::string(); !only.empty()) {
        Claim claim(only);
        for (const SectionKind& kind : sectionKinds()) kind.describe(claim, kind, out.sections, false);
    }
    const std::string wish = donor.id.text;
    for (int n = 2; donor.id.text == vehicle_owner || findDonor(out, donor.id); ++n)
        donor.id.text = wish + "-" + std::to_string(n);
    Placement placement;
    if (const Placement* active = activePlacement(project)) {
        placement.position_mm = active->position_mm;
        placement.angles = active->angles;
    }
    placement.donor = donor.id;
    placement.name = donor.name + ", first try";
    const auto taken = [&out](const std::string& id) {
        return std::any_of(out.placements.begin(), out.placements.end(),
                           [&id](const Placement& p) { return p.id.text == id; });
    };
    placement.id.text = donor.id.text + "-first-try";
    for (int n = 2; taken(placement.id.text); ++n)
        placement.id.text = donor.id.text + "-first-try-" + std::to_string(n);
    out.active_placement = placement.id;
    out.donors.push_back(std::move(donor));
    out.placements.push_back(std::move(placement));
    return out;
}

const char* sideWord(const Project& project, bool towardsPositiveY) {
    const bool driverIsRight = project.vehicle && project.vehicle->drive_side == DriveSide::Right;
    return towardsPositiveY == driverIsRight ? "to the driver's side" : "to the passenger's side";
}

std::string sided(const Project& project, std::string words, const std::string& owner) {
    const bool driver_right = project.vehicle && project.vehicle->drive_side == DriveSide::Right;
    const bool by_itself = findDonor(project, DonorId{owner}) != nullptr;
    for (const bool right : {false, true}) {
        const std::string own = right ? "right" : "left";
        const std::pair<std::string, std::string> names[] = {
            {"{" + own + "}", by_itself               ? own
                              : right == driver_right ? "driver's"
                                                      : "passenger's"},
            {"{to_" + own + "}", by_itself ? "to its " + own : sideWord(project, right)}};
        for (const auto& [mark, name] : names)
            for (auto at = words.find(mark); at != std::string::npos; at = words.find(mark)) {
                words.replace(at, mark.size(), name);
                if (at == 0) words[0] = static_cast<char>(words[0] - 'a' + 'A');
            }
    }
    return words;
}

std::string moveWords(const Project& project, const Eigen::Vector3d& move, quantity::Shown shown) {
    constexpr double smallest_leg_mm = 0.25; // less than a jack can be set to
    struct Leg {
        double length_mm;
        std::string way;
    };
    std::array<Leg, 3> legs{{{std::abs(move.x()), move.x() > 0 ? "rearward" : "forward"},
                             {std::abs(move.y()), sideWord(project, move.y() > 0)},
                             {std::abs(move.z()), move.z() > 0 ? "up" : "down"}}};
    std::sort(legs.begin(), legs.end(), [](const Leg& a, const Leg& b) { return a.length_mm > b.length_mm; });
    const auto grain = [&shown]() -> double {
        switch (shown.length) {
        case quantity::LengthStyle::Millimetres: return 1;
        case quantity::LengthStyle::DecimalInches: return quantity::mm_per_inch / 100;
        case quantity::LengthStyle::Sixteenths: return quantity::mm_per_inch / 16;
        case quantity::LengthStyle::ThirtySeconds: break;
        }
        return quantity::mm_per_inch / 32;
    };
    const double grain_mm = grain();
    std::string words;
    for (const Leg& leg : legs) {
        if (leg.length_mm < smallest_leg_mm) continue;
        const double enough_mm = std::ceil(leg.length_mm / grain_mm - 1e-6) * grain_mm;
        words += (words.empty() ? "" : " and ") + quantity::lengthText(enough_mm, shown, 0) + " " + leg.way;
    }
    return words;
}

} // namespace gabarit::model

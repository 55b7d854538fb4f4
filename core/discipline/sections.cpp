#include "discipline/sections.h"

#include "describe/walks.h"
#include "model/describe.h"

#include <algorithm>
#include <stdexcept>

namespace gabarit::discipline {
namespace {

using model::Placement;
using model::Project;

/// The one placement of a project that holds no other.
Placement& itsPlacement(Project& to) {
    if (to.placements.empty()) to.placements.emplace_back();
    return to.placements.front();
}

void takePlacement(const Project& from, Project& to) {
    const Placement* active = model::activePlacement(from);
    if (!active) return;
    Placement& its = itsPlacement(to);
    Placement taken = *active;
    taken.position_mm = its.position_mm;
    taken.angles = its.angles;
    taken.orientation = its.orientation;
    its = std::move(taken);
    to.active_placement = its.id;
}

void takePose(const Project& from, Project& to) {
    const Placement* active = model::activePlacement(from);
    if (!active) return;
    Placement& its = itsPlacement(to);
    its.position_mm = active->position_mm;
    its.angles = active->angles;
    its.orientation = active->orientation;
}

/// A section that is the model's.
struct Section {
    const char* name;
    void (*take)(const Project& from, Project& to);
};

constexpr Section shared[] = {
    {"vehicle", [](const Project& from, Project& to) { to.vehicle = from.vehicle; }},
    {"donors", [](const Project& from, Project& to) { to.donors = from.donors; }},
    {"placement", takePlacement},
    {"pose", takePose},
    {"joined", [](const Project& from, Project& to) { to.joined = from.joined; }},
    {"measured", [](const Project& from, Project& to) { to.measured = from.measured; }},
    {"conditions", [](const Project& from, Project& to) { to.conditions = from.conditions; }},
    {"unknown", [](const Project& from, Project& to) { to.extras = from.extras; }},
};

/// Takes the section of that place in sectionNames().
void take(std::size_t place, const Project& from, Project& to) {
    if (place < std::size(shared)) return shared[place].take(from, to);
    to.sections.take(model::sectionKinds()[place - std::size(shared)].type, from.sections);
}

std::size_t placeOf(const std::string& name) {
    const auto& names = sectionNames();
    const auto found = std::find(names.begin(), names.end(), name);
    if (found == names.end()) throw std::logic_error("there is no section \"" + name + "\" that could be read");
    return static_cast<std::size_t>(found - names.begin());
}

} // namespace

const std::vector<std::string>& sectionNames() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> out;
        for (const Section& section : shared) out.emplace_back(section.name);
        for (const model::SectionKind& kind : model::sectionKinds()) out.emplace_back(kind.key);
        return out;
    }();
    return names;
}

Project only(const Project& project, const std::vector<std::string>& names) {
    Project out;
    out.rules = project.rules;
    for (const std::string& name : names) take(placeOf(name), project, out);
    return out;
}

SectionMarks::SectionMarks(const Project& project) : rules_(describe::markOf(project.rules)) {
    for (std::size_t place = 0; place < sectionNames().size(); ++place) {
        Project its;
        take(place, project, its);
        marks_.push_back(describe::markOf(its));
    }
}

std::uint64_t SectionMarks::of(const std::vector<std::string>& names) const {
    std::uint64_t out = rules_;
    for (const std::string& name : names) out = mixed(out, marks_[placeOf(name)]);
    return out;
}

std::uint64_t mixed(std::uint64_t a, std::uint64_t b) {
    constexpr std::uint64_t golden = 0x9e3779b97f4a7c15ull; // spreads neighbours (Knuth, TAOCP 3, 6.4)
    return (a ^ (b + golden + (a << 6) + (a >> 2))) * 1099511628211ull;
}

} // namespace gabarit::discipline

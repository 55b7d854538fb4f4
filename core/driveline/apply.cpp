#include "driveline/apply.h"

#include "driveline/section/driveline.h"
#include "model/placement.h"

#include <algorithm>
#include <cmath>

namespace gabarit::driveline {
namespace {

constexpr int most_rounds = 8;
constexpr double settled_deg = 1e-6;

/// A line of the project; an error when it has none of that id.
Result<model::ShaftLine*> lineIn(model::Project& project, const std::string& id) {
    if (auto* driveline = project.sections.own<model::Driveline>())
        for (model::ShaftLine& line : driveline->lines)
            if (line.id == id) return &line;
    return Error{"there is no line \"" + id + "\"", "driveline", "name one of its lines"};
}

struct Hung {
    model::Placement* placement;
    model::Donor donor;
};
Result<Hung> hung(model::Project& project) {
    model::Placement* placement = model::activePlacement(project);
    std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) return Error{"no unit hangs in a placement", project.name, "choose or make a placement"};
    return Hung{placement, std::move(*donor)};
}

} // namespace

Result<model::Project> withCure(const model::Project& project, const std::string& line, const Cure& cure) {
    model::Project changed = project;
    const auto its = lineIn(changed, line);
    if (!its) return its.error();
    switch (cure.kind) {
    case Cure::Kind::Phase:
        if (cure.shaft >= its.value()->shafts.size())
            return Error{"it has no shaft " + std::to_string(cure.shaft + 1), its.value()->name, "judge it again"};
        its.value()->shafts[cure.shaft].phase_deg = cure.amount_deg;
        return changed;
    case Cure::Kind::PinionNose: its.value()->path.shim_deg += cure.amount_deg; return changed;
    case Cure::Kind::UnitTail:
    case Cure::Kind::UnitHeight: break;
    }
    auto unit = hung(changed);
    if (!unit) return unit.error();
    model::Placement& placement = *unit.value().placement;
    if (cure.kind == Cure::Kind::UnitHeight) {
        placement = model::shifted(placement, {0, 0, cure.mount_mm});
        return changed;
    }
    model::Placement about = placement;
    about.pivot = model::Pivot::FrontMounts; // the gearbox mount is what is shimmed
    auto turned = model::turned(about, unit.value().donor, model::Turn::Tail, -cure.amount_deg);
    if (!turned) return turned.error();
    turned.value().pivot = placement.pivot;
    placement = turned.value();
    return changed;
}

Result<model::Project> withUnitOnward(const model::Project& project, const LineReport& line, double onward_mm) {
    model::Project changed = project;
    auto unit = hung(changed);
    if (!unit) return unit.error();
    *unit.value().placement = model::shifted(*unit.value().placement, line.runs * onward_mm);
    return changed;
}

Result<model::Project> withReadingTaken(const model::Project& project, const std::string& reading) {
    model::Project changed = project;
    const model::AngleReading* read = nullptr;
    if (const auto* driveline = project.sections.get<model::Driveline>())
        for (const model::AngleReading& r : driveline->readings)
            if (r.id == reading) read = &r;
    if (!read) return Error{"there is no reading \"" + reading + "\"", "driveline", "name one of its readings"};
    const std::string where = "the angle read on " + read->place;
    if (!read->slope_deg)
        return Error{"the vehicle's slope at that time is not given", where, "a gauge reads against level: give it"};
    const double wanted_deg = read->reading_deg - *read->slope_deg;
    const auto its = lineIn(changed, read->line);
    if (!its) return Error{"it speaks of no line's flange", where, "choose the line"};
    model::ShaftLine& line = *its.value();
    model::FlangePlace& flange = read->at_far_end ? line.to : line.from;
    const bool lengthways = line.run == model::Run::Rearward || line.run == model::Run::Forward;
    const bool on_unit = flange.owner != model::vehicle_owner;
    if (on_unit && !lengthways)
        return Error{"its flange lies across the vehicle", where, "turn the unit under Place, or give the flange"};
    for (int round = 0; round < most_rounds; ++round) {
        const auto geometry = LineGeometry::make(changed, line);
        if (!geometry) return geometry.error();
        const double off = wanted_deg - flangeFalls_deg(geometry.value().at({}).value(), read->at_far_end);
        if (std::abs(off) < settled_deg) break;
        if (on_unit) {
            auto unit = hung(changed);
            if (!unit) return unit.error();
            auto turned = model::turned(*unit.value().placement, unit.value().donor, model::Turn::Tail, off);
            if (!turned) return turned.error();
            *unit.value().placement = turned.value();
        } else {
            flange.down_deg += line.run == model::Run::Forward ? -off : off;
        }
    }
    return changed;
}

} // namespace gabarit::driveline

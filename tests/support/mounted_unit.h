// A unit on three mounts that can be reckoned by hand, and what its report says.
#pragma once

#include "gearing/section/gearing.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "store/rule_book.h"

#include <QtGlobal>

#include <algorithm>

namespace gabarit::tests {

using mounts::LoadCase;
using mounts::MountsReport;

inline model::Isolator rubber(double axial, double shear) {
    model::Isolator s;
    s.id = "own";
    s.name = "Own";
    s.material = "rubber";
    s.axial_n_per_mm = axial;
    s.shear_n_per_mm = shear;
    s.captive = true;
    s.stop_in_mm = 15;
    s.stop_out_mm = 10;
    s.stop_side_mm = 12;
    s.rating_n = 1500;
    return s;
}
/// 160 kg at x 500, z 600; engine mounts 250 ahead of it and 200 to each side, gearbox mount 500 behind; all at z 500.
inline model::Project mountedUnit() {
    model::Project p;
    p.vehicle.emplace();
    model::Donor donor;
    donor.id.text = "unit";
    donor.masses = {{"Unit", 160, {0, 0, 0}, "", false, {}, {}}};
    p.donors = {donor};
    model::Placement placement;
    placement.id.text = "p";
    placement.donor.text = "unit";
    placement.position_mm = {500, 0, 600};
    p.placements = {placement};
    p.sections.edit<model::Mounts>();
    p.sections.edit<model::Mounts>().inertia = model::Inertia{{5, 12, 11}, {0, 0, 0}, "made up", {}};
    p.sections.edit<model::Mounts>().isolators = {rubber(250, 90)};
    const auto mount = [&](const char* id, const Eigen::Vector3d& at, model::MountAt where) {
        model::Mount m;
        m.id = m.name = id;
        m.at = where;
        m.pad.owner = "unit";
        m.pad.at_mm = at - placement.position_mm;
        m.centre_mm = at;
        m.isolator = "own";
        p.sections.edit<model::Mounts>().mounts.push_back(m);
    };
    mount("left", {250, -200, 500}, model::MountAt::Engine);
    mount("right", {250, 200, 500}, model::MountAt::Engine);
    mount("rear", {1000, 0, 500}, model::MountAt::Gearbox);
    p.sections.edit<model::Mounts>().running = model::Running{};
    p.sections.edit<model::Mounts>().running->cylinders = 4;
    p.sections.edit<model::Mounts>().running->idle_rpm = 800;
    p.sections.edit<model::Gearing>();
    p.sections.edit<model::Gearing>().gears = {{"1", 4, false, {}}, {"2", 2, false, {}}, {"R", 3.5, true, {}}};
    p.sections.edit<model::Gearing>().torque = {{3000, 200, {}}};
    return p;
}
inline MountsReport judged(const model::Project& p, std::optional<double> driven_kg = std::nullopt) {
    return *mounts::judgeMounts(p, store::defaultRuleBook(), {driven_kg});
}
inline const LoadCase& load(const MountsReport& r, const char* id) {
    for (const LoadCase& c : r.cases)
        if (c.id == id) return c;
    static const LoadCase none;
    qWarning("no case %s", id);
    return none;
}
inline const model::Check& check(const MountsReport& r, const char* id) {
    for (const model::Check& c : r.checks)
        if (c.id == id) return c;
    static const model::Check none;
    qWarning("no check %s", id);
    return none;
}
inline bool has(const MountsReport& r, const char* id) {
    return std::any_of(r.checks.begin(), r.checks.end(), [&](const model::Check& c) { return c.id == id; });
}

/// The left mount with its pad 300 above the rubber's middle and its face down, on a stand 100 below it.
inline model::Project withBrackets() {
    model::Project p = mountedUnit();
    p.sections.edit<model::Mounts>().isolators[0].height_mm = 40;
    p.sections.edit<model::Mounts>().isolators[0].diameter_mm = 60;
    model::Mount& left = p.sections.edit<model::Mounts>().mounts[0];
    left.pad.at_mm = Eigen::Vector3d(250, -200, 820) - Eigen::Vector3d(500, 0, 600);
    left.pad.out = {0, 0, -1};
    left.stand.emplace();
    left.stand->at_mm = {250, -200, 380};
    left.bracket.emplace();
    left.tower.emplace();
    for (model::Bracket* b : {&*left.bracket, &*left.tower}) {
        b->tube_mm = 50;
        b->wall_mm = 4;
        b->plate_mm = 8;
        b->gusset_mm = 0;
        b->throat_mm = 3;
        b->yield_mpa = 235;
    }
    return p;
}
} // namespace gabarit::tests

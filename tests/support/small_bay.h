// A bay whose gaps are known by hand: a crossmember at z 0…80, a rail beside it, and a donor whose sump stands 20 mm
// above the crossmember.
#pragma once

#include "fit/clearance.h"
#include "placed/scene.h"
#include "store/rule_book.h"

namespace gabarit::tests {

inline model::Body box(const char* id, const char* category, const Eigen::Vector3d& size, const Eigen::Vector3d& place,
                       std::optional<double> accuracy = 2) {
    model::Body b;
    b.id.text = id;
    b.name = id;
    b.category = category;
    b.shape = model::BoxSpec{size};
    b.position_mm = place;
    b.accuracy_mm = accuracy;
    return b;
}

/// A unit of these bodies, hung as it lies, among these of the vehicle.
inline model::Project bayOf(std::vector<model::Body> standing, std::vector<model::Body> unit) {
    model::Project p;
    p.name = "small";
    p.vehicle.emplace();
    p.vehicle->name = "V";
    p.vehicle->bodies = std::move(standing);
    model::Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.bodies = std::move(unit);
    p.donors = {donor};
    model::Placement placement;
    placement.id.text = "p";
    placement.name = "P";
    placement.donor.text = "unit";
    p.placements = {placement};
    return p;
}

inline model::Project smallBay() {
    return bayOf({box("crossmember", "crossmember", {100, 600, 80}, {0, 0, 40}),
                  box("rail", "frame", {2000, 60, 80}, {0, 330, 40})},
                 {box("sump", "sump", {200, 200, 100}, {0, 0, 150}, 1)});
}

/// A project's bay, measured.
struct Bay {
    explicit Bay(const model::Project& p)
        : project(p), book(model::applied(store::defaultRuleBook(), p.rules)), scene(placed::makeScene(p, cache)),
          clearance(fit::clearance(p, scene, book, nullptr, {})) {}

    const fit::PairGap* pair(const std::string& a, const std::string& b) const {
        for (const fit::PairGap& g : clearance.pairs)
            if ((g.a.text() == a && g.b.text() == b) || (g.a.text() == b && g.b.text() == a)) return &g;
        return nullptr;
    }

    model::Project project;
    model::RuleBook book;
    proximity::ColliderCache cache;
    placed::Scene scene;
    fit::ClearanceReport clearance;
};

} // namespace gabarit::tests

#include "clutch/discipline.h"
#include "gearing/section/gearing.h"

#include <algorithm>

namespace gabarit::clutch {
namespace {

/// The engine's most: its own, else the highest that the gearing has.
std::optional<double> torque_nm(const model::Project& project, const Clutch& clutch) {
    std::optional<double> most = clutch.torque_nm;
    const model::Gearing* gearing = model::gearingOf(project);
    if (!most && gearing)
        for (const model::TorquePoint& point : gearing->torque) most = std::max(most.value_or(0), point.torque_nm);
    return most;
}

class ClutchHolds : public discipline::Discipline {
public:
    ClutchHolds()
        : Discipline(discipline::Card("clutch")
                         .prints("whether the clutch holds the engine's torque")
                         .at(45)
                         .in(discipline::Group::HoldAndDrive)
                         .reading({"donors", "placement", "gearing", "clutch"})) {}

    discipline::Report judge(const discipline::Given& given) const override {
        discipline::Report report;
        const auto* clutch = given.project->sections.get<Clutch>();
        if (!clutch) return report; // not asked
        const auto holds = holds_nm(*clutch, clutch->friction.value_or(given.book.figure("clutch_friction")));
        const auto torque = torque_nm(*given.project, *clutch);

        model::Check check;
        check.id = "reserve";
        check.what = "Clutch, of the engine's torque";
        check.unit = model::Unit::Share;
        if (holds && torque && *torque > 0) check.value = *holds / *torque;
        check.good_least = given.book.figure("clutch_reserve");
        check.least = 1; // below it slips at full torque
        if (check.value) check.accuracy = *check.value * given.book.figure("clutch_off_by");
        check.rule = model::ruleOf(given.book, "clutch_reserve");
        if (!holds) check.reason = "its lining or its clamp is not known";
        if (!torque) check.reason = "the engine's torque is not known";
        check.caution = model::cautionAbout(given.book, "clutch/slip");
        check.help = [](const quantity::Shown&) {
            return std::string("A cover that presses harder, a lining of more friction, or a larger disc.");
        };
        model::judge(check);
        report.hold(std::move(check));
        report.dials.push_back({"clutch", "Clutch", 0, "of the engine's torque"});
        return report;
    }
};

} // namespace

std::optional<double> holds_nm(const Clutch& clutch, double friction) {
    if (!clutch.outer_mm || !clutch.inner_mm || !clutch.clamp_n || *clutch.inner_mm >= *clutch.outer_mm)
        return std::nullopt;
    constexpr double mm_per_m = 1000;
    return clutch.faces * friction * *clutch.clamp_n * (*clutch.outer_mm + *clutch.inner_mm) / 4 / mm_per_m;
}

const discipline::Discipline& discipline() {
    static const ClutchHolds clutch;
    return clutch;
}

} // namespace gabarit::clutch

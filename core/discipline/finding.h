// What a discipline says to the build, the same for all: findings and the figures of the strip.
#pragma once

#include "kinematics/motion.h"
#include "model/body.h"
#include "model/check.h"
#include "model/placement.h"
#include "quantity/once.h"

#include <Eigen/Core>

#include <optional>
#include <string>

namespace gabarit::discipline {

/// The best single move, in words, and where the donor then stands.
struct WayOut {
    std::string words; ///< "31 mm up"
    model::Placement placement;
    int no_go_before = 0; ///< gaps that are no-go as it stands
    int no_go_after = 0;  ///< and there
};

/// What a discipline's checks are about: each is one gauge of the strip, in the order of the work.
enum class Group { Gaps, HoldAndDrive, Routes, Loads, Money, Time };
constexpr Group all_groups[] = {Group::Gaps,  Group::HoldAndDrive, Group::Routes,
                                Group::Loads, Group::Money,        Group::Time};
/// "Gaps", "Hold and drive".
const char* groupName(Group group);

/// A value held against what is wanted, as a row shows it.
struct Held {
    std::string value;  ///< "−18.2 mm", "> 60 mm", "not known"
    std::string wanted; ///< "10 mm", "0.50° to 3.00°"; empty when nothing is
    /// What is left, by the size of what is wanted: 0 is just as wanted, −1 a whole one short; nothing when there is no
    /// figure.
    std::optional<double> margin;
    double doubt = 0; ///< on either side of the margin, on the same scale
};

/// Something that was held against something: what holds up the build in whole sentences, what is good by its figure.
struct Finding {
    std::string id;             ///< stays the same while the pair or figure is the same
    bool holds_cutting = false; ///< it holds up cutting, not the verdict: "go; do not cut yet"
    std::string discipline;     ///< "clearance", "driveline": whose it is
    Group group = Group::Gaps;  ///< its discipline's
    int number = 0;             ///< the same on callout, card, page and sheet: from 1, the worst first; 0: it is good
    model::Verdict verdict = model::Verdict::Unknown;
    std::string what; ///< what it is of, in a few words: "Front sump to front crossmember"; empty: its title says it
    Held held;
    std::string title;   ///< "Front sump fouls the front crossmember"
    std::string detail;  ///< by how much, and what is wanted
    std::string help;    ///< what would help; may be empty
    std::string rule;    ///< what it is held against, with its source
    std::string caution; ///< what can hurt someone there; may be empty
    std::string label;   ///< a few words for the callout at its place: "front sump −18 mm"
    std::optional<Eigen::Vector3d> place_vehicle_mm;
    std::optional<kinematics::State> state; ///< of the movement, when it happens away from rest
    std::optional<model::BodyRef> a;
    std::optional<model::BodyRef> b;
    /// The move of body a's owner that this finding alone would need, vehicle frame.
    std::optional<Eigen::Vector3d> move_vehicle_mm;
    /// The best single move on the jack, once it was looked for: where the donor then stands.
    std::optional<WayOut> way_out;

    GABARIT_ONCE_DECLARED(Finding);
};

/// One figure of the strip that answers "does it fit?".
struct Gauge {
    std::string id;
    std::string discipline; ///< whose it is, by id
    std::string name;       ///< "Tightest gap"
    std::string value;      ///< "−18.2 mm", "> 60 mm", "not known"
    std::string limit;      ///< "wanted 10 mm"
    std::string subject;    ///< which part
    model::Verdict verdict = model::Verdict::Unknown;
    /// Where the pointer stands between 0 and 1 with the limit at one half; nothing when there is no figure.
    std::optional<double> pointer;
    std::string finding; ///< the finding it leads to, if any
    /// The value as a number where it has one: mm, kg or currency.
    std::optional<double> figure;
};

} // namespace gabarit::discipline

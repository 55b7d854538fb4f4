// Pockets, tubes and plates of a project, judged: what is left of the section, what to mind, what to cut.
#pragma once

#include "model/check.h"
#include "model/holds.h"
#include "model/project.h"
#include "quantity/once.h"
#include "quantity/recent_cache.h"
#include "relief/cope.h"
#include "relief/pattern_plate.h"
#include "relief/section.h"
#include "relief/section/relief.h"

#include <memory>

namespace gabarit::relief {

/// The section at one place along a pocket's length, from the middle of its mouth.
struct Station {
    double along_mm = 0;
    Section before, cut, closed; ///< as it was, with the metal out, with the plates in
};
/// The least of one moment or modulus, of what it was.
struct Weakest {
    double share = 1;
    double along_mm = 0;
    std::string what; ///< "modulus at the top"
};

/// Plate, and a strap on the far face (0: none), of its material: the least thickness of both together.
struct Restoring {
    double plate_mm = 0, strap_mm = 0;
};

/// How far the cut stays from what carries or must stay.
struct Distance {
    std::string name;
    std::string kind;         ///< "suspension", "hole", "seam"
    std::optional<double> mm; ///< 0: it is cut away; nothing: no such place is surveyed
};

struct PocketReport {
    std::string id;
    std::string name;
    std::string body;   ///< its name
    std::string reason; ///< why it cannot be made; empty: it can
    std::optional<shape::PocketMade> made;
    Eigen::Isometry3d pose_vehicle_body = Eigen::Isometry3d::Identity();
    std::vector<Station> stations;
    Weakest strength;                                                ///< of the four section moduli, closed
    Weakest cut_strength;                                            ///< the same before it is closed
    Weakest stiffness;                                               ///< of the two second moments, closed
    Weakest torsion;                                                 ///< of what resists twisting, closed
    bool cell_before = false, cell_cut = false, cell_closed = false; ///< the section is a closed cell all along
    double axis_shift_mm = 0;                                        ///< the most that its centre of area goes, closed
    double depth_share = 0;                                          ///< of the section's depth
    std::optional<Restoring> restoring; ///< what brings every modulus back to what is wanted; nothing: nothing does
    std::vector<Distance> distances;
    double cut_kg = 0, plates_kg = 0;
    double shrink_mm = 0; ///< what welding may draw the metal beside the seam in by
    std::vector<FlatPattern> patterns;
    std::vector<model::HoldState> holds; ///< filled in by judgeRelief
    double weld_pull_mm = 0;             ///< what welding may still pull it by; 0 once it was fitted again

    GABARIT_ONCE_DECLARED(PocketReport);
};

struct TubeReport {
    std::string id;
    std::string name;
    std::string reason;
    std::optional<TubeMade> made;
};
struct PlateReport {
    std::string id;
    std::string name;
    std::string reason;
    std::optional<PlateMade> made;
};

struct ReliefReport {
    std::vector<PocketReport> pockets; ///< those set aside too, not judged
    std::vector<TubeReport> tubes;
    std::vector<PlateReport> plates;
    std::vector<model::Check> checks;
    model::Verdict verdict = model::Verdict::Go;

    /// Every pattern, in the order of the sheets.
    std::vector<FlatPattern> patterns() const;
};

/// Pockets that were judged before, reused while nothing they depend on has changed. Thread-safe.
using ReliefMemo = RecentCache<std::shared_ptr<const PocketReport>>;

/// How much is looked at.
struct Look {
    double step_mm = 5;    ///< between stations, > 0
    bool restoring = true; ///< plates and straps that would restore the section are looked for
};

/// One pocket, with the pockets of its body that come before it in place.
PocketReport judgePocket(const model::Project& project, const model::RuleBook& book, const model::Pocket& pocket,
                         const Look& look = {});

/// Nothing when the project has no relief.
std::optional<ReliefReport> judgeRelief(const model::Project& project, const model::RuleBook& book,
                                        const Look& look = {}, ReliefMemo* memo = nullptr);

} // namespace gabarit::relief

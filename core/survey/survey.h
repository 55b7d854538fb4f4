// Which areas are surveyed, and whether anything may be cut yet.
#pragma once

#include "model/project.h"

namespace gabarit::survey {

struct AreaLine {
    std::string id;
    std::string name;
    std::string text; ///< what belongs to it
    std::string source;
    model::AreaState state = model::AreaState::Open;
    int bodies = 0;                        ///< of its kinds
    std::vector<std::string> not_measured; ///< names of those that are assumed, or whose accuracy is not known
    std::string date, who, note;

    /// Ticked off, and nothing in it is only assumed; or not on this vehicle.
    bool complete() const {
        return state == model::AreaState::NotHere || (state == model::AreaState::Done && not_measured.empty());
    }
};

struct SurveyState {
    std::vector<AreaLine> areas; ///< the book's in its order, then one's own
    int open = 0;
    /// No area is open. Holds up cutting, never looking: no gap, weight or price waits for it.
    bool ready_to_cut = false;
};

/// Of the bodies of the vehicle and of the active donor that are in the bay.
SurveyState surveyState(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::survey

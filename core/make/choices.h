// Every form that the file offers, tried: which of them let the unit fit, and what each is good for.
#pragma once

#include "fit/free_all.h"
#include "make/besides.h"
#include "make/relief_ways.h"

namespace gabarit::make {

/// An option that is taken in another stead than now.
struct ChoiceMade {
    std::string choice; ///< "vehicle/battery"
    std::string option;
    std::string words; ///< "Battery: behind the seat"
    friend bool operator==(const ChoiceMade& a, const ChoiceMade& b) {
        return a.choice == b.choice && a.option == b.option;
    }
};

/// What a single change of how it hangs now brings, as the sieve has it.
struct ChoiceBuys {
    ChoiceMade made;
    double before_mm = 0; ///< what the best place within reach lacks without it; below zero: has to spare
    double after_mm = 0;  ///< and with it
    /// Of what changes alone, how much farther it could go from where the unit hangs; the way where that is most.
    /// Nothing under a millimetre, or where what stands now is not free that way at all.
    std::optional<fit::Way> way;
    double farther_mm = 0;
};

struct ChoicePlace {
    std::string donor;            ///< name of another donor than hangs now; empty: the same
    std::vector<ChoiceMade> made; ///< none: as it hangs now
    fit::FreePlace place;         ///< measured
    std::shared_ptr<const model::Project> project;
    std::shared_ptr<const study::Reports> then; ///< of all disciplines, there
    int fouls = 0;              ///< gaps that no move parts: of the unit and the unit, of the vehicle and the vehicle
    int cuts = 0;               ///< more than now, as of cutsOf()
    std::optional<double> cost; ///< of the whole swap, as far as it is priced
    int unpriced = 0;           ///< parts without a price: it may cost more
    std::string pocket;         ///< the name of one that was cut for it; may be empty
};

struct ChoicesReport {
    bool complete = false;
    std::string reason;                   ///< why nothing was tried; empty otherwise
    std::vector<ChoicePlace> places;      ///< where every gap is good: least cut first, then least money, most room
    std::optional<ChoicePlace> least_bad; ///< where there is none
    std::vector<ChoiceBuys> buys;
    int all = 0;                        ///< combinations
    int tried = 0;                      ///< looked at
    int folded = 0;                     ///< ask for more than one that fits already
    std::vector<std::string> not_tried; ///< the first of them, in words
    int not_tried_count = 0;            ///< for want of time
};

struct ChoicesOptions {
    fit::FreeLimits limits;
    First first = First::Room; ///< asked of what is measured
    double most_s = 60;        ///< nothing is begun after that
    std::size_t most_places = 3;
    int threads = 2; ///< > 0
    quantity::Shown shown = quantity::Shown::Millimetres;
    StopToken stop;
    std::function<void(int done, int all)> progress; ///< may be empty
};

/// Each donor of the file, in its own placement or where the active one hangs, with each combination of the options
/// that change a body, on the sieve: what binds where one leaves no place is expected to bind in all others that have
/// it together, so those without it come first, of them those with fewest changes. What fits is measured
/// (fit::freeAll); what has all its changes and more is folded away. Options that change no body are taken where that
/// leaves fewer no-go. Where nothing fits, a pocket is tried in the best place for what may be cut.
ChoicesReport everyChoice(study::Study& study, const study::Reports& reports, const model::RuleBook& book,
                          const ChoicesOptions& options);

/// Things of the vehicle that are cut in a project: bodies that came with it, may only be cut, and do not stand by
/// the options that are taken; and pockets.
int cutsOf(const model::Project& project);

} // namespace gabarit::make

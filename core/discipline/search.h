// What has to be looked for: it takes time, and has several answers, one or none. A button of the discipline's stage
// and a subcommand of the command line, from one list.
#pragma once

#include "discipline/offers.h"
#include "quantity/quantity.h"
#include "quantity/result.h"
#include "quantity/stop.h"

#include <nlohmann/json_fwd.hpp>

#include <functional>
#include <memory>
#include <string>
#include <vector>

namespace gabarit::discipline {

/// A project that could be had.
struct Answer {
    std::string id;                ///< by which the command line takes it: "balanced"
    std::string words;             ///< what it comes to, in a line
    std::string note;              ///< stands below it: what is changed; may be empty
    std::vector<std::string> more; ///< lines that say more of it
    std::string step;              ///< for undo: "take the balanced mounts"
    std::string made;              ///< the key, as the stage's list has it, of what it brings; may be empty
    std::shared_ptr<const model::Project> project; ///< with it; null: it cannot be had, and `words` say why
    bool first = false; ///< to be tried before the others: it leaves things better and cuts nothing
};

/// What was found.
struct Found {
    std::string now;                                    ///< how it is without, in a line; may be empty
    std::vector<Answer> answers;                        ///< the best first
    std::vector<Error> troubles;                        ///< what did not come of it, beside the answers
    std::string none;                                   ///< said when there is no answer
    bool found = true;                                  ///< false: the answers are only the least bad of what there is
    std::string text;                                   ///< for a terminal: tables, cautions
    std::shared_ptr<const nlohmann::ordered_json> json; ///< the members of the report; null: it has none
};

/// What is looked for with.
struct SearchGiven {
    std::shared_ptr<const model::Project> project; ///< whole
    const model::RuleBook& book;                   ///< with the project's own rules worked in
    const Offers& offers;                          ///< of all disciplines, as judged last
    std::vector<std::string> about;                ///< an answer to each ask; empty: not said
    quantity::Shown shown = quantity::Shown::Millimetres;
    StopToken stop{};
    std::function<void(int done, int all)> progress{}; ///< may be empty
};

/// What a search is called and asked.
struct SearchCard {
    struct Ask {
        std::string option; ///< of the command line: "body"
        std::string what;
        bool must = true;
    };

    std::string id;    ///< of the subcommand: "tune-mounts"
    std::string words; ///< on its button
    std::string what;  ///< on the command line, in a line
    std::string kind;  ///< of the thing it is asked at, as the stage's keys have it; empty: the stage says where
    std::vector<Ask> asks{};
    /// Its one answer is taken at once, and the command line writes it over the file; else the answers are shown.
    bool takes = false;
    std::string pick{};               ///< the option that names the answer to write: "aim"; empty: none is written
    std::vector<std::string> picks{}; ///< what it may name, the usual one first
};

struct Search {
    SearchCard card;
    /// May be called on any thread. A stopped one returns anything.
    std::function<Result<Found>(const SearchGiven&)> look;
};

} // namespace gabarit::discipline

// All searches: the disciplines' own, and those that want what the whole study found.
#pragma once

#include "discipline/search.h"
#include "study/study.h"

namespace gabarit::make {

/// What a search is done with besides.
struct Searching {
    study::Study& study;           ///< to judge other projects with; its solids are kept
    const study::Reports& reports; ///< complete
};

struct Search {
    discipline::SearchCard card;
    std::string discipline; ///< on whose stage it is
    std::function<Result<discipline::Found>(const Searching&, const discipline::SearchGiven&)> look;
};

/// In the order of the board; ids are unique, or it throws.
const std::vector<Search>& searches();
/// The one of this id; an unknown id is a programming error and throws.
const Search& searchOf(const std::string& id);

/// Looks with what a run of this study found. `about`: an answer to each of its asks, empty where none is given.
Result<discipline::Found> lookFor(const Search& search, const Searching& with, const model::RuleBook& book,
                                  std::vector<std::string> about, quantity::Shown shown, const StopToken& stop = {},
                                  const std::function<void(int done, int all)>& progress = {});

} // namespace gabarit::make

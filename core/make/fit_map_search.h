// "Map of where it fits" as a search: for the command line; the window draws it as it comes.
#pragma once

#include "fit/fit_map.h"
#include "make/search.h"

namespace gabarit::make {

/// What a map is asked for.
struct MapAsked {
    fit::Freedom across = fit::Freedom::Along, up = fit::Freedom::Up;
    bool freed = false; ///< the other freedoms, within the book's limits; else held
    int size = 33;      ///< points each way
};

/// As far as the book has both freedoms moved. Error: nothing hangs, or no map of those.
Result<fit::FitMap> mapped(const Searching& with, const model::RuleBook& book, const MapAsked& asked,
                           const StopToken& stop, const std::function<void(const fit::FitMap&)>& show);

/// "4.0 mm short, front sump to front crossmember"; "3.0 mm to spare".
std::string pointWords(const fit::FitMap& map, const fit::MapPoint& point, const quantity::Shown& shown);

/// `about`: the two freedoms, "held" or "freed", and the points each way; each may be empty. Errors: other words;
/// nothing hangs.
Result<discipline::Found> fitMapped(const Searching& with, const discipline::SearchGiven& given);

} // namespace gabarit::make

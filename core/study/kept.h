// Reports that are still true while nothing they are made from has changed.
#pragma once

#include "discipline/discipline.h"

#include <algorithm>

namespace gabarit::study {

struct Kept {
    std::string of;         ///< the discipline's id
    std::uint64_t mark = 0; ///< of all that the report is made from
    std::shared_ptr<const discipline::Report> report;
};

/// A discipline's last reports: one while the hand moves, and one at rest.
class KeptReports {
public:
    std::shared_ptr<const discipline::Report> find(std::uint64_t mark) {
        const auto found = std::find_if(kept_.begin(), kept_.end(), [&](const Kept& k) { return k.mark == mark; });
        if (found == kept_.end()) return nullptr;
        std::rotate(kept_.begin(), found, found + 1); // the last used comes first
        return kept_.front().report;
    }
    /// Takes the place of one of that mark, or of the one that was used longest ago.
    void keep(const Kept& kept) {
        if (!find(kept.mark)) {
            if (kept_.size() >= most) letGo(std::move(kept_.back())), kept_.pop_back();
            kept_.insert(kept_.begin(), kept);
        } else {
            letGo(std::move(kept_.front()));
            kept_.front() = kept;
        }
    }
    /// To take a report of thousands of pairs down takes milliseconds: it is done here, not where one takes its place.
    void tidy() { gone_.clear(); }

private:
    void letGo(Kept kept) {
        if (gone_.size() >= most) gone_.clear(); // runs that were stopped, one after the other
        gone_.push_back(std::move(kept));
    }

    static constexpr std::size_t most = 2;
    std::vector<Kept> kept_, gone_;
};

} // namespace gabarit::study

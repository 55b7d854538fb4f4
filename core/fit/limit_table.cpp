#include "fit/limit_table.h"

#include "describe/walks.h"
#include "model/describe.h"

namespace gabarit::fit {

void LimitTable::begin(const model::RuleBook& book) {
    describe::Marker marker;
    describe::show(static_cast<describe::Visitor&>(marker), book);
    double pull_mm = book.weld_pull_mm;
    marker.onNumber(describe::Member("weld_pull_mm"), pull_mm);
    if (marker.mark() == mark_) return;
    mark_ = marker.mark();
    known_.clear();
}

std::uint32_t LimitTable::kindOf(const placed::PlacedBody& body) {
    const auto key = std::make_pair(body.body.category, body.body.shielded);
    const std::lock_guard<std::mutex> lock(mutex_);
    return kinds_.emplace(key, static_cast<std::uint32_t>(kinds_.size())).first->second;
}

const PairLimits& LimitTable::of(const model::RuleBook& book, const placed::PlacedBody& a, std::uint32_t kind_a,
                                 const placed::PlacedBody& b, std::uint32_t kind_b) {
    const bool pulled = a.in_donor != b.in_donor;
    const std::uint64_t key = (std::uint64_t{kind_a} << 32) | (std::uint64_t{kind_b} << 1) | (pulled ? 1 : 0);
    const std::lock_guard<std::mutex> lock(mutex_);
    auto& limits = known_[key];
    if (limits) return *limits;
    auto made = std::make_unique<PairLimits>();
    if (auto rest = model::limitFor(book, book.default_school, a.body, b.body))
        made->rest = std::make_shared<const model::Limit>(pulled ? model::withWeldPull(*rest, book) : *rest);
    made->moving = model::movingLimitsFor(book, book.default_school, a.body, b.body);
    if (pulled) made->moving = model::withWeldPull(made->moving, book);
    limits = std::move(made);
    return *limits;
}

} // namespace gabarit::fit

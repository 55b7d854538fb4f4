// The limits of each pair of kinds of bodies, looked up once and kept between runs. Internal to the room.
#pragma once

#include "placed/scene.h"

#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <unordered_map>

namespace gabarit::fit {

/// What a pair is held against.
struct PairLimits {
    std::shared_ptr<const model::Limit> rest; ///< null: no row covers it
    model::MovingLimits moving;
};

/// Of one rule book and its default school at a time. Thread-safe, but for `begin`.
class LimitTable {
public:
    /// Forgets everything when the book is another one than before. Nobody else may use it meanwhile.
    void begin(const model::RuleBook& book);
    /// The number of a body's kind: bodies of one kind have the same limits against any other.
    std::uint32_t kindOf(const placed::PlacedBody& body);
    /// With what welding may pull, where one of the two hangs on the mounts and the other does not. Stays where it is.
    const PairLimits& of(const model::RuleBook& book, const placed::PlacedBody& a, std::uint32_t kind_a,
                         const placed::PlacedBody& b, std::uint32_t kind_b);
    const PairLimits& of(const model::RuleBook& book, const placed::PlacedBody& a, const placed::PlacedBody& b) {
        return of(book, a, kindOf(a), b, kindOf(b));
    }

private:
    std::uint64_t mark_ = 0;
    std::mutex mutex_;
    std::map<std::pair<std::string, bool>, std::uint32_t> kinds_; ///< category, and whether it is shielded
    std::unordered_map<std::uint64_t, std::unique_ptr<const PairLimits>> known_;
};

} // namespace gabarit::fit

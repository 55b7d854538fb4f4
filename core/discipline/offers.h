// What disciplines give each other. None includes another: it says which of these it needs (Card::needs).
#pragma once

#include "describe/walks.h"
#include "discipline/bag.h"
#include "model/project.h"

#include <cstdint>
#include <map>

namespace gabarit::discipline {

/// By how much each axle is loaded more than before the swap. Not offered when nothing says what is taken off and on.
struct AxleChange {
    std::optional<double> front_kg, rear_kg; ///< missing without a wheelbase
    std::vector<std::string> left_out;       ///< what has no mass or place: the changes do not hold it
};
/// Load on the wheels that the unit drives, once it is known.
struct DrivenLoad {
    double load_kg = 0;
};
/// How the unit moves on its mounts.
struct UnitRocking {
    model::Rocking rocking;
};
/// Wanted on top of each gap between unit and vehicle while welding may still pull the mounts.
struct WeldPull {
    double pull_mm = 0;
};

// Each is described, so that whether it changed can be told.
void describe(describe::Visitor& v, AxleChange& change);
void describe(describe::Visitor& v, DrivenLoad& load);
void describe(describe::Visitor& v, UnitRocking& rocking);
void describe(describe::Visitor& v, WeldPull& pull);

class Offers {
public:
    template <class T>
    void offer(T value) {
        marks_[typeid(T)] = describe::markOf(value);
        values_.put(std::move(value));
    }
    /// Null when it is not offered.
    template <class T>
    const T* get() const {
        return values_.get<T>();
    }
    /// What is offered of that type by another, if it is.
    void take(std::type_index type, const Offers& from);
    void takeAll(const Offers& from);
    /// Of its content; 0 when it is not offered.
    std::uint64_t mark(std::type_index type) const {
        const auto found = marks_.find(type);
        return found == marks_.end() ? 0 : found->second;
    }

private:
    Bag values_;
    std::map<std::type_index, std::uint64_t> marks_;
};

/// The project with the unit's movement as it is offered, where none was given by hand; the same when there is none.
std::shared_ptr<const model::Project> moving(std::shared_ptr<const model::Project> project, const UnitRocking* offered);
/// The book with what is wanted on top of the gaps.
model::RuleBook pulled(model::RuleBook book, const WeldPull* offered);

} // namespace gabarit::discipline

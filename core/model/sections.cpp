#include "model/sections.h"

namespace gabarit::model {

void Sections::take(std::type_index type, const Sections& from) {
    const auto found = from.held_.find(type);
    if (found == from.held_.end())
        held_.erase(type);
    else
        held_[type] = found->second;
}

} // namespace gabarit::model

// Values of any type, one of each.
#pragma once

#include <memory>
#include <typeindex>
#include <utility>
#include <vector>

namespace gabarit::discipline {

/// Copies share the values, which nobody changes once they are in.
class Bag {
public:
    /// Takes the place of one of the same type.
    template <class T>
    void put(T value) {
        keep(typeid(T), std::make_shared<const T>(std::move(value)));
    }
    template <class T>
    void put(std::shared_ptr<const T> value) {
        keep(typeid(T), std::move(value));
    }
    template <class T>
    const T* get() const {
        return static_cast<const T*>(get(typeid(T)));
    }
    const void* get(std::type_index type) const {
        for (const auto& [its, value] : values_)
            if (its == type) return value.get();
        return nullptr;
    }
    /// Another's value of that type, shared; nothing happens when it has none.
    void take(std::type_index type, const Bag& from) {
        for (const auto& [its, value] : from.values_)
            if (its == type) keep(type, value);
    }

private:
    void keep(std::type_index type, std::shared_ptr<const void> value) {
        for (auto& [its, old] : values_)
            if (its == type) {
                old = std::move(value);
                return;
            }
        values_.emplace_back(type, std::move(value));
    }
    std::vector<std::pair<std::type_index, std::shared_ptr<const void>>> values_;
};

} // namespace gabarit::discipline

// Keeps what was made, by key, for as long as it is asked for.
#pragma once

#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>
#include <utility>

namespace gabarit {

/// Values are copied out: keep something cheap to copy. Thread-safe.
template <class Value>
class RecentCache {
public:
    std::optional<Value> find(const std::string& key) {
        const std::lock_guard<std::mutex> lock(mutex_);
        const auto found = entries_.find(key);
        if (found == entries_.end()) return std::nullopt;
        found->second.used = true;
        return found->second.value;
    }
    /// Returns what is kept: of two threads that made the same, the first one in.
    Value keep(const std::string& key, Value value) {
        const std::lock_guard<std::mutex> lock(mutex_);
        return entries_.emplace(key, Entry{std::move(value)}).first->second.value;
    }
    /// Drops what was neither found nor kept since the last call.
    void forgetUnused() {
        const std::lock_guard<std::mutex> lock(mutex_);
        for (auto it = entries_.begin(); it != entries_.end();) {
            if (it->second.used)
                (it++)->second.used = false;
            else
                it = entries_.erase(it);
        }
    }

private:
    struct Entry {
        Value value;
        bool used = true;
    };
    std::mutex mutex_;
    std::unordered_map<std::string, Entry> entries_;
};

} // namespace gabarit

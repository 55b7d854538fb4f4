// Asking long work to stop.
#pragma once

#include <atomic>
#include <memory>

namespace gabarit {

/// Copies share one flag. Long work looks at it often and returns early, its result marked as unfinished.
class StopToken {
public:
    void stop() const { flag_->store(true, std::memory_order_relaxed); }
    bool stopped() const { return flag_->load(std::memory_order_relaxed); }

private:
    std::shared_ptr<std::atomic<bool>> flag_ = std::make_shared<std::atomic<bool>>(false);
};

} // namespace gabarit

#include "proximity/nearest_kernel.h"

#include "proximity/nearest_kernel.inc"

namespace gabarit::proximity::kernel {

void searchPlain(const Tree& a, const Tree& b, const Pose& pose_a_b, Found& found) {
    Search(a, b, pose_a_b, found).run();
}

} // namespace gabarit::proximity::kernel

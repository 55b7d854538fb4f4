// What a jig is set up by: every face, hole, rubber and tube end in the vehicle's frame and from the tape hooks.
#pragma once

#include "mounts/mounts.h"

namespace gabarit::mounts {

enum class JigSide { Left, Middle, Right };
const char* word(JigSide side);

struct JigHook {
    std::string name;
    double straight_mm = 0;            ///< as a tape is stretched
    Eigen::Vector3d along_mm{0, 0, 0}; ///< rearward, to the right, up
};
struct JigLine {
    std::string mount;
    std::string what; ///< "stand", "stand, hole 1", "rubber", "tower, arm's end 2"
    JigSide side = JigSide::Middle;
    Eigen::Vector3d at_mm{0, 0, 0};     ///< vehicle frame
    std::optional<Eigen::Vector3d> out; ///< which way it faces or runs, vehicle frame
    std::optional<double> level_deg;    ///< of `out` above level
    std::optional<double> swing_deg;    ///< of `out` in plan, from rearward towards the right; none when it points up
    std::optional<double> length_mm;    ///< of a tube, to cut
    std::string note;                   ///< "slot ±12 mm", "thread M10"
    std::vector<JigHook> hooks;         ///< the nearest first
};
struct JigSheet {
    std::vector<JigLine> lines;
    std::vector<std::string> left_out; ///< what is not known, in words
};
/// Of every mount, crossmember hole in use and frame. Hooks are the vehicle's points of the role "tape_hook".
JigSheet jigSheet(const model::Project& project, const MountsReport& report);

} // namespace gabarit::mounts

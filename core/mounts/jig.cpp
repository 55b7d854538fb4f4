#include "mounts/jig.h"

#include "model/owner_place.h"
#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Vector3d;

constexpr double middle_mm = 60; // nearer to the centreline than this it belongs to neither side
constexpr double upright = 0.999;
constexpr std::size_t most_hooks = 3; // three places fix a point

class Sheet {
public:
    Sheet(const model::Project& project, const MountsReport& report) : project_(project), report_(report) {}

    JigSheet made() {
        const model::Mounts& mounts = *project_.sections.get<model::Mounts>();
        for (std::size_t i = 0; i < mounts.mounts.size() && i < report_.mounts.size(); ++i) {
            const model::Mount& mount = mounts.mounts[i];
            if (mount.stand)
                face(mount, *mount.stand, mount.stand_bolts, "stand");
            else
                out_.left_out.push_back(mount.name + ": its stand is not given");
            face(mount, mount.pad, mount.pad_bolts, "pad");
            JigLine& rubber = add(mount.id, "rubber, middle", report_.mounts[i].at_mm);
            facing(rubber, report_.mounts[i].axes.col(2));
            rubber.note = report_.mounts[i].isolator.empty() ? "none chosen" : report_.mounts[i].isolator;
            for (const BracketReport& b : report_.brackets)
                if (b.mount == mount.id) bracket(b);
        }
        for (const CrossmemberReport& c : report_.crossmembers) {
            if (!c.reason.empty()) continue;
            for (const auto& [what, at, hole] : {std::tuple(", {left} side, hole ", c.left_mm, c.left_hole),
                                                 std::tuple(", {right} side, hole ", c.right_mm, c.right_hole)})
                add(c.id, c.name + model::sided(project_, what) + std::to_string(hole), at).note =
                    "slot ±" + quantity::fixed(c.slot_mm, 0) + " mm, set " + quantity::fixed(std::abs(c.slid_mm), 1) +
                    (c.slid_mm < 0 ? " mm forward" : " mm rearward");
            add(c.id, c.name + ", seat", c.seat_mm);
        }
        for (const model::SeatFrame& frame : mounts.frames)
            for (std::size_t m = 0; m < frame.members_mm.size(); ++m)
                for (std::size_t k = 0; k < frame.members_mm[m].size(); ++k) {
                    JigLine& line =
                        add(frame.id,
                            frame.name + ", member " + std::to_string(m + 1) + ", corner " + std::to_string(k + 1),
                            frame.members_mm[m][k]);
                    if (k + 1 < frame.members_mm[m].size()) {
                        const Vector3d leg = frame.members_mm[m][k + 1] - frame.members_mm[m][k];
                        facing(line, leg.normalized());
                        line.length_mm = leg.norm();
                    }
                }
        return std::move(out_);
    }

private:
    JigLine& add(const std::string& mount, const std::string& what, const Vector3d& at_mm) {
        JigLine line;
        line.mount = mount;
        line.what = what;
        line.at_mm = at_mm;
        line.side = at_mm.y() < -middle_mm ? JigSide::Left : at_mm.y() > middle_mm ? JigSide::Right : JigSide::Middle;
        if (project_.vehicle)
            for (const model::HardPoint& point : project_.vehicle->hard_points)
                if (point.role == "tape_hook")
                    line.hooks.push_back({point.name, (at_mm - point.at_mm).norm(), at_mm - point.at_mm});
        std::sort(line.hooks.begin(), line.hooks.end(),
                  [](const JigHook& a, const JigHook& b) { return a.straight_mm < b.straight_mm; });
        if (line.hooks.size() > most_hooks) line.hooks.resize(most_hooks);
        out_.lines.push_back(std::move(line));
        return out_.lines.back();
    }
    static void facing(JigLine& line, const Vector3d& out) {
        line.out = out;
        line.level_deg = std::asin(std::clamp(out.z(), -1.0, 1.0)) * quantity::deg_per_rad;
        if (std::abs(out.z()) < upright) line.swing_deg = std::atan2(out.y(), out.x()) * quantity::deg_per_rad;
    }
    void face(const model::Mount& mount, const model::MountFace& face, const model::Bolting& bolts, const char* which) {
        const auto its = model::ownerPlace(project_, face.owner, face.point, face.at_mm, mount.name);
        if (!its) {
            out_.left_out.push_back(its.error().line());
            return;
        }
        const auto& pose = its.value().pose_vehicle_owner;
        const Vector3d out = face.out.normalized(), mark = (face.mark - out * out.dot(face.mark)).normalized();
        JigLine& line = add(mount.id, which, its.value().vehicle_mm());
        facing(line, pose.linear() * out);
        if (!face.mark_words.empty()) line.note = "marked \"" + face.mark_words + "\"";
        for (std::size_t hole = 0; hole < face.holes_mm.size(); ++hole) {
            JigLine& at = add(mount.id, std::string(which) + ", hole " + std::to_string(hole + 1),
                              pose * Vector3d(its.value().at_mm + mark * face.holes_mm[hole].x() +
                                              out.cross(mark) * face.holes_mm[hole].y()));
            if (face.thread_mm)
                at.note = (face.through ? "through, M" : "thread M") + quantity::fixed(*face.thread_mm, 0);
            if (bolts.used && static_cast<double>(hole) >= *bolts.used) at.note += ", not used";
        }
    }
    void bracket(const BracketReport& b) {
        if (!b.made) {
            out_.left_out.push_back(std::string(word(b.which)) + ": " + b.reason);
            return;
        }
        const auto& pose = b.made->ends.pose_vehicle_owner;
        const auto& path = b.made->path_mm;
        const model::Mount* mount = nullptr;
        for (const model::Mount& m : project_.sections.get<model::Mounts>()->mounts)
            if (m.id == b.mount) mount = &m;
        const model::Bracket* own = mount ? bracketOf(*mount, b.which) : nullptr;
        for (std::size_t i = 0; i < path.size(); ++i) {
            const bool root = i == 0, end = i + 1 == path.size();
            JigLine& line = add(b.mount,
                                std::string(word(b.which)) + (root  ? ", arm's root"
                                                              : end ? ", arm's end"
                                                                    : ", corner " + std::to_string(i)),
                                pose * path[i]);
            if (!end) {
                const Vector3d leg = path[i + 1] - path[i];
                facing(line, pose.linear() * leg.normalized());
                line.length_mm = leg.norm();
            }
            if (end && own) {
                if (own->slot_mm.value_or(0) > 0) line.note = "slot ±" + quantity::fixed(*own->slot_mm, 0) + " mm";
                if (own->dowel_mm.value_or(0) > 0)
                    line.note +=
                        (line.note.empty() ? "dowel " : ", dowel ") + quantity::fixed(*own->dowel_mm, 0) + " mm";
            }
        }
    }

    const model::Project& project_;
    const MountsReport& report_;
    JigSheet out_;
};

} // namespace

const char* word(JigSide side) { return side == JigSide::Left ? "left" : side == JigSide::Right ? "right" : "middle"; }

JigSheet jigSheet(const model::Project& project, const MountsReport& report) {
    if (!project.sections.get<model::Mounts>() || !report.usable) {
        JigSheet none;
        none.left_out.push_back(report.reason.empty() ? "no mounts" : report.reason);
        return none;
    }
    return Sheet(project, report).made();
}

} // namespace gabarit::mounts

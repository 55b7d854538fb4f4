#include "driveline/words.h"

#include <cmath>

namespace gabarit::driveline {
namespace {

using quantity::fixed;
using quantity::Shown;

bool endsWith(const std::string& whole, const std::string& end) {
    return whole.size() >= end.size() && whole.compare(whole.size() - end.size(), end.size(), end) == 0;
}

const SlipReport* slipOf(const LineReport& line, const std::string& id) {
    for (const SlipReport& slip : line.slips)
        if (id.find("/shaft-" + std::to_string(slip.shaft + 1) + "/") != std::string::npos) return &slip;
    return nullptr;
}

} // namespace

std::string cureWords(const LineReport& line, const Cure& cure, const Shown& shown) {
    const std::string amount = quantity::angleText(std::abs(cure.amount_deg), 1);
    std::string out;
    switch (cure.kind) {
    case Cure::Kind::Phase: {
        out = "Turn the rear fork of the " +
              (cure.shaft < line.slips.size() && line.slips.size() > 1 ? "shaft \"" + line.slips[cure.shaft].name + "\""
                                                                       : std::string("shaft")) +
              " to " + amount +
              (cure.amount_deg < -0.05  ? " anticlockwise"
               : cure.amount_deg > 0.05 ? " clockwise"
                                        : "") +
              " of its front fork, seen from behind";
        break;
    }
    case Cure::Kind::PinionNose:
        out = std::string("Pinion's nose ") + (cure.amount_deg > 0 ? "up " : "down ") + amount +
              " (shims between spring and axle, or longer or shorter links)";
        break;
    case Cure::Kind::UnitTail:
        out = std::string("Tail ") + (cure.amount_deg > 0 ? "up " : "down ") + amount;
        if (cure.mount_mm != 0)
            out += ", " + quantity::lengthText(std::abs(cure.mount_mm), shown) + " at the gearbox mount";
        break;
    case Cure::Kind::UnitHeight:
        out = std::string("The unit ") + quantity::lengthText(std::abs(cure.mount_mm), shown, 0) +
              (cure.mount_mm > 0 ? " up" : " down");
        break;
    }
    out += " lowers the shake to that of a single joint at " + quantity::angleText(cure.residual_deg, 1);
    if (cure.worst_joint_deg > 0) {
        const std::string least = quantity::angleText(cure.least_joint_deg, 1),
                          most = quantity::angleText(cure.worst_joint_deg, 1);
        out += "; joints then run at " + least + (least == most ? "" : " to " + most);
    }
    return out;
}

std::string helpWords(const LineReport& line, const Check& check, const Shown& shown) {
    const auto length = [&](double mm) { return quantity::lengthText(std::abs(mm), shown); };
    if (const SlipReport* slip = slipOf(line, check.id)) {
        const bool slides =
            endsWith(check.id, "/reserve") || endsWith(check.id, "/engaged") || endsWith(check.id, "/length");
        if (slides) {
            std::string out;
            if (slip->moved_mm && std::abs(*slip->moved_mm) > 0.05)
                out = "To keep this shaft, move the unit " + length(*slip->moved_mm) +
                      (*slip->moved_mm > 0 ? " towards the " : " away from the ") + (slip->plunging ? "wheel" : "axle");
            else if (slip->move_least_mm && slip->move_most_mm && *slip->move_least_mm > *slip->move_most_mm)
                out = "No place along the vehicle suits this shaft";
            if (!out.empty()) out += "; or ";
            out += (out.empty() ? "A" : "a");
            out += " shaft to order: " + quantity::lengthText(slip->order_closed_mm, shown) +
                   " closed, between joint centres";
            if (slip->order_spline_mm) out += ", " + quantity::lengthText(*slip->order_spline_mm, shown) + " of spline";
            return out + ".";
        }
        if (endsWith(check.id, "/critical"))
            for (const CriticalReport& c : line.critical) {
                if (c.shaft == slip->shaft && c.suggested)
                    return "Tube " + quantity::lengthText(c.suggested->outside_mm, shown) + " × " +
                           quantity::lengthText(c.suggested->wall_mm, shown, 2) + " may run so fast.";
                if (c.shaft == slip->shaft && c.two_piece)
                    return "No usual tube may run so fast at this length: two pieces with a centre bearing.";
            }
    }
    const bool shakes =
        endsWith(check.id, "/torsional") || endsWith(check.id, "/pair") || endsWith(check.id, "/running");
    if (shakes && !line.cures.empty()) {
        std::string out;
        for (const Cure& cure : line.cures) out += (out.empty() ? "" : ". Or: ") + cureWords(line, cure, shown);
        return out + ".";
    }
    return {};
}

std::string turnWords(const model::ShaftLine& line, const LineReport& report, const Shown& shown) {
    std::string out;
    if (!report.usable) return out;
    if (report.turn.equivalent_rad > 0 || report.turn.most_ratio > report.turn.least_ratio) {
        const double swing = (report.turn.most_ratio - report.turn.least_ratio) * 100;
        out = "Its speed at the far end swings by " + fixed(swing, swing < 0.1 ? 3 : 2) + " % over a turn.";
    }
    for (const SlipReport& slip : report.slips) {
        if (!slip.plunging || slip.shaft >= line.shafts.size() || !line.shafts[slip.shaft].spline_mm) continue;
        out += (out.empty() ? "" : " ") + std::string("Plunge used ") +
               quantity::lengthNumber(slip.longest_mm - slip.shortest_mm, shown) + " of " +
               quantity::lengthText(*line.shafts[slip.shaft].spline_mm, shown) + ".";
    }
    return out;
}

std::string moveWords(const model::Project& project, const char* mount, double up_mm, double right_mm,
                      const Shown& shown) {
    std::string out;
    const auto part = [&](double mm, const std::string& way) {
        if (std::abs(mm) < 0.05) return;
        out += (out.empty() ? "" : ", ") + quantity::lengthText(std::abs(mm), shown) + " " + way;
    };
    part(up_mm, up_mm > 0 ? "up" : "down");
    part(right_mm, model::sideWord(project, right_mm > 0));
    return std::string(mount) + " " + (out.empty() ? "stays" : out);
}

const char* matingWords(Mating mating) {
    switch (mating) {
    case Mating::Mates: return "It mates.";
    case Mating::Adapter: return "It mates with an adapter only.";
    case Mating::DoesNot: return "It does not mate.";
    case Mating::Unknown: break;
    }
    return "Whether it mates is not known.";
}

std::string couplingWords(const model::Project& project, const CouplingReport& coupling, const Shown& shown) {
    if (coupling.tries.empty()) return "Read the gap at eight places, at four turns of the shaft.";
    const CouplingTryReport& last = coupling.tries.back();
    if (last.both)
        return "Move the " +
               moveWords(project, "gearbox mount", last.both->gearbox_up_mm, last.both->gearbox_right_mm, shown) +
               "; the " + moveWords(project, "front mounts", last.both->front_up_mm, last.both->front_right_mm, shown) +
               ".";
    if (last.gearbox_alone) {
        std::string out = "Move the " +
                          moveWords(project, "gearbox mount", last.gearbox_alone->gearbox_up_mm,
                                    last.gearbox_alone->gearbox_right_mm, shown) +
                          ": it squares the faces";
        out += last.offset_left_mm
                   ? " and leaves the centres " + quantity::lengthText(*last.offset_left_mm, shown) + " apart"
                   : " and shifts the flange; read the rim to know how far the centres are apart";
        return out + ".";
    }
    if (last.face.enough && !last.face.separated)
        return "Turn the shaft to " + fixed(last.face.next_turn_deg, 0) + "° and read at " +
               driveline::clockWords(last.face.next_clock_deg) + ": skew is then told from runout.";
    if (!last.face.enough)
        return "Read at " + driveline::clockWords(last.face.next_clock_deg) + " with the shaft turned to " +
               fixed(last.face.next_turn_deg, 0) + "°.";
    return "Give the distances to the mounts to know how far to move them.";
}

} // namespace gabarit::driveline

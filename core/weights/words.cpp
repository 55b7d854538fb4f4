#include "weights/words.h"

#include "model/verdict.h"
#include "weights/section/weights.h"

#include <cmath>

namespace gabarit::weights {
namespace {

using quantity::Shown;
using Known = std::optional<double>;

std::string massOr(const Known& kg, Shown shown) { return kg ? quantity::massText(*kg, shown, 1) : "not known"; }

std::string axleWords(const char* name, const AxleLoad& axle, Shown shown) {
    std::string line = std::string(name) + ": " + massOr(axle.before_kg, shown) + " before, " +
                       (axle.change_kg && *axle.change_kg >= 0 ? "+" : "") + massOr(axle.change_kg, shown) + ", " +
                       massOr(axle.load_kg, shown) + " now";
    if (axle.load_kg && axle.accuracy_kg) line += " ±" + quantity::massText(std::ceil(*axle.accuracy_kg), shown, 0);
    line += ", limit " + massOr(axle.limit_kg, shown) + ": " + model::word(axle.verdict);
    if (!axle.reason.empty()) line += " (" + axle.reason + ")";
    return line;
}

std::string centreWords(const model::Project& project, const Centre& centre, Shown shown) {
    std::string out = quantity::lengthText(*centre.x_mm, shown, 0) + " behind the front axle";
    if (centre.y_mm)
        out += ", " + quantity::lengthText(std::abs(*centre.y_mm), shown, 0) + " " +
               model::sideWord(project, *centre.y_mm > 0);
    if (centre.z_mm) out += ", " + quantity::lengthText(*centre.z_mm, shown, 0) + " up";
    return out;
}

} // namespace

std::vector<std::string> weightsWords(const model::Project& project, const AxleLoadReport& report, Shown shown) {
    std::vector<std::string> out{axleWords("Front axle", report.front, shown),
                                 axleWords("Rear axle", report.rear, shown)};
    if (!report.limit_source.empty()) out.push_back("Limits: " + report.limit_source);
    if (report.centre.x_mm) {
        std::string line = "Centre of gravity: " + centreWords(project, report.centre, shown);
        if (report.centre_before.x_mm) line += "; before: " + centreWords(project, report.centre_before, shown);
        out.push_back(line);
    }
    std::string wheels;
    const auto wheel = [&](const char* name, const Known& before, const Known& now) {
        if (!before && !now) return;
        wheels += std::string(wheels.empty() ? "" : "; ") + model::sided(project, name) + " " + massOr(before, shown) +
                  " before, " + massOr(now, shown) + " now";
    };
    const model::CornerLoads &before = report.corners_before, &now = report.corners;
    wheel("front, {left} side", before.front_left_kg, now.front_left_kg);
    wheel("front, {right} side", before.front_right_kg, now.front_right_kg);
    wheel("rear, {left} side", before.rear_left_kg, now.rear_left_kg);
    wheel("rear, {right} side", before.rear_right_kg, now.rear_right_kg);
    if (!wheels.empty()) out.push_back("On the wheels, by levers alone (springs and bars share otherwise): " + wheels);
    for (const std::string& left : report.left_out) out.push_back("Left out: " + left);
    for (const std::string& still : report.still_counted)
        out.push_back("Taken out, but its mass is not given, so it still counts: " + still);
    return out;
}

} // namespace gabarit::weights

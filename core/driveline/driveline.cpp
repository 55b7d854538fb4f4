#include "driveline/driveline.h"

#include <algorithm>
#include <cmath>

namespace gabarit::driveline {
namespace {

using model::Verdict;

AngleReport angleOf(const model::Driveline& asked, const model::AngleReading& reading, const DrivelineReport& report) {
    AngleReport out;
    out.id = reading.id;
    out.place = reading.place;
    if (reading.slope_deg) out.angle_deg = reading.reading_deg - *reading.slope_deg;
    for (const LineReport& line : report.lines) {
        if (line.id != reading.line || !line.usable) continue;
        out.planned_deg = flangeFalls_deg(line.ride, reading.at_far_end);
    }
    for (const model::ShaftLine& line : asked.lines)
        if (line.id == reading.line)
            out.on_unit = (reading.at_far_end ? line.to : line.from).owner != model::vehicle_owner;
    if (out.angle_deg && out.planned_deg) out.apart_deg = *out.angle_deg - *out.planned_deg;
    return out;
}

} // namespace

std::optional<double> topSpeed_rpm(const model::Project& project, const model::ShaftLine& line) {
    if (!project.gearing || !project.gearing->max_rpm) return std::nullopt;
    const model::Gearing& gearing = *project.gearing;
    double longest = 0;
    for (const model::Gear& gear : gearing.gears)
        if (!gear.reverse && gear.ratio > 0 && (longest == 0 || gear.ratio < longest)) longest = gear.ratio;
    if (longest == 0 || gearing.transfer_high <= 0) return std::nullopt;
    double rpm = *gearing.max_rpm / (longest * gearing.transfer_high);
    if (line.half_shaft) {
        if (!gearing.final_drive || *gearing.final_drive <= 0) return std::nullopt;
        rpm /= *gearing.final_drive;
    }
    return rpm;
}

std::optional<DrivelineReport> driveline(const model::Project& project, const model::RuleBook& book,
                                         const LineOptions& options) {
    if (!project.driveline) return std::nullopt;
    const model::Driveline& asked = *project.driveline;
    if (asked.lines.empty() && asked.couplings.empty() && asked.interfaces.empty() && !asked.bell &&
        asked.readings.empty())
        return std::nullopt;
    DrivelineReport report;
    report.verdict = Verdict::Go;
    const model::Donor* hanging = model::activeDonor(project);
    const std::optional<model::Donor> as_taken = model::hangingDonor(project);
    const auto ofAnother = [&](const model::FlangePlace& flange) { // it is judged when that one hangs, or is taken
        if (flange.owner == model::vehicle_owner) return false;
        if (!hanging || hanging->id.text != flange.owner)
            return model::findDonor(project, model::DonorId{flange.owner}) != nullptr;
        const auto has = [&](const model::Donor& donor) {
            return std::any_of(donor.reference_points.begin(), donor.reference_points.end(),
                               [&](const model::HardPoint& p) { return p.id == flange.point; });
        };
        return has(*hanging) && !(as_taken && has(*as_taken)); // a point of an option that is not taken
    };
    for (const model::ShaftLine& line : asked.lines) {
        if (!model::isTaken(project, line.option) || ofAnother(line.from) || ofAnother(line.to)) continue;
        report.lines.push_back(judgeLine(project, line, book, topSpeed_rpm(project, line), options));
        report.verdict = model::worse(report.verdict, report.lines.back().verdict);
    }
    for (const model::CouplingCheck& coupling : asked.couplings) {
        report.couplings.push_back(judgeCoupling(project, coupling, book));
        report.verdict = model::worse(report.verdict, report.couplings.back().verdict);
    }
    for (const model::Interface& interface : asked.interfaces) {
        report.interfaces.push_back(judgeInterface(interface, book));
        report.verdict = model::worse(report.verdict, report.interfaces.back().verdict);
    }
    if (asked.bell) {
        report.bell = judgeBell(*asked.bell, book);
        for (const Check& check : report.bell) report.verdict = model::worse(report.verdict, check.verdict);
    }
    for (const model::AngleReading& reading : asked.readings) report.angles.push_back(angleOf(asked, reading, report));
    return report;
}

} // namespace gabarit::driveline

#include "driveline/driveline.h"

#include "driveline/section/driveline.h"
#include "gearing/section/gearing.h"

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
    const model::Gearing* its = model::gearingOf(project);
    if (!its || !its->max_rpm) return std::nullopt;
    const model::Gearing& gearing = *its;
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
    const auto* section = project.sections.get<model::Driveline>();
    if (!section) return std::nullopt;
    const model::Driveline& asked = *section;
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
    const std::string unit = hanging ? "\"" + hanging->name + "\"" : "the unit that hangs";
    if (report.lines.empty()) report.missing.push_back("No line of shafts is given for " + unit + ".");
    for (const model::CouplingCheck& coupling : asked.couplings) {
        const auto its = std::find_if(asked.lines.begin(), asked.lines.end(),
                                      [&](const model::ShaftLine& line) { return line.id == coupling.line; });
        if (its != asked.lines.end() && ofAnother(its->from)) continue;
        report.couplings.push_back(judgeCoupling(project, coupling, book));
        report.verdict = model::worse(report.verdict, report.couplings.back().verdict);
    }
    for (const model::Interface& interface : asked.interfaces) {
        const model::Whose whose = model::whose(project, interface.donor);
        if (whose == model::Whose::Another) continue;
        report.interfaces.push_back(judgeInterface(interface, book));
        if (whose == model::Whose::NotSaid) {
            InterfaceReport& its = report.interfaces.back();
            its.reasons.push_back("It is not said which donor it belongs to.");
            its.verdict = model::worse(its.verdict, Verdict::Unknown);
            if (its.mating == Mating::Mates) its.mating = Mating::Unknown;
        }
        report.verdict = model::worse(report.verdict, report.interfaces.back().verdict);
    }
    if (report.interfaces.empty() && !asked.interfaces.empty())
        report.missing.push_back("No interface is given for " + unit + ".");
    const model::Whose bell = asked.bell ? model::whose(project, asked.bell->donor) : model::Whose::Hangs;
    if (bell == model::Whose::Another)
        report.missing.push_back("The bellhousing's stack is another donor's, none is given for " + unit + ".");
    if (bell == model::Whose::NotSaid)
        report.missing.push_back("It is not said which donor the bellhousing's stack belongs to.");
    if (asked.bell && bell != model::Whose::Another) {
        report.bell = judgeBell(*asked.bell, book);
        for (const Check& check : report.bell) report.verdict = model::worse(report.verdict, check.verdict);
    }
    if (!report.missing.empty()) report.verdict = model::worse(report.verdict, Verdict::Unknown);
    for (const model::AngleReading& reading : asked.readings) report.angles.push_back(angleOf(asked, reading, report));
    return report;
}

} // namespace gabarit::driveline

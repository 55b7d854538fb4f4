#include "study/driveline_findings.h"

#include "study/driveline_words.h"
#include "study/wording.h"

namespace gabarit::study {
namespace {

using driveline::Check;
using driveline::LineReport;
using model::Verdict;
using quantity::Shown;

/// Where on the line: its joint, or the middle of its shaft.
std::optional<Eigen::Vector3d> placeOf(const LineReport& line, const Check& check) {
    if (!line.usable) return std::nullopt;
    for (std::size_t i = 0; i < line.joints.size(); ++i)
        if (check.id.find("/joint-" + std::to_string(i + 1) + "/") != std::string::npos) return line.ride.joints_mm[i];
    for (std::size_t i = 0; i + 1 < line.ride.joints_mm.size(); ++i)
        if (check.id.find("/shaft-" + std::to_string(i + 1) + "/") != std::string::npos)
            return Eigen::Vector3d((line.ride.joints_mm[i] + line.ride.joints_mm[i + 1]) / 2);
    return line.ride.joints_mm.back();
}

bool isElectric(const model::Project& project) {
    const model::Donor* donor = model::activeDonor(project);
    if (!donor) return false;
    for (const model::Body& body : donor->bodies)
        if (body.category == "motor") return true;
    return false;
}

} // namespace

std::string drivelineCaution(const model::Project& project, const model::RuleBook& book, const Check& check) {
    const bool lift = check.id.size() > 5 && check.id.compare(check.id.size() - 5, 5, "/lift") == 0;
    std::string out = model::cautionAbout(book, lift ? "driveline/jack" : "driveline/shaft");
    if (isElectric(project)) out += " " + model::cautionAbout(book, "driveline/high_voltage");
    return out;
}

void addDriveline(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book, Shown shown) {
    const model::Project& project = *reports.project;
    if (reports.driveline) {
        for (const LineReport& line : reports.driveline->lines) {
            for (const Check& check : line.checks) {
                if (check.verdict == Verdict::Go) continue;
                Finding f = checkFinding(check, "driveline", shown);
                if (reports.driveline->lines.size() > 1 && f.title.find(line.name) == std::string::npos)
                    f.title = line.name + ", " + inSentence(f.title);
                f.help = helpWords(line, check, shown);
                f.place_vehicle_mm = placeOf(line, check);
                f.label = inSentence(check.what) + " " + valueWords(check, shown);
                f.caution = drivelineCaution(project, book, check);
                out.push_back(std::move(f));
            }
        }
        for (const driveline::CouplingReport& coupling : reports.driveline->couplings)
            for (const Check& check : coupling.checks) {
                if (check.verdict == Verdict::Go) continue;
                Finding f = checkFinding(check, "driveline", shown);
                f.help = couplingWords(project, coupling, shown);
                f.caution = model::cautionAbout(book, "driveline/shaft");
                out.push_back(std::move(f));
            }
        for (const driveline::InterfaceReport& interface : reports.driveline->interfaces) {
            if (interface.verdict == Verdict::Go) continue;
            Finding f;
            f.id = "driveline:interface/" + interface.id;
            f.discipline = "driveline";
            f.verdict = interface.verdict;
            f.title =
                interface.name + (interface.mating == driveline::Mating::DoesNot   ? " does not mate"
                                  : interface.mating == driveline::Mating::Adapter ? " mates with an adapter"
                                                                                   : ": whether it mates is not known");
            for (const std::string& reason : interface.reasons) f.detail += (f.detail.empty() ? "" : " ") + reason;
            if (!f.detail.empty() && f.detail.back() == '.') f.detail.pop_back();
            if (interface.mating == driveline::Mating::DoesNot)
                f.help = "Another part of the pair, or an adapter: name it under Driveline.";
            out.push_back(std::move(f));
        }
        if (!reports.driveline->missing.empty()) {
            Finding f;
            f.id = "driveline:missing";
            f.discipline = "driveline";
            f.verdict = Verdict::Unknown;
            f.title = "The driveline of the unit that hangs is not known";
            for (const std::string& what : reports.driveline->missing) f.detail += (f.detail.empty() ? "" : " ") + what;
            f.detail.pop_back();
            f.help = "Add it under Driveline, or name its donor there.";
            out.push_back(std::move(f));
        }
        for (const Check& check : reports.driveline->bell)
            if (check.verdict != Verdict::Go) {
                out.push_back(checkFinding(check, "driveline", shown));
                out.back().caution = model::cautionAbout(book, "driveline/bellhousing");
            }
    }
    if (reports.gearing && reports.gearing->verdict != Verdict::Go) {
        const gearing::GearingReport& g = *reports.gearing;
        Finding f;
        f.id = "gearing:asked";
        f.discipline = "gearing";
        f.verdict = g.verdict;
        if (g.speedo_error && g.speedo_verdict == Verdict::NoGo) {
            f.title = std::string("The speedometer shows too ") + (*g.speedo_error < 0 ? "little" : "much");
            f.detail = speedoWords(g, shown);
            f.rule = g.speedo_rule;
            f.help = "Another speedometer gear, a converter, or a tyre of the size it was made for.";
        } else {
            f.title = "The gearing is not known";
            for (const std::string& what : g.missing) f.detail += (f.detail.empty() ? "Not given: " : "; ") + what;
        }
        out.push_back(std::move(f));
    }
}

void addDrivelineGauges(std::vector<Gauge>& out, const Reports& reports, Shown shown) {
    if (!reports.driveline || reports.driveline->lines.empty()) return;
    const Check *turning = nullptr, *sliding = nullptr;
    std::string turning_line, sliding_line;
    const auto worse = [](const Check& a, const Check* b) {
        if (!b) return true;
        return a.verdict != b->verdict ? a.verdict > b->verdict : tightness(a) > tightness(*b);
    };
    bool slides = false;
    for (const LineReport& line : reports.driveline->lines)
        for (const Check& check : line.checks) {
            const auto holds = [&](const char* part) { return check.id.find(part) != std::string::npos; };
            const bool slip =
                holds("/reserve") || holds("/engaged") || holds("/order") || holds("/length") || holds("/lift");
            slides = slides || slip;
            const Check*& best = slip ? sliding : turning;
            if (!worse(check, best)) continue;
            best = &check;
            (slip ? sliding_line : turning_line) = line.name;
        }
    const auto subject = [](const Check* check, const std::string& line) {
        return check ? (check->what.find(line) == std::string::npos ? line + ": " : "") + inSentence(check->what) : "";
    };
    out.push_back(checkGauge("driveline", "driveline", "Driveline", turning, subject(turning, turning_line), shown));
    if (slides) out.push_back(checkGauge("driveline", "slip", "Slip", sliding, subject(sliding, sliding_line), shown));
}

} // namespace gabarit::study

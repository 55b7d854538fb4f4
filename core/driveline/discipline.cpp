#include "driveline/discipline.h"

#include "discipline/check_words.h"
#include "discipline/wording.h"
#include "driveline/words.h"
#include "driveline/written.h"

namespace gabarit::driveline {
namespace {

using discipline::Finding;
using discipline::Given;
using discipline::inSentence;
using discipline::Report;
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

/// Of what slides, not of what turns.
bool slips(const Check& check) {
    for (const char* part : {"/reserve", "/engaged", "/order", "/length", "/lift"})
        if (check.id.find(part) != std::string::npos) return true;
    return false;
}

void takeLines(Report& report, const std::shared_ptr<const DrivelineReport>& its, const Given& given) {
    std::vector<std::string> line_of; // of each check so far
    for (std::size_t i = 0; i < its->lines.size(); ++i) {
        const LineReport& line = its->lines[i];
        for (const Check& judged : line.checks) {
            Check check = judged;
            if (its->lines.size() > 1) check.of = line.name;
            check.caution = cautionOf(*given.project, given.book, judged);
            check.place_vehicle_mm = placeOf(line, judged);
            check.help = [its, i, judged](const Shown& shown) { return helpWords(its->lines[i], judged, shown); };
            check.label = [judged](const Shown& shown) {
                return inSentence(judged.what) + " " + discipline::valueWords(judged, shown);
            };
            report.hold(std::move(check));
            line_of.push_back(line.name);
        }
    }
    if (its->lines.empty()) return;
    const auto dial = [&](const char* id, const char* name, bool of_slip) {
        const auto worst =
            discipline::worstOf(report.checks, [&](const Check& check) { return slips(check) == of_slip; });
        if (of_slip && !worst) return;
        std::string subject;
        if (worst) {
            const Check& check = report.checks[*worst];
            subject = (check.what.find(line_of[*worst]) == std::string::npos ? line_of[*worst] + ": " : "") +
                      inSentence(check.what);
        }
        report.dials.push_back({id, name, worst, subject});
    };
    dial("driveline", "Driveline", false);
    dial("slip", "Slip", true);
}

void takeCouplings(Report& report, const std::shared_ptr<const DrivelineReport>& its, const Given& given) {
    for (std::size_t i = 0; i < its->couplings.size(); ++i)
        for (Check check : its->couplings[i].checks) {
            check.help = [its, i, project = given.project](const Shown& shown) {
                return couplingWords(*project, its->couplings[i], shown);
            };
            check.caution = model::cautionAbout(given.book, "driveline/shaft");
            report.hold(std::move(check));
        }
    for (Check check : its->bell) {
        check.caution = model::cautionAbout(given.book, "driveline/bellhousing");
        report.hold(std::move(check));
    }
}

Finding interfaceFinding(const InterfaceReport& interface) {
    Finding f;
    f.id = "driveline:interface/" + interface.id;
    f.discipline = "driveline";
    f.verdict = interface.verdict;
    f.title = interface.name + (interface.mating == Mating::DoesNot   ? " does not mate"
                                : interface.mating == Mating::Adapter ? " mates with an adapter"
                                                                      : ": whether it mates is not known");
    for (const std::string& reason : interface.reasons) f.detail += (f.detail.empty() ? "" : " ") + reason;
    if (!f.detail.empty() && f.detail.back() == '.') f.detail.pop_back();
    if (interface.mating == Mating::DoesNot)
        f.help = "Another part of the pair, or an adapter: name it under Driveline.";
    return f;
}

class Driveline : public discipline::Discipline {
public:
    Driveline()
        : Discipline(discipline::Card("driveline")
                         .prints("joints, shafts, slip, coupling and bellhousing, and what would put them right")
                         .at(30)
                         .in(discipline::Group::HoldAndDrive)
                         .reading({"vehicle", "donors", "placement", "pose", "driveline", "gearing"})) {}

    Report judge(const Given& given) const override {
        Report report;
        auto judged = driveline::driveline(*given.project, given.book);
        if (!judged) return report;
        const auto its = std::make_shared<const DrivelineReport>(std::move(*judged));
        takeLines(report, its, given);
        takeCouplings(report, its, given);
        report.take(its->verdict);
        report.parts.put(its);
        return report;
    }

    void tell(const Report& report, const discipline::Telling& telling, std::vector<Finding>& out) const override {
        Discipline::tell(report, telling, out);
        const auto* its = report.parts.get<DrivelineReport>();
        if (!its) return;
        for (const InterfaceReport& interface : its->interfaces)
            if (interface.verdict != Verdict::Go) out.push_back(interfaceFinding(interface));
        if (its->missing.empty()) return;
        Finding f;
        f.id = "driveline:missing";
        f.discipline = "driveline";
        f.verdict = Verdict::Unknown;
        f.title = "The driveline of the unit that hangs is not known";
        for (const std::string& what : its->missing) f.detail += (f.detail.empty() ? "" : " ") + what;
        f.detail.pop_back();
        f.help = "Add it under Driveline, or name its donor there.";
        out.push_back(std::move(f));
    }

    std::vector<discipline::Printed> prints() const override { return {{card().id, card().what, write, text}}; }
};

} // namespace

std::string cautionOf(const model::Project& project, const model::RuleBook& book, const Check& check) {
    const bool lift = check.id.size() > 5 && check.id.compare(check.id.size() - 5, 5, "/lift") == 0;
    std::string out = model::cautionAbout(book, lift ? "driveline/jack" : "driveline/shaft");
    if (isElectric(project)) out += " " + model::cautionAbout(book, "driveline/high_voltage");
    return out;
}

const discipline::Discipline& discipline() {
    static const Driveline driveline;
    return driveline;
}

} // namespace gabarit::driveline

#include "gearing/discipline.h"

#include "gearing/words.h"
#include "gearing/written.h"

namespace gabarit::gearing {
namespace {

using discipline::Finding;
using discipline::Report;
using model::Verdict;

class Gearing : public discipline::Discipline {
public:
    Gearing()
        : Discipline(discipline::Card("gearing")
                         .prints("speed, revs and pull by gear")
                         .at(40)
                         .in(discipline::Group::HoldAndDrive)
                         .reading({"vehicle", "donors", "placement", "gearing", "weights"})) {}

    Report judge(const discipline::Given& given) const override {
        Report report;
        auto its = gearing::gearing(*given.project, given.book);
        if (!its) return report;
        report.take(its->verdict);
        report.parts.put(std::move(*its));
        return report;
    }

    void tell(const Report& report, const discipline::Telling& telling, std::vector<Finding>& out) const override {
        const auto* its = report.parts.get<GearingReport>();
        if (!its || its->verdict == Verdict::Go) return;
        Finding f;
        f.id = "gearing:asked";
        f.discipline = "gearing";
        f.verdict = its->verdict;
        if (its->speedo_error && its->speedo_verdict == Verdict::NoGo) {
            f.title = std::string("The speedometer shows too ") + (*its->speedo_error < 0 ? "little" : "much");
            f.detail = speedoWords(*its, telling.shown);
            f.rule = its->speedo_rule;
            f.help = "Another speedometer gear, a converter, or a tyre of the size it was made for.";
        } else {
            f.title = "The gearing is not known";
            for (const std::string& what : its->missing) f.detail += (f.detail.empty() ? "Not given: " : "; ") + what;
        }
        out.push_back(std::move(f));
    }

    std::vector<discipline::Printed> prints() const override { return {{card().id, card().what, write, text}}; }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Gearing gearing;
    return gearing;
}

} // namespace gabarit::gearing

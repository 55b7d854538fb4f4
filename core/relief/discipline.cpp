#include "relief/discipline.h"

#include "discipline/wording.h"
#include "relief/fixed_near.h"

namespace gabarit::relief {
namespace {

using discipline::Report;
using model::Check;

struct ReliefMemory : discipline::Memory {
    ReliefMemo pockets;
    void forgetUnused() override { pockets.forgetUnused(); }
};

class Relief : public discipline::Discipline {
public:
    Relief()
        : Discipline(discipline::Card("relief")
                         .at(60)
                         .in(discipline::Group::HoldAndDrive)
                         .reading({"vehicle", "donors", "placement", "joined", "driveline", "mounts", "relief"})
                         .inScene()) {}

    std::unique_ptr<discipline::Memory> memory() const override { return std::make_unique<ReliefMemory>(); }

    Report judge(const discipline::Given& given) const override {
        Report report;
        auto* memory = static_cast<ReliefMemory*>(given.memory);
        auto its = judgeRelief(*given.project, given.book, {}, memory ? &memory->pockets : nullptr);
        if (!its) return report;
        addFixedNear(*its, *given.project, *given.scene, given.book, given.colliders);
        for (Check check : its->checks) {
            check.caution = model::cautionAbout(given.book, "relief/cut");
            for (const PocketReport& pocket : its->pockets)
                if (check.id.rfind(pocket.id + "/", 0) == 0 && pocket.made)
                    check.place_vehicle_mm = pocket.pose_vehicle_body * pocket.made->pose_body.translation();
            report.hold(std::move(check));
        }
        report.take(its->verdict);
        if (!its->pockets.empty())
            if (const auto worst = discipline::worstOf(report.checks, [](const Check&) { return true; }))
                report.dials.push_back(
                    {"relief", "Section left", worst, discipline::inSentence(report.checks[*worst].what)});
        report.parts.put(std::move(*its));
        return report;
    }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Relief relief;
    return relief;
}

} // namespace gabarit::relief

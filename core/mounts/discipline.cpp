#include "mounts/discipline.h"

#include "discipline/wording.h"
#include "mounts/apply.h"
#include "mounts/section/mounts.h"
#include "mounts/tuning_written.h"
#include "mounts/written.h"

namespace gabarit::mounts {
namespace {

using discipline::Report;
using model::Check;

/// A check with what can hurt there, and where its mount is.
Check placed(Check check, const MountsReport& report, const model::RuleBook& book) {
    const auto speaksOf = [&](const char* part) { return check.id.find(part) != std::string::npos; };
    if (speaksOf("/pad/") || speaksOf("/stand/") || check.id == "layout")
        check.caution = model::cautionAbout(book, "mounts/hang");
    else if (speaksOf("/pulled") || speaksOf("/torn"))
        check.caution = model::cautionAbout(book, "mounts/weld");
    for (const MountReport& mount : report.mounts)
        if (check.id.rfind(mount.id + "/", 0) == 0) check.place_vehicle_mm = mount.at_mm;
    return check;
}

class Mounts : public discipline::Discipline {
public:
    Mounts()
        : Discipline(discipline::Card("mounts")
                         .prints("what the unit hangs on: loads, deflections, how it shakes, bolts")
                         .at(50)
                         .in(discipline::Group::HoldAndDrive)
                         .reading({"vehicle", "donors", "placement", "pose", "joined", "measured", "parts", "gearing",
                                   "mounts"})
                         .needing({typeid(discipline::DrivenLoad)})
                         .offering({typeid(discipline::UnitRocking), typeid(discipline::WeldPull)})) {}

    Report judge(const discipline::Given& given) const override {
        Report report;
        if (!given.project->sections.get<model::Mounts>()) return report;
        const auto* driven = given.offers.get<discipline::DrivenLoad>();
        auto its =
            judgeMounts(*given.project, given.book, {driven ? std::optional(driven->load_kg) : std::nullopt, true});
        if (!its) return report;
        for (const Check& check : its->checks) report.hold(placed(check, *its, given.book));
        report.take(its->verdict);
        if (const auto worst = discipline::worstOf(report.checks, [](const Check&) { return true; }))
            report.dials.push_back({"mounts", "Mounts", worst, discipline::inSentence(report.checks[*worst].what)});
        report.offers.offer(discipline::WeldPull{its->weld_pull_mm});
        if (its->rocking) report.offers.offer(discipline::UnitRocking{*its->rocking});
        report.parts.put(std::move(*its));
        return report;
    }

    std::vector<discipline::Printed> prints() const override { return {{card().id, card().what, write, text}}; }

    std::vector<discipline::Search> searches() const override {
        discipline::SearchCard card{
            "tune-mounts", "Look for better rubbers, lean and place",
            "look for rubbers, lean and place of the mounts that hold the unit better, and what each buys", "unit"};
        card.pick = "aim";
        card.picks = {word(Aim::Balanced), word(Aim::Calm), word(Aim::Steady)};
        return {{card, [](const discipline::SearchGiven& given) -> Result<discipline::Found> {
                     const auto* driven = given.offers.get<discipline::DrivenLoad>();
                     const auto load = driven ? std::optional(driven->load_kg) : std::nullopt;
                     const auto tuned = tune(*given.project, given.book, {load}, {given.stop, given.progress});
                     if (!tuned) return tuned.error();
                     return found(*given.project, given.book, tuned.value(), given.shown);
                 }}};
    }

    std::vector<discipline::Deed> deeds() const override {
        using Given = discipline::DeedGiven;
        return {{"list-isolators", "unit", false, "Put the isolators into parts and weights", "list the isolators",
                 "put the mounts' isolators into parts and weights",
                 [](const Given& given) -> Result<model::Project> {
                     if (!given.project.sections.get<model::Mounts>())
                         return Error{"there are no mounts", "mounts", "add them first"};
                     return withIsolatorsListed(given.project, given.book);
                 }},
                {"bolt-there", "crossmember", true, "Bolt it there: the mount stands on its seat",
                 "bolt the crossmember",
                 "bolt a gearbox crossmember at the holes it is nearest to: the mount then stands on its seat",
                 [](const Given& given) { return withCrossmemberThere(given.project, given.book, given.item); }},
                {"make-frame", "frame", true, "Make its tubes: bodies and a part", "make the frame",
                 "make the tubes of a frame on seats: bodies and a part",
                 [](const Given& given) { return withFrameMade(given.project, given.book, given.item); }}};
    }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Mounts mounts;
    return mounts;
}

} // namespace gabarit::mounts

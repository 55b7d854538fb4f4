#include "ledger/discipline.h"

#include "discipline/check_words.h"
#include "ledger/written.h"
#include "parts/parts.h"

namespace gabarit::ledger {
namespace {

using discipline::Finding;
using discipline::Gauge;
using discipline::Report;
using model::Verdict;
using quantity::fixed;

class Ledger : public discipline::Discipline {
public:
    Ledger()
        : Discipline(discipline::Card("parts")
                         .prints("parts, states and money")
                         .at(80)
                         .reading({"vehicle", "donors", "placement", "parts", "money"})) {}

    Report judge(const discipline::Given& given) const override {
        Report report;
        if (!given.project->sections.get<model::Parts>()) return report;
        PartsReport its = ledger::parts(*given.project);
        if (its.verdict) report.take(*its.verdict);
        report.parts.put(std::move(its));
        return report;
    }

    void tell(const Report& report, const discipline::Telling&, std::vector<Finding>& out) const override {
        const auto* parts = report.parts.get<PartsReport>();
        if (!parts || !parts->verdict || *parts->verdict == Verdict::Go) return;
        Finding f;
        f.id = "parts:budget";
        f.discipline = "parts";
        f.verdict = *parts->verdict;
        f.title = f.verdict == Verdict::NoGo ? "The parts cost more than the budget"
                                             : "Whether the budget holds is not known";
        f.detail = parts->reason;
        if (parts->budget) {
            if (!f.detail.empty()) f.detail += "; ";
            f.detail += fixed(parts->total(), 0) + " of " + fixed(*parts->budget, 0) + " " + parts->currency;
        }
        out.push_back(std::move(f));
    }

    void show(const Report& report, const discipline::Telling&, std::vector<Gauge>& out) const override {
        const auto* parts = report.parts.get<PartsReport>();
        if (!parts) return;
        Gauge gauge;
        gauge.id = "cost";
        gauge.name = "To finish";
        gauge.figure = parts->to_spend;
        gauge.value = fixed(parts->to_spend, 0) + (parts->currency.empty() ? "" : " " + parts->currency);
        gauge.verdict = parts->verdict.value_or(Verdict::Unknown);
        gauge.subject = std::to_string(parts->missing) + (parts->missing == 1 ? " part missing" : " parts missing");
        if (parts->budget) {
            gauge.limit = fixed(parts->total(), 0) + " of " + fixed(*parts->budget, 0);
            if (*parts->budget > 0)
                gauge.pointer = discipline::pointerAt(*parts->budget - parts->total(), *parts->budget / 2);
        } else {
            gauge.limit = "no budget given";
        }
        if (parts->verdict && *parts->verdict != Verdict::Go) gauge.finding = "parts:budget";
        out.push_back(std::move(gauge));
    }

    std::vector<discipline::Printed> prints() const override { return {{card().id, card().what, write, text}}; }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Ledger ledger;
    return ledger;
}

} // namespace gabarit::ledger

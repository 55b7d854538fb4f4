#include "ledger/discipline.h"

#include "discipline/check_words.h"
#include "discipline/wording.h"
#include "ledger/written.h"
#include "parts/parts.h"

#include <algorithm>

namespace gabarit::ledger {
namespace {

using discipline::Finding;
using discipline::Gauge;
using discipline::Report;
using model::Verdict;
using quantity::fixed;

discipline::Held heldOf(const PartsReport& parts) {
    const std::string currency = parts.currency.empty() ? "" : " " + parts.currency;
    discipline::Held held;
    held.value = fixed(parts.total(), 0) + currency;
    if (!parts.budget) return held;
    held.wanted = "at most " + fixed(*parts.budget, 0) + currency;
    if (*parts.budget > 0) held.margin = (*parts.budget - parts.total()) / (*parts.budget / 2);
    return held;
}

Finding budget(const PartsReport& parts) {
    Finding f;
    f.id = "parts:budget";
    f.discipline = "parts";
    f.verdict = *parts.verdict;
    f.what = "All parts";
    f.held = heldOf(parts);
    return f;
}

class Ledger : public discipline::Discipline {
public:
    Ledger()
        : Discipline(discipline::Card("parts")
                         .prints("parts, states and money")
                         .at(80)
                         .in(discipline::Group::Money)
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
        Finding f = budget(*parts);
        f.title = f.verdict == Verdict::NoGo ? "The parts cost more than the budget"
                                             : "Whether the budget holds is not known";
        f.detail = parts->reason;
        if (parts->budget) {
            if (!f.detail.empty()) f.detail += "; ";
            f.detail += fixed(parts->total(), 0) + " of " + fixed(*parts->budget, 0) + " " + parts->currency;
        }
        out.push_back(std::move(f));
    }

    void list(const Report& report, const discipline::Telling&, std::vector<Finding>& out) const override {
        const auto* parts = report.parts.get<PartsReport>();
        if (parts && parts->verdict == Verdict::Go) out.push_back(budget(*parts));
    }

    std::optional<discipline::Why> why(const Report& report, const discipline::Telling&,
                                       const Finding& of) const override {
        const auto* parts = report.parts.get<PartsReport>();
        if (!parts || of.id != "parts:budget") return std::nullopt;
        using Kind = discipline::WhyLine::Kind;
        const auto say = [&](double sum) {
            return fixed(sum, 0) + (parts->currency.empty() ? "" : " " + parts->currency);
        };
        discipline::Why why;
        why.lines = {{Kind::Is, "Spent", say(parts->spent), "parts here or on order", parts->spent},
                     {Kind::Takes, "To finish", "+" + say(parts->to_spend), "parts still needed", parts->to_spend},
                     {Kind::Takes, "Sold", say(-parts->income), "parts taken off", -parts->income},
                     {Kind::Left, "All parts", say(parts->total()), "", parts->total()}};
        if (parts->budget) {
            why.lines.push_back({Kind::Wanted, "At most", say(*parts->budget), "the budget", *parts->budget});
            const double left = *parts->budget - parts->total();
            why.so = (left < 0 ? say(-left) + " too much" : say(left) + " to spare") + ": " +
                     model::word(*parts->verdict) + ".";
        }
        if (!parts->reason.empty()) why.so += (why.so.empty() ? "" : " ") + discipline::upperFirst(parts->reason) + ".";
        return why;
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
            if (const auto margin = heldOf(*parts).margin) gauge.pointer = discipline::pointerAt(*margin, 1);
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

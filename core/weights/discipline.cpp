#include "weights/discipline.h"

#include "discipline/check_words.h"
#include "discipline/wording.h"
#include "weights/driven_load.h"
#include "weights/section/weights.h"
#include "weights/written.h"

#include <algorithm>

namespace gabarit::weights {
namespace {

using discipline::Finding;
using discipline::Gauge;
using discipline::Report;
using model::Verdict;
using quantity::Shown;

discipline::Held heldOf(const AxleLoad& axle, Shown shown) {
    discipline::Held held;
    held.value = axle.load_kg ? quantity::massText(*axle.load_kg, shown) : "not known";
    if (axle.limit_kg) held.wanted = "at most " + quantity::massText(*axle.limit_kg, shown);
    if (axle.load_kg && axle.limit_kg && *axle.limit_kg > 0) {
        constexpr double usual_spread_share = 0.25; // of the limit
        const double scale_kg = *axle.limit_kg * usual_spread_share;
        held.margin = (*axle.limit_kg - *axle.load_kg) / scale_kg;
        held.doubt = axle.accuracy_kg.value_or(0) / scale_kg;
    }
    return held;
}

Finding axleFinding(const char* id, const char* name, const AxleLoad& axle, Shown shown) {
    Finding f;
    f.id = std::string("weights:") + id;
    f.discipline = "weights";
    f.verdict = axle.verdict;
    f.what = name;
    f.held = heldOf(axle, shown);
    return f;
}

void addAxle(std::vector<Finding>& out, const char* id, const char* name, const AxleLoad& axle, Shown shown) {
    if (axle.verdict == Verdict::Go) return;
    Finding f = axleFinding(id, name, axle, shown);
    if (axle.verdict == Verdict::Unknown) {
        f.title = std::string(name) + " load is not known";
        f.detail = axle.reason;
        f.help = "Fill it in under Weights in the project file.";
    } else {
        f.title = std::string(name) + (axle.verdict == Verdict::NoGo ? " is overloaded" : " is close to its limit");
        f.detail =
            quantity::massText(*axle.load_kg, shown) + " of " + quantity::massText(*axle.limit_kg, shown) + " allowed";
        if (axle.verdict == Verdict::Close)
            f.help = "Weigh it again: ±" + quantity::massText(*axle.accuracy_kg, shown) + " stands behind it.";
        else
            f.help = "Move mass towards the other axle or leave something out; the axle's maker sets the limit.";
    }
    out.push_back(std::move(f));
}

Gauge axleGauge(const char* id, const char* name, const AxleLoad& axle, Shown shown) {
    const discipline::Held held = heldOf(axle, shown);
    Gauge gauge;
    gauge.id = id;
    gauge.name = name;
    gauge.verdict = axle.verdict;
    gauge.figure = axle.load_kg;
    gauge.value = held.value;
    gauge.limit = axle.limit_kg ? "limit " + quantity::massText(*axle.limit_kg, shown) : "no limit given";
    gauge.subject = axle.reason;
    if (held.margin) gauge.pointer = discipline::pointerAt(*held.margin, 1);
    if (axle.verdict != Verdict::Go) gauge.finding = std::string("weights:") + id;
    return gauge;
}

class Weights : public discipline::Discipline {
public:
    Weights()
        : Discipline(discipline::Card("weights")
                         .prints("axle loads before and after")
                         .at(70)
                         .in(discipline::Group::Loads)
                         .reading({"vehicle", "donors", "placement", "pose", "parts", "mounts", "driveline", "weights"})
                         .offering({typeid(discipline::AxleChange), typeid(discipline::DrivenLoad)})) {}

    Report judge(const discipline::Given& given) const override {
        Report report;
        if (auto lift = hoist(*given.project)) report.parts.put(std::move(*lift));
        if (!given.project->sections.get<model::Weights>()) return report;
        AxleLoadReport loads = axleLoads(*given.project, given.book);
        report.take(loads.verdict);
        report.offers.offer(discipline::AxleChange{loads.front.change_kg, loads.rear.change_kg, loads.left_out});
        if (const auto driven = drivenLoad_kg(*given.project, loads))
            report.offers.offer(discipline::DrivenLoad{*driven});
        report.parts.put(std::move(loads));
        return report;
    }

    void tell(const Report& report, const discipline::Telling& telling, std::vector<Finding>& out) const override {
        const auto* loads = report.parts.get<AxleLoadReport>();
        if (!loads) return;
        addAxle(out, "front", "Front axle", loads->front, telling.shown);
        addAxle(out, "rear", "Rear axle", loads->rear, telling.shown);
    }

    void list(const Report& report, const discipline::Telling& telling, std::vector<Finding>& out) const override {
        const auto* loads = report.parts.get<AxleLoadReport>();
        if (!loads) return;
        const auto add = [&](const char* id, const char* name, const AxleLoad& axle) {
            if (axle.verdict == Verdict::Go) out.push_back(axleFinding(id, name, axle, telling.shown));
        };
        add("front", "Front axle", loads->front);
        add("rear", "Rear axle", loads->rear);
    }

    std::optional<discipline::Why> why(const Report& report, const discipline::Telling& telling,
                                       const Finding& of) const override {
        const auto* loads = report.parts.get<AxleLoadReport>();
        if (!loads) return std::nullopt;
        const AxleLoad& axle = of.id == "weights:front" ? loads->front : loads->rear;
        using Kind = discipline::WhyLine::Kind;
        const auto say = [&](double kg) { return quantity::massText(kg, telling.shown); };
        discipline::Why why;
        if (!axle.load_kg) {
            why.so = discipline::upperFirst(axle.reason) + ".";
            return why;
        }
        if (axle.before_kg && axle.change_kg) {
            why.lines.push_back(
                {Kind::Is, "Before", say(*axle.before_kg), "as it was weighed or catalogued", *axle.before_kg});
            why.lines.push_back({Kind::Takes, "The swap", (*axle.change_kg < 0 ? "" : "+") + say(*axle.change_kg),
                                 "what is taken off and put on (Weights)", *axle.change_kg});
        }
        why.lines.push_back(
            {why.lines.empty() ? Kind::Is : Kind::Left, "After", say(*axle.load_kg), "", *axle.load_kg});
        if (axle.accuracy_kg && *axle.accuracy_kg > 0)
            why.lines.push_back({Kind::Doubt, "Doubt", "±" + say(*axle.accuracy_kg), "of the weighing and the masses",
                                 *axle.accuracy_kg});
        if (axle.limit_kg) {
            why.lines.push_back({Kind::Wanted, "At most", say(*axle.limit_kg), "the axle's limit", *axle.limit_kg});
            const double left_kg = *axle.limit_kg - *axle.load_kg;
            why.so = (left_kg < 0 ? say(-left_kg) + " too much" : say(left_kg) + " to spare") + ": " +
                     model::word(axle.verdict) + ".";
        }
        if (axle.verdict != Verdict::Go) why.most = "Move mass towards the other axle, or leave something out.";
        return why;
    }

    void show(const Report& report, const discipline::Telling& telling, std::vector<Gauge>& out) const override {
        const auto* loads = report.parts.get<AxleLoadReport>();
        if (!loads) return;
        out.push_back(axleGauge("front", "Front axle", loads->front, telling.shown));
        out.push_back(axleGauge("rear", "Rear axle", loads->rear, telling.shown));
    }

    std::vector<discipline::Printed> prints() const override { return {{card().id, card().what, write, text}}; }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Weights weights;
    return weights;
}

} // namespace gabarit::weights

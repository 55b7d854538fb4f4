#include "weights/discipline.h"

#include "discipline/check_words.h"
#include "weights/driven_load.h"
#include "weights/section/weights.h"
#include "weights/written.h"

namespace gabarit::weights {
namespace {

using discipline::Finding;
using discipline::Gauge;
using discipline::Report;
using model::Verdict;
using quantity::Shown;

void addAxle(std::vector<Finding>& out, const char* id, const char* name, const AxleLoad& axle, Shown shown) {
    if (axle.verdict == Verdict::Go) return;
    Finding f;
    f.id = std::string("weights:") + id;
    f.discipline = "weights";
    f.verdict = axle.verdict;
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
    constexpr double usual_spread_share = 0.25; // of the limit
    Gauge gauge;
    gauge.id = id;
    gauge.name = name;
    gauge.verdict = axle.verdict;
    gauge.figure = axle.load_kg;
    gauge.value = axle.load_kg ? quantity::massText(*axle.load_kg, shown) : "not known";
    gauge.limit = axle.limit_kg ? "limit " + quantity::massText(*axle.limit_kg, shown) : "no limit given";
    gauge.subject = axle.reason;
    if (axle.load_kg && axle.limit_kg && *axle.limit_kg > 0)
        gauge.pointer = discipline::pointerAt(*axle.limit_kg - *axle.load_kg, *axle.limit_kg * usual_spread_share);
    if (axle.verdict != Verdict::Go) gauge.finding = std::string("weights:") + id;
    return gauge;
}

class Weights : public discipline::Discipline {
public:
    Weights()
        : Discipline(discipline::Card("weights")
                         .prints("axle loads before and after")
                         .at(70)
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

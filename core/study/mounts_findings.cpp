#include "study/mounts_findings.h"

#include "study/check_words.h"
#include "study/wording.h"

namespace gabarit::study {

using model::Check;
using model::Verdict;
using quantity::Shown;

std::optional<double> drivenLoad_kg(const model::Project& project, const model::RuleBook& book) {
    if (!project.weights || !project.vehicle || !project.driveline || !project.vehicle->wheelbase_mm)
        return std::nullopt;
    const weights::AxleLoadReport loads = weights::axleLoads(project, book);
    bool front = false, rear = false;
    for (const model::ShaftLine& line : project.driveline->lines) {
        if (line.run == model::Run::Rearward) rear = true;
        if (line.run == model::Run::Forward) front = true;
        if (line.half_shaft) (line.to.at_mm.x() < *project.vehicle->wheelbase_mm / 2 ? front : rear) = true;
    }
    double sum = 0;
    for (const auto& [driven, load] : {std::pair(front, &loads.front), std::pair(rear, &loads.rear)}) {
        if (!driven) continue;
        if (!load->load_kg) return std::nullopt;
        sum += *load->load_kg;
    }
    return sum > 0 ? std::optional(sum) : std::nullopt;
}

void addMounts(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book, Shown shown) {
    if (!reports.mounts) return;
    for (const Check& check : reports.mounts->checks) {
        if (check.verdict == Verdict::Go) continue;
        Finding f = checkFinding(check, "mounts", shown);
        const auto speaksOf = [&](const char* part) { return check.id.find(part) != std::string::npos; };
        if (speaksOf("/pad/") || speaksOf("/stand/") || check.id == "layout")
            f.caution = model::cautionAbout(book, "mounts/hang");
        else if (speaksOf("/pulled") || speaksOf("/torn"))
            f.caution = model::cautionAbout(book, "mounts/weld");
        for (const mounts::MountReport& mount : reports.mounts->mounts)
            if (check.id.rfind(mount.id + "/", 0) == 0) f.place_vehicle_mm = mount.at_mm;
        out.push_back(std::move(f));
    }
}

void addMountsGauge(std::vector<Gauge>& out, const Reports& reports, Shown shown) {
    if (!reports.mounts || reports.mounts->checks.empty()) return;
    const Check* worst = nullptr;
    for (const Check& check : reports.mounts->checks)
        if (!worst || check.verdict > worst->verdict ||
            (check.verdict == worst->verdict && tightness(check) > tightness(*worst)))
            worst = &check;
    out.push_back(checkGauge("mounts", "mounts", "Mounts", worst, inSentence(worst->what), shown));
}

} // namespace gabarit::study

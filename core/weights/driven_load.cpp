#include "weights/driven_load.h"

#include "driveline/section/driveline.h"
#include "weights/section/weights.h"

namespace gabarit::weights {

std::optional<double> drivenLoad_kg(const model::Project& project, const AxleLoadReport& loads) {
    const auto* driveline = project.sections.get<model::Driveline>();
    if (!project.vehicle || !driveline || !project.vehicle->wheelbase_mm) return std::nullopt;
    bool front = false, rear = false;
    for (const model::ShaftLine& line : driveline->lines) {
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

std::optional<double> drivenLoad_kg(const model::Project& project, const model::RuleBook& book) {
    if (!project.sections.get<model::Weights>()) return std::nullopt;
    return drivenLoad_kg(project, axleLoads(project, book));
}

} // namespace gabarit::weights

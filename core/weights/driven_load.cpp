#include "weights/driven_load.h"

namespace gabarit::weights {

std::optional<double> drivenLoad_kg(const model::Project& project, const AxleLoadReport& loads) {
    if (!project.vehicle || !project.driveline || !project.vehicle->wheelbase_mm) return std::nullopt;
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

std::optional<double> drivenLoad_kg(const model::Project& project, const model::RuleBook& book) {
    if (!project.weights) return std::nullopt;
    return drivenLoad_kg(project, axleLoads(project, book));
}

} // namespace gabarit::weights

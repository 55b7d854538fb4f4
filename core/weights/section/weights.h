// The section "weights": what the vehicle weighed, and what its axles may carry.
#pragma once

#include "model/donor.h"
#include "model/sections.h"

namespace gabarit::model {

struct AxlePair {
    std::optional<double> front_kg;
    std::optional<double> rear_kg;
};

/// What stands on each wheel, seen from the driver's seat.
struct CornerLoads {
    std::optional<double> front_left_kg, front_right_kg, rear_left_kg, rear_right_kg;
    bool any() const { return front_left_kg || front_right_kg || rear_left_kg || rear_right_kg; }
};

/// Weights of the vehicle before anything came off.
struct Weights {
    AxlePair bare;
    CornerLoads corners;               ///< before anything came off, where each wheel was weighed
    std::optional<double> height_mm;   ///< of its centre of gravity then, above the datum
    std::string basis;                 ///< "weighed" or "catalogue"
    std::optional<double> accuracy_kg; ///< of each bare axle load; what is put on and taken off has its own
    AxlePair limit;
    std::string limit_source;
    std::vector<Mass> loads; ///< fluids, occupants, load; vehicle frame
    Extras extras;
};

void describe(describe::Visitor& v, Weights& weights);

} // namespace gabarit::model

namespace gabarit::weights {

model::SectionKind section();

} // namespace gabarit::weights

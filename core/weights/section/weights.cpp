#include "weights/section/weights.h"

#include "model/describe.h"

namespace gabarit::model {

using describe::Member;
using describe::Owned;
using describe::Visitor;

void describe(Visitor& v, AxlePair& axles) {
    v.type("axle_pair");
    v.number(Member("front_kg").mass(), axles.front_kg);
    v.number(Member("rear_kg").mass(), axles.rear_kg);
}

void describe(Visitor& v, CornerLoads& corners) {
    v.type("corners");
    v.number(Member("front_left_kg", "left and right from the driver's seat").mass(), corners.front_left_kg);
    v.number(Member("front_right_kg").mass(), corners.front_right_kg);
    v.number(Member("rear_left_kg").mass(), corners.rear_left_kg);
    v.number(Member("rear_right_kg").mass(), corners.rear_right_kg);
}

void describe(Visitor& v, Weights& weights) {
    v.type("weights");
    const Owned its(v, vehicle_owner);
    v.object(Member("bare", "on each axle, before anything came off"), weights.bare);
    v.object(Member("corners", "what stood on each wheel; an axle that is not given is their sum"), weights.corners);
    v.number(Member("height_mm", "of the centre of gravity above the datum, before anything came off")
                 .offset()
                 .heightIn(vehicle_owner),
             weights.height_mm);
    v.text(Member("basis", "weighed or catalogue"), weights.basis);
    v.number(
        Member("accuracy_kg", "of each bare axle load; what is put on or taken off has its own by `mass_from`").mass(),
        weights.accuracy_kg);
    v.object(Member("limit", "what each axle may carry"), weights.limit);
    v.text(Member("limit_source"), weights.limit_source);
    v.list(Member("loads", "fluids, occupants, in the vehicle's frame").each("load"), weights.loads);
    v.extras(weights.extras);
}

} // namespace gabarit::model

namespace gabarit::weights {

model::SectionKind section() { return model::sectionKind<model::Weights>("weights", "", 60); }

} // namespace gabarit::weights

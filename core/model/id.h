// Typed names, so that undo, files and reports stay valid when things are copied about.
#pragma once

#include "describe/extras.h"

#include <string>

namespace gabarit::model {

/// An id of one kind. Unique among its kind within its owner; never a pointer, never an index.
template <class Tag>
struct Id {
    std::string text;

    bool empty() const { return text.empty(); }
    friend bool operator==(const Id& a, const Id& b) { return a.text == b.text; }
    friend bool operator!=(const Id& a, const Id& b) { return a.text != b.text; }
    friend bool operator<(const Id& a, const Id& b) { return a.text < b.text; }
};

using BodyId = Id<struct BodyTag>;
using DonorId = Id<struct DonorTag>;
using PlacementId = Id<struct PlacementTag>;
using PartId = Id<struct PartTag>;
using PointId = Id<struct PointTag>;

/// The owner's name in a reference to one of the vehicle's bodies.
inline const char* const vehicle_owner = "vehicle";

/// A body of the vehicle (owner "vehicle") or of a donor (owner = the donor's id).
struct BodyRef {
    std::string owner;
    BodyId body;

    bool inVehicle() const { return owner == vehicle_owner; }
    /// "vehicle/front-crossmember", as in the file.
    std::string text() const { return owner + "/" + body.text; }
    friend bool operator==(const BodyRef& a, const BodyRef& b) { return a.owner == b.owner && a.body == b.body; }
    friend bool operator!=(const BodyRef& a, const BodyRef& b) { return !(a == b); }
    friend bool operator<(const BodyRef& a, const BodyRef& b) {
        return a.owner != b.owner ? a.owner < b.owner : a.body < b.body;
    }
};

using Extras = describe::Extras;

} // namespace gabarit::model

// What the room's makers of solids share of Open CASCADE. Internal to the room.
#pragma once

#include "shape/solid.h"

#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS_Shape.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>

namespace gabarit::shape {

struct Solid::Hidden {
    TopoDS_Shape shape;
    bool flat = false;
};

inline gp_Pnt pnt(const Eigen::Vector3d& p) { return {p.x(), p.y(), p.z()}; }
inline gp_Dir dir(const Eigen::Vector3d& d) { return {d.x(), d.y(), d.z()}; }

inline void silence() {
    static const bool done = [] {
        Message::DefaultMessenger()->ChangePrinters().Clear();
        return true;
    }();
    (void)done;
}

inline Error impossible(std::string what, std::string mend) { return Error{std::move(what), "", std::move(mend)}; }

/// A door for library exceptions: Standard_Failure is not a std::exception.
template <class F>
auto guarded(F work) -> decltype(work()) {
    silence();
    try {
        return work();
    } catch (const Standard_Failure& failure) {
        return Error{std::string("the solid cannot be made (") + failure.GetMessageString() + ")", "",
                     "check its measurements"};
    } catch (const std::exception& failure) {
        return Error{std::string("the solid cannot be made (") + failure.what() + ")", "", "check its measurements"};
    }
}

inline TopoDS_Wire polygonWire(const std::vector<Eigen::Vector3d>& points) {
    BRepBuilderAPI_MakePolygon polygon;
    for (const Eigen::Vector3d& p : points) polygon.Add(pnt(p));
    polygon.Close();
    return polygon.Wire();
}

inline double volumeOf(const TopoDS_Shape& shape) {
    GProp_GProps properties;
    BRepGProp::VolumeProperties(shape, properties);
    return properties.Mass();
}

inline gp_Trsf trsf(const Eigen::Isometry3d& pose) {
    const auto& m = pose.matrix();
    gp_Trsf t;
    t.SetValues(m(0, 0), m(0, 1), m(0, 2), m(0, 3), m(1, 0), m(1, 1), m(1, 2), m(1, 3), m(2, 0), m(2, 1), m(2, 2),
                m(2, 3));
    return t;
}

} // namespace gabarit::shape

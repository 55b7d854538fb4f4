#include "model/shape_spec.h"

#include <Eigen/Geometry>

#include <cstring>

namespace gabarit::model {
namespace {

/// Appends the bytes of every number: exact, and quick to compare.
struct KeyWriter {
    std::string key;

    void put(double v) {
        const double plain = v == 0 ? 0 : v; // −0 and 0 are one shape
        char bytes[sizeof plain];
        std::memcpy(bytes, &plain, sizeof plain);
        key.append(bytes, sizeof bytes);
    }
    template <class V>
    void vector(const V& v) {
        for (int i = 0; i < v.size(); ++i) put(v[i]);
    }
    template <class V>
    void list(const std::vector<V>& all) {
        put(static_cast<double>(all.size()));
        for (const V& v : all) vector(v);
    }

    void operator()(const BoxSpec& s) { vector(s.size_mm); }
    void operator()(const CylinderSpec& s) {
        vector(s.from_mm);
        vector(s.to_mm);
        put(s.diameter_mm);
    }
    void operator()(const SphereSpec& s) { put(s.diameter_mm); }
    void operator()(const TubeSpec& s) {
        list(s.path_mm);
        put(s.diameter_mm);
        put(s.bend_radius_mm);
    }
    void operator()(const RectTubeSection& s) { walled(s); }
    void operator()(const CSection& s) { walled(s); }
    void operator()(const PolygonSection& s) { list(s.points_mm); }
    void operator()(const RoundTubeSection& s) {
        put(s.diameter_mm);
        put(s.wall_mm);
    }
    void operator()(const ProfileSpec& s) {
        put(static_cast<double>(s.section.index()));
        std::visit(*this, s.section);
        vector(s.from_mm);
        vector(s.to_mm);
        put(s.roll_deg);
    }
    void operator()(const PlateSpec& s) {
        list(s.outline_mm);
        put(s.thickness_mm);
    }
    void operator()(const SheetSpec& s) {
        put(static_cast<double>(s.along));
        put(s.thickness_mm);
        for (const SheetStation& station : s.stations) {
            put(station.at_mm);
            list(station.points_mm);
        }
    }

private:
    template <class S>
    void walled(const S& s) {
        put(s.width_mm);
        put(s.height_mm);
        put(s.wall_mm);
    }
};

} // namespace

void sectionAxes(const Eigen::Vector3d& direction, Eigen::Vector3d& u, Eigen::Vector3d& v) {
    constexpr double nearly_vertical = 0.999; // within 2.6° of Z, where "up" no longer says anything
    const Eigen::Vector3d up =
        std::abs(direction.z()) > nearly_vertical ? Eigen::Vector3d::UnitX() : Eigen::Vector3d::UnitZ();
    u = up.cross(direction).normalized();
    v = direction.cross(u);
}

std::string shapeKey(const ShapeSpec& shape) {
    KeyWriter writer;
    writer.put(static_cast<double>(shape.index()));
    std::visit([&writer](const auto& spec) { writer(spec); }, shape);
    return writer.key;
}

} // namespace gabarit::model

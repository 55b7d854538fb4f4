#include "model/validate_mounts.h"

namespace gabarit::model {
namespace {

constexpr double stiffest_n_per_mm = 1e7; // steel on steel
constexpr double most_n = 1e7;
constexpr double most_kg_m2 = 1e5;
constexpr double no_length = 1e-9;

class Checker : public ValueChecker {
public:
    using ValueChecker::ValueChecker;

    void direction(const Eigen::Vector3d& v, const std::string& where) {
        if (!v.allFinite() || v.norm() < no_length) say_(where, "it has no direction", "give it any length above zero");
    }
    void face(const MountFace& f, const std::string& where) {
        place(f.at_mm, where + ", at_mm");
        direction(f.out, where + ", out");
        direction(f.mark, where + ", mark");
        if (f.out.cross(f.mark).norm() < no_length)
            say_(where + ", mark", "it points out of the face", "give a direction across it");
        for (const Eigen::Vector2d& hole : f.holes_mm) place({hole.x(), hole.y(), 0}, where + ", holes_mm");
        within(f.thread_mm, 1, 100, where + ", thread_mm", "mm");
        size(f.depth_mm, where + ", depth_mm");
        length(f.accuracy_mm, where + ", accuracy_mm");
    }
    void bolting(const Bolting& b, const std::string& where) {
        within(b.used, 0, 100, where + ", used", "");
        size(b.length_mm, where + ", length_mm");
        length(b.clamped_mm, where + ", clamped_mm");
        within(b.torque_nm, 0, 1e4, where + ", torque_nm", "N·m");
    }
    void isolator(const Isolator& s) {
        const std::string where = "mounts, isolator \"" + s.name + "\"";
        id(s.id, where);
        within(s.axial_n_per_mm, 0, stiffest_n_per_mm, where + ", axial_n_per_mm", "N/mm");
        within(s.shear_n_per_mm, 0, stiffest_n_per_mm, where + ", shear_n_per_mm", "N/mm");
        within(s.shear2_n_per_mm, 0, stiffest_n_per_mm, where + ", shear2_n_per_mm", "N/mm");
        within(s.rating_n, 1, most_n, where + ", rating_n", "N");
        length(s.stop_in_mm, where + ", stop_in_mm");
        length(s.stop_out_mm, where + ", stop_out_mm");
        length(s.stop_side_mm, where + ", stop_side_mm");
        within(s.damping, 0, 1, where + ", damping", "");
        length(s.height_mm, where + ", height_mm");
        length(s.diameter_mm, where + ", diameter_mm");
        within(s.mass_kg, 0, 1000, where + ", mass_kg", "kg");
        within(s.cost, 0, 1e7, where + ", cost", "");
    }
    void mount(const Mount& m) {
        const std::string where = "mounts, mount \"" + m.name + "\"";
        id(m.id, where);
        face(m.pad, where + ", pad");
        if (m.stand) face(*m.stand, where + ", stand");
        if (m.centre_mm) place(*m.centre_mm, where + ", centre_mm");
        if (m.axis) direction(*m.axis, where + ", axis");
        bolting(m.pad_bolts, where + ", pad_bolts");
        bolting(m.stand_bolts, where + ", stand_bolts");
        within(m.cost, 0, 1e7, where + ", cost", "");
    }
    void inertia(const Inertia& i) {
        const std::string where = "mounts, inertia";
        const Eigen::Vector3d& a = i.moments_kg_m2;
        if (!a.allFinite() || !i.products_kg_m2.allFinite() || a.minCoeff() <= 0 || a.maxCoeff() > most_kg_m2)
            return say_(where, "a moment of inertia is not above zero", "check its digits and unit (kg·m²)");
        // No body has one that is more than the two others together.
        if (2 * a.maxCoeff() > a.sum() * (1 + no_length))
            say_(where, "one moment is more than the two others together", "no body is like that: check the three");
    }
};

} // namespace

void validateMounts(const Mounts& mounts, const Say& say) {
    Checker check(say);
    for (const Mount& mount : mounts.mounts) check.mount(mount);
    for (const Isolator& isolator : mounts.isolators) check.isolator(isolator);
    if (mounts.inertia) check.inertia(*mounts.inertia);
    if (mounts.running) {
        const Running& r = *mounts.running;
        const std::string where = "mounts, running";
        check.within(r.cylinders, 1, 24, where + ", cylinders", "");
        check.within(r.idle_rpm, 50, 20000, where + ", idle_rpm", "rpm");
        check.within(r.reciprocating_kg, 0, 100, where + ", reciprocating_kg", "kg");
        check.size(r.stroke_mm, where + ", stroke_mm");
        check.size(r.rod_mm, where + ", rod_mm");
    }
    check.within(mounts.torque_nm, 0, 1e5, "mounts, torque_nm", "N·m");
    check.within(mounts.driven_axle_kg, 0, 1e5, "mounts, driven_axle_kg", "kg");
}

} // namespace gabarit::model

#include "model/validate_mounts.h"

namespace gabarit::model {
namespace {

constexpr double stiffest_n_per_mm = 1e7; // steel on steel
constexpr double most_n = 1e7;
constexpr double most_kg_m2 = 1e5;

class MountsChecker : public ValueChecker {
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
        size(b.threaded_mm, where + ", threaded_mm");
        size(b.nut_socket_mm, where + ", nut_socket_mm");
        within(b.torque_nm, 0, 1e4, where + ", torque_nm", "N·m");
    }
    void isolator(const Isolator& s) {
        const std::string where = "mounts, isolator \"" + s.name + "\"";
        id(s.id, where);
        within(s.axial_n_per_mm, 0, stiffest_n_per_mm, where + ", axial_n_per_mm", "N/mm");
        within(s.shear_n_per_mm, 0, stiffest_n_per_mm, where + ", shear_n_per_mm", "N/mm");
        within(s.shear2_n_per_mm, 0, stiffest_n_per_mm, where + ", shear2_n_per_mm", "N/mm");
        within(s.rating_n, 1, most_n, where + ", rating_n", "N");
        within(s.shear_rating_n, 1, most_n, where + ", shear_rating_n", "N");
        length(s.stop_in_mm, where + ", stop_in_mm");
        length(s.stop_out_mm, where + ", stop_out_mm");
        length(s.stop_side_mm, where + ", stop_side_mm");
        within(s.damping, 0, 1, where + ", damping", "");
        length(s.height_mm, where + ", height_mm");
        length(s.diameter_mm, where + ", diameter_mm");
        within(s.mass_kg, 0, 1000, where + ", mass_kg", "kg");
        within(s.cost, 0, 1e7, where + ", cost", "");
    }
    void bracket(const Bracket& b, const std::string& where) {
        size(b.tube_mm, where + ", tube_mm");
        size(b.wall_mm, where + ", wall_mm");
        size(b.plate_mm, where + ", plate_mm");
        if (b.tube_mm && b.wall_mm && *b.wall_mm * 2 >= *b.tube_mm)
            say_(where + ", wall_mm", "it is half the tube or more", "check both figures");
        length(b.gusset_mm, where + ", gusset_mm");
        size(b.throat_mm, where + ", throat_mm");
        length(b.slot_mm, where + ", slot_mm");
        length(b.dowel_mm, where + ", dowel_mm");
        within(b.yield_mpa, 50, 3000, where + ", yield_mpa", "N/mm²");
        for (const Eigen::Vector3d& via : b.via_mm) place(via, where + ", via_mm");
    }
    void row(const HoleRow& r) {
        const std::string where = "mounts, row \"" + r.name + "\"";
        id(r.id, where);
        place(r.at_mm, where + ", at_mm");
        within(r.count, 1, 1000, where + ", count", "");
        if (r.count > 1) direction(r.step_mm, where + ", step_mm");
        size(r.hole_mm, where + ", hole_mm");
        length(r.slot_mm, where + ", slot_mm");
        length(r.accuracy_mm, where + ", accuracy_mm");
    }
    void crossmember(const Crossmember& c) {
        const std::string where = "mounts, crossmember \"" + c.name + "\"";
        id(c.id, where);
        place(c.seat_mm, where + ", seat_mm");
        length(c.slot_mm, where + ", slot_mm");
        size(c.depth_mm, where + ", depth_mm");
        for (const Passage& p : c.passages) {
            place({0, p.at_mm.x(), p.at_mm.y()}, where + ", passage \"" + p.name + "\"");
            size(p.diameter_mm, where + ", passage \"" + p.name + "\", diameter_mm");
        }
    }
    void frame(const SeatFrame& f) {
        const std::string where = "mounts, frame \"" + f.name + "\"";
        id(f.id, where);
        for (const auto& member : f.members_mm) {
            if (member.size() < 2)
                say_(where + ", members", "a member has fewer than two corners", "give both its ends");
            for (std::size_t i = 0; i < member.size(); ++i) {
                place(member[i], where + ", members");
                if (i > 0 && (member[i] - member[i - 1]).norm() < no_length)
                    say_(where + ", members", "two of its corners are one place", "take one of them out");
            }
        }
        size(f.width_mm, where + ", width_mm");
        size(f.height_mm, where + ", height_mm");
        size(f.wall_mm, where + ", wall_mm");
    }
    void mount(const Mount& m) {
        const std::string where = "mounts, mount \"" + m.name + "\"";
        id(m.id, where);
        face(m.pad, where + ", pad");
        if (m.stand) face(*m.stand, where + ", stand");
        if (m.centre_mm) place(*m.centre_mm, where + ", centre_mm");
        if (m.axis) direction(*m.axis, where + ", axis");
        if (m.bracket) bracket(*m.bracket, where + ", bracket");
        if (m.tower) bracket(*m.tower, where + ", tower");
        for (const MountOption& o : m.options) within(o.cost, 0, 1e7, where + ", option \"" + o.name + "\", cost", "");
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
    MountsChecker check(say);
    for (const Mount& mount : mounts.mounts) check.mount(mount);
    for (const Isolator& isolator : mounts.isolators) check.isolator(isolator);
    for (const HoleRow& row : mounts.rows) check.row(row);
    for (const Crossmember& crossmember : mounts.crossmembers) check.crossmember(crossmember);
    for (const OldSeat& seat : mounts.seats) {
        check.id(seat.id, "mounts, seat \"" + seat.name + "\"");
        check.face(seat.face, "mounts, seat \"" + seat.name + "\", face");
    }
    for (const SeatFrame& frame : mounts.frames) check.frame(frame);
    for (const OldMount& old : mounts.old_mounts) check.id(old.id, "mounts, old mount \"" + old.name + "\"");
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

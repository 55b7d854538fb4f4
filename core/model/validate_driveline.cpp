#include "model/validate_driveline.h"

#include "model/value_checker.h"

namespace gabarit::model {
namespace {

constexpr double steepest_deg = 80;    // beyond it no shaft's axis is told by two views
constexpr double fastest_rpm = 200000; // no drive unit turns faster
constexpr std::size_t most_joints = 8;

class DrivelineChecker : public ValueChecker {
public:
    using ValueChecker::ValueChecker;

    void flange(const FlangePlace& f, const std::string& where) {
        place(f.at_mm, where + ", at_mm");
        signedLength(f.joint_mm, where + ", joint_mm");
        within(f.down_deg, -steepest_deg, steepest_deg, where + ", down_deg", "degrees");
        within(f.aside_deg, -steepest_deg, steepest_deg, where + ", aside_deg", "degrees");
        length(f.accuracy_mm, where + ", accuracy_mm");
        within(f.accuracy_deg, 0, steepest_deg, where + ", accuracy_deg", "degrees");
    }

    void line(const ShaftLine& line) {
        const std::string where = "driveline, line \"" + line.name + "\"";
        id(line.id, where);
        flange(line.from, where + ", from");
        flange(line.to, where + ", to");
        length(line.path.bump_mm, where + ", path, bump_mm");
        length(line.path.droop_mm, where + ", path, droop_mm");
        within(line.path.windup_up_deg, 0, 45, where + ", path, windup_up_deg", "degrees");
        within(line.path.windup_down_deg, 0, 45, where + ", path, windup_down_deg", "degrees");
        within(line.path.shim_deg, -45, 45, where + ", path, shim_deg", "degrees");
        for (const Eigen::Vector3d* at : {&line.path.centre_mm, &line.path.axis_a_mm, &line.path.axis_b_mm})
            place(*at, where + ", path");
        for (const PathLink& link : line.path.links) {
            place(link.fixed_mm, where + ", path, links");
            place(link.moving_mm, where + ", path, links");
        }
        if (line.path.links.size() > 2)
            say_(where + ", path", "more than two links lead it in the side view", "give one or two");
        if (line.joints.size() > most_joints)
            say_(where, "it has more than " + std::to_string(most_joints) + " joints", "part it into two lines");
        for (const Joint& joint : line.joints)
            within(joint.max_deg, 0, 90, where + ", joint \"" + joint.name + "\", max_deg", "degrees");
        for (const Shaft& shaft : line.shafts) {
            const std::string at = where + ", shaft \"" + shaft.name + "\"";
            within(shaft.phase_deg, -360, 360, at + ", phase_deg", "degrees");
            size(shaft.tube_mm, at + ", tube_mm");
            size(shaft.wall_mm, at + ", wall_mm");
            size(shaft.closed_mm, at + ", closed_mm");
            length(shaft.spline_mm, at + ", spline_mm");
            size(shaft.spline_diameter_mm, at + ", spline_diameter_mm");
            size(shaft.length_mm, at + ", length_mm");
            length(shaft.accuracy_mm, at + ", accuracy_mm");
        }
        for (const CentreBearing& bearing : line.bearings) {
            place(bearing.at_mm, where + ", bearing \"" + bearing.name + "\"");
            signedLength(bearing.joint_mm, where + ", bearing \"" + bearing.name + "\", joint_mm");
        }
        within(line.top_rpm, 0, fastest_rpm, where + ", top_rpm", "rpm");
    }

    void coupling(const CouplingCheck& c) {
        const std::string where = "driveline, coupling \"" + c.name + "\"";
        id(c.id, where);
        length(c.radius_mm, where + ", radius_mm");
        signedLength(c.to_gearbox_mount_mm, where + ", to_gearbox_mount_mm");
        signedLength(c.to_front_mounts_mm, where + ", to_front_mounts_mm");
        std::set<std::string> tries;
        for (const CouplingTry& t : c.tries) {
            const std::string at = where + ", try \"" + t.name + "\"";
            if (t.id.empty() || !tries.insert(t.id).second)
                say_(at, "its id is empty or used twice", "give it an id of its own");
            within(t.slope_deg, -steepest_deg, steepest_deg, at + ", slope_deg", "degrees");
            for (const CouplingReading& r : t.readings) {
                within(r.clock_deg, -720, 720, at + ", clock_deg", "degrees");
                within(r.turn_deg, -3600, 3600, at + ", turn_deg", "degrees");
                signedLength(r.mm, at + ", mm");
                size(r.accuracy_mm, at + ", accuracy_mm");
            }
        }
    }

    void interface(const Interface& i) {
        const std::string where = "driveline, interface \"" + i.name + "\"";
        id(i.id, where);
        for (const InterfaceSide* side : {&i.a, &i.b}) {
            within(side->count, 1, 500, where + ", count", "");
            for (const auto& value : {side->diameter_mm, side->pilot_mm, side->bolt_mm, side->span_mm, side->length_mm})
                size(value, where);
        }
    }
};

} // namespace

void validateDriveline(const Driveline& driveline, const Say& say) {
    DrivelineChecker check(say);
    for (const ShaftLine& line : driveline.lines) check.line(line);
    for (const CouplingCheck& coupling : driveline.couplings) check.coupling(coupling);
    for (const Interface& interface : driveline.interfaces) check.interface(interface);
    for (const AngleReading& reading : driveline.readings) {
        const std::string where = "driveline, reading of \"" + reading.place + "\"";
        check.id(reading.id, where);
        check.within(reading.reading_deg, -180, 180, where + ", reading_deg", "degrees");
        check.within(reading.slope_deg, -steepest_deg, steepest_deg, where + ", slope_deg", "degrees");
        check.within(reading.accuracy_deg, 0, steepest_deg, where + ", accuracy_deg", "degrees");
    }
    check.within(driveline.checked_rpm, 0, fastest_rpm, "driveline, checked_rpm", "rpm");
    if (!driveline.bell) return;
    const BellStack& b = *driveline.bell;
    const std::pair<const char*, const Sized*> sizes[] = {{"adapter_plate", &b.adapter_plate},
                                                          {"crank_flange", &b.crank_flange},
                                                          {"flywheel", &b.flywheel},
                                                          {"clutch", &b.clutch},
                                                          {"bell_depth", &b.bell_depth},
                                                          {"release_at_rest", &b.release_at_rest},
                                                          {"release_travel", &b.release_travel},
                                                          {"finger_travel", &b.finger_travel},
                                                          {"shaft_tip", &b.shaft_tip},
                                                          {"shaft_shoulder", &b.shaft_shoulder},
                                                          {"pilot_mouth", &b.pilot_mouth},
                                                          {"pilot_bottom", &b.pilot_bottom},
                                                          {"spline_from", &b.spline_from},
                                                          {"spline_to", &b.spline_to},
                                                          {"hub_from", &b.hub_from},
                                                          {"hub_to", &b.hub_to},
                                                          {"starter_face", &b.starter_face},
                                                          {"starter_rest", &b.starter_rest},
                                                          {"starter_out", &b.starter_out},
                                                          {"ring_from", &b.ring_from},
                                                          {"ring_width", &b.ring_width}};
    for (const auto& [name, sized] : sizes) {
        const std::string where = std::string("driveline, bell, ") + name;
        check.signedLength(sized->mm, where);
        check.length(sized->tolerance_mm, where + ", tolerance_mm");
    }
    check.within(b.overhung_kg, 0, 1e5, "driveline, bell, overhung_kg", "kg");
}

void validateGearing(const Gearing& gearing, const Say& say) {
    DrivelineChecker check(say);
    const std::string where = "gearing";
    for (const Gear& gear : gearing.gears)
        check.within(gear.ratio, 0.05, 200, where + ", gear \"" + gear.name + "\", ratio", "");
    check.within(gearing.transfer_high, 0.05, 200, where + ", transfer_high", "");
    check.within(gearing.transfer_low, 0.05, 200, where + ", transfer_low", "");
    check.within(gearing.final_drive, 0.05, 200, where + ", final_drive", "");
    check.within(gearing.max_rpm, 1, fastest_rpm, where + ", max_rpm", "rpm");
    check.within(gearing.mass_kg, 1, 1e5, where + ", mass_kg", "kg");
    check.within(gearing.loss, 0, 0.9, where + ", loss", "");
    check.within(gearing.cruise_kmh, 1, 1000, where + ", cruise_kmh", "km/h");
    check.within(gearing.wanted_cruise_rpm, 1, fastest_rpm, where + ", wanted_cruise_rpm", "rpm");
    check.within(gearing.speedo_final_drive, 0.05, 200, where + ", speedo_final_drive", "");
    for (const TorquePoint& point : gearing.torque) {
        check.within(point.rpm, 0, fastest_rpm, where + ", torque, rpm", "rpm");
        check.within(point.torque_nm, 0, 1e5, where + ", torque, torque_nm", "N·m");
    }
    // A tyre size that cannot be read makes its figures unknown and is named there (gearing): it stops no file.
    if (!gearing.original) return;
    check.within(gearing.original->final_drive, 0.05, 200, where + ", original, final_drive", "");
    check.within(gearing.original->mass_kg, 1, 1e5, where + ", original, mass_kg", "kg");
}

} // namespace gabarit::model

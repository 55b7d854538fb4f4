#include "model/validate_relief.h"

namespace gabarit::model {
namespace {

constexpr double steepest_flank_deg = 75; // beyond it an end is a bottom
constexpr double flattest_end_deg = 10;   // a tube that nearly lies along what it is cut to

class ReliefChecker : public ValueChecker {
public:
    using ValueChecker::ValueChecker;

    void pocket(const Pocket& p) {
        const std::string where = "relief, pocket \"" + p.name + "\"";
        id(p.id, where);
        place(p.at_mm, where + ", at_mm");
        if (!p.into.allFinite() || p.into.norm() < no_length)
            say_(where + ", into", "it has no direction", "give it any length above zero");
        if (!p.along.allFinite() || p.into.cross(p.along).norm() < no_length)
            say_(where + ", along", "it has no direction across `into`", "give the direction of the pocket's length");
        size(p.length_mm, where + ", length_mm");
        size(p.width_mm, where + ", width_mm");
        size(p.depth_mm, where + ", depth_mm");
        within(p.flank_deg, 0, steepest_flank_deg, where + ", flank_deg", "°");
        length(p.corner_mm, where + ", corner_mm");
        size(p.plate_mm, where + ", plate_mm");
        length(p.doubler_mm, where + ", doubler_mm");
        length(p.doubler_over_mm, where + ", doubler_over_mm");
        size(p.measured_length_mm, where + ", measured_length_mm");
        size(p.measured_width_mm, where + ", measured_width_mm");
        size(p.measured_depth_mm, where + ", measured_depth_mm");
    }
    void hole(const KeptHole& h) {
        const std::string where = "relief, hole \"" + h.name + "\"";
        id(h.id, where);
        place(h.at_mm, where + ", at_mm");
        length(h.diameter_mm, where + ", diameter_mm");
    }
    void end(const TubeEnd& e, const std::string& where) {
        length(e.diameter_mm, where + ", diameter_mm");
        within(e.angle_deg, flattest_end_deg, 180 - flattest_end_deg, where + ", angle_deg", "°");
        signedLength(e.offset_mm, where + ", offset_mm");
        within(e.turn_deg, -360, 360, where + ", turn_deg", "°");
    }
    void tube(const CutTube& t) {
        const std::string where = "relief, tube \"" + t.name + "\"";
        id(t.id, where);
        size(t.diameter_mm, where + ", diameter_mm");
        size(t.wall_mm, where + ", wall_mm");
        if (t.wall_mm * 2 >= t.diameter_mm)
            say_(where + ", wall_mm", "it is half the tube or more", "check both figures");
        size(t.length_mm, where + ", length_mm");
        end(t.first, where + ", first");
        end(t.second, where + ", second");
        within(t.count, 1, 1000, where + ", count", "");
    }
    void plate(const PatternPlate& p) {
        const std::string where = "relief, plate \"" + p.name + "\"";
        id(p.id, where);
        within(p.turn_deg, -360, 360, where + ", turn_deg", "°");
        place({p.to_mm.x(), p.to_mm.y(), 0}, where + ", to_mm");
        for (const PlateHole& h : p.holes) {
            place({h.at_mm.x(), h.at_mm.y(), 0}, where + ", hole \"" + h.name + "\", at_mm");
            size(h.diameter_mm, where + ", hole \"" + h.name + "\", diameter_mm");
        }
        size(p.thickness_mm, where + ", thickness_mm");
        length(p.edge_mm, where + ", edge_mm");
        length(p.replaces_mm, where + ", replaces_mm");
        length(p.seal_mm, where + ", seal_mm");
        size(p.bolt_mm, where + ", bolt_mm");
        within(p.count, 1, 1000, where + ", count", "");
    }
};

} // namespace

void validateRelief(const Relief& relief, const Say& say) {
    ReliefChecker check(say);
    for (const Pocket& pocket : relief.pockets) check.pocket(pocket);
    for (const KeptHole& hole : relief.holes) check.hole(hole);
    for (const CutTube& tube : relief.tubes) check.tube(tube);
    for (const PatternPlate& plate : relief.plates) check.plate(plate);
}

} // namespace gabarit::model

#include "model/tape.h"
#include "model/validate_driveline.h"
#include "model/validate_mounts.h"
#include "model/validate_relief.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace gabarit::model {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

// A kilometre: no shop holds more, and distances keep a thousandth of a millimetre in float trees.
constexpr double largest_length_mm = 1e6;
// What a list may hold: many times what a swap has, and still judged within half a minute (docs/format.md).
constexpr std::size_t most_bodies = 2000;
// A hundred tonnes.
constexpr double largest_mass_kg = 1e5;
// Below this a solid cannot be told from nothing.
constexpr double smallest_length_mm = 1e-3;

bool isLength(double v) { return std::isfinite(v) && std::abs(v) <= largest_length_mm; }
bool isSize(double v) { return isLength(v) && v >= smallest_length_mm; }
bool isBox(const Vector3d& size) { return isSize(size.x()) && isSize(size.y()) && isSize(size.z()); }
template <class V>
bool isPlace(const V& v) {
    for (int i = 0; i < v.size(); ++i)
        if (!isLength(v[i])) return false;
    return true;
}

class Checker {
public:
    explicit Checker(const RuleBook& book) : book_(book) {}
    std::vector<Error> take() { return std::move(found_); }

    void say(std::string where, std::string what, std::string mend) {
        found_.push_back(Error{std::move(what), std::move(where), std::move(mend)});
    }
    void need(bool holds, const std::string& where, const char* what, const char* mend) {
        if (!holds) say(where, what, mend);
    }
    void id(std::set<std::string>& seen, const std::string& id, const std::string& where) {
        if (id.empty())
            say(where, "its id is empty", "give it an id");
        else if (id.find('/') != std::string::npos)
            say(where, "its id \"" + id + "\" holds a slash", "take the slash out");
        else if (!seen.insert(id).second)
            say(where, "the id \"" + id + "\" is used twice", "give one of them another id");
    }
    void place(const Vector3d& at, const std::string& where) {
        need(isPlace(at), where, "a coordinate is not a length below 1 km", "check its digits and unit (mm)");
    }
    void mass(const std::optional<double>& kg, const std::string& where) {
        need(!kg || (std::isfinite(*kg) && *kg >= 0 && *kg <= largest_mass_kg), where,
             "mass_kg is not between 0 and 100 000", "check its digits and unit (kg)");
    }
    void measured(const Provenance& measured, const std::string& where) {
        const std::string& path = measured.picture;
        const bool leaves = !path.empty() && (path[0] == '/' || path == ".." || path.rfind("../", 0) == 0 ||
                                              path.find("/../") != std::string::npos ||
                                              (path.size() > 2 && path.compare(path.size() - 3, 3, "/..") == 0));
        need(!leaves && path.find('\\') == std::string::npos, where, "its picture lies outside the project's folder",
             "put it beside the project and name it from there");
    }
    void accuracy(const std::optional<double>& mm, const std::string& where) {
        need(!mm || (isLength(*mm) && *mm >= 0), where, "accuracy_mm is below zero or not a number",
             "give the ± of the measurement in mm, or leave it out when it is not known");
    }
    void angles(const Angles& a, const std::string& where) {
        for (const double v : {a.yaw_deg, a.pitch_deg, a.roll_deg})
            need(std::isfinite(v) && std::abs(v) <= 360, where, "an angle is not between −360° and 360°",
                 "check it (degrees)");
    }

    void body(const Body& b, const std::string& where) {
        need(!b.name.empty(), where, "it has no name", "name it");
        if (!book_.category(b.category))
            say(where, "the category \"" + b.category + "\" is not known", "use one of docs/format.md's list");
        place(b.position_mm, where + ", position_mm");
        place(b.shift_mm, where + ", shift_mm");
        angles(b.angles, where);
        mass(b.mass_kg, where);
        accuracy(b.accuracy_mm, where);
        measured(b.measured, where);
        need(!b.off || b.standing != Standing::Removed, where, "it is both off and removed", "keep one of the two");
        need(!(b.may.never && (b.may.be_cut || b.may.be_moved || b.may.be_removed)), where,
             "\"never\" stands beside other permissions", "keep either never or the others");
        std::visit([&](const auto& spec) { shape(spec, where + ", shape"); }, b.shape);
    }
    void bodies(const std::vector<Body>& all, const std::string& owner) {
        if (all.size() > most_bodies)
            return say(owner + ", bodies", "there are more than " + std::to_string(most_bodies) + " of them",
                       "leave out what nothing can come near, or measure several as one");
        std::set<std::string> seen;
        for (const Body& b : all) {
            const std::string where = owner + ", body \"" + (b.name.empty() ? b.id.text : b.name) + "\"";
            id(seen, b.id.text, where);
            body(b, where);
        }
    }
    void points(const std::vector<HardPoint>& all, const std::string& owner) {
        std::set<std::string> seen;
        for (const HardPoint& p : all) {
            const std::string where = owner + ", point \"" + p.name + "\"";
            id(seen, p.id.text, where);
            place(p.at_mm, where);
            accuracy(p.accuracy_mm, where);
            measured(p.measured, where);
            need(!p.size_mm || (isPlace(*p.size_mm) && p.size_mm->minCoeff() >= 0), where, "size_mm is below zero",
                 "give the opening's extent along x, y and z in mm");
        }
    }
    void option(const std::string& text, const std::vector<Choice>& choices, const std::string& where) {
        if (text.empty()) return;
        const auto slash = text.find('/');
        for (const Choice& c : choices)
            for (const Option& o : c.options)
                if (slash != std::string::npos && c.id == text.substr(0, slash) && o.id == text.substr(slash + 1))
                    return;
        say(where, "there is no option \"" + text + "\"", "write choice-id/option-id of one of its owner's choices");
    }
    void choices(const std::vector<Choice>& all, const std::string& owner) {
        std::set<std::string> seen;
        for (const Choice& c : all) {
            const std::string where = owner + ", choice \"" + c.name + "\"";
            id(seen, c.id, where);
            need(!c.options.empty(), where, "it has no options", "give it at least one");
            std::set<std::string> options;
            for (const Option& o : c.options) id(options, o.id, where + ", option \"" + o.name + "\"");
        }
    }
    void serviced(const std::vector<ServicedBolt>& all, const std::vector<Body>& bodies, const std::string& owner) {
        std::set<std::string> seen;
        for (const ServicedBolt& bolt : all) {
            const std::string where = owner + ", serviced \"" + bolt.name + "\"";
            id(seen, bolt.id, where);
            place(bolt.at_mm, where);
            accuracy(bolt.accuracy_mm, where);
            need(isPlace(bolt.along) && bolt.along.norm() >= smallest_length_mm, where, "along has no direction",
                 "give the way out of the bolt's head, as [0, 0, 1]");
            need(!bolt.socket_mm || isSize(*bolt.socket_mm), where, "socket_mm is not above zero",
                 "give the socket's outside diameter in mm");
            need(!bolt.pull_mm || (isSize(*bolt.pull_mm) && !bolt.in.empty()), where,
                 "pull_mm is not above zero, or nothing is named that comes off",
                 "give how far it comes and the body it sits in, or leave pull_mm out");
            need(!bolt.length_mm || isSize(*bolt.length_mm), where, "length_mm is not above zero",
                 "give the length that must be free, or leave it out for a usual tool");
            bool known = bolt.in.empty();
            for (const Body& b : bodies) known = known || b.id == bolt.in;
            if (!known)
                say(where, "there is no body \"" + bolt.in.text + "\" for it to sit in",
                    "name one of the same owner's bodies or leave it out");
        }
    }
    void motions(const std::vector<MotionSpec>& all, const std::vector<HardPoint>& points,
                 const std::vector<Body>& bodies, const std::string& owner, bool vehicle) {
        std::set<std::string> seen;
        std::map<std::string, std::string> movers; // what moves a body, so that nothing is moved twice
        for (const MotionSpec& m : all) {
            const std::string where = owner + ", motion \"" + m.name + "\"";
            id(seen, m.id, where);
            need(!m.name.empty(), where, "it has no name", "name it");
            need(vehicle || m.kind == MotionKind::Spin, where, "on a donor only what spins moves by itself",
                 "make it spin, or give it to the vehicle");
            constexpr double steepest_deg = 60;
            for (const double mm : {m.bump_mm, m.droop_mm})
                need(isLength(mm) && mm >= 0, where, "bump_mm or droop_mm is below zero",
                     "give how far it goes from ride height, both above zero");
            for (const double deg : {m.roll_deg, m.left_deg, m.right_deg})
                need(std::isfinite(deg) && deg >= 0 && deg <= steepest_deg, where, "an angle is not between 0° and 60°",
                     "check it (degrees)");
            need(!m.stops_apart_mm || isSize(*m.stops_apart_mm), where, "stops_apart_mm is not above zero",
                 "give the distance between the bump stops, or leave it out");
            place(m.slide_mm, where + ", slide_mm");
            measured(m.measured, where);
            const auto point = [&](const PointId& ref, bool asked, const char* what) {
                if (ref.empty()) return need(!asked, where, what, "name one of its owner's points");
                const auto is = [&](const HardPoint& p) { return p.id == ref; };
                if (std::none_of(points.begin(), points.end(), is))
                    say(where, "there is no point \"" + ref.text + "\"", "name one of its owner's points");
            };
            const bool turns = m.kind == MotionKind::Arm || m.kind == MotionKind::Steered;
            point(m.at, m.kind == MotionKind::Axle || m.kind == MotionKind::Arm,
                  "the point at its centre or tip lacks");
            point(m.axis_a, turns, "a point of its axis lacks");
            point(m.axis_b, turns, "a point of its axis lacks");
            need(m.axis_a.empty() == m.axis_b.empty(), where, "a point of its axis lacks", "name both");
            for (const MotionLink& link : m.links) {
                point(link.fixed, true, "a link lacks its point on the frame");
                point(link.moving, true, "a link lacks its point on the axle");
            }
            need(m.links.size() <= 2, where, "it has more than two links in the side view", "give one side's links");
            const auto other = [&](const std::string& ref, bool arms_only, const char* mend) {
                if (ref.empty()) return;
                const auto is = [&](const MotionSpec& o) {
                    return o.id == ref && o.id != m.id && o.with.empty() &&
                           (o.kind == MotionKind::Arm || (!arms_only && o.kind == MotionKind::Axle));
                };
                if (std::none_of(all.begin(), all.end(), is))
                    say(where, "\"" + ref + "\" is not there or cannot carry it", mend);
            };
            other(m.with, true, "name an arm that has its own travel");
            other(m.on, false, "name an axle, or an arm that has its own travel");
            for (const auto* list : {&m.bodies, &m.carried})
                for (const BodyId& body : *list) {
                    const auto is = [&](const Body& b) { return b.id == body; };
                    if (std::none_of(bodies.begin(), bodies.end(), is))
                        say(where, "there is no body \"" + body.text + "\"", "name one of its owner's bodies");
                    if (m.kind == MotionKind::Spin) continue; // what spins may also be carried
                    const auto taken = movers.emplace(body.text, m.name);
                    if (!taken.second)
                        say(where, "the body \"" + body.text + "\" is moved by \"" + taken.first->second + "\" too",
                            "take it out of one of them");
                }
        }
    }
    void stances(const std::vector<Stance>& all) {
        std::set<std::string> seen;
        for (const Stance& stance : all) {
            const std::string where = "vehicle, stance \"" + stance.name + "\"";
            id(seen, stance.id, where);
            need(isLength(stance.front_mm) && isLength(stance.rear_mm), where,
                 "front_mm or rear_mm is not a length below 1 km", "check its digits and unit (mm)");
        }
    }
    void springs(const Springs& springs) {
        constexpr double stiffest_n_per_mm = 1e5;
        for (const auto& rate : {springs.front_n_per_mm, springs.rear_n_per_mm})
            need(!rate || (*rate > 0 && *rate <= stiffest_n_per_mm), "vehicle, springs",
                 "a spring rate is not above zero", "give both springs of the axle together in N/mm, at the wheels");
    }
    void rocking(const Rocking& r, const std::string& where) {
        constexpr double steepest_deg = 30;
        need(std::isfinite(r.roll_deg) && r.roll_deg >= 0 && r.roll_deg <= steepest_deg, where + ", rocking",
             "roll_deg is not between 0° and 30°", "give how far it rolls to each side");
        for (const double mm : {r.up_mm, r.down_mm, r.along_mm})
            need(isLength(mm) && mm >= 0, where + ", rocking", "a length is below zero", "give how far it goes, in mm");
        need(!r.stop_mm || (isLength(*r.stop_mm) && *r.stop_mm >= 0), where + ", rocking", "stop_mm is below zero",
             "give how far a mount can go before it stops");
    }
    void donor(const Donor& d) {
        const std::string owner = "donor \"" + d.name + "\"";
        bodies(d.bodies, owner);
        for (const Body& b : d.bodies) option(b.option, d.choices, owner + ", body \"" + b.name + "\"");
        for (const HardPoint& p : d.reference_points) option(p.option, d.choices, owner + ", point \"" + p.name + "\"");
        choices(d.choices, owner);
        motions(d.motions, d.reference_points, d.bodies, owner, false);
        serviced(d.serviced, d.bodies, owner);
        points(d.reference_points, owner);
        for (const Mass& m : d.masses) {
            mass(m.mass_kg, owner + ", mass \"" + m.name + "\"");
            place(m.at_mm, owner + ", mass \"" + m.name + "\"");
            option(m.option, d.choices, owner + ", mass \"" + m.name + "\"");
        }
    }

private:
    void shape(const BoxSpec& s, const std::string& where) {
        for (int i = 0; i < 3; ++i)
            need(isSize(s.size_mm[i]), where, "a size of the box is not above zero", "give three sizes in mm");
    }
    void shape(const CylinderSpec& s, const std::string& where) {
        place(s.from_mm, where);
        place(s.to_mm, where);
        need(isSize(s.diameter_mm), where, "diameter_mm is not above zero", "give the diameter in mm");
        need(isSize((s.to_mm - s.from_mm).norm()), where, "the cylinder has no length", "set from_mm and to_mm apart");
    }
    void shape(const SphereSpec& s, const std::string& where) {
        need(isSize(s.diameter_mm), where, "diameter_mm is not above zero", "give the diameter in mm");
    }
    void shape(const TubeSpec& s, const std::string& where) {
        need(s.path_mm.size() >= 2, where, "the path has fewer than two points", "give at least two");
        need(isSize(s.diameter_mm), where, "diameter_mm is not above zero", "give the outside diameter in mm");
        need(isLength(s.bend_radius_mm) && s.bend_radius_mm >= 0, where, "bend_radius_mm is below zero",
             "give the centreline radius in mm");
        for (const Vector3d& p : s.path_mm) place(p, where);
    }
    void shape(const ProfileSpec& s, const std::string& where) {
        place(s.from_mm, where);
        place(s.to_mm, where);
        need(isSize((s.to_mm - s.from_mm).norm()), where, "the profile has no length", "set from_mm and to_mm apart");
        need(std::isfinite(s.roll_deg) && std::abs(s.roll_deg) <= 360, where, "roll_deg is not between −360 and 360",
             "check it");
        std::visit([&](const auto& section) { this->section(section, where); }, s.section);
    }
    void section(const RectTubeSection& s, const std::string& where) {
        need(isSize(s.width_mm) && isSize(s.height_mm), where, "width_mm or height_mm is not above zero",
             "give both in mm");
        need(isSize(s.wall_mm) && 2 * s.wall_mm < std::min(s.width_mm, s.height_mm), where,
             "the wall is not between zero and half the smaller side", "check wall_mm");
    }
    void section(const CSection& s, const std::string& where) {
        need(isSize(s.width_mm) && isSize(s.height_mm), where, "width_mm or height_mm is not above zero",
             "give both in mm");
        need(isSize(s.wall_mm) && s.wall_mm < s.width_mm && 2 * s.wall_mm < s.height_mm, where, "the wall leaves no C",
             "check wall_mm against width_mm and height_mm");
    }
    void section(const RoundTubeSection& s, const std::string& where) {
        need(isSize(s.diameter_mm), where, "diameter_mm is not above zero", "give the outside diameter in mm");
        need(isSize(s.wall_mm) && 2 * s.wall_mm < s.diameter_mm, where, "the wall is not between zero and the radius",
             "check wall_mm");
    }
    void section(const PolygonSection& s, const std::string& where) { polygon(s.points_mm, where); }
    void polygon(const std::vector<Vector2d>& points, const std::string& where) {
        need(points.size() >= 3, where, "the outline has fewer than three points", "give at least three");
        double area = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            const Vector2d& p = points[i];
            const Vector2d& q = points[(i + 1) % points.size()];
            need(isPlace(p), where, "a coordinate of the outline is not a length below 1 km", "check its digits");
            area += p.x() * q.y() - p.y() * q.x();
        }
        need(std::abs(area) >= smallest_length_mm, where, "the outline encloses nothing", "check its points");
    }
    void shape(const PlateSpec& s, const std::string& where) {
        need(isSize(s.thickness_mm), where, "thickness_mm is not above zero", "give it in mm");
        polygon(s.outline_mm, where);
    }
    void shape(const SheetSpec& s, const std::string& where) {
        need(isSize(s.thickness_mm), where, "thickness_mm is not above zero", "give it in mm");
        need(s.stations.size() >= 2, where, "there are fewer than two stations", "measure at least two");
        const std::size_t count = s.stations.empty() ? 0 : s.stations.front().points_mm.size();
        need(count >= 2, where, "a station has fewer than two points", "give at least two");
        for (std::size_t i = 0; i < s.stations.size(); ++i) {
            need(isLength(s.stations[i].at_mm), where, "at_mm is not a length below 1 km", "check its digits");
            need(s.stations[i].points_mm.size() == count, where, "the stations have different numbers of points",
                 "give each station the same number");
            need(i == 0 || s.stations[i].at_mm - s.stations[i - 1].at_mm >= smallest_length_mm, where,
                 "the stations are not in rising order", "sort them by at_mm");
            for (const Vector2d& p : s.stations[i].points_mm)
                need(isPlace(p), where, "a coordinate is not a length below 1 km", "check its digits");
        }
    }

    const RuleBook& book_;
    std::vector<Error> found_;
};

void money(Checker& check, const std::optional<double>& sum, const std::string& where) {
    check.need(!sum || (std::isfinite(*sum) && std::abs(*sum) <= 1e12), where, "a sum of money is not a number",
               "check it");
}

/// An "owner/choice/option" of any owner.
void optionOfAny(Checker& check, const Project& project, const std::string& text, const std::string& where) {
    const auto slash = text.find('/');
    const auto* choices = slash == std::string::npos ? nullptr : choicesOf(project, text.substr(0, slash));
    if (choices)
        check.option(text.substr(slash + 1), *choices, where);
    else
        check.need(text.empty(), where, "its option names no owner",
                   "write donor-id/choice-id/option-id or leave it out");
}

void parts(Checker& check, const Project& project, const std::vector<Part>& all) {
    std::set<std::string> ids;
    for (const Part& part : all) check.id(ids, part.id.text, "part \"" + part.name + "\"");
    for (const Part& part : all) {
        const std::string where = "part \"" + part.name + "\"";
        check.mass(part.mass_kg, where);
        if (part.at_mm) check.place(*part.at_mm, where);
        money(check, part.cost, where);
        check.need(!part.cost || *part.cost >= 0, where, "its cost is below zero",
                   "give what it costs; what a sold part brings in is its cost, too");
        if (!part.body.empty()) {
            const auto cut = part.body.find('/');
            const BodyRef ref{part.body.substr(0, cut),
                              {cut == std::string::npos ? std::string() : part.body.substr(cut + 1)}};
            check.need(findBody(project, ref), where, "the body it sits in is not there",
                       "write owner/body-id of one that is, or give its place");
        }
        check.need(!part.size_mm || isBox(*part.size_mm), where, "a size is not above zero", "give three sizes in mm");
        bool home = part.home.empty();
        if (project.vehicle)
            for (const FreeVolume& volume : project.vehicle->free_volumes) home = home || volume.id == part.home;
        if (!home)
            check.say(where, "its home \"" + part.home + "\" is not among the free volumes",
                      "name one that is, or leave it out");
        optionOfAny(check, project, part.option, where);
        for (const PartId& needed : part.needs)
            if (!ids.count(needed.text))
                check.say(where, "it needs \"" + needed.text + "\", which is not in the list",
                          "add that part or take the need out");
    }
}

void joined(Checker& check, const Project& project) {
    for (const Joined& pair : project.joined) {
        const std::string where = "joined " + pair.a.text() + " and " + pair.b.text();
        for (const BodyRef& ref : {pair.a, pair.b})
            if (!findBody(project, ref))
                check.say(where, "there is no body \"" + ref.text() + "\"", "correct the name or take the pair out");
        check.need(pair.a != pair.b, where, "a body is joined to itself", "take the pair out");
        check.need(!pair.reason.empty(), where, "no reason is given", "say why they are meant to touch");
    }
}

void measured(Checker& check, const Project& project) {
    for (const MeasuredGap& gap : project.measured) {
        const std::string where = "measured " + gap.a.text() + " to " + gap.b.text();
        for (const BodyRef& ref : {gap.a, gap.b})
            if (!findBody(project, ref))
                check.say(where, "there is no body \"" + ref.text() + "\"", "correct the name or take the gap out");
        check.need(gap.a != gap.b, where, "a gap is measured from a body to itself", "take it out");
        check.need(isLength(gap.gap_mm), where, "gap_mm is not a length below 1 km", "check its digits and unit (mm)");
        check.accuracy(gap.accuracy_mm, where);
        bool known = gap.placement.empty();
        for (const Placement& p : project.placements) known = known || p.id == gap.placement;
        check.need(known, where, "its placement is not in the file", "name one of the placements or leave it out");
    }
}

void weights(Checker& check, const Weights& w) {
    check.mass(w.bare.front_kg, "weights, bare front");
    check.mass(w.bare.rear_kg, "weights, bare rear");
    check.mass(w.limit.front_kg, "weights, front limit");
    check.mass(w.limit.rear_kg, "weights, rear limit");
    check.mass(w.accuracy_kg, "weights, accuracy");
    for (const auto& wheel :
         {w.corners.front_left_kg, w.corners.front_right_kg, w.corners.rear_left_kg, w.corners.rear_right_kg})
        check.mass(wheel, "weights, corners");
    check.need(!w.height_mm || isLength(*w.height_mm), "weights, height_mm", "it is not a length below 1 km",
               "check its digits and unit (mm)");
    for (const Mass& load : w.loads) {
        check.mass(load.mass_kg, "weights, load \"" + load.name + "\"");
        check.place(load.at_mm, "weights, load \"" + load.name + "\"");
    }
}

/// A category, a group that some category belongs to, or everything.
bool isKind(const RuleBook& book, const std::string& kind) {
    if (kind == "*" || book.category(kind)) return true;
    return kind.size() > 1 && kind[0] == '@' &&
           std::any_of(book.categories.begin(), book.categories.end(), [&](const Category& c) {
               return std::find(c.groups.begin(), c.groups.end(), kind.substr(1)) != c.groups.end();
           });
}

/// Whatever is bound to readings can be made from them.
template <class Item>
void taped(Checker& check, const Project& project, const std::string& owner, const std::string& where,
           const Item& item) {
    if (!item.tape.bound()) return;
    std::set<std::pair<int, std::string>> seen;
    for (const Reading& reading : item.tape.readings) {
        const std::string at = where + ", reading \"" + reading.what + "\"";
        check.need(isLength(reading.mm), at, "mm is not a length below 1 km", "check its digits and unit (mm)");
        check.accuracy(reading.accuracy_mm, at);
        check.measured(reading.measured, at);
        check.need(seen.insert({reading.station, reading.what}).second, at, "it is there twice",
                   "take one of them out");
    }
    if (const auto made = madeFromTape(project, owner, item); !made)
        check.say(where + ", tape", made.error().what, made.error().mend);
}

void taped(Checker& check, const Project& project) {
    const auto all = [&](const std::string& owner, const std::string& words, const std::vector<Body>& bodies,
                         const std::vector<HardPoint>& points) {
        for (const Body& b : bodies) taped(check, project, owner, words + ", body \"" + b.name + "\"", b);
        for (const HardPoint& p : points) taped(check, project, owner, words + ", point \"" + p.name + "\"", p);
    };
    if (project.vehicle) all(vehicle_owner, "vehicle", project.vehicle->bodies, project.vehicle->hard_points);
    for (const Donor& d : project.donors) all(d.id.text, "donor \"" + d.name + "\"", d.bodies, d.reference_points);
}

void surveyed(Checker& check, const Vehicle& vehicle) {
    std::set<std::string> areas, dimensions, volumes;
    for (const AreaMark& area : vehicle.areas)
        check.id(areas, area.id, "vehicle, area \"" + (area.name.empty() ? area.id : area.name) + "\"");
    for (const OutgoingDimension& dimension : vehicle.outgoing) {
        const std::string where = "vehicle, outgoing \"" + dimension.name + "\"";
        check.id(dimensions, dimension.id, where);
        check.need(isLength(dimension.mm), where, "mm is not a length below 1 km", "check its digits and unit (mm)");
        check.accuracy(dimension.accuracy_mm, where);
        check.measured(dimension.measured, where);
        bool known = dimension.from.empty();
        for (const HardPoint& p : vehicle.hard_points) known = known || p.id == dimension.from;
        check.need(known, where, "the point it was read from is not there",
                   "name one of the vehicle's hard points or leave it out");
    }
    for (const FreeVolume& volume : vehicle.free_volumes) {
        const std::string where = "vehicle, free volume \"" + volume.name + "\"";
        check.id(volumes, volume.id, where);
        check.place(volume.at_mm, where);
        check.need(isBox(volume.size_mm), where, "a size is not above zero", "give three sizes in mm");
        check.accuracy(volume.accuracy_mm, where);
        check.measured(volume.measured, where);
    }
}

void conditions(Checker& check, const Project& project) {
    std::set<std::string> ids;
    for (const Condition& condition : project.conditions) {
        const std::string where = "condition \"" + condition.name + "\"";
        check.id(ids, condition.id, where);
        check.place(condition.at_mm, where);
        check.measured(condition.measured, where);
        const bool owned = condition.owner == vehicle_owner ? project.vehicle.has_value()
                                                            : findDonor(project, {condition.owner}) != nullptr;
        check.need(owned, where, "its owner is not there", "write vehicle or a donor's id");
        check.need(condition.body.empty() || findBody(project, {condition.owner, condition.body}), where,
                   "the body it is on is not there", "name one of its owner's bodies or leave it out");
    }
}

void rules(Checker& check, const RuleChoice& choice, const RuleBook& book) {
    if (!choice.school.empty() && !book.school(choice.school))
        check.say("rules", "the school \"" + choice.school + "\" is not known", "use certifier, shop or roomy");
    check.need(!choice.interest_range_mm || isSize(*choice.interest_range_mm), "rules, interest_range_mm",
               "it is not above zero", "give it in mm");
    for (const RuleRow& row : choice.rows) {
        const std::string where = "rules, row \"" + row.id + "\"";
        check.need(!row.id.empty(), where, "it has no id", "give it an id");
        check.need(!row.between.empty() && !row.and_.empty(), where, "a side is empty",
                   "name categories, @groups or *");
        for (const auto& side : {row.between, row.and_})
            for (const std::string& kind : side)
                if (!isKind(book, kind))
                    check.say(where, "there is no kind of part \"" + kind + "\"",
                              "use one of docs/format.md's categories, a group as \"@hot\", or *");
        const std::string school = choice.school.empty() ? book.default_school : choice.school;
        if (row.at_rest_mm.count(school) == 0)
            check.say(where, "it has no figure for the school in use (" + school + ")",
                      "give at_rest_mm for " + school + ", or take the row out");
        if (!row.shielded_mm.empty() && row.shielded_mm.count(school) == 0)
            check.say(where, "it has no shielded figure for the school in use (" + school + ")",
                      "give shielded_mm for " + school + ", or leave shielded_mm out");
        for (const auto& column : {row.at_rest_mm, row.shielded_mm})
            for (const auto& figure : column)
                if (!book.school(figure.first))
                    check.say(where, "the school \"" + figure.first + "\" is not known",
                              "use certifier, shop or roomy");
        for (const auto& column : {row.at_rest_mm, row.shielded_mm})
            for (const auto& figure : column)
                check.need(isLength(figure.second) && figure.second >= 0, where,
                           "a limit is below zero or not a number", "give it in mm");
    }
    for (const Figure& figure : choice.figures) {
        const std::string where = "rules, figure \"" + figure.id + "\"";
        const auto known = [&](const Figure& f) { return f.id == figure.id; };
        check.need(std::any_of(book.figures.begin(), book.figures.end(), known), where, "it is not known",
                   "use one of docs/format.md's list");
        check.need(isLength(figure.value) && figure.value >= 0, where, "it is below zero or not a number",
                   "give it in the unit that its id ends with");
    }
}

} // namespace

std::vector<Error> validate(const Donor& donor, const RuleBook& book) {
    Checker check(book);
    std::set<std::string> ids;
    check.id(ids, donor.id.text, "donor \"" + donor.name + "\"");
    check.donor(donor);
    Project alone;
    alone.donors.push_back(donor);
    taped(check, alone);
    return check.take();
}

std::vector<Error> validate(const Project& project, const RuleBook& book) {
    Checker check(book);
    if (project.vehicle) {
        const Vehicle& v = *project.vehicle;
        check.bodies(v.bodies, "vehicle");
        check.points(v.hard_points, "vehicle");
        check.choices(v.choices, "vehicle");
        check.serviced(v.serviced, v.bodies, "vehicle");
        check.motions(v.motions, v.hard_points, v.bodies, "vehicle", true);
        check.stances(v.stances);
        check.springs(v.springs);
        for (const HardPoint& p : v.hard_points) check.option(p.option, v.choices, "vehicle, point \"" + p.name + "\"");
        for (const Body& b : v.bodies) check.option(b.option, v.choices, "vehicle, body \"" + b.name + "\"");
        check.need(v.datum.kind == "ground" || v.datum.kind == "frame_rail_top" || v.datum.kind == "other",
                   "vehicle, datum", "its kind is not known", "use ground, frame_rail_top or other");
        for (const auto& [track_mm, where] : {std::pair(v.front_track_mm, "vehicle, front_track_mm"),
                                              std::pair(v.rear_track_mm, "vehicle, rear_track_mm")})
            check.need(!track_mm || isSize(*track_mm), where, "it is not above zero", "check its digits and unit (mm)");
        check.need(!v.wheelbase_mm || isSize(*v.wheelbase_mm), "vehicle, wheelbase_mm", "it is not above zero",
                   "give it in mm");
    }
    std::set<std::string> donors{vehicle_owner};
    for (const Donor& donor : project.donors) {
        check.id(donors, donor.id.text, "donor \"" + donor.name + "\"");
        check.donor(donor);
    }
    std::set<std::string> placements;
    for (const Placement& p : project.placements) {
        const std::string where = "placement \"" + p.name + "\"";
        check.id(placements, p.id.text, where);
        check.place(p.position_mm, where + ", position_mm");
        check.angles(p.angles, where);
        check.rocking(p.rocking, where);
        if (!findDonor(project, p.donor))
            check.say(where, "there is no donor \"" + p.donor.text + "\"", "name one of the project's donors");
    }
    if (!project.active_placement.empty() && !placements.count(project.active_placement.text))
        check.say("active_placement", "there is no placement \"" + project.active_placement.text + "\"",
                  "name one of the placements or leave it out");
    for (const Placement& p : project.placements)
        for (const Taken& taken : p.taken) {
            const std::string where = "placement \"" + p.name + "\", taken \"" + taken.choice + "\"";
            const auto slash = taken.choice.find('/');
            const auto* choices =
                slash == std::string::npos ? nullptr : choicesOf(project, taken.choice.substr(0, slash));
            if (choices)
                check.option(taken.choice.substr(slash + 1) + "/" + taken.option, *choices, where);
            else
                check.say(where, "it names no owner", "write vehicle/choice-id or donor-id/choice-id");
        }
    joined(check, project);
    measured(check, project);
    taped(check, project);
    if (project.vehicle) surveyed(check, *project.vehicle);
    conditions(check, project);
    rules(check, project.rules, book);
    if (project.parts) parts(check, project, *project.parts);
    if (project.money) money(check, project.money->budget, "money, budget");
    if (project.weights) weights(check, *project.weights);
    const Say say = [&check](std::string where, std::string what, std::string mend) {
        check.say(std::move(where), std::move(what), std::move(mend));
    };
    if (project.driveline) {
        validateDriveline(*project.driveline, say);
        for (const ShaftLine& line : project.driveline->lines)
            optionOfAny(check, project, line.option, "driveline, line \"" + line.name + "\"");
    }
    const auto ofDonor = [&](const std::string& donor, const std::string& where) {
        if (!donor.empty() && !findDonor(project, DonorId{donor}))
            check.say(where, "there is no donor \"" + donor + "\"", "name one of the donors, or leave it out");
    };
    if (project.driveline) {
        for (const Interface& interface : project.driveline->interfaces)
            ofDonor(interface.donor, "driveline, interface \"" + interface.name + "\", donor");
        if (project.driveline->bell) ofDonor(project.driveline->bell->donor, "driveline, bell, donor");
    }
    if (project.gearing) validateGearing(*project.gearing, say);
    if (project.gearing) ofDonor(project.gearing->donor, "gearing, donor");
    if (project.mounts) validateMounts(*project.mounts, say);
    if (project.relief) validateRelief(*project.relief, say);
    return check.take();
}

} // namespace gabarit::model

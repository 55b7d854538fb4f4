#include "describe/check.h"
#include "model/describe.h"
#include "model/tape.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace gabarit::model {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

/// What a description cannot say: rules over several members.
class Rules : public Refusals {
public:
    using Refusals::Refusals;

    void body(const Body& b, const std::string& where) {
        need(!b.off || b.standing != Standing::Removed, where, "it is both off and removed", "keep one of the two");
        need(!(b.may.never && (b.may.be_cut || b.may.be_moved || b.may.be_removed)), where,
             "\"never\" stands beside other permissions", "keep either never or the others");
        std::visit([&](const auto& spec) { shape(spec, where + ", shape"); }, b.shape);
    }
    void bodies(const std::vector<Body>& all, const std::string& owner) {
        if (all.size() > most_bodies) return;
        for (const Body& b : all) body(b, owner + ", body \"" + (b.name.empty() ? b.id.text : b.name) + "\"");
    }
    void serviced(const std::vector<ServicedBolt>& all, const std::string& owner) {
        for (const ServicedBolt& bolt : all) {
            const std::string where = owner + ", serviced \"" + bolt.name + "\"";
            need(!bolt.pull_mm || !bolt.in.empty(), where, "pull_mm is given, and nothing is named that comes off",
                 "give the body it sits in, or leave pull_mm out");
        }
    }
    void motions(const std::vector<MotionSpec>& all, const std::string& owner, bool vehicle) {
        std::map<std::string, std::string> movers; // what moves a body, so that nothing is moved twice
        for (const MotionSpec& m : all) {
            const std::string where = owner + ", motion \"" + m.name + "\"";
            need(vehicle || m.kind == MotionKind::Spin, where, "on a donor only what spins moves by itself",
                 "make it spin, or give it to the vehicle");
            const auto point = [&](const PointId& ref, bool asked, const char* what) {
                need(!asked || !ref.empty(), where, what, "name one of its owner's points");
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
                    if (m.kind == MotionKind::Spin) continue; // what spins may also be carried
                    const auto taken = movers.emplace(body.text, m.name);
                    if (!taken.second)
                        say(where, "the body \"" + body.text + "\" is moved by \"" + taken.first->second + "\" too",
                            "take it out of one of them");
                }
        }
    }
    void donor(const Donor& d) {
        const std::string owner = "donor \"" + d.name + "\"";
        bodies(d.bodies, owner);
        motions(d.motions, owner, false);
        serviced(d.serviced, owner);
    }

private:
    template <class Spec>
    void shape(const Spec&, const std::string&) {}
    void shape(const CylinderSpec& s, const std::string& where) {
        need((s.to_mm - s.from_mm).norm() >= describe::thinnest_mm, where, "the cylinder has no length",
             "set from_mm and to_mm apart");
    }
    void shape(const ProfileSpec& s, const std::string& where) {
        need((s.to_mm - s.from_mm).norm() >= describe::thinnest_mm, where, "the profile has no length",
             "set from_mm and to_mm apart");
        std::visit([&](const auto& section) { this->section(section, where); }, s.section);
    }
    void section(const RectTubeSection& s, const std::string& where) {
        need(2 * s.wall_mm < std::min(s.width_mm, s.height_mm), where,
             "the wall is not between zero and half the smaller side", "check wall_mm");
    }
    void section(const CSection& s, const std::string& where) {
        need(s.wall_mm < s.width_mm && 2 * s.wall_mm < s.height_mm, where, "the wall leaves no C",
             "check wall_mm against width_mm and height_mm");
    }
    void section(const RoundTubeSection& s, const std::string& where) {
        need(2 * s.wall_mm < s.diameter_mm, where, "the wall is not between zero and the radius", "check wall_mm");
    }
    void section(const PolygonSection& s, const std::string& where) { polygon(s.points_mm, where); }
    void polygon(const std::vector<Vector2d>& points, const std::string& where) {
        double area = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            const Vector2d& p = points[i];
            const Vector2d& q = points[(i + 1) % points.size()];
            area += p.x() * q.y() - p.y() * q.x();
        }
        need(std::abs(area) >= describe::thinnest_mm, where, "the outline encloses nothing", "check its points");
    }
    void shape(const PlateSpec& s, const std::string& where) { polygon(s.outline_mm, where); }
    void shape(const SheetSpec& s, const std::string& where) {
        need(s.stations.size() >= 2, where, "there are fewer than two stations", "measure at least two");
        const std::size_t count = s.stations.empty() ? 0 : s.stations.front().points_mm.size();
        need(count >= 2, where, "a station has fewer than two points", "give at least two");
        for (std::size_t i = 0; i < s.stations.size(); ++i) {
            need(s.stations[i].points_mm.size() == count, where, "the stations have different numbers of points",
                 "give each station the same number");
            need(i == 0 || s.stations[i].at_mm - s.stations[i - 1].at_mm >= describe::thinnest_mm, where,
                 "the stations are not in rising order", "sort them by at_mm");
        }
    }
};

void joined(Rules& check, const Project& project) {
    for (const Joined& pair : project.joined) {
        const std::string where = "joined " + pair.a.text() + " and " + pair.b.text();
        check.need(pair.a != pair.b, where, "a body is joined to itself", "take the pair out");
    }
}

void measured(Rules& check, const Project& project) {
    for (const MeasuredGap& gap : project.measured) {
        const std::string where = "measured " + gap.a.text() + " to " + gap.b.text();
        check.need(gap.a != gap.b, where, "a gap is measured from a body to itself", "take it out");
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
void taped(Rules& check, const Project& project, const std::string& owner, const std::string& where, const Item& item) {
    if (!item.tape.bound()) return;
    std::set<std::pair<int, std::string>> seen;
    for (const Reading& reading : item.tape.readings) {
        const std::string at = where + ", reading \"" + reading.what + "\"";
        check.need(seen.insert({reading.station, reading.what}).second, at, "it is there twice",
                   "take one of them out");
    }
    if (const auto made = madeFromTape(project, owner, item); !made)
        check.say(where + ", tape", made.error().what, made.error().mend);
}

void taped(Rules& check, const Project& project) {
    const auto all = [&](const std::string& owner, const std::string& words, const std::vector<Body>& bodies,
                         const std::vector<HardPoint>& points) {
        for (const Body& b : bodies) taped(check, project, owner, words + ", body \"" + b.name + "\"", b);
        for (const HardPoint& p : points) taped(check, project, owner, words + ", point \"" + p.name + "\"", p);
    };
    if (project.vehicle) all(vehicle_owner, "vehicle", project.vehicle->bodies, project.vehicle->hard_points);
    for (const Donor& d : project.donors) all(d.id.text, "donor \"" + d.name + "\"", d.bodies, d.reference_points);
}

void rules(Rules& check, const RuleChoice& choice, const RuleBook& book) {
    for (const RuleRow& row : choice.rows) {
        const std::string where = "rules, row \"" + row.id + "\"";
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
    }
    for (const Figure& figure : choice.figures) {
        const std::string where = "rules, figure \"" + figure.id + "\"";
        const auto known = [&](const Figure& f) { return f.id == figure.id; };
        check.need(std::any_of(book.figures.begin(), book.figures.end(), known), where, "it is not known",
                   "use one of docs/format.md's list");
    }
}

/// All that a text could name.
class Names {
public:
    explicit Names(const Project& project) {
        if (project.vehicle) {
            owner(vehicle_owner, project.vehicle->bodies, project.vehicle->hard_points, project.vehicle->choices);
            for (const FreeVolume& volume : project.vehicle->free_volumes) add(Target::FreeVolume, volume.id);
        }
        for (const Donor& donor : project.donors) {
            add(Target::Donor, donor.id.text);
            owner(donor.id.text, donor.bodies, donor.reference_points, donor.choices);
        }
        for (const Placement& placement : project.placements) add(Target::Placement, placement.id.text);
        for (const SectionKind& kind : sectionKinds()) {
            Ids ids(all_);
            const describe::Looking looking(ids);
            kind.describe(ids, kind, const_cast<Sections&>(project.sections), true); // only looked at
        }
    }
    bool have(const describe::Member& m, const std::string& text) const {
        switch (m.target) {
        case Target::Body: return has(Target::BodyPath, m.owner + "/" + text);
        case Target::Point: return has(Target::Point, m.owner + "/" + text);
        case Target::Option: return has(Target::OptionPath, m.owner + "/" + text);
        default: return has(m.target, text);
        }
    }

private:
    using Target = describe::Target;
    using All = std::map<Target, std::set<std::string>>;
    /// The ids that a section's texts are named by.
    class Ids : public describe::Walker {
    public:
        explicit Ids(All& all) : all_(all) {}
        void onText(const describe::Member& m, std::string& value) override {
            if (m.known != Target::None) all_[m.known].insert(value);
        }

    private:
        All& all_;
    };
    void owner(const std::string& id, const std::vector<Body>& bodies, const std::vector<HardPoint>& points,
               const std::vector<Choice>& choices) {
        add(Target::Owner, id);
        for (const Body& body : bodies) add(Target::BodyPath, id + "/" + body.id.text);
        for (const HardPoint& point : points) add(Target::Point, id + "/" + point.id.text);
        for (const Choice& choice : choices) {
            add(Target::ChoicePath, id + "/" + choice.id);
            for (const Option& option : choice.options) add(Target::OptionPath, id + "/" + choice.id + "/" + option.id);
        }
    }
    void add(Target target, std::string text) { all_[target].insert(std::move(text)); }
    bool has(Target target, const std::string& text) const {
        const auto found = all_.find(target);
        return found != all_.end() && found->second.count(text) > 0;
    }
    All all_;
};

/// What the members themselves refuse.
std::vector<Error> refused(const Project& project, const RuleBook& book) {
    std::vector<Error> found;
    const describe::InBook in_book = [&book](const std::string& list, const std::string& id) {
        return list == "schools" ? book.school(id) != nullptr : book.category(id) != nullptr;
    };
    const Names names(project);
    const describe::IsThere is_there = [&names](const describe::Member& m, const std::string& text) {
        return names.have(m, text);
    };
    describe::Checker checker(found, in_book, is_there, "");
    describe::show(checker, project);
    return found;
}

} // namespace

std::vector<Error> validate(const Donor& donor, const RuleBook& book) {
    Project alone;
    alone.donors.push_back(donor);
    Rules check(refused(alone, book));
    check.need(donor.id.text != vehicle_owner, "donor \"" + donor.name + "\"", "its id is \"vehicle\"",
               "give it another id");
    check.donor(donor);
    taped(check, alone);
    return check.take();
}

std::vector<Error> validate(const Project& project, const RuleBook& book) {
    Rules check(refused(project, book));
    if (project.vehicle) {
        const Vehicle& v = *project.vehicle;
        check.bodies(v.bodies, "vehicle");
        check.serviced(v.serviced, "vehicle");
        check.motions(v.motions, "vehicle", true);
    }
    for (const Donor& donor : project.donors) {
        check.need(donor.id.text != vehicle_owner, "donor \"" + donor.name + "\"", "its id is \"vehicle\"",
                   "give it another id");
        check.donor(donor);
    }
    joined(check, project);
    measured(check, project);
    taped(check, project);
    rules(check, project.rules, book);
    for (const SectionKind& kind : sectionKinds()) kind.refuse(project.sections, check);
    return check.take();
}

} // namespace gabarit::model

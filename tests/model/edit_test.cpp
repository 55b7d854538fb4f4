// What refers to a thing follows it, or goes with it.
#include "model/edit.h"
#include "model/mirror_motion.h"
#include "model/tape.h"
#include "parts/parts.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <set>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}
bool sound(const Project& p) {
    const auto errors = validate(p, store::defaultRuleBook());
    for (const Error& e : errors) qWarning("%s", e.line().c_str());
    return errors.empty();
}
BodyRef vehicle(const char* id) { return {vehicle_owner, {id}}; }
BodyRef unit(const char* id) { return {"ostrel-six", {id}}; }

} // namespace

class EditTest : public QObject {
    Q_OBJECT
private slots:
    // The demo's right side was entered by hand: made from the left one it must come out the same.
    void whatMovesIsMirroredToTheOtherSide() {
        const Project whole = demo();
        Project half = whole;
        const auto right = [](const MotionSpec& m) { return m.id.find("-right") != std::string::npos; };
        auto& motions = half.vehicle->motions;
        motions.erase(std::remove_if(motions.begin(), motions.end(), right), motions.end());
        for (const char* left : {"lower-left", "upper-left", "steer-left", "track-rod-left"}) {
            std::string image;
            auto made = withMotionMirrored(half, vehicle_owner, left, image);
            QVERIFY2(made.ok(), made.ok() ? "" : made.error().line().c_str());
            half = std::move(made.value());
            QCOMPARE(half.vehicle->motions.back().id, image);
        }
        QVERIFY(sound(half));
        QCOMPARE(half.vehicle->hard_points.size(), whole.vehicle->hard_points.size());
        QCOMPARE(half.vehicle->bodies.size(), whole.vehicle->bodies.size());
        const auto named = [](const Project& p, const std::string& name) {
            for (const MotionSpec& m : p.vehicle->motions)
                if (m.name == name) return m;
            return MotionSpec{};
        };
        int compared = 0;
        for (const MotionSpec& theirs : whole.vehicle->motions) {
            if (!right(theirs)) continue;
            const MotionSpec ours = named(half, theirs.name);
            QVERIFY2(ours.name == theirs.name, theirs.name.c_str());
            QCOMPARE(ours.at.text, theirs.at.text);
            QCOMPARE(ours.axis_a.text, theirs.axis_a.text);
            QCOMPARE(ours.axis_b.text, theirs.axis_b.text);
            QCOMPARE(ours.left_deg, theirs.left_deg);
            QCOMPARE(ours.right_deg, theirs.right_deg);
            QVERIFY(ours.slide_mm == theirs.slide_mm);
            QVERIFY(ours.bodies == theirs.bodies);
            QCOMPARE(named(half, "Right front wheel").id.empty(), false);
            if (!theirs.with.empty()) QCOMPARE(ours.with, named(half, "Right front wheel").id);
            if (theirs.kind != MotionKind::Arm) QCOMPARE(ours.on, named(half, "Right front wheel").id);
            ++compared;
        }
        QCOMPARE(compared, 4);
    }
    void mirroringAMotionMakesWhatIsNotThere() {
        Project half = demo();
        auto& vehicle = *half.vehicle;
        const auto right = [](const auto& item) { return item.name.find("ight") != std::string::npos; };
        vehicle.motions.erase(std::remove_if(vehicle.motions.begin(), vehicle.motions.end(), right),
                              vehicle.motions.end());
        vehicle.hard_points.erase(
            std::remove_if(vehicle.hard_points.begin(), vehicle.hard_points.end(),
                           [](const HardPoint& p) { return p.id.text.find("lower-") == 0 && p.at_mm.y() > 0; }),
            vehicle.hard_points.end());
        half = withoutBody(half, {vehicle_owner, {"lower-arm-right"}});
        const std::size_t points = half.vehicle->hard_points.size(), bodies = half.vehicle->bodies.size();
        std::string image;
        const auto made = withMotionMirrored(half, vehicle_owner, "lower-left", image);
        QVERIFY(made.ok());
        QVERIFY(sound(made.value()));
        QCOMPARE(made.value().vehicle->hard_points.size(), points + 3); // two axis ends and the ball joint
        QCOMPARE(made.value().vehicle->bodies.size(), bodies + 1);      // the arm; the spring stood there
        std::string none;
        QVERIFY(!withMotionMirrored(half, vehicle_owner, "rear", none).ok()); // an axle has both sides
        QVERIFY(!withMotionMirrored(half, vehicle_owner, "nothing", none).ok());
        QVERIFY(!withMotionMirrored(half, "nobody", "rear", none).ok());
    }
    void idsAreMadeFromNames() {
        QCOMPARE(freshId("Front sump", {}), std::string("front-sump"));
        QCOMPARE(freshId(" Ø 40 pipe/hose ", {}), std::string("40-pipe-hose"));
        QCOMPARE(freshId("Rail", {"rail", "rail-2"}), std::string("rail-3"));
        QCOMPARE(freshId("vehicle", {}), std::string("item")); // the word names the vehicle in references
        QCOMPARE(freshId("\xE2\x80\xA6", {}), std::string("item"));
    }

    void copiesAreJoinedAlike() {
        const Project p = demo();
        BodyId copy;
        const auto out = withBodyCopied(p, unit("oil-filter"), copy);
        QVERIFY(out.ok() && sound(out.value()));
        const Body* twin = findBody(out.value(), {"ostrel-six", copy});
        QVERIFY(twin && twin->name == "Oil filter copy" && twin->accuracy_mm == 1.0);
        QVERIFY(joinedPair(out.value(), {"ostrel-six", copy}, unit("front-sump")));
        QCOMPARE(out.value().joined.size(), p.joined.size() + 2); // with the sump, and with the rear one
        BodyId again;
        const auto second = withBodyCopied(out.value(), unit("oil-filter"), again);
        QVERIFY(second.ok() && again != copy && sound(second.value()));
        QVERIFY(!withBodyCopied(p, unit("no-such"), copy));
    }

    void whatMovesABodyFollowsIt() {
        const Project p = demo();
        const auto moved = [](const Project& project, const std::string& motion) {
            std::set<std::string> ids;
            for (const MotionSpec& m : project.vehicle->motions)
                if (m.id == motion)
                    for (const BodyId& id : m.bodies) ids.insert(id.text);
            return ids;
        };
        const BodyRef wheel{vehicle_owner, {"wheel-front-left"}};
        QVERIFY(moved(p, "steer-left").count("wheel-front-left"));
        BodyId id;
        const Project named = withBodyNamed(p, {vehicle_owner, {"centre-link"}}, "Relay rod", id);
        QVERIFY(sound(named) && moved(named, "centre-link").count(id.text));
        BodyId copy;
        const auto copied = withBodyCopied(p, wheel, copy);
        QVERIFY(copied.ok() && sound(copied.value()) && moved(copied.value(), "steer-left").count(copy.text));
        const Project gone = withoutBody(p, wheel);
        QVERIFY(sound(gone) && !moved(gone, "steer-left").count("wheel-front-left"));
    }

    void namesTakeTheirIdsAlong() {
        const Project p = demo();
        BodyId id;
        const Project kept = withBodyNamed(p, unit("oil-filter"), "Filter", id);
        QCOMPARE(id.text, std::string("filter")); // "oil-filter" was made from "Oil filter"
        QVERIFY(sound(kept) && kept.joined.size() == p.joined.size());
        QVERIFY(joinedPair(kept, unit("filter"), unit("front-sump")));
        const Project chosen = withBodyNamed(p, vehicle("rail-left"), "Near rail", id);
        QCOMPARE(id.text, std::string("rail-left")); // an id of somebody's own choice stays
        QVERIFY(findBody(chosen, vehicle("rail-left"))->name == "Near rail");
        DonorId donor;
        const std::string before = p.donors[0].id.text;
        Project named = p;
        named.donors[0].name = before;
        named = withDonorNamed(named, DonorId{before}, "Six", donor);
        QCOMPARE(donor.text, std::string("six"));
        QVERIFY(sound(named));
        QCOMPARE(named.placements[0].donor.text, std::string("six"));
        const Project back = withDonorNamed(named, donor, before, donor);
        QCOMPARE(donor.text, before);
        QVERIFY(sound(back) && back.joined.size() == p.joined.size());
    }

    void mirroredToTheOtherSide() {
        BodyId image;
        const auto out = withBodyMirrored(demo(), vehicle("rail-left"), image);
        QVERIFY(out.ok() && sound(out.value()));
        const Body& body = *findBody(out.value(), {vehicle_owner, image});
        QCOMPARE(body.name, std::string("Right frame rail 2")); // the first is there already
        const auto& twin = std::get<ProfileSpec>(body.shape);
        const auto& real = std::get<ProfileSpec>(findBody(out.value(), vehicle("rail-right"))->shape);
        QVERIFY((twin.from_mm - real.from_mm).norm() == 0 && (twin.to_mm - real.to_mm).norm() == 0);
        QCOMPARE(twin.roll_deg, real.roll_deg);
    }
    /// Measured by its measures, not by readings, it is followed all the same, until the image is moved by hand.
    void theImageFollowsUntilItIsMoved() {
        BodyId image;
        const Project before = withBodyMirrored(demo(), vehicle("rail-left"), image).value();
        Project moved = before;
        std::get<ProfileSpec>(findBody(moved, vehicle("rail-left"))->shape).to_mm.x() += 7;
        moved = withTapeKept(before, moved);
        const Body& follows = *findBody(moved, {vehicle_owner, image});
        QCOMPARE(std::get<ProfileSpec>(follows.shape).to_mm.x(),
                 std::get<ProfileSpec>(findBody(moved, vehicle("rail-left"))->shape).to_mm.x());
        QVERIFY(follows.tape.bound());
        Project by_hand = moved;
        std::get<ProfileSpec>(findBody(by_hand, {vehicle_owner, image})->shape).from_mm.z() += 11;
        std::vector<std::string> unbound;
        by_hand = withTapeKept(moved, by_hand, &unbound);
        QCOMPARE(unbound, std::vector<std::string>{"Right frame rail 2"});
        const Project later = [&] {
            Project p = by_hand;
            std::get<ProfileSpec>(findBody(p, vehicle("rail-left"))->shape).to_mm.x() += 7;
            return withTapeKept(by_hand, p);
        }();
        QCOMPARE(std::get<ProfileSpec>(findBody(later, {vehicle_owner, image})->shape).to_mm.x(),
                 std::get<ProfileSpec>(follows.shape).to_mm.x()); // it stands by itself
    }

    void whatSpeaksOfABodyGoesWithIt() {
        Project p = demo();
        const Project out = withoutBody(p, unit("rocker-cover"));
        QVERIFY(sound(out));
        QVERIFY(!findBody(out, unit("rocker-cover")));
        QCOMPARE(out.measured.size(), p.measured.size() - 1);
        for (const ServicedBolt& bolt : out.donors[0].serviced) QVERIFY(bolt.in.text != "rocker-cover");
        QCOMPARE(out.donors[0].serviced.size(), p.donors[0].serviced.size());
        QVERIFY(sound(withoutBody(p, vehicle("radiator"))));
        QCOMPARE(withoutBody(p, vehicle("nothing")).joined.size(), p.joined.size());
    }

    void donorsComeAndGoWithTheirPlacements() {
        Donor other;
        other.name = "Ostrel Six"; // the name is taken: the id is not
        Project out = withDonor(demo(), other);
        QVERIFY(sound(out));
        QCOMPARE(out.donors.size(), std::size_t(2));
        QCOMPARE(activeDonor(out)->id.text, std::string("ostrel-six-2"));
        QVERIFY((activePlacement(out)->position_mm - Vector3d(470, -6, 672)).norm() == 0); // where the other hung
        QVERIFY(!pivotDonor_mm(*activeDonor(out), Pivot::FrontMounts) &&
                pivotDonor_mm(*activeDonor(out), activePlacement(out)->pivot));
        const Project gone = withoutDonor(demo(), DonorId{"ostrel-six"});
        QVERIFY(sound(gone) && gone.donors.empty() && gone.placements.empty() && gone.measured.empty());
        for (const Joined& pair : gone.joined) QVERIFY(pair.a.inVehicle() && pair.b.inVehicle());
        for (const Part& part : *gone.sections.get<Parts>()) QVERIFY(part.option.rfind("ostrel-six/", 0) != 0);
    }

    void placementsAreCopiedAndTakenOut() {
        const auto out = withPlacementCopied(demo(), "Third try");
        QVERIFY(out.ok() && sound(out.value()));
        QCOMPARE(activePlacement(out.value())->name, std::string("Third try"));
        QCOMPARE(activePlacement(out.value())->position_mm, demo().placements[0].position_mm);
        const Project less = withoutPlacement(out.value(), PlacementId{"first-try"});
        QVERIFY(sound(less) && less.placements.size() == 2 && less.measured.empty());
        const Project fewer = withoutPlacement(less, less.active_placement);
        QCOMPARE(activePlacement(fewer)->id.text, std::string("second-try"));
    }

    void optionsAreTakenByThePlacement() {
        Project p = demo();
        const Body front = *findBody(p, unit("front-sump"));
        const Body rear = *findBody(p, unit("rear-sump"));
        QVERIFY(stands(p, "ostrel-six", front) && !stands(p, "ostrel-six", rear));
        QVERIFY(isAlternative(p, "ostrel-six", rear) && !isAlternative(p, "ostrel-six", front));
        p = withOption(p, "ostrel-six/sump", "rear");
        QVERIFY(sound(p));
        QVERIFY(!stands(p, "ostrel-six", front) && stands(p, "ostrel-six", rear));
        p = withOption(p, "ostrel-six/sump", "front");
        QCOMPARE(p.placements[0].taken.size(), std::size_t(1)); // changed, not added to
        QVERIFY(stands(p, "ostrel-six", front));
        p.active_placement.text = "second-try";
        p = withOption(p, "ostrel-six/gearbox", "automatic");
        // Masses and points follow: 74 kg for 43.
        const auto six = centreOfMass(*hangingDonor(demo())).value(), slush = centreOfMass(*hangingDonor(p)).value();
        QCOMPARE(slush.mass_kg - six.mass_kg, 31.0);
        QCOMPARE(pivotDonor_mm(*hangingDonor(p), Pivot::GearboxMount).value(), Vector3d(700, 0, -98));
        p.placements[1].taken[0].option = "steam";
        QVERIFY(!validate(p, store::defaultRuleBook()).empty());
    }

    void aBodyBecomesAVariant() {
        BodyId copy;
        auto out = withVariant(demo(), vehicle("heater-box"), "slim", copy);
        QVERIFY(out.ok() && sound(out.value()));
        const Project& p = out.value();
        QCOMPARE(p.vehicle->choices.size(), demo().vehicle->choices.size() + 1);
        QCOMPARE(findBody(p, vehicle("heater-box"))->option, std::string("heater-box/as-it-came"));
        const Body& twin = *findBody(p, {vehicle_owner, copy});
        QCOMPARE(twin.name, std::string("Heater box, slim"));
        QVERIFY(stands(p, vehicle_owner, twin) && !stands(p, vehicle_owner, *findBody(p, vehicle("heater-box"))));
        QVERIFY(joinedPair(p, {vehicle_owner, copy}, unit("heater-hose"))); // as the first was
        BodyId third;
        const auto more = withVariant(p, {vehicle_owner, copy}, "none", third);
        QVERIFY(more.ok() && sound(more.value()));
        QCOMPARE(more.value().vehicle->choices.back().options.size(), std::size_t(3));
    }

    void wrongReferencesAreNamed() {
        const auto complains = [](const Project& p, const char* words) {
            for (const Error& e : validate(p, store::defaultRuleBook()))
                if (e.line().find(words) != std::string::npos) return true;
            return false;
        };
        Project p = demo();
        p.donors[0].serviced[0].in.text = "gone";
        QVERIFY(complains(p, "there is no body \"gone\", named by \"in\""));
        p = demo();
        p.donors[0].serviced[0].along.setZero();
        QVERIFY(complains(p, "along has no direction"));
        p = demo();
        p.vehicle->bodies[0].option = "sump/front"; // the donor's, not the vehicle's
        QVERIFY(complains(p, "there is no option"));
        p = demo();
        p.measured[0].gap_mm = std::nan("");
        QVERIFY(complains(p, "gap_mm"));
        p = demo();
        p.measured[0].placement.text = "gone";
        QVERIFY(complains(p, "placement"));
        p = demo();
        p.sections.edit<Parts>().front().option = "steam";
        QVERIFY(complains(p, "there is no option \"steam\""));
        p = demo();
        p.rules.figures.push_back({"made_up_mm", "", 3, "", {}});
        QVERIFY(complains(p, "not known"));
    }
};

GABARIT_SUITE(EditTest)
#include "edit_test.moc"

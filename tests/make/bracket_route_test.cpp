// A bracket's way: straight where it is free, round what is there, refused where nothing is.
#include "make/bracket_route.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "placed/scene.h"
#include "proximity/gap.h"
#include "support/files.h"
#include "support/kept_colliders.h"
#include "support/mounted_unit.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::make;
using Eigen::Vector3d;
using mounts::Piece;
using mounts::Which;
using tests::withBrackets;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }

model::Body box(const char* id, const Vector3d& at, const Vector3d& size, const char* category = "frame") {
    model::Body body;
    body.id.text = id;
    body.name = id;
    body.category = category;
    body.position_mm = at;
    body.shape = model::BoxSpec{size};
    body.accuracy_mm = 1;
    return body;
}

} // namespace

class BracketRouteTest : public QObject {
    Q_OBJECT
private slots:
    void itsPiecesCanBeMade() {
        const model::Project p = withBrackets();
        tests::KeptColliders cache;
        for (const auto form : {model::BracketForm::Tube, model::BracketForm::Folded}) {
            model::Bracket b = *p.sections.get<model::Mounts>()->mounts[0].bracket;
            b.form = form;
            b.gusset_mm = 30;
            b.via_mm = {{-300, -230, 60}};
            const auto made = mounts::makeBracket(
                mounts::bracketEnds(p, book(), p.sections.get<model::Mounts>()->mounts[0], Which::Bracket).value(), b,
                book());
            for (const Piece& piece : made.value().pieces)
                QVERIFY2(cache.get(piece.shape)->collider, piece.name.c_str());
        }
    }
    void itGoesRoundWhatIsInTheWay() {
        model::Project p = withBrackets();
        p.vehicle->bodies = {box("bar", {250, -200, 660}, {80, 60, 40})}; // right through the straight arm
        tests::KeptColliders cache;
        const placed::Scene scene = placed::makeScene(p, cache);
        const model::Mount& left = p.sections.edit<model::Mounts>().mounts[0];
        const auto found = routed(p, scene, book(), left, Which::Bracket, *left.bracket, cache);
        QVERIFY2(found, found ? "" : found.error().line().c_str());
        QCOMPARE(found.value().straight.size(), std::size_t(1));
        QCOMPARE(found.value().straight[0].name, std::string("bar"));
        QVERIFY(!found.value().bracket.via_mm.empty());
        QVERIFY(inTheWay(p, scene, book(), left, found.value().made, cache).empty());
        // Every piece against the bar, measured: at least what the rule between unit and frame wants.
        for (const Piece& piece : found.value().made.pieces) {
            const auto made = cache.get(piece.shape);
            QVERIFY(made->collider);
            const auto gap =
                proximity::gap(*made->collider, found.value().made.ends.pose_vehicle_owner * piece.pose_owner,
                               *scene.bodies[0].made->collider, scene.bodies[0].pose_vehicle_body, {});
            QVERIFY(gap.contact == proximity::Contact::Beyond || gap.gap_mm >= 10 - 1e-6);
        }
        // Free: straight.
        p.vehicle->bodies.clear();
        const placed::Scene empty = placed::makeScene(p, cache);
        QVERIFY(routed(p, empty, book(), left, Which::Bracket, *left.bracket, cache).value().bracket.via_mm.empty());
    }
    void walledInItIsRefusedWithTheReason() {
        model::Project p = withBrackets();
        p.vehicle->bodies = {box("wall", {250, -200, 660}, {2000, 2000, 40})};
        tests::KeptColliders cache;
        const placed::Scene scene = placed::makeScene(p, cache);
        const auto found = routed(p, scene, book(), p.sections.edit<model::Mounts>().mounts[0], Which::Bracket,
                                  *p.sections.edit<model::Mounts>().mounts[0].bracket, cache);
        QVERIFY(!found);
        QVERIFY(found.error().what.find("wall") != std::string::npos);
        const auto made = withBracketRouted(p, scene, book(), "left", Which::Bracket,
                                            *p.sections.edit<model::Mounts>().mounts[0].bracket, cache);
        QVERIFY(!made);
        // The tower below it is free.
        QVERIFY(withBracketRouted(p, scene, book(), "left", Which::Tower,
                                  *p.sections.get<model::Mounts>()->mounts[0].tower, cache));
    }
    /// The idler arm swings inwards at full lock: beside the Tarn's rail a stand there has no way, one farther ahead
    /// has.
    void itKeepsClearOfWhatMoves() {
        model::Project tarn = tests::demo("harrow-tarn");
        tests::KeptColliders cache;
        const placed::Scene scene = placed::makeScene(tarn, cache);
        model::Mount& left = tarn.sections.edit<model::Mounts>().mounts[0];
        const auto there = routed(tarn, scene, book(), left, Which::Tower, *left.tower, cache);
        QVERIFY2(there, there ? "" : there.error().line().c_str());
        left.stand->at_mm = {-118, -366, 560};
        left.centre_mm = Vector3d(-118, -312, 622);
        const auto refused = routed(tarn, scene, book(), left, Which::Tower, *left.tower, cache);
        QVERIFY(!refused);
        QVERIFY2(refused.error().what.find("Idler arm as it moves") != std::string::npos, refused.error().what.c_str());
        // Were it not for the steering it would be free.
        tarn.vehicle->motions.clear();
        for (model::Body& body : tarn.vehicle->bodies)
            if (body.id.text == "idler-arm") body.category = "frame";
        const placed::Scene still = placed::makeScene(tarn, cache);
        QVERIFY(routed(tarn, still, book(), left, Which::Tower, *left.tower, cache));
    }
};

GABARIT_LOOP_SUITE(BracketRouteTest)
#include "bracket_route_test.moc"

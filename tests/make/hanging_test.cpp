// Hanging heights against figures reckoned by hand.
#include "make/hanging.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using Eigen::Vector3d;

class HangingTest : public QObject {
    Q_OBJECT
private slots:
    void heightsOffTheFloorByHand() {
        model::Project p = tests::smallBay();
        p.vehicle->datum.kind = "frame_rail_top";
        p.vehicle->bodies.push_back(tests::box("ground", "ground", {4000, 2000, 50}, {0, 0, -475})); // its top at −450
        p.vehicle->hard_points = {{{"axle"}, "Axle", "", {0, -300, -150}, {}, {}, {}, {}},
                                  {{"far"}, "Far", "", {3000, 0, 0}, {}, {}, {}, {}},
                                  {{"tower"}, "Tower", "", {0, 400, 100}, {}, {}, {}, {}}};
        p.donors[0].reference_points = {{{"pad"}, "Left pad", "front_mount", {-300, -250, 60}, {}, {}, {}, {}}};
        p.placements[0].position_mm = {100, 20, 10};
        const tests::Bay bay(p);
        const make::Hanging hanging = make::hanging(bay.project, bay.scene);
        QCOMPARE(*hanging.floor_mm, -450.0);
        QCOMPARE(hanging.lines.size(), std::size_t(3));
        QCOMPARE(hanging.lines[0].behind_axle_mm, 100.0); // the donor's origin
        QCOMPARE(*hanging.lines[0].off_floor_mm, 460.0);
        const make::HangingLine& pad = hanging.lines[1];
        QCOMPARE(pad.name, std::string("Left pad"));
        QCOMPARE(pad.behind_axle_mm, -200.0); // 200 ahead
        QCOMPARE(pad.aside_mm, -230.0);       // to the left
        QCOMPARE(pad.height_mm, 70.0);
        QCOMPARE(*pad.off_floor_mm, 520.0);
        // √(200² + 70² + 220²) = 305.4 to the axle's point; √(200² + 630² + 30²) = 661.7 to the tower; far is farther.
        QCOMPARE(pad.hooks.size(), std::size_t(2));
        QCOMPARE(pad.hooks[0].name, std::string("Axle"));
        QVERIFY(std::abs(pad.hooks[0].straight_mm - std::sqrt(200.0 * 200 + 70 * 70 + 220 * 220)) < 1e-9);
        QCOMPARE(pad.hooks[1].name, std::string("Tower"));
        // The sump is 100 high round 150: its underside at 100, hung 10 higher.
        QVERIFY(hanging.lines[2].name.find("sump") != std::string::npos);
        QCOMPARE(*hanging.lines[2].off_floor_mm, 100.0 + 10 + 450);
    }

    void nothingHangsNothingIsListed() {
        model::Project p = tests::smallBay();
        p.placements.clear();
        const tests::Bay bay(p);
        QVERIFY(make::hanging(bay.project, bay.scene).lines.empty());
        // Without a ground the datum is the floor only where it is called so.
        model::Project other = tests::smallBay();
        other.vehicle->datum.kind = "other";
        const tests::Bay there(other);
        QVERIFY(!make::hanging(there.project, there.scene).floor_mm);
        QVERIFY(!make::hanging(there.project, there.scene).lines[0].off_floor_mm);
    }
};

GABARIT_SUITE(HangingTest)
#include "hanging_test.moc"

// What is only assumed, and whether it decides: against figures known by hand.
#include "make/assumed.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using namespace gabarit::tests;

class AssumedTest : public QObject {
    Q_OBJECT
    static std::vector<make::AssumedLine> lines(const Project& p) {
        const Bay bay(p);
        return make::assumed(bay.project, bay.scene, bay.clearance);
    }
private slots:
    void worstFirst() {
        Project p = smallBay(); // the sump 20 above the crossmember, 10 wanted: 10 are left
        QVERIFY(lines(p).empty());
        p.vehicle->bodies[0].measured.method = Method::Assumed; // to ±2
        auto all = lines(p);
        QCOMPARE(all.size(), std::size_t(1));
        QCOMPARE(all[0].name, std::string("crossmember"));
        QVERIFY(all[0].assumed && std::abs(*all[0].margin_mm - 10) < 1e-9 && std::abs(*all[0].left_mm - 8) < 1e-9);
        QCOMPARE(all[0].against, std::string("sump"));
        p.vehicle->bodies[0].accuracy_mm = 25; // now it decides
        QVERIFY(std::abs(*lines(p)[0].left_mm + 15) < 1e-9);
        // One whose accuracy nobody knows stands before it; one far away after.
        p.donors[0].bodies[0].accuracy_mm.reset();
        p.vehicle->bodies.push_back(box("far", "body", {10, 10, 10}, {5000, 0, 0}));
        p.vehicle->bodies.back().measured.method = Method::Assumed;
        all = lines(p);
        QCOMPARE(all.size(), std::size_t(3));
        QCOMPARE(all[0].name, std::string("sump"));
        QVERIFY(!all[0].assumed && !all[0].left_mm && all[0].margin_mm);
        QCOMPARE(all[1].name, std::string("crossmember"));
        QCOMPARE(all[2].name, std::string("far"));
        QVERIFY(!all[2].margin_mm);
        p.vehicle->bodies[0].off = true; // what is not in the bay eats nothing
        QCOMPARE(lines(p).size(), std::size_t(2));
    }
    void picturesStayInTheProjectsFolder() {
        Project p = smallBay();
        for (const char* good : {"", "bay.jpg", "van.files/tape 3.png", "a..b/c"}) {
            p.vehicle->bodies[0].measured.picture = good;
            QVERIFY2(validate(p, store::defaultRuleBook()).empty(), good);
        }
        for (const char* bad : {"/etc/passwd", "../up.png", "..", "a/../../b.png", "a/..", "c:\\x.png"}) {
            p.vehicle->bodies[0].measured.picture = bad;
            QVERIFY2(!validate(p, store::defaultRuleBook()).empty(), bad);
        }
    }
};

GABARIT_SUITE(AssumedTest)
#include "assumed_test.moc"

// The strip of tries: each place where it hung stays in sight, and one goes back by pointing.
#include "model/project.h"
#include "session/tries.h"
#include "stages/place/nudge_bar.h"
#include "stages/place/place_stage.h"
#include "stages/place/tries_strip.h"
#include "support/suite.h"
#include "support/window_hand.h"

#include <QPushButton>
#include <QSettings>
#include <QTemporaryDir>

using namespace gabarit;
using namespace gabarit::app;

class TriesTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir settings_;

    PlaceStage* place() { return window_->stage<PlaceStage>(); }
    TriesStrip* strip() { return place()->strip(); }
    const Tries& tries() { return place()->tries(); }
    int noGoGaps() {
        int out = 0;
        for (const study::Finding& finding : session().reports()->findings)
            out += finding.a && finding.b && finding.verdict == model::Verdict::NoGo;
        return out;
    }
    void nudge(const char* button) {
        press(place()->nudges()->button(QString::fromLatin1(button)));
        settleAdvised();
    }
    const model::Placement& now() { return *model::activePlacement(project()); }

private slots:
    void initTestCase() { QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings_.path()); }
    void init() {
        QSettings().clear();
        openWindow();
        QVERIFY(window_->openDemo());
        window_->goToStage(QStringLiteral("place"));
        settleAdvised();
    }
    void cleanup() { window_.reset(); }

    void eachTryIsKeptAndGoneBackTo() {
        QTRY_COMPARE(tries().all().size(), std::size_t(1));
        const Eigen::Vector3d began = now().position_mm;
        const int at_first = noGoGaps();
        QTRY_VERIFY(strip()->shot(tries().now()->id));
        const int first = tries().now()->id;
        QCOMPARE(tries().now()->no_go, at_first);
        nudge("up");
        nudge("up");
        QTRY_COMPARE(tries().all().size(), std::size_t(3));
        QCOMPARE(tries().now()->no_go, noGoGaps());
        QVERIFY2(!tries().now()->words.isEmpty() && tries().now()->words != tries().all().front().words,
                 qPrintable(tries().now()->words));
        QTRY_VERIFY(strip()->shot(tries().now()->id));
        QVERIFY(strip()->shot(tries().now()->id)->accessibleName().contains("now"));
        // Pointed at, it hangs there again; the row keeps its order, and undo says what was done.
        press(strip()->shot(first));
        QCOMPARE(now().position_mm, began);
        QVERIFY2(session().history().undoText().startsWith("back to"), qPrintable(session().history().undoText()));
        settleAdvised();
        QTRY_COMPARE(tries().now()->id, first);
        QCOMPARE(tries().all().size(), std::size_t(3));
        QTRY_VERIFY(strip()->shot(first)->accessibleName().contains("now"));
        press(strip()->button("undo"));
        QCOMPARE(now().position_mm.z(), began.z() + 10);
        settleAdvised();
        QTRY_COMPARE(tries().all().back().id, tries().now()->id);
    }

    void figuresOfATryHoldOnlyWhileAllElseIsAsItWas() {
        nudge("down");
        QTRY_COMPARE(tries().all().size(), std::size_t(2));
        QVERIFY(tries().holds(tries().all().front()));
        model::Project changed = project();
        changed.vehicle->bodies.front().position_mm.x() += 3;
        session().change("a body moved", std::move(changed));
        settleAdvised();
        QTRY_VERIFY(!tries().holds(tries().all().front()));
        QTRY_VERIFY(strip()->shot(tries().all().front().id)->toolTip().contains("then"));
    }

    void aTryBecomesAPlacementOfItsOwnOrIsPinned() {
        nudge("up");
        QTRY_COMPARE(tries().all().size(), std::size_t(2));
        const std::size_t before = project().placements.size();
        const Eigen::Vector3d here = now().position_mm;
        const model::PlacementId was = now().id;
        press(strip()->button("own"));
        QCOMPARE(project().placements.size(), before + 1);
        QVERIFY(now().id != was);
        QCOMPARE(now().position_mm, here);
        settleAdvised();
        // Back to a try of the other placement: that one hangs again.
        press(strip()->shot(tries().all().front().id));
        QCOMPARE(now().id, was);
        settleAdvised();
        press(strip()->button("pin"));
        QVERIFY(session().pin());
    }
};

GABARIT_WINDOW_SUITE(TriesTest)
#include "tries_test.moc"

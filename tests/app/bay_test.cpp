// The drawing without its window: callouts, lookout, outlines.
#include "bay/callouts.h"
#include "bay/thinned.h"
#include "placed/scene.h"
#include "session/picture.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using Eigen::Vector3d;

namespace {

std::shared_ptr<const model::Project> demo() {
    return std::make_shared<const model::Project>(
        store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
            .value()
            .project);
}
double nothingBelow(const QRectF&) { return 0; }
const QRectF sheet(0, 0, 600, 300);

} // namespace

class BayTest : public QObject {
    Q_OBJECT
    /// Of a corner of the one from the nearest corner of the other.
    static double farthest(const QPainterPath& of, const QPainterPath& from) {
        double out = 0;
        for (int i = 0; i < of.elementCount(); ++i) {
            double nearest = std::numeric_limits<double>::max();
            for (int k = 0; k < from.elementCount() && nearest > out; ++k)
                nearest = std::min(nearest, QLineF(of.elementAt(i), from.elementAt(k)).length());
            out = std::max(out, nearest);
        }
        return out;
    }

private slots:
    void calloutsCoverNeitherEachOtherNorTheTitle() {
        const QFontMetricsF metrics{QFont()};
        const QRectF title(4, 3, 200, 44);
        std::vector<Callout> callouts;
        for (int i = 0; i < 6; ++i)
            callouts.push_back(
                {QStringLiteral("front sump in the crossmember −18"), QPointF(250 + 6 * i, 150 + 4 * i), {}, {}});
        layOut(callouts, sheet, {title}, metrics, 400, nothingBelow);
        int placed = 0;
        for (std::size_t i = 0; i < callouts.size(); ++i) {
            if (callouts[i].box.isEmpty()) continue;
            ++placed;
            QVERIFY(sheet.contains(callouts[i].box));
            QVERIFY(!callouts[i].box.intersects(title));
            QVERIFY(!callouts[i].box.contains(callouts[i].anchor));
            QVERIFY(callouts[i].box.width() >= metrics.horizontalAdvance(callouts[i].text)); // no word is cut
            for (std::size_t j = 0; j < callouts.size(); ++j) {
                if (j == i || callouts[j].box.isEmpty()) continue;
                QVERIFY(!callouts[i].box.intersects(callouts[j].box));
                // No leader goes through another's words: looked for point by point.
                const QPointF from = leaderStart(callouts[j]), to = callouts[j].anchor;
                for (double share = 0; share <= 1; share += 0.01)
                    QVERIFY(!callouts[i].box.contains(from + (to - from) * share));
            }
            // The leader starts on the box's edge.
            const QPointF start = leaderStart(callouts[i]);
            QVERIFY(callouts[i].box.adjusted(-1e-6, -1e-6, 1e-6, 1e-6).contains(start));
            QVERIFY(!callouts[i].box.adjusted(1, 1, -1, -1).contains(start));
        }
        QVERIFY(placed >= 5);
    }
    void longCalloutsAreBrokenInTwo() {
        const QFontMetricsF metrics{QFont()};
        std::vector<Callout> callouts{
            {QStringLiteral("sump drain plug in front crossmember −7"), QPointF(300, 150), {}, {}}};
        layOut(callouts, sheet, {}, metrics, 120, nothingBelow);
        QCOMPARE(callouts[0].text.count(QLatin1Char('\n')), 1);
        QVERIFY(std::abs(callouts[0].text.indexOf(QLatin1Char('\n')) - callouts[0].text.size() / 2) < 8);
    }
    void calloutsKeepOffTheDonorWhereTheyCan() {
        const QFontMetricsF metrics{QFont()};
        std::vector<Callout> callouts{{QStringLiteral("gap 12"), QPointF(300, 150), {}, {}}};
        const QRectF donor(100, 20, 190, 260); // everything to the left of the anchor
        layOut(callouts, sheet, {}, metrics, 400,
               [&donor](const QRectF& box) { return box.intersects(donor) ? 1.0 : 0.0; });
        QVERIFY(!callouts[0].box.intersects(donor));
    }
    /// Where its words could only stand over the unit, the number alone stands there.
    void whatWouldHideTheUnitSaysLess() {
        const QFontMetricsF metrics{QFont()};
        std::vector<Callout> callouts{
            {QStringLiteral("3  shift turret 12 mm"), QPointF(300, 150), {}, QStringLiteral("3")}};
        layOut(callouts, sheet, {}, metrics, 400, [](const QRectF&) { return 1.0; });
        QCOMPARE(callouts[0].text, QStringLiteral("3"));
        QVERIFY(!callouts[0].box.isEmpty());
        callouts[0].text = QStringLiteral("3  shift turret 12 mm");
        layOut(callouts, sheet, {}, metrics, 400, nothingBelow);
        QCOMPARE(callouts[0].text, QStringLiteral("3  shift turret 12 mm"));
    }
    void noRoomIsNoBox() {
        const QFontMetricsF metrics{QFont()};
        std::vector<Callout> callouts{
            {QStringLiteral("a text that is far too long for this little sheet of paper"), QPointF(20, 20), {}, {}}};
        layOut(callouts, QRectF(0, 0, 40, 40), {}, metrics, 1e6, nothingBelow);
        QVERIFY(callouts[0].box.isEmpty());
    }

    /// Law: zooming about a point leaves that point where it is on the sheet, and back again is where one was.
    void zoomKeepsThePointUnderTheHand() {
        Lookout lookout;
        lookout.setScale(0.5);
        lookout.setCentre({400, 10, 600});
        const Vector3d hand(520, -30, 680);
        const Vector3d before = (hand - lookout.centre_mm()) * lookout.scale();
        lookout.zoomAbout(1.7, hand);
        QVERIFY(((hand - lookout.centre_mm()) * lookout.scale() - before).norm() < 1e-9);
        QVERIFY(std::abs(lookout.scale() - 0.85) < 1e-12);
        lookout.zoomAbout(1 / 1.7, hand);
        QVERIFY((lookout.centre_mm() - Vector3d(400, 10, 600)).norm() < 1e-9);
        lookout.setScale(1e9);
        QVERIFY(lookout.scale() <= 40);
        lookout.setScale(0);
        QVERIFY(lookout.scale() > 0);
    }
    void lookoutTellsWhatChanged() {
        Lookout lookout;
        QSignalSpy changed(&lookout, &Lookout::changed), sliced(&lookout, &Lookout::slicesChanged),
            selected(&lookout, &Lookout::selectedChanged);
        const model::BodyRef bonnet{model::vehicle_owner, {"bonnet"}};
        QCOMPARE(lookout.sight(bonnet), Sight::Shown);
        lookout.setSight(bonnet, Sight::Hidden);
        QCOMPARE(lookout.sight(bonnet), Sight::Hidden);
        lookout.clearSights();
        QCOMPARE(lookout.sight(bonnet), Sight::Shown);
        QCOMPARE(changed.count(), 2);
        lookout.setSlice(Elevation::Plan, 700.0);
        QCOMPARE(*lookout.slice(Elevation::Plan), 700.0);
        QVERIFY(!lookout.slice(Elevation::Side));
        QCOMPARE(sliced.count(), 1);
        lookout.select("gap:x");
        QCOMPARE(selected.count(), 1);
    }

    void viewpointsLookTheRightWay() {
        // From the vehicle's left, from above, from the front: against these the viewer looks.
        QVERIFY((viewpoint(Elevation::Side).towards_viewer() - Vector3d(0, -1, 0)).norm() < 1e-12);
        QVERIFY((viewpoint(Elevation::Plan).towards_viewer() - Vector3d(0, 0, 1)).norm() < 1e-12);
        QVERIFY((viewpoint(Elevation::Front).towards_viewer() - Vector3d(-1, 0, 0)).norm() < 1e-12);
    }

    void aMovedOutlineIsTheOneItWouldHaveThere() {
        // An outline that was made elsewhere is moved; of a turned body, or one with a slice through it, it is made
        // anew.
        proximity::ColliderCache cache;
        PictureMaker used;
        auto project = demo();
        used.make(project, placed::makeScene(*project, cache), {});
        const Slices across{0.0, std::nullopt, std::nullopt};
        for (const Slices& slices : {Slices{}, across}) {
            auto changed = *project;
            model::Placement& hung = *model::activePlacement(changed);
            hung.position_mm += Vector3d(17, -3, 29);
            if (slices[0]) hung.angles.pitch_deg += 2;
            const auto moved = std::make_shared<const model::Project>(changed);
            const placed::Scene scene = placed::makeScene(*moved, cache);
            const auto picture = used.make(moved, scene, slices);
            const auto fresh = PictureMaker().make(moved, scene, slices);
            QCOMPARE(picture->bodies.size(), fresh->bodies.size());
            for (std::size_t i = 0; i < fresh->bodies.size(); ++i)
                for (std::size_t e = 0; e < 3; ++e) {
                    const QPainterPath &its = picture->bodies[i].outline[e], &there = fresh->bodies[i].outline[e];
                    // A ring may begin at another of its points, and outlines are joined on a grid.
                    QVERIFY2(farthest(its, there) < 0.003 && farthest(there, its) < 0.003,
                             fresh->bodies[i].name.c_str());
                    QCOMPARE(picture->bodies[i].mark[e], fresh->bodies[i].mark[e]);
                }
        }
    }

    void picturesHoldTrueOutlines() {
        proximity::ColliderCache cache;
        PictureMaker maker;
        const auto project = demo();
        const placed::Scene scene = placed::makeScene(*project, cache);
        const auto picture = maker.make(project, scene, {});
        QCOMPARE(picture->bodies.size(), scene.bodies.size());
        for (const PictureBody& body : picture->bodies) {
            for (const Elevation elevation : elevations) {
                const shape::Viewpoint view = viewpoint(elevation);
                const QRectF drawn = body.outline[static_cast<std::size_t>(elevation)].boundingRect();
                const Vector3d size = body.bounds_vehicle_mm.sizes(), centre = body.bounds_vehicle_mm.center();
                // The outline of a turned body lies within its bounds (which go round its box's corners), and shares
                // their middle for bodies that stand square.
                QVERIFY2(drawn.width() <= size.dot(view.right.cwiseAbs()) + 0.01 &&
                             drawn.height() <= size.dot(view.up.cwiseAbs()) + 0.01,
                         body.name.c_str());
                QVERIFY(std::abs(drawn.center().x() - centre.dot(view.right)) <=
                        size.dot(view.right.cwiseAbs()) / 2 + 0.01);
            }
            if (body.ref.body.text == "battery") { // 178 × 126 × 190, standing square
                const QRectF plan = body.outline[1].boundingRect();
                QVERIFY(std::abs(plan.width() - 178) < 0.01 && std::abs(plan.height() - 126) < 0.01);
            }
        }
        // Farthest first: in the plan nothing stands before what is higher than it.
        const auto& order = picture->order[1];
        for (std::size_t i = 1; i < order.size(); ++i)
            QVERIFY(picture->bodies[order[i - 1]].bounds_vehicle_mm.center().z() <=
                    picture->bodies[order[i]].bounds_vehicle_mm.center().z());
        QVERIFY(!picture->donor_bounds_vehicle_mm.isEmpty());
    }
    void sliceTakesAwayWhatIsNearer() {
        proximity::ColliderCache cache;
        PictureMaker maker;
        const auto project = demo();
        const placed::Scene scene = placed::makeScene(*project, cache);
        Slices slices;
        slices[1] = 780.0; // above datum
        const auto whole = maker.make(project, scene, {}), sliced = maker.make(project, scene, slices);
        const auto area = [](const QPainterPath& path) {
            return path.boundingRect().width() * path.boundingRect().height();
        };
        int gone = 0, opened = 0;
        for (std::size_t i = 0; i < whole->bodies.size(); ++i) {
            const PictureBody &a = whole->bodies[i], &b = sliced->bodies[i];
            if (a.bounds_vehicle_mm.min().z() > 780) {
                ++gone;
                QVERIFY2(b.outline[1].isEmpty(), a.name.c_str());
            } else if (a.bounds_vehicle_mm.max().z() <= 780) {
                QVERIFY2(a.outline[1] == b.outline[1], a.name.c_str());
            } else {
                opened += !b.cut[1].isEmpty();
                QVERIFY2(area(b.outline[1]) <= area(a.outline[1]) + 0.1, a.name.c_str());
            }
            QVERIFY(a.outline[0] == b.outline[0]); // the side view is not sliced
        }
        QVERIFY(gone > 5 && opened > 5);
    }
    void overlapsAreOutlinedWhereTheyAre() {
        tests::KeptStudy study;
        PictureMaker maker;
        const study::Reports reports = study.run(demo(), {});
        const auto overlaps = maker.overlaps(reports, {});
        QVERIFY(overlaps.size() >= 3);
        for (const PictureOverlap& overlap : overlaps)
            for (const study::Finding& finding : reports.findings) {
                if (finding.id != overlap.finding) continue;
                const QPointF place(finding.place_vehicle_mm->x(), finding.place_vehicle_mm->z());
                QVERIFY(overlap.outline[0].boundingRect().adjusted(-1, -1, 1, 1).contains(place));
            }
    }

    /// What is left out of an outline lies nowhere farther from what is drawn than it says, however fine it was.
    void thinnedOutlinesKeepTheirShape() {
        for (const double radius : {3.0, 100.0, 2000.0}) {
            QPolygonF round;
            constexpr int points = 20000;
            for (int i = 0; i < points; ++i)
                round << QPointF(radius * std::cos(2 * M_PI * i / points), radius * std::sin(2 * M_PI * i / points));
            round << round.front();
            QPainterPath path;
            path.addPolygon(round);
            const QPainterPath drawn = thinned(path, QTransform());
            QVERIFY(drawn.elementCount() > 8 && drawn.elementCount() < points / 10);
            for (int i = 1; i < drawn.elementCount(); ++i) { // a chord's middle is its farthest place from the circle
                const QPointF middle = (QPointF(drawn.elementAt(i - 1)) + QPointF(drawn.elementAt(i))) / 2;
                QVERIFY2(radius - std::hypot(middle.x(), middle.y()) < 0.1 + 1e-9,
                         qPrintable(QString::number(radius - std::hypot(middle.x(), middle.y()))));
            }
        }
        // Corners and the tip of a spike stay, a point on a straight line goes.
        QPainterPath corners;
        corners.addPolygon(QPolygonF{{0, 0}, {5, 0}, {10, 0}, {10, 10}, {10, 2}, {0, 2}});
        const QPainterPath drawn = thinned(corners, QTransform());
        QVector<QPointF> left;
        for (int i = 0; i < drawn.elementCount(); ++i) left << QPointF(drawn.elementAt(i));
        QCOMPARE(left, (QVector<QPointF>{{0, 0}, {10, 0}, {10, 10}, {10, 2}, {0, 2}}));
    }
};

GABARIT_PAINT_SUITE(BayTest)

#include "bay_test.moc"

// The bellhousing's stack and the sides of an interface, painted and looked at point by point.
#include "driveline/section/driveline.h"
#include "print/mating_pictures.h"
#include "support/pictures.h"
#include "support/suite.h"

#include <QGuiApplication>
#include <QtTest>

using namespace gabarit;
using tests::boxOf;
using tests::painted;
using tests::tones;

namespace {

/// Block 0; flange to 10, friction face 40, fingers 90; gearbox at 150; hub 30…60, splines 20…70.
model::BellStack stack() {
    model::BellStack s;
    s.adapter_plate = {0, 0};
    s.crank_flange = {10, 0};
    s.flywheel = {30, 0};
    s.clutch = {50, 0};
    s.bell_depth = {150, 0};
    s.hub_from = {-10, 0};
    s.hub_to = {20, 0};
    s.spline_from = {130, 0};
    s.spline_to = {80, 0};
    return s;
}
const print::StackBar* bar(const std::vector<print::StackLane>& lanes, const char* name) {
    for (const auto& lane : lanes)
        for (const auto& b : lane.bars)
            if (b.name == QLatin1String(name)) return &b;
    return nullptr;
}
model::Interface flanges() {
    model::Interface i;
    i.kind = model::InterfaceKind::Flange;
    i.a = {"gearbox", 4.0, 80.0, 57.0, 10.0, {}, {}, "", {}};
    i.b = {"shaft", 4.0, 40.0, 28.5, 5.0, {}, {}, "", {}};
    return i;
}
QImage sides(const model::Interface& i) {
    return painted(
        [&](QPainter& p, const QRectF& box) { print::paintInterface(p, box, i, tones, quantity::Shown::Millimetres); });
}

} // namespace

class MatingPicturesTest : public QObject {
    Q_OBJECT
private slots:
    void placesAddUp() {
        const auto lanes = print::stackLanes(stack());
        QCOMPARE(bar(lanes, "clutch, to its fingers")->to_mm, 90.0);
        QCOMPARE(bar(lanes, "bellhousing")->to_mm, 150.0);
        QCOMPARE(bar(lanes, "hub")->from_mm, 30.0);
        QCOMPARE(bar(lanes, "hub")->to_mm, 60.0);
        QCOMPARE(bar(lanes, "splines")->from_mm, 20.0);
        QCOMPARE(bar(lanes, "splines")->to_mm, 70.0);
        QVERIFY(bar(lanes, "hub")->on_crank && !bar(lanes, "splines")->on_crank);
        QVERIFY(!bar(lanes, "ring gear")); // not given: not drawn
        QVERIFY(!bar(lanes, "adapter plate"));
        // A plate of 12 puts gearbox and shaft back, and leaves the crank where it is.
        model::BellStack plate = stack();
        plate.adapter_plate = {12, 0};
        QCOMPARE(bar(print::stackLanes(plate), "splines")->from_mm, 32.0);
        QCOMPARE(bar(print::stackLanes(plate), "hub")->from_mm, 30.0);
        plate.starter_face = {20, 0};
        plate.starter_rest = {2, 0};
        plate.starter_out = {15, 0};
        QCOMPARE(bar(print::stackLanes(plate), "pinion's way")->to_mm, 35.0);
        plate.starter_from_behind = true;
        QCOMPARE(bar(print::stackLanes(plate), "pinion's way")->from_mm, 5.0);
        QCOMPARE(bar(print::stackLanes(plate), "pinion's way")->to_mm, 18.0);
    }
    void theStackIsDrawnToScale() {
        const QImage image = painted([&](QPainter& p, const QRectF& box) {
            print::paintStack(p, box, stack(), tones, quantity::Shown::Millimetres);
        });
        const QRect crank = boxOf(image.copy(0, 0, 600, 340), tones.far_end);
        const QRect housing = boxOf(image.copy(0, 0, 600, 340), tones.shaft);
        // From the block to the fingers 90 of the bellhousing's 150.
        QVERIFY(std::abs(crank.width() / double(housing.width()) - 90.0 / 150) < 0.02);
        QVERIFY(std::abs(crank.left() - housing.left()) <= 1);
        const QImage empty = painted(
            [&](QPainter& p, const QRectF& box) { print::paintStack(p, box, {}, tones, quantity::Shown::Inches); });
        QVERIFY(boxOf(empty, tones.shaft).isEmpty());
        QVERIFY(!boxOf(empty, tones.second_ink).isEmpty()); // says what to measure
    }
    void bothSidesStandAtOneScale() {
        const QImage image = sides(flanges());
        const QRect a = boxOf(image, tones.shaft), b = boxOf(image, tones.far_end);
        QVERIFY(a.right() < 300 && b.left() > 300);
        QVERIFY2(std::abs(a.width() / double(b.width()) - 2) < 0.04, "half the size must look half the size");
        QVERIFY(std::abs(a.width() - a.height()) <= 2);
    }
    void everyKindIsDrawn_data() {
        QTest::addColumn<int>("kind");
        QTest::newRow("spline") << int(model::InterfaceKind::Spline);
        QTest::newRow("joint") << int(model::InterfaceKind::Joint);
        QTest::newRow("bore") << int(model::InterfaceKind::Bore);
    }
    void everyKindIsDrawn() {
        QFETCH(int, kind);
        model::Interface i = flanges();
        i.kind = model::InterfaceKind(kind);
        i.a.count = i.b.count = 23;
        i.a.span_mm = 92;
        i.b.span_mm = 46;
        const QImage image = sides(i);
        const QRect a = boxOf(image, tones.shaft), b = boxOf(image, tones.far_end);
        QVERIFY(!a.isEmpty() && !b.isEmpty());
        QVERIFY(std::abs(a.width() / double(b.width()) - 2) < 0.06);
        // Without a size there is nothing to draw, and words say so.
        i.a.diameter_mm.reset();
        i.b.diameter_mm.reset();
        i.a.span_mm.reset();
        i.b.span_mm.reset();
        QVERIFY(boxOf(sides(i), tones.shaft).isEmpty());
        QVERIFY(!boxOf(sides(i), tones.second_ink).isEmpty());
        i.a.count = 1e300; // nobody has so many teeth; it is drawn round
        i.a.diameter_mm = 30;
        QVERIFY(!boxOf(sides(i), tones.shaft).isEmpty());
    }
};

GABARIT_PAINT_SUITE(MatingPicturesTest)
#include "mating_pictures_test.moc"

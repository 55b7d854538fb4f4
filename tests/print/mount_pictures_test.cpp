// The mounts' drawings: how much larger a move is drawn, and that loads and moves are seen.
#include "mounts/mounts.h"
#include "print/mount_pictures.h"
#include "support/mounted_unit.h"
#include "support/pictures.h"
#include "support/suite.h"

#include <QGuiApplication>
#include <QtTest>

using namespace gabarit;
using Eigen::Vector3d;
using tests::painted;
using tests::tones;

namespace {

print::MountDrawing drawingOf(const mounts::MountsReport& report) {
    print::MountDrawing drawing;
    drawing.report = &report;
    drawing.elevation = shape::Elevation::Front;
    drawing.centre_mm = report.unit.body.centre_mm;
    drawing.px_per_mm = 0.3;
    drawing.names = false;
    return drawing;
}
int pixelsOf(const QImage& image, const QColor& tone) {
    int n = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) n += image.pixelColor(x, y).rgb() == tone.rgb();
    return n;
}

} // namespace

class MountPicturesTest : public QObject {
    Q_OBJECT
private slots:
    void theMountThatGoesFarthestGoesAsFarAsIsSaid() {
        const mounts::MountsReport r = tests::judged(tests::mountedUnit());
        const mounts::Move move{{0.1, 0, 0.3}, {0.002, 0, 0.001}};
        const double by = print::exaggeration(r, move, 50);
        double most = 0;
        for (const mounts::MountReport& m : r.mounts)
            most = std::max(most, by * move.at(m.at_mm, r.unit.body.centre_mm).norm());
        QVERIFY(std::abs(most - 50) < 1e-9);
        QCOMPARE(print::exaggeration(r, {}, 50), 0.0); // what does not move is not made to
    }
    void aModeSwingsToBothSides() {
        const mounts::MountsReport r = tests::judged(tests::mountedUnit());
        for (const mounts::Mode& mode : *r.modes) {
            const auto there = print::modeMove(r, mode, 50, 0.25), back = print::modeMove(r, mode, 50, 0.75);
            QVERIFY((there.by_mm + back.by_mm).norm() < 1e-9 && (there.turn_rad + back.turn_rad).norm() < 1e-12);
            QVERIFY(print::modeMove(r, mode, 50, 0).by_mm.norm() < 1e-9);
            // The same shape, only larger: its turning for each mm it goes.
            const mounts::Move shape{mode.shape.head<3>() * 1000, mode.shape.tail<3>()};
            const double by = print::exaggeration(r, shape, 50);
            QVERIFY((there.by_mm - shape.by_mm * by).norm() < 1e-9 &&
                    (there.turn_rad - shape.turn_rad * by).norm() < 1e-12);
        }
    }
    void loadsAreDrawnAndWhatIsPulledApartIsToldByTone() {
        const mounts::MountsReport r = tests::judged(tests::mountedUnit());
        print::MountDrawing drawing = drawingOf(r);
        const auto shot = [&] {
            return painted([&](QPainter& p, const QRectF& box) {
                print::paintMounts(p, box, drawing, tones, quantity::Shown::Millimetres);
            });
        };
        const QImage bare = shot();
        QCOMPARE(pixelsOf(bare, tones.in_hand), 0);
        drawing.load = &tests::load(r, "bump");
        const QImage bump = shot();
        QVERIFY(pixelsOf(bump, tones.in_hand) > 30); // arrows
        QCOMPARE(pixelsOf(bump, tones.trouble), 0);
        drawing.load = &tests::load(r, "corner-left");
        QVERIFY(std::find(drawing.load->pulled.begin(), drawing.load->pulled.end(), true) !=
                drawing.load->pulled.end());
        QVERIFY(pixelsOf(shot(), tones.trouble) > 10);
    }
    void theUnitIsDrawnWhereItIsMoved() {
        const mounts::MountsReport r = tests::judged(tests::mountedUnit());
        print::MountDrawing drawing = drawingOf(r);
        const shape::Viewpoint view = shape::viewpoint(drawing.elevation);
        const Vector3d c = r.unit.body.centre_mm;
        print::MountOutline unit;
        unit.in_donor = true;
        unit.path.addRect(c.dot(view.right) - 100, c.dot(view.up) + 200, 200, 50);
        const std::vector<print::MountOutline> outlines{unit};
        drawing.outlines = &outlines;
        const auto shot = [&] {
            return painted([&](QPainter& p, const QRectF& box) {
                print::paintMounts(p, box, drawing, tones, quantity::Shown::Millimetres);
            });
        };
        const QImage rest = shot();
        const QColor ground = rest.pixelColor(2, 2);
        const QPoint middle = rest.rect().center();
        // 225 mm above the centre at 0.3 px/mm: it is there; raised by 100 mm it is 30 px higher and no longer there.
        QVERIFY(rest.pixelColor(middle + QPoint(20, -67)) != ground);
        drawing.moved = mounts::Move{{0, 0, 100}, {0, 0, 0}};
        const QImage up = shot();
        QVERIFY(up.pixelColor(middle + QPoint(20, -67)) == ground);
        QVERIFY(up.pixelColor(middle + QPoint(20, -97)) != ground);
    }
};

GABARIT_PAINT_SUITE(MountPicturesTest)
#include "mount_pictures_test.moc"

// The driveline's drawings, painted on a picture and looked at point by point, and its sheets.
#include "discipline/discipline.h"
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "print/driveline_sheet.h"
#include "print/shaft_pictures.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/pictures.h"
#include "support/suite.h"

#include <QGuiApplication>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;
using tests::boxOf;
using tests::painted;
using tests::tones;

namespace {

study::Reports reports(const char* name) {
    const auto project =
        store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name + ".gabarit", store::defaultRuleBook());
    tests::KeptStudy study;
    study::RunOptions options;
    options.effort = discipline::Effort::None;
    options.depth = discipline::Depth::Skipped;
    return study.run(std::make_shared<const model::Project>(project.value().project), options);
}

} // namespace

class ShaftPicturesTest : public QObject {
    Q_OBJECT
private slots:
    void theChainRunsFromFrontToRear() {
        const study::Reports r = reports("harrow-tarn");
        double exaggeration = 0;
        const QImage image = painted([&](QPainter& p, const QRectF& box) {
            exaggeration = print::paintChain(p, box, r.of<driveline::DrivelineReport>()->lines[0], tones);
        });
        QVERIFY(exaggeration >= 1);
        const QRect shaft = boxOf(image, Qt::blue);
        QVERIFY(shaft.width() > 400); // it fills the picture
        // Falling to the rear: its left end stands higher than its right one in the upper half.
        const QImage side = image.copy(0, 0, 600, 185);
        const QRect in_side = boxOf(side, Qt::blue);
        const int left = boxOf(side.copy(in_side.left(), 0, 40, 185), Qt::blue).top();
        const int right = boxOf(side.copy(in_side.right() - 40, 0, 40, 185), Qt::blue).top();
        QVERIFY(right > left + 5);
        // A line nearly level is drawn steeper, and says so.
        const study::Reports wren = reports("pell-wren");
        painted([&](QPainter& p, const QRectF& box) {
            exaggeration = print::paintChain(p, box, wren.of<driveline::DrivelineReport>()->lines[0], tones);
        });
        QVERIFY(exaggeration > 1);
    }
    void curvesHaveTheirLimits() {
        const study::Reports r = reports("harrow-tarn");
        const auto& line = r.of<driveline::DrivelineReport>()->lines[0];
        const QImage slip = painted([&](QPainter& p, const QRectF& box) {
            print::paintSlip(p, box, line, 0, tones, quantity::Shown::Millimetres);
        });
        QVERIFY(boxOf(slip, Qt::blue).width() > 400);
        QVERIFY(boxOf(slip, Qt::red).height() > 50); // where it bottoms and where it comes apart
        const QImage angles = painted([&](QPainter& p, const QRectF& box) {
            print::paintAngles(p, box, line, tones, quantity::Shown::Millimetres);
        });
        QVERIFY(boxOf(angles, Qt::blue).width() > 400);
        driveline::LineReport still = line; // no travel: words, no curve, no crash
        still.curve.resize(1);
        const QImage none = painted([&](QPainter& p, const QRectF& box) {
            print::paintAngles(p, box, still, tones, quantity::Shown::Millimetres);
            print::paintSlip(p, box, still, 7, tones, quantity::Shown::Millimetres);
        });
        QVERIFY(boxOf(none, Qt::blue).isEmpty());
        QVERIFY(!boxOf(none, Qt::darkGray).isEmpty());
    }
    void theDialOpensWhereTheFacesDo() {
        const study::Reports r = reports("shaft-bench");
        const auto& coupling = r.of<driveline::DrivelineReport>()->couplings[0];
        const auto& given = r.project->sections.get<model::Driveline>()->couplings[0];
        const QImage dial = painted([&](QPainter& p, const QRectF& box) {
            print::paintDial(p, box, coupling.tries[0], given.tries[0], tones, quantity::Shown::Millimetres);
        });
        // Open between two and three o'clock: its mark is to the right and a little up.
        const QRect open = boxOf(dial, Qt::green);
        QVERIFY(open.center().x() > 330);
        QVERIFY(open.center().y() < 200);
        QVERIFY(boxOf(dial, Qt::red).isEmpty());
        const QImage second = painted([&](QPainter& p, const QRectF& box) {
            print::paintDial(p, box, coupling.tries[1], given.tries[1], tones, quantity::Shown::Millimetres);
        });
        QVERIFY(!boxOf(second, Qt::red).isEmpty()); // the reading that does not fit
        const QImage empty = painted([&](QPainter& p, const QRectF& box) {
            print::paintDial(p, box, {}, {}, tones, quantity::Shown::Millimetres);
        });
        QVERIFY(boxOf(empty, Qt::blue).isEmpty());
    }
    void aReadingFallsAsTheGaugeSaid() {
        model::AngleReading taken;
        taken.reading_deg = 4;
        taken.slope_deg = 1;
        driveline::AngleReport report;
        report.angle_deg = 3;
        report.planned_deg = -5;
        const QImage image =
            painted([&](QPainter& p, const QRectF& box) { print::paintReading(p, box, taken, report, tones); });
        // Front to the left: falling to the rear goes down to the right, rising up; the vehicle lies in between.
        const QRect gauge = boxOf(image.copy(0, 40, 300, 320), tones.ink);
        const QRect vehicle = boxOf(image.copy(0, 40, 300, 320), tones.far_end);
        const QRect project = boxOf(image.copy(0, 40, 300, 320), tones.shaft);
        QVERIFY(gauge.bottom() > 160 + 40 && project.top() < 160 - 40);
        QVERIFY(vehicle.bottom() > 160 + 5 && vehicle.bottom() < gauge.bottom() - 30);
        taken.slope_deg.reset(); // only the gauge is known
        const QImage alone =
            painted([&](QPainter& p, const QRectF& box) { print::paintReading(p, box, taken, {}, tones); });
        QVERIFY(boxOf(alone, tones.far_end).isEmpty() && boxOf(alone, tones.shaft).isEmpty());
    }
    void gearsFanOut() {
        const study::Reports r = reports("skerry-quad");
        const QImage chart = painted([&](QPainter& p, const QRectF& box) {
            print::paintGearing(p, box, *r.of<gearing::GearingReport>(), *r.project->sections.get<model::Gearing>(),
                                tones, quantity::Shown::Millimetres);
        });
        QVERIFY(boxOf(chart, Qt::blue).width() > 400);
        QVERIFY(!boxOf(chart, Qt::green).isEmpty()); // the low range, dashed
        const QImage none = painted([&](QPainter& p, const QRectF& box) {
            print::paintGearing(p, box, {}, {}, tones, quantity::Shown::Inches);
        });
        QVERIFY(boxOf(none, Qt::blue).isEmpty());
    }
    void aPageALine() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("d.pdf"));
        const auto pages = [&](const char* name) {
            if (!print::writeDrivelineSheet(reports(name), {quantity::Shown::Inches, "today"}, path.toStdString()))
                return -1;
            QProcess info;
            info.start(QStringLiteral("pdfinfo"), {path});
            info.waitForFinished();
            const QString text = QString::fromUtf8(info.readAllStandardOutput());
            return QRegularExpression(QStringLiteral("Pages:\\s+(\\d+)")).match(text).captured(1).toInt();
        };
        QCOMPARE(pages("harrow-tarn"), 3); // the line, interfaces and bellhousing, gearing
        QCOMPARE(pages("skerry-quad"), 3); // two lines, gearing
        QCOMPARE(pages("pell-wren"), 4);
    }
};

GABARIT_PAINT_SUITE(ShaftPicturesTest)
#include "shaft_pictures_test.moc"

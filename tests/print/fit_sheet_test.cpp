#include "fit/fit_report.h"
#include "fit/words.h"
#include "placed/scene.h"
#include "print/fit_sheet.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QFile>
#include <QGuiApplication>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;
using Eigen::Vector3d;
using print::FitSheetLayout;
using shape::Elevation;

namespace {

study::Reports reportsOf(const model::Project& project) {
    tests::KeptStudy study;
    return study.advised(study.run(std::make_shared<const model::Project>(project), {}), {});
}
model::Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}
double distance(const QPointF& a, const QPointF& b) { return std::hypot(a.x() - b.x(), a.y() - b.y()); }

} // namespace

class FitSheetTest : public QObject {
    Q_OBJECT
private slots:
    /// Law: a length in the plane of a drawing is that length divided by the scale, and the drawings line up.
    void drawnToScale() {
        const FitSheetLayout layout = print::fitSheetLayout(reportsOf(demo()));
        QCOMPARE(layout.scale, 16);
        const Vector3d a(100, -50, 600), along(320, 0, 0), across(0, 160, 0), up(0, 0, 240);
        QVERIFY(std::abs(distance(layout.onPage_mm(Elevation::Side, a), layout.onPage_mm(Elevation::Side, a + along)) -
                         20) < 1e-9);
        QVERIFY(std::abs(distance(layout.onPage_mm(Elevation::Side, a), layout.onPage_mm(Elevation::Side, a + up)) -
                         15) < 1e-9);
        QVERIFY(std::abs(distance(layout.onPage_mm(Elevation::Plan, a), layout.onPage_mm(Elevation::Plan, a + across)) -
                         10) < 1e-9);
        QVERIFY(
            std::abs(distance(layout.onPage_mm(Elevation::Front, a), layout.onPage_mm(Elevation::Front, a + across)) -
                     10) < 1e-9);
        // The same station stands above itself, the same height beside itself; up is up, the front is to the left.
        QVERIFY(std::abs(layout.onPage_mm(Elevation::Side, a).x() - layout.onPage_mm(Elevation::Plan, a).x()) < 1e-9);
        QVERIFY(std::abs(layout.onPage_mm(Elevation::Side, a).y() - layout.onPage_mm(Elevation::Front, a).y()) < 1e-9);
        QVERIFY(layout.onPage_mm(Elevation::Side, a + up).y() < layout.onPage_mm(Elevation::Side, a).y());
        QVERIFY(layout.onPage_mm(Elevation::Side, a + along).x() > layout.onPage_mm(Elevation::Side, a).x());
    }
    void theDonorIsOnThePage() {
        const study::Reports reports = reportsOf(demo());
        const FitSheetLayout layout = print::fitSheetLayout(reports);
        for (const placed::PlacedBody& body : reports.scene->bodies)
            if (body.in_donor)
                for (const Elevation elevation : shape::elevations) {
                    const QRectF frame = layout.frame_mm[static_cast<std::size_t>(elevation)];
                    const auto box = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
                    QVERIFY(frame.contains(layout.onPage_mm(elevation, box.min())));
                    QVERIFY(frame.contains(layout.onPage_mm(elevation, box.max())));
                }
        for (const QRectF& frame : layout.frame_mm) QVERIFY(QRectF(0, 0, 297, 210).contains(frame));
    }
    void onePageWithTheWords() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("fit.pdf"));
        const study::Reports reports = reportsOf(demo());
        const auto written = print::writeFitSheet(reports, {{}, "1 May 2026"}, path.toStdString());
        QVERIFY2(written.ok(), written.ok() ? "" : written.error().line().c_str());
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray bytes = file.readAll();
        QVERIFY(bytes.startsWith("%PDF"));
        QVERIFY(
            QString::fromLatin1(bytes).contains(QRegularExpression("/MediaBox \\[0 0 842(\\.\\d+)? 595(\\.\\d+)?\\]")));
        QCOMPARE(QString::fromLatin1(bytes).count(QRegularExpression("/Type /Page\\b")), 2); // what found no room
        QProcess read;
        read.start(QStringLiteral("pdftotext"), {QStringLiteral("-raw"), path, QStringLiteral("-")});
        QVERIFY(read.waitForFinished());
        QString text = QString::fromUtf8(read.readAllStandardOutput());
        text.replace(QLatin1Char('\n'), QLatin1Char(' '));
        for (const char* words :
             {"Harrow Tarn with Ostrel Six, First try", "1 May 2026", "What is in the way", "Room to move", "1 : 16",
              "they approve nothing", "Front sump fouls the front crossmember"})
            QVERIFY2(text.contains(QString::fromUtf8(words)), words);
        for (const study::Gauge& gauge : reports.gauges) QVERIFY(text.contains(QString::fromStdString(gauge.value)));
        QVERIFY(text.contains(
            QString::fromStdString(fit::wayWords(*reports.project, reports.with<fit::FitReport>().room->rooms[0].way,
                                                 reports.with<fit::FitReport>().room->rooms[0].amount, {}))));
    }
    void nothingToDrawAndNowhereToWriteAreSaid() {
        model::Project empty;
        empty.name = "empty";
        QVERIFY(!print::writeFitSheet(reportsOf(empty), {}, "/tmp/never.pdf"));
        const auto written = print::writeFitSheet(reportsOf(demo()), {}, "/nonexistent/folder/fit.pdf");
        QVERIFY(!written.ok());
        QVERIFY(written.error().line().find("/nonexistent/folder/fit.pdf") != std::string::npos);
    }
};

GABARIT_PAINT_SUITE(FitSheetTest)

#include "fit_sheet_test.moc"

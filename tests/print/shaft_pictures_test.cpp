// The driveline's drawings, painted on a picture and looked at point by point, and its sheets.
#include "print/driveline_sheet.h"
#include "print/shaft_pictures.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;

namespace {

const print::PictureTones tones{Qt::black,      Qt::darkGray, Qt::lightGray, Qt::blue,
                                Qt::darkYellow, Qt::red,      Qt::green,     Qt::white};

study::Reports reports(const char* name) {
    const auto project =
        store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name + ".gabarit", store::defaultRuleBook());
    study::Study study(store::defaultRuleBook());
    study::RunOptions options;
    options.effort = fit::Effort::None;
    options.depth = fit::Depth::Skipped;
    return study.run(std::make_shared<const model::Project>(project.value().project), options);
}

/// Paints and gives the picture.
template <class Paint>
QImage painted(Paint paint) {
    QImage image(600, 400, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    paint(painter, QRectF(0, 0, 600, 400));
    return image;
}
/// The box round all points of a tone.
QRect boxOf(const QImage& image, const QColor& tone) {
    QRect box;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (image.pixelColor(x, y) == tone) box |= QRect(x, y, 1, 1);
    return box;
}

} // namespace

class ShaftPicturesTest : public QObject {
    Q_OBJECT
private slots:
    void theChainRunsFromFrontToRear() {
        const study::Reports r = reports("harrow-tarn");
        double exaggeration = 0;
        const QImage image = painted([&](QPainter& p, const QRectF& box) {
            exaggeration = print::paintChain(p, box, r.driveline->lines[0], tones);
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
            exaggeration = print::paintChain(p, box, wren.driveline->lines[0], tones);
        });
        QVERIFY(exaggeration > 1);
    }
    void curvesHaveTheirLimits() {
        const study::Reports r = reports("harrow-tarn");
        const auto& line = r.driveline->lines[0];
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
        const auto& coupling = r.driveline->couplings[0];
        const auto& given = r.project->driveline->couplings[0];
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
    void gearsFanOut() {
        const study::Reports r = reports("skerry-quad");
        const QImage chart = painted([&](QPainter& p, const QRectF& box) {
            print::paintGearing(p, box, *r.gearing, *r.project->gearing, tones);
        });
        QVERIFY(boxOf(chart, Qt::blue).width() > 400);
        QVERIFY(!boxOf(chart, Qt::green).isEmpty()); // the low range, dashed
        const QImage none =
            painted([&](QPainter& p, const QRectF& box) { print::paintGearing(p, box, {}, {}, tones); });
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

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QGuiApplication application(argc, argv);
    ShaftPicturesTest test;
    return QTest::qExec(&test, argc, argv);
}
#include "shaft_pictures_test.moc"

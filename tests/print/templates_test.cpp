// Templates on paper and as files: pages, bars and outlines in the PDF's own coordinates.
#include "print/template_sheets.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QFile>
#include <QGuiApplication>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QXmlStreamReader>
#include <QtTest>

#include <cmath>

using namespace gabarit;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr double mm_per_pt = 25.4 / 72;

/// A crossmember with a pocket, a tube on a tube, a plate with holes.
study::Reports reports() {
    model::Project p;
    p.name = "Bay <1>";
    p.vehicle.emplace();
    model::Body body;
    body.id.text = "crossmember";
    body.name = "Crossmember";
    body.category = "crossmember";
    body.shape = model::ProfileSpec{model::RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
    p.vehicle->bodies = {body};
    p.sections.edit<model::Relief>();
    model::Pocket pocket;
    pocket.id = "pocket";
    pocket.name = "Pocket";
    pocket.body.text = "crossmember";
    pocket.form = model::PocketForm::Step;
    pocket.at_mm = {0, 0, 40};
    pocket.length_mm = 330, pocket.width_mm = 100, pocket.depth_mm = 20, pocket.flank_deg = 45, pocket.corner_mm = 8;
    pocket.plate_mm = 5;
    p.sections.edit<model::Relief>().pockets = {pocket};
    model::CutTube tube;
    tube.id = "brace";
    tube.name = "Brace";
    tube.diameter_mm = 42, tube.wall_mm = 3, tube.length_mm = 480;
    tube.first.onto = model::EndOnto::Tube;
    tube.first.diameter_mm = 60;
    p.sections.edit<model::Relief>().tubes = {tube};
    model::PatternPlate plate;
    plate.id = "blank";
    plate.name = "Pump blank";
    plate.holes = {{"bolt", {-40, 0}, 8.5, false, {}}, {"bore", {0, 0}, 30, false, {}}};
    p.sections.edit<model::Relief>().plates = {plate};
    tests::KeptStudy study;
    return study.run(std::make_shared<const model::Project>(p), {});
}

QString output(const QString& program, const QStringList& arguments) {
    QProcess run;
    run.start(program, arguments);
    run.waitForFinished();
    return QString::fromUtf8(run.readAllStandardOutput());
}

/// Of a page: every stroked path as points, mm.
std::vector<std::vector<Vector2d>> pathsOf(const QString& pdf, int page, const QString& folder) {
    const QString svg = folder + QStringLiteral("/page.svg");
    output(QStringLiteral("pdftocairo"), {QStringLiteral("-svg"), QStringLiteral("-f"), QString::number(page),
                                          QStringLiteral("-l"), QString::number(page), pdf, svg});
    QFile file(svg);
    if (!file.open(QIODevice::ReadOnly)) qFatal("no page");
    std::vector<std::vector<Vector2d>> out;
    QXmlStreamReader xml(&file);
    while (!xml.atEnd()) {
        if (xml.readNext() != QXmlStreamReader::StartElement || xml.name() != QStringLiteral("path")) continue;
        if (!xml.attributes().value(QStringLiteral("style")).contains(QStringLiteral("fill:none"))) continue;
        static const QRegularExpression matrix(QStringLiteral("matrix\\(([^,]+),0,0,([^,]+),([^,]+),([^)]+)\\)"));
        const auto m = matrix.match(xml.attributes().value(QStringLiteral("transform")).toString());
        const double scale = m.hasMatch() ? m.captured(1).toDouble() : 1;
        static const QRegularExpression place(QStringLiteral("[ML] ([-0-9.]+) ([-0-9.]+)"));
        std::vector<Vector2d> points;
        auto it = place.globalMatch(xml.attributes().value(QStringLiteral("d")).toString());
        while (it.hasNext()) {
            const auto p = it.next();
            points.push_back(Vector2d(p.captured(1).toDouble(), p.captured(2).toDouble()) * scale * mm_per_pt);
        }
        out.push_back(std::move(points));
    }
    return out;
}

bool hasLine(const std::vector<std::vector<Vector2d>>& paths, double long_mm) {
    return std::any_of(paths.begin(), paths.end(), [&](const auto& path) {
        return path.size() == 2 && std::abs((path[1] - path[0]).norm() - long_mm) < 0.1 &&
               std::abs(path[1].y() - path[0].y()) < 0.01;
    });
}

} // namespace

class TemplatesTest : public QObject {
    Q_OBJECT
private slots:
    void pagesAndBars_data() {
        QTest::addColumn<QString>("paper");
        QTest::addColumn<double>("wide");
        QTest::addColumn<double>("high");
        QTest::newRow("A4") << QStringLiteral("a4") << 210.0 << 297.0;
        QTest::newRow("Letter") << QStringLiteral("letter") << 215.9 << 279.4;
        QTest::newRow("roll") << QStringLiteral("roll") << 610.0 << 0.0;
    }
    void pagesAndBars() {
        QFETCH(QString, paper);
        QFETCH(double, wide);
        QFETCH(double, high);
        const QTemporaryDir folder;
        const auto r = reports();
        const auto written = print::writeTemplates(r, store::defaultRuleBook(), {paper.toStdString(), {}, "2026-05-17"},
                                                   folder.path().toStdString());
        QVERIFY2(written.ok(), written ? "" : written.error().line().c_str());
        const QString pdf = folder.filePath(QStringLiteral("templates-%1.pdf").arg(paper));
        const QString info = output(QStringLiteral("pdfinfo"), {QStringLiteral("-f"), QStringLiteral("2"),
                                                                QStringLiteral("-l"), QStringLiteral("99"), pdf});
        static const QRegularExpression size(QStringLiteral("size: +([0-9.]+) x ([0-9.]+)"));
        int pages = 0;
        auto it = size.globalMatch(info);
        while (it.hasNext()) {
            const auto m = it.next();
            QVERIFY(std::abs(m.captured(1).toDouble() * mm_per_pt - wide) < 0.2);
            if (high > 0) QVERIFY(std::abs(m.captured(2).toDouble() * mm_per_pt - high) < 0.2);
            ++pages;
        }
        QVERIFY(pages >= 5); // cut line, strip, two ends, plate; more where they are tiled
        for (int page = 2; page < 2 + pages; ++page) {
            const auto paths = pathsOf(pdf, page, folder.path());
            QVERIFY2(hasLine(paths, 100) && hasLine(paths, 101.6), qPrintable(QString::number(page)));
        }
        const QString text = output(QStringLiteral("pdftotext"), {QStringLiteral("-raw"), pdf, QStringLiteral("-")});
        for (const char* words : {"What to cut", "Pocket: bottom and ends", "Mild steel", "5.0 mm thick", "make 1",
                                  "side up: inside of the pocket", "Bay <1>, 2026-05-17", "engineer"})
            QVERIFY2(text.contains(QLatin1String(words)), words);
        // Turned by a quarter the words of a bend are read letter by letter.
        if (paper == QStringLiteral("a4")) QVERIFY(text.contains(QStringLiteral("inside 8.0 mm")));
    }

    void outlinesAreOneToOne() {
        const QTemporaryDir folder;
        const auto r = reports();
        QVERIFY(
            print::writeTemplates(r, store::defaultRuleBook(), {"roll", {}, "2026-05-17"}, folder.path().toStdString())
                .ok());
        const auto patterns = r.of<relief::ReliefReport>()->patterns();
        for (std::size_t i = 0; i < patterns.size(); ++i) {
            const auto paths =
                pathsOf(folder.filePath(QStringLiteral("templates-roll.pdf")), static_cast<int>(i) + 2, folder.path());
            const Eigen::AlignedBox2d want = patterns[i].bounds();
            const Vector2d size = want.max() - want.min();
            bool found = false;
            for (const auto& path : paths) {
                Eigen::AlignedBox2d box;
                for (const Vector2d& p : path) box.extend(p);
                if (path.size() < 3) continue;
                const Vector2d its = box.max() - box.min();
                found = found || (its - size).cwiseAbs().maxCoeff() < 0.1 ||
                        (its - Vector2d(size.y(), size.x())).cwiseAbs().maxCoeff() < 0.1;
            }
            QVERIFY2(found, patterns[i].name.c_str());
        }
    }

    void tilesCoverAndOverlap() {
        const model::RuleBook& book = store::defaultRuleBook();
        const auto tiling = print::tilingFor({500, 400}, "a4", book);
        QVERIFY(tiling.across * tiling.down > 1);
        QVERIFY(tiling.left(tiling.across - 1) + tiling.field_mm.width() >= 500);
        QVERIFY(tiling.top(tiling.down - 1) + tiling.field_mm.height() >= 400);
        QVERIFY(std::abs(tiling.left(0) + tiling.field_mm.width() - tiling.left(1) - book.figure("tile_overlap_mm")) <
                1e-9);
        const auto one = print::tilingFor({150, 200}, "a4", book);
        QCOMPARE(one.across * one.down, 1);
    }

    void filesForACutter() {
        const QTemporaryDir folder;
        QVERIFY(print::writeTemplates(reports(), store::defaultRuleBook(), {"a4", {}, "2026-05-17"},
                                      folder.path().toStdString())
                    .ok());
        QFile svg(folder.filePath(QStringLiteral("pocket-bottom-and-ends.svg")));
        QVERIFY(svg.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(svg.readAll());
        for (const char* words : {"id=\"cut\"", "id=\"bend\"", "id=\"mark\"", "Bay &lt;1&gt;"})
            QVERIFY2(text.contains(QLatin1String(words)), words);
        // One user unit is one millimetre.
        static const QRegularExpression head(
            QStringLiteral("width=\"([0-9.]+)mm\".*viewBox=\"[-0-9.]+ [-0-9.]+ ([0-9.]+) "));
        const auto m = head.match(text);
        QVERIFY(m.hasMatch() && m.captured(1) == m.captured(2));
        QVERIFY(QFile::exists(folder.filePath(QStringLiteral("brace-first-end.dxf"))));
    }

    void whatCannotBeWritten() {
        study::Reports none;
        none.project = std::make_shared<const model::Project>();
        QVERIFY(!print::writeTemplates(none, store::defaultRuleBook(), {}, "/tmp/never").ok());
        const auto there = print::writeTemplates(reports(), store::defaultRuleBook(), {}, "/proc/never");
        QVERIFY(!there.ok() && there.error().line().find("/proc/never") != std::string::npos);
        QCOMPARE(print::fileName("Front beam: cheek, 2"), std::string("front-beam-cheek-2"));
        QCOMPARE(print::fileName("::"), std::string("part"));
    }
};

GABARIT_PAINT_SUITE(TemplatesTest)
#include "templates_test.moc"

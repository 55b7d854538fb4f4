// The bench's sheets: what they say, and what they refuse.
#include "driveline/driveline.h"
#include "ledger/parts.h"
#include "make/hanging.h"
#include "parts/parts.h"
#include "print/sheets.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;

class WorkshopSheetsTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    tests::KeptStudy study_;

    model::Project demo(const char* name = "harrow-tarn") {
        return store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name + ".gabarit",
                                  store::defaultRuleBook())
            .value()
            .project;
    }
    study::Reports reportsOf(const model::Project& project) {
        return study_.run(std::make_shared<const model::Project>(project), {});
    }
    /// The words of the sheet as printed; empty and said where it is refused.
    QString printed(const char* sheet, const study::Reports& reports, int* pages = nullptr,
                    const quantity::Shown& shown = {}) {
        const QString path = folder_.filePath(QString::fromLatin1(sheet) + ".pdf");
        const auto written = print::sheetOf(sheet)->write(reports, store::defaultRuleBook(),
                                                          {shown, "1 May 2026", "a4"}, path.toStdString());
        if (!written.ok()) {
            refused_ = QString::fromStdString(written.error().line());
            return {};
        }
        QFile file(path);
        if (!file.open(QIODevice::ReadOnly)) return {};
        if (pages) *pages = QString::fromLatin1(file.readAll()).count(QRegularExpression("/Type /Page\\b"));
        QProcess read;
        read.start("pdftotext", {"-raw", path, "-"});
        if (!read.waitForFinished()) return {};
        QString text = QString::fromUtf8(read.readAllStandardOutput());
        return text.replace(QLatin1Char('\n'), QLatin1Char(' '));
    }
    QString refused_;

private slots:
    void hangingHeights() {
        const study::Reports reports = reportsOf(demo());
        const QString text = printed("hanging", reports);
        const make::Hanging hanging = make::hanging(*reports.project, *reports.scene);
        QVERIFY(hanging.lines.size() > 4);
        for (const make::HangingLine& line : hanging.lines) {
            QVERIFY2(text.contains(QString::fromStdString(line.name)), line.name.c_str());
            QVERIFY2(text.contains(QString::fromStdString(quantity::lengthText(*line.off_floor_mm, {}, 0))),
                     line.name.c_str());
        }
        for (const char* words : {"off the floor", "behind the axle", "Nobody under"})
            QVERIFY2(text.contains(words), words);
        model::Project empty;
        empty.name = "empty";
        QVERIFY(printed("hanging", reportsOf(empty)).isEmpty());
        QVERIFY2(refused_.contains("empty"), qPrintable(refused_));
    }

    void everyNumberOfTheListIsExplained() {
        const study::Reports reports = reportsOf(demo());
        for (const char* sheet : {"in-the-way", "fit"}) {
            int pages = 0;
            const QString text = printed(sheet, reports, &pages);
            for (const study::Finding& finding : reports.findings)
                QVERIFY2(text.contains(QString::fromStdString(finding.title)), finding.title.c_str());
            QVERIFY(pages >= 2); // eighteen of them do not go on one
        }
    }

    void theShoppingListAddsUp() {
        const model::Project project = demo();
        const QString text = printed("shopping", reportsOf(project));
        double sum = 0;
        for (const model::Part& part : model::partsOf(project)) {
            if (part.state != model::PartState::Needed || !model::isTaken(project, part)) continue;
            QVERIFY2(text.contains(QString::fromStdString(part.name)), part.name.c_str());
            sum += part.cost.value_or(0);
        }
        QVERIFY(sum > 0);
        QVERIFY2(text.contains(QString("To pay: %1").arg(sum, 0, 'f', 2)), qPrintable(text));
        model::Project none = project;
        for (model::Part& part : none.sections.edit<model::Parts>()) part.state = model::PartState::Fitted;
        QVERIFY(printed("shopping", reportsOf(none)).isEmpty());
        QVERIFY2(refused_.contains("nothing is still to be got"), qPrintable(refused_));
    }

    void theShaftOrderSaysWhatIsAssumed() {
        model::Project project = demo();
        const study::Reports reports = reportsOf(project);
        const QString text = printed("shaft-order", reports);
        int orders = 0;
        for (const driveline::LineReport& line : reports.of<driveline::DrivelineReport>()->lines)
            for (const driveline::SlipReport& slip : line.slips)
                if (slip.order_closed_mm > 0) {
                    ++orders;
                    QVERIFY(text.contains(
                        QString::fromStdString(quantity::lengthText(slip.order_closed_mm, {}, 0)).section(" (", 0, 0)));
                }
        QVERIFY(orders > 0);
        QVERIFY(!text.contains("assumed, not measured"));
        // An end that is made up makes the order unsure, and the figures too.
        model::ShaftLine& line = project.sections.edit<model::Driveline>().lines.front();
        line.to.measured.method = model::Method::Assumed;
        line.to.accuracy_mm.reset();
        const study::Reports unsure = reportsOf(project);
        QVERIFY(printed("shaft-order", unsure).contains("assumed, not measured"));
        QVERIFY(printed("driveline", unsure).contains("assumed, not measured"));
        const auto order = [&](const study::Reports& of) {
            return of.of<driveline::DrivelineReport>()->lines.front().slips.front().order_closed_mm;
        };
        QVERIFY(order(unsure) < order(reports)); // 40 mm unsure instead of 2: ordered shorter, to be on the safe side
    }
};

GABARIT_PAINT_SUITE(WorkshopSheetsTest)

#include "workshop_sheets_test.moc"

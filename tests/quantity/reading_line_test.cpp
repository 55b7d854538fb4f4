// What instruments say, and what is not taken for a reading.
#include "quantity/reading_line.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit::quantity;

class ReadingLineTest : public QObject {
    Q_OBJECT
private slots:
    void readings() {
        const auto angle = parseReadingLine("angle -3.42 deg\r");
        QVERIFY(angle.ok() && angle.value());
        QCOMPARE(angle.value()->kind, ReadingKind::Angle);
        QCOMPARE(angle.value()->value, -3.42);
        QCOMPARE(parseReadingLine("length 0.5 in").value()->value, 12.7);
        QCOMPARE(parseReadingLine("  length +14.26   mm ").value()->value, 14.26);
        for (const char* nothing : {"", "\r", "# hello", "angle - deg", "length - mm"}) {
            QVERIFY2(parseReadingLine(nothing).ok(), nothing);
            QVERIFY2(!parseReadingLine(nothing).value(), nothing);
        }
    }
    void noiseIsNoReading() {
        for (const char* wrong :
             {"angle 3.4", "angle 3.4 mm", "length 3.4 deg", "3.4", "angle nan deg", "angle 1e9 deg", "angle 3.4.1 deg",
              "angle 0x10 deg", "length 99999999 mm", "angle -- deg", "\x01\x02 3 4", "angle 3.4 deg deg"})
            QVERIFY2(!parseReadingLine(wrong).ok(), wrong);
        QVERIFY(!parseReadingLine(std::string(5000, 'a')).ok());
        QVERIFY(parseReadingLine("what").error().mend.find("docs/instruments.md") != std::string::npos);
    }
    void roundTrip() {
        for (const double value : {0.0, -0.001, 3.42, -89.99, 123.45}) {
            const auto back = parseReadingLine(readingLine({ReadingKind::Length, value}));
            QVERIFY(back.ok() && back.value());
            QVERIFY(std::abs(back.value()->value - value) <= 0.005 + 1e-9);
        }
    }
};

GABARIT_SUITE(ReadingLineTest)
#include "reading_line_test.moc"

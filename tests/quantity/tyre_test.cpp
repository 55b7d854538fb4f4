#include "quantity/tyre.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit::quantity;

class TyreTest : public QObject {
    Q_OBJECT
private slots:
    void sidewallsAreRead_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("diameter_mm");
        QTest::addColumn<bool>("radial");
        // 16 · 25.4 + 2 · 245 · 0.75 = 773.9
        QTest::newRow("metric") << "245/75R16" << 773.9 << true;
        QTest::newRow("metric with marks") << "P245/75 R 16 109S" << 773.9 << true;
        QTest::newRow("light truck") << "LT245/75R16C" << 773.9 << true;
        QTest::newRow("low profile") << "225/45ZR17" << 634.3 << true;
        QTest::newRow("cross-ply metric") << "185/80-14" << 651.6 << false;
        QTest::newRow("flotation") << "31x10.50-15" << 787.4 << false;
        QTest::newRow("flotation radial") << "31X10.50R15LT" << 787.4 << true;
        QTest::newRow("flotation, sign") << QStringLiteral("33\u00d712.50 R15") << 838.2 << true;
        QTest::newRow("numeric") << "7.50-16" << 787.4 << false; // 406.4 + 2 · 190.5
        QTest::newRow("comma") << "6,00-9" << 533.4 << false;
        QTest::newRow("speed letter before the R") << "185/65VR15" << 621.5 << true; // 381 + 2 · 120.25
        QTest::newRow("numeric radial") << "7.00R16" << 762.0 << true;               // 406.4 + 2 · 177.8
        QTest::newRow("numeric, load mark") << "6.50-16C" << 736.6 << false;         // 406.4 + 2 · 165.1
        // Without an aspect ratio: design diameters of the standard are 666 and 596 mm.
        QTest::newRow("full profile, van") << "195R14C" << 667.6 << true; // 355.6 + 2 · 0.8 · 195
        QTest::newRow("full profile, car") << "165R13" << 594.2 << true;  // 330.2 + 2 · 0.8 · 165
        QTest::newRow("full profile, speed letter") << "155 SR 13" << 578.2 << true;
        QTest::newRow("kart") << "11x7.10-5" << 279.4 << false;
    }
    void sidewallsAreRead() {
        QFETCH(QString, text);
        QFETCH(double, diameter_mm);
        QFETCH(bool, radial);
        const auto tyre = parseTyre(text.toStdString());
        QVERIFY2(tyre.ok(), qPrintable(text));
        QVERIFY2(std::abs(tyre.value().diameter_mm - diameter_mm) < 0.06,
                 qPrintable(QString::number(tyre.value().diameter_mm)));
        QCOMPARE(tyre.value().radial, radial);
    }
    void whatIsNoneIsRefused() {
        for (const char* text :
             {"", "R16", "245", "245/75", "245/75R", "245/750R16", "abc", "31x", "0/0R0", "1e9/75R16", "245/75R16!",
              "31x10.50-99", "9999999/75R16", "-245/75R16", "245//R16", "2.4.5-16"})
            QVERIFY2(!parseTyre(text).ok(), text);
        QVERIFY(parseTyre("x").error().mend.find("245/75R16") != std::string::npos);
    }
};

GABARIT_SUITE(TyreTest)
#include "tyre_test.moc"

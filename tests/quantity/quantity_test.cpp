#include "quantity/quantity.h"

#include <QtTest>

using namespace gabarit;
using quantity::Dimension;
using quantity::Shown;

class QuantityTest : public QObject {
    Q_OBJECT
private slots:
    void reads_data() {
        QTest::addColumn<int>("dimension");
        QTest::addColumn<QString>("text");
        QTest::addColumn<bool>("inches");
        QTest::addColumn<double>("expected");
        const auto length = [](const char* name, const char* text, double mm, bool inches = false) {
            QTest::newRow(name) << int(Dimension::Length) << QString::fromUtf8(text) << inches << mm;
        };
        length("bare", "82", 82);
        length("bare in inches", "82", 82 * 25.4, true);
        length("mm glued", "82mm", 82);
        length("mixed inches", "3 1/4 in", 3.25 * 25.4);
        length("mixed with a dash", "3-1/4\"", 3.25 * 25.4);
        length("fraction", "1/4in", 6.35);
        length("feet and inches", "1' 2 3/8\"", 12 * 25.4 + 2.375 * 25.4);
        length("feet, inches unmarked", "1' 2 3/8", 12 * 25.4 + 2.375 * 25.4);
        length("decimal comma", "0,5 mm", 0.5);
        length("comma and two digits", "12,25 mm", 12.25);
        length("negative", "-3.2 mm", -3.2);
        length("true minus", "\u22123.2 mm", -3.2);
        length("centimetres", "4.5 cm", 45);
        length("metres", "1.2m", 1200);
        length("mm wins over shown inches", "82 mm", 82, true);
        const auto angle = [](const char* name, const char* text, double deg) {
            QTest::newRow(name) << int(Dimension::Angle) << QString::fromUtf8(text) << false << deg;
        };
        angle("degrees", "3.5", 3.5);
        angle("degree sign", "3\u00b0", 3);
        angle("degrees and minutes", "10\u00b0 30'", 10.5);
        angle("negative minutes", "-10\u00b0 30'", -10.5);
        const auto mass = [](const char* name, const char* text, double kg, bool inches = false) {
            QTest::newRow(name) << int(Dimension::Mass) << QString::fromUtf8(text) << inches << kg;
        };
        mass("pounds", "250 lb", 113.3980925);
        mass("bare pounds", "250", 113.3980925, true);
        mass("kilograms", "250 kg", 250);
    }
    void reads() {
        QFETCH(int, dimension);
        QFETCH(QString, text);
        QFETCH(bool, inches);
        QFETCH(double, expected);
        const auto read =
            quantity::parse(Dimension(dimension), text.toStdString(), inches ? Shown::Inches : Shown::Millimetres);
        QVERIFY2(read.ok(), read.ok() ? "" : read.error().line().c_str());
        QVERIFY2(std::abs(read.value() - expected) < 1e-9, qPrintable(QString::number(read.value(), 'g', 17)));
    }

    void refuses_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("says");
        QTest::newRow("nothing") << "  "
                                 << "nothing is written";
        QTest::newRow("sign only") << "-"
                                   << "sign without a number";
        QTest::newRow("unit only") << "mm"
                                   << "no number";
        QTest::newRow("unknown unit") << "3 furlongs"
                                      << "not a unit";
        QTest::newRow("ambiguous comma") << "1,234"
                                         << "two ways";
        QTest::newRow("zero denominator") << "1/0 in"
                                          << "nothing under";
        QTest::newRow("side by side") << "3 4 mm"
                                      << "side by side";
        QTest::newRow("rising units") << "3 in 2 ft"
                                      << "small to large";
        QTest::newRow("two marks") << "1.2.3 mm"
                                   << "two decimal marks";
        QTest::newRow("mass in a length") << "3 kg"
                                          << "not a unit";
        QTest::newRow("huge") << QString(400, QLatin1Char('9')) << "too large";
    }
    void refuses() {
        QFETCH(QString, text);
        QFETCH(QString, says);
        const auto read = quantity::parse(Dimension::Length, text.toStdString());
        QVERIFY(!read.ok());
        const QString line = QString::fromStdString(read.error().line());
        QVERIFY2(line.contains(says), qPrintable(line));
        QVERIFY(!read.error().mend.empty());
    }

    void whatIsShownIsReadBack() {
        for (double mm = -1234.5; mm < 1300; mm += 7.3)
            for (const Shown shown : {Shown::Millimetres, Shown::Inches}) {
                const auto back =
                    quantity::parse(Dimension::Length, quantity::lengthText(mm, shown, 1), Shown::Millimetres);
                QVERIFY(back.ok());
                const double grain = shown == Shown::Millimetres ? 0.05 : 0.0005 * 25.4;
                QVERIFY(std::abs(back.value() - mm) <= grain + 1e-9);
            }
    }

    void neverMinusZero() {
        QCOMPARE(quantity::fixed(-0.01, 1), std::string("0.0"));
        QCOMPARE(quantity::fixed(-0.06, 1), std::string("\u22120.1"));
    }
};

QTEST_APPLESS_MAIN(QuantityTest)
#include "quantity_test.moc"

#include "quantity/quantity.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using quantity::Dimension;
using quantity::Shown;

class QuantityTest : public QObject {
    Q_OBJECT
private slots:
    /// What is asked for at least is never shown as less than it is.
    void limitsAreRoundedUp() {
        Shown sixteenths = Shown::Inches;
        sixteenths.length = quantity::LengthStyle::Sixteenths;
        QCOMPARE(quantity::lengthTextUp(12, Shown::Millimetres), std::string("12 mm"));
        QCOMPARE(quantity::lengthTextUp(52.1, Shown::Millimetres), std::string("53 mm"));
        QCOMPARE(quantity::lengthTextUp(12, sixteenths), std::string("1/2 in"));     // 0.4724 in: 7.56 sixteenths
        QCOMPARE(quantity::lengthTextUp(10, sixteenths), std::string("7/16 in"));    // 6.30 sixteenths
        QCOMPARE(quantity::lengthTextUp(25.4, sixteenths), std::string("1 in"));     // whole already
        QCOMPARE(quantity::lengthTextUp(12, Shown::Inches), std::string("0.48 in")); // 0.4724
        for (double mm = 0; mm < 120; mm += 0.37) {
            const double shown_mm = quantity::parse(Dimension::Length, quantity::lengthTextUp(mm, sixteenths)).value();
            QVERIFY(shown_mm >= mm - 1e-6 && shown_mm < mm + 25.4 / 16 + 1e-6);
        }
    }
    /// Room that there is is never shown as more than it is.
    void roomIsRoundedDown() {
        Shown sixteenths = Shown::Inches, thirty_seconds = Shown::Inches;
        sixteenths.length = quantity::LengthStyle::Sixteenths;
        thirty_seconds.length = quantity::LengthStyle::ThirtySeconds;
        QCOMPARE(quantity::lengthTextDown(31.48, Shown::Millimetres), std::string("31.4 mm"));
        QCOMPARE(quantity::lengthTextDown(31.4, Shown::Millimetres), std::string("31.4 mm")); // whole already
        QCOMPARE(quantity::lengthTextDown(12, sixteenths), std::string("7/16 in"));           // 7.56 sixteenths
        QCOMPARE(quantity::lengthTextDown(12, thirty_seconds), std::string("15/32 in"));      // 15.12
        QCOMPARE(quantity::lengthTextDown(1.5, sixteenths), std::string("0 in"));
        QCOMPARE(quantity::lengthTextDown(12, Shown::Inches), std::string("0.472 in")); // 0.47244
        for (double mm = 0; mm < 120; mm += 0.37)
            for (const Shown& shown : {sixteenths, thirty_seconds, Shown(Shown::Inches), Shown(Shown::Millimetres)}) {
                const double shown_mm = quantity::parse(Dimension::Length, quantity::lengthTextDown(mm, shown)).value();
                QVERIFY(shown_mm <= mm + 1e-6 && shown_mm > mm - 25.4 / 16 - 1e-6);
            }
    }
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
        length("a sum", "300+25", 325);
        length("a sum in inches", "18 1/2 + 3/8", 18.875 * 25.4, true);
        length("one unit for all of it", "18 1/2 + 3/8 in", 18.875 * 25.4);
        length("each its own unit", "1' + 2 in + 30 mm", 14 * 25.4 + 30);
        length("taken away", "300 - 25", 275);
        length("taken away with a true minus", "300 \u2212 25 mm", 275);
        length("a dash is no minus", "3-1/4 + 1 in", 4.25 * 25.4);
        length("from below nothing", "-5 + 12", 7);
        length("a sum and a rounding", "24 1/8 in (+0.015) + 1 in", 25.125 * 25.4);
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
        mass("pounds, capitals", "250 LB", 113.3980925);
        angle("degrees, minutes, seconds", "10\u00b0 30' 36\"", 10.51);
        const auto other = [](const char* name, Dimension dimension, const char* text, double value,
                              bool inches = false) {
            QTest::newRow(name) << int(dimension) << QString::fromUtf8(text) << inches << value;
        };
        // 1 lbf = 0.45359237·9.80665 = 4.4482216152605 N; times 0.3048 m.
        other("newton metres", Dimension::Torque, "320 N·m", 320);
        other("newton metres, plain", Dimension::Torque, "320 Nm", 320);
        other("pound feet", Dimension::Torque, "100 lbf·ft", 135.58179483314004);
        other("pound feet, dashed", Dimension::Torque, "100 ft-lb", 135.58179483314004);
        other("pound inches", Dimension::Torque, "1200 lb-in", 135.58179483314004);
        other("bare torque", Dimension::Torque, "100", 135.58179483314004, true);
        // 550 lbf·ft/s; 75 kgf·m/s.
        other("horsepower", Dimension::Power, "200 hp", 149.13997431645406);
        other("metric horsepower", Dimension::Power, "100 PS", 73.549875);
        other("kilowatts", Dimension::Power, "110kW", 110);
        // A mile is 63360 inches of 25.4 mm.
        other("miles an hour", Dimension::Speed, "65 mph", 65 * 63360 * 25.4e-6);
        other("kilometres an hour", Dimension::Speed, "110 km/h", 110);
        other("metres a second", Dimension::Speed, "10 m/s", 36);
        other("bare miles", Dimension::Speed, "50", 80.4672, true);
        other("boiling", Dimension::Temperature, "212 °F", 100);
        other("the same in both", Dimension::Temperature, "-40 F", -40);
        other("bare Fahrenheit", Dimension::Temperature, "194", 90, true);
        other("celsius", Dimension::Temperature, "90 °C", 90);
        length("a fraction with its rounding", "24 1/8 in (\u22120.015)", 24.125 * 25.4);
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
        QTest::newRow("a sum that ends") << "300 +"
                                         << "nothing is written";
        QTest::newRow("a sum with a unit too few") << "10 in + 5"
                                                   << "has no unit";
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

    void fractionsByHand() {
        const auto text = [](double mm, quantity::LengthStyle style, int decimals = 1) {
            Shown shown = Shown::Inches;
            shown.length = style;
            return QString::fromStdString(quantity::lengthText(mm, shown, decimals));
        };
        using quantity::LengthStyle;
        QCOMPARE(text(82.55, LengthStyle::Sixteenths), QStringLiteral("3 1/4 in"));
        QCOMPARE(text(25.4, LengthStyle::Sixteenths), QStringLiteral("1 in"));
        QCOMPARE(text(0, LengthStyle::Sixteenths), QStringLiteral("0 in"));
        QCOMPARE(text(-12.7, LengthStyle::Sixteenths), QStringLiteral("\u22121/2 in"));
        // 82 mm = 3.228346 in: 3 4/16 and 0.021654 less; in 32nds 3 7/32 = 3.21875 and 0.009596 more.
        QCOMPARE(text(82, LengthStyle::Sixteenths), QStringLiteral("3 1/4 in (\u22120.022)"));
        QCOMPARE(text(82, LengthStyle::ThirtySeconds), QStringLiteral("3 7/32 in (+0.010)"));
        QCOMPARE(text(82, LengthStyle::Sixteenths, 0), QStringLiteral("3 1/4 in"));
        QCOMPARE(QString::fromStdString(quantity::lengthNumber(82, Shown{LengthStyle::Sixteenths})),
                 QStringLiteral("3 1/4 (\u22120.022)"));
    }

    /// Law: what is shown, in any style and unit, reads back as the value within half of what is shown.
    void everyDimensionComesBack() {
        struct Grain {
            Dimension dimension;
            Shown shown;
            int decimals;
            double grain; ///< half of the last digit shown, in the stored unit
        };
        using quantity::LengthStyle;
        Shown sixteenths = Shown::Inches, thirtySeconds = Shown::Inches;
        sixteenths.length = quantity::LengthStyle::Sixteenths;
        thirtySeconds.length = LengthStyle::ThirtySeconds;
        const Grain grains[] = {
            {Dimension::Length, Shown::Millimetres, 2, 0.005},
            {Dimension::Length, Shown::Inches, 1, 0.0005 * 25.4},
            {Dimension::Length, sixteenths, 1, 25.4 / 32},
            {Dimension::Length, thirtySeconds, 1, 25.4 / 64},
            {Dimension::Angle, Shown::Inches, 2, 0.005},
            {Dimension::Mass, Shown::Millimetres, 1, 0.05},
            {Dimension::Mass, Shown::Inches, 1, 0.05 * 0.45359237},
            {Dimension::Torque, Shown::Millimetres, 1, 0.05},
            {Dimension::Torque, Shown::Inches, 1, 0.05 * 1.3558179483314004},
            {Dimension::Power, Shown::Millimetres, 1, 0.05},
            {Dimension::Power, Shown::Inches, 1, 0.05 * 0.7456998715822703},
            {Dimension::Speed, Shown::Millimetres, 1, 0.05},
            {Dimension::Speed, Shown::Inches, 1, 0.05 * 1.609344},
            {Dimension::Temperature, Shown::Millimetres, 1, 0.05},
            {Dimension::Temperature, Shown::Inches, 1, 0.05 * 5 / 9},
        };
        for (const Grain& g : grains)
            for (double value = -741.3; value < 1200; value += 17.17)
                for (const Shown& reader : {g.shown, Shown::Millimetres, Shown::Inches}) { // the unit is always written
                    const std::string shown = quantity::text(g.dimension, value, g.shown, g.decimals);
                    const auto back = quantity::parse(g.dimension, shown, reader);
                    QVERIFY2(back.ok(), shown.c_str());
                    QVERIFY2(std::abs(back.value() - value) <= g.grain + 1e-9, shown.c_str());
                }
    }

    void neverMinusZero() {
        QCOMPARE(quantity::fixed(-0.01, 1), std::string("0.0"));
        QCOMPARE(quantity::fixed(-0.06, 1), std::string("\u22120.1"));
    }
};

GABARIT_SUITE(QuantityTest)
#include "quantity_test.moc"

// Numbers as text, whatever the locale says; and what text may hold.
#include "quantity/number.h"
#include "quantity/plain_text.h"
#include "quantity/quantity.h"
#include "support/suite.h"

#include <QtTest>

#include <clocale>
#include <cstdio>

using namespace gabarit::quantity;

class NumberTest : public QObject {
    Q_OBJECT
private slots:
    /// Under a locale with a decimal comma this suite proves something only while the C library writes commas.
    void theLocaleIsTheOneThatWasWanted() {
        const QByteArray wanted = qgetenv("LC_ALL");
        char text[16];
        std::snprintf(text, sizeof text, "%.1f", 1.5);
        const bool comma = wanted.startsWith("de_DE") || wanted.startsWith("tr_TR");
        QCOMPARE(QByteArray(text), QByteArray(comma ? "1,5" : "1.5"));
    }
    void plainNumbers() {
        QCOMPARE(numberFrom("480.7"), std::optional(480.7));
        QCOMPARE(numberFrom("-0.25"), std::optional(-0.25));
        QCOMPARE(numberFrom("+3"), std::optional(3.0));
        QCOMPARE(numberFrom("1e-3"), std::optional(0.001));
        for (const char* none :
             {"", "+", "-", ".", "+-3", "1,5", "1.5 ", " 1.5", "0x10", "nan", "inf", "1e999", "1.5mm"})
            QVERIFY2(!numberFrom(none), none);
    }
    void typedNumbers() {
        const std::pair<const char*, double> all[] = {{"12", 12},         {"12.5", 12.5},   {"12,5", 12.5},
                                                      {" -12,5 ", -12.5}, {"−3.73", -3.73}, {"–1", -1},
                                                      {",5", 0.5},        {"0,125", 0.125}};
        for (const auto& [text, value] : all) {
            const auto read = typedNumber(text);
            QVERIFY2(read.ok(), text);
            QCOMPARE(read.value(), value);
        }
        for (const char* wrong : {"1,234", "1.234,5", "1,234.5", "1,2,3", "", "a", "12 mm", "1e999"})
            QVERIFY2(!typedNumber(wrong).ok(), wrong);
        QVERIFY(typedNumber("1,234").error().mend.find("1234 or 1.234") != std::string::npos);
    }
    void typedMoneyAsPeopleWriteIt() {
        const std::pair<const char*, double> all[] = {
            {"12,50 €", 12.5}, {"€12.50", 12.5}, {"$1,234.50", 1234.5}, {"1.234,50", 1234.5},   {"1 250", 1250},
            {"1,234", 1234},   {"1.234", 1234},  {"12'500.-", 0},       {"1,234,567", 1234567}, {"250", 250},
            {"0,5", 0.5},      {"-30 EUR", -30}, {"1 250,00 €", 1250}};
        for (const auto& [text, value] : all) {
            const auto read = typedMoney(text);
            if (value == 0) {
                QVERIFY2(!read.ok(), text);
                continue;
            }
            QVERIFY2(read.ok(), text);
            QCOMPARE(read.value(), value);
        }
        for (const char* wrong : {"1,2,3", "12,34.5.6", "€", "twelve", "1.23,4,5"})
            QVERIFY2(!typedMoney(wrong).ok(), wrong);
    }
    void writtenAlike() {
        QCOMPARE(fixedNumber(480.75, 1), std::string("480.8"));
        QCOMPARE(fixedNumber(-0.25, 2), std::string("-0.25"));
        QCOMPARE(fixedNumber(1e21, 0), std::string("1000000000000000000000"));
        QCOMPARE(briefNumber(12.5, 10), std::string("12.5"));
        QCOMPARE(briefNumber(1234567, 10), std::string("1234567"));
        for (const double value : {0.1, 1.0 / 3, -7e-9, 123456.789})
            QCOMPARE(numberFrom(exactNumber(value)), std::optional(value));
        QCOMPARE(lengthText(480.7), std::string("480.7 mm"));
        QCOMPARE(fixed(-1.25, 2), std::string("−1.25"));
    }
    /// What people type, with either mark: the figures of the issue that began this.
    void lengthsWithEitherMark() {
        QCOMPARE(parse(Dimension::Length, "480.7 mm").value(), 480.7);
        QCOMPARE(parse(Dimension::Length, "481,9 mm").value(), 481.9);
        QVERIFY(std::abs(parse(Dimension::Length, "18.5 in").value() - 469.9) < 1e-9);
        QVERIFY(std::abs(parse(Dimension::Length, "18,5 IN").value() - 469.9) < 1e-9); // a Turkish i is another letter
        QCOMPARE(parse(Dimension::Torque, "180 nM").value(), 180.0);
        QCOMPARE(parse(Dimension::Length, "2 MM").value(), 2.0);
    }
    void lettersAreThoseOfAscii() {
        QCOMPARE(lower('I'), 'i');
        QCOMPARE(upper('i'), 'I');
        QCOMPARE(upper('\xE4'), '\xE4');
        QVERIFY(!isLetter('\xE4') && !isSpace('\xA0') && isSpace('\t'));
    }

    void utf8OrNot() {
        // Of RFC 3629: one to four bytes; overlong forms, surrogates, what lies beyond U+10FFFF and cut ones are none.
        for (const char* good : {"", "abc", "Kühler", "10 °", "\U0001F527", "\uFFFD"}) QVERIFY2(!notUtf8At(good), good);
        const std::pair<const char*, std::size_t> bad[] = {{"K\xFC"
                                                            "hler",
                                                            1},
                                                           {"\x80", 0},
                                                           {"ab\xC0\xAF", 2},
                                                           {"\xED\xA0\x80", 0},
                                                           {"x\xF4\x90\x80\x80", 1},
                                                           {"caf\xC3", 3},
                                                           {"\xE0\x80\x80", 0},
                                                           {"\xFF\xFE", 0}};
        for (const auto& [text, at] : bad) QCOMPARE(notUtf8At(text), std::optional(at));
    }
    void controlsAreSeenAndTakenOut() {
        QCOMPARE(controlIn("a\x1b[2Jb"), std::optional<std::string>("U+001B"));
        QCOMPARE(controlIn("a\x7f"), std::optional<std::string>("U+007F"));
        QCOMPARE(controlIn("a\u009bb"), std::optional<std::string>("U+009B"));
        QCOMPARE(controlIn("sump\u202eog"), std::optional<std::string>("U+202E"));
        QVERIFY(!controlIn("line\nand\ttab, äöü, ×, U+200F \u200f"));
        QCOMPARE(printable("a\x1b[2Jb\r\n"), std::string("a\uFFFD[2Jb\uFFFD\n"));
        QCOMPARE(printable("K\xFChler"), std::string("K\uFFFDhler"));
        QCOMPARE(withoutControls("a\x1b b\u202e"), std::string("a b"));
    }
};

GABARIT_SUITE(NumberTest)
#include "number_test.moc"

// The form by itself: what is shown, typed, refused and kept, and the handles of edges by hand.
#include "bay/edge_handles.h"
#include "forms/entry_form.h"
#include "forms/tones.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using quantity::Dimension;
using quantity::Shown;

class FormsTest : public QObject {
    Q_OBJECT

    EntryForm form_;
    double length_mm_ = 82.55;
    std::optional<double> mass_kg_;
    std::string words_ = "rail (left)";
    bool on_ = false, refuse_ = false;
    std::string kind_ = "a";
    Rows rows_{{0, 0}, {100, 50}}, size_;
    Shown shown_ = Shown::Millimetres;
    QString subject_;

    void show() {
        const auto take = [this](auto& where) {
            return [this, &where](const auto& value) {
                if (refuse_) return false;
                where = value;
                show();
                return true;
            };
        };
        Field size = fields::table("size", "Depth", {"length", "±"}, size_, 0, take(size_));
        size.most_rows = 1;
        size.when_empty = {std::nullopt, 0.0};
        form_.show({fields::heading("Rail"), fields::words("words", "Name", words_, take(words_)),
                    fields::quantity("length", "Length", Dimension::Length, length_mm_, take(length_mm_)),
                    fields::known("mass", "Mass", Dimension::Mass, mass_kg_, take(mass_kg_)),
                    fields::choice("kind", "Kind", {{"a", "first"}, {"b", "second"}}, kind_, take(kind_)),
                    fields::flag("on", "is on", on_, take(on_)), fields::remark("remark", ""),
                    fields::table("rows", "Corners", {"x", "y"}, rows_, 2, take(rows_)), size},
                   shown_, subject_);
    }
    QLineEdit* line(const char* name) { return form_.findChild<QLineEdit*>(QString::fromLatin1(name)); }
    void type(const char* name, const QString& text) {
        line(name)->setFocus();
        line(name)->selectAll();
        QTest::keyClicks(line(name), text);
        QTest::keyClick(line(name), Qt::Key_Return);
    }

    QTemporaryDir settings_;

private slots:
    void initTestCase() { QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings_.path()); }
    void init() {
        subject_.clear();
        length_mm_ = 82.55;
        mass_kg_.reset();
        words_ = "rail (left)";
        kind_ = "a";
        on_ = refuse_ = false;
        rows_ = {{0, 0}, {100, 50}};
        size_.clear();
        shown_ = Shown::Millimetres;
        form_.resize(340, 600);
        show();
        form_.QWidget::show();
        QVERIFY(QTest::qWaitForWindowExposed(&form_));
        form_.activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(&form_));
    }

    void showsInTheUnitsInUse() {
        QCOMPARE(line("length")->text(), QStringLiteral("82.5 mm"));
        QCOMPARE(line("mass")->text(), QString());
        QCOMPARE(line("mass")->placeholderText(), QStringLiteral("not known"));
        QCOMPARE(line("words")->text(), QStringLiteral("rail (left)")); // a word in parentheses is no rounding
        QVERIFY(form_.findChild<QLabel*>(QStringLiteral("remark"))->isHidden());
        shown_ = Shown::Inches;
        shown_.length = quantity::LengthStyle::Sixteenths;
        length_mm_ = 3.25 * 25.4 + 0.3;
        show();
        QCOMPARE(line("length")->text(), QStringLiteral("≈ 3 1/4 in"));
        QVERIFY(line("length")->toolTip().contains(QStringLiteral("+0.012"))); // 0.3 mm, by hand
        // Leaving a rounded field as it is does not round what it holds.
        line("length")->setFocus();
        QTest::keyClick(line("length"), Qt::Key_Return);
        QCOMPARE(length_mm_, 3.25 * 25.4 + 0.3);
        type("length", QStringLiteral("2")); // a bare number is in the shown unit
        QCOMPARE(length_mm_, 50.8);
    }
    void whatIsRefusedStaysAndIsMarked() {
        QSignalSpy wrong(&form_, &EntryForm::wrong);
        type("length", QStringLiteral("long"));
        QCOMPARE(wrong.count(), 1);
        QVERIFY(line("length")->property("wrong").toBool());
        QCOMPARE(line("length")->text(), QStringLiteral("long"));
        QTest::keyClick(line("length"), Qt::Key_Tab); // leaving it says nothing twice
        QCOMPARE(wrong.count(), 1);
        show(); // figures that come in leave it alone
        QCOMPARE(line("length")->text(), QStringLiteral("long"));
        subject_ = QStringLiteral("another rail"); // but it does not follow to another thing
        show();
        QVERIFY(line("length")->text() == QStringLiteral("82.5 mm") && !line("length")->property("wrong").toBool());
        refuse_ = true;
        type("words", QStringLiteral("other"));
        QVERIFY(line("words")->property("wrong").toBool() && words_ == "rail (left)");
        refuse_ = false;
        type("length", QStringLiteral("90"));
        QVERIFY(!line("length")->property("wrong").toBool() && length_mm_ == 90.0);
        type("mass", QStringLiteral("10 lb"));
        QVERIFY(std::abs(*mass_kg_ - 4.5359237) < 1e-9);
        line("mass")->selectAll();
        QTest::keyClick(line("mass"), Qt::Key_Delete);
        QTest::keyClick(line("mass"), Qt::Key_Return);
        QVERIFY(!mass_kg_); // not known again
    }
    void choicesFlagsAndTables() {
        auto* box = form_.findChild<QComboBox*>(QStringLiteral("kind"));
        refuse_ = true;
        box->setCurrentIndex(1);
        emit box->activated(1);
        QCOMPARE(box->currentText(), QStringLiteral("first")); // refused: it stands where it stood
        refuse_ = false;
        box->setCurrentIndex(1);
        emit box->activated(1);
        QCOMPARE(kind_, std::string("b"));
        form_.findChild<QCheckBox*>(QStringLiteral("on"))->click();
        QVERIFY(on_);
        auto* table = form_.findChild<QTableWidget*>(QStringLiteral("rows"));
        QCOMPARE(table->rowCount(), 3);
        table->item(1, 1)->setText(QStringLiteral("2 in"));
        QCOMPARE(rows_[1][1], 50.8);
        table->item(2, 0)->setText(QStringLiteral("7"));
        QCOMPARE(rows_.size(), std::size_t(2)); // the row is not full yet
        table->item(2, 1)->setText(QStringLiteral("8"));
        QCOMPARE(rows_, (Rows{{0, 0}, {100, 50.8}, {7, 8}}));
        QSignalSpy wrong(&form_, &EntryForm::wrong);
        for (const int row : {0, 1}) // taking out two of three: one is too few
            for (const int column : {0, 1}) table->item(row, column)->setText(QString());
        QVERIFY(rows_.size() >= 2 && wrong.count() >= 1);
    }
    void aSizeIsOneRowAndItsToleranceMayBeLeftOut() {
        auto* table = form_.findChild<QTableWidget*>(QStringLiteral("size"));
        QCOMPARE(table->rowCount(), 1);
        table->item(0, 1)->setText(QStringLiteral("0.2"));
        QVERIFY(size_.empty()); // a tolerance of nothing
        table->item(0, 0)->setText(QStringLiteral("178"));
        QCOMPARE(size_, (Rows{{178, 0.2}}));
        QCOMPARE(table->rowCount(), 1); // no place for a second
        table->item(0, 1)->setText(QString());
        QCOMPARE(size_, (Rows{{178, 0}}));
        table->item(0, 0)->setText(QStringLiteral("7 in"));
        QCOMPARE(size_, (Rows{{7 * 25.4, 0}}));
        for (const int column : {0, 1}) table->item(0, column)->setText(QString());
        QVERIFY(size_.empty());
        QCOMPARE(table->rowCount(), 1);
    }
    void theCursorStays() {
        line("mass")->setFocus();
        show();
        QVERIFY(line("mass")->hasFocus());
        QVERIFY(line("mass")->accessibleName() == QStringLiteral("Mass"));
    }

    /// A box of 100 × 600 × 80 about (0, 0, 40): its edges from each side, by hand.
    void handlesOfABox() {
        const model::Project p = tests::smallBay();
        const model::BodyRef crossmember{"vehicle", {"crossmember"}};
        for (const shape::Elevation elevation : shape::elevations) {
            const auto handles = edgeHandles(p, crossmember, shape::viewpoint(elevation));
            QCOMPARE(handles.size(), std::size_t(4)); // the third axis goes into the paper
            for (const EdgeHandle& handle : handles) {
                const Eigen::Vector3d half(50, 300, 40);
                const int i = static_cast<int>(handle.axis);
                Eigen::Vector3d at(0, 0, 40);
                at[i] += handle.high ? half[i] : -half[i];
                QVERIFY((handle.at_vehicle_mm - at).norm() < 1e-9);
                QVERIFY(std::abs(handle.along_vehicle_mm[i] - 1) < 1e-9);
            }
        }
        QVERIFY(edgeHandles(p, {"nobody", {"crossmember"}}, shape::viewpoint(shape::Elevation::Side)).empty());
    }

    /// Comma and point, in every locale; what can be read two ways is asked about.
    void decimalsWithEitherMark() {
        shown_ = Shown::Millimetres;
        refuse_ = false;
        show();
        for (const auto& [text, value] : {std::pair("480.7 mm", 480.7), std::pair("481,9 mm", 481.9),
                                          std::pair("18.5 in", 469.9), std::pair("12,25", 12.25)}) {
            type("length", QString::fromLatin1(text));
            QVERIFY2(std::abs(length_mm_ - value) < 1e-9, text);
        }
        type("length", QStringLiteral("1,234"));
        QVERIFY(std::abs(length_mm_ - 12.25) < 1e-9);
    }
    QString said(const char* name) {
        const auto* label = line(name)->parentWidget()->findChild<QLabel*>("said");
        return label ? label->text() : QString();
    }
    /// What else could have been meant, as buttons below the field.
    QPushButton* instead(const char* name, const QString& words) {
        for (QPushButton* button : line(name)->parentWidget()->findChildren<QPushButton*>("instead"))
            if (button->text() == words) return button;
        return nullptr;
    }

    void whatIsRefusedIsSaidAtTheFieldUntilItIsMended() {
        QSignalSpy mended(&form_, &EntryForm::mended);
        type("length", "tall");
        QVERIFY2(said("length").contains("tall"), qPrintable(said("length")));
        QCOMPARE(line("length")->text(), QStringLiteral("tall")); // what was typed stays
        QVERIFY(said("mass").isEmpty());
        type("length", "90");
        QVERIFY2(said("length").isEmpty(), qPrintable(said("length")));
        QCOMPARE(mended.count(), 1);
        QCOMPARE(length_mm_, 90.0);
        // Refused by whoever holds it: in that one's words.
        refuse_ = true;
        form_.hear("said long before", true);
        type("mass", "12");
        QCOMPARE(said("mass"), QStringLiteral("It was not taken."));
        refuse_ = false;
        type("mass", "13");
        QCOMPARE(said("mass"), QString());
        QCOMPARE(mass_kg_, std::optional(13.0));
    }

    void aBareFractionAsksForItsUnit() {
        type("length", "5 1/2");
        QCOMPARE(length_mm_, 82.55); // nothing moves
        QVERIFY2(said("length").contains("inches?"), qPrintable(said("length")));
        QVERIFY(instead("length", "5 1/2 mm"));
        QTest::mouseClick(instead("length", "5 1/2 in"), Qt::LeftButton);
        QCOMPARE(length_mm_, 139.7);
        QCOMPARE(said("length"), QString());
        QCOMPARE(line("length")->text(), QStringLiteral("139.7 mm"));
        type("length", "5 1/2 in"); // with its unit there is nothing to ask
        QCOMPARE(length_mm_, 139.7);
        type("mass", "5 1/2");
        QCOMPARE(mass_kg_, std::optional(5.5));
        // Where inches are shown, a fraction is what it says.
        shown_.length = quantity::LengthStyle::Sixteenths;
        show();
        type("length", "6 1/2");
        QCOMPARE(length_mm_, 165.1);
    }

    void farFromUsualIsAskedOnceMore() {
        double rail_mm = 55;
        const auto showRail = [&] {
            Field rail = fields::quantity("rail", "Rail", Dimension::Length, rail_mm, [&](double mm) {
                rail_mm = mm;
                return true;
            });
            rail.usual = std::pair(30.0, 150.0);
            form_.show({rail}, shown_, "rail");
        };
        showRail();
        type("rail", "0.5");
        QCOMPARE(rail_mm, 55.0);
        QVERIFY2(said("rail").contains("far from usual (30.0 mm to 150.0 mm)"), qPrintable(said("rail")));
        type("rail", "56");
        QCOMPARE(rail_mm, 56.0);
        QCOMPARE(said("rail"), QString());
        type("rail", "999");
        QTest::mouseClick(instead("rail", "It is 999.0 mm"), Qt::LeftButton);
        QCOMPARE(rail_mm, 999.0);
        // What cannot be at all is not asked about: it is refused.
        Field never = fields::quantity("never", "Never", Dimension::Length, 5, [](double mm) { return mm > 0; });
        never.usual = std::pair(1.0, 10.0);
        never.possible = std::pair(0.0, 100.0);
        form_.show({never}, shown_, "never");
        type("never", "-1");
        QVERIFY(!instead("never", "It is −1.0 mm"));
        QCOMPARE(said("never"), QStringLiteral("It was not taken."));
    }

    void moneyAsPeopleWriteIt() {
        std::optional<double> cost;
        Field field = fields::number("cost", "Cost", cost, [&](std::optional<double> typed) {
            cost = typed;
            return true;
        });
        field.money = true;
        form_.show({field}, shown_, "cost");
        for (const auto& [text, value] : {std::pair(u"12,50 €", 12.5), std::pair(u"1.234,50", 1234.5)}) {
            line("cost")->setFocus();
            line("cost")->setText(QString::fromUtf16(text)); // a key that the test's keyboard has not
            QTest::keyClick(line("cost"), Qt::Key_Return);
            QCOMPARE(cost, std::optional(value));
        }
    }

    /// What is not needed first goes to the end and is folded; a short form stays as it is.
    void whatIsNotNeededFirst() {
        const auto shown = [](int needed) {
            std::vector<Field> fields;
            fields.push_back(fields::words("note", "Note", "", [](const std::string&) { return true; }));
            fields.back().more = true;
            for (int i = 0; i < needed; ++i)
                fields.push_back(fields::words(QStringLiteral("f%1").arg(i), QStringLiteral("F%1").arg(i), "",
                                               [](const std::string&) { return true; }));
            auto form = std::make_unique<EntryForm>();
            form->show(std::move(fields), quantity::Shown::Millimetres);
            form->resize(400, 900);
            form->QWidget::show();
            return form;
        };
        const auto top = [](const std::unique_ptr<EntryForm>& form, const char* name) {
            return form->findChild<QLineEdit*>(name)->mapTo(form.get(), QPoint()).y();
        };
        QSettings().clear();
        const auto whole = shown(7), folded = shown(8);
        QVERIFY(whole->findChild<QLineEdit*>("note")->isVisible());
        QTRY_VERIFY(top(whole, "note") < top(whole, "f0"));
        QVERIFY(!folded->findChild<QLineEdit*>("note")->isVisible());
        QVERIFY(folded->findChild<QLineEdit*>("f7")->isVisible());
        folded->fold("More", false);
        QTRY_VERIFY(top(folded, "note") > top(folded, "f7"));
    }
    void sectionsFoldAndStayAsTheyWereLeft() {
        const auto showTwo = [&] {
            Field more = fields::heading("More");
            more.folded = true;
            form_.show({fields::heading("First"), fields::words("one", "One", "1", [](const auto&) { return true; }),
                        more, fields::words("two", "Two", "2", [](const auto&) { return true; })},
                       shown_, "two");
        };
        QSettings().remove("forms/folded");
        QSettings().remove("forms/unfolded");
        showTwo();
        QVERIFY(line("one")->isVisible());
        QVERIFY(!line("two")->isVisible()); // behind "More"
        const auto heading = [&](const char* words) {
            for (QToolButton* button : form_.findChildren<QToolButton*>())
                if (button->text() == QLatin1String(words)) return button;
            return static_cast<QToolButton*>(nullptr);
        };
        QTest::mouseClick(heading("More"), Qt::LeftButton);
        QVERIFY(line("two")->isVisible());
        QVERIFY(heading("More")->accessibleName().contains("shown"));
        QTest::mouseClick(heading("First"), Qt::LeftButton);
        QVERIFY(!line("one")->isVisible());
        QVERIFY(line("two")->isVisible()); // the other section is its own
        show();                            // another form, then this one again: as it was left
        showTwo();
        QVERIFY(!line("one")->isVisible());
        QVERIFY(line("two")->isVisible());
        QSettings().remove("forms/folded");
        QSettings().remove("forms/unfolded");
    }

    void pastedControlsStayOutside() {
        show();
        line("words")->setFocus();
        line("words")->setText(QStringLiteral(" rail\x1b[2J\u202e left "));
        QTest::keyClick(line("words"), Qt::Key_Space); // an edit of a hand
        QTest::keyClick(line("words"), Qt::Key_Return);
        QCOMPARE(words_, std::string("rail[2J left"));
    }

    /// Other fields take the place of one that is being typed in, as by an undo: the half-typed text goes nowhere.
    void whatIsTypedGoesWithItsField() {
        show();
        form_.setVisible(true);
        form_.activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(&form_));
        line("words")->setFocus();
        QTest::keyClicks(line("words"), QStringLiteral("half"));
        QVERIFY(line("words")->hasFocus());
        std::string other = "other", was = words_;
        const auto take = [&](const std::string& text) {
            other = text;
            show();
            return true;
        };
        form_.show({fields::words("first", "First", "1", take), fields::words("second", "Second", "2", take)}, shown_,
                   subject_);
        QCOMPARE(words_, was);
        QCOMPARE(other, std::string("other"));
        QVERIFY(line("first") && !line("words"));
        QCoreApplication::processEvents();
        show();
    }
};

GABARIT_WINDOW_SUITE(FormsTest)
#include "forms_test.moc"

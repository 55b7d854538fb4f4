// No words are cut, nor over each other: every label, button, drop-down and drawing of every stage, at three sizes of
// the window, in three kinds of units, in the three demos.
#include "all_stages/all.h"
#include "forms/elided_combo.h"
#include "forms/wrapped_button.h"
#include "support/painted_words.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/glance_page.h"
#include "window/rail.h"

#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QRegularExpression>
#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <QStyleOptionFrame>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;

class TextTest : public QObject, private tests::WindowHand {
    Q_OBJECT

    /// What is cut in it; empty when nothing is.
    static QString cutIn(const QWidget* widget) {
        const QFontMetrics metrics(widget->font());
        if (const auto* label = qobject_cast<const QLabel*>(widget)) {
            if (label->text().isEmpty() || label->textFormat() == Qt::RichText) return {};
            if (label->text().contains(QLatin1Char('{'))) return label->text(); // a side that was not said
            if (label->wordWrap()) {
                const int high = metrics
                                     .boundingRect(QRect(0, 0, label->contentsRect().width(), 10000), Qt::TextWordWrap,
                                                   label->text())
                                     .height();
                return high > label->contentsRect().height() + 2 ? label->text() : QString();
            }
            return label->sizeHint().width() > label->width() + 1 ? label->text() : QString();
        }
        if (const auto* line = qobject_cast<const QLineEdit*>(widget)) {
            // Names may be longer than their field; a figure is read whole.
            static const QRegularExpression figure(QStringLiteral("^[≈−+-]? ?[0-9]"));
            if (!figure.match(line->text()).hasMatch()) return {};
            QStyleOptionFrame option;
            option.initFrom(line);
            option.lineWidth = line->style()->pixelMetric(QStyle::PM_DefaultFrameWidth, &option, line);
            const int room = line->style()->subElementRect(QStyle::SE_LineEditContents, &option, line).width() -
                             line->textMargins().left() - line->textMargins().right();
            return metrics.horizontalAdvance(line->text()) > room ? line->text() : QString();
        }
        if (const auto* box = dynamic_cast<const ElidedCombo*>(widget)) {
            const bool whole = metrics.horizontalAdvance(box->currentText()) <= box->room();
            return whole || box->toolTip() == box->currentText() ? QString() : box->currentText();
        }
        if (const auto* button = dynamic_cast<const WrappedButton*>(widget))
            return button->heightForWidth(button->width()) > button->height() + 1 ? button->text() : QString();
        if (const auto* entry = qobject_cast<const RailEntry*>(widget)) {
            const int mark = entry->mark() ? 16 : 0;
            QFont bold = entry->font();
            bold.setBold(true);
            const int wide = QFontMetrics(bold).horizontalAdvance(entry->text()) + 10 +
                             metrics.horizontalAdvance(entry->state()) + 8 + mark;
            return wide > entry->width() ? entry->text() + QLatin1Char(' ') + entry->state() : QString();
        }
        if (qobject_cast<const QPushButton*>(widget) || qobject_cast<const QToolButton*>(widget) ||
            qobject_cast<const QCheckBox*>(widget)) {
            const auto* button = static_cast<const QAbstractButton*>(widget);
            int wide = 0;
            for (const QString& line : button->text().split(QLatin1Char('\n')))
                wide = std::max(wide, metrics.horizontalAdvance(line));
            return wide > button->width() - 4 ? button->text() : QString();
        }
        return {};
    }

    /// Its words are its own drawing: not a control of Qt's, nor made of one.
    static bool paints(const QWidget* widget) {
        return QByteArray(widget->metaObject()->className()).startsWith("gabarit::app::") &&
               !widget->inherits("QAbstractButton") && !widget->inherits("QComboBox") &&
               !widget->inherits("QLineEdit") && !widget->inherits("QScrollArea");
    }

    QTemporaryDir folder_; ///< settings of its own: another suite may run beside it

private slots:
    void initTestCase() { QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder_.path()); }
    void init() {
        QSettings().clear();
        openWindow();
    }
    void cleanup() { window_.reset(); }

    void nothingIsCut_data() {
        QTest::addColumn<int>("demo");
        QTest::addColumn<QString>("units");
        for (const int demo : {0, 1, 2})
            for (const char* units : {"mm", "in", "16"})
                QTest::newRow(qPrintable(QStringLiteral("demo %1 in %2").arg(demo + 1).arg(QLatin1String(units))))
                    << demo << QString::fromLatin1(units);
    }
    void nothingIsCut() {
        QFETCH(int, demo);
        QFETCH(QString, units);
        QVERIFY(window_->openDemo(demo));
        session().setShown(*unitsOf(units));
        settle();
        QStringList ids;
        for (const StagePlug* plug : allStages()) ids << QLatin1String(plug->id);
        ids << QLatin1String(glance_id);
        QStringList cut;
        for (const QSize& size : {QSize(1280, 800), QSize(853, 533), QSize(1920, 1080)}) {
            window_->resize(size);
            for (const QString& id : ids) {
                window_->goToStage(id);
                QCoreApplication::processEvents();
                QCoreApplication::processEvents(); // what was laid out by the first turn
                window_->grab();                   // tips are made where it is painted
                for (QWidget* widget : window_->findChildren<QWidget*>()) {
                    if (!widget->isVisible() || widget->visibleRegion().isEmpty()) continue;
                    const QString painted =
                        paints(widget) ? tests::unreadable(*widget).join(QLatin1String("; ")) : QString();
                    if (!painted.isEmpty())
                        cut << QStringLiteral("%1 at %2: %3 %4")
                                   .arg(id)
                                   .arg(size.width())
                                   .arg(QLatin1String(widget->metaObject()->className()), painted);
                    const QString words = cutIn(widget);
                    if (!words.isEmpty())
                        cut << QStringLiteral("%1 at %2: %3 \"%4\"")
                                   .arg(id)
                                   .arg(size.width())
                                   .arg(QLatin1String(widget->metaObject()->className()), words);
                }
                for (const QScrollArea* area : window_->findChildren<QScrollArea*>())
                    if (area->isVisible() && area->horizontalScrollBar()->maximum() > 0 &&
                        area->horizontalScrollBarPolicy() != Qt::ScrollBarAlwaysOff)
                        cut << QStringLiteral("%1 at %2 scrolls aside").arg(id).arg(size.width());
            }
        }
        cut.removeDuplicates();
        QVERIFY2(cut.isEmpty(), qPrintable(cut.join(QLatin1Char('\n'))));
    }
};

GABARIT_WINDOW_SUITE(TextTest)
#include "text_test.moc"

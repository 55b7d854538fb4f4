// A real window and a hand at it: what tests of the window share.
#pragma once

#include "forms/entry_form.h"
#include "session/session.h"
#include "window/glance_page.h"
#include "window/main_window.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QtTest>

#include <memory>

namespace gabarit::tests {

constexpr int patience_ms = 60000;

class WindowHand {
protected:
    void openWindow() {
        window_ = std::make_unique<app::MainWindow>();
        window_->resize(1280, 800);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        window_->activateWindow(); // no window manager there to do it
        QVERIFY(QTest::qWaitForWindowActive(window_.get()));
    }
    app::Session& session() { return window_->session(); }
    const model::Project& project() { return *session().project(); }
    const model::Placement& placement() { return *model::activePlacement(project()); }
    /// Every figure has been found. The search for room and ways out, as long as all the rest, is sent away.
    void settle() {
        // What was asked twice of one project searches twice: each search is sent away as it is seen.
        const auto stands = [this] {
            const bool current = session().reports() && session().reports()->project == session().project();
            if (current && session().searching()) session().stopSearch();
            return current && !session().runner().busy();
        };
        QTRY_VERIFY_WITH_TIMEOUT(stands(), patience_ms);
        QCoreApplication::processEvents();
    }
    /// Everything asked for has been found, the ways out too.
    void settleAdvised() {
        QTRY_VERIFY_WITH_TIMEOUT(session().reports() && session().reports()->project == session().project() &&
                                     !session().runner().busy(),
                                 patience_ms);
        QCoreApplication::processEvents();
    }
    /// Opens the page with every check, and there the row of the finding whose id begins with this.
    const app::GlanceRow* openRow(const std::string& id) {
        if (window_->shownId() != QLatin1String(app::glance_id)) QTest::keyClick(window_.get(), Qt::Key_F4);
        QCoreApplication::processEvents();
        for (const app::GlanceRow* row : window_->glance()->rows())
            if (row->finding().id.rfind(id, 0) == 0) {
                if (!row->isChecked()) QTest::mouseClick(const_cast<app::GlanceRow*>(row), Qt::LeftButton);
                return row;
            }
        return nullptr;
    }
    /// From there to its place.
    void leadFromGlance(const std::string& id) {
        QVERIFY2(openRow(id), id.c_str());
        QVERIFY(window_->glance()->why());
        press(window_->glance()->why()->showButton());
    }
    static void press(QPushButton* button) {
        QVERIFY(button);
        QVERIFY2(button->isEnabled(), qPrintable(button->text()));
        QTest::mouseClick(button, Qt::LeftButton);
    }
    static void type(app::EntryForm* form, const char* field, const QString& text) {
        auto* line = form->findChild<QLineEdit*>(QString::fromLatin1(field));
        QVERIFY2(line, field);
        line->setFocus();
        line->selectAll();
        if (text.isEmpty())
            QTest::keyClick(line, Qt::Key_Delete);
        else
            QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
    }
    static void pick(app::EntryForm* form, const char* field, const QString& words) {
        auto* box = form->findChild<QComboBox*>(QString::fromLatin1(field));
        QVERIFY2(box, field);
        const int row = box->findText(words);
        QVERIFY2(row >= 0, qPrintable(words));
        box->setCurrentIndex(row);
        emit box->activated(row);
    }

    std::unique_ptr<app::MainWindow> window_;
};

} // namespace gabarit::tests

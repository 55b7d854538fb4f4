// The driveline: what there is of it, each drawn and judged, and the fields that make it.
#pragma once

#include "forms/entry_form.h"
#include "study/study.h"

#include <QWidget>

class QLabel;
class QListWidget;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace gabarit::app {

class ReadingBar;
class Session;

/// Draws the chosen thing: a line's chain and curves, a coupling's dial, the gearing's chart.
class ShaftView : public QWidget {
    Q_OBJECT
public:
    explicit ShaftView(QWidget* parent = nullptr);
    void show(const QString& key, std::shared_ptr<const study::Reports> reports, quantity::Shown shown);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString key_;
    std::shared_ptr<const study::Reports> reports_;
    quantity::Shown shown_;
};

/// Items by key: "line:ID", "coupling:ID", "interface:ID", "reading:ID", "bell", "gearing". Buttons "new_line",
/// "new_coupling", "new_interface", "new_reading", "new_bell", "new_gearing", "new_try", "delete", and "cure:N" and
/// "apply_gearbox", "apply_both" for what helps.
class DrivelineStage : public QWidget {
    Q_OBJECT
public:
    explicit DrivelineStage(Session& session, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QTableWidget* checks() const { return checks_; }
    EntryForm* form() const { return form_; }
    ShaftView* view() const { return view_; }
    ReadingBar* bar() const { return bar_; }
    QString key() const;
    void choose(const QString& key);
    /// Chooses what a finding of the driveline speaks of.
    void leadTo(const std::string& finding);
    QString words() const;

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshBody();
    void fillChecks();
    void fillHelp();
    void add(const QString& kind);
    void addTry();
    void remove();
    void take(Result<model::Project> changed, const QString& what);
    QPushButton* helpButton(const QString& name, const QString& text);

    Session& session_;
    QListWidget* list_;
    ShaftView* view_;
    QTableWidget* checks_;
    ReadingBar* bar_;
    QLabel* words_;
    QLabel* caution_;
    QVBoxLayout* help_;
    EntryForm* form_;
    QPushButton* delete_ = nullptr;
    QPushButton* try_ = nullptr;
    QString wanted_;
    bool filling_ = false;
};

} // namespace gabarit::app

// Takes readings for what is chosen: from an instrument, or typed.
#pragma once

#include <QString>
#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;

namespace gabarit::app {

class Instrument;
class Session;

/// Widgets: "line" (path), "listen", "heard", "take", "typed", "clock", "turn", "what".
class ReadingBar : public QWidget {
    Q_OBJECT
public:
    ReadingBar(Session& session, QWidget* parent = nullptr);
    /// "reading:ID" or "coupling:ID"; anything else hides it.
    void choose(const QString& key);
    Instrument& instrument() { return *instrument_; }

private:
    void take();
    void typed();
    bool put(double value, const QString& device);
    void refresh();
    void onward();

    Session& session_;
    Instrument* instrument_;
    QString key_;
    QLineEdit* line_;
    QPushButton* listen_;
    QLabel* heard_;
    QPushButton* take_;
    QLineEdit* typed_;
    QWidget* where_;
    QComboBox* what_;
    QSpinBox* clock_;
    QSpinBox* turn_;
};

} // namespace gabarit::app

// The strip that answers "does it fit?", always in sight: the total in words, then one gauge for each group of checks.
#pragma once

#include "study/study.h"

#include <QAbstractButton>

class QHBoxLayout;

namespace gabarit::app {

class Session;

/// The total in words and counts; the button of the page with every check.
class TotalButton : public QAbstractButton {
    Q_OBJECT
public:
    explicit TotalButton(QWidget* parent = nullptr);
    /// Null: still being worked out.
    void show(const study::Reports* reports);
    /// In one line, where the window is small.
    void setNarrow(bool narrow);
    const QString& headline() const { return headline_; }
    const QString& counts() const { return counts_; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString headline_, counts_, own_;
    bool trouble_ = false;
    bool narrow_ = false;
};

/// A group by its worst check: mark and group, value and state, pointer on a scale with the limit in its middle, what
/// is wanted, which part. It says less rather than being cut.
class GaugeButton : public QAbstractButton {
    Q_OBJECT
public:
    explicit GaugeButton(QWidget* parent = nullptr);
    void show(const study::GroupState& state);
    void setNarrow(bool narrow);
    discipline::Group group() const { return group_; }
    std::optional<model::Verdict> verdict() const { return verdict_; }
    /// As they stand there now: value, what is wanted, which part.
    QStringList shownWords() const;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void paintLine(QPainter& painter);
    discipline::Group group_ = discipline::Group::Gaps;
    std::optional<model::Verdict> verdict_;
    study::Counts counts_;
    QString what_;
    discipline::Held held_;
    bool narrow_ = false;
};

class GaugeStrip : public QWidget {
    Q_OBJECT
public:
    explicit GaugeStrip(Session& session, QWidget* parent = nullptr);
    TotalButton* total() const { return total_; }
    /// Null when it is not shown.
    GaugeButton* gauge(discipline::Group group) const;
    /// One line: the total and the worst group.
    void setNarrow(bool narrow);
    void refresh();

signals:
    void picked(gabarit::discipline::Group group);
    void allWanted();

private:
    Session& session_;
    QHBoxLayout* row_;
    TotalButton* total_;
    std::vector<GaugeButton*> gauges_;
    bool narrow_ = false;
};

/// The words in full if they fit, else fewer whole ones: what stands before "; ", ": ", ", " or " to ", then word by
/// word.
QString lessWords(const QString& words, const QFontMetrics& metrics, int width_px);
/// "at most 690 kg" with a sign for the words.
QString withSigns(QString wanted);
/// A fraction of an inch without what it leaves over: the tip has that.
QString withoutRest(QString figure);

} // namespace gabarit::app

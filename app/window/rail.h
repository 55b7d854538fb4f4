// The order of work at the left: groups that fold, one line for each stage with what is open in it.
#pragma once

#include "kit/stage.h"

#include <QAbstractButton>

#include <optional>

class QButtonGroup;
class QVBoxLayout;

namespace gabarit::app {

/// One line: a stage's name, what is open in it, and the mark of the worst of that.
class RailEntry : public QAbstractButton {
    Q_OBJECT
public:
    RailEntry(const QString& name, QWidget* parent);
    void tell(const QString& state, std::optional<model::Verdict> mark);
    const QString& state() const { return state_; }
    std::optional<model::Verdict> mark() const { return mark_; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QString state_;
    std::optional<model::Verdict> mark_;
};

/// The tab of a group, its name turned; a click folds the group to one line, or unfolds it.
class RailTab : public QAbstractButton {
    Q_OBJECT
public:
    RailTab(const QString& name, QWidget* parent);
    /// One of the group's stages is shown.
    void setActive(bool active);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    bool active_ = false;
};

class Rail : public QWidget {
    Q_OBJECT
public:
    struct Line {
        QString id, name;
        StageGroup group;
    };
    Rail(const std::vector<Line>& lines, QWidget* parent);

    RailEntry* entry(const QString& id) const;
    RailTab* tab(StageGroup group) const;
    void setCurrent(const QString& id);
    void tell(const QString& id, const QString& state, std::optional<model::Verdict> mark);
    /// Only the tabs, each with a menu of its stages: where the window is small.
    void setNarrow(bool narrow);
    bool narrow() const { return narrow_; }
    /// The ids of the groups that are folded, to be remembered.
    QStringList folded() const;
    void fold(const QStringList& groups);

signals:
    void picked(const QString& id);

private:
    struct Group {
        StageGroup group = StageGroup::Measure;
        bool alone = false; ///< its one stage has its name: no tab but where there are tabs only
        RailTab* tab = nullptr;
        RailEntry* line = nullptr; ///< in place of the entries while it is folded
        std::vector<RailEntry*> entries;
        bool folded = false;
    };
    Group& groupOf(StageGroup group);
    void refresh(Group& group);
    void openMenu(const Group& group);

    std::vector<Line> lines_;
    std::vector<RailEntry*> entries_; ///< by the lines
    std::vector<Group> groups_;
    QButtonGroup* one_of_;
    bool narrow_ = false;
};

} // namespace gabarit::app

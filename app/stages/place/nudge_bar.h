// Moving what is in hand, as on a jack: big buttons, keys, and a step that is always in sight.
#pragma once

#include "model/placement.h"

#include <QWidget>

#include <functional>

class QAction;
class QComboBox;
class QGridLayout;
class QLabel;
class QPushButton;

namespace gabarit::app {

class Lookout;
class Session;

class NudgeBar : public QWidget {
    Q_OBJECT
public:
    /// Keys act while `keys_in` or one of its children has the focus.
    NudgeBar(Session& session, Lookout& lookout, QWidget* keys_in, QWidget* parent = nullptr);

    QPushButton* button(const QString& objectName) const;
    QComboBox* moveStep() const { return move_step_; }
    QComboBox* turnStep() const { return turn_step_; }
    /// What is in hand is said only when it is not the engine.
    void setNarrow(bool narrow);

protected:
    bool event(QEvent* event) override;

private:
    void addMove(int row, int column, const char* name, const QString& text, const QKeySequence& key,
                 const std::function<void()>& act);
    void refresh();
    void fillSteps();
    double towardsDriver() const;
    Session& session_;
    Lookout& lookout_;
    QWidget* keys_in_;
    QGridLayout* grid_;
    QLabel* hand_;
    QPushButton* back_to_engine_;
    QComboBox* move_step_;
    QComboBox* turn_step_;
    std::vector<QPushButton*> turn_buttons_;
    bool narrow_ = false;
    bool inch_steps_ = false;
};

} // namespace gabarit::app

#include "stages/place/nudge_bar.h"

#include "forms/tones.h"
#include "session/lookout.h"
#include "session/session.h"

#include <QAction>
#include <QComboBox>
#include <QEvent>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>

#include <cmath>

namespace gabarit::app {
namespace {
using Eigen::Vector3d;

struct Step {
    const char* text;
    double size;
};
// What jacks, shims and tapes go by, in either unit.
constexpr Step mm_steps[] = {{"1 mm", 1}, {"5 mm", 5}, {"10 mm", 10}, {"25 mm", 25}};
constexpr Step inch_steps[] = {{"1/16 in", quantity::mm_per_inch / 16},
                               {"1/8 in", quantity::mm_per_inch / 8},
                               {"1/4 in", quantity::mm_per_inch / 4},
                               {"1 in", quantity::mm_per_inch}};
constexpr Step turn_steps[] = {{"0.1°", 0.1}, {"0.5°", 0.5}, {"1°", 1.0}};
} // namespace

NudgeBar::NudgeBar(Session& session, Lookout& lookout, QWidget* keys_in, QWidget* parent)
    : QWidget(parent), session_(session), lookout_(lookout), keys_in_(keys_in), grid_(new QGridLayout(this)),
      hand_(new QLabel(this)), back_to_engine_(new QPushButton(tr("Back to the engine"), this)),
      move_step_(new QComboBox(this)), turn_step_(new QComboBox(this)) {
    grid_->setContentsMargins(8, 8, 8, 8);
    grid_->setHorizontalSpacing(6);
    grid_->setVerticalSpacing(6);
    const auto move = [this](const Vector3d& direction) {
        return [this, direction] { session_.nudge(direction * lookout_.moveStep_mm()); };
    };
    const auto aside = [this](double sign) {
        return [this, sign] { session_.nudge(Vector3d(0, sign * towardsDriver() * lookout_.moveStep_mm(), 0)); };
    };
    const auto turn = [this](model::Turn way, double sign) {
        return [this, way, sign] { session_.turn(way, sign * lookout_.turnStep_deg()); };
    };
    const auto turnAside = [this](model::Turn way, double sign) {
        return [this, way, sign] { session_.turn(way, sign * towardsDriver() * lookout_.turnStep_deg()); };
    };
    addMove(0, 0, "forward", tr("Forward"), Qt::Key_Left, move(-Vector3d::UnitX()));
    addMove(1, 0, "rearward", tr("Rearward"), Qt::Key_Right, move(Vector3d::UnitX()));
    addMove(0, 1, "up", tr("Up"), Qt::Key_Up, move(Vector3d::UnitZ()));
    addMove(1, 1, "down", tr("Down"), Qt::Key_Down, move(-Vector3d::UnitZ()));
    addMove(0, 2, "to_driver", tr("Driver's side"), Qt::Key_D, aside(1));
    addMove(1, 2, "to_passenger", tr("Passenger's side"), Qt::Key_P, aside(-1));
    addMove(0, 3, "tail_up", tr("Tail up"), Qt::CTRL | Qt::Key_Up, turn(model::Turn::Tail, -1));
    addMove(1, 3, "tail_down", tr("Tail down"), Qt::CTRL | Qt::Key_Down, turn(model::Turn::Tail, 1));
    addMove(0, 4, "swing_driver", tr("Tail to driver"), Qt::SHIFT | Qt::Key_D, turnAside(model::Turn::Swing, 1));
    addMove(1, 4, "swing_passenger", tr("Tail to passenger"), Qt::SHIFT | Qt::Key_P, turnAside(model::Turn::Swing, -1));
    // Positive roll leans the top to the vehicle's left: towards a driver on the right it is negative.
    addMove(0, 5, "lean_driver", tr("Lean to driver"), Qt::CTRL | Qt::SHIFT | Qt::Key_D,
            turnAside(model::Turn::Lean, -1));
    addMove(1, 5, "lean_passenger", tr("Lean to passenger"), Qt::CTRL | Qt::SHIFT | Qt::Key_P,
            turnAside(model::Turn::Lean, 1));
    for (const char* name :
         {"tail_up", "tail_down", "swing_driver", "swing_passenger", "lean_driver", "lean_passenger"})
        turn_buttons_.push_back(button(QString::fromLatin1(name)));

    for (const Step& step : turn_steps) turn_step_->addItem(tr("by %1").arg(QString::fromUtf8(step.text)), step.size);
    fillSteps();
    move_step_->setAccessibleName(tr("Step of a move"));
    turn_step_->setAccessibleName(tr("Step of a turn"));
    grid_->addWidget(move_step_, 0, 6);
    grid_->addWidget(turn_step_, 1, 6);
    connect(move_step_, &QComboBox::currentIndexChanged, this,
            [this] { lookout_.setMoveStep(move_step_->currentData().toDouble()); });
    connect(turn_step_, &QComboBox::currentIndexChanged, this,
            [this] { lookout_.setTurnStep(turn_step_->currentData().toDouble()); });
    const auto stepKey = [this](const QString& text, const QKeySequence& key, int by) {
        auto* action = new QAction(text, keys_in_);
        action->setProperty("command", true);
        action->setShortcut(key);
        action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
        connect(action, &QAction::triggered, this, [this, by] {
            move_step_->setCurrentIndex(std::clamp(move_step_->currentIndex() + by, 0, move_step_->count() - 1));
        });
        keys_in_->addAction(action);
    };
    stepKey(tr("Larger steps"), Qt::Key_PageUp, 1);
    stepKey(tr("Smaller steps"), Qt::Key_PageDown, -1);

    auto* row = new QHBoxLayout;
    row->addWidget(hand_);
    row->addWidget(back_to_engine_);
    row->addStretch();
    grid_->addLayout(row, 2, 0, 1, 7);
    for (int column = 0; column < 7; ++column) grid_->setColumnStretch(column, 1);
    connect(back_to_engine_, &QPushButton::clicked, this, [this] { session_.takeInHand(std::nullopt); });
    connect(&session_, &Session::inHandChanged, this, &NudgeBar::refresh);
    connect(&session_, &Session::projectChanged, this, &NudgeBar::refresh);
    refresh();
}

/// In the unit that is shown; the step that comes next to the one that was.
void NudgeBar::fillSteps() {
    const bool inches = session_.shown().inches();
    if (move_step_->count() > 0 && inches == inch_steps_) return;
    inch_steps_ = inches;
    constexpr double first_mm = 5;
    const double was = move_step_->count() > 0 ? move_step_->currentData().toDouble() : first_mm;
    const QSignalBlocker quiet(move_step_);
    move_step_->clear();
    for (const Step& step : inches ? inch_steps : mm_steps)
        move_step_->addItem(tr("by %1").arg(QString::fromUtf8(step.text)), step.size);
    int nearest = 0;
    for (int i = 1; i < move_step_->count(); ++i)
        if (std::abs(std::log(move_step_->itemData(i).toDouble() / was)) <
            std::abs(std::log(move_step_->itemData(nearest).toDouble() / was)))
            nearest = i;
    move_step_->setCurrentIndex(nearest);
    lookout_.setMoveStep(move_step_->currentData().toDouble());
}

void NudgeBar::setNarrow(bool narrow) {
    narrow_ = narrow;
    const int edge_px = narrow ? 4 : 8;
    grid_->setContentsMargins(8, edge_px, 8, edge_px);
    refresh();
}

double NudgeBar::towardsDriver() const {
    const auto project = session_.project();
    return project && project->vehicle && project->vehicle->drive_side == model::DriveSide::Right ? 1 : -1;
}

void NudgeBar::addMove(int row, int column, const char* name, const QString& text, const QKeySequence& key,
                       const std::function<void()>& act) {
    auto* button = new QPushButton(text, this);
    // The words may squeeze the padding, never the window.
    button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    button->setObjectName(QString::fromLatin1(name));
    button->setAutoRepeat(true);
    button->setMinimumHeight(target_px);
    button->setToolTip(tr("%1 by one step, key %2").arg(text, key.toString(QKeySequence::NativeText)));
    grid_->addWidget(button, row, column);
    connect(button, &QPushButton::clicked, this, act);
    auto* action = new QAction(text, keys_in_);
    action->setProperty("command", true);
    action->setShortcut(key);
    action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    connect(action, &QAction::triggered, this, act);
    keys_in_->addAction(action);
}

QPushButton* NudgeBar::button(const QString& objectName) const { return findChild<QPushButton*>(objectName); }

void NudgeBar::refresh() {
    fillSteps();
    const auto inHand = session_.inHand();
    QString name;
    if (session_.hasProject()) {
        if (inHand) {
            if (const model::Body* body = model::findBody(*session_.project(), *inHand))
                name = QString::fromStdString(body->name);
        } else if (const model::Donor* donor = model::activeDonor(*session_.project())) {
            name = QString::fromStdString(donor->name);
        }
    }
    hand_->setText(name.isEmpty()
                       ? QString()
                       : tr("In hand: %1.").arg(name) +
                             (inHand ? QString() : tr(" Moves go along the vehicle, turns about the marked pivot.")));
    hand_->setVisible(!narrow_ || inHand); // what hangs is in hand where nothing else is said
    back_to_engine_->setVisible(inHand.has_value());
    for (QPushButton* button : turn_buttons_) button->setEnabled(!inHand);
    setEnabled(session_.hasProject());
}

/// A key held down while its page or the window goes would repeat for ever: nobody hears that it is let go.
bool NudgeBar::event(QEvent* event) {
    if (event->type() == QEvent::Hide || event->type() == QEvent::WindowDeactivate)
        for (auto* button : findChildren<QPushButton*>()) button->setDown(false);
    return QWidget::event(event);
}

} // namespace gabarit::app

#include "moc_nudge_bar.cpp"

// The movement played in the elevations, how it stands on its springs, and the worst moments.
#pragma once

#include "fit/movement.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QListWidget;
class QPushButton;
class QSlider;
class QTimer;
class QToolButton;
class QVBoxLayout;

namespace gabarit::app {

class Session;

class MovementBlock : public QWidget {
    Q_OBJECT
public:
    MovementBlock(Session& session, QWidget* parent = nullptr);

    /// One slider for each freedom, −1000 at its low end, 0 at rest, 1000 at its high end.
    QSlider* slider(std::size_t freedom) const;
    std::size_t freedoms() const { return sliders_.size(); }
    QListWidget* moments() const { return moments_; }
    QListWidget* stands() const { return stands_; }
    QCheckBox* sweep() const { return sweep_; }
    /// "play_travel", "play_steering", "play_rock", "rest".
    QToolButton* button(const QString& name) const;

signals:
    void leadTo(const QString& finding, const Eigen::Vector3d& place_vehicle_mm);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    struct Row {
        QLabel* words;
        QSlider* slider;
    };
    void refresh();
    void build(const fit::Movement& movement);
    void fillStands();
    void fillMoments();
    void fromSliders();
    void toSliders();
    void play();
    void stopPlaying();
    const fit::Movement* movement() const;
    QString words(std::size_t freedom, double value) const;

    Session& session_;
    QVBoxLayout* rows_;
    std::vector<Row> sliders_;
    std::string built_; ///< the print of the movement that the sliders are of
    QLabel* none_;
    QListWidget* stands_;
    QLabel* stands_title_;
    QListWidget* moments_;
    QLabel* moments_title_;
    QCheckBox* sweep_;
    QTimer* clock_;
    double phase_ = 0;
    bool filling_ = false;
};

} // namespace gabarit::app

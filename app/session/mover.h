// Draws the bay at a state of its movement, and what the movement sweeps, on a thread of its own.
#pragma once

#include "placed/scene.h"
#include "session/job.h"
#include "session/picture.h"

#include <QObject>

namespace gabarit::app {

/// The outline of all the room that one body takes over its movement.
struct Sweep {
    model::BodyRef ref;
    bool in_donor = false;
    std::array<QPainterPath, 3> outline;
};

class Mover : public QObject {
    Q_OBJECT
public:
    explicit Mover(QObject* parent = nullptr);

    /// Asks for the picture at a state of the reports' movement; one that has not begun is replaced.
    void request(std::shared_ptr<const study::Reports> reports, const kinematics::State& state, const Slices& slices);
    /// Asks for what everything sweeps.
    void requestSweeps(std::shared_ptr<const study::Reports> reports);
    /// True while a picture waits or is drawn.
    bool busy() const;

signals:
    void pictureReady(std::shared_ptr<const gabarit::app::Picture> picture);
    void sweepsReady(std::shared_ptr<const std::vector<gabarit::app::Sweep>> sweeps);

private:
    PictureMaker pictures_;
    Job drawing_, sweeping_; ///< go first: they work with the above
};

/// The scene with everything where the state has it; the ground comes up with the axles.
placed::Scene movedScene(const study::Reports& reports, const kinematics::State& state);

} // namespace gabarit::app

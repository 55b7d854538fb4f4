// Draws the bay at a state of its movement, and what the movement sweeps, on a thread of its own.
#pragma once

#include "bay/picture.h"
#include "placed/scene.h"

#include <QObject>

#include <condition_variable>
#include <mutex>
#include <thread>

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
    ~Mover() override;

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
    struct Request {
        std::shared_ptr<const study::Reports> reports;
        kinematics::State state;
        Slices slices;
    };
    void loop();
    std::shared_ptr<const std::vector<Sweep>> sweeps(const study::Reports& reports) const;

    mutable std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<Request> waiting_;
    std::shared_ptr<const study::Reports> sweeps_waiting_;
    bool running_ = false;
    bool leave_ = false;
    PictureMaker pictures_;
    std::thread thread_;
};

/// The scene with everything where the state has it; the ground comes up with the axles.
placed::Scene movedScene(const study::Reports& reports, const kinematics::State& state);

} // namespace gabarit::app

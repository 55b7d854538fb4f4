#include "session/mover.h"

#include "fit/fit_report.h"
#include "print/paths.h"

#include <cstdio>

namespace gabarit::app {
namespace {

constexpr std::size_t most_states = 81; // of one body's sweep: enough for an outline

/// States that span what moves one body: its ends, its middle, and between them where few freedoms move it.
std::vector<kinematics::State> spanning(const fit::Movement& movement, const kinematics::Chain& chain,
                                        const Eigen::AlignedBox3d& box) {
    const std::vector<double> speed = kinematics::fastest(chain, movement.freedoms, box);
    std::vector<std::size_t> moving;
    for (std::size_t i = 0; i < speed.size(); ++i)
        if (speed[i] > 0 && movement.freedoms[i].high > movement.freedoms[i].low) moving.push_back(i);
    const std::size_t each = moving.size() == 1 ? 17 : moving.size() == 2 ? 9 : moving.size() <= 4 ? 3 : 2;
    std::vector<kinematics::State> out{kinematics::atRest(movement.freedoms)};
    for (const std::size_t i : moving) {
        if (out.size() * each > most_states) break;
        std::vector<kinematics::State> more;
        for (const kinematics::State& state : out)
            for (std::size_t k = 0; k < each; ++k) {
                kinematics::State next = state;
                const kinematics::Freedom& f = movement.freedoms[i];
                next[i] = f.low + (f.high - f.low) * static_cast<double>(k) / static_cast<double>(each - 1);
                more.push_back(std::move(next));
            }
        out = std::move(more);
    }
    std::vector<kinematics::State> reached;
    for (kinematics::State& state : out)
        if (kinematics::allowed(movement.stops, state)) reached.push_back(std::move(state));
    return reached;
}

std::shared_ptr<const std::vector<Sweep>> sweepsOf(const study::Reports& reports, const StopToken& stop) {
    auto out = std::make_shared<std::vector<Sweep>>();
    const fit::Movement& movement = *reports.with<fit::FitReport>().clearance->movement;
    for (const placed::PlacedBody& body : reports.scene->bodies) {
        const kinematics::Chain* chain = movement.chainOf(body.ref);
        if (!chain || !body.solid()) continue;
        if (stop.stopped()) return out;
        // One mesh of the body at all its states: its outline is the outline of the sweep.
        const shape::Mesh& mesh = body.made->collider->mesh();
        shape::Mesh all;
        for (const kinematics::State& state :
             spanning(movement, *chain, shape::moved(body.made->collider->bounds(), body.pose_vehicle_body))) {
            const Eigen::Isometry3d pose = kinematics::movedFromRest(*chain, state) * body.pose_vehicle_body;
            const int first = static_cast<int>(all.points.size());
            for (const Eigen::Vector3d& p : mesh.points) all.points.push_back(pose * p);
            for (shape::Triangle triangle : mesh.triangles) {
                for (int& corner : triangle.corner) corner += first;
                all.triangles.push_back(triangle);
            }
        }
        Sweep sweep{body.ref, body.in_donor, {}};
        for (const Elevation elevation : elevations)
            sweep.outline[static_cast<std::size_t>(elevation)] =
                print::pathOf(shape::silhouette(all, Eigen::Isometry3d::Identity(), viewpoint(elevation)));
        out->push_back(std::move(sweep));
    }
    return out;
}

} // namespace

placed::Scene movedScene(const study::Reports& reports, const kinematics::State& state) {
    placed::Scene scene = *reports.scene;
    const fit::Movement& movement = *reports.with<fit::FitReport>().clearance->movement;
    double travel_mm[2] = {0, 0}; // front, rear: of an axle, or the mean of its two arms
    int count[2] = {0, 0};
    for (std::size_t i = 0; i < state.size(); ++i) {
        if (movement.of[i].of != fit::FreedomOf::Travel || movement.of[i].end == model::End::NotSaid) continue;
        const int end = movement.of[i].end == model::End::Front ? 0 : 1;
        travel_mm[end] += state[i];
        ++count[end];
    }
    for (const int end : {0, 1})
        if (count[end] > 0) travel_mm[end] /= count[end];
    for (placed::PlacedBody& body : scene.bodies) {
        if (body.body.category == "ground" && reports.project->vehicle)
            body.pose_vehicle_body =
                fit::groundMoved(*reports.project->vehicle, travel_mm[0], travel_mm[1]) * body.pose_vehicle_body;
        else
            body.pose_vehicle_body = movement.at(body.ref, state) * body.pose_vehicle_body;
    }
    return scene;
}

Mover::Mover(QObject* parent) : QObject(parent) {
    qRegisterMetaType<std::shared_ptr<const Picture>>();
    qRegisterMetaType<std::shared_ptr<const std::vector<Sweep>>>();
    for (const Job* job : {&drawing_, &sweeping_})
        connect(job, &Job::failed, this, [](const QString& why) {
            std::fprintf(stderr, "gabarit: a picture was given up: %s\n", qPrintable(why));
        });
}

void Mover::request(std::shared_ptr<const study::Reports> reports, const kinematics::State& state,
                    const Slices& slices) {
    drawing_.follow(
        [this, reports = std::move(reports), state, slices](const StopToken&, const Job::Progress&) {
            return std::shared_ptr<const Picture>(
                pictures_.make(reports->project, movedScene(*reports, state), slices));
        },
        [this](const std::shared_ptr<const Picture>& picture) { emit pictureReady(picture); });
}

void Mover::requestSweeps(std::shared_ptr<const study::Reports> reports) {
    sweeping_.begin([reports = std::move(reports)](const StopToken& stop,
                                                   const Job::Progress&) { return sweepsOf(*reports, stop); },
                    [this](const std::shared_ptr<const std::vector<Sweep>>& sweeps) { emit sweepsReady(sweeps); });
}

bool Mover::busy() const { return drawing_.busy() || sweeping_.busy(); }

} // namespace gabarit::app

#include "moc_mover.cpp"

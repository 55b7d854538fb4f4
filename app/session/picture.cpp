#include "session/picture.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "print/paths.h"

#include <algorithm>
#include <cstring>
#include <numeric>

namespace gabarit::app {
namespace {

using print::pathOf;

/// Of an outline: seen along an axis it is the same wherever the body stands, unless a slice goes through it.
std::string keyOf(const placed::PlacedBody& body, Elevation elevation, const std::optional<double>& slice) {
    std::string key = body.made->key;
    const auto add = [&key](const void* data, std::size_t size) {
        const std::size_t at = key.size();
        key.resize(at + size);
        std::memcpy(key.data() + at, data, size);
    };
    add(body.pose_vehicle_body.matrix().data(), (slice ? 16 : 12) * sizeof(double)); // turned, and where
    add(&elevation, sizeof elevation);
    if (slice) add(&*slice, sizeof *slice);
    return key;
}

/// Tells outlines at their places apart.
std::size_t markOf(const std::string& key, const QPointF& at) {
    constexpr std::size_t golden = 0x9e3779b97f4a7c15ull; // spreads neighbours (Knuth, TAOCP 3, 6.4)
    return std::hash<std::string>()(key) ^ (std::hash<double>()(at.x()) * golden + std::hash<double>()(at.y()));
}

} // namespace

std::shared_ptr<const Picture> PictureMaker::make(std::shared_ptr<const model::Project> project,
                                                  const placed::Scene& scene, const Slices& slices) {
    auto picture = std::make_shared<Picture>();
    picture->project = std::move(project);
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.solid()) continue;
        PictureBody drawn;
        drawn.ref = body.ref;
        drawn.name = body.body.name;
        drawn.category = body.body.category;
        drawn.in_donor = body.in_donor;
        drawn.movable = body.body.may.be_moved;
        drawn.bounds_vehicle_mm = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
        for (const Elevation elevation : elevations) {
            const auto i = static_cast<std::size_t>(elevation);
            // A body that the slice leaves whole keeps its outline.
            const shape::Viewpoint view = viewpoint(elevation);
            std::optional<double> slice = slices[i];
            const Eigen::Vector3d towards = view.towards_viewer();
            const double nearest = drawn.bounds_vehicle_mm.center().dot(towards) +
                                   drawn.bounds_vehicle_mm.sizes().dot(towards.cwiseAbs()) / 2;
            if (slice && nearest <= *slice) slice.reset();
            const std::string key = keyOf(body, elevation, slice);
            auto paths = drawn_.find(key);
            const Eigen::Vector3d origin = body.pose_vehicle_body.translation();
            const QPointF at(origin.dot(view.right), origin.dot(view.up));
            if (!paths) {
                const shape::Mesh& mesh = body.made->collider->mesh();
                paths.emplace();
                paths->at = at;
                paths->outline = pathOf(shape::silhouette(mesh, body.pose_vehicle_body, view, slice));
                if (slice) paths->cut = pathOf(shape::cutFace(mesh, body.pose_vehicle_body, view, *slice));
                drawn_.keep(key, *paths);
            }
            const QPointF shift = at - paths->at;
            drawn.outline[i] = shift.isNull() ? paths->outline : paths->outline.translated(shift);
            drawn.cut[i] = paths->cut;
            drawn.mark[i] = markOf(key, at);
            drawn.at[i] = at;
            drawn.form[i] = std::hash<std::string>()(key);
        }
        if (drawn.in_donor) picture->donor_bounds_vehicle_mm.extend(drawn.bounds_vehicle_mm);
        picture->bodies.push_back(std::move(drawn));
    }
    drawn_.forgetUnused();
    for (const Elevation elevation : elevations) {
        auto& order = picture->order[static_cast<std::size_t>(elevation)];
        order.resize(picture->bodies.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        const Eigen::Vector3d towards = viewpoint(elevation).towards_viewer();
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return picture->bodies[a].bounds_vehicle_mm.center().dot(towards) <
                   picture->bodies[b].bounds_vehicle_mm.center().dot(towards);
        });
    }
    return picture;
}

std::vector<PictureOverlap> PictureMaker::overlaps(const study::Reports& reports, const StopToken& stop) {
    std::vector<PictureOverlap> out;
    if (!reports.with<fit::FitReport>().clearance) return out;
    for (const fit::PairGap& pair : reports.with<fit::FitReport>().clearance->pairs) {
        if (!pair.overlap() || stop.stopped()) continue;
        const placed::PlacedBody* a = reports.scene->find(pair.a);
        const placed::PlacedBody* b = reports.scene->find(pair.b);
        const auto solid_a = a ? a->made->solid() : std::nullopt, solid_b = b ? b->made->solid() : std::nullopt;
        if (!solid_a || !solid_b) continue;
        const auto mesh = shape::commonMesh(*solid_a, a->pose_vehicle_body, *solid_b, b->pose_vehicle_body);
        if (!mesh || mesh.value().triangles.empty()) continue;
        PictureOverlap overlap;
        overlap.finding = fit::findingId(pair);
        for (const Elevation elevation : elevations)
            overlap.outline[static_cast<std::size_t>(elevation)] =
                pathOf(shape::silhouette(mesh.value(), Eigen::Isometry3d::Identity(), viewpoint(elevation)));
        out.push_back(std::move(overlap));
    }
    return out;
}

} // namespace gabarit::app

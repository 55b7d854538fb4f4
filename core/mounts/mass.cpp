#include "mounts/mass.h"

#include "model/reshape.h"
#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::AlignedBox3d;
using Eigen::Matrix3d;
using Eigen::Vector3d;

constexpr double m_per_mm = 1e-3;
constexpr double inside_mm = 5; // a lump's place is told no closer

Matrix3d boxInertia(const Vector3d& size_mm) {
    const Vector3d s2 = (size_mm * m_per_mm).cwiseAbs2();
    return Matrix3d(Vector3d(s2.y() + s2.z(), s2.x() + s2.z(), s2.x() + s2.y()).asDiagonal()) / 12;
}

} // namespace

Matrix3d unitInertia_kg_m2(const model::ShapeSpec& shape, Vector3d& centre_mm) {
    const AlignedBox3d box = model::extents_mm(shape);
    centre_mm = box.isEmpty() ? Vector3d(0, 0, 0) : Vector3d(box.center());
    if (box.isEmpty()) return Matrix3d::Zero();
    if (const auto* ball = std::get_if<model::SphereSpec>(&shape))
        return Matrix3d::Identity() * 0.1 * std::pow(ball->diameter_mm * m_per_mm, 2);
    if (const auto* bar = std::get_if<model::CylinderSpec>(&shape)) {
        const Vector3d span = (bar->to_mm - bar->from_mm) * m_per_mm;
        const Vector3d along = span.normalized();
        const double r2 = std::pow(bar->diameter_mm * m_per_mm / 2, 2);
        const double about = r2 / 2, across = r2 / 4 + span.squaredNorm() / 12;
        return across * Matrix3d::Identity() + (about - across) * along * along.transpose();
    }
    return boxInertia(box.sizes());
}

Result<UnitMass> unitMass(const model::Project& project) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) return Error{"no unit hangs in a placement", project.name, "choose or make a placement"};
    const auto centre = model::centreOfMass(*donor);
    if (!centre) return centre.error();
    const Eigen::Isometry3d pose = model::poseVehicleDonor(*placement, *donor);
    UnitMass out;
    out.body.mass_kg = centre.value().mass_kg;
    out.body.centre_mm = pose * centre.value().at_mm;
    Matrix3d sum = Matrix3d::Zero(); // donor axes
    for (const model::Mass& mass : donor->masses) {
        const Vector3d arm = (mass.at_mm - centre.value().at_mm) * m_per_mm;
        sum += *mass.mass_kg * (arm.squaredNorm() * Matrix3d::Identity() - arm * arm.transpose());
        const model::Body* in = nullptr;
        double smallest = 1e300;
        for (const model::Body& body : donor->bodies) {
            if (!model::stands(project, donor->id.text, body)) continue;
            const AlignedBox3d box = model::extents_mm(body.shape);
            if (box.isEmpty()) continue;
            const Vector3d own = body.poseOwnerBody().inverse() * mass.at_mm;
            if ((own.array() < box.min().array() - inside_mm).any() ||
                (own.array() > box.max().array() + inside_mm).any())
                continue;
            if (box.volume() < smallest) {
                smallest = box.volume();
                in = &body;
            }
        }
        if (in) {
            Vector3d own_centre;
            const Matrix3d turn = in->poseOwnerBody().linear();
            sum += *mass.mass_kg * (turn * unitInertia_kg_m2(in->shape, own_centre) * turn.transpose());
        }
        out.names.push_back(mass.name);
        out.spread_over.push_back(in ? in->name : std::string());
    }
    out.source = "its masses, each spread over the body it lies in";
    if (const auto* mounts = project.sections.get<model::Mounts>(); mounts && mounts->inertia) {
        const model::Inertia& given = *mounts->inertia;
        const Vector3d& p = given.products_kg_m2;
        sum = given.moments_kg_m2.asDiagonal(); // off the diagonal the products with a minus
        sum(1, 2) = sum(2, 1) = -p.x();
        sum(0, 2) = sum(2, 0) = -p.y();
        sum(0, 1) = sum(1, 0) = -p.z();
        out.inertia_given = true;
        out.source = given.source.empty() ? "given" : given.source;
    }
    out.body.inertia_kg_m2 = pose.linear() * sum * pose.linear().transpose();
    return out;
}

} // namespace gabarit::mounts

#include "weights/axle_loads.h"

#include "model/reshape.h"

namespace gabarit::weights {
namespace {

using Eigen::Vector3d;
using model::Verdict;

class Sheet {
public:
    explicit Sheet(AxleLoadReport& report, std::optional<double> wheelbase_mm)
        : report_(report), wheelbase_mm_(wheelbase_mm) {
        if (wheelbase_mm) report.front.change_kg = report.rear.change_kg = 0.0;
    }

    void add(const std::string& item, const std::string& name, std::optional<double> mass_kg,
             const std::optional<Vector3d>& at_vehicle_mm, double sign) {
        if (!mass_kg) return leaveOut(name + " (no mass)");
        if (!at_vehicle_mm) return leaveOut(name + " (no place)");
        WeightLine line{item, name, sign * *mass_kg, *at_vehicle_mm, {}, {}};
        if (wheelbase_mm_) {
            line.rear_kg = line.mass_kg * at_vehicle_mm->x() / *wheelbase_mm_;
            line.front_kg = line.mass_kg - *line.rear_kg;
            *report_.front.change_kg += *line.front_kg;
            *report_.rear.change_kg += *line.rear_kg;
        }
        report_.lines.push_back(std::move(line));
    }
    void addMove(const std::string& item, const std::string& name, double mass_kg, const Vector3d& shift_mm) {
        if (!wheelbase_mm_) return;
        const double rear_kg = mass_kg * shift_mm.x() / *wheelbase_mm_;
        *report_.front.change_kg -= rear_kg;
        *report_.rear.change_kg += rear_kg;
        report_.lines.push_back(WeightLine{item, name + " (moved)", 0, shift_mm, -rear_kg, rear_kg});
    }
    void leaveOut(const std::string& what) { report_.left_out.push_back(what); }

private:
    AxleLoadReport& report_;
    std::optional<double> wheelbase_mm_;
};

/// What takes most off an axle: most likely its mass or place is wrong.
std::string heaviest(const AxleLoad& axle, const AxleLoadReport& report) {
    const WeightLine* most = nullptr;
    const bool front = &axle == &report.front;
    const auto share = [front](const WeightLine& line) { return (front ? line.front_kg : line.rear_kg).value_or(0); };
    for (const WeightLine& line : report.lines)
        if (!most || share(line) < share(*most)) most = &line;
    return most && share(*most) < 0 ? "\"" + most->name + "\"" : std::string("the bare axle load");
}

void judgeAxle(AxleLoad& axle, std::optional<double> before_kg, std::optional<double> limit_kg,
               std::optional<double> accuracy_kg, const AxleLoadReport& report, bool wheelbaseKnown) {
    axle.before_kg = before_kg;
    axle.limit_kg = limit_kg;
    axle.accuracy_kg = accuracy_kg;
    if (!wheelbaseKnown)
        axle.reason = "the wheelbase is not given";
    else if (!before_kg)
        axle.reason = "the bare axle load is not given";
    else if (*before_kg <= 0)
        axle.reason = "the bare axle load is 0 kg: weigh it";
    else
        axle.load_kg = *before_kg + *axle.change_kg;
    if (!axle.load_kg) return;
    if (*axle.load_kg < 0) {
        axle.verdict = Verdict::NoGo;
        axle.reason = "no axle weighs less than nothing; look at " + heaviest(axle, report);
        return;
    }
    if (!limit_kg) {
        axle.reason = "no limit is given for this axle";
        return;
    }
    axle.verdict = model::judge(*limit_kg - *axle.load_kg, accuracy_kg);
    if (axle.verdict == Verdict::Unknown) axle.reason = "the accuracy of the bare weight is not given";
    if (!report.left_out.empty() && axle.verdict != Verdict::NoGo) {
        axle.verdict = Verdict::Unknown;
        axle.reason = "left out: " + report.left_out.front();
        if (report.left_out.size() > 1) axle.reason += " and " + std::to_string(report.left_out.size() - 1) + " more";
    }
}

/// The middle of a vehicle's body where it was found: what it was moved by is a line of its own.
Vector3d foundAt_mm(model::Body body) {
    body.shift_mm.setZero();
    return body.poseOwnerBody() * model::extents_mm(body.shape).center();
}

/// Whether a part that counts stands for the body.
bool isAPart(const model::Project& project, const model::BodyRef& ref) {
    for (const model::Part& part : project.parts.value_or(std::vector<model::Part>{}))
        if (part.on_car != model::OnCar::No && part.body == ref.text() && model::isTaken(project, part)) return true;
    return false;
}

} // namespace

AxleLoadReport axleLoads(const model::Project& project) {
    AxleLoadReport report;
    const model::Weights weights = project.weights.value_or(model::Weights{});
    const std::optional<double> wheelbase_mm = project.vehicle ? project.vehicle->wheelbase_mm : std::nullopt;
    Sheet sheet(report, wheelbase_mm);

    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const Eigen::Isometry3d pose_vehicle_donor =
        placement && donor ? model::poseVehicleDonor(*placement, *donor) : Eigen::Isometry3d::Identity();

    for (const model::Part& part : project.parts.value_or(std::vector<model::Part>{})) {
        if (part.on_car == model::OnCar::No || !model::isTaken(project, part)) continue;
        const std::optional<Vector3d> at = model::placeVehicle_mm(project, part);
        if (!at && (part.at_mm || !part.body.empty())) {
            sheet.leaveOut(part.name + (model::ridesOnDonor(part) ? " (rides on a donor that does not hang)"
                                                                  : " (its body is not there)"));
            continue;
        }
        sheet.add("part:" + part.id.text, part.name, part.mass_kg, at, part.on_car == model::OnCar::On ? 1 : -1);
    }
    if (donor) {
        const model::Donor& whole = *model::activeDonor(project);
        for (std::size_t i = 0; i < whole.masses.size(); ++i) {
            const model::Mass& mass = whole.masses[i];
            if (mass.off || !model::isTaken(project, whole.id.text, mass.option)) continue;
            sheet.add("mass:" + std::to_string(i), mass.name, mass.mass_kg, Vector3d(pose_vehicle_donor * mass.at_mm),
                      1);
        }
        if (donor->masses.empty()) sheet.leaveOut(donor->name + " (no masses)");
    }
    for (std::size_t i = 0; i < weights.loads.size(); ++i)
        if (const model::Mass& load = weights.loads[i]; !load.off)
            sheet.add("load:" + std::to_string(i), load.name, load.mass_kg, load.at_mm, 1);
    const auto addMoves = [&](const std::string& owner, const std::vector<model::Body>& bodies,
                              const Eigen::Matrix3d& rotation_vehicle_owner) {
        for (const model::Body& body : bodies) {
            // A panel that is only off for a look still belongs to the vehicle.
            const bool gone = body.standing == model::Standing::Removed || !model::isTaken(project, owner, body.option);
            if (gone || !body.moved()) continue;
            const Vector3d shift_vehicle_mm = rotation_vehicle_owner * body.shift_mm;
            if (body.mass_kg)
                sheet.addMove("body:" + model::BodyRef{owner, body.id}.text(), body.name, *body.mass_kg,
                              shift_vehicle_mm);
            else if (shift_vehicle_mm.x() != 0)
                sheet.leaveOut(body.name + " (moved, no mass)");
        }
    };
    if (project.vehicle)
        for (const model::Body& body : project.vehicle->bodies) {
            if (body.option.empty() || body.standing == model::Standing::Removed) continue;
            const model::BodyRef ref{model::vehicle_owner, body.id};
            const bool taken = model::isTaken(project, ref.owner, body.option);
            const bool came_with_it = !model::isAlternative(project, ref.owner, body);
            if (taken == came_with_it || isAPart(project, ref)) continue;
            sheet.add("body:" + ref.text(),
                      body.name + (taken ? " (its option is taken)" : " (its option is not taken)"), body.mass_kg,
                      foundAt_mm(body), taken ? 1 : -1);
        }
    if (project.vehicle) addMoves(model::vehicle_owner, project.vehicle->bodies, Eigen::Matrix3d::Identity());
    if (donor) addMoves(donor->id.text, donor->bodies, pose_vehicle_donor.linear());

    report.limit_source = weights.limit_source;
    judgeAxle(report.front, weights.bare.front_kg, weights.limit.front_kg, weights.accuracy_kg, report,
              wheelbase_mm.has_value());
    judgeAxle(report.rear, weights.bare.rear_kg, weights.limit.rear_kg, weights.accuracy_kg, report,
              wheelbase_mm.has_value());
    if (report.front.load_kg && report.rear.load_kg && *report.front.load_kg + *report.rear.load_kg > 0)
        report.centre_of_gravity_x_mm =
            *wheelbase_mm * *report.rear.load_kg / (*report.front.load_kg + *report.rear.load_kg);
    report.verdict = model::worse(report.front.verdict, report.rear.verdict);
    return report;
}

} // namespace gabarit::weights

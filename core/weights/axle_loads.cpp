#include "weights/axle_loads.h"

#include "model/reshape.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::weights {
namespace {

using Eigen::Vector3d;
using model::Verdict;

using Known = std::optional<double>;

double shareOf(const model::RuleBook& book, model::MassFrom from) {
    switch (from) {
    case model::MassFrom::Weighed: return book.figure("mass_weighed_share");
    case model::MassFrom::Catalogue: return book.figure("mass_catalogue_share");
    case model::MassFrom::NotSaid:
    case model::MassFrom::Estimated: break;
    }
    return book.figure("mass_estimated_share");
}

/// A mass with how far it may be off.
struct Weighed {
    Known kg;
    double share = 0;
};

class Sheet {
public:
    Sheet(AxleLoadReport& report, const model::Vehicle* vehicle) : report_(report) {
        if (!vehicle) return;
        wheelbase_mm_ = vehicle->wheelbase_mm;
        front_track_mm_ = vehicle->front_track_mm;
        rear_track_mm_ = vehicle->rear_track_mm;
        if (wheelbase_mm_) report.front.change_kg = report.rear.change_kg = 0.0;
    }

    void add(const std::string& item, const std::string& name, const Weighed& mass,
             const std::optional<Vector3d>& at_vehicle_mm, double sign) {
        if (!mass.kg || *mass.kg <= 0) return leaveOut(name + " (no mass)"); // nothing weighs nothing
        if (!at_vehicle_mm) return leaveOut(name + " (no place)");
        const double kg = sign * *mass.kg;
        put({item, name, kg, *mass.kg * mass.share, *at_vehicle_mm, {}, {}}, {{kg, *at_vehicle_mm}}, mass.share);
    }
    /// Nothing is put on: what is there already stands elsewhere.
    void addMove(const std::string& item, const std::string& name, const Weighed& mass, const Vector3d& from_mm,
                 const Vector3d& shift_mm) {
        put({item, name + " (moved)", 0, 0, shift_mm, {}, {}}, {{-*mass.kg, from_mm}, {*mass.kg, from_mm + shift_mm}},
            mass.share);
    }
    void leaveOut(const std::string& what) { report_.left_out.push_back(what); }

    Known wheelbase_mm() const { return wheelbase_mm_; }
    double squareOf(bool front) const { return front ? front_square_kg2_ : rear_square_kg2_; }

    /// The wheels and the centre, once both axles are settled.
    void finish(const model::Weights& weights) {
        const AxleLoad &front = report_.front, &rear = report_.rear;
        report_.corners_before = weights.corners;
        if (front.load_kg && front_track_mm_) {
            report_.corners.front_left_kg = plus(weights.corners.front_left_kg, front_left_kg_);
            report_.corners.front_right_kg = plus(weights.corners.front_right_kg, *front.change_kg - front_left_kg_);
        }
        if (rear.load_kg && rear_track_mm_) {
            report_.corners.rear_left_kg = plus(weights.corners.rear_left_kg, rear_left_kg_);
            report_.corners.rear_right_kg = plus(weights.corners.rear_right_kg, *rear.change_kg - rear_left_kg_);
        }
        report_.centre_before.z_mm = weights.height_mm;
        report_.centre_before.y_mm = aside(weights.corners);
        if (!front.load_kg || !rear.load_kg) return;
        const double before_kg = *front.before_kg + *rear.before_kg, now_kg = *front.load_kg + *rear.load_kg;
        if (now_kg <= 0) return;
        report_.centre_before.x_mm = *wheelbase_mm_ * *rear.before_kg / before_kg;
        report_.centre.x_mm = *wheelbase_mm_ * *rear.load_kg / now_kg;
        const auto moved = [&](const Known& from_mm, int axis) -> Known {
            if (!from_mm || !report_.left_out.empty()) return std::nullopt;
            return (before_kg * *from_mm + moment_kg_mm_[axis]) / now_kg;
        };
        report_.centre.y_mm = moved(report_.centre_before.y_mm, 1);
        report_.centre.z_mm = moved(report_.centre_before.z_mm, 2);
    }

private:
    static Known plus(const Known& a, double b) { return a ? Known(*a + b) : std::nullopt; }

    void put(WeightLine line, const std::vector<std::pair<double, Vector3d>>& masses, double share) {
        double front_kg = 0, rear_kg = 0;
        for (const auto& [kg, at_mm] : masses) {
            moment_kg_mm_ += kg * at_mm;
            if (!wheelbase_mm_) continue;
            const double behind_kg = kg * at_mm.x() / *wheelbase_mm_, ahead_kg = kg - behind_kg;
            front_kg += ahead_kg;
            rear_kg += behind_kg;
            // What stands aside of the middle loads the wheel on its side by its lever.
            const auto left = [y = at_mm.y()](double axle_kg, const Known& track_mm) {
                return track_mm ? axle_kg * (0.5 - y / *track_mm) : 0;
            };
            front_left_kg_ += left(ahead_kg, front_track_mm_);
            rear_left_kg_ += left(behind_kg, rear_track_mm_);
        }
        if (wheelbase_mm_) {
            line.front_kg = front_kg;
            line.rear_kg = rear_kg;
            *report_.front.change_kg += front_kg;
            *report_.rear.change_kg += rear_kg;
            front_square_kg2_ += std::pow(share * front_kg, 2);
            rear_square_kg2_ += std::pow(share * rear_kg, 2);
        }
        report_.lines.push_back(std::move(line));
    }
    /// Moment of the wheels about the centreline over all they carry.
    Known aside(const model::CornerLoads& c) const {
        if (!c.front_left_kg || !c.front_right_kg || !c.rear_left_kg || !c.rear_right_kg || !front_track_mm_ ||
            !rear_track_mm_)
            return std::nullopt;
        const double sum_kg = *c.front_left_kg + *c.front_right_kg + *c.rear_left_kg + *c.rear_right_kg;
        if (sum_kg <= 0) return std::nullopt;
        return ((*c.front_right_kg - *c.front_left_kg) * *front_track_mm_ +
                (*c.rear_right_kg - *c.rear_left_kg) * *rear_track_mm_) /
               2 / sum_kg;
    }

    AxleLoadReport& report_;
    Known wheelbase_mm_, front_track_mm_, rear_track_mm_;
    Vector3d moment_kg_mm_{0, 0, 0};
    double front_square_kg2_ = 0, rear_square_kg2_ = 0;
    double front_left_kg_ = 0, rear_left_kg_ = 0; ///< change
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

/// The axle's own figure, or the sum of its wheels'; a reason when the two contradict one another.
struct Bare {
    Known kg;
    std::string reason;
};
Bare bareOf(const Known& axle_kg, const Known& left_kg, const Known& right_kg, const Known& accuracy_kg) {
    if (!left_kg || !right_kg) return {axle_kg, {}};
    const double wheels_kg = *left_kg + *right_kg;
    if (axle_kg && std::abs(*axle_kg - wheels_kg) > accuracy_kg.value_or(0) + 1e-9)
        return {axle_kg, "its wheels weigh " + quantity::fixed(wheels_kg, 1) + " kg together, the axle " +
                             quantity::fixed(*axle_kg, 1) + " kg: weigh again"};
    return {axle_kg ? axle_kg : Known(wheels_kg), {}};
}

void judgeAxle(AxleLoad& axle, const Bare& bare, const Known& limit_kg, const Known& accuracy_kg,
               const AxleLoadReport& report, const Sheet& sheet) {
    const Known& before_kg = bare.kg;
    axle.before_kg = before_kg;
    axle.limit_kg = limit_kg;
    if (accuracy_kg && *accuracy_kg > 0)
        axle.accuracy_kg = std::hypot(*accuracy_kg, std::sqrt(sheet.squareOf(&axle == &report.front)));
    if (!sheet.wheelbase_mm())
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
    axle.verdict = model::judge(*limit_kg - *axle.load_kg, axle.accuracy_kg);
    if (axle.verdict == Verdict::Unknown) axle.reason = "the accuracy of the bare weight is not given";
    if (!report.left_out.empty() && axle.verdict != Verdict::NoGo) {
        axle.verdict = Verdict::Unknown;
        axle.reason = "left out: " + report.left_out.front();
        if (report.left_out.size() > 1) axle.reason += " and " + std::to_string(report.left_out.size() - 1) + " more";
    }
    if (!bare.reason.empty() && axle.verdict != Verdict::NoGo) {
        axle.verdict = Verdict::Unknown;
        axle.reason = bare.reason;
    }
}

/// The middle of a body where it was found, its owner's frame: what it was moved by is a line of its own.
Vector3d foundAt_mm(model::Body body) {
    body.shift_mm.setZero();
    return body.poseOwnerBody() * model::extents_mm(body.shape).center();
}

/// The part that counts and stands for the body: it names it, or is called what it is called; null when there is none.
const model::Part* partOf(const model::Project& project, const model::BodyRef& ref, const std::string& name) {
    for (const model::Part& part : model::partsOf(project))
        if (part.on_car != model::OnCar::No && (part.body == ref.text() || (part.body.empty() && part.name == name)) &&
            model::isTaken(project, part))
            return &part;
    return nullptr;
}

/// Whether a body of the vehicle was made for a mount or a frame: those weigh as their parts.
bool isOfMounts(const model::Project& project, const model::BodyId& id) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return false;
    const auto has = [&id](const std::vector<std::string>& bodies) {
        return std::find(bodies.begin(), bodies.end(), id.text) != bodies.end();
    };
    return std::any_of(mounts->mounts.begin(), mounts->mounts.end(),
                       [&](const model::Mount& m) {
                           return (m.bracket && has(m.bracket->bodies)) || (m.tower && has(m.tower->bodies));
                       }) ||
           std::any_of(mounts->frames.begin(), mounts->frames.end(),
                       [&](const model::SeatFrame& f) { return has(f.bodies); });
}

} // namespace

AxleLoadReport axleLoads(const model::Project& project, const model::RuleBook& book) {
    AxleLoadReport report;
    const auto* its = project.sections.get<model::Weights>();
    const model::Weights weights = its ? *its : model::Weights{};
    Sheet sheet(report, project.vehicle ? &*project.vehicle : nullptr);
    const auto known = [&book](const Known& kg, model::MassFrom from) { return Weighed{kg, shareOf(book, from)}; };

    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const Eigen::Isometry3d pose_vehicle_donor =
        placement && donor ? model::poseVehicleDonor(*placement, *donor) : Eigen::Isometry3d::Identity();

    for (const model::Part& part : model::partsOf(project)) {
        if (part.on_car == model::OnCar::No || !model::isTaken(project, part)) continue;
        const std::optional<Vector3d> at = model::placeVehicle_mm(project, part);
        if (!at && (part.at_mm || !part.body.empty())) {
            sheet.leaveOut(part.name + (model::ridesOnDonor(part) ? " (rides on a donor that does not hang)"
                                                                  : " (its body is not there)"));
            continue;
        }
        sheet.add("part:" + part.id.text, part.name, known(part.mass_kg, part.mass_from), at,
                  part.on_car == model::OnCar::On ? 1 : -1);
    }
    if (donor) {
        const model::Donor& whole = *model::activeDonor(project);
        for (std::size_t i = 0; i < whole.masses.size(); ++i) {
            const model::Mass& mass = whole.masses[i];
            if (mass.off || !model::isTaken(project, whole.id.text, mass.option)) continue;
            sheet.add("mass:" + std::to_string(i), mass.name, known(mass.mass_kg, mass.from),
                      Vector3d(pose_vehicle_donor * mass.at_mm), 1);
        }
        if (donor->masses.empty()) sheet.leaveOut(donor->name + " (no masses)");
    }
    for (std::size_t i = 0; i < weights.loads.size(); ++i)
        if (const model::Mass& load = weights.loads[i]; !load.off)
            sheet.add("load:" + std::to_string(i), load.name, known(load.mass_kg, load.from), load.at_mm, 1);
    const auto addMoves = [&](const std::string& owner, const std::vector<model::Body>& bodies,
                              const Eigen::Isometry3d& pose_vehicle_owner) {
        for (const model::Body& body : bodies) {
            // A panel that is only off for a look still belongs to the vehicle.
            const bool gone = body.standing == model::Standing::Removed || !model::isTaken(project, owner, body.option);
            if (gone || !body.moved()) continue;
            const model::BodyRef ref{owner, body.id};
            // A part that is put on weighs where its body is now.
            if (const model::Part* part = partOf(project, ref, body.name); part && part->on_car == model::OnCar::On)
                continue;
            const Vector3d shift_vehicle_mm = pose_vehicle_owner.linear() * body.shift_mm;
            if (body.mass_kg && *body.mass_kg > 0)
                sheet.addMove("moved:" + ref.text(), body.name, known(body.mass_kg, body.mass_from),
                              pose_vehicle_owner * foundAt_mm(body), shift_vehicle_mm);
            else if (shift_vehicle_mm.x() != 0)
                sheet.leaveOut(body.name + " (moved, no mass)");
        }
    };
    if (project.vehicle)
        for (const model::Body& body : project.vehicle->bodies) {
            const model::BodyRef ref{model::vehicle_owner, body.id};
            if (partOf(project, ref, body.name)) continue;
            const Weighed mass = known(body.mass_kg, body.mass_from);
            if (body.standing == model::Standing::Removed) {
                if (!model::isTaken(project, ref.owner, body.option) || model::isAlternative(project, ref.owner, body))
                    continue; // was never there
                if (mass.kg && *mass.kg > 0)
                    sheet.add("body:" + ref.text(), body.name + " (taken out)", mass, foundAt_mm(body), -1);
                else
                    report.still_counted.push_back(body.name);
                continue;
            }
            if (body.option.empty()) {
                // Room that is kept free weighs nothing; what a mount is made of weighs as its part.
                if (body.standing == model::Standing::Added && body.category != "reserved" &&
                    !isOfMounts(project, body.id))
                    sheet.add("body:" + ref.text(), body.name + " (added)", mass, foundAt_mm(body), 1);
                continue;
            }
            const bool taken = model::isTaken(project, ref.owner, body.option);
            const bool came_with_it = !model::isAlternative(project, ref.owner, body);
            if (taken == came_with_it) continue;
            sheet.add("body:" + ref.text(),
                      body.name + (taken ? " (its option is taken)" : " (its option is not taken)"), mass,
                      foundAt_mm(body), taken ? 1 : -1);
        }
    if (project.vehicle) addMoves(model::vehicle_owner, project.vehicle->bodies, Eigen::Isometry3d::Identity());
    if (donor) addMoves(donor->id.text, donor->bodies, pose_vehicle_donor);

    report.limit_source = weights.limit_source;
    const model::CornerLoads& wheels = weights.corners;
    judgeAxle(report.front,
              bareOf(weights.bare.front_kg, wheels.front_left_kg, wheels.front_right_kg, weights.accuracy_kg),
              weights.limit.front_kg, weights.accuracy_kg, report, sheet);
    judgeAxle(report.rear, bareOf(weights.bare.rear_kg, wheels.rear_left_kg, wheels.rear_right_kg, weights.accuracy_kg),
              weights.limit.rear_kg, weights.accuracy_kg, report, sheet);
    sheet.finish(weights);
    report.verdict = model::worse(report.front.verdict, report.rear.verdict);
    return report;
}

} // namespace gabarit::weights

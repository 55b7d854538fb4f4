// What moves and how it is made to stand: entries and fields of the survey's lists.
#include "fields/described.h"
#include "fields/survey_forms.h"
#include "forms/text.h"
#include "model/edit.h"
#include "model/tape.h"
#include "session/session.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;
using model::MotionKind;
using model::MotionSpec;
using quantity::Dimension;

// Until they are measured: what is usual.
constexpr double usual_bump_mm = 70, usual_droop_mm = 80, usual_lock_deg = 30, usual_rack_mm = 75;
constexpr double usual_hub_mm = 350, usual_arm_inner_mm = 320, usual_arm_tip_mm = 640, usual_pin_mm = 160;

QString kindWords(MotionKind kind) { return tr(describe::said(kind).c_str()); }

model::PointId madePoint(model::Project& project, const std::string& owner, const std::string& name,
                         const Vector3d& at_mm) {
    auto& points = *model::pointsOf(project, owner);
    std::vector<std::string> taken;
    for (const model::HardPoint& p : points) taken.push_back(p.id.text);
    model::HardPoint point;
    point.name = name;
    point.id.text = model::freshId(name, taken);
    point.at_mm = at_mm;
    point.measured.method = model::Method::Assumed;
    points.push_back(point);
    return point.id;
}

/// Points that a motion of this kind turns about and that are not named yet are made where they usually are, assumed:
/// they can then be measured under Points.
void completePoints(model::Project& project, const std::string& owner, MotionSpec& motion) {
    const double axle_x = motion.end == model::End::Rear && project.vehicle && project.vehicle->wheelbase_mm
                              ? *project.vehicle->wheelbase_mm
                              : 0;
    const auto make = [&](model::PointId& id, const QString& what, const Vector3d& at) {
        if (id.empty()) id = madePoint(project, owner, motion.name + ": " + what.toStdString(), at);
    };
    if (motion.kind == MotionKind::Axle) make(motion.at, tr("its middle"), {axle_x, 0, usual_hub_mm});
    if (motion.kind == MotionKind::Arm) {
        make(motion.axis_a, tr("front bush"), {axle_x - 100, -usual_arm_inner_mm, usual_hub_mm});
        make(motion.axis_b, tr("rear bush"), {axle_x + 100, -usual_arm_inner_mm, usual_hub_mm});
        make(motion.at, tr("ball joint"), {axle_x, -usual_arm_tip_mm, usual_hub_mm - 60});
    }
    if (motion.kind == MotionKind::Steered) {
        make(motion.axis_a, tr("pin, lower end"), {axle_x, -usual_arm_tip_mm, usual_hub_mm - usual_pin_mm / 2});
        make(motion.axis_b, tr("pin, upper end"), {axle_x, -usual_arm_tip_mm, usual_hub_mm + usual_pin_mm / 2});
    }
}

class MotionForm {
public:
    MotionForm(Session& session, const std::string& owner, const std::string& id)
        : project_(*session.project()), owner_(owner), all_(model::motionsOf(project_, owner)), motion_(byId(all_, id)),
          edit_(Editing<MotionSpec>(
                    session, [owner, id](model::Project& p) { return byId(model::motionsOf(p, owner), id); },
                    motion_ ? q(motion_->name).toLower() : QString())
                    .also([owner, id](model::Project& p) {
                        if (MotionSpec* its = byId(model::motionsOf(p, owner), id)) completePoints(p, owner, *its);
                    })) {}

    std::vector<Field> fields() {
        if (!motion_) return {};
        const MotionKind kind = motion_->kind;
        describedFields(out_, edit_, *motion_, {}, owner_);
        Field note = std::move(out_.back());
        out_.pop_back();
        if (owner_ != model::vehicle_owner)
            chosenFrom(out_, QStringLiteral("kind"),
                       {{QLatin1String(describe::inFile(MotionKind::Spin)), kindWords(MotionKind::Spin)}});
        if (kind == MotionKind::Axle) links();
        if (kind == MotionKind::Arm)
            chosenFrom(out_, QStringLiteral("with"), others(tr("has its own travel"), {MotionKind::Arm}));
        if (kind == MotionKind::Steered || kind == MotionKind::Linkage)
            chosenFrom(out_, QStringLiteral("on"), others(tr("the frame"), {MotionKind::Axle, MotionKind::Arm}));
        if (kind == MotionKind::Spin)
            out_.push_back(fields::remark(QStringLiteral("spin_remark"),
                                          tr("It counts as the round room it sweeps. A cylinder needs no points.")));
        bodies("bodies", kind == MotionKind::Arm ? tr("Swings with it") : tr("Moves with it"), &MotionSpec::bodies);
        if (kind == MotionKind::Arm) bodies("carried", tr("Rides on its tip, upright"), &MotionSpec::carried);
        for (Field& field :
             provenanceFields(edit_.session(), motion_->measured,
                              edit_.named(tr("How it was measured")).set([](MotionSpec&s, const model::Provenance&v) {
                                  s.measured = v;
                              })))
            out_.push_back(std::move(field));
        out_.push_back(std::move(note));
        return std::move(out_);
    }

private:
    /// Others of its owner that may carry it or take it along.
    Choices others(const QString& nothing, std::initializer_list<MotionKind> kinds) const {
        Choices out{{QString(), nothing}};
        for (const MotionSpec& other : *all_)
            if (other.id != motion_->id && other.with.empty() &&
                std::find(kinds.begin(), kinds.end(), other.kind) != kinds.end())
                out.emplace_back(q(other.id), q(other.name));
        return out;
    }

    void links() {
        out_.push_back(fields::heading(tr("Led by, on one side")));
        for (std::size_t i = 0; i < 2 && i <= motion_->links.size(); ++i) link(i);
        out_.push_back(fields::remark(QStringLiteral("links_remark"),
                                      tr("A leaf spring, or one or two arms in the side view. With two the pinion tips "
                                         "as the axle rises; with none it goes straight up.")));
    }

    void link(std::size_t i) {
        const bool there = i < motion_->links.size();
        Choices points{{QString(), tr("none")}};
        for (const model::HardPoint& p : *model::pointsOf(project_, owner_))
            points.emplace_back(q(p.id.text), q(p.name));
        const auto end = [&](const char* name, const QString& label, model::PointId model::MotionLink::*member) {
            out_.push_back(
                fields::choice(QStringLiteral("%1_%2").arg(QLatin1String(name)).arg(i), label, points,
                               there ? (motion_->links[i].*member).text : std::string(),
                               edit_.named(tr("Led by")).set([i, member](MotionSpec& s, const std::string& v) {
                                   if (i >= s.links.size()) {
                                       if (v.empty()) return;
                                       s.links.resize(i + 1);
                                       // Both ends must be there: the other one begins at the same point.
                                       s.links[i].fixed.text = s.links[i].moving.text = v;
                                   }
                                   (s.links[i].*member).text = v;
                                   if (v.empty()) s.links.erase(s.links.begin() + static_cast<std::ptrdiff_t>(i));
                               })));
        };
        end("link_fixed", i == 0 ? tr("Link, on the frame") : tr("Second, on the frame"), &model::MotionLink::fixed);
        end("link_moving", i == 0 ? tr("Link, on the axle") : tr("Second, on the axle"), &model::MotionLink::moving);
        if (there)
            out_.push_back(fields::flag(QStringLiteral("leaf_%1").arg(i), tr("is a leaf spring (eye and seat)"),
                                        motion_->links[i].leaf,
                                        edit_.named(tr("Led by")).set([i](MotionSpec& s, bool on) {
                                            if (i < s.links.size()) s.links[i].leaf = on;
                                        })));
    }

    void bodies(const char* name, const QString& title, std::vector<model::BodyId> MotionSpec::*member) {
        out_.push_back(fields::heading(title));
        for (const model::BodyId& id : motion_->*member) {
            const model::Body* body = model::findBody(project_, {owner_, id});
            out_.push_back(fields::flag(QStringLiteral("%1:%2").arg(QLatin1String(name), q(id.text)),
                                        q(body ? body->name : id.text), true,
                                        edit_.named(title).set([id, member](MotionSpec& s, bool on) {
                                            auto& list = s.*member;
                                            if (!on) list.erase(std::remove(list.begin(), list.end(), id), list.end());
                                        })));
        }
        // What another motion moves already cannot be moved by this one too.
        Choices rest{{QString(), tr("choose a body")}};
        const auto taken = [&](const model::BodyId& id) {
            for (const MotionSpec& other : *all_) {
                if (motion_->kind == MotionKind::Spin && other.id != motion_->id) continue;
                for (const auto* list : {&other.bodies, &other.carried})
                    if (std::find(list->begin(), list->end(), id) != list->end()) return true;
            }
            return false;
        };
        for (const model::Body& body : *model::bodiesOf(project_, owner_))
            if (!taken(body.id)) rest.emplace_back(q(body.id.text), q(body.name));
        out_.push_back(fields::choice(QStringLiteral("add_%1").arg(QLatin1String(name)), tr("and"), rest, "",
                                      edit_.named(title).set([member](MotionSpec& s, const std::string& v) {
                                          if (!v.empty()) (s.*member).push_back({v});
                                      })));
    }

    model::Project project_;
    std::string owner_;
    std::vector<MotionSpec>* all_; ///< of its owner
    MotionSpec* motion_;
    Editing<MotionSpec> edit_;
    std::vector<Field> out_;
};

std::vector<Field> stanceFields(Session& session, const std::string& id) {
    const model::Project& project = *session.project();
    const model::Stance* stance = project.vehicle ? byId(project.vehicle->stances, id) : nullptr;
    if (!stance) return {};
    std::vector<Field> out;
    describedFields(out,
                    Editing<model::Stance>(
                        session, [id](model::Project& p) { return p.vehicle ? byId(p.vehicle->stances, id) : nullptr; },
                        q(stance->name)),
                    *stance);
    out.push_back(
        fields::remark(QStringLiteral("stance_remark"),
                       tr("From ride height, above zero into the springs. Ride height, the new load and the bump "
                          "stops are looked at without being asked. Blocks carry a vehicle only on its structure: "
                          "nobody under it.")));
    return out;
}

} // namespace

std::vector<SurveyEntry> motionEntries(const model::Project& original, const std::string& owner, SurveyKind kind) {
    model::Project project = original;
    std::vector<SurveyEntry> out;
    if (kind == SurveyKind::Stances) {
        if (owner == model::vehicle_owner && project.vehicle)
            for (const model::Stance& stance : project.vehicle->stances) out.push_back({q(stance.id), q(stance.name)});
        return out;
    }
    if (const auto* motions = model::motionsOf(project, owner))
        for (const MotionSpec& motion : *motions) {
            QString words = tr("%1 · %2").arg(q(motion.name), kindWords(motion.kind));
            if (motion.bodies.empty() && motion.carried.empty()) words += tr(" · moves nothing");
            if (motion.measured.method == model::Method::Assumed) words += tr(" · assumed");
            out.push_back({q(motion.id), words});
        }
    return out;
}

std::vector<Field> motionFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key) {
    if (kind == SurveyKind::Stances) return stanceFields(session, key.toStdString());
    return MotionForm(session, owner, key.toStdString()).fields();
}

Result<model::Project> withMotionEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                                       QString& key) {
    model::Project project = original;
    const auto fresh = [&key](const std::string& name, const auto& items) {
        std::vector<std::string> taken;
        for (const auto& item : items) taken.push_back(item.id);
        const std::string id = model::freshId(name, taken);
        key = q(id);
        return id;
    };
    if (kind == SurveyKind::Stances) {
        if (!project.vehicle || owner != model::vehicle_owner)
            return Error{"only a vehicle stands on springs", owner, "choose the vehicle above"};
        model::Stance stance;
        stance.name = tr("On blocks").toStdString();
        stance.id = fresh(stance.name, project.vehicle->stances);
        project.vehicle->stances.push_back(std::move(stance));
        return project;
    }
    auto* motions = model::motionsOf(project, owner);
    if (!motions) return Error{"there is nothing to put it in", owner, "make the vehicle or the donor first"};
    MotionSpec motion;
    const bool donor = owner != model::vehicle_owner;
    const bool first =
        std::none_of(motions->begin(), motions->end(), [](const MotionSpec& m) { return m.end == model::End::Front; });
    motion.kind = donor ? MotionKind::Spin : MotionKind::Axle;
    motion.name = (donor ? tr("What spins") : first ? tr("Front axle") : tr("Rear axle")).toStdString();
    motion.end = donor ? model::End::NotSaid : first ? model::End::Front : model::End::Rear;
    motion.id = fresh(motion.name, *motions);
    motion.measured.method = model::Method::Assumed;
    if (!donor) {
        motion.bump_mm = usual_bump_mm;
        motion.droop_mm = usual_droop_mm;
        motion.left_deg = motion.right_deg = usual_lock_deg;
        motion.slide_mm = {0, usual_rack_mm, 0};
    }
    completePoints(project, owner, motion);
    model::motionsOf(project, owner)->push_back(std::move(motion));
    return project;
}

model::Project withoutMotionEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                                  const QString& key) {
    model::Project project = original;
    const auto drop = [&](auto& items) {
        items.erase(std::remove_if(items.begin(), items.end(), [&](const auto& i) { return q(i.id) == key; }),
                    items.end());
    };
    if (kind == SurveyKind::Stances) {
        if (project.vehicle) drop(project.vehicle->stances);
        return project;
    }
    if (auto* motions = model::motionsOf(project, owner)) {
        drop(*motions);
        // What sat on it sits on the frame now, what went with it has its own travel.
        for (MotionSpec& motion : *motions) {
            if (q(motion.on) == key) motion.on.clear();
            if (q(motion.with) == key) motion.with.clear();
        }
    }
    return project;
}

} // namespace gabarit::app

#include "stages/relief/relief_stage.h"

#include "fields/editing.h"
#include "make/pocket_proposal.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "relief/apply.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "stages/relief/relief_fields.h"
#include "stages/relief/relief_view.h"
#include "store/rule_book.h"

#include <QMenu>

#include <algorithm>

namespace gabarit::app {
namespace {

std::vector<std::string> allIds(const model::Relief& relief) {
    std::vector<std::string> out;
    idsInto(out, relief.pockets);
    idsInto(out, relief.tubes);
    idsInto(out, relief.plates);
    idsInto(out, relief.holes);
    return out;
}

QString percent(double share) { return QString::number(share * 100, 'f', 0) + QStringLiteral(" %"); }

} // namespace

ReliefStage::ReliefStage(Session& session, QWidget* parent)
    : DisciplineStage(session, {tr("Pockets, tubes and plates"), tr("add to the relief"), 170, 322, 232, {"relief"}},
                      parent),
      view_(new ReliefView(this)) {
    setDrawing(view_);
    connect(view_, &ReliefView::dragged, this, [this](const model::Pocket& pocket) {
        session_.edit(tr("drag the pocket"), relief::withPocket(*session_.project(), book(), pocket));
    });
}

const StagePlug& reliefStage() {
    static const StagePlug plug{"relief",
                                StageGroup::Place,
                                30,
                                [] { return ReliefStage::tr("Pockets"); },
                                {"relief"},
                                [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new ReliefStage(session, parent); }};
    return plug;
}

QString ReliefStage::quietWords(const study::Reports& reports) const {
    return reports.of<relief::ReliefReport>() ? QString() : tr("none cut");
}

std::vector<StageItem> ReliefStage::items(const model::Project& project, const study::Reports* reports) const {
    std::vector<StageItem> out;
    const auto* relief = project.sections.get<model::Relief>();
    if (!relief) return out;
    const auto* report = reports ? reports->of<relief::ReliefReport>() : nullptr;
    const auto list = [&](const char* kind, const auto& items, bool judged) {
        for (const auto& item : items) {
            StageItem made{QLatin1String(kind) + q(item.id), q(item.name), {}};
            if (report && judged)
                made.verdict = worstAbout(
                    report->checks, [&](const model::Check& check) { return check.id.rfind(item.id + "/", 0) == 0; });
            out.push_back(std::move(made));
        }
    };
    list("pocket:", relief->pockets, true);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const model::Pocket& pocket = relief->pockets[i];
        const model::Body* body = model::findBody(project, {model::vehicle_owner, pocket.body});
        const bool elsewhere = body && !model::isTaken(project, model::vehicle_owner, body->option);
        if (elsewhere) out[i].words += tr("\nanother form is taken");
        if (elsewhere || pocket.set_aside) out[i].verdict.reset();
    }
    list("tube:", relief->tubes, true);
    list("plate:", relief->plates, true);
    list("hole:", relief->holes, false);
    return out;
}

std::vector<Field> ReliefStage::fieldsOf(const QString& key) { return reliefFields(session_, key); }

void ReliefStage::draw(const QString& key) { view_->show(session_.reports(), key, session_.shown()); }

void ReliefStage::tell(const QString& chosen, const study::Reports& reports) {
    const auto* report = reports.of<relief::ReliefReport>();
    if (!report || chosen.isEmpty()) return;
    const std::string id = idOf(chosen);
    const quantity::Shown& shown = session_.shown();
    const auto length = [&shown](double mm) { return q(quantity::lengthText(mm, shown)); };
    QString name;
    QStringList text;
    if (const auto* p = byId(report->pockets, id); p && isOf(chosen, "pocket")) {
        name = q(p->name);
        if (p->reason.empty()) {
            text << tr("%1 out, %2 in.")
                        .arg(q(quantity::massText(p->cut_kg, shown, 2)), q(quantity::massText(p->plates_kg, shown, 2)));
            const auto cell = [this](bool closed) { return closed ? tr("closed") : tr("open"); };
            text << tr("Section %1 before, %2 while cut, %3 after.")
                        .arg(cell(p->cell_before), cell(p->cell_cut), cell(p->cell_closed));
            if (!p->strength.what.empty())
                text << tr("Weakest: %1, %2 of what it was; cut and not closed %3.")
                            .arg(q(p->strength.what), percent(p->strength.share), percent(p->cut_strength.share));
            if (p->axis_shift_mm > 0.05) text << tr("Its middle goes by up to %1.").arg(length(p->axis_shift_mm));
            if (p->weld_pull_mm > 0)
                text << tr("Welding may pull it by %1 and draw the metal beside the seam in by %2: measure again "
                           "before paint.")
                            .arg(length(p->weld_pull_mm), length(p->shrink_mm));
        }
        mind(caution("relief/cut") + QLatin1Char(' ') + caution("relief/work"));
    } else if (const auto* tube = byId(report->tubes, id); tube && tube->made && isOf(chosen, "tube")) {
        name = q(tube->name);
        text << tr("%1 from long point to long point, %2 between its short ones; ends turned %3 against one "
                   "another. %4.")
                    .arg(length(tube->made->long_points_mm), length(tube->made->short_points_mm),
                         q(quantity::angleText(tube->made->turn_deg, 1)),
                         q(quantity::massText(tube->made->mass_kg, shown, 2)));
        text << tr("Templates wrap round its outside: start line on the mark on top.");
    } else if (const auto* plate = byId(report->plates, id); plate && plate->made && isOf(chosen, "plate")) {
        name = q(plate->name);
        text << tr("%1, %2.").arg(length(plate->made->pattern.thickness_mm),
                                  q(quantity::massText(plate->made->mass_kg, shown, 2)));
        if (plate->made->bolt_mm) text << tr("Bolts %1 under the head.").arg(length(*plate->made->bolt_mm));
    }
    say(text);
    for (const model::Check& check : report->checks)
        if (check.id.rfind(id + "/", 0) == 0) put(check, name);
}

void ReliefStage::fillMenu() {
    newMenu()->clear();
    const auto item = [this](const QString& name, const QString& text, auto act) {
        QAction* action = newMenu()->addAction(text);
        action->setObjectName(name);
        connect(action, &QAction::triggered, this, act);
    };
    const auto reports = session_.reports();
    if (!session_.hasProject()) return;
    if (reports && session_.project()->vehicle)
        for (const model::Body& body : session_.project()->vehicle->bodies) {
            if (!body.may.be_cut || body.may.never) continue;
            const auto intruders = make::intrudersOf(*reports, body.id);
            if (intruders.empty()) continue;
            const model::Body* first = model::findBody(*session_.project(), intruders.front());
            item(QStringLiteral("for:") + q(body.id.text),
                 tr("Pocket in %1 for %2").arg(q(body.name).toLower(), first ? q(first->name).toLower() : QString()),
                 [this, id = body.id.text] { propose(id); });
        }
    if (reports && session_.project()->vehicle)
        for (const model::Body& body : session_.project()->vehicle->bodies) {
            const auto intruders = make::intrudersOf(*reports, body.id);
            const auto mine = std::find_if(intruders.begin(), intruders.end(),
                                           [](const model::BodyRef& ref) { return !ref.inVehicle(); });
            const model::Body* its = mine == intruders.end() ? nullptr : model::findBody(*session_.project(), *mine);
            if (!its || !body.may.be_cut) continue;
            item(QStringLiteral("ways:") + q(body.id.text),
                 tr("Ways out side by side: %1 and %2").arg(q(its->name).toLower(), q(body.name).toLower()),
                 [this, id = body.id.text] { compareWays(id); });
        }
    item(QStringLiteral("pocket"), tr("Pocket by hand"), [this] { addNew(QStringLiteral("pocket")); });
    item(QStringLiteral("tube"), tr("Tube cut to fit"), [this] { addNew(QStringLiteral("tube")); });
    item(QStringLiteral("plate"), tr("Plate with a hole pattern"), [this] { addNew(QStringLiteral("plate")); });
    item(QStringLiteral("hole"), tr("Hole or seam to keep"), [this] { addNew(QStringLiteral("hole")); });
}

void ReliefStage::advise(const QString& chosen) {
    const auto reports = session_.reports();
    if (!isOf(chosen, "pocket") || !reports || !reports->of<relief::ReliefReport>()) return;
    const std::string id = idOf(chosen);
    const relief::PocketReport* report = byId(reports->of<relief::ReliefReport>()->pockets, id);
    const auto* relief = session_.project()->sections.get<model::Relief>();
    const model::Pocket* pocket = relief ? byId(relief->pockets, id) : nullptr;
    if (!report || !pocket) return;
    const double wanted = book().figure("section_wanted_share");
    if (report->reason.empty() && report->strength.share < wanted && report->restoring) {
        const double plate = report->restoring->plate_mm, strap = report->restoring->strap_mm;
        const auto length = [this](double mm) { return q(quantity::lengthText(mm, session_.shown())); };
        help(QStringLiteral("restore"),
             strap > 0 ? tr("Close it with plate of %1 and a strap of %2 on the far face: the section is "
                            "back")
                             .arg(length(plate), length(strap))
                       : tr("Close it with plate of %1: the section is back").arg(length(plate)),
             [this, id, plate, strap] {
                 const auto* its = session_.project()->sections.get<model::Relief>();
                 const model::Pocket* now = its ? byId(its->pockets, id) : nullptr;
                 if (!now) return;
                 model::Pocket next = *now;
                 next.plate_mm = plate;
                 next.doubler_mm = strap;
                 if (strap > 0 && next.doubler_over_mm <= 0) next.doubler_over_mm = book().figure("strap_over_mm");
                 session_.edit(tr("restore the section"), relief::withPocket(*session_.project(), book(), next));
             });
    }
    help(QStringLiteral("aside"),
         pocket->set_aside ? tr("Count it again") : tr("Set it aside: see the gaps without it"), [this, id] {
             model::Project changed = *session_.project();
             if (model::Pocket* its = byId(changed.sections.edit<model::Relief>().pockets, id))
                 its->set_aside = !its->set_aside;
             session_.change(tr("set a pocket aside or count it"), std::move(changed));
         });
    bool next = report->reason.empty() && !pocket->set_aside;
    for (const model::HoldState& hold : report->holds) {
        const QString what = q(describe::said(hold.hold));
        if (hold.signed_off) {
            QStringList changed;
            for (const std::string& c : hold.changed) changed << q(c);
            remark(changed.isEmpty() ? tr("Signed: %1 %2 %3").arg(what, q(hold.date), q(hold.who))
                                     : tr("Open again: %1. %2.").arg(what, changed.join(QStringLiteral("; "))));
        }
        if (hold.holds || !next) continue;
        next = false;
        askWho();
        help(QStringLiteral("sign:%1").arg(static_cast<int>(hold.hold)), tr("Sign: %1").arg(what),
             [this, id, step = hold.hold, what] {
                 take(relief::withSigned(*session_.project(), id, step, today().toStdString(), who(), ""),
                      tr("sign: %1").arg(what));
             });
    }
}

void ReliefStage::propose(const std::string& body) { lookFor("propose-pocket", {body}); }

void ReliefStage::compareWays(const std::string& body) {
    const auto reports = session_.reports();
    if (!reports) return;
    for (const model::BodyRef& ref : make::intrudersOf(*reports, {body}))
        if (!ref.inVehicle()) return lookFor("ways", {ref.text(), model::BodyRef{model::vehicle_owner, {body}}.text()});
}

QString ReliefStage::add(const QString& kind, model::Project& changed) {
    model::Relief& relief = changed.sections.edit<model::Relief>();
    const std::vector<std::string> taken = allIds(relief);
    QString made = kind;
    const auto keep = [&](auto& list, auto item, const std::string& name) {
        item.name = name;
        item.id = model::freshId(name, taken);
        made += QLatin1Char(':') + q(item.id);
        list.push_back(std::move(item));
    };
    // The first body that may be cut, else the first.
    const model::Body* body = nullptr;
    if (changed.vehicle)
        for (const model::Body& b : changed.vehicle->bodies)
            if (!body || (b.may.be_cut && !body->may.be_cut)) body = &b;
    if (kind == QLatin1String("pocket")) {
        if (!body) {
            emit session_.notice(tr("There is no body to cut: survey the vehicle first."), true);
            return {};
        }
        const model::RuleBook rules = book();
        model::Pocket pocket;
        pocket.body = body->id;
        const Eigen::AlignedBox3d box = model::extents_mm(body->shape);
        pocket.at_mm = {box.center().x(), box.center().y(), box.max().z()};
        if (const auto* profile = std::get_if<model::ProfileSpec>(&body->shape))
            pocket.along = (profile->to_mm - profile->from_mm).normalized();
        if (std::abs(pocket.along.normalized().z()) > 0.9) { // an upright one is cut from its front
            pocket.into = {1, 0, 0};
            pocket.at_mm = {box.min().x(), box.center().y(), box.center().z()};
        }
        pocket.length_mm = 100;
        pocket.width_mm = 50;
        pocket.depth_mm = 20;
        pocket.flank_deg = rules.figure("pocket_flank_deg");
        pocket.corner_mm = rules.figure("pocket_corner_mm");
        pocket.plate_mm = rules.figure("pocket_plate_mm");
        keep(relief.pockets, std::move(pocket), "Pocket");
    } else if (kind == QLatin1String("tube")) {
        model::CutTube tube;
        tube.diameter_mm = 42;
        tube.wall_mm = 3;
        tube.length_mm = 400;
        keep(relief.tubes, std::move(tube), "Tube");
    } else if (kind == QLatin1String("plate")) {
        model::PatternPlate plate;
        plate.holes = {{"bore", {0, 0}, 30, false, {}}};
        keep(relief.plates, std::move(plate), "Plate");
    } else if (kind == QLatin1String("hole")) {
        model::KeptHole hole;
        if (body) hole.body = body->id;
        hole.diameter_mm = 12;
        keep(relief.holes, std::move(hole), "Drain hole");
    }
    return made;
}

Result<model::Project> ReliefStage::without(const QString& key, model::Project project) const {
    const std::string id = idOf(key);
    if (isOf(key, "pocket")) return relief::withoutPocket(project, id);
    auto* relief = project.sections.own<model::Relief>();
    if (!relief) return project;
    if (isOf(key, "tube")) dropId(relief->tubes, id);
    if (isOf(key, "plate")) dropId(relief->plates, id);
    if (isOf(key, "hole")) dropId(relief->holes, id);
    return project;
}

} // namespace gabarit::app

#include "moc_relief_stage.cpp"
#include "model/describe.h"

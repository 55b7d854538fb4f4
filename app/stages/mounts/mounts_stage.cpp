#include "stages/mounts/mounts_stage.h"

#include "discipline/check_words.h"
#include "fields/editing.h"
#include "fit/fit_report.h"
#include "forms/elided_combo.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "stages/mounts/mounts_fields.h"
#include "stages/mounts/mounts_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include <algorithm>

namespace gabarit::app {
namespace {

using mounts::Which;

/// Which checks speak of a thing: those whose ids begin with its id.
bool speaksOf(const model::Check& check, const std::string& id) { return check.id.rfind(id + "/", 0) == 0; }
bool speaksOfUnit(const model::Check& check) {
    return check.id.rfind("mode", 0) == 0 || check.id == "second-order" || check.id == "layout";
}

std::vector<std::string> allIds(const model::Mounts& m) {
    std::vector<std::string> out;
    idsInto(out, m.mounts);
    idsInto(out, m.crossmembers);
    idsInto(out, m.frames);
    idsInto(out, m.old_mounts);
    idsInto(out, m.rows);
    idsInto(out, m.seats);
    idsInto(out, m.isolators);
    return out;
}

} // namespace

MountsStage::MountsStage(Session& session, QWidget* parent)
    : DisciplineStage(session,
                      {tr("Mounts, crossmembers, frames, seats"), tr("add to the mounts"), 170, 322, 214, {"mounts"}},
                      parent),
      view_(new MountsView(this)), look_(new ElidedCombo(this)), play_(new QPushButton(tr("Play"), this)) {
    look_->setObjectName(QStringLiteral("look"));
    look_->setAccessibleName(tr("Load or way of shaking"));
    look_->setMinimumHeight(target_px);
    look_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    play_->setObjectName(QStringLiteral("play"));
    play_->setMinimumHeight(target_px);
    play_->setCheckable(true);
    auto* tools = new QHBoxLayout;
    auto* name = new QLabel(tr("Show"), this);
    name->setBuddy(look_);
    tools->addWidget(name);
    tools->addWidget(look_, 1);
    tools->addWidget(play_);
    setDrawing(view_, tools);
    addKind("mount", tr("Mount"));
    addKind("crossmember", tr("Crossmember under the gearbox"));
    addKind("row", tr("Row of holes along a rail"));
    addKind("seat", tr("Seat of the old engine"));
    addKind("frame", tr("Frame on seats"));
    addKind("old", tr("Old mount"));
    addKind("isolator", tr("Isolator of your own"));
    mirror_ = addButton("mirror", tr("Mirror to the other side"), [this] { mirror(); });

    connect(look_, &QComboBox::currentIndexChanged, this, [this] {
        if (filling_) return;
        play_->setChecked(false);
        refresh();
    });
    connect(play_, &QPushButton::toggled, this, [this](bool on) {
        view_->play(on);
        play_->setText(on ? tr("Stop") : tr("Play"));
    });
}

const StagePlug& mountsStage() {
    static const StagePlug plug{"mounts",
                                StageGroup::HoldAndDrive,
                                10,
                                [] { return MountsStage::tr("Mounts"); },
                                {"mounts"},
                                [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new MountsStage(session, parent); }};
    return plug;
}

std::vector<StageItem> MountsStage::items(const model::Project& project, const study::Reports* reports) const {
    std::vector<StageItem> out;
    const auto* its = project.sections.get<model::Mounts>();
    if (!its) return out;
    const model::Mounts& m = *its;
    const auto* report = reports ? reports->of<mounts::MountsReport>() : nullptr;
    const bool usable = report && report->usable;
    const auto verdictOf = [&](const std::string& id) -> std::optional<model::Verdict> {
        if (!usable) return std::nullopt;
        return worstAbout(report->checks, [&](const model::Check& check) { return speaksOf(check, id); });
    };
    const auto list = [&](const char* kind, const auto& items, bool judged) {
        for (const auto& item : items)
            out.push_back({QLatin1String(kind) + q(item.id), q(item.name),
                           judged ? verdictOf(item.id) : std::optional<model::Verdict>()});
    };
    StageItem unit{QStringLiteral("unit"), tr("The unit, how it shakes"), {}};
    if (usable) unit.verdict = worstAbout(report->checks, speaksOfUnit);
    out.push_back(std::move(unit));
    list("mount:", m.mounts, true);
    list("crossmember:", m.crossmembers, true);
    list("frame:", m.frames, true);
    list("old:", m.old_mounts, false);
    for (std::size_t i = 0; i < m.old_mounts.size(); ++i) {
        const char* const states[] = {"stays", "planned to go", "gone"};
        out[out.size() - m.old_mounts.size() + i].words +=
            QLatin1Char('\n') + tr(states[static_cast<int>(m.old_mounts[i].state)]);
    }
    list("row:", m.rows, false);
    list("seat:", m.seats, false);
    list("isolator:", m.isolators, false);
    return out;
}

void MountsStage::lookAt(const QString& what) {
    wanted_look_ = what;
    refresh();
}

bool MountsStage::leadTo(const QString& finding) {
    if (!DisciplineStage::leadTo(finding)) choose(QStringLiteral("unit")); // there is no thing of its own
    return true;
}

void MountsStage::turnTo(const QString& what) {
    choose(what.section(QLatin1Char(';'), 0, 0));
    lookAt(what.section(QLatin1Char(';'), 1));
}

bool MountsStage::deletable(const QString& key) const { return !key.isEmpty() && key != QLatin1String("unit"); }

std::vector<Field> MountsStage::fieldsOf(const QString& key) { return mountsFields(session_, key); }

void MountsStage::fillLook() {
    const QString before = wanted_look_.isEmpty() ? look_->currentData().toString() : wanted_look_;
    look_->clear();
    const auto reports = session_.reports();
    if (reports && reports->of<mounts::MountsReport>()) {
        for (const mounts::LoadCase& load : reports->of<mounts::MountsReport>()->cases)
            look_->addItem(q(load.name), QStringLiteral("case:") + q(load.id));
        if (reports->of<mounts::MountsReport>()->modes)
            for (std::size_t i = 0; i < reports->of<mounts::MountsReport>()->modes->size(); ++i) {
                const mounts::Mode& mode = (*reports->of<mounts::MountsReport>()->modes)[i];
                look_->addItem(
                    tr("Shakes in %1, %2 Hz, %3 % by itself")
                        .arg(QLatin1String(mounts::word(mode.of)), QString::number(mode.frequency_hz, 'f', 1))
                        .arg(qRound(mode.decoupled * 100)),
                    QStringLiteral("mode:%1").arg(i + 1));
            }
    }
    if (const int again = look_->findData(before); again >= 0) {
        look_->setCurrentIndex(again);
        wanted_look_.clear();
    }
}

void MountsStage::draw(const QString& chosen) {
    filling_ = true;
    fillLook();
    filling_ = false;
    const QString what = look_->currentData().toString();
    view_->show(session_.reports(), what, chosen, session_.shown());
    play_->setEnabled(what.startsWith(QLatin1String("mode:")));
    if (!play_->isEnabled()) play_->setChecked(false);
    mirror_->setEnabled(isOf(chosen, "mount"));
}

void MountsStage::tell(const QString& chosen, const study::Reports& reports) {
    if (isOf(chosen, "old")) mind(caution("mounts/weld"));
    const auto* report = reports.of<mounts::MountsReport>();
    if (!report) return;
    const std::string id = idOf(chosen);
    const quantity::Shown shown = session_.shown();
    QString mountName; // it stands in the list already
    for (const mounts::MountReport& m : report->mounts)
        if (m.id == id) mountName = q(m.name);
    const bool unit = chosen == QLatin1String("unit");
    for (const model::Check& check : report->checks)
        if (unit ? speaksOfUnit(check) : speaksOf(check, id)) put(check, mountName);
    QStringList text;
    if (unit && report->usable) {
        text << tr("%1 on %2 mounts, %3.")
                    .arg(q(quantity::massText(report->unit.body.mass_kg, shown, 1)))
                    .arg(report->mounts.size())
                    .arg(report->determinate ? tr("loads by statics") : tr("loads shared by their rates"));
        text << tr("Inertia: %1.").arg(q(report->unit.source));
        if (report->firing_hz) text << tr("It fires at %1 Hz at idle.").arg(*report->firing_hz, 0, 'f', 1);
        if (report->rocking)
            text << tr("Driving it rolls by %1, goes up by %2, down by %3, fore and aft by %4.")
                        .arg(q(quantity::angleText(report->rocking->roll_deg, 2)),
                             q(quantity::lengthText(report->rocking->up_mm, shown)),
                             q(quantity::lengthText(report->rocking->down_mm, shown)),
                             q(quantity::lengthText(report->rocking->along_mm, shown)));
        if (const model::Placement* placement = model::activePlacement(*reports.project);
            placement && placement->rocking.any())
            text << tr("The gaps are held by the movement given by hand in this placement (Place, Set-up); empty it "
                       "there and they follow the mounts.");
        if (report->weld_pull_mm > 0)
            text << tr("%1 more is wanted in each gap until every own mount is fitted again after welding.")
                        .arg(q(quantity::lengthText(report->weld_pull_mm, shown)));
        for (const mounts::HandedPair& pair : report->handed) {
            const auto nameOf = [&](const std::string& which) {
                for (const mounts::MountReport& m : report->mounts)
                    if (m.id == which) return q(m.name);
                return q(which);
            };
            text << (pair.same_part
                         ? tr("%1 and %2: one part serves both.").arg(nameOf(pair.left), nameOf(pair.right))
                         : tr("%1 and %2 are handed: %3.").arg(nameOf(pair.left), nameOf(pair.right), q(pair.why)));
        }
        mind(caution("mounts/hang"));
    }
    for (const mounts::MountReport& m : report->mounts)
        if (chosen == QStringLiteral("mount:") + q(m.id)) {
            const auto force = [&](const std::optional<double>& n) {
                return n ? q(discipline::forceText(*n, shown)) : tr("not known");
            };
            const QString rubber = m.isolator.empty() ? tr("No isolator chosen") : q(m.isolator),
                          leans = q(mounts::leanWords(mounts::leanOf(m.axes.col(2), m.at_mm.y())));
            if (!report->usable) // what it bears is not known; the drawing says why
                text << tr("%1, %2.").arg(rubber, leans);
            else
                text << tr("%1, %2; at rest %3 along it and %4 across it, pressed in by %5.")
                            .arg(rubber, leans, force(m.rest_n), force(m.rest_shear_n),
                                 m.rest_mm ? q(quantity::lengthText(*m.rest_mm, shown)) : tr("not known"));
            for (const mounts::BoltReport& b : report->bolts)
                if (b.mount == m.id && (b.torque_nm || b.least_length_mm)) {
                    QString bolts = tr("Bolts of its %1:").arg(q(b.face));
                    if (b.least_length_mm)
                        bolts += tr(" %1 to %2 long would do")
                                     .arg(q(quantity::lengthText(*b.least_length_mm, shown)),
                                          b.most_length_mm ? q(quantity::lengthText(*b.most_length_mm, shown))
                                                           : tr("not known"));
                    if (b.torque_nm)
                        bolts += (b.least_length_mm ? tr(", tighten to %1") : tr(" tighten to %1"))
                                     .arg(q(quantity::torqueText(*b.torque_nm, shown)));
                    text << bolts + QLatin1Char('.');
                }
            for (const mounts::BracketReport& b : report->brackets)
                if (b.mount == m.id && b.made) {
                    QString made = tr("%1: ").arg(b.which == Which::Bracket ? tr("Bracket") : tr("Tower"));
                    for (const mounts::Piece& piece : b.made->pieces)
                        made += q(piece.name) + QLatin1Char(' ') + q(quantity::lengthText(piece.cut_mm, shown)) +
                                QStringLiteral(", ");
                    made += q(quantity::massText(b.made->mass_kg, shown, 2));
                    if (b.factor)
                        made += tr("; %1 axial, %2 bending, %3 shear N/mm² (%4)")
                                    .arg(qRound(b.stress.axial_mpa))
                                    .arg(qRound(b.stress.bending_mpa))
                                    .arg(qRound(b.stress.shear_mpa))
                                    .arg(q(b.worst_case).toLower());
                    text << made + QLatin1Char('.');
                }
            for (const fit::ToolAccess& access : reports.with<fit::FitReport>().access)
                if (access.id.rfind("mount:" + m.id + ":", 0) == 0 && access.verdict != model::Verdict::Go) {
                    QStringList names;
                    for (const fit::Blocker& blocker : access.blockers) names << q(blocker.name).toLower();
                    text << tr("%1: %2 in the way.").arg(q(access.name), names.join(tr(" and ")));
                }
            mind(caution("mounts/weld"));
        }
    for (const mounts::CrossmemberReport& c : report->crossmembers)
        if (chosen == QStringLiteral("crossmember:") + q(c.id)) {
            if (!c.reason.empty())
                text << q(c.reason);
            else
                text << sided(*session_.project(), model::vehicle_owner,
                              tr("Nearest holes: %1 on the {left} side, %2 on the {right} side, %3 %4 in its slots."))
                            .arg(c.left_hole)
                            .arg(c.right_hole)
                            .arg(q(quantity::lengthText(std::abs(c.slid_mm), shown)),
                                 c.slid_mm < 0 ? tr("forward") : tr("rearward"));
            if (c.reason.empty() && !c.reaches)
                text << tr("One of its own from there: seat %1 rearward, %2 up from between the holes.")
                            .arg(q(quantity::lengthText(c.own_seat_mm.x(), shown)),
                                 q(quantity::lengthText(c.own_seat_mm.z(), shown)));
            for (const fit::ToolAccess& access : reports.with<fit::FitReport>().access)
                if (access.id == "mount:" + c.id + ":out")
                    text << (access.verdict == model::Verdict::Go
                                 ? tr("It comes out downwards with the gearbox held.")
                                 : tr("It does not come out downwards: %1 in the way.")
                                       .arg(access.blockers.empty() ? tr("something")
                                                                    : q(access.blockers.front().name).toLower()));
            mind(caution("mounts/hang"));
        }
    for (const mounts::FrameReport& f : report->frames)
        if (chosen == QStringLiteral("frame:") + q(f.id)) {
            if (!f.reason.empty()) text << q(f.reason) + QLatin1Char('.');
            for (const mounts::SeatLoad& seat : f.seats)
                text << tr("%1: %2 at rest, %3 at most (%4).")
                            .arg(q(seat.name), q(discipline::forceText(seat.rest_n, shown)),
                                 q(discipline::forceText(seat.most_n, shown)), q(seat.most_case).toLower());
            text << tr("%1 of tube, %2.")
                        .arg(q(quantity::lengthText(f.length_mm, shown)), q(quantity::massText(f.mass_kg, shown, 1)));
            mind(caution("mounts/weld"));
        }
    say(text);
}

void MountsStage::advise(const QString& chosen) {
    if (!session_.project()->sections.get<model::Mounts>()) return;
    const auto reports = session_.reports();
    const auto* report = reports ? reports->of<mounts::MountsReport>() : nullptr;
    const auto donor = model::hangingDonor(*session_.project());
    if (report && !report->usable && donor && !model::centreOfMass(*donor))
        help(QStringLiteral("masses"), tr("Go to the masses of %1").arg(q(donor->name)),
             [this, owner = q(donor->id.text)] {
                 emit leadsOn(QStringLiteral("survey"), QStringLiteral("masses:") + owner);
             });
    const std::string id = idOf(chosen);
    if (isOf(chosen, "mount")) {
        helpMount(id);
        helpHolds(id);
    } else if (isOf(chosen, "old")) {
        helpOld(id);
    }
}

void MountsStage::helpOld(const std::string& id) {
    const model::OldMount* old = byId(session_.project()->sections.get<model::Mounts>()->old_mounts, id);
    if (!old) return;
    const auto set = [&](const char* name, const QString& text, model::OldState state) {
        help(QString::fromLatin1(name), text, [this, id, state, text] {
            take(mounts::withOldMount(*session_.project(), id, state, today().toStdString(), who()), text);
        });
    };
    if (old->state == model::OldState::Stays) set("plan", tr("Plan to take it off"), model::OldState::Planned);
    if (old->state == model::OldState::Planned) {
        remark(tr("Its body is out of the bay; nothing is cut yet."));
        set("take_back", tr("Leave it on after all"), model::OldState::Stays);
        set("gone", tr("Go: it is cut off"), model::OldState::Gone);
        askWho();
    }
    if (old->state == model::OldState::Gone) remark(tr("Cut off %1 %2.").arg(q(old->date), q(old->who)));
}

void MountsStage::helpMount(const std::string& id) {
    const model::Mount* mount = byId(session_.project()->sections.get<model::Mounts>()->mounts, id);
    if (!mount) return;
    const auto metal = [&](bool tower) {
        const auto& its = tower ? mount->tower : mount->bracket;
        const bool made = its && !its->bodies.empty();
        const QString text = tower ? (made ? tr("Make the tower again") : tr("Make a tower from stand to rubber"))
                                   : (made ? tr("Make the bracket again") : tr("Make a bracket from pad to rubber"));
        help(tower ? QStringLiteral("make_tower") : QStringLiteral("make_bracket"), text, [this, id, tower] {
            lookFor("make-brackets", {id, mounts::word(tower ? Which::Tower : Which::Bracket)});
        });
        if (its)
            help(tower ? QStringLiteral("drop_tower") : QStringLiteral("drop_bracket"),
                 tower ? tr("Take the tower away") : tr("Take the bracket away"), [this, id, tower] {
                     take(mounts::withoutBracket(*session_.project(), id, tower ? Which::Tower : Which::Bracket),
                          tower ? tr("take the tower away") : tr("take the bracket away"));
                 });
    };
    metal(false);
    if (mount->stand) metal(true);
    for (std::size_t i = 0; i < mount->options.size(); ++i) {
        const model::MountOption& option = mount->options[i];
        QString text = tr("Instead: %1").arg(q(option.name));
        if (option.cost) {
            const double more = *option.cost - mount->cost.value_or(0);
            text += mount->cost
                        ? tr(", %1 %2").arg(QString::number(std::abs(more), 'f', 0), more < 0 ? tr("less") : tr("more"))
                        : tr(", %1").arg(QString::number(*option.cost, 'f', 0));
        }
        if (!option.note.empty()) text += QStringLiteral(": ") + q(option.note);
        help(QStringLiteral("option:%1").arg(i), text,
             [this, id, i] { take(mounts::withOption(*session_.project(), id, i), tr("make the mount another way")); });
    }
}

/// The steps in which metal becomes final: what is signed, what opened again, and the next to sign.
void MountsStage::helpHolds(const std::string& id) {
    const auto reports = session_.reports();
    if (!reports || !reports->of<mounts::MountsReport>()) return;
    bool next = true;
    for (const mounts::HoldReport& hold : reports->of<mounts::MountsReport>()->holds) {
        if (hold.mount != id) continue;
        const QString step = QString::number(static_cast<int>(hold.hold));
        const QString what = q(describe::said(hold.hold));
        if (hold.signed_off) {
            QString text = tr("Signed: %1 %2 %3").arg(what, q(hold.date), q(hold.who));
            if (!hold.changed.empty()) {
                QStringList changed;
                for (const std::string& c : hold.changed) changed << q(c);
                text = tr("Open again: %1. %2.").arg(what, changed.join(QStringLiteral("; ")));
            }
            remark(text);
        }
        if (hold.holds || !next) continue;
        next = false;
        askWho();
        help(QStringLiteral("sign:") + step, tr("Sign: %1").arg(what), [this, id, step = hold.hold, what] {
            take(mounts::withSigned(*session_.project(), id, step, today().toStdString(), who(), ""),
                 tr("sign: %1").arg(what));
        });
    }
}

QString MountsStage::add(const QString& kind, model::Project& changed) {
    model::Mounts& m = changed.sections.edit<model::Mounts>();
    const std::vector<std::string> taken = allIds(m);
    QString made = kind;
    const auto keep = [&](auto& list, auto item, const std::string& name) {
        item.name = name;
        item.id = model::freshId(name, taken);
        made += QLatin1Char(':') + q(item.id);
        list.push_back(std::move(item));
    };
    if (kind == QLatin1String("mount")) {
        model::Mount mount;
        // On the next of the unit's mount points that no mount is on yet.
        std::string name = "Mount";
        if (const model::Donor* donor = model::activeDonor(changed)) {
            mount.pad.owner = donor->id.text;
            for (const model::HardPoint& p : donor->reference_points) {
                const bool pad = p.role == "front_mount" || p.role == "gearbox_mount";
                const bool free = std::none_of(m.mounts.begin(), m.mounts.end(),
                                               [&p](const model::Mount& other) { return other.pad.point == p.id; });
                if (!pad || !free || !model::isTaken(changed, donor->id.text, p.option)) continue;
                mount.pad.point = p.id;
                mount.at = p.role == "gearbox_mount" ? model::MountAt::Gearbox : model::MountAt::Engine;
                name = p.name;
                break;
            }
        }
        keep(m.mounts, std::move(mount), name);
    } else if (kind == QLatin1String("crossmember")) {
        model::Crossmember crossmember;
        for (const model::Mount& mount : m.mounts)
            if (mount.at == model::MountAt::Gearbox) crossmember.mount = mount.id;
        for (const model::HoleRow& row : m.rows)
            (row.at_mm.y() < 0 ? crossmember.left_row : crossmember.right_row) = row.id;
        keep(m.crossmembers, std::move(crossmember), "Gearbox crossmember");
    } else if (kind == QLatin1String("row")) {
        keep(m.rows, model::HoleRow{}, "Row of holes");
    } else if (kind == QLatin1String("seat")) {
        keep(m.seats, model::OldSeat{}, "Old seat");
    } else if (kind == QLatin1String("frame")) {
        model::SeatFrame frame;
        for (const model::OldSeat& seat : m.seats) frame.seats.push_back(seat.id);
        keep(m.frames, std::move(frame), "Frame on seats");
    } else if (kind == QLatin1String("old")) {
        keep(m.old_mounts, model::OldMount{}, "Old mount");
    } else if (kind == QLatin1String("isolator")) {
        model::Isolator isolator;
        isolator.material = "rubber";
        keep(m.isolators, std::move(isolator), "Own isolator");
    }
    return made;
}

void MountsStage::mirror() {
    std::string image;
    auto twin = mounts::withMountMirrored(*session_.project(), idOf(key()), image);
    if (twin) want(QStringLiteral("mount:") + q(image));
    take(std::move(twin), tr("mirror the mount"));
}

Result<model::Project> MountsStage::without(const QString& key, model::Project project) const {
    const std::string id = idOf(key);
    if (!project.sections.get<model::Mounts>()) return project;
    if (isOf(key, "mount"))
        for (const Which which : {Which::Bracket, Which::Tower})
            if (auto without = mounts::withoutBracket(project, id, which)) project = std::move(without).value();
    if (isOf(key, "frame"))
        if (const model::SeatFrame* frame = byId(project.sections.get<model::Mounts>()->frames, id)) {
            const std::vector<std::string> bodies = frame->bodies;
            for (const std::string& body : bodies)
                project = model::withoutBody(project, {model::vehicle_owner, model::BodyId{body}});
        }
    model::Mounts& m = project.sections.edit<model::Mounts>();
    if (isOf(key, "mount")) dropId(m.mounts, id);
    if (isOf(key, "crossmember")) dropId(m.crossmembers, id);
    if (isOf(key, "frame")) dropId(m.frames, id);
    if (isOf(key, "old")) dropId(m.old_mounts, id);
    if (isOf(key, "row")) dropId(m.rows, id);
    if (isOf(key, "seat")) dropId(m.seats, id);
    if (isOf(key, "isolator")) dropId(m.isolators, id);
    return project;
}

} // namespace gabarit::app

#include "moc_mounts_stage.cpp"
#include "model/describe.h"

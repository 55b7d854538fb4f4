#include "stages/driveline/driveline_stage.h"

#include "driveline/apply.h"
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "driveline/words.h"
#include "forms/text.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "gearing/words.h"
#include "kit/sheet.h"
#include "model/edit.h"
#include "session/session.h"
#include "stages/driveline/driveline_fields.h"
#include "stages/driveline/reading_bar.h"
#include "stages/driveline/shaft_view.h"

#include <QPushButton>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr double shown_apart_deg = 0.005; // angles are shown to a hundredth

} // namespace

DrivelineStage::DrivelineStage(Session& session, QWidget* parent)
    : DisciplineStage(session,
                      {tr("Lines, couplings, interfaces, gearing"),
                       tr("add to the driveline"),
                       196,
                       318,
                       262,
                       {"driveline", "gearing"}},
                      parent),
      view_(new ShaftView(this)), bar_(new ReadingBar(session, this)) {
    setDrawing(view_);
    addBelow(bar_);
    addKind("line", tr("Line of shafts"));
    addKind("coupling", tr("Flexible disc, read round the clock"));
    addKind("interface", tr("Interface"));
    addKind("reading", tr("Angle off a gauge"));
    addKind("bell", tr("Bellhousing stack"));
    addKind("gearing", tr("Gearing"));
    try_ = addButton("new_try", tr("New try"), [this] { addTry(); });
}

const StagePlug& drivelineStage() {
    static const StagePlug plug{
        "driveline",
        StageGroup::HoldAndDrive,
        20,
        [] { return DrivelineStage::tr("Driveline"); },
        {"driveline", "gearing"},
        [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new DrivelineStage(session, parent); }};
    return plug;
}

std::vector<StageItem> DrivelineStage::items(const model::Project& project, const study::Reports* reports) const {
    std::vector<StageItem> out;
    const auto* report = reports ? reports->of<driveline::DrivelineReport>() : nullptr;
    if (const auto* its = project.sections.get<model::Driveline>()) {
        const model::Driveline& d = *its;
        for (const model::ShaftLine& line : d.lines) {
            StageItem item{QStringLiteral("line:") + q(line.id), q(line.name), {}};
            if (reports) {
                if (const auto* judged = lineOf(*reports, item.key))
                    item.verdict = judged->verdict;
                else
                    item.words +=
                        model::isTaken(project, line.option) ? tr("\nnot hung now") : tr("\nanother form is taken");
            }
            out.push_back(std::move(item));
        }
        for (const model::CouplingCheck& coupling : d.couplings) {
            StageItem item{QStringLiteral("coupling:") + q(coupling.id), q(coupling.name), {}};
            if (reports)
                if (const auto* judged = couplingOf(*reports, item.key)) item.verdict = judged->verdict;
            out.push_back(std::move(item));
        }
        if (d.bell) {
            StageItem item{QStringLiteral("bell"), tr("Bellhousing stack"), {}};
            if (report && !report->bell.empty()) {
                item.verdict = worstAbout(report->bell, [](const model::Check&) { return true; });
            }
            out.push_back(std::move(item));
        }
        for (const model::Interface& interface : d.interfaces) {
            StageItem item{QStringLiteral("interface:") + q(interface.id), q(interface.name), {}};
            if (report)
                for (const auto& judged : report->interfaces)
                    if (judged.id == interface.id) item.verdict = judged.verdict;
            out.push_back(std::move(item));
        }
        for (const model::AngleReading& reading : d.readings)
            out.push_back({QStringLiteral("reading:") + q(reading.id), tr("Angle: %1").arg(q(reading.place)), {}});
    }
    if (project.sections.get<model::Gearing>())
        out.push_back({QStringLiteral("gearing"), tr("Gearing"),
                       reports && reports->of<gearing::GearingReport>()
                           ? std::optional(reports->of<gearing::GearingReport>()->verdict)
                           : std::nullopt});
    return out;
}

bool DrivelineStage::leadTo(const QString& finding) {
    const QString id = finding.section(QLatin1Char(':'), 1); // "rear/joint-1/running", "interface/stub"
    const QString first = id.section(QLatin1Char('/'), 0, 0);
    const QString key = finding.startsWith(QLatin1String("gearing")) ? QStringLiteral("gearing")
                        : first == QLatin1String("interface")
                            ? QStringLiteral("interface:") + id.section(QLatin1Char('/'), 1, 1)
                        : first == QLatin1String("bellhousing") ? QStringLiteral("bell")
                                                                : QString();
    if (key.isEmpty()) return DisciplineStage::leadTo(finding);
    choose(key);
    return true;
}

std::vector<Field> DrivelineStage::fieldsOf(const QString& key) { return drivelineFields(session_, key); }

void DrivelineStage::draw(const QString& chosen) {
    view_->show(chosen, session_.reports(), session_.shown());
    bar_->choose(chosen);
    try_->setVisible(isOf(chosen, "coupling"));
}

void DrivelineStage::tell(const QString& chosen, const study::Reports& reports) {
    const auto* report = reports.of<driveline::DrivelineReport>();
    const auto putAll = [this](const std::vector<driveline::Check>& list) {
        for (const driveline::Check& check : list) put(check);
    };
    if (const auto* line = lineOf(reports, chosen)) {
        putAll(line->checks);
        QString text;
        if (line->speed_rpm)
            text = tr("At %1 rpm: %2. ").arg(QString::number(*line->speed_rpm, 'f', 0), q(line->speed_source));
        for (const model::ShaftLine& given : reports.project->sections.get<model::Driveline>()->lines)
            if (given.id == line->id)
                text += q(driveline::turnWords(given, *line, session_.shown())) + QLatin1Char(' ');
        std::string before;
        for (const driveline::Check& check : line->checks) {
            if (check.verdict == model::Verdict::Go || check.id.find("/shaft-") == std::string::npos ||
                check.id.find("/pair") != std::string::npos)
                continue;
            const std::string help = driveline::helpWords(*line, check, session_.shown());
            if (help != before) text += q(help) + QLatin1Char(' ');
            before = help;
        }
        say({text});
        mind(line->joints.empty() || !line->usable ? QString() : caution("driveline/shaft"));
        if (const model::Donor* donor = model::activeDonor(*reports.project))
            if (std::any_of(donor->bodies.begin(), donor->bodies.end(),
                            [](const model::Body& b) { return b.category == "motor"; }))
                mind(caution("driveline/jack") + QLatin1Char(' ') + caution("driveline/high_voltage"));
    } else if (const auto* coupling = couplingOf(reports, chosen)) {
        putAll(coupling->checks);
        QString text = q(driveline::couplingWords(*reports.project, *coupling, session_.shown()));
        if (coupling->tries.size() > 1) {
            QStringList before; // how it came to be
            for (const driveline::CouplingTryReport& t : coupling->tries)
                before << tr("%1 %2").arg(q(t.name),
                                          t.tilt_deg ? q(quantity::angleText(*t.tilt_deg, 2)) : tr("not known"));
            text += tr(" Tries: %1.").arg(before.join(QStringLiteral("; ")));
        }
        say({text});
        mind(caution("driveline/shaft"));
    } else if (chosen == QLatin1String("bell") && report) {
        putAll(report->bell);
        QStringList missing;
        for (const std::string& what : report->missing) missing << q(what);
        say(missing);
        mind(caution("driveline/bellhousing"));
    } else if (isOf(chosen, "interface") && report) {
        for (const auto& interface : report->interfaces) {
            if (QStringLiteral("interface:") + q(interface.id) != chosen) continue;
            QString text = QLatin1String(driveline::matingWords(interface.mating));
            for (const std::string& reason : interface.reasons) text += QLatin1Char(' ') + q(reason);
            say({text});
        }
        if (words().isEmpty()) say({tr("It belongs to another donor than the one that hangs.")});
    } else if (isOf(chosen, "reading") && report) {
        for (const auto& angle : report->angles) {
            if (QStringLiteral("reading:") + q(angle.id) != chosen) continue;
            const auto deg = [](double v) { return q(quantity::angleText(v, 2)); };
            QString text = angle.angle_deg ? tr("In the vehicle: %1.").arg(deg(*angle.angle_deg))
                                           : tr("Relative only: give the vehicle's slope at that time.");
            if (angle.planned_deg) text += tr(" The project has %1").arg(deg(*angle.planned_deg));
            if (angle.apart_deg) text += tr(", %1 apart.").arg(deg(*angle.apart_deg));
            say({text});
        }
    } else if (chosen == QLatin1String("gearing")) {
        tellGearing(reports);
    }
}

void DrivelineStage::tellGearing(const study::Reports& reports) {
    const auto* report = reports.of<gearing::GearingReport>();
    if (!report) return;
    const gearing::GearingReport& g = *report;
    checks()->setHorizontalHeaderLabels({tr("Gear"), tr("Top speed"), tr("Speed and pull")});
    const quantity::Shown shown = session_.shown();
    const auto speed = [&shown](const std::optional<double>& kmh, int decimals) {
        return kmh ? q(quantity::speedText(*kmh, shown, decimals)) : QStringLiteral("–");
    };
    QStringList text;
    if (g.cruise_rpm) text << tr("At cruise %1 rpm in the longest gear.").arg(QString::number(*g.cruise_rpm, 'f', 0));
    const auto drive = [&](const QString& what, const std::optional<double>& ratio) {
        if (ratio) text << tr("%1: final drive %2.").arg(what, QString::number(*ratio, 'f', 2));
    };
    drive(tr("For the wanted revs"), g.drive_for_cruise);
    drive(tr("For the original vehicle's revs"), g.drive_for_original_cruise);
    drive(tr("For its pull for each kilogram"), g.drive_for_original_force);
    if (g.speedo_error)
        text << tr("%1: %2.").arg(q(gearing::speedoWords(g, shown)), QLatin1String(model::word(g.speedo_verdict)));
    for (const std::string& what : g.missing) text << tr("Not given: %1.").arg(q(what));
    say(text);
    mind(tr("%1 % lost from crank to wheels (%2); slip, gradient and air are left out.")
             .arg(QString::number(g.loss * 100, 'f', 0), q(g.loss_source)));
    for (const auto& gear : g.gears) {
        const int row = checks()->rowCount();
        checks()->insertRow(row);
        setRow(checks(), row,
               {tr("Gear %1%2, %3 : 1")
                    .arg(q(gear.name), gear.low_range ? tr(", low") : QString(), QString::number(gear.ratio, 'f', 2)),
                speed(gear.top_kmh, 0),
                tr("%1 at 1000 rpm; %2").arg(speed(gear.kmh_per_1000, 1), q(gearing::pullWords(gear, shown)))},
               {0, 2});
    }
}

/// What would put it right, each as a button that does it as one step.
void DrivelineStage::advise(const QString& chosen) {
    const auto reports = session_.reports();
    if (!reports) return;
    if (const auto* line = lineOf(*reports, chosen)) {
        int n = 0;
        for (const driveline::Cure& cure : line->cures) {
            const QString text = q(driveline::cureWords(*line, cure, session_.shown()));
            help(QStringLiteral("cure:%1").arg(n++), text, [this, cure, id = line->id, text] {
                take(driveline::withCure(*session_.project(), id, cure), text.section(QLatin1Char(':'), 0, 0));
            });
        }
    }
    if (const auto* line = lineOf(*reports, chosen))
        for (const driveline::SlipReport& slip : line->slips) {
            if (!slip.moved_mm || std::abs(*slip.moved_mm) < 0.05) continue;
            const QString text =
                tr("Keep the %1: move the unit %2 %3")
                    .arg(q(slip.name).toLower(), q(quantity::lengthText(std::abs(*slip.moved_mm), session_.shown())),
                         *slip.moved_mm > 0 ? tr("on along the line") : tr("back along the line"));
            help(QStringLiteral("keep:%1").arg(slip.shaft), text, [this, report = *line, by = *slip.moved_mm, text] {
                take(driveline::withUnitOnward(*session_.project(), report, by), text);
            });
        }
    if (const auto* coupling = couplingOf(*reports, chosen); coupling && !coupling->tries.empty()) {
        const auto& last = coupling->tries.back();
        const auto apply = [&](const char* name, const QString& text, const std::optional<driveline::MountMove>& move) {
            if (!move || !driveline::placementMoved(*reports->project, *coupling, *move)) return;
            help(QString::fromLatin1(name), text, [this, move = *move, report = *coupling, text] {
                const auto moved = driveline::placementMoved(*session_.project(), report, move);
                if (!moved) return emit session_.notice(q(moved.error().line()), true);
                model::Project changed = *session_.project();
                *model::activePlacement(changed) = moved.value();
                session_.change(text, std::move(changed));
            });
        };
        apply("apply_gearbox", tr("Move the gearbox mount in the placement"), last.gearbox_alone);
        apply("apply_both", tr("Move gearbox and front mounts in the placement"), last.both);
    }
    if (chosen.startsWith(QLatin1String("reading:")) && reports->of<driveline::DrivelineReport>())
        for (const auto& angle : reports->of<driveline::DrivelineReport>()->angles) {
            if (QStringLiteral("reading:") + q(angle.id) != chosen || !angle.apart_deg) continue;
            if (std::abs(*angle.apart_deg) < shown_apart_deg ||
                !driveline::withReadingTaken(*reports->project, angle.id))
                continue;
            const QString text = angle.on_unit ? tr("Turn the unit in the placement until its flange stands so")
                                               : tr("Take it as the flange's angle");
            help(QStringLiteral("take_angle"), text,
                 [this, id = angle.id, text] { take(driveline::withReadingTaken(*session_.project(), id), text); });
        }
}

QString DrivelineStage::add(const QString& kind, model::Project& changed) {
    QString made = kind;
    // Where there are several donors it is the hanging one's.
    const model::Donor* hangs = changed.donors.size() > 1 ? model::activeDonor(changed) : nullptr;
    const std::string of = hangs ? hangs->id.text : std::string();
    if (kind == QLatin1String("gearing")) {
        if (!changed.sections.get<model::Gearing>()) {
            auto& gearing = changed.sections.edit<model::Gearing>();
            gearing.donor = of;
            gearing.gears = {{"1", 3.8, false, {}},
                             {"2", 2.1, false, {}},
                             {"3", 1.4, false, {}},
                             {"4", 1, false, {}},
                             {"R", 3.6, true, {}}};
        }
    } else {
        model::Driveline& d = changed.sections.edit<model::Driveline>();
        std::vector<std::string> taken;
        idsInto(taken, d.lines);
        idsInto(taken, d.couplings);
        idsInto(taken, d.interfaces);
        idsInto(taken, d.readings);
        if (kind == QLatin1String("line")) {
            model::ShaftLine line;
            line.name = d.lines.empty() ? "Rear shaft" : "Shaft line";
            line.id = model::freshId(line.name, taken);
            line.joints = {{"Front joint", model::JointKind::Cardan, {}, "", {}},
                           {"Rear joint", model::JointKind::Cardan, {}, "", {}}};
            line.shafts.resize(1);
            // From what is surveyed already, else a usual pickup's, to be measured.
            line.from.at_mm = {1200, 0, 550};
            line.to.at_mm = {2300, 0, 480};
            if (const model::Donor* donor = model::activeDonor(changed))
                for (const model::HardPoint& p : donor->reference_points)
                    if (p.role == "output_flange" && line.from.point.empty() &&
                        model::isTaken(changed, donor->id.text, p.option)) {
                        line.from.owner = donor->id.text;
                        line.from.point = p.id;
                    }
            if (changed.vehicle) {
                for (const model::HardPoint& p : changed.vehicle->hard_points)
                    if (p.role == "pinion_flange" && line.to.point.empty()) line.to.point = p.id;
                for (const model::MotionSpec& m : changed.vehicle->motions)
                    if (m.kind == model::MotionKind::Axle && m.end == model::End::Rear) line.path.motion = m.id;
            }
            // What no point was surveyed for is made up: said wherever it counts.
            for (model::FlangePlace* end : {&line.from, &line.to})
                if (end->point.empty()) end->measured.method = model::Method::Assumed;
            made += QLatin1Char(':') + q(line.id);
            d.lines.push_back(std::move(line));
        } else if (kind == QLatin1String("coupling")) {
            model::CouplingCheck coupling;
            coupling.name = "Flexible disc";
            coupling.id = model::freshId(coupling.name, taken);
            coupling.radius_mm = 50;
            if (!d.lines.empty()) coupling.line = d.lines.front().id;
            made += QLatin1Char(':') + q(coupling.id);
            d.couplings.push_back(std::move(coupling));
        } else if (kind == QLatin1String("interface")) {
            model::Interface interface;
            interface.name = "Output to shaft";
            interface.id = model::freshId(interface.name, taken);
            interface.donor = of;
            made += QLatin1Char(':') + q(interface.id);
            d.interfaces.push_back(std::move(interface));
        } else if (kind == QLatin1String("reading")) {
            model::AngleReading reading;
            reading.place = "output flange";
            reading.id = model::freshId("angle", taken);
            if (!d.lines.empty()) reading.line = d.lines.front().id;
            made += QLatin1Char(':') + q(reading.id);
            d.readings.push_back(std::move(reading));
        } else if (!d.bell) {
            d.bell.emplace();
            d.bell->donor = of;
        }
    }
    return made;
}

void DrivelineStage::addTry() {
    model::Project changed = *session_.project();
    auto* driveline = changed.sections.own<model::Driveline>();
    if (!driveline) return;
    for (model::CouplingCheck& coupling : driveline->couplings) {
        if (QStringLiteral("coupling:") + q(coupling.id) != key()) continue;
        model::CouplingTry t;
        std::vector<std::string> taken;
        idsInto(taken, coupling.tries);
        t.name = coupling.tries.empty() ? "As hung" : "After moving";
        t.id = model::freshId(t.name, taken);
        coupling.tries.push_back(std::move(t));
    }
    session_.change(tr("begin a new try at the coupling"), std::move(changed));
    refresh();
}

Result<model::Project> DrivelineStage::without(const QString& key, model::Project project) const {
    const std::string id = idOf(key);
    if (key == QLatin1String("gearing")) project.sections.drop<model::Gearing>();
    auto* driveline = project.sections.own<model::Driveline>();
    if (!driveline) return project;
    if (isOf(key, "line")) dropId(driveline->lines, id);
    if (isOf(key, "coupling")) dropId(driveline->couplings, id);
    if (isOf(key, "interface")) dropId(driveline->interfaces, id);
    if (isOf(key, "reading")) dropId(driveline->readings, id);
    if (key == QLatin1String("bell")) driveline->bell.reset();
    return project;
}

} // namespace gabarit::app

#include "moc_driveline_stage.cpp"

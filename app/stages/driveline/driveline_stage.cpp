#include "stages/driveline/driveline_stage.h"

#include "driveline/apply.h"
#include "driveline/driveline.h"
#include "driveline/words.h"
#include "forms/text.h"
#include "gearing/gearing.h"
#include "gearing/words.h"
#include "model/edit.h"
#include "print/mating_pictures.h"
#include "shell/session.h"
#include "shell/tones.h"
#include "stages/check_sheet.h"
#include "stages/driveline/driveline_fields.h"
#include "stages/driveline/reading_bar.h"
#include "stages/sheet.h"
#include "store/rule_book.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr int list_width_px = 196, form_width_px = 318, below_height_px = 262;
constexpr double shown_apart_deg = 0.005; // angles are shown to a hundredth

print::PictureTones pictureTones() {
    const Tones& t = tones();
    return {t.ink, t.second_ink, t.rule, t.donor, t.chassis_edge, t.trouble, t.in_hand, t.paper};
}

const driveline::LineReport* lineOf(const study::Reports& reports, const QString& key) {
    if (!reports.of<driveline::DrivelineReport>() || !key.startsWith(QLatin1String("line:"))) return nullptr;
    for (const driveline::LineReport& line : reports.of<driveline::DrivelineReport>()->lines)
        if (q(line.id) == key.mid(5)) return &line;
    return nullptr;
}
const driveline::CouplingReport* couplingOf(const study::Reports& reports, const QString& key) {
    if (!reports.of<driveline::DrivelineReport>() || !key.startsWith(QLatin1String("coupling:"))) return nullptr;
    for (const driveline::CouplingReport& coupling : reports.of<driveline::DrivelineReport>()->couplings)
        if (q(coupling.id) == key.mid(9)) return &coupling;
    return nullptr;
}

template <class List>
std::vector<std::string> idsOf(const List& list) {
    std::vector<std::string> out;
    for (const auto& item : list) out.push_back(item.id);
    return out;
}

/// What there is: key, words, verdict when it is judged.
std::vector<StageItem> itemsOf(const model::Project& project, const study::Reports* reports) {
    std::vector<StageItem> out;
    const driveline::DrivelineReport* report =
        reports && reports->of<driveline::DrivelineReport>() ? &*reports->of<driveline::DrivelineReport>() : nullptr;
    if (project.driveline) {
        const model::Driveline& d = *project.driveline;
        for (const model::ShaftLine& line : d.lines) {
            StageItem item{QStringLiteral("line:") + q(line.id), q(line.name), {}};
            if (reports) {
                if (const auto* judged = lineOf(*reports, item.key))
                    item.verdict = judged->verdict;
                else
                    item.words += model::isTaken(project, line.option) ? QObject::tr("\nnot hung now")
                                                                       : QObject::tr("\nanother form is taken");
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
            StageItem item{QStringLiteral("bell"), QObject::tr("Bellhousing stack"), {}};
            if (report && !report->bell.empty()) {
                item.verdict = model::Verdict::Go;
                for (const auto& check : report->bell) item.verdict = model::worse(*item.verdict, check.verdict);
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
            out.push_back(
                {QStringLiteral("reading:") + q(reading.id), QObject::tr("Angle: %1").arg(q(reading.place)), {}});
    }
    if (project.gearing)
        out.push_back({QStringLiteral("gearing"), QObject::tr("Gearing"),
                       reports && reports->of<gearing::GearingReport>()
                           ? std::optional(reports->of<gearing::GearingReport>()->verdict)
                           : std::nullopt});
    return out;
}

} // namespace

ShaftView::ShaftView(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(230);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void ShaftView::show(const QString& key, std::shared_ptr<const study::Reports> reports, quantity::Shown shown) {
    key_ = key;
    reports_ = std::move(reports);
    shown_ = shown;
    update();
}

void ShaftView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    const print::PictureTones palette = pictureTones();
    const QRectF all = QRectF(rect()).adjusted(4, 4, -4, -4);
    const auto say = [&](const QString& text) {
        painter.setPen(tones().second_ink);
        painter.drawText(all, Qt::AlignCenter | Qt::TextWordWrap, text);
    };
    if (!reports_) return;
    if (key_.startsWith(QLatin1String("line:"))) {
        const auto* line = lineOf(*reports_, key_);
        if (!line) return say(tr("It is on a donor, or on an option, that does not hang now."));
        if (!line->usable) return say(q(line->reason));
        const double upper = all.height() * 0.5;
        print::paintChain(painter, QRectF(all.left(), all.top(), all.width(), upper), *line, palette);
        const QRectF below(all.left(), all.top() + upper + 6, all.width(), all.height() - upper - 6);
        const QRectF left(below.left(), below.top(), below.width() / 2 - 6, below.height());
        const QRectF right(below.center().x() + 6, below.top(), below.width() / 2 - 6, below.height());
        print::paintAngles(painter, left, *line, palette, shown_);
        std::size_t slipping = 0; // the last one that slips
        for (std::size_t i = 0; i < line->slips.size(); ++i) slipping = i;
        print::paintSlip(painter, right, *line, slipping, palette, shown_);
        return;
    }
    if (const auto* coupling = couplingOf(*reports_, key_)) {
        for (const model::CouplingCheck& check : reports_->project->driveline->couplings)
            if (check.id == coupling->id && !check.tries.empty()) {
                const bool two = check.tries.size() > 1;
                const QRectF left(all.left(), all.top() + 20, two ? all.width() / 2 : all.width(), all.height() - 20);
                const auto dial = [&](const QRectF& box, std::size_t which) {
                    painter.setPen(tones().ink);
                    painter.drawText(QRectF(box.left(), box.top() - 20, box.width(), 20), Qt::AlignHCenter,
                                     q(check.tries[which].name));
                    print::paintDial(painter, box, coupling->tries[which], check.tries[which], palette, shown_);
                };
                if (two) dial(left, check.tries.size() - 2);
                dial(two ? left.translated(all.width() / 2, 0) : left, check.tries.size() - 1);
                return;
            }
        return say(
            tr("No readings yet. \"New try\", then read the gap at eight places round the clock, the shaft turned "
               "to four places."));
    }
    if (key_ == QLatin1String("gearing") && reports_->of<gearing::GearingReport>() && reports_->project->gearing)
        return print::paintGearing(painter, all, *reports_->of<gearing::GearingReport>(), *reports_->project->gearing,
                                   palette, shown_);
    if (key_.isEmpty())
        return say(
            tr("Nothing of the driveline is given yet. \"New\" begins with a line of shafts from the gearbox to the "
               "axle."));
    if (key_ == QLatin1String("bell") && reports_->project->driveline && reports_->project->driveline->bell)
        return print::paintStack(painter, all, *reports_->project->driveline->bell, palette, shown_);
    if (key_.startsWith(QLatin1String("interface:")) && reports_->project->driveline)
        for (const model::Interface& interface : reports_->project->driveline->interfaces)
            if (q(interface.id) == key_.mid(10)) return print::paintInterface(painter, all, interface, palette, shown_);
    if (key_.startsWith(QLatin1String("reading:")) && reports_->of<driveline::DrivelineReport>())
        for (const driveline::AngleReport& angle : reports_->of<driveline::DrivelineReport>()->angles)
            for (const model::AngleReading& reading : reports_->project->driveline->readings)
                if (q(angle.id) == key_.mid(8) && reading.id == angle.id)
                    return print::paintReading(painter, all, reading, angle, palette);
    say(tr("Its figures stand below and beside."));
}

DrivelineStage::DrivelineStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QListWidget(this)), view_(new ShaftView(this)),
      checks_(makeCheckSheet(this)), bar_(new ReadingBar(session, this)), words_(new QLabel(this)),
      caution_(new QLabel(this)), help_(new QVBoxLayout), form_(new EntryForm(this)) {
    list_->setAccessibleName(tr("Lines, couplings, interfaces, gearing"));
    list_->setWordWrap(true);
    for (QLabel* label : {words_, caution_}) {
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
    }
    caution_->setForegroundRole(QPalette::PlaceholderText);

    auto* left = new QVBoxLayout;
    left->setContentsMargins(12, 14, 0, 14);
    left->setSpacing(8);
    left->addWidget(list_, 1);
    auto* make = new QPushButton(tr("New"), this);
    make->setObjectName(QStringLiteral("new"));
    make->setMinimumHeight(target_px);
    auto* menu = new QMenu(make);
    const std::pair<const char*, QString> kinds[] = {
        {"line", tr("Line of shafts")},    {"coupling", tr("Flexible disc, read round the clock")},
        {"interface", tr("Interface")},    {"reading", tr("Angle off a gauge")},
        {"bell", tr("Bellhousing stack")}, {"gearing", tr("Gearing")}};
    for (const auto& [kind, text] : kinds) {
        QAction* action = menu->addAction(text);
        action->setObjectName(QStringLiteral("new_") + QLatin1String(kind));
        connect(action, &QAction::triggered, this, [this, kind = QString::fromLatin1(kind)] { add(kind); });
    }
    make->setMenu(menu);
    left->addWidget(make);
    const auto button = [&](const char* name, const QString& text, void (DrivelineStage::*act)()) {
        auto* made = new QPushButton(text, this);
        made->setObjectName(QString::fromLatin1(name));
        made->setMinimumHeight(target_px);
        connect(made, &QPushButton::clicked, this, act);
        left->addWidget(made);
        return made;
    };
    try_ = button("new_try", tr("New try"), &DrivelineStage::addTry);
    delete_ = button("delete", tr("Delete"), &DrivelineStage::remove);

    auto* middle = new QVBoxLayout;
    middle->setContentsMargins(12, 14, 12, 10);
    middle->setSpacing(6);
    middle->addWidget(view_, 1);
    // Figures, advice and what to mind scroll as one below the drawing.
    auto* below = new QScrollArea(this);
    below->setWidgetResizable(true);
    below->setFrameShape(QFrame::NoFrame);
    below->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    below->setFixedHeight(below_height_px);
    auto* inner = new QWidget(below);
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(0, 0, 6, 0);
    column->setSpacing(6);
    column->addWidget(bar_);
    column->addWidget(words_);
    column->addWidget(checks_);
    help_->setSpacing(4);
    column->addLayout(help_);
    column->addWidget(caution_);
    column->addStretch();
    below->setWidget(inner);
    middle->addWidget(below);
    list_->setFixedWidth(list_width_px);
    form_->setFixedWidth(form_width_px);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addLayout(left);
    row->addLayout(middle, 1);
    row->addWidget(form_);

    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        if (filling_) return;
        wanted_ = key();
        refreshBody();
    });
    connect(form_, &EntryForm::wrong, this, [this](const QString& words) { emit session_.notice(words, true); });
    const auto whenSeen = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_, &Session::reportsChanged, this, whenSeen);
    connect(&session_, &Session::projectChanged, this, whenSeen);
}

QString DrivelineStage::key() const { return keyOf(list_); }
QString DrivelineStage::words() const { return words_->text(); }

void DrivelineStage::choose(const QString& key) {
    wanted_ = key;
    refresh();
}

void DrivelineStage::leadTo(const std::string& finding) {
    const QString id = q(finding).section(QLatin1Char(':'), 1); // "rear/joint-1/running", "interface/stub"
    if (finding.rfind("gearing", 0) == 0) return choose(QStringLiteral("gearing"));
    const QString first = id.section(QLatin1Char('/'), 0, 0);
    if (first == QLatin1String("interface"))
        return choose(QStringLiteral("interface:") + id.section(QLatin1Char('/'), 1, 1));
    if (first == QLatin1String("bellhousing")) return choose(QStringLiteral("bell"));
    for (const char* kind : {"line:", "coupling:"})
        for (const StageItem& item : itemsOf(*session_.project(), nullptr))
            if (item.key == QLatin1String(kind) + first) return choose(item.key);
}

void DrivelineStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (session_.hasProject()) refresh();
}

void DrivelineStage::refresh() {
    if (!session_.hasProject()) return;
    filling_ = true;
    const auto reports = session_.reports();
    fillItems(list_, itemsOf(*session_.project(), reports.get()), wanted_);
    wanted_ = key();
    filling_ = false;
    refreshBody();
}

void DrivelineStage::refreshBody() {
    const QString chosen = key();
    view_->show(chosen, session_.reports(), session_.shown());
    delete_->setEnabled(!chosen.isEmpty());
    bar_->choose(chosen);
    try_->setVisible(chosen.startsWith(QLatin1String("coupling:")));
    form_->show(drivelineFields(session_, chosen), session_.shown(), chosen);
    fillChecks();
    fillHelp();
}

void DrivelineStage::fillChecks() {
    const auto reports = session_.reports();
    checks_->setRowCount(0);
    checks_->setHorizontalHeaderLabels(key() == QLatin1String("gearing")
                                           ? QStringList{tr("Gear"), tr("Top speed"), tr("Speed and pull")}
                                           : QStringList{tr("What"), tr("Is"), tr("Wanted")});
    words_->clear();
    caution_->clear();
    if (!reports) return;
    const QString chosen = key();
    const auto caution = [](const char* thing) { return q(model::cautionAbout(store::defaultRuleBook(), thing)); };
    const auto put = [&](const std::vector<driveline::Check>& list) {
        for (const driveline::Check& check : list) addCheck(checks_, check, session_.shown());
    };
    if (const auto* line = lineOf(*reports, chosen)) {
        put(line->checks);
        QString text;
        if (line->speed_rpm)
            text = tr("At %1 rpm: %2. ").arg(QString::number(*line->speed_rpm, 'f', 0), q(line->speed_source));
        for (const model::ShaftLine& given : reports->project->driveline->lines)
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
        words_->setText(text.trimmed());
        caution_->setText(line->joints.empty() || !line->usable ? QString() : caution("driveline/shaft"));
        if (const model::Donor* donor = model::activeDonor(*reports->project))
            if (std::any_of(donor->bodies.begin(), donor->bodies.end(),
                            [](const model::Body& b) { return b.category == "motor"; }))
                caution_->setText(caution("driveline/jack") + QLatin1Char(' ') + caution("driveline/high_voltage"));
    } else if (const auto* coupling = couplingOf(*reports, chosen)) {
        put(coupling->checks);
        QString text = q(driveline::couplingWords(*reports->project, *coupling, session_.shown()));
        if (coupling->tries.size() > 1) {
            QStringList before; // how it came to be
            for (const driveline::CouplingTryReport& t : coupling->tries)
                before << tr("%1 %2").arg(q(t.name),
                                          t.tilt_deg ? q(quantity::angleText(*t.tilt_deg, 2)) : tr("not known"));
            text += tr(" Tries: %1.").arg(before.join(QStringLiteral("; ")));
        }
        words_->setText(text);
        caution_->setText(caution("driveline/shaft"));
    } else if (chosen == QLatin1String("bell") && reports->of<driveline::DrivelineReport>()) {
        put(reports->of<driveline::DrivelineReport>()->bell);
        QStringList missing;
        for (const std::string& what : reports->of<driveline::DrivelineReport>()->missing) missing << q(what);
        words_->setText(missing.join(QLatin1Char(' ')));
        caution_->setText(caution("driveline/bellhousing"));
    } else if (chosen.startsWith(QLatin1String("interface:")) && reports->of<driveline::DrivelineReport>()) {
        for (const auto& interface : reports->of<driveline::DrivelineReport>()->interfaces) {
            if (QStringLiteral("interface:") + q(interface.id) != chosen) continue;
            QString text = QLatin1String(driveline::matingWords(interface.mating));
            for (const std::string& reason : interface.reasons) text += QLatin1Char(' ') + q(reason);
            words_->setText(text);
        }
        if (words_->text().isEmpty()) words_->setText(tr("It belongs to another donor than the one that hangs."));
    } else if (chosen.startsWith(QLatin1String("reading:")) && reports->of<driveline::DrivelineReport>()) {
        for (const auto& angle : reports->of<driveline::DrivelineReport>()->angles) {
            if (QStringLiteral("reading:") + q(angle.id) != chosen) continue;
            const auto deg = [](double v) { return q(quantity::angleText(v, 2)); };
            QString text = angle.angle_deg ? tr("In the vehicle: %1.").arg(deg(*angle.angle_deg))
                                           : tr("Relative only: give the vehicle's slope at that time.");
            if (angle.planned_deg) text += tr(" The project has %1").arg(deg(*angle.planned_deg));
            if (angle.apart_deg) text += tr(", %1 apart.").arg(deg(*angle.apart_deg));
            words_->setText(text);
        }
    } else if (chosen == QLatin1String("gearing") && reports->of<gearing::GearingReport>()) {
        const gearing::GearingReport& g = *reports->of<gearing::GearingReport>();
        const quantity::Shown shown = session_.shown();
        const auto speed = [&shown](const std::optional<double>& kmh, int decimals) {
            return kmh ? q(quantity::speedText(*kmh, shown, decimals)) : QStringLiteral("–");
        };
        QStringList text;
        if (g.cruise_rpm)
            text << tr("At cruise %1 rpm in the longest gear.").arg(QString::number(*g.cruise_rpm, 'f', 0));
        const auto drive = [&](const QString& what, const std::optional<double>& ratio) {
            if (ratio) text << tr("%1: final drive %2.").arg(what, QString::number(*ratio, 'f', 2));
        };
        drive(tr("For the wanted revs"), g.drive_for_cruise);
        drive(tr("For the original vehicle's revs"), g.drive_for_original_cruise);
        drive(tr("For its pull for each kilogram"), g.drive_for_original_force);
        if (g.speedo_error)
            text << tr("%1: %2.").arg(q(gearing::speedoWords(g, shown)), QLatin1String(model::word(g.speedo_verdict)));
        for (const std::string& what : g.missing) text << tr("Not given: %1.").arg(q(what));
        words_->setText(text.join(QLatin1Char(' ')));
        caution_->setText(tr("%1 % lost from crank to wheels (%2); slip, gradient and air are left out.")
                              .arg(QString::number(g.loss * 100, 'f', 0), q(g.loss_source)));
        for (const auto& gear : g.gears) {
            const int row = checks_->rowCount();
            checks_->insertRow(row);
            setRow(
                checks_, row,
                {tr("Gear %1%2, %3 : 1")
                     .arg(q(gear.name), gear.low_range ? tr(", low") : QString(), QString::number(gear.ratio, 'f', 2)),
                 speed(gear.top_kmh, 0),
                 tr("%1 at 1000 rpm; %2").arg(speed(gear.kmh_per_1000, 1), q(gearing::pullWords(gear, shown)))},
                {0, 2});
        }
    }
    fitToRows(checks_);
    words_->setVisible(!words_->text().isEmpty());
    caution_->setVisible(!caution_->text().isEmpty());
}

QPushButton* DrivelineStage::helpButton(const QString& name, const QString& text) {
    return addAdvice(help_, this, name, text);
}

/// What would put it right, each as a button that does it as one step.
void DrivelineStage::fillHelp() {
    clearLayout(help_);
    const auto reports = session_.reports();
    if (!reports) return;
    const QString chosen = key();
    const QFontMetrics metrics(font());
    const auto shortened = [&](const QString& text) { return metrics.elidedText(text, Qt::ElideRight, 520); };
    if (const auto* line = lineOf(*reports, chosen)) {
        int n = 0;
        for (const driveline::Cure& cure : line->cures) {
            const QString text = q(driveline::cureWords(*line, cure, session_.shown()));
            QPushButton* button = helpButton(QStringLiteral("cure:%1").arg(n++), shortened(text));
            button->setToolTip(text);
            connect(button, &QPushButton::clicked, this, [this, cure, id = line->id, text] {
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
            connect(helpButton(QStringLiteral("keep:%1").arg(slip.shaft), text), &QPushButton::clicked, this,
                    [this, report = *line, by = *slip.moved_mm, text] {
                        take(driveline::withUnitOnward(*session_.project(), report, by), text);
                    });
        }
    if (const auto* coupling = couplingOf(*reports, chosen); coupling && !coupling->tries.empty()) {
        const auto& last = coupling->tries.back();
        const auto apply = [&](const char* name, const QString& text, const std::optional<driveline::MountMove>& move) {
            if (!move || !driveline::placementMoved(*reports->project, *coupling, *move)) return;
            connect(helpButton(QString::fromLatin1(name), text), &QPushButton::clicked, this,
                    [this, move = *move, report = *coupling, text] {
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
            connect(helpButton(QStringLiteral("take_angle"), text), &QPushButton::clicked, this,
                    [this, id = angle.id, text] { take(driveline::withReadingTaken(*session_.project(), id), text); });
        }
}

void DrivelineStage::take(Result<model::Project> changed, const QString& what) {
    if (!changed) return emit session_.notice(q(changed.error().line()), true);
    session_.change(what, std::move(changed.value()));
}

void DrivelineStage::add(const QString& kind) {
    model::Project changed = *session_.project();
    QString made = kind;
    // Where there are several donors it is the hanging one's.
    const model::Donor* hangs = changed.donors.size() > 1 ? model::activeDonor(changed) : nullptr;
    const std::string of = hangs ? hangs->id.text : std::string();
    if (kind == QLatin1String("gearing")) {
        if (!changed.gearing) {
            changed.gearing.emplace();
            changed.gearing->donor = of;
            changed.gearing->gears = {{"1", 3.8, false, {}},
                                      {"2", 2.1, false, {}},
                                      {"3", 1.4, false, {}},
                                      {"4", 1, false, {}},
                                      {"R", 3.6, true, {}}};
        }
    } else {
        if (!changed.driveline) changed.driveline.emplace();
        model::Driveline& d = *changed.driveline;
        std::vector<std::string> taken = idsOf(d.lines);
        for (const auto& more : {idsOf(d.couplings), idsOf(d.interfaces), idsOf(d.readings)})
            taken.insert(taken.end(), more.begin(), more.end());
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
    wanted_ = made;
    session_.change(tr("add to the driveline"), std::move(changed));
    refresh();
    form_->begin();
}

void DrivelineStage::addTry() {
    model::Project changed = *session_.project();
    if (!changed.driveline) return;
    for (model::CouplingCheck& coupling : changed.driveline->couplings) {
        if (QStringLiteral("coupling:") + q(coupling.id) != key()) continue;
        model::CouplingTry t;
        std::vector<std::string> taken = idsOf(coupling.tries);
        t.name = coupling.tries.empty() ? "As hung" : "After moving";
        t.id = model::freshId(t.name, taken);
        coupling.tries.push_back(std::move(t));
    }
    session_.change(tr("begin a new try at the coupling"), std::move(changed));
    refresh();
}

void DrivelineStage::remove() {
    const QString chosen = key();
    model::Project changed = *session_.project();
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    const auto drop = [&id](auto& list) {
        list.erase(std::remove_if(list.begin(), list.end(), [&](const auto& item) { return item.id == id; }),
                   list.end());
    };
    if (chosen == QLatin1String("gearing")) changed.gearing.reset();
    if (changed.driveline) {
        if (chosen.startsWith(QLatin1String("line:"))) drop(changed.driveline->lines);
        if (chosen.startsWith(QLatin1String("coupling:"))) drop(changed.driveline->couplings);
        if (chosen.startsWith(QLatin1String("interface:"))) drop(changed.driveline->interfaces);
        if (chosen.startsWith(QLatin1String("reading:"))) drop(changed.driveline->readings);
        if (chosen == QLatin1String("bell")) changed.driveline->bell.reset();
    }
    session_.change(tr("delete %1").arg(list_->currentItem()->text().section(QLatin1Char('\n'), 0, 0)),
                    std::move(changed));
    refresh();
}

} // namespace gabarit::app

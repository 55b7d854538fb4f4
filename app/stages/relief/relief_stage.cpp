#include "stages/relief/relief_stage.h"

#include "fit/fit_report.h"
#include "forms/editing.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "relief/apply.h"
#include "relief/relief.h"
#include "shell/tones.h"
#include "stages/check_sheet.h"
#include "stages/relief/relief_fields.h"
#include "stages/relief/relief_view.h"
#include "store/rule_book.h"

#include <QDate>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

constexpr int list_width_px = 170, form_width_px = 322, below_height_px = 232;

QString caution(const char* thing) { return q(model::cautionAbout(store::defaultRuleBook(), thing)); }

std::vector<StageItem> itemsOf(const model::Project& project, const study::Reports* reports) {
    std::vector<StageItem> out;
    if (!project.relief) return out;
    const relief::ReliefReport* report =
        reports && reports->of<relief::ReliefReport>() ? &*reports->of<relief::ReliefReport>() : nullptr;
    const auto list = [&](const char* kind, const auto& items, bool judged) {
        for (const auto& item : items) {
            StageItem made{QLatin1String(kind) + q(item.id), q(item.name), {}};
            if (report && judged) {
                made.verdict = model::Verdict::Go;
                for (const model::Check& check : report->checks)
                    if (check.id.rfind(item.id + "/", 0) == 0)
                        made.verdict = model::worse(*made.verdict, check.verdict);
            }
            out.push_back(std::move(made));
        }
    };
    list("pocket:", project.relief->pockets, true);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const model::Pocket& pocket = project.relief->pockets[i];
        const model::Body* body = model::findBody(project, {model::vehicle_owner, pocket.body});
        const bool elsewhere = body && !model::isTaken(project, model::vehicle_owner, body->option);
        if (elsewhere) out[i].words += QObject::tr("\nanother form is taken");
        if (elsewhere || pocket.set_aside) out[i].verdict.reset();
    }
    list("tube:", project.relief->tubes, true);
    list("plate:", project.relief->plates, true);
    list("hole:", project.relief->holes, false);
    return out;
}

std::vector<std::string> allIds(const model::Relief& relief) {
    std::vector<std::string> out;
    const auto into = [&out](const auto& list) {
        for (const auto& item : list) out.push_back(item.id);
    };
    into(relief.pockets);
    into(relief.tubes);
    into(relief.plates);
    into(relief.holes);
    return out;
}

QString percent(double share) { return QString::number(share * 100, 'f', 0) + QStringLiteral(" %"); }

} // namespace

ReliefStage::ReliefStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QListWidget(this)), view_(new ReliefView(this)),
      checks_(makeCheckSheet(this)), words_(new QLabel(this)), caution_(new QLabel(this)),
      progress_(new QProgressBar(this)), who_(new QLineEdit(this)), help_(new QVBoxLayout), form_(new EntryForm(this)),
      menu_(new QMenu(this)) {
    list_->setAccessibleName(tr("Pockets, tubes and plates"));
    for (QLabel* label : {words_, caution_}) {
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
    }
    QPalette quiet = caution_->palette();
    quiet.setColor(QPalette::WindowText, tones().second_ink);
    caution_->setPalette(quiet);
    who_->setPlaceholderText(tr("Who signs"));
    who_->setAccessibleName(tr("Who signs"));
    who_->setObjectName(QStringLiteral("who"));
    progress_->setMaximum(0);
    progress_->hide();

    auto* left = new QVBoxLayout;
    left->setContentsMargins(12, 14, 0, 14);
    left->addWidget(list_, 1);
    auto* make = new QPushButton(tr("New"), this);
    make->setObjectName(QStringLiteral("new"));
    make->setMinimumHeight(target_px);
    make->setMenu(menu_);
    connect(menu_, &QMenu::aboutToShow, this, &ReliefStage::fillMenu);
    left->addWidget(make);
    delete_ = new QPushButton(tr("Delete"), this);
    delete_->setObjectName(QStringLiteral("delete"));
    delete_->setMinimumHeight(target_px);
    connect(delete_, &QPushButton::clicked, this, &ReliefStage::remove);
    left->addWidget(delete_);

    auto* middle = new QVBoxLayout;
    middle->setContentsMargins(12, 14, 12, 10);
    middle->setSpacing(6);
    middle->addWidget(view_, 1);
    auto* below = new QScrollArea(this);
    below->setWidgetResizable(true);
    below->setFrameShape(QFrame::NoFrame);
    below->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    below->setFixedHeight(below_height_px);
    auto* inner = new QWidget(below);
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(0, 0, 6, 0);
    column->setSpacing(6);
    column->addWidget(words_);
    column->addWidget(progress_);
    help_->setSpacing(4);
    column->addLayout(help_);
    column->addWidget(who_);
    column->addWidget(checks_);
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
    connect(view_, &ReliefView::dragged, this, [this](const model::Pocket& pocket) {
        session_.edit(tr("drag the pocket"), relief::withPocket(*session_.project(), book(), pocket));
    });
    connect(this, &ReliefStage::proposed, this, [this](int search) {
        if (search != search_) return; // of one that was stopped as it ended
        if (worker_.joinable()) worker_.join();
        progress_->hide();
        const auto found = std::move(found_);
        if (!found || proposed_for_ != session_.project()) return; // something changed meanwhile
        if (!*found) return emit session_.notice(q(found->error().line()), true);
        wanted_ = QStringLiteral("pocket:") + q(found->value().pocket.id);
        session_.change(tr("cut a pocket"), relief::withPocket(*session_.project(), book(), found->value().pocket));
    });
    connect(this, &ReliefStage::waysCompared, this, [this](int search) {
        if (search != search_) return; // of one that was stopped as it ended
        if (worker_.joinable()) worker_.join();
        progress_->hide();
        const auto compared = std::move(compared_);
        if (!compared || proposed_for_ != session_.project()) return;
        if (!*compared) return emit session_.notice(q(compared->error().line()), true);
        ways_ = std::make_shared<const make::ReliefWays>(std::move(compared->value()));
        fillHelp();
    });
    const auto whenSeen = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_, &Session::reportsChanged, this, whenSeen);
    connect(&session_, &Session::projectChanged, this, whenSeen);
}

ReliefStage::~ReliefStage() { stopProposing(); }

model::RuleBook ReliefStage::book() const {
    return model::applied(store::defaultRuleBook(), session_.project()->rules);
}

void ReliefStage::stopProposing() {
    stop_.stop();
    if (worker_.joinable()) worker_.join();
    stop_ = StopToken();
    ++search_;
    progress_->hide(); // what was stopped says nothing any more
}

QString ReliefStage::key() const { return keyOf(list_); }
QString ReliefStage::words() const { return words_->text(); }

void ReliefStage::choose(const QString& key) {
    wanted_ = key;
    refresh();
}

void ReliefStage::leadTo(const std::string& finding) {
    const QString first = q(finding).section(QLatin1Char(':'), 1).section(QLatin1Char('/'), 0, 0);
    for (const StageItem& item : itemsOf(*session_.project(), nullptr))
        if (item.key.section(QLatin1Char(':'), 1) == first) return choose(item.key);
}

void ReliefStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (session_.hasProject()) refresh();
}

void ReliefStage::refresh() {
    if (!session_.hasProject()) return;
    filling_ = true;
    const auto reports = session_.reports();
    fillItems(list_, itemsOf(*session_.project(), reports.get()), wanted_);
    wanted_ = key();
    filling_ = false;
    refreshBody();
}

void ReliefStage::refreshBody() {
    const QString chosen = key();
    const auto reports = session_.reports();
    view_->show(reports, chosen, session_.shown());
    delete_->setEnabled(!chosen.isEmpty());
    form_->show(reliefFields(session_, chosen), session_.shown(), chosen);
    checks_->setRowCount(0);
    words_->clear();
    caution_->clear();
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    if (reports && reports->of<relief::ReliefReport>() && !chosen.isEmpty()) {
        const quantity::Shown& shown = session_.shown();
        const auto length = [&shown](double mm) { return q(quantity::lengthText(mm, shown)); };
        QString name;
        QStringList text;
        if (const auto* p = byId(reports->of<relief::ReliefReport>()->pockets, id);
            p && chosen.startsWith(QLatin1String("pocket:"))) {
            name = q(p->name);
            if (p->reason.empty()) {
                text << tr("%1 out, %2 in.")
                            .arg(q(quantity::massText(p->cut_kg, shown, 2)),
                                 q(quantity::massText(p->plates_kg, shown, 2)));
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
            caution_->setText(caution("relief/cut") + QLatin1Char(' ') + caution("relief/work"));
        } else if (const auto* tube = byId(reports->of<relief::ReliefReport>()->tubes, id);
                   tube && tube->made && chosen.startsWith(QLatin1String("tube:"))) {
            name = q(tube->name);
            text << tr("%1 from long point to long point, %2 between its short ones; ends turned %3 against one "
                       "another. %4.")
                        .arg(length(tube->made->long_points_mm), length(tube->made->short_points_mm),
                             q(quantity::angleText(tube->made->turn_deg, 1)),
                             q(quantity::massText(tube->made->mass_kg, shown, 2)));
            text << tr("Templates wrap round its outside: start line on the mark on top.");
        } else if (const auto* plate = byId(reports->of<relief::ReliefReport>()->plates, id);
                   plate && plate->made && chosen.startsWith(QLatin1String("plate:"))) {
            name = q(plate->name);
            text << tr("%1, %2.").arg(length(plate->made->pattern.thickness_mm),
                                      q(quantity::massText(plate->made->mass_kg, shown, 2)));
            if (plate->made->bolt_mm) text << tr("Bolts %1 under the head.").arg(length(*plate->made->bolt_mm));
        }
        words_->setText(text.join(QLatin1Char(' ')));
        for (const model::Check& check : reports->of<relief::ReliefReport>()->checks)
            if (check.id.rfind(id + "/", 0) == 0) addCheck(checks_, check, shown, name);
    }
    fitToRows(checks_);
    words_->setVisible(!words_->text().isEmpty());
    caution_->setVisible(!caution_->text().isEmpty());
    fillHelp();
}

void ReliefStage::fillMenu() {
    menu_->clear();
    const auto item = [this](const QString& name, const QString& text, auto act) {
        QAction* action = menu_->addAction(text);
        action->setObjectName(name);
        connect(action, &QAction::triggered, this, act);
    };
    const auto reports = session_.reports();
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
    item(QStringLiteral("pocket"), tr("Pocket by hand"), [this] { add(QStringLiteral("pocket")); });
    item(QStringLiteral("tube"), tr("Tube cut to fit"), [this] { add(QStringLiteral("tube")); });
    item(QStringLiteral("plate"), tr("Plate with a hole pattern"), [this] { add(QStringLiteral("plate")); });
    item(QStringLiteral("hole"), tr("Hole or seam to keep"), [this] { add(QStringLiteral("hole")); });
}

QPushButton* ReliefStage::helpButton(const QString& name, const QString& text) {
    return addAdvice(help_, this, name, text);
}
void ReliefStage::remark(const QString& text) { addRemark(help_, this, text); }

void ReliefStage::fillHelp() {
    clearLayout(help_);
    who_->hide();
    if (!session_.hasProject()) return;
    helpWays();
    const QString chosen = key();
    const auto reports = session_.reports();
    if (!chosen.startsWith(QLatin1String("pocket:")) || !reports || !reports->of<relief::ReliefReport>()) return;
    const std::string id = chosen.mid(7).toStdString();
    const relief::PocketReport* report = byId(reports->of<relief::ReliefReport>()->pockets, id);
    const model::Pocket* pocket = session_.project()->relief ? byId(session_.project()->relief->pockets, id) : nullptr;
    if (!report || !pocket) return;
    const double wanted = book().figure("section_wanted_share");
    if (report->reason.empty() && report->strength.share < wanted && report->restoring) {
        const double plate = report->restoring->plate_mm, strap = report->restoring->strap_mm;
        const auto length = [this](double mm) { return q(quantity::lengthText(mm, session_.shown())); };
        connect(helpButton(QStringLiteral("restore"),
                           strap > 0 ? tr("Close it with plate of %1 and a strap of %2 on the far face: the section is "
                                          "back")
                                           .arg(length(plate), length(strap))
                                     : tr("Close it with plate of %1: the section is back").arg(length(plate))),
                &QPushButton::clicked, this, [this, id, plate, strap] {
                    const model::Pocket* now = byId(session_.project()->relief->pockets, id);
                    if (!now) return;
                    model::Pocket next = *now;
                    next.plate_mm = plate;
                    next.doubler_mm = strap;
                    if (strap > 0 && next.doubler_over_mm <= 0) next.doubler_over_mm = book().figure("strap_over_mm");
                    session_.edit(tr("restore the section"), relief::withPocket(*session_.project(), book(), next));
                });
    }
    connect(helpButton(QStringLiteral("aside"),
                       pocket->set_aside ? tr("Count it again") : tr("Set it aside: see the gaps without it")),
            &QPushButton::clicked, this, [this, id] {
                model::Project changed = *session_.project();
                if (model::Pocket* its = byId(changed.relief->pockets, id)) its->set_aside = !its->set_aside;
                session_.change(tr("set a pocket aside or count it"), std::move(changed));
            });
    bool next = report->reason.empty() && !pocket->set_aside;
    for (const model::HoldState& hold : report->holds) {
        const QString what = QLatin1String(model::word(hold.hold));
        if (hold.signed_off) {
            QStringList changed;
            for (const std::string& c : hold.changed) changed << q(c);
            remark(changed.isEmpty() ? tr("Signed: %1 %2 %3").arg(what, q(hold.date), q(hold.who))
                                     : tr("Open again: %1. %2.").arg(what, changed.join(QStringLiteral("; "))));
        }
        if (hold.holds || !next) continue;
        next = false;
        who_->show();
        connect(helpButton(QStringLiteral("sign:%1").arg(static_cast<int>(hold.hold)), tr("Sign: %1").arg(what)),
                &QPushButton::clicked, this, [this, id, step = hold.hold, what] {
                    take(relief::withSigned(*session_.project(), id, step,
                                            QDate::currentDate().toString(Qt::ISODate).toStdString(),
                                            typedWords(who_->text()), ""),
                         tr("sign: %1").arg(what));
                });
    }
}

void ReliefStage::take(Result<model::Project> changed, const QString& what) {
    if (!changed) return emit session_.notice(q(changed.error().line()), true);
    session_.change(what, std::move(changed.value()));
}

std::shared_ptr<const study::Reports> ReliefStage::fresh() {
    stopProposing();
    const auto reports = session_.reports();
    if (reports && reports->complete && reports->project == session_.project()) return reports;
    emit session_.notice(tr("The gaps are still being measured: try again in a moment."), false);
    return nullptr;
}

void ReliefStage::compareWays(const std::string& body) {
    const auto reports = fresh();
    if (!reports) return;
    model::BodyRef mine;
    for (const model::BodyRef& ref : make::intrudersOf(*reports, {body}))
        if (!ref.inVehicle() && mine.owner.empty()) mine = ref;
    if (mine.owner.empty()) return;
    const model::Body* first = model::findBody(*session_.project(), mine);
    const model::Body* second = model::findBody(*session_.project(), {model::vehicle_owner, {body}});
    ways_of_ = tr("%1 and %2").arg(q(first->name), q(second->name).toLower());
    ways_.reset();
    proposed_for_ = session_.project();
    progress_->show();
    worker_ = std::thread([this, reports, body, mine, shown = session_.shown(), stop = stop_, search = search_] {
        study::Study study(store::defaultRuleBook());
        study::RunOptions options;
        options.shown = shown;
        options.stop = stop;
        auto ways =
            make::waysOut(study, *reports, store::defaultRuleBook(), mine, {model::vehicle_owner, {body}}, options);
        if (stop.stopped()) return;
        compared_ = std::make_shared<Result<make::ReliefWays>>(std::move(ways));
        emit waysCompared(search);
    });
}

/// The ways that were compared, each as a button that takes it.
void ReliefStage::helpWays() {
    if (!ways_ || proposed_for_ != session_.project()) return;
    const auto standing = [this](const make::StandingCount& s) {
        QString out = tr("%1 gaps no-go, %2 close").arg(s.no_go).arg(s.close);
        if (s.driveline) out += tr(", driveline %1").arg(QLatin1String(model::word(*s.driveline)));
        return out;
    };
    remark(tr("%1, as it is: %2.").arg(ways_of_, standing(ways_->now)));
    int n = 0;
    for (const make::ReliefWay& way : ways_->ways) {
        const QString name = QStringLiteral("way:%1").arg(n++);
        if (!way.project) {
            remark(tr("%1: %2.").arg(q(way.name), q(way.reason)));
            continue;
        }
        QString text = tr("%1: %2").arg(q(way.name), standing(way.then));
        if (!way.frees) text += tr(", this pair not yet free");
        if (way.then.cost && ways_->now.cost && *way.then.cost != *ways_->now.cost)
            text += tr(", %1 %2").arg(QString::number(std::abs(*way.then.cost - *ways_->now.cost), 'f', 0),
                                      *way.then.cost > *ways_->now.cost ? tr("more") : tr("less"));
        if (way.section_share) text += tr(", section %1").arg(percent(*way.section_share));
        QStringList tip{text};
        for (const std::string& came : way.against.came) tip << tr("comes: %1").arg(q(came));
        for (const std::string& went : way.against.went) tip << tr("goes: %1").arg(q(went));
        QPushButton* button = helpButton(name, text);
        button->setToolTip(tip.join(QLatin1Char('\n')));
        connect(button, &QPushButton::clicked, this, [this, project = way.project, name = q(way.name)] {
            session_.change(tr("take a way out: %1").arg(name), *project);
        });
    }
}

void ReliefStage::propose(const std::string& body) {
    const auto reports = fresh();
    if (!reports) return;
    proposed_for_ = session_.project();
    progress_->show();
    worker_ = std::thread([this, reports, body, stop = stop_, search = search_] {
        proximity::ColliderCache cache;
        fit::GapMemo memo;
        const model::BodyId id{body};
        auto found = make::proposedPocket(*reports, store::defaultRuleBook(), id, make::intrudersOf(*reports, id),
                                          cache, memo, stop);
        if (stop.stopped()) return;
        found_ = std::make_shared<Result<make::PocketProposed>>(std::move(found));
        emit proposed(search);
    });
}

void ReliefStage::add(const QString& kind) {
    model::Project changed = *session_.project();
    if (!changed.relief) changed.relief.emplace();
    model::Relief& relief = *changed.relief;
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
        if (!body) return emit session_.notice(tr("There is no body to cut: survey the vehicle first."), true);
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
    wanted_ = made;
    session_.change(tr("add to the relief"), std::move(changed));
    refresh();
    form_->begin();
}

void ReliefStage::remove() {
    const QString chosen = key();
    if (chosen.isEmpty() || !session_.project()->relief) return;
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    model::Project changed = *session_.project();
    const auto drop = [&](auto& list) {
        list.erase(std::remove_if(list.begin(), list.end(), [&id](const auto& item) { return item.id == id; }),
                   list.end());
    };
    if (chosen.startsWith(QLatin1String("pocket:")))
        changed = relief::withoutPocket(changed, id);
    else if (chosen.startsWith(QLatin1String("tube:")))
        drop(changed.relief->tubes);
    else if (chosen.startsWith(QLatin1String("plate:")))
        drop(changed.relief->plates);
    else
        drop(changed.relief->holes);
    session_.change(tr("delete %1").arg(list_->currentItem()->text().section(QLatin1Char('\n'), 0, 0)),
                    std::move(changed));
    refresh();
}

} // namespace gabarit::app

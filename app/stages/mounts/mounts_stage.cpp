#include "stages/mounts/mounts_stage.h"

#include "discipline/check_words.h"
#include "fit/fit_report.h"
#include "forms/editing.h"
#include "make/bracket_route.h"
#include "model/edit.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "placed/scene.h"
#include "shell/tones.h"
#include "stages/check_sheet.h"
#include "stages/mounts/mounts_fields.h"
#include "stages/mounts/mounts_view.h"
#include "store/rule_book.h"
#include "weights/driven_load.h"

#include <QComboBox>
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

using mounts::Which;

constexpr int list_width_px = 170, form_width_px = 322, below_height_px = 214;

QString caution(const char* thing) { return q(model::cautionAbout(store::defaultRuleBook(), thing)); }

/// Which checks speak of a thing: those whose ids begin with its id.
bool speaksOf(const model::Check& check, const std::string& id) { return check.id.rfind(id + "/", 0) == 0; }

std::vector<StageItem> itemsOf(const model::Project& project, const study::Reports* reports) {
    std::vector<StageItem> out;
    if (!project.mounts) return out;
    const model::Mounts& m = *project.mounts;
    const mounts::MountsReport* report =
        reports && reports->of<mounts::MountsReport>() ? &*reports->of<mounts::MountsReport>() : nullptr;
    const auto verdictOf = [&](const std::string& id) {
        std::optional<model::Verdict> out_verdict;
        if (report && report->usable) {
            out_verdict = model::Verdict::Go;
            for (const model::Check& check : report->checks)
                if (speaksOf(check, id)) out_verdict = model::worse(*out_verdict, check.verdict);
        }
        return out_verdict;
    };
    const auto list = [&](const char* kind, const auto& items, bool judged) {
        for (const auto& item : items)
            out.push_back({QLatin1String(kind) + q(item.id), q(item.name),
                           judged ? verdictOf(item.id) : std::optional<model::Verdict>()});
    };
    {
        StageItem unit{QStringLiteral("unit"), QObject::tr("The unit, how it shakes"), {}};
        if (report && report->usable) {
            unit.verdict = model::Verdict::Go;
            for (const model::Check& check : report->checks)
                if (check.id.rfind("mode", 0) == 0 || check.id == "second-order" || check.id == "layout")
                    unit.verdict = model::worse(*unit.verdict, check.verdict);
        }
        out.push_back(std::move(unit));
    }
    list("mount:", m.mounts, true);
    list("crossmember:", m.crossmembers, true);
    list("frame:", m.frames, true);
    list("old:", m.old_mounts, false);
    for (std::size_t i = 0; i < m.old_mounts.size(); ++i) {
        const char* const states[] = {"stays", "planned to go", "gone"};
        out[out.size() - m.old_mounts.size() + i].words +=
            QLatin1Char('\n') + QObject::tr(states[static_cast<int>(m.old_mounts[i].state)]);
    }
    list("row:", m.rows, false);
    list("seat:", m.seats, false);
    list("isolator:", m.isolators, false);
    return out;
}

template <class List>
void idsInto(std::vector<std::string>& out, const List& list) {
    for (const auto& item : list) out.push_back(item.id);
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

QString standingWords(const mounts::Standing& s, const quantity::Shown& shown) {
    QStringList out;
    if (s.passes_at_idle) out << QObject::tr("%1 % of the shake passes at idle").arg(qRound(*s.passes_at_idle * 100));
    if (s.rolls_deg) out << QObject::tr("rolls %1").arg(q(quantity::angleText(*s.rolls_deg, 2)));
    if (s.goes_mm) out << QObject::tr("goes %1").arg(q(quantity::lengthText(*s.goes_mm, shown)));
    if (s.roll_hz) out << QObject::tr("roll at %1 Hz").arg(*s.roll_hz, 0, 'f', 1);
    if (s.no_go > 0) out << QObject::tr("%1 no-go").arg(s.no_go);
    return out.join(QStringLiteral(", "));
}

} // namespace

MountsStage::MountsStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QListWidget(this)), view_(new MountsView(this)),
      look_(new QComboBox(this)), play_(new QPushButton(tr("Play"), this)), checks_(makeCheckSheet(this)),
      words_(new QLabel(this)), caution_(new QLabel(this)), progress_(new QProgressBar(this)),
      who_(new QLineEdit(this)), help_(new QVBoxLayout), form_(new EntryForm(this)) {
    list_->setAccessibleName(tr("Mounts, crossmembers, frames, seats"));
    list_->setWordWrap(true);
    look_->setObjectName(QStringLiteral("look"));
    look_->setAccessibleName(tr("Load or way of shaking"));
    look_->setMinimumHeight(target_px);
    look_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    play_->setObjectName(QStringLiteral("play"));
    play_->setMinimumHeight(target_px);
    play_->setCheckable(true);
    progress_->hide();
    who_->setObjectName(QStringLiteral("who"));
    who_->setPlaceholderText(tr("Who signs"));
    who_->setAccessibleName(tr("Who signs"));
    who_->setMinimumHeight(target_px);
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
    const std::pair<const char*, QString> kinds[] = {{"mount", tr("Mount")},
                                                     {"crossmember", tr("Crossmember under the gearbox")},
                                                     {"row", tr("Row of holes along a rail")},
                                                     {"seat", tr("Seat of the old engine")},
                                                     {"frame", tr("Frame on seats")},
                                                     {"old", tr("Old mount")},
                                                     {"isolator", tr("Isolator of your own")}};
    for (const auto& [kind, text] : kinds) {
        QAction* action = menu->addAction(text);
        action->setObjectName(QStringLiteral("new_") + QLatin1String(kind));
        connect(action, &QAction::triggered, this, [this, kind = QString::fromLatin1(kind)] { add(kind); });
    }
    make->setMenu(menu);
    left->addWidget(make);
    const auto button = [&](const char* name, const QString& text, void (MountsStage::*act)()) {
        auto* made = new QPushButton(text, this);
        made->setObjectName(QString::fromLatin1(name));
        made->setMinimumHeight(target_px);
        connect(made, &QPushButton::clicked, this, act);
        left->addWidget(made);
        return made;
    };
    mirror_ = button("mirror", tr("Mirror to the other side"), &MountsStage::mirror);
    delete_ = button("delete", tr("Delete"), &MountsStage::remove);

    auto* middle = new QVBoxLayout;
    middle->setContentsMargins(12, 14, 12, 10);
    middle->setSpacing(6);
    auto* tools = new QHBoxLayout;
    auto* name = new QLabel(tr("Show"), this);
    name->setBuddy(look_);
    tools->addWidget(name);
    tools->addWidget(look_, 1);
    tools->addWidget(play_);
    middle->addLayout(tools);
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
    connect(look_, &QComboBox::currentIndexChanged, this, [this] {
        if (filling_) return;
        play_->setChecked(false);
        refreshBody();
    });
    connect(play_, &QPushButton::toggled, this, [this](bool on) {
        view_->play(on);
        play_->setText(on ? tr("Stop") : tr("Play"));
    });
    connect(form_, &EntryForm::wrong, this, [this](const QString& words) { emit session_.notice(words, true); });
    connect(this, &MountsStage::tuningProgress, this, [this](int done, int all) {
        progress_->setMaximum(all);
        progress_->setValue(done);
    });
    connect(this, &MountsStage::tuningDone, this, [this](int search) {
        if (search != search_) return; // of one that was stopped as it ended
        if (tuner_.joinable()) tuner_.join();
        tuned_ = std::move(found_);
        progress_->hide();
        if (tuned_ && !*tuned_) emit session_.notice(q(tuned_->error().line()), true);
        fillHelp();
    });
    connect(this, &MountsStage::bracketMade, this, [this](int search, bool tower) {
        if (search != search_) return;
        if (tuner_.joinable()) tuner_.join();
        progress_->hide();
        if (tuned_for_ != session_.project())
            return emit session_.notice(tr("Something was changed meanwhile: press it again."), true);
        take(std::move(*made_), tower ? tr("make the tower") : tr("make the bracket"));
    });
    const auto whenSeen = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_, &Session::reportsChanged, this, whenSeen);
    connect(&session_, &Session::projectChanged, this, whenSeen);
}

MountsStage::~MountsStage() { stopTuning(); }

void MountsStage::stopTuning() {
    stop_tuning_.stop();
    if (tuner_.joinable()) tuner_.join();
    stop_tuning_ = StopToken();
    ++search_;
    progress_->hide();
}

QString MountsStage::key() const { return keyOf(list_); }
QString MountsStage::words() const { return words_->text(); }

void MountsStage::choose(const QString& key) {
    wanted_ = key;
    refresh();
}

void MountsStage::lookAt(const QString& what) {
    wanted_look_ = what;
    refresh();
}

void MountsStage::leadTo(const std::string& finding) {
    const QString id = q(finding).section(QLatin1Char(':'), 1);
    const QString first = id.section(QLatin1Char('/'), 0, 0);
    for (const StageItem& item : itemsOf(*session_.project(), nullptr))
        if (item.key.section(QLatin1Char(':'), 1) == first) return choose(item.key);
    choose(QStringLiteral("unit"));
}

void MountsStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (session_.hasProject()) refresh();
}

void MountsStage::refresh() {
    if (!session_.hasProject()) return;
    filling_ = true;
    const auto reports = session_.reports();
    fillItems(list_, itemsOf(*session_.project(), reports.get()), wanted_);
    wanted_ = key();
    fillLook();
    filling_ = false;
    refreshBody();
}

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

void MountsStage::refreshBody() {
    const QString chosen = key();
    const QString what = look_->currentData().toString();
    const bool mount = chosen.startsWith(QLatin1String("mount:"));
    view_->show(session_.reports(), what, chosen, session_.shown());
    play_->setEnabled(what.startsWith(QLatin1String("mode:")));
    if (!play_->isEnabled()) play_->setChecked(false);
    mirror_->setEnabled(mount);
    delete_->setEnabled(!chosen.isEmpty() && chosen != QLatin1String("unit"));
    form_->show(mountsFields(session_, chosen), session_.shown(), chosen);
    fillChecks();
    fillHelp();
}

void MountsStage::fillChecks() {
    const auto reports = session_.reports();
    checks_->setRowCount(0);
    words_->clear();
    caution_->clear();
    const QString chosen = key();
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    const quantity::Shown shown = session_.shown();
    const mounts::MountsReport* report =
        reports && reports->of<mounts::MountsReport>() ? &*reports->of<mounts::MountsReport>() : nullptr;
    if (report) {
        QString mountName; // it stands in the list already
        for (const mounts::MountReport& m : report->mounts)
            if (m.id == id) mountName = q(m.name);
        for (const model::Check& check : report->checks) {
            const bool here = chosen == QLatin1String("unit")
                                  ? check.id.rfind("mode", 0) == 0 || check.id == "second-order" || check.id == "layout"
                                  : speaksOf(check, id);
            if (!here) continue;
            addCheck(checks_, check, shown, mountName);
        }
        QStringList text;
        if (chosen == QLatin1String("unit") && report->usable) {
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
            if (const model::Placement* placement = model::activePlacement(*reports->project);
                placement && placement->rocking.any())
                text << tr(
                    "The gaps are held by the movement given by hand in this placement (Place, Set-up); empty it "
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
            caution_->setText(caution("mounts/hang"));
        }
        for (const mounts::MountReport& m : report->mounts)
            if (chosen == QStringLiteral("mount:") + q(m.id)) {
                const auto force = [&](const std::optional<double>& n) {
                    return n ? q(discipline::forceText(*n, shown)) : tr("not known");
                };
                text << tr("%1, %2; at rest %3 along it and %4 across it, pressed in by %5.")
                            .arg(m.isolator.empty() ? tr("No isolator chosen") : q(m.isolator),
                                 q(mounts::leanWords(mounts::leanOf(m.axes.col(2), m.at_mm.y()))), force(m.rest_n),
                                 force(m.rest_shear_n),
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
                for (const fit::ToolAccess& access : reports->with<fit::FitReport>().access)
                    if (access.id.rfind("mount:" + m.id + ":", 0) == 0 && access.verdict != model::Verdict::Go) {
                        QStringList names;
                        for (const fit::Blocker& blocker : access.blockers) names << q(blocker.name).toLower();
                        text << tr("%1: %2 in the way.").arg(q(access.name), names.join(tr(" and ")));
                    }
                caution_->setText(caution("mounts/weld"));
            }
        for (const mounts::CrossmemberReport& c : report->crossmembers)
            if (chosen == QStringLiteral("crossmember:") + q(c.id)) {
                if (!c.reason.empty())
                    text << q(c.reason);
                else
                    text << tr("Nearest holes: %1 on the left, %2 on the right, %3 %4 in its slots.")
                                .arg(c.left_hole)
                                .arg(c.right_hole)
                                .arg(q(quantity::lengthText(std::abs(c.slid_mm), shown)),
                                     c.slid_mm < 0 ? tr("forward") : tr("rearward"));
                if (c.reason.empty() && !c.reaches)
                    text << tr("One of its own from there: seat %1 rearward, %2 up from between the holes.")
                                .arg(q(quantity::lengthText(c.own_seat_mm.x(), shown)),
                                     q(quantity::lengthText(c.own_seat_mm.z(), shown)));
                for (const fit::ToolAccess& access : reports->with<fit::FitReport>().access)
                    if (access.id == "mount:" + c.id + ":out")
                        text << (access.verdict == model::Verdict::Go
                                     ? tr("It comes out downwards with the gearbox held.")
                                     : tr("It does not come out downwards: %1 in the way.")
                                           .arg(access.blockers.empty() ? tr("something")
                                                                        : q(access.blockers.front().name).toLower()));
                caution_->setText(caution("mounts/hang"));
            }
        for (const mounts::FrameReport& f : report->frames)
            if (chosen == QStringLiteral("frame:") + q(f.id)) {
                if (!f.reason.empty()) text << q(f.reason) + QLatin1Char('.');
                for (const mounts::SeatLoad& seat : f.seats)
                    text << tr("%1: %2 at rest, %3 at most (%4).")
                                .arg(q(seat.name), q(discipline::forceText(seat.rest_n, shown)),
                                     q(discipline::forceText(seat.most_n, shown)), q(seat.most_case).toLower());
                text << tr("%1 of tube, %2.")
                            .arg(q(quantity::lengthText(f.length_mm, shown)),
                                 q(quantity::massText(f.mass_kg, shown, 1)));
                caution_->setText(caution("mounts/weld"));
            }
        words_->setText(text.join(QLatin1Char(' ')));
    }
    if (chosen.startsWith(QLatin1String("old:"))) caution_->setText(caution("mounts/weld"));
    fitToRows(checks_);
    words_->setVisible(!words_->text().isEmpty());
    caution_->setVisible(!caution_->text().isEmpty());
}

QPushButton* MountsStage::helpButton(const QString& name, const QString& text, const QString& tip) {
    return addAdvice(help_, this, name, text, tip);
}
void MountsStage::remark(const QString& text) { addRemark(help_, this, text); }

void MountsStage::fillHelp() {
    clearLayout(help_);
    who_->hide();
    if (!session_.hasProject() || !session_.project()->mounts) return;
    const QString chosen = key();
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    const auto book = [this] { return model::applied(store::defaultRuleBook(), session_.project()->rules); };
    if (chosen == QLatin1String("unit")) {
        connect(helpButton(QStringLiteral("tune"), tr("Look for better rubbers, lean and place")),
                &QPushButton::clicked, this, &MountsStage::tune);
        if (tuned_ && tuned_->ok() && tuned_for_ == session_.project()) {
            const mounts::Tuning& found = tuned_->value();
            remark(tr("Now: %1.").arg(standingWords(found.now, session_.shown())));
            if (found.proposals.empty()) remark(tr("Nothing in the catalogue holds it better."));
            int n = 0;
            for (const mounts::Proposal& proposal : found.proposals) {
                QString tip = q(proposal.what);
                for (const auto& step : proposal.steps)
                    tip += QLatin1Char('\n') +
                           tr("%1 alone: %2").arg(q(step.what), standingWords(step.after, session_.shown()));
                connect(helpButton(QStringLiteral("proposal:%1").arg(n++),
                                   tr("%1: %2").arg(QLatin1String(mounts::word(proposal.aim)),
                                                    standingWords(proposal.after, session_.shown())),
                                   tip),
                        &QPushButton::clicked, this, [this, proposal, book] {
                            session_.change(tr("take the %1 mounts").arg(QLatin1String(mounts::word(proposal.aim))),
                                            mounts::withProposal(*session_.project(), book(), proposal));
                        });
                remark(q(proposal.what));
            }
        }
        connect(helpButton(QStringLiteral("list_isolators"), tr("Put the isolators into parts and weights")),
                &QPushButton::clicked, this, [this, book] {
                    session_.change(tr("list the isolators"), mounts::withIsolatorsListed(*session_.project(), book()));
                });
    } else if (chosen.startsWith(QLatin1String("mount:"))) {
        helpMount(id);
        helpHolds(id);
    } else if (chosen.startsWith(QLatin1String("crossmember:"))) {
        connect(helpButton(QStringLiteral("bolt_there"), tr("Bolt it there: the mount stands on its seat")),
                &QPushButton::clicked, this, [this, id, book] {
                    take(mounts::withCrossmemberThere(*session_.project(), book(), id), tr("bolt the crossmember"));
                });
    } else if (chosen.startsWith(QLatin1String("frame:"))) {
        connect(helpButton(QStringLiteral("make_frame"), tr("Make its tubes: bodies and a part")),
                &QPushButton::clicked, this, [this, id, book] {
                    take(mounts::withFrameMade(*session_.project(), book(), id), tr("make the frame"));
                });
    } else if (chosen.startsWith(QLatin1String("old:"))) {
        const model::OldMount* old = byId(session_.project()->mounts->old_mounts, id);
        if (!old) return;
        const auto set = [&](const char* name, const QString& text, model::OldState state) {
            connect(helpButton(QString::fromLatin1(name), text), &QPushButton::clicked, this, [this, id, state, text] {
                take(mounts::withOldMount(*session_.project(), id, state,
                                          QDate::currentDate().toString(Qt::ISODate).toStdString(),
                                          typedWords(who_->text())),
                     text);
            });
        };
        if (old->state == model::OldState::Stays) set("plan", tr("Plan to take it off"), model::OldState::Planned);
        if (old->state == model::OldState::Planned) {
            remark(tr("Its body is out of the bay; nothing is cut yet."));
            set("take_back", tr("Leave it on after all"), model::OldState::Stays);
            set("gone", tr("Go: it is cut off"), model::OldState::Gone);
            who_->show();
        }
        if (old->state == model::OldState::Gone) remark(tr("Cut off %1 %2.").arg(q(old->date), q(old->who)));
    }
}

void MountsStage::helpMount(const std::string& id) {
    const model::Mount* mount = byId(session_.project()->mounts->mounts, id);
    if (!mount) return;
    const auto metal = [&](bool tower) {
        const auto& its = tower ? mount->tower : mount->bracket;
        const bool made = its && !its->bodies.empty();
        const QString text = tower ? (made ? tr("Make the tower again") : tr("Make a tower from stand to rubber"))
                                   : (made ? tr("Make the bracket again") : tr("Make a bracket from pad to rubber"));
        connect(helpButton(tower ? QStringLiteral("make_tower") : QStringLiteral("make_bracket"), text),
                &QPushButton::clicked, this, [this, id, tower] { make(id, tower); });
        if (its)
            connect(helpButton(tower ? QStringLiteral("drop_tower") : QStringLiteral("drop_bracket"),
                               tower ? tr("Take the tower away") : tr("Take the bracket away")),
                    &QPushButton::clicked, this, [this, id, tower] {
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
        connect(helpButton(QStringLiteral("option:%1").arg(i), text), &QPushButton::clicked, this, [this, id, i] {
            take(mounts::withOption(*session_.project(), id, i), tr("make the mount another way"));
        });
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
        const QString what = QLatin1String(model::word(hold.hold));
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
        who_->show();
        connect(helpButton(QStringLiteral("sign:") + step, tr("Sign: %1").arg(what)), &QPushButton::clicked, this,
                [this, id, step = hold.hold, what] {
                    take(mounts::withSigned(*session_.project(), id, step,
                                            QDate::currentDate().toString(Qt::ISODate).toStdString(),
                                            typedWords(who_->text()), ""),
                         tr("sign: %1").arg(what));
                });
    }
}

void MountsStage::make(const std::string& id, bool tower) {
    const auto reports = session_.reports();
    model::Project now = *session_.project();
    const model::Mount* mount = mounts::mountIn(now, id);
    if (!mount) return;
    model::RuleBook book = model::applied(store::defaultRuleBook(), now.rules);
    if (reports && reports->of<mounts::MountsReport>())
        book.weld_pull_mm = reports->of<mounts::MountsReport>()->weld_pull_mm;
    const Which which = tower ? Which::Tower : Which::Bracket;
    const model::Bracket* its = mounts::bracketOf(*mount, which);
    const model::Bracket wanted = its ? *its : model::Bracket{};
    stopTuning();
    progress_->setMaximum(0);
    progress_->show();
    // What was measured last holds while nothing has changed since.
    std::shared_ptr<const placed::Scene> measured;
    if (reports && reports->project == session_.project()) measured = reports->scene;
    tuned_for_ = session_.project();
    tuner_ =
        std::thread([this, now = tuned_for_, measured, book, id, which, wanted, stop = stop_tuning_, search = search_] {
            proximity::ColliderCache cache;
            placed::SceneOptions options;
            options.stop = stop;
            const placed::Scene scene = measured ? *measured : placed::makeScene(*now, cache, options);
            auto routed = make::withBracketRouted(*now, scene, book, id, which, wanted, cache, stop);
            if (stop.stopped()) return;
            made_ = std::make_shared<Result<model::Project>>(std::move(routed));
            emit bracketMade(search, which == Which::Tower);
        });
}

void MountsStage::tune() {
    stopTuning();
    tuned_.reset();
    tuned_for_ = session_.project();
    progress_->setMaximum(0);
    progress_->show();
    const auto book = model::applied(store::defaultRuleBook(), tuned_for_->rules);
    tuner_ = std::thread([this, project = tuned_for_, book, stop = stop_tuning_, search = search_] {
        mounts::TuneOptions options;
        options.stop = stop;
        options.progress = [this](int done, int all) { emit tuningProgress(done, all); };
        auto found = mounts::tune(*project, book, {weights::drivenLoad_kg(*project, book)}, options);
        if (stop.stopped()) return;
        found_ = std::make_shared<Result<mounts::Tuning>>(std::move(found));
        emit tuningDone(search);
    });
}

void MountsStage::take(Result<model::Project> changed, const QString& what) {
    if (!changed) return emit session_.notice(q(changed.error().line()), true);
    session_.change(what, std::move(changed.value()));
}

void MountsStage::add(const QString& kind) {
    model::Project changed = *session_.project();
    if (!changed.mounts) changed.mounts.emplace();
    model::Mounts& m = *changed.mounts;
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
    wanted_ = made;
    session_.change(tr("add to the mounts"), std::move(changed));
    refresh();
    form_->begin();
}

void MountsStage::mirror() {
    std::string image;
    auto twin = mounts::withMountMirrored(*session_.project(), key().mid(6).toStdString(), image);
    if (twin) wanted_ = QStringLiteral("mount:") + q(image);
    take(std::move(twin), tr("mirror the mount"));
}

void MountsStage::remove() {
    const QString chosen = key();
    const std::string id = chosen.section(QLatin1Char(':'), 1).toStdString();
    model::Project changed = *session_.project();
    if (!changed.mounts) return;
    if (chosen.startsWith(QLatin1String("mount:")))
        for (const Which which : {Which::Bracket, Which::Tower})
            if (auto without = mounts::withoutBracket(changed, id, which)) changed = std::move(without).value();
    if (chosen.startsWith(QLatin1String("frame:")))
        if (const model::SeatFrame* frame = byId(changed.mounts->frames, id)) {
            const std::vector<std::string> bodies = frame->bodies;
            for (const std::string& body : bodies)
                changed = model::withoutBody(changed, {model::vehicle_owner, model::BodyId{body}});
        }
    const auto drop = [&](const char* kind, auto& list) {
        if (chosen.startsWith(QLatin1String(kind)))
            list.erase(std::remove_if(list.begin(), list.end(), [&id](const auto& item) { return item.id == id; }),
                       list.end());
    };
    model::Mounts& m = *changed.mounts;
    drop("mount:", m.mounts);
    drop("crossmember:", m.crossmembers);
    drop("frame:", m.frames);
    drop("old:", m.old_mounts);
    drop("row:", m.rows);
    drop("seat:", m.seats);
    drop("isolator:", m.isolators);
    session_.change(tr("delete %1").arg(list_->currentItem()->text().section(QLatin1Char('\n'), 0, 0)),
                    std::move(changed));
    refresh();
}

} // namespace gabarit::app

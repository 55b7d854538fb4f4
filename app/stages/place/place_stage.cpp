#include "stages/place/place_stage.h"

#include "bay/bay.h"
#include "discipline/wording.h"
#include "forms/elided_combo.h"
#include "forms/tones.h"
#include "session/session.h"
#include "session/tries.h"
#include "stages/place/bodies_list.h"
#include "stages/place/compare_block.h"
#include "stages/place/findings_list.h"
#include "stages/place/fits_block.h"
#include "stages/place/measured_block.h"
#include "stages/place/movement_block.h"
#include "stages/place/nudge_bar.h"
#include "stages/place/pose_fields.h"
#include "stages/place/room_block.h"
#include "stages/place/setup_block.h"
#include "stages/place/tries_strip.h"
#include "stages/place/ways_panel.h"

#include "store/rule_book.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QScrollBar>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

namespace gabarit::app {
namespace {
constexpr int side_width_px = 296;
constexpr int narrow_side_width_px = 308;

/// Its words are never cut.
void say(QToolButton* button, const QString& words) {
    constexpr int beside_words_px = 14;
    button->setText(words);
    button->setMinimumWidth(button->fontMetrics().horizontalAdvance(words) + beside_words_px);
}
/// Whose gap it is.
std::vector<model::BodyRef> bodiesOf(const study::Finding& finding) {
    std::vector<model::BodyRef> out;
    for (const auto& body : {finding.a, finding.b})
        if (body) out.push_back(*body);
    return out;
}
} // namespace

PlaceStage::PlaceStage(Session& session, Lookout& lookout, QWidget* parent)
    : Stage(parent), session_(session), lookout_(lookout), bay_(new Bay(session, lookout, this)),
      nudges_(new NudgeBar(session, lookout, bay_, this)), pose_(new PoseFields(session, this)),
      tries_(new Tries(session, this)), findings_(new FindingsList(session, lookout, *tries_, this)),
      fits_(new FitsBlock(session, this)), bodies_(new BodiesList(session, lookout, this)),
      room_box_(new QWidget(this)), room_(new RoomBlock(session, this)), setup_(new SetupBlock(session, this)),
      compare_(new CompareBlock(session, this)), measured_(new MeasuredBlock(session, lookout, this)),
      movement_(new MovementBlock(session, this)), school_(new ElidedCombo(this)), side_(new QStackedWidget(this)),
      way_(new QToolButton(this)) {
    bay_->setCorner(pose_);
    auto* group = new QButtonGroup(this);
    // Two rows of buttons, each as wide as its words and what is left over.
    auto* heads = new QVBoxLayout;
    heads->setContentsMargins(4, 6, 4, 0);
    heads->setSpacing(4);
    QHBoxLayout* rows[] = {new QHBoxLayout, new QHBoxLayout};
    for (QHBoxLayout* row : rows) {
        row->setSpacing(2);
        heads->addLayout(row);
    }
    auto* where = new QScrollArea(this);
    where->setWidgetResizable(true);
    where->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    // All tries show the same part of the vehicle, so that they can be told apart.
    strip_ = new TriesStrip(
        session_, *tries_,
        [this](const QSize& size) {
            if (shots_of_.isEmpty()) shots_of_ = bay_->portraitBox();
            return bay_->portrait(size, shots_of_);
        },
        this);
    connect(&session_, &Session::projectReplaced, this, [this] { shots_of_.setEmpty(); });
    connect(strip_, &TriesStrip::ownWanted, this, [this] { setup_->button(QStringLiteral("another"))->click(); });
    const struct {
        const char* name;
        QString text, tip;
        QWidget* page;
    } sides[] = {
        {"way", tr("In the way"), tr("What touches or is too near, worst first"), findings_},
        {"fits", tr("Fits?"), tr("Where it fits: the nearest place, every form, a map"), fits_},
        {"movement", tr("Movement"),
         tr("Bump to droop, lock to lock, the engine on its mounts: shown, and the worst moments"), movement_},
        {"setup", tr("Set-up"), tr("Placements, what hangs, which form of it, panels on or off"), setup_},
        {"bodies", tr("Bodies"), tr("Show, see through, hide, take in hand"), bodies_},
        {"measured", tr("Measured"), tr("Gaps measured on the real thing, beside the planned ones"), measured_},
        {"compare", tr("Compare"), tr("A pinned placement beside this one"), compare_},
        {"where", tr("Where"), tr("Where it hangs, in figures"), where}};
    int page = 0;
    for (const auto& side : sides) {
        auto* button = side.page == findings_ ? way_ : new QToolButton(this);
        say(button, side.text);
        button->setToolTip(side.tip);
        button->setObjectName(QStringLiteral("side_") + QLatin1String(side.name));
        button->setCheckable(true);
        button->setMinimumHeight(target_px);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        side_->addWidget(side.page);
        group->addButton(button, page);
        rows[page < 4 ? 0 : 1]->addWidget(button);
        if (side.page == where) where_button_ = button;
        ++page;
    }
    where_ = where;
    where_button_->hide();
    way_->setChecked(true);
    connect(group, &QButtonGroup::idClicked, side_, &QStackedWidget::setCurrentIndex);
    connect(side_, &QStackedWidget::currentChanged, this, [this] {
        showRoom();
        school_->setVisible(side_->currentWidget() == findings_);
    });
    connect(findings_, &FindingsList::leadTo, this, &PlaceStage::leadToPlaceOf);
    connect(findings_, &FindingsList::whyWanted, this, &Stage::whyWanted);
    connect(findings_, &FindingsList::placeWanted, this, &PlaceStage::lookForAPlace);
    connect(findings_->ways(), &WaysPanel::changed, this, &Stage::nextChanged);
    connect(fits_->places(), &WaysPanel::changed, this, &Stage::nextChanged);
    connect(movement_, &MovementBlock::leadTo, this, [this](const QString& finding, const Eigen::Vector3d& place_mm) {
        lookout_.select(finding.toStdString());
        std::vector<model::BodyRef> both;
        if (const auto reports = session_.reports())
            for (const study::Finding& listed : reports->findings)
                if (QString::fromStdString(listed.id) == finding) both = bodiesOf(listed);
        bay_->leadTo(place_mm, both);
    });

    school_->setAccessibleName(tr("School of practice that gaps are held against"));
    for (const model::School& school : store::defaultRuleBook().schools) {
        school_->addItem(tr("Rules: %1").arg(QString::fromStdString(school.name)), QString::fromStdString(school.id));
        school_->setItemData(school_->count() - 1, QString::fromStdString(school.text), Qt::ToolTipRole);
    }
    connect(school_, &QComboBox::activated, this,
            [this] { session_.useSchool(school_->currentData().toString().toStdString()); });
    connect(&session_, &Session::projectChanged, this, [this] {
        const int row = school_->findData(QString::fromStdString(session_.school()));
        school_->setCurrentIndex(row);
        school_->setToolTip(tr("%1. Local code and the component's maker override these figures.")
                                .arg(school_->itemData(row, Qt::ToolTipRole).toString()));
    });

    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    right->addLayout(heads);
    auto* rules = new QHBoxLayout;
    rules->setContentsMargins(8, 6, 8, 0);
    rules->addWidget(school_);
    right->addLayout(rules);
    right->addWidget(side_, 1);
    auto* roomColumn = new QVBoxLayout(room_box_);
    roomColumn->setContentsMargins(0, 0, 0, 0);
    roomColumn->addWidget(room_);
    right->addWidget(room_box_);
    auto* rightBox = new QWidget(this);
    rightBox->setLayout(right);
    rightBox->setFixedWidth(side_width_px);
    right->setContentsMargins(0, 0, 0, 0);
    page_ = new QGridLayout(this);
    page_->setContentsMargins(0, 0, 0, 0);
    page_->setSpacing(0);
    page_->addWidget(bay_, 0, 0);
    page_->addWidget(rightBox, 0, 1);
    page_->addWidget(nudges_, 1, 0);
    page_->addWidget(strip_, 1, 1);
    page_->setColumnStretch(0, 1);
    page_->setRowStretch(0, 1);
    right_ = rightBox;
}

/// The jack's buttons go across, below drawing and list; where it hangs has a page of its own.
void PlaceStage::setNarrow(bool narrow) {
    page_->removeWidget(right_);
    page_->removeWidget(nudges_);
    page_->addWidget(right_, 0, 1);
    page_->addWidget(nudges_, 1, 0, 1, narrow ? 2 : 1);
    bay_->setNarrow(narrow);
    if (narrow) {
        auto* both = new QWidget; // where it hangs, and where it has hung
        auto* column = new QVBoxLayout(both);
        column->setContentsMargins(0, 0, 0, 0);
        column->addWidget(pose_);
        column->addWidget(strip_);
        column->addStretch(1);
        where_->setWidget(both);
    } else {
        bay_->setCorner(pose_);
        page_->addWidget(strip_, 1, 1);
        delete where_->takeWidget();
        if (side_->currentWidget() == where_) way_->click();
    }
    pose_->show();
    strip_->show();
    where_button_->setVisible(narrow);
    right_->setFixedWidth(narrow ? narrow_side_width_px : side_width_px);
    nudges_->setNarrow(narrow);
    narrow_ = narrow;
    showRoom();
}

/// The figures of the room beside the list, where there is height for both; else with the movement. The drawing has
/// them too.
void PlaceStage::showRoom() {
    constexpr int tall_px = 720;
    const QWidget* side = side_->currentWidget();
    const bool tall = height() >= tall_px;
    room_box_->setVisible(!narrow_ && (side == findings_ || side == movement_));
    room_->setBrief(!tall && side == findings_);
}

void PlaceStage::resizeEvent(QResizeEvent* event) {
    Stage::resizeEvent(event);
    showRoom();
}

void PlaceStage::lookForAPlace() {
    showSide(QStringLiteral("fits"));
    fits_->lookForAPlace();
}

void PlaceStage::showSide(const QString& name) {
    if (auto* button = findChild<QToolButton*>(QStringLiteral("side_") + name)) button->click();
}

const StagePlug& placeStage() {
    static const StagePlug plug{"place",
                                StageGroup::Place,
                                10,
                                [] { return PlaceStage::tr("Where it hangs"); },
                                {"clearance"},
                                [](Session& session, Lookout& lookout, QWidget* parent) -> Stage* {
                                    return new PlaceStage(session, lookout, parent);
                                }};
    return plug;
}

void PlaceStage::turnTo(const QString& what) {
    if (what == QLatin1String("all")) return bay_->fitAll();
    if (what == QLatin1String("sweep")) return movement_->sweep()->setChecked(true);
    if (what != QLatin1String("place") && what != QLatin1String("forms") && what != QLatin1String("map"))
        return showSide(what);
    showSide(QStringLiteral("fits"));
    fits_->button(what)->click();
}

bool PlaceStage::looking() const { return fits_->looking(); }

std::vector<StageDeed> PlaceStage::deeds() {
    const QString go = QStringLiteral("&Go to"), view = QStringLiteral("&View"), place = QStringLiteral("&Place");
    const auto side = [&](int at, const QString& words, Qt::Key key, const char* name) {
        return StageDeed{
            go,  at, words, QKeySequence(Qt::CTRL | key), [this, name = QString::fromLatin1(name)] { showSide(name); },
            true};
    };
    return {
        side(10, tr("What is in the way"), Qt::Key_1, "way"),
        side(11, tr("Set-up: placements, forms, panels"), Qt::Key_2, "setup"),
        side(12, tr("Bodies: show and hide"), Qt::Key_3, "bodies"),
        side(13, tr("Measured gaps"), Qt::Key_4, "measured"),
        side(14, tr("Compare with the pinned placement"), Qt::Key_5, "compare"),
        side(20, tr("Movement and worst moments"), Qt::Key_M, "movement"),
        {place, 0, tr("&Next in the way"), QKeySequence(Qt::Key_N), [this] { findings_->step(1); }, true},
        {place, 1, tr("&Before it in the list"), QKeySequence(Qt::SHIFT | Qt::Key_N), [this] { findings_->step(-1); },
         true},
        {place, 2, tr("&Try what it says"), QKeySequence(Qt::CTRL | Qt::Key_Return),
         [this] {
             if (!findings_->tryPointedAt())
                 emit session_.notice(
                     tr("Nothing that is pointed at knows a move of the engine that helps. N points at the next."),
                     false);
         }},
        {place, 10, tr("&Pin this placement"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { session_.setPin(true); }},
        {place, 11, tr("&Unpin"), {}, [this] { session_.setPin(false); }},
        {place, 12, tr("&Hang it as pinned"), {}, [this] { session_.hangAsPinned(); }},
        {place, 13, tr("Try another p&lacement"), {}, [this] { setup_->button(QStringLiteral("another"))->click(); }},
        {place, 3, tr("&Where does it fit?"), QKeySequence(Qt::Key_F7), [this] { lookForAPlace(); }, true},
        {place, 4, tr("Try every &form"), QKeySequence(Qt::SHIFT | Qt::Key_F7),
         [this] {
             showSide(QStringLiteral("fits"));
             fits_->lookForAForm();
         },
         true},
        {place, 5, tr("&Map of where it fits"), QKeySequence(Qt::CTRL | Qt::Key_F7),
         [this] {
             showSide(QStringLiteral("fits"));
             fits_->drawMap();
         },
         true},
        {view, 0, tr("&Fit the engine in the drawing"), QKeySequence(Qt::Key_F), [this] { bay_->fitAll(); }},
        {view, 4, tr("Put the tape &away, point at nothing, look as before"), QKeySequence(Qt::Key_Escape), [this] {
             lookout_.setTaping(false);
             lookout_.select({});
             bay_->lookBack();
             bay_->view(Elevation::Side)->setFocus();
         }}};
}

int PlaceStage::wants(const model::Project& project) const { return project.placements.empty() ? 0 : 2; }

void PlaceStage::begin() { bay_->view(Elevation::Side)->setFocus(); }

QPixmap PlaceStage::portrait() { return bay_->portrait({560, 280}); }

/// The way out that leaves the fewest no-go, if it leaves fewer than there are; else the worst finding.
NextStep PlaceStage::nextStep(const study::Reports& reports) {
    if (reports.project->placements.empty() || !reports.project->vehicle)
        return {tr("Nothing hangs here yet: the bay and the donor are measured first."), tr("Go to Survey"),
                [this] { emit leadsOn(QStringLiteral("survey"), QString()); }};
    const study::Finding* best = nullptr;
    const study::Finding* worst = nullptr;
    for (const study::Finding& finding : reports.findings) {
        if (finding.discipline != "clearance") continue;
        if (!worst) worst = &finding;
        if (!finding.way_out || !finding.a || finding.a->inVehicle()) continue;
        if (finding.way_out->no_go_after >= finding.way_out->no_go_before) continue; // it only trades
        if (tries_->noGoAt(finding.way_out->placement)) continue;                    // it comes from there
        if (!best || finding.way_out->no_go_after < best->way_out->no_go_after) best = &finding;
    }
    if (!worst) return {};
    const QString title = QString::fromStdString((best ? best : worst)->title);
    if (best) {
        const QString way = QString::fromStdString(discipline::upperFirst(best->way_out->words));
        const int after = best->way_out->no_go_after, before = best->way_out->no_go_before;
        return {after == 0
                    ? tr("%1. %2 frees it: no gap is no-go then.").arg(title, way)
                    : tr("%1. %2 frees it: %3 of %4 no-go gaps are left.").arg(title, way).arg(after).arg(before),
                tr("Try it"), [this, id = best->id] {
                    lookout_.select(id);
                    findings_->tryPointedAt();
                }};
    }
    const auto show = [this, id = QString::fromStdString(worst->id)] { leadTo(id); };
    if (worst->verdict == model::Verdict::NoGo && reports.advised) {
        WaysPanel* places = fits_->places();
        if (fits_->looking())
            return {tr("%1. A place where it fits is being looked for.").arg(title), tr("Show it"),
                    [this] { showSide(QStringLiteral("fits")); }};
        if (places->first())
            return {tr("%1. It fits so: %2").arg(title, places->firstWords()), tr("Try it"),
                    [button = QPointer<QPushButton>(places->first())] {
                        if (button) button->click();
                    }};
        if (places->of().empty() && FindingCard::hasWays(*worst))
            return {tr("%1. No single move leaves fewer no-go gaps: look where it fits.").arg(title),
                    tr("Where does it fit?"), [this] { lookForAPlace(); }};
        WaysPanel* ways = findings_->ways();
        const bool looked = ways->of() == worst->id;
        if (looked && ways->looking())
            return {tr("%1. Other ways are being looked for.").arg(title), tr("Show it"), show};
        if (looked && ways->first())
            return {tr("%1. %2").arg(title, ways->firstWords()), tr("Try it"),
                    [button = QPointer<QPushButton>(ways->first())] {
                        if (button) button->click();
                    }};
        if (!looked && FindingCard::hasWays(*worst))
            return {tr("%1. No place within reach frees it: look at other forms and a pocket.").arg(title), tr("Ways"),
                    [this, id = worst->id] {
                        side_->setCurrentWidget(findings_);
                        way_->setChecked(true);
                        findings_->lookForWays(id);
                    }};
        return {tr("%1. No move or other form leaves fewer no-go gaps: change what is in the way.").arg(title),
                tr("Show it"), show};
    }
    return {worst->help.empty() || worst->verdict == model::Verdict::NoGo
                ? title + QLatin1Char('.')
                : QStringLiteral("%1. %2").arg(title, QString::fromStdString(worst->help)),
            tr("Show it"), show};
}

bool PlaceStage::leadTo(const QString& finding) {
    const auto reports = session_.reports();
    if (!reports) return false;
    for (const study::Finding& listed : reports->findings)
        if (QString::fromStdString(listed.id) == finding) {
            leadToPlaceOf(listed);
            return true;
        }
    return false;
}

void PlaceStage::leadToPlaceOf(const study::Finding& finding) {
    // Whoever writes down readings, or looks at the movement, stays with it: the pair pointed at is the one.
    if (side_->currentWidget() != measured_ && side_->currentWidget() != movement_) {
        side_->setCurrentWidget(findings_);
        way_->setChecked(true);
    }
    lookout_.select(finding.id);
    session_.moveTo(finding.state); // as it stands when it happens
    if (finding.place_vehicle_mm) bay_->leadTo(*finding.place_vehicle_mm, bodiesOf(finding));
    bay_->view(Elevation::Side)->setFocus();
}

} // namespace gabarit::app

#include "moc_place_stage.cpp"

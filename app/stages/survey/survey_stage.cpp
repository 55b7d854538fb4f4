#include "stages/survey/survey_stage.h"

#include "bay/bay.h"
#include "fields/editing.h"
#include "fit/fit_report.h"
#include "forms/elided_combo.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/page_columns.h"
#include "kit/pointer.h"
#include "make/assumed.h"
#include "model/datum.h"
#include "model/edit.h"
#include "model/mirror_motion.h"
#include "session/session.h"
#include "stages/survey/guided_page.h"
#include "stages/survey/tape_mode.h"
#include "stages/survey/tape_pad.h"
#include "store/first_survey.h"
#include "store/rule_book.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace gabarit::app {
namespace {
/// By SurveyKind, as on the command line.
const char* const kind_ids[] = {"bodies",   "points", "masses",   "served", "joined", "choices", "about",  "assumed",
                                "readings", "areas",  "outgoing", "found",  "rooms",  "motions", "stances"};
static_assert(std::size(kind_ids) == survey_kind_count);

constexpr int list_width_px = 252;
constexpr int form_width_px = 330;
constexpr double level_mm = 0.5; // less is not packed

/// One of the rule book's areas, which cannot be taken out.
bool isFixedArea(const std::string& id) {
    const auto& areas = store::defaultRuleBook().areas;
    return std::any_of(areas.begin(), areas.end(), [&](const model::AreaRule& area) { return area.id == id; });
}

} // namespace

SurveyStage::SurveyStage(Session& session, Lookout& lookout, QWidget* parent)
    : Stage(parent), session_(session), lookout_(lookout), pages_(new QStackedWidget(this)),
      guided_(new GuidedPage(session, this)), pad_(new TapePad(session, this)), tape_mode_(new TapeMode(session, this)),
      bay_(new Bay(session, lookout, this, true)), owner_(new ElidedCombo(this)), kinds_(new QButtonGroup(this)),
      list_(new QListWidget(this)), form_(new EntryForm(this)), hint_(new QLabel(this)) {
    owner_->setAccessibleName(tr("Of what"));
    owner_->setMinimumHeight(target_px);
    list_->setAccessibleName(tr("What was measured"));
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* left = new QVBoxLayout;
    left->setContentsMargins(8, 8, 8, 8);
    auto* owners = new QHBoxLayout;
    owners->addWidget(owner_, 1);
    const auto make = [this](const char* name, const QString& text, const QString& tip, void (SurveyStage::*act)()) {
        auto* button = new QPushButton(text, this);
        button->setObjectName(QString::fromLatin1(name));
        button->setToolTip(tip);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setMinimumHeight(target_px);
        connect(button, &QPushButton::clicked, this, act);
        buttons_.push_back(button);
        return button;
    };
    QPushButton* donor =
        make("new_donor", tr("+ Donor"), tr("Another engine to try in this bay"), &SurveyStage::addDonor);
    donor->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    owners->addWidget(donor);
    left->addLayout(owners);
    left->addWidget(make("guided", tr("First survey, question by question"),
                         tr("A drawing for each reading: where the tape hooks, what is read"), &SurveyStage::guide));
    auto* kinds = new QGridLayout;
    kinds->setSpacing(4);
    const QString names[] = {tr("Bodies"),   tr("Points"), tr("Masses"),  tr("Served"),   tr("Joined"),
                             tr("Choices"),  tr("About"),  tr("Assumed"), tr("Readings"), tr("Areas"),
                             tr("Outgoing"), tr("Found"),  tr("Rooms"),   tr("Moving"),   tr("Stands")};
    const QString tips[] = {tr("What takes room"),
                            tr("Points that mounts, flanges, slings and levers hang on"),
                            tr("What it weighs, lump by lump"),
                            tr("Bolts, plugs and filters that a tool must reach with the engine in"),
                            tr("Pairs that are meant to touch"),
                            tr("What can be had in several forms"),
                            tr("Name, wheelbase, datum, how it lies"),
                            tr("What is not measured yet, and the margin it could eat, worst first"),
                            tr("What the tape read, and a pad for a run of readings from one hook"),
                            tr("What has to be surveyed before anything is cut"),
                            tr("Where the engine that comes out was, to hold the new one against"),
                            tr("Cracks, rust, old bad work: open until mended"),
                            tr("Free room for what has to move"),
                            tr("Axles, arms, steering, what spins: about which points, how far, which bodies"),
                            tr("Blocks and other ways it is made to stand, besides ride height and bump stop")};
    for (int i = 0; i < survey_kind_count; ++i) {
        auto* button = new QToolButton(this);
        button->setText(names[i]);
        button->setToolTip(tips[i]);
        button->setCheckable(true);
        button->setMinimumHeight(target_px);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setObjectName(QStringLiteral("kind_%1").arg(i));
        kinds_->addButton(button, i);
        kinds->addWidget(button, i / 3, i % 3);
    }
    kinds_->button(0)->setChecked(true);
    left->addLayout(kinds);
    left->addWidget(list_, 1);
    hint_->setWordWrap(true);
    hint_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    hint_->setMargin(12);
    hint_->setAutoFillBackground(true);
    bay_->setCorner(hint_);
    auto* acts = new QGridLayout;
    acts->setSpacing(4);
    acts->addWidget(
        make("new", tr("New"), tr("Makes another one; of bodies it asks what it is"), &SurveyStage::askWhatIsNew), 0,
        0);
    acts->addWidget(make("copy", tr("Copy"), tr("Makes the same again"), &SurveyStage::copy), 0, 1);
    acts->addWidget(
        make("mirror", tr("Mirror"), tr("Makes its mirror image across the centreline"), &SurveyStage::mirror), 0, 2);
    acts->addWidget(make("variant", tr("Other form"), tr("Makes an alternative to it, to be chosen while placing"),
                         &SurveyStage::variant),
                    1, 0);
    acts->addWidget(
        make("hide", tr("Hide"), tr("Leaves it out of the drawing; it still counts"), &SurveyStage::toggleHidden), 1,
        1);
    acts->addWidget(
        make("off", tr("Take off"), tr("Takes it off for the moment: it fouls nothing then"), &SurveyStage::toggleOff),
        1, 2);
    acts->addWidget(
        make("delete", tr("Delete"), tr("Takes it out of the project; undo brings it back"), &SurveyStage::remove), 2,
        0, 1, 3);
    left->addLayout(acts);
    auto* leftBox = new QWidget(this);
    leftBox->setLayout(left);
    leftBox->setFixedWidth(list_width_px);
    auto* right = new QVBoxLayout;
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(0);
    right->addWidget(pad_, 3);
    right->addWidget(form_, 2);
    auto* rightBox = new QWidget(this);
    rightBox->setLayout(right);
    pad_->hide();
    auto* lists = new QWidget(this);
    columns_ = new PageColumns(lists, leftBox, bay_, rightBox, form_width_px);
    pages_->addWidget(lists);
    pages_->addWidget(guided_);
    pages_->addWidget(tape_mode_);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(pages_);
    connect(guided_, &GuidedPage::allWanted, this, [this] { showGuided(false); });
    connect(guided_, &GuidedPage::tapeModeWanted, this, &SurveyStage::showTapeMode);
    connect(tape_mode_, &TapeMode::left, this, [this] { showGuided(true); });
    const auto toVerdict = [this] {
        showPage(guided_);
        emit leadsOn(QStringLiteral("place"), QStringLiteral("all"));
    };
    connect(guided_, &GuidedPage::verdictWanted, this, toVerdict);
    connect(tape_mode_, &TapeMode::verdictWanted, this, toVerdict);

    connect(owner_, &QComboBox::activated, this, [this] {
        wanted_.clear();
        refreshList();
    });
    connect(kinds_, &QButtonGroup::idClicked, this, [this](int id) { showKind(static_cast<SurveyKind>(id)); });
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        if (filling_) return;
        wanted_ = key();
        refreshForm();
    });
    joinForm(*form_, session_);
    new Pointer(session_, lookout_, *form_, this);
    connect(&session_, &Session::projectReplaced, this, [this] {
        wanted_.clear();
        owner_->clear();
        showPage(pages_->widget(0)); // tape mode was of the project before
    });
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::reportsChanged, this, [this] {
        const bool studied =
            kind_ == SurveyKind::Assumed || kind_ == SurveyKind::Outgoing || kind_ == SurveyKind::Rooms;
        if (isVisible() && studied) refreshList();
    });
    connect(&lookout_, &Lookout::changed, this, [this] {
        if (isVisible()) mark();
    });
    for (const Elevation elevation : elevations)
        connect(bay_->view(elevation), &ElevationView::bodyPicked, this, &SurveyStage::choose);
}

const StagePlug& surveyStage() {
    static const StagePlug plug{"survey",
                                StageGroup::Measure,
                                10,
                                [] { return SurveyStage::tr("Survey"); },
                                {"survey"},
                                [](Session& session, Lookout& lookout, QWidget* parent) -> Stage* {
                                    return new SurveyStage(session, lookout, parent);
                                }};
    return plug;
}

QString SurveyStage::quietWords(const study::Reports& reports) const {
    int bodies = 0, assumed = 0;
    const auto count = [&](const std::vector<model::Body>& its) {
        bodies += static_cast<int>(its.size());
        for (const model::Body& body : its)
            assumed += !body.accuracy_mm || body.measured.method == model::Method::Assumed;
    };
    if (reports.project->vehicle) count(reports.project->vehicle->bodies);
    for (const model::Donor& donor : reports.project->donors) count(donor.bodies);
    return bodies == 0 ? tr("not begun") : assumed == 0 ? tr("measured") : tr("%1 assumed").arg(assumed);
}

void SurveyStage::setNarrow(bool narrow) {
    columns_->setNarrow(narrow);
    bay_->setNarrow(narrow);
    guided_->setNarrow(narrow);
}

NextStep SurveyStage::nextStep(const study::Reports& reports) {
    if (pages_->currentIndex() == 1)
        return {tr("Read it with the tape and type it in: Return asks for the next figure."), tr("Next question"),
                [this] { guided_->button(QStringLiteral("skip"))->click(); }};
    const bool bodies = reports.project->vehicle && !reports.project->vehicle->bodies.empty();
    if (!bodies)
        return {tr("Nothing is measured yet. Tape mode asks for it, one reading a page."), tr("Begin"),
                [this] { showTapeMode(); }};
    // What is measured again decides most where most is close because of it.
    std::map<std::string, int> decides;
    for (const study::Finding& finding : reports.findings)
        if (finding.verdict == model::Verdict::Close && finding.help.rfind("Measure ", 0) == 0) ++decides[finding.help];
    const auto most = std::max_element(decides.begin(), decides.end(),
                                       [](const auto& x, const auto& y) { return x.second < y.second; });
    if (most == decides.end()) return {};
    for (const study::Finding& finding : reports.findings) {
        if (finding.help != most->first) continue;
        const model::Body* a = finding.a ? model::findBody(*reports.project, *finding.a) : nullptr;
        const model::Body* b = finding.b ? model::findBody(*reports.project, *finding.b) : nullptr;
        if (!a || !b) continue;
        const model::BodyRef ref = a->accuracy_mm.value_or(0) > b->accuracy_mm.value_or(0) ? *finding.a : *finding.b;
        return {QString::fromStdString(most->first) + QLatin1Char(' ') +
                    (most->second == 1 ? tr("It decides a verdict that is close.")
                                       : tr("It decides %1 verdicts that are close.").arg(most->second)),
                tr("Go to it"), [this, ref] { choose(ref); }};
    }
    return {};
}

bool SurveyStage::leadTo(const QString& finding) {
    const bool area = finding.startsWith(QLatin1String("survey:"));
    if (!area && !finding.startsWith(QLatin1String("condition:"))) return false;
    showKind(area ? SurveyKind::Areas : SurveyKind::Found);
    if (area) return true;
    wanted_ = finding.section(QLatin1Char(':'), 1);
    refreshList();
    return true;
}

void SurveyStage::turnTo(const QString& what) {
    const QString first = what.section(QLatin1Char(':'), 0, 0), question = what.section(QLatin1Char(':'), 1);
    if (first == QLatin1String("first-survey")) {
        showGuided(true);
        if (!question.isEmpty()) guided_->ask(question.toInt() - 1);
    }
    if (first == QLatin1String("tape-mode")) {
        showTapeMode();
        if (!question.isEmpty()) tape_mode_->ask(question.toStdString());
    }
    for (std::size_t i = 0; i < std::size(kind_ids); ++i)
        if (first == QLatin1String(kind_ids[i])) {
            if (const int row = owner_->findData(question); row >= 0) owner_->setCurrentIndex(row);
            showKind(static_cast<SurveyKind>(i));
        }
}

std::vector<StageDeed> SurveyStage::deeds() {
    const QString go = QStringLiteral("&Go to");
    const auto kind = [&](int at, const QString& words, Qt::Key key, SurveyKind shown) {
        return StageDeed{go, at, words, QKeySequence(Qt::CTRL | key), [this, shown] { showKind(shown); }, true};
    };
    return {{go, 20, tr("Tape mode, one reading a page"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_6),
             [this] { showTapeMode(); }, true},
            {go, 21, tr("First survey, question by question"), QKeySequence(Qt::CTRL | Qt::Key_6),
             [this] { showGuided(true); }, true},
            kind(22, tr("Tape readings"), Qt::Key_7, SurveyKind::Readings),
            kind(23, tr("Areas to be surveyed before cutting"), Qt::Key_8, SurveyKind::Areas),
            kind(24, tr("What is still assumed"), Qt::Key_9, SurveyKind::Assumed)};
}

/// What has nothing in it yet is measured first.
int SurveyStage::wants(const model::Project& project) const { return project.placements.empty() ? 2 : 0; }

QPushButton* SurveyStage::button(const QString& name) const { return findChild<QPushButton*>(name); }

void SurveyStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void SurveyStage::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    lookout_.setEdited(std::nullopt);
}

QString SurveyStage::key() const {
    const QListWidgetItem* item = list_->currentItem();
    return item ? item->data(Qt::UserRole).toString() : QString();
}
std::string SurveyStage::ownerId() const { return owner_->currentData().toString().toStdString(); }

std::optional<model::BodyRef> SurveyStage::body() const {
    if (kind_ == SurveyKind::Assumed && key().contains(QLatin1Char('/')))
        return model::BodyRef{key().section(QLatin1Char('/'), 0, 0).toStdString(),
                              {key().section(QLatin1Char('/'), 1).toStdString()}};
    if (kind_ != SurveyKind::Bodies || key().isEmpty()) return std::nullopt;
    return model::BodyRef{ownerId(), {key().toStdString()}};
}

void SurveyStage::guide() { showGuided(true); }

void SurveyStage::showGuided(bool on) {
    showPage(on ? static_cast<QWidget*>(guided_) : pages_->widget(0));
    if (on)
        guided_->ask(guided_->asked());
    else
        refresh();
}

void SurveyStage::showTapeMode() {
    if (session_.hasProject()) showPage(tape_mode_);
}

void SurveyStage::showPage(QWidget* page) {
    const bool was = alone();
    // How high the page wants to be is asked of the one that is shown.
    for (int i = 0; i < pages_->count(); ++i) {
        const auto policy = pages_->widget(i) == page ? QSizePolicy::Preferred : QSizePolicy::Ignored;
        pages_->widget(i)->setSizePolicy(policy, policy);
    }
    pages_->setCurrentWidget(page);
    if (alone() != was) emit aloneChanged();
}

bool SurveyStage::alone() const { return pages_->currentWidget() == tape_mode_; }

void SurveyStage::showKind(SurveyKind kind) {
    showPage(pages_->widget(0));
    kind_ = kind;
    kinds_->button(static_cast<int>(kind))->setChecked(true);
    wanted_.clear();
    refreshList();
}

void SurveyStage::choose(const model::BodyRef& ref) {
    const int row = owner_->findData(QString::fromStdString(ref.owner));
    if (row < 0) return;
    owner_->setCurrentIndex(row);
    kind_ = SurveyKind::Bodies;
    kinds_->button(0)->setChecked(true);
    wanted_ = QString::fromStdString(ref.body.text);
    refreshList();
}

void SurveyStage::refresh() {
    refreshOwners();
    refreshList();
}

void SurveyStage::refreshOwners() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    std::vector<std::pair<QString, QString>> wanted;
    if (project.vehicle)
        wanted.emplace_back(QString::fromStdString(model::vehicle_owner),
                            QString::fromStdString(project.vehicle->name));
    for (const model::Donor& donor : project.donors)
        wanted.emplace_back(QString::fromStdString(donor.id.text), QString::fromStdString(donor.name));
    const QString stood = owner_->currentData().toString();
    const int row = owner_->currentIndex(), before = owner_->count();
    owner_->clear();
    for (const auto& owner : wanted) owner_->addItem(owner.second, owner.first);
    // One that was renamed stays in its place.
    const int found = owner_->findData(stood);
    owner_->setCurrentIndex(found >= 0 ? found : before == owner_->count() ? row : 0);
}

void SurveyStage::refreshList() {
    if (!session_.hasProject()) return;
    filling_ = true;
    const auto entries = kind_ == SurveyKind::Assumed    ? assumedEntries()
                         : kind_ >= SurveyKind::Motions  ? motionEntries(*session_.project(), ownerId(), kind_)
                         : kind_ >= SurveyKind::Readings ? notebookEntries(session_, ownerId(), kind_)
                                                         : surveyEntries(*session_.project(), ownerId(), kind_);
    pad_->setVisible(kind_ == SurveyKind::Readings);
    if (kind_ == SurveyKind::Readings) pad_->setOwner(ownerId());
    const int before = list_->currentRow();
    list_->clear();
    int at = -1;
    for (const SurveyEntry& entry : entries) {
        auto* item = new QListWidgetItem(entry.words, list_);
        item->setData(Qt::UserRole, entry.key);
        item->setToolTip(entry.words);
        if (entry.key == wanted_) at = list_->count() - 1;
    }
    if (at < 0) at = std::min(std::max(before, 0), list_->count() - 1);
    list_->setCurrentRow(at);
    wanted_ = key();
    filling_ = false;
    refreshForm();
}

void SurveyStage::refreshForm() {
    const bool has = !key().isEmpty(), bodies = kind_ == SurveyKind::Bodies, about = kind_ == SurveyKind::About;
    const bool ofDonor = ownerId() != model::vehicle_owner;
    form_->show(has ? surveyFields(session_, ownerId(), kind_, key()) : std::vector<Field>{}, session_.shown(),
                owner_->currentData().toString() + QString::number(static_cast<int>(kind_)) + key());
    const bool assumed = kind_ == SurveyKind::Assumed;
    button(QStringLiteral("new"))->setEnabled(!about && !assumed && owner_->count() > 0);
    button(QStringLiteral("copy"))
        ->setEnabled(has && !about && !assumed && kind_ != SurveyKind::Joined && kind_ < SurveyKind::Choices);
    button(QStringLiteral("mirror"))
        ->setEnabled(button(QStringLiteral("copy"))->isEnabled() || (has && kind_ == SurveyKind::Motions));
    for (const char* name : {"variant", "hide", "off"}) button(QString::fromLatin1(name))->setEnabled(has && bodies);
    const bool fixedArea = kind_ == SurveyKind::Areas && isFixedArea(key().toStdString());
    button(QStringLiteral("delete"))->setEnabled(has && !assumed && !fixedArea && (!about || ofDonor));
    button(QStringLiteral("delete"))->setText(about && ofDonor ? tr("Delete this donor") : tr("Delete"));
    lookout_.setEdited(body());
    mark();
}

void SurveyStage::mark() {
    const auto ref = body();
    const model::Body* chosen = ref && session_.hasProject() ? model::findBody(*session_.project(), *ref) : nullptr;
    button(QStringLiteral("hide"))->setText(ref && lookout_.sight(*ref) == Sight::Hidden ? tr("Show") : tr("Hide"));
    button(QStringLiteral("off"))->setText(chosen && chosen->off ? tr("Put back") : tr("Take off"));
    QString hint;
    if (!session_.hasProject() || owner_->count() == 0)
        hint = tr("There is nothing yet. Open a project, or make a new one from the File menu.");
    else if (list_->count() == 0)
        hint = kind_ == SurveyKind::Assumed
                   ? tr("Nothing in the bay is only assumed: every body says how true it was measured.")
               : kind_ == SurveyKind::Bodies ? tr("Nothing was measured yet. Press New, then type what the tape says.")
               : kind_ == SurveyKind::Readings
                   ? tr("Nothing is bound to readings yet. Press New, or begin with the first survey.")
               : kind_ == SurveyKind::Outgoing ? tr("Before the old engine comes out: press New for each dimension "
                                                    "that the new one is held against.")
               : kind_ == SurveyKind::Found    ? tr("Nothing was found so far. Press New for each crack, rust hole, "
                                                       "butchered thread or old bad weld.")
               : kind_ == SurveyKind::Rooms    ? tr("Parts that are displaced need a home: press New for each free "
                                                       "room, in the tunnel, the wings, behind a lamp.")
               : kind_ == SurveyKind::Motions  ? tr("Nothing moves yet. Press New: what axle, arms and steering turn "
                                                     "about, how far, and which bodies go along.")
                                               : tr("None yet. Press New.");
    else if (chosen && !poseVehicleBody(*session_.project(), *ref))
        hint = tr("This donor does not hang in the bay now: it is not drawn.");
    else if (chosen && !model::stands(*session_.project(), ref->owner, *chosen))
        hint = tr("It is not in the bay now: it is not drawn.");
    else if (chosen)
        hint =
            (key() == asks_of_ && !asks_.isEmpty()
                 ? tr("%1 It stands where such things usually sit, in a usual size: both are assumed until you say how "
                      "true they are. ")
                       .arg(asks_)
                 : QString()) +
            tr("Drag its bars in the drawing, or type. Steps of %1.")
                .arg(QString::fromStdString(quantity::lengthText(lookout_.moveStep_mm(), session_.shown(), 0)));
    if (kind_ == SurveyKind::Points && session_.hasProject()) {
        const QString sides = sideWords();
        if (!sides.isEmpty()) hint = sides;
    }
    hint_->setText(hint);
}

/// Of the whole bay, whoever owns it.
std::vector<SurveyEntry> SurveyStage::assumedEntries() const {
    std::vector<SurveyEntry> out;
    const auto reports = session_.reports();
    if (!reports || !reports->with<fit::FitReport>().clearance) return out;
    const auto length = [this](double mm) {
        return QString::fromStdString(quantity::lengthText(mm, session_.shown(), 0));
    };
    for (const make::AssumedLine& line :
         make::assumed(*session_.project(), *reports->scene, *reports->with<fit::FitReport>().clearance)) {
        QString words = QString::fromStdString(line.name);
        words += line.accuracy_mm ? tr(": assumed to ±%1").arg(length(*line.accuracy_mm)) : tr(": not known how true");
        if (line.margin_mm)
            words += tr(", margin %1 to the %2")
                         .arg(length(*line.margin_mm), QString::fromStdString(line.against).toLower());
        if (line.left_mm && *line.left_mm < 0) words += tr(": it decides");
        out.push_back({QString::fromStdString(line.ref.text()), words});
    }
    return out;
}

/// Left against right of this owner's points, and brackets against seats.
QString SurveyStage::sideWords() const {
    const model::Project& project = *session_.project();
    const auto length = [this](double mm) {
        return QString::fromStdString(quantity::lengthText(std::abs(mm), session_.shown(), 1));
    };
    QStringList lines;
    const model::Donor* donor = model::findDonor(project, model::DonorId{ownerId()});
    const std::vector<model::HardPoint> none;
    const auto& points = donor ? donor->reference_points : project.vehicle ? project.vehicle->hard_points : none;
    for (const model::SidePair& pair : model::sidePairs(points)) {
        QString line =
            tr("%1 against %2:").arg(QString::fromStdString(pair.left), QString::fromStdString(pair.right).toLower());
        line += pair.height_mm == 0
                    ? tr(" level")
                    : tr(" %1 %2").arg(length(pair.height_mm), pair.height_mm > 0 ? tr("higher") : tr("lower"));
        if (pair.fore_aft_mm != 0)
            line += tr(", %1 farther %2")
                        .arg(length(pair.fore_aft_mm), pair.fore_aft_mm > 0 ? tr("rearward") : tr("forward"));
        line += pair.offset_mm == 0
                    ? tr(", centred")
                    : tr(", middle %1 %2")
                          .arg(length(pair.offset_mm),
                               sided(project, ownerId(), tr(pair.offset_mm > 0 ? "{to_right}" : "{to_left}")));
        lines << line;
    }
    for (const model::SeatPair& pair : model::seatPairs(project)) {
        if (std::abs(pair.height_mm) < level_mm && std::abs(pair.offset_mm) < level_mm) continue;
        lines << sided(project, model::vehicle_owner,
                       tr("Brackets on their seats: the mount on the {left} side has to be %1 %2 than the other one; "
                          "the crank then hangs %3 off centre."))
                     .arg(length(pair.height_mm), pair.height_mm > 0 ? tr("higher") : tr("lower"),
                          length(pair.offset_mm));
    }
    return lines.join(QLatin1Char('\n'));
}

Eigen::Vector3d SurveyStage::middle() const {
    if (ownerId() == model::vehicle_owner)
        return (lookout_.centre_mm() / 10).array().round().matrix() * 10; // a whole centimetre is easier to read
    return Eigen::Vector3d::Zero();
}

bool SurveyStage::adopt(const QString& name, Result<model::Project> changed, const QString& newKey) {
    if (!changed) {
        emit session_.notice(QString::fromStdString(changed.error().line()), true);
        return false;
    }
    const QString before = wanted_;
    wanted_ = newKey;
    if (session_.edit(name, std::move(changed).value())) return true;
    wanted_ = before;
    return false;
}

void SurveyStage::askWhatIsNew() {
    if (kind_ != SurveyKind::Bodies) return add();
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("what_is_new"));
    menu->addAction(tr("A box, in free space"), this, &SurveyStage::add);
    menu->addSeparator();
    for (const model::StarterShape& starter : store::firstSurvey().starters)
        if (starter.donors == (ownerId() != model::vehicle_owner))
            menu->addAction(q(starter.name), this, [this, &starter] { addStarter(starter); });
    menu->popup(button(QStringLiteral("new"))->mapToGlobal(QPoint(0, 0)));
}

void SurveyStage::addStarter(const model::StarterShape& starter) {
    model::BodyId id;
    const auto changed = model::withStarter(*session_.project(), store::firstSurvey(), starter, ownerId(), id);
    if (!adopt(tr("a new body: %1").arg(q(starter.name).toLower()), changed, q(id.text))) return;
    asks_ = q(starter.ask);
    asks_of_ = q(id.text);
    mark();
    // The keyboard goes to the first of the sizes that it asks for.
    if (auto* line = starter.asks.empty()
                         ? nullptr
                         : form_->findChild<QLineEdit*>(QStringLiteral("size_mm_") + q(starter.asks.front()))) {
        form_->ensureWidgetVisible(line);
        line->setFocus();
        line->selectAll();
    }
}

Eigen::Vector3d SurveyStage::free() const {
    constexpr double ahead_mm = 250;
    const auto picture = session_.picture();
    const bool of_vehicle = ownerId() == model::vehicle_owner;
    Eigen::AlignedBox3d all;
    if (picture)
        for (const PictureBody& body : picture->bodies)
            if (body.category != "ground") all.extend(body.bounds_vehicle_mm);
    if (all.isEmpty()) return middle();
    const auto tenths = [](const Eigen::Vector3d& at) -> Eigen::Vector3d { return (at / 10).array().round() * 10; };
    const Eigen::Vector3d at(all.min().x() - ahead_mm, 0, all.center().z());
    if (of_vehicle) return tenths(at);
    const model::Donor* donor = model::findDonor(*session_.project(), model::DonorId{ownerId()});
    const model::Placement* placement = model::activePlacement(*session_.project());
    if (!donor || !placement || placement->donor.text != ownerId()) return middle();
    return tenths(model::poseVehicleDonor(*placement, *donor).inverse() * at);
}

void SurveyStage::add() {
    QString made;
    const auto changed =
        withEntry(*session_.project(), ownerId(), kind_, kind_ == SurveyKind::Bodies ? free() : middle(), made);
    const QString names[survey_kind_count] = {tr("a new body"),
                                              tr("a new point"),
                                              tr("a new mass"),
                                              tr("a new bolt to be served"),
                                              tr("a new joined pair"),
                                              tr("a new choice"),
                                              QString(),
                                              QString(),
                                              tr("a new body, taken with a tape"),
                                              tr("another area"),
                                              tr("a dimension of the old engine"),
                                              tr("something found"),
                                              tr("a free room"),
                                              tr("something that moves"),
                                              tr("a way it is made to stand")};
    if (adopt(names[static_cast<int>(kind_)], changed, made)) form_->begin();
}

void SurveyStage::copy() {
    QString made = key();
    const auto changed = withEntryCopied(*session_.project(), ownerId(), kind_, made);
    adopt(tr("copy the %1").arg(list_->currentItem() ? list_->currentItem()->text().toLower() : QString()), changed,
          made);
}

void SurveyStage::mirror() {
    const QString words =
        tr("mirror the %1").arg(list_->currentItem() ? list_->currentItem()->text().toLower() : QString());
    if (kind_ == SurveyKind::Motions) {
        std::string twin;
        const auto changed = model::withMotionMirrored(*session_.project(), ownerId(), key().toStdString(), twin);
        adopt(words, changed, QString::fromStdString(twin));
        return;
    }
    if (!body()) {
        QString made = key();
        auto changed = withEntryCopied(*session_.project(), ownerId(), kind_, made);
        if (changed) mirrorEntry(changed.value(), ownerId(), kind_, made);
        adopt(words, changed, made);
        return;
    }
    model::BodyId image;
    const auto changed = model::withBodyMirrored(*session_.project(), *body(), image);
    adopt(words, changed, QString::fromStdString(image.text));
}

void SurveyStage::variant() {
    if (!body()) return;
    model::BodyId other;
    const auto changed = model::withVariant(*session_.project(), *body(), tr("other form").toStdString(), other);
    adopt(tr("another form of the %1").arg(list_->currentItem()->text().toLower()), changed,
          QString::fromStdString(other.text));
}

void SurveyStage::toggleHidden() {
    if (const auto ref = body())
        lookout_.setSight(*ref, lookout_.sight(*ref) == Sight::Hidden ? Sight::Shown : Sight::Hidden);
}

void SurveyStage::toggleOff() {
    const auto ref = body();
    if (!ref) return;
    model::Project changed = *session_.project();
    model::Body* chosen = model::findBody(changed, *ref);
    if (!chosen) return;
    chosen->off = !chosen->off;
    const QString name = QString::fromStdString(chosen->name).toLower();
    session_.edit(chosen->off ? tr("take off the %1").arg(name) : tr("put back the %1").arg(name), std::move(changed));
}

void SurveyStage::remove() {
    if (key().isEmpty()) return;
    const QString what = kind_ == SurveyKind::About ? owner_->currentText() : list_->currentItem()->text();
    const int row = list_->currentRow();
    const QString next = list_->item(row + 1) ? list_->item(row + 1)->data(Qt::UserRole).toString()
                         : row > 0            ? list_->item(row - 1)->data(Qt::UserRole).toString()
                                              : QString();
    // Entries without ids move up by one place.
    const bool byPlace = kind_ == SurveyKind::Masses || kind_ == SurveyKind::Joined;
    adopt(tr("delete %1").arg(what.toLower()), withoutEntry(*session_.project(), ownerId(), kind_, key()),
          byPlace ? QString::number(std::max(0, row - (list_->item(row + 1) ? 0 : 1))) : next);
}

void SurveyStage::addDonor() {
    if (!session_.hasProject()) return;
    model::Donor donor;
    donor.name = tr("New donor").toStdString();
    model::Project changed = model::withDonor(*session_.project(), std::move(donor));
    const QString id = QString::fromStdString(changed.donors.back().id.text);
    if (!session_.edit(tr("a new donor"), std::move(changed))) return;
    owner_->setCurrentIndex(owner_->findData(id));
    showKind(SurveyKind::About);
    form_->begin();
}

} // namespace gabarit::app

#include "moc_survey_stage.cpp"

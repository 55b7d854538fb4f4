#include "stages/place/fits_block.h"

#include "discipline/sections.h"
#include "fit/fit_report.h"
#include "forms/elided_combo.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "make/fit_map_search.h"
#include "make/free_words.h"
#include "session/job.h"
#include "session/session.h"
#include "stages/place/fit_map_view.h"
#include "stages/place/ways_panel.h"
#include "store/rule_book.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>
#include <utility>

namespace gabarit::app {
namespace {

const char* const freedom_words[fit::freedoms] = {QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "Fore and aft"),
                                                  QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "To the sides"),
                                                  QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "Height"),
                                                  QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "Swing"),
                                                  QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "Tail"),
                                                  QT_TRANSLATE_NOOP("gabarit::app::FitsBlock", "Lean")};

/// What a project holds beside where its unit hangs.
std::uint64_t markWithoutPose(const model::Project& project) {
    std::vector<std::string> sections;
    for (const std::string& name : discipline::sectionNames())
        if (name != "pose") sections.push_back(name);
    return discipline::SectionMarks(project).of(sections);
}

} // namespace

FitsBlock::FitsBlock(Session& session, QWidget* parent)
    : QScrollArea(parent), session_(session), places_(nullptr), first_(nullptr), across_(nullptr), up_(nullptr),
      others_(nullptr), map_(nullptr), says_(nullptr), legend_(nullptr), job_(new Job(this)) {
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inner = new QWidget(this);
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(8, 8, 8, 8);
    column->setSpacing(8);
    const auto make = [inner](const char* name, const QString& words, const QString& tip) {
        auto* out = new QPushButton(words, inner);
        out->setObjectName(QLatin1String(name));
        out->setMinimumHeight(target_px);
        out->setToolTip(tip);
        return out;
    };
    auto* what = new WrappedLabel(inner);
    what->setText(tr("What may change of how it hangs:"));
    column->addWidget(what);
    auto* grid = new QGridLayout;
    grid->setSpacing(2);
    grid->setHorizontalSpacing(4);
    for (std::size_t k = 0; k < fit::freedoms; ++k) {
        may_[k] = new QCheckBox(tr(freedom_words[k]), inner);
        may_[k]->setChecked(true);
        may_[k]->setObjectName(QStringLiteral("may_%1").arg(QLatin1String(fit::word(static_cast<fit::Freedom>(k)))));
        grid->addWidget(may_[k], static_cast<int>(k % 3), static_cast<int>(k / 3));
    }
    column->addLayout(grid);
    auto* line = new QHBoxLayout;
    const auto chooser = [&](const char* name, const QString& tip) {
        auto* out = new ElidedCombo(inner);
        out->setObjectName(QLatin1String(name));
        out->setAccessibleName(tip);
        out->setToolTip(tip);
        out->setMinimumHeight(target_px);
        line->addWidget(out, 1);
        return out;
    };
    first_ = chooser("first", tr("What comes before the smallest move"));
    first_->addItem(tr("First: the smallest move"), QString());
    first_->addItem(tr("First: the shaft that is there"), QStringLiteral("shaft"));
    first_->addItem(tr("First: equal joint angles"), QStringLiteral("angles"));
    column->addLayout(line);
    auto* buttons = new QHBoxLayout;
    auto* place =
        make("place", tr("Nearest  F7"), tr("Looks for the smallest move after which every gap of the unit is good"));
    auto* forms = make("forms", tr("Every form"),
                       tr("Tries every form that the file offers (sump, manifold, gearbox, another donor, a pocket): "
                          "up to a minute"));
    buttons->addWidget(place, 3);
    buttons->addWidget(forms, 2);
    column->addLayout(buttons);
    places_ = new WaysPanel(session_, inner);
    places_->layout()->setContentsMargins(0, 0, 0, 0);
    column->addWidget(places_);
    line = new QHBoxLayout;
    across_ = chooser("across", tr("Across the map"));
    up_ = chooser("up", tr("Upwards on the map"));
    for (std::size_t k = 0; k < fit::freedoms; ++k) {
        across_->addItem(tr(freedom_words[k]));
        up_->addItem(tr(freedom_words[k]));
    }
    across_->setCurrentIndex(static_cast<int>(fit::Freedom::Along));
    up_->setCurrentIndex(static_cast<int>(fit::Freedom::Up));
    column->addLayout(line);
    line = new QHBoxLayout;
    others_ = chooser("others", tr("The other freedoms"));
    others_->addItem(tr("Others held"));
    others_->addItem(tr("Others freed"));
    auto* draw = make("map", tr("Draw the map"), tr("Where it fits over two freedoms, and what binds elsewhere"));
    line->addWidget(draw, 1);
    column->addLayout(line);
    map_ = new FitMapView(inner);
    column->addWidget(map_);
    says_ = new WrappedLabel(inner);
    column->addWidget(says_);
    legend_ = new WrappedLabel(inner);
    column->addWidget(legend_);
    column->addStretch();
    setWidget(inner);
    map_->hide();
    connect(place, &QPushButton::clicked, this, &FitsBlock::lookForAPlace);
    connect(forms, &QPushButton::clicked, this, &FitsBlock::lookForAForm);
    connect(draw, &QPushButton::clicked, this, &FitsBlock::drawMap);
    connect(map_, &FitMapView::pointed, this, [this] {
        const auto at = map_->pointedAt();
        if (at) says_->setText(map_->wordsOf(at->first, at->second));
    });
    connect(map_, &FitMapView::chosen, this, &FitsBlock::hangThere);
    connect(&session_, &Session::projectChanged, this, &FitsBlock::refresh);
    connect(&session_, &Session::projectReplaced, this, &FitsBlock::refresh);
    connect(&session_, &Session::reportsChanged, this, [this] {
        showMap(); // the units may be others
        if (!then_) return;
        says_->clear();
        whenReckoned(std::exchange(then_, nullptr));
    });
    connect(places_, &WaysPanel::changed, this, [this] {
        if (places_->of() != WaysPanel::free_all) forms_after_ = false;
        if (!forms_after_) return;
        QTimer::singleShot(0, this, [this] { // its work counts as busy until its answer is taken
            if (!forms_after_ || places_->looking()) return;
            forms_after_ = false;
            if (places_->of() == WaysPanel::free_all && !places_->found()) lookForAForm();
        });
    });
    connect(job_, &Job::progressed, this, [this](int done, int all) {
        showMap();
        says_->setText(tr("Drawing, %1 of %2").arg(done).arg(all));
    });
    connect(job_, &Job::failed, this,
            [this](const QString& why) { says_->setText(tr("It was given up: %1.").arg(why)); });
}

QPushButton* FitsBlock::button(const QString& name) const { return findChild<QPushButton*>(name); }
QComboBox* FitsBlock::chooser(const QString& name) const { return findChild<QComboBox*>(name); }
bool FitsBlock::drawing() const { return job_->busy(); }
bool FitsBlock::looking() const { return then_ || forms_after_ || drawing() || places_->looking(); }

void FitsBlock::whenReckoned(std::function<void()> what) {
    const auto reports = session_.reports();
    if (reports && reports->complete && reports->project == session_.project()) {
        then_ = nullptr;
        return what();
    }
    then_ = std::move(what);
    says_->setText(tr("The figures are still being worked out; then it begins."));
}

std::string FitsBlock::held() const {
    std::string out;
    for (std::size_t k = 0; k < fit::freedoms; ++k)
        if (!may_[k]->isChecked())
            out += (out.empty() ? "" : ",") + std::string(fit::word(static_cast<fit::Freedom>(k)));
    return out;
}

std::string FitsBlock::first() const { return first_->currentData().toString().toStdString(); }

void FitsBlock::lookForAPlace() {
    whenReckoned([this] {
        forms_after_ = hasForms();
        places_->lookForAPlace(held(), first());
        bringIntoSight(places_);
    });
}

/// Whether anything of what hangs or stands can be had in another form, or another donor can hang.
bool FitsBlock::hasForms() const {
    const auto project = session_.project();
    const model::Donor* donor = project ? model::activeDonor(*project) : nullptr;
    if (!donor || !project->vehicle) return false;
    const auto several = [](const model::Choice& choice) { return choice.options.size() > 1; };
    return project->donors.size() > 1 || std::any_of(donor->choices.begin(), donor->choices.end(), several) ||
           std::any_of(project->vehicle->choices.begin(), project->vehicle->choices.end(), several);
}

void FitsBlock::lookForAForm() {
    whenReckoned([this] {
        forms_after_ = false;
        places_->lookForAForm(held(), first());
        bringIntoSight(places_);
    });
}

void FitsBlock::bringIntoSight(QWidget* its) {
    QTimer::singleShot(0, this, [this, its] {
        widget()->layout()->activate();
        ensureWidgetVisible(its, 0, 8);
    });
}

void FitsBlock::drawMap() {
    if (across_->currentIndex() == up_->currentIndex())
        return emit session_.notice(tr("A map goes over two different freedoms: choose another one upwards."), false);
    whenReckoned([this] { beginMap(); });
}

void FitsBlock::beginMap() {
    const auto reports = session_.reports();
    make::MapAsked asked;
    asked.across = static_cast<fit::Freedom>(across_->currentIndex());
    asked.up = static_cast<fit::Freedom>(up_->currentIndex());
    asked.freed = others_->currentIndex() == 1;
    of_ = reports;
    mark_ = markWithoutPose(*reports->project);
    so_far_ = std::make_shared<SoFar>();
    map_->clear();
    map_->show();
    legend_->clear();
    says_->setText(tr("Drawing…"));
    bringIntoSight(map_);
    job_->begin(
        [reports, asked, so_far = so_far_](const StopToken& stop, const Job::Progress& progress) {
            study::Study study(store::defaultRuleBook());
            const model::RuleBook book = model::applied(store::defaultRuleBook(), reports->project->rules);
            return make::mapped({study, *reports}, book, asked, stop, [&](const fit::FitMap& map) {
                int told = 0;
                for (const fit::MapPoint& point : map.points) told += point.told;
                {
                    const std::lock_guard<std::mutex> lock(so_far->mutex);
                    so_far->map = map;
                }
                progress(told, static_cast<int>(map.points.size()));
            });
        },
        [this](Result<fit::FitMap> map) {
            if (!map) return says_->setText(q(map.error().line()));
            {
                const std::lock_guard<std::mutex> lock(so_far_->mutex);
                so_far_->map = std::move(map).value();
            }
            showMap();
            says_->setText(
                tr("As the search sees it: click, and the unit hangs there and is measured. Hatched: shafts, "
                   "mounts or loads are not all go."));
        });
}

void FitsBlock::showMap() {
    if (!so_far_ || !of_) return;
    const std::lock_guard<std::mutex> lock(so_far_->mutex);
    if (so_far_->map.points.empty()) return;
    map_->setMap(so_far_->map, *of_->project, session_.shown());
    legend_->setText(map_->legend());
}

void FitsBlock::refresh() {
    if (!of_) return;
    const auto project = session_.project();
    const model::Placement* was = model::activePlacement(*of_->project);
    const model::Placement* is = project ? model::activePlacement(*project) : nullptr;
    const bool same = was && is && was->id == is->id && was->donor == is->donor && markWithoutPose(*project) == mark_;
    const std::optional<model::Donor> donor = project ? model::hangingDonor(*project) : std::nullopt;
    if (!same || !donor) {
        job_->stop();
        of_.reset();
        so_far_.reset();
        map_->clear();
        map_->hide();
        says_->clear();
        legend_->clear();
        return;
    }
    const auto pivot = [&donor](const model::Placement& placement) {
        const auto its = model::pivotVehicle_mm(placement, *donor);
        return its.ok() ? its.value() : placement.position_mm;
    };
    const Eigen::Vector3d moved = pivot(*is) - pivot(*was);
    const fit::Shift by{moved.x(),
                        moved.y(),
                        moved.z(),
                        is->angles.yaw_deg - was->angles.yaw_deg,
                        is->angles.pitch_deg - was->angles.pitch_deg,
                        is->angles.roll_deg - was->angles.roll_deg};
    map_->setHangs(by[static_cast<std::size_t>(map_->map().across.of)],
                   by[static_cast<std::size_t>(map_->map().up.of)]);
}

void FitsBlock::hangThere(int column, int row) {
    if (!of_ || !map_->hasMap()) return;
    const fit::MapPoint& point = map_->map().at(column, row);
    const model::Placement* placement = model::activePlacement(*of_->project);
    const std::optional<model::Donor> donor = model::hangingDonor(*of_->project);
    if (!placement || !donor) return;
    fit::Shift by = point.by; // with the others as they are best there
    if (!point.told) {
        by = {};
        by[static_cast<std::size_t>(map_->map().across.of)] = map_->map().acrossOf(column);
        by[static_cast<std::size_t>(map_->map().up.of)] = map_->map().upOf(row);
    }
    const auto there = fit::changed(*placement, *donor, by);
    if (!there.ok()) return emit session_.notice(q(there.error().line()), false);
    session_.takeInHand(std::nullopt);
    session_.tryPlacement(there.value(), q(make::shiftWords(*of_->project, by, session_.shown())));
}

} // namespace gabarit::app

#include "moc_fits_block.cpp"

#include "stages/place/movement_block.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "session/session.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QListWidget>
#include <QScrollArea>
#include <QSlider>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr int slider_end = 1000;
constexpr int frame_ms = 50;
constexpr double step_rad = 0.12; // there and back in under three seconds
constexpr int most_moments = 14;  // the list of what is in the way has the others

QLabel* heading(const QString& words, QWidget* parent) {
    auto* label = new QLabel(words, parent);
    QFont bold = label->font();
    bold.setBold(true);
    label->setFont(bold);
    return label;
}

double valueAt(const kinematics::Freedom& freedom, int slider) {
    return (slider < 0 ? -freedom.low : freedom.high) * slider / slider_end;
}
int sliderAt(const kinematics::Freedom& freedom, double value) {
    const double reach = value < 0 ? -freedom.low : freedom.high;
    return reach > 0 ? static_cast<int>(std::lround(value / reach * slider_end)) : 0;
}

bool plays(fit::FreedomOf of, const QString& button) {
    switch (of) {
    case fit::FreedomOf::Travel:
    case fit::FreedomOf::Roll: return button == QStringLiteral("play_travel");
    case fit::FreedomOf::Steering: return button == QStringLiteral("play_steering");
    default: return button == QStringLiteral("play_rock");
    }
}

} // namespace

MovementBlock::MovementBlock(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), rows_(new QVBoxLayout), none_(new QLabel(this)),
      stands_(new QListWidget(this)), stands_title_(heading(tr("How it stands"), this)),
      moments_(new QListWidget(this)), moments_title_(heading(tr("Nearest moments"), this)),
      sweep_(new QCheckBox(tr("Show all that is swept"), this)), clock_(new QTimer(this)) {
    auto* inner = new QWidget(this);
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(12, 8, 10, 8);
    column->setSpacing(4);
    none_->setWordWrap(true);
    none_->setText(tr("Nothing moves yet. Under Survey, Moving, say which points axles, arms and steering turn "
                      "about; under Set-up, how far the engine rocks."));
    column->addWidget(none_);
    column->addLayout(rows_);
    auto* buttons = new QGridLayout;
    buttons->setSpacing(4);
    int made = 0;
    const struct {
        const char* name;
        QString words, tip;
    } acts[] = {{"play_travel", tr("Bump to droop"), tr("Plays the springs' travel, end to end")},
                {"play_steering", tr("Lock to lock"), tr("Plays the steering, lock to lock")},
                {"play_rock", tr("Rock the engine"), tr("Plays the engine on its mounts")},
                {"rest", tr("At rest"), tr("Everything back to ride height, straight ahead, still")}};
    for (const auto& act : acts) {
        auto* tool = new QToolButton(this);
        tool->setObjectName(QString::fromLatin1(act.name));
        tool->setText(act.words);
        tool->setToolTip(act.tip);
        tool->setMinimumHeight(target_px);
        tool->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        const bool rest = QLatin1String(act.name) == QLatin1String("rest");
        tool->setCheckable(!rest);
        if (rest)
            connect(tool, &QToolButton::clicked, this, [this] {
                stopPlaying();
                session_.moveTo(std::nullopt);
            });
        else
            connect(tool, &QToolButton::toggled, this, [this] {
                bool any = false;
                for (const char* name : {"play_travel", "play_steering", "play_rock"})
                    any = any || button(QString::fromLatin1(name))->isChecked();
                any ? clock_->start(frame_ms) : clock_->stop();
            });
        buttons->addWidget(tool, made / 2, made % 2);
        ++made;
    }
    column->addLayout(buttons);
    sweep_->setMinimumHeight(target_px);
    sweep_->setToolTip(tr("Dotted outlines of the room that everything takes over its whole movement"));
    connect(sweep_, &QCheckBox::toggled, this, [this](bool on) { session_.wantSweeps(on); });
    column->addWidget(sweep_);
    const auto list = [](QListWidget* widget, const QString& name) {
        widget->setAccessibleName(name);
        widget->setWordWrap(true);
        widget->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        widget->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        widget->setSpacing(1);
    };
    list(stands_, tr("How it stands: ride height, new load, bump stop, blocks"));
    list(moments_, tr("Nearest moments over all movement"));
    column->addWidget(stands_title_);
    column->addWidget(stands_);
    column->addWidget(moments_title_);
    column->addWidget(moments_);
    column->addStretch(1);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(scroll);
    connect(clock_, &QTimer::timeout, this, &MovementBlock::play);
    connect(&session_, &Session::reportsChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::movedToChanged, this, &MovementBlock::toSliders);
    connect(&session_, &Session::projectReplaced, this, [this] {
        stopPlaying();
        sweep_->setChecked(false);
    });
    const auto stand = [this](QListWidgetItem* item) {
        const QPointF mm = item->data(Qt::UserRole).toPointF();
        if (!movement() || !item->data(Qt::UserRole).isValid()) return;
        stopPlaying();
        kinematics::State state = kinematics::atRest(movement()->freedoms);
        for (std::size_t i = 0; i < state.size(); ++i) {
            const fit::MovementFreedom& of = movement()->of[i];
            if (of.of != fit::FreedomOf::Travel || of.end == model::End::NotSaid) continue;
            state[i] = std::clamp(of.end == model::End::Front ? mm.x() : mm.y(), movement()->freedoms[i].low,
                                  movement()->freedoms[i].high);
        }
        session_.moveTo(state);
    };
    connect(stands_, &QListWidget::itemClicked, this, stand);
    connect(stands_, &QListWidget::itemActivated, this, stand);
    const auto show = [this](QListWidgetItem* item) {
        const auto reports = session_.reports();
        const auto at = item->data(Qt::UserRole).toULongLong();
        if (!reports || !reports->with<fit::FitReport>().clearance ||
            at >= reports->with<fit::FitReport>().clearance->pairs.size())
            return;
        const fit::PairGap& pair = reports->with<fit::FitReport>().clearance->pairs[at];
        const fit::Moment* moment = pair.travel && !pair.travel->state.empty() && pair.deciding() != fit::When::Worst
                                        ? &*pair.travel
                                    : pair.worst ? &*pair.worst
                                                 : nullptr;
        if (!moment || moment->state.empty()) return;
        stopPlaying();
        session_.moveTo(moment->state);
        emit leadTo(pair.verdict == model::Verdict::Go ? QString() : q(fit::findingId(pair)),
                    (moment->gap.point_a + moment->gap.point_b) / 2);
    };
    connect(moments_, &QListWidget::itemClicked, this, show);
    connect(moments_, &QListWidget::itemActivated, this, show);
    refresh();
}

QSlider* MovementBlock::slider(std::size_t freedom) const { return sliders_.at(freedom).slider; }
QToolButton* MovementBlock::button(const QString& name) const { return findChild<QToolButton*>(name); }

const fit::Movement* MovementBlock::movement() const {
    const auto reports = session_.reports();
    return reports && reports->with<fit::FitReport>().clearance && reports->with<fit::FitReport>().clearance->movement
               ? reports->with<fit::FitReport>().clearance->movement.get()
               : nullptr;
}

void MovementBlock::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void MovementBlock::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    stopPlaying(); // nobody sees it
}

void MovementBlock::stopPlaying() {
    for (const char* name : {"play_travel", "play_steering", "play_rock"})
        button(QString::fromLatin1(name))->setChecked(false);
}

QString MovementBlock::words(std::size_t freedom, double value) const {
    const fit::MovementFreedom& of = movement()->of[freedom];
    kinematics::State state = kinematics::atRest(movement()->freedoms);
    state[freedom] = value;
    QString said = q(fit::stateWords(*session_.project(), *movement(), state, session_.shown()));
    // The name stands before it already.
    const QString name = q(of.name).toLower() + QLatin1Char(' ');
    if (said.startsWith(name, Qt::CaseInsensitive)) said.remove(0, name.size());
    return said;
}

void MovementBlock::build(const fit::Movement& movement) {
    for (const Row& row : sliders_) {
        row.words->deleteLater();
        row.slider->deleteLater();
    }
    sliders_.clear();
    for (std::size_t i = 0; i < movement.freedoms.size(); ++i) {
        Row row{new QLabel(this), new QSlider(Qt::Horizontal, this)};
        row.words->setWordWrap(true);
        row.slider->setRange(-slider_end, slider_end);
        row.slider->setPageStep(slider_end / 10);
        row.slider->setMinimumHeight(24);
        row.slider->setAccessibleName(q(movement.of[i].name));
        const kinematics::Freedom& freedom = movement.freedoms[i];
        row.slider->setToolTip(tr("%1 to %2").arg(words(i, freedom.low), words(i, freedom.high)));
        connect(row.slider, &QSlider::valueChanged, this, [this] {
            if (!filling_) fromSliders();
        });
        connect(row.slider, &QSlider::sliderPressed, this, &MovementBlock::stopPlaying);
        rows_->addWidget(row.words);
        rows_->addWidget(row.slider);
        sliders_.push_back(row);
    }
}

void MovementBlock::refresh() {
    const fit::Movement* now = session_.hasProject() ? movement() : nullptr;
    std::string print = now ? now->print : std::string();
    if (now)
        for (const auto& of : now->of) print += of.name;
    if (print != built_) {
        built_ = print;
        stopPlaying();
        build(now ? *now : fit::Movement{});
    }
    const bool any = now && now->any();
    none_->setVisible(!any);
    sweep_->setVisible(any);
    for (const char* name : {"play_travel", "play_steering", "play_rock", "rest"}) {
        QToolButton* tool = button(QString::fromLatin1(name));
        const bool has = any && (tool->objectName() == QStringLiteral("rest") ||
                                 std::any_of(now->of.begin(), now->of.end(), [&](const fit::MovementFreedom& of) {
                                     return plays(of.of, tool->objectName());
                                 }));
        tool->setVisible(any);
        tool->setEnabled(has);
    }
    toSliders();
    fillStands();
    fillMoments();
}

void MovementBlock::toSliders() {
    const fit::Movement* now = session_.hasProject() ? movement() : nullptr;
    if (!now || now->freedoms.size() != sliders_.size()) return;
    filling_ = true;
    for (std::size_t i = 0; i < sliders_.size(); ++i) {
        const double value = session_.movedTo() && i < session_.movedTo()->size() ? (*session_.movedTo())[i] : 0;
        sliders_[i].slider->setValue(sliderAt(now->freedoms[i], value));
        const QString what =
            now->of[i].of == fit::FreedomOf::Roll ? tr("%1, roll").arg(q(now->of[i].name)) : q(now->of[i].name);
        const QString said = value == 0 ? now->of[i].of == fit::FreedomOf::Steering   ? tr("straight ahead")
                                          : now->of[i].of == fit::FreedomOf::Travel   ? tr("ride height")
                                          : now->of[i].of == fit::FreedomOf::Roll     ? tr("level")
                                          : now->of[i].of == fit::FreedomOf::RockRoll ? tr("not rolled")
                                          : now->of[i].of == fit::FreedomOf::RockUp   ? tr("neither up nor down")
                                                                                      : tr("neither forward nor back")
                                        : words(i, value);
        sliders_[i].words->setText(tr("%1: %2").arg(what, said));
    }
    filling_ = false;
}

void MovementBlock::fromSliders() {
    const fit::Movement* now = movement();
    if (!now || now->freedoms.size() != sliders_.size()) return;
    kinematics::State state(sliders_.size());
    for (std::size_t i = 0; i < state.size(); ++i) state[i] = valueAt(now->freedoms[i], sliders_[i].slider->value());
    session_.moveTo(state);
}

void MovementBlock::play() {
    const fit::Movement* now = movement();
    if (!now || session_.moving()) return; // the last frame is still being drawn
    phase_ += step_rad;
    kinematics::State state = session_.movedTo().value_or(kinematics::atRest(now->freedoms));
    if (state.size() != now->freedoms.size()) return;
    for (std::size_t i = 0; i < state.size(); ++i) {
        const fit::FreedomOf of = now->of[i].of;
        for (const char* name : {"play_travel", "play_steering", "play_rock"}) {
            if (!plays(of, QString::fromLatin1(name)) || !button(QString::fromLatin1(name))->isChecked()) continue;
            // Roll, and fore and aft, at another pace, so that all corners are come by.
            const bool second = of == fit::FreedomOf::Roll || of == fit::FreedomOf::RockAlong;
            const double swing = std::sin(second ? phase_ * 0.62 : phase_);
            state[i] = swing < 0 ? -now->freedoms[i].low * swing : now->freedoms[i].high * swing;
        }
    }
    if (!kinematics::allowed(now->stops, state)) return; // against a stop: the next frame is beside it
    session_.moveTo(state);
}

void MovementBlock::fillStands() {
    stands_->clear();
    const auto reports = session_.reports();
    const bool has = reports && reports->with<fit::FitReport>().stances;
    stands_->setVisible(has);
    stands_title_->setVisible(has);
    if (!has) return;
    const auto length = [this](double mm) { return q(quantity::lengthText(mm, session_.shown(), 0)); };
    for (const fit::StanceLine& line : reports->with<fit::FitReport>().stances->lines) {
        QString words = q(line.name);
        if (line.front_mm != 0 || line.rear_mm != 0)
            words += tr(": front %1, rear %2").arg(length(line.front_mm), length(line.rear_mm));
        if (line.beyond_bump) words += tr(" (beyond the bump stop)");
        words += line.ground_mm
                     ? tr("\nground %1 of %2, %3")
                           .arg(length(*line.ground_mm), length(line.limit_mm), q(line.lowest_name).toLower())
                     : tr("\nground not known: %1").arg(q(line.reason));
        if (line.tightest)
            words += tr("\n%1 to %2 %3")
                         .arg(q(line.tightest->name_a).toLower(), q(line.tightest->name_b).toLower(),
                              line.tightest->overlap() ? tr("touch") : length(line.tightest->gap.gap_mm));
        auto* item = new QListWidgetItem(words, stands_);
        item->setData(Qt::UserRole, QPointF(line.front_mm, line.rear_mm));
        item->setToolTip(line.blocks.empty() ? tr("Click to see it stand so") : q(line.blocks));
        if (line.ground_mm && line.verdict != model::Verdict::Go) item->setForeground(inkOf(line.verdict));
    }
    if (!reports->with<fit::FitReport>().stances->sag_left_out.empty()) {
        QStringList why;
        for (const std::string& reason : reports->with<fit::FitReport>().stances->sag_left_out) why << q(reason);
        auto* item = new QListWidgetItem(tr("Sag under the new load left out: %1").arg(why.join(tr("; "))), stands_);
        item->setFlags(Qt::ItemIsEnabled);
    }
    int height = 24;
    for (int row = 0; row < stands_->count(); ++row) height += stands_->sizeHintForRow(row);
    stands_->setFixedHeight(height);
}

void MovementBlock::fillMoments() {
    const int chosen = moments_->currentRow();
    moments_->clear();
    const auto reports = session_.reports();
    if (reports && reports->with<fit::FitReport>().clearance) {
        struct Line {
            std::size_t at;
            const fit::Moment* moment;
        };
        std::vector<Line> lines;
        const auto& pairs = reports->with<fit::FitReport>().clearance->pairs;
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            const fit::Moment* best = nullptr;
            for (const auto* moment : {&pairs[i].travel, &pairs[i].worst})
                if (*moment && !(*moment)->state.empty() && !(*moment)->beyond() && !(*moment)->bound &&
                    (!best || (*moment)->margin_mm < best->margin_mm))
                    best = &**moment;
            if (best) lines.push_back({i, best});
        }
        std::stable_sort(lines.begin(), lines.end(),
                         [](const Line& x, const Line& y) { return x.moment->margin_mm < y.moment->margin_mm; });
        if (lines.size() > most_moments) lines.resize(most_moments);
        for (const Line& line : lines) {
            const fit::PairGap& pair = pairs[line.at];
            const std::string when = fit::momentWords(*reports->project, *reports->with<fit::FitReport>().clearance,
                                                      *line.moment, session_.shown());
            auto* item =
                new QListWidgetItem(tr("%1 of %2 · %3 to %4\n%5")
                                        .arg(q(fit::gapWords(*line.moment, session_.shown())),
                                             q(quantity::lengthText(line.moment->limit.gap_mm, session_.shown(), 0)),
                                             q(pair.name_a), q(pair.name_b).toLower(), q(when)),
                                    moments_);
            item->setData(Qt::UserRole, static_cast<qulonglong>(line.at));
            item->setToolTip(tr("Between the states that were measured at most %1 less may hide. Click to see it.")
                                 .arg(q(quantity::lengthText(line.moment->hidden_mm, session_.shown(), 1))));
            if (line.moment->verdict != model::Verdict::Go) item->setForeground(inkOf(line.moment->verdict));
        }
    }
    moments_->setVisible(moments_->count() > 0);
    moments_title_->setVisible(moments_->count() > 0);
    if (chosen >= 0 && chosen < moments_->count()) moments_->setCurrentRow(chosen);
    int height = 12;
    for (int i = 0; i < moments_->count(); ++i) height += moments_->sizeHintForRow(i) + 2;
    moments_->setFixedHeight(std::max(height, 40));
}

} // namespace gabarit::app

#include "moc_movement_block.cpp"

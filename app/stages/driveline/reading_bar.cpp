#include "stages/driveline/reading_bar.h"

#include "driveline/section/driveline.h"
#include "forms/elided_combo.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/instrument.h"
#include "session/session.h"

#include <QComboBox>
#include <QDateTime>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QTimer>

namespace gabarit::app {
namespace {

constexpr int places = 8, quarter_deg = 90, place_deg = 360 / places;
const char* const line_setting = "instrument/line";

} // namespace

ReadingBar::ReadingBar(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), instrument_(new Instrument(this)), line_(new QLineEdit(this)),
      listen_(new QPushButton(tr("Listen"), this)), heard_(new QLabel(this)),
      take_(new QPushButton(tr("Take reading"), this)), typed_(new QLineEdit(this)), where_(new QWidget(this)),
      what_(new ElidedCombo(this)), clock_(new QSpinBox(this)), turn_(new QSpinBox(this)) {
    const std::pair<QWidget*, const char*> names[] = {{line_, "line"},   {listen_, "listen"}, {heard_, "heard"},
                                                      {take_, "take"},   {typed_, "typed"},   {what_, "what"},
                                                      {clock_, "clock"}, {turn_, "turn"}};
    for (const auto& [widget, name] : names) {
        widget->setObjectName(QString::fromLatin1(name));
        widget->setMinimumHeight(target_px);
    }
    line_->setPlaceholderText(tr("serial line"));
    line_->setAccessibleName(tr("The instrument's serial line"));
    line_->setText(QSettings().value(QLatin1String(line_setting)).toString());
    typed_->setPlaceholderText(tr("typed, Enter"));
    typed_->setAccessibleName(tr("A reading, typed"));
    what_->addItems({tr("faces"), tr("rim")});
    what_->setAccessibleName(tr("Faces or rim"));
    clock_->setRange(0, 359);
    clock_->setSuffix(tr("° place"));
    clock_->setAccessibleName(tr("Place round the clock, from the top, seen from behind"));
    clock_->setWrapping(true);
    clock_->setSingleStep(place_deg);
    turn_->setRange(0, 359);
    turn_->setSuffix(tr("° turned"));
    turn_->setAccessibleName(tr("How far the shaft is turned"));
    turn_->setWrapping(true);
    turn_->setSingleStep(quarter_deg);
    auto* spins = new QHBoxLayout(where_);
    spins->setContentsMargins(0, 0, 0, 0);
    spins->addWidget(what_);
    spins->addWidget(clock_, 1);
    spins->addWidget(turn_, 1);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->addWidget(line_, 0, 0);
    grid->addWidget(listen_, 0, 1);
    grid->addWidget(heard_, 0, 2);
    grid->addWidget(take_, 0, 3);
    grid->addWidget(typed_, 0, 4);
    grid->addWidget(where_, 1, 0, 1, 5);
    grid->setColumnStretch(0, 2);
    grid->setColumnStretch(4, 2);
    heard_->setMinimumWidth(64);

    connect(listen_, &QPushButton::clicked, this, [this] {
        if (instrument_->listening()) return instrument_->close();
        QSettings().setValue(QLatin1String(line_setting), line_->text());
        instrument_->listen(line_->text());
    });
    connect(line_, &QLineEdit::returnPressed, listen_, &QPushButton::click);
    connect(take_, &QPushButton::clicked, this, &ReadingBar::take);
    connect(typed_, &QLineEdit::returnPressed, this, &ReadingBar::typed);
    connect(instrument_, &Instrument::heard, this, &ReadingBar::refresh);
    connect(instrument_, &Instrument::stateChanged, this, &ReadingBar::refresh);
    connect(instrument_, &Instrument::lost, this, [this](const QString& words) { emit session_.notice(words, true); });
    connect(instrument_, &Instrument::noise, this, [this](const QString& words) { emit session_.notice(words, true); });
    auto* clock = new QTimer(this); // a reading grows old
    connect(clock, &QTimer::timeout, this, &ReadingBar::refresh);
    clock->start(1000);
    refresh();
}

void ReadingBar::choose(const QString& key) {
    key_ = key;
    const bool coupling = key.startsWith(QLatin1String("coupling:"));
    where_->setVisible(coupling);
    setVisible(coupling || key.startsWith(QLatin1String("reading:")));
}

void ReadingBar::refresh() {
    const auto last = instrument_->last();
    const auto taken = instrument_->taken();
    const auto words = [this](const quantity::InstrumentReading& reading) {
        return reading.kind == quantity::ReadingKind::Angle
                   ? q(quantity::angleText(reading.value, 2))
                   : q(quantity::lengthText(reading.value, session_.shown(), 2));
    };
    listen_->setText(instrument_->listening() ? tr("Stop") : tr("Listen"));
    take_->setEnabled(instrument_->listening());
    // What stands there is what is taken: the middle one of the last five.
    heard_->setText(!instrument_->listening() ? QString()
                    : !last                   ? tr("silent")
                    : taken                   ? words(taken.value())
                                              : tr("settling… %1").arg(words(*last)));
}

void ReadingBar::take() {
    const auto taken = instrument_->taken();
    if (!taken) return emit session_.notice(q(taken.error().line()), true);
    const bool angle = key_.startsWith(QLatin1String("reading:"));
    if (angle != (taken.value().kind == quantity::ReadingKind::Angle))
        return emit session_.notice(angle ? tr("This instrument measures lengths; an angle is wanted.")
                                          : tr("This instrument measures angles; a gap is wanted."),
                                    true);
    if (put(taken.value().value, instrument_->path())) onward();
}

void ReadingBar::typed() {
    const bool angle = key_.startsWith(QLatin1String("reading:"));
    const auto value = quantity::parse(angle ? quantity::Dimension::Angle : quantity::Dimension::Length,
                                       typed_->text().toStdString(), session_.shown());
    if (!value) return emit session_.notice(q(value.error().line()), true);
    if (!put(value.value(), QString())) return;
    typed_->clear();
    onward();
}

/// One step of undo. The time is kept to the second.
bool ReadingBar::put(double value, const QString& device) {
    model::Project changed = *session_.project();
    auto* driveline = changed.sections.own<model::Driveline>();
    if (!driveline) return false;
    const std::string id = key_.section(QLatin1Char(':'), 1).toStdString();
    const std::string now = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    for (model::AngleReading& reading : driveline->readings)
        if (key_.startsWith(QLatin1String("reading:")) && reading.id == id) {
            reading.reading_deg = value;
            reading.device = device.toStdString();
            reading.time = now;
            return session_.edit(tr("take an angle"), std::move(changed));
        }
    for (model::CouplingCheck& coupling : driveline->couplings) {
        if (!key_.startsWith(QLatin1String("coupling:")) || coupling.id != id) continue;
        if (coupling.tries.empty()) {
            model::CouplingTry first;
            first.id = "as-hung";
            first.name = "As hung";
            coupling.tries.push_back(first);
        }
        model::CouplingReading reading;
        reading.rim = what_->currentIndex() == 1;
        reading.clock_deg = clock_->value();
        reading.turn_deg = turn_->value();
        reading.mm = value;
        reading.device = device.toStdString();
        reading.time = now;
        coupling.tries.back().readings.push_back(reading);
        return session_.edit(tr("take a reading at the coupling"), std::move(changed));
    }
    return false;
}

/// Round the clock in eighths; then the shaft a quarter on.
void ReadingBar::onward() {
    if (!where_->isVisibleTo(this)) return;
    const int next = clock_->value() + place_deg;
    if (next >= 360) turn_->setValue((turn_->value() + quarter_deg) % 360);
    clock_->setValue(next % 360);
}

} // namespace gabarit::app

#include "moc_reading_bar.cpp"

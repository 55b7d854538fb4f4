#include "kit/instrument.h"

#include <QSerialPort>

#include <algorithm>
#include <vector>

namespace gabarit::app {
namespace {

constexpr std::size_t median_of = 5;
constexpr int stale_ms = 2000;
constexpr int longest_line = 4096; // without a line feed: something else is on the line

} // namespace

Instrument::Instrument(QObject* parent) : QObject(parent) {}
Instrument::~Instrument() = default;

bool Instrument::listening() const { return port_ && port_->isOpen(); }

void Instrument::listen(const QString& path) {
    close();
    path_ = path.trimmed();
    if (path_.isEmpty()) return failed(tr("There is no line to listen to; type its path, as /dev/ttyUSB0."));
    port_ = std::make_unique<QSerialPort>();
    port_->setPortName(path_);
    port_->setBaudRate(QSerialPort::Baud9600);
    connect(port_.get(), &QSerialPort::readyRead, this, &Instrument::read);
    // When the other end goes, the error comes again without end: closed at the first, after this signal is done.
    connect(
        port_.get(), &QSerialPort::errorOccurred, this,
        [this](QSerialPort::SerialPortError error) {
            if (error == QSerialPort::NoError || error == QSerialPort::TimeoutError || !listening()) return;
            failed(tr("The instrument at %1 is gone.").arg(path_));
        },
        Qt::QueuedConnection);
    if (!port_->open(QIODevice::ReadOnly))
        return failed(tr("%1 cannot be listened to: %2. Look whether it is plugged in, not used by something else, and "
                         "yours to read.")
                          .arg(path_, port_->errorString()));
    emit stateChanged();
}

void Instrument::failed(const QString& words) {
    close();
    emit lost(words);
}

void Instrument::close() {
    if (port_) {
        port_->disconnect(this);
        port_->close();
        port_.release()->deleteLater();
    }
    rest_.clear();
    heard_.clear();
    emit stateChanged();
}

void Instrument::read() {
    rest_ += port_->readAll();
    for (int end = static_cast<int>(rest_.indexOf('\n')); end >= 0; end = static_cast<int>(rest_.indexOf('\n'))) {
        const auto line = quantity::parseReadingLine(rest_.left(end).toStdString());
        rest_.remove(0, end + 1);
        if (!line) {
            emit noise(QString::fromStdString(line.error().line()));
            continue;
        }
        if (!line.value()) continue;
        // What was heard before a silence, or of another kind, is no part of what is held there now.
        const QDateTime now = QDateTime::currentDateTime();
        if (!heard_.empty() &&
            (heard_.back().at.msecsTo(now) > stale_ms || heard_.back().reading.kind != line.value()->kind))
            heard_.clear();
        heard_.push_back({*line.value(), now});
        while (heard_.size() > median_of) heard_.pop_front();
        emit heard();
    }
    if (rest_.size() > longest_line) rest_.clear();
}

std::optional<quantity::InstrumentReading> Instrument::last() const {
    if (heard_.empty() || heard_.back().at.msecsTo(QDateTime::currentDateTime()) > stale_ms) return std::nullopt;
    return heard_.back().reading;
}

Result<quantity::InstrumentReading> Instrument::taken() const {
    const auto now = last();
    if (!now)
        return Error{"the instrument has said nothing for two seconds", path_.toStdString(),
                     "wake it, or type the reading"};
    std::vector<double> values;
    for (const Heard& h : heard_) values.push_back(h.reading.value);
    if (values.size() < median_of)
        return Error{"fewer than five readings have come", path_.toStdString(), "hold it still a moment longer"};
    std::nth_element(values.begin(), values.begin() + median_of / 2, values.end());
    return quantity::InstrumentReading{now->kind, values[median_of / 2]};
}

} // namespace gabarit::app

#include "moc_instrument.cpp"

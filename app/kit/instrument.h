// Listens to an instrument on a serial line.
#pragma once

#include "quantity/reading_line.h"

#include <QDateTime>
#include <QObject>

#include <deque>
#include <memory>
#include <optional>

class QSerialPort;

namespace gabarit::app {

class Instrument : public QObject {
    Q_OBJECT
public:
    explicit Instrument(QObject* parent = nullptr);
    ~Instrument() override;

    /// Opens a line (9600 baud, 8N1); a refusal becomes lost().
    void listen(const QString& path);
    void close();
    bool listening() const;
    QString path() const { return path_; }
    /// The newest, while it is younger than two seconds.
    std::optional<quantity::InstrumentReading> last() const;
    /// The median of the last five without a silence between them; what is missing otherwise.
    Result<quantity::InstrumentReading> taken() const;

signals:
    void heard();
    void noise(const QString& words); ///< a line that is no reading
    void lost(const QString& words);  ///< it closed, or could not be opened
    void stateChanged();

private:
    void read();
    void failed(const QString& words);

    std::unique_ptr<QSerialPort> port_;
    QString path_;
    QByteArray rest_;
    struct Heard {
        quantity::InstrumentReading reading;
        QDateTime at;
    };
    std::deque<Heard> heard_;
};

} // namespace gabarit::app

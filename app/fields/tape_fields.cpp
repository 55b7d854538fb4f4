// The fields of what is bound to tape readings.
#include "fields/survey_forms.h"
#include "forms/text.h"
#include "model/tape.h"
#include "session/session.h"
#include "store/first_survey.h"

#include <algorithm>
#include <set>

namespace gabarit::app {
namespace {

using quantity::Dimension;

/// "Front face".
QString label(const model::Project& project, const std::string& owner, const model::TapeSlot& slot) {
    QString words = sided(project, owner, tr(slot.words));
    words[0] = words[0].toUpper();
    return words;
}

/// One that a tape has just read, as true as a tape reads.
model::Reading freshlyRead(const std::string& what, int station, double mm) {
    model::Reading reading{what, station, mm, store::firstSurvey().tape_accuracy_mm};
    reading.measured.method = model::Method::Measured;
    return reading;
}

/// What was assumed is now read, as true as a tape reads.
void readNow(model::Reading& reading) {
    if (reading.measured.method != model::Method::Assumed) return;
    reading.measured.method = model::Method::Measured;
    reading.accuracy_mm = store::firstSurvey().tape_accuracy_mm;
}

/// Points that a tape can be hooked on: those that hang on no hook themselves.
Choices hookChoices(const model::Project& project, const std::string& owner, const std::string& self) {
    Choices out{{QString(), owner == model::vehicle_owner ? tr("axle, centreline, datum") : tr("block face, crank")}};
    if (const auto* points = model::pointsOf(project, owner))
        for (const model::HardPoint& point : *points)
            if (point.tape.hook.empty() && point.id.text != self) out.emplace_back(q(point.id.text), q(point.name));
    return out;
}

} // namespace

std::vector<Field> tapeFields(Session& session, const std::string& owner, const std::string& id, bool point) {
    model::Project project = *session.project();
    const model::Tape* tape = model::findTape(project, owner, id, point);
    const model::TapeWay* way = tape ? model::tapeWay(tape->way) : nullptr;
    if (!way) return {};
    std::vector<Field> out;
    const std::string way_id = way->id;
    if (way_id == "mirror") {
        const model::Body* other = model::findBody(project, {owner, tape->of});
        out.push_back(fields::remark(
            QStringLiteral("tape_remark"),
            tr("It follows the %1: change that one and this one changes. Moved by hand it stands by itself.")
                .arg(other ? q(other->name).toLower() : tr("other side"))));
        out.push_back(fields::button(QStringLiteral("unlink"), tr("Unlink it"), [&session, owner, id] {
            if (const auto alone = model::withTapeWay(*session.project(), {owner, {id}}, ""))
                session.edit(tr("unlink it from the other side"), alone.value());
        }));
        return out;
    }
    const auto set = [&session, owner, id, point](const QString& undo, auto change) {
        return [&session, owner, id, point, undo, change](const auto& value) {
            model::Project changed = *session.project();
            model::Tape* target = model::findTape(changed, owner, id, point);
            if (!target) return false;
            change(*target, value);
            return session.edit(undo, std::move(changed));
        };
    };
    out.push_back(fields::choice(
        QStringLiteral("tape_hook"), tr("Hooked on"), hookChoices(project, owner, point ? id : std::string()),
        tape->hook.text, [&session, owner, id, point](const std::string& hook) {
            // It stays where it is: its places are read anew from the other hook.
            model::Project changed = *session.project();
            model::Tape* target = model::findTape(changed, owner, id, point);
            if (!target) return false;
            const auto before = model::hook_mm(changed, owner, *target);
            target->hook.text = hook;
            const auto after = model::hook_mm(changed, owner, *target);
            if (!before || !after) return false;
            for (model::Reading& reading : target->readings)
                if (const auto* slot = model::tapeSlot(*target, reading); slot && slot->axis >= 0)
                    reading.mm += (before.value() - after.value())[slot->axis];
            return session.edit(tr("hook the tape on another point"), std::move(changed));
        }));
    for (const model::TapeSlot& slot : way->asks) {
        if (slot.at_station) continue;
        const std::string what = slot.what;
        const model::Reading* reading = model::findReading(*tape, what);
        const std::optional<double> now = reading ? std::optional(reading->mm) : slot.usual_mm;
        out.push_back(fields::known(QStringLiteral("reading_%1").arg(q(what)), label(project, owner, slot),
                                    Dimension::Length, now,
                                    set(tr("read again: %1").arg(sided(project, owner, tr(slot.words))),
                                        [what](model::Tape& t, const std::optional<double>& mm) {
                                            if (!mm) return;
                                            if (model::Reading* held = model::findReading(t, what)) {
                                                held->mm = *mm;
                                                readNow(*held);
                                            } else {
                                                t.readings.push_back(freshlyRead(what, 0, *mm));
                                            }
                                        })));
        if (reading && reading->measured.method == model::Method::Assumed) out.back().label += tr(" (assumed)");
    }
    if (way->fewest_stations == 0) return out;
    std::vector<std::string> columns;
    QStringList heads;
    for (const model::TapeSlot& slot : way->asks)
        if (slot.at_station) columns.emplace_back(slot.what), heads << label(project, owner, slot);
    std::set<int> numbers;
    for (const model::Reading& reading : tape->readings)
        if (reading.station > 0) numbers.insert(reading.station);
    Rows rows;
    for (const int station : numbers) {
        std::vector<double> row;
        for (const std::string& what : columns) {
            const model::Reading* reading = model::findReading(*tape, what, station);
            row.push_back(reading ? reading->mm : 0);
        }
        rows.push_back(std::move(row));
    }
    out.push_back(fields::table(QStringLiteral("stations"), tr("At each station"), heads, rows,
                                static_cast<std::size_t>(way->fewest_stations),
                                set(tr("the stations"), [columns](model::Tape& t, const Rows& typed) {
                                    const std::vector<model::Reading> before = t.readings;
                                    t.readings.erase(std::remove_if(t.readings.begin(), t.readings.end(),
                                                                    [](const auto& r) { return r.station > 0; }),
                                                     t.readings.end());
                                    for (std::size_t r = 0; r < typed.size(); ++r)
                                        for (std::size_t c = 0; c < columns.size(); ++c) {
                                            const int station = static_cast<int>(r) + 1;
                                            model::Reading reading = freshlyRead(columns[c], station, typed[r][c]);
                                            for (const model::Reading& old : before)
                                                if (old.what == columns[c] && old.station == station) {
                                                    reading = old;
                                                    if (reading.mm != typed[r][c]) {
                                                        reading.mm = typed[r][c];
                                                        readNow(reading);
                                                    }
                                                }
                                            t.readings.push_back(std::move(reading));
                                        }
                                })));
    return out;
}

std::optional<ReadingPlace> readingPlace(const QString& key) {
    const QStringList parts = key.split(QLatin1Char('/'));
    if (parts.size() != 4) return std::nullopt;
    return ReadingPlace{parts[1].toStdString(), parts[0] == QLatin1String("p"), parts[3].toStdString(),
                        parts[2].toInt()};
}

QString readingKey(const ReadingPlace& place) {
    return QStringLiteral("%1/%2/%3/%4")
        .arg(place.point ? QLatin1String("p") : QLatin1String("b"), q(place.id))
        .arg(place.station)
        .arg(q(place.what));
}

} // namespace gabarit::app

#include "print/driveline_sheet.h"

#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "driveline/words.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "gearing/words.h"
#include "print/mating_pictures.h"
#include "print/paper_sheet.h"

#include <QPainter>
#include <QPdfWriter>

#include <algorithm>

namespace gabarit::print {
namespace {

class DrivelineSheets : private PaperSheet {
public:
    DrivelineSheets(QPdfWriter& writer, const study::Reports& reports, const DrivelineSheetOptions& options)
        : PaperSheet(writer, reports, options.shown, options.date), options_(options) {}

    void all() {
        if (reports_.of<driveline::DrivelineReport>()) {
            for (const driveline::LineReport& line : reports_.of<driveline::DrivelineReport>()->lines) linePage(line);
            for (const driveline::CouplingReport& coupling : reports_.of<driveline::DrivelineReport>()->couplings)
                couplingPage(coupling);
            if (!reports_.of<driveline::DrivelineReport>()->bell.empty() ||
                !reports_.of<driveline::DrivelineReport>()->interfaces.empty())
                matingPage();
        }
        if (reports_.of<gearing::GearingReport>()) gearingPage();
    }

private:
    void linePage(const driveline::LineReport& line) {
        begin(words(line.name), line.verdict);
        if (!line.usable) return say(words(line.reason), paper.ink);
        font(9);
        const double across = width - 2 * margin;
        paintChain(painter_, QRectF(margin, y_, across, 250), line, paper);
        y_ += 256;
        paintAngles(painter_, QRectF(margin, y_, across / 2 - 6, 190), line, paper, options_.shown);
        paintSlip(painter_, QRectF(margin + across / 2 + 6, y_, across / 2 - 6, 190), line,
                  line.slips.empty() ? 0 : line.slips.size() - 1, paper, options_.shown);
        y_ += 198;
        for (const model::ShaftLine& its : reports_.project->sections.get<model::Driveline>()->lines)
            if (its.id == line.id && (driveline::isAssumed(its.from) || driveline::isAssumed(its.to)))
                say(QObject::tr("A flange it runs to is assumed, not measured: its figures are as unsure."),
                    paper.trouble);
        checks(line.checks);
        if (line.speed_rpm)
            say(QObject::tr("At %1 rpm: %2.").arg(QString::number(*line.speed_rpm, 'f', 0), words(line.speed_source)),
                paper.second_ink);
        for (const driveline::Cure& cure : line.cures)
            say(words(driveline::cureWords(line, cure, options_.shown)) + QLatin1Char('.'), paper.ink);
        for (const driveline::SlipReport& slip : line.slips) {
            if (slip.order_closed_mm <= 0) continue; // of one length, and kept
            QString order =
                QObject::tr("%1 to order: %2 between joint centres%3")
                    .arg(words(slip.name), words(quantity::lengthText(slip.order_closed_mm, options_.shown)),
                         slip.order_spline_mm
                             ? QObject::tr(" closed, %1 of spline")
                                   .arg(words(quantity::lengthText(*slip.order_spline_mm, options_.shown)))
                             : QString());
            say(order + QLatin1Char('.'), paper.ink);
        }
        caution(
            QObject::tr("An estimate: balance, wear and what bends under load are left out. Before a hand goes near "
                        "a shaft: engine off, key out, wheels chocked, vehicle on stands."));
    }
    void couplingPage(const driveline::CouplingReport& coupling) {
        begin(words(coupling.name), coupling.verdict);
        font(9);
        for (const model::CouplingCheck& check : reports_.project->sections.get<model::Driveline>()->couplings) {
            if (check.id != coupling.id || check.tries.empty()) continue;
            paintDial(painter_, QRectF(margin, y_, width - 2 * margin, 380), coupling.tries.back(), check.tries.back(),
                      paper, options_.shown);
            y_ += 388;
        }
        checks(coupling.checks);
        say(words(driveline::couplingWords(*reports_.project, coupling, options_.shown)), paper.ink);
        for (const driveline::CouplingTryReport& t : coupling.tries) // how it came to be
            say(QStringLiteral("%1: %2").arg(words(t.name), t.tilt_deg
                                                                ? words(quantity::angleText(*t.tilt_deg, 2)) +
                                                                      QObject::tr(", widest open at ") +
                                                                      words(driveline::clockWords(t.open_clock_deg))
                                                                : words(t.face.reason)),
                paper.second_ink);
        caution(
            QObject::tr("Before a hand goes near a shaft: engine off, key out, wheels chocked, vehicle on stands."));
    }
    void matingPage() {
        begin(QObject::tr("Interfaces and bellhousing"), worst());
        font(9);
        for (const driveline::InterfaceReport& i : reports_.of<driveline::DrivelineReport>()->interfaces) {
            QString text =
                words(i.name) + QStringLiteral(": ") + QLatin1String(driveline::word(i.mating)) + QLatin1Char('.');
            for (const std::string& reason : i.reasons) text += QLatin1Char(' ') + words(reason);
            say(text, i.verdict == model::Verdict::Go ? paper.ink : paper.trouble);
        }
        y_ += 8;
        if (const auto* driveline = reports_.project->sections.get<model::Driveline>(); driveline && driveline->bell) {
            constexpr double high = 300;
            paintStack(painter_, QRectF(margin, y_, width - 2 * margin, high), *driveline->bell, paper, options_.shown);
            y_ += high + 10;
        }
        checks(reports_.of<driveline::DrivelineReport>()->bell);
        if (!reports_.of<driveline::DrivelineReport>()->bell.empty())
            caution(QObject::tr("Gearbox on a jack made for it, never held by the input shaft: it bends, and falls "
                                "on hands."));
    }
    model::Verdict worst() const {
        model::Verdict verdict = model::Verdict::Go;
        for (const auto& i : reports_.of<driveline::DrivelineReport>()->interfaces)
            verdict = model::worse(verdict, i.verdict);
        for (const auto& check : reports_.of<driveline::DrivelineReport>()->bell)
            verdict = model::worse(verdict, check.verdict);
        return verdict;
    }
    void gearingPage() {
        const gearing::GearingReport& g = *reports_.of<gearing::GearingReport>();
        begin(QObject::tr("Gearing"), g.verdict);
        font(9);
        paintGearing(painter_, QRectF(margin, y_, width - 2 * margin, 360), g,
                     *reports_.project->sections.get<model::Gearing>(), paper, options_.shown);
        y_ += 370;
        const auto speed = [&](const std::optional<double>& kmh, int decimals) {
            return kmh ? words(quantity::speedText(*kmh, options_.shown, decimals)) : QStringLiteral("–");
        };
        for (const gearing::GearReport& gear : g.gears)
            say(QObject::tr("Gear %1%2, %3 : 1: %4 at 1000 rpm, %5 at most, %6")
                    .arg(words(gear.name), gear.low_range ? QObject::tr(", low") : QString(),
                         QString::number(gear.ratio, 'f', 3), speed(gear.kmh_per_1000, 1), speed(gear.top_kmh, 0),
                         words(gearing::pullWords(gear, options_.shown))),
                paper.ink);
        if (g.speedo_true_kmh) say(words(gearing::speedoWords(g, options_.shown)) + QLatin1Char('.'), paper.ink);
        for (const std::string& what : g.missing) say(QObject::tr("Not given: %1.").arg(words(what)), paper.trouble);
        say(QObject::tr("%1 % lost from crank to wheels (%2); slip, gradient and air are left out.")
                .arg(QString::number(g.loss * 100, 'f', 0), words(g.loss_source)),
            paper.second_ink);
    }

    const DrivelineSheetOptions& options_;
};

} // namespace

Result<void> writeDrivelineSheet(const study::Reports& reports, const DrivelineSheetOptions& options,
                                 const std::string& path) {
    const bool any =
        reports.of<driveline::DrivelineReport>() && (!reports.of<driveline::DrivelineReport>()->lines.empty() ||
                                                     !reports.of<driveline::DrivelineReport>()->couplings.empty() ||
                                                     !reports.of<driveline::DrivelineReport>()->bell.empty() ||
                                                     !reports.of<driveline::DrivelineReport>()->interfaces.empty());
    if (!any && !reports.of<gearing::GearingReport>())
        return Error{"there is no driveline and no gearing to print", reports.project->name,
                     "give them under Driveline first"};
    return writePaper(path, reports.project->name + ": driveline",
                      [&](QPdfWriter& writer) { DrivelineSheets(writer, reports, options).all(); });
}

} // namespace gabarit::print

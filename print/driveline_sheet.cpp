#include "print/driveline_sheet.h"

#include "print/mating_pictures.h"
#include "study/driveline_words.h"

#include <QBuffer>
#include <QFontMetricsF>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>

#include <algorithm>

namespace gabarit::print {
namespace {

// The pictures are drawn in screen pixels of 1/96 in; on paper these are the units too, at vector sharpness.
constexpr int units_per_inch = 96;
constexpr double width = 210 / 25.4 * units_per_inch, height = 297 / 25.4 * units_per_inch, margin = 45;
const PictureTones paper{{0x24, 0x21, 0x1D}, {0x5C, 0x55, 0x4A}, {0xC9, 0xC0, 0xB0}, {0x2F, 0x5D, 0x62},
                         {0x8A, 0x7F, 0x6E}, {0xB8, 0x37, 0x1B}, {0xA5, 0x6A, 0x12}, {0xFF, 0xFF, 0xFF}};

QString words(const std::string& text) { return QString::fromStdString(text); }

class Sheets {
public:
    Sheets(QPdfWriter& writer, const study::Reports& reports, const DrivelineSheetOptions& options)
        : writer_(writer), painter_(&writer), reports_(reports), options_(options) {}

    void all() {
        if (reports_.driveline) {
            for (const driveline::LineReport& line : reports_.driveline->lines) linePage(line);
            for (const driveline::CouplingReport& coupling : reports_.driveline->couplings) couplingPage(coupling);
            if (!reports_.driveline->bell.empty() || !reports_.driveline->interfaces.empty()) matingPage();
        }
        if (reports_.gearing) gearingPage();
    }

private:
    void font(double points, bool bold = false) {
        QFont font(QStringLiteral("Lato"));
        font.setPointSizeF(points);
        font.setBold(bold);
        font.setLetterSpacing(QFont::AbsoluteSpacing, 0.02); // no ligatures: the sheet's words can be searched for
        painter_.setFont(font);
    }
    void begin(const QString& title, model::Verdict verdict) {
        if (!first_) writer_.newPage();
        first_ = false;
        y_ = margin;
        font(15, true);
        say(title + QStringLiteral(": ") + QLatin1String(model::word(verdict)), paper.ink);
        font(9);
        const model::Placement* placement = model::activePlacement(*reports_.project);
        QString under = words(reports_.project->name);
        if (placement) under += QStringLiteral(" · ") + words(placement->name);
        say(under + QStringLiteral(" · ") + words(options_.date), paper.second_ink);
        y_ += 8;
    }
    /// Wrapped; goes on to another page when this one is full.
    void say(const QString& text, const QColor& tone) {
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        const double tall =
            metrics.boundingRect(QRectF(0, 0, width - 2 * margin, 1e5), Qt::TextWordWrap, text).height();
        room(tall);
        painter_.setPen(tone);
        painter_.drawText(QRectF(margin, y_, width - 2 * margin, tall + 2), Qt::TextWordWrap, text);
        y_ += tall + 3;
    }
    void room(double tall) {
        if (y_ + tall < height - margin) return;
        writer_.newPage();
        y_ = margin;
    }
    void checks(const std::vector<driveline::Check>& list) {
        font(9);
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        const double row = metrics.height() + 3;
        const double columns[] = {margin, margin + 330, margin + 420, margin + 470};
        const double ends[] = {margin + 325, margin + 412, margin + 468, width - margin};
        for (const driveline::Check& check : list) {
            room(row);
            QString what = words(check.what);
            if (!check.at.empty() && check.at != "ride height") what += QStringLiteral(", ") + words(check.at);
            const QString cells[] = {what, words(study::valueWords(check, options_.shown)),
                                     QLatin1String(model::word(check.verdict)),
                                     words(study::limitWords(check, options_.shown))};
            for (int i = 0; i < 4; ++i) {
                painter_.setPen(i == 2 && check.verdict != model::Verdict::Go ? paper.trouble : paper.ink);
                painter_.drawText(QRectF(columns[i], y_, ends[i] - columns[i], row),
                                  (i == 1 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter,
                                  metrics.elidedText(cells[i], Qt::ElideRight, ends[i] - columns[i]));
            }
            y_ += row;
        }
        y_ += 6;
    }
    void caution(const QString& text) {
        y_ += 4;
        font(9, true);
        say(text, paper.ink);
    }

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
        checks(line.checks);
        if (line.speed_rpm)
            say(QStringLiteral("At %1 rpm: %2.")
                    .arg(QString::number(*line.speed_rpm, 'f', 0), words(line.speed_source)),
                paper.second_ink);
        for (const driveline::Cure& cure : line.cures)
            say(words(study::cureWords(line, cure, options_.shown)) + QLatin1Char('.'), paper.ink);
        for (const driveline::SlipReport& slip : line.slips) {
            if (slip.order_closed_mm <= 0) continue; // of one length, and kept
            QString order =
                QStringLiteral("%1 to order: %2 between joint centres%3")
                    .arg(words(slip.name), words(quantity::lengthText(slip.order_closed_mm, options_.shown)),
                         slip.order_spline_mm
                             ? QStringLiteral(" closed, %1 of spline")
                                   .arg(words(quantity::lengthText(*slip.order_spline_mm, options_.shown)))
                             : QString());
            say(order + QLatin1Char('.'), paper.ink);
        }
        caution(
            QStringLiteral("An estimate: balance, wear and what bends under load are left out. Before a hand goes near "
                           "a shaft: engine off, key out, wheels chocked, vehicle on stands."));
    }
    void couplingPage(const driveline::CouplingReport& coupling) {
        begin(words(coupling.name), coupling.verdict);
        font(9);
        for (const model::CouplingCheck& check : reports_.project->driveline->couplings) {
            if (check.id != coupling.id || check.tries.empty()) continue;
            paintDial(painter_, QRectF(margin, y_, width - 2 * margin, 380), coupling.tries.back(), check.tries.back(),
                      paper, options_.shown);
            y_ += 388;
        }
        checks(coupling.checks);
        say(words(study::couplingWords(*reports_.project, coupling, options_.shown)), paper.ink);
        for (const driveline::CouplingTryReport& t : coupling.tries) // how it came to be
            say(QStringLiteral("%1: %2").arg(words(t.name), t.tilt_deg
                                                                ? words(quantity::angleText(*t.tilt_deg, 2)) +
                                                                      QStringLiteral(", widest open at ") +
                                                                      words(driveline::clockWords(t.open_clock_deg))
                                                                : words(t.face.reason)),
                paper.second_ink);
        caution(
            QStringLiteral("Before a hand goes near a shaft: engine off, key out, wheels chocked, vehicle on stands."));
    }
    void matingPage() {
        begin(QStringLiteral("Interfaces and bellhousing"), worst());
        font(9);
        for (const driveline::InterfaceReport& i : reports_.driveline->interfaces) {
            QString text =
                words(i.name) + QStringLiteral(": ") + QLatin1String(driveline::word(i.mating)) + QLatin1Char('.');
            for (const std::string& reason : i.reasons) text += QLatin1Char(' ') + words(reason);
            say(text, i.verdict == model::Verdict::Go ? paper.ink : paper.trouble);
        }
        y_ += 8;
        if (reports_.project->driveline && reports_.project->driveline->bell) {
            constexpr double high = 300;
            paintStack(painter_, QRectF(margin, y_, width - 2 * margin, high), *reports_.project->driveline->bell,
                       paper, options_.shown);
            y_ += high + 10;
        }
        checks(reports_.driveline->bell);
        if (!reports_.driveline->bell.empty())
            caution(QStringLiteral("Gearbox on a jack made for it, never held by the input shaft: it bends, and falls "
                                   "on hands."));
    }
    model::Verdict worst() const {
        model::Verdict verdict = model::Verdict::Go;
        for (const auto& i : reports_.driveline->interfaces) verdict = model::worse(verdict, i.verdict);
        for (const auto& check : reports_.driveline->bell) verdict = model::worse(verdict, check.verdict);
        return verdict;
    }
    void gearingPage() {
        const gearing::GearingReport& g = *reports_.gearing;
        begin(QStringLiteral("Gearing"), g.verdict);
        font(9);
        paintGearing(painter_, QRectF(margin, y_, width - 2 * margin, 360), g, *reports_.project->gearing, paper,
                     options_.shown);
        y_ += 370;
        const auto speed = [&](const std::optional<double>& kmh, int decimals) {
            return kmh ? words(quantity::speedText(*kmh, options_.shown, decimals)) : QStringLiteral("–");
        };
        for (const gearing::GearReport& gear : g.gears)
            say(QStringLiteral("Gear %1%2, %3 : 1: %4 at 1000 rpm, %5 at most, %6")
                    .arg(words(gear.name), gear.low_range ? QStringLiteral(", low") : QString(),
                         QString::number(gear.ratio, 'f', 3), speed(gear.kmh_per_1000, 1), speed(gear.top_kmh, 0),
                         words(study::pullWords(gear, options_.shown))),
                paper.ink);
        if (g.speedo_true_kmh) say(words(study::speedoWords(g, options_.shown)) + QLatin1Char('.'), paper.ink);
        for (const std::string& what : g.missing) say(QStringLiteral("Not given: %1.").arg(words(what)), paper.trouble);
        say(QStringLiteral("%1 % lost from crank to wheels (%2); slip, gradient and air are left out.")
                .arg(QString::number(g.loss * 100, 'f', 0), words(g.loss_source)),
            paper.second_ink);
    }

    QPdfWriter& writer_;
    QPainter painter_;
    const study::Reports& reports_;
    const DrivelineSheetOptions& options_;
    double y_ = margin;
    bool first_ = true;
};

} // namespace

Result<void> writeDrivelineSheet(const study::Reports& reports, const DrivelineSheetOptions& options,
                                 const std::string& path) {
    const bool any = reports.driveline && (!reports.driveline->lines.empty() || !reports.driveline->couplings.empty() ||
                                           !reports.driveline->bell.empty() || !reports.driveline->interfaces.empty());
    if (!any && !reports.gearing)
        return Error{"there is no driveline and no gearing to print", reports.project->name,
                     "give them under Driveline first"};
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setResolution(units_per_inch);
        writer.setPageLayout(QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Portrait, QMarginsF(0, 0, 0, 0)));
        writer.setTitle(words(reports.project->name) + QStringLiteral(": driveline"));
        writer.setCreator(QStringLiteral("Gabarit"));
        Sheets(writer, reports, options).all();
    }
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return Error{"it cannot be written (" + file.errorString().toStdString() + ")", path,
                     "save into a folder that you may write to"};
    return {};
}

} // namespace gabarit::print

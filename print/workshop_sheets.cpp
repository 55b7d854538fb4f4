#include "print/workshop_sheets.h"

#include "discipline/wording.h"
#include "driveline/driveline.h"
#include "ledger/parts.h"
#include "make/hanging.h"
#include "print/paper_sheet.h"

#include <algorithm>
#include <cmath>

namespace gabarit::print {
namespace {

using discipline::inSentence;

/// A page's table: columns by their share of the width, cells that wrap, a line under each row.
class BenchSheet : protected PaperSheet {
public:
    BenchSheet(QPdfWriter& writer, const study::Reports& reports, const WorkshopSheetOptions& options)
        : PaperSheet(writer, reports, options.shown, options.date) {}

protected:
    struct Cell {
        QString text;
        bool bold = false;
        bool box = false;  ///< a box to tick, before its words
        bool line = false; ///< a line to write on
        bool right = false;
    };
    void columns(std::vector<double> shares) { shares_ = std::move(shares); }
    void heads(const QStringList& names) {
        heads_ = names;
        drawHeads();
    }
    void row(const std::vector<Cell>& cells) {
        font(9);
        double tall = 0;
        for (std::size_t i = 0; i < cells.size(); ++i) tall = std::max(tall, heightOf(cells[i], widthOf(i)));
        tall += 2 * air;
        if (y_ + tall > height - margin) {
            room(tall); // to the next page, with the heads again
            drawHeads();
        }
        double x = margin;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            draw(cells[i], QRectF(x, y_ + air, widthOf(i) - gap, tall - 2 * air));
            x += widthOf(i);
        }
        y_ += tall;
        painter_.setPen(QPen(paper.rule, 0.8));
        painter_.drawLine(QPointF(margin, y_), QPointF(width - margin, y_));
    }
    QString length(double mm) const {
        return words(quantity::lengthText(mm, shown_, 0)).section(QStringLiteral(" ("), 0, 0);
    }
    /// A name and a line to write on.
    void blank(const QString& name) {
        font(9);
        room(26);
        painter_.setPen(paper.ink);
        painter_.drawText(QRectF(margin, y_, 255, 22), Qt::AlignLeft | Qt::AlignBottom, name);
        painter_.setPen(QPen(paper.second_ink, 0.8));
        painter_.drawLine(QPointF(margin + 260, y_ + 22), QPointF(width - margin, y_ + 22));
        y_ += 27;
    }

private:
    static constexpr double air = 4, gap = 10, tick = 11;
    double widthOf(std::size_t column) const {
        double all = 0;
        for (const double share : shares_) all += share;
        return (width - 2 * margin) * shares_[column] / all;
    }
    double heightOf(const Cell& cell, double wide) {
        font(9, cell.bold);
        const double beside = cell.box ? tick + 6 : 0;
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        return std::max(
            cell.box || cell.line ? tick + 4 : 0,
            metrics.boundingRect(QRectF(0, 0, wide - gap - beside, 1e5), Qt::TextWordWrap, cell.text).height());
    }
    void draw(const Cell& cell, QRectF at) {
        font(9, cell.bold);
        if (cell.box) {
            painter_.setPen(QPen(paper.ink, 1));
            painter_.setBrush(Qt::NoBrush);
            painter_.drawRect(QRectF(at.left() + 1, at.top() + 1, tick, tick));
            at.setLeft(at.left() + tick + 6);
        }
        if (cell.line) {
            painter_.setPen(QPen(paper.second_ink, 0.8));
            painter_.drawLine(QPointF(at.left(), at.bottom()), at.bottomRight());
        }
        painter_.setPen(paper.ink);
        painter_.drawText(at.adjusted(0, 0, 0, 4), (cell.right ? Qt::AlignRight : Qt::AlignLeft) | Qt::TextWordWrap,
                          cell.text);
    }
    void drawHeads() {
        font(8);
        painter_.setPen(paper.second_ink);
        double x = margin;
        for (qsizetype i = 0; i < heads_.size(); ++i) {
            painter_.drawText(QRectF(x, y_, widthOf(static_cast<std::size_t>(i)) - gap, 28),
                              Qt::AlignLeft | Qt::AlignBottom | Qt::TextWordWrap, heads_[i]);
            x += widthOf(static_cast<std::size_t>(i));
        }
        y_ += 31;
        painter_.setPen(QPen(paper.ink, 1.2));
        painter_.drawLine(QPointF(margin, y_), QPointF(width - margin, y_));
        y_ += 1;
    }
    std::vector<double> shares_;
    QStringList heads_;
};

class HangingPages : private BenchSheet {
public:
    using BenchSheet::BenchSheet;
    void all(const make::Hanging& hanging, const model::RuleBook& book) {
        const model::Project& project = *reports_.project;
        begin(QObject::tr("Hanging heights"), reports_.verdict);
        font(9);
        const model::Angles& a = hanging.angles;
        QStringList turned;
        const auto turn = [&](double deg, const std::string& more, const std::string& less) {
            constexpr double level_deg = 0.005;
            if (std::abs(deg) >= level_deg)
                turned << QStringLiteral("%1 %2").arg(words(deg > 0 ? more : less),
                                                      words(quantity::angleText(std::abs(deg), 2)));
        };
        turn(a.pitch_deg, "tail down", "tail up");
        turn(a.yaw_deg, std::string("tail ") + model::sideWord(project, true),
             std::string("tail ") + model::sideWord(project, false));
        turn(a.roll_deg, std::string("leaning ") + model::sideWord(project, false),
             std::string("leaning ") + model::sideWord(project, true));
        say(turned.isEmpty() ? QObject::tr("Crank level and in line with the vehicle.")
                             : QObject::tr("The crank lies %1.").arg(turned.join(QStringLiteral(", "))),
            paper.ink);
        say(hanging.floor_mm
                ? QObject::tr(
                      "Plumb from the floor at ride height, level, wheels straight. Behind: from a plumb bob under the "
                      "front axle's centre. Beside: from the centreline. Write down what the tape says.")
                : QObject::tr(
                      "Where the floor is was not measured: heights are above where the survey's heights start."),
            paper.second_ink);
        y_ += 4;
        columns({30, 14, 14, 20, 30, 12});
        heads({QObject::tr("Point"), QObject::tr("off the floor"), QObject::tr("behind the axle"),
               QObject::tr("beside the middle"), QObject::tr("tape from"), QObject::tr("reads")});
        for (const make::HangingLine& line : hanging.lines) {
            QStringList hooks;
            for (const make::HangingHook& hook : line.hooks)
                hooks << QStringLiteral("%1 %2").arg(words(hook.name), length(hook.straight_mm));
            constexpr double middle_mm = 0.5;
            row({{words(line.name), true},
                 {length(line.off_floor_mm.value_or(line.height_mm)), true},
                 {line.behind_axle_mm < 0 ? length(-line.behind_axle_mm) + QObject::tr(" ahead")
                                          : length(line.behind_axle_mm)},
                 {std::abs(line.aside_mm) < middle_mm ? QObject::tr("in the middle")
                                                      : length(std::abs(line.aside_mm)) + QLatin1Char(' ') +
                                                            QLatin1String(model::sideWord(project, line.aside_mm > 0))},
                 {hooks.join(QStringLiteral("; "))},
                 {QString(), false, false, true}});
        }
        caution(words(model::cautionAbout(book, "mounts/hang")));
        caution(QObject::tr("Estimates from what was measured: the real thing decides. Nobody under a hanging load."));
    }
};

class InTheWayPages : private BenchSheet {
public:
    using BenchSheet::BenchSheet;
    void all() {
        begin(QObject::tr("What is in the way"), reports_.verdict);
        font(9);
        say(words(study::inShort(reports_)) + QStringLiteral(": ") +
                words(study::countWords(study::countsOf(reports_))) + QLatin1Char('.'),
            paper.ink);
        y_ += 2;
        columns({6, 34, 16, 44});
        heads({QString(), QObject::tr("What"), QObject::tr("state"), QObject::tr("by how much, and what would help")});
        for (const study::Finding& finding : reports_.findings) {
            QString text = words(finding.detail);
            if (!text.isEmpty() && !text.endsWith(QLatin1Char('.'))) text += QLatin1Char('.');
            if (!finding.help.empty()) text += QLatin1Char(' ') + words(finding.help);
            if (!finding.caution.empty()) text += QObject::tr(" Mind: ") + words(finding.caution);
            row({{QString::number(finding.number), true, true},
                 {words(finding.title), true},
                 {finding.holds_cutting ? QObject::tr("before cutting") : QLatin1String(model::word(finding.verdict))},
                 {text}});
        }
        if (reports_.findings.empty())
            say(QObject::tr("Nothing, at rest or in the movement that was given. What flexes, heat soak and the way in "
                            "are still to be checked."),
                paper.ink);
        caution(QObject::tr("Estimates; they approve nothing. Local code, inspection and a licensed engineer decide."));
    }
};

class ShoppingPages : private BenchSheet {
public:
    using BenchSheet::BenchSheet;
    void all(const ledger::PartsReport& report) {
        begin(QObject::tr("Shopping list"), report.verdict.value_or(model::Verdict::Go));
        const QString currency = words(report.currency);
        const auto money = [&](double sum) {
            return QStringLiteral("%1 %2").arg(QString::number(sum, 'f', 2), currency).trimmed();
        };
        columns({6, 40, 22, 16, 16});
        heads({QString(), QObject::tr("Part"), QObject::tr("from"), QObject::tr("price"), QObject::tr("paid")});
        double sum = 0;
        int unpriced = 0;
        for (const ledger::PartLine& line : report.lines) {
            if (line.state != model::PartState::Needed && line.state != model::PartState::Ordered) continue;
            const model::Part* part = nullptr;
            for (const model::Part& each : model::partsOf(*reports_.project))
                if (each.id == line.id) part = &each;
            QString name = words(line.name);
            if (line.state == model::PartState::Ordered) name += QObject::tr(" (ordered)");
            QStringList with;
            for (const std::string& other : line.missing_companions) with << words(other);
            if (!with.isEmpty()) name += QObject::tr(". Needs: ") + with.join(QStringLiteral(", "));
            if (line.state == model::PartState::Needed) {
                sum += line.cost.value_or(0);
                unpriced += !line.cost;
            }
            row({{QString(), false, true},
                 {name},
                 {part ? words(part->source) : QString()},
                 {line.cost ? money(*line.cost) : QString(), false, false, !line.cost},
                 {QString(), false, false, true}});
        }
        y_ += 6;
        font(9, true);
        say(QObject::tr("To pay: %1%2.")
                .arg(money(sum), unpriced == 0   ? QString()
                                 : unpriced == 1 ? QObject::tr(", and one part without a price")
                                                 : QObject::tr(", and %1 parts without a price").arg(unpriced)),
            paper.ink);
    }
};

class ShaftOrderPages : private BenchSheet {
public:
    using BenchSheet::BenchSheet;
    void all(const driveline::DrivelineReport& report) {
        for (const driveline::LineReport& line : report.lines) {
            if (!line.usable) continue;
            for (const driveline::SlipReport& slip : line.slips)
                if (slip.order_closed_mm > 0) page(line, slip);
        }
    }
    static bool any(const driveline::DrivelineReport& report) {
        for (const driveline::LineReport& line : report.lines)
            for (const driveline::SlipReport& slip : line.slips)
                if (line.usable && slip.order_closed_mm > 0) return true;
        return false;
    }

private:
    void page(const driveline::LineReport& line, const driveline::SlipReport& slip) {
        begin(QObject::tr("Shaft to order, %1: %2").arg(words(line.name), words(inSentence(slip.name))), line.verdict);
        font(9);
        bool assumed = false;
        if (const auto* driveline = reports_.project->sections.get<model::Driveline>())
            for (const model::ShaftLine& its : driveline->lines)
                if (its.id == line.id) assumed = driveline::isAssumed(its.from) || driveline::isAssumed(its.to);
        if (assumed)
            say(QObject::tr("A flange it runs to is assumed, not measured: measure both before ordering."),
                paper.trouble);
        columns({40, 26, 34});
        heads({QObject::tr("What"), QObject::tr("Planned"), QObject::tr("Measured on the car")});
        const auto figure = [&](const QString& what, const QString& value) {
            row({{what, true}, {value, true}, {QString(), false, false, true}});
        };
        figure(QObject::tr("Closed length between joint centres, at most"), length(slip.order_closed_mm));
        if (slip.order_spline_mm)
            figure(QObject::tr("Spline, at least"), words(quantity::lengthTextUp(*slip.order_spline_mm, shown_)));
        figure(QObject::tr("Between joint centres at ride height"), length(slip.ride_mm));
        figure(QObject::tr("Shortest over the travel"), length(slip.shortest_mm));
        figure(QObject::tr("Longest over the travel"), length(slip.longest_mm));
        for (const driveline::JointReport& joint : line.joints)
            figure(QObject::tr("%1: angle at ride height, most over the travel").arg(words(joint.name)),
                   words(quantity::angleText(joint.angle_deg, 1)) + QStringLiteral(", ") +
                       words(quantity::angleText(joint.travel_deg, 1)));
        for (const driveline::CriticalReport& critical : line.critical)
            if (critical.shaft == slip.shaft && critical.suggested)
                figure(QObject::tr("Tube, at least (whirling at %1 rpm)")
                           .arg(QString::number(critical.critical_rpm, 'f', 0)),
                       length(critical.suggested->outside_mm) + QStringLiteral(" × ") +
                           words(quantity::lengthText(critical.suggested->wall_mm, shown_, 1)));
        if (line.speed_rpm)
            figure(QObject::tr("Fastest, %1").arg(words(line.speed_source)),
                   QObject::tr("%1 rpm").arg(QString::number(*line.speed_rpm, 'f', 0)));
        y_ += 10;
        for (const char* name :
             {"Flange at the gearbox: pattern, bolts, pilot", "Flange at the axle: pattern, bolts, pilot", "Joint size",
              "Balanced to, by", "Name and telephone", "Wanted by"})
            blank(QLatin1String(name));
        caution(
            QObject::tr("Measure with the weight on the wheels, engine and gearbox on their final mounts. The shaft's "
                        "maker checks whirling speed, joints and balance; this is an estimate."));
        caution(
            QObject::tr("Before a hand goes near a shaft: engine off, key out, wheels chocked, vehicle on stands."));
    }
};

} // namespace

Result<void> writeHangingSheet(const study::Reports& reports, const model::RuleBook& book,
                               const WorkshopSheetOptions& options, const std::string& path) {
    const make::Hanging hanging = make::hanging(*reports.project, *reports.scene);
    if (hanging.lines.empty())
        return Error{"nothing hangs in it", reports.project->name, "survey the bay and hang a donor first"};
    return writePaper(path, reports.project->name + ": hanging heights",
                      [&](QPdfWriter& writer) { HangingPages(writer, reports, options).all(hanging, book); });
}

Result<void> writeInTheWaySheet(const study::Reports& reports, const WorkshopSheetOptions& options,
                                const std::string& path) {
    if (!reports.asked) return Error{"there is nothing to judge in it", reports.project->name, "survey the bay first"};
    return writePaper(path, reports.project->name + ": what is in the way",
                      [&](QPdfWriter& writer) { InTheWayPages(writer, reports, options).all(); });
}

Result<void> writeShoppingSheet(const study::Reports& reports, const WorkshopSheetOptions& options,
                                const std::string& path) {
    const ledger::PartsReport report = ledger::parts(*reports.project);
    const bool any = std::any_of(report.lines.begin(), report.lines.end(), [](const ledger::PartLine& line) {
        return line.state == model::PartState::Needed || line.state == model::PartState::Ordered;
    });
    if (!any) return Error{"nothing is still to be got", reports.project->name, "enter what is needed under Parts"};
    return writePaper(path, reports.project->name + ": shopping list",
                      [&](QPdfWriter& writer) { ShoppingPages(writer, reports, options).all(report); });
}

Result<void> writeShaftOrder(const study::Reports& reports, const WorkshopSheetOptions& options,
                             const std::string& path) {
    const auto* report = reports.of<driveline::DrivelineReport>();
    if (!report || !ShaftOrderPages::any(*report))
        return Error{"there is no shaft to order", reports.project->name,
                     "give a line of shafts under Driveline first"};
    return writePaper(path, reports.project->name + ": shafts to order",
                      [&](QPdfWriter& writer) { ShaftOrderPages(writer, reports, options).all(*report); });
}

} // namespace gabarit::print

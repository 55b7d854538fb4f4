#include "stages/driveline/shaft_view.h"

#include "driveline/section/driveline.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "print/mating_pictures.h"
#include "print/shaft_pictures.h"

#include <QPainter>

namespace gabarit::app {
namespace {

print::PictureTones pictureTones() {
    const Tones& t = tones();
    return {t.ink, t.second_ink, t.rule, t.donor, t.chassis_edge, t.trouble, t.in_hand, t.paper};
}

} // namespace

const driveline::LineReport* lineOf(const study::Reports& reports, const QString& key) {
    const auto* report = reports.of<driveline::DrivelineReport>();
    if (!report || !key.startsWith(QLatin1String("line:"))) return nullptr;
    for (const driveline::LineReport& its : report->lines)
        if (q(its.id) == key.mid(5)) return &its;
    return nullptr;
}

const driveline::CouplingReport* couplingOf(const study::Reports& reports, const QString& key) {
    const auto* report = reports.of<driveline::DrivelineReport>();
    if (!report || !key.startsWith(QLatin1String("coupling:"))) return nullptr;
    for (const driveline::CouplingReport& its : report->couplings)
        if (q(its.id) == key.mid(9)) return &its;
    return nullptr;
}

ShaftView::ShaftView(QWidget* parent) : QWidget(parent) {
    constexpr int readable_px = 320; // two views over two charts
    setMinimumHeight(readable_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void ShaftView::show(const QString& key, std::shared_ptr<const study::Reports> reports, quantity::Shown shown) {
    key_ = key;
    reports_ = std::move(reports);
    shown_ = shown;
    update();
}

void ShaftView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    const print::PictureTones palette = pictureTones();
    const QRectF all = QRectF(rect()).adjusted(4, 4, -4, -4);
    const auto say = [&](const QString& text) {
        painter.setPen(tones().second_ink);
        painter.drawText(all, Qt::AlignCenter | Qt::TextWordWrap, text);
    };
    if (!reports_) return;
    if (key_.startsWith(QLatin1String("line:"))) {
        const auto* line = lineOf(*reports_, key_);
        if (!line) return say(tr("It is on a donor, or on an option, that does not hang now."));
        if (!line->usable) return say(q(line->reason));
        const double upper = all.height() * 0.5;
        print::paintChain(painter, QRectF(all.left(), all.top(), all.width(), upper), *line, palette);
        const QRectF below(all.left(), all.top() + upper + 6, all.width(), all.height() - upper - 6);
        const QRectF left(below.left(), below.top(), below.width() / 2 - 6, below.height());
        const QRectF right(below.center().x() + 6, below.top(), below.width() / 2 - 6, below.height());
        print::paintAngles(painter, left, *line, palette, shown_);
        std::size_t slipping = 0; // the last one that slips
        for (std::size_t i = 0; i < line->slips.size(); ++i) slipping = i;
        print::paintSlip(painter, right, *line, slipping, palette, shown_);
        return;
    }
    if (const auto* coupling = couplingOf(*reports_, key_)) {
        for (const model::CouplingCheck& check : reports_->project->sections.get<model::Driveline>()->couplings)
            if (check.id == coupling->id && !check.tries.empty()) {
                const bool two = check.tries.size() > 1;
                const QRectF left(all.left(), all.top() + 20, two ? all.width() / 2 : all.width(), all.height() - 20);
                const auto dial = [&](const QRectF& box, std::size_t which) {
                    painter.setPen(tones().ink);
                    painter.drawText(QRectF(box.left(), box.top() - 20, box.width(), 20), Qt::AlignHCenter,
                                     q(check.tries[which].name));
                    print::paintDial(painter, box, coupling->tries[which], check.tries[which], palette, shown_);
                };
                if (two) dial(left, check.tries.size() - 2);
                dial(two ? left.translated(all.width() / 2, 0) : left, check.tries.size() - 1);
                return;
            }
        return say(
            tr("No readings yet. \"New try\", then read the gap at eight places round the clock, the shaft turned "
               "to four places."));
    }
    const auto* gearing = reports_->project->sections.get<model::Gearing>();
    if (key_ == QLatin1String("gearing") && reports_->of<gearing::GearingReport>() && gearing)
        return print::paintGearing(painter, all, *reports_->of<gearing::GearingReport>(), *gearing, palette, shown_);
    if (key_.isEmpty())
        return say(
            tr("Nothing of the driveline is given yet. \"New\" begins with a line of shafts from the gearbox to the "
               "axle."));
    const auto* driveline = reports_->project->sections.get<model::Driveline>();
    if (key_ == QLatin1String("bell") && driveline && driveline->bell)
        return print::paintStack(painter, all, *driveline->bell, palette, shown_);
    if (key_.startsWith(QLatin1String("interface:")) && driveline)
        for (const model::Interface& interface : driveline->interfaces)
            if (q(interface.id) == key_.mid(10)) return print::paintInterface(painter, all, interface, palette, shown_);
    if (key_.startsWith(QLatin1String("reading:")) && reports_->of<driveline::DrivelineReport>())
        for (const driveline::AngleReport& angle : reports_->of<driveline::DrivelineReport>()->angles)
            for (const model::AngleReading& reading : reports_->project->sections.get<model::Driveline>()->readings)
                if (q(angle.id) == key_.mid(8) && reading.id == angle.id)
                    return print::paintReading(painter, all, reading, angle, palette);
    say(tr("Its figures stand below and beside."));
}

} // namespace gabarit::app

#include "moc_shaft_view.cpp"

#include "window/gauge_strip.h"

#include "forms/tones.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QPainter>

namespace gabarit::app {

GaugeButton::GaugeButton(QWidget* parent) : QAbstractButton(parent) {
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

void GaugeButton::show(const study::Gauge& gauge) {
    const bool painted_so = gauge_.pointer == gauge.pointer && gauge_.verdict == gauge.verdict;
    gauge_ = gauge;
    const QString words = tr("%1: %2, %3, %4 %5")
                              .arg(QString::fromStdString(gauge.name), QString::fromStdString(gauge.value),
                                   QLatin1String(model::word(gauge.verdict)), QString::fromStdString(gauge.limit),
                                   QString::fromStdString(gauge.subject));
    const bool said_so = toolTip() == words;
    setAccessibleName(words);
    setToolTip(words);
    QAbstractButton::setVisible(true);
    if (!painted_so || !said_so) update();
}

void GaugeButton::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    // Rows from above: name, value, scale, verdict and limit, which part.
    constexpr double row_px = 18, value_px = 28, scale_px = 18;
    const QRectF inner = QRectF(rect()).adjusted(14, 5, -10, -5);
    const QFontMetrics metrics(font());
    const auto words = [&](double top, const QString& text, const QColor& tone) {
        painter.setPen(tone);
        painter.drawText(QRectF(inner.left(), inner.top() + top, inner.width(), row_px),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         metrics.elidedText(text, Qt::ElideRight, static_cast<int>(inner.width())));
    };
    const bool trouble = gauge_.verdict == model::Verdict::NoGo;
    words(0, QString::fromStdString(gauge_.name), tones().second_ink);
    QFont large = font();
    large.setPointSizeF(font().pointSizeF() + 5);
    large.setBold(true);
    painter.setFont(large);
    painter.setPen(trouble ? tones().trouble : tones().ink);
    painter.drawText(QRectF(inner.left(), inner.top() + row_px, inner.width(), value_px),
                     Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(gauge_.value));

    const double y = inner.top() + row_px + value_px + scale_px / 2 - 1;
    painter.setPen(QPen(tones().rule, 1.6));
    painter.drawLine(QPointF(inner.left(), y), QPointF(inner.right(), y));
    painter.setPen(QPen(tones().ink, 2));
    painter.drawLine(QPointF(inner.center().x(), y - 6), QPointF(inner.center().x(), y + 6));
    const double at = inner.left() + gauge_.pointer.value_or(0.04) * inner.width();
    paintMark(painter, QPointF(at, y), 6, gauge_.verdict);

    painter.setFont(font());
    const QString state = QString::fromLatin1(model::word(gauge_.verdict)) + QStringLiteral(" · ");
    QString limit = QString::fromStdString(gauge_.limit);
    // The figure in full rather than the word before it: the tip has both.
    if (metrics.horizontalAdvance(state + limit) > inner.width() && limit.startsWith(tr("wanted ")))
        limit = limit.mid(tr("wanted ").size());
    if (metrics.horizontalAdvance(state + limit) > inner.width())
        limit.replace(tr("at most "), QStringLiteral("≤ ")).replace(tr("at least "), QStringLiteral("≥ "));
    if (metrics.horizontalAdvance(state + limit) > inner.width()) limit = limit.section(QStringLiteral(", "), 0, 0);
    const QString verdict = state + limit;
    words(row_px + value_px + scale_px, verdict, trouble ? tones().trouble : tones().second_ink);
    QString subject = QString::fromStdString(gauge_.subject);
    if (metrics.horizontalAdvance(subject) > inner.width()) // one part in full rather than two cut off
        subject = subject.section(QStringLiteral(", "), 0, 0);
    words(2 * row_px + value_px + scale_px, subject, tones().second_ink);
    painter.setPen(QPen(tones().rule, 1));
    painter.drawLine(QPointF(width() - 0.5, 10), QPointF(width() - 0.5, height() - 10));
    if (hasFocus()) {
        painter.setPen(QPen(tones().in_hand, 2));
        painter.drawRect(rect().adjusted(2, 2, -3, -3));
    }
}

GaugeStrip::GaugeStrip(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), row_(new QHBoxLayout(this)) {
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(0);
    setFixedHeight(110);
    setAutoFillBackground(true);
    setBackgroundRole(QPalette::Base);
    connect(&session_, &Session::reportsChanged, this, &GaugeStrip::refresh);
    connect(&session_, &Session::projectReplaced, this, &GaugeStrip::refresh);
}

void GaugeStrip::refresh() {
    const auto reports = session_.reports();
    const std::vector<study::Gauge> gauges = reports ? reports->gauges : std::vector<study::Gauge>{};
    while (buttons_.size() < gauges.size()) {
        auto* button = new GaugeButton(this);
        row_->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this, button] { emit picked(button->gauge()); });
        buttons_.push_back(button);
    }
    for (std::size_t i = 0; i < buttons_.size(); ++i) {
        if (i < gauges.size())
            buttons_[i]->show(gauges[i]);
        else
            buttons_[i]->hide();
    }
}

const GaugeButton* GaugeStrip::button(const std::string& id) const {
    for (const GaugeButton* button : buttons_)
        if (!button->isHidden() && button->gauge().id == id) return button;
    return nullptr;
}

} // namespace gabarit::app

#include "moc_gauge_strip.cpp"

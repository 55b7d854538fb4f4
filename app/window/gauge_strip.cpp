#include "window/gauge_strip.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QRegularExpression>

#include <algorithm>

namespace gabarit::app {
namespace {

constexpr int strip_px = 104;
constexpr int narrow_strip_px = 40;
constexpr int total_px = 200;
constexpr int most_gauge_px = 260; // two gauges do not stretch over half a screen
constexpr int edge_px = 12;

QFont larger(QFont font, double points) {
    font.setPointSizeF(font.pointSizeF() + points);
    font.setBold(true);
    return font;
}

/// The largest that the words fit in.
QFont fitting(const QFont& font, const QString& words, int width_px) {
    for (double points = 6; points > 0; points -= 1)
        if (QFontMetrics(larger(font, points)).horizontalAdvance(words) <= width_px) return larger(font, points);
    return larger(font, 0);
}

} // namespace

QString withSigns(QString wanted) {
    wanted.replace(QObject::tr("at most "), QStringLiteral("≤ "));
    wanted.replace(QObject::tr("at least "), QStringLiteral("≥ "));
    return wanted;
}

QString withoutRest(QString figure) {
    static const QRegularExpression rest(QStringLiteral(" \\([+−][0-9.]+\\)"));
    return figure.remove(rest);
}

QString lessWords(const QString& words, const QFontMetrics& metrics, int width_px) {
    QString out = words;
    const auto fits = [&] { return metrics.horizontalAdvance(out) <= width_px; };
    for (const QString& cut : {QStringLiteral("; "), QStringLiteral(": "), QStringLiteral(", "), QObject::tr(" to ")})
        while (!fits() && out.contains(cut)) out = out.section(cut, 0, -2);
    while (!fits() && out.contains(QLatin1Char(' '))) out = out.section(QLatin1Char(' '), 0, -2);
    return metrics.elidedText(out, Qt::ElideRight, width_px); // one word that is too long by itself
}

TotalButton::TotalButton(QWidget* parent) : QAbstractButton(parent) {
    setObjectName(QStringLiteral("total"));
    setCheckable(true);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Expanding);
}

QSize TotalButton::sizeHint() const {
    if (!narrow_) return {total_px, strip_px};
    const QString line = counts_.isEmpty() ? headline_ : headline_ + QStringLiteral(": ") + counts_;
    return {QFontMetrics(larger(font(), 0)).horizontalAdvance(line + own_) + 3 * edge_px, narrow_strip_px};
}

void TotalButton::setNarrow(bool narrow) {
    narrow_ = narrow;
    updateGeometry();
    update();
}

void TotalButton::show(const study::Reports* reports) {
    const QString headline = reports ? q(study::inShort(*reports)) : tr("Looking…");
    const QString counts = reports ? q(study::countWords(study::countsOf(*reports))) : QString();
    const bool own = reports && !(reports->own_limits_below.empty() && reports->own_figures.empty());
    const QString whole = reports ? q(study::totalWords(*reports)) : QString();
    setToolTip(whole);
    setAccessibleName(tr("In all: %1. %2. Every check at a glance").arg(whole, counts));
    const QString by_own = own ? tr("by limits of your own") : QString();
    const bool trouble = reports && reports->asked && reports->verdict == model::Verdict::NoGo;
    if (headline == headline_ && counts == counts_ && by_own == own_ && trouble == trouble_) return;
    headline_ = headline;
    counts_ = counts;
    own_ = by_own;
    trouble_ = trouble;
    if (narrow_) updateGeometry();
    update();
}

void TotalButton::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const bool open = isChecked();
    painter.fillRect(rect(), open ? tones().ink : tones().paper);
    const QColor ink = open ? tones().paper : trouble_ ? tones().trouble : tones().ink;
    const QColor second = open ? tones().paper : tones().ink;
    const QRect inner = rect().adjusted(edge_px, 4, -4, -4);
    painter.setPen(ink);
    if (narrow_) {
        painter.setFont(larger(font(), 0));
        const QString line = counts_.isEmpty() ? headline_ : headline_ + QStringLiteral(": ") + counts_;
        painter.drawText(inner, Qt::AlignLeft | Qt::AlignVCenter,
                         own_.isEmpty() ? line : line + QStringLiteral("; ") + own_);
        return paintFocus(painter, *this);
    }
    const QFont head = fitting(font(), headline_, inner.width());
    painter.setFont(head);
    painter.drawText(QRect(inner.left(), inner.top(), inner.width(), 32), Qt::AlignLeft | Qt::AlignVCenter, headline_);
    // The counts in two lines at most; the last line leads on.
    painter.setFont(font());
    painter.setPen(second);
    const QFontMetrics metrics(font());
    const int row_px = metrics.height();
    QStringList lines(QString{});
    for (const QString& part : counts_.split(QStringLiteral(", "), Qt::SkipEmptyParts)) {
        QString& last = lines.last();
        const QString longer = last.isEmpty() ? part : last + QStringLiteral(", ") + part;
        if (last.isEmpty() || metrics.horizontalAdvance(longer) <= inner.width())
            last = longer;
        else
            lines << part;
    }
    if (!own_.isEmpty()) lines << own_;
    int y = inner.top() + 34;
    for (const QString& line : lines.mid(0, 2)) {
        painter.drawText(QRect(inner.left(), y, inner.width(), row_px), Qt::AlignLeft | Qt::AlignVCenter, line);
        y += row_px;
    }
    // Limits of one's own are never left out: the way on gives room.
    const bool third = lines.size() > 2;
    QFont way = font();
    way.setUnderline(!third);
    painter.setFont(way);
    painter.drawText(QRect(inner.left(), inner.bottom() - row_px + 1, inner.width(), row_px),
                     Qt::AlignLeft | Qt::AlignVCenter, third ? lines[2] : tr("At a glance"));
    if (!third) {
        painter.setFont(font());
        painter.setPen(open ? tones().paper : tones().second_ink);
        painter.drawText(QRect(inner.left(), inner.bottom() - row_px + 1, inner.width() - 4, row_px),
                         Qt::AlignRight | Qt::AlignVCenter, QStringLiteral("F4"));
    }
    paintFocus(painter, *this);
}

GaugeButton::GaugeButton(QWidget* parent) : QAbstractButton(parent) {
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setMaximumWidth(most_gauge_px);
    setCursor(Qt::PointingHandCursor);
}

QSize GaugeButton::sizeHint() const { return {most_gauge_px, narrow_ ? narrow_strip_px : strip_px}; }
QSize GaugeButton::minimumSizeHint() const { return {120, narrow_ ? narrow_strip_px : strip_px}; }

void GaugeButton::setNarrow(bool narrow) {
    narrow_ = narrow;
    setMaximumWidth(narrow ? QWIDGETSIZE_MAX : most_gauge_px);
    updateGeometry();
    update();
}

void GaugeButton::show(const study::GroupState& state) {
    group_ = state.group;
    verdict_ = state.verdict;
    counts_ = state.counts;
    what_ = state.worst ? q(state.worst->what.empty() ? state.worst->title : state.worst->what) : QString();
    held_ = state.worst ? state.worst->held : discipline::Held{};
    setText(q(discipline::groupName(group_)));
    const QString verdict = verdict_ ? stateWords(*verdict_) : tr("not begun");
    QString words = QStringLiteral("%1: %2").arg(text(), verdict);
    if (!held_.value.empty()) words += QStringLiteral(", ") + q(held_.value);
    if (!held_.wanted.empty()) words += tr(", wanted %1").arg(q(held_.wanted));
    if (!what_.isEmpty()) words += QStringLiteral(", ") + what_;
    if (counts_.open() > 0) words += QStringLiteral(" (") + q(study::countWords(counts_)) + QLatin1Char(')');
    // The accessible name tells all that is painted: nothing to paint when it says the same.
    const bool same = accessibleName() == words;
    setAccessibleName(words);
    setToolTip(words);
    if (!same) update();
}

QStringList GaugeButton::shownWords() const {
    const QFontMetrics metrics(font());
    const int room = width() - edge_px - 8;
    if (!verdict_) return {tr("Not begun"), {}, {}};
    QString wanted = withoutRest(q(held_.wanted));
    if (!wanted.isEmpty()) {
        QString line = tr("wanted %1").arg(wanted);
        if (metrics.horizontalAdvance(line) > room) line = tr("wanted %1").arg(withSigns(wanted));
        wanted = lessWords(line, metrics, room);
        // Not half of a range, nor "wanted" alone.
        if (wanted == tr("wanted %1").arg(QString()).trimmed() || wanted.endsWith(QStringLiteral("≥")) ||
            wanted.endsWith(QStringLiteral("≤")))
            wanted.clear();
    }
    const QString value =
        !held_.value.empty() ? withoutRest(q(held_.value)) : q(study::countWords(counts_)).section(',', 0, 0);
    return {value, wanted, lessWords(what_, metrics, room)};
}

void GaugeButton::paintLine(QPainter& painter) {
    const QFontMetrics metrics(font());
    const bool trouble = verdict_ == model::Verdict::NoGo;
    const QStringList words = shownWords();
    int x = edge_px;
    paintMark(painter, QPointF(x + 6, height() / 2.0), 6, verdict_.value_or(model::Verdict::Unknown));
    x += 20;
    const auto say = [&](const QString& line, const QFont& font, const QColor& tone) {
        const int wide = QFontMetrics(font).horizontalAdvance(line);
        if (line.isEmpty() || x + wide > width() - 4) return;
        painter.setFont(font);
        painter.setPen(tone);
        painter.drawText(QRect(x, 0, wide + 2, height()), Qt::AlignLeft | Qt::AlignVCenter, line);
        x += wide + 10;
    };
    say(text(), font(), tones().ink);
    say(words[0], larger(font(), 0), trouble ? tones().trouble : tones().ink);
    say(words[2], font(), tones().second_ink);
    say(words[1], font(), tones().second_ink);
}

void GaugeButton::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    painter.setPen(QPen(tones().rule, 1));
    painter.drawLine(QPointF(0.5, 8), QPointF(0.5, height() - 8));
    if (narrow_) {
        paintLine(painter);
        return paintFocus(painter, *this);
    }
    const QStringList words = shownWords();
    const bool trouble = verdict_ == model::Verdict::NoGo;
    const QRectF inner = QRectF(rect()).adjusted(edge_px, 3, -8, -3);
    const QFontMetrics metrics(font());
    const double row_px = metrics.height(), value_px = 25, scale_px = 15;
    const auto row = [&](double top, double height, const QString& line, const QFont& font, const QColor& tone,
                         Qt::Alignment side = Qt::AlignLeft) {
        painter.setFont(font);
        painter.setPen(tone);
        painter.drawText(QRectF(inner.left(), inner.top() + top, inner.width(), height), side | Qt::AlignVCenter, line);
    };
    paintMark(painter, QPointF(inner.left() + 6, inner.top() + row_px / 2), 5.5,
              verdict_.value_or(model::Verdict::Unknown));
    painter.setFont(font());
    painter.setPen(tones().ink);
    painter.drawText(QRectF(inner.left() + 18, inner.top(), inner.width() - 18, row_px),
                     Qt::AlignLeft | Qt::AlignVCenter, text());
    const QString state = verdict_ ? stateWords(*verdict_) : QString();
    const QColor tone = trouble ? tones().trouble : tones().ink;
    const int state_px = metrics.horizontalAdvance(state);
    row(row_px, value_px, words[0], fitting(font(), words[0], static_cast<int>(inner.width()) - state_px - 8), tone);
    row(row_px, value_px, state, font(), tone, Qt::AlignRight);
    const double y = inner.top() + row_px + value_px + scale_px / 2;
    painter.setPen(QPen(tones().rule, 2, verdict_ && held_.margin ? Qt::SolidLine : Qt::DashLine));
    painter.drawLine(QPointF(inner.left(), y), QPointF(inner.right(), y));
    if (verdict_ && held_.margin) {
        painter.setPen(QPen(tones().ink, 2));
        painter.drawLine(QPointF(inner.center().x(), y - 5), QPointF(inner.center().x(), y + 5));
        const double at = std::clamp(0.5 + 0.5 * *held_.margin, 0.02, 0.98);
        paintMark(painter, QPointF(inner.left() + at * inner.width(), y), 5, *verdict_);
    }
    row(row_px + value_px + scale_px, row_px, words[1], font(), tones().second_ink);
    row(2 * row_px + value_px + scale_px, row_px, words[2], font(), tones().ink);
    paintFocus(painter, *this);
}

GaugeStrip::GaugeStrip(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), row_(new QHBoxLayout(this)), total_(new TotalButton(this)) {
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(0);
    row_->addWidget(total_);
    row_->addStretch(1);
    setFixedHeight(strip_px);
    setAutoFillBackground(true);
    setBackgroundRole(QPalette::Base);
    connect(total_, &QAbstractButton::clicked, this, [this] { emit allWanted(); });
    connect(&session_, &Session::reportsChanged, this, &GaugeStrip::refresh);
    connect(&session_, &Session::projectReplaced, this, &GaugeStrip::refresh);
}

void GaugeStrip::setNarrow(bool narrow) {
    if (narrow_ == narrow) return;
    narrow_ = narrow;
    setFixedHeight(narrow ? narrow_strip_px : strip_px);
    total_->setNarrow(narrow);
    for (GaugeButton* gauge : gauges_) gauge->setNarrow(narrow);
    refresh();
}

void GaugeStrip::refresh() {
    const auto reports = session_.reports();
    total_->show(reports.get());
    std::vector<study::GroupState> groups;
    if (reports) groups = study::groupsOf(*reports);
    if (narrow_ && groups.size() > 1) {
        const auto worst = std::max_element(groups.begin(), groups.end(), [](const auto& x, const auto& y) {
            return x.verdict.value_or(model::Verdict::Go) < y.verdict.value_or(model::Verdict::Go);
        });
        groups = {*worst};
    }
    while (gauges_.size() < groups.size()) {
        auto* gauge = new GaugeButton(this);
        gauge->setNarrow(narrow_);
        row_->insertWidget(row_->count() - 1, gauge, 1000);
        connect(gauge, &QAbstractButton::clicked, this, [this, gauge] { emit picked(gauge->group()); });
        gauges_.push_back(gauge);
    }
    for (std::size_t i = 0; i < gauges_.size(); ++i) {
        if (i < groups.size()) gauges_[i]->show(groups[i]);
        gauges_[i]->setVisible(i < groups.size());
    }
}

GaugeButton* GaugeStrip::gauge(discipline::Group group) const {
    for (GaugeButton* gauge : gauges_)
        if (!gauge->isHidden() && gauge->group() == group) return gauge;
    return nullptr;
}

} // namespace gabarit::app

#include "moc_gauge_strip.cpp"

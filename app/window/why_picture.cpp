#include "window/why_picture.h"

#include "forms/text.h"
#include "forms/tones.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

using discipline::WhyLine;
using Kind = WhyLine::Kind;

constexpr int line_row_px = 25;
constexpr int column_gap_px = 12;
constexpr int least_bar_px = 110;

QFont boldOf(QFont font) {
    font.setBold(true);
    return font;
}

bool isBold(const WhyLine& line) { return line.kind == Kind::Left || line.kind == Kind::Wanted; }

QString sourceOf(const WhyLine& line) { return q(line.source); }

} // namespace

/// Where things stand at a width: words, values, bars, and the sources beside the bars or below each line.
struct WhyPicture::Columns {
    int words_px = 0, values_px = 0, bar_left = 0, bar_px = 0, source_left = 0, source_px = 0;
    bool sources_below = false;
    std::vector<int> heights;
};

WhyPicture::WhyPicture(QWidget* parent) : QWidget(parent) {
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void WhyPicture::show(const discipline::Why& why) {
    why_ = why;
    QString said;
    for (const WhyLine& line : why_.lines) said += QStringLiteral("%1 %2. ").arg(q(line.words), q(line.value));
    setAccessibleName(said);
    updateGeometry();
    update();
}

WhyPicture::Columns WhyPicture::columns(int width) const {
    Columns out;
    const QFontMetrics plain(font()), bold(boldOf(font()));
    for (const WhyLine& line : why_.lines) {
        out.words_px = std::max(out.words_px, bold.horizontalAdvance(q(line.words)));
        out.values_px = std::max(out.values_px, bold.horizontalAdvance(q(line.value)));
    }
    out.bar_left = out.words_px + out.values_px + 2 * column_gap_px;
    const int rest = width - out.bar_left;
    out.sources_below = rest < least_bar_px + 200;
    out.bar_px = out.sources_below ? rest : std::max(least_bar_px, rest * 2 / 5);
    out.source_left = out.sources_below ? column_gap_px : out.bar_left + out.bar_px + column_gap_px;
    out.source_px = std::max(60, width - out.source_left);
    for (const WhyLine& line : why_.lines) {
        const int words =
            line.source.empty()
                ? 0
                : plain.boundingRect(QRect(0, 0, out.source_px, 10000), Qt::TextWordWrap, sourceOf(line)).height();
        out.heights.push_back(out.sources_below ? line_row_px + words : std::max(line_row_px, words + 4));
    }
    return out;
}

int WhyPicture::heightForWidth(int width) const {
    int out = 4;
    for (const int height : columns(width).heights) out += height;
    return out;
}

QSize WhyPicture::sizeHint() const { return {480, heightForWidth(std::max(width(), 260))}; }

void WhyPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Columns at = columns(width());
    // The scale holds every sum on the way, nothing, and the doubt.
    double low = 0, high = 0, sum = 0;
    for (const WhyLine& line : why_.lines) {
        const double doubt = line.kind == Kind::Doubt ? line.amount : 0;
        if (line.kind == Kind::Takes) sum += line.amount;
        if (line.kind == Kind::Is || line.kind == Kind::Left) sum = line.amount;
        const double end = line.kind == Kind::Wanted ? line.amount : sum;
        low = std::min(low, end - doubt);
        high = std::max(high, end + doubt);
    }
    if (high - low <= 0) high = low + 1;
    const auto x = [&](double v) { return at.bar_left + (v - low) / (high - low) * (at.bar_px - 2) + 1; };
    bool has_wanted = false;
    double wanted = 0;
    for (const WhyLine& line : why_.lines)
        if (line.kind == Kind::Wanted) has_wanted = true, wanted = line.amount;
    sum = 0;
    int y = 2;
    for (std::size_t i = 0; i < why_.lines.size(); ++i) {
        const WhyLine& line = why_.lines[i];
        const double before = sum;
        // Beside the bars only: the sources below them are read without a line through them.
        const int axis_px = at.sources_below ? line_row_px : at.heights[i];
        painter.setPen(QPen(tones().rule, 1));
        painter.drawLine(QPointF(x(0), y), QPointF(x(0), y + axis_px));
        if (has_wanted) {
            painter.setPen(QPen(tones().ink, 2));
            painter.drawLine(QPointF(x(wanted), y), QPointF(x(wanted), y + axis_px));
        }
        if (line.kind == Kind::Takes) sum += line.amount;
        if (line.kind == Kind::Is || line.kind == Kind::Left) sum = line.amount;
        painter.setFont(isBold(line) ? boldOf(font()) : font());
        painter.setPen(tones().ink);
        painter.drawText(QRect(0, y, at.words_px + 2, line_row_px), Qt::AlignLeft | Qt::AlignVCenter, q(line.words));
        painter.drawText(QRect(at.words_px + column_gap_px, y, at.values_px, line_row_px),
                         Qt::AlignRight | Qt::AlignVCenter, q(line.value));
        const auto bar = [&](double from, double to, const QBrush& brush, const QPen& pen) {
            painter.setBrush(brush);
            painter.setPen(pen);
            painter.drawRect(
                QRectF(QPointF(x(std::min(from, to)), y + 5.5),
                       QPointF(std::max(x(std::max(from, to)), x(std::min(from, to)) + 1.5), y + line_row_px - 5.5)));
        };
        switch (line.kind) {
        case Kind::Is:
        case Kind::Left: bar(0, sum, tones().donor, Qt::NoPen); break;
        case Kind::Takes: bar(before, sum, tones().chassis_edge, Qt::NoPen); break;
        case Kind::Doubt:
            bar(sum - line.amount, sum + line.amount, QBrush(tones().ink, Qt::BDiagPattern), QPen(tones().ink, 1));
            break;
        case Kind::Wanted:
            painter.setPen(QPen(tones().ink, 2));
            painter.drawLine(QPointF(x(0), y + line_row_px / 2.0), QPointF(x(wanted), y + line_row_px / 2.0));
            break;
        }
        painter.setFont(font());
        painter.setPen(tones().second_ink);
        const int top = at.sources_below ? y + line_row_px - 3 : y + 3;
        painter.drawText(QRect(at.source_left, top, at.source_px, at.heights[i]),
                         Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, sourceOf(line));
        y += at.heights[i];
    }
}

} // namespace gabarit::app

#include "moc_why_picture.cpp"

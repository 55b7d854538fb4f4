#include "forms/tones.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>
#include <QWidget>

#include <algorithm>
#include <cmath>

namespace gabarit::app {

namespace {

Theme theme_in_use = Theme::Light;

QFont typeface() {
    static const QString family = [] {
        QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Bold.ttf"));
        const int regular = QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Regular.ttf"));
        const QStringList families = regular >= 0 ? QFontDatabase::applicationFontFamilies(regular) : QStringList();
        return families.value(0, QStringLiteral("sans-serif"));
    }();
    QFont font(family);
    font.setPointSizeF(11);
    return font;
}

} // namespace

const Tones& tonesOf(Theme theme) {
    static const Tones light;
    static const Tones dark{{0x1F, 0x1D, 0x1A}, {0x2A, 0x27, 0x23}, {0x4E, 0x48, 0x3F}, {0xED, 0xE6, 0xD8},
                            {0xB8, 0xAE, 0x9D}, {0x47, 0x42, 0x39}, {0x8F, 0x84, 0x73}, {0x6A, 0xAD, 0xB2},
                            {0xB5, 0xDE, 0xE0}, {0xFF, 0x85, 0x68}, {0xE3, 0xA4, 0x45}, {0xE3, 0xA4, 0x45}};
    return theme == Theme::Dark ? dark : light;
}
const Tones& tones() { return tonesOf(theme_in_use); }
Theme theme() { return theme_in_use; }

double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& colour) {
        const auto linear = [](double c) { return c <= 0.03928 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
        return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF());
    };
    const double x = luminance(a) + 0.05, y = luminance(b) + 0.05;
    return std::max(x, y) / std::min(x, y);
}

void dress(QApplication& application, Theme theme) {
    theme_in_use = theme;
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QApplication::setFont(typeface());

    const Tones& t = tones();
    QPalette palette;
    palette.setColor(QPalette::Window, t.panel);
    palette.setColor(QPalette::WindowText, t.ink);
    palette.setColor(QPalette::Base, t.paper);
    palette.setColor(QPalette::AlternateBase, t.panel);
    palette.setColor(QPalette::Text, t.ink);
    palette.setColor(QPalette::PlaceholderText, t.second_ink);
    palette.setColor(QPalette::Button, t.paper);
    palette.setColor(QPalette::ButtonText, t.ink);
    palette.setColor(QPalette::Highlight, t.donor);
    palette.setColor(QPalette::HighlightedText, t.paper);
    palette.setColor(QPalette::ToolTipBase, t.paper);
    palette.setColor(QPalette::ToolTipText, t.ink);
    palette.setColor(QPalette::Mid, t.rule);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        palette.setColor(QPalette::Disabled, role, t.second_ink);
    QApplication::setPalette(palette);

    QFile sheet(QStringLiteral(":/style/paper.qss"));
    if (!sheet.open(QIODevice::ReadOnly)) return;
    QString text = QString::fromUtf8(sheet.readAll());
    const std::pair<const char*, QColor> names[] = {
        {"@paper", t.paper},           {"@panel", t.panel},  {"@rule", t.rule},       {"@ink", t.ink},
        {"@second_ink", t.second_ink}, {"@donor", t.donor},  {"@in_hand", t.in_hand}, {"@trouble", t.trouble},
        {"@hand_fill", t.hand_fill},   {"@on_hand", t.paper}};
    text.replace(QLatin1String("@arrow"),
                 theme == Theme::Dark ? QLatin1String(":/icons/down-light.xpm") : QLatin1String(":/icons/down.xpm"));
    for (const auto& name : names) text.replace(QLatin1String(name.first), name.second.name());
    application.setStyleSheet(text);
}

QColor toneOf(model::Verdict verdict) {
    switch (verdict) {
    case model::Verdict::Go: return tones().donor;
    case model::Verdict::Close: return tones().in_hand;
    case model::Verdict::NoGo: return tones().trouble;
    case model::Verdict::Unknown: break;
    }
    return tones().second_ink;
}

QColor inkOf(model::Verdict verdict) { return verdict == model::Verdict::Close ? tones().hand_fill : toneOf(verdict); }

QString stateWords(model::Verdict verdict) {
    return verdict == model::Verdict::Unknown ? QObject::tr("to measure") : QString::fromLatin1(model::word(verdict));
}

void paintFocus(QPainter& painter, const QWidget& widget) {
    if (!widget.hasFocus()) return;
    painter.setPen(QPen(tones().in_hand, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(widget.rect().adjusted(1, 1, -2, -2));
}

void paintMark(QPainter& painter, const QPointF& centre, double radius, model::Verdict verdict) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor tone = toneOf(verdict);
    const QRectF box(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius);
    painter.setPen(QPen(tone, 1.6));
    switch (verdict) {
    case model::Verdict::Go:
        painter.setBrush(tone);
        painter.drawEllipse(box);
        break;
    case model::Verdict::Close: // the left half filled
        painter.setBrush(tones().paper);
        painter.drawEllipse(box);
        painter.setBrush(tone);
        painter.drawPie(box, 90 * 16, 180 * 16);
        break;
    case model::Verdict::NoGo:
        painter.setBrush(tone);
        painter.drawRect(box);
        break;
    case model::Verdict::Unknown:
        painter.setPen(QPen(tone, 1.6, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(box);
        break;
    }
    painter.restore();
}

} // namespace gabarit::app

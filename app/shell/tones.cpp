#include "shell/tones.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>

namespace gabarit::app {

const Tones& tones() {
    static const Tones set;
    return set;
}

void dress(QApplication& application) {
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Bold.ttf"));
    const int regular = QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Lato-Regular.ttf"));
    const QStringList families = regular >= 0 ? QFontDatabase::applicationFontFamilies(regular) : QStringList();
    QFont font(families.value(0, QStringLiteral("sans-serif")));
    font.setPointSizeF(11);
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QApplication::setFont(font);

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
        {"@paper", t.paper},           {"@panel", t.panel}, {"@rule", t.rule},      {"@ink", t.ink},
        {"@second_ink", t.second_ink}, {"@donor", t.donor}, {"@in_hand", t.in_hand}};
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

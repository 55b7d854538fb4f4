#include "shell/tones.h"

#include <QApplication>
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

    application.setStyleSheet(
        QStringLiteral(
            "QPushButton, QToolButton { background: %1; color: %2; border: 1px solid %2; border-radius: 4px; padding: "
            "4px 7px; min-height: 24px; }"
            "QPushButton:pressed, QToolButton:pressed, QPushButton:checked, QToolButton:checked { background: %2; "
            "color: %1; }"
            "QPushButton:focus, QToolButton:focus, QLineEdit:focus, QComboBox:focus { border: 2px solid %3; padding: "
            "3px 6px; }"
            "QPushButton:disabled, QToolButton:disabled { color: %4; border-color: %5; }"
            "QLineEdit, QComboBox { background: %1; color: %2; border: 1px solid %5; border-radius: 4px; padding: 4px "
            "6px; min-height: 24px; }"
            "QComboBox QAbstractItemView { background: %1; color: %2; selection-background-color: %6; selection-color: "
            "%1; }"
            "QScrollArea, QAbstractScrollArea { border: none; }"
            "QMenuBar { background: %7; } QMenuBar::item:selected, QMenu::item:selected { background: %6; color: %1; }"
            "QMenu { background: %1; color: %2; border: 1px solid %5; } QMenu::item { padding: 6px 24px; }"
            "QHeaderView::section { background: %7; color: %4; border: none; border-bottom: 1px solid %5; padding: "
            "6px; }"
            "QTableWidget { background: %1; gridline-color: %5; border: none; }"
            "QToolTip { background: %1; color: %2; border: 1px solid %5; }")
            .arg(t.paper.name(), t.ink.name(), t.in_hand.name(), t.second_ink.name(), t.rule.name(), t.donor.name(),
                 t.panel.name()));
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

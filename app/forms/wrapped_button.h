// A button whose words wrap.
#pragma once

#include "forms/tones.h"

#include <QPushButton>
#include <QStyleOptionButton>
#include <QStylePainter>

#include <algorithm>

namespace gabarit::app {

class WrappedButton : public QPushButton {
public:
    WrappedButton(const QString& text, QWidget* parent) : QPushButton(text, parent) {
        QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        policy.setHeightForWidth(true);
        setSizePolicy(policy);
    }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override {
        const int words =
            fontMetrics().boundingRect(QRect(0, 0, std::max(1, width - 2 * beside_px), 10000), flags, text()).height();
        return std::max(target_px, words + 2 * above_px);
    }
    /// As wide as its words up to a readable line.
    QSize sizeHint() const override {
        constexpr int line_px = 260;
        const int wide = std::min(line_px, fontMetrics().horizontalAdvance(text())) + 2 * beside_px;
        return {wide, heightForWidth(width() > 0 ? width() : wide)};
    }
    QSize minimumSizeHint() const override { return {80, target_px}; }

protected:
    void paintEvent(QPaintEvent*) override {
        QStylePainter painter(this);
        QStyleOptionButton option;
        initStyleOption(&option);
        option.text.clear();
        painter.drawControl(QStyle::CE_PushButton, option);
        painter.setPen(palette().color(isEnabled() ? QPalette::Normal : QPalette::Disabled, QPalette::ButtonText));
        painter.drawText(rect().adjusted(beside_px, 0, -beside_px, 0), flags, text());
    }

private:
    static constexpr int beside_px = 9, above_px = 7;
    static constexpr int flags = Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap;
};

} // namespace gabarit::app

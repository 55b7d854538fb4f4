// A drop-down whose words, when they are too long for it, are left out in their middle; its tip has them whole.
#pragma once

#include <QAbstractItemView>
#include <QComboBox>
#include <QStyleOptionComboBox>
#include <QStylePainter>

#include <algorithm>

namespace gabarit::app {

class ElidedCombo : public QComboBox {
public:
    explicit ElidedCombo(QWidget* parent = nullptr) : QComboBox(parent) {
        setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        setMinimumContentsLength(8);
    }
    /// The list is as wide as its words.
    void showPopup() override {
        constexpr int beside_px = 36;
        int wide = width();
        for (int i = 0; i < count(); ++i)
            wide = std::max(wide, fontMetrics().horizontalAdvance(itemText(i)) + beside_px);
        view()->setMinimumWidth(wide);
        QComboBox::showPopup();
    }
    /// How much of the words there is room for, px.
    int room() const {
        QStyleOptionComboBox option;
        initStyleOption(&option);
        constexpr int inside_px = 4;
        return style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, this).width() -
               inside_px;
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QStylePainter painter(this);
        painter.setPen(palette().color(isEnabled() ? QPalette::Normal : QPalette::Disabled, QPalette::Text));
        QStyleOptionComboBox option;
        initStyleOption(&option);
        painter.drawComplexControl(QStyle::CC_ComboBox, option);
        const QString shown = fontMetrics().elidedText(currentText(), Qt::ElideMiddle, room());
        if (shown != currentText() && toolTip() != currentText()) setToolTip(currentText());
        option.currentText = shown;
        painter.drawControl(QStyle::CE_ComboBoxLabel, option);
    }
};

} // namespace gabarit::app

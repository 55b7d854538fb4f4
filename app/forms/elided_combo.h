// A drop-down whose words, when they are too long for it, are left out in their middle; its tip has them whole.
#pragma once

#include <QAbstractItemView>
#include <QComboBox>
#include <QStyleOptionComboBox>
#include <QStylePainter>
#include <QWheelEvent>

#include <algorithm>

namespace gabarit::app {

class ElidedCombo : public QComboBox {
public:
    explicit ElidedCombo(QWidget* parent = nullptr) : QComboBox(parent) {
        setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        setMinimumContentsLength(8);
        setFocusPolicy(Qt::StrongFocus);
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
        return style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, this).width();
    }

protected:
    /// The page that it stands on is scrolled, unless the keyboard is here.
    void wheelEvent(QWheelEvent* event) override {
        if (hasFocus())
            QComboBox::wheelEvent(event);
        else
            event->ignore();
    }
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

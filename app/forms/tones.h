// The paper-and-ink look: tones, typeface, sizes.
#pragma once

#include "model/verdict.h"

#include <QColor>
#include <QFont>

class QApplication;
class QPainter;
class QPointF;
class QWidget;

namespace gabarit::app {

struct Tones {
    QColor paper{0xF3, 0xED, 0xE1};
    QColor panel{0xE7, 0xDE, 0xCD};
    QColor rule{0xB9, 0xAE, 0x9B};
    QColor ink{0x24, 0x21, 0x1D};
    QColor second_ink{0x5C, 0x55, 0x4A};
    QColor chassis{0xD5, 0xCB, 0xB9};
    QColor chassis_edge{0x8A, 0x7F, 0x6E};
    QColor donor{0x2F, 0x5D, 0x62};
    QColor donor_edge{0x16, 0x36, 0x3A};
    QColor trouble{0xA5, 0x2F, 0x15};
    QColor in_hand{0xA5, 0x6A, 0x12};
    QColor hand_fill{0x84, 0x52, 0x0A}; ///< of the one button that says what to do, and of words in hand
};
/// Paper by day, slate in the evening.
enum class Theme { Light, Dark };
const Tones& tonesOf(Theme theme);
/// The tones in use.
const Tones& tones();
Theme theme();

/// Smallest side of anything to be hit, px; gloves half off.
constexpr int target_px = 34;

/// Registers the typeface and dresses the application in a theme's tones. May be called again for another theme.
void dress(QApplication& application, Theme theme = Theme::Light);
/// Contrast of two colours, 1 to 21 (WCAG 2.1, relative luminance).
double contrast(const QColor& a, const QColor& b);

/// The state mark: round = go, half round = close, square = no-go, hollow dashed = unknown. Colour only repeats it.
void paintMark(QPainter& painter, const QPointF& centre, double radius, model::Verdict verdict);
QColor toneOf(model::Verdict verdict);
/// The same for words, which want more contrast.
QColor inkOf(model::Verdict verdict);
/// "go", "close", "no-go", "to measure".
QString stateWords(model::Verdict verdict);
/// The frame of what paints itself and has the keyboard.
void paintFocus(QPainter& painter, const QWidget& widget);

} // namespace gabarit::app

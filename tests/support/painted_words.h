// The words that a widget paints by itself (not those of its children): what they are and where they stand.
#pragma once

#include <QPaintDevice>
#include <QPaintEngine>
#include <QPainter>
#include <QWidget>

#include <vector>

namespace gabarit::tests {

struct PaintedWords {
    QString text;
    QRectF at;        ///< from the baseline up to the capitals, in the widget
    bool cut = false; ///< part of it lies outside of the widget, or of what it was clipped to
};

/// Paints nothing, and keeps what it is asked to write.
class WordsEngine : public QPaintEngine {
public:
    explicit WordsEngine(const QRectF& room) : QPaintEngine(QPaintEngine::AllFeatures), room_(room) {}
    bool begin(QPaintDevice*) override { return true; }
    bool end() override { return true; }
    void updateState(const QPaintEngineState&) override {}
    void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
    void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}
    Type type() const override { return User; }
    void drawTextItem(const QPointF& at, const QTextItem& item) override {
        constexpr double air_px = 1.5;
        if (item.text().trimmed().isEmpty()) return;
        const double high = QFontMetricsF(item.font()).capHeight();
        const QRectF box(at.x(), at.y() - high, item.width(), high);
        PaintedWords words{item.text(), painter()->combinedTransform().mapRect(box), false};
        words.cut = !room_.adjusted(-air_px, -air_px, air_px, air_px).contains(words.at);
        if (painter()->hasClipping())
            words.cut =
                words.cut || !painter()->clipBoundingRect().adjusted(-air_px, -air_px, air_px, air_px).contains(box);
        all.push_back(words);
    }
    std::vector<PaintedWords> all;

private:
    QRectF room_;
};

class WordsDevice : public QPaintDevice {
public:
    explicit WordsDevice(const QWidget& like) : like_(like), engine_(like.rect()) {}
    QPaintEngine* paintEngine() const override { return &engine_; }
    const std::vector<PaintedWords>& words() const { return engine_.all; }

protected:
    int metric(PaintDeviceMetric which) const override {
        switch (which) {
        case PdmWidth: return like_.width();
        case PdmHeight: return like_.height();
        case PdmDpiX:
        case PdmPhysicalDpiX: return like_.logicalDpiX();
        case PdmDpiY:
        case PdmPhysicalDpiY: return like_.logicalDpiY();
        case PdmDepth: return 32;
        case PdmDevicePixelRatio: return 1;
        case PdmDevicePixelRatioScaled: return static_cast<int>(devicePixelRatioFScale());
        default: return 0;
        }
    }

private:
    const QWidget& like_;
    mutable WordsEngine engine_;
};

inline std::vector<PaintedWords> paintedWords(QWidget& widget) {
    WordsDevice device(widget);
    widget.render(&device, {}, {}, QWidget::RenderFlags());
    return device.words();
}

/// What of it is cut, or stands over other words of it.
inline QStringList unreadable(QWidget& widget) {
    QStringList out;
    const auto all = paintedWords(widget);
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (all[i].cut) out << QStringLiteral("\"%1\" is cut").arg(all[i].text);
        for (std::size_t j = 0; j < i; ++j) {
            constexpr double touching_px = 2;
            const QRectF both = all[i].at & all[j].at;
            if (both.width() < touching_px || both.height() < touching_px) continue;
            if (all[i].text == all[j].text && (all[i].at.center() - all[j].at.center()).manhattanLength() < 4)
                continue; // the same words with a light edge round them
            out << QStringLiteral("\"%1\" stands over \"%2\"").arg(all[i].text, all[j].text);
        }
    }
    return out;
}

} // namespace gabarit::tests

// A label whose words wrap.
#pragma once

#include <QEvent>
#include <QLabel>

#include <algorithm>
#include <array>

namespace gabarit::app {

/// Remembers how high it is at the last few widths: a layout asks that of every label over and over, and each time all
/// its words would be set again.
class WrappedLabel : public QLabel {
public:
    explicit WrappedLabel(QWidget* parent) : QLabel(parent) {
        setWordWrap(true);
        setTextFormat(Qt::PlainText);
    }
    int heightForWidth(int width) const override {
        if (text() != text_) {
            text_ = text();
            known_.fill({-1, 0});
        }
        for (const Known& known : known_)
            if (known.width == width) return known.height;
        std::rotate(known_.begin(), known_.end() - 1, known_.end());
        known_.front() = {width, QLabel::heightForWidth(width)};
        return known_.front().height;
    }
    /// As wide as it is given: the label's own would set all its words several times over to find a pleasing shape.
    QSize sizeHint() const override { return {width(), heightForWidth(width())}; }
    QSize minimumSizeHint() const override { return {0, fontMetrics().height()}; }

protected:
    void changeEvent(QEvent* event) override {
        known_.fill({-1, 0}); // font, style or language
        QLabel::changeEvent(event);
    }

private:
    struct Known {
        int width = -1, height = 0;
    };
    mutable QString text_;
    mutable std::array<Known, 6> known_{};
};

} // namespace gabarit::app

// Pictures painted in a test, and what is found in them.
#pragma once

#include "print/shaft_pictures.h"

#include <QImage>
#include <QPainter>

namespace gabarit::tests {

inline const print::PictureTones tones{Qt::black,      Qt::darkGray, Qt::lightGray, Qt::blue,
                                       Qt::darkYellow, Qt::red,      Qt::green,     Qt::white};

/// Paints and gives the picture.
template <class Paint>
QImage painted(Paint paint) {
    QImage image(600, 400, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    paint(painter, QRectF(0, 0, 600, 400));
    return image;
}
/// The box round all points of a tone.
inline QRect boxOf(const QImage& image, const QColor& tone) {
    QRect box;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (image.pixelColor(x, y) == tone) box |= QRect(x, y, 1, 1);
    return box;
}

} // namespace gabarit::tests

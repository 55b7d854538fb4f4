// Drawings of a pocket: cut lengthwise and across, what is left along it; and of a part in the flat. For the window and
// for paper alike.
#pragma once

#include "print/shaft_pictures.h"
#include "relief/relief.h"
#include "relief/section/relief.h"

#include <QPainterPath>
#include <QTransform>

namespace gabarit::print {

/// What of a pocket is drawn, mm. Lengthwise: right along its length, up out of the metal, cut through its middle.
/// Across: right across it, up out of the metal, at one station.
struct PocketPicture {
    QPainterPath before, closed; ///< lengthwise
    QPainterPath intruders;      ///< seen the same way, whole
    QPainterPath across_before, across_closed;
    QRectF field, across_field; ///< what is shown of them
    double station_mm = 0;
};
/// Of a pocket that can be made. `station_mm` from the middle of its mouth; nothing: where it is weakest.
PocketPicture pocketPicture(const study::Reports& reports, const relief::PocketReport& report,
                            std::optional<double> station_mm);

/// From lengthwise millimetres to the box.
QTransform lengthwiseTransform(const QRectF& box, const PocketPicture& picture);
/// The free room in lengthwise millimetres: its mouth at y = 0, its bottom below, its ends at either side.
QRectF roomOf(const model::Pocket& pocket);

void paintLengthwise(QPainter& painter, const QRectF& box, const PocketPicture& picture, const model::Pocket& pocket,
                     const PictureTones& tones, const quantity::Shown& shown);
void paintAcross(QPainter& painter, const QRectF& box, const PocketPicture& picture, const PictureTones& tones,
                 const quantity::Shown& shown);
/// What of the section is drawn along a pocket.
enum class Along { LeastModulus, Area, Upright, Sideways, Top, Bottom, Left, Right, Torsion, Product, Shift };
constexpr int along_count = 11;
/// "second moment, up and down"
QString words(Along what);
/// Of a station, cut or closed: of what it was (share); the product against the second moments (share, without its
/// sign); how far the centre of area went (mm).
double valueAlong(Along what, const relief::Section& now, const relief::Section& was);

/// One of them along the pocket, cut and closed; its worst place and the station are marked. `wanted_share` is drawn
/// where one is wanted.
void paintAlong(QPainter& painter, const QRectF& box, const relief::PocketReport& report, double station_mm, Along what,
                std::optional<double> wanted_share, const PictureTones& tones, const quantity::Shown& shown);
/// A part in the flat: its outline, holes, bends dashed with their zones, marks.
void paintPattern(QPainter& painter, const QRectF& box, const relief::FlatPattern& pattern, const PictureTones& tones,
                  const quantity::Shown& shown);

/// The least of a station's four moduli, of what it was.
double leastModulus(const relief::Section& now, const relief::Section& was);

} // namespace gabarit::print

// Drawings of what must go together: the stack in the bellhousing, and the two sides of an interface.
#pragma once

#include "driveline/section/driveline.h"
#include "print/shaft_pictures.h"

namespace gabarit::print {

/// A part along the crank, from the block's rear face rearward.
struct StackBar {
    QString name;
    double from_mm = 0, to_mm = 0;
    bool on_crank = false; ///< stands with the crank; else with the block or the gearbox
};
/// Parts that must reach, or clear, one another.
struct StackLane {
    QString name;
    std::vector<StackBar> bars;
};
/// What of the stack is known well enough to be drawn.
std::vector<StackLane> stackLanes(const model::BellStack& stack);

/// Each pair above one another along the crank, to scale.
void paintStack(QPainter& painter, const QRectF& box, const model::BellStack& stack, const PictureTones& tones,
                quantity::Shown shown);

/// Both sides seen along the shaft (a joint: across it), at one scale, with their figures.
void paintInterface(QPainter& painter, const QRectF& box, const model::Interface& interface, const PictureTones& tones,
                    quantity::Shown shown);

} // namespace gabarit::print

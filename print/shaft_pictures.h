// Drawings of the driveline: the chain at exaggerated angle, curves over the travel, the coupling's dial, speed against
// revs. For the window and for paper alike.
#pragma once

#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "study/study.h"

#include <QColor>
#include <QRectF>

class QPainter;

namespace gabarit::print {

struct PictureTones {
    QColor ink, second_ink, rule, shaft, far_end, trouble, in_hand, ground;
};

/// Round figures from low to high, about so many: 1, 2 or 5 of a power of ten apart.
std::vector<double> roundFigures(double low, double high, int about);

/// Side view above plan, front of the vehicle to the left (of a half-shaft: the vehicle's left), offsets across the run
/// drawn `exaggeration` times; angles are told as they are. Returns the exaggeration.
double paintChain(QPainter& painter, const QRectF& box, const driveline::LineReport& line, const PictureTones& tones);

/// Joint angles, and the length of a slipping shaft, from full droop to full bump; `travel_mm` is marked when given.
void paintAngles(QPainter& painter, const QRectF& box, const driveline::LineReport& line, const PictureTones& tones,
                 quantity::Shown shown);
void paintSlip(QPainter& painter, const QRectF& box, const driveline::LineReport& line, std::size_t slip,
               const PictureTones& tones, quantity::Shown shown);

/// The faces as a dial seen from behind: where they stand open and where tight, and each reading.
void paintDial(QPainter& painter, const QRectF& box, const driveline::CouplingTryReport& reading,
               const model::CouplingTry& taken, const PictureTones& tones, quantity::Shown shown);

/// A gauge's reading against level and the vehicle, and how the flange stands in the project; front to the left. Drawn
/// steeper when all are small.
void paintReading(QPainter& painter, const QRectF& box, const model::AngleReading& taken,
                  const driveline::AngleReport& reading, const PictureTones& tones);

/// Road speed over engine speed for each gear.
void paintGearing(QPainter& painter, const QRectF& box, const gearing::GearingReport& gearing,
                  const model::Gearing& given, const PictureTones& tones, quantity::Shown shown);

} // namespace gabarit::print

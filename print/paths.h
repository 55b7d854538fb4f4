// Outlines as Qt's painter takes them.
#pragma once

#include "shape/outline.h"

#include <QPainterPath>

namespace gabarit::print {

/// In the outline's own coordinates (right, up), mm.
QPainterPath pathOf(const shape::Outline& outline);

} // namespace gabarit::print

// What every test of the window includes, compiled once.
#pragma once

#include "support/core_headers.h"

#include <QtWidgets>

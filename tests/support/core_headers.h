// What every test of the core includes, compiled once.
#pragma once

#include <Eigen/Geometry>
#include <QtTest>

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <variant>
#include <vector>

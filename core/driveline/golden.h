// The least of a function with one valley, by golden section. Internal to the room.
#pragma once

#include <utility>

namespace gabarit::driveline {

/// Where f is least between two places, and its value there; one call of f a round.
template <class F>
std::pair<double, double> goldenLeast(double low, double high, int rounds, F f) {
    constexpr double golden = 0.6180339887498949;
    double a = high - golden * (high - low), b = low + golden * (high - low);
    double fa = f(a), fb = f(b);
    for (int i = 0; i < rounds; ++i) {
        if (fa < fb) {
            high = b;
            b = a;
            fb = fa;
            a = high - golden * (high - low);
            fa = f(a);
        } else {
            low = a;
            a = b;
            fa = fb;
            b = low + golden * (high - low);
            fb = f(b);
        }
    }
    return fa < fb ? std::make_pair(a, fa) : std::make_pair(b, fb);
}

} // namespace gabarit::driveline

// Over two freedoms of how the unit hangs: where it fits, by how much, and what binds.
#pragma once

#include "fit/free_all.h"

namespace gabarit::fit {

/// One of the two freedoms that a map goes over.
struct MapAxis {
    Freedom of = Freedom::Along;
    double low = 0, high = 0; ///< mm or degrees from where it hangs
};

struct MapPoint {
    bool told = false;           ///< false: not looked at yet
    Shift by{};                  ///< with the other freedoms as they are best, when they are freed
    double short_mm = 0;         ///< the most that any gap lacks, as the sieve has it; below zero: the least to spare
    int binding = -1;            ///< which of the map's pairs that is; −1: none within what is looked at
    std::optional<bool> besides; ///< whether all else that is held against the place is go; nothing: not asked
};

struct FitMap {
    bool complete = false;
    std::string reason; ///< why there is none; empty otherwise
    MapAxis across, up;
    int columns = 0, rows = 0;
    bool freed = false;           ///< the other freedoms are freed at each point; else held as they are
    std::vector<MapPoint> points; ///< from low to high, row by row, the lowest first
    std::vector<Binding> pairs;   ///< what binds anywhere; short_mm says nothing
    bool open = false;            ///< as of FreeReport

    const MapPoint& at(int column, int row) const { return points[static_cast<std::size_t>(row * columns + column)]; }
    /// The shift along an axis of a column or row.
    double acrossOf(int column) const;
    double upOf(int row) const;
    /// The point whose place is nearest to a shift along both.
    std::pair<int, int> nearest(double across, double up) const;
};

struct MapOptions {
    MapAxis across{Freedom::Along, -60, 60}, up{Freedom::Up, -60, 60};
    int columns = 33, rows = 33; ///< ≥ 2
    bool freed = false;
    FreeLimits limits;                                                   ///< of the others, when they are freed
    double spare_mm = 30;                                                ///< more than that to spare is told as that
    const Sieves* sieves = nullptr;                                      ///< as of FreeOptions
    std::function<std::vector<Beside>(const model::Placement&)> besides; ///< as of FreeOptions
    int threads = 2;
    StopToken stop;
    /// What is known so far, every few points and coarse before fine; may be empty. Called on any thread, one at a
    /// time.
    std::function<void(const FitMap& so_far)> show;
};

/// Coarse to fine: every eighth point first, then those between. Two of one freedom, or a freedom without a range, have
/// no map, and the reason is said.
FitMap fitMap(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
              const model::RuleBook& book, const MapOptions& options);

} // namespace gabarit::fit

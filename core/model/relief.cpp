#include "model/relief.h"

#include "quantity/number.h"

#include <algorithm>
#include <iterator>

namespace gabarit::model {

std::vector<Pocket> pocketsOf(const Relief& relief, const BodyId& body) {
    std::vector<Pocket> out;
    std::copy_if(relief.pockets.begin(), relief.pockets.end(), std::back_inserter(out),
                 [&body](const Pocket& pocket) { return pocket.body == body && !pocket.set_aside; });
    return out;
}

std::string pocketKey(const Pocket& p) {
    std::string key =
        " pocket " + std::to_string(static_cast<int>(p.form)) + (p.open ? " open" : "") + " " + p.material;
    const auto put = [&key](double v) { key += " " + quantity::exactNumber(v); };
    for (const Eigen::Vector3d& v : {p.at_mm, p.into, p.along})
        for (int i = 0; i < 3; ++i) put(v[i]);
    for (const double v :
         {p.length_mm, p.width_mm, p.depth_mm, p.flank_deg, p.corner_mm, p.plate_mm, p.doubler_mm, p.doubler_over_mm})
        put(v);
    return key;
}

} // namespace gabarit::model

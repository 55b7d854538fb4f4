#include "make/assumed.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace gabarit::make {

std::vector<AssumedLine> assumed(const model::Project& project, const placed::Scene& scene,
                                 const fit::ClearanceReport& clearance) {
    std::map<model::BodyRef, const fit::PairGap*> tightest;
    for (const fit::PairGap& pair : clearance.pairs) {
        if (!pair.limit || (pair.beyond() && (!pair.moment() || pair.moment()->beyond()))) continue;
        for (const model::BodyRef& ref : {pair.a, pair.b}) {
            const fit::PairGap*& least = tightest[ref];
            if (!least || pair.decidingMargin_mm() < least->decidingMargin_mm()) least = &pair;
        }
    }
    std::vector<AssumedLine> out;
    for (const placed::PlacedBody& body : scene.bodies) {
        const model::Body* whole = model::findBody(project, body.ref);
        const bool said = whole && whole->measured.method == model::Method::Assumed;
        if (!whole || (!said && whole->accuracy_mm)) continue;
        AssumedLine line{body.ref, whole->name, said, whole->accuracy_mm, std::nullopt, "", std::nullopt};
        if (const auto found = tightest.find(body.ref); found != tightest.end()) {
            const fit::PairGap& pair = *found->second;
            line.margin_mm = pair.decidingMargin_mm();
            line.against = pair.a == body.ref ? pair.name_b : pair.name_a;
            if (line.accuracy_mm) line.left_mm = *line.margin_mm - *line.accuracy_mm;
        }
        out.push_back(std::move(line));
    }
    const auto rank = [](const AssumedLine& line) {
        const int group = !line.margin_mm ? 2 : !line.accuracy_mm ? 0 : 1;
        return std::tuple(group, line.left_mm.value_or(line.margin_mm.value_or(0)), line.name);
    };
    std::stable_sort(out.begin(), out.end(),
                     [&](const AssumedLine& x, const AssumedLine& y) { return rank(x) < rank(y); });
    return out;
}

} // namespace gabarit::make

#include "model/holds.h"

#include "model/shape_spec.h"

#include <algorithm>
#include <cmath>

namespace gabarit::model {
namespace {

constexpr double grain = 1e3; // marks tell a thousandth apart: less comes of reckoning, not of a hand

} // namespace

Marker& Marker::operator<<(const std::string& text) {
    for (const char c : text) eat(static_cast<unsigned char>(c));
    eat(0);
    return *this;
}
Marker& Marker::operator<<(double value) { return *this << std::to_string(std::llround(value * grain)); }
Marker& Marker::operator<<(const std::optional<double>& value) {
    return value ? *this << *value : *this << std::string("-");
}
std::string Marker::text() const {
    static const char* const digits = "0123456789abcdef";
    std::string out;
    for (int shift = 60; shift >= 0; shift -= 4) out += digits[(hash_ >> shift) & 15];
    return out;
}
void Marker::eat(unsigned char c) { hash_ = (hash_ ^ c) * 1099511628211ull; }

HoldBasis basis(const std::string& item, const std::string& name, const Marker& mark) {
    return {item, name, mark.text(), {}};
}

HoldBasis basisOf(const BodyRef& ref, const Body& body) {
    Marker m;
    m << shapeKey(body.shape) << body.position_mm << body.angles.yaw_deg << body.angles.pitch_deg
      << body.angles.roll_deg << body.shift_mm;
    return basis(ref.text(), body.name, m);
}

const HoldSigned* signedOf(const std::vector<HoldSigned>& holds, Hold hold) {
    for (const HoldSigned& s : holds)
        if (s.hold == hold) return &s;
    return nullptr;
}

std::vector<HoldState> holdStates(const std::vector<HoldSigned>& holds,
                                  const std::function<std::vector<HoldBasis>(Hold)>& basis_now) {
    std::vector<HoldState> out;
    bool before = true;
    for (const Hold hold : holds_in_order) {
        HoldState state;
        state.hold = hold;
        if (const HoldSigned* its = signedOf(holds, hold)) {
            state.signed_off = true;
            state.date = its->date;
            state.who = its->who;
            const std::vector<HoldBasis> now = basis_now(hold);
            for (const HoldBasis& was : its->basis) {
                const auto same =
                    std::find_if(now.begin(), now.end(), [&was](const HoldBasis& b) { return b.item == was.item; });
                if (same == now.end())
                    state.changed.push_back(was.name + " is no longer there");
                else if (same->mark != was.mark)
                    state.changed.push_back(was.name + " has changed since");
            }
            for (const HoldBasis& is : now)
                if (std::none_of(its->basis.begin(), its->basis.end(),
                                 [&is](const HoldBasis& b) { return b.item == is.item; }))
                    state.changed.push_back(is.name + " has come since");
            if (!before) state.changed.push_back("a step before it is open again");
            state.holds = state.changed.empty();
        }
        before = before && state.holds;
        out.push_back(std::move(state));
    }
    return out;
}

void unsign(std::vector<HoldSigned>& holds, Hold hold) {
    holds.erase(std::remove_if(holds.begin(), holds.end(), [hold](const HoldSigned& s) { return s.hold >= hold; }),
                holds.end());
}

void sign(std::vector<HoldSigned>& holds, HoldSigned with) {
    unsign(holds, with.hold);
    holds.push_back(std::move(with));
}

} // namespace gabarit::model

// Hold points: steps that are signed in their order, and what each signature was given for.
#pragma once

#include "describe/visitor.h"
#include "model/body.h"

#include <array>
#include <functional>
#include <string>
#include <vector>

namespace gabarit::model {

/// The order in which metal becomes final.
enum class Hold { Tacked, TestFitted, Welded, FittedAgain, Painted };
/// What a signature was given for: a part, and what it was like then.
struct HoldBasis {
    std::string item; ///< "donor/alternator", "placement", "isolator", "bracket"
    std::string name;
    std::string mark; ///< differs when it has changed
    Extras extras;
};
/// One step signed.
struct HoldSigned {
    Hold hold = Hold::Tacked;
    std::string date; ///< ISO 8601
    std::string who;
    std::string note;
    std::vector<HoldBasis> basis;
    Extras extras;
};

constexpr std::array<Hold, 5> holds_in_order{Hold::Tacked, Hold::TestFitted, Hold::Welded, Hold::FittedAgain,
                                             Hold::Painted};

/// Tells states of a thing apart: what is put in, to a thousandth, as 64 bits (FNV-1a; keeps no secret).
class Marker {
public:
    Marker& operator<<(const std::string& text);
    Marker& operator<<(double value);
    Marker& operator<<(const std::optional<double>& value);
    template <int N>
    Marker& operator<<(const Eigen::Matrix<double, N, 1>& v) {
        for (int i = 0; i < N; ++i) *this << v[i];
        return *this;
    }
    std::string text() const;

private:
    void eat(unsigned char c);
    unsigned long long hash_ = 14695981039346656037ull;
};
/// What an item was like, for a signature's basis.
HoldBasis basis(const std::string& item, const std::string& name, const Marker& mark);
/// Of a body of that owner: its shape and place.
HoldBasis basisOf(const BodyRef& ref, const Body& body);

struct HoldState {
    Hold hold = Hold::Tacked;
    bool signed_off = false; ///< it was signed, whatever came since
    bool holds = false;      ///< it was, and nothing it was signed for has changed
    std::string date;
    std::string who;
    std::vector<std::string> changed; ///< in words: "Alternator has changed since"
};
/// All steps in order, against what they would be signed for now. A step does not hold while one before it does not.
std::vector<HoldState> holdStates(const std::vector<HoldSigned>& holds,
                                  const std::function<std::vector<HoldBasis>(Hold)>& basis_now);
/// The signature of a step; null when there is none.
const HoldSigned* signedOf(const std::vector<HoldSigned>& holds, Hold hold);
/// Signs a step in place of what stood for it and all that follow.
void sign(std::vector<HoldSigned>& holds, HoldSigned with);
/// Takes a step's signature back, and of all that follow it.
void unsign(std::vector<HoldSigned>& holds, Hold hold);

const describe::Words& words(Hold);
void describe(describe::Visitor& v, HoldSigned& hold);

} // namespace gabarit::model

#include "ledger/section/money.h"

namespace gabarit::ledger {
namespace {

constexpr double most_money = 1e12;

} // namespace

void describe(describe::Visitor& v, Money& money) {
    v.type("money");
    v.text(describe::Member("currency").said("Currency"), money.currency);
    v.number(describe::Member("budget").said("Budget").ofMoney(-most_money, most_money), money.budget);
    v.extras(money.extras);
}

model::SectionKind section() { return model::sectionKind<Money>("money", "", 50); }

} // namespace gabarit::ledger

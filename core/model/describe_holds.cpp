// The members of what is signed.
#include "model/describe.h"
#include "model/holds.h"

namespace gabarit::model {

using describe::Member;
using describe::Target;
using describe::Visitor;
using describe::Words;

const Words& words(Hold) {
    static const Words all{
        "tacked", {"test_fitted", "test-fitted"}, "welded", {"fitted_again", "fitted again after welding"}, "painted"};
    return all;
}

void describe(Visitor& v, HoldSigned& h) {
    v.type("hold");
    v.choice(Member("hold").must(), h.hold);
    v.text(Member("date"), h.date);
    v.text(Member("who"), h.who);
    v.text(Member("note").note(), h.note);
    v.list(Member("basis", "each thing it was signed for").each("basis"), h.basis,
           [](Visitor& inner, HoldBasis& basis) {
               inner.type("basis");
               inner.text(Member("item").names(Target::ItemPath).must(), basis.item);
               inner.text(Member("name"), basis.name);
               inner.text(Member("mark", "differs when that has changed"), basis.mark);
               inner.extras(basis.extras);
           });
    v.extras(h.extras);
}

} // namespace gabarit::model

// A study that takes the meshes of solids from the tests' own cache: making them is not what is tested there.
#pragma once

#include "kept/kept_meshes.h"
#include "store/rule_book.h"
#include "study/study.h"

namespace gabarit::tests {

struct KeptStudy : study::Study {
    KeptStudy() : Study(store::defaultRuleBook()) { colliders().keepWith(kept::usual()); }
};

} // namespace gabarit::tests

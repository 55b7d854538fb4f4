// What takes the meshes of solids from the tests' own cache: making them is not what is tested there.
#pragma once

#include "kept/kept_meshes.h"
#include "proximity/collider_cache.h"

namespace gabarit::tests {

struct KeptColliders : proximity::ColliderCache {
    KeptColliders() { keepWith(kept::usual()); }
};

} // namespace gabarit::tests
